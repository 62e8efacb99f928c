"""``calveth import-weather``: an hourly EPW or TMY3 file as twelve months."""

from __future__ import annotations

import argparse
from dataclasses import asdict, replace
from pathlib import Path

from calveth.cli.edit import edit_project
from calveth.cli.files import Commands, add_format, print_csv, print_json
from calveth.core.calendar import MONTH_NAMES
from calveth.core.edits import set_weather
from calveth.store.weather import NOT_IN_FILES, import_weather


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("import-weather", help="reduce an hourly weather file to months")
    p.add_argument("file", help="an EPW or TMY3 file")
    p.add_argument("--into", metavar="PROJECT", help="make it the place of this .calveth project")
    p.add_argument(
        "--bees",
        choices=("move", "keep"),
        default="move",
        help="move the year of the bees with the forage weeks, or keep it as it is",
    )
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print the months and the report; store them when asked."""
    result = import_weather(Path(args.file))
    place = result.place
    if args.into:
        edit_project(
            Path(args.into), lambda p: set_weather(p, place, move_bees=args.bees == "move")
        )
    rows = [
        {"month": name, **asdict(climate)}
        for name, climate in zip(MONTH_NAMES, place.months, strict=True)
    ]
    if args.format == "json":
        print_json(
            {
                "kind": result.kind,
                "hours": result.hours,
                "notes": list(result.notes),
                "place": asdict(replace(place, hours=None)),
            }
        )
    elif args.format == "csv":
        print_csv(rows)
    else:
        print(
            f"{place.name}: {result.kind}, {result.hours} hours, {place.latitude_deg:.2f}°, "
            f"{place.longitude_deg:.2f}°, {place.altitude_m:.0f} m"
        )
        print("month        mean °C  swing K   RH %  wind m/s")
        for row in rows:
            print(
                f"{row['month']:<12} {row['temperature_degc']:7.1f} {row['daily_swing_k']:8.1f} "
                f"{100 * row['relative_humidity']:6.0f} {row['wind_m_s']:9.1f}"
            )
        for note in result.notes or ("Nothing was missing.",):
            print(f"- {note}")
        if args.into:
            print(f"- {NOT_IN_FILES}")
            print(f"{args.into} now stands at {place.name}.")
    return 0
