"""Every question the window asks; tests put scripted answers in its place."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QInputDialog, QMessageBox, QWidget

_PROJECTS = "Calveth projects (*.calveth)"


class Prompts:
    """Asks with Qt's own dialogs; None means the user thought better of it."""

    def save_path(self, parent: QWidget, suggestion: str) -> Path | None:
        """Ask where to save a project."""
        name, _ = QFileDialog.getSaveFileName(parent, "Save project as", suggestion, _PROJECTS)
        if not name:
            return None
        path = Path(name)
        return path if path.suffix else path.with_suffix(".calveth")

    def open_path(self, parent: QWidget, folder: str = "") -> Path | None:
        """Ask for a project to open, beginning in a folder."""
        name, _ = QFileDialog.getOpenFileName(parent, "Open project", folder, _PROJECTS)
        return Path(name) if name else None

    def name(self, parent: QWidget, old: str) -> str | None:
        """Ask for a name."""
        name, given = QInputDialog.getText(parent, "Rename design", "Name", text=old)
        return name if given else None

    def weather_path(self, parent: QWidget) -> Path | None:
        """Ask for a weather file."""
        name, _ = QFileDialog.getOpenFileName(
            parent, "Import weather", "", "Weather files (*.epw *.csv *.CSV *.tmy3);;All files (*)"
        )
        return Path(name) if name else None

    def json_path(self, parent: QWidget, suggestion: str) -> Path | None:
        """Ask where to write JSON."""
        name, _ = QFileDialog.getSaveFileName(parent, "Export", suggestion, "JSON (*.json)")
        return Path(name) if name else None

    def tell(self, parent: QWidget, title: str, text: str) -> None:
        """Say something that must be read."""
        QMessageBox.information(parent, title, text)
