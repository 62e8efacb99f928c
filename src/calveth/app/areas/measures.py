"""The rows of Compare as cells: figures, and where best and worst are beyond doubt."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from calveth.app.widgets.figure_grid import Cell, GridRow
from calveth.core.assess.schools import SchoolVerdict
from calveth.core.compare.table import CompareRow
from calveth.core.school import SCHOOLS, School
from calveth.texts.criteria import cell_of
from calveth.texts.measures import MEASURES, Measure
from calveth.texts.schools import SCHOOL_TEXT
from calveth.texts.units import UnitSystem


def figure_rows(
    ids: Sequence[str], rows: Mapping[str, CompareRow | None], units: UnitSystem
) -> list[GridRow]:
    """Return the grid of figures; best and worst among the candidates are marked."""
    made = []
    for measure in MEASURES:
        ranks = {
            i: measure.rank(row) for i in ids if (row := rows[i]) is not None and not row.benchmark
        }
        cells = []
        for i in ids:
            row = rows[i]
            text = "…" if row is None else measure.write(row, units)
            mark: str = row.crown if row is not None and measure.tells_crown else ""
            value = ranks.get(i)
            if measure.better and value is not None and row is not None:
                mark = _end(measure, row, others=[
                    r for j in ids if j != i and (r := rows[j]) is not None and not r.benchmark
                ]) or mark  # fmt: skip
            cells.append(Cell(text, mark))
        made.append(GridRow(measure.name, measure.hint, tuple(cells)))
    return made


def _end(measure: Measure, row: CompareRow, others: Sequence[CompareRow]) -> str:
    """Return ``best`` or ``worst`` where a hive is apart from all the others, else nothing."""
    value = measure.rank(row)
    if value is None or not others or not all(measure.differ(row, o) for o in others):
        return ""
    rest = [v for o in others if (v := measure.rank(o)) is not None]
    if all(measure.better * (value - v) > 0 for v in rest):
        return "best"
    return "worst" if all(measure.better * (value - v) < 0 for v in rest) else ""


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
            mark = "dry" if verdict.passed else "no" if verdict.applies else ""
            cells.append(Cell(cell_of(verdict), mark))
        name = f"{school}\n(stands first)" if school == chosen else school
        made.append(GridRow(name, SCHOOL_TEXT[school].judges, tuple(cells)))
    return made
