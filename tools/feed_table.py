"""Writes the winter-feed table of the demo's hives into docs: Markdown to print, CSV as data.

``.venv/bin/python tools/feed_table.py``; some minutes.
"""

from __future__ import annotations

import sys
from pathlib import Path

from calveth.catalogue.library import shipped_places
from calveth.catalogue.shipped import demo_project
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import estimated_case
from calveth.core.year.questions import FeedCell, feed_table
from calveth.store.tables import csv_text
from calveth.store.year_records import feed_record

DOCS = Path(__file__).resolve().parent.parent / "docs"
HIVES = ("plain-boards", "polystyrene", "composite")
DRAWS = 8
_HEAD = """# Honey to leave for the winter

Honey burnt from the last to the first forage week in kg, by the year hour by hour, likely and
(8 of 10 draws); leave the high end. Places are invented and stand for a climate, bees are those of
`Choose the bees` there, hives are the demo's, `vented` has a hole of 20 mm under the lid. Brood and
flight in those weeks are in it: half or more of the figure in mild places, and guessed. Made by
`tools/feed_table.py`; other hives by `calveth feed-table FILE`. For planning, never a reason to
skip hefting.

What changed last: likely figures by 0.1 kg or less (calmer hours, colonies with a flow, what
boards bind); ranges are wider at both ends, as every draw has a winter of its own where weather
is made up. Before that the law of bees by their own warmth raised plain boards by a quarter and
foam by a fifth.
"""


def cells() -> list[FeedCell]:
    """Return the table."""
    project = demo_project()
    designs = [project.design(key) for key in HIVES]
    cases = [solved_case(estimated_case(project, d), spots=False)[0] for d in designs]
    return feed_table(
        cases,
        [s.place for s in shipped_places()],
        draws=DRAWS,
        report=lambda s: print(f"\r{100 * s:3.0f} %", end="", file=sys.stderr),
    )


def page(found: list[FeedCell]) -> str:
    """Return the table as Markdown: places and colonies down, hives across."""
    hives = list(dict.fromkeys((c.hive, c.vented) for c in found))
    names = [f"{hive}, {'vented' if vented else 'sealed'}" for hive, vented in hives]
    lines = [_HEAD, f"| place, days | bees | {' | '.join(names)} |"]
    lines.append("| - " * (len(hives) + 2) + "|")
    for place, days, strength in dict.fromkeys((c.place, c.days, c.strength) for c in found):
        if days < 7:
            continue
        row = {
            (c.hive, c.vented): f"{c.likely_kg:.1f} ({c.low_kg:.1f} to {c.high_kg:.1f})"
            for c in found
            if (c.place, c.strength) == (place, strength)
        }
        lines.append(
            f"| {place}, {days} | {strength} | " + " | ".join(row[h] for h in hives) + " |"
        )
    none = sorted({c.place for c in found if c.days < 7})
    if none:
        lines.append(f"\nWithout a winter, a dearth has no date here: {', '.join(none)}.")
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    made = cells()
    (DOCS / "winter-feed-table.md").write_text(page(made), encoding="utf-8")
    rows = [feed_record(c) for c in made]
    (DOCS / "winter-feed-table.csv").write_text(csv_text(rows), encoding="utf-8")
