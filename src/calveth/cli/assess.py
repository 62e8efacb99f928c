"""``calveth assess``: a project's designs through the year, or at one outside condition."""

from __future__ import annotations

import argparse
from typing import Any

from calveth.cli.files import (
    Commands,
    add_format,
    find_design,
    finite,
    humidity_of,
    month_index,
    print_csv,
    print_json,
    read_project,
)
from calveth.core.advice.dossier import assess_solved
from calveth.core.assess.nights import assess_nights
from calveth.core.assess.result import assess_condition
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import estimated_case
from calveth.core.errors import DomainError
from calveth.core.project import Project
from calveth.store.records import design_record, month_rows, readings_record


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("assess", help="heat, damp, air and honey of the designs in a project")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--design", help="only the design with this id or name")
    p.add_argument("--outside-temp", metavar="C", help="one outside temperature [°C]")
    p.add_argument(
        "--outside-rh", metavar="R", help="its relative humidity, 0 to 1 or 85%% (default 0.85)"
    )
    p.add_argument("--wind", metavar="V", help="wind at 10 m [m/s] (default 2)")
    p.add_argument("--month", metavar="M", help="bees of this month, 1 to 12 (default the coldest)")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print the assessment."""
    project = read_project(args.file)
    designs = [find_design(project, args.design)] if args.design else list(project.designs)
    materials = dict(project.material_table())
    if args.outside_temp is None:
        for option in ("outside_rh", "wind", "month"):
            if getattr(args, option) is not None:
                name = "--" + option.replace("_", "-")
                raise DomainError(name, getattr(args, option), "needs --outside-temp beside it")
        records = []
        for design in designs:
            monthly = assess_solved(estimated_case(project, design))
            records.append(design_record(monthly, assess_nights(monthly), materials))
        _print_year(args.format, project, records)
        return 0
    readings = {}
    for design in designs:
        moment = assess_condition(
            solved_case(estimated_case(project, design))[0],
            month=month_index(args.month, project.place),
            outside_degc=finite("--outside-temp", args.outside_temp),
            relative_humidity=humidity_of(args.outside_rh or "0.85"),
            wind_m_s=finite("--wind", args.wind or "2"),
        )
        readings[design.id] = readings_record(moment, 0)
    _print_condition(args.format, readings)
    return 0


def _print_year(form: str, project: Project, records: list[dict[str, Any]]) -> None:
    if form == "json":
        print_json({"project": project.name, "place": project.place.name, "designs": records})
        return
    if form == "csv":
        print_csv([row for record in records for row in month_rows(record)])
        return
    print(f"{project.name} · {project.place.name}")
    for record in records:
        _print_design(record)
    print("\nFigures on bees are estimates for planning; look into your hives all the same.")


def _print_design(r: dict[str, Any]) -> None:
    print(f"\n{r['name']}  [{r['design']}]")
    print(
        f"  {r['cavity_l']:.1f} L inside; shell {r['shell_conductance_w_k']:.2f} W/K "
        f"{'solved' if r['shell_solved'] else 'estimated'}; "
        f"{r['mass_to_conductance_kg_k_w']:.2f} kg·K/W; U walls "
        f"{r['transmittance_w_m2k']['walls']:.2f}, lid {r['transmittance_w_m2k']['lid']:.2f}, "
        f"floor {r['transmittance_w_m2k']['floor']:.2f} W/(m²·K)"
    )
    print(
        f"  winter honey {r['winter_honey_kg']:.1f} kg "
        f"({r['winter_honey_low_kg']:.1f} to {r['winter_honey_high_kg']:.1f}), "
        f"{r['stores_kg']:.0f} kg held; wet nights: lid middle {r['crown_wet_nights']:.0f}, "
        f"rim {r['rim_wet_nights']:.0f}"
    )
    print(
        "             outside nest crown RH   dew  lid  rim  wall floor"
        "  heat honey   air   CO2  crown"
    )
    for row in month_rows(r):
        print(
            f"  {row['month']:<10} {row['outside_degc']:6.1f} {row['nest_degc']:5.1f} "
            f"{row['crown_degc']:5.1f} {100 * row['crown_rh']:3.0f} "
            f"{row['crown_dew_point_degc']:5.1f} {row['lid_middle_degc']:4.1f} "
            f"{row['lid_rim_degc']:4.1f} {row['middle_wall_degc']:5.1f} {row['floor_degc']:5.1f} "
            f"{row['cluster_w']:5.1f} {row['honey_kg']:5.2f} {row['outside_air_l_h']:5.0f} "
            f"{row['co2_percent']:5.2f}  {row['crown']}"
        )
    print("             °C      °C   °C    %    °C   °C   °C   °C    °C     W    kg    L/h   %")


def _print_condition(form: str, readings: dict[str, dict[str, Any]]) -> None:
    if form == "json":
        print_json(readings)
        return
    if form == "csv":
        print_csv(
            [
                {
                    "design": design,
                    "surface": surface,
                    **values,
                    "crown": record["crown"],
                }
                for design, record in readings.items()
                for surface, values in record["surfaces"].items()
            ]
        )
        return
    for design, record in readings.items():
        print(f"{design}: crown {record['crown']}")
        for zone, v in record["zones"].items():
            print(
                f"  {zone:<12} {v['temperature_degc']:6.1f} °C  RH {v['relative_humidity']:.0%}  "
                f"dew point {v['dew_point_degc']:.1f} °C  CO2 {v['co2_volume_share']:.2%}"
            )
        for surface, v in record["surfaces"].items():
            print(
                f"  {surface:<12} {v['temperature_degc']:6.1f} °C  margin "
                f"{v['dew_point_margin_k']:+.1f} K  {v['condensing_g_day']:.1f} g/day"
            )
        for opening in record["openings"]:
            print(
                f"  {opening['id']}: in {opening['in_l_h']:.0f}, out {opening['out_l_h']:.0f} L/h"
            )
        water = record["water_ledger_g_day"]
        print("  water g/day: " + ", ".join(f"{k} {v:.1f}" for k, v in water.items()))
        print(
            f"  air {record['outside_air_l_h']:.0f} L/h, {record['air_changes_1_h']:.2f} changes "
            f"an hour; honey {record['honey_g_day']:.0f} g/day"
        )
