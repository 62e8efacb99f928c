"""A probe and a scale that are not there: seeded samples with the faults real ones have."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from calveth.core.diary.series import FaultKind, Series

STEP_MIN = 10
_BEGINS_MIN = 29_283_840  # 2025-09-05 00:00 UTC
_DAY = 1440 // STEP_MIN


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class StandIn:
    """Samples of a probe in a hive, of one outside, and of a scale under the hive."""

    inside: Series
    outside: Series
    scale: Series


def stand_in(days: int, seed: int, faults: Sequence[FaultKind] = ()) -> StandIn:
    """Return days of two probes, a sample every ten minutes, with the faults asked for.

    Weather is a daily sine over a first-order memory; the hive follows it in three hours, twelve
    kelvin warmer; both are written in sixteenths of a kelvin. The scale loses 45 g a day, reads
    10 g more for each kelvin, as cheap cells do, and has snow on the lid for two days. Same seed,
    same samples.
    """
    random = np.random.default_rng(seed)
    n = days * _DAY
    minutes = _BEGINS_MIN + STEP_MIN * np.arange(n, dtype=np.int64)
    clock = minutes % 1440 / 1440
    slow = np.empty(n)
    slow[0] = 0.0
    hold = np.exp(-STEP_MIN / 2880.0)
    kick = random.standard_normal(n) * 4.0 * np.sqrt(1.0 - hold**2)
    for k in range(1, n):
        slow[k] = hold * slow[k - 1] + kick[k]
    weather = 6.0 + slow + 4.0 * np.sin(2 * np.pi * (clock - 0.35))
    nest = np.empty(n)
    nest[0] = weather[0] + 12.0
    share = 1.0 - np.exp(-STEP_MIN / 180.0)
    for k in range(1, n):
        nest[k] = nest[k - 1] + share * (weather[k] + 12.0 - nest[k - 1])
    nest = nest + 0.08 * random.standard_normal(n)
    kg = 38.0 - 0.045 * np.arange(n) / _DAY + 0.010 * (weather - 6.0)
    kg += 0.015 * np.random.default_rng([seed, 1]).standard_normal(n)
    snow = slice(n // 3, min(n // 3 + 2 * _DAY, n))
    kg[snow] += 1.2
    values, times = np.round(16.0 * nest) / 16.0, minutes
    for fault in faults:
        values, times = _with_fault(fault, values, times, random)
    return StandIn(
        inside=Series(quantity="temperature", minutes=times, values=values),
        outside=Series(quantity="temperature", minutes=minutes, values=np.round(16 * weather) / 16),
        scale=Series(quantity="weight", minutes=minutes, values=np.round(100 * kg) / 100),
    )


def _with_fault(
    fault: FaultKind, values: np.ndarray, times: np.ndarray, random: np.random.Generator
) -> tuple[np.ndarray, np.ndarray]:
    n = values.size
    values = values.copy()
    at = int(random.integers(n // 4, n // 2))
    if fault == "gap":
        keep = np.ones(n, dtype=bool)
        keep[at : at + 2 * _DAY] = False
        return values[keep], times[keep]
    if fault == "spike":
        for k in random.choice(n - 10, 12, replace=False) + 5:
            values[k] = 85.0 if random.random() < 0.5 else -40.0
    elif fault == "stuck":
        values[at : at + 50 * 60 // STEP_MIN] = values[at]
    elif fault == "unit":
        values[n // 2 :] = 1.8 * values[n // 2 :] + 32.0
    elif fault == "clock":
        values = np.roll(values, -7 * 60 // STEP_MIN)
    elif fault == "drift":
        values = values + np.linspace(0.0, 3.0, n)
    return values, times
