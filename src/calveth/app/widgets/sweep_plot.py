"""What each centimetre of a layer brings: honey over thickness, and what the next step costs."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from itertools import pairwise

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from calveth.app.ribbon.verdict import paint_verdict
from calveth.app.theme.theme import current, font
from calveth.app.widgets.axis import Axis, draw_upright
from calveth.core.compare.sweep import SweepPoint, doubt_from, last_that_pays, within_doubt
from calveth.texts.units import METRIC, UnitSystem, to_unit

_LEFT, _RIGHT, _TOP, _BOTTOM = 62.0, 30.0, 26.0, 80.0


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
        self.setMouseTracking(True)

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
        tall = self.height() - _TOP - _BOTTOM
        wide = self.width() - _LEFT - _RIGHT
        upper = QRectF(_LEFT, _TOP, wide, 0.5 * tall - 14)
        lower = QRectF(_LEFT, _TOP + 0.5 * tall + 14, wide, 0.5 * tall - 14)
        p = current()
        painter.setPen(QPen(p.color("line"), 1))
        painter.setBrush(p.color("sheet"))
        painter.drawRect(upper)
        painter.drawRect(lower)
        self._honey(painter, upper)
        self._steps(painter, lower)
        for body in (upper, lower):
            self._now(painter, body)
        self._foot(painter, lower)

    def _x(self, body: QRectF, size_m: float) -> float:
        first, last = self._points[0].thickness_m, self._points[-1].thickness_m
        return body.left() + 16 + (size_m - first) / (last - first) * (body.width() - 32)

    def _title(self, painter: QPainter, body: QRectF, title: str, color: str) -> None:
        """Write what a panel shows."""
        p = current()
        painter.setFont(font(12))
        painter.setPen(p.color(color))
        head = QRectF(body.left(), body.top() - 19, body.width(), 18)
        painter.drawText(head, Qt.AlignmentFlag.AlignLeft, title)

    def _steps(self, painter: QPainter, body: QRectF) -> None:
        """Draw for every step the honey it saves (in €) beside what it costs, per centimetre."""
        p = current()
        pairs = [
            (q.thickness_m, (q.saved_kg_cm or 0.0) * self._worth_eur_kg, q.cost_eur_cm or 0.0)
            for q in self._points[1:]
        ]
        most = max(max(saved, cost) for _, saved, cost in pairs) or 1.0
        draw_upright(
            painter, body, Axis.of(0.0, most * body.height() / (body.height() - 4)), p, _LEFT
        )
        for size, saved, cost in pairs:
            x = self._x(body, size)
            for off, value, color in ((-8.5, saved, "honey"), (0.5, cost, "muted")):
                height = max(0.0, (body.height() - 4) * value / most)
                rect = QRectF(x + off, body.bottom() - height, 8, height)
                painter.fillRect(rect, p.color(color, 150))
        self._title(
            painter,
            body,
            "€ per centimetre: ochre the honey it saves in all years of use, grey what it costs",
            "muted",
        )

    def _honey(self, painter: QPainter, body: QRectF) -> None:
        p = current()
        most = 1.08 * max(q.winter_honey_kg for q in self._points) or 1.0
        shown = partial(to_unit, quantity="mass", unit=self._units.unit("mass"))
        draw_upright(painter, body, Axis.of(0.0, most, shown), p, _LEFT)
        line = [
            QPointF(
                self._x(body, q.thickness_m),
                body.bottom() - q.winter_honey_kg / most * body.height(),
            )
            for q in self._points
        ]
        painter.setPen(QPen(p.color("heat"), 2.2))
        painter.drawPolyline(QPolygonF(line))
        painter.setBrush(p.color("heat"))
        for point in line:
            painter.drawEllipse(point, 2.6, 2.6)
        self._title(painter, body, f"winter honey, {self._units.unit('mass')}", "heat")

    def _now(self, painter: QPainter, body: QRectF) -> None:
        now = self._x(body, self._now_m)
        if body.left() <= now <= body.right():
            painter.setPen(QPen(current().color("accent"), 1.4, Qt.PenStyle.DashLine))
            painter.drawLine(QPointF(now, body.top()), QPointF(now, body.bottom()))

    def _foot(self, painter: QPainter, body: QRectF) -> None:
        p = current()
        best = last_that_pays(self._points)
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
        for row, text in enumerate(self.sentences()):
            where = QRectF(0, body.bottom() + 40 + 18 * row, self.width(), 18)
            painter.drawText(where, Qt.AlignmentFlag.AlignCenter, text)

    def sentences(self) -> list[str]:
        """Return what the sweep says: of the next step from what is built, and how far it pays."""
        u = self._units
        best = last_that_pays(self._points)
        pays = (
            f"Every step pays up to {u.write(best.thickness_m, 'length')}"
            if best
            else "The first step already costs more than it saves"
        )
        doubt = doubt_from(self._points)
        if best is not None and doubt is not None and doubt.thickness_m < best.thickness_m:
            pays += (
                f"; beyond {u.write(doubt.thickness_m, 'length')} all that is left saves less "
                "honey than is beyond doubt"
            )
        pays += "."
        key = f"Thickness in {u.unit('length')}; under it the lid in the coldest month. "
        steps = list(pairwise(self._points))
        step = next((s for s in steps if s[0].thickness_m >= self._now_m - 1e-9), steps[-1])
        return [self.step_text(*step), key + pays]

    def step_text(self, thinner: SweepPoint, point: SweepPoint) -> str:
        """Return what one step brings and costs, and whether that is beyond doubt."""
        u = self._units
        saved = max(thinner.winter_honey_kg - point.winter_honey_kg, 0.0)
        cost = point.cost_eur - thinner.cost_eur
        low, high = (u.number(q.thickness_m, "length") for q in (thinner, point))
        doubt = "; within the doubt of the estimate" if within_doubt(thinner, point) else ""
        per_cm = saved / max(100 * (point.thickness_m - thinner.thickness_m), 1e-9)
        return (
            f"{low} to {high} {u.unit('length')}: {u.write(saved, 'mass', 2)} less honey a winter "
            f"({u.write(per_cm, 'mass', 2)} a centimetre), about {saved * self._worth_eur_kg:.0f} "
            f"€ in all years, for {cost:.0f} €{doubt}."
        )

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Say the figures of the thickness under the pointer."""
        if len(self._points) < 2:
            return
        body = QRectF(_LEFT, 0, self.width() - _LEFT - _RIGHT, self.height())
        near = min(
            range(len(self._points)),
            key=lambda k: abs(self._x(body, self._points[k].thickness_m) - event.position().x()),
        )
        q, u = self._points[near], self._units
        lines = [
            f"{u.write(q.thickness_m, 'length')}: {u.write(q.winter_honey_kg, 'mass')} of honey a "
            f"winter, {q.conductance_w_k:.2f} W/K, material {q.cost_eur:.0f} €"
        ]
        if near:
            lines.append(self.step_text(self._points[near - 1], q))
        QToolTip.showText(event.globalPosition().toPoint(), "\n".join(lines), self)
