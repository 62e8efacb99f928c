"""``calveth year``: the hives of a project through a year of hours, with ranges."""

from __future__ import annotations

import argparse
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np

from calveth.cli.files import (
    Commands,
    add_format,
    find_design,
    finite,
    print_csv,
    print_json,
    read_project,
)
from calveth.cli.progress import report
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import HiveCase, estimated_case
from calveth.core.errors import DomainError
from calveth.core.project import Project
from calveth.store.weather import import_weather

if TYPE_CHECKING:
    from calveth.core.year.result import YearRun

MOST_DRAWS = 200


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("year", help="a year hour by hour: damp, larder, heat, with ranges")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--design", help="id or name of one design; all without it")
    p.add_argument(
        "--weather", metavar="FILE", help="an EPW, TMY3 or CSV year instead of the place"
    )
    p.add_argument("--draws", default="16", metavar="N", help="draws for the ranges, 0 to 200")
    p.add_argument("--hours", action="store_true", help="every hour of one design, as CSV")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def cases_of(project: Project, design: str | None, *, solve: bool = True) -> list[HiveCase]:
    """Return the cases of a project, or of one design, with their shells solved."""
    designs = project.designs if design is None else (find_design(project, design),)
    cases = [estimated_case(project, d) for d in designs]
    return [solved_case(case, spots=False)[0] for case in cases] if solve else cases


def draws_of(text: str) -> int:
    """Return the number of draws that was typed."""
    count = finite("--draws", text)
    if count != int(count) or not 0 <= count <= MOST_DRAWS:
        raise DomainError("--draws", text, f"cannot be; type a whole number from 0 to {MOST_DRAWS}")
    return int(count)


def run(args: argparse.Namespace) -> int:
    """Print the year."""
    project = read_project(args.file)
    count = draws_of(args.draws)
    if args.hours and args.design is None:
        raise DomainError("--design", "none", "is given; --hours shows one design, name it")
    if args.weather:
        here = project.place
        there = import_weather(Path(args.weather)).place
        # The weather is that of the file; how the hive stands stays.
        place = replace(
            there,
            terrain=here.terrain,
            shelter=here.shelter,
            side_shelter=here.side_shelter,
            facing_deg=here.facing_deg,
        )
        project = replace(project, place=place)
    cases = cases_of(project, args.design)
    if args.hours:
        from calveth.core.year.run import run_year

        print_csv(hour_rows(run_year(cases[0])))
        return 0
    from calveth.core.year.draws import year_bands
    from calveth.store.year_records import year_record

    rows = year_bands(cases, count, report)
    if args.format == "json":
        print_json([year_record(row) for row in rows])
    elif args.format == "csv":
        print_csv([year_record(row) for row in rows])
    else:
        from calveth.texts.year import (
            WORDS,
            dry_sentences,
            hot_sentence,
            larder_sentence,
            source_sentence,
            unsettled_sentence,
            write_band,
        )

        for sentence in dry_sentences(rows):
            print(sentence)
        for row in rows:
            print(f"\n{row.case.design.name}")
            if row.unsettled_hours:
                print(f"  {unsettled_sentence(row.unsettled_hours)}")
            print(f"  {larder_sentence(row)}")
            source = source_sentence(row, "winter_honey_kg")
            if source:
                print(f"  {source}")
            print(f"  {hot_sentence(row)}")
            for name, word in WORDS.items():
                print(f"    {word.name:<44} {write_band(row, name)}")
    return 0


def hour_rows(year: YearRun) -> list[dict[str, Any]]:
    """Return every hour with its units in the names."""
    from calveth.core.year import columns as cl

    outside = year.weather
    weather = {
        "outside_degc": outside.temperature_degc,
        "outside_pa": outside.vapour_pressure_pa,
        "wind_at_hive_m_s": outside.wind_m_s,
        "rain_mm": outside.rain_mm,
        "sun_w_m2": outside.global_sun_w_m2,
    }
    columns: dict[str, Any] = {**weather}
    for k, name in enumerate(cl.SERIES):
        if name != "open_w":
            columns[name] = year.series[:, k]
    hours = np.arange(year.series.shape[0])
    return [
        {
            "day": int(h) // 24 + 1,
            "hour": int(h) % 24,
            **{name: float(f"{values[h]:.6g}") for name, values in columns.items()},
        }
        for h in hours
    ]
