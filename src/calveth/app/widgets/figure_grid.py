"""A table of figures: rows are measures, columns are hives; every cell can be asked and copied."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from PySide6.QtCore import (
    QAbstractTableModel,
    QItemSelectionModel,
    QModelIndex,
    QPersistentModelIndex,
    QPointF,
    QRect,
    QRectF,
    QSize,
    Qt,
    Signal,
)
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QPainter, QPen, QResizeEvent
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QFrame,
    QHeaderView,
    QSizePolicy,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableView,
)

from calveth.app.ribbon.verdict import paint_verdict
from calveth.app.theme.theme import current, font
from calveth.app.widgets.copying import can_be_copied
from calveth.app.widgets.labels import plain_tip

_Index = QModelIndex | QPersistentModelIndex
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


class _Figures(QAbstractTableModel):
    """Cells of hives and measures, and what each says in full."""

    def __init__(self) -> None:
        super().__init__()
        self.heads: tuple[str, ...] = ()
        self.rows: tuple[GridRow, ...] = ()

    def show_rows(self, heads: tuple[str, ...], rows: tuple[GridRow, ...]) -> None:
        """Take other figures; what is selected stays where the table has the same size."""
        # A reset would lose what is selected and where the keyboard stands at every new figure.
        same = len(heads) == len(self.heads) and len(rows) == len(self.rows)
        if same:
            self.heads, self.rows = heads, rows
            if rows and heads:
                self.dataChanged.emit(self.index(0, 0), self.index(len(rows) - 1, len(heads) - 1))
                self.headerDataChanged.emit(Qt.Orientation.Horizontal, 0, len(heads) - 1)
                self.headerDataChanged.emit(Qt.Orientation.Vertical, 0, len(rows) - 1)
            return
        self.beginResetModel()
        self.heads, self.rows = heads, rows
        self.endResetModel()

    def rowCount(self, parent: _Index = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: _Index = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.heads)

    def data(self, index: _Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == Qt.ItemDataRole.DisplayRole:
            return self.rows[index.row()].cells[index.column()].text
        if role == Qt.ItemDataRole.ToolTipRole:
            return plain_tip("\n".join(self.words(index.row(), index.column())))
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return ", ".join(self.words(index.row(), index.column())[:2])
        return None

    def headerData(
        self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole
    ) -> Any:
        if orientation == Qt.Orientation.Horizontal:
            return self.heads[section] if role == Qt.ItemDataRole.DisplayRole else None
        if role == Qt.ItemDataRole.ToolTipRole:
            return plain_tip(self.rows[section].hint)
        return self.rows[section].name if role == Qt.ItemDataRole.DisplayRole else None

    def words(self, row: int, column: int) -> list[str]:
        """Return what a cell says in full: whose, what and how marked, and what it means."""
        at, cell = self.rows[row], self.rows[row].cells[column]
        words = _MARK_WORDS.get(cell.mark, cell.mark)
        what = f"{at.name}: {cell.text}".replace("\n", ", ") + (f" ({words})" if words else "")
        return [self.heads[column].replace("\n", ", "), what, at.hint]


class _Names(QHeaderView):
    """Names of measures at the side or of hives above, as text on the ground of the page."""

    def paintSection(self, painter: QPainter, rect: QRect, section: int) -> None:
        model, p = self.model(), current()
        text = str(model.headerData(section, self.orientation()) or "")
        painter.save()
        if self.orientation() == Qt.Orientation.Horizontal:
            painter.setFont(font(13, bold=True))
            painter.setPen(p.color("ink"))
            flags = Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap
            painter.drawText(QRectF(rect).adjusted(0, 0, -6, 0), flags, text)
        else:
            painter.fillRect(rect.adjusted(0, 0, -6, 0), p.color("ground"))
            painter.setPen(QPen(p.color("line"), 0.6))
            painter.drawLine(rect.topLeft(), rect.topRight())
            painter.setFont(font(13))
            painter.setPen(p.color("muted"))
            _lines(painter, text.split("\n"), rect.left(), rect.top() + 2, LEFT - 8)
        painter.restore()


class FigureGrid(QTableView):
    """Arrow keys move, Return or a click asks for the working of a figure.

    It is as high as its rows; where it is wider than the page round it, the names of the rows stay
    in sight while the page is moved to the side.

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
        self._figures = _Figures()
        self._side = _Names(Qt.Orientation.Vertical, self)
        self._above = _Names(Qt.Orientation.Horizontal, self)
        self.setVerticalHeader(self._side)
        self.setHorizontalHeader(self._above)
        self.setModel(self._figures)
        self.setItemDelegate(_CellPainter(self))
        self.setSelectionMode(QAbstractItemView.SelectionMode.ContiguousSelection)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setShowGrid(False)
        self.setTabKeyNavigation(False)
        self.setObjectName("figures")
        for bar in (self.setHorizontalScrollBarPolicy, self.setVerticalScrollBarPolicy):
            bar(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._side.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        self._side.setMinimumSectionSize(8)
        self._side.setFixedWidth(int(LEFT))
        self._above.setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self._above.setMinimumSectionSize(8)
        self.viewport().setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(name)
        self.clicked.connect(lambda index: self.asked.emit(index.row(), index.column()))
        # Qt makes the button in the corner without a name for who hears the window.
        corner = self.findChild(QAbstractButton)
        assert corner is not None
        corner.setAccessibleName("choose all figures")
        can_be_copied(self, self.rows_of_text)

    def rows_of_text(self) -> list[list[str]]:
        """Return what is selected as it is read, with its heads and marks; of one cell, all."""
        chosen = {(i.row(), i.column()) for i in self.selectedIndexes()}
        some = len(chosen) > 1
        heads = self._figures.heads
        columns = [k for k in range(len(heads)) if not some or any(c == k for _, c in chosen)]
        table = [["", *(heads[k].replace("\n", ", ") for k in columns)]]
        for number, row in enumerate(self._figures.rows):
            if some and all(r != number for r, _ in chosen):
                continue
            cells = [row.cells[k] for k in columns]
            table.append(
                [
                    row.name,
                    *(f"{c.text} ({c.mark})" if c.mark in _MARK_WORDS else c.text for c in cells),
                ]
            )
        return table

    @property
    def cell(self) -> tuple[int, int]:
        """Row and column that are looked at."""
        index = self.currentIndex()
        return (index.row(), index.column()) if index.isValid() else (0, 0)

    def sizeHint(self) -> QSize:
        rows = sum(r.height for r in self._figures.rows)
        return QSize(900, int(self._head_height() + rows + 4))

    def texts(self) -> Mapping[tuple[str, int], str]:
        """Return every cell's text by row name and column."""
        rows = self._figures.rows
        return {(row.name, k): cell.text for row in rows for k, cell in enumerate(row.cells)}

    def marks(self) -> Mapping[tuple[str, int], str]:
        """Return every cell's mark by row name and column."""
        rows = self._figures.rows
        return {(row.name, k): cell.mark for row in rows for k, cell in enumerate(row.cells)}

    def show_rows(self, heads: Sequence[str], rows: Sequence[GridRow]) -> None:
        """Show other figures."""
        row, column = self.cell
        self._figures.show_rows(tuple(heads), tuple(rows))
        self._above.setFixedHeight(int(self._head_height()))
        for number, shown in enumerate(rows):
            if self._side.sectionSize(number) != int(shown.height):
                self._side.resizeSection(number, int(shown.height))
        if rows and heads and not self.currentIndex().isValid():
            at = self._figures.index(min(row, len(rows) - 1), min(column, len(heads) - 1))
            self.selectionModel().setCurrentIndex(at, QItemSelectionModel.SelectionFlag.NoUpdate)
        # To set the same height again would lay out the page once more for nothing.
        if self.height() != self.sizeHint().height():
            self.setFixedHeight(self.sizeHint().height())
        self.viewport().update()

    def cell_rect(self, row: int, column: int) -> QRectF:
        """Return the pixels of a cell on the viewport."""
        return QRectF(self.visualRect(self._figures.index(row, column)))

    def keep_names_in_sight(self, *_: object) -> None:
        """Put the names of the rows at the left edge of what is in sight of the page."""
        left = max(0, self.visibleRegion().boundingRect().left())
        self._side.move(left, self._side.y())
        self._side.raise_()

    def _head_height(self) -> float:
        if not self._figures.heads:
            return 0.0
        return 37.0 if len(self._figures.heads) <= 6 else 54.0

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.keep_names_in_sight()

    def currentChanged(self, current: _Index, previous: _Index) -> None:
        super().currentChanged(current, previous)
        if current.isValid() and previous.isValid():
            self.moved.emit(current.row(), current.column())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        asks = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space)
        if event.key() in asks and self.currentIndex().isValid():
            self.asked.emit(*self.cell)
            return
        super().keyPressEvent(event)


class _CellPainter(QStyledItemDelegate):
    """Paints a figure with its mark: a sign of the verdict before it, best or worst after it."""

    def __init__(self, grid: FigureGrid) -> None:
        super().__init__(grid)
        self._grid = grid

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: _Index) -> None:
        model, p = index.model(), current()
        assert isinstance(model, _Figures)
        rect, state = QRectF(option.rect), option.state
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if len(self._grid.selectedIndexes()) > 1 and state & QStyle.StateFlag.State_Selected:
            painter.fillRect(rect, p.color("chosen"))
        painter.setPen(QPen(p.color("line"), 0.6))
        painter.drawLine(rect.topLeft(), rect.topRight())
        self._cell(painter, rect, model.rows[index.row()].cells[index.column()])
        if self._grid.hasFocus() and state & QStyle.StateFlag.State_HasFocus:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(p.color("accent"), 1.6))
            painter.drawRoundedRect(rect.adjusted(1, 1, -6, -1), 3, 3)
        painter.restore()

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
        _lines(painter, lines[:1], left, rect.top() + 2, room)
        painter.setFont(font(13))
        _lines(painter, lines[1:], left, rect.top() + 2 + _LINE, room)
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


def _lines(painter: QPainter, lines: Sequence[str], x: float, y: float, width: float) -> None:
    for k, line in enumerate(lines):
        box = QRectF(x, y + k * _LINE, width, _LINE + 2)
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, line)
