"""Keys of the window that must work while a field has the focus."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject
from PySide6.QtGui import QKeyEvent, QKeySequence
from PySide6.QtWidgets import QLineEdit

# A line edit takes these for itself although it has nothing to undo: they belong to the window.
_UNDO = (QKeySequence("Ctrl+Z"), QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y"))
_ALWAYS = (QKeySequence("Ctrl+U"), QKeySequence("Ctrl+L"), QKeySequence("Ctrl+D"))


class FieldKeys(QObject):
    """Leaves undo to the window unless something is half typed, and units and look always."""

    def __init__(self, field: QLineEdit) -> None:
        super().__init__(field)
        field.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Keep a key from the field: what it does not take goes to the window's actions."""
        if event.type() != QEvent.Type.ShortcutOverride or not isinstance(event, QKeyEvent):
            return False
        if not isinstance(watched, QLineEdit):
            return False
        keys = QKeySequence(event.keyCombination())
        return keys in _ALWAYS or (keys in _UNDO and not watched.isModified())
