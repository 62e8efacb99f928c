"""The winter-feed table of a hive in words, for the screen and the wall."""

from __future__ import annotations

from collections.abc import Sequence
from math import isfinite

from calveth.core.year.questions import FeedCell
from calveth.texts.html import MUTED, table
from calveth.texts.units import UnitSystem

_NO_WINTER_DAYS = 7


def feed_html(cells: Sequence[FeedCell], units: UnitSystem) -> str:
    """Return the table of one hive: a row for a place, columns by top and colony."""
    if not cells:
        return ""
    unit = units.unit("mass")
    strengths = tuple(dict.fromkeys(c.strength for c in cells))
    tops = ((False, "sealed"), (True, "20 mm hole under the lid"))
    head = ["", "days", *(f"{s}, {text}" for _, text in tops for s in strengths)]
    rows = [head]
    for place in dict.fromkeys(c.place for c in cells):
        own = [c for c in cells if c.place == place]
        by_cell = {(c.vented, c.strength): c for c in own}
        row = [place.replace(" (invented)", ""), str(own[0].days)]
        row += [_cell(by_cell.get((v, s)), units) for v, _ in tops for s in strengths]
        rows.append(row)
    return (
        f"<h3>{cells[0].hive}: honey to leave for the winter, {unit}</h3>"
        f"<p style='color:{MUTED}'>Burnt from the last to the first forage week, in brackets 8 of "
        "10 hives built alike; leave the high end. Local experience and the scale decide.</p>"
        + table(rows)
    )


def _cell(cell: FeedCell | None, units: UnitSystem) -> str:
    if cell is None:
        return ""
    if cell.days < _NO_WINTER_DAYS:
        return "no winter"
    if not isfinite(cell.likely_kg):
        return "too little air"
    likely = units.number(cell.likely_kg, "mass", 1)
    if cell.high_kg - cell.low_kg < 1e-9:
        return f"<b>{likely}</b>"
    low, high = (units.number(v, "mass", 1) for v in (cell.low_kg, cell.high_kg))
    return f"<b>{likely}</b> ({low} to {high})"
