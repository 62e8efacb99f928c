"""The sky over a hive with what stands round it: hills and trees drawn into sixteen directions."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import current, font
from calveth.app.widgets.spin import compass_point
from calveth.core.climate.shade import DIRECTIONS, STEP_DEG, Shade, height_deg
from calveth.core.climate.sun import OBLIQUITY_DEG, sun_path_deg

_RADIUS, _MARGIN = 168.0, 26.0
_STEP_DEG, _MOST_DEG = 5.0, 85.0
_PATHS = ((-1.0, "shortest day"), (0.0, "spring and autumn"), (1.0, "longest day"))


class SkyDome(QWidget):
    """The rim is the horizon, the middle is straight up; dragging raises what stands there.

    Signals
    -------
    changed(shade)
        Something stands higher or lower now.
    """

    changed = Signal(object)

    def __init__(self, shade: Shade, latitude_deg: float, facing_deg: float) -> None:
        super().__init__()
        self._shade, self._latitude, self._facing = shade, latitude_deg, facing_deg
        self._direction = 8
        self.trees = True
        self.setFixedSize(self.sizeHint())
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("sky over the hive")
        self._describe()

    def sizeHint(self) -> QSize:
        side = int(2 * (_RADIUS + _MARGIN))
        return QSize(side, side)

    @property
    def shade(self) -> Shade:
        """What is drawn."""
        return self._shade

    @property
    def direction(self) -> int:
        """The direction the keys change, 0 to 15."""
        return self._direction

    def show_shade(self, shade: Shade) -> None:
        """Show another horizon."""
        self._shade = shade
        self._describe()
        self.update()

    def _describe(self) -> None:
        hills, trees = (h[self._direction] for h in (self._shade.hills_deg, self._shade.trees_deg))
        self.setAccessibleDescription(
            f"{compass_point(self._direction * STEP_DEG)}: hills {hills:.0f}°, trees {trees:.0f}°; "
            "left and right arrow turn, up and down raise and lower"
        )

    # -- input -----------------------------------------------------------------------------------
    def _put(self, direction: int, height_deg: float) -> None:
        height = min(max(_STEP_DEG * round(height_deg / _STEP_DEG), 0.0), _MOST_DEG)
        self._direction = direction
        made = self._shade.with_height(direction, height, trees=self.trees)
        self._describe()
        self.update()
        if made != self._shade:
            self.show_shade(made)
            self.changed.emit(made)

    def _drag(self, position: QPointF) -> None:
        d = position - self._middle()
        bearing = math.degrees(math.atan2(d.x(), -d.y())) % 360.0
        height = 90.0 * (1.0 - min(math.hypot(d.x(), d.y()) / _RADIUS, 1.0))
        self._put(round(bearing / STEP_DEG) % DIRECTIONS, height)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._drag(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._drag(event.position())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        turn = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(key)
        rise = {Qt.Key.Key_Up: _STEP_DEG, Qt.Key.Key_Down: -_STEP_DEG}.get(key)
        if turn is not None:
            self._direction = (self._direction + turn) % DIRECTIONS
            self._describe()
            self.update()
        elif rise is not None:
            heights = self._shade.trees_deg if self.trees else self._shade.hills_deg
            self._put(self._direction, heights[self._direction] + rise)
        else:
            super().keyPressEvent(event)

    # -- drawing ---------------------------------------------------------------------------------
    def _middle(self) -> QPointF:
        return QPointF(self.width() / 2.0, self.height() / 2.0)

    def _at(self, bearing_deg: float, up_deg: float) -> QPointF:
        return dome_point(self._middle(), _RADIUS, bearing_deg, up_deg)

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        p = current()
        painter.setPen(QPen(p.color("accent" if self.hasFocus() else "line"), 1.6))
        painter.setBrush(p.color("water", 30))
        painter.drawEllipse(self._middle(), _RADIUS, _RADIUS)
        paint_shade(painter, self._shade, self._middle(), _RADIUS, p)
        self._rings(painter, p)
        self._paths(painter, p)
        self._names(painter, p)
        painter.setPen(QPen(p.color("accent"), 2.0))
        bearing = self._direction * STEP_DEG
        painter.drawLine(self._at(bearing, 0.0), self._at(bearing, -6.0))

    def _rings(self, painter: QPainter, p: Palette) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setFont(font(11))
        for height in (30, 60):
            painter.setPen(QPen(p.color("line"), 1.0, Qt.PenStyle.DotLine))
            r = _RADIUS * (1.0 - height / 90.0)
            painter.drawEllipse(self._middle(), r, r)
            painter.setPen(p.color("muted"))
            painter.drawText(self._middle() + QPointF(3.0, -r - 2.0), f"{height}°")

    def _paths(self, painter: QPainter, p: Palette) -> None:
        """Draw the sun through the shortest day, the longest, and between."""
        south = -1.0 if self._latitude < 0 else 1.0
        painter.setFont(font(11))
        for share, name in _PATHS:
            course = sun_path_deg(self._latitude, south * share * OBLIQUITY_DEG)
            if len(course) < 2:
                continue
            painter.setPen(QPen(p.color("honey"), 2.0 if share < 0 else 1.2))
            for a, b in pairwise(course):
                painter.drawLine(self._at(a[1], a[0]), self._at(b[1], b[0]))
            noon = max(course)
            at = self._at(noon[1], noon[0])
            painter.drawText(
                QRectF(at.x() - 60, at.y() + 2, 120, 14), Qt.AlignmentFlag.AlignCenter, name
            )

    def _names(self, painter: QPainter, p: Palette) -> None:
        painter.setFont(font(12, bold=True))
        painter.setPen(p.color("muted"))
        for text, bearing in (("N", 0), ("E", 90), ("S", 180), ("W", 270)):
            at = self._at(bearing, -9.0)
            painter.drawText(
                QRectF(at.x() - 10, at.y() - 9, 20, 18), Qt.AlignmentFlag.AlignCenter, text
            )
        painter.save()
        painter.translate(self._middle())
        painter.rotate(self._facing)
        painter.setPen(QPen(p.color("ink"), 1.2))
        painter.setBrush(p.color("wood"))
        painter.drawRect(QRectF(-7, -8, 14, 16))
        painter.fillRect(QRectF(-3, -10, 6, 3), p.color("ink"))
        painter.restore()


def paint_shade(
    painter: QPainter, shade: Shade, middle: QPointF, radius: float, p: Palette
) -> None:
    """Fill a sky from its rim up to the tops of trees and hills."""
    for heights, color in ((shade.trees_deg, "forage"), (shade.hills_deg, "muted")):
        if not any(heights):
            continue
        bearings = np.arange(0.0, 363.0, 3.0)
        tops = height_deg(heights, bearings)
        outer = [dome_point(middle, radius, float(b), 0.0) for b in bearings]
        inner = [
            dome_point(middle, radius, float(b), float(t))
            for b, t in zip(bearings, tops, strict=True)
        ]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(p.color(color, 255 if color == "forage" else 120))
        painter.drawPolygon(QPolygonF(outer + inner[::-1]))
        painter.setPen(QPen(p.color("muted"), 0.8))
        painter.drawPolyline(QPolygonF(inner))


def dome_point(middle: QPointF, radius: float, bearing_deg: float, up_deg: float) -> QPointF:
    """Return where a direction of the sky lies: the rim is level, the middle straight up."""
    a, r = math.radians(bearing_deg), radius * (1.0 - up_deg / 90.0)
    return middle + QPointF(r * math.sin(a), -r * math.cos(a))
