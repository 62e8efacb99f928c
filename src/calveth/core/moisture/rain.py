"""Rain on walls that drink it: painted against bare; an estimate.

Driving rain on the weather side follows EN ISO 15927-3 (2/9·v·r^(8/9), taken with the monthly rain
in hours of 1 mm); what a bare face drinks is held by its absorption coefficient, what it gives back
by evaporation. The water raises λ (EN ISO 10456) and evaporation takes heat from the face.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import exp, sqrt

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.calendar import DAYS_IN_MONTH
from calveth.core.climate.air import saturation_pressure_unchecked_pa, vapour_pressure_pa
from calveth.core.climate.place import MonthClimate
from calveth.core.materials import Material

# What is as dense as stone still has some; an estimate.
_LEAST_PORES = 0.05

FloatArray = NDArray[np.float64]

_YEARS = 4


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class RainYear:
    """Water in the outer layer of a bare wall, arrays [12].

    ``held_kg_m2`` at the end of each month where rain meets the wall; over the whole wall
    ``evaporating_w_m2``, the heat it takes in the month, and ``conductivity_factor``, λ wet over
    λ dry.
    """

    held_kg_m2: FloatArray
    evaporating_w_m2: FloatArray
    conductivity_factor: FloatArray


def drinks_rain(material: Material) -> bool:
    """Return whether a bare face of a material takes up rain worth counting."""
    return material.water_absorption_kg_m2_h05 >= c.THIRSTY_ABSORPTION.value


def rain_year(
    material: Material,
    thickness_m: float,
    months: tuple[MonthClimate, ...],
    wind_at_hive_m_s: FloatArray,
    exposed_share: float,
    *,
    fill: float,
    drying: float,
) -> RainYear:
    """Return the water in an outer layer through a settled year.

    ``wind_at_hive_m_s`` [12] is the wind of the months; ``exposed_share`` is the share of the
    wall area that meets driving rain (the weather side), which is what gets wet and what dries;
    ``fill`` is the share of the pores rain fills, ``drying`` the share of the free evaporation a
    drying face gives (`parameters`).
    """
    held = np.zeros(12)
    heat = np.zeros(12)
    water = 0.0
    most = rain_capacity_kg_m2(material, thickness_m, fill)
    for _ in range(_YEARS):
        for k, month in enumerate(months):
            hours = month.rain_mm  # hours of 1 mm each
            offered = 2.0 / 9.0 * wind_at_hive_m_s[k] * hours
            drink = min(offered, material.water_absorption_kg_m2_h05 * sqrt(max(hours, 0.0)))
            saturated = float(saturation_pressure_unchecked_pa(np.array(month.temperature_degc)))
            outside = float(vapour_pressure_pa(month.temperature_degc, month.relative_humidity))
            convection = 4.0 + 4.0 * wind_at_hive_m_s[k]
            able = (
                c.EVAPORATION_BY_CONVECTION.value
                * convection
                * max(saturated - outside, 0.0)
                * 86400
                * DAYS_IN_MONTH[k]
                * drying
            )
            out = min(water + drink, able)
            water = min(water + drink - out, most)
            held[k] = water
            heat[k] = exposed_share * out * c.LATENT_HEAT_WATER.value / (86400 * DAYS_IN_MONTH[k])
    extra = held / (thickness_m * material.density_kg_m3)
    most_grown = c.RAIN_MOST_GROWN.value
    wet = np.array([exp(min(material.moisture_conversion * u, most_grown)) for u in extra])
    factor = 1 + exposed_share * (wet - 1)
    return RainYear(held_kg_m2=held, evaporating_w_m2=heat, conductivity_factor=factor)


def rain_capacity_kg_m2(material: Material, thickness_m: float, fill: float) -> float:
    """Return the rain a layer takes before it takes no more [kg/m²], by the share it fills.

    Parameters
    ----------
    material : Material
        What the outer layer is made of.
    thickness_m : float
        Of the layer [m].
    fill : float
        Share of the pores rain fills [-].
    """
    return fill * thickness_m * 1000.0 * _pore_share(material)


def _pore_share(material: Material) -> float:
    """Return the share of open pores from the density of the bulk and of stone."""
    return max(_LEAST_PORES, 1.0 - material.density_kg_m3 / c.STONE_DENSITY.value)
