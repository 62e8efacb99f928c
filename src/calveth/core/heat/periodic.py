"""A face under a daily sine, EN ISO 13786:2017."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from math import pi

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.heat.slab import INNER_FILM_M2K_W, Direction, plane_layers
from calveth.core.materials import Layer, Material

# A layer that resists less holds no swing back; it would divide by nearly nothing [m²·K/W].
_NO_RESISTANCE = 1e-4

ComplexArray = NDArray[np.complex128]

DAY_S = 86400.0


def layer_matrix(
    thickness_m: float,
    conductivity_w_mk: float,
    density_kg_m3: float,
    specific_heat_j_kgk: float,
    period_s: float = DAY_S,
) -> ComplexArray:
    """Return the heat transfer matrix [2, 2] of a layer, EN ISO 13786:2017, 7.2.2.

    Parameters
    ----------
    thickness_m : float
        Of the layer [m].
    conductivity_w_mk : float
        λ [W/(m·K)].
    density_kg_m3 : float
        ρ [kg/m³].
    specific_heat_j_kgk : float
        c [J/(kg·K)].
    period_s : float
        Of the swing, a day unless told [s].
    """
    depth = np.sqrt(conductivity_w_mk * period_s / (pi * density_kg_m3 * specific_heat_j_kgk))
    x = (1 + 1j) * thickness_m / depth
    z12 = -depth / conductivity_w_mk * np.sinh(x) / (1 + 1j)
    z21 = -conductivity_w_mk / depth * (1 + 1j) * np.sinh(x)
    return np.array([[np.cosh(x), z12], [z21, np.cosh(x)]])


def resistance_matrix(resistance_m2k_w: float) -> ComplexArray:
    """Return the matrix [2, 2] of a film or an air gap, which store nothing.

    Parameters
    ----------
    resistance_m2k_w : float
        Of the film or gap [m²·K/W].
    """
    return np.array([[1.0, -resistance_m2k_w], [0.0, 1.0]], dtype=complex)


def face_matrix(
    stack: Sequence[Layer],
    materials: Mapping[str, Material],
    direction: Direction,
    period_s: float = DAY_S,
) -> ComplexArray:
    """Return the matrix [2, 2] of a face from the air inside to the air outside.

    Parameters
    ----------
    stack : sequence of Layer
        From the outside in.
    materials : mapping
        Materials by their ids, as they are in the season.
    direction : str
        Which way the heat flows: ``up``, ``down`` or ``horizontal``.
    period_s : float
        Of the swing, a day unless told [s].
    """
    layers = plane_layers(stack, materials, direction)
    matrix = resistance_matrix(INNER_FILM_M2K_W[direction])
    for layer, resistance in reversed(list(zip(stack, layers.resistances_m2k_w, strict=True))):
        material = materials[layer.material]
        if material.kind == "air gap" or resistance < _NO_RESISTANCE:
            part = resistance_matrix(resistance)
        else:
            part = layer_matrix(
                layer.thickness_m,
                layer.thickness_m / resistance,
                material.density_kg_m3,
                material.specific_heat_j_kgk,
                period_s,
            )
        matrix = part @ matrix
    return resistance_matrix(float(layers.outer_film_m2k_w(c.RSE.value))) @ matrix


def transmittance_and_admittance(matrix: ComplexArray) -> tuple[complex, complex]:
    """Return periodic transmittance Y12 = -1/Z12 and admittance Y11 = -Z11/Z12 [W/(m²·K)].

    Parameters
    ----------
    matrix : complex array [2, 2]
        Heat transfer matrix of a face, complex.
    """
    return complex(-1 / matrix[0, 1]), complex(-matrix[0, 0] / matrix[0, 1])
