"""Diary: hives that stand, what was seen of them beside what was expected, and what is due."""

from __future__ import annotations

from datetime import date, datetime

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from calveth.app.areas.inspection_form import (
    LID_COLUMNS,
    LID_ROWS,
    WALL_COLUMNS,
    WALL_ROWS,
    InspectionForm,
    by_side,
)
from calveth.app.areas.logs_page import LogsPage
from calveth.app.areas.standing_list import StandingList
from calveth.app.areas.why_page import WhyPage
from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.results import Results
from calveth.app.season_years import SeasonYears
from calveth.app.view_state import ViewState
from calveth.app.widgets.labels import clear, label, rule
from calveth.app.widgets.mark_grid import MarkGrid
from calveth.app.widgets.pages import LateArea, scroll_of, tab_row
from calveth.core.diary.due import Due, due_acts
from calveth.core.diary.expected import (
    agreement,
    expected_at,
    survival,
)
from calveth.core.diary.years import TYPICAL, SeasonYear, hive_key, stores_beside, year_key
from calveth.core.edits_diary import set_diary
from calveth.core.errors import DomainError
from calveth.core.records.diary import (
    NOT_LOOKED,
    Diary,
    Inspection,
    StandingHive,
    next_id,
    refuse_future,
)
from calveth.texts.design_changes import version_sentences
from calveth.texts.diary import (
    agreement_sentence,
    beside_sentences,
    due_sentence,
    survival_sentence,
)
from calveth.texts.units import sentence_of

PAGES = (("look", "Inspection"), ("logs", "Logs"), ("why", "Why it differs"))
_RIGHT_PX, _LEFT_PX = 316, 268
_DUE_SHOWN = 12


class DiaryArea(LateArea):
    """Edits the diary of the project; figures beside it are those of the year of each design.

    Signals
    -------
    calendar_wanted()
        What is due is to be written as a calendar.
    version_wanted(design_id, reason, month)
        A finding of a month is to become the next version of the design.
    design_wanted(design_id)
        The design of the chosen hive is to be looked at.
    refused(sentence)
        Something cannot be so; empty when all is well.
    """

    calendar_wanted = Signal()
    version_wanted = Signal(str, str, int)
    design_wanted = Signal(str)
    refused = Signal(str)

    def __init__(
        self, document: Document, results: Results, view: ViewState, jobs: Jobs, years: SeasonYears
    ) -> None:
        super().__init__()
        self._document, self._results, self._view = document, results, view
        self._hive = self._inspection = ""
        self.list = StandingList()
        self.form = InspectionForm(view)
        self.expected_lid = MarkGrid(
            "under the lid, as expected", LID_COLUMNS, LID_ROWS, fixed=True
        )
        self.expected_walls = MarkGrid("walls, as expected", WALL_COLUMNS, WALL_ROWS, fixed=True)
        self.answer = label("", wrap=True)
        self.tally = label("", "muted", wrap=True)
        self.versions = label("", "muted", wrap=True)
        self._versions_head = label("Version", "heading")
        self.version = QPushButton("Next version from this …")
        self.version.setToolTip("Copy the design; the reason is what was seen")
        self.calendar = QPushButton("As a calendar …")
        self._due = QVBoxLayout()
        self._due.setSpacing(3)
        self.ticks: list[QCheckBox] = []
        self.years = years
        self.logs = LogsPage(document, self.years, view)
        self.why = WhyPage(document, results, view, jobs)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.list.setFixedWidth(_LEFT_PX)
        row.addWidget(self.list)
        row.addLayout(self._pages(), 1)
        self._connect()

    def _pages(self) -> QVBoxLayout:
        """Return the pages of the chosen hive: inspections, logs, and why it differs."""
        look = QWidget()
        beside = QHBoxLayout(look)
        beside.setContentsMargins(2, 6, 0, 0)
        beside.setSpacing(0)
        beside.addWidget(scroll_of(self.form), 1)
        beside.addWidget(self._right())
        self.stack = QStackedWidget()
        for page in (look, self.logs, self.why):
            self.stack.addWidget(page)
        tabs = QHBoxLayout()
        tabs.setContentsMargins(10, 6, 10, 0)
        self.tabs = tab_row(self, tabs, PAGES, "diary page", self.show_page)
        tabs.addStretch()
        self.tabs["look"].setChecked(True)
        column = QVBoxLayout()
        column.setSpacing(0)
        column.addLayout(tabs)
        column.addWidget(self.stack, 1)
        return column

    def show_page(self, key: str) -> None:
        """Show a page of the chosen hive."""
        self.stack.setCurrentIndex([k for k, _ in PAGES].index(key))
        self.tabs[key].setChecked(True)
        self._show_page()

    def _show_page(self) -> None:
        page = self.stack.currentWidget()
        if page is self.logs or page is self.why:
            page.show_hive(self._hive)

    def _right(self) -> QWidget:
        body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(10, 8, 10, 8)
        column.setSpacing(6)
        column.addWidget(label("Expected at that hour", "heading"))
        column.addWidget(self.expected_lid)
        column.addWidget(self.expected_walls)
        column.addWidget(self.answer)
        column.addWidget(self.version)
        column.addWidget(rule())
        column.addWidget(self._versions_head)
        column.addWidget(self.versions)
        column.addWidget(label("All inspections together", "heading"))
        column.addWidget(self.tally)
        column.addWidget(rule())
        head = QHBoxLayout()
        head.addWidget(label("What is due", "heading"), 1)
        head.addWidget(self.calendar)
        column.addLayout(head)
        column.addLayout(self._due)
        column.addStretch()
        scroll = scroll_of(body)
        scroll.setFixedWidth(_RIGHT_PX)
        return scroll

    def _connect(self) -> None:
        self.list.hive_chosen.connect(self.choose_hive)
        self.list.inspection_chosen.connect(self.choose_inspection)
        self.list.hive_changed.connect(
            lambda hive: self._edit("hive", lambda d: d.with_hive(hive), f"hive/{hive.id}")
        )
        self.list.set_up.clicked.connect(self.set_up)
        self.list.leave.clicked.connect(self._leave)
        self.list.look.clicked.connect(self.new_look)
        self.list.strike.clicked.connect(self._strike)
        for part in (self.list, self.form):
            part.refused.connect(self.refused)
        self.form.changed.connect(self._seen)
        self.version.clicked.connect(self._next_version)
        self.calendar.clicked.connect(self.calendar_wanted)
        self.years.came.connect(self._years_came)
        self._document.changed.connect(self._show)
        self._results.updated.connect(self._show)
        self._view.units_changed.connect(self._show)

    # -- acts ------------------------------------------------------------------------------------
    @property
    def _diary(self) -> Diary:
        return self._document.project.diary

    def _edit(self, what: str, change: object, merge: str = "") -> bool:
        """Change the diary; a refusal is told and what is shown comes back."""
        assert callable(change)
        try:
            self._document.edit(what, lambda p: set_diary(p, change(p.diary)), merge=merge)
        except DomainError as error:
            sentence = sentence_of(error, self._view.units)
            for part in (self.list, self.form):
                part.refuse(sentence)
            self.refused.emit(sentence)
            self._show()
            return False
        self.refused.emit("")
        return True

    @property
    def inspection(self) -> str:
        """Id of the inspection that is shown; empty without one."""
        return self._inspection

    def set_up(self, *_: object) -> None:
        """Let a hive stand from today, built as the design that is chosen on the bench."""
        diary = self._diary
        key = next_id({h.id for h in diary.hives}, "hive")
        hive = StandingHive(
            id=key,
            name=key.replace("-", " ").capitalize(),
            design=self._view.design_id,
            since=date.today().isoformat(),
        )
        if self._edit("set up a hive", lambda d: d.with_hive(hive)):
            self.choose_hive(key)

    def _leave(self, *_: object) -> None:
        gone = self._hive
        if self._edit("take a hive out", lambda d: d.without_hive(gone)):
            self.choose_hive("")

    def new_look(self, *_: object) -> None:
        """Begin an inspection of the chosen hive now, or on its last day."""
        diary = self._diary
        hive = diary.hive(self._hive)
        now = datetime.now().replace(second=0, microsecond=0)
        if not hive.stands_on(now.date()):
            now = datetime.fromisoformat(f"{hive.until or hive.since}T12:00")
        key = next_id({i.id for i in diary.inspections}, "look")
        look = Inspection(id=key, hive=hive.id, at=now.isoformat(timespec="minutes"))
        if self._edit("new inspection", lambda d: d.with_inspection(look)):
            self.choose_inspection(key)

    def _strike(self, *_: object) -> None:
        gone = self._inspection
        if self._edit("delete an inspection", lambda d: d.without_inspection(gone)):
            self.choose_inspection("")

    def _seen(self, inspection: Inspection) -> None:
        def change(diary: Diary) -> Diary:
            refuse_future((inspection,), datetime.now().date())
            return diary.with_inspection(inspection)

        self._edit("inspection", change, f"inspection/{inspection.id}")

    def choose_hive(self, hive_id: str) -> None:
        """Show another hive, and its newest inspection."""
        self._hive = hive_id
        seen = self._diary.of_hive(hive_id)
        self._inspection = seen[-1].id if seen else ""
        if hive_id:
            self.design_wanted.emit(self._diary.hive(hive_id).design)
        self._show()

    def choose_inspection(self, inspection_id: str) -> None:
        """Show another inspection of the hive."""
        self._inspection = inspection_id
        self._show()

    def _next_version(self, *_: object) -> None:
        look = self._look()
        if look is None:
            return
        wet = [mark for mark in look.lid if mark in ("wet", "ice")]
        reason = f"{len(wet)} of 9 places wet under the lid" if wet else look.text or "looked into"
        hive = self._diary.hive(look.hive)
        reason = f"{reason} on {look.at[:10]} in {hive.name}"
        self.version_wanted.emit(hive.design, reason, look.when.month - 1)

    def _tick(self, act: Due, on: bool) -> None:
        self._edit("tick", lambda d: d.with_done(act.key, on))

    # -- shows -----------------------------------------------------------------------------------
    def _look(self) -> Inspection | None:
        return next((i for i in self._diary.inspections if i.id == self._inspection), None)

    def _year_of(self, look: Inspection) -> SeasonYear | None:
        """Return the year an inspection is held against; None while it is worked out."""
        project = self._document.project
        shown = look.id == self._inspection
        return self.years.get(year_key(project, look, self.years.seasons()), ranged=shown)

    def _fill(self) -> None:
        known = {h.id for h in self._diary.hives}
        if self._hive not in known:
            self._hive = next(iter(known), "")
        if self._look() is None or self._inspection not in {
            i.id for i in self._diary.of_hive(self._hive)
        }:
            seen = self._diary.of_hive(self._hive)
            self._inspection = seen[-1].id if seen else ""
        self.list.show_diary(self._document.project, self._hive, self._inspection)
        look = self._look()
        self._show_page()
        self.form.show_inspection(look)
        self._show_expected(look)
        self._show_version()
        self._show_tally()
        self._show_due()

    def _show_expected(self, look: Inspection | None) -> None:
        self.version.setEnabled(look is not None)
        year = None if look is None else self._year_of(look)
        if look is None or year is None:
            self.expected_lid.show_marks((NOT_LOOKED,) * 9)
            self.expected_walls.show_marks((NOT_LOOKED,) * 12)
            waits = "The hours of the year are being worked out …"
            if look is not None:
                key = year_key(self._document.project, look, self.years.seasons())
                waits = self.years.trouble(key) or waits
            self.answer.setText(waits if look is not None else "Set up a hive, then look into it.")
            return
        expected = expected_at(year.run, look.when)
        self.expected_lid.show_marks(expected.lid)
        self.expected_walls.show_marks(by_side(expected.walls))
        project = self._document.project
        stores, band = stores_beside(project, look, year)
        if not year.ranged:
            stores = None  # how sure it is decides the verdict: it comes
        lines = beside_sentences(look, expected, stores, self._view.units, band)
        if not year.ranged:
            lines.append("The range of the stores is being worked out …")
        if year_key(project, look, self.years.seasons())[1] != TYPICAL:
            lines.append("In the weather of that winter, as far as it was logged.")
        self.answer.setText("\n".join(lines))

    def _years_came(self) -> None:
        if self.isVisible():
            self._show_expected(self._look())
            self._show_tally()
            self._show_due()

    def _show_version(self) -> None:
        """Say what the design of the chosen hive has another than the version before it."""
        project = self._document.project
        lines: list[str] = []
        if self._hive:
            lines = version_sentences(
                project, project.design(self._diary.hive(self._hive).design), self._view.units
            )
        self.versions.setText("\n".join(lines))
        for part in (self.versions, self._versions_head):
            part.setVisible(bool(lines))

    def _show_tally(self) -> None:
        """Count agreements of the hives whose year is known, and the winters they came through."""
        project = self._document.project
        pairs = [
            (look, expected_at(year.run, look.when))
            for look in self._diary.inspections
            if look.looked_at_lid and (year := self._year_of(look)) is not None
        ]
        lines = [agreement_sentence(agreement(pairs))]
        seasons = self.years.seasons()
        waiting = sum(
            look.looked_at_lid and not self.years.trouble(year_key(project, look, seasons))
            for look in self._diary.inspections
        ) - len(pairs)
        if waiting:
            lines = [f"The years of {waiting} inspections are being worked out …"]
        lines += [
            survival_sentence(each, project.design(each.design).name)
            for each in survival(self._diary, date.today())
        ]
        self.tally.setText("\n".join(lines))

    def _show_due(self) -> None:
        project = self._document.project
        years = {h.id: self.years.get(hive_key(h)) for h in self._diary.hives}
        runs = {key: year.run for key, year in years.items() if year is not None}
        acts = due_acts(
            project.diary,
            project.place,
            project.colony.stores_kg,
            {d.id: d.seasons for d in project.designs},
            runs,
            date.today(),
        )
        clear(self._due)
        self.ticks = []
        for act in acts[:_DUE_SHOWN]:
            words = due_sentence(act, project.design(act.hive.design), self._view.units)
            tick = QCheckBox(f"{act.day.isoformat()} {act.hive.name}")
            tick.setChecked(act.key in project.diary.done)
            tick.setAccessibleName(f"{act.day.isoformat()} {act.hive.name}: {words}")
            tick.clicked.connect(lambda on, a=act: self._tick(a, on))
            self.ticks.append(tick)
            self._due.addWidget(tick)
            self._due.addWidget(label(words, "muted", wrap=True))
        if not acts:
            self._due.addWidget(label("Nothing: no hive stands.", "muted"))
        self.calendar.setEnabled(bool(acts))
