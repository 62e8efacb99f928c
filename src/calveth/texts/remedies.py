"""What a remedy does, in words and units."""

from __future__ import annotations

from calveth.core.advice.remedies import Remedy
from calveth.texts.findings import message_text
from calveth.texts.units import METRIC, UnitSystem

_DRY = "lid dry all year"


def what_is_done(remedy: Remedy, units: UnitSystem = METRIC) -> str:
    """Return what is done, as a short instruction."""
    return message_text(remedy.done, units)


def effect(remedy: Remedy, units: UnitSystem) -> str:
    """Return what a remedy does, in words."""
    crown = {
        "dry": _DRY,
        "wet ring": "still a wet ring at worst",
        "wet": "still drips at worst",
    }[remedy.crown]
    unsure = remedy.dry_of_ten < 10
    parts = [f"{crown} (in {remedy.dry_of_ten} of 10)" if unsure and crown == _DRY else crown]
    if remedy.wet_months_less:
        less = "fewer" if remedy.wet_months_less > 0 else "more"
        number = abs(remedy.wet_months_less)
        parts.append(f"{number} wet month{'s' if number > 1 else ''} {less}")
    size = abs(remedy.honey_kg)
    if size >= 0.05:
        less = "less" if remedy.honey_kg < 0 else "more"
        parts.append(f"needs {units.write(size, 'mass')} {less} honey")
    if abs(remedy.cost_eur) >= 0.5:
        parts.append(f"{remedy.cost_eur:+.0f} €")
    return ", ".join(parts)
