"""The lens Warmth: temperatures as colour with lines of equal temperature, and watts as marks."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QFont, QLinearGradient, QPainter, QPen, QPolygonF

from calveth.app.cutaway.field import paint_bands, paint_isotherms
from calveth.app.cutaway.labels import Labels
from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.app.cutaway.zones import ZONE_WORDS, paint_zone, zone_shares
from calveth.app.theme.palette import Palette
from calveth.app.theme.scale import ink_on, temperature_color
from calveth.app.theme.theme import font
from calveth.core.assess.heat_paths import HeatPath, heat_paths
from calveth.core.hive.design import Face
from calveth.core.hive.zones import BASE, CROWN, NEST, zone_tops_m
from calveth.core.moisture.profile import Profile
from calveth.core.solids.section import Piece, Rect

_STEP_K = 5.0


def scale_ends(scene: Scene) -> tuple[float, float]:
    """Return the ends of the colour scale [°C]: outside and the warmest air, rounded to 5 K."""
    assert scene.assessed is not None
    readings, i = scene.assessed.months, scene.month
    outside = float(readings.outside.temperature_degc[i])
    warmest = float(readings.balance.temperature_degc[:, i].max())
    low = _STEP_K * math.floor(min(outside, warmest) / _STEP_K)
    high = _STEP_K * math.ceil(max(outside, warmest) / _STEP_K)
    return low, max(high, low + _STEP_K)


def paint_warmth_field(
    painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, *, small: bool = False
) -> None:
    """Colour layers and room by their temperatures, with lines of equal temperature.

    The solved field where there is one, else that of each face by itself.
    """
    if scene.assessed is None:
        return
    ends = scale_ends(scene)
    painter.setBrushOrigin(0, 0)  # the hatches have moved it, and gradients follow it
    if scene.solved is not None:
        paint_bands(painter, scene, scene.solved.upright, m, ends, small=small)
        _room(painter, scene, m, ends)
        _edges(painter, scene, m, p)
        if not small:
            paint_isotherms(painter, scene, scene.solved.upright, m, ends)
        return
    readings, i = scene.assessed.months, scene.month
    profiles: dict[Face, Profile] = {}
    for piece in scene.section.pieces:
        if piece.layer < 0:
            continue
        if piece.face not in profiles:
            profiles[piece.face] = readings.profile(piece.face, i)
        _piece(painter, scene, piece, profiles[piece.face], m, ends)
    _room(painter, scene, m, ends)
    _edges(painter, scene, m, p)
    if not small:
        _isotherms(painter, scene, profiles, m)


def _edges(painter: QPainter, scene: Scene, m: Mapping2D, p: Palette) -> None:
    painter.setPen(QPen(p.color("ink", 150), 0.8))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for piece in scene.section.pieces:
        painter.drawPolygon(m.shape(piece.rect))


def _piece(
    painter: QPainter,
    scene: Scene,
    piece: Piece,
    profile: Profile,
    m: Mapping2D,
    ends: tuple[float, float],
) -> None:
    """Fill a layer with a gradient between the temperatures of its two sides."""
    stack = scene.design.shell.stack(piece.face)
    depth = sum(layer.thickness_m for layer in stack[piece.layer + 1 :])
    inner = float(np.interp(depth, profile.depth_m, profile.temperature_degc))
    outer = float(
        np.interp(depth + stack[piece.layer].thickness_m, profile.depth_m, profile.temperature_degc)
    )
    rect = m.rect(piece.rect)
    if piece.face == "lid":
        start, end = rect.bottomLeft(), rect.topLeft()
    elif piece.face == "floor":
        start, end = rect.topLeft(), rect.bottomLeft()
    elif piece.front:
        start, end = rect.topRight(), rect.topLeft()
    else:
        start, end = rect.topLeft(), rect.topRight()
    gradient = QLinearGradient(start, end)
    for share in (0.0, 0.25, 0.5, 0.75, 1.0):
        gradient.setColorAt(share, temperature_color(inner + share * (outer - inner), *ends))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QBrush(gradient))
    painter.drawPolygon(m.shape(piece.rect))


def _room(painter: QPainter, scene: Scene, m: Mapping2D, ends: tuple[float, float]) -> None:
    assert scene.assessed is not None
    t = scene.assessed.months.balance.temperature_degc[:, scene.month]
    room = scene.section.cavity
    low, high = zone_tops_m(room.z1 - room.z0)
    middle = (room.y0 + room.y1) / 2
    gradient = QLinearGradient(m.point(middle, room.z0), m.point(middle, room.z1))
    height = room.z1 - room.z0
    for share, zone in (
        (0.0, BASE),
        (low / height * 0.6, BASE),
        (low / height * 1.4, NEST),
        (1 - 1.4 * (height - high) / height, NEST),
        (1 - 0.6 * (height - high) / height, CROWN),
        (1.0, CROWN),
    ):
        gradient.setColorAt(min(max(share, 0.0), 1.0), temperature_color(float(t[zone]), *ends))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QBrush(gradient))
    painter.drawPolygon(m.shape(room))


def _isotherms(
    painter: QPainter, scene: Scene, profiles: dict[Face, Profile], m: Mapping2D
) -> None:
    """Draw lines of equal temperature through walls, lid and floor, every 5 K."""
    room = scene.section.cavity
    painter.setFont(font(10))
    for face, profile in profiles.items():
        t = profile.temperature_degc
        lowest, highest = float(min(t[0], t[-1])), float(max(t[0], t[-1]))
        value = _STEP_K * math.ceil(lowest / _STEP_K)
        while value < highest:
            order = np.argsort(t)
            depth = float(np.interp(value, t[order], profile.depth_m[order]))
            _isotherm(painter, face, depth, value, room, m, scene)
            value += _STEP_K


def _isotherm(
    painter: QPainter,
    face: Face,
    depth: float,
    value: float,
    room: Rect,
    m: Mapping2D,
    scene: Scene,
) -> None:
    painter.setPen(QPen(ink_on(temperature_color(value, *scale_ends(scene))), 1.0))
    text = scene.units.number(value, "temperature", 0) + "°"
    if face == "lid":
        a, b = m.point(room.y0, room.z1 + depth), m.point(room.y1, room.z1 + depth)
        painter.drawLine(a, b)
        painter.drawText(QPointF(b.x() - 24, b.y() - 2), text)
    elif face == "floor":
        a, b = m.point(room.y0, room.z0 - depth), m.point(room.y1, room.z0 - depth)
        painter.drawLine(a, b)
        painter.drawText(QPointF(b.x() - 24, b.y() - 2), text)
    else:
        for y in (room.y0 - depth, room.y1 + depth):
            painter.drawLine(m.point(y, room.z0), m.point(y, room.z1))


def paint_warmth(
    painter: QPainter, scene: Scene, m: Mapping2D, area: QRectF, p: Palette
) -> list[QRectF]:
    """Write zone temperatures, mark the heat of each part, and draw the scale.

    Returns where the words stand [px].
    """
    if scene.assessed is None:
        return []
    # Words keep clear of the scale and the choice of the cut below.
    labels = Labels(painter, area.adjusted(0, 0, 0, -14), m.rect(scene.section.outline), p)
    paths = heat_paths(scene.assessed, scene.month)
    total_w = sum(path.watts for path in paths)
    for path in paths:
        _heat_mark(painter, scene, path, total_w, m, labels, p)
    _zones(painter, scene, m)
    paint_scale(painter, scene, area, p, scale_ends(scene))
    return labels.paint()


def _heat_mark(
    painter: QPainter,
    scene: Scene,
    path: HeatPath,
    total_w: float,
    m: Mapping2D,
    labels: Labels,
    p: Palette,
) -> None:
    """Draw an arrow out of a part whose width is its watts, and say them beside it."""
    outline, room = scene.section.outline, scene.section.cavity
    share = path.watts / total_w if total_w > 0 else 0.0
    middle_y, middle_z = (room.y0 + room.y1) / 2, (room.z0 + room.z1) / 2
    start, direction, side = {
        "lid": (m.point(room.y0 + 0.3 * (room.y1 - room.y0), outline.z1), (0, -1), "left"),
        "walls": (m.point(outline.y1, middle_z), (1, 0), "right"),
        "floor": (m.point(middle_y, outline.z0), (0, 1), "right"),
        "window": (m.point(outline.y1, room.z0 + 0.3 * (room.z1 - room.z0)), (1, 0), "right"),
        "air": (m.point(outline.y0, room.z0 + 0.12 * (room.z1 - room.z0)), (-1, 0), "left"),
    }[path.part]
    length, width = 16.0, max(2.0, 26.0 * share)
    dx, dy = direction
    tip = start + QPointF(dx * (length + width * 0.5), dy * (length + width * 0.5))
    end = start + QPointF(dx * length, dy * length)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(p.color("heat"))
    across = QPointF(dy, dx)
    painter.drawPolygon(
        QPolygonF(
            [
                start + across * (width / 2),
                end + across * (width / 2),
                end + across * (width * 0.8),
                tip,
                end - across * (width * 0.8),
                end - across * (width / 2),
                start - across * (width / 2),
            ]
        )
    )
    labels.put(tip, f"{path.part} {path.watts:.1f} W\n{share:.0%}", side, "heat")


def _zones(painter: QPainter, scene: Scene, m: Mapping2D) -> None:
    assert scene.assessed is not None
    t = scene.assessed.months.balance.temperature_degc[:, scene.month]
    for zone, share in zone_shares(scene):
        shown = scene.units.write(float(t[zone]), "temperature")
        ink = ink_on(temperature_color(float(t[zone]), *scale_ends(scene)))
        paint_zone(painter, m, scene.section.cavity, None, share, ZONE_WORDS[zone], shown, ink=ink)


def paint_scale(
    painter: QPainter, scene: Scene, area: QRectF, p: Palette, ends: tuple[float, float]
) -> None:
    """Draw the colour scale under the hive with its figures."""
    low, high = ends
    painter.setBrushOrigin(0, 0)
    bar = QRectF(area.center().x() - 130, area.bottom() - 20, 260, 9)
    gradient = QLinearGradient(bar.topLeft(), bar.topRight())
    for k in range(7):
        share = k / 6
        gradient.setColorAt(share, temperature_color(low + share * (high - low), low, high))
    painter.fillRect(bar, QBrush(gradient))
    painter.setPen(QPen(p.color("muted"), 0.8))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(bar)
    small: QFont = font(11)
    painter.setFont(small)
    for share in (0.0, 0.5, 1.0):
        digits = 0 if high - low >= _STEP_K else 1
        value = scene.units.write(low + share * (high - low), "temperature", digits)
        x = bar.left() + share * bar.width()
        if share == 0.5:
            continue
        align = Qt.AlignmentFlag.AlignRight if share == 0 else Qt.AlignmentFlag.AlignLeft
        box = (
            QRectF(x - 66, bar.top() - 4, 60, 16)
            if share == 0
            else QRectF(x + 6, bar.top() - 4, 60, 16)
        )
        painter.drawText(box, align, value)
