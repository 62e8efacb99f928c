"""Axes of charts: ticks at round figures of the unit that is shown, with lines across the chart."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import ceil, floor, log10

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import font

_LABEL_PX = 16.0
_LEAST_GAP_PX = 22.0
"""Labels nearer to each other than this cannot be told apart [px]."""


def round_ticks(low: float, high: float, most: int) -> tuple[float, ...]:
    """Return about so many round figures within a range, 1, 2 or 5 times a power of ten apart.

    Two of them at least, or nobody could tell how far apart they are.

    >>> round_ticks(0.0, 9.3, 5), round_ticks(-0.9, 0.4, 4), round_ticks(7.0, 7.0, 5)
    ((0.0, 2.0, 4.0, 6.0, 8.0), (-0.5, 0.0), (7.0,))
    """
    span = high - low
    if not span > 0 or most < 2:
        return (low,)
    rough = span / most
    size: float = 10.0 ** floor(log10(rough))
    step = next(s * size for s in (1.0, 2.0, 5.0, 10.0) if span / (s * size) <= most)
    first, last = ceil(low / step - 1e-9), floor(high / step + 1e-9)
    if first >= last:
        return round_ticks(low, high, 2 * most)
    # Through the decimals of the step, so that 0.3 is not 0.30000000000000004.
    digits = decimals(step)
    return tuple(round(k * step, digits) + 0.0 for k in range(first, last + 1))


def decimals(step: float) -> int:
    """Return how many decimals figures need that are a step apart."""
    return max(0, -floor(log10(step) + 1e-9))


@dataclass(frozen=True, slots=True)
class Axis:
    """A range of a chart, ``low`` to ``high``, and what these ends are in the unit shown."""

    low: float
    high: float
    shown_low: float
    shown_high: float
    label: Callable[[float], str] | None = None

    @classmethod
    def of(
        cls,
        low: float,
        high: float,
        shown: Callable[[float], float] = float,
        label: Callable[[float], str] | None = None,
    ) -> Axis:
        """Return an axis whose unit is shown by a linear conversion; ``label`` writes a figure."""
        return cls(low, high, shown(low), shown(high), label)

    def share(self, value: float) -> float:
        """Return where a value lies, 0 at the low end and 1 at the high one."""
        return (value - self.low) / (self.high - self.low)

    def ticks(self, length_px: float) -> list[tuple[float, str]]:
        """Return where ticks lie, as shares of the axis, and what is written at them."""
        marks = round_ticks(
            self.shown_low, self.shown_high, max(2, floor(length_px / _LEAST_GAP_PX))
        )
        span = self.shown_high - self.shown_low
        if len(marks) < 2 or span == 0:
            return [(0.0, f"{self.shown_low:g}")]
        digits = decimals(marks[1] - marks[0])
        write = self.label or (lambda m: f"{m:.{digits}f}")
        return [((m - self.shown_low) / span, write(m)) for m in marks]


def draw_upright(painter: QPainter, box: QRectF, axis: Axis, p: Palette, left_px: float) -> None:
    """Draw lines across a chart and figures left of it, in a column of so many pixels."""
    painter.setFont(font(11))
    side = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
    for share, text in axis.ticks(box.height() / 1.4):
        y = box.bottom() - share * box.height()
        painter.setPen(QPen(p.color("line"), 1))
        painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
        painter.setPen(p.color("muted"))
        row = QRectF(box.left() - left_px, y - _LABEL_PX / 2, left_px - 5, _LABEL_PX)
        painter.drawText(row, side, text)


def draw_along(painter: QPainter, box: QRectF, axis: Axis, p: Palette) -> None:
    """Draw lines up a chart and figures above it."""
    painter.setFont(font(11))
    for share, text in axis.ticks(box.width() / 3):
        x = box.left() + share * box.width()
        painter.setPen(QPen(p.color("line"), 1))
        painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
        painter.setPen(p.color("muted"))
        row = QRectF(x - 30, box.top() - _LABEL_PX - 2, 60, _LABEL_PX)
        painter.drawText(row, Qt.AlignmentFlag.AlignCenter, text)
