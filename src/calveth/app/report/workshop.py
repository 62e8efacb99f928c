"""The workshop's sheets as PDF: drawings, list, layouts, weights, steps, true-scale templates."""

from __future__ import annotations

from collections import deque
from collections.abc import Mapping, Sequence
from functools import partial
from html import escape
from pathlib import Path

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from calveth.app.cutaway.drawings import paint_placed, place
from calveth.app.report.pdf import Chapter, Picture, paint_chapters
from calveth.app.theme.palette import LIGHT
from calveth.app.theme.theme import font
from calveth.app.workshop.templates import plates_of, templates_of
from calveth.core.materials import Material
from calveth.core.project import Project
from calveth.core.workshop.plan import BuildPlan
from calveth.drawing.shapes import Drawing
from calveth.drawing.sheets_out import hive_drawings, layout_drawings, piece_drawings
from calveth.store.atomic_write import atomic_write
from calveth.texts.build import (
    build_message,
    bulk_text,
    lift_text,
    money,
    parts_text,
    row_name,
    size_text,
    standing_text,
    work_text,
)
from calveth.texts.build_pages import board_lines, cast_lines, course_lines, sheet_lines
from calveth.texts.html import table
from calveth.texts.units import UnitSystem

_WIDE, _HALF, _TITLE = 1000, 480, 26
_MOST_HIGH = 1250
_CAUTION = (
    "Guidance for planning: sizes and weights follow from the design; local codes and licensed "
    "practice decide where people, animals or neighbours can be hurt."
)


def write_workshop_pdf(path: Path, plan: BuildPlan, project: Project, units: UnitSystem) -> int:
    """Write the sheets of a plan; return the number of pages.

    Raises
    ------
    FileError
        When it cannot be written; an old file stays until the new one is whole.
    """
    chapters = workshop_chapters(plan, project, units)
    plates = plates_of(templates_of(plan, units))
    title = f"{plan.design.name}: workshop"
    with atomic_write(path) as part:
        steps = paint_chapters(
            part, title, f"{project.name} · {plan.design.name}", chapters, plates
        )
        return deque(steps, maxlen=1).pop()


def workshop_chapters(plan: BuildPlan, project: Project, units: UnitSystem) -> list[Chapter]:
    """Return the chapters: hive and list, layouts, pieces, weights and steps."""
    materials = project.material_table()
    chapters = [_first(plan, project, units, materials)]
    layouts = layout_drawings(plan, materials, units)
    lines = [
        *board_lines(plan, materials, units),
        *sheet_lines(plan, materials, units),
        *course_lines(plan, materials, units),
        *cast_lines(plan, materials, units),
    ]
    if layouts or lines:
        html, pictures = _pictured("What it is cut from", layouts, "layout", wide=True)
        chapters.append((html + "".join(f"<p>{escape(x)}</p>" for x in lines), pictures))
    pieces = [
        d
        for d, row in zip(piece_drawings(plan, materials, units), plan.rows, strict=True)
        if row.piece.cutouts or row.piece.outline
    ]
    if pieces:
        chapters.append(_pictured("Pieces with holes and outlines", pieces, "piece", wide=False))
    chapters.append(_weights_and_steps(plan, project, units))
    return chapters


def _first(
    plan: BuildPlan, project: Project, units: UnitSystem, materials: Mapping[str, Material]
) -> Chapter:
    design = plan.design
    drawings = hive_drawings(plan, materials, units)
    html, pictures = _pictured(design.name, drawings, "hive", wide=False)
    unit = "mm" if units.name == "metric" else "inches"
    html += f"<h2>Cut list, sizes in {unit}, length along the grain x width x thickness</h2>"
    rows = [["no.", "count", "size", "part", "piece", "material", "work"]]
    rows += [
        [
            str(r.number),
            str(r.count),
            size_text(r.piece, units),
            escape(parts_text(r.parts)),
            escape(row_name(r)),
            escape(materials[r.piece.material].name),
            escape(work_text(r, units, plan.panels, plan.joined)),
        ]
        for r in plan.rows
    ]
    if plan.rows:
        html += table(rows, words=(2, 3, 4, 5, 6))
    html += "".join(f"<p>{escape(bulk_text(b, units, materials))}</p>" for b in plan.bulk)
    cautions = dict.fromkeys(c for r in plan.rows for c in r.piece.cautions)
    html += "".join(f"<p><b>! {escape(c)}</b></p>" for c in cautions)
    currency = project.workshop.currency
    html += (
        f"<p>Bought {money(plan.bought, currency)}, of it used {money(plan.used, currency)}.</p>"
    )
    html += "".join(f"<p><b>! {escape(p)}</b></p>" for p in plan.problems)
    return html, pictures


def _weights_and_steps(plan: BuildPlan, project: Project, units: UnitSystem) -> Chapter:
    rows = [["part", "empty", "February", "full", ""]]
    rows += [
        [
            escape(v.lift.part.label),
            *(units.write(v.lift.kg(s), "mass", 1) for s in ("empty", "february", "full")),
            escape(lift_text(v, units)),
        ]
        for v in plan.lifts
    ]
    html = "<h2>What each lift weighs</h2>" + table(rows, words=(0, 4))
    if plan.helps:
        html += (
            f"<p>What helps: {escape('; '.join(build_message(m, units) for m in plan.helps))}.</p>"
        )
    strap = plan.design.details.strap
    html += "<h2>Whether it stands</h2>"
    html += "".join(f"<p>{escape(standing_text(s, strap))}</p>" for s in plan.standing)
    html += "".join(f"<p>{escape(build_message(m, units))}</p>" for m in plan.stack.says)
    html += "<h2>Steps</h2>"
    for number, step in enumerate(plan.steps, start=1):
        names = f" (no. {', '.join(map(str, step.rows))})" if step.rows else ""
        html += f"<p>{number}. {escape(build_message(step.act, units))}{names}</p>"
        html += "".join(f"<p><b>! {escape(c)}</b></p>" for c in step.cautions)
    html += f"<p>{escape(_CAUTION)} Place: {escape(project.place.name)}.</p>"
    return html, {}


def _pictured(title: str, drawings: Sequence[Drawing], name: str, *, wide: bool) -> Chapter:
    """Return drawings as pictures under a heading, two side by side where they are not wide."""
    pictures: dict[str, Picture] = {}
    html = f"<h1>{escape(title)}</h1>"
    each = 1 if wide else 2
    for at in range(0, len(drawings), each):
        # A paragraph a row: it goes to the next page as a whole.
        group = drawings[at : at + each]
        keys = [f"{name}-{at + k}" for k in range(len(group))]
        html += "<p>"
        for key, drawing in zip(keys, group, strict=True):
            pictures[key] = picture_of(drawing, _WIDE if wide else _HALF)
            html += f"<img src='{key}' width='{640 if wide else 330}'/>"
        html += "</p>"
    return html, pictures


def picture_of(drawing: Drawing, width: int) -> Picture:
    """Return a drawing as a picture of a page, its title above it."""
    y0, y1, z0, z1 = drawing.frame
    high = min(max(int(width * (z1 - z0) / (y1 - y0)), 60), _MOST_HIGH)
    if width == _HALF:
        high = _HALF - _TITLE

    def paint(painter: QPainter, size: tuple[int, int]) -> None:
        painter.setFont(font(15))
        painter.setPen(LIGHT.color("ink"))
        painter.drawText(
            QRectF(0, 0, size[0], _TITLE), Qt.AlignmentFlag.AlignVCenter, drawing.title
        )
        area = QRectF(0, _TITLE, size[0], size[1] - _TITLE)
        painter.fillRect(area, LIGHT.color("sheet"))
        paint_placed(painter, place(drawing, area.adjusted(6, 6, -6, -6)), LIGHT)

    return Picture(width, high + _TITLE, partial(paint, size=(width, high + _TITLE)))
