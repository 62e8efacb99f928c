"""The lens Sun: what falls on lid and sides, what the sky takes, how warm they are for it."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from calveth.app.cutaway.labels import Labels, paint_foot
from calveth.app.cutaway.view import Mapping2D, Scene
from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import font
from calveth.texts.units import UnitSystem

_MOST_W_M2 = 900.0
_ARROW_PX = 26.0
_SEEN_W_M2 = 1.0
_DIRECTIONS = (
    "north",
    "north-east",
    "east",
    "south-east",
    "south",
    "south-west",
    "west",
    "north-west",
)


def paint_sun_marks(
    painter: QPainter, scene: Scene, m: Mapping2D, p: Palette, *, small: bool = False
) -> None:
    """Draw arrows of sun onto the lid and the two sides the section shows, and snow on the lid."""
    sun = scene.sun
    if sun is None:
        return
    outline = m.rect(scene.section.outline)
    long = _ARROW_PX * (0.4 if small else 1.0)
    deep = 0.0
    if sun.snow_m > 0.0:
        deep = min(max(sun.snow_m * m.scale, 3.0), 20.0)
        painter.setPen(QPen(p.color("water"), 1.0))
        painter.setBrush(p.color("sheet"))
        painter.drawRoundedRect(
            QRectF(outline.left(), outline.top() - deep, outline.width(), deep), 4, 4
        )
    for share in (0.2, 0.4, 0.6, 0.8):
        top = QPointF(outline.left() + share * outline.width(), outline.top() - 2 - deep)
        _ray(painter, top, QPointF(0, -long), sun.sun_w_m2["lid"], p)
        at = outline.top() + share * outline.height()
        _ray(painter, QPointF(outline.left() - 2, at), QPointF(-long, 0), sun.sun_w_m2["front"], p)
        _ray(painter, QPointF(outline.right() + 2, at), QPointF(long, 0), sun.sun_w_m2["back"], p)


def _ray(painter: QPainter, tip: QPointF, back: QPointF, w_m2: float, p: Palette) -> None:
    """Draw an arrow that ends at ``tip`` and comes from ``back``, wider with its watts."""
    if w_m2 < _SEEN_W_M2:
        return
    strength = min(w_m2 / _MOST_W_M2, 1.0)
    painter.setPen(QPen(p.color("honey"), 0.8 + 3.2 * strength))
    tail = tip + back * (0.35 + 0.65 * strength)
    painter.drawLine(tail, tip)
    size = math.hypot(back.x(), back.y())
    along = back / size
    across = QPointF(-along.y(), along.x())
    for side in (1, -1):
        painter.drawLine(tip, tip + along * 6 + across * (4 * side))


def paint_sun(
    painter: QPainter, scene: Scene, m: Mapping2D, area: QRectF, p: Palette
) -> list[QRectF]:
    """Draw the rays and say beside each face what it gets; return where the words stand."""
    sun, u = scene.sun, scene.units
    if sun is None:
        _say(painter, area, "Sun follows when the hours of the year are worked out …", p)
        return []
    paint_sun_marks(painter, scene, m, p)
    outline = m.rect(scene.section.outline)
    labels = Labels(painter, area, outline, p)
    middle = outline.center()

    def readings(face: str) -> str:
        text = f"{face} {sun.sun_w_m2[face]:.0f} W/m²\n"
        text += f"outside {u.write(sun.outside_degc[face], 'temperature', 1)}"
        if face != "lid":
            text += f"\ninside {_warmer(sun.inside_k[face], u)}"
            share = sun.wet_hours[face]
            if share > 0.0:
                text += "\nwet above" if scene.by_hour else f"\nwet {100 * share:.0f} % of hours"
        return text

    labels.put(QPointF(middle.x(), outline.top() + 3), readings("lid"), "right")
    labels.put(QPointF(outline.left() + 3, middle.y()), readings("front"), "left")
    labels.put(QPointF(outline.right() - 3, middle.y()), readings("back"), "right")
    # The other two sides look at the reader and away from him.
    low = outline.top() + 0.82 * outline.height()
    labels.put(QPointF(outline.left() + 0.3 * outline.width(), low), readings("left"), "left")
    labels.put(QPointF(outline.left() + 0.7 * outline.width(), low), readings("right"), "right")
    return [*labels.paint(), paint_foot(painter, area, _foot(scene), p)]


def _warmer(kelvin: float, u: UnitSystem) -> str:
    if abs(kelvin) < 0.05:
        return "as the others"
    word = "warmer" if kelvin > 0 else "colder"
    return f"{u.write(abs(kelvin), 'temperature difference', 1)} {word}"


def _foot(scene: Scene) -> str:
    sun = scene.sun
    assert sun is not None
    u = scene.units
    where = _DIRECTIONS[round(sun.bearing_deg / 45.0) % 8]
    stands = (
        f"sun {sun.height_deg:.0f}° high in the {where}" if sun.height_deg > 0 else "sun is down"
    )
    if not scene.by_hour:
        stands = f"mean of day and night; noon sun {max(sun.height_deg, 0.0):.0f}° high"
    snow = f"{u.write(sun.snow_m, 'length')} of snow · " if sun.snow_m > 0.005 else ""
    return (
        f"{snow}{stands} · air {u.write(sun.air_degc, 'temperature', 1)} · a clear sky takes "
        f"{sun.lid_loses_w_m2:.0f} W/m² from the lid, {sun.sides_lose_w_m2:.0f} from sides"
    )


def _say(painter: QPainter, area: QRectF, text: str, p: Palette) -> None:
    painter.setPen(p.color("muted"))
    painter.setFont(font(12))
    painter.drawText(area.adjusted(8, 18, 0, 0), Qt.AlignmentFlag.AlignTop, text)
