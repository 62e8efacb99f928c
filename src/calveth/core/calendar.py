"""Hours, days, weeks and months of a year of 365 days: the one place that turns them into another.

Days count from 0 (1 January) to 364, months from 0 to 11, weeks as keepers count them: week 1 is
1 to 7 January, week 52 ends on 30 December. A leap day is no day of its own.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import accumulate

from calveth.core.errors import DomainError

DAYS_IN_YEAR = 365
HOURS_IN_DAY = 24
HOURS_IN_YEAR = DAYS_IN_YEAR * HOURS_IN_DAY
WEEKS_IN_YEAR = 52
DAYS_IN_MONTH = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
MONTH_NAMES = (
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
)
FIRST_DAYS = tuple(accumulate(DAYS_IN_MONTH, initial=0))[:12]
"""The first day of each month, 0 to 334."""
# The day that stands for its month.
_MIDDLE = 14


def month_of_day(day: int) -> int:
    """Return the month 0 to 11 of a day 0 to 364.

    >>> month_of_day(0), month_of_day(31), month_of_day(364)
    (0, 1, 11)

    Raises
    ------
    DomainError
        When there is no such day.
    """
    if not 0 <= day < DAYS_IN_YEAR:
        raise DomainError("day of the year", day, "does not exist; use 0 to 364")
    return max(k for k, first in enumerate(FIRST_DAYS) if first <= day)


def middle_day(month: int) -> int:
    """Return the 15th of a month (0 to 11), the day a month is looked at by."""
    return FIRST_DAYS[month] + _MIDDLE


def first_day_of_week(week: int) -> int:
    """Return the first day of a week of the year (1 to 52).

    >>> first_day_of_week(1), first_day_of_week(52)
    (0, 357)
    """
    return (week - 1) * 7 % DAYS_IN_YEAR


def day_after_week(week: int) -> int:
    """Return the day that follows a week of the year (1 to 52)."""
    return week * 7 % DAYS_IN_YEAR


def week_of_day(day: int) -> int:
    """Return the week 1 to 52 of a day 0 to 364; the last day belongs to week 52."""
    return min(WEEKS_IN_YEAR, day // 7 + 1)


def day_of_hour(hour: int) -> int:
    """Return the day 0 to 364 of an hour of the year; hours of a 366th day belong to the last."""
    return min(hour // HOURS_IN_DAY, DAYS_IN_YEAR - 1)


def days_between(first: int, end: int) -> Iterator[int]:
    """Return the days from ``first`` up to but without ``end``, over the turn of the year.

    >>> list(days_between(363, 1))
    [363, 364, 0]
    """
    day = first % DAYS_IN_YEAR
    while day != end % DAYS_IN_YEAR:
        yield day
        day = (day + 1) % DAYS_IN_YEAR


def days_by_month(days: Iterator[int]) -> tuple[float, ...]:
    """Return how many of some days fall into each month [12]."""
    by_month = [0.0] * 12
    for day in days:
        by_month[month_of_day(day)] += 1.0
    return tuple(by_month)
