"""Draws the hive cut open: layers, combs, cluster and openings."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from calveth.app.cutaway.hatches import dots, hatch_brush
from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.app.theme.palette import Palette
from calveth.core.colony.colony import cluster_radius_m
from calveth.core.hive.section import Rect


def paint_hive(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, ratio: float) -> None:
    """Draw layers, room, combs, cluster and openings of a scene."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    _legs(painter, scene, m, p)
    _room(painter, scene, m, p, ratio)
    _layers(painter, scene, m, p, ratio)
    _panes(painter, scene, m, p, ratio)
    _gaps(painter, scene, m, p)


def _legs(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette) -> None:
    """Draw the legs that stand behind the cut."""
    painter.setPen(QPen(p.color("ink", 150), 1))
    painter.setBrush(p.color("wood", 120))
    for leg in scene.section.legs:
        painter.drawPolygon(m.shape(leg))


def _room(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, ratio: float) -> None:
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(p.color("sheet"))
    painter.drawPolygon(m.shape(scene.section.cavity))
    for comb in scene.section.combs:
        high = comb.z1 - comb.z0
        bar = replace(comb, z0=comb.z1 - min(0.05 * high, 7.0 / m.scale))
        _comb(painter, m.shape(comb), m.shape(bar), p, ratio)
    if scene.section.rack is not None:
        _rack(painter, m.rect(scene.section.rack), p)
    _cluster(painter, scene, m, p, ratio)


def _rack(painter: QPainter, r: QRectF, p: Palette) -> None:
    """Draw the slats of a rack, cut across."""
    painter.save()
    painter.setPen(QPen(p.color("ink", 160), 0.8))
    painter.setBrush(p.color("wood"))
    count = max(4, int(r.width() / 22))
    tall = max(4.0, min(10.0, r.height() * 0.3))
    for k in range(count):
        x = r.left() + (k + 0.25) * r.width() / count
        painter.drawRect(QRectF(x, r.top(), r.width() / count * 0.5, tall))
    painter.restore()


def _comb(painter: QPainter, shape: QPolygonF, bar: QPolygonF, p: Palette, ratio: float) -> None:
    """Draw a comb face with its bar on top and a ground of cells."""
    painter.save()
    painter.setPen(QPen(p.color("honey", 120), 1))
    painter.setBrush(p.color("honey", 18))
    painter.drawPolygon(shape)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(dots(p.honey, 110, 8.0, 1.0, ratio))
    painter.drawPolygon(shape)
    painter.setBrush(p.color("wood"))
    painter.drawPolygon(bar)
    painter.restore()


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


def _cluster(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, ratio: float) -> None:
    r = m.rect(cluster_rect(scene))
    painter.save()
    painter.setPen(QPen(p.color("heat", 200), 1.2, Qt.PenStyle.DashLine))
    painter.setBrush(p.color("heat", 34))
    painter.drawEllipse(r)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(dots(p.heat, 150, 7.0, 1.8, ratio))
    painter.drawEllipse(r)
    painter.restore()


def _layers(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, ratio: float) -> None:
    for piece in scene.section.pieces:
        rect = m.rect(piece.rect)
        material = scene.materials[piece.material]
        brush = hatch_brush(material.hatch, p, ratio, upright=piece.front is not None)
        painter.setBrush(brush)
        painter.setBrushOrigin(rect.topLeft())
        thin = min(rect.width(), rect.height()) < 3
        painter.setPen(QPen(p.color("ink", 120 if thin else 220), 0.6 if thin else 1.0))
        painter.drawPolygon(m.shape(piece.rect))
    if scene.chosen is not None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(p.color("accent"), 2.6))
        for outline in face_outlines(scene):
            painter.drawPolygon(m.shape(outline))


def _panes(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, ratio: float) -> None:
    """Draw the window: its panes in the cut wall, or its outline on the wall behind."""
    window = scene.design.window
    if window is not None and scene.section.panes and not scene.section.panes[0].behind:
        # Before and behind the panes the wall is open.
        room, deep = scene.section.cavity, scene.design.shell.thickness_m("walls")
        y0, y1 = (room.y0 - deep, room.y0) if window.side == "front" else (room.y1, room.y1 + deep)
        bottom = room.z0 + window.bottom_m
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(p.color("sheet"))
        painter.drawPolygon(m.shape(Rect(y0=y0, y1=y1, z0=bottom, z1=bottom + window.height_m)))
    for pane in scene.section.panes:
        if pane.behind:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(p.color("ink"), 1, Qt.PenStyle.DashDotLine))
        else:
            hatch = scene.materials[pane.material].hatch
            painter.setBrush(hatch_brush(hatch, p, ratio, upright=True))
            painter.setPen(QPen(p.color("ink", 200), 0.8))
        painter.drawPolygon(m.shape(pane.rect))


def face_outlines(scene: Scene) -> list[Rect]:
    """Return the outlines of the chosen face: both walls, or one plate [m]."""
    groups: dict[bool | None, list[Rect]] = {}
    for piece in scene.section.pieces:
        if piece.face == scene.chosen and piece.layer >= 0:
            groups.setdefault(piece.front, []).append(piece.rect)
    return [
        Rect(
            y0=min(r.y0 for r in rects),
            y1=max(r.y1 for r in rects),
            z0=min(r.z0 for r in rects),
            z1=max(r.z1 for r in rects),
        )
        for rects in groups.values()
    ]


def _gaps(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette) -> None:
    for gap in scene.section.gaps:
        if gap.through and m.bend is not None:
            painter.setPen(QPen(p.color("ink"), 1))
            painter.setBrush(p.color("sheet"))
            painter.drawPolygon(m.shape(gap.rect))
            continue
        rect = m.rect(gap.rect)
        if rect.height() < 3:
            rect.setTop(rect.center().y() - 1.5)
            rect.setHeight(3)
        if gap.through:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(p.color("sheet"))
            painter.drawRect(rect.adjusted(-1, 0, 1, 0))
            painter.setPen(QPen(p.color("ink"), 1))
            painter.drawLine(rect.topLeft(), rect.topRight())
            painter.drawLine(rect.bottomLeft(), rect.bottomRight())
        else:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(p.color("ink"), 1, Qt.PenStyle.DashLine))
            painter.drawRect(rect)


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
