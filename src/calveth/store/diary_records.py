"""Looks into hives as records with their units in the names."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from calveth.core.diary.calibrate import Calibration
from calveth.core.diary.expected import Expected
from calveth.core.diary.explain import Explained
from calveth.core.diary.hive_season import HiveSeason
from calveth.core.records.diary import Diary, Inspection, StandingHive
from calveth.store.converter import from_document
from calveth.store.errors import DocumentError, FileError
from calveth.store.gate import parse_json, read_text

_MOST_BYTES = 100_000_000


def look_record(
    look: Inspection,
    hive: StandingHive,
    expected: Expected,
    stores_kg: float | None,
    band_kg: tuple[float, float] | None,
    *,
    logged: bool,
) -> dict[str, Any]:
    """Return a look with what was expected beside it; ``logged`` tells whose weather it was."""
    low, high = band_kg or (None, None)
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
        "stores_expected_low_kg": None if low is None else round(low, 2),
        "stores_expected_high_kg": None if high is None else round(high, 2),
        "weather": "logged" if logged else "typical",
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


def with_inspections(diary: Diary, path: Path) -> Diary:
    """Return a diary with the inspections of a JSON file: its list, or its key “inspections”.

    One with an id that is known takes the place of the one before; without an id it gets the next.

    Raises
    ------
    FileError
        When the file is none, or an inspection cannot be; it names the field.
    DomainError
        When one is of a hive that is not there, or not while it stands.
    """
    try:
        document = parse_json(read_text(path, _MOST_BYTES, "inspections are smaller"))
    except DocumentError as error:
        raise FileError(path, str(error)) from error
    rows = document.get("inspections") if isinstance(document, dict) else document
    if not isinstance(rows, list) or not all(isinstance(row, dict) for row in rows):
        raise FileError(path, "holds no list of inspections; see the page on file formats")
    taken = {i.id for i in diary.inspections} | {str(row["id"]) for row in rows if "id" in row}
    number, added = 0, []
    for row in rows:
        if "id" not in row:
            while f"look-{(number := number + 1)}" in taken:
                pass
            row["id"] = f"look-{number}"
        try:
            added.append(from_document(row, Inspection))
        except DocumentError as error:
            raise FileError(path, f"inspection {row['id']}: {error}") from error
    return diary.with_inspections(added)


def calibration_record(
    season: HiveSeason, explained: Explained, calibration: Calibration | None
) -> dict[str, Any]:
    """Return explanations and factors of a hive in a season; factors are null without logs."""
    record: dict[str, Any] = {
        "hive": season.hive,
        "design": season.design,
        "season": season.season,
        "hours_of_weather_logged": season.weather.hours,
        "explanations": [
            {
                "why": e.why,
                "times": e.times,
                "cost": round(e.cost, 2),
                "wins": round(e.wins, 3),
                "would_show": {t.replace(" ", "_"): float(f"{v:.5g}") for t, v in e.shows},
            }
            for e in explained.ranked
        ],
        "factors": None,
    }
    if calibration is not None:
        record["nights"] = calibration.nights
        record["factors"] = [
            {
                "factor": f.factor,
                "value": round(f.value, 4),
                "low_90": round(f.low, 4),
                "high_90": round(f.high, 4),
                "tells": f.tells,
            }
            for f in calibration.factors
        ]
    return record
