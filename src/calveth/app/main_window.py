"""The window: places the areas, offers the actions, and nothing else."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import Executor
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtGui import QAction, QCloseEvent
from PySide6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QMenu,
    QProgressBar,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from calveth.app import preferences
from calveth.app.actions import build_menus
from calveth.app.areas.shell_area import ShellArea
from calveth.app.document import Document
from calveth.app.engine.nodes import NODES, Node
from calveth.app.file_acts import FileActs
from calveth.app.help_acts import HelpActs
from calveth.app.hive_acts import HiveActs
from calveth.app.jobs import Jobs
from calveth.app.prompts import Prompts
from calveth.app.results import Results
from calveth.app.ribbon.ribbon import YearRibbon
from calveth.app.view_acts import AREAS, ViewActs
from calveth.app.view_state import ViewState
from calveth.app.widgets.hive_bench import HiveBench
from calveth.app.widgets.labels import rule
from calveth.app.widgets.pages import scroll_of
from calveth.core.climate.place import coldest_month
from calveth.core.errors import CalvethError
from calveth.core.project import Project
from calveth.core.units import INCH, METRIC, sentence_of

if TYPE_CHECKING:
    from calveth.app.areas.compare_area import CompareArea
    from calveth.app.areas.place_area import PlaceArea
    from calveth.app.areas.seasons_area import SeasonsArea

_AREA_TIPS = {
    "place": "Where the hives stand: weather, shelter, forage, bees",
    "shell": "One hive: layers, openings, and what it does",
    "seasons": "What is opened, closed, put on and taken off, month by month",
    "compare": "All hives side by side",
}


class MainWindow(FileActs, HiveActs, HelpActs, ViewActs, QMainWindow):
    """One project in one window."""

    def __init__(
        self,
        document: Document,
        *,
        prompts: Prompts | None = None,
        executor: Executor | None = None,
        likes: preferences.Preferences | None = None,
        nodes: tuple[Node, ...] = NODES,
    ) -> None:
        super().__init__()
        # Likes that are given are not the user's own: they are neither read nor kept.
        self._keeps_likes = likes is None
        self.prompts = prompts or Prompts()
        self._closed = False
        self._executor = executor
        self._nodes = nodes
        self.likes = preferences.load() if likes is None else likes
        self.jobs = Jobs(executor)
        self.jobs.refused.connect(self.say)
        self.jobs.progress.connect(self._show_progress)
        self.resize(1280, 800)
        self.actions_by_name: dict[str, QAction] = build_menus(self)
        self.undo_action = self.actions_by_name["undo"]
        self.redo_action = self.actions_by_name["redo"]
        for name, on in (("switch_units", self.likes.inch), ("switch_look", self.likes.dark)):
            self.actions_by_name[name].setCheckable(True)
            self.actions_by_name[name].setChecked(on)
        recent = self.actions_by_name["recent"].menu()
        assert isinstance(recent, QMenu)
        recent.aboutToShow.connect(self.fill_recent)
        self._status()
        self._build(document)

    # -- parts ---------------------------------------------------------------------------------
    def _status(self) -> None:
        self.statusBar().setSizeGripEnabled(False)
        self._progress = QProgressBar()
        self._progress.setAccessibleName("how far the work is")
        self._progress.setMaximumWidth(140)
        self._progress.hide()
        self._saved = QLabel()
        self._saved.setContentsMargins(0, 0, 10, 0)
        self.statusBar().addPermanentWidget(self._progress)
        self.statusBar().addPermanentWidget(self._saved)

    def adopt(self, other: Document) -> None:
        """Show the project of a document in place of the one before; the views stay."""
        first = other.project.designs[0].id
        self.jobs.cancel()
        self.results.forget(first)
        self.view.begin_at(first)
        self.document.take_over(other)
        self.bench.set_current(first)
        self.view.set_month(coldest_month(other.project.place))
        self.view.set_lens("wet")
        self.view.set_face("lid")
        self.go_to("shell")
        self.bench.setFocus()

    def _build(self, document: Document) -> None:
        self.document = document
        self.results = Results(document, self._executor, self._nodes)
        month = coldest_month(document.project.place)
        self.view = ViewState(document.project.designs[0].id, month)
        self.view.set_units(INCH if self.likes.inch else METRIC)
        # Before the areas hear of a change: none may be left looking at a design that is gone.
        document.changed.connect(self._project_changed)
        self.bench = HiveBench(document, self.results, self.view)
        self.shell = ShellArea(document, self.results, self.view)
        self._compare: CompareArea | None = None
        self._place: PlaceArea | None = None
        self._seasons: SeasonsArea | None = None
        self.ribbon = YearRibbon(month)
        self.pages = QStackedWidget()
        for area in AREAS:
            self.pages.addWidget(self.shell if area == "shell" else QWidget())
        self.setCentralWidget(self._frame())
        self._connect(document)
        self.go_to("shell")
        self.bench.setFocus()
        self._show_year()
        self._show_file()
        self._show_history()
        self.results.start()

    def _connect(self, document: Document) -> None:
        self.bench.chosen.connect(self.choose)
        self.ribbon.month_changed.connect(self.view.set_month)
        self.view.month_changed.connect(self.ribbon.set_month)
        self.view.units_changed.connect(self._show_year)
        self.shell.remedy_taken.connect(self.take_remedy)
        self.shell.refused.connect(self.say)
        self.shell.key_wanted.connect(lambda: self.show_help("key"))
        self.shell.layers.materials_wanted.connect(self.edit_materials)
        self.shell.layers.sweep_wanted.connect(self.sweep_layer)
        self.shell.openings.target_wanted.connect(self.find_size)
        document.file_changed.connect(self._show_file)
        document.write_failed.connect(self.say)
        document.undo_stack.indexChanged.connect(self._show_history)
        self.results.updated.connect(self._updated)
        self.results.busy.connect(self._show_busy)
        self.results.progress.connect(self._show_progress)

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
            button.setToolTip(_AREA_TIPS[area])
            button.clicked.connect(lambda _, name=area: self.go_to(name))
            group.addButton(button)
            bar.addWidget(button)
            self.area_buttons[area] = button
        bar.addStretch()
        right = QVBoxLayout()
        right.setSpacing(0)
        right.addWidget(self.pages, 1)
        self._right = right
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

    # The areas behind the first one are made when they are first gone to: the window is up sooner.
    @property
    def place(self) -> PlaceArea:
        """The area Place."""
        if self._place is None:
            from calveth.app.areas.place_area import PlaceArea

            self._place = PlaceArea(self.document, self.results, self.view)
            self._place.import_wanted.connect(self.import_weather)
            self._put_page("place", self._place)
        return self._place

    @property
    def seasons(self) -> SeasonsArea:
        """The area Seasons."""
        if self._seasons is None:
            from calveth.app.areas.seasons_area import SeasonsArea

            self._seasons = SeasonsArea(self.document, self.results, self.view)
            self._seasons.plan_wanted.connect(self.take_plan)
            self._put_page("seasons", self._seasons)
        return self._seasons

    @property
    def compare(self) -> CompareArea:
        """The area Compare."""
        if self._compare is None:
            from calveth.app.areas.compare_area import CompareArea

            self._compare = CompareArea(self.document, self.results, self.view, self.jobs)
            self._compare.working_wanted.connect(self.show_working_of)
            self._put_page("compare", self._compare)
        return self._compare

    def _put_page(self, area: str, page: QWidget) -> None:
        at = AREAS.index(area)
        shown = self.pages.currentIndex() == at
        empty = self.pages.widget(at)
        # A small window scrolls what needs more room than it has.
        self.pages.insertWidget(at, scroll_of(page))
        if empty is not None:
            self.pages.removeWidget(empty)
            empty.deleteLater()
        if shown:
            self.pages.setCurrentIndex(at)

    # -- acts -----------------------------------------------------------------------------------
    def stop(self) -> None:
        """Call slow work off."""
        trying, working = self.results.stop(), self.jobs.cancel()
        if self._compare is not None:
            self._compare.sweep.stopped()
        self._progress.hide()
        if trying or working:
            self.say("stopped; nothing was changed")

    def undo(self) -> None:
        """Take the last edit back."""
        self.document.undo_stack.undo()

    def redo(self) -> None:
        """Make an undone edit again."""
        self.document.undo_stack.redo()

    def idle(self) -> bool:
        """Return whether nothing is under way."""
        return self.jobs.idle() and self.results.idle()

    def attempt(self, act: Callable[[], object]) -> bool:
        """Do something; a refusal becomes a sentence in the status bar."""
        try:
            act()
        except CalvethError as error:
            self.say(sentence_of(error, self.view.units))
            return False
        # What an edit could not write is said by the document itself, and must stay.
        self.say(self.document.write_problem)
        return True

    def say(self, sentence: str) -> None:
        """Show a sentence in the status bar."""
        self._progress.setVisible(False)
        self.statusBar().showMessage(sentence)

    def _like(self, **fields: bool) -> None:
        self.likes = preferences.changed(self.likes, **fields)
        self._store_likes()

    def remember(self, path: Path) -> None:
        """Put a file first among the recent ones."""
        self.likes = self.likes.with_recent(path)
        self._store_likes()

    def _store_likes(self) -> None:
        if self._keeps_likes:
            preferences.store(self.likes)

    # -- shows ---------------------------------------------------------------------------------
    def _project_changed(self, _before: Project, after: Project) -> None:
        ids = [d.id for d in after.designs]
        if self.view.design_id not in ids:
            self.choose(ids[0])
        self._show_year()

    def _updated(self, design_id: str) -> None:
        if design_id == self.view.design_id:
            self._show_year()

    def _show_year(self, *_: object) -> None:
        self.ribbon.show_year(
            self.document.project.place,
            self.results.monthly(self.view.design_id),
            self.view.units,
        )

    def _show_file(self) -> None:
        document = self.document
        name = document.path.name if document.path else f"{document.project.name} (no file yet)"
        self.setWindowTitle(f"{name} · Calveth")
        if document.write_problem:
            self._saved.setText(f"NOT saved: {document.write_problem}")
        elif document.path is None:
            self._saved.setText("kept in a working copy; Ctrl+S gives it a name")
        else:
            self._saved.setText("saved" if document.on_disk else "not saved yet")

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
            self.say("working out the year …")
        elif self.statusBar().currentMessage().startswith(("working", "trying")):
            self.say("")

    def _show_progress(self, share: float) -> None:
        if self.results.trying and self.jobs.idle():
            self.statusBar().showMessage("trying what helps … Esc stops it")
        self._progress.setVisible(share < 1.0)
        self._progress.setValue(round(100 * share))

    def _let_go(self) -> None:
        """Stop the worker and the file; the history must not call a window that is gone."""
        self.document.undo_stack.indexChanged.disconnect(self._show_history)
        self.jobs.cancel()
        self.results.close()
        self.document.close()

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self._closed:
            if not self.may_leave():
                event.ignore()
                return
            self._closed = True
            self.likes = replace(self.likes, geometry=bytes(self.saveGeometry().data()).hex())
            self._store_likes()
            self._let_go()
            self.jobs.close()
        super().closeEvent(event)
