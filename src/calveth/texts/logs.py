"""Logs and their faults in words, and what tests of an empty hive tell."""

from __future__ import annotations

from datetime import UTC, datetime

from calveth.core.diary.empty_hive import DecayResult, HeaterResult
from calveth.core.diary.series import Fault, Series
from calveth.core.records.quantity import QUANTITIES

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
    facts = QUANTITIES[series.quantity]
    low, high = (facts.factor * float(v) for v in (series.values.min(), series.values.max()))
    return (
        f"{name}: {series.values.size} samples from {moment(int(series.minutes[0]))} to "
        f"{moment(int(series.minutes[-1]))} UTC, every {series.step_min:.0f} min, "
        f"{low:.1f} to {high:.1f} {facts.unit}"
    )


def fault_sentence(fault: Fault, series: Series) -> str:
    """Return a fault in a sentence with what can be done."""
    at = moment(fault.begins_min)
    unit = QUANTITIES[series.quantity].unit
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


def heater_sentence(heater: HeaterResult) -> str:
    """Return what a heater test tells, and how far it can be believed."""
    steady = "" if heater.steady else " It had not settled: heat a day longer."
    return (
        f"The empty hive loses {heater.loss_w_k:.2f} W/K ({heater.low_w_k:.2f} to "
        f"{heater.high_w_k:.2f}), from {heater.hours} h; watts over kelvin alone would say "
        f"{heater.average_w_k:.2f}.{steady}"
    )


def decay_sentence(decay: DecayResult) -> str:
    """Return what a CO2 decay tells."""
    return (
        f"The air changes {decay.changes_1_h:.2f} times an hour ({decay.low_1_h:.2f} to "
        f"{decay.high_1_h:.2f}), from {decay.readings} readings."
    )
