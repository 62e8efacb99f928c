"""``calveth sweep``: what each centimetre of a layer brings."""

from __future__ import annotations

import argparse

from calveth.cli.files import (
    Commands,
    add_format,
    find_design,
    finite,
    print_csv,
    print_json,
    read_project,
)
from calveth.core.case import estimated_case
from calveth.core.compare.sweep import last_that_pays, stock_range_m, sweep
from calveth.core.errors import DomainError
from calveth.core.hive.design import FACES
from calveth.store.records import sweep_record
from calveth.texts.units import parse_quantity


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("sweep", help="honey, heat and cost over the thickness of a layer")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--design", required=True, help="id or name of the design")
    p.add_argument("--face", choices=FACES, default="walls")
    p.add_argument("--layer", default="1", metavar="N", help="layer from the outside in, 1 first")
    p.add_argument(
        "--sizes", metavar="LIST", help="thicknesses, such as 19mm,25mm,2in (default stock sizes)"
    )
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print the sweep."""
    project = read_project(args.file)
    design = find_design(project, args.design)
    layer = finite("--layer", args.layer)
    stack = design.shell.stack(args.face)
    if layer != int(layer) or not 1 <= layer <= len(stack):
        raise DomainError("--layer", args.layer, f"does not exist; type 1 to {len(stack)}")
    index = int(layer) - 1
    table = project.material_table()
    sizes = (
        [parse_quantity(part, "length", "mm", "--sizes") for part in args.sizes.split(",")]
        if args.sizes
        else list(stock_range_m(table[stack[index].material]))
    )
    points = sweep(
        estimated_case(project, design),
        args.face,
        index,
        sizes,
        solve=True,
        honey_price_eur_kg=project.honey_price_eur_kg,
        years_of_use=project.years_of_use,
    )
    rows = [sweep_record(point) for point in points]
    if args.format == "json":
        print_json(rows)
    elif args.format == "csv":
        print_csv(rows)
    else:
        print(
            f"{'mm':>6} {'W/K':>6} {'honey kg':>9} {'rim K':>6} {'€':>7} {'kg saved/cm':>12} "
            f"{'€/cm':>7}  pays"
        )
        for p in points:
            step = (
                f"{p.saved_kg_cm:>12.3f} {p.cost_eur_cm:>7.2f}  {'yes' if p.pays else 'no'}"
                if p.saved_kg_cm is not None and p.cost_eur_cm is not None
                else ""
            )
            print(
                f"{1000 * p.thickness_m:>6g} {p.conductance_w_k:>6.2f} {p.winter_honey_kg:>9.2f} "
                f"{p.rim_margin_k:>+6.2f} {p.cost_eur:>7.1f} {step}"
            )
        best = last_that_pays(points)
        each = f"{project.honey_price_eur_kg:g} €/kg and {project.years_of_use:g} years each step"
        pays = (
            f"pays up to {1000 * best.thickness_m:g} mm." if best else "costs more than it saves."
        )
        print(f"\nAt {each} {pays}")
    return 0
