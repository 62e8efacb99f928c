"""``calveth compare``: the designs of a project side by side."""

from __future__ import annotations

import argparse
from concurrent.futures import ThreadPoolExecutor

from calveth.cli.files import Commands, add_format, month_index, print_csv, print_json, read_project
from calveth.core.case import HiveCase, estimated_case
from calveth.core.climate.place import has_forage
from calveth.core.compare.table import CompareRow
from calveth.core.hive.design import Design
from calveth.core.kept import kept
from calveth.core.project import Project
from calveth.store.records import compare_record
from calveth.texts.summary import summary_sentences

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


def run(args: argparse.Namespace) -> int:
    """Print the comparison."""
    project = read_project(args.file)
    at = month_index(args.month, project.place)
    # Solvers and the compiled balance let other threads run.
    with ThreadPoolExecutor(_THREADS) as pool:
        rows = list(pool.map(lambda design: row_of(project, design, at), project.designs))
    sentences = summary_sentences(rows, at, forage=has_forage(project.place, at))
    if args.format == "json":
        print_json({"summary": sentences, "designs": [compare_record(row) for row in rows]})
    elif args.format == "csv":
        print_csv([compare_record(row) for row in rows])
    else:
        for sentence in sentences:
            print(sentence)
        print(
            f"\n{'design':<26}{'crown':<10}{'margin':>7}{'rim':>6}{'W/K':>7}{'kg·K/W':>8}"
            f"{'winter honey kg':>20}{'wet nights':>12}{'rim':>5}{'air L/h':>9}{'CO2 %':>7}"
        )
        for r in rows:
            low, high = r.winter_honey_range_kg or (float("nan"), float("nan"))
            print(
                f"{r.name:<26}{r.crown:<10}{r.crown_margin_k:>+6.1f}K{r.rim_margin_k:>+5.1f}K"
                f"{r.conductance_w_k:>7.2f}{r.mass_to_conductance_kg_k_w:>8.2f}"
                f"{r.winter_honey_kg:>8.1f} ({low:.1f} to {high:.1f})"
                f"{r.crown_wet_nights or 0:>9.0f}{r.rim_wet_nights or 0:>7.0f}"
                f"{r.air_l_h:>8.0f}{100 * r.co2_share:>7.2f}"
            )
    return 0
