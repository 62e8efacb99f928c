"""The solved hive cut level, and looked at from outside with the temperatures of its surface."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from calveth.app.cutaway.field import field_degc, paint_bands, paint_isotherms
from calveth.app.cutaway.labels import paint_foot
from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.app.theme.palette import Palette
from calveth.app.theme.scale import temperature_color
from calveth.app.theme.theme import font
from calveth.core.hive.zones import NEST
from calveth.core.solids.build import build_solids
from calveth.core.solids.level import cut_level, level_piece
from calveth.core.solids.parts import HiveSolids
from calveth.core.solids.section import Rect

if TYPE_CHECKING:
    from calveth.core.conduction.fields import Skin


FloatArray = NDArray[np.float64]
# Looked at from the front, the right and above: what is across, what is up, what is far.
_ACROSS = np.array([0.82, 0.57, 0.0])
_UP = np.array([-0.22, 0.32, 0.92])
_FAR = np.array([-0.53, 0.76, -0.39])
# Room for the choice in the corner [px].
_CORNER_PX = 120


def paint_level(
    painter: QPainter, scene: Scene, area: QRectF, p: Palette, ends: tuple[float, float]
) -> None:
    """Draw the level cut through the middle with its temperatures, seen from above."""
    assert scene.solved is not None
    field, hive = scene.solved.level, build_solids(scene.design)
    x, y = field.across_m, field.up_m
    frame = Rect(y0=float(x.min()), y1=float(x.max()), z0=float(y.min()), z1=float(y.max()))
    m = Mapping2D.fit(frame, area.adjusted(80, 24, -80, -58))
    pieces = cut_level(hive, field.at_m)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    _nest(painter, scene, hive, m, ends)
    painter.setPen(QPen(p.color("honey", 160), 1))
    painter.setBrush(p.color("honey", 60))
    for piece in pieces:
        if piece.comb:
            painter.drawRect(m.rect(Rect(y0=piece.x0, y1=piece.x1, z0=piece.y0, z1=piece.y1)))
    paint_bands(painter, scene, field, m, ends)
    painter.setPen(QPen(p.color("ink", 150), 0.8))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for piece in pieces:
        if piece.comb:
            continue
        rect = m.rect(Rect(y0=piece.x0, y1=piece.x1, z0=piece.y0, z1=piece.y1))
        if piece.round:
            painter.drawEllipse(rect)
        else:
            painter.drawRect(rect)
    paint_isotherms(painter, scene, field, m, ends)
    painter.setPen(p.color("muted"))
    painter.setFont(font(12))
    shown = m.rect(frame)
    for text, top in (("back", shown.top() - 19), ("front", shown.bottom() + 2)):
        box = QRectF(shown.left(), top, shown.width(), 17)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
    low, high = _span(field_degc(scene, field))
    u = scene.units
    paint_foot(
        painter,
        area.adjusted(_CORNER_PX, 0, 0, -18),
        f"{u.write(field.at_m, 'length')} above the floor, seen from above; walls "
        f"{u.write(low, 'temperature')} to {u.write(high, 'temperature')}",
        p,
    )


def _nest(
    painter: QPainter, scene: Scene, hive: HiveSolids, m: Mapping2D, ends: tuple[float, float]
) -> None:
    """Fill the room with the colour of the nest air."""
    assert scene.solved is not None and scene.assessed is not None
    nest = float(scene.assessed.months.balance.temperature_degc[NEST, scene.month])
    color = temperature_color(nest, *ends)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(color)
    room = level_piece(hive, hive.cavity, scene.solved.level.at_m)
    rect = m.rect(Rect(y0=room.x0, y1=room.x1, z0=room.y0, z1=room.y1))
    if room.round:
        painter.drawEllipse(rect)
    else:
        painter.drawRect(rect)


def paint_outside(painter: QPainter, scene: Scene, area: QRectF, p: Palette) -> None:
    """Draw the hive from outside, each square of its surface in the colour of its temperature."""
    assert scene.solved is not None and scene.assessed is not None
    skin = scene.solved.skin
    months, i = scene.assessed.months, scene.month
    outside = float(months.outside.temperature_degc[i])
    degc = skin.degc(months.balance.temperature_degc[:, i], outside)
    seen = _seen(skin)
    flat = np.stack([skin.corners_m @ _ACROSS, -(skin.corners_m @ _UP)], axis=2)
    low, high = flat[seen].min(axis=(0, 1)), flat[seen].max(axis=(0, 1))
    room = area.adjusted(80, 14, -80, -58)
    scale = min(room.width() / (high[0] - low[0]), room.height() / (high[1] - low[1]))
    middle = np.array([room.center().x(), room.center().y()])
    flat = middle + (flat - 0.5 * (low + high)) * scale
    hole = np.isin(skin.part, skin.open_parts)
    # The outer surface differs little: it has a scale of its own.
    own = _outer_span(degc[seen])
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    painter.setPen(Qt.PenStyle.NoPen)
    for k in seen[np.argsort(-(skin.corners_m[seen].mean(axis=1) @ _FAR))]:
        color = p.color("ink") if hole[k] else temperature_color(float(degc[k]), *own)
        painter.setPen(QPen(color, 1))
        painter.setBrush(color)
        painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in flat[k].tolist()]))
    painter.restore()
    warmest = int(seen[np.argmax(np.where(hole[seen], -1e9, degc[seen]))])
    u = scene.units
    name = skin.parts[skin.part[warmest]].split(":")[0]
    painter.setPen(QPen(p.color("ink"), 1.4))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawEllipse(QPointF(*flat[warmest].mean(axis=0).tolist()), 5, 5)
    paint_foot(
        painter,
        area.adjusted(_CORNER_PX, 0, 0, -18),
        f"surface {u.write(own[0], 'temperature')} to {u.write(own[1], 'temperature')}, outside "
        f"{u.write(outside, 'temperature')}; warmest (ring): {name}",
        p,
    )


def skin_ends(scene: Scene) -> tuple[float, float]:
    """Return the ends of the scale of the outer surface [°C]."""
    assert scene.solved is not None and scene.assessed is not None
    months, i = scene.assessed.months, scene.month
    skin = scene.solved.skin
    degc = skin.degc(
        months.balance.temperature_degc[:, i], float(months.outside.temperature_degc[i])
    )
    return _outer_span(degc[_seen(skin)])


def _outer_span(degc: FloatArray) -> tuple[float, float]:
    """Return the ends of a scale that the few squares in an entrance do not stretch [°C]."""
    low, high = (float(v) for v in np.percentile(degc, (0, 98)))
    return low, max(high, low + 0.5)


def _seen(skin: Skin) -> NDArray[np.int64]:
    """Return the squares that are turned to the eye."""
    corners = skin.corners_m
    normal = np.cross(corners[:, 2] - corners[:, 0], corners[:, 3] - corners[:, 1])
    centre = corners.mean(axis=1)
    middle = 0.5 * (corners.min(axis=(0, 1)) + corners.max(axis=(0, 1)))
    away = np.sign(np.einsum("ij,ij->i", normal, centre - middle))
    around: NDArray[np.int64] = np.flatnonzero((normal @ _FAR) * away < 0)
    return around


def _span(degc: FloatArray) -> tuple[float, float]:
    known = degc[np.isfinite(degc)]
    low, high = float(known.min()), float(known.max())
    return low, max(high, low + 0.5)
