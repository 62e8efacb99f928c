"""``calveth diary``: the hives that stand and what was seen of them beside what was expected."""

from __future__ import annotations

import argparse
from datetime import date
from pathlib import Path
from typing import Any

from calveth.cli.files import Commands, add_format, print_csv, print_json, read_project
from calveth.cli.log_import import store_project
from calveth.core.case import estimated_case
from calveth.core.diary.expected import (
    agreement,
    expected_at,
    expected_stores_kg,
    stores_before,
    survival,
)
from calveth.core.edits_diary import set_diary
from calveth.core.project import Project
from calveth.core.year.result import YearRun
from calveth.store.diary_records import look_record, with_inspections
from calveth.texts.design_changes import version_sentences
from calveth.texts.diary import agreement_sentence, beside_sentences, survival_sentence


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("diary", help="hives that stand: what was seen, what was expected")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument(
        "--read", metavar="FILE",
        help="first take in inspections from JSON: a list of them, or what “inspections” holds",
    )  # fmt: skip
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def years_of(project: Project) -> dict[str, YearRun]:
    """Return the years of the designs that were built, by id."""
    from calveth.core.assess.shells import solved_case
    from calveth.core.year.run import run_year

    built = dict.fromkeys(h.design for h in project.diary.hives)
    return {
        key: run_year(solved_case(estimated_case(project, project.design(key)), spots=False)[0])
        for key in built
    }


def run(args: argparse.Namespace) -> int:
    """Print the inspections of every hive with what was expected."""
    project = read_project(args.file)
    if args.read:
        project = set_diary(project, with_inspections(project.diary, Path(args.read)))
        store_project(Path(args.file), project)
    diary = project.diary
    runs = years_of(project)
    pairs = [(i, expected_at(runs[diary.hive(i.hive).design], i.when)) for i in diary.inspections]
    records: list[dict[str, Any]] = []
    lines: list[str] = []
    for look, expected in pairs:
        year = runs[diary.hive(look.hive).design]
        last, stores = stores_before(diary, project.place, look), None
        if last is not None:
            stores = expected_stores_kg(year, last.when, float(last.stores_kg or 0.0), look.when)
        records.append(look_record(look, diary.hive(look.hive), expected, stores))
        lines.append(f"{look.at} {diary.hive(look.hive).name}")
        lines += [f"   {line}" for line in beside_sentences(look, expected, stores)]
    if args.format == "json":
        print_json({"inspections": records})
    elif args.format == "csv":
        print_csv(records)
    else:
        came = [
            survival_sentence(s, project.design(s.design).name)
            for s in survival(diary, date.today())
        ]
        built = dict.fromkeys(h.design for h in diary.hives)
        lines += [line for key in built for line in version_sentences(project, project.design(key))]
        print("\n".join([*lines, agreement_sentence(agreement(pairs)), *came]))
    return 0
