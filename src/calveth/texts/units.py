"""The one place where units are converted and typed quantities are read.

Inside Calveth everything is SI with °C for temperatures. A typed quantity may carry its own unit
("3/4 in", "19 mm", "1,9 cm"); a bare number takes the unit of its field.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

from calveth.core.errors import DomainError, RangeError
from calveth.core.records.quantity import QUANTITIES, Quantity

# 1 Btu·in/(h·ft²·°F) and 1 Btu/(h·ft²·°F) in SI; NIST SP 811.
_BTU_IN, _BTU_U = 0.14422789, 5.678263

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
    "height": {"m": (1.0, 0.0), "ft": (0.3048, 0.0), "km": (1000.0, 0.0)},
    "temperature": {
        "°c": (1.0, 0.0),
        "c": (1.0, 0.0),
        "°f": (5 / 9, -160 / 9),
        "f": (5 / 9, -160 / 9),
    },
    "temperature difference": {"k": (1.0, 0.0), "°f": (5 / 9, 0.0), "f": (5 / 9, 0.0)},
    "conductivity": {
        "w/(m·k)": (1.0, 0.0),
        "w/mk": (1.0, 0.0),
        "btu·in/(h·ft²·°f)": (_BTU_IN, 0.0),
    },
    "price": {"€/m³": (1.0, 0.0)},
    "money": {"€": (1.0, 0.0)},
    "density": {"kg/m³": (1.0, 0.0), "lb/ft³": (16.018463, 0.0)},
    "number": {"": (1.0, 0.0)},
    "angle": {"°": (1.0, 0.0)},
    "rain": {"mm": (1.0, 0.0), "in": (25.4, 0.0)},
    "area": {"m²": (1.0, 0.0), "cm²": (1e-4, 0.0), "mm²": (1e-6, 0.0), "in²": (6.4516e-4, 0.0)},
    "volume": {"l": (1.0, 0.0), "gal": (3.785412, 0.0)},
    "flow": {"l/h": (1.0, 0.0), "ft³/h": (28.316847, 0.0)},
    "large flow": {"m³/h": (1.0, 0.0), "ft³/min": (1.699011, 0.0)},
    "water": {"g": (1.0, 0.0), "oz": (28.349523, 0.0)},
    "transmittance": {"w/(m²·k)": (1.0, 0.0), "btu/(h·ft²·°f)": (_BTU_U, 0.0)},
    "mass": {"kg": (1.0, 0.0), "g": (0.001, 0.0), "lb": (0.45359237, 0.0)},
    "speed": {"m/s": (1.0, 0.0), "km/h": (1 / 3.6, 0.0), "mph": (0.44704, 0.0)},
    "fraction": {"%": (0.01, 0.0)},
}

# Nobody types longer numbers; thousands of digits would take Python's breath away.
_LONGEST_TYPED = 40
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
    if len(text) > _LONGEST_TYPED:
        raise DomainError(
            field, "a text that long", f"is no number; type such as 19 {default_unit}"
        )
    match = _NUMBER.match(text)
    if match is None:
        raise DomainError(field, repr(text), f"is not a number; type for example 19 {default_unit}")
    unit = (match["unit"] or default_unit).strip().lower()
    if unit[:1] in (",", ".", "'", "’"):
        raise DomainError(field, repr(text), "has two points or commas; type it with one")
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


@dataclass(frozen=True, slots=True, kw_only=True)
class UnitSystem:
    """How quantities are written: a unit and the digits behind the point for each."""

    name: Literal["metric", "inch"]
    units: Mapping[str, tuple[str, int]]

    def unit(self, quantity: str) -> str:
        """Return the unit a quantity is written in."""
        return self.units[quantity][0]

    def digits(self, quantity: str) -> int:
        """Return the digits behind the point a quantity is written with."""
        return self.units[quantity][1]

    def number(self, value_si: float, quantity: str, digits: int | None = None) -> str:
        """Return an SI value in the unit of its quantity, without the unit."""
        unit, usual = self.units[quantity]
        text = f"{to_unit(value_si, quantity, unit):.{usual if digits is None else digits}f}"
        return text[1:] if text.startswith("-") and not text.strip("-0.") else text

    def write(self, value_si: float, quantity: str, digits: int | None = None) -> str:
        """Return an SI value with its unit."""
        unit = self.unit(quantity)
        gap = "" if unit in ("%", "°", "") else " "
        return f"{self.number(value_si, quantity, digits)}{gap}{unit}"

    def margin(self, kelvin: float) -> str:
        """Return how far something is above the dew point, without the unit.

        Below it stands a minus always, with a digit more where one would show nought.
        """
        text = self.number(kelvin, "temperature difference")
        if kelvin < 0 and not text.startswith("-"):
            text = self.number(min(kelvin, -0.01), "temperature difference", 2)
        return text

    def resistance(self, transmittance_w_m2k: float) -> str:
        """Return how a face insulates: U in metric, the R-value in inch units."""
        if self.name == "metric":
            return f"U {transmittance_w_m2k:.2f} W/(m²·K)"
        return f"R {1 / to_unit(transmittance_w_m2k, 'transmittance', 'btu/(h·ft²·°f)'):.1f}"


_ALIKE: dict[str, tuple[str, int]] = {
    "fraction": ("%", 0),
    "money": ("€", 0),
    "price": ("€/m³", 0),
    "number": ("", 2),
    "angle": ("°", 0),
}
METRIC = UnitSystem(
    name="metric",
    units={
        **_ALIKE,
        "length": ("mm", 0),
        "height": ("m", 0),
        "temperature": ("°C", 1),
        "temperature difference": ("K", 1),
        "mass": ("kg", 1),
        "speed": ("m/s", 1),
        "rain": ("mm", 0),
        "volume": ("L", 0),
        "flow": ("L/h", 0),
        "large flow": ("m³/h", 0),
        "water": ("g", 1),
        "conductivity": ("W/(m·K)", 3),
        "density": ("kg/m³", 0),
    },
)
INCH = UnitSystem(
    name="inch",
    units={
        **_ALIKE,
        "length": ("in", 2),
        "height": ("ft", 0),
        "temperature": ("°F", 1),
        "temperature difference": ("°F", 1),
        "mass": ("lb", 1),
        "speed": ("mph", 1),
        "rain": ("in", 1),
        "volume": ("gal", 1),
        "flow": ("ft³/h", 1),
        "large flow": ("ft³/min", 1),
        "water": ("oz", 2),
        "conductivity": ("Btu·in/(h·ft²·°F)", 2),
        "density": ("lb/ft³", 1),
    },
)


# Quantity a refusal's unit is one of, for a screen that writes it in another.
_QUANTITY_OF = {
    "m": "length",
    "°C": "temperature",
    "K": "temperature difference",
    "share": "fraction",
    "m/s": "speed",
    "kg": "mass",
    "mm": "rain",
}


def sentence_of(error: Exception, units: UnitSystem) -> str:
    """Return the sentence of an error, its numbers in the units its field is typed in."""
    if not isinstance(error, RangeError) or error.unit not in _QUANTITY_OF:
        return str(error)
    quantity = _QUANTITY_OF[error.unit]
    given = error.value if isinstance(error.value, float | int) else 0.0
    value, low, high = float(given), error.low, error.high
    unit = units.unit(quantity)

    def shown(number: float) -> str:
        return f"{round(to_unit(number, quantity, unit), 6):g}"

    gap = "" if unit in ("%", "°") else " "
    return (
        f"{error.field}: {shown(value)}{gap}{unit} is outside {shown(low)} to {shown(high)}{gap}"
        f"{unit}; enter a value in that range"
    )


_NOT_THE_HIVES = (
    "battery",
    "batt",
    "bat",
    "akku",
    "batterie",
    "voltage",
    "volt",
    "signal",
    "rssi",
    "lqi",
    "memory",
    "storage",
    "charge",
    "sd",
    "firmware",
)
_TOKEN = re.compile(r"[°%]?[^\W\d_]+[₂2]?|[°%]+", re.UNICODE)
_IN_BRACKETS = re.compile(r"[\[(]\s*([^\])]*?)\s*[\])]")


@dataclass(frozen=True, slots=True)
class Meaning:
    """What a logger's column may be: the quantity, its unit, and how its figures become SI."""

    quantity: Quantity
    unit: str
    factor: float
    offset: float


def header_meanings(header: str) -> tuple[Meaning, ...]:
    """Return what the header of a logger's column may mean; none for what is not the hive's.

    The unit is a whole token: in brackets, or any other, the last one first. Where words and unit
    say different things, or a temperature has no unit, there are several, to be asked.

    >>> [(m.quantity, m.unit) for m in header_meanings("Weight of hive (kg)")]
    [('weight', 'kg')]
    >>> [(m.quantity, m.unit) for m in header_meanings("Humidity of roof (%)")]
    [('humidity', '%')]
    >>> [m.unit for m in header_meanings("Temp")], header_meanings("Battery %")
    (['°c', '°f'], ())
    """
    bracketed = [t for part in _IN_BRACKETS.findall(header) for t in _tokens(part)]
    outside = _tokens(_IN_BRACKETS.sub(" ", header))
    if any(t in _NOT_THE_HIVES for t in (*bracketed, *outside)):
        return ()
    named = [q for q, facts in QUANTITIES.items() if any(t in facts.words for t in outside)]
    named += [
        q
        for q, facts in QUANTITIES.items()
        if q not in named and any(t in facts.words and len(t) > 1 for t in bracketed)
    ]
    for unit in (*bracketed, *reversed(outside)):
        fits = [q for q, facts in QUANTITIES.items() if unit in facts.units]
        if fits == ["humidity", "co2"] and named != ["co2"]:
            fits = ["humidity"]
        both = [q for q in fits if q in named] or fits
        # A bare letter that is a word of the header's own is no unit beside one in brackets.
        if both:
            clash = [q for q in named if q not in fits] if not set(named) & set(fits) else []
            return (*(_meaning(q, unit) for q in both), *(_usual(q) for q in clash))
    meanings: list[Meaning] = []
    for quantity in named:
        meanings.append(_usual(quantity))
        if (other := QUANTITIES[quantity].asked_unit) is not None:
            meanings.append(_meaning(quantity, other))
    return tuple(meanings)


def _tokens(text: str) -> list[str]:
    return [t.lower() for t in _TOKEN.findall(text.replace("º", "°").replace("deg ", "deg"))]


def _meaning(quantity: Quantity, unit: str) -> Meaning:
    return Meaning(quantity, unit, *QUANTITIES[quantity].units[unit])


def _usual(quantity: Quantity) -> Meaning:
    """Return the first unit of a quantity: what it is most often written in."""
    return _meaning(quantity, next(iter(QUANTITIES[quantity].units)))
