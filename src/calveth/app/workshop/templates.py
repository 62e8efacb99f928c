"""Templates true to scale, over as many pages as they take, with a line to check the printer by."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import ceil

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPdfWriter, QPen, QPolygonF

from calveth.app.theme.palette import LIGHT
from calveth.app.theme.theme import font
from calveth.core.workshop.edge_work import fingers
from calveth.core.workshop.piece import Row
from calveth.core.workshop.plan import BuildPlan
from calveth.texts.build import parts_text, row_name, saw_size
from calveth.texts.units import UnitSystem

_MM = 1000.0
_WIDE_MM, _HIGH_MM, _OVERLAP_MM, _CONTROL_MM = 178.0, 240.0, 10.0, 100.0
_AROUND_MM = 40.0
Plate = Callable[[QPainter, QPdfWriter], None]


@dataclass(frozen=True, slots=True)
class Template:
    """A figure in millimetres, y up: its title, where it begins and ends, and what draws it."""

    title: str
    x0: float
    y0: float
    x1: float
    y1: float
    path: QPainterPath
    words: tuple[tuple[float, float, str], ...] = ()


def templates_of(plan: BuildPlan, units: UnitSystem) -> list[Template]:
    """Return templates for entrances, ends with an outline, and fingers of corners."""
    templates: list[Template] = []
    named: set[str] = set()
    for row in plan.rows:
        if row.piece.outline:
            templates.append(_outline(row, units))
        for cutout in row.piece.cutouts:
            if cutout.what in named or cutout.what == "set in":
                continue
            named.add(cutout.what)
            templates.append(_opening(row, cutout.what, units))
    corner = _corner(plan, units)
    return [*templates, corner] if corner is not None else templates


def _polygon(points: list[tuple[float, float]]) -> QPainterPath:
    path = QPainterPath()
    path.addPolygon(QPolygonF([QPointF(x, y) for x, y in points]))
    path.closeSubpath()
    return path


def _outline(row: Row, units: UnitSystem) -> Template:
    piece = row.piece
    points = [(_MM * u, _MM * v) for u, v in piece.outline]
    xs, ys = [x for x, _ in points], [y for _, y in points]
    sizes = f"{saw_size(piece.length_m, units)} x {saw_size(piece.width_m, units)}"
    title = f"no. {row.number}, {parts_text(row.parts)} · {row_name(row)}, outline {sizes}"
    return Template(title, min(xs), min(ys), max(xs), max(ys), _polygon(points))


def _opening(row: Row, what: str, units: UnitSystem) -> Template:
    """Return the holes of an opening with the nearest edges of its board and its middle."""
    piece = row.piece
    path, words = QPainterPath(), []
    box = QRectF()
    for cutout in piece.cutouts:
        if cutout.what != what:
            continue
        u, v = _MM * cutout.u_m, _MM * cutout.v_m
        w, h = _MM * cutout.wide_m, _MM * cutout.high_m
        rect = QRectF(u - w / 2, v - h / 2, w, h)
        box = rect if box.isNull() else box.united(rect)
        if cutout.round:
            path.addEllipse(rect)
        else:
            path.addRect(rect)
        path.moveTo(u - w / 2 - 6, v)
        path.lineTo(u + w / 2 + 6, v)
        path.moveTo(u, v - h / 2 - 6)
        path.lineTo(u, v + h / 2 + 6)
        size = saw_size(cutout.wide_m, units)
        if not cutout.round:
            size += f" x {saw_size(cutout.high_m, units)}"
        words.append((u, v + h / 2 + 9, size))
    long, wide = _MM * piece.length_m, _MM * piece.width_m
    x0, x1 = max(0.0, box.left() - _AROUND_MM), min(long, box.right() + _AROUND_MM)
    y0, y1 = max(0.0, box.top() - _AROUND_MM), min(wide, box.bottom() + _AROUND_MM)
    board = QPainterPath()
    board.addRect(QRectF(x0, y0, x1 - x0, y1 - y0))
    path.addPath(board)
    left = saw_size(x0 / _MM, units)
    words.append(
        (
            (x0 + x1) / 2,
            y0 + 4,
            f"lower edge of no. {row.number}"
            if y0 == 0
            else f"{saw_size(y0 / _MM, units)} above the lower edge",
        )
    )
    title = f"{what} in no. {row.number} ({parts_text(row.parts)} · {row_name(row)}); the left "
    title += f"side of this sheet lies {left} from the board's left end"
    return Template(title, x0, y0, x1, y1, path, tuple(words))


def _corner(plan: BuildPlan, units: UnitSystem) -> Template | None:
    """Return the fingers of the corner of a box."""
    rows = [r for r in plan.rows if any(m.id == "fingers" for m in r.piece.work) and r.piece.side]
    if not rows:
        return None
    row = max(rows, key=lambda r: r.piece.width_m)
    piece = row.piece
    count, width = fingers(piece.net_width_m, piece.thickness_m)
    wide, thick = _MM * width, _MM * piece.thickness_m
    path = QPainterPath()
    path.addRect(QRectF(0, 0, thick, wide * count))
    for k in range(0, count, 2):
        path.addRect(QRectF(0, k * wide, thick, wide))
        path.moveTo(0, k * wide)
        path.lineTo(thick, (k + 1) * wide)
    title = f"fingers of no. {row.number}: {count} of {saw_size(width, units)}; hatched ones stay"
    return Template(title, 0, 0, thick, wide * count, path)


def plates_of(templates: list[Template]) -> list[Plate]:
    """Return a page for every part of every template."""
    plates: list[Plate] = []
    for template in templates:
        step_x, step_y = _WIDE_MM - _OVERLAP_MM, _HIGH_MM - _OVERLAP_MM
        across = max(1, ceil((template.x1 - template.x0 - _OVERLAP_MM) / step_x))
        up = max(1, ceil((template.y1 - template.y0 - _OVERLAP_MM) / step_y))
        count = across * up
        for row in range(up):
            for column in range(across):
                at = (template.x0 + column * step_x, template.y0 + row * step_y)
                number = row * across + column + 1
                plates.append(_plate(template, at, number, count))
    return plates


def _plate(template: Template, at: tuple[float, float], number: int, count: int) -> Plate:
    def paint(painter: QPainter, writer: QPdfWriter) -> None:
        painter.save()
        # From here on a unit is a millimetre, y up, the origin at the lower left of the figure.
        dots = writer.logicalDpiX() / 25.4
        painter.scale(dots, dots)
        _words(painter, 2.0, 5.0, template.title, 3.4)
        _words(
            painter,
            2.0,
            10.0,
            f"page {number} of {count} · print at actual size, not fitted to the page",
            3.0,
        )
        _control(painter)
        painter.translate(2.0, 22.0 + _HIGH_MM)
        painter.setClipRect(QRectF(0, -_HIGH_MM, _WIDE_MM, _HIGH_MM))
        painter.setPen(QPen(LIGHT.color("line"), 0.15, Qt.PenStyle.DashLine))
        painter.drawRect(QRectF(0, -_HIGH_MM, _WIDE_MM, _HIGH_MM))
        for x in (0.0, _WIDE_MM - _OVERLAP_MM):
            for y in (0.0, _HIGH_MM - _OVERLAP_MM):
                _mark(painter, x + _OVERLAP_MM / 2, -y - _OVERLAP_MM / 2)
        painter.scale(1.0, -1.0)
        painter.translate(-at[0], -at[1])
        painter.setPen(QPen(LIGHT.color("ink"), 0.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(template.path)
        for x, y, text in template.words:
            painter.save()
            painter.translate(x, y)
            painter.scale(1.0, -1.0)
            _words(painter, 0.0, 0.0, text, 3.0, middle=True)
            painter.restore()
        painter.restore()

    return paint


def _control(painter: QPainter) -> None:
    """Draw the line to hold a ruler against."""
    painter.setPen(QPen(LIGHT.color("ink"), 0.25))
    painter.drawLine(QPointF(2.0, 17.0), QPointF(2.0 + _CONTROL_MM, 17.0))
    for x in (2.0, 2.0 + _CONTROL_MM):
        painter.drawLine(QPointF(x, 15.0), QPointF(x, 19.0))
    _words(painter, 5.0 + _CONTROL_MM, 18.0, "this line is 100 mm long: measure it", 3.0)


def _mark(painter: QPainter, x: float, y: float) -> None:
    """Draw a cross that pages are laid on each other by."""
    painter.drawLine(QPointF(x - 3, y), QPointF(x + 3, y))
    painter.drawLine(QPointF(x, y - 3), QPointF(x, y + 3))


def _words(
    painter: QPainter, x: float, y: float, text: str, high_mm: float, *, middle: bool = False
) -> None:
    """Write a line; a font has whole pixels, so it is written large and scaled down."""
    painter.save()
    painter.setPen(LIGHT.color("ink"))
    made = font(12)
    made.setPixelSize(100)
    painter.setFont(made)
    painter.translate(x, y)
    painter.scale(high_mm / 100, high_mm / 100)
    left = -painter.fontMetrics().horizontalAdvance(text) / 2 if middle else 0.0
    painter.drawText(QPointF(left, 0.0), text)
    painter.restore()
