"""The year ribbon: twelve months under the cutaway, and the hand that is dragged through them."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.ribbon.scale import hour_in_month, scale_ends
from calveth.app.ribbon.verdict import paint_flakes, paint_verdict
from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import current, font
from calveth.app.view_state import noon_of
from calveth.core.assess.larder import larder_kg
from calveth.core.assess.readings import crown_verdict
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.calendar import (
    DAYS_IN_MONTH,
    FIRST_DAYS,
    HOURS_IN_DAY,
    HOURS_IN_YEAR,
    MONTH_NAMES,
)
from calveth.core.climate.place import Place, days_with_snow, days_without_forage
from calveth.texts.units import METRIC, UnitSystem
from calveth.texts.year import hour_words

_LEFT, _RIGHT = 92.0, 46.0
_FULL, _COMPACT = 200, 104
# Columns narrower than this hold a letter and a figure without a point [px].
_NARROW_PX = 32.0


class YearRibbon(QWidget):
    """Outside and nest temperature, crown, honey and forage over the year.

    Signals
    -------
    month_changed(month)
        The hand was moved to another month, 0 to 11.
    hour_changed(hour)
        It was moved to an hour of the year, 0 to 8759: by days or by hours.
    month_wanted(month)
        The whole month under the hand is to be looked at again.
    """

    month_changed = Signal(int)
    hour_changed = Signal(int)
    month_wanted = Signal(int)

    def __init__(self, month: int = 0, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._place: Place | None = None
        self._assessed: MonthlyAssessment | None = None
        self._year: QPixmap | None = None
        self._ground: tuple[object, QPixmap] | None = None
        self._month = month
        self._hour: int | None = None
        self._units = METRIC
        self._compact = False
        self.danger: tuple[int, ...] = ()
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(_FULL)
        self.setAccessibleName("year ribbon, month hand")
        self._describe()

    def sizeHint(self) -> QSize:
        return QSize(700, 200)

    @property
    def month(self) -> int:
        """The month under the hand, 0 to 11."""
        return self._month

    def set_month(self, month: int) -> None:
        """Move the hand; tells when the month is another."""
        month = min(max(month, 0), 11)
        if month != self._month:
            self.show_month(month)
            self.month_changed.emit(month)

    def show_month(self, month: int) -> None:
        """Put the hand on a month that was chosen elsewhere; nobody is told."""
        if month != self._month:
            self._month = month
            self._describe()
            self.update()

    def show_hour(self, hour: int | None) -> None:
        """Show an hour of the year under the hand; None for the whole month."""
        if hour != self._hour:
            self._hour = hour
            self._describe()
            self.update()

    def hour_at(self, x: float) -> int:
        """Return the hour under a pixel column; on a day it keeps the hour of the day."""
        month = self.month_at(x)
        column = self.column(month)
        return hour_in_month(month, (x - column.left()) / column.width(), self._hour)

    def show_year(
        self,
        place: Place,
        assessed: MonthlyAssessment | None,
        units: UnitSystem = METRIC,
        danger: tuple[int, ...] = (),
    ) -> None:
        """Show a place's year and, when known, the hive in it.

        ``danger`` are the months (0 to 11) in which snow takes the bees' air away.
        """
        alike = place is self._place and assessed is self._assessed and units is self._units
        if alike and danger == self.danger:
            return
        self._place, self._assessed, self._units, self._year = place, assessed, units, None
        self.danger = danger
        self._describe()
        self.update()

    def set_compact(self, compact: bool) -> None:
        """Show only temperatures and crown, where an area needs the room."""
        if compact != self._compact:
            self._compact = compact
            self.setFixedHeight(_COMPACT if compact else _FULL)
            self.repaint_all()

    def repaint_all(self) -> None:
        """Paint the year anew, after the look has changed."""
        self._year = None
        self.update()

    def month_at(self, x: float) -> int:
        """Return the month under a pixel column."""
        width = (self.width() - _LEFT - _RIGHT) / 12
        return min(max(int((x - _LEFT) / width), 0), 11)

    def column(self, month: int) -> QRectF:
        """Return the pixels of a month."""
        width = (self.width() - _LEFT - _RIGHT) / 12
        return QRectF(_LEFT + month * width, 0, width, self.height())

    def _describe(self) -> None:
        now = MONTH_NAMES[self._month] if self._hour is None else hour_words(self._hour)
        if self._month in self.danger:
            now += ", danger to the life of the bees under snow"
        self.setAccessibleDescription(
            f"{now}; left and right arrow move it by months, with shift by days, up and down by "
            "hours; return shows the whole month"
        )

    # -- input ---------------------------------------------------------------------------------
    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._move_to(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._move_to(event)

    def _move_to(self, event: QMouseEvent) -> None:
        """Go to a month; with shift to a day."""
        x = event.position().x()
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.hour_changed.emit(self.hour_at(x))
            return
        self.set_month(self.month_at(x))
        self.month_wanted.emit(self._month)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, held = Qt.Key(event.key()), event.modifiers()
        way = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(key)
        shift = bool(held & Qt.KeyboardModifier.ShiftModifier)
        hours = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}.get(key)
        if way is not None and shift:
            hours = way * HOURS_IN_DAY
        if hours is not None:
            now = noon_of(self._month) if self._hour is None else self._hour
            self.hour_changed.emit((now + hours) % HOURS_IN_YEAR)
            return
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.month_wanted.emit(self._month)
            return
        moves = {Qt.Key.Key_Home: 0, Qt.Key.Key_End: 11}
        target = self._month + way if way is not None else moves.get(key)
        if target is None:
            super().keyPressEvent(event)
        else:
            self.set_month(target)

    # -- drawing -------------------------------------------------------------------------------
    def paintEvent(self, _: QPaintEvent) -> None:
        if self._place is None:
            return
        ratio = self.devicePixelRatioF()
        if self._year is None or self._year.size() != self.size() * ratio:
            self._year = self._paint_year(ratio)
        painter = QPainter(self)
        painter.drawPixmap(0, 0, self._year)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._hand(painter, current())

    def _paint_year(self, ratio: float) -> QPixmap:
        """Return the year without the hand, which is all that moves while it is dragged."""
        assert self._place is not None
        p = current()
        nest = None
        if self._assessed is not None:
            nest = self._assessed.months.balance.temperature_degc[1]
        low, high = scale_ends(self._place, nest)
        key = (self._place, self._units.name, p, low, high, self.size() * ratio)
        if self._ground is None or self._ground[0] != key:
            self._ground = (key, self._paint_ground(ratio, low, high, p))
        pixmap = self._ground[1].copy()
        painter = QPainter(pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        body = self._body()
        self._whose(painter, p)
        if nest is not None:
            painter.setPen(QPen(p.color("heat"), 2.2, Qt.PenStyle.DashLine))
            line = [self._at(body, k, float(nest[k]), low, high) for k in range(12)]
            painter.drawPolyline(QPolygonF(line))
            if not self._compact:
                self._row_name(painter, body.top() + 44, "beside bees - -", p, "heat")
        self._crown(painter, body.bottom() + 14, p)
        for k in self.danger:
            wide, middle = self.column(k).width(), self.column(k).center().x()
            spot = QPointF(middle + min(18.0, wide / 2 - 9), body.bottom() + 14)
            if wide < _NARROW_PX:
                spot = QPointF(middle, body.top() + 22)
            paint_verdict(painter, spot, "danger", p, 7.0)
        if not self._compact:
            self._honey(painter, p)
            self._larder(painter, p)
        painter.end()
        return pixmap

    def _body(self) -> QRectF:
        tall = 44 if self._compact else 92
        return QRectF(_LEFT, 22, self.width() - _LEFT - _RIGHT, tall)

    def _at(self, body: QRectF, k: int, t: float, low: float, high: float) -> QPointF:
        y = body.bottom() - (t - low) / (high - low) * body.height()
        return QPointF(self.column(k).center().x(), float(y))

    def _paint_ground(self, ratio: float, low: float, high: float, p: Palette) -> QPixmap:
        """Return what does not change with the hive: seasons, snow, scale, weather."""
        pixmap = QPixmap(self.size() * ratio)
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(p.color("ground"))
        painter = QPainter(pixmap)
        body = self._body()
        self._seasons(painter, body, p)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._weather(painter, body, low, high, p)
        painter.end()
        return pixmap

    def _seasons(self, painter: QPainter, body: QRectF, p: Palette) -> None:
        """Shade the months without forage and write their names."""
        assert self._place is not None
        bare = days_without_forage(self._place)
        for k in range(12):
            column = self.column(k)
            share = bare[k] / DAYS_IN_MONTH[k]
            painter.fillRect(
                QRectF(column.left(), body.top(), column.width(), self._deep()), p.color("forage")
            )
            # The bare part of a mixed month lies at the side of its bare neighbour.
            width = column.width() * share
            before = bare[k - 1] >= bare[(k + 1) % 12]
            left = column.left() if before else column.right() - width
            painter.fillRect(QRectF(left, body.top(), width, self._deep()), p.color("night"))
            painter.setFont(font(12))
            painter.setPen(p.color("muted"))
            name = QRectF(column.left(), 2, column.width(), 18)
            painter.drawText(name, Qt.AlignmentFlag.AlignCenter, self._short(k))
        self._snow(painter, body, p)

    def _short(self, month: int) -> str:
        """Return the name of a month as short as its column wants it."""
        return MONTH_NAMES[month][: 3 if self.column(0).width() >= _NARROW_PX else 1]

    def _deep(self) -> float:
        """Return how far down the shades of the seasons go [px]."""
        return self.height() - 28.0

    def _snow(self, painter: QPainter, body: QRectF, p: Palette) -> None:
        """Mark the snow weeks with a row of flakes along the top."""
        assert self._place is not None
        snow = days_with_snow(self._place)
        painter.setPen(QPen(p.color("water"), 1.1))
        for k in range(12):
            column = self.column(k)
            count = min(round(snow[k] / 7), int(column.width() / 11))
            paint_flakes(painter, QPointF(column.center().x(), body.top() + 7), count)

    def _weather(
        self, painter: QPainter, body: QRectF, low: float, high: float, p: Palette
    ) -> None:
        """Draw the scale and the band of nights and days outside."""
        assert self._place is not None
        mean = np.array([m.temperature_degc for m in self._place.months])
        half = np.array([m.daily_swing_k for m in self._place.months]) / 2
        painter.setFont(font(11))
        # In a low ribbon every other figure of the scale, or they would touch.
        step = 20.0 if self._compact and high - low > 30 else 10.0
        for t in np.arange(low, high + 1, step):
            y = self._at(body, 0, float(t), low, high).y()
            painter.setPen(QPen(p.color("line"), 1.4 if t == 0 else 0.7))
            painter.drawLine(QPointF(body.left(), y), QPointF(body.right(), y))
            painter.setPen(p.color("muted"))
            text = QRectF(body.right() + 4, y - 8, 42, 16)
            painter.drawText(
                text, Qt.AlignmentFlag.AlignVCenter, self._units.write(float(t), "temperature", 0)
            )
        band = [self._at(body, k, mean[k] + half[k], low, high) for k in range(12)]
        band += [self._at(body, k, mean[k] - half[k], low, high) for k in reversed(range(12))]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(p.color("water", 60))
        painter.drawPolygon(QPolygonF(band))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(p.color("water"), 1.6))
        painter.drawPolyline(QPolygonF([self._at(body, k, mean[k], low, high) for k in range(12)]))
        if not self._compact:
            self._row_name(painter, body.top() + 62, "outside", p, "water")

    def _whose(self, painter: QPainter, p: Palette) -> None:
        """Write at the left whose year it is; Compare shows several hives above it."""
        if self._assessed is None:
            return
        painter.setFont(font(12, bold=True))
        painter.setPen(p.color("ink"))
        box = QRectF(8, 2, _LEFT - 12, 50)
        flags = Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap
        painter.drawText(box, flags, self._assessed.design.name)

    def _row_name(self, painter: QPainter, y: float, text: str, p: Palette, color: str) -> None:
        painter.setFont(font(12))
        painter.setPen(p.color(color))
        painter.drawText(QRectF(8, y - 9, _LEFT - 14, 18), Qt.AlignmentFlag.AlignVCenter, text)

    def _crown(self, painter: QPainter, y: float, p: Palette) -> None:
        """Mark the crown of each month: open dot dry, ring wet at the rim, full drop wet."""
        self._row_name(painter, y, "under lid", p, "ink")
        if self._assessed is None:
            return
        for k in range(12):
            c = QPointF(self.column(k).center().x(), y)
            paint_verdict(painter, c, crown_verdict(self._assessed.months, k), p)

    def _honey(self, painter: QPainter, p: Palette) -> None:
        """Draw the honey burnt each month, written in kg."""
        y = 152.0
        self._row_name(painter, y, f"honey {self._units.unit('mass')}", p, "honey")
        if self._assessed is None:
            return
        painter.setFont(font(12))
        for k in range(12):
            column = self.column(k)
            amount = float(self._assessed.honey_kg_month[k])
            painter.setPen(p.color("honey"))
            painter.drawText(
                QRectF(column.left(), y - 9, column.width(), 18),
                Qt.AlignmentFlag.AlignCenter,
                self._units.number(amount, "mass", self._digits()),
            )
            width = min(column.width() - 8, 14 * amount)
            painter.fillRect(
                QRectF(column.center().x() - width / 2, y + 9, width, 4), p.color("honey")
            )

    def _larder(self, painter: QPainter, p: Palette) -> None:
        """Write what is left in the larder at the end of each month without forage."""
        y = 174.0
        self._row_name(painter, y, "honey left", p, "honey")
        if self._assessed is None:
            return
        painter.setFont(font(12))
        for k, left in larder_kg(self._assessed).items():
            column = self.column(k)
            painter.setPen(p.color("heat" if left <= 0 else "honey"))
            text = "empty" if left <= 0 else self._units.number(left, "mass", self._digits())
            box = QRectF(column.left(), y - 9, column.width(), 18)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _digits(self) -> int:
        return 1 if self.column(0).width() >= _NARROW_PX else 0

    def _hand(self, painter: QPainter, p: Palette) -> None:
        column = self.column(self._month)
        name = QRectF(column.left(), 2, column.width(), 18)
        painter.fillRect(name.adjusted(3, 1, -3, 0), p.color("ground"))
        painter.setFont(font(12, bold=True))
        painter.setPen(p.color("ink"))
        painter.drawText(name, Qt.AlignmentFlag.AlignCenter, self._short(self._month))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(p.color("accent"), 3.0 if self.hasFocus() else 2.0))
        painter.drawRoundedRect(column.adjusted(1, 1, -1, -5), 3, 3)
        tip = QPointF(column.center().x(), self.height() - 8.0)
        if self._hour is not None:
            day = self._hour / HOURS_IN_DAY - FIRST_DAYS[self._month]
            tip.setX(column.left() + day / DAYS_IN_MONTH[self._month] * column.width())
            painter.drawLine(QPointF(tip.x(), self._body().top()), tip)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(p.color("accent"))
        painter.drawPolygon(QPolygonF([tip, tip + QPointF(-7, 6), tip + QPointF(7, 6)]))
