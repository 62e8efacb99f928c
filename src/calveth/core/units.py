"""The one place where units are converted and typed quantities are read.

Inside Calveth everything is SI with °C for temperatures. A typed quantity may carry its own unit
("3/4 in", "19 mm", "1,9 cm"); a bare number takes the unit of its field.
"""

from __future__ import annotations

import re
from fractions import Fraction

from calveth.core.errors import DomainError

# Factor to SI and offset: si = value * factor + offset.
_UNITS: dict[str, dict[str, tuple[float, float]]] = {
    "length": {
        "m": (1.0, 0.0),
        "cm": (0.01, 0.0),
        "mm": (0.001, 0.0),
        "in": (0.0254, 0.0),
        "inch": (0.0254, 0.0),
        '"': (0.0254, 0.0),
        "ft": (0.3048, 0.0),
    },
    "temperature": {
        "°c": (1.0, 0.0),
        "c": (1.0, 0.0),
        "°f": (5 / 9, -160 / 9),
        "f": (5 / 9, -160 / 9),
    },
    "mass": {"kg": (1.0, 0.0), "g": (0.001, 0.0), "lb": (0.45359237, 0.0)},
    "speed": {"m/s": (1.0, 0.0), "km/h": (1 / 3.6, 0.0), "mph": (0.44704, 0.0)},
    "fraction": {"%": (0.01, 0.0)},
}

_NUMBER = re.compile(
    r"^\s*(?P<sign>[-−+]?)\s*"
    r"(?:(?P<whole>\d+)\s+(?P<mixed>\d+/\d+)|(?P<fraction>\d+/\d+)|(?P<decimal>\d*[.,]?\d+|\d+[.,]))"
    r"\s*(?P<unit>[^\d\s].*)?\s*$"
)


def parse_quantity(text: str, quantity: str, default_unit: str, field: str = "value") -> float:
    """Return the SI value of a typed quantity.

    Parameters
    ----------
    text : str
        What the user typed; decimal point or comma, fractions such as ``3/4`` and ``1 1/2``.
    quantity : str
        ``length``, ``temperature``, ``mass``, ``speed`` or ``fraction``.
    default_unit : str
        Unit of a bare number.
    field : str
        Name used in the error.

    Raises
    ------
    DomainError
        When the text is not a number or its unit does not belong to the quantity.
    """
    units = _UNITS[quantity]
    match = _NUMBER.match(text)
    if match is None:
        raise DomainError(field, repr(text), f"is not a number; type for example 19 {default_unit}")
    unit = (match["unit"] or default_unit).strip().lower()
    if unit not in units:
        known = ", ".join(units)
        raise DomainError(field, repr(text), f"has the unit “{unit}”; use one of {known}")
    try:
        if match["whole"]:
            magnitude = float(int(match["whole"]) + Fraction(match["mixed"]))
        elif match["fraction"]:
            magnitude = float(Fraction(match["fraction"]))
        else:
            magnitude = float(match["decimal"].replace(",", "."))
    except ZeroDivisionError:
        raise DomainError(field, repr(text), "divides by zero; type it again") from None
    if match["sign"] in ("-", "−"):
        magnitude = -magnitude
    factor, offset = units[unit]
    # 70 % is 0.7, not 0.7000000000000001: nobody types more than twelve digits.
    return round(magnitude * factor + offset, 12)


def to_unit(value_si: float, quantity: str, unit: str) -> float:
    """Return an SI value expressed in ``unit`` of ``quantity``."""
    factor, offset = _UNITS[quantity][unit.lower()]
    return (value_si - offset) / factor


def litres_per_hour(flow_m3_s: float) -> float:
    """Return a volume flow [m³/s] in litres an hour."""
    return flow_m3_s * 3.6e6


def grams_per_day(flow_kg_s: float) -> float:
    """Return a mass flow [kg/s] in grams a day."""
    return flow_kg_s * 8.64e7
