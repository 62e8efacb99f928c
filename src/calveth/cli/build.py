"""``calveth build``: cut list, layouts, weights, standing, cost; as text, tables or drawings."""

from __future__ import annotations

import argparse

from calveth.catalogue.library import workshop_of
from calveth.cli.files import (
    Commands,
    add_format,
    find_design,
    output_file,
    print_csv,
    print_json,
    read_project,
)
from calveth.core.advice.own_offers import own_offers
from calveth.core.case import estimated_case
from calveth.core.hive.design import Design
from calveth.core.project import Project
from calveth.core.workshop.changes import changes_between
from calveth.core.workshop.plan import BuildPlan, build_plan
from calveth.store.build_records import piece_rows, plan_record
from calveth.texts.build import (
    build_message,
    bulk_text,
    lift_text,
    money,
    parts_text,
    row_name,
    size_text,
    standing_text,
    work_text,
)
from calveth.texts.build_pages import (
    board_lines,
    cast_lines,
    change_lines,
    course_lines,
    sheet_lines,
)
from calveth.texts.own_offers import offer_text
from calveth.texts.units import INCH, METRIC, UnitSystem

_ENDINGS = (".pdf", ".svg", ".dxf", ".3mf", ".stl", ".csv", ".xlsx", ".ods", ".json")


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("build", help="cut list, layouts, weights and drawings of a design")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--design", help="id or name of the design (default the first)")
    p.add_argument(
        "--from",
        dest="before",
        metavar="DESIGN",
        help="what to change to make the design from this one",
    )
    p.add_argument("--inch", action="store_true", help="sizes in inches, to 1/32")
    p.add_argument("-o", "--output", metavar="X", help="write " + ", ".join(_ENDINGS))
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print or write the plan."""
    path = output_file(args.output, *_ENDINGS) if args.output is not None else None
    project = read_project(args.file)
    design = find_design(project, args.design) if args.design else project.designs[0]
    units = INCH if args.inch else METRIC
    plan = plan_of(project, design)
    if args.before:
        before = plan_of(project, find_design(project, args.before))
        changes = changes_between(before.pieces, plan.pieces)
        print(
            "\n".join(
                change_lines(
                    before.design.name, design.name, changes, units, project.material_table()
                )
            )
        )
        return 0
    if path is not None:
        from calveth.app.report.workshop_files import write_plan

        app = None
        if path.suffix.lower() == ".pdf":
            from calveth.app.launch import prepare_offscreen

            app = prepare_offscreen()
        written = write_plan(path, plan, project, units)
        del app
        print(f"wrote {', '.join(written)}")
        return 0
    table = project.material_table()
    if args.format == "json":
        print_json(plan_record(plan, table, project.workshop.currency))
    elif args.format == "csv":
        print_csv(piece_rows(plan, table))
    else:
        _print(plan, project, units)
        for offer in own_offers(estimated_case(project, design), workshop_of(project)):
            print(f"\n{offer_text(offer, units)}")
    return 0


def plan_of(project: Project, design: Design) -> BuildPlan:
    """Return the plan of a design of a project."""
    return build_plan(
        design, project.material_table(), project.colony, project.place, workshop_of(project)
    )


def _print(plan: BuildPlan, project: Project, units: UnitSystem) -> None:
    table, design = project.material_table(), plan.design
    unit = "mm" if units.name == "metric" else "in"
    print(
        f"{design.name}: {len(plan.pieces)} pieces of {len(plan.rows)} kinds, sizes in {unit}, "
        "length along the grain x width x thickness"
    )
    for row in plan.rows:
        size = size_text(row.piece, units)
        print(
            f"{row.number:>4} {row.count:>3} x {size:<24} {parts_text(row.parts)} · "
            f"{row_name(row)} · {table[row.piece.material].name}"
        )
        work = work_text(row, units, plan.panels, plan.joined)
        if work:
            print(f"{'':>11}{work}")
    if plan.bulk:
        print("\nalso to get")
        for bulk in plan.bulk:
            print(f"  {bulk_text(bulk, units, table)}")
    for title, lines in (
        ("boards", board_lines(plan, table, units)),
        ("sheets", sheet_lines(plan, table, units)),
        ("blocks", course_lines(plan, table, units)),
        ("casting", cast_lines(plan, table, units)),
    ):
        if lines:
            print(f"\n{title}")
            print("\n".join(f"  {line}" for line in lines))
    _print_weights(plan, project, units)
    print("\nsteps")
    for number, step in enumerate(plan.steps, start=1):
        print(f"  {number}. {build_message(step.act, units)}")
        for caution in step.cautions:
            print(f"     ! {caution}")
    for problem in plan.problems:
        print(f"\n! {problem}")


def _print_weights(plan: BuildPlan, project: Project, units: UnitSystem) -> None:
    print("\nlifts (empty, in February, full)")
    for v in plan.lifts:
        three = ", ".join(
            units.write(v.lift.kg(s), "mass", 1) for s in ("empty", "february", "full")
        )
        print(f"  {v.lift.part.label:<10} {three}: {lift_text(v, units)}")
    if plan.helps:
        print("  what helps: " + "; ".join(build_message(m, units) for m in plan.helps))
    print("  guidance for work, from memory of the standards; local rules decide")
    print("\nstanding")
    for s in plan.standing:
        print(f"  {standing_text(s, plan.design.details.strap)}")
    for message in plan.stack.says:
        print(f"  {build_message(message, units)}")
    currency = project.workshop.currency
    known = "" if plan.priced else " (some prices are not known)"
    print(
        f"\nbought {money(plan.bought, currency)}, of it used {money(plan.used, currency)}"
        f"{known}; work is left out"
    )
