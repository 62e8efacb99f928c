"""Logs as curves: how their quantities are written, and in which unit they are drawn."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from calveth.core.records.log import Log, Quantity
from calveth.texts.units import UnitSystem

FloatArray = NDArray[np.float64]
ORDER: tuple[Quantity, ...] = ("temperature", "humidity", "co2", "weight", "power")
_TITLE: dict[Quantity, str] = {
    "temperature": "Temperature",
    "humidity": "Humidity",
    "co2": "CO2",
    "weight": "Weight",
    "power": "Heater",
}
DIGITS: dict[Quantity, int] = {
    "temperature": 1,
    "humidity": 0,
    "co2": 2,
    "weight": 1,
    "power": 0,
}


def strip_title(quantity: Quantity, units: UnitSystem) -> str:
    """Return the title of a strip with its unit."""
    if quantity == "temperature":
        return f"{_TITLE[quantity]}, {units.unit('temperature')}"
    if quantity == "weight":
        return f"{_TITLE[quantity]}, {units.unit('mass')}"
    return f"{_TITLE[quantity]}, {'W' if quantity == 'power' else '%'}"


def drawn(quantity: Quantity, values: FloatArray, units: UnitSystem) -> FloatArray:
    """Return values in the unit they are drawn in."""
    if quantity in ("humidity", "co2"):
        return 100.0 * values
    if quantity == "power":
        return values
    # Linear: two figures of the unit system tell all of it.
    kind = "temperature" if quantity == "temperature" else "mass"
    zero, hundred = (float(units.number(v, kind, 6)) for v in (0.0, 100.0))
    return zero + values * (hundred - zero) / 100.0


def curve_name(log: Log) -> str:
    """Return what a curve is called: where the probe is, and its header where it says more."""
    return log.at if log.at != "scale" else "scale"


def log_line(log: Log, faults: int) -> str:
    """Return a log in a line of a list."""
    found = f", {faults} faults flagged" if faults else ""
    return f"{log.at}: {log.name}, {log.samples} samples from {log.file or 'a file'}{found}"
