"""The window: places the areas, offers the actions, and nothing else."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import Executor
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtGui import QAction, QCloseEvent, QKeySequence
from PySide6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from calveth.app.areas.compare_area import CompareArea
from calveth.app.areas.place_area import PlaceArea
from calveth.app.areas.shell_area import ShellArea
from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.prompts import Prompts
from calveth.app.results import Results
from calveth.app.ribbon.ribbon import YearRibbon
from calveth.app.view_state import ViewState
from calveth.app.widgets.hive_bench import HiveBench
from calveth.app.widgets.labels import rule
from calveth.core.climate.place import coldest_month
from calveth.core.edits import duplicate_design, remove_design, rename_design, set_place
from calveth.core.errors import CalvethError
from calveth.core.project import Project
from calveth.store.json_file import write_json
from calveth.store.project_file import ProjectFile
from calveth.store.working import working_folder

if TYPE_CHECKING:
    from calveth.store.weather import WeatherImport

AREAS = ("place", "shell", "compare")


class MainWindow(QMainWindow):
    """One project in one window."""

    def __init__(
        self,
        document: Document,
        *,
        prompts: Prompts | None = None,
        executor: Executor | None = None,
    ) -> None:
        super().__init__()
        self._prompts = prompts or Prompts()
        self._closed = False
        self._executor = executor
        self.jobs = Jobs(executor)
        self.jobs.refused.connect(self._say)
        self.resize(1280, 800)
        self._menus()
        self.statusBar().setSizeGripEnabled(False)
        self._saved = QLabel()
        self._saved.setContentsMargins(0, 0, 10, 0)
        self.statusBar().addPermanentWidget(self._saved)
        self._adopt(document)

    # -- parts ---------------------------------------------------------------------------------
    def _adopt(self, document: Document) -> None:
        """Show a document, in place of the one before."""
        self.document = document
        self.results = Results(document, self._executor)
        month = coldest_month(document.project.place)
        self.view = ViewState(document.project.designs[0].id, month)
        # Before the areas hear of a change: none may be left looking at a design that is gone.
        document.changed.connect(self._project_changed)
        self.bench = HiveBench(document, self.results)
        self.shell = ShellArea(document, self.results, self.view)
        self.compare = CompareArea(document, self.results, self.view)
        self.place = PlaceArea(document)
        self.ribbon = YearRibbon(month)
        self.pages = QStackedWidget()
        for page in (self.place, self.shell, self.compare):
            self.pages.addWidget(page)
        self.setCentralWidget(self._frame())
        self.bench.chosen.connect(self.choose)
        self.ribbon.month_changed.connect(self.view.set_month)
        self.view.month_changed.connect(self.ribbon.set_month)
        self.place.import_wanted.connect(self.import_weather)
        document.file_changed.connect(self._show_file)
        document.write_failed.connect(self._say)
        document.undo_stack.indexChanged.connect(self._show_history)
        self.results.updated.connect(self._show_year)
        self.results.busy.connect(self._show_busy)
        self.go_to("shell")
        self.bench.setFocus()
        self._show_year()
        self._show_file()
        self._show_history()
        self.results.start()

    def _frame(self) -> QWidget:
        bar = QHBoxLayout()
        bar.setContentsMargins(8, 0, 8, 0)
        bar.setSpacing(2)
        group = QButtonGroup(self)
        self.area_buttons: dict[str, QPushButton] = {}
        for area in AREAS:
            button = QPushButton(area.capitalize())
            button.setProperty("role", "area")
            button.setCheckable(True)
            button.setAccessibleName(f"area {area}")
            button.clicked.connect(lambda _, name=area: self.go_to(name))
            group.addButton(button)
            bar.addWidget(button)
            self.area_buttons[area] = button
        bar.addStretch()
        right = QVBoxLayout()
        right.setSpacing(0)
        right.addWidget(self.pages, 1)
        right.addWidget(rule())
        right.addWidget(self.ribbon)
        row = QHBoxLayout()
        row.setSpacing(0)
        row.addWidget(self.bench)
        row.addLayout(right, 1)
        frame = QWidget()
        column = QVBoxLayout(frame)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(bar)
        column.addWidget(rule())
        column.addLayout(row, 1)
        return frame

    def _menus(self) -> None:
        bar = self.menuBar()
        menu = bar.addMenu("&File")
        self._action(menu, "&Open …", self.open, "Ctrl+O")
        self._action(menu, "Open work without a &name …", self.open_working_copy, "")
        self._action(menu, "&Save", self.save, "Ctrl+S")
        self._action(menu, "Save &as …", self.save_as, "Ctrl+Shift+S")
        menu.addSeparator()
        self._action(menu, "Import &weather …", self.import_weather, "")
        self._action(menu, "&Export JSON …", self.export_json, "")
        self._action(menu, "S&top reading", self.stop, "Esc")
        menu.addSeparator()
        self._action(menu, "&Quit", self.close, "Ctrl+Q")
        menu = bar.addMenu("&Edit")
        self.undo_action = self._action(menu, "&Undo", self.undo, "Ctrl+Z")
        self.redo_action = self._action(menu, "&Redo", self.redo, "Ctrl+Shift+Z")
        menu.addSeparator()
        self._action(menu, "&Duplicate design", self.duplicate, "Ctrl+D")
        self._action(menu, "&Rename design …", self.rename, "F2")
        self._action(menu, "De&lete design", self.delete, "")
        menu = bar.addMenu("&View")
        for number, area in enumerate(AREAS, start=1):
            self._action(menu, f"&{area.capitalize()}", partial(self.go_to, area), f"Ctrl+{number}")
        menu.addSeparator()
        self._action(menu, "Lens &make-up", lambda: self.view.set_lens("make-up"), "Ctrl+M")
        self._action(menu, "Lens &wet", lambda: self.view.set_lens("wet"), "Ctrl+W")
        menu.addSeparator()
        self._action(menu, "Month &before", lambda: self._step_month(-1), "Ctrl+Left")
        self._action(menu, "Month &after", lambda: self._step_month(1), "Ctrl+Right")

    def _action(self, menu: object, text: str, act: Callable[[], object], shortcut: str) -> QAction:
        action = QAction(text, self)
        if shortcut:
            action.setShortcut(QKeySequence(shortcut))
        action.triggered.connect(lambda *_: act())
        menu.addAction(action)  # type: ignore[attr-defined]
        return action

    # -- acts ----------------------------------------------------------------------------------
    def go_to(self, area: str) -> None:
        """Show an area."""
        self.pages.setCurrentIndex(AREAS.index(area))
        self.area_buttons[area].setChecked(True)

    def choose(self, design_id: str) -> None:
        """Work on another design."""
        self.results.current = design_id
        self.view.set_design(design_id)
        self.bench.set_current(design_id)
        self._show_year()

    def undo(self) -> None:
        """Take the last edit back."""
        self.document.undo_stack.undo()

    def redo(self) -> None:
        """Make an undone edit again."""
        self.document.undo_stack.redo()

    def duplicate(self) -> None:
        """Copy the chosen design and go on with the copy."""
        made: list[str] = []

        def change(project: Project) -> Project:
            project, new_id = duplicate_design(project, self.view.design_id)
            made.append(new_id)
            return project

        if self._try(lambda: self.document.edit("duplicate design", change)):
            self.choose(made[-1])

    def rename(self) -> None:
        """Give the chosen design another name."""
        design_id = self.view.design_id
        name = self._prompts.name(self, self.document.project.design(design_id).name)
        if name is not None:
            self._try(
                lambda: self.document.edit("rename", lambda p: rename_design(p, design_id, name))
            )

    def delete(self) -> None:
        """Remove the chosen design."""
        gone = self.view.design_id
        ids = [d.id for d in self.document.project.designs]
        if len(ids) == 1:
            self._say("designs: the last one cannot be deleted; duplicate it first")
            return
        at = ids.index(gone)
        self.choose(ids[at + 1] if at + 1 < len(ids) else ids[at - 1])
        self._try(lambda: self.document.edit("delete design", lambda p: remove_design(p, gone)))

    def save(self) -> bool:
        """Save; asks for a name the first time. Later edits are written as they are made."""
        if self.document.path is None:
            return self.save_as()
        path = self.document.path
        return self._try(lambda: self.document.save_as(path))

    def save_as(self) -> bool:
        """Save under a name the user gives."""
        suggestion = f"{self.document.project.name}.calveth"
        path = self._prompts.save_path(self, suggestion)
        return path is not None and self._try(lambda: self.document.save_as(path))

    def open(self, path: Path | None = None) -> None:
        """Open a project in place of this one."""
        path = path or self._prompts.open_path(self)
        if path is None:
            return
        opened: list[Document] = []

        def read() -> None:
            file = ProjectFile.open(path)
            try:
                opened.append(Document(file.read(), file, named=True))
            except CalvethError:
                file.close()
                raise

        if self._try(read):
            self._leave()
            self._adopt(opened[0])

    def open_working_copy(self) -> None:
        """Open what was changed in an earlier session and never given a name."""
        path = self._prompts.open_path(self, str(working_folder()))
        if path is not None:
            self.open(path)

    def import_weather(self) -> None:
        """Read a weather file and make it the place."""
        path = self._prompts.weather_path(self)
        if path is None:
            return

        document = self.document

        def work() -> object:
            from calveth.store.weather import import_weather  # pulls in a second's worth of pvlib

            return import_weather(path)

        def done(answer: object) -> None:
            result: WeatherImport = answer  # type: ignore[assignment]
            document.edit("import weather", lambda p: set_place(p, result.place))
            self._say("")
            notes = "\n".join(result.notes) or "Nothing was missing."
            self._prompts.tell(self, f"{result.place.name}: {result.hours} hours", notes)

        self._say(f"reading {path.name} … Esc stops it")
        self.jobs.run(work, done)

    def stop(self) -> None:
        """Call slow work off."""
        if self.jobs.cancel():
            self._say("stopped; nothing was changed")

    def idle(self) -> bool:
        """Return whether nothing is under way."""
        return self.jobs.idle() and self.results.idle()

    def export_json(self) -> None:
        """Write the project as JSON."""
        path = self._prompts.json_path(self, f"{self.document.project.name}.json")
        if path is not None:
            self._try(lambda: write_json(path, self.document.project))

    def _try(self, act: Callable[[], object]) -> bool:
        """Do something; a refusal becomes a sentence in the status bar."""
        try:
            act()
        except CalvethError as error:
            self._say(str(error))
            return False
        self._say("")
        return True

    def _say(self, sentence: str) -> None:
        self.statusBar().showMessage(sentence)

    def _step_month(self, step: int) -> None:
        self.view.set_month((self.view.month + step) % 12)

    # -- shows ---------------------------------------------------------------------------------
    def _project_changed(self, _before: Project, after: Project) -> None:
        ids = [d.id for d in after.designs]
        if self.view.design_id not in ids:
            self.choose(ids[0])
        self._show_year()

    def _show_year(self, *_: object) -> None:
        self.ribbon.show_year(
            self.document.project.place, self.results.monthly(self.view.design_id)
        )

    def _show_file(self) -> None:
        document = self.document
        name = document.path.name if document.path else f"{document.project.name} (no file yet)"
        self.setWindowTitle(f"{name} · Calveth")
        if document.path is None:
            self._saved.setText("kept in a working copy; Ctrl+S gives it a name")
        else:
            self._saved.setText("saved" if document.on_disk else "NOT saved: last edit only here")

    def _show_history(self, *_: object) -> None:
        stack = self.document.undo_stack
        for action, word, can, text in (
            (self.undo_action, "Undo", stack.canUndo(), stack.undoText()),
            (self.redo_action, "Redo", stack.canRedo(), stack.redoText()),
        ):
            action.setEnabled(can)
            action.setText(f"&{word} {text}" if can else f"&{word}")

    def _show_busy(self, busy: bool) -> None:
        if busy:
            self._say("working out the year …")
        elif self.statusBar().currentMessage().startswith("working"):
            self._say("")

    def _leave(self) -> None:
        self._let_go()
        old = self.takeCentralWidget()
        if old is not None:
            old.deleteLater()

    def _let_go(self) -> None:
        """Stop the worker and the file; the history must not call a window that is gone."""
        self.document.undo_stack.indexChanged.disconnect(self._show_history)
        self.jobs.cancel()
        self.results.close()
        self.document.close()

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self._closed:
            self._closed = True
            self._let_go()
            self.jobs.close()
        super().closeEvent(event)
