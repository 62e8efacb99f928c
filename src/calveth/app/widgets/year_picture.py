"""The year of a hive as pictures over one scale of days: carpets, films, larder, and acts."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import current, font
from calveth.app.widgets.carpet import carpet_image, grid_image
from calveth.core.calendar import DAYS_IN_YEAR, FIRST_DAYS, HOURS_IN_YEAR, MONTH_NAMES
from calveth.core.hive.opening import WALL_SIDES
from calveth.core.year.columns import S_FILM
from calveth.core.year.draws import YearBands
from calveth.core.year.figures import larder_course, margin_k, side_films_kg_m2
from calveth.core.year.result import YearRun, is_winter
from calveth.texts.units import METRIC, UnitSystem
from calveth.texts.year import hour_words, plan_acts, plan_settings

FloatArray = NDArray[np.float64]

_LEFT, _RIGHT, _TOP = 132.0, 112.0, 22.0
_CARPET, _ROW, _LARDER, _GAP = 50.0, 13.0, 70.0, 18.0
_FILMS = (
    "lid, middle",
    "lid, rim",
    *(f"above, {side}" for side in WALL_SIDES),
    "walls",
    "walls below",
    "floor",
)
_WET_G_M2 = 40.0


@dataclass(frozen=True, slots=True)
class _Carpet:
    """A carpet: its name, its image, and what the ends of its colours are."""

    name: str
    image: QImage
    low: str
    high: str
    low_color: str
    high_color: str


class YearPicture(QWidget):
    """Shows a year by day and hour, with a hand that a mouse or keys move.

    Signals
    -------
    hour_changed(hour)
        The hand was moved to another hour of the year, 0 to 8759.
    """

    hour_changed = Signal(int)

    def __init__(self, palette: Palette | None = None) -> None:
        """``palette`` is that of a page; a window has the one in use."""
        super().__init__()
        self._palette = palette
        self._run: YearRun | None = None
        self._bands: YearBands | None = None
        self._units = METRIC
        self._hour = 12
        self._carpets: tuple[_Carpet, ...] = ()
        self._films: QImage | None = None
        self._ground: QPixmap | None = None
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(self._tall())
        self.setAccessibleName("year by day and hour")

    def _tall(self) -> int:
        rows = 3 * (_CARPET + _GAP) + len(_FILMS) * _ROW + 2 * _GAP + _LARDER
        return int(_TOP + rows + 22)

    def sizeHint(self) -> QSize:
        return QSize(760, self._tall())

    @property
    def hour(self) -> int:
        """The hour under the hand."""
        return self._hour

    def set_hour(self, hour: int) -> None:
        """Move the hand; tells when the hour is another."""
        hour = hour % HOURS_IN_YEAR
        if hour != self._hour:
            self._hour = hour
            self.hour_changed.emit(hour)
            self.setAccessibleDescription(hour_words(hour))
            self.update()

    def show_year(self, run: YearRun | None, bands: YearBands | None, units: UnitSystem) -> None:
        """Show a year; ``bands`` add the range of the larder."""
        if run is not self._run or units is not self._units:
            self._run, self._units = run, units
            self._paint_images()
        self._bands = bands
        self._ground = None
        self.update()

    def repaint_all(self) -> None:
        """Paint anew, after the look has changed."""
        self._paint_images()
        self._ground = None
        self.update()

    # -- input -----------------------------------------------------------------------------------
    def hour_at(self, point: QPointF) -> int:
        """Return the hour under a point: its day, and on a carpet its hour of the day."""
        share = (point.x() - _LEFT) / max(self.width() - _LEFT - _RIGHT, 1.0)
        day = min(max(int(share * DAYS_IN_YEAR), 0), DAYS_IN_YEAR - 1)
        for k in range(3):
            top = _TOP + k * (_CARPET + _GAP) + _GAP
            if top <= point.y() <= top + _CARPET:
                return day * 24 + min(max(int((1 - (point.y() - top) / _CARPET) * 24), 0), 23)
        return day * 24 + self._hour % 24

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.set_hour(self.hour_at(event.position()))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() & Qt.MouseButton.LeftButton:
            self.set_hour(self.hour_at(event.position()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        steps = {
            Qt.Key.Key_Left: -24,
            Qt.Key.Key_Right: 24,
            Qt.Key.Key_Up: 1,
            Qt.Key.Key_Down: -1,
            Qt.Key.Key_PageUp: -24 * 30,
            Qt.Key.Key_PageDown: 24 * 30,
        }
        key = Qt.Key(event.key())
        if key in steps:
            self.set_hour(self._hour + steps[key])
        elif key in (Qt.Key.Key_Home, Qt.Key.Key_End):
            self.set_hour(0 if key == Qt.Key.Key_Home else HOURS_IN_YEAR - 1)
        else:
            super().keyPressEvent(event)

    # -- drawing ---------------------------------------------------------------------------------
    def _paint_images(self) -> None:
        self._carpets, self._films = (), None
        if self._run is None:
            return
        p, run, u = self._palette or current(), self._run, self._units
        margin = margin_k(run)[:2].min(axis=0)
        co2 = 100.0 * run.column("nest_co2")
        sheet = p.color("sheet")
        self._carpets = (
            _Carpet(
                "under the lid:\nabove dew point",
                carpet_image(
                    margin,
                    [
                        (-1.5, p.color("water")),
                        (0.0, p.color("water", 150)),
                        (0.3, sheet),
                        (6.0, p.color("honey")),
                    ],
                ),
                f"wet, {u.write(0.0, 'temperature difference', 0)}",
                f"{u.write(6.0, 'temperature difference', 0)} dry",
                "water",
                "honey",
            ),
            _Carpet(
                "air beside\nthe bees",
                carpet_image(
                    run.column("nest_degc"),
                    [(-10.0, p.color("water")), (12.0, sheet), (37.0, p.color("heat"))],
                ),
                u.write(-10.0, "temperature", 0),
                u.write(37.0, "temperature", 0),
                "water",
                "heat",
            ),
            _Carpet(
                "CO2 beside\nthe bees",
                carpet_image(co2, [(0.0, sheet), (6.0, p.color("muted"))]),
                "0 %",
                "6 %",
                "line",
                "muted",
            ),
        )
        by_area = run.series[:, S_FILM : S_FILM + 6] / np.maximum(run.areas_m2[:6], 1e-9)
        rows = [*by_area.T[:2], *side_films_kg_m2(run), *by_area.T[3:]]
        films = [1000.0 * film.reshape(DAYS_IN_YEAR, 24).max(axis=1) for film in rows]
        stops = [
            (0.0, p.color("water", 0)),
            (1.0, p.color("water", 90)),
            (_WET_G_M2, p.color("water")),
        ]
        self._films = grid_image(np.array(films), stops)

    def paintEvent(self, _: QPaintEvent) -> None:
        if self._run is None:
            return
        ratio = self.devicePixelRatioF()
        if self._ground is None or self._ground.size() != self.size() * ratio:
            self._ground = self._paint_ground(ratio)
        painter = QPainter(self)
        painter.drawPixmap(0, 0, self._ground)
        self._hand(painter, current())

    def _x(self, day: float) -> float:
        return _LEFT + day / DAYS_IN_YEAR * (self.width() - _LEFT - _RIGHT)

    def _paint_ground(self, ratio: float) -> QPixmap:
        pixmap = QPixmap(self.size() * ratio)
        pixmap.setDevicePixelRatio(ratio)
        p = current()
        pixmap.fill(p.color("ground"))
        painter = QPainter(pixmap)
        self.draw(painter, p)
        painter.end()
        return pixmap

    def draw(self, painter: QPainter, p: Palette) -> None:
        """Draw all but the hand at the size of the widget, on a screen or a page."""
        self._months(painter, p)
        y = _TOP + _GAP
        wide = self.width() - _LEFT - _RIGHT
        for carpet in self._carpets:
            body = QRectF(_LEFT, y, wide, _CARPET)
            painter.fillRect(body, p.color("sheet"))
            painter.drawImage(body, carpet.image)
            self._frame(painter, body, carpet.name, p)
            self._scale(painter, body, carpet, p)
            y += _CARPET + _GAP
        y = self._film_rows(painter, y, wide, p)
        self._larder(painter, QRectF(_LEFT, y + _GAP, wide, _LARDER), p)
        self._acts(painter, p)

    def _months(self, painter: QPainter, p: Palette) -> None:
        """Write the months; shade the days without forage down the whole picture."""
        assert self._run is not None
        bare = is_winter(self._run.case.place)
        for day in np.flatnonzero(bare):
            left = self._x(float(day))
            painter.fillRect(
                QRectF(left, _TOP, self._x(float(day) + 1) - left + 0.5, self.height()),
                p.color("night"),
            )
        painter.setFont(font(12))
        painter.setPen(p.color("muted"))
        for month, first in enumerate(FIRST_DAYS):
            end = FIRST_DAYS[month + 1] if month < 11 else DAYS_IN_YEAR
            box = QRectF(self._x(first), 2, self._x(end) - self._x(first), 18)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, MONTH_NAMES[month][:3])

    def _frame(self, painter: QPainter, body: QRectF, name: str, p: Palette) -> None:
        painter.setPen(QPen(p.color("line"), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(body)
        painter.setPen(p.color("ink"))
        painter.setFont(font(12))
        box = QRectF(8, body.top(), _LEFT - 40, body.height())
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, name)

    def _scale(self, painter: QPainter, body: QRectF, carpet: _Carpet, p: Palette) -> None:
        """Write the clock at the left and what the colours mean at the right."""
        painter.setFont(font(11))
        painter.setPen(p.color("muted"))
        for text, share in (("24", 0.0), ("12", 0.5), ("0", 1.0)):
            y = body.top() + share * body.height() - 7
            box = QRectF(_LEFT - 30, y, 26, 14)
            painter.drawText(box, Qt.AlignmentFlag.AlignRight, text)
        right = body.right() + 6
        for text, color, y in (
            (carpet.high, carpet.high_color, body.top() + 4),
            (carpet.low, carpet.low_color, body.bottom() - 18),
        ):
            painter.fillRect(QRectF(right, y + 2, 10, 10), p.color(color))
            painter.setPen(p.color("muted"))
            painter.drawText(QRectF(right + 14, y - 1, _RIGHT - 20, 16), text)

    def _film_rows(self, painter: QPainter, y: float, wide: float, p: Palette) -> float:
        """Draw the film on each surface through the days; return where they end."""
        assert self._run is not None and self._films is not None
        body = QRectF(_LEFT, y, wide, len(_FILMS) * _ROW)
        painter.fillRect(body, p.color("sheet"))
        painter.drawImage(body, self._films)
        painter.setFont(font(11))
        for k, name in enumerate(_FILMS):
            top = y + k * _ROW
            painter.setPen(QPen(p.color("line"), 0.7))
            painter.drawLine(QPointF(_LEFT, top), QPointF(_LEFT + wide, top))
            painter.setPen(p.color("ink"))
            box = QRectF(8, top, _LEFT - 14, _ROW)
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, f"wet {name}")
        painter.setPen(QPen(p.color("line"), 1))
        painter.drawRect(body)
        painter.setFont(font(11))
        painter.setPen(p.color("muted"))
        right = body.right() + 6
        painter.fillRect(QRectF(right, y + 6, 10, 10), p.color("water"))
        painter.drawText(QRectF(right + 14, y + 3, 80, 16), f"{_WET_G_M2:.0f} g/m²")
        self._drips(painter, body, p)
        return body.bottom()

    def _drips(self, painter: QPainter, body: QRectF, p: Palette) -> None:
        """Mark the days on which it drips from the lid with a stroke below its rows."""
        assert self._run is not None
        drip = self._run.column("dripped_kg").reshape(DAYS_IN_YEAR, 24).sum(axis=1)
        days = np.flatnonzero(drip > 0.002)
        painter.setPen(QPen(p.color("ink"), 1.2))
        for day in days:
            x = self._x(float(day) + 0.5)
            painter.drawLine(QPointF(x, body.bottom() + 2), QPointF(x, body.bottom() + 8))
        if days.size:
            painter.setFont(font(11))
            painter.setPen(p.color("muted"))
            box = QRectF(body.right() + 6, body.bottom() - 4, _RIGHT - 8, 16)
            painter.drawText(box, f"| drips, {days.size} days")

    def _larder(self, painter: QPainter, body: QRectF, p: Palette) -> None:
        """Draw what is left of the stores through the winter, and the range of its end."""
        assert self._run is not None
        run = self._run
        painter.fillRect(body, p.color("sheet"))
        self._frame(painter, body, "honey left", p)
        days, left = larder_course(run)
        if not days.size:
            return
        held = max(run.case.colony.stores_kg, 1e-6)
        bottom = min(0.0, float(left.min()))
        tall = body.height() - 8

        def y_of(kg: float) -> float:
            return float(body.bottom() - 4 - (kg - bottom) / (held - bottom) * tall)

        painter.setPen(QPen(p.color("line"), 1.2))
        painter.drawLine(QPointF(body.left(), y_of(0.0)), QPointF(body.right(), y_of(0.0)))
        painter.setPen(QPen(p.color("honey"), 2.2))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        # Over the turn of the year the line begins anew at the left.
        for part in np.split(np.arange(days.size), np.flatnonzero(np.diff(days) < 0) + 1):
            line = [QPointF(self._x(float(days[k]) + 0.5), y_of(float(left[k]))) for k in part]
            painter.drawPolyline(QPolygonF(line))
        end = QPointF(self._x(float(days[-1]) + 0.5), y_of(float(left[-1])))
        painter.setFont(font(11))
        painter.setPen(p.color("muted"))
        right = QRectF(body.right() + 6, body.top(), _RIGHT - 8, 16)
        painter.drawText(right, self._units.write(held, "mass", 0))
        if self._bands is not None and self._bands.values.size:
            low, high = self._bands.band("reserve_kg")
            painter.setPen(QPen(p.color("ink"), 1.6))
            painter.drawLine(QPointF(end.x(), y_of(low)), QPointF(end.x(), y_of(high)))
            for kg in (low, high):
                painter.drawLine(QPointF(end.x() - 4, y_of(kg)), QPointF(end.x() + 4, y_of(kg)))
        painter.setPen(p.color("ink"))
        text = self._units.write(float(left[-1]), "mass", 1)
        painter.drawText(QRectF(end.x() + 8, end.y() - 8, 70, 16), text)

    def _acts(self, painter: QPainter, p: Palette) -> None:
        """Mark the days on which something is opened, closed, put on or taken off."""
        assert self._run is not None
        design = self._run.case.design
        for day, _ in plan_acts(design, plan_settings(design)):
            x = self._x(float(day))
            painter.setPen(QPen(p.color("accent"), 1.2))
            painter.drawLine(QPointF(x, _TOP - 2), QPointF(x, _TOP + _GAP))
            painter.setBrush(p.color("accent"))
            painter.drawPolygon(
                QPolygonF([QPointF(x, _TOP), QPointF(x + 9, _TOP + 4), QPointF(x, _TOP + 8)])
            )

    def _hand(self, painter: QPainter, p: Palette) -> None:
        x = self._x(self._hour / 24.0)
        painter.setPen(QPen(p.color("accent"), 2.4 if self.hasFocus() else 1.6))
        painter.drawLine(QPointF(x, _TOP), QPointF(x, self.height() - 4.0))
        for k in range(3):
            top = _TOP + k * (_CARPET + _GAP) + _GAP
            y = top + (1 - (self._hour % 24 + 0.5) / 24.0) * _CARPET
            painter.drawLine(QPointF(x - 7, y), QPointF(x + 7, y))
