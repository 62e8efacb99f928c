"""Temperature and vapour pressure through a face, with the planes where water gathers.

EN ISO 13788:2012, clause 6: saturation follows the temperatures; vapour pressure is a string
pulled tight below the saturation curve between the two airs, over the vapour resistance. Where
the string touches the curve, water condenses; several planes may do so at once.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import log1p

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.climate.air import saturation_pressure_pa
from calveth.core.heat.slab import INNER_FILM_M2K_W, Direction, layer_resistances_m2k_w
from calveth.core.materials import Layer, Material

FloatArray = NDArray[np.float64]

# Thick layers are cut so that the saturation curve between two nodes is nearly straight.
_THICKEST_M2K_W = 0.25


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Profile:
    """A face from the inside (node 0) to the outside (last node), arrays [K].

    Attributes
    ----------
    depth_m : array
        Distance from the inner surface [m].
    vapour_depth_m : array
        Σ μ·d from the inner surface [m].
    temperature_degc, saturation_pa, vapour_pressure_pa : array
        At the nodes.
    condensing_g_m2_day : array
        Water gathering at each node [g/(m²·day)]; zero where it is dry.
    layer : array of int
        Index of the layer (in the stack, outermost 0) that begins at the node, -1 at the end.
    """

    depth_m: FloatArray
    vapour_depth_m: FloatArray
    temperature_degc: FloatArray
    saturation_pa: FloatArray
    vapour_pressure_pa: FloatArray
    condensing_g_m2_day: FloatArray
    layer: NDArray[np.int_]


def face_profile(
    stack: Sequence[Layer],
    materials: Mapping[str, Material],
    direction: Direction,
    *,
    inside_degc: float,
    inside_pa: float,
    outside_degc: float,
    outside_pa: float,
    outer_film_m2k_w: float = c.RSE.value,
    inner_radius_m: float | None = None,
) -> Profile:
    """Return the profile of a face between two airs: plane, or round about ``inner_radius_m``.

    In a round wall resistances are those of nested cylinders per inner area, and the outer film
    is given per outer area.

    The inner vapour pressure is limited to saturation at the inner surface: what condenses on the
    surface does not enter the face.
    """
    film = INNER_FILM_M2K_W[direction]
    resistances = layer_resistances_m2k_w(stack, materials, direction)
    depth, vapour, thermal, owner = [0.0], [0.0], [film], []
    radius = inner_radius_m
    for index in range(len(stack) - 1, -1, -1):
        layer, material = stack[index], materials[stack[index].material]
        pieces = max(1, int(np.ceil(resistances[index] / _THICKEST_M2K_W)))
        factor = 1.0 if material.kind == "air gap" else material.vapour_resistance_factor
        for _ in range(pieces):
            owner.append(index)
            step = layer.thickness_m / pieces
            # A ring of a trunk is wider outside than inside: its resistance per inner area falls.
            narrow = 1.0 if radius is None else radius * log1p(step / (radius + depth[-1])) / step
            depth.append(depth[-1] + step)
            vapour.append(vapour[-1] + step * factor * narrow)
            thermal.append(thermal[-1] + resistances[index] / pieces * narrow)
    ratio = 1.0 if radius is None else radius / (radius + depth[-1])
    whole = thermal[-1] + outer_film_m2k_w * ratio
    temperature = inside_degc + (outside_degc - inside_degc) * np.array(thermal) / whole
    saturation = saturation_pressure_pa(temperature)
    x = np.array(vapour)
    first = min(inside_pa, float(saturation[0]))
    last = min(outside_pa, float(saturation[-1]))
    ceiling = saturation.copy()
    ceiling[0], ceiling[-1] = first, last
    pressure = _tight_string(x, ceiling)
    flux = -c.VAPOUR_PERMEABILITY_AIR.value * np.diff(pressure) / np.diff(x)
    gathered = np.zeros_like(x)
    gathered[1:-1] = np.maximum(flux[:-1] - flux[1:], 0.0) * 8.64e7
    # Rounding of the string is not water.
    gathered[gathered < 1e-9 * max(1.0, float(np.max(np.abs(flux))) * 8.64e7)] = 0.0
    return Profile(
        depth_m=np.array(depth),
        vapour_depth_m=x,
        temperature_degc=temperature,
        saturation_pa=saturation,
        vapour_pressure_pa=pressure,
        condensing_g_m2_day=gathered,
        layer=np.array([*owner, -1]),
    )


def _tight_string(x: FloatArray, ceiling: FloatArray) -> FloatArray:
    """Return the greatest convex curve below ``ceiling`` at nodes ``x`` (its lower hull)."""
    hull: list[int] = []
    for i in range(x.size):
        while len(hull) >= 2:
            a, b = hull[-2], hull[-1]
            # Node b lies on or above the straight line from a to i: it does not hold the string.
            line = ceiling[a] + (ceiling[i] - ceiling[a]) * (x[b] - x[a]) / (x[i] - x[a])
            if ceiling[b] < line:
                break
            hull.pop()
        hull.append(i)
    result: FloatArray = np.interp(x, x[hull], ceiling[hull])
    return result
