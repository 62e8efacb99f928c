"""The window: places the areas, offers the actions, and nothing else."""

from __future__ import annotations

from concurrent.futures import Executor
from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtGui import QCloseEvent
from PySide6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QProgressBar,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from calveth.app import preferences
from calveth.app.areas.shell_area import ShellArea
from calveth.app.commands import design as hives
from calveth.app.commands import file as files
from calveth.app.commands import logs
from calveth.app.commands.build import Menus
from calveth.app.commands.context import Context
from calveth.app.commands.menus import COMMANDS
from calveth.app.document import Document
from calveth.app.engine.nodes import NODES, Node
from calveth.app.first_compile import SAYS, FirstCompile
from calveth.app.jobs import Jobs
from calveth.app.late_areas import MAKE
from calveth.app.prompts import Prompts
from calveth.app.results import Results
from calveth.app.ribbon.ribbon import YearRibbon
from calveth.app.season_years import SeasonYears
from calveth.app.view_state import ViewState
from calveth.app.widgets.hive_bench import HiveBench
from calveth.app.widgets.labels import rule
from calveth.app.widgets.pages import scroll_of
from calveth.app.widgets.refusal_bar import RefusalBar
from calveth.core.climate.place import coldest_month
from calveth.core.errors import CalvethError
from calveth.core.hive.design import Face
from calveth.core.project import Project
from calveth.texts.units import INCH, METRIC, sentence_of

if TYPE_CHECKING:
    from calveth.app.areas.build_area import BuildArea
    from calveth.app.areas.compare_area import CompareArea
    from calveth.app.areas.diary_area import DiaryArea
    from calveth.app.areas.place_area import PlaceArea
    from calveth.app.areas.seasons_area import SeasonsArea

_AREA_TIPS = {
    "place": "Where the hives stand: weather, shelter, forage, bees",
    "shell": "One hive: layers, openings, and what it does",
    "seasons": "What is opened, closed, put on and taken off, month by month",
    "compare": "All hives side by side",
    "build": "One hive to the saw: cut list, layouts, weights, steps",
    "diary": "Hives that stand: what is due, what was seen, what was expected",
}


AREAS = tuple(_AREA_TIPS)


class MainWindow(QMainWindow):
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
        self._prompts = prompts or Prompts()
        self._closed = False
        # Whether the status bar says that the worker is at work: only that is wiped when it rests.
        self._tells_of_work = False
        self.executor = executor
        self._nodes = nodes
        self.preferences = preferences.KeptPreferences(likes)
        self.jobs, self.log_jobs = Jobs(executor), Jobs(executor)
        for jobs in (self.jobs, self.log_jobs):
            jobs.refused.connect(self.refuse)
        self.jobs.progress.connect(self._show_progress)
        self.resize(1280, 800)
        self.menus = Menus(self, lambda: self.context)
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

    def follow_compiling(self, compiling: FirstCompile) -> None:
        """Say that the balance is being compiled until it is, and begin it."""
        tag = QLabel(SAYS)
        self.statusBar().insertPermanentWidget(0, tag)

        def ended(sentence: str) -> None:
            self.statusBar().removeWidget(tag)
            tag.deleteLater()
            self.say(sentence)

        compiling.ended.connect(ended)
        compiling.start()

    def adopt(self, other: Document) -> None:
        """Show the project of a document in place of the one before; the views stay."""
        first = other.project.designs[0].id
        self.jobs.cancel()
        logs.forget_files(self.context)
        self.results.forget(first)
        self.view.begin_at(first)
        self.view.set_unsure(frozenset())
        self.document.take_over(other)
        self.bench.set_current(first)
        self.view.set_month(coldest_month(other.project.place))
        self.view.set_lens("wet")
        self.view.set_face("lid")
        self.go_to("shell")
        self.bench.setFocus()

    def _build(self, document: Document) -> None:
        self.document = document
        self.results = Results(document, self.executor, self._nodes)
        self.years = SeasonYears(document, self.results, self.executor)
        month = coldest_month(document.project.place)
        self.view = ViewState(document.project.designs[0].id, month)
        self.view.set_units(INCH if self.preferences.value.inch else METRIC)
        self.context = Context(
            document=document,
            results=self.results,
            years=self.years,
            view=self.view,
            jobs=self.jobs,
            log_jobs=self.log_jobs,
            prompts=self._prompts,
            preferences=self.preferences,
            parent=self,
            frame=self,
        )
        # Before the areas hear of a change: none may be left looking at a design that is gone.
        document.changed.connect(self._project_changed)
        self.bench = HiveBench(document, self.results, self.view)
        self.shell = ShellArea(document, self.results, self.view)
        self._made: dict[str, QWidget] = {}
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
        self.view.month_changed.connect(self.ribbon.show_month)
        self.ribbon.month_wanted.connect(self.view.set_month)
        self.ribbon.hour_changed.connect(self.view.set_hour)
        self.view.hour_changed.connect(
            lambda hour: self.ribbon.show_hour(hour if self.view.by_hour else None)
        )
        self.view.units_changed.connect(self._show_year)
        self.shell.remedy_taken.connect(partial(hives.take_remedy, self.context))
        self.shell.refused.connect(self.refuse)
        self.shell.copy_wanted.connect(lambda: self.run("duplicate"))
        self.refusal.copy_wanted.connect(lambda: self.run("duplicate"))
        document.refused.connect(self.refuse_edit)
        self.shell.key_wanted.connect(lambda: self.run("key"))
        self.shell.layers.materials_wanted.connect(lambda *_: self.run("edit_materials"))
        self.shell.layers.sweep_wanted.connect(self.ask_sweep)
        self.shell.openings.target_wanted.connect(partial(hives.find_size, self.context))
        document.file_changed.connect(self._show_file)
        document.write_failed.connect(self.say)
        document.undo_stack.indexChanged.connect(self._show_history)
        self.results.updated.connect(self._updated)
        self.results.busy.connect(self._show_busy)
        self.results.progress.connect(self._show_progress)
        self.preferences.when_changed(lambda _: self.menus.refresh())

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
        self.refusal = RefusalBar()
        column.addWidget(self.refusal)
        column.addLayout(row, 1)
        return frame

    def _late(self, area: str) -> QWidget:
        """Return an area, made when it is first gone to."""
        if area not in self._made:
            self._made[area] = MAKE[area](self)
            self._put_page(area, self._made[area])
        return self._made[area]

    @property
    def place(self) -> PlaceArea:
        """The area Place."""
        return self._late("place")  # type: ignore[return-value]

    @property
    def seasons(self) -> SeasonsArea:
        """The area Seasons."""
        return self._late("seasons")  # type: ignore[return-value]

    @property
    def compare(self) -> CompareArea:
        """The area Compare."""
        return self._late("compare")  # type: ignore[return-value]

    @property
    def build(self) -> BuildArea:
        """The area Build."""
        return self._late("build")  # type: ignore[return-value]

    @property
    def diary(self) -> DiaryArea:
        """The area Diary."""
        return self._late("diary")  # type: ignore[return-value]

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
        if "compare" in self._made:
            self.compare.stopped()
        if "seasons" in self._made:
            self.seasons.questions.stopped()
        self._progress.hide()
        if trying or working:
            self.say("stopped; nothing was changed")

    def run(self, command: str, *arguments: object) -> object:
        """Do what a command does, by its id."""
        return COMMANDS[command].run(self.context, *arguments)

    def go_to(self, area: str) -> None:
        """Show an area."""
        getattr(self, area)
        if self.pages.currentIndex() != AREAS.index(area):
            self.refusal.clear()
        self.pages.setCurrentIndex(AREAS.index(area))
        self.area_buttons[area].setChecked(True)
        self.ribbon.set_compact(area != "shell")
        # A saw knows no months, and the diary has days of its own.
        self.ribbon.setVisible(area not in ("build", "diary"))
        # Beside the drawing the year stands under it, so that the right column is as tall as it
        # can be; elsewhere it runs under all of the area.
        if area == "shell":
            self.shell.hold(self.ribbon)
        else:
            self._right.addWidget(self.ribbon)

    def choose(self, design_id: str) -> None:
        """Work on another design."""
        if design_id != self.view.design_id:
            self.refusal.clear()
        self.results.choose(design_id)
        self.view.set_design(design_id)
        self.bench.set_current(design_id)
        self._show_year()

    def order(self) -> list[str]:
        """Return the ids of the designs as they are listed."""
        return self.bench.order()

    def ask_sweep(self, face: Face, layer: int) -> None:
        """Show what each centimetre of a layer brings."""
        self.go_to("compare")
        self.compare.sweep.ask(face, layer)
        self.compare.show_view("sweep")

    def repaint_all(self) -> None:
        """Draw everything anew, in the colours there are now."""
        for widget in self.findChildren(QWidget):
            # What keeps pictures of itself paints them anew.
            getattr(widget, "repaint_all", widget.update)()

    def idle(self) -> bool:
        """Return whether nothing is under way."""
        return not self.under_way()

    def under_way(self) -> list[str]:
        """Return the names of what is under way."""
        rest = {
            "figures": self.results.idle,
            "jobs": self.jobs.idle,
            "logs": self.log_jobs.idle,
            "years": self.years.jobs.idle,
        }
        if "build" in self._made:
            rest["plans"] = self.build.plans.idle
        if "place" in self._made:
            rest["weather"] = self.place.hours.jobs.idle
        return [name for name, idle in rest.items() if not idle()]

    def say(self, sentence: str) -> None:
        """Show a sentence in the status bar."""
        self._progress.setVisible(False)
        self._tells_of_work = False
        self.statusBar().showMessage(sentence)

    def refuse(self, sentence: str) -> None:
        """Show why something was not done, above the area, until the next act."""
        self.refusal.show_refusal(sentence)
        if sentence:
            self.say(sentence)

    def refuse_edit(self, error: CalvethError) -> None:
        """Show why an edit was not made; where hives were built so, offer the copy."""
        sentence = sentence_of(error, self.view.units)
        self.say(sentence)
        kept = self.document.project.diary.entries_of(self.view.design_id) > 0
        self.refusal.show_refusal(sentence, copy=kept)

    # -- shows ---------------------------------------------------------------------------------
    def _project_changed(self, before: Project, after: Project) -> None:
        if after != before:
            self.refusal.clear()
        ids = [d.id for d in after.designs]
        if self.view.design_id not in ids:
            self.choose(ids[0])
        self._show_year()

    def _updated(self, design_id: str) -> None:
        if design_id == self.view.design_id:
            self._show_year()

    def _show_year(self, *_: object) -> None:
        follow = self.results.follow_up(self.view.design_id)
        self.ribbon.show_year(
            self.document.project.place,
            self.results.monthly(self.view.design_id),
            self.view.units,
            () if follow is None else follow.snow.months,
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
        self.menus.refresh()

    def _show_busy(self, busy: bool) -> None:
        if busy:
            self.say("working out the year …")
            self._tells_of_work = True
        elif self._tells_of_work:
            self.say("")

    def _show_progress(self, share: float) -> None:
        if self.results.trying and self.jobs.idle():
            self.statusBar().showMessage("trying what helps … Esc stops it")
            self._tells_of_work = True
        self._progress.setVisible(share < 1.0)
        self._progress.setValue(round(100 * share))

    def _let_go(self) -> None:
        """Stop the worker and the file; the history must not call a window that is gone."""
        self.document.undo_stack.indexChanged.disconnect(self._show_history)
        self.jobs.cancel()
        self.years.jobs.close()
        self.log_jobs.close()
        if "build" in self._made:
            self.build.close_plans()
        if "place" in self._made:
            self.place.hours.jobs.close()
        self.results.close()
        self.document.close()

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self._closed:
            if not files.may_leave(self.context):
                event.ignore()
                return
            self._closed = True
            geometry = bytes(self.saveGeometry().data()).hex()
            self.preferences.put(replace(self.preferences.value, geometry=geometry))
            self._let_go()
            self.jobs.close()
        super().closeEvent(event)
