"""Layouts, courses, casts and changes as lines to read at the bench."""

from __future__ import annotations

from collections.abc import Mapping

from calveth.core.materials import Material
from calveth.core.workshop.changes import Changes
from calveth.core.workshop.plan import BuildPlan
from calveth.texts.build import parts_text, row_name, saw_size, size_text, to_buy_text
from calveth.texts.units import UnitSystem


def board_lines(plan: BuildPlan, materials: Mapping[str, Material], units: UnitSystem) -> list[str]:
    """Return every board with what is cut of it."""
    lines = []
    for layout in plan.boards:
        thick = saw_size(layout.thickness_m, units)
        own = sum(board.own for board in layout.boards)
        lines.append(
            f"{materials[layout.material].name} {thick} x {saw_size(layout.width_m, units)}"
            f": {to_buy_text(own, len(layout.boards) - own)}, waste {layout.waste:.0%}, "
            f"{above_text(layout.above, 'board')}"
        )
        for number, board in enumerate(layout.boards, start=1):
            cuts = " | ".join(
                " + ".join(f"{saw_size(s.length_m, units)} (no. {s.row})" for s in length.strips)
                for length in board.lengths
            )
            lines.append(
                f"  {number}. {'yours, ' if board.own else ''}"
                f"{saw_size(board.item.length_m, units)}: {cuts} | left "
                f"{saw_size(board.left_m, units)}"
            )
    return lines


def above_text(above: int, what: str) -> str:
    """Return how near to the least a plan is."""
    if above == 0:
        return "no plan needs fewer"
    return f"at most {above} {what}{'s' if above > 1 else ''} above the least possible"


def sheet_lines(plan: BuildPlan, materials: Mapping[str, Material], units: UnitSystem) -> list[str]:
    """Return every sheet with what is cut of it, and the largest rest."""
    lines = []
    for layout in plan.sheets:
        count = len(layout.plan.sheets)
        had = to_buy_text(count, 0) if layout.own else to_buy_text(0, count)
        lines.append(
            f"{materials[layout.material].name} {saw_size(layout.thickness_m, units)}, "
            f"{layout.item.name}: {had}, waste {layout.waste:.0%}, "
            f"{above_text(layout.plan.above, 'sheet')}"
        )
        for number, sheet in enumerate(layout.plan.sheets, start=1):
            numbers = ", ".join(str(layout.rows[p.blank]) for p in sheet.placed)
            rest = sheet.rests[0] if sheet.rests else None
            left = ""
            if rest is not None:
                size = f"{saw_size(rest.wide_m, units)} x {saw_size(rest.high_m, units)}"
                left = f"; largest rest {size}"
            lines.append(f"  {number}. no. {numbers}; {len(sheet.cuts)} cuts{left}")
        if layout.plan.greedy_only:
            lines.append("  ! more than 400 pieces: laid out simply, a better plan may be found")
    return lines


def course_lines(
    plan: BuildPlan, materials: Mapping[str, Material], units: UnitSystem
) -> list[str]:
    """Return walls of blocks, course by course from the foot up."""
    lines = []
    for wall in plan.walls:
        joint = (
            f"dry (glued: {wall.glued_l:.1f} L)"
            if wall.joint_m == 0
            else f"joints {saw_size(wall.joint_m, units)}"
        )
        glue = (
            ""
            if wall.joint_m == 0
            else (f", {wall.glue_l:.1f} L or {wall.glue_kg:.1f} kg to fill joints")
        )
        kind = "rows laid flat" if wall.flat else "courses"
        had = f" ({to_buy_text(wall.own, wall.blocks - wall.own)})" if wall.own else ""
        lines.append(
            f"{parts_text((wall.part,))}: {wall.blocks} blocks {wall.block.name}{had} of "
            f"{materials[wall.material].name}, {joint}{glue}, {wall.cut_m2:.2f} m² sawn, "
            f"{wall.dust_g / 1000:.1f} kg of dust; {kind}:"
        )
        for number, course in enumerate(wall.courses, start=1):
            runs = "; ".join(
                f"{run.side if not wall.flat else 'row'} "
                + " + ".join(saw_size(b.length_m, units) for b in run.blocks)
                for run in course.runs
            )
            lines.append(f"  {number}. {saw_size(course.height_m, units)} high: {runs}")
        if wall.one_course:
            lines.append("  one course alone: tie the corners with screws or glue")
        if not wall.bond_ok:
            lines.append("  ! joints lie too near above each other: glue the courses")
    return lines


def cast_lines(plan: BuildPlan, materials: Mapping[str, Material], units: UnitSystem) -> list[str]:
    """Return what is cast: volume, weights, mix, mould."""
    lines = []
    for cast in plan.casts:
        fresh, dry = (units.write(x, "mass", 1) for x in (cast.fresh_kg, cast.dry_kg))
        lines.append(
            f"{parts_text((cast.part,))}, {cast.count} of it: {cast.litres:.1f} L "
            f"{materials[cast.material].name}, {fresh} fresh, {dry} dry; mix {cast.mixed_l:.1f} L"
        )
        mix = cast.mix
        if mix is None:
            lines.append("  Calveth knows no mix for it: weigh a small batch first")
        else:
            parts = " : ".join(f"{x:.1f}" for x in mix.parts)
            per = cast.mixed_l / 1000
            lines.append(
                f"  cement : sand : expanded glass {parts} by volume "
                f"({mix.cement_kg * per:.1f}, {mix.sand_kg * per:.1f}, {mix.light_kg * per:.1f} kg)"
                f" with {mix.water_kg * per:.1f} L of water"
            )
        boards = ", ".join(
            f"{b.count} {b.where} {saw_size(b.length_m, units)} x {saw_size(b.width_m, units)}"
            for b in cast.mould
        )
        lines.append(f"  mould: {boards}; its foot holds {cast.pressure_pa / 1000:.1f} kPa")
    return lines


def change_lines(
    old: str, new: str, changes: Changes, units: UnitSystem, materials: Mapping[str, Material]
) -> list[str]:
    """Return how to make one version from another."""
    lines = [f"To make “{new}” from “{old}”: {changes.kept} pieces stay as they are."]
    if changes.nothing:
        return [*lines, "Nothing is to be cut."]
    for recut in changes.recut:
        lines.append(
            f"  cut down {size_text(recut.old, units)} ({parts_text((recut.old.part,))}) to "
            f"{size_text(recut.new, units)} ({parts_text((recut.new.part,))})"
        )
    for row in changes.new:
        lines.append(
            f"  make {row.count} x {size_text(row.piece, units)} ({parts_text(row.parts)} · "
            f"{row_name(row)}; {materials[row.piece.material].name})"
        )
    for row in changes.over:
        name = materials[row.piece.material].name
        lines.append(f"  left over {row.count} x {size_text(row.piece, units)} ({name})")
    return lines
