"""``calveth stock``: the stock list of a project or a shipped one; put into a project."""

from __future__ import annotations

import argparse
from dataclasses import replace
from pathlib import Path

from calveth.catalogue.library import shipped_stock, workshop_of
from calveth.cli.files import Commands, add_format, print_csv, print_json, read_project
from calveth.core.edits import set_workshop
from calveth.core.errors import DomainError
from calveth.core.workshop.stock import Workshop
from calveth.store.project_file import ProjectFile
from calveth.store.stock_file import read_stock, stock_rows


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("stock", help="boards, sheets and blocks there are to cut from")
    p.add_argument("file", nargs="?", help="a .calveth or .json project")
    p.add_argument("--shipped", metavar="LIST", help="a shipped list: metric or inch")
    p.add_argument("--read", metavar="X.csv", help="a list exported before")
    p.add_argument("--into", action="store_true", help="put the list into the .calveth project")
    add_format(p, ("text", "csv", "json"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print a stock list, or put it into a project."""
    project = read_project(args.file) if args.file else None
    workshop = _wanted(args, workshop_of(project) if project else shipped_stock()[0].workshop)
    if args.into:
        if project is None or not args.file.lower().endswith(".calveth"):
            raise DomainError("--into", args.file or "nothing", "is no .calveth project; name one")
        with ProjectFile.open(Path(args.file)) as file:
            before = file.read()
            file.write(before, set_workshop(before, workshop))
        print(f"put {len(workshop.items)} sizes into {args.file}")
        return 0
    rows = stock_rows(workshop)
    if args.format == "json":
        tools = {
            f: getattr(workshop, f)
            for f in ("kerf_m", "block_kerf_m", "trim_m", "tolerance_m", "currency")
        }
        print_json({**tools, "items": rows})
    elif args.format == "csv":
        print_csv(rows)
    else:
        print(
            f"saw cut {1000 * workshop.kerf_m:g} mm, blocks {1000 * workshop.block_kerf_m:g} mm, "
            f"trim {1000 * workshop.trim_m:g} mm, prices in {workshop.currency}"
        )
        for item in workshop.items:
            thick = f"{1000 * item.thickness_m:g}" if item.thickness_m else "any"
            price = "" if item.price is None else f"  {item.price:g} {workshop.currency}"
            had = f"  have {item.have}" if item.have else ""
            had += "" if item.more else ", no more to be had" if had else "  none to be had"
            size = f"{1000 * item.length_m:>6.0f} x {1000 * item.width_m:>5.0f} x {thick:>4} mm"
            print(f"{item.kind:<6} {item.fits:<18} {size}  {item.name}{price}{had}")
    return 0


def _wanted(args: argparse.Namespace, now: Workshop) -> Workshop:
    if args.shipped:
        known = {s.name: s.workshop for s in shipped_stock()}
        if args.shipped not in known:
            raise DomainError(
                "--shipped", args.shipped, f"is not known; choose {' or '.join(known)}"
            )
        now = known[args.shipped]
    if args.read:
        now = replace(now, items=read_stock(Path(args.read)))
    return now
