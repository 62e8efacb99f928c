"""Paints the hive cut open: the neutral shapes of its section, through a mapping and a palette."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from calveth.app.cutaway.hatches import dots, hatch_brush
from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.app.theme.palette import Palette
from calveth.core.colony.colony import cluster_radius_m
from calveth.core.solids.section import Rect
from calveth.drawing.section import section_shapes
from calveth.drawing.shapes import Dash, Ellipse, Polygon, Shape, Style

_DASHES: dict[Dash, Qt.PenStyle] = {
    "solid": Qt.PenStyle.SolidLine,
    "dash": Qt.PenStyle.DashLine,
    "dash dot": Qt.PenStyle.DashDotLine,
}
# A piece thinner than this holds no full line [px].
_THIN_PX = 3.0


def paint_hive(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, ratio: float) -> None:
    """Draw layers, room, combs, cluster and openings of a scene."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for shape in section_shapes(
        scene.design,
        scene.section,
        scene.materials,
        cluster=cluster_rect(scene),
        chosen=scene.chosen,
    ):
        paint_shape(painter, shape, m, p, ratio)


def cluster_rect(scene: Scene) -> Rect:
    """Return where the cluster sits: under the top of the room, a little to the front [m]."""
    room = scene.section.cavity
    radius = cluster_radius_m(scene.colony.mass_kg[scene.month])
    width, height = room.y1 - room.y0, room.z1 - room.z0
    half_w = min(radius, 0.46 * width)
    # Squeezed sideways it reaches further down: the section keeps its area.
    half_h = min(radius * radius / half_w, 0.46 * height)
    y = (room.y0 + room.y1) / 2
    z = room.z1 - 0.02 - half_h
    return Rect(y0=y - half_w, y1=y + half_w, z0=z - half_h, z1=z + half_h)


def paint_shape(painter: QPainter, shape: Shape, m: Mapping2D, p: Palette, ratio: float) -> None:
    """Draw one shape; ``ratio`` is how many dots of the device a pixel has."""
    if isinstance(shape, Ellipse):
        _dress(painter, shape.style, p, ratio, thin=False)
        painter.drawEllipse(QRectF(m.placed(shape.y0, shape.z1), m.placed(shape.y1, shape.z0)))
        return
    polygon = QPolygonF([m.placed(y, z) for y, z in shape.points])
    box = polygon.boundingRect()
    _dress(painter, shape.style, p, ratio, thin=min(box.width(), box.height()) < _THIN_PX)
    painter.setBrushOrigin(m.placed(*shape.origin))
    if shape.least_px:
        _paint_slot(painter, shape, box)
    else:
        painter.drawPolygon(polygon)


def _paint_slot(painter: QPainter, shape: Polygon, box: QRectF) -> None:
    """Draw a way through a wall, never lower than can be seen, its ends open."""
    if box.height() < shape.least_px:
        box.setTop(box.center().y() - shape.least_px / 2)
        box.setHeight(shape.least_px)
    if not shape.open_ends:
        painter.drawRect(box)
        return
    pen = painter.pen()
    painter.setPen(Qt.PenStyle.NoPen)
    # A pixel more to either side takes away the edges of the wall.
    painter.drawRect(box.adjusted(-1, 0, 1, 0))
    painter.setPen(pen)
    painter.drawLine(box.topLeft(), box.topRight())
    painter.drawLine(box.bottomLeft(), box.bottomRight())


def _dress(painter: QPainter, style: Style, p: Palette, ratio: float, *, thin: bool) -> None:
    """Give the painter pen and brush of a style."""
    if style.hatch is not None:
        painter.setBrush(hatch_brush(style.hatch, p, ratio, upright=style.upright))
    elif style.dots is not None:
        d = style.dots
        painter.setBrush(dots(getattr(p, d.color), d.alpha, d.step_px, d.size_px, ratio))
    elif style.fill:
        painter.setBrush(p.color(style.fill, style.fill_alpha))
    else:
        painter.setBrush(Qt.BrushStyle.NoBrush)
    if not style.line:
        painter.setPen(Qt.PenStyle.NoPen)
        return
    fine = style.thins and thin
    alpha, wide = (120, 0.6) if fine else (style.line_alpha, style.line_px)
    painter.setPen(QPen(p.color(style.line, alpha), wide, _DASHES[style.dash]))


def paint_arrow(
    painter: QPainter, tip: QPointF, direction: float, length: float, size: float
) -> None:
    """Draw a level arrow whose tip lies at ``tip``; direction +1 points right."""
    tail = QPointF(tip.x() - direction * length, tip.y())
    painter.drawLine(tail, tip)
    head = QPolygonF(
        [
            tip,
            QPointF(tip.x() - direction * size, tip.y() - size * 0.6),
            QPointF(tip.x() - direction * size, tip.y() + size * 0.6),
        ]
    )
    painter.save()
    painter.setBrush(painter.pen().color())
    painter.drawPolygon(head)
    painter.restore()
