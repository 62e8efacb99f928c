"""What each centimetre of a layer brings: honey over thickness, and what the next step costs."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.ribbon.ribbon import paint_verdict
from calveth.app.theme.theme import current, font
from calveth.core.compare.sweep import SweepPoint, last_that_pays
from calveth.core.units import METRIC, UnitSystem

_LEFT, _RIGHT, _TOP, _BOTTOM = 62.0, 62.0, 30.0, 62.0


class SweepPlot(QWidget):
    """Winter honey as a line; under each thickness the crown, and whether the step pays."""

    def __init__(self) -> None:
        super().__init__()
        self._points: tuple[SweepPoint, ...] = ()
        self._now_m = 0.0
        self._worth_eur_kg = 0.0
        self._units = METRIC
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(240)
        self.setAccessibleName("honey over thickness")

    def sizeHint(self) -> QSize:
        return QSize(800, 330)

    def show_points(
        self,
        points: Sequence[SweepPoint],
        now_m: float,
        worth_eur_kg: float,
        units: UnitSystem,
    ) -> None:
        """Show a sweep; ``worth_eur_kg`` is the honey of all years of use per kg a winter [€]."""
        self._points, self._now_m = tuple(points), now_m
        self._worth_eur_kg, self._units = worth_eur_kg, units
        self.setAccessibleDescription(
            "; ".join(
                f"{units.write(p.thickness_m, 'length')}: {units.write(p.winter_honey_kg, 'mass')}"
                for p in points
            )
        )
        self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        if len(self._points) < 2:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        body = QRectF(_LEFT, _TOP, self.width() - _LEFT - _RIGHT, self.height() - _TOP - _BOTTOM)
        p = current()
        painter.setPen(QPen(p.color("line"), 1))
        painter.setBrush(p.color("sheet"))
        painter.drawRect(body)
        self._steps(painter, body)
        self._honey(painter, body)
        self._foot(painter, body)

    def _x(self, body: QRectF, size_m: float) -> float:
        first, last = self._points[0].thickness_m, self._points[-1].thickness_m
        return body.left() + 16 + (size_m - first) / (last - first) * (body.width() - 32)

    def _steps(self, painter: QPainter, body: QRectF) -> None:
        """Draw for every step the honey it saves (in €) beside what it costs, per centimetre."""
        p = current()
        pairs = [
            (q.thickness_m, (q.saved_kg_cm or 0.0) * self._worth_eur_kg, q.cost_eur_cm or 0.0)
            for q in self._points[1:]
        ]
        most = max(max(saved, cost) for _, saved, cost in pairs) or 1.0
        tall = body.height() * 0.42
        painter.setFont(font(11))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for size, saved, cost in pairs:
            x = self._x(body, size)
            for off, value, color in ((-8.5, saved, "honey"), (0.5, cost, "muted")):
                height = max(0.0, tall * value / most)
                rect = QRectF(x + off, body.bottom() - height, 8, height)
                painter.fillRect(rect, p.color(color, 150))
                painter.setPen(QPen(p.color(color), 0.8))
                painter.drawRect(rect)
        painter.setPen(p.color("muted"))
        box = QRectF(body.right() + 4, body.bottom() - tall - 8, _RIGHT, 16)
        painter.drawText(box, Qt.AlignmentFlag.AlignLeft, f"{most:.1f} €")
        box.moveTop(box.top() + 14)
        painter.drawText(box, Qt.AlignmentFlag.AlignLeft, "per cm")

    def _honey(self, painter: QPainter, body: QRectF) -> None:
        p = current()
        honey = [q.winter_honey_kg for q in self._points]
        low, high = min(honey), max(honey)
        span = max(high - low, 0.05)

        def y(value: float) -> float:
            return body.top() + 14 + (high - value) / span * (body.height() * 0.48)

        line = [QPointF(self._x(body, q.thickness_m), y(q.winter_honey_kg)) for q in self._points]
        painter.setPen(QPen(p.color("heat"), 2.2))
        painter.drawPolyline(QPolygonF(line))
        painter.setBrush(p.color("heat"))
        for point in line:
            painter.drawEllipse(point, 2.6, 2.6)
        painter.setFont(font(11))
        painter.setPen(p.color("heat"))
        for value in (high, low):
            box = QRectF(0, y(value) - 8, _LEFT - 6, 16)
            painter.drawText(box, Qt.AlignmentFlag.AlignRight, self._units.write(value, "mass"))
        painter.setPen(p.color("muted"))
        painter.setFont(font(12))
        title = QRectF(body.left(), 4, body.width(), 18)
        painter.drawText(
            title, Qt.AlignmentFlag.AlignLeft,
            "line: winter honey    bars per cm: honey saved in all years of use, beside its cost",
        )  # fmt: skip
        now = self._x(body, self._now_m)
        if body.left() <= now <= body.right():
            painter.setPen(QPen(p.color("accent"), 1.4, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(now, body.top()), QPointF(now, body.bottom()))

    def _foot(self, painter: QPainter, body: QRectF) -> None:
        p = current()
        best = last_that_pays(self._points)
        painter.setFont(font(11))
        last_right = -1e9
        for q in self._points:
            x = self._x(body, q.thickness_m)
            bold = best is not None and q.thickness_m == best.thickness_m
            if x - last_right > 30 or bold:
                painter.setFont(font(11, bold=bold))
                painter.setPen(p.color("ink" if bold else "muted"))
                box = QRectF(x - 24, body.bottom() + 4, 48, 15)
                text = self._units.number(q.thickness_m, "length", None)
                painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
                paint_verdict(painter, QPointF(x, body.bottom() + 28), q.crown, p, 5.0)
                last_right = x
        painter.setFont(font(12))
        painter.setPen(p.color("ink"))
        where = QRectF(body.left(), body.bottom() + 40, body.width(), 18)
        unit = self._units.unit("length")
        pays = (
            f"Every step pays up to {self._units.write(best.thickness_m, 'length')}."
            if best
            else "The first step already costs more than it saves."
        )
        painter.drawText(
            where, Qt.AlignmentFlag.AlignCenter,
            f"thickness in {unit}; under it the crown in the coldest month. {pays}",
        )  # fmt: skip
