"""Days between months: a value for each day that runs smoothly and keeps the means."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from calveth.core.calendar import (
    DAYS_IN_MONTH,
    DAYS_IN_YEAR,
    FIRST_DAYS,
    HOURS_IN_DAY,
    month_of_day,
)

FloatArray = NDArray[np.float64]

MONTH_OF_DAY = np.array([month_of_day(day) for day in range(DAYS_IN_YEAR)])
MONTH_OF_HOUR = np.repeat(MONTH_OF_DAY, HOURS_IN_DAY)
_ROUNDS = 12


def smooth_days(months: FloatArray) -> FloatArray:
    """Return a value for each day [365] that runs smoothly and keeps the means of the months."""
    knots = np.array(months, dtype=float)
    middle = np.array(FIRST_DAYS) + np.array(DAYS_IN_MONTH) / 2
    at = np.concatenate([middle[-1:] - DAYS_IN_YEAR, middle, middle[:1] + DAYS_IN_YEAR])
    days = np.arange(DAYS_IN_YEAR) + 0.5
    for _ in range(_ROUNDS):
        smoothed = np.interp(days, at, np.concatenate([knots[-1:], knots, knots[:1]]))
        knots += months - by_month(smoothed, MONTH_OF_DAY)
    result: FloatArray = smoothed + (months - by_month(smoothed, MONTH_OF_DAY))[MONTH_OF_DAY]
    return result


def by_month(values: FloatArray, month: NDArray[np.int_]) -> FloatArray:
    """Return the mean of each month [12] of values by day or by hour."""
    result: FloatArray = np.bincount(month, weights=values, minlength=12) / np.bincount(
        month, minlength=12
    )
    return result
