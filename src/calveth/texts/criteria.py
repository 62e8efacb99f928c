"""What a way of wintering says of a hive, in words and units."""

from __future__ import annotations

from calveth.core.advice.schools import Criterion, SchoolVerdict
from calveth.texts.units import UnitSystem

CRITERIA: dict[str, str] = {
    "lid water": "water on the lid in the wettest winter month",
    "lid margin": "lid above dew point on a cold night",
    "stores": "winter honey of busy bees against the stores",
    "exit": "an exit above the snow in every winter month",
    "vented": "vents or an opening above in every winter month",
    "absorbs": "a quilt or an absorbing board above the bees",
    "quilt": "quilt at its fullest",
    "tight above": "no opening above in winter",
    "air share": "share of the heat that leaves with the air",
    "two sides high": "openings high up on two sides in winter",
    "none low": "none low in winter",
    "draught": "draught at the comb",
    "room humidity": "humidity of the room",
    "room mould": "humidity of the room, mould",
    "room CO2": "CO2 in the nest",
    "room lid water": "water on the lid",
    "drink": "a little water for the bees to drink",
    "swing": "swing of the nest on a day of the hottest month",
    "hottest hour": "hottest hour of the nest air",
}
"""What each criterion of the schools asks for, by its id."""


def said_of(verdict: SchoolVerdict) -> str:
    """Return in a word what a way of wintering says of a hive."""
    if not verdict.applies:
        return "does not apply outdoors"
    if verdict.passed:
        return "passes"
    if not meant_for(verdict):
        return "not this way"
    built, met = _parts(verdict)
    return f"{built}, achieves {met}" if built else f"achieves {met}"


def meant_for(verdict: SchoolVerdict) -> bool:
    """Return whether a hive is built for a school at all, so that it can meet or miss its signs."""
    return verdict.applies and (not verdict.has or all(c.passed for c in verdict.has))


def cell_of(verdict: SchoolVerdict) -> str:
    """Return the same for a narrow cell of two lines."""
    if not meant_for(verdict):
        return "– not this way"
    if verdict.passed:
        return "passes"
    built, met = _parts(verdict)
    return f"{built},\n{met} met" if built else f"{met} met"


def _parts(verdict: SchoolVerdict) -> tuple[str, str]:
    met = f"{sum(c.passed for c in verdict.achieves)} of {len(verdict.achieves)}"
    if not verdict.has:
        return "", met
    return "built so", met


def criterion_text(criterion: Criterion, units: UnitSystem) -> str:
    """Return a criterion with its figure and its limit."""
    if criterion.sense == "yes":
        return f"{CRITERIA[criterion.id]}: {'yes' if criterion.value else 'no'}"
    value, limit = (
        _write(v, criterion.quantity, units) for v in (criterion.value, criterion.limit)
    )
    sure = criterion.of_ten
    often = "" if sure is None or sure in (0, 10) else f"; met in {sure} of 10"
    return f"{CRITERIA[criterion.id]}: {value} ({criterion.sense} {limit}{often})"


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
