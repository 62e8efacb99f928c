"""``calveth room``: the air a winter room needs for its hives."""

from __future__ import annotations

import argparse

from calveth.cli.files import Commands, add_format, find_design, print_csv, print_json, read_project
from calveth.core.advice.dossier import assess_solved
from calveth.core.assess.winter_room import room_months
from calveth.core.calendar import MONTH_NAMES
from calveth.core.case import estimated_case
from calveth.core.errors import DomainError


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("room", help="air exchange of a winter room for its hives")
    p.add_argument("file", help="a .calveth or .json project whose place has a winter room")
    p.add_argument("--design", help="id or name of the design (default the first)")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print the exchange of every month in the room."""
    project = read_project(args.file)
    if project.place.room is None:
        raise DomainError("winter room", "none", "is set for this place; set one under Place first")
    design = find_design(project, args.design) if args.design else project.designs[0]
    rows = [
        {
            "month": MONTH_NAMES[month],
            "water_kg_day": round(air.water_kg_day, 3),
            "co2_kg_day": round(air.co2_kg_day, 3),
            "for_humidity_m3_h": None
            if air.for_humidity_m3_h is None
            else round(air.for_humidity_m3_h, 1),
            "for_co2_m3_h": round(air.for_co2_m3_h, 1),
            "humidity_at_co2_exchange": round(air.humidity_at_co2_exchange, 3),
            "heating_w": round(air.heating_w, 0),
        }
        for month, air in room_months(assess_solved(estimated_case(project, design)))
    ]
    if args.format == "json":
        print_json(rows)
    elif args.format == "csv":
        print_csv(rows)
    else:
        for r in rows:
            humid = r["for_humidity_m3_h"]
            print(
                f"{r['month']:<10} water {r['water_kg_day']:.2f} kg/day, CO2 {r['co2_kg_day']:.2f} "
                f"kg/day: {'outside too damp' if humid is None else f'{humid:.0f} m³/h'} for "
                f"humidity, {r['for_co2_m3_h']:.0f} m³/h for CO2; heating {r['heating_w']:.0f} W"
            )
    return 0
