"""A map of cells that are marked dry, damp, wet, snowed_in or mouldy, by mouse or by keys."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import current, font
from calveth.core.records.diary import MARKS, NOT_LOOKED, Mark
from calveth.texts.diary import MARK_TEXT

_KEYS: dict[Qt.Key, Mark] = {
    Qt.Key.Key_D: "dry",
    Qt.Key.Key_A: "damp",
    Qt.Key.Key_W: "wet",
    Qt.Key.Key_I: "ice",
    Qt.Key.Key_M: "mould",
    Qt.Key.Key_P: "propolis",
    Qt.Key.Key_N: "not looked",
    Qt.Key.Key_Delete: "not looked",
}
_HEAD, _SIDE = 18.0, 52.0


class MarkGrid(QWidget):
    """Cells in rows and columns with their names; read-only it shows what was expected.

    Signals
    -------
    changed(marks)
        A cell was marked; all marks, row by row.
    """

    changed = Signal(object)

    def __init__(
        self, name: str, columns: Sequence[str], rows: Sequence[str], *, fixed: bool = False
    ) -> None:
        super().__init__()
        self._columns, self._rows, self._fixed = tuple(columns), tuple(rows), fixed
        self._marks: tuple[Mark, ...] = (NOT_LOOKED,) * (len(columns) * len(rows))
        self._at = 0
        self.brush: Mark = "wet"
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        self.setFixedSize(self.sizeHint())
        if not fixed:
            self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
            self.setToolTip(
                "Click or drag to paint; or arrows and D dry, A damp, W wet, I ice, M mould, "
                "N not looked at"
            )
        self.setAccessibleName(name)
        self._describe()

    def sizeHint(self) -> QSize:
        return QSize(int(_SIDE + 52 * len(self._columns)), int(_HEAD + 34 * len(self._rows) + 2))

    @property
    def marks(self) -> tuple[Mark, ...]:
        """The marks, row by row."""
        return self._marks

    def show_marks(self, marks: Sequence[Mark]) -> None:
        """Show other marks without telling anybody."""
        self._marks = tuple(marks)
        self._describe()
        self.update()

    def _describe(self) -> None:
        row, column = divmod(self._at, len(self._columns))
        place = f"{self._rows[row]} {self._columns[column]}".strip()
        self.setAccessibleDescription(f"{place}: {MARK_TEXT[self._marks[self._at]]}")

    def _put(self, cell: int, mark: Mark) -> None:
        self._at = cell
        if self._marks[cell] != mark:
            marks = list(self._marks)
            marks[cell] = mark
            self._marks = tuple(marks)
            self.changed.emit(self._marks)
        self._describe()
        self.update()

    # -- input -----------------------------------------------------------------------------------
    def cell_at(self, point: QPointF) -> int | None:
        """Return the cell under a point."""
        for cell in range(len(self._marks)):
            if self.box(cell).contains(point):
                return cell
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._paint_at(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._paint_at(event)

    def _paint_at(self, event: QMouseEvent) -> None:
        cell = self.cell_at(event.position())
        if not self._fixed and cell is not None and event.buttons() & Qt.MouseButton.LeftButton:
            self._put(cell, self.brush)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, wide = Qt.Key(event.key()), len(self._columns)
        steps = {
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Up: -wide,
            Qt.Key.Key_Down: wide,
        }
        if key in steps:
            self._at = min(max(self._at + steps[key], 0), len(self._marks) - 1)
            self._describe()
            self.update()
        elif key in _KEYS:
            self._put(self._at, _KEYS[key])
        elif key == Qt.Key.Key_Space:
            self._put(self._at, MARKS[(MARKS.index(self._marks[self._at]) + 1) % len(MARKS)])
        else:
            super().keyPressEvent(event)

    # -- drawing ---------------------------------------------------------------------------------
    def box(self, cell: int) -> QRectF:
        """Return the pixels of a cell."""
        row, column = divmod(cell, len(self._columns))
        return QRectF(_SIDE + 52 * column, _HEAD + 34 * row, 50, 32)

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        p = current()
        painter.setFont(font(11))
        painter.setPen(p.color("muted"))
        for k, name in enumerate(self._columns):
            painter.drawText(QRectF(_SIDE + 52 * k, 0, 50, 16), Qt.AlignmentFlag.AlignCenter, name)
        for k, name in enumerate(self._rows):
            box = QRectF(0, _HEAD + 34 * k, _SIDE - 6, 32)
            align = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
            painter.drawText(box, align, name)
        for cell, mark in enumerate(self._marks):
            box = self.box(cell)
            painter.setPen(QPen(p.color("line"), 1))
            painter.setBrush(p.color("sheet"))
            painter.drawRoundedRect(box, 3, 3)
            paint_mark(painter, box, mark, p)
            if self.hasFocus() and cell == self._at:
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(QPen(p.color("accent"), 2))
                painter.drawRoundedRect(box.adjusted(1, 1, -1, -1), 3, 3)


def paint_mark(painter: QPainter, box: QRectF, mark: Mark, p: Palette) -> None:
    """Draw a mark into a box: told apart by shape, not by colour alone."""
    c = box.center()
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if mark == "dry":
        painter.setPen(QPen(p.color("ink"), 1.6))
        painter.drawLine(c + QPointF(-6, 0), c + QPointF(-1.5, 5))
        painter.drawLine(c + QPointF(-1.5, 5), c + QPointF(7, -6))
    elif mark in ("damp", "wet"):
        painter.setPen(Qt.PenStyle.NoPen)
        full = mark == "wet"
        painter.setBrush(p.color("water", 255 if full else 90))
        if full:
            painter.drawRoundedRect(box.adjusted(2, 2, -2, -2), 3, 3)
            painter.setBrush(p.color("sheet"))
        for dx, dy in ((-13, -4), (0, 5), (13, -4)) if full else ((-10, 0), (0, 0), (10, 0)):
            painter.drawEllipse(c + QPointF(dx, dy), 2.6, 3.4)
    elif mark == "ice":
        painter.setPen(QPen(p.color("water"), 1.8))
        for dx, dy in ((8, 0), (4, 7), (-4, 7)):
            painter.drawLine(c - QPointF(dx, dy), c + QPointF(dx, dy))
    elif mark == "mould":
        painter.setPen(QPen(p.color("muted"), 1.4))
        for k in range(-2, 3):
            painter.drawLine(c + QPointF(8 * k - 5, 8), c + QPointF(8 * k + 5, -8))
    elif mark == "propolis":
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(p.color("honey"))
        painter.drawRect(QRectF(c.x() - 11, c.y() - 4, 22, 8))
