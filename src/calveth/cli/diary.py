"""``calveth diary``: the hives that stand and what was seen of them beside what was expected."""

from __future__ import annotations

import argparse
from collections.abc import Sequence
from datetime import date
from pathlib import Path
from typing import Any

from calveth.cli.edit import edit_project
from calveth.cli.files import Commands, add_format, print_csv, print_json, read_project
from calveth.core.diary.expected import agreement, expected_at, survival
from calveth.core.diary.years import (
    TYPICAL,
    SeasonYear,
    YearKey,
    season_case,
    season_year,
    stores_beside,
    weathered,
    year_key,
)
from calveth.core.edits_diary import set_diary
from calveth.core.nest.steady import NotBalancedError
from calveth.core.project import Project
from calveth.core.records.diary import Inspection, refuse_future
from calveth.store.diary_records import look_record, with_inspections
from calveth.texts.design_changes import version_sentences
from calveth.texts.diary import agreement_sentence, beside_sentences, survival_sentence
from calveth.texts.units import METRIC


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("diary", help="hives that stand: what was seen, what was expected")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument(
        "--read",
        metavar="FILE",
        help="first take in inspections from JSON: a list of them, or what “inspections” holds",
    )
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def years_of(project: Project, looks: Sequence[Inspection]) -> dict[YearKey, SeasonYear | str]:
    """Return the years inspections are held against, with their ranges, or why there is none."""
    known = weathered(project)
    years: dict[YearKey, SeasonYear | str] = {}
    for key in dict.fromkeys(year_key(project, look, known) for look in looks):
        try:
            years[key] = season_year(season_case(project, *key))
        except NotBalancedError as error:
            years[key] = str(error)
    return years


def run(args: argparse.Namespace) -> int:
    """Print the inspections of every hive with what was expected."""
    project = read_project(args.file)
    if args.read:

        def read(now: Project) -> Project:
            diary = with_inspections(now.diary, Path(args.read))
            known = set(now.diary.inspections)
            refuse_future((i for i in diary.inspections if i not in known), date.today())
            return set_diary(now, diary)

        project = edit_project(Path(args.file), read)
    diary = project.diary
    known, years = weathered(project), years_of(project, diary.inspections)
    records: list[dict[str, Any]] = []
    lines: list[str] = []
    pairs = []
    for look in diary.inspections:
        key = year_key(project, look, known)
        year = years[key]
        if isinstance(year, str):
            lines += [f"{look.at} {diary.hive(look.hive).name}", f"   {year}"]
            continue
        expected = expected_at(year.run, look.when)
        stores, band = stores_beside(project, look, year)
        hive = diary.hive(look.hive)
        pairs.append((look, expected))
        records.append(look_record(look, hive, expected, stores, band, logged=key[1] != TYPICAL))
        lines.append(f"{look.at} {hive.name}")
        lines += [f"   {line}" for line in beside_sentences(look, expected, stores, METRIC, band)]
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
