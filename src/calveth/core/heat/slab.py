"""One-dimensional heat through a face, EN ISO 6946."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import log
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
    """Return the black-body radiative coefficient hr0 = 4·σ·T³ [W/(m²·K)], EN ISO 6946, C.4."""
    kelvin = np.asarray(temperature_degc, dtype=float) + c.KELVIN_AT_0_DEGC.value
    result: FloatArray = 4.0 * c.STEFAN_BOLTZMANN.value * kelvin**3
    return result


def outer_film_m2k_w(wind_m_s: ArrayLike, outside_degc: ArrayLike) -> FloatArray:
    """Return the outer surface resistance [m²·K/W] for a wind [m/s], EN ISO 6946, annex C.

    he = 4 + 4·v + ε·hr0 with ε = 0.9; the table value 0.04 is that of 4 m/s at 0 °C.
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

    Raises
    ------
    DomainError
        For gaps over 300 mm, which are rooms rather than layers.
    """
    if thickness_m > 0.3:
        raise DomainError(
            "air gap", thickness_m, "m is more than the 0.3 m EN ISO 6946 covers; make it thinner"
        )
    by_conduction = 0.025 / thickness_m
    if direction == "horizontal":
        ha = max(1.25, by_conduction)
    elif direction == "up":
        ha = max(1.95, by_conduction)
    else:
        ha = max(0.12 * thickness_m**-0.44, by_conduction)
    hr = float(radiative_coefficient_w_m2k(mean_degc)) / (1 / emissivity_1 + 1 / emissivity_2 - 1)
    return 1.0 / (ha + hr)


def layer_resistances_m2k_w(
    stack: Sequence[Layer], materials: Mapping[str, Material], direction: Direction
) -> tuple[float, ...]:
    """Return the resistance of every layer of a plane face [m²·K/W], in the order of the stack.

    An air gap looks at the emissivity of the layers on its two sides.
    """
    resistances = []
    for index, layer in enumerate(stack):
        material = materials[layer.material]
        if material.kind == "air gap":
            outer = materials[stack[index - 1].material] if index else material
            inner = materials[stack[index + 1].material] if index + 1 < len(stack) else material
            resistances.append(
                air_gap_resistance_m2k_w(
                    layer.thickness_m, direction, outer.emissivity, inner.emissivity
                )
            )
        else:
            resistances.append(layer.thickness_m / material.conductivity_w_mk)
    return tuple(resistances)


def transmittance_w_m2k(layers_m2k_w: Sequence[float], direction: Direction) -> float:
    """Return U [W/(m²·K)] of plane layers with the table films of EN ISO 6946."""
    return 1.0 / (INNER_FILM_M2K_W[direction] + sum(layers_m2k_w) + c.RSE.value)


def cylinder_resistance_m2k_w(
    inner_radius_m: float, outer_radius_m: float, conductivity_w_mk: float
) -> float:
    """Return the resistance of a cylindrical layer per inner area r1·ln(r2/r1)/λ [m²·K/W].

    Fourier's law for a hollow cylinder, Q/H = 2·π·λ·ΔT/ln(r2/r1). The inner area is that of
    ``inner_radius_m``.
    """
    return inner_radius_m * log(outer_radius_m / inner_radius_m) / conductivity_w_mk
