"""Figures of the year over the sizes of something: a dot for each, and the range it lies in."""

from __future__ import annotations

from collections.abc import Sequence
from math import isfinite

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import current, font
from calveth.app.widgets.axis import draw_upright
from calveth.app.widgets.year_axis import year_axis
from calveth.core.year.sweeps import SweptYear
from calveth.texts.units import METRIC, UnitSystem
from calveth.texts.year import WORDS, unit_of, write

CHARTS = (
    "winter_honey_kg",
    "lid_wet_nights",
    "rim_wet_nights",
    "hottest_nest_degc",
    "harmful_hours",
    "most_co2",
)
"""The figures shown, a chart for each."""
_COLUMNS = 3
_LEFT, _RIGHT, _TOP, _BOTTOM = 54.0, 16.0, 28.0, 40.0
_HIGH = 208


class BandPlot(QWidget):
    """Small charts over one axis of sizes; what stands now is marked."""

    def __init__(self) -> None:
        super().__init__()
        self._years: tuple[SweptYear, ...] = ()
        self._now = 0.0
        self._axis: tuple[str, tuple[str, ...]] = ("", ())
        self._units = METRIC
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(2 * _HIGH)
        self.setAccessibleName("the year over the sizes of what is swept")

    def sizeHint(self) -> QSize:
        return QSize(900, 2 * _HIGH)

    def show_years(
        self,
        years: Sequence[SweptYear],
        now: float,
        axis: str,
        texts: Sequence[str],
        units: UnitSystem,
    ) -> None:
        """Show years; ``now`` is the size as it is, ``texts`` what stands under each size."""
        self._years, self._now, self._units = tuple(years), now, units
        self._axis = (axis, tuple(texts))
        self.setAccessibleDescription(
            "; ".join(
                f"{text}: {write(CHARTS[0], y.bands.likely.winter_honey_kg, units)}"
                for text, y in zip(texts, years, strict=True)
            )
        )
        self.update()

    def paintEvent(self, _: QPaintEvent) -> None:
        if not self._years:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        wide = self.width() / _COLUMNS
        for k, name in enumerate(CHARTS):
            box = QRectF(k % _COLUMNS * wide, k // _COLUMNS * _HIGH, wide, _HIGH)
            self._chart(painter, box, name, current())

    def _ends(self, name: str) -> tuple[float, float]:
        """Return the ends of an axis: it begins at nought, but not for temperatures."""
        values = [v for y in self._years for v in y.bands.band(name) if isfinite(v)]
        values += [v for y in self._years if isfinite(v := float(getattr(y.bands.likely, name)))]
        if not values:
            return 0.0, 1.0
        low, high = min(values), max(values)
        if WORDS[name].unit != "temperature":
            low = min(low, 0.0)
        return (low, high) if high - low > 1e-9 else (low, low + 1.0)

    def _chart(self, painter: QPainter, box: QRectF, name: str, p: Palette) -> None:
        low, high = self._ends(name)
        body = box.adjusted(_LEFT, _TOP, -_RIGHT, -_BOTTOM)
        sizes = [y.size for y in self._years]
        span = max(max(sizes) - min(sizes), 1e-9)

        def at(size: float, value: float) -> QPointF:
            x = body.left() + (size - min(sizes)) / span * body.width()
            return QPointF(x, body.bottom() - (value - low) / (high - low) * body.height())

        painter.setFont(font(12, bold=True))
        painter.setPen(p.color("ink"))
        title = WORDS[name].name
        unit = unit_of(name, self._units)
        title += f", {unit}" if unit else ""
        if WORDS[name].unit == "temperature":
            title += " (axis not from zero)"
        painter.drawText(
            QRectF(box.left() + 8, box.top() + 2, box.width() - 12, 20),
            Qt.AlignmentFlag.AlignVCenter,
            title,
        )
        self._axes(painter, body, (name, low, high), p)
        x_now = at(self._now, low).x()
        painter.setPen(QPen(p.color("accent"), 1.2, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(x_now, body.top()), QPointF(x_now, body.bottom()))
        known = [y for y in self._years if isfinite(float(getattr(y.bands.likely, name)))]
        bands = [(y.size, y.bands.band(name)) for y in known if y.bands.values.size]
        if len(bands) > 1:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(p.color("water", 50))
            over = [at(s, b[1]) for s, b in bands]
            painter.drawPolygon(QPolygonF(over + [at(s, b[0]) for s, b in reversed(bands)]))
        dots = [at(y.size, float(getattr(y.bands.likely, name))) for y in known]
        painter.setPen(QPen(p.color("ink"), 1.6))
        painter.drawPolyline(QPolygonF(dots))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(p.color("accent"))
        for dot in dots:
            painter.drawEllipse(dot, 3.6, 3.6)

    def _axes(
        self,
        painter: QPainter,
        body: QRectF,
        scale: tuple[str, float, float],
        p: Palette,
    ) -> None:
        name, low, high = scale
        painter.setPen(QPen(p.color("line"), 1))
        painter.drawLine(body.bottomLeft(), body.bottomRight())
        painter.drawLine(body.bottomLeft(), body.topLeft())
        draw_upright(painter, body, year_axis(name, (low, high), self._units), p, _LEFT)
        painter.setFont(font(11))
        painter.setPen(p.color("muted"))
        sizes = [y.size for y in self._years]
        span = max(max(sizes) - min(sizes), 1e-9)
        free = -1e9
        for size, text in zip(sizes, self._axis[1], strict=True):
            x = body.left() + (size - min(sizes)) / span * body.width()
            # Sizes too near to each other leave their words out.
            if x - free < 30.0:
                continue
            free = x
            painter.drawText(
                QRectF(x - 30, body.bottom() + 3, 60, 14), Qt.AlignmentFlag.AlignCenter, text
            )
        painter.drawText(
            QRectF(body.left(), body.bottom() + 17, body.width(), 16),
            Qt.AlignmentFlag.AlignCenter,
            self._axis[0],
        )
