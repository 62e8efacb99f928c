"""What a remedy does, in words and units."""

from __future__ import annotations

from calveth.core.assess.remedies import Remedy
from calveth.texts.findings import said
from calveth.texts.units import METRIC, UnitSystem


def what_is_done(remedy: Remedy, units: UnitSystem = METRIC) -> str:
    """Return what is done, as a short instruction."""
    return said(remedy.done, units)


def effect(remedy: Remedy, units: UnitSystem) -> str:
    """Return what a remedy does, in words."""
    crown = {
        "dry": "lid dry all year",
        "wet ring": "still a wet ring at worst",
        "wet": "still drips at worst",
    }[remedy.crown]
    parts = [crown]
    if remedy.wet_months_less:
        less = "fewer" if remedy.wet_months_less > 0 else "more"
        number = abs(remedy.wet_months_less)
        parts.append(f"{number} wet month{'s' if number > 1 else ''} {less}")
    size = abs(remedy.honey_kg)
    if size >= 0.05:
        less = "less" if remedy.honey_kg < 0 else "more"
        parts.append(f"{units.write(size, 'mass')} {less} honey")
    if abs(remedy.cost_eur) >= 0.5:
        parts.append(f"{remedy.cost_eur:+.0f} €")
    return ", ".join(parts)
