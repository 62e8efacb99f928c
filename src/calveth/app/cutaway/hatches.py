"""Drawn patterns for materials, readable in black and white."""

from __future__ import annotations

import math
import random
from functools import cache

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QPainter, QPen, QPixmap, QTransform

from calveth.app.theme.palette import Palette
from calveth.core.materials import Hatch

_TILE = 48
_FILL: dict[Hatch, str] = {
    "grain": "wood",
    "beads": "foam",
    "foam": "foam",
    "pores": "stone",
    "stone": "stone",
    "shavings": "wood",
    "foil": "stone",
    "air": "sheet",
    "plain": "fill",
    "glass": "sheet",
    "cork": "wood",
    "straw": "wood",
    "brick": "stone",
}


def fill_color(hatch: Hatch, palette: Palette) -> QColor:
    """Return the quiet ground colour of a hatch."""
    return palette.color(_FILL[hatch])


@cache
def _tile(hatch: Hatch, palette: Palette, scale: float) -> QPixmap:
    """Return one tile of a hatch, drawn at a device scale; tiles join without a seam."""
    pixmap = QPixmap(int(_TILE * scale), int(_TILE * scale))
    pixmap.setDevicePixelRatio(scale)
    pixmap.fill(fill_color(hatch, palette))
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(palette.color("ink", 110), 0.8))
    _DRAW.get(hatch, _nothing)(painter)
    painter.end()
    return pixmap


def _nothing(_: QPainter) -> None:
    return


def _grain(painter: QPainter) -> None:
    """Draw long wavering lines along the board."""
    for row, y in enumerate((4, 10, 15, 23, 29, 38, 43)):
        last = QPointF(0, y)
        for x in range(4, _TILE + 1, 4):
            wave = 0.9 * math.sin(2 * math.pi * x / _TILE + row)
            point = QPointF(x, y + wave - 0.9 * math.sin(row))
            painter.drawLine(last, point)
            last = point


def _beads(painter: QPainter) -> None:
    """Draw packed beads, as polystyrene breaks."""
    for row in range(6):
        for column in range(6):
            x = column * 8 + (4 if row % 2 else 0)
            painter.drawEllipse(QPointF(x + 1.0, row * 8 + 4.0), 3.1, 3.1)


def _scatter(count: int, seed: int) -> list[tuple[float, float]]:
    source = random.Random(seed)
    return [(source.uniform(3, _TILE - 3), source.uniform(3, _TILE - 3)) for _ in range(count)]


def _pores(painter: QPainter) -> None:
    """Draw closed pores of many sizes, as in aircrete."""
    for k, (x, y) in enumerate(_scatter(30, 7)):
        r = 0.7 + (k % 4) * 0.45
        painter.drawEllipse(QPointF(x, y), r, r)


def _foam(painter: QPainter) -> None:
    """Draw fine dots."""
    painter.setPen(QPen(painter.pen().color(), 1.3, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    for row in range(8):
        for column in range(8):
            painter.drawPoint(QPointF(column * 6 + (3 if row % 2 else 0) + 1.5, row * 6 + 3.0))


def _shavings(painter: QPainter) -> None:
    """Draw short curls in all directions."""
    for k, (x, y) in enumerate(_scatter(26, 3)):
        painter.drawArc(QRectF(x - 2.5, y - 2.0, 5, 4), (k * 53 % 360) * 16, 150 * 16)


def _stone(painter: QPainter) -> None:
    """Draw slanting lines with grit."""
    for offset in range(-_TILE, _TILE, 12):
        painter.drawLine(QPointF(offset, _TILE), QPointF(offset + _TILE, 0))
    for x, y in _scatter(9, 11):
        painter.drawEllipse(QPointF(x, y), 0.6, 0.6)


def _glass(painter: QPainter) -> None:
    """Draw a few slanting strokes, as glass is marked."""
    for offset in (0, 26):
        for step in (0, 5):
            painter.drawLine(QPointF(offset + step, 20), QPointF(offset + step + 12, 8))
            painter.drawLine(QPointF(offset + step - 6, 44), QPointF(offset + step + 6, 32))


def _cork(painter: QPainter) -> None:
    """Draw short thick grains in all directions."""
    painter.setPen(QPen(painter.pen().color(), 1.6))
    for k, (x, y) in enumerate(_scatter(24, 5)):
        angle = math.radians(k * 67 % 180)
        dx, dy = 2.2 * math.cos(angle), 2.2 * math.sin(angle)
        painter.drawLine(QPointF(x - dx, y - dy), QPointF(x + dx, y + dy))


def _straw(painter: QPainter) -> None:
    """Draw long stalks crossing at a slight angle."""
    for k, (x, y) in enumerate(_scatter(16, 13)):
        slope = 0.25 if k % 2 else -0.2
        painter.drawLine(QPointF(x - 9, y - 9 * slope), QPointF(x + 9, y + 9 * slope))


def _brick(painter: QPainter) -> None:
    """Draw courses with staggered joints."""
    for row in range(4):
        y = row * 12.0
        painter.drawLine(QPointF(0, y), QPointF(_TILE, y))
        for x in (6.0, 30.0):
            at = x + (12.0 if row % 2 else 0.0)
            painter.drawLine(QPointF(at, y), QPointF(at, y + 12))


def _foil(painter: QPainter) -> None:
    """Draw close level lines."""
    for y in range(2, _TILE, 3):
        painter.drawLine(QPointF(0, y), QPointF(_TILE, y))


@cache
def dots(color: str, alpha: int, step: float, size: float, scale: float) -> QBrush:
    """Return a brush of staggered dots: cells of a comb, bees of a cluster.

    One tile painted once is twenty times faster than a thousand points at every paint.
    """
    wide, tall = step, step * 1.74
    pixmap = QPixmap(max(1, round(wide * scale)), max(1, round(tall * scale)))
    pixmap.setDevicePixelRatio(scale)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    ink = QColor(color)
    ink.setAlpha(alpha)
    painter.setPen(QPen(ink, size, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    painter.drawPoint(QPointF(wide * 0.25, tall * 0.25))
    painter.drawPoint(QPointF(wide * 0.75, tall * 0.75))
    painter.end()
    return QBrush(pixmap)


_DRAW = {
    "grain": _grain,
    "beads": _beads,
    "pores": _pores,
    "foam": _foam,
    "shavings": _shavings,
    "stone": _stone,
    "foil": _foil,
    "glass": _glass,
    "cork": _cork,
    "straw": _straw,
    "brick": _brick,
}


def hatch_brush(hatch: Hatch, palette: Palette, scale: float, *, upright: bool) -> QBrush:
    """Return a brush of a hatch; ``upright`` turns grain along a standing board.

    The brush has its pattern in logical pixels, so that it looks alike on every screen.
    """
    brush = QBrush(_tile(hatch, palette, scale))
    if upright and hatch in ("grain", "foil", "straw"):
        brush.setTransform(QTransform().rotate(90))
    return brush
