"""Air and water vapour: saturation, dew point, density, pressure, wind at the hive.

Array-friendly: every function takes numbers or arrays and returns the same shape.
"""

from __future__ import annotations

from math import cos, log, radians, sin

import numpy as np
from numpy.typing import ArrayLike, NDArray

from calveth.core.climate.place import Place
from calveth.core.constants import (
    GAS_CONSTANT_CO2,
    GAS_CONSTANT_DRY_AIR,
    GAS_CONSTANT_VAPOUR,
    KELVIN_AT_0_DEGC,
    PRESSURE_SEA_LEVEL,
)
from calveth.core.constants_tables import LEEWARD_CP, ROUGHNESS_M, SHELTER_FACTOR, WINDWARD_CP
from calveth.core.errors import DomainError

FloatArray = NDArray[np.float64]

LOWEST_DEGC = -80.0
HIGHEST_DEGC = 100.0
# EN ISO 13788:2012, formulas (E.7) to (E.10): over water, over ice.
_P0 = 610.5
_A_WATER, _B_WATER = 17.269, 237.3
_A_ICE, _B_ICE = 21.875, 265.5


def saturation_pressure_pa(temperature_degc: ArrayLike) -> FloatArray:
    """Return the saturation vapour pressure [Pa], over water from 0 °C up and over ice below.

    EN ISO 13788:2012, E.7 and E.8.

    Parameters
    ----------
    temperature_degc : float or array
        Of the air or surface, any shape [°C].

    Raises
    ------
    DomainError
        Outside −80 to 100 °C; nothing is clipped.

    >>> round(float(saturation_pressure_pa(20.0)))  # EN ISO 13788: 2337 Pa
    2337
    """
    t = np.asarray(temperature_degc, dtype=float)
    if not np.all((t >= LOWEST_DEGC) & (t <= HIGHEST_DEGC)):
        raise DomainError(
            "temperature", str(temperature_degc), "°C is outside −80 to 100 °C of the vapour curve"
        )
    return saturation_pressure_unchecked_pa(t)


def saturation_pressure_unchecked_pa(temperature_degc: FloatArray) -> FloatArray:
    """Return the same [Pa] without the range check; for solvers that pass through odd states."""
    t = temperature_degc
    over_water = t >= 0.0
    a = np.where(over_water, _A_WATER, _A_ICE)
    b = np.where(over_water, _B_WATER, _B_ICE)
    curve: FloatArray = _P0 * np.exp(a * t / (b + t))
    return curve


def saturation_pressure_over_water_pa(temperature_degc: ArrayLike) -> FloatArray:
    """Return saturation over water [Pa] at any temperature, as weather stations report it.

    Parameters
    ----------
    temperature_degc : float or array
        Of the air or surface, any shape [°C].
    """
    t = np.asarray(temperature_degc, dtype=float)
    return np.asarray(_P0 * np.exp(_A_WATER * t / (_B_WATER + t)))


def dew_point_degc(vapour_pressure_pa: ArrayLike) -> FloatArray:
    """Return the dew point (frost point below 0 °C) [°C] of a vapour pressure [Pa].

    Inverse of EN ISO 13788:2012, E.9 and E.10.

    Parameters
    ----------
    vapour_pressure_pa : float or array
        Partial pressure of the water vapour, any shape [Pa].

    Raises
    ------
    DomainError
        When a pressure is not above zero.
    """
    p = np.asarray(vapour_pressure_pa, dtype=float)
    if not np.all(p > 0):
        raise DomainError("vapour pressure", str(vapour_pressure_pa), "Pa must be above zero")
    return dew_point_unchecked_degc(p)


def dew_point_unchecked_degc(vapour_pressure_pa: FloatArray) -> FloatArray:
    """Return the same [°C] without the check."""
    x = np.log(vapour_pressure_pa / _P0)
    over_water = x >= 0.0
    a = np.where(over_water, _A_WATER, _A_ICE)
    b = np.where(over_water, _B_WATER, _B_ICE)
    dew: FloatArray = b * x / (a - x)
    return dew


def vapour_pressure_pa(temperature_degc: ArrayLike, relative_humidity: ArrayLike) -> FloatArray:
    """Return the vapour pressure [Pa] of air at a temperature [°C] and humidity (0 to 1).

    Parameters
    ----------
    temperature_degc : float or array
        Of the air or surface, any shape [°C].
    relative_humidity : float or array
        Share of saturation, over ice below 0 °C [-].
    """
    return np.asarray(relative_humidity, dtype=float) * saturation_pressure_pa(temperature_degc)


def humidity_ratio(vapour_pressure_pa: FloatArray, pressure_pa: float | FloatArray) -> FloatArray:
    """Return kg of water vapour per kg of dry air [-].

    Parameters
    ----------
    vapour_pressure_pa : float or array
        Partial pressure of the water vapour, any shape [Pa].
    pressure_pa : float or array
        Of the air [Pa].
    """
    ratio = GAS_CONSTANT_DRY_AIR.value / GAS_CONSTANT_VAPOUR.value
    result: FloatArray = ratio * vapour_pressure_pa / (pressure_pa - vapour_pressure_pa)
    return result


def density_kg_m3(
    temperature_degc: FloatArray,
    vapour_pressure: FloatArray,
    co2_mass_fraction: FloatArray,
    pressure_pa: float,
) -> FloatArray:
    """Return the density [kg/m³] of moist air that holds CO2.

    Water vapour (461.5 J/(kg·K)) makes air lighter, CO2 (188.9 J/(kg·K)) heavier; ideal mixture.

    Parameters
    ----------
    temperature_degc : float or array
        Of the air or surface, any shape [°C].
    vapour_pressure : array
        Partial pressure of the water vapour, shape of the temperature [Pa].
    co2_mass_fraction : array
        kg of CO2 per kg of air, shape of the temperature [-].
    pressure_pa : float or array
        Of the air [Pa].
    """
    kelvin = temperature_degc + KELVIN_AT_0_DEGC.value
    r_dry = GAS_CONSTANT_DRY_AIR.value * (1 - co2_mass_fraction) + (
        GAS_CONSTANT_CO2.value * co2_mass_fraction
    )
    result: FloatArray = (pressure_pa - vapour_pressure) / (r_dry * kelvin) + vapour_pressure / (
        GAS_CONSTANT_VAPOUR.value * kelvin
    )
    return result


def station_pressure_pa(altitude_m: float) -> float:
    """Return the mean air pressure [Pa] at an altitude [m], ISO 2533 standard atmosphere.

    Parameters
    ----------
    altitude_m : float
        Above the sea [m].

    >>> station_pressure_pa(0.0)
    101325.0
    """
    return float(PRESSURE_SEA_LEVEL.value * (1 - 2.25577e-5 * altitude_m) ** 5.25588)


def shelter_factor(place: Place) -> float:
    """Return the share of the free wind that reaches a hive behind what stands around it [-]."""
    return SHELTER_FACTOR[place.shelter]


def wind_at_hive_m_s(wind_10m_m_s: float, place: Place, height_m: float = 0.6) -> float:
    """Return the mean wind [m/s] at entrance height by the log profile times the shelter.

    Below 0.3 m over the rough ground's own height the profile is not defined; there the wind at
    that height is taken. Log law: Eurocode EN 1991-1-4, 4.3.2. Shelter factors: estimate.

    Parameters
    ----------
    wind_10m_m_s : float
        Mean wind of the weather station, 10 m over open land [m/s].
    place : Place
        Climate, terrain and what stands round the hive.
    height_m : float
        Above the ground [m].
    """
    z0 = ROUGHNESS_M[place.terrain]
    height = max(height_m, 2.0 * z0)
    profile = np.log(height / z0) / np.log(10.0 / z0)
    return float(wind_10m_m_s * profile * SHELTER_FACTOR[place.shelter])


SIDES = ("front", "right", "back", "left")


def side_bearing_deg(side: str, place: Place) -> float:
    """Return the bearing a wall of the hive looks to [°]."""
    return (place.facing_deg + 90.0 * SIDES.index(side)) % 360.0


def is_windward(side: str, place: Place) -> bool:
    """Return whether a wall looks into the winter wind, within 60°."""
    return _off_wind_deg(side, place) <= 60.0


def rain_share(side: str, place: Place) -> float:
    """Return the share of the driving rain a wall gets by its bearing: the cosine, none in the lee.

    EN ISO 15927-3, 4.1.

    Parameters
    ----------
    side : str
        ``front``, ``right``, ``back``, ``left``, ``lid`` or ``floor``.
    place : Place
        Climate, terrain and what stands round the hive.
    """
    return max(cos(radians(_off_wind_deg(side, place))), 0.0)


def _off_wind_deg(side: str, place: Place) -> float:
    """Return how far a wall looks away from the wind, 0 to 180°."""
    return abs((side_bearing_deg(side, place) - place.wind_from_deg + 180.0) % 360.0 - 180.0)


def wind_pressure_coefficient(side: str, place: Place) -> float:
    """Return Cp [-] of a side of the hive by its bearing to the wind, without a jump.

    Between the values of EN 16798-7 for walls in the wind and out of it, along the course of
    Swami and Chandra 1987 for low houses: the sides are sucked at most, the back less. Each wall
    has the shelter that stands before it. The lid lies in the wake; under the floor the pressures
    of the sides even out (estimate).

    Parameters
    ----------
    side : str
        ``front``, ``right``, ``back``, ``left``, ``lid`` or ``floor``.
    place : Place
        Climate, terrain and what stands round the hive.
    """
    if side == "floor":
        return 0.0
    if side == "lid":
        return LEEWARD_CP[place.shelter]
    shelter = place.shelter_of(side)
    windward, leeward = WINDWARD_CP[shelter], LEEWARD_CP[shelter]
    return leeward + (windward - leeward) * _in_the_wind(_off_wind_deg(side, place))


def _course(off_deg: float) -> float:
    """Return Cp over that of the windward wall of a square; Swami and Chandra 1987, memory."""
    a = radians(off_deg)
    return log(
        1.248
        - 0.703 * sin(a / 2)
        - 1.175 * sin(a) ** 2
        + 0.769 * cos(a / 2)
        + 0.717 * cos(a / 2) ** 2
    )


_MOST_SUCKED = min(_course(d) for d in range(90, 150))


def _in_the_wind(off_deg: float) -> float:
    """Return 1 for a wall the wind meets, 0 where it is sucked most, a quarter at the back."""
    share = (_course(off_deg) - _MOST_SUCKED) / (_course(0.0) - _MOST_SUCKED)
    return min(max(share, 0.0), 1.0)
