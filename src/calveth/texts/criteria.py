"""What a way of wintering says of a hive, in words and units."""

from __future__ import annotations

from calveth.core.assess.schools import Criterion, SchoolVerdict
from calveth.texts.units import UnitSystem


def said_of(verdict: SchoolVerdict) -> str:
    """Return in a word what a way of wintering says of a hive."""
    if not verdict.applies:
        return "does not apply outdoors"
    met = sum(c.passed for c in verdict.criteria)
    return "passes" if verdict.passed else f"{met} of {len(verdict.criteria)} met"


def criterion_text(criterion: Criterion, units: UnitSystem) -> str:
    """Return a criterion with its figure and its limit."""
    if criterion.sense == "yes":
        return f"{criterion.name}: {'yes' if criterion.value else 'no'}"
    value, limit = (
        _write(v, criterion.quantity, units) for v in (criterion.value, criterion.limit)
    )
    return f"{criterion.name}: {value} ({criterion.sense} {limit})"


def _write(value: float, quantity: str, units: UnitSystem) -> str:
    known = {
        "g a day": ("water", " a day"),
        "K": ("temperature difference", ""),
        "kg": ("mass", ""),
        "m/s": ("speed", ""),
        "°C": ("temperature", ""),
        "share": ("fraction", ""),
    }
    name, tail = known[quantity]
    return units.write(value, name) + tail
