"""Words beside the hive that keep clear of each other, of the hive and of the line below it."""

from __future__ import annotations

import re
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPen

from calveth.app.theme.palette import Palette
from calveth.app.theme.theme import font

_FROM_HIVE = 30.0
_BETWEEN = 4.0
_EDGE = 4.0
# A figure keeps its unit.
_APART = re.compile(r"(?<!\d) ")


@dataclass(frozen=True, slots=True)
class _Words:
    anchor: QPointF
    lines: tuple[str, ...]
    color: str


class Labels:
    """Collects words for the margins beside the hive and writes them so that none meet.

    Each side is a column: words stand as near to what they speak of as those above and below let
    them. Where a column is too short, the later lines of its words are left out, last of all
    words go into the column of the other side.
    """

    def __init__(self, painter: QPainter, area: QRectF, hive: QRectF, p: Palette) -> None:
        self._painter, self._p = painter, p
        # A line of words stands below the hive, see `paint_foot`.
        self._area = area.adjusted(0, 2, 0, -FOOT_PX)
        self._hive = hive
        self._asked: dict[str, list[_Words]] = {"left": [], "right": []}

    def put(self, anchor: QPointF, text: str, side: str, color: str = "ink") -> None:
        """Ask for lines at the ``left`` or ``right`` of the hive, joined to the anchor."""
        self._asked[side].append(_Words(anchor, tuple(text.split("\n")), color))

    def paint(self) -> list[QRectF]:
        """Write all that was asked for; return where the words stand [px]."""
        self._painter.setFont(font(12))
        metrics = QFontMetricsF(self._painter.font())
        self._even_out(metrics.lineSpacing())
        places = []
        for side, asked in self._asked.items():
            fitting = self._fitted(
                self._broken(asked, self._room(side), metrics), metrics.lineSpacing()
            )
            tops = self._tops(fitting, metrics.lineSpacing())
            for words, top in zip(fitting, tops, strict=True):
                places.append(self._write(words, side, top, metrics))
        return places

    def _even_out(self, line: float) -> None:
        """Move words from a column that is too full for single lines to the other."""
        most = max(1, int(self._area.height() // (line + _BETWEEN)))
        for side, other in (("left", "right"), ("right", "left")):
            while len(self._asked[side]) > most and len(self._asked[other]) < most:
                self._asked[other].append(self._asked[side].pop())

    def _room(self, side: str) -> float:
        """Return how wide words at a side may be [px]."""
        if side == "left":
            wide = self._hive.left() - _FROM_HIVE - self._area.left() - _EDGE
        else:
            wide = self._area.right() - _EDGE - self._hive.right() - _FROM_HIVE
        return max(wide, 24.0)

    @staticmethod
    def _broken(asked: list[_Words], room: float, metrics: QFontMetricsF) -> list[_Words]:
        """Return words with the lines broken that are too long: the figure stands at their end."""
        made = []
        for words in asked:
            lines: list[str] = []
            for text in words.lines:
                line = ""
                for word in _APART.split(text):
                    longer = f"{line} {word}".strip()
                    if line and metrics.horizontalAdvance(longer) > room:
                        lines.append(line)
                        longer = word
                    line = longer
                lines.append(line)
            made.append(_Words(words.anchor, tuple(lines), words.color))
        return made

    def _fitted(self, asked: list[_Words], line: float) -> list[_Words]:
        """Return words in the order of their anchors, cut to what the column has room for."""
        order = sorted(asked, key=lambda w: w.anchor.y())

        def height(words: list[_Words]) -> float:
            return sum(len(w.lines) * line + _BETWEEN for w in words) - _BETWEEN

        while height(order) > self._area.height():
            longest = max(order, key=lambda w: len(w.lines))
            if len(longest.lines) == 1:
                break
            at = order.index(longest)
            order[at] = _Words(longest.anchor, longest.lines[:-1], longest.color)
        return order

    def _tops(self, order: list[_Words], line: float) -> list[float]:
        """Return where words begin: each at its anchor, pushed by those above, then by the end."""
        tops: list[float] = []
        free = self._area.top()
        for words in order:
            high = len(words.lines) * line
            top = max(free, words.anchor.y() - high / 2)
            tops.append(top)
            free = top + high + _BETWEEN
        end = self._area.bottom()
        for k in range(len(order) - 1, -1, -1):
            high = len(order[k].lines) * line
            tops[k] = min(tops[k], end - high)
            end = tops[k] - _BETWEEN
        return tops

    def _write(self, words: _Words, side: str, top: float, metrics: QFontMetricsF) -> QRectF:
        painter = self._painter
        if side == "left":
            low, high = self._area.left() + _EDGE, self._hive.left() - _FROM_HIVE
        else:
            low, high = self._hive.right() + _FROM_HIVE, self._area.right() - _EDGE
        room = self._room(side)
        cut = [metrics.elidedText(t, Qt.TextElideMode.ElideRight, room) for t in words.lines]
        width = min(room, max(metrics.horizontalAdvance(t) for t in cut) + 1)
        left = high - width if side == "left" else low
        box = QRectF(left, top, width, metrics.lineSpacing() * len(cut))
        end = QPointF(box.right() + 4 if side == "left" else box.left() - 4, box.center().y())
        painter.setPen(QPen(self._p.color("muted"), 0.8))
        painter.drawLine(words.anchor, end)
        painter.setBrush(self._p.color("muted"))
        painter.drawEllipse(words.anchor, 1.8, 1.8)
        painter.setPen(self._p.color(words.color))
        align = Qt.AlignmentFlag.AlignRight if side == "left" else Qt.AlignmentFlag.AlignLeft
        painter.drawText(box, align | Qt.TextFlag.TextDontClip, "\n".join(cut))
        return box


FOOT_PX = 26.0
"""Height of the line below the hive [px]."""


LIST_PX = 150.0
"""What the list of cuts takes at the left of that line, with the lenses that have one [px]."""


def paint_foot(painter: QPainter, area: QRectF, text: str, p: Palette, left: float = 0.0) -> QRectF:
    """Write a line under the hive, cut where it is too long; return where it stands [px].

    ``left`` is what stands at its left already.
    """
    painter.setPen(p.color("muted"))
    painter.setFont(font(12))
    metrics = QFontMetricsF(painter.font())
    row = QRectF(area.left() + 6 + left, area.bottom() - 22, area.width() - 12 - left, 18)
    cut = metrics.elidedText(text, Qt.TextElideMode.ElideRight, row.width())
    painter.drawText(row, Qt.AlignmentFlag.AlignCenter, cut)
    width = metrics.horizontalAdvance(cut)
    return QRectF(row.center().x() - width / 2, row.top(), width, row.height())
