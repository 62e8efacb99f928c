"""Looks into hives as records with their units in the names."""

from __future__ import annotations

from typing import Any

from calveth.core.diary.expected import Expected
from calveth.core.records.diary import Inspection, StandingHive


def look_record(
    look: Inspection, hive: StandingHive, expected: Expected, stores_kg: float | None
) -> dict[str, Any]:
    """Return a look with what was expected beside it."""
    return {
        "at": look.at,
        "hive": hive.name,
        "design": hive.design,
        "lid_seen": " ".join(m.replace(" ", "-") for m in look.lid),
        "lid_expected": " ".join(m.replace(" ", "-") for m in expected.lid),
        "floor_seen": look.floor,
        "floor_expected": expected.floor,
        "stores_kg": look.stores_kg,
        "stores_sure_kg": look.stores_sure_kg if look.stores_kg is not None else None,
        "stores_by": look.stores_by if look.stores_kg is not None else None,
        "stores_expected_kg": None if stores_kg is None else round(stores_kg, 2),
        "seams": look.seams,
        "brood": look.brood,
        "entrance": look.entrance,
        "alive": look.alive,
        "fed_kg": look.fed_kg,
        "outside_expected_degc": round(expected.outside_degc, 2),
        "nest_expected_degc": round(expected.nest_degc, 2),
        "co2_expected_share": round(expected.co2, 5),
        "changed": look.changed,
        "text": look.text,
    }
