"""What is at hand and would do if a layer were a little thicker or thinner, in words."""

from __future__ import annotations

from calveth.core.advice.own_offers import OwnOffer
from calveth.texts.units import UnitSystem

_PLURAL = {"board": "boards", "sheet": "sheets", "block": "blocks"}
_LITTLE_KG = 0.05
"""Less is not told [kg]."""


def offer_text(offer: OwnOffer, units: UnitSystem) -> str:
    """Return what could be changed and what it does to honey and weight."""
    new = units.write(offer.item.thickness_m, "length")
    was = units.write(offer.was_m, "length")
    layers = len(offer.design.shell.stack(offer.face))
    where = offer.face if layers == 1 else f"{offer.face}, layer {offer.layer + 1} from outside,"
    parts = []
    if offer.honey_kg is None:
        parts.append("the honey cannot be worked out")
    elif abs(offer.honey_kg) < _LITTLE_KG:
        parts.append("as much honey")
    else:
        more = "more" if offer.honey_kg > 0 else "less"
        parts.append(f"needs {units.write(abs(offer.honey_kg), 'mass')} {more} honey")
    if abs(offer.weight_kg) >= _LITTLE_KG:
        what = "heavier" if offer.weight_kg > 0 else "lighter"
        parts.append(f"{units.write(abs(offer.weight_kg), 'mass')} {what}")
    return f"Your {new} {_PLURAL[offer.item.kind]}: {where} {new} instead of {was}: " + ", ".join(
        parts
    )
