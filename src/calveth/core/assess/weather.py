"""What stands around the hive: the months of the place, or its winter room."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from calveth.core.climate.air import (
    saturation_pressure_pa,
    station_pressure_pa,
    vapour_pressure_pa,
    wind_at_hive_m_s,
)
from calveth.core.climate.place import COLD_NIGHT_SPREADS, MonthClimate, Place
from calveth.core.colony.room import co2_by_month
from calveth.core.nest.balance import Outside

FloatArray = NDArray[np.float64]


def surroundings(place: Place) -> tuple[MonthClimate, ...]:
    """Return the months as the hive meets them: the room's air while it stands in one."""
    room = place.room
    if room is None:
        return place.months
    indoors = MonthClimate(
        temperature_degc=room.temperature_degc,
        daily_swing_k=0.0,
        relative_humidity=room.relative_humidity,
        wind_m_s=0.0,
        rain_mm=0.0,
    )
    return tuple(
        indoors if room.holds(month) else climate for month, climate in enumerate(place.months)
    )


def spread_k(place: Place) -> FloatArray:
    """Return the spread of the nights of each month [12] [K]; none in a room."""
    inside = [place.room is not None and place.room.holds(month) for month in range(12)]
    return np.where(inside, 0.0, place.day_to_day_spread_k)


def mean_degc(place: Place) -> FloatArray:
    """Return the mean temperatures of the months [12] [°C]."""
    return np.array([m.temperature_degc for m in surroundings(place)])


def night_degc(place: Place) -> FloatArray:
    """Return the mean nights of the months [12] [°C]."""
    return mean_degc(place) - np.array([m.daily_swing_k for m in surroundings(place)]) / 2


def cold_night_degc(place: Place) -> FloatArray:
    """Return the nights of which one in ten is colder [12] [°C]."""
    return night_degc(place) - COLD_NIGHT_SPREADS * spread_k(place)


def outside_at(place: Place, month: NDArray[np.int_], temperature_degc: FloatArray) -> Outside:
    """Return the air of months (0 to 11) [N] at given temperatures [N].

    The air keeps its water at night until it is saturated; the rest falls as dew.
    """
    months = surroundings(place)
    mean = np.array([m.temperature_degc for m in months])
    humidity = np.array([m.relative_humidity for m in months])
    wind = np.array([wind_at_hive_m_s(m.wind_m_s, place) for m in months])
    vapour = vapour_pressure_pa(mean, humidity)[month]
    return Outside(
        temperature_degc=temperature_degc,
        vapour_pressure_pa=np.minimum(vapour, saturation_pressure_pa(temperature_degc)),
        wind_m_s=wind[month],
        pressure_pa=station_pressure_pa(place.altitude_m),
        co2_mass_fraction=co2_by_month(place)[month],
    )
