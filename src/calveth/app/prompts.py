"""Every question the window asks; tests put scripted answers in its place."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QDialog, QFileDialog, QInputDialog, QMessageBox, QWidget

from calveth.core.project import Project
from calveth.core.units import UnitSystem

if TYPE_CHECKING:
    from calveth.store.weather import WeatherImport

_PROJECTS = "Calveth projects (*.calveth)"


class Prompts:
    """Asks with Qt's own dialogs; None means the user thought better of it."""

    def save_path(self, parent: QWidget, suggestion: str) -> Path | None:
        """Ask where to save a project."""
        return self._save(parent, "Save project as", suggestion, _PROJECTS, ".calveth")

    def open_path(self, parent: QWidget, folder: str = "") -> Path | None:
        """Ask for a project to open, beginning in a folder."""
        return self._open(parent, "Open project", _PROJECTS, folder)

    def name(self, parent: QWidget, old: str) -> str | None:
        """Ask for a name."""
        name, given = QInputDialog.getText(parent, "Rename design", "Name", text=old)
        return name if given else None

    def weather_path(self, parent: QWidget) -> Path | None:
        """Ask for a weather file."""
        return self._open(
            parent, "Import weather", "Weather files (*.epw *.csv *.CSV *.tmy3);;All files (*)"
        )

    def json_path(self, parent: QWidget, suggestion: str) -> Path | None:
        """Ask where to write JSON."""
        return self._save(parent, "Export", suggestion, "JSON (*.json)", ".json")

    def materials_path(self, parent: QWidget) -> Path | None:
        """Ask for a list of materials to read."""
        return self._open(parent, "Import materials", "JSON (*.json)")

    def export_path(self, parent: QWidget, suggestion: str, kind: str, suffix: str) -> Path | None:
        """Ask where to write a report, a drawing or a table."""
        return self._save(parent, "Export", suggestion, f"{kind} (*{suffix})", suffix)

    def new_project(self, parent: QWidget) -> Project | None:
        """Ask for a new project in three steps."""
        from calveth.app.dialogs.new_project import NewProjectDialog

        dialog = NewProjectDialog(parent)
        return dialog.project if dialog.exec() == QDialog.DialogCode.Accepted else None

    def accept_weather(self, parent: QWidget, found: WeatherImport, units: UnitSystem) -> bool:
        """Show what a weather file brings; return whether it is to be the place."""
        from calveth.app.dialogs.weather_dialog import WeatherDialog

        return WeatherDialog(found, units, parent).exec() == QDialog.DialogCode.Accepted

    def show_dialog(self, dialog: QDialog) -> None:
        """Show a dialog and wait until it is closed."""
        dialog.exec()

    def tell(self, parent: QWidget, title: str, text: str) -> None:
        """Say something that must be read."""
        QMessageBox.information(parent, title, text)

    @staticmethod
    def _open(parent: QWidget, title: str, kinds: str, folder: str = "") -> Path | None:
        name, _ = QFileDialog.getOpenFileName(parent, title, folder, kinds)
        return Path(name) if name else None

    @staticmethod
    def _save(parent: QWidget, title: str, suggestion: str, kinds: str, suffix: str) -> Path | None:
        name, _ = QFileDialog.getSaveFileName(parent, title, suggestion, kinds)
        if not name:
            return None
        path = Path(name)
        return path if path.suffix else path.with_suffix(suffix)
