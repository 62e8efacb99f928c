"""The sheet that goes to the apiary: a box for every hive, its lid map to fill in by hand."""

from __future__ import annotations

from collections.abc import Sequence
from html import escape

from calveth.core.records.diary import StandingHive
from calveth.texts.diary import STINGS
from calveth.texts.html import MUTED

_BOX = "<td width='34' height='26' style='border:1px solid #59616a'>&nbsp;</td>"
WINTER_LOOK = (
    "In winter: heft, look at the entrance, listen. Lift no lid for long; a lid is opened for a "
    "reason."
)


def sheet_html(hives: Sequence[StandingHive], expected: dict[str, str]) -> str:
    """Return the sheet: a block for each hive; ``expected`` says what to heft against, by id."""
    blocks = [_block(hive, expected.get(hive.id, "")) for hive in hives]
    marks = "d dry · a damp · w wet · i ice · m mould · leave empty what was not looked at"
    return (
        f"<h2>Inspection of the hives, date and hour: ______________________</h2>"
        f"<p style='color:{MUTED}'>{WINTER_LOOK} {STINGS}<br>{marks}</p>" + "<br>".join(blocks)
    )


def _grid(rows: Sequence[str], columns: Sequence[str]) -> str:
    head = "".join(f"<td align='center'><small>{c}</small></td>" for c in ("", *columns))
    name = "<td align='right' width='56'><small>{}</small></td>"
    body = "".join(f"<tr>{name.format(r or '&nbsp;')}{_BOX * len(columns)}</tr>" for r in rows)
    wide = 60 + 40 * len(columns)
    return f"<table cellspacing='2' cellpadding='0' width='{wide}'><tr>{head}</tr>{body}</table>"


def _block(hive: StandingHive, expected: str) -> str:
    lid = _grid(("front", "", "back"), ("left", "", "right"))
    walls = _grid(("above", "middle", "below"), ("front", "right", "back", "left"))
    lines = (
        f"heft ________ kg &nbsp; {escape(expected)}",
        "seams of bees ____ &nbsp; floor ____",
        "entrance: nobody / few / many / fanning / water",
        "alive yes / no &nbsp; food ______ kg",
        "changed ______________________________",
    )
    return (
        f"<h3>{escape(hive.name)}{', ' + escape(hive.colony) if hive.colony else ''}</h3>"
        f"<table cellpadding='6'><tr><td>lid{lid}</td><td>walls{walls}</td>"
        f"<td>{'<br>'.join(lines)}</td></tr></table>"
    )
