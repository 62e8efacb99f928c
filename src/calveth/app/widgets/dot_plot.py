"""Hives by one figure of the year: a dot where it is likely, a whisker over its range."""

from __future__ import annotations

from collections.abc import Sequence
from math import isfinite

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import current, font
from calveth.app.widgets.axis import draw_along
from calveth.app.widgets.year_axis import year_axis
from calveth.core.ends import at_least
from calveth.core.year.draws import YearBands, less_in
from calveth.texts.units import METRIC, UnitSystem
from calveth.texts.year import WORDS, unit_of, write_band

_LEFT, _RIGHT, _TOP = 190.0, 300.0, 34.0
_ROW, _BRIEF_ROW = 44.0, 24.0


class DotPlot(QWidget):
    """Shows hives one under the other, the lowest first, on one axis."""

    def __init__(self, *, brief: bool = False) -> None:
        """``brief`` rows have names alone: their figures stand in a table beside the plot."""
        super().__init__()
        self._brief = brief
        self._tall = _BRIEF_ROW if brief else _ROW
        self._rows: tuple[YearBands, ...] = ()
        self._figure = "winter_honey_kg"
        self._units = METRIC
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setMinimumWidth(720)
        self.setAccessibleName("hives by a figure of the year")

    def sizeHint(self) -> QSize:
        return QSize(900, int(_TOP + max(len(self._rows), 1) * self._tall + 30))

    @property
    def order(self) -> list[str]:
        """Ids of the hives from above."""
        return [row.case.design.id for row in self._rows]

    def show_rows(self, rows: Sequence[YearBands], figure: str, units: UnitSystem) -> None:
        """Show hives by a figure; what is no number comes last."""

        def value(row: YearBands) -> float:
            values = float(getattr(row.likely, figure))
            return values if isfinite(values) else np.inf

        self._rows = tuple(sorted(rows, key=value))
        self._figure, self._units = figure, units
        self.setFixedHeight(self.sizeHint().height())
        self.setAccessibleDescription(
            "; ".join(f"{r.case.design.name}: {write_band(r, figure, units)}" for r in self._rows)
        )
        self.update()

    def _ends(self) -> tuple[float, float]:
        """Return the ends of the axis: nought belongs to it, but not to temperatures."""
        ends = [v for r in self._rows for v in r.band(self._figure) if isfinite(v)]
        if not ends:
            return 0.0, 1.0
        low, high = min(ends), max(ends)
        if WORDS[self._figure].unit != "temperature":
            low = min(low, 0.0)
        return (low, high) if high - low > 1e-9 else (low, low + 1.0)

    def paintEvent(self, _: QPaintEvent) -> None:
        self.draw(QPainter(self), current())

    def draw(self, painter: QPainter, p: Palette) -> None:
        """Draw the plot at the size of the widget, on a screen or a page."""
        if not self._rows:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        low, high = self._ends()
        wide = self.width() - _LEFT - _RIGHT

        def x_of(value: float) -> float:
            return float(_LEFT + (value - low) / (high - low) * wide)

        bottom = _TOP + len(self._rows) * self._tall
        axis = year_axis(self._figure, (low, high), self._units)
        draw_along(painter, QRectF(_LEFT, _TOP - 8, wide, bottom - _TOP + 8), axis, p)
        for k, row in enumerate(self._rows):
            self._row(painter, p, k, row, x_of)
        painter.setFont(font(11))
        painter.setPen(p.color("muted"))
        painter.drawText(
            QRectF(_LEFT, bottom + 6, wide + _RIGHT, 18),
            (
                "dot: as likely, seldom the middle; line: 8 of 10 built alike"
                if self._rows[0].values.size
                else "no ranges yet"
            )
            + (f"; in {unit}" if (unit := unit_of(self._figure, self._units)) else ""),
        )

    def _row(self, painter: QPainter, p: Palette, k: int, row: YearBands, x_of: object) -> None:
        y = _TOP + (k + 0.5) * self._tall
        painter.setFont(font(13, bold=not row.case.design.benchmark))
        painter.setPen(p.color("ink"))
        top = y - 10 if self._brief else y - 18
        name = QRectF(8, top, _LEFT - 20, 20)
        painter.drawText(name, Qt.AlignmentFlag.AlignVCenter, row.case.design.name)
        if not self._brief:
            painter.setFont(font(12))
            painter.setPen(p.color("muted"))
            text = write_band(row, self._figure, self._units)
            painter.drawText(QRectF(8, y, _LEFT - 14, 18), Qt.AlignmentFlag.AlignVCenter, text)
        likely = float(getattr(row.likely, self._figure))
        if isfinite(likely):
            assert callable(x_of)
            low, high = row.band(self._figure)
            painter.setPen(QPen(p.color("ink"), 1.8))
            painter.drawLine(QPointF(x_of(low), y), QPointF(x_of(high), y))
            for end in (low, high):
                painter.drawLine(QPointF(x_of(end), y - 5), QPointF(x_of(end), y + 5))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(p.color("accent"))
            painter.drawEllipse(QPointF(x_of(likely), y), 5.0, 5.0)
        if k + 1 < len(self._rows) and row.values.size:
            below = self._rows[k + 1]
            share, drawn = less_in(row, below, self._figure), len(row.values)
            painter.setPen(p.color("muted"))
            painter.setFont(font(12))
            painter.drawText(
                QRectF(self.width() - _RIGHT + 14, y + self._tall / 2 - 10, _RIGHT - 18, 20),
                f"lower than the next in {round(share * drawn)} of {drawn}",
            )
            if not self._brief:
                sure = round(100 * at_least(round(share * drawn), drawn))
                painter.drawText(
                    QRectF(self.width() - _RIGHT + 14, y + self._tall / 2 + 6, _RIGHT - 18, 20),
                    f"that is {sure} or more of 100",
                )
