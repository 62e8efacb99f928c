"""Logs and their faults in words, and what tests of an empty hive tell."""

from __future__ import annotations

from datetime import UTC, datetime

from calveth.core.diary.empty_hive import DecayResult, HeaterResult
from calveth.core.diary.series import Fault, Series

_UNIT = {"temperature": "°C", "humidity": "%", "co2": "%", "weight": "kg", "power": "W"}
_FACTOR = {"humidity": 100.0, "co2": 100.0}
HEATER_CAUTION = (
    "Heat an empty hive with a lamp or mat made for it, away from straw and foam, behind a "
    "residual current device, and stay near."
)
"""The caution beside a heater test."""


def moment(minutes: int) -> str:
    """Return a UTC minute as a date and time.

    >>> moment(29_283_840)
    '2025-09-05 00:00'
    """
    return datetime.fromtimestamp(60 * minutes, UTC).strftime("%Y-%m-%d %H:%M")


def series_sentence(name: str, series: Series) -> str:
    """Return what a column holds in a sentence."""
    unit, factor = _UNIT[series.quantity], _FACTOR.get(series.quantity, 1.0)
    low, high = factor * float(series.values.min()), factor * float(series.values.max())
    return (
        f"{name}: {series.values.size} samples from {moment(int(series.minutes[0]))} to "
        f"{moment(int(series.minutes[-1]))} UTC, every {series.step_min:.0f} min, "
        f"{low:.1f} to {high:.1f} {unit}"
    )


def fault_sentence(fault: Fault, series: Series) -> str:
    """Return a fault in a sentence with what can be done."""
    at = moment(fault.begins_min)
    unit = _UNIT[series.quantity]
    if fault.kind == "gap":
        return f"{at}: nothing for {fault.size / 60:.1f} h."
    if fault.kind == "spike":
        return f"{at}: {fault.size:+.1f} {unit} off its neighbours; left out of what is worked out."
    if fault.kind == "stuck":
        hours = (fault.ends_min - fault.begins_min) / 60
        return f"{at}: the same {fault.size:.2f} {unit} for {hours:.0f} h; look at the probe."
    if fault.kind == "unit":
        return f"{at}: from here on it looks like °F; set the logger to one unit."
    if fault.kind == "clock":
        return f"its day lags the weather by {fault.size:+.0f} h; check the logger's clock."
    return f"it may drift by {fault.size:+.1f} {unit}; check it in ice water."


def heater_sentence(found: HeaterResult) -> str:
    """Return what a heater test tells, and how far it can be believed."""
    steady = "" if found.steady else " It had not settled: heat a day longer."
    return (
        f"The empty hive loses {found.loss_w_k:.2f} W/K ({found.low_w_k:.2f} to "
        f"{found.high_w_k:.2f}), from {found.hours} h; watts over kelvin alone would say "
        f"{found.average_w_k:.2f}.{steady}"
    )


def decay_sentence(found: DecayResult) -> str:
    """Return what a CO2 decay tells."""
    return (
        f"The air changes {found.changes_1_h:.2f} times an hour ({found.low_1_h:.2f} to "
        f"{found.high_1_h:.2f}), from {found.readings} readings."
    )
