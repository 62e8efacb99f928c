"""The hive cut across its frames or from above: painted, clicked, and drawn wider by hand."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from calveth.app.cutaway.drag import Drag, drag_of
from calveth.app.cutaway.drawings import Placed, paint_placed, place
from calveth.app.cutaway.view import Scene
from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import font
from calveth.core.hive.design import Face
from calveth.core.hive.opening import Opening
from calveth.core.solids.openings_cut import along_m
from calveth.drawing.cuts import CutView, front_cut, plan_cut
from calveth.drawing.shapes import Ellipse, Polygon

_MARGIN, _FOOT, _REACH_PX = 40.0, 34.0, 5.0


def view_of(scene: Scene) -> CutView:
    """Return the cut a scene asks for."""
    cut = front_cut if scene.way == "front" else plan_cut
    return cut(scene.design, scene.materials)


def placed_of(scene: Scene, area: QRectF) -> Placed:
    """Return where the cut lies in an area."""
    room = area.adjusted(_MARGIN, _MARGIN / 2, -_MARGIN, -_FOOT - _MARGIN / 2)
    return place(view_of(scene).drawing, room)


def paint_section(painter: QPainter, scene: Scene, area: QRectF, p: Palette, ratio: float) -> None:
    """Draw a cut, the chosen face marked, and its overall sizes below."""
    view, placed = view_of(scene), placed_of(scene, area)
    paint_placed(painter, placed, p, ratio)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(p.color("accent"), 2.2))
    for part in view.parts:
        mark = view.drawing.marks[part.mark]
        if part.face == scene.chosen and isinstance(mark, Polygon):
            painter.drawPolygon(QPolygonF([placed.mapping.placed(*q) for q in mark.points]))
    x0, x1, z0, z1 = view.body
    wide, high = (scene.units.write(v, "length") for v in (x1 - x0, z1 - z0))
    painter.setPen(p.color("muted"))
    painter.setFont(font(12))
    foot = QRectF(area.left() + 150, area.bottom() - _FOOT, area.width() - 160, _FOOT - 8)
    other = "high" if scene.way == "front" else "deep"
    words = f"{view.drawing.title} · {wide} wide, {high} {other} without its stand"
    cut = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(foot.width()))
    painter.drawText(foot, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, cut)


def face_of(scene: Scene, area: QRectF, point: QPointF) -> Face | None:
    """Return the face under a pixel of a cut."""
    view, placed = view_of(scene), placed_of(scene, area)
    for part in reversed(view.parts):
        mark = view.drawing.marks[part.mark]
        if isinstance(mark, Polygon):
            polygon = QPolygonF([placed.mapping.placed(*q) for q in mark.points])
            if polygon.containsPoint(point, Qt.FillRule.OddEvenFill):
                return part.face
    return None


@dataclass
class OpeningDrag:
    """An opening held by hand: it moves along its wall, and up and down in the front section."""

    opening: Opening
    along_m: float
    start: QPointF
    scale: float
    way: str
    shown: tuple[float, float] = (0.0, 0.0)

    def moved(self, position: QPointF) -> tuple[float, float]:
        """Return its place along the wall and above the floor for a hand there, in whole mm [m]."""
        dx = (position.x() - self.start.x()) / self.scale
        dy = -(position.y() - self.start.y()) / self.scale
        ends = self.opening.side in ("left", "right")
        along, up = (0.0 if ends else dx), dy
        if self.way == "plan":
            along, up = (dy if ends else dx), 0.0
        bottom = self.opening.bottom_m + (0.0 if self.opening.level else up)
        return round(max(0.0, self.along_m + along), 3), round(max(0.0, bottom), 3)


def begin_opening_drag(scene: Scene, area: QRectF, point: QPointF) -> OpeningDrag | None:
    """Return a hold on the opening under a pixel of a cut, None elsewhere."""
    view, placed = view_of(scene), placed_of(scene, area)
    for index, opening_id in view.openings:
        mark = view.drawing.marks[index]
        if isinstance(mark, Polygon):
            points = mark.points
        elif isinstance(mark, Ellipse):
            points = ((mark.y0, mark.z0), (mark.y1, mark.z1))
        else:
            continue
        box = QPolygonF([placed.mapping.placed(*q) for q in points]).boundingRect()
        if box.adjusted(-3, -3, 3, 3).contains(point):
            opening = next(o for o in scene.design.openings if o.id == opening_id)
            at = along_m(scene.design.form, opening)
            return OpeningDrag(opening, at, point, placed.mapping.scale, scene.way)
    return None


def begin_section_drag(scene: Scene, area: QRectF, point: QPointF) -> Drag | None:
    """Return a hold on the outer side of a face in a cut, None elsewhere."""
    view, placed = view_of(scene), placed_of(scene, area)
    x0, x1, z0, z1 = view.body
    box = QRectF(placed.mapping.placed(x0, z1), placed.mapping.placed(x1, z0))
    if not box.adjusted(-_REACH_PX, -_REACH_PX, _REACH_PX, _REACH_PX).contains(point):
        return None
    upper: Face = "lid" if scene.way == "front" else "walls"
    lower: Face = "floor" if scene.way == "front" else "walls"
    sides: tuple[tuple[Face, float, QPointF], ...] = (
        (upper, abs(point.y() - box.top()), QPointF(0, -1)),
        (lower, abs(point.y() - box.bottom()), QPointF(0, 1)),
        ("walls", abs(point.x() - box.left()), QPointF(-1, 0)),
        ("walls", abs(point.x() - box.right()), QPointF(1, 0)),
    )
    face, distance, outward = min(sides, key=lambda side: side[1])
    if distance > _REACH_PX:
        return None
    return drag_of(scene, face, outward, point, placed.mapping.scale)
