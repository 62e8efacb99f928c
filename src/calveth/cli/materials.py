"""``calveth materials``: the catalogue, or the materials of a project."""

from __future__ import annotations

import argparse

from calveth.catalogue.shipped import shipped_materials
from calveth.cli.files import Commands, add_format, print_csv, print_json, read_project
from calveth.core.errors import DomainError
from calveth.store.converter import to_document
from calveth.store.records import material_row


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("materials", help="the shipped materials, or those of a project")
    p.add_argument("file", nargs="?", help="a .calveth or .json project")
    p.add_argument("--find", metavar="WORD", help="only rows with this word in name or group")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print the materials."""
    table = read_project(args.file).materials if args.file else shipped_materials()
    word = (args.find or "").casefold()
    rows = [m for m in table if word in f"{m.name} {m.group} {m.id}".casefold()]
    if not rows:
        raise DomainError("--find", args.find, "is in the name of no material; try a shorter word")
    if args.format == "json":
        print_json([to_document(m) for m in rows])
    elif args.format == "csv":
        print_csv([material_row(m) for m in rows])
    else:
        print(f"{'id':<20} {'name':<44} {'λ W/(m·K)':>9} {'kg/m³':>6} {'μ':>8}  certainty")
        for m in rows:
            print(
                f"{m.id:<20} {m.name:<44} {m.conductivity_w_mk:>9.3f} {m.density_kg_m3:>6.0f} "
                f"{m.vapour_resistance_factor:>8g}  {m.certainty}"
            )
    return 0
