"""A painted grid of figures: rows are measures, columns are hives; every cell can be asked."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from calveth.app.ribbon.verdict import paint_verdict
from calveth.app.theme.theme import current, font
from calveth.app.widgets.copying import can_be_copied
from calveth.app.widgets.labels import plain_tip

LEFT = 154.0
_LINE = 16.0


_MARK_WORDS = {
    "best": "best of all",
    "joint best": "not told apart from the best",
    "worst": "worst of all",
    "danger": "danger to the life of the bees",
}


@dataclass(frozen=True, slots=True)
class Cell:
    """A figure and its mark: ``best``, ``joint best``, ``worst``, or one of `paint_verdict`."""

    text: str
    mark: str = ""

    @property
    def lines(self) -> list[str]:
        """The text by lines."""
        return self.text.split("\n")


@dataclass(frozen=True, slots=True)
class GridRow:
    """A measure: its name, what it means, and its cells in the order of the columns."""

    name: str
    hint: str
    cells: tuple[Cell, ...]

    @property
    def height(self) -> float:
        """Pixels it takes."""
        return _LINE * max([len(self.name.split("\n")), *(len(c.lines) for c in self.cells)]) + 5


class FigureGrid(QWidget):
    """Arrow keys move, Return or a click asks for the working of a figure.

    Signals
    -------
    asked(row, column)
        A cell was clicked or Return was pressed on it.
    moved(row, column)
        Another cell is looked at.
    """

    asked = Signal(int, int)
    moved = Signal(int, int)

    def __init__(self, name: str) -> None:
        super().__init__()
        self._heads: tuple[str, ...] = ()
        self._rows: tuple[GridRow, ...] = ()
        self._at = (0, 0)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(name)
        can_be_copied(self, self.rows_of_text)

    def rows_of_text(self) -> list[list[str]]:
        """Return all of it as it is read: the heads, then a row a measure with its marks."""
        heads = ["", *(head.replace("\n", ", ") for head in self._heads)]
        rows = [
            [
                row.name,
                *(f"{c.text} ({c.mark})" if c.mark in _MARK_WORDS else c.text for c in row.cells),
            ]
            for row in self._rows
        ]
        return [heads, *rows]

    @property
    def cell(self) -> tuple[int, int]:
        """Row and column that are looked at."""
        return self._at

    def sizeHint(self) -> QSize:
        return QSize(900, int(self._head_height() + sum(r.height for r in self._rows) + 4))

    def texts(self) -> Mapping[tuple[str, int], str]:
        """Return every cell's text by row name and column."""
        return {(row.name, k): cell.text for row in self._rows for k, cell in enumerate(row.cells)}

    def marks(self) -> Mapping[tuple[str, int], str]:
        """Return every cell's mark by row name and column."""
        return {(row.name, k): cell.mark for row in self._rows for k, cell in enumerate(row.cells)}

    def show_rows(self, heads: Sequence[str], rows: Sequence[GridRow]) -> None:
        """Show other figures."""
        self._heads, self._rows = tuple(heads), tuple(rows)
        self._at = (
            min(self._at[0], max(0, len(self._rows) - 1)),
            min(self._at[1], max(0, len(self._heads) - 1)),
        )
        if self.height() != self.sizeHint().height():
            self.setFixedHeight(self.sizeHint().height())
        self._describe()
        self.update()

    def cell_rect(self, row: int, column: int) -> QRectF:
        """Return the pixels of a cell."""
        top = self._head_height() + sum(r.height for r in self._rows[:row])
        width = self._column_width()
        return QRectF(LEFT + column * width, top, width, self._rows[row].height)

    def _column_width(self) -> float:
        return (self.width() - LEFT) / max(1, len(self._heads))

    def _head_height(self) -> float:
        if not self._heads:
            return 0.0
        return 37.0 if len(self._heads) <= 6 else 54.0

    def _tip(self, row: int, column: int) -> str:
        """Return what a cell says in full: whose, what, how marked, and what it means."""
        at, cell = self._rows[row], self._rows[row].cells[column]
        words = _MARK_WORDS.get(cell.mark, cell.mark)
        head = self._heads[column].replace("\n", ", ")
        what = f"{at.name}: {cell.text}".replace("\n", ", ") + (f" ({words})" if words else "")
        return plain_tip("\n".join([head, what, at.hint]))

    def _describe(self) -> None:
        if not self._rows or not self._heads:
            self.setAccessibleDescription("nothing to compare yet")
            return
        row, column = self._rows[self._at[0]], self._at[1]
        cell = row.cells[column]
        name = row.name.replace("\n", " ")
        self.setAccessibleDescription(
            f"{self._heads[column].replace(chr(10), ' ')}, {name}: "
            f"{cell.text.replace(chr(10), ', ')} {cell.mark}".strip()
        )

    # -- input ---------------------------------------------------------------------------------
    def _hit(self, position: QPointF) -> tuple[int, int] | None:
        if position.x() < self._scrolled() + LEFT:
            return None
        for row in range(len(self._rows)):
            for column in range(len(self._heads)):
                if self.cell_rect(row, column).contains(position):
                    return row, column
        return None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        hit = self._hit(event.position())
        if hit is not None:
            self._go(*hit)
            if event.button() == Qt.MouseButton.LeftButton:
                self.asked.emit(*hit)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        hit = self._hit(event.position())
        cursor = Qt.CursorShape.PointingHandCursor if hit else Qt.CursorShape.ArrowCursor
        self.setCursor(cursor)
        if hit is not None:
            QToolTip.showText(event.globalPosition().toPoint(), self._tip(*hit), self)
        if event.position().x() < self._scrolled() + LEFT:
            for k, row in enumerate(self._rows):
                top = self.cell_rect(k, 0)
                if top.top() <= event.position().y() < top.bottom():
                    QToolTip.showText(event.globalPosition().toPoint(), row.hint, self)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if not self._rows or not self._heads:
            super().keyPressEvent(event)
            return
        row, column = self._at
        moves = {
            Qt.Key.Key_Left: (row, column - 1),
            Qt.Key.Key_Right: (row, column + 1),
            Qt.Key.Key_Up: (row - 1, column),
            Qt.Key.Key_Down: (row + 1, column),
        }
        key = Qt.Key(event.key())
        if key in moves:
            r, k = moves[key]
            self._go(min(max(r, 0), len(self._rows) - 1), min(max(k, 0), len(self._heads) - 1))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.asked.emit(row, column)
        else:
            super().keyPressEvent(event)

    def _go(self, row: int, column: int) -> None:
        if (row, column) != self._at:
            self._at = (row, column)
            self._describe()
            self.update()
            self.moved.emit(row, column)

    # -- drawing -------------------------------------------------------------------------------
    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        p = current()
        width = self._column_width()
        painter.setFont(font(13, bold=True))
        painter.setPen(p.color("ink"))
        flags = Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap
        for k, head in enumerate(self._heads):
            painter.drawText(QRectF(LEFT + k * width, 0, width - 6, 54), flags, head)
        for number in range(len(self._rows)):
            self._row(painter, number)
        self._names(painter)
        if self.hasFocus() and self._rows and self._heads:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(p.color("accent"), 1.6))
            painter.drawRoundedRect(self.cell_rect(*self._at).adjusted(-4, 1, -6, -1), 3, 3)

    def _row(self, painter: QPainter, number: int) -> None:
        row, p = self._rows[number], current()
        top = self.cell_rect(number, 0).top()
        painter.setPen(QPen(p.color("line"), 0.6))
        painter.drawLine(QPointF(0, top), QPointF(self.width(), top))
        for column, cell in enumerate(row.cells):
            self._cell(painter, self.cell_rect(number, column), cell)

    def _names(self, painter: QPainter) -> None:
        """Write the names of the rows at the left edge of what is in sight."""
        p, left = current(), self._scrolled()
        if left:
            painter.fillRect(QRectF(left, 0, LEFT - 6, self.height()), p.color("ground"))
        for number, row in enumerate(self._rows):
            top = self.cell_rect(number, 0).top()
            painter.setPen(QPen(p.color("line"), 0.6))
            painter.drawLine(QPointF(left, top), QPointF(left + LEFT, top))
            painter.setFont(font(13))
            painter.setPen(p.color("muted"))
            self._lines(painter, row.name.split("\n"), left, top + 2, LEFT - 8)

    def _scrolled(self) -> float:
        """Return how far the grid is scrolled to the side [px]."""
        return float(max(0, self.visibleRegion().boundingRect().left()))

    def _cell(self, painter: QPainter, rect: QRectF, cell: Cell) -> None:
        p = current()
        left = rect.left()
        if cell.mark in ("dry", "wet ring", "wet", "no", "danger"):
            paint_verdict(painter, QPointF(left + 8, rect.top() + 10), cell.mark, p, 6.0)
            left += 22
        bold = cell.mark in ("best", "joint best")
        painter.setFont(font(13, bold=bold))
        painter.setPen(p.color("ink"))
        lines = cell.lines
        room = rect.right() - left - 4
        self._lines(painter, lines[:1], left, rect.top() + 2, room)
        painter.setFont(font(13))
        self._lines(painter, lines[1:], left, rect.top() + 2 + _LINE, room)
        painter.setFont(font(13, bold=bold))
        if cell.mark in ("best", "joint best", "worst"):
            metrics = QFontMetricsF(painter.font())
            x = left + metrics.horizontalAdvance(lines[0]) + 5
            sign = f"· {cell.mark}"
            if x + QFontMetricsF(font(11, bold=bold)).horizontalAdvance(sign) < rect.right():
                painter.setFont(font(11, bold=bold))
                painter.setPen(p.color("accent" if bold else "muted"))
                painter.drawText(QPointF(x, rect.top() + 14), sign)
            else:
                self._small_sign(painter, QPointF(rect.right() - 12, rect.top() + 10), best=bold)

    @staticmethod
    def _small_sign(painter: QPainter, c: QPointF, *, best: bool) -> None:
        """Where the word does not fit: an arrow up for best, down for worst."""
        p = current()
        painter.setPen(QPen(p.color("accent" if best else "muted"), 1.6))
        d = -1.0 if best else 1.0
        painter.drawLine(c + QPointF(0, -4 * d), c + QPointF(0, 4 * d))
        painter.drawLine(c + QPointF(-3, 1 * d), c + QPointF(0, 4 * d))
        painter.drawLine(c + QPointF(3, 1 * d), c + QPointF(0, 4 * d))

    @staticmethod
    def _lines(painter: QPainter, lines: Sequence[str], x: float, y: float, width: float) -> None:
        for k, line in enumerate(lines):
            box = QRectF(x, y + k * _LINE, width, _LINE + 2)
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, line)
