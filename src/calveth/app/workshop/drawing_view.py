"""Drawings of a plan on the screen: one large, or many under each other; pieces can be clicked."""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil

from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QHelpEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QSizePolicy, QToolTip, QWidget

from calveth.app.cutaway.drawings import Placed, paint_placed, place
from calveth.app.theme.theme import current, font
from calveth.drawing.shapes import Drawing

_TITLE_PX, _GAP_PX, _LEAST_PX, _LEAST_CELL_PX = 22.0, 12.0, 34.0, 132.0


class DrawingView(QWidget):
    """Shows drawings true to their own proportions.

    Signals
    -------
    row_clicked(number)
        A piece of a row of the cut list was clicked.
    """

    row_clicked = Signal(int)

    def __init__(self, name: str) -> None:
        super().__init__()
        self._drawings: Sequence[Drawing] = ()
        self._columns, self._scaled = 1, False
        self._tips: dict[int, str] = {}
        self.placed: list[Placed] = []
        self.setAccessibleName(name)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def show_drawings(
        self, drawings: Sequence[Drawing], *, columns: int = 1, flow: bool = False
    ) -> None:
        """Show drawings in columns; ``flow`` gives each the height its width asks for."""
        self._drawings, self._columns, self._scaled = drawings, columns, flow
        self.setAccessibleDescription(", ".join(d.title for d in drawings))
        self._lay()
        self.update()

    def show_tips(self, tips: dict[int, str]) -> None:
        """Take what is said of each row under the pointer."""
        self._tips = tips

    def _lay(self) -> None:
        """Place the drawings in the room there is; a flow asks for the height it takes."""
        self.placed = []
        if not self._drawings:
            self.setMinimumHeight(0)
            return
        wide = self.width() / self._columns
        if not self._scaled:
            rows = ceil(len(self._drawings) / self._columns)
            self.setMinimumHeight(int(rows * _LEAST_CELL_PX) if rows > 2 else 0)
            high = self.height() / rows
            for k, drawing in enumerate(self._drawings):
                cell = QRectF(k % self._columns * wide, k // self._columns * high, wide, high)
                area = cell.adjusted(_GAP_PX, _TITLE_PX + 4, -_GAP_PX, -_GAP_PX)
                self.placed.append(place(drawing, area))
            return
        y = 0.0
        for drawing in self._drawings:
            y0, y1, z0, z1 = drawing.frame
            room = self.width() - 2 * _GAP_PX
            high = max(room * (z1 - z0) / (y1 - y0), _LEAST_PX)
            high = min(high, max(_LEAST_PX, 0.62 * room))
            area = QRectF(_GAP_PX, y + _TITLE_PX, room, high)
            self.placed.append(place(drawing, area))
            y += _TITLE_PX + high + _GAP_PX
        self.setMinimumHeight(int(y))

    def sizeHint(self) -> QSize:
        return QSize(560, 420)

    def minimumSizeHint(self) -> QSize:
        return QSize(280, 200)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._lay()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        palette = current()
        shown = QRectF(event.rect())
        for placed in self.placed:
            frame = placed.area.adjusted(-_GAP_PX, -_TITLE_PX - 4, _GAP_PX, _GAP_PX)
            if not frame.intersects(shown):
                continue
            painter.setPen(palette.color("muted"))
            painter.setFont(font(12))
            at = QRectF(
                placed.area.left(),
                placed.area.top() - _TITLE_PX,
                placed.area.width(),
                _TITLE_PX - 4,
            )
            painter.drawText(at, Qt.AlignmentFlag.AlignVCenter, placed.drawing.title)
            paint_placed(painter, placed, palette, self.devicePixelRatioF())

    def row_at(self, point: QPointF) -> int:
        """Return the row of the cut list under a pixel, 0 for none."""
        for placed in self.placed:
            if placed.area.adjusted(-_GAP_PX, 0, _GAP_PX, _GAP_PX).contains(point):
                return placed.row_at(point)
        return 0

    def mousePressEvent(self, event: QMouseEvent) -> None:
        row = self.row_at(event.position())
        if row:
            self.row_clicked.emit(row)
        else:
            super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        over = self.row_at(event.position()) > 0
        self.setCursor(Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.ArrowCursor)

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ToolTip and isinstance(event, QHelpEvent):
            row = self.row_at(QPointF(event.pos()))
            QToolTip.showText(event.globalPos(), self._tips.get(row, ""), self)
            return True
        return super().event(event)
