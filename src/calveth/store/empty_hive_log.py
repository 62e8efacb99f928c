"""Tests of an empty hive out of a logger's file: which columns they need, and what they tell."""

from __future__ import annotations

from calveth.core.diary.empty_hive import DecayResult, HeaterResult, co2_decay, heater_test
from calveth.core.diary.series import Series, hourly
from calveth.core.errors import DomainError
from calveth.store.log_csv import LogFile


def column_named(log: LogFile, name: str, field: str) -> Series:
    """Return a column of a log by its header.

    Raises
    ------
    DomainError
        When there is none; it lists those there are.
    """
    series = next((c.series for c in log.columns if c.name == name), None)
    if series is None:
        known = ", ".join(c.name for c in log.columns)
        raise DomainError(field, name, f"is no column of the file; it has {known}")
    return series


def heater_of(log: LogFile, outside: str | None) -> HeaterResult:
    """Return what a heater test tells; ``outside`` is the header of the probe outside.

    Raises
    ------
    DomainError
        When a column is missing, or as `heater_test`.
    """
    out = None if outside is None else column_named(log, outside, "--outside")
    warm = [
        c.series for c in log.columns if c.series.quantity == "temperature" and c.series is not out
    ]
    power = [c.series for c in log.columns if c.series.quantity == "power"]
    if out is None or not warm or not power:
        raise DomainError(
            "heater test",
            "columns",
            "are missing: it needs °C inside, °C outside (--outside HEADER) and W",
        )
    inside = warm[0]
    first = int(inside.minutes[0]) // 60 + 1
    hours = max(int(inside.minutes[-1]) // 60 - first, 0)
    return heater_test(*(hourly(s, first, hours) for s in (inside, out, power[0])))


def decay_of(log: LogFile) -> DecayResult:
    """Return what the decay of CO2 tells.

    Raises
    ------
    DomainError
        When there is no CO2, or as `co2_decay`.
    """
    co2 = next((c.series for c in log.columns if c.series.quantity == "co2"), None)
    if co2 is None:
        raise DomainError("CO2", "no", "column of ppm is in the file; name its unit in the header")
    return co2_decay((co2.minutes - co2.minutes[0]) / 60.0, 1e6 * co2.values)
