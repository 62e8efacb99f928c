"""The rows of Compare as cells: figures, and where best and worst are beyond doubt."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from calveth.app.widgets.figure_grid import Cell, GridRow
from calveth.core.advice.schools import SchoolVerdict
from calveth.core.compare.table import CompareRow
from calveth.core.school import SCHOOLS, School
from calveth.texts.criteria import cell_of, meant_for
from calveth.texts.measures import MEASURES, Measure
from calveth.texts.schools import SCHOOL_TEXT
from calveth.texts.units import UnitSystem


def figure_rows(
    ids: Sequence[str], rows: Mapping[str, CompareRow | None], units: UnitSystem
) -> list[GridRow]:
    """Return the grid of figures; best and worst among the candidates are marked."""
    made = []
    for measure in MEASURES:
        ends = _ends(measure, rows, units)
        cells = []
        for i in ids:
            row = rows[i]
            text = "…" if row is None else measure.write(row, units)
            mark: str = row.crown if row is not None and measure.tells_crown else ""
            if measure.tells_snow and row is not None and row.snow is not None and row.snow.danger:
                mark = "danger"
            cells.append(Cell(text, ends.get(i, mark)))
        made.append(GridRow(measure.name, measure.hint, tuple(cells)))
    return made


def _ends(
    measure: Measure, rows: Mapping[str, CompareRow | None], units: UnitSystem
) -> dict[str, str]:
    """Return the marks of the candidates: best, worst, or ``joint best`` where nobody is apart.

    None while a hive is still being worked out: a provisional figure is not the best of all.
    """
    if any(row is None or row.crown_wet_nights is None for row in rows.values()):
        return {}
    own = {i: row for i, row in rows.items() if row is not None and not row.benchmark}
    ranked = {i: v for i, row in own.items() if (v := measure.rank(row)) is not None}
    if not measure.better or len(ranked) < 2:
        return {}

    def alike(i: str, j: str) -> bool:
        # Two that read the same are not told apart on the page, whatever the draws say.
        one, two = (measure.write(own[k], units).split("\n")[0] for k in (i, j))
        return one == two or not measure.differ(own[i], own[j])

    order = sorted(ranked, key=lambda i: -measure.better * ranked[i])
    first, last = order[0], order[-1]
    top = [i for i in order if i == first or alike(i, first)]
    if len(top) == len(order):
        return {}
    verdicts = dict.fromkeys(top, "best" if len(top) == 1 else "joint best")
    if not any(alike(i, last) for i in order[:-1]):
        verdicts[last] = "worst"
    return verdicts


def school_rows(
    ids: Sequence[str], verdicts: Mapping[str, tuple[SchoolVerdict, ...]], chosen: School
) -> list[GridRow]:
    """Return the grid of verdicts: a row a school, the chosen one named so."""
    made = []
    for k, school in enumerate(SCHOOLS):
        cells = []
        for i in ids:
            if i not in verdicts:
                cells.append(Cell("…"))
                continue
            verdict = verdicts[i][k]
            # A hive that is not built for a school has not failed it.
            mark = "dry" if verdict.passed else "no" if meant_for(verdict) else ""
            cells.append(Cell(cell_of(verdict), mark))
        name = f"{school}\n(stands first)" if school == chosen else school
        made.append(GridRow(name, SCHOOL_TEXT[school].judges, tuple(cells)))
    return made
