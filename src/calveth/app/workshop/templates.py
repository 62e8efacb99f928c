"""Templates true to scale, over as many pages as they take, with a line to check the printer by."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import ceil, floor

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
_HEAD_MM = 14.0
"""Room for the title of a template that shares its page [mm]."""
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


# What a sheet of paper holds at its true size.
_WIDEST_SLOT_M = 0.17


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
            # A long slot is set out with a rule: its middle and ends are dimensioned on the sheet.
            if not cutout.round and cutout.wide_m > _WIDEST_SLOT_M:
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
    sizes: dict[str, int] = {}
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
        sizes[size] = sizes.get(size, 0) + 1
    long, wide = _MM * piece.length_m, _MM * piece.width_m
    # As much of the board as the sheet has room for: an edge to lay it on, and no second sheet.
    across = min(_AROUND_MM, max((_WIDE_MM - box.width()) / 2 - 1.0, 12.0))
    x0, x1 = max(0.0, box.left() - across), min(long, box.right() + across)
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
    made = ", ".join(f"{n} of {size}" if n > 1 else size for size, n in sizes.items())
    title = (
        f"{what} {made} in no. {row.number} ({parts_text(row.parts)} · {row_name(row)}); the left "
    )
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
    # All fingers are alike: as many as a sheet holds are enough to mark the rest by.
    shown = min(count, max(3, floor((_HIGH_MM - _HEAD_MM) / wide)))
    path = QPainterPath()
    path.addRect(QRectF(0, 0, thick, wide * shown))
    for k in range(0, shown, 2):
        path.addRect(QRectF(0, k * wide, thick, wide))
        path.moveTo(0, k * wide)
        path.lineTo(thick, (k + 1) * wide)
    title = f"fingers of no. {row.number}: {count} of {saw_size(width, units)}; hatched ones stay"
    return Template(title, 0, 0, thick, wide * shown, path)


def plates_of(templates: list[Template]) -> list[Plate]:
    """Return pages: small templates under each other as they fit, large ones over several."""
    plates: list[Plate] = []
    page: list[tuple[Template, float]] = []
    room = _HIGH_MM
    for template in templates:
        wide, high = template.x1 - template.x0, template.y1 - template.y0
        if wide > _WIDE_MM or high + _HEAD_MM > _HIGH_MM:
            plates += _tiles(template)
            continue
        if high + _HEAD_MM > room:
            plates.append(_shelf(page))
            page, room = [], _HIGH_MM
        room -= high + _HEAD_MM
        page.append((template, room))
    return [*plates, _shelf(page)] if page else plates


def _tiles(template: Template) -> list[Plate]:
    """Return a page for every part of a template that is larger than a page."""
    step_x, step_y = _WIDE_MM - _OVERLAP_MM, _HIGH_MM - _OVERLAP_MM
    across = max(1, ceil((template.x1 - template.x0 - _OVERLAP_MM) / step_x))
    up = max(1, ceil((template.y1 - template.y0 - _OVERLAP_MM) / step_y))
    return [
        _tile(
            template,
            (template.x0 + column * step_x, template.y0 + row * step_y),
            row * across + column + 1,
            across * up,
        )
        for row in range(up)
        for column in range(across)
    ]


def _millimetres(painter: QPainter, writer: QPdfWriter, lines: Sequence[str]) -> None:
    """Let a unit be a millimetre, and write the head of a page with the line to measure."""
    dots = writer.logicalDpiX() / 25.4
    painter.scale(dots, dots)
    for number, line in enumerate(lines):
        _words(painter, 2.0, 5.0 + 5.0 * number, line, 3.4 - 0.4 * number)
    _control(painter)
    # From here on y goes up, and the origin is the lower left of the page.
    painter.translate(2.0, 22.0 + _HIGH_MM)


_TRUE = "print at actual size, not fitted to the page"


def _shelf(page: Sequence[tuple[Template, float]]) -> Plate:
    """Return a page of small templates, each with how high its lower edge stands on it [mm]."""

    def paint(painter: QPainter, writer: QPdfWriter) -> None:
        painter.save()
        _millimetres(painter, writer, ("Templates true to scale", _TRUE))
        for template, low in page:
            painter.save()
            high = template.y1 - template.y0
            _words(painter, 0.0, -low - high - 5.0, template.title, 3.0)
            painter.translate(0.0, -low)
            _figure(painter, template, (template.x0, template.y0))
            painter.restore()
        painter.restore()

    return paint


def _tile(template: Template, at: tuple[float, float], number: int, count: int) -> Plate:
    """Return a page of a large template, with crosses to lay the pages on each other by."""

    def paint(painter: QPainter, writer: QPdfWriter) -> None:
        painter.save()
        _millimetres(painter, writer, (template.title, f"page {number} of {count} · {_TRUE}"))
        painter.setClipRect(QRectF(0, -_HIGH_MM, _WIDE_MM, _HIGH_MM))
        painter.setPen(QPen(LIGHT.color("line"), 0.15, Qt.PenStyle.DashLine))
        painter.drawRect(QRectF(0, -_HIGH_MM, _WIDE_MM, _HIGH_MM))
        for x in (0.0, _WIDE_MM - _OVERLAP_MM):
            for y in (0.0, _HIGH_MM - _OVERLAP_MM):
                _mark(painter, x + _OVERLAP_MM / 2, -y - _OVERLAP_MM / 2)
        _figure(painter, template, at)
        painter.restore()

    return paint


def _figure(painter: QPainter, template: Template, at: tuple[float, float]) -> None:
    """Draw a template so that a place of it is at the origin."""
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
