"""Every question the window asks; tests put scripted answers in its place."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Literal

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QFileDialog, QInputDialog, QMessageBox, QWidget

from calveth.core.project import Project
from calveth.texts.units import UnitSystem

if TYPE_CHECKING:
    from calveth.app.dialogs.weather_dialog import BeesMove
    from calveth.store.weather import WeatherImport
    from calveth.store.working_copy import UnnamedWork

Unsaved = Literal["save", "lose", "stay"]
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
            parent,
            "Import weather",
            "Weather files (*.epw *.EPW *.csv *.CSV *.tmy3 *.TMY3);;All files (*)",
        )

    def log_path(self, parent: QWidget) -> Path | None:
        """Ask for the file of a logger or a scale."""
        return self._open(parent, "Read a log", "Logs (*.csv *.CSV *.txt *.tsv);;All files (*)")

    def photo_path(self, parent: QWidget) -> Path | None:
        """Ask for a photograph."""
        return self._open(
            parent, "Photograph", "Pictures (*.jpg *.jpeg *.JPG *.png *.PNG);;All files (*)"
        )

    def json_path(self, parent: QWidget, suggestion: str) -> Path | None:
        """Ask where to write JSON."""
        return self._save(parent, "Export", suggestion, "JSON (*.json)", ".json")

    def materials_path(self, parent: QWidget) -> Path | None:
        """Ask for a list of materials to read."""
        return self._open(parent, "Import materials", "JSON (*.json)")

    def stock_path(self, parent: QWidget) -> Path | None:
        """Ask for a stock list to read."""
        return self._open(parent, "Import a stock list", "Stock lists (*.csv *.CSV)")

    def export_path(self, parent: QWidget, suggestion: str, kind: str, suffix: str) -> Path | None:
        """Ask where to write a report, a drawing or a table; ``suffix`` may name several."""
        kinds = f"{kind} ({' '.join('*' + ending for ending in suffix.split())})"
        return self._save(parent, "Export", suggestion, kinds, suffix)

    def new_project(self, parent: QWidget) -> Project | None:
        """Ask for a new project in three steps."""
        from calveth.app.dialogs.new_project import NewProjectDialog

        dialog = NewProjectDialog(parent)
        return dialog.project if dialog.exec() == QDialog.DialogCode.Accepted else None

    def accept_weather(
        self, parent: QWidget, imported: WeatherImport, units: UnitSystem
    ) -> BeesMove | None:
        """Show what a weather file brings; return what becomes of the bees, None to leave it."""
        from calveth.app.dialogs.weather_dialog import WeatherDialog

        dialog = WeatherDialog(imported, units, parent)
        return dialog.bees if dialog.exec() == QDialog.DialogCode.Accepted else None

    def show_dialog(self, dialog: QDialog) -> None:
        """Show a dialog and wait until it is closed."""
        dialog.exec()
        # Its answers are read before the event loop comes to it.
        dialog.deleteLater()

    def tell(self, parent: QWidget, title: str, text: str) -> None:
        """Say something that must be read."""
        box = QMessageBox(parent)
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        box.setWindowTitle(title)
        box.setText(text)
        box.exec()

    def unsaved(self, parent: QWidget, problem: str) -> Unsaved:
        """Ask what becomes of edits that could not be written before the project is left."""
        box = QMessageBox(parent)
        box.setIcon(QMessageBox.Icon.Warning)
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setWindowTitle("Not saved")
        box.setText("Your last changes are not in a file.")
        box.setInformativeText(problem)
        save = box.addButton("Save elsewhere …", QMessageBox.ButtonRole.AcceptRole)
        lose = box.addButton("Leave without them", QMessageBox.ButtonRole.DestructiveRole)
        stay = box.addButton("Stay", QMessageBox.ButtonRole.RejectRole)
        box.setDefaultButton(save)
        box.setEscapeButton(stay)
        box.exec()
        answers: dict[object, Unsaved] = {save: "save", lose: "lose"}
        return answers.get(box.clickedButton(), "stay")

    def unnamed(self, parent: QWidget | None, work: Sequence[UnnamedWork]) -> Path | None:
        """Ask which work without a name to go on with; None is none of it."""
        from calveth.app.dialogs.unnamed_dialog import UnnamedDialog

        dialog = UnnamedDialog(work, parent)
        return dialog.chosen if dialog.exec() == QDialog.DialogCode.Accepted else None

    def confirm(self, parent: QWidget, title: str, text: str, act: str) -> bool:
        """Ask whether to do what cannot be seen at once; ``act`` is what the button says."""
        box = QMessageBox(parent)
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setWindowTitle(title)
        box.setText(text)
        go = box.addButton(act, QMessageBox.ButtonRole.AcceptRole)
        stay = box.addButton("Leave it", QMessageBox.ButtonRole.RejectRole)
        box.setEscapeButton(stay)
        # A key pressed in haste leaves everything as it is.
        box.setDefaultButton(stay)
        box.exec()
        return box.clickedButton() is go

    @staticmethod
    def _open(parent: QWidget, title: str, kinds: str, folder: str = "") -> Path | None:
        name, _ = QFileDialog.getOpenFileName(parent, title, folder, kinds)
        return Path(name) if name else None

    def _save(
        self, parent: QWidget, title: str, suggestion: str, kinds: str, endings: str
    ) -> Path | None:
        """Ask for a name; what stands at the name that will be written is asked about."""
        dialog = save_dialog(parent, title, suggestion, kinds, endings)
        if not dialog.exec():
            return None
        chosen = Path(dialog.selectedFiles()[0])
        path = with_ending(chosen, endings)
        # The dialog asked about the name that was chosen; an ending makes it another one.
        if path != chosen and path.exists():
            text = f"{path.name} is there already."
            return path if self.confirm(parent, title, text, "Write over it") else None
        return path


def save_dialog(
    parent: QWidget | None, title: str, suggestion: str, kinds: str, endings: str
) -> QFileDialog:
    """Return a dialog that asks where to save and whether to write over what stands there."""
    dialog = QFileDialog(parent, title)
    dialog.setAcceptMode(QFileDialog.AcceptMode.AcceptSave)
    dialog.setFileMode(QFileDialog.FileMode.AnyFile)
    dialog.setNameFilter(kinds)
    # With it the dialog adds the ending itself, and asks about the name with it.
    dialog.setDefaultSuffix(endings.partition(" ")[0].removeprefix("."))
    dialog.selectFile(plain_name(suggestion))
    return dialog


def with_ending(path: Path, endings: str) -> Path:
    """Return a path with one of the endings of its kind (``.xlsx .csv``); the first is added.

    ``Hive v1.5`` has a point but no ending: without one the dialog to open would not list it.
    """
    known = endings.split()
    return path if path.suffix.lower() in known else path.with_name(path.name + known[0])


def plain_name(text: str) -> str:
    """Return a suggestion that is one name and no path."""
    return text.replace("/", "-").replace(chr(0), "").strip(". ")[:120] or "hive"
