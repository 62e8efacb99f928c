"""Words beside the hive that keep clear of each other."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPen

from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import font

_LABEL_GAP = 30.0


class Labels:
    """Places words in the margins beside the hive and keeps them from lying on each other."""

    def __init__(self, painter: QPainter, area: QRectF, hive: QRectF, p: Palette) -> None:
        self._painter = painter
        self._area = area
        self._hive = hive
        self._p = p
        self._taken: list[QRectF] = []

    def put(self, anchor: QPointF, text: str, side: str, color: str = "ink") -> None:
        """Write lines at the ``left`` or ``right`` of the hive, joined to the anchor."""
        painter = self._painter
        painter.setFont(font(12))
        metrics = QFontMetricsF(painter.font())
        lines = text.split("\n")
        width = max(metrics.horizontalAdvance(line) for line in lines)
        height = metrics.lineSpacing() * len(lines)
        if side == "left":
            left = max(self._area.left() + 4, self._hive.left() - width - _LABEL_GAP)
        else:
            left = min(self._area.right() - width - 4, self._hive.right() + _LABEL_GAP)
        box = QRectF(left, anchor.y() - height / 2, width, height)
        box.moveTop(max(self._area.top() + 2, min(box.top(), self._area.bottom() - height - 2)))
        for _ in range(40):
            clash = next((t for t in self._taken if t.adjusted(-4, -3, 4, 3).intersects(box)), None)
            if clash is None:
                break
            down = clash.bottom() + 4
            box.moveTop(down if down + height < self._area.bottom() else clash.top() - height - 4)
        self._taken.append(box)
        end = QPointF(box.right() + 4 if side == "left" else box.left() - 4, box.center().y())
        painter.setPen(QPen(self._p.color("muted"), 0.8))
        painter.drawLine(anchor, end)
        painter.setBrush(self._p.color("muted"))
        painter.drawEllipse(anchor, 1.8, 1.8)
        painter.setPen(self._p.color(color))
        align = Qt.AlignmentFlag.AlignRight if side == "left" else Qt.AlignmentFlag.AlignLeft
        painter.drawText(box, align, text)


def paint_foot(painter: QPainter, area: QRectF, text: str, p: Palette) -> None:
    """Write a line under the hive."""
    painter.setPen(p.color("muted"))
    painter.setFont(font(12))
    row = QRectF(area.left(), area.bottom() - 22, area.width(), 18)
    painter.drawText(row, Qt.AlignmentFlag.AlignCenter, text)
