"""``calveth compare``: the designs of a project side by side."""

from __future__ import annotations

import argparse
import shutil
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor

from calveth.cli.files import Commands, add_format, month_index, print_csv, print_json, read_project
from calveth.cli.progress import report
from calveth.core.case import HiveCase, estimated_case
from calveth.core.climate.place import has_forage
from calveth.core.compare.table import CompareRow
from calveth.core.hive.design import Design
from calveth.core.kept import kept
from calveth.core.project import Project
from calveth.store.records import compare_record
from calveth.texts.measures import MEASURES
from calveth.texts.summary import summary_sentences
from calveth.texts.units import METRIC

_THREADS = 2


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("compare", help="the designs of a project side by side")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--month", metavar="M", default="1", help="month to compare in, 1 to 12")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def row_of(project: Project, design: Design, at: int) -> CompareRow:
    """Return the measures of a design in a month (0 to 11); what was asked before is read."""
    case = estimated_case(project, design)
    return kept(CompareRow, (*case.key, at), lambda: _worked_out(case, at))


def _worked_out(case: HiveCase, at: int) -> CompareRow:
    # The compiler's library and the solvers take a second to load.
    from calveth.core.advice.dossier import assess_solved
    from calveth.core.assess.nights import assess_nights
    from calveth.core.assess.snowed_in import snow_months, under_snow, when_snowed_in
    from calveth.core.compare.table import compare_row

    monthly = assess_solved(case)
    snow = under_snow(when_snowed_in(monthly, snow_months(monthly.place)))
    return compare_row(monthly, assess_nights(monthly), at, snow)


def side_by_side(rows: Sequence[CompareRow], width: int = 0) -> list[str]:
    """Return every measure of some hives, as many hives side by side as there is room for.

    The rows are those of the window's Compare (`texts.measures.MEASURES`).
    """
    width = width or max(shutil.get_terminal_size((100, 24)).columns, 60)
    names = [m.name.replace("\n", ", ") for m in MEASURES]
    cells = [[" ".join(m.write(r, METRIC).split()) for m in MEASURES] for r in rows]
    first = max(map(len, names))
    wide = [max(len(r.name), *map(len, c)) + 2 for r, c in zip(rows, cells, strict=True)]
    lines: list[str] = []
    begin = 0
    while begin < len(rows):
        end = begin + 1
        while end < len(rows) and first + sum(wide[begin : end + 1]) <= width:
            end += 1
        block = range(begin, end)
        lines.append(" " * first + "".join(rows[k].name.rjust(wide[k]) for k in block))
        for at, name in enumerate(names):
            lines.append(name.ljust(first) + "".join(cells[k][at].rjust(wide[k]) for k in block))
        lines.append("")
        begin = end
    return lines[:-1]


def run(args: argparse.Namespace) -> int:
    """Print the comparison."""
    project = read_project(args.file)
    at = month_index(args.month, project.place)
    # Solvers and the compiled balance let other threads run.
    with ThreadPoolExecutor(_THREADS) as pool:
        rows = []
        for row in pool.map(lambda design: row_of(project, design, at), project.designs):
            rows.append(row)
            report(len(rows) / len(project.designs))
    sentences = summary_sentences(rows, at, forage=has_forage(project.place, at))
    if args.format == "json":
        print_json({"summary": sentences, "designs": [compare_record(row) for row in rows]})
    elif args.format == "csv":
        print_csv([compare_record(row) for row in rows])
    else:
        for sentence in sentences:
            print(sentence)
        print()
        for line in side_by_side(rows):
            print(line)
    return 0
