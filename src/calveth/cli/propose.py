"""``calveth propose``: designs within limits, tried on the year."""

from __future__ import annotations

import argparse
from dataclasses import replace
from pathlib import Path

from calveth.catalogue.library import materials_of
from calveth.cli.files import (
    Commands,
    add_format,
    find_design,
    finite,
    output_file,
    print_csv,
    print_json,
    read_project,
)
from calveth.cli.progress import report
from calveth.cli.year import draws_of
from calveth.core.case import estimated_case
from calveth.core.edits import add_design
from calveth.core.errors import DomainError
from calveth.core.records.diary import next_id
from calveth.store.json_file import write_json
from calveth.texts.units import METRIC


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("propose", help="designs within limits of weight, cost and damp")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--design", required=True, help="whose cavity is built round")
    p.add_argument("--lift", metavar="KG", help="heaviest lift, full")
    p.add_argument("--cost", metavar="EUR", help="material at most")
    p.add_argument("--size", metavar="MM", help="outer width and length at most")
    p.add_argument("--dry", metavar="N", default="9", help="dry in N of ten draws at least")
    p.add_argument("--materials", metavar="LIST", help="ids at hand, such as softwood,eps")
    p.add_argument("--draws", default="10", metavar="N", help="draws for the ranges, 1 to 200")
    p.add_argument("-o", "--output", metavar="FILE.json", help="the project with the proposals")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print the front, and write it into a copy of the project."""
    from calveth.catalogue.candidates import candidates
    from calveth.core.year.propose import Limits, propose
    from calveth.store.year_records import year_record
    from calveth.texts.proposals import proposal_sentence, search_sentence

    project = read_project(args.file)
    path: Path | None = output_file(args.output, ".json") if args.output else None
    count = draws_of(args.draws)
    if count < 1:
        raise DomainError("--draws", args.draws, "tell no ranges; type 1 to 200")
    no_limit = float("inf")
    limits = Limits(
        lift_kg=finite("--lift", args.lift) if args.lift else no_limit,
        cost_eur=finite("--cost", args.cost) if args.cost else no_limit,
        outer_m=finite("--size", args.size) / 1000 if args.size else no_limit,
        dry_of_ten=int(finite("--dry", args.dry)),
        materials=frozenset(m.strip() for m in (args.materials or "").split(",") if m.strip()),
    )
    case = estimated_case(project, find_design(project, args.design))
    search = propose(candidates(case), limits, draws=count, report=report)
    rows = [
        {
            **year_record(p.bands),
            "heaviest_lift_kg": round(p.lift_kg, 1),
            "material_cost_eur": round(p.cost_eur, 1),
            "outer_mm": round(1000 * p.outer_m),
            "dry_in_so_many_of_ten": round(p.dry_of_ten, 1),
        }
        for p in search.front
    ]
    if args.format == "json":
        print_json(
            {
                "tried": search.tried,
                "within_limits": search.within,
                "through_the_year": search.through_year,
                "front": rows,
                "nearest": search.nearest,
                "missed": search.missed,
            }
        )
    elif args.format == "csv":
        print_csv(rows)
    else:
        print(search_sentence(search))
        for p in search.front:
            print(f"- {proposal_sentence(p, METRIC)}")
    if path is not None:
        for p in search.front:
            taken = {d.id for d in project.designs}
            free = f"proposed-{p.bands.case.design.id}"
            free = next_id(taken, free) if free in taken else free
            design = replace(p.bands.case.design, id=free)
            project = add_design(project, design, materials_of(design))
        write_json(path, project)
    return 0
