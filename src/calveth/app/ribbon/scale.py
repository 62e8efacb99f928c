"""The scales of the ribbon: temperatures of a year, hours of a month."""

from __future__ import annotations

import numpy as np

from calveth.core.calendar import DAYS_IN_MONTH, FIRST_DAYS, HOURS_IN_DAY
from calveth.core.climate.place import Place


def scale_ends(place: Place, nest: np.ndarray | None) -> tuple[float, float]:
    """Return the ends of the temperature scale, at tens of degrees [°C]."""
    mean = np.array([m.temperature_degc for m in place.months])
    half = np.array([m.daily_swing_k for m in place.months]) / 2
    high = float((mean + half).max())
    if nest is not None:
        high = max(high, float(nest.max()))
    low = float((mean - half).min())
    return 10.0 * float(np.floor(low / 10)), 10.0 * float(np.ceil(high / 10))


def hour_in_month(month: int, share: float, hour: int | None) -> int:
    """Return an hour of the year on a day of a month, by its share of the month's width.

    It keeps the hour of the day of ``hour``, or is at noon.
    """
    day = min(max(int(share * DAYS_IN_MONTH[month]), 0), DAYS_IN_MONTH[month] - 1)
    of_day = 12 if hour is None else hour % HOURS_IN_DAY
    return (FIRST_DAYS[month] + day) * HOURS_IN_DAY + of_day
