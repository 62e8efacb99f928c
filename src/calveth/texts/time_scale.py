"""Marks of a scale of time: hours, days or months, as many as there is room for."""

from __future__ import annotations

from datetime import datetime, timedelta
from math import ceil

from calveth.core.calendar import MONTH_NAMES

_EPOCH = datetime(1970, 1, 1)


def time_ticks(first: float, last: float, wide_px: float) -> list[tuple[float, str]]:
    """Return where a scale of time is marked, and the word there: hours, days or months.

    >>> [text for _, text in time_ticks(0, 60 * 24 * 3, 600)][:2]
    ['1 Jan', '2 Jan']
    """
    room = max(int(wide_px // 80), 2)
    span = last - first
    begin = _EPOCH + timedelta(minutes=first)
    for hours in (1, 3, 6, 12):
        if span / (60 * hours) <= room:
            return _regular(first, last, 60 * hours)
    for days in (1, 2, 5, 10):
        if span / (1440 * days) <= room:
            return _regular(first, last, 1440 * days)
    ticks: list[tuple[float, str]] = []
    every = next((n for n in (1, 2, 3, 6, 12) if span / (43_200 * n) <= room), 12)
    year, month = begin.year, begin.month
    while True:
        month += 1
        if month > 12:
            year, month = year + 1, 1
        minute = (datetime(year, month, 1) - _EPOCH).total_seconds() / 60
        if minute > last:
            return ticks
        if (month - 1) % every == 0:
            ticks.append((minute, f"{MONTH_NAMES[month - 1][:3]} {year}"))


def _regular(first: float, last: float, step: float) -> list[tuple[float, str]]:
    ticks = []
    for k in range(ceil(first / step), int(last // step) + 1):
        when = _EPOCH + timedelta(minutes=k * step)
        day = f"{when.day} {MONTH_NAMES[when.month - 1][:3]}"
        ticks.append((k * step, day if step >= 1440 or when.hour == 0 else f"{when:%H:%M}"))
    return ticks
