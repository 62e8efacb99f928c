"""Labels, rules and small buttons in Calveth's roles."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from html import escape

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QFrame,
    QLabel,
    QLayout,
    QListWidgetItem,
    QSizePolicy,
    QStackedWidget,
    QTableWidgetItem,
    QToolButton,
    QWidget,
)


def label(text: str = "", role: str = "", *, wrap: bool = False) -> QLabel:
    """Return a label; ``role`` is a role of the style sheet."""
    result = QLabel(text)
    result.setTextFormat(Qt.TextFormat.PlainText)
    if role:
        result.setProperty("role", role)
    result.setWordWrap(wrap)
    return result


def html_label(name: str) -> QLabel:
    """Return a label for tables of our own making; what comes from a file in it is escaped."""
    result = QLabel()
    result.setTextFormat(Qt.TextFormat.RichText)
    result.setWordWrap(True)
    result.setAccessibleName(name)
    result.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
    return result


_NUMBERED = re.compile(r"(.*\D)( \d{1,3})")


class ElidedLabel(QLabel):
    """A line that is cut where it does not fit and never asks for more room; hover shows all."""

    def __init__(self, role: str = "") -> None:
        super().__init__()
        self._whole = ""
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        if role:
            self.setProperty("role", role)

    def setText(self, text: str) -> None:
        self._whole = text
        self._cut()

    def text(self) -> str:
        """Return the whole line."""
        return self._whole

    def _cut(self) -> None:
        room = self.contentsRect().width()
        metrics, right = self.fontMetrics(), Qt.TextElideMode.ElideRight
        # The number of a copy stays: two that differ in it alone are not to look the same.
        match = _NUMBERED.fullmatch(self._whole)
        end = match[2] if match else ""
        stem = self._whole.removesuffix(end)
        cut = metrics.elidedText(stem, right, room - metrics.horizontalAdvance(end)) + end
        if len(cut) <= len(end) + 1:
            cut = metrics.elidedText(self._whole, right, room)
        super().setText(cut)
        self.setToolTip(plain_tip(self._whole) if cut != self._whole else "")

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._cut()

    def minimumSizeHint(self) -> QSize:
        return QSize(24, super().minimumSizeHint().height())

    def sizeHint(self) -> QSize:
        wide = self.fontMetrics().horizontalAdvance(self._whole) + 2
        return QSize(wide, super().sizeHint().height())


def plain_tip(text: str) -> str:
    """Return a tool tip that Qt shows as it stands: text out of a file is never read as HTML."""
    if "<" not in text:
        return text
    return f"<p style='white-space:pre-wrap'>{escape(text)}</p>"


def set_tip(part: QWidget | QListWidgetItem | QTableWidgetItem, text: str) -> None:
    """Give a part a tool tip that is shown as it stands; the one way for text that is not ours."""
    part.setToolTip(plain_tip(text))


def rule() -> QFrame:
    """Return a thin level line."""
    line = QFrame()
    line.setProperty("role", "rule")
    return line


def small_button(text: str, name: str, act: Callable[[], object]) -> QToolButton:
    """Return a small button with an accessible name and tool tip."""
    button = QToolButton()
    button.setText(text)
    button.setProperty("role", "small")
    button.setAccessibleName(name)
    set_tip(button, name)
    button.clicked.connect(lambda *_: act())
    return button


def clear(layout: QLayout) -> None:
    """Remove and delete everything in a layout."""
    while layout.count():
        item = layout.takeAt(0)
        widget: QWidget | None = item.widget() if item is not None else None
        if widget is not None:
            widget.hide()
            widget.deleteLater()
        inner = item.layout() if item is not None else None
        if inner is not None:
            clear(inner)


def fit_stack(stack: QStackedWidget, pages: Sequence[QWidget]) -> None:
    """Let only the page that is shown ask for room, so that short pages do not scroll."""
    for number, page in enumerate(pages):
        policy = page.sizePolicy()
        shown = number == stack.currentIndex()
        policy.setVerticalPolicy(
            QSizePolicy.Policy.Preferred if shown else QSizePolicy.Policy.Ignored
        )
        page.setSizePolicy(policy)
