"""The figures of a year as records with their units in the names."""

from __future__ import annotations

from math import isfinite
from typing import Any

from calveth.core.year.draws import YearBands
from calveth.core.year.figures import NAMES
from calveth.core.year.questions import FeedCell


def _number(value: float) -> float | None:
    return float(f"{value:.5g}") if isfinite(value) else None


def year_record(row: YearBands) -> dict[str, Any]:
    """Return the figures of a hive with their bands; what is not a number is left empty."""
    record: dict[str, Any] = {
        "design": row.case.design.id,
        "name": row.case.design.name,
        "place": row.case.place.name,
        "draws": len(row.parameters),
        "calibrated": row.case.design.factors is not None,
        "shell": "solved" if row.case.shells(row.case.design).solved else "estimated",
    }
    for name in NAMES:
        low, high = row.band(name)
        record[name] = _number(getattr(row.likely, name))
        if row.parameters:
            record[f"{name}_low"], record[f"{name}_high"] = _number(low), _number(high)
    return record


def feed_record(cell: FeedCell) -> dict[str, Any]:
    """Return a cell of the winter-feed table."""
    return {
        "place": cell.place,
        "days_without_forage": cell.days,
        "hive": cell.hive,
        "top": "vented" if cell.vented else "sealed",
        "colony": cell.strength,
        "honey_kg": _number(cell.likely_kg),
        "honey_kg_low": _number(cell.low_kg),
        "honey_kg_high": _number(cell.high_kg),
    }
