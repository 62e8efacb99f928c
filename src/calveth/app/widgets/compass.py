"""The hive seen from above in its compass: front, wind, what shelters each side, the sun."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.theme.theme import current, font
from calveth.app.widgets.sky_dome import paint_shade
from calveth.core.climate.air import is_windward, side_bearing_deg
from calveth.core.climate.place import Place
from calveth.core.climate.sun import winter_noon_height_deg
from calveth.core.hive.opening import WALL_SIDES

_DEPTH = {"open": 0.0, "normal": 4.0, "sheltered": 9.0}


class Compass(QWidget):
    """Shows a place; dragging, or the left and right arrow, turns the hive.

    Signals
    -------
    turned(bearing_deg)
        The front is to look to another bearing.
    """

    turned = Signal(float)

    def __init__(self) -> None:
        super().__init__()
        self._place: Place | None = None
        self.setFixedSize(184, 184)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("compass: which way the hive looks")

    def sizeHint(self) -> QSize:
        return QSize(184, 184)

    def show_place(self, place: Place) -> None:
        """Show another place."""
        self._place = place
        height = winter_noon_height_deg(place.latitude_deg)
        stands = f"stands {height:.0f}° high" if height > 0 else "does not rise"
        self.setToolTip(f"At noon in midwinter the sun {stands}. Drag the hive to turn its front.")
        windward = [s for s in WALL_SIDES if is_windward(s, place)]
        self.setAccessibleDescription(
            f"front to {place.facing_deg:.0f}°, winter wind from {place.wind_from_deg:.0f}°, "
            f"on the {' and '.join(windward) or 'no wall straight'}"
        )
        self.update()

    # -- input ---------------------------------------------------------------------------------
    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._turn_to(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._turn_to(event.position())

    def _turn_to(self, position: QPointF) -> None:
        d = position - QPointF(self.rect().center())
        if math.hypot(d.x(), d.y()) > 12:
            bearing = math.degrees(math.atan2(d.x(), -d.y())) % 360
            self.turned.emit(5.0 * round(bearing / 5) % 360)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Left: -5, Qt.Key.Key_Right: 5}.get(Qt.Key(event.key()))
        if step is None or self._place is None:
            super().keyPressEvent(event)
            return
        self.turned.emit((self._place.facing_deg + step) % 360)

    # -- drawing -------------------------------------------------------------------------------
    def paintEvent(self, _: QPaintEvent) -> None:
        if self._place is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        p = current()
        painter.setPen(QPen(p.color("accent" if self.hasFocus() else "line"), 1.4))
        painter.setBrush(p.color("sheet"))
        painter.drawEllipse(self._middle(), 72, 72)
        if self._place.shade is not None:
            paint_shade(painter, self._place.shade, self._middle(), 72, p)
        painter.setFont(font(12, bold=True))
        painter.setPen(p.color("muted"))
        for text, bearing in (("N", 0), ("E", 90), ("S", 180), ("W", 270)):
            at = self._at(bearing, 82)
            box = QRectF(at.x() - 10, at.y() - 9, 20, 18)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
        self._sun(painter)
        self._wind(painter)
        self._hive(painter)

    def _middle(self) -> QPointF:
        return QPointF(92, 92)

    def _at(self, bearing_deg: float, radius: float) -> QPointF:
        a = math.radians(bearing_deg)
        return self._middle() + QPointF(radius * math.sin(a), -radius * math.cos(a))

    def _sun(self, painter: QPainter) -> None:
        """Draw the midwinter noon sun and how high it stands."""
        assert self._place is not None
        p = current()
        north = self._place.latitude_deg < 0
        height = winter_noon_height_deg(self._place.latitude_deg)
        centre = self._at(0 if north else 180, 56)
        painter.setPen(QPen(p.color("honey"), 1.6))
        painter.setBrush(p.color("honey", 60))
        if height > 0:
            painter.drawEllipse(centre, 6, 6)
            for k in range(8):
                a = math.radians(45 * k)
                d = QPointF(math.cos(a), math.sin(a))
                painter.drawLine(centre + d * 8, centre + d * 11)
        painter.setFont(font(11))
        painter.setPen(p.color("honey"))
        # Beside the sun, on the side where the word at the front of the hive is not.
        left = math.sin(math.radians(self._place.facing_deg)) > 0
        box = QRectF(centre.x() - 46 if left else centre.x() + 12, centre.y() - 8, 34, 16)
        text = f"{height:.0f}°" if height > 0 else "none"
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _wind(self, painter: QPainter) -> None:
        assert self._place is not None
        p = current()
        painter.setPen(QPen(p.color("water"), 2))
        bearing = self._place.wind_from_deg
        for off in (-9, 0, 9):
            start, end = self._at(bearing + off, 70), self._at(bearing + off * 1.6, 45)
            painter.drawLine(start, end)
            d = end - start
            size = math.hypot(d.x(), d.y())
            u = d / size
            n = QPointF(-u.y(), u.x())
            painter.setBrush(p.color("water"))
            painter.drawPolygon(QPolygonF([end, end - u * 6 + n * 3, end - u * 6 - n * 3]))

    def _hive(self, painter: QPainter) -> None:
        """Draw the hive from above with its shelters; the entrance is a dark notch in front."""
        assert self._place is not None
        place, p = self._place, current()
        painter.save()
        painter.translate(self._middle())
        painter.rotate(place.facing_deg)
        # Turned so that the front is up.
        painter.setPen(QPen(p.color("ink"), 1.2))
        painter.setBrush(p.color("wood"))
        painter.drawRect(QRectF(-14, -17, 28, 34))
        painter.fillRect(QRectF(-6, -19, 12, 4), p.color("ink"))
        painter.restore()
        for side in WALL_SIDES:
            deep = _DEPTH[place.shelter_of(side)]
            if deep:
                self._hedge(painter, side_bearing_deg(side, place), deep)
        painter.setFont(font(11))
        painter.setPen(p.color("ink"))
        # Between the hive and its hedge there is room for the word in front of no tree.
        at = self._at(place.facing_deg, 62 if _DEPTH[place.shelter_of("front")] else 32)
        painter.drawText(
            QRectF(at.x() - 20, at.y() - 8, 40, 16), Qt.AlignmentFlag.AlignCenter, "front"
        )

    def _hedge(self, painter: QPainter, bearing: float, deep: float) -> None:
        p = current()
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(p.color("forage"))
        painter.setPen(QPen(p.color("muted"), 0.8))
        for off in (-16, -8, 0, 8, 16):
            painter.drawEllipse(self._at(bearing + off * 0.9, 40), 2 + deep / 3, 2 + deep / 3)
