"""What the logs of a hive say by the night, and what a year of the program says at the same place.

Nights, as the sun on a probe's cable and a keeper at the lid come by day. A probe that reads off
by a little for good is no finding: its offset is a nuisance with a width of its own.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np
from numpy.typing import NDArray

from calveth.core.calendar import DAYS_IN_YEAR, HOURS_IN_DAY
from calveth.core.climate.place import Place
from calveth.core.diary.season import FIRST_HALF_H, trusted, utc_hours
from calveth.core.diary.sensor_readings import SensorReadings, sensor_readings
from calveth.core.diary.series import at_hours
from calveth.core.records.diary import Diary
from calveth.core.records.log import Log
from calveth.core.records.quantity import QUANTITIES, Quantity, Where
from calveth.core.year.result import YearRun

# A humidity or CO2 of nought has no logarithm.
_LEAST_SEEN = 1e-5

FloatArray = NDArray[np.float64]

_NIGHT = (0, 6)
_LEAST_NIGHT_H = 4
_ZONE: dict[Where, int] = {"at the floor": 0, "among the bees": 1, "under the lid": 2}
# A step between two hours of a scale that is the keeper's, or rain and snow, not the bees' [kg].
_KEEPER_KG = 0.5
TOLD_INSIDE: Mapping[Quantity, str] = MappingProxyType(
    {"temperature": "degc", "humidity": "humidity", "co2": "co2"}
)
"""What a year says of a probe in the hive: the field of `SensorReadings`."""
TOLD_OUTSIDE: Mapping[Quantity, str] = MappingProxyType(
    {"temperature": "outside_degc", "humidity": "outside_humidity"}
)
"""The same for a probe outside."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Channel:
    """Nights of one log in a season; ``seen`` [365] is NaN where there is none.

    CO2 is its logarithm, weight what is lost from one midnight to the next [kg]; ``scatter`` is one
    sigma of a night.
    """

    log: Log
    seen: FloatArray
    scatter: float

    @property
    def nights(self) -> int:
        """How many nights it has."""
        return int(np.isfinite(self.seen).sum())


def channels(diary: Diary, hive_id: str, place: Place, season: int) -> list[Channel]:
    """Return the channels of a hive in a season; those without ten nights are left out."""
    hours = utc_hours(place, season)
    usable = []
    for log in diary.logs_of(hive_id):
        if log.at not in _ZONE and log.at != "scale":
            continue
        if log.quantity == "co2" and log.at == "at the floor":
            continue  # the year keeps that of nest and crown
        values = at_hours(trusted(log), hours).reshape(DAYS_IN_YEAR, HOURS_IN_DAY)
        seen = _losses(values) if log.quantity == "weight" else _nights(values)
        if log.quantity == "co2":
            seen = np.log(np.maximum(seen, _LEAST_SEEN))
        if np.isfinite(seen).sum() >= 10:
            usable.append(Channel(log=log, seen=seen, scatter=QUANTITIES[log.quantity].scatter))
    return usable


def predicted(run: YearRun | SensorReadings, log: Log) -> FloatArray:
    """Return what a year says of a log's nights [365], in the unit of `Channel`."""
    readings = sensor_readings(run)
    if log.quantity == "weight":
        return readings.honey_day
    values = _hours(readings, log).reshape(DAYS_IN_YEAR, HOURS_IN_DAY)
    nights = _nights(values)
    return np.log(nights) if log.quantity == "co2" else nights


def predicted_hours(run: YearRun | SensorReadings, log: Log) -> FloatArray:
    """Return what a year says at every hour of a log [8760], as the log says it.

    Of a scale the honey that is burnt since the season began, as a loss.
    """
    readings = sensor_readings(run)
    if log.quantity == "weight":
        begins = 0 if readings.south else FIRST_HALF_H
        each = np.repeat(readings.honey_day / HOURS_IN_DAY, HOURS_IN_DAY)
        return np.roll(-np.cumsum(np.roll(each, -begins)), begins)
    return _hours(readings, log)


def _hours(readings: SensorReadings, log: Log) -> FloatArray:
    if log.at == "outside":
        outside: FloatArray = getattr(readings, TOLD_OUTSIDE[log.quantity])
        return outside
    zone = _ZONE[log.at]
    rows: FloatArray = getattr(readings, TOLD_INSIDE[log.quantity])
    # Of CO2 the year keeps nest and crown alone.
    values: FloatArray = rows[zone - 3] if zone else rows[0]
    return values


def _nights(values: FloatArray) -> FloatArray:
    night = values[:, _NIGHT[0] : _NIGHT[1]]
    known = np.isfinite(night)
    count = known.sum(axis=1)
    total = np.where(known, night, 0.0).sum(axis=1)
    return np.where(count >= _LEAST_NIGHT_H, total / np.maximum(count, 1), np.nan)


def _losses(values: FloatArray) -> FloatArray:
    """Return what a scale loses in a day [kg]; a day with a keeper's step, rain or gain is none."""
    # 31 December is followed by 1 January, the first row.
    flat = values.ravel()
    steps = np.abs(np.roll(flat, -1) - flat).reshape(DAYS_IN_YEAR, HOURS_IN_DAY)
    start = values[:, 0]
    loss = start - np.roll(start, -1)
    # A day with a gap in it may hide a step.
    calm = (np.isfinite(steps).sum(axis=1) >= HOURS_IN_DAY - 3) & (
        np.nan_to_num(steps).max(axis=1) < _KEEPER_KG
    )
    result: FloatArray = np.where(calm, loss, np.nan)
    return result
