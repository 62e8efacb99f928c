"""The workshop's sheets as PDF: drawings, list, layouts, weights, steps, true-scale templates."""

from __future__ import annotations

from collections import deque
from collections.abc import Mapping, Sequence
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
_WIDE_SHOWN, _HALF_SHOWN = 640, 330
_MOST_HIGH = 1250
_LEAST_PT = 7.0
"""The least letters on a sheet that lies on a bench [pt]."""
_HEADING_PT = 13.0
_LONG = 2.6
"""A layout so many times as long as high has a row of its own."""
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
    """Return what is printed: hive and list, layouts, pieces, weights and steps, one after another.

    It flows from page to page, so that no heading begins a page of its own to leave it empty.
    """
    materials = project.material_table()
    html, pictures = _first(plan, project, units, materials)
    layouts = layout_drawings(plan, materials, units)
    lines = [
        *board_lines(plan, materials, units),
        *sheet_lines(plan, materials, units),
        *course_lines(plan, materials, units),
        *cast_lines(plan, materials, units),
    ]
    if layouts or lines:
        html += _pictured("What it is cut from", layouts, "layout", pictures)
        html += "".join(f"<p>{escape(x)}</p>" for x in lines)
    pieces = [
        d
        for d, row in zip(piece_drawings(plan, materials, units), plan.rows, strict=True)
        if row.piece.cutouts or row.piece.outline
    ]
    if pieces:
        html += _pictured("Pieces with holes and outlines", pieces, "piece", pictures)
    html += _weights_and_steps(plan, project, units)
    return [(html, pictures)]


def _first(
    plan: BuildPlan, project: Project, units: UnitSystem, materials: Mapping[str, Material]
) -> Chapter:
    design = plan.design
    drawings = hive_drawings(plan, materials, units)
    pictures: dict[str, Picture] = {}
    html = _pictured(design.name, drawings, "hive", pictures)
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


def _weights_and_steps(plan: BuildPlan, project: Project, units: UnitSystem) -> str:
    rows = [["part", "empty", "February", "full", ""]]
    rows += [
        [
            escape(v.lift.part.label),
            *(units.write(v.lift.kg(s), "mass", 1) for s in ("empty", "february", "full")),
            escape(lift_text(v, units)),
        ]
        for v in plan.lifts
    ]
    html = "<h2 style='page-break-before: always'>What each lift weighs</h2>"
    html += table(rows, words=(0, 4))
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
    return html


def _pictured(
    title: str, drawings: Sequence[Drawing], name: str, pictures: dict[str, Picture]
) -> str:
    """Return drawings under a heading, two side by side where they are not long; keep them."""
    html = "" if drawings else f"<h1>{escape(title)}</h1>"
    for at, group in enumerate(_in_rows(drawings)):
        wide = len(group) == 1 and _ratio(group[0]) > _LONG
        high = max(_high(d, _WIDE if wide else _HALF) for d in group)
        # A paragraph a row: it goes to the next page as a whole.
        html += "<p>"
        for k, drawing in enumerate(group):
            key = f"{name}-{at}-{k}"
            # The heading is part of the first picture, or a page could end with it.
            head = title if at == k == 0 else ""
            pictures[key] = picture_of(drawing, _WIDE if wide else _HALF, high, head)
            html += f"<img src='{key}' width='{_WIDE_SHOWN if wide else _HALF_SHOWN}'/>"
        html += "</p>"
    return html


def _in_rows(drawings: Sequence[Drawing]) -> list[list[Drawing]]:
    """Return drawings in rows: a long one alone, others in twos, in their order."""
    rows: list[list[Drawing]] = []
    for drawing in drawings:
        long = _ratio(drawing) > _LONG
        last = rows[-1] if rows else []
        if not long and len(last) == 1 and _ratio(last[0]) <= _LONG:
            last.append(drawing)
        else:
            rows.append([drawing])
    return rows


def _ratio(drawing: Drawing) -> float:
    """Return how many times as long as high a drawing is [-]."""
    y0, y1, z0, z1 = drawing.frame
    return (y1 - y0) / max(z1 - z0, 1e-6)


def _high(drawing: Drawing, width: int) -> int:
    """Return how high a drawing is on so wide a picture [px]."""
    most = _MOST_HIGH if width == _WIDE else round(1.2 * _HALF)
    return min(max(round(width / _ratio(drawing)), 60), most)


def picture_of(drawing: Drawing, width: int, high: int = 0, heading: str = "") -> Picture:
    """Return a drawing as a picture of a page, its title above it, a heading over that."""
    high = high or _high(drawing, width)
    shown = _WIDE_SHOWN if width == _WIDE else _HALF_SHOWN
    # A pixel of a page is 1/96 of an inch; a point 1/72.
    pixels = 96 / 72 * width / shown
    head = round(2.2 * _HEADING_PT * pixels) if heading else 0

    def paint(painter: QPainter) -> None:
        painter.setPen(LIGHT.color("ink"))
        if heading:
            large = font(15, bold=True)
            large.setPixelSize(round(_HEADING_PT * pixels))
            painter.setFont(large)
            flags = Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextDontClip
            painter.drawText(QRectF(0, 0, width, head), flags, heading)
        painter.setFont(font(15))
        title = QRectF(0, head, width, _TITLE)
        painter.drawText(title, Qt.AlignmentFlag.AlignVCenter, drawing.title)
        area = QRectF(0, head + _TITLE, width, high)
        painter.fillRect(area, LIGHT.color("sheet"))
        placed = place(drawing, area.adjusted(6, 6, -6, -6), least_px=_LEAST_PT * pixels)
        paint_placed(painter, placed, LIGHT)

    return Picture(width, head + high + _TITLE, paint)
