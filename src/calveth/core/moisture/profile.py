"""Temperature and vapour pressure through a face, with the planes where water gathers.

EN ISO 13788:2012, clause 6: saturation follows the temperatures; vapour pressure is a string
pulled tight below the saturation curve between the two airs, over the vapour resistance. Where
the string touches the curve, water condenses; several planes may do so at once.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import log1p

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.climate.air import saturation_pressure_pa
from calveth.core.heat.slab import INNER_FILM_M2K_W, Direction, plane_layers, vapour_layers_m
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


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class FaceNodes:
    """A face cut into nodes from the inside (0) to the outside, arrays [K].

    ``depth_m``, ``vapour_depth_m`` (Σ μ·d), ``thermal_m2k_w`` (from the air inside, film included)
    and ``layer`` as in `Profile`; ``outer_ratio`` turns the outer film to the inner area.
    """

    depth_m: FloatArray
    vapour_depth_m: FloatArray
    thermal_m2k_w: FloatArray
    layer: NDArray[np.int_]
    outer_ratio: float
    outer_share: float

    def temperature_degc(
        self, inside_degc: float, outside_degc: float, outer_film_m2k_w: float
    ) -> FloatArray:
        """Return the temperatures of the nodes [K] [°C] between two airs."""
        still = (1 - self.outer_share) * c.RSI_HORIZONTAL.value
        film = self.outer_share * outer_film_m2k_w + still
        total = self.thermal_m2k_w[-1] + film * self.outer_ratio
        result: FloatArray = inside_degc + (outside_degc - inside_degc) * self.thermal_m2k_w / total
        return result


def face_nodes(
    stack: Sequence[Layer],
    materials: Mapping[str, Material],
    direction: Direction,
    inner_radius_m: float | None = None,
) -> FaceNodes:
    """Return the nodes of a face: plane, or round about ``inner_radius_m``.

    In a round wall resistances are those of nested cylinders per inner area. Vapour resistance is
    that of the dry cup, the safe side for what gathers inside.
    """
    layers = plane_layers(stack, materials, direction)
    sds = vapour_layers_m(stack, materials, layers)
    depth, vapour, owner = [0.0], [0.0], []
    thermal = [INNER_FILM_M2K_W[direction]]
    radius = inner_radius_m
    for index in range(len(stack) - 1, -1, -1):
        layer = stack[index]
        resistance = layers.resistances_m2k_w[index]
        pieces = max(1, int(np.ceil(resistance / _THICKEST_M2K_W)))
        sd = sds[index]
        for _ in range(pieces):
            owner.append(index)
            step = layer.thickness_m / pieces
            # A ring of a trunk is wider outside than inside: its resistance per inner area falls.
            narrow = 1.0 if radius is None else radius * log1p(step / (radius + depth[-1])) / step
            depth.append(depth[-1] + step)
            vapour.append(vapour[-1] + sd / pieces * narrow)
            thermal.append(thermal[-1] + resistance / pieces * narrow)
    return FaceNodes(
        depth_m=np.array(depth),
        vapour_depth_m=np.array(vapour),
        thermal_m2k_w=np.array(thermal),
        layer=np.array([*owner, -1]),
        outer_ratio=1.0 if radius is None else radius / (radius + depth[-1]),
        outer_share=layers.outer_share,
    )


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

    The outer film is given per outer area. The inner vapour pressure is limited to saturation at
    the inner surface: what condenses on the surface does not enter the face.
    """
    nodes = face_nodes(stack, materials, direction, inner_radius_m)
    temperature = nodes.temperature_degc(inside_degc, outside_degc, outer_film_m2k_w)
    saturation = saturation_pressure_pa(temperature)
    pressure = vapour_string(nodes.vapour_depth_m, saturation, inside_pa, outside_pa)
    return Profile(
        depth_m=nodes.depth_m,
        vapour_depth_m=nodes.vapour_depth_m,
        temperature_degc=temperature,
        saturation_pa=saturation,
        vapour_pressure_pa=pressure,
        condensing_g_m2_day=np.maximum(gathering_g_m2_day(nodes.vapour_depth_m, pressure), 0.0),
        layer=nodes.layer,
    )


def vapour_string(
    x: FloatArray,
    saturation_pa: FloatArray,
    inside_pa: float,
    outside_pa: float,
    wet: NDArray[np.bool_] | None = None,
) -> FloatArray:
    """Return the vapour pressure [K] [Pa]: a string pulled tight under the saturation curve.

    At ``wet`` nodes, which hold water of months before, it is fixed to saturation.

    Parameters
    ----------
    x : array [K]
        Vapour resistance from the inside to each node, as still air [m].
    saturation_pa : array [K]
        Saturation pressure at the nodes [Pa].
    inside_pa : float
        Vapour pressure inside [Pa].
    outside_pa : float
        Vapour pressure outside [Pa].
    wet : mask [K] or None
        Nodes that hold water.

    >>> x, curve = np.array([0.0, 1.0, 2.0]), np.array([2000.0, 800.0, 600.0])
    >>> vapour_string(x, curve, 1500.0, 500.0).tolist()  # pulled down to the curve in the middle
    [1500.0, 800.0, 500.0]
    """
    ceiling = saturation_pa.copy()
    ceiling[0] = min(inside_pa, float(saturation_pa[0]))
    ceiling[-1] = min(outside_pa, float(saturation_pa[-1]))
    if wet is None or not np.any(wet):
        return _tight_string(x, ceiling)
    last = x.size - 1
    ends = [0, *(int(k) for k in np.flatnonzero(wet) if 0 < k < last), last]
    pressure = ceiling.copy()
    for a, b in pairwise(ends):
        pressure[a : b + 1] = _tight_string(x[a : b + 1], ceiling[a : b + 1])
    return pressure


def gathering_g_m2_day(x: FloatArray, pressure_pa: FloatArray) -> FloatArray:
    """Return the water that stays at each node [K] [g/(m²·day)]; negative where it dries.

    Parameters
    ----------
    x : array [K]
        Vapour resistance from the inside to each node, as still air [m].
    pressure_pa : array [K]
        Vapour pressure at the nodes [Pa].
    """
    flux = -c.VAPOUR_PERMEABILITY_AIR.value * np.diff(pressure_pa) / np.diff(x)
    gathered = np.zeros_like(x)
    gathered[1:-1] = (flux[:-1] - flux[1:]) * 8.64e7
    # Rounding of the string is not water.
    smallest = 1e-9 * max(1.0, float(np.max(np.abs(flux))) * 8.64e7)
    gathered[np.abs(gathered) < smallest] = 0.0
    return gathered


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
