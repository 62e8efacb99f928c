"""What a probe or a scale wrote, and the faults of it: found and flagged, never deleted."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np
from numpy.typing import NDArray

from calveth.core.errors import DomainError, require_choice
from calveth.core.records.quantity import QUANTITIES, Quantity

# Days that hang together more than this would leave nothing to judge by.
_MOST_HOLD = 0.95

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]
FaultKind = Literal["gap", "spike", "stuck", "unit", "clock", "drift"]

_GAP_MIN, _STUCK_MIN = 60, 12 * 60
_DAY_MIN = 1440
_FAHRENHEIT_STEP_K, _FAHRENHEIT_OFF = 12.0, 3.0
_LAG_H = (0, 8)
_DRIFT_K, _DRIFT_SIGMAS, _DRIFT_DAYS = 1.0, 4.0, 14


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Series:
    """Samples of one quantity.

    Attributes
    ----------
    minutes : array [N]
        UTC minutes since 1970, rising.
    values : array [N]
        In the unit of the quantity (`Quantity`).
    """

    quantity: Quantity
    minutes: IntArray
    values: FloatArray

    def __post_init__(self) -> None:
        require_choice("quantity of a log", self.quantity, get_args(Quantity))
        if self.minutes.size != self.values.size:
            raise DomainError("log", self.values.size, f"values at {self.minutes.size} times")
        if self.minutes.size == 0:
            raise DomainError("log", "no", "samples are in it; choose another column")
        if (np.diff(self.minutes) <= 0).any():
            raise DomainError("log", "times", "do not rise; sort the file by time")

    @property
    def step_min(self) -> float:
        """The usual time between samples [min]."""
        return float(np.median(np.diff(self.minutes))) if self.minutes.size > 1 else 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Fault:
    """A fault of a log, from one UTC minute to another; ``size`` in the unit of the quantity.

    For a clock ``size`` is how many hours the day lags behind the weather.
    """

    kind: FaultKind
    begins_min: int
    ends_min: int
    size: float


def find_faults(
    series: Series, outside: Series | None = None, expected: Series | None = None
) -> list[Fault]:
    """Return what is wrong with a log, in the order of time; ``outside`` tells clock and drift.

    ``expected`` is what a hive with bees would show: a brood nest that begins is no drift.

    Gaps of more than an hour (or three usual steps); values far from the middle of seven; twelve
    hours without any change; degrees that turn into Fahrenheit; a day that lags the weather by
    less than nothing or more than eight hours; a slow drift against it ("may drift").
    """
    faults = [*_gaps(series), *_spikes(series), *_stuck(series)]
    if series.quantity == "temperature":
        unit = _fahrenheit(series)
        faults += unit
        if outside is not None and not unit:
            faults += _clock(series, outside)
            faults += _drift(series, outside, expected)
    return sorted(faults, key=lambda f: (f.begins_min, f.kind))


def _gaps(series: Series) -> list[Fault]:
    steps = np.diff(series.minutes)
    most = max(_GAP_MIN, 3.0 * series.step_min)
    return [
        Fault(
            kind="gap",
            begins_min=int(series.minutes[k]),
            ends_min=int(series.minutes[k + 1]),
            size=float(steps[k]),
        )
        for k in np.flatnonzero(steps > most)
    ]


def _spikes(series: Series) -> list[Fault]:
    v = series.values
    if v.size < 7:
        return []
    padded = np.pad(v, 3, mode="edge")
    middle = np.median(np.lib.stride_tricks.sliding_window_view(padded, 7), axis=1)
    off = v - middle
    return [
        Fault(
            kind="spike",
            begins_min=int(series.minutes[k]),
            ends_min=int(series.minutes[k]),
            size=float(off[k]),
        )
        for k in np.flatnonzero(np.abs(off) > QUANTITIES[series.quantity].spike)
    ]


def _stuck(series: Series) -> list[Fault]:
    facts = QUANTITIES[series.quantity]
    if facts.rests:
        return []
    change = np.flatnonzero(np.diff(series.values) != 0.0)
    starts = np.concatenate([[0], change + 1])
    ends = np.concatenate([change, [series.values.size - 1]])
    long = series.minutes[ends] - series.minutes[starts] >= _STUCK_MIN
    return [
        Fault(
            kind="stuck",
            begins_min=int(series.minutes[a]),
            ends_min=int(series.minutes[b]),
            size=float(series.values[a]),
        )
        for a, b in zip(starts[long], ends[long], strict=True)
        if series.values[a] < facts.saturates_at
    ]


def _fahrenheit(series: Series) -> list[Fault]:
    """Return where degrees turn into Fahrenheit: a step that 1.8·x + 32 explains."""
    v, window = series.values, 12
    if v.size < 2 * window:
        return []
    step = np.abs(np.diff(v))
    # As if the unit had been changed from °C to °F, ISO 80000-5.
    explained = np.abs(v[1:] - (1.8 * v[:-1] + 32.0))
    fits = (step > _FAHRENHEIT_STEP_K) & (explained < _FAHRENHEIT_OFF)
    for k in np.flatnonzero(fits):
        # It stays so: a spike does not.
        before = np.median(v[max(k - window + 1, 0) : k + 1])
        after = np.median(v[k + 1 : k + 1 + window])
        if abs(after - before) > _FAHRENHEIT_STEP_K:
            return [
                Fault(
                    kind="unit",
                    begins_min=int(series.minutes[k + 1]),
                    ends_min=int(series.minutes[-1]),
                    size=float(step[k]),
                )
            ]
    return []


def at_hours(series: Series, hours: IntArray) -> FloatArray:
    """Return means [N] of a series at UTC hours [N] since 1970; NaN below half of the samples.

    Nothing is made up for gaps.
    """
    own = series.minutes // 60
    first = int(own[0])
    size = int(own[-1]) - first + 1
    count = np.bincount(own - first, minlength=size)
    total = np.bincount(own - first, weights=series.values, minlength=size)
    usual = 60.0 / max(series.step_min, 1.0)
    means = np.where(count >= max(0.5 * usual, 1.0), total / np.maximum(count, 1), np.nan)
    at = hours - first
    inside = (at >= 0) & (at < size)
    return np.where(inside, means[np.clip(at, 0, size - 1)], np.nan)


def hourly(series: Series, first_h: int, hours: int) -> FloatArray:
    """Return the means of hours from UTC hour ``first_h`` on [hours], as `at_hours`."""
    return at_hours(series, first_h + np.arange(hours, dtype=np.int64))


def _together(series: Series, outside: Series) -> tuple[FloatArray, FloatArray]:
    first = max(int(series.minutes[0]), int(outside.minutes[0])) // 60 + 1
    last = min(int(series.minutes[-1]), int(outside.minutes[-1])) // 60
    hours = max(last - first, 0) // 24 * 24
    return hourly(series, first, hours), hourly(outside, first, hours)


def _clock(series: Series, outside: Series) -> list[Fault]:
    inside, out = _together(series, outside)
    if inside.size < 24 * 4:
        return []

    def swing(values: FloatArray) -> FloatArray:
        days = values.reshape(-1, 24)
        days = days[np.isfinite(days).all(axis=1)]
        if days.size == 0:
            return np.zeros(24)
        day: FloatArray = (days - days.mean(axis=1, keepdims=True)).mean(axis=0)
        return day

    a, b = swing(inside), swing(out)
    if np.ptp(a) < 0.5 or np.ptp(b) < 1.0:
        return []  # no day to be seen
    lag = int(np.argmax([float(np.dot(np.roll(b, k), a)) for k in range(24)]))
    lag = lag - 24 if lag > 12 else lag
    if _LAG_H[0] <= lag <= _LAG_H[1]:
        return []
    return [
        Fault(
            kind="clock",
            begins_min=int(series.minutes[0]),
            ends_min=int(series.minutes[-1]),
            size=float(lag),
        )
    ]


def _drift(series: Series, outside: Series, expected: Series | None) -> list[Fault]:
    """Return a trend of the daily means against the weather that chance does not make."""
    inside, out = (v.reshape(-1, 24) for v in _together(series, outside))
    if expected is not None:
        first = max(int(series.minutes[0]), int(outside.minutes[0])) // 60 + 1
        inside = inside - hourly(expected, first, inside.size).reshape(-1, 24)
    with np.errstate(invalid="ignore"):
        a, b = inside.mean(axis=1), out.mean(axis=1)
    known = np.isfinite(a) & np.isfinite(b)
    days = np.flatnonzero(known).astype(float)
    if days.size < _DRIFT_DAYS:
        return []
    span = float(days[-1] - days[0])
    design = np.column_stack([np.ones(days.size), b[known], (days - days[0]) / span])
    answer, *_ = np.linalg.lstsq(design, a[known], rcond=None)
    left = a[known] - design @ answer
    hold = float(np.clip(np.corrcoef(left[:-1], left[1:])[0, 1], 0.0, _MOST_HOLD))
    # Days that follow each other say less than as many that do not.
    fewer = days.size * (1.0 - hold) / (1.0 + hold)
    if fewer <= 4.0:
        return []
    variance = float(left @ left) / (fewer - 3.0) * np.linalg.pinv(design.T @ design)[2, 2]
    trend = float(answer[2])
    sigma = float(np.sqrt(variance * days.size / fewer))
    if abs(trend) < _DRIFT_K or abs(trend) < _DRIFT_SIGMAS * sigma:
        return []
    return [
        Fault(
            kind="drift",
            begins_min=int(series.minutes[0]),
            ends_min=int(series.minutes[-1]),
            size=trend,
        )
    ]
