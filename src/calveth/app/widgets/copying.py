"""Tables to the clipboard: as lines of cells between tabs, which any table program takes."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QGuiApplication, QKeySequence
from PySide6.QtWidgets import QWidget

Rows = Sequence[Sequence[str]]


def as_lines(rows: Rows) -> str:
    r"""Return rows as lines of cells between tabs; what a cell has in two lines stands in one.

    >>> as_lines([["", "box"], ["honey", "8.9 kg\n7.9 to 11.2"]])
    '\tbox\nhoney\t8.9 kg, 7.9 to 11.2\n'
    """
    return "".join("\t".join(", ".join(c.split("\n")) for c in row) + "\n" for row in rows)


def can_be_copied(table: QWidget, rows: Callable[[], Rows]) -> QAction:
    """Give a painted table a menu and Ctrl+C that copy all of it; return the action."""
    action = QAction("Copy the table", table)
    action.setShortcut(QKeySequence(QKeySequence.StandardKey.Copy))
    action.setShortcutContext(Qt.ShortcutContext.WidgetShortcut)
    action.triggered.connect(lambda: QGuiApplication.clipboard().setText(as_lines(rows())))
    table.addAction(action)
    table.setContextMenuPolicy(Qt.ContextMenuPolicy.ActionsContextMenu)
    return action
