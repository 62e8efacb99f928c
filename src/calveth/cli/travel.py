"""``calveth travel``: the hives of a project in every place that ships."""

from __future__ import annotations

import argparse

from calveth.catalogue.library import shipped_places
from calveth.cli.files import Commands, add_format, print_csv, print_json, read_project
from calveth.cli.progress import report
from calveth.cli.year import cases_of, draws_of
from calveth.core.colony.curves import STRENGTHS


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("travel", help="the hives of a project in all places that ship")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--design", help="id or name of one design; all without it")
    p.add_argument("--colony", choices=STRENGTHS, default="normal")
    p.add_argument("--draws", default="0", metavar="N", help="draws for the ranges, 0 to 200")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print the grid."""
    from calveth.core.year.questions import travel
    from calveth.store.year_records import year_record

    project = read_project(args.file)
    count = draws_of(args.draws)
    places = [s.place for s in shipped_places()]
    if all(place.name != project.place.name for place in places):
        places = [project.place, *places]
    cases = cases_of(project, args.design)
    grid = travel(cases, places, strength=args.colony, draws=count, report=report)
    if args.format != "text":
        records = [year_record(cell) for row in grid for cell in row]
        (print_json if args.format == "json" else print_csv)(records)
        return 0
    print("wet nights above the cluster / on the rim, winter honey kg, hottest nest air °C\n")
    for row in grid:
        print(row[0].case.design.name)
        for cell in row:
            if cell.trouble:
                print(f"   {cell.case.place.name:<16} {cell.trouble}")
                continue
            f = cell.likely
            print(
                f"   {cell.case.place.name:<16}{f.lid_wet_nights:>5.0f} /{f.rim_wet_nights:>4.0f}"
                f"{f.winter_honey_kg:>8.1f}{f.hottest_nest_degc:>8.1f}"
            )
    return 0
