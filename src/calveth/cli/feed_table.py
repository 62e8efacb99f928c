"""``calveth feed-table``: honey to leave by climate, hive, sealed or vented top, and colony."""

from __future__ import annotations

import argparse
from math import isfinite

from calveth.catalogue.library import named, shipped_places
from calveth.cli.files import Commands, add_format, print_csv, print_json, read_project
from calveth.cli.progress import report
from calveth.cli.year import cases_of, draws_of


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("feed-table", help="honey to leave by climate, hive and colony")
    p.add_argument("file", help="a .calveth or .json project whose hives stand in the table")
    p.add_argument("--design", help="id or name of one design; all without it")
    p.add_argument("--place", help="one place that ships, by id or name; all without it")
    p.add_argument("--draws", default="8", metavar="N", help="draws for the ranges, 0 to 200")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print the table."""
    from calveth.core.year.questions import feed_table
    from calveth.store.year_records import feed_record

    project = read_project(args.file)
    count = draws_of(args.draws)
    known = shipped_places()
    places = [named("place", args.place, known).place] if args.place else [s.place for s in known]
    cells = feed_table(cases_of(project, args.design), places, draws=count, report=report)
    if args.format != "text":
        records = [feed_record(cell) for cell in cells]
        (print_json if args.format == "json" else print_csv)(records)
        return 0
    print("Honey burnt from the last to the first forage week, kg; leave the high end.")
    at = ""
    for cell in cells:
        if cell.place != at:
            at = cell.place
            print(f"\n{at}, {cell.days} days without forage")
            if cell.days < 7:
                print("   no winter: a dearth has no date here")
        if cell.days < 7:
            continue
        top = "vented" if cell.vented else "sealed"
        if not isfinite(cell.likely_kg):
            print(f"   {cell.hive:<24}{top:<8}{cell.strength:<8} no answer, too little air")
            continue
        band = f"({cell.low_kg:.1f} to {cell.high_kg:.1f})" if count else ""
        print(f"   {cell.hive:<24}{top:<8}{cell.strength:<8}{cell.likely_kg:>6.1f} {band}")
    return 0
