"""``calveth pairs``: which of two hives has less of something, in how many of a hundred draws."""

from __future__ import annotations

import argparse

from calveth.cli.files import Commands, add_format, print_csv, print_json, read_project
from calveth.cli.progress import report
from calveth.cli.year import cases_of, draws_of
from calveth.core.ends import at_least
from calveth.core.errors import DomainError


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("pairs", help="hives beside hives, draw by draw: which burns less")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--figure", default="winter_honey_kg", help="a figure of `calveth year`")
    p.add_argument("--draws", default="16", metavar="N", help="draws, 1 to 200")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print the pairs."""
    from calveth.core.year.draws import less_in, year_bands
    from calveth.texts.year import WORDS, write_band

    project = read_project(args.file)
    count = draws_of(args.draws)
    if count < 1:
        raise DomainError("--draws", args.draws, "pair nothing; type 1 to 200")
    if args.figure not in WORDS:
        raise DomainError("--figure", args.figure, f"is not known; use {', '.join(WORDS)}")
    rows = year_bands(cases_of(project, None), count, report)
    ordered = sorted(rows, key=lambda r: getattr(r.likely, args.figure))
    table = [
        {
            "design": one.case.design.name,
            "than": two.case.design.name,
            "figure": args.figure,
            "lower_in_share_of_draws": round(less_in(one, two, args.figure), 4),
        }
        for one in ordered
        for two in ordered
        if one is not two
    ]
    if args.format == "json":
        print_json(table)
    elif args.format == "csv":
        print_csv(table)
    else:
        print(f"{WORDS[args.figure].name}; of 100 draws the hive of the row is lower in so many\n")
        sure = round(100 * at_least(count, count))
        print(f"Where all {count} agree, it is so in {sure} or more of 100 hives built alike.\n")
        print(" " * 46 + "".join(f"{k + 1:>5}" for k in range(len(ordered))))
        for k, one in enumerate(ordered):
            cells = "".join(
                "    -" if one is two else f"{100 * less_in(one, two, args.figure):>5.0f}"
                for two in ordered
            )
            print(f"{k + 1:>2} {one.case.design.name:<23}{write_band(one, args.figure):>20}{cells}")
    return 0
