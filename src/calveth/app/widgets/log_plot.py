"""Logs over time: a strip for each quantity, the least and the most of every pixel, a hand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.theme.theme import current, font
from calveth.app.widgets.axis import Axis, draw_upright
from calveth.core.diary.reduce import reduced
from calveth.texts.time_scale import time_ticks

_LEFT, _RIGHT, _TOP, _BOTTOM, _GAP = 52.0, 10.0, 18.0, 22.0, 30.0
_LEAST_SPAN_MIN = 6 * 60.0
_CLICK_PX = 4.0
_MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Curve:
    """Samples at minutes of the place's clock; dashed where it is expected and not measured."""

    name: str
    minutes: NDArray[np.int64]
    values: NDArray[np.float64]
    color: str
    dashed: bool = False
    gap_min: float = 180.0


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Band:
    """Where something lies most likely, from ``low`` to ``high`` at minutes."""

    minutes: NDArray[np.int64]
    low: NDArray[np.float64]
    high: NDArray[np.float64]
    color: str


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Strip:
    """One quantity: its title with the unit, its curves, and where something is wrong with them.

    ``faults`` are pairs of minutes, and set no scale; ``digits`` are those of its numbers.
    """

    title: str
    curves: tuple[Curve, ...]
    faults: tuple[tuple[float, float], ...] = ()
    bands: tuple[Band, ...] = ()
    digits: int = 1


class LogPlot(QWidget):
    """Draws strips over one axis of time that is zoomed by the wheel and dragged.

    Signals
    -------
    hand_moved(minute)
        The hand was put to another minute of the place's clock.
    """

    hand_moved = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self.strips: tuple[Strip, ...] = ()
        self.marks: tuple[tuple[int, str], ...] = ()
        self.hand: int | None = None
        self._whole = (0.0, 1.0)
        self._seen = (0.0, 1.0)
        self._drag: tuple[float, tuple[float, float]] | None = None
        self._moved = False
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setMinimumHeight(220)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAccessibleName("logs over time")
        self.setToolTip(
            "Wheel or + and - zoom, dragging moves, arrows move the hand, Home shows all"
        )

    def sizeHint(self) -> QSize:
        return QSize(900, 420)

    @property
    def seen(self) -> tuple[float, float]:
        """First and last minute in sight."""
        return self._seen

    def show_strips(self, strips: Sequence[Strip], marks: Sequence[tuple[int, str]]) -> None:
        """Show strips and marks (minute and word); what is in sight stays where it can."""
        self.strips, self.marks = tuple(strips), tuple(marks)
        ends = [
            (c.minutes[0], c.minutes[-1])
            for s in strips
            for c in s.curves
            if c.minutes.size and not c.dashed
        ]
        span = (float(min(a for a, _ in ends)), float(max(b for _, b in ends))) if ends else (0, 1)
        if span != self._whole:
            self._whole = self._seen = span
        self.setAccessibleDescription(
            "; ".join(f"{s.title}: {', '.join(c.name for c in s.curves)}" for s in strips)
        )
        self.update()

    def set_hand(self, minute: int | None) -> None:
        """Put the hand somewhere without telling anybody."""
        self.hand = minute
        self.update()

    def zoom(self, factor: float, at: float | None = None) -> None:
        """Show ``factor`` times as long a time, about a minute (the hand, or the middle)."""
        first, last = self._seen
        about = at if at is not None else self.hand
        if about is None or not first <= about <= last:
            about = 0.5 * (first + last)
        span = max((last - first) * factor, _LEAST_SPAN_MIN)
        share = (about - first) / max(last - first, 1e-9)
        self._look(about - share * span, span)

    def show_all(self) -> None:
        """Show the whole time."""
        self._look(self._whole[0], self._whole[1] - self._whole[0])

    def _look(self, first: float, span: float) -> None:
        low, high = self._whole
        span = min(span, high - low)
        first = min(max(first, low), high - span)
        self._seen = (first, first + span)
        self.update()

    # -- input ---------------------------------------------------------------------------------
    def _minute(self, x: float) -> float:
        first, last = self._seen
        wide = max(self.width() - _LEFT - _RIGHT, 1.0)
        return first + (x - _LEFT) / wide * (last - first)

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.zoom(0.8 if event.angleDelta().y() > 0 else 1.25, self._minute(event.position().x()))
        event.accept()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._drag, self._moved = (event.position().x(), self._seen), False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag is None:
            return
        start, (first, last) = self._drag
        gone = event.position().x() - start
        if abs(gone) > _CLICK_PX:
            self._moved = True
        if self._moved:
            wide = max(self.width() - _LEFT - _RIGHT, 1.0)
            self._look(first - gone / wide * (last - first), last - first)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._drag is not None and not self._moved:
            self._put_hand(self._minute(event.position().x()))
        self._drag = None

    def mouseDoubleClickEvent(self, _: QMouseEvent) -> None:
        self.show_all()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = 1440 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 60
        key, span = event.key(), self._seen[1] - self._seen[0]
        hand = self.hand if self.hand is not None else round(sum(self._seen) / 2)
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self._put_hand(hand + (step if key == Qt.Key.Key_Right else -step))
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal, Qt.Key.Key_Minus):
            self.zoom(1.6 if key == Qt.Key.Key_Minus else 0.625)
        elif key in (Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
            self._look(self._seen[0] + (span if key == Qt.Key.Key_PageDown else -span) / 2, span)
        elif key == Qt.Key.Key_Home:
            self.show_all()
        else:
            super().keyPressEvent(event)

    def _put_hand(self, minute: float) -> None:
        low, high = self._whole
        self.hand = round(min(max(minute, low), high))
        first, last = self._seen
        if not first <= self.hand <= last:
            self._look(self.hand - (last - first) / 2, last - first)
        self.hand_moved.emit(self.hand)
        self.update()

    # -- paint ---------------------------------------------------------------------------------
    def paintEvent(self, _: QPaintEvent) -> None:
        if not self.strips:
            return
        painter = QPainter(self)
        high = (self.height() - _TOP - _BOTTOM - _GAP * (len(self.strips) - 1)) / len(self.strips)
        wide = self.width() - _LEFT - _RIGHT
        boxes = [
            QRectF(_LEFT, _TOP + k * (high + _GAP), wide, high) for k in range(len(self.strips))
        ]
        for strip, box in zip(self.strips, boxes, strict=True):
            self._strip(painter, strip, box)
        self._time(painter, boxes)
        self._over(painter, boxes)

    def _x(self, minute: float, box: QRectF) -> float:
        first, last = self._seen
        return box.left() + (minute - first) / max(last - first, 1e-9) * box.width()

    def _strip(self, painter: QPainter, strip: Strip, box: QRectF) -> None:
        p, (first, last) = current(), self._seen
        made = [
            reduced(c.minutes, c.values, first, last, int(box.width()), c.gap_min)
            for c in strip.curves
        ]
        sound = (
            made
            if not strip.faults
            else [
                reduced(*sound_samples(c, strip.faults), first, last, int(box.width()), c.gap_min)
                for c in strip.curves
            ]
        )
        ends = [(float(r.low.min()), float(r.high.max())) for r in sound if r.low.size]
        low, high = (min(a for a, _ in ends), max(b for _, b in ends)) if ends else (0.0, 1.0)
        high = high if high - low > 1e-9 else low + 1.0
        painter.fillRect(box, p.color("sheet"))
        for a, b in strip.faults:
            left = max(self._x(a, box), box.left())
            right = min(max(self._x(b, box), left + 2.0), box.right())
            if right > left:
                painter.fillRect(
                    QRectF(left, box.top(), right - left, box.height()), p.color("heat", 46)
                )
        painter.save()
        painter.setClipRect(box)
        for band in strip.bands:
            self._band(painter, band, box, (low, high))
        # What was expected lies under what was measured.
        rows = sorted(zip(strip.curves, made, strict=True), key=lambda row: not row[0].dashed)
        for curve, columns in rows:
            pen = QPen(p.color(curve.color), 1.0 if not curve.dashed else 1.4)
            if curve.dashed:
                pen.setStyle(Qt.PenStyle.DashLine)
            painter.setPen(pen)
            for line in _lines(columns, box, low, high):
                painter.drawPolyline(line)
        painter.restore()
        self._scale(painter, strip, box, (low, high))

    def _band(self, painter: QPainter, band: Band, box: QRectF, ends: tuple[float, float]) -> None:
        first, last = self._seen
        under, over = (
            reduced(band.minutes, v, first, last, int(box.width()), 1e9)
            for v in (band.low, band.high)
        )
        if not under.low.size:
            return
        scale = box.height() / (ends[1] - ends[0])
        x = box.left() + under.column + 0.5
        points = [
            QPointF(float(a), box.bottom() - float(b - ends[0]) * scale)
            for a, b in zip(x, over.high, strict=True)
        ]
        points += [
            QPointF(float(a), box.bottom() - float(b - ends[0]) * scale)
            for a, b in zip(x[::-1], under.low[::-1], strict=True)
        ]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(current().color(band.color, 60))
        painter.drawPolygon(QPolygonF(points))

    def _scale(
        self, painter: QPainter, strip: Strip, box: QRectF, ends: tuple[float, float]
    ) -> None:
        p = current()
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(p.color("line"), 1))
        painter.drawRect(box)
        draw_upright(painter, box, Axis.of(*ends), p, _LEFT)
        painter.setFont(font(12, bold=True))
        painter.setPen(p.color("ink"))
        row = QRectF(box.left(), box.top() - 18, box.width(), 17)
        painter.drawText(row, Qt.AlignmentFlag.AlignVCenter, strip.title)
        x = box.left() + painter.fontMetrics().horizontalAdvance(strip.title) + 16
        painter.setFont(font(12))
        for curve in strip.curves:
            text = curve.name + self._at_hand(curve, strip.digits)
            pen = QPen(p.color(curve.color), 2.0)
            pen.setStyle(Qt.PenStyle.DashLine if curve.dashed else Qt.PenStyle.SolidLine)
            painter.setPen(pen)
            painter.drawLine(QPointF(x, box.top() - 9), QPointF(x + 18, box.top() - 9))
            painter.setPen(p.color("ink"))
            painter.drawText(QPointF(x + 23, box.top() - 5), text)
            x += 23 + painter.fontMetrics().horizontalAdvance(text) + 14

    def _at_hand(self, curve: Curve, digits: int) -> str:
        """Return what a curve has at the hand, where it has something near it."""
        if self.hand is None or not curve.minutes.size:
            return ""
        k = int(np.clip(np.searchsorted(curve.minutes, self.hand), 0, curve.minutes.size - 1))
        k = k - 1 if k and self.hand - curve.minutes[k - 1] < curve.minutes[k] - self.hand else k
        near = abs(int(curve.minutes[k]) - self.hand) <= curve.gap_min
        return f" {curve.values[k]:.{digits}f}" if near and np.isfinite(curve.values[k]) else ""

    def _time(self, painter: QPainter, boxes: list[QRectF]) -> None:
        p = current()
        painter.setFont(font(11))
        below = boxes[-1]
        for minute, text in time_ticks(*self._seen, below.width()):
            x = self._x(minute, below)
            painter.setPen(QPen(p.color("line"), 1, Qt.PenStyle.DotLine))
            for box in boxes:
                painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
            painter.setPen(p.color("muted"))
            painter.drawText(
                QRectF(x - 45, below.bottom() + 4, 90, 15), Qt.AlignmentFlag.AlignCenter, text
            )

    def _over(self, painter: QPainter, boxes: list[QRectF]) -> None:
        """Draw inspections and the hand over all strips."""
        p, (first, last) = current(), self._seen
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for minute, _ in self.marks:
            if not first <= minute <= last:
                continue
            x = self._x(minute, boxes[0])
            painter.setPen(QPen(p.color("honey"), 1.4))
            for box in boxes:
                painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(p.color("honey"))
            top = boxes[0].top()
            painter.drawPolygon(
                QPolygonF(
                    [
                        QPointF(x - 5, top),
                        QPointF(x + 5, top),
                        QPointF(x, top + 8),
                    ]
                )
            )
        if self.hand is not None and first <= self.hand <= last:
            painter.setPen(QPen(p.color("accent"), 1.6))
            x = self._x(self.hand, boxes[0])
            painter.drawLine(QPointF(x, boxes[0].top()), QPointF(x, boxes[-1].bottom()))


def sound_samples(
    curve: Curve, faults: tuple[tuple[float, float], ...]
) -> tuple[NDArray[np.int64], NDArray[np.float64]]:
    """Return the samples of a curve that are not flagged."""
    keep = np.ones(curve.minutes.size, dtype=bool)
    for a, b in faults:
        keep[np.searchsorted(curve.minutes, a) : np.searchsorted(curve.minutes, b, "right")] = False
    return (
        (curve.minutes[keep], curve.values[keep])
        if keep.any()
        else (
            curve.minutes,
            curve.values,
        )
    )


def _lines(columns: object, box: QRectF, low: float, high: float) -> list[QPolygonF]:
    """Return a line for each piece of a curve: down and up again in every column."""
    from calveth.core.diary.reduce import Reduced

    assert isinstance(columns, Reduced)
    scale = box.height() / (high - low)
    polylines = []
    for piece in np.unique(columns.piece):
        own = columns.piece == piece
        x = (box.left() + columns.column[own] + 0.5).tolist()
        top = (box.bottom() - (columns.high[own] - low) * scale).tolist()
        bottom = (box.bottom() - (columns.low[own] - low) * scale).tolist()
        points = []
        for across, above, below in zip(x, top, bottom, strict=True):
            points.append(QPointF(across, above))
            if below - above > 0.5:
                points.append(QPointF(across, below))
        if len(points) == 1:
            points.append(points[0] + QPointF(1.0, 0.0))
        polylines.append(QPolygonF(points))
    return polylines
