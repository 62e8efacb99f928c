"""Logs as curves: how their quantities are written, and in which unit they are drawn."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from calveth.core.records.log import Log
from calveth.core.records.quantity import QUANTITIES, Quantity
from calveth.texts.units import UnitSystem

FloatArray = NDArray[np.float64]


def strip_title(quantity: Quantity, units: UnitSystem) -> str:
    """Return the title of a strip with its unit."""
    facts = QUANTITIES[quantity]
    return f"{facts.title}, {units.unit(facts.kind) if facts.kind else facts.unit}"


def drawn(quantity: Quantity, values: FloatArray, units: UnitSystem) -> FloatArray:
    """Return values in the unit they are drawn in."""
    facts = QUANTITIES[quantity]
    if facts.kind is None:
        return facts.factor * values
    # Linear: two figures of the unit system tell all of it.
    zero, hundred = (float(units.number(v, facts.kind, 6)) for v in (0.0, 100.0))
    return zero + values * (hundred - zero) / 100.0


def curve_name(log: Log) -> str:
    """Return what a curve is called: where the probe is, and its header where it says more."""
    return log.at if log.at != "scale" else "scale"


def log_line(log: Log, faults: int) -> str:
    """Return a log in a line of a list."""
    faults_text = f", {faults} faults flagged" if faults else ""
    return f"{log.at}: {log.name}, {log.samples} samples from {log.file or 'a file'}{faults_text}"
