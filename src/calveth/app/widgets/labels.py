"""Labels, rules and small buttons in Calveth's roles."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QFrame,
    QLabel,
    QLayout,
    QSizePolicy,
    QStackedWidget,
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
    button.setToolTip(name)
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
