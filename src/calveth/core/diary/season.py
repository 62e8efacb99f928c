"""A year as it was: the hours a logger knows put in the place of the typical ones.

A season is the year a hive is taken through: from July to June north of the equator, from January
on south of it. Its hours are those of the place's own clock, standard time all year.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime

import numpy as np
from numpy.typing import NDArray

from calveth.core.calendar import HOURS_IN_DAY, HOURS_IN_YEAR
from calveth.core.climate.air import saturation_pressure_unchecked_pa
from calveth.core.climate.hours import HourlyWeather
from calveth.core.climate.place import Place
from calveth.core.climate.year import year_weather
from calveth.core.diary.samples import unpacked
from calveth.core.diary.series import Series, at_hours, find_faults
from calveth.core.records.diary import Diary
from calveth.core.records.log import Log
from calveth.core.records.quantity import QUANTITIES

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]

FIRST_HALF_H = 181 * HOURS_IN_DAY
_LEAP_DAY_H = 59 * HOURS_IN_DAY
# Less of a season than this and its weather is the typical one.
LEAST_HOURS = 48


@dataclass(frozen=True, slots=True, kw_only=True)
class LoggedPlace:
    """A place with the weather of a season; ``hours`` of it were logged."""

    place: Place
    season: int
    hours: int


def season_of(place: Place, day: date) -> int:
    """Return the season a day lies in, by the year it begins in."""
    return day.year if place.latitude_deg < 0 or day.month >= 7 else day.year - 1


def clock_h(place: Place) -> int:
    """Return how many hours the clock of a place is ahead of UTC, by its longitude."""
    return round(place.longitude_deg / 15.0)


def utc_hours(place: Place, season: int) -> IntArray:
    """Return the UTC hour since 1970 of every hour of a season [8760], 1 January 0 o'clock first.

    29 February is left out: a hive's year has none.
    """
    index = np.arange(HOURS_IN_YEAR, dtype=np.int64)
    index_of = np.empty(HOURS_IN_YEAR, dtype=np.int64)
    south = place.latitude_deg < 0
    for late in (False, True):
        part = (index >= FIRST_HALF_H) == late
        year = season if south or late else season + 1
        first = int(np.datetime64(f"{year}-01-01", "h").astype(np.int64))
        leap = year % 4 == 0 and (year % 100 != 0 or year % 400 == 0)
        after = (index >= _LEAP_DAY_H) & leap
        index_of[part] = (first + index + HOURS_IN_DAY * after)[part]
    return index_of - clock_h(place)


def utc_minute(place: Place, when: datetime) -> int:
    """Return the UTC minute since 1970 of a moment on the clock of a place."""
    return int((when - datetime(1970, 1, 1)).total_seconds()) // 60 - 60 * clock_h(place)


def trusted(log: Log, outside: Series | None = None) -> Series:
    """Return the samples of a log without spikes, stuck runs and what is in another unit."""
    series = unpacked(log.chunks, log.quantity)
    keep = np.ones(series.minutes.size, dtype=bool)
    for fault in find_faults(series, outside):
        if fault.kind in ("spike", "stuck", "unit"):
            keep &= (series.minutes < fault.begins_min) | (series.minutes > fault.ends_min)
    if not keep.any():
        return series
    return Series(
        quantity=series.quantity, minutes=series.minutes[keep], values=series.values[keep]
    )


def outside_logs(diary: Diary, quantity: str) -> list[Log]:
    """Return the logs of the place's own probes of a quantity."""
    return [g for g in diary.logs if g.at == "outside" and g.quantity == quantity]


def logged_seasons(place: Place, diary: Diary) -> list[int]:
    """Return the seasons something was logged in, the first one first."""
    seasons: set[int] = set()
    for log in diary.logs:
        for chunk in log.chunks:
            month = chunk.month % 12 + 1
            seasons.add(season_of(place, date(1970 + chunk.month // 12, month, 1)))
    return sorted(seasons)


def logged_place(place: Place, diary: Diary, season: int) -> LoggedPlace:
    """Return a place whose outdoor air of a season is as it was logged; the rest is typical.

    A year of weather keeps its humidity where none was logged: the share of saturation is that of
    the typical hour. In a winter room the air is the room's.
    """
    hours = utc_hours(place, season)
    logged = {
        facts.weather: _at(diary, quantity, hours)
        for quantity, facts in QUANTITIES.items()
        if facts.weather is not None
    }
    known = np.isfinite(logged["temperature_degc"])
    if int(known.sum()) < LEAST_HOURS:
        return LoggedPlace(place=place, season=season, hours=0)
    base = year_weather(replace(place, room=None))
    share = base.vapour_pressure_pa / saturation_pressure_unchecked_pa(base.temperature_degc)
    typical = {"relative_humidity": share, "wind_m_s": base.station_wind_m_s}
    columns: dict[str, FloatArray] = {}
    if place.hours is not None:
        columns = {
            name: np.asarray(values, dtype=float)
            for name, values in place.hours.columns.items()
            if name != "dew_point_degc"
        }
    for name, values in logged.items():
        usual = typical[name] if name in typical else getattr(base, name)
        columns[name] = np.where(np.isfinite(values), values, usual)
    columns["relative_humidity"] = np.clip(columns["relative_humidity"], 0, 1)
    made = replace(place, hours=HourlyWeather(columns))
    return LoggedPlace(place=made, season=season, hours=int(known.sum()))


def _at(diary: Diary, quantity: str, hours: IntArray) -> FloatArray:
    filled = np.full(hours.size, np.nan)
    for log in outside_logs(diary, quantity):
        values = at_hours(trusted(log), hours)
        filled = np.where(np.isfinite(values), values, filled)
    return filled
