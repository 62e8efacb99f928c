"""``calveth calibrate``: why a hive differs from what was expected, and what its logs tell."""

from __future__ import annotations

import argparse
from pathlib import Path

from calveth.cli.edit import edit_project, refuse_json
from calveth.cli.files import Commands, add_format, print_json, read_project
from calveth.cli.log_import import find_hive
from calveth.cli.progress import part
from calveth.core.diary.calibrate import factors_of
from calveth.core.diary.hive_season import hive_season
from calveth.core.edits_diary import take_over
from calveth.core.errors import DomainError
from calveth.store.diary_records import calibration_record
from calveth.texts.why import calibration_sentences, explained_sentences, why_words


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser(
        "calibrate", help="why a hive differs from what was expected, and what its logs tell"
    )
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--hive", required=True, help="id or name of a hive of the diary")
    p.add_argument("--season", metavar="YEAR", help="the year it begins in (default the last)")
    p.add_argument(
        "--take-over", action="store_true", help="keep what the logs tell as factors of the design"
    )
    add_format(p, ("text", "json"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print explanations and factors."""
    if args.take_over:
        refuse_json(Path(args.file))
    project = read_project(args.file)
    hive = find_hive(project, args.hive)
    if args.season is not None and not args.season.isdecimal():
        raise DomainError("--season", args.season, "is no year; write 2024")
    season = hive_season(project, hive.id, int(args.season) if args.season else None)
    explained = season.explained(part(0.0, 0.5))
    calibration, sentence = None, ""
    try:
        calibration = season.calibrated(explained.run, part(0.5, 1.0))
    except DomainError as error:
        sentence = str(error)
    if args.format == "json":
        print_json(calibration_record(season, explained, calibration))
    else:
        logged = season.weather.hours
        weather = f"{logged} hours of its weather logged" if logged else "the weather a typical one"
        print(f"{hive.name}, season {season.season}, {weather}")
        print("\n".join(explained_sentences(explained)))
        for each in explained.ranked:
            print(f"{each.cost:9.1f}  {why_words(each)}")
        print("\n".join(calibration_sentences(calibration)) if calibration else sentence)
    if args.take_over and calibration is not None:
        factors = factors_of(calibration)
        if not factors:
            raise DomainError("--take-over", "nothing", "can be: the logs tell no factor")
        note = f"{hive.name}, season {season.season}, {calibration.nights} nights"
        edit_project(Path(args.file), lambda p: take_over(p, season.design, factors, note))
        if args.format == "text":
            print(f"{hive.design} is calibrated: {note}")
    return 0
