"""``calveth conduct``: the shell solved in three dimensions, and where it is coldest inside."""

from __future__ import annotations

import argparse
from typing import TYPE_CHECKING, Any

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
from calveth.core.assess.readings import NestReadings
from calveth.core.assess.result import assess_condition
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import estimated_case
from calveth.core.heat.seasons import winter_materials
from calveth.core.heat.shell import shell_heat, whole_conductance_w_k, window_heat
from calveth.core.hive.design import Design
from calveth.core.project import Project
from calveth.core.solids.build import build_solids
from calveth.texts.joints import rest_name

if TYPE_CHECKING:
    from calveth.core.conduction.spots import Spot


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser(
        "conduct",
        help="the shell solved in three dimensions, its joints and cold spots",
    )
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--design", required=True, help="id or name of the design")
    p.add_argument("--outside-temp", metavar="C", help="spots at this outside temperature [°C]")
    p.add_argument("--outside-rh", metavar="R", help="its relative humidity (default 0.85)")
    p.add_argument("--month", metavar="M", help="bees of this month (default the coldest)")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print the solved heat loss beside the estimate, the parts, and the coldest spots."""
    project = read_project(args.file)
    design = find_design(project, args.design)
    record = _solved(design, project, _moment(args, design, project))
    if args.format == "json":
        print_json(record)
    elif args.format == "csv":
        print_csv(record["spots"])
    else:
        _print(record)
    return 0


def _moment(args: argparse.Namespace, design: Design, project: Project) -> NestReadings:
    """Return the condition spots are told at: the one asked for, or the coldest month."""
    month = month_index(args.month, project.place)
    climate = project.place.months[month]
    outside, humidity = args.outside_temp, args.outside_rh
    return assess_condition(
        solved_case(estimated_case(project, design))[0],
        month=month,
        outside_degc=climate.temperature_degc
        if outside is None
        else finite("--outside-temp", outside),
        relative_humidity=climate.relative_humidity if humidity is None else humidity_of(humidity),
        wind_m_s=climate.wind_m_s,
    )


def _at(spot: Spot, moment: NestReadings) -> dict[str, Any]:
    """Return temperature and dew-point margin of a spot."""
    outside = float(moment.outside.temperature_degc[0])
    inside = float(moment.balance.temperature_degc[spot.zone, 0])
    degc = outside + spot.factor * (inside - outside)
    margin = degc - float(moment.dew_point_degc[spot.zone, 0])
    return {"temperature_degc": round(degc, 2), "dew_point_margin_k": round(margin, 2)}


def _solved(design: Design, project: Project, moment: NestReadings) -> dict[str, Any]:
    # The solver's library takes half a second to load; no other command waits for it.
    from calveth.core.conduction.hive import grid_change, hive_conduction
    from calveth.core.conduction.joints import joints_of

    table = winter_materials(project.material_table(), project.place)
    solved = hive_conduction(design, table)
    change = grid_change(design, table, solved)
    joints = joints_of(design, table, solved.conductance_w_k)
    faces = shell_heat(design, build_solids(design), table)
    estimate = float(whole_conductance_w_k(faces, window=window_heat(design, table)))
    return {
        "design": design.id,
        "name": design.name,
        "outside_degc": round(float(moment.outside.temperature_degc[0]), 2),
        "conductance_w_k": round(solved.conductance_w_k, 4),
        "estimate_w_k": round(estimate, 4),
        "zones_w_k": {
            name: round(float(v), 4)
            for name, v in zip(("base", "nest", "crown"), solved.zone_w_k, strict=True)
        },
        "faces_w_k": round(joints.faces_w_k, 4),
        "joints": [
            {
                "joint": j.name,
                "choice": j.choice,
                "length_m": round(j.length_m, 3),
                "psi_w_mk": round(j.psi, 4) if j.length_m else None,
                "whole_w_k": round(j.whole_w_k, 4),
                "temperature_factor": None if j.factor is None else round(j.factor, 3),
                "without_it": None if j.plain_factor is None else round(j.plain_factor, 3),
            }
            for j in joints.joints
        ],
        "rest": rest_name(joints),
        "rest_w_k": round(joints.rest_w_k, 4),
        "parts": [
            {
                "part": part,
                "from_inside_w_k": round(into, 4),
                "to_outside_w_k": round(solved.leaving_w_k[part], 4),
                "if_twice_as_conductive_w_k": round(g, 4),
            }
            for part, (into, g) in solved.part_w_k.items()
        ],
        "spots": [
            {
                "spot": s.name,
                "temperature_factor": round(s.factor, 3),
                **_at(s, moment),
                "x_mm": round(1000 * s.x_m),
                "y_mm": round(1000 * s.y_m),
                "z_mm": round(1000 * s.z_m),
            }
            for s in sorted(solved.coldest.values(), key=lambda spot: spot.factor)
        ],
        "cells": solved.cells,
        "residual": solved.residual,
        "imbalance": solved.imbalance,
        "change_on_finer_grid": round(change.conductance, 5),
        "factor_change_on_finer_grid": round(change.factor, 4),
    }


def _print(r: dict[str, Any]) -> None:
    off = 100 * (r["estimate_w_k"] / r["conductance_w_k"] - 1)
    print(
        f"{r['name']}: {r['conductance_w_k']:.3f} W/K solved, {r['estimate_w_k']:.3f} W/K "
        f"estimated ({off:+.1f} %)"
    )
    print("  " + ", ".join(f"{name} {v:.3f} W/K" for name, v in r["zones_w_k"].items()))
    _print_joints(r)
    print(f"\n{'W/K from inside':>15} {'to outside':>11} {'if twice as':>12}")
    for part in r["parts"]:
        print(
            f"{part['from_inside_w_k']:>15.3f} {part['to_outside_w_k']:>11.3f} "
            f"{part['if_twice_as_conductive_w_k']:>+12.3f}  "
            f"{part['part']}"
        )
    print(
        f"\ntemperature factor at the coldest spots (0 outside, 1 inside; Rsi 0.25 at edges), at "
        f"{r['outside_degc']:.1f} °C outside"
    )
    for spot in r["spots"]:
        print(
            f"{spot['temperature_factor']:>8.3f} {spot['temperature_degc']:>7.1f} °C "
            f"{spot['dew_point_margin_k']:>+6.1f} K  {spot['spot']}"
        )
    print(
        f"\n{r['cells']} cells, residual {r['residual']:.0e}, heat in less out "
        f"{r['imbalance']:.0e}, on a finer grid {100 * r['change_on_finer_grid']:+.2f} % of W/K, "
        f"{r['factor_change_on_finer_grid']:.3f} of a temperature factor at most. "
        "Openings hold still air, frames are left out."
    )


def _print_joints(r: dict[str, Any]) -> None:
    print(f"\n{'ψ W/(m·K)':>10} {'m':>6} {'W/K':>7}  {'coldest':>7} {'without':>7}  joint")
    for j in r["joints"]:
        psi = "" if j["psi_w_mk"] is None else f"{j['psi_w_mk']:+.3f}"
        length = f"{j['length_m']:.2f}" if j["length_m"] else ""
        factors = [
            "" if v is None else f"{v:.2f}" for v in (j["temperature_factor"], j["without_it"])
        ]
        name = j["joint"] + (f", {j['choice']}" if j["choice"] else "")
        print(
            f"{psi:>10} {length:>6} {j['whole_w_k']:>+7.3f}  {factors[0]:>7} {factors[1]:>7}  "
            f"{name}"
        )
    print(f"{'':>17} {r['faces_w_k']:>+7.3f}  {'':>15}  the faces alone, by their inside")
    print(f"{'':>17} {r['rest_w_k']:>+7.3f}  {'':>15}  {r['rest']}")
