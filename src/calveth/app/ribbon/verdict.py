"""Marks of the ribbon, told apart by shape, not by colour alone."""

from __future__ import annotations

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from calveth.app.theme.palette import Palette


def paint_verdict(painter: QPainter, c: QPointF, verdict: str, p: Palette, r: float = 6.0) -> None:
    """Draw the mark of a crown verdict, a cross for ``no``, a triangle for ``danger`` to life."""
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if verdict == "dry":
        painter.setPen(QPen(p.color("ink"), 1.4))
        painter.drawLine(c + QPointF(-0.7 * r, 0), c + QPointF(-0.15 * r, 0.6 * r))
        painter.drawLine(c + QPointF(-0.15 * r, 0.6 * r), c + QPointF(0.8 * r, -0.6 * r))
    elif verdict == "danger":
        painter.setPen(QPen(p.color("heat"), 1.6))
        painter.drawPolygon(
            QPolygonF(
                [c + QPointF(0, -0.95 * r), c + QPointF(-r, 0.8 * r), c + QPointF(r, 0.8 * r)]
            )
        )
        painter.drawLine(c + QPointF(0, -0.3 * r), c + QPointF(0, 0.2 * r))
        painter.drawPoint(c + QPointF(0, 0.5 * r))
    elif verdict == "no":
        painter.setPen(QPen(p.color("heat"), 1.8))
        painter.drawLine(c + QPointF(-0.6 * r, -0.6 * r), c + QPointF(0.6 * r, 0.6 * r))
        painter.drawLine(c + QPointF(-0.6 * r, 0.6 * r), c + QPointF(0.6 * r, -0.6 * r))
    elif verdict == "wet ring":
        painter.setPen(QPen(p.color("water"), 2.4))
        painter.drawEllipse(c, 0.8 * r, 0.8 * r)
    else:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(p.color("water"))
        painter.drawEllipse(c + QPointF(0, 0.15 * r), 0.8 * r, 0.8 * r)
        painter.drawPolygon(
            QPolygonF(
                [
                    c + QPointF(0, -1.25 * r),
                    c + QPointF(-0.62 * r, -0.3 * r),
                    c + QPointF(0.62 * r, -0.3 * r),
                ]
            )
        )


def paint_flakes(painter: QPainter, middle: QPointF, count: int) -> None:
    """Draw a row of snow flakes round a point with the pen there is."""
    for n in range(count):
        c = QPointF(middle.x() + 11 * (n - (count - 1) / 2), middle.y())
        for dx, dy in ((3.5, 0), (1.75, 3), (-1.75, 3)):
            painter.drawLine(c - QPointF(dx, dy), c + QPointF(dx, dy))
