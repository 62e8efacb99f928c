"""A build plan as plain records; every key carries its unit."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from calveth.core.materials import Material
from calveth.core.workshop.block_walls import BlockWall
from calveth.core.workshop.plan import BuildPlan
from calveth.core.workshop.standing import Standing
from calveth.texts.build import build_message, bulk_text, lift_text, parts_text, row_name, work_text
from calveth.texts.units import METRIC

Rows = list[dict[str, Any]]


def plan_record(
    plan: BuildPlan, materials: Mapping[str, Material], currency: str
) -> dict[str, Any]:
    """Return a plan as one document."""
    return {
        "design": plan.design.id,
        "name": plan.design.name,
        "currency": currency,
        **plan_tables(plan, materials),
        "balance": [_standing_record(s) for s in plan.standing],
        "gaps": [
            {
                "gap": g.kind,
                "number": g.number,
                "from_m": _r(g.z0_m, 4),
                "to_m": _r(g.z1_m, 4),
                "least_m": _r(g.low_m, 4),
                "most_m": _r(g.high_m, 4),
                "verdict": g.verdict,
            }
            for g in plan.stack.gaps
        ],
        "stack_says": [build_message(m, METRIC) for m in plan.stack.says],
        "steps": [
            {
                "act": build_message(s.act, METRIC),
                "rows": list(s.rows),
                "cautions": list(s.cautions),
            }
            for s in plan.steps
        ],
        "what_helps_to_lift": [build_message(m, METRIC) for m in plan.helps],
        "bought": _r(plan.bought),
        "used": _r(plan.used),
        "every_price_known": plan.priced,
        "problems": list(plan.problems),
    }


def plan_tables(plan: BuildPlan, materials: Mapping[str, Material]) -> dict[str, Rows]:
    """Return the tables of a plan by name, for JSON, CSV and workbooks."""
    return {
        "pieces": piece_rows(plan, materials),
        "bought_otherwise": [
            {
                "what": b.what,
                "material": b.material,
                "amount": _r(b.amount, 3),
                "unit": b.unit,
                "text": bulk_text(b, METRIC, materials),
            }
            for b in plan.bulk
        ],
        "boards": board_rows(plan),
        "sheets": sheet_rows(plan),
        "blocks": [_wall_row(w) for w in plan.walls],
        "casts": cast_rows(plan),
        "lifts": lift_rows(plan),
    }


def piece_rows(plan: BuildPlan, materials: Mapping[str, Material]) -> Rows:
    """Return the cut list."""
    return [
        {
            "number": row.number,
            "count": row.count,
            "part": parts_text(row.parts),
            "piece": row_name(row),
            "material": row.piece.material,
            "bought_as": row.piece.bought_as,
            "length_m": _r(row.piece.length_m, 4),
            "width_m": _r(row.piece.width_m, 4),
            "thickness_m": _r(row.piece.thickness_m, 4),
            "grain": "along the length" if row.piece.has_grain else "any",
            "work": work_text(row, METRIC, plan.panels, plan.joined),
            "outline_m": " ".join(f"{u:.4f},{v:.4f}" for u, v in row.piece.outline),
            "weight_kg": _r(row.piece.left_m3 * materials[row.piece.material].density_kg_m3, 3),
            "cautions": " ".join(row.piece.cautions),
        }
        for row in plan.rows
    ]


def board_rows(plan: BuildPlan) -> Rows:
    """Return every board with what is cut of it, from its end."""
    return [
        {
            "material": layout.material,
            "board": number,
            "stock": board.item.name,
            "length_m": _r(board.item.length_m, 4),
            "width_m": _r(board.item.width_m, 4),
            "thickness_m": _r(layout.thickness_m, 4),
            "cuts": " | ".join(
                " + ".join(
                    f"{s.row}: {1000 * s.length_m:.1f} x {1000 * s.width_m:.1f} mm"
                    for s in length.strips
                )
                for length in board.lengths
            ),
            "left_m": _r(board.left_m, 4),
            "own": board.own,
            "at_most_above_the_least": layout.above,
        }
        for layout in plan.boards
        for number, board in enumerate(layout.boards, start=1)
    ]


def sheet_rows(plan: BuildPlan) -> Rows:
    """Return where every blank lies on its sheet."""
    return [
        {
            "material": layout.material,
            "thickness_m": _r(layout.thickness_m, 4),
            "stock": layout.item.name,
            "own": layout.own,
            "sheet": number,
            "least_number_of_sheets": layout.plan.bound,
            "row": layout.rows[p.blank],
            "x_m": _r(p.x_m, 4),
            "y_m": _r(p.y_m, 4),
            "length_m": _r(p.wide_m, 4),
            "width_m": _r(p.high_m, 4),
        }
        for layout in plan.sheets
        for number, sheet in enumerate(layout.plan.sheets, start=1)
        for p in sheet.placed
    ]


def cast_rows(plan: BuildPlan) -> Rows:
    """Return what is cast, with its mix and mould."""
    rows = []
    for c in plan.casts:
        mix = c.mix
        rows.append(
            {
                "part": c.part.label,
                "count": c.count,
                "material": c.material,
                "volume_l": _r(c.litres),
                "mixed_l": _r(c.mixed_l),
                "fresh_kg": _r(c.fresh_kg),
                "dry_kg": _r(c.dry_kg),
                "pressure_on_the_mould_pa": _r(c.pressure_pa, 0),
                "cement_kg": None if mix is None else _r(mix.cement_kg * c.mixed_l / 1000),
                "sand_kg": None if mix is None else _r(mix.sand_kg * c.mixed_l / 1000),
                "light_grain_kg": None if mix is None else _r(mix.light_kg * c.mixed_l / 1000),
                "water_kg": None if mix is None else _r(mix.water_kg * c.mixed_l / 1000),
                "parts_by_volume": None
                if mix is None
                else " : ".join(f"{x:.1f}" for x in mix.parts),
                "mould": "; ".join(
                    f"{b.count} {b.where} {1000 * b.length_m:.0f} x {1000 * b.width_m:.0f} x "
                    f"{1000 * b.thickness_m:.0f} mm"
                    for b in c.mould
                ),
            }
        )
    return rows


def lift_rows(plan: BuildPlan) -> Rows:
    """Return the weight of every lift."""
    return [
        {
            "part": v.lift.part.label,
            "empty_kg": _r(v.lift.empty_kg),
            "february_kg": _r(v.lift.february_kg),
            "full_kg": _r(v.lift.full_kg),
            "full_low_kg": _r(v.lift.full_low_kg),
            "full_high_kg": _r(v.lift.full_high_kg),
            "advised_for_one_kg": _r(v.limit_kg),
            "advised_for_two_kg": _r(v.two_kg),
            "lifting_index": None if v.index is None else _r(v.index),
            "text": lift_text(v, METRIC),
        }
        for v in plan.lifts
    ]


def _wall_row(wall: BlockWall) -> dict[str, Any]:
    return {
        "part": wall.part.label,
        "layer": wall.layer + 1,
        "material": wall.material,
        "block": wall.block.name,
        "blocks": wall.blocks,
        "own_blocks": wall.own,
        "flat": wall.flat,
        "joint_m": wall.joint_m,
        "cut_m2": _r(wall.cut_m2, 4),
        "dust_g": _r(wall.dust_g, 0),
        "glue_l": _r(wall.glue_l),
        "glue_kg": _r(wall.glue_kg),
        "bond_ok": wall.bond_ok,
        "courses": "; ".join(
            f"{1000 * c.height_m:.0f} mm: "
            + ", ".join(
                f"{run.side} " + "+".join(f"{1000 * b.length_m:.0f}" for b in run.blocks)
                for run in c.runs
            )
            for c in wall.courses
        ),
    }


def _standing_record(s: Standing) -> dict[str, Any]:
    return {
        "state": s.state,
        "weight_kg": _r(s.kg),
        "balance_m": [_r(v, 4) for v in s.balance_m],
        "balance_above_ground_m": _r(s.height_m, 4),
        "tips_at_deg": _r(s.angle_deg),
        "push_at_top_n": _r(s.push_n, 1),
        "gust_pa": _r(s.gust_pa, 1),
        "wind_n": _r(s.wind_n, 1),
        "lid_uplift_n": _r(s.lid_up_n, 1),
        "lid_weight_n": _r(s.lid_n, 1),
        "stands": s.stands,
        "anchor_n": _r(s.anchor_n, 1),
        "joints": [
            {
                "above": j.above.label,
                "height_m": _r(j.height_m, 4),
                "weight_kg": _r(j.kg),
                "tips_ratio": _r(j.tips, 3),
                "slides_ratio": _r(j.slides, 3),
            }
            for j in s.joints
        ],
    }


def _r(value: float, digits: int = 2) -> float:
    return round(float(value), digits) + 0.0
