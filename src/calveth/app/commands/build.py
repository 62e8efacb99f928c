"""Puts the list of commands into a window as menus with their keys."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMainWindow, QMenu

from calveth.app.commands import file
from calveth.app.commands.context import Context
from calveth.app.commands.menus import MENUS, RECENT, Command


class Menus:
    """The menus of a window; `refresh` shows what can be done now and which switches are on."""

    def __init__(self, window: QMainWindow, context: Callable[[], Context]) -> None:
        self._context = context
        self.actions: dict[str, QAction] = {}
        self._commands: list[Command] = []
        for title, entries in MENUS:
            menu = window.menuBar().addMenu(title)
            for entry in entries:
                if entry is None:
                    menu.addSeparator()
                elif entry == RECENT:
                    self.recent: QMenu = menu.addMenu("Open &recent")
                    self.recent.aboutToShow.connect(self.fill_recent)
                elif isinstance(entry, Command):
                    self._add(window, menu, entry)

    def _add(self, window: QMainWindow, menu: QMenu, command: Command) -> None:
        action = QAction(command.title, window)
        if command.key:
            action.setShortcut(QKeySequence(command.key))
        action.setToolTip(command.help)
        action.setStatusTip("")
        action.setCheckable(command.checked is not None)
        action.triggered.connect(lambda *_: command.run(self._context()))
        menu.addAction(action)
        self.actions[command.id] = action
        self._commands.append(command)

    def refresh(self) -> None:
        """Show what can be done now, what undo would undo, and which switches are on."""
        context = self._context()
        for command in self._commands:
            action = self.actions[command.id]
            action.setEnabled(command.enabled(context))
            if command.checked is not None:
                action.setChecked(command.checked(context))
        stack = context.document.undo_stack
        for name, word, text in (
            ("undo", "&Undo", stack.undoText()),
            ("redo", "&Redo", stack.redoText()),
        ):
            self.actions[name].setText(f"{word} {text}".rstrip())

    def fill_recent(self) -> None:
        """Fill the menu of recent files with those that are still there."""
        self.recent.clear()
        context = self._context()
        paths = [Path(p) for p in context.preferences.value.recent if Path(p).exists()]
        for path in paths:
            self.recent.addAction(path.name).triggered.connect(partial(file.open, context, path))
        if not paths:
            self.recent.addAction("no recent projects").setEnabled(False)
