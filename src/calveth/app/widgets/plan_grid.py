"""The season plan as a grid: what is open, on and in, month by month; set with mouse or keys."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.theme.theme import current, font
from calveth.core.calendar import MONTH_NAMES

# Months stand under each other here and in the table of the year, which has one column more.
LEFT, RIGHT = 168.0, 50.0
_HEAD, _ROW = 22.0, 30.0
_STEPS = (0.0, 0.3, 0.6, 1.0)


@dataclass(frozen=True, slots=True)
class PlanRow:
    """A row of the plan: an opening with twelve shares, or a fitting that is on or off."""

    key: str
    name: str
    is_share: bool
    values: tuple[float, ...]


def month_width(width: float) -> float:
    """Return the width of a month in a widget of a width [pixels]."""
    return (width - LEFT - RIGHT) / 12


class PlanGrid(QWidget):
    """Twelve months as columns; arrow keys move, space goes on, + and - step, 0 to 9 set.

    Signals
    -------
    changed(key, month, value)
        A cell was set; value is a share from 0 to 1, or 0 and 1 for off and on.
    month_chosen(month)
        The cell that is worked on is in another month.
    """

    changed = Signal(str, int, float)
    month_chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._rows: tuple[PlanRow, ...] = ()
        self._at = (0, 0)
        self._shade: tuple[bool, ...] = (False,) * 12
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("season plan")
        self._describe()

    @property
    def rows(self) -> tuple[PlanRow, ...]:
        """The rows that are shown."""
        return self._rows

    @property
    def cell(self) -> tuple[int, int]:
        """Row and month that are worked on."""
        return self._at

    def sizeHint(self) -> QSize:
        return QSize(700, int(_HEAD + _ROW * max(1, len(self._rows)) + 6))

    def show_plan(self, rows: tuple[PlanRow, ...], month: int, winter: tuple[bool, ...]) -> None:
        """Show a plan; months of winter are shaded."""
        self._rows, self._shade = rows, winter
        self._at = (min(self._at[0], max(0, len(rows) - 1)), month)
        self.setFixedHeight(self.sizeHint().height())
        self._describe()
        self.update()

    def cell_rect(self, row: int, month: int) -> QRectF:
        """Return the pixels of a cell."""
        width = month_width(self.width())
        return QRectF(LEFT + month * width, _HEAD + row * _ROW, width, _ROW)

    def _describe(self) -> None:
        if not self._rows:
            self.setAccessibleDescription("nothing to set")
            return
        row, month = self._rows[self._at[0]], self._at[1]
        value = row.values[month]
        state = f"{value:.0%} open" if row.is_share else "on" if value else "off"
        self.setAccessibleDescription(f"{row.name}, {MONTH_NAMES[month]}: {state}")

    # -- input ---------------------------------------------------------------------------------
    def mousePressEvent(self, event: QMouseEvent) -> None:
        width = month_width(self.width())
        row = int((event.position().y() - _HEAD) // _ROW)
        month = int((event.position().x() - LEFT) // width)
        if not (0 <= row < len(self._rows) and 0 <= month < 12):
            return
        again = (row, month) == self._at and self.hasFocus()
        self._go(row, month)
        if again or not self._rows[row].is_share:
            self._set(self._next(row, month))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if not self._rows:
            super().keyPressEvent(event)
            return
        row, month = self._at
        moves = {
            Qt.Key.Key_Left: (row, month - 1),
            Qt.Key.Key_Right: (row, month + 1),
            Qt.Key.Key_Up: (row - 1, month),
            Qt.Key.Key_Down: (row + 1, month),
            Qt.Key.Key_Home: (row, 0),
            Qt.Key.Key_End: (row, 11),
        }
        key = Qt.Key(event.key())
        value = self._rows[row].values[month]
        if key in moves:
            target = moves[key]
            self._go(min(max(target[0], 0), len(self._rows) - 1), target[1] % 12)
        elif key in (Qt.Key.Key_Space, Qt.Key.Key_Return):
            self._set(self._next(row, month))
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self._set(min(1.0, value + 0.1))
        elif key == Qt.Key.Key_Minus:
            self._set(max(0.0, value - 0.1))
        elif event.text().isdigit():
            digit = int(event.text())
            self._set(1.0 if digit == 9 else digit / 10)
        else:
            super().keyPressEvent(event)

    def _next(self, row: int, month: int) -> float:
        """Return what a click makes of a cell: the next step, or the other state."""
        value = self._rows[row].values[month]
        if not self._rows[row].is_share:
            return 0.0 if value else 1.0
        return next((step for step in _STEPS if step > value + 1e-6), 0.0)

    def _go(self, row: int, month: int) -> None:
        other = month != self._at[1]
        self._at = (row, month)
        self._describe()
        self.update()
        if other:
            self.month_chosen.emit(month)

    def _set(self, value: float) -> None:
        row, month = self._at
        if not self._rows[row].is_share:
            value = 1.0 if value > 0 else 0.0
        self.changed.emit(self._rows[row].key, month, round(value, 3))

    # -- drawing -------------------------------------------------------------------------------
    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        p = current()
        painter.setFont(font(12))
        for month in range(12):
            head = self.cell_rect(0, month)
            head.moveTop(0)
            head.setHeight(_HEAD)
            painter.setPen(p.color("ink" if month == self._at[1] else "muted"))
            painter.drawText(head, Qt.AlignmentFlag.AlignCenter, MONTH_NAMES[month][:3])
        for number, row in enumerate(self._rows):
            self._row(painter, number, row)

    def _row(self, painter: QPainter, number: int, row: PlanRow) -> None:
        p = current()
        name = QRectF(0, _HEAD + number * _ROW, LEFT - 10, _ROW)
        painter.setPen(p.color("ink"))
        flags = Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
        painter.drawText(name, flags, row.name)
        for month, value in enumerate(row.values):
            cell = self.cell_rect(number, month).adjusted(1.5, 1.5, -1.5, -1.5)
            painter.setPen(QPen(p.color("line"), 1))
            painter.setBrush(p.color("night" if self._shade[month] else "sheet"))
            painter.drawRoundedRect(cell, 2, 2)
            if row.is_share:
                self._share(painter, cell, value)
            else:
                self._on_off(painter, cell, on=value > 0)
            if (number, month) == self._at:
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(QPen(p.color("accent"), 2.6 if self.hasFocus() else 1.6))
                painter.drawRoundedRect(cell, 2, 2)

    @staticmethod
    def _share(painter: QPainter, cell: QRectF, value: float) -> None:
        """Draw how far a slider is open: a bar from the left and the figure."""
        p = current()
        bar = cell.adjusted(4, 5, -4, -5)
        if value > 0:
            painter.fillRect(
                QRectF(bar.left(), bar.bottom() - 5, bar.width() * value, 5), p.color("accent")
            )
        painter.setFont(font(11))
        painter.setPen(p.color("ink" if value > 0 else "muted"))
        text = "shut" if value == 0 else f"{100 * value:.0f}"
        painter.drawText(bar.adjusted(0, -4, 0, -5), Qt.AlignmentFlag.AlignCenter, text)
        painter.setFont(font(12))

    @staticmethod
    def _on_off(painter: QPainter, cell: QRectF, *, on: bool) -> None:
        p = current()
        c = cell.center()
        if on:
            painter.setPen(QPen(p.color("accent"), 2.2))
            painter.drawLine(c + QPointF(-5, 0), c + QPointF(-1.5, 4))
            painter.drawLine(c + QPointF(-1.5, 4), c + QPointF(6, -5))
        else:
            painter.setPen(QPen(p.color("muted"), 1.2))
            painter.drawLine(c + QPointF(-4, 0), c + QPointF(4, 0))
