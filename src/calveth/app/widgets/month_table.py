"""Twelve months as a table that is a picture too: bars behind the figures, dragged up and down."""

from __future__ import annotations

from typing import Protocol

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPoint, QRect, Qt
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QApplication, QStyledItemDelegate, QStyleOptionViewItem, QTableView

from calveth.app.theme.theme import current

_Index = QModelIndex | QPersistentModelIndex
_PX_A_STEP = 4
"""Pixels the mouse goes for one step of a value."""


class Months(Protocol):
    """What the table shows and changes."""

    def share(self, index: _Index) -> float:
        """Return how far a value lies between least and most of its row, 0 to 1."""

    def value(self, index: _Index) -> float:
        """Return a value in the unit it is shown in."""

    def step(self, index: _Index) -> float:
        """Return what one step of a drag changes."""

    def drag(self, index: _Index, value: float) -> None:
        """Put a value that is dragged; one undo takes the whole drag back."""


class _Bars(QStyledItemDelegate):
    """Paints a bar at the foot of each cell, behind its figure."""

    def __init__(self, months: Months, table: QTableView) -> None:
        super().__init__(table)
        self._months = months

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: _Index) -> None:
        box = option.rect
        high = round(self._months.share(index) * (box.height() - 3))
        bar = QRect(box.left() + 3, box.bottom() - high, box.width() - 6, high)
        painter.fillRect(bar, current().color("water", 46))
        super().paint(painter, option, index)


class MonthTable(QTableView):
    """A table of months; a value is typed, or dragged up and down."""

    def __init__(self, months: Months) -> None:
        super().__init__()
        self._months = months
        self._pressed: tuple[QPersistentModelIndex, QPoint, float] | None = None
        self._dragging = False
        self.setItemDelegate(_Bars(months, self))
        self.setToolTip("Type a value, or drag it up and down")
        self.setDragEnabled(False)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        index = self.indexAt(event.position().toPoint())
        self._pressed, self._dragging = None, False
        if event.button() == Qt.MouseButton.LeftButton and index.isValid():
            start = event.position().toPoint()
            self._pressed = (QPersistentModelIndex(index), start, self._months.value(index))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is None or not event.buttons() & Qt.MouseButton.LeftButton:
            super().mouseMoveEvent(event)
            return
        index, start, value = self._pressed
        up = start.y() - event.position().toPoint().y()
        if not self._dragging and abs(up) < QApplication.startDragDistance():
            return
        self._dragging = True
        self.viewport().setCursor(Qt.CursorShape.SizeVerCursor)
        self._months.drag(index, value + round(up / _PX_A_STEP) * self._months.step(index))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        super().mouseReleaseEvent(event)
        self._pressed, self._dragging = None, False
        self.viewport().unsetCursor()
