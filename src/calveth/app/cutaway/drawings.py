"""Paints a workshop drawing: the same marks on the screen, in a picture and on paper."""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, cos, degrees, pi, sin

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFont, QFontMetricsF, QPainter, QPen, QPolygonF

from calveth.app.cutaway.painting import paint_shape
from calveth.app.cutaway.view import Mapping2D
from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import font
from calveth.drawing.shapes import (
    Dim,
    Drawing,
    Ellipse,
    Line,
    Mark,
    Polygon,
    Text,
    dim_line,
    frame_of,
    with_letters,
)

_LEAST_PX = 5.0
"""Words smaller than this are not drawn: nobody reads them [px]."""


@dataclass(frozen=True, slots=True)
class Placed:
    """A drawing and where its metres lie on the screen."""

    drawing: Drawing
    mapping: Mapping2D
    area: QRectF
    least_px: float = 0.0
    """Letters are at least so high: paper is not zoomed [px]."""

    def row_at(self, point: QPointF) -> int:
        """Return the row under a pixel, the topmost first; 0 for none."""
        for index, row in reversed(self.drawing.rows):
            mark = self.drawing.marks[index]
            if isinstance(mark, Polygon):
                polygon = QPolygonF([self.mapping.placed(y, z) for y, z in mark.points])
                if polygon.containsPoint(point, Qt.FillRule.OddEvenFill):
                    return row
        return 0


def place(drawing: Drawing, area: QRectF, largest: float = 1e9, least_px: float = 0.0) -> Placed:
    """Return a drawing centred in an area; ``largest`` is the largest scale [px/m].

    ``least_px`` is the least height of letters, on paper.
    """
    frame = drawing.frame
    scale = _scale(frame, area, largest)
    # Letters that are made larger want more room, which makes the scale smaller.
    for _ in range(3 if least_px else 0):
        frame = frame_of(with_letters(drawing.marks, least_px / scale))
        scale = _scale(frame, area, largest)
    y0, y1, z0, z1 = frame
    wide, high = max(y1 - y0, 1e-6), max(z1 - z0, 1e-6)
    left = area.center().x() - wide * scale / 2
    bottom = area.center().y() + high * scale / 2
    return Placed(drawing, Mapping2D(scale, left, bottom, y0, z0), area, least_px)


def _scale(frame: tuple[float, float, float, float], area: QRectF, largest: float) -> float:
    y0, y1, z0, z1 = frame
    wide, high = max(y1 - y0, 1e-6), max(z1 - z0, 1e-6)
    return max(1.0, min(area.width() / wide, area.height() / high, largest))


def paint_placed(painter: QPainter, placed: Placed, p: Palette, ratio: float = 1.0) -> None:
    """Draw a placed drawing."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for mark in placed.drawing.marks:
        paint_mark(painter, mark, placed.mapping, p, ratio, placed.least_px)


def paint_mark(
    painter: QPainter,
    mark: Mark,
    m: Mapping2D,
    p: Palette,
    ratio: float,
    least_px: float = 0.0,
) -> None:
    """Draw one mark, its letters at least so many pixels high."""
    if isinstance(mark, Polygon | Ellipse):
        paint_shape(painter, mark, m, p, ratio)
    elif isinstance(mark, Line):
        dash = Qt.PenStyle.SolidLine if mark.style.dash == "solid" else Qt.PenStyle.DashLine
        color = p.color(mark.style.line or "ink", mark.style.line_alpha)
        painter.setPen(QPen(color, mark.style.line_px, dash))
        painter.drawPolyline(QPolygonF([m.placed(y, z) for y, z in mark.points]))
    elif isinstance(mark, Text):
        _paint_text(painter, mark, m, p, least_px)
    else:
        _paint_dim(painter, mark, m, p, least_px)


def _paint_text(painter: QPainter, text: Text, m: Mapping2D, p: Palette, least_px: float) -> None:
    size = max(text.high_m * m.scale, least_px)
    if size < _LEAST_PX:
        return
    at = m.placed(*text.at)
    painter.save()
    painter.setPen(p.color(text.color))
    painter.setFont(_font(size, bold=text.bold))
    painter.translate(at)
    if text.upright:
        painter.rotate(-90)
    _write(painter, text.text, text.anchor, 0.0)
    painter.restore()


def _font(size_px: float, *, bold: bool = False) -> QFont:
    made = font(12)
    made.setPixelSize(max(1, round(min(size_px, 400))))
    made.setBold(bold)
    return made


def _write(painter: QPainter, text: str, anchor: str, above: float) -> None:
    """Write at the origin of the painter; ``above`` lifts the line [px]."""
    metrics = QFontMetricsF(painter.font())
    wide = metrics.horizontalAdvance(text)
    left = {"middle": -wide / 2, "left": 0.0, "right": -wide}[anchor]
    middle = (metrics.ascent() - metrics.descent()) / 2
    painter.drawText(QPointF(left, -above if above else middle), text)


def _paint_dim(painter: QPainter, dim: Dim, m: Mapping2D, p: Palette, least_px: float) -> None:
    """Draw a dimension: lines that lead to it, the line with its ticks, the length over it."""
    ends = [m.placed(*point) for point in dim_line(dim)]
    painter.setPen(QPen(p.color("ink", 190), 0.8))
    painter.drawLine(m.placed(*dim.a), ends[0])
    painter.drawLine(m.placed(*dim.b), ends[1])
    painter.drawLine(ends[0], ends[1])
    angle = atan2(ends[1].y() - ends[0].y(), ends[1].x() - ends[0].x())
    size = max(dim.high_m * m.scale, least_px, 1.0)
    tick = 0.35 * size
    across = QPointF(tick * cos(angle - pi / 4), tick * sin(angle - pi / 4))
    for end in ends:
        painter.drawLine(end - across, end + across)
    if size < _LEAST_PX:
        return
    turn = degrees(angle)
    if turn > 90 or turn < -90 - 1e-6:
        turn += 180
    painter.save()
    painter.setPen(p.color("ink"))
    painter.setFont(_font(size))
    painter.translate((ends[0] + ends[1]) / 2)
    painter.rotate(turn)
    _write(painter, dim.text, "middle", 0.3 * size)
    painter.restore()
