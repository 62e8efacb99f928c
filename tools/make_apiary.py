"""Writes the diary of the invented apiary into the catalogue: two winters of six hives.

``.venv/bin/python tools/make_apiary.py``. What is seen comes out of the program's own year with
other parameters than the designs take, so that there is something true to find: `TRUTH`, in two
winters with a weather of their own: `WEATHER`. Cells are misread now and then, hands heft badly;
two loggers write what probes and a scale would have, with their faults (`tools/make_logs.py`). The
seeds are fixed and the same comes out.
"""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np

from calveth.catalogue.apiary import BUILT, apiary_designs
from calveth.catalogue.shipped import demo_project
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import estimated_case
from calveth.core.climate.generated import SEED as SHIPPED_SEED
from calveth.core.climate.year import year_weather
from calveth.core.diary.expected import expected_at, expected_stores_kg
from calveth.core.hive.design import Design
from calveth.core.parameters import LIKELY
from calveth.core.project import Project
from calveth.core.records.diary import NOT_LOOKED, Diary, Inspection, Mark, StandingHive
from calveth.core.year.result import YearRun
from calveth.core.year.run import run_year
from calveth.store.converter import to_document

ROOT = Path(__file__).resolve().parent.parent
TRUTH = replace(LIKELY, leakage_factor=2.0, bees_factor=1.15, shell_factor=1.06)
"""Twice as leaky joints, 15 % more bees, layers that conduct 6 % more than taken."""
SEED, MISREAD, HEFTED_KG = 7, 0.06, 1.0
LOOKS = ("10-04T15:00", "12-03T13:00", "02-08T13:30", "03-20T14:00")
OPENED = (1, 2)
WINTERS = (2023, 2024)
WEATHER = {2023: (23, -1.0), 2024: (SHIPPED_SEED, 0.8)}
"""Seed of the hours of a winter, and how much warmer than usual its months were [K]. The winds of
the logged winter are those the program makes up, else what CO2 tells of leakage would drown in
winds nobody logged."""


def truth(project: Project, designs: dict[str, Design], design: str, winter: int) -> YearRun:
    """Return the year of a winter as it was."""
    seed, warmer = WEATHER[winter]
    place = project.place
    months = tuple(replace(m, temperature_degc=m.temperature_degc + warmer) for m in place.months)
    there = replace(place, months=months)
    case, _ = solved_case(estimated_case(project, designs[design]), spots=False)
    return run_year(replace(case, parameters=TRUTH), year_weather(there, seed))


def made() -> Diary:
    """Return the diary, worked out from nothing."""
    random = np.random.default_rng(SEED)
    project = demo_project()
    designs = {d.id: d for d in apiary_designs()}
    runs = {
        (key, winter): truth(project, designs, key, winter)
        for key in dict.fromkeys(h.design for h in BUILT)
        for winter in WINTERS
    }
    looks: list[Inspection] = []
    for hive in BUILT:
        for winter in WINTERS:
            looks += _winter(hive, winter, runs[hive.design, winter], random, len(looks))
    return Diary(hives=BUILT, inspections=tuple(looks))


def main() -> None:
    """Work the years out and write the diary."""
    diary = made()
    path = ROOT / "src" / "calveth" / "catalogue" / "apiary.json"
    text = json.dumps(to_document(diary), ensure_ascii=False, indent=1)
    path.write_text(text + "\n", encoding="utf-8")
    print(f"wrote {path.name}: {len(diary.inspections)} looks")


def _winter(
    hive: StandingHive, winter: int, run: YearRun, random: np.random.Generator, count: int
) -> list[Inspection]:
    """Return the looks of one winter: hefted each time, the lid lifted in between."""
    found = []
    autumn = 18.0 + random.normal(0.0, 1.5)
    start = datetime.fromisoformat(f"{winter}-{LOOKS[0]}")
    for k, text in enumerate(LOOKS):
        year = winter if int(text[:2]) > 6 else winter + 1
        when = datetime.fromisoformat(f"{year}-{text}") + timedelta(days=int(random.integers(0, 5)))
        if not hive.stands_on(when.date()):
            continue
        seen = expected_at(run, when)
        stores = expected_stores_kg(run, start, autumn, when) + random.normal(0.0, HEFTED_KG)
        opened = k in OPENED
        found.append(
            Inspection(
                id=f"look-{count + len(found) + 1}",
                hive=hive.id,
                at=when.isoformat("T", "minutes"),
                lid=_read(seen.lid, random) if opened else (NOT_LOOKED,) * 9,
                walls=_read(seen.walls, random) if opened else (NOT_LOOKED,) * 12,
                floor=seen.floor if opened else NOT_LOOKED,
                stores_kg=round(max(stores, 0.5), 1),
                stores_by="scale" if k == 0 else "hand",
                stores_sure_kg=0.5 if k == 0 else 2.0,
                alive=True,
                entrance="few" if seen.outside_degc > 8 else "nobody",
                text="lid lifted for a moment" if opened else "",
            )
        )
    return found


def _read(marks: tuple[Mark, ...], random: np.random.Generator) -> tuple[Mark, ...]:
    """Return marks as a hand reads them: now and then one for its neighbour."""
    order: tuple[Mark, ...] = ("dry", "damp", "wet")
    found: list[Mark] = []
    for mark in marks:
        if mark in order and random.random() < MISREAD:
            k = order.index(mark)
            found.append(order[min(max(k + int(random.choice((-1, 1))), 0), 2)])
        else:
            found.append(mark)
    return tuple(found)


if __name__ == "__main__":
    main()
