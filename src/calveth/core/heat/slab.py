"""One-dimensional heat through a face, EN ISO 6946."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import product
from math import inf, log
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray

from calveth.core import constants as c
from calveth.core.errors import DomainError
from calveth.core.materials import Layer, Material

FloatArray = NDArray[np.float64]
Direction = Literal["up", "horizontal", "down"]

INNER_FILM_M2K_W: dict[Direction, float] = {
    "up": c.RSI_UP.value,
    "horizontal": c.RSI_HORIZONTAL.value,
    "down": c.RSI_DOWN.value,
}
"""Inner surface resistance by direction of heat flow, EN ISO 6946, table 7."""


def radiative_coefficient_w_m2k(temperature_degc: ArrayLike) -> FloatArray:
    """Return the black-body radiative coefficient hr0 = 4·σ·T³ [W/(m²·K)], EN ISO 6946, C.4.

    Parameters
    ----------
    temperature_degc : float or array
        Of the air or surface, any shape [°C].
    """
    kelvin = np.asarray(temperature_degc, dtype=float) + c.KELVIN_AT_0_DEGC.value
    result: FloatArray = 4.0 * c.STEFAN_BOLTZMANN.value * kelvin**3
    return result


def outer_film_m2k_w(wind_m_s: ArrayLike, outside_degc: ArrayLike) -> FloatArray:
    """Return the outer surface resistance [m²·K/W] for a wind [m/s], EN ISO 6946, annex C.

    he = 4 + 4·v + ε·hr0 with ε = 0.9; the table value 0.04 is that of 4 m/s at 0 °C.

    Parameters
    ----------
    wind_m_s : float or array
        Mean wind at the hive, any shape [m/s].
    outside_degc : float or array
        Of the outside air, shape of the wind [°C].
    """
    convection = 4.0 + 4.0 * np.asarray(wind_m_s, dtype=float)
    radiation = c.EMISSIVITY_DULL.value * radiative_coefficient_w_m2k(outside_degc)
    result: FloatArray = 1.0 / (convection + radiation)
    return result


def air_gap_resistance_m2k_w(
    thickness_m: float,
    direction: Direction,
    emissivity_1: float = 0.9,
    emissivity_2: float = 0.9,
    mean_degc: float = 10.0,
) -> float:
    """Return the resistance [m²·K/W] of a closed air layer, EN ISO 6946:2017, annex D.

    R = 1/(ha + hr) with ha by thickness and direction and hr = hr0/(1/ε1 + 1/ε2 - 1); valid up
    to 300 mm and for 5 K across the gap.

    Parameters
    ----------
    thickness_m : float
        Of the layer [m].
    direction : str
        Which way the heat flows: ``up``, ``down`` or ``horizontal``.
    emissivity_1 : float
        Of the face at one side, long-wave [-].
    emissivity_2 : float
        Of the face at the other side [-].
    mean_degc : float
        Mean temperature of the gap [°C].

    Raises
    ------
    DomainError
        For gaps over 300 mm, which are rooms rather than layers.

    >>> round(float(air_gap_resistance_m2k_w(0.02, "horizontal")), 2)  # 0.18 in EN ISO 6946
    0.18
    """
    if thickness_m > 0.3:
        raise DomainError(
            "air gap", thickness_m, "m is more than the 0.3 m EN ISO 6946 covers; make it thinner"
        )
    # In a thin gap the air stands still and only conducts; the fixed values are where it turns.
    by_conduction = 0.025 / thickness_m
    if direction == "horizontal":
        ha = max(1.25, by_conduction)
    elif direction == "up":
        ha = max(1.95, by_conduction)
    else:
        ha = max(0.12 * thickness_m**-0.44, by_conduction)
    hr = float(radiative_coefficient_w_m2k(mean_degc)) / (1 / emissivity_1 + 1 / emissivity_2 - 1)
    return 1.0 / (ha + hr)


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaneLayers:
    """Layers of a plane face, outermost first.

    Attributes
    ----------
    resistances_m2k_w : tuple of float
        Of every layer [m²·K/W]; with mixed layers they add up to the combined value of
        EN ISO 6946, with a ventilated gap what is outside of it counts in part or not at all.
    outer_share : float
        Share of the outer film that counts: 1, or less where outside air washes a gap.
    closed_shares : tuple of float
        Share of each layer that counts, for vapour as for heat: 1 inside of every open gap.
    """

    resistances_m2k_w: tuple[float, ...]
    outer_share: float
    closed_shares: tuple[float, ...] = ()

    def outer_film_m2k_w(self, rse_m2k_w: ArrayLike = c.RSE.value) -> FloatArray:
        """Return the outer film [m²·K/W] that counts for an outer film of the free face.

        Behind a well ventilated gap the air is still: Rsi takes the place of Rse (6.9.4).
        """
        rse = np.asarray(rse_m2k_w, dtype=float)
        still: FloatArray = self.outer_share * rse + (1 - self.outer_share) * c.RSI_HORIZONTAL.value
        return still


def plane_layers(
    stack: Sequence[Layer], materials: Mapping[str, Material], direction: Direction
) -> PlaneLayers:
    """Return the layers of a face: gaps, mixed layers and ventilated gaps, EN ISO 6946:2017.

    An air gap looks at the emissivity of its two neighbours (annex D). Mixed layers: mean of
    upper and lower bound (6.7.2). Gaps open to the outside: up to 500 mm² a metre as closed, from
    1500 mm² on nothing outside of them counts, between the two straight (6.9).

    Parameters
    ----------
    stack : sequence of Layer
        From the outside in.
    materials : mapping
        Materials by their ids, as they are in the season.
    direction : str
        Which way the heat flows: ``up``, ``down`` or ``horizontal``.
    """
    first = [
        _one_resistance(stack, index, layer.material, materials, direction)
        for index, layer in enumerate(stack)
    ]
    mixed = {
        index: _one_resistance(stack, index, layer.mixed_with, materials, direction)
        for index, layer in enumerate(stack)
        if layer.mixed_share > 0
    }
    resistances = _mixed(stack, first, mixed, direction) if mixed else first
    return _ventilated(stack, materials, resistances)


def vapour_layers_m(
    stack: Sequence[Layer], materials: Mapping[str, Material], layers: PlaneLayers
) -> list[float]:
    """Return the vapour resistance of every layer as still air [m].

    What lies outside of a gap that is open to the outside, even slightly, keeps no vapour back
    (EN ISO 13788:2012, 6.1 takes well ventilated gaps so; for slight ones it is our estimate). A
    mixed layer is as tight as its two materials side by side.

    Parameters
    ----------
    stack : sequence of Layer
        From the outside in.
    materials : mapping
        Materials by their ids, as they are in the season.
    layers : PlaneLayers
        The same layers with their resistances.
    """
    resistances = []
    for layer, share in zip(stack, layers.closed_shares, strict=True):
        sd = materials[layer.material].sd_m(layer.thickness_m)
        if layer.mixed_share > 0:
            other = materials[layer.mixed_with].sd_m(layer.thickness_m)
            sd = 1 / ((1 - layer.mixed_share) / sd + layer.mixed_share / other)
        # Never nought: sd is divided by where vapour shares its way.
        resistances.append(max(sd, 1e-6) if share == 1.0 else 1e-6)
    return resistances


def gas_resistance_m(
    stack: Sequence[Layer], materials: Mapping[str, Material], direction: Direction
) -> float:
    """Return how CO2 and oxygen are held back, as still air [m]; infinite behind a closed layer.

    They pass open pores as vapour does (`Material.is_open_pored`), and nothing else: water goes
    through wood and foam by being dissolved in them, which other gases hardly are.

    Parameters
    ----------
    stack : sequence of Layer
        From the outside in.
    materials : mapping
        Materials by their ids, as they are in the season.
    direction : str
        Which way the heat flows: ``up``, ``down`` or ``horizontal``.
    """
    layers = plane_layers(stack, materials, direction)
    total = 0.0
    for layer, share in zip(stack, layers.closed_shares, strict=True):
        if share < 1.0:
            continue
        first, other = materials[layer.material], materials.get(layer.mixed_with)
        # Materials side by side add up by what they let through, layers by what they hold back.
        passes = (1 - layer.mixed_share) / first.sd_m(layer.thickness_m) * first.is_open_pored
        if layer.mixed_share > 0 and other is not None:
            passes += layer.mixed_share / other.sd_m(layer.thickness_m) * other.is_open_pored
        if passes <= 0.0:
            return inf
        total += 1 / passes
    return max(total, 1e-6)


def _one_resistance(
    stack: Sequence[Layer],
    index: int,
    key: str,
    materials: Mapping[str, Material],
    direction: Direction,
) -> float:
    material, layer = materials[key], stack[index]
    if material.kind != "air gap":
        return layer.thickness_m / material.conductivity_w_mk
    # A gap at the edge of the stack looks at another that is like itself.
    outer = materials[stack[index - 1].material] if index else material
    inner = materials[stack[index + 1].material] if index + 1 < len(stack) else material
    return air_gap_resistance_m2k_w(
        layer.thickness_m, direction, outer.emissivity, inner.emissivity
    )


def _mixed(
    stack: Sequence[Layer],
    first: Sequence[float],
    second: Mapping[int, float],
    direction: Direction,
) -> list[float]:
    """Return the resistances with mixed layers made up so that the whole is EN ISO 6946, 6.7.2."""
    films = INNER_FILM_M2K_W[direction] + c.RSE.value
    upper = 0.0
    # Upper bound: heat goes straight through, one way for every combination of the mixed layers.
    for choice in product(*((False, True) for _ in second)):
        share, total = 1.0, films + sum(first)
        for (index, other), taken in zip(second.items(), choice, strict=True):
            share *= stack[index].mixed_share if taken else 1 - stack[index].mixed_share
            total += other - first[index] if taken else 0.0
        upper += share / total
    # Lower bound: every layer is of one temperature across.
    lower = list(first)
    for index, other in second.items():
        part = stack[index].mixed_share
        lower[index] = 1 / ((1 - part) / first[index] + part / other)
    combined = (1 / upper + films + sum(lower)) / 2
    # The standard gives one value for the stack; the mixed layers alone take up the difference, so
    # that a profile through the others is still that of their material.
    mixed_sum = sum(lower[index] for index in second)
    factor = 1 + (combined - films - sum(lower)) / mixed_sum
    return [r * factor if index in second else r for index, r in enumerate(lower)]


def _ventilated(
    stack: Sequence[Layer], materials: Mapping[str, Material], resistances: Sequence[float]
) -> PlaneLayers:
    share = 1.0
    shares = [1.0] * len(stack)
    low, high = c.VENTILATED_FROM.value, c.VENTILATED_WELL.value
    for index, layer in enumerate(stack):
        if materials[layer.material].kind == "air gap" and layer.vents_m2_m > low:
            closed = max(0.0, (high - layer.vents_m2_m) / (high - low))
            # The gap itself and all outside of it; a second open gap counts on top of the first.
            shares[: index + 1] = [s * closed for s in shares[: index + 1]]
            share *= closed
    return PlaneLayers(
        resistances_m2k_w=tuple(r * s for r, s in zip(resistances, shares, strict=True)),
        outer_share=share,
        closed_shares=tuple(shares),
    )


def transmittance_w_m2k(layers_m2k_w: Sequence[float], direction: Direction) -> float:
    """Return U [W/(m²·K)] of plane layers with the table films of EN ISO 6946.

    Parameters
    ----------
    layers_m2k_w : sequence of float
        Resistances of the layers, without films [m²·K/W].
    direction : str
        Which way the heat flows: ``up``, ``down`` or ``horizontal``.
    """
    return 1.0 / (INNER_FILM_M2K_W[direction] + sum(layers_m2k_w) + c.RSE.value)


def cylinder_resistance_m2k_w(
    inner_radius_m: float, outer_radius_m: float, conductivity_w_mk: float
) -> float:
    """Return the resistance of a cylindrical layer per inner area r1·ln(r2/r1)/λ [m²·K/W].

    Fourier's law for a hollow cylinder, Q/H = 2·π·λ·ΔT/ln(r2/r1). The inner area is that of
    ``inner_radius_m``.

    Parameters
    ----------
    inner_radius_m : float
        Of the hollow [m].
    outer_radius_m : float
        Of the outside [m].
    conductivity_w_mk : float
        λ [W/(m·K)].
    """
    return inner_radius_m * log(outer_radius_m / inner_radius_m) / conductivity_w_mk
