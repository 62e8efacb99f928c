"""What the areas are put together from: pages, scrolls, rows of tabs, and filling only in sight."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import TypeVar

from PySide6.QtCore import Qt
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

Key = TypeVar("Key", bound=str)


class LateArea(QWidget):
    """An area that is filled when it is in sight; out of sight it waits.

    Eight pictures and a hundred figures are not drawn for nobody.
    """

    def __init__(self) -> None:
        super().__init__()
        self._stale = True

    def _show(self, *_: object) -> None:
        self._stale = True
        if self.isVisible():
            self._fill_now()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if self._stale:
            self._fill_now()

    def _fill_now(self) -> None:
        self._stale = False
        self._fill()

    def _fill(self) -> None:
        raise NotImplementedError


def top_page(widget: QWidget) -> QWidget:
    """Return a page with a widget at its top."""
    page = QWidget()
    column = QVBoxLayout(page)
    column.setContentsMargins(0, 0, 0, 0)
    column.addWidget(widget)
    column.addStretch()
    return page


def scroll_of(body: QWidget, width: int | None = None) -> QScrollArea:
    """Return a body that scrolls; with a width it is a side panel that scrolls up and down only."""
    scroll = QScrollArea()
    scroll.setWidget(body)
    scroll.setWidgetResizable(True)
    scroll.setFrameShape(QFrame.Shape.NoFrame)
    if width is not None:
        scroll.setFixedWidth(width)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    return scroll


def page_scroll(page: QWidget) -> QScrollArea:
    """Return a page that scrolls up and down where it is taller than its room."""
    scroll = scroll_of(page)
    scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    return scroll


def tab_row(
    owner: QWidget,
    row: QHBoxLayout,
    texts: Sequence[tuple[Key, str]],
    name: str,
    act: Callable[[Key], object],
) -> dict[Key, QPushButton]:
    """Put a row of buttons of which one is down into ``row``; return them by key.

    ``texts`` are pairs of key and text, ``name`` goes before the text in the accessible name.
    """
    group = QButtonGroup(owner)
    buttons: dict[Key, QPushButton] = {}
    for key, text in texts:
        button = QPushButton(text)
        button.setCheckable(True)
        button.setProperty("role", "tab")
        button.setAccessibleName(f"{name} {text.lower()}")
        button.clicked.connect(partial(_press, act, key))
        group.addButton(button)
        row.addWidget(button)
        buttons[key] = button
    return buttons


def _press(act: Callable[[Key], object], key: Key, *_: object) -> None:
    act(key)
