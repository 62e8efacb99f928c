"""Seasons: who opens, closes, adds and removes what and when, and what comes of it."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtGui import QAction, QHideEvent, QResizeEvent, QShowEvent
from PySide6.QtWidgets import (
    QBoxLayout,
    QHBoxLayout,
    QMenu,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from calveth.app.areas.acts_list import ActsList
from calveth.app.areas.findings_panel import finding_row, worst_first
from calveth.app.areas.hour_panel import HourPanel
from calveth.app.areas.questions_page import QuestionsPage
from calveth.app.areas.schools_panel import SchoolsPanel
from calveth.app.areas.year_page import YEAR_NODES, YearPage
from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import ElidedLabel, clear, label, rule
from calveth.app.widgets.pages import LateArea, page_scroll, scroll_of, tab_row
from calveth.app.widgets.plan_grid import PlanGrid, PlanRow
from calveth.app.widgets.year_table import YearTable
from calveth.core.advice.findings import findings
from calveth.core.calendar import DAYS_IN_MONTH
from calveth.core.climate.place import days_without_forage
from calveth.core.edits import move_act, set_month_setting, set_school, set_seasons
from calveth.core.hive.by_month import setting_of
from calveth.core.hive.design import FACES, Design
from calveth.core.hive.plans import starting_plan
from calveth.core.hive.season_plan import NO_PLAN, Setting
from calveth.core.school import SCHOOLS, School
from calveth.texts.findings import in_words
from calveth.texts.schools import SCHOOL_TEXT

_MOST_FINDINGS = 4
# Side by side only where a month of the plan still holds three figures [px].
_BESIDE_PX, _SIDE_PX, _BELOW_PX, _WIDGET_MOST = 900, 330, 200, 16_777_215


class SeasonsArea(LateArea):
    """Edits the season plan of one design and shows the year it makes.

    Signals
    -------
    plan_wanted(school, plan)
        A plan to start from was chosen; what it makes worse is to be said first.
    refused(sentence)
        An act cannot be on the day it was moved to.
    """

    plan_wanted = Signal(str, object)
    refused = Signal(str)

    def __init__(self, document: Document, results: Results, view: ViewState, jobs: Jobs) -> None:
        super().__init__()
        self._document, self._results, self._view = document, results, view
        self.title = ElidedLabel("title")
        self.plan_button = QPushButton("Start from a plan")
        menu = QMenu(self.plan_button)
        self.plan_actions: dict[str, QAction] = {}
        for school in SCHOOLS:
            action = menu.addAction(f"{school}")
            action.setToolTip(SCHOOL_TEXT[school].does)
            action.triggered.connect(partial(self._start, school))
            self.plan_actions[school] = action
        menu.addSeparator()
        self.plan_actions["none"] = menu.addAction("no plan: the same all year")
        self.plan_actions["none"].triggered.connect(self._clear)
        self.plan_button.setMenu(menu)
        self.grid = PlanGrid()
        self.grid.changed.connect(self._set)
        self.grid.month_chosen.connect(view.set_month)
        self.hint = label(role="muted", wrap=True)
        self.acts = ActsList()
        self.acts.moved.connect(self._move)
        self.table = YearTable(view)
        self.school = Choice("school", [(s, s) for s in SCHOOLS], self._choose_school)
        self.schools = SchoolsPanel()
        self.year = YearPage(results, view)
        self.questions = QuestionsPage(document, results, view, jobs)
        self.pages = QStackedWidget()
        self.page = "plan"
        self._findings = QVBoxLayout()
        self._findings.setSpacing(4)
        row = self._row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self._left(), 1)
        self.hour = HourPanel(document, results, view)
        self.sides = QStackedWidget()
        self._side_pages = (self._right(), scroll_of(self.hour, _SIDE_PX))
        for side in self._side_pages:
            self.sides.addWidget(side)
        row.addWidget(self.sides)
        self._lay_out()
        for signal in (
            view.design_changed,
            view.month_changed,
            view.units_changed,
            document.changed,
        ):
            signal.connect(self._show)
        results.updated.connect(self._updated)
        results.year_progress.connect(self._progress)

    def _left(self) -> QWidget:
        body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(14, 8, 8, 8)
        column.setSpacing(8)
        head = QHBoxLayout()
        self.tabs = tab_row(
            self,
            head,
            [("plan", "Plan"), ("year", "Hours"), ("questions", "Answers")],
            "seasons",
            self.show_page,
        )
        self.tabs["plan"].setChecked(True)
        head.addWidget(self.title, 1)
        head.addWidget(self.plan_button)
        column.addLayout(head)
        for page in (self._plan_page(), page_scroll(self.year), page_scroll(self.questions)):
            self.pages.addWidget(page)
        column.addWidget(self.pages, 1)
        return body

    def _plan_page(self) -> QWidget:
        body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.grid)
        column.addWidget(self.hint)
        self._acts_head = label("What to do when", "heading")
        column.addWidget(self._acts_head)
        column.addWidget(self.acts)
        column.addWidget(label("The year with it", "heading"))
        column.addWidget(self.table)
        column.addStretch()
        return page_scroll(body)

    def show_page(self, page: str) -> None:
        """Show the plan, the hours of the year, or the answers."""
        self.page = page
        self.tabs[page].setChecked(True)
        self.pages.setCurrentIndex(("plan", "year", "questions").index(page))
        self.plan_button.setVisible(page == "plan")
        self.sides.setCurrentIndex(int(page == "year"))
        if page != "year":
            self.year.stop()
        self._look()
        self._show()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._lay_out()

    def _lay_out(self) -> None:
        """Put what the month says beside the plan, or below it where months would be too narrow."""
        beside = self.width() >= _BESIDE_PX
        way = QBoxLayout.Direction.LeftToRight if beside else QBoxLayout.Direction.TopToBottom
        if way == self._row.direction() and self.sides.property("beside") == beside:
            return
        self.sides.setProperty("beside", beside)
        self._row.setDirection(way)
        least, most = (_SIDE_PX, _SIDE_PX) if beside else (0, _WIDGET_MOST)
        for widget in (self.sides, *self._side_pages):
            widget.setMinimumWidth(least)
            widget.setMaximumWidth(most)
        self.sides.setMaximumHeight(_WIDGET_MOST if beside else _BELOW_PX)

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._look()

    def hideEvent(self, event: QHideEvent) -> None:
        super().hideEvent(event)
        self._look()

    def _look(self) -> None:
        """Have the year worked out while it is looked at."""
        self._results.look_at(YEAR_NODES, self.isVisible() and self.page != "plan")

    def _right(self) -> QWidget:
        body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(7)
        head = QHBoxLayout()
        head.addWidget(label("judged for", "muted"))
        head.addWidget(self.school, 1)
        column.addLayout(head)
        column.addWidget(self.schools)
        column.addWidget(rule())
        column.addLayout(self._findings)
        column.addStretch()
        return scroll_of(body, _SIDE_PX)

    # -- acts ----------------------------------------------------------------------------------
    def _design(self) -> Design:
        return self._document.project.design(self._view.design_id)

    def _start(self, school: School, *_: object) -> None:
        plan = starting_plan(self._design(), self._document.project.place, school)
        self.plan_wanted.emit(school, plan)

    def _clear(self, *_: object) -> None:
        design = self._design()
        self._document.attempt("no season plan", lambda p: set_seasons(p, design.id, NO_PLAN))

    def _set(self, key: str, month: int, value: float) -> None:
        design = self._design()

        def change(setting: Setting) -> Setting:
            if key == "quilt":
                return replace(setting, quilt=value > 0)
            if key == "cover":
                return replace(setting, cover=value > 0)
            if key == "tray":
                return replace(setting, tray=value > 0)
            return setting.with_share(key.removeprefix("opening:"), value)

        self._document.attempt(
            "season plan",
            lambda p: set_month_setting(p, design.id, month, change),
            merge=f"{design.id}/plan/{key}/{month}",
        )

    def _move(self, from_day: int, to_day: int) -> None:
        design = self._design()
        if not self._document.attempt(
            "day of an act", lambda p: move_act(p, design.id, from_day, to_day)
        ):
            # What is refused stays as it was.
            self.acts.show_design(design)

    def _choose_school(self, school: str) -> None:
        self._document.attempt("school", lambda p: set_school(p, school))  # type: ignore[arg-type]

    # -- shows ---------------------------------------------------------------------------------
    def _progress(self, _: float) -> None:
        if self.page == "year":
            self.year.show_design(self._view.design_id)
        elif self.page == "questions":
            self.questions.show_design(self._view.design_id)

    def _updated(self, design_id: str) -> None:
        if design_id == self._view.design_id:
            self._show()

    def _fill(self) -> None:
        design, project = self._design(), self._document.project
        self.title.setText(f"{design.name} through the year")
        if self.page == "year":
            self.year.show_design(design.id)
            self.hour.show_soon()
        elif self.page == "questions":
            self.questions.show_design(design.id)
        days = days_without_forage(project.place)
        winter = tuple(days[k] >= DAYS_IN_MONTH[k] / 2 for k in range(12))
        self.grid.show_plan(plan_rows(design), self._view.month, winter)
        self.hint.setText(
            "Space or a click goes on, + and − step, 0 to 9 set a share. Shaded months bring no "
            "forage."
            if design.seasons
            else "No plan yet: the hive stays the same all year. Set a cell, or start from a plan."
        )
        self.acts.show_design(design)
        self._acts_head.setVisible(bool(self.acts.dates))
        self.school.show_id(project.school)
        monthly = self._results.monthly(design.id)
        follow = self._results.follow_up(design.id)
        self.table.show_year(monthly, follow, project.place)
        self.schools.show_verdicts(
            follow.verdicts if follow else None, project.school, self._view.units
        )
        clear(self._findings)
        if monthly is None:
            self._findings.addWidget(
                label(self._results.error(design.id) or "Working …", wrap=True)
            )
            return
        depth = follow.depth(self._view.month) if follow else None
        rows = findings(monthly, self._view.month, depth)
        sentences = worst_first([in_words(f, self._view.units) for f in rows])
        for finding in sentences[:_MOST_FINDINGS]:
            self._findings.addLayout(finding_row(finding))


def plan_rows(design: Design) -> tuple[PlanRow, ...]:
    """Return the rows of a design's plan: its openings, and what can be put on."""
    settings = [setting_of(design, k) for k in range(12)]
    rows = [
        PlanRow(
            f"opening:{o.id}",
            f"{o.name}, open %",
            True,
            tuple(s.share(o.id, o.free_share) for s in settings),
        )
        for o in design.openings
    ]
    fittings = {layer.fitting for face in FACES for layer in design.shell.stack(face)}
    for key in ("quilt", "cover"):
        if key in fittings:
            rows.append(
                PlanRow(key, f"{key} on", False, tuple(float(getattr(s, key)) for s in settings))
            )
    if design.has_tray:
        rows.append(PlanRow("tray", "tray in", False, tuple(float(s.tray) for s in settings)))
    return tuple(rows)
