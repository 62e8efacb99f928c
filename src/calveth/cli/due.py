"""``calveth due``: what is to be done with the hives that stand, also as a calendar."""

from __future__ import annotations

import argparse
from contextlib import suppress
from datetime import date
from pathlib import Path

from calveth.cli.files import Commands, add_format, print_csv, print_json, read_project
from calveth.core.calendar import DAYS_IN_YEAR
from calveth.core.diary.due import due_acts
from calveth.core.diary.years import hive_key, season_case
from calveth.core.errors import DomainError
from calveth.core.nest.steady import NotBalancedError
from calveth.core.records.diary import day_of
from calveth.store.calendar_file import write_calendar
from calveth.texts.diary import due_sentence


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("due", help="what is due in the year to come, also as a calendar")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--from", dest="begins", metavar="DATE", help="first day, today without it")
    p.add_argument("-o", "--output", metavar="X.ics", help="write an iCalendar file")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print or write what is due."""
    from calveth.core.year.run import run_year

    project = read_project(args.file)
    begins = day_of(args.begins, "--from") if args.begins else date.today()
    of_hive = {h.id: hive_key(h) for h in project.diary.hives}
    runs = {}
    for key in dict.fromkeys(of_hive.values()):
        # A hive whose year has no answer is hefted without a figure to heft against.
        with suppress(NotBalancedError):
            runs[key] = run_year(season_case(project, *key))
    years = {hive: runs[key] for hive, key in of_hive.items() if key in runs}
    acts = due_acts(
        project.diary,
        project.place,
        project.colony.stores_kg,
        {d.id: d.seasons for d in project.designs},
        years,
        begins,
        DAYS_IN_YEAR,
    )
    due_lines = [(act, due_sentence(act, project.design(act.hive.design))) for act in acts]
    if args.output is not None:
        if Path(args.output).suffix.lower() != ".ics":
            raise DomainError("--output", args.output, "is no calendar; give it the ending .ics")
        write_calendar(Path(args.output), due_lines)
        print(f"wrote {args.output}: {len(due_lines)} acts")
        return 0
    records = [
        {
            "date": act.day.isoformat(),
            "hive": act.hive.name,
            "kind": act.kind,
            "what": words,
            "expected_kg": None if act.expected_kg is None else round(act.expected_kg, 2),
            "done": act.key in project.diary.done,
        }
        for act, words in due_lines
    ]
    if args.format == "json":
        print_json({"due": records})
    elif args.format == "csv":
        print_csv(records)
    else:
        for record in records:
            print(f"{record['date']}  {record['hive']:<16}{record['what']}")
        if not records:
            print("Nothing is due: no hive stands.")
    return 0
