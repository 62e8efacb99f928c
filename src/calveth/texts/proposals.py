"""What is said of designs that were searched for."""

from __future__ import annotations

from calveth.core.year.propose import Proposal, Search
from calveth.texts.units import UnitSystem
from calveth.texts.year import write_band


def search_sentence(search: Search) -> str:
    """Return what was searched, and what misses least where nothing keeps to the limits."""
    text = (
        f"{search.tried} constructions in thicknesses, joints and openings, {search.within} within "
        "weight, cost, size and materials"
    )
    if 0 < search.through_year < search.within:
        text += f"; the best {search.through_year} of them by the months went through the year"
    text += "; shells estimated."
    if search.front:
        return f"{text} Of {len(search.front)} none is worse than another in everything."
    return f"{text} None keeps to the limits; nearest: {search.nearest} ({search.missed})."


def proposal_sentence(p: Proposal, units: UnitSystem) -> str:
    """Return a proposal in a line."""
    return (
        f"{p.bands.case.design.name}: winter honey "
        f"{write_band(p.bands, 'winter_honey_kg', units)}, {p.cost_eur:.0f} €, heaviest lift "
        f"{units.write(p.lift_kg, 'mass', 0)}, dry above the cluster in {p.dry_of_ten:.0f} of 10, "
        f"the rim wet on {p.bands.likely.rim_wet_nights:.0f} nights"
    )
