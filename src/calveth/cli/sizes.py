"""``calveth sizes``: a hive through its year with one thing taken through its sizes."""

from __future__ import annotations

import argparse
from typing import get_args

from calveth.cli.files import Commands, add_format, print_csv, print_json, read_project
from calveth.cli.progress import report
from calveth.cli.year import cases_of, draws_of
from calveth.core.errors import DomainError
from calveth.core.hive.design import FACES
from calveth.core.year.sweeps import What, swept_cases

_SHOWN = ("winter_honey_kg", "lid_wet_nights", "rim_wet_nights", "hottest_nest_degc")


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser(
        "sizes", help="a year over the sizes of an opening, of a layer, or of the colony"
    )
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--design", required=True, help="id or name of the design")
    p.add_argument("--of", choices=get_args(What), default="opening")
    p.add_argument("--opening", default="", help="id of the opening (default the entrance)")
    p.add_argument("--face", choices=FACES, default="walls", help="face of the layer")
    p.add_argument(
        "--layer",
        default="0",
        metavar="N",
        help="layer from the outside in, 1 first (default the one that insulates best)",
    )
    p.add_argument("--draws", default="0", metavar="N", help="draws for the ranges, 0 to 200")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print a year for every size."""
    from calveth.core.year.sweeps import swept_years
    from calveth.store.year_records import year_record
    from calveth.texts.year import WORDS, write_band

    project = read_project(args.file)
    count = draws_of(args.draws)
    if not args.layer.isdecimal():
        raise DomainError("--layer", args.layer, "is no layer; type 1 for the outermost")
    case = cases_of(project, args.design)[0]
    cases = swept_cases(
        case, args.of, opening=args.opening, face=args.face, layer=int(args.layer) - 1
    )
    years = swept_years(cases, draws=count, report=report)
    if args.format != "text":
        key = "thickness_m" if args.of == "layer" else "share"
        records = [{key: round(y.size, 6), **year_record(y.bands)} for y in years]
        (print_json if args.format == "json" else print_csv)(records)
        return 0
    print(" " * 8 + "".join(f"{WORDS[name].name:>30}" for name in _SHOWN))
    for y in years:
        size = f"{1000 * y.size:.0f} mm" if args.of == "layer" else f"{100 * y.size:.0f} %"
        if y.bands.trouble:
            print(f"{size:>8}  {y.bands.trouble}")
            continue
        print(f"{size:>8}" + "".join(f"{write_band(y.bands, name):>30}" for name in _SHOWN))
    return 0
