"""Compare: two to eight designs side by side under one lens and one month."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QHBoxLayout,
    QMenu,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from calveth.app.areas.lens_row import lens_row
from calveth.app.areas.measures import figure_rows, school_rows
from calveth.app.areas.sweep_panel import SweepPanel
from calveth.app.areas.travel_panel import TravelPanel
from calveth.app.areas.year_panel import YearPanel
from calveth.app.areas.year_sweep_panel import YearSweepPanel
from calveth.app.cutaway.view import scene
from calveth.app.cutaway.widget import CutawayWidget
from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.figure_grid import LEFT, FigureGrid
from calveth.app.widgets.labels import clear, fit_stack, label
from calveth.app.widgets.ledger_bars import LedgerBars, heat_bar, water_bar
from calveth.app.widgets.pages import LateArea, scroll_of, tab_row, top_page
from calveth.core.advice.schools import SchoolVerdict
from calveth.core.climate.place import has_forage
from calveth.core.compare.order import ordered_designs
from calveth.core.compare.table import CompareRow
from calveth.core.edits import set_school
from calveth.core.hive.design import Design
from calveth.core.school import SCHOOLS
from calveth.core.solids.build import build_solids
from calveth.core.solids.quantities import outer_size_m
from calveth.texts.criteria import criterion_text
from calveth.texts.measures import MEASURES
from calveth.texts.summary import summary_sentences

_PICTURE_PX = 86
_LEAST_COLUMN_PX = 104
_LISTED = "as listed"
VIEWS = ("figures", "ledgers", "schools", "sweep", "sizes", "year", "travel")
_ALONE = ("sweep", "sizes", "year", "travel")
_WITH_PICTURES = ("figures", "schools")
_VIEW_TEXT = {
    "figures": "Figures",
    "ledgers": "Heat and water",
    "schools": "Ways of wintering",
    "sweep": "What a cm brings",
    "sizes": "Sizes",
    "year": "The year",
    "travel": "Elsewhere",
}


class CompareArea(LateArea):
    """Designs as columns, measures as rows; best and worst are marked in words.

    Signals
    -------
    working_wanted(design_id, figure)
        A figure was asked for its working.
    """

    working_wanted = Signal(str, str)

    def __init__(self, document: Document, results: Results, view: ViewState, jobs: Jobs) -> None:
        super().__init__()
        self._document, self._results, self._view = document, results, view
        self._ids: list[str] = []
        self._hidden: set[str] = set()
        self._as_listed = False
        self.summary = label(role="big", wrap=True)
        self.figures = FigureGrid("figures of the hives side by side")
        self.figures.asked.connect(self._ask_working)
        self.ledgers = LedgerBars()
        self.schools = FigureGrid("what each school says of each hive")
        self.schools.asked.connect(self._show_criteria)
        self.schools.moved.connect(self._show_criteria)
        self.criteria = label(role="muted", wrap=True)
        self.sweep = SweepPanel(document, view, jobs)
        self.year = YearPanel(document, results, view, jobs)
        self.travel = TravelPanel(document, results, view, jobs)
        self.sizes = YearSweepPanel(document, results, view, jobs)
        for panel in (self.year, self.travel):
            panel.of_hives(lambda: [d.id for d in self._compared()])
        self.pictures: dict[str, CutawayWidget] = {}
        self._picture_row = QHBoxLayout()
        self._picture_row.setContentsMargins(int(LEFT), 0, 0, 0)
        self._picture_row.setSpacing(0)
        self._pages = QStackedWidget()
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 6, 10, 0)
        column.setSpacing(4)
        column.addLayout(self._head())
        column.addWidget(self.summary)
        column.addWidget(self._scroll(), 1)
        for signal in (
            view.month_changed,
            view.lens_changed,
            view.units_changed,
            document.changed,
            results.updated,
        ):
            signal.connect(self._show)
        self._show()

    def _head(self) -> QVBoxLayout:
        """Return the views in one row, what is looked at in the next: both fit a small screen."""
        tabs, head, both = QHBoxLayout(), QHBoxLayout(), QVBoxLayout()
        texts = [(key, _VIEW_TEXT[key]) for key in VIEWS]
        self.view_buttons = tab_row(self, tabs, texts, "compare", self.show_view)
        self.view_buttons["figures"].setChecked(True)
        tabs.addStretch()
        self.choose_button = QPushButton("Hives …")
        self.choose_button.setToolTip("Which hives stand side by side")
        self.choose_button.setMenu(QMenu(self.choose_button))
        self.choose_button.menu().aboutToShow.connect(self._fill_menu)
        head.addWidget(self.choose_button)
        self._judged = label("judged for", "muted")
        head.addWidget(self._judged)
        rows = [(s, s) for s in SCHOOLS] + [(_LISTED, "order of the list")]
        self.school = Choice("way of wintering that orders", rows, self._choose_school)
        self.school.setToolTip("Hives that suit this way of wintering stand first")
        head.addWidget(self.school)
        head.addStretch()
        self.lens_buttons = lens_row(self, head, self._view)
        both.setSpacing(4)
        both.addLayout(tabs)
        both.addLayout(head)
        return both

    def _scroll(self) -> QScrollArea:
        schools = QWidget()
        inner = QVBoxLayout(schools)
        inner.setContentsMargins(0, 0, 0, 0)
        inner.addWidget(self.schools)
        inner.addWidget(self.criteria)
        inner.addStretch()
        pages = (
            top_page(self.figures),
            top_page(self.ledgers),
            schools,
            self.sweep,
            self.sizes,
            self.year,
            self.travel,
        )
        self._page_list: tuple[QWidget, ...] = pages
        for page in pages:
            self._pages.addWidget(page)
        fit_stack(self._pages, pages)
        body = self._body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(0, 0, 6, 0)
        column.setSpacing(4)
        column.addLayout(self._picture_row)
        column.addWidget(self._pages, 1)
        scroll = scroll_of(body)
        for grid in (self.figures, self.schools):
            scroll.horizontalScrollBar().valueChanged.connect(grid.keep_names_in_sight)
        return scroll

    def show_view(self, key: str, *_: object) -> None:
        """Show figures, ledgers, schools, a sweep of months or years, the year or other places."""
        self.view_buttons[key].setChecked(True)
        self._pages.setCurrentIndex(VIEWS.index(key))
        fit_stack(self._pages, self._page_list)
        for picture in self.pictures.values():
            picture.setVisible(key in _WITH_PICTURES)
        self.summary.setVisible(key not in _ALONE)
        # Where they do nothing they are not offered.
        for widget in (*self.lens_buttons.values(), self.school, self._judged):
            widget.setVisible(key not in _ALONE)
        self.choose_button.setVisible(key not in ("sweep", "sizes"))
        if key == "sweep":
            self.sweep.begin()
        elif key == "sizes":
            self.sizes.begin()
        elif key == "year":
            self.year.begin()

    def stopped(self) -> None:
        """Take note that slow work was called off."""
        self.sweep.stopped()
        self.sizes.stopped()
        self.year.stopped()
        self.travel.stopped()

    # -- acts ----------------------------------------------------------------------------------
    def _fill_menu(self) -> None:
        """Offer every hive to be shown or not."""
        menu = self.choose_button.menu()
        menu.clear()
        for design in self._document.project.designs:
            action = menu.addAction(design.name.replace("&", "&&"))
            action.setCheckable(True)
            action.setChecked(design.id not in self._hidden)
            action.toggled.connect(partial(self.show_hive, design.id))

    def show_hive(self, design_id: str, on: bool) -> None:
        """Put a hive beside the others or leave it out; one stays at least."""
        ids = {d.id for d in self._document.project.designs}
        hidden = self._hidden - {design_id} if on else self._hidden | {design_id}
        if ids - hidden:
            self._hidden = hidden
            self._show()

    def _choose_school(self, school: str) -> None:
        self._as_listed = school == _LISTED
        if self._as_listed:
            self._show()
            return
        if school == self._document.project.school:
            self._show()
        self._document.attempt("school", lambda p: set_school(p, school))  # type: ignore[arg-type]

    def _ask_working(self, row: int, column: int) -> None:
        if MEASURES[row].figure:
            self.working_wanted.emit(self._ids[column], MEASURES[row].figure)

    def _show_criteria(self, row: int, column: int) -> None:
        follow = self._results.follow_up(self._ids[column])
        if follow is None:
            return
        verdict: SchoolVerdict = follow.verdicts[row]
        name = self._document.project.design(self._ids[column]).name
        lines = [f"{verdict.school} on {name}:"] + [
            f"{'✓ met' if c.passed else '✗ not met'} · {criterion_text(c, self._view.units)}"
            for c in verdict.criteria
        ]
        self.criteria.setText("\n".join(lines))

    # -- shows ---------------------------------------------------------------------------------
    def _compared(self) -> list[Design]:
        """Return the designs that are chosen, in the order of the school or of the list."""
        project = self._document.project
        follow = {d.id: self._results.follow_up(d.id) for d in project.designs}
        monthly = {d.id: self._results.monthly(d.id) for d in project.designs}
        listed = [d for d in project.designs if d.id not in self._hidden]
        if self._as_listed:
            own = [d for d in listed if not d.benchmark]
            return own + [d for d in listed if d.benchmark]
        return [d for d in ordered_designs(project, monthly, follow) if d.id not in self._hidden]

    def _fill(self) -> None:
        project, month = self._document.project, self._view.month
        designs = self._compared()
        ids = [d.id for d in designs]
        if ids != self._ids:
            self._build(ids)
        self.lens_buttons[self._view.lens].setChecked(True)
        self.school.show_id(_LISTED if self._as_listed else project.school)
        rows = {i: self._results.row(i, month) for i in ids}
        self._summarise(rows, month)
        self._pictures(designs, month)
        heads = [d.name + ("\nto compare with" if d.benchmark else "") for d in designs]
        self.figures.show_rows(heads, figure_rows(ids, rows, self._view.units))
        verdicts = {
            i: follow.verdicts for i in ids if (follow := self._results.follow_up(i)) is not None
        }
        self.schools.show_rows(heads, school_rows(ids, verdicts, project.school))
        self._show_criteria(*self.schools.cell)
        known = [m for i in ids if (m := self._results.monthly(i)) is not None]
        self.ledgers.show_bars(
            tuple(heat_bar(m, month) for m in known),
            tuple(water_bar(m, month, self._view.units) for m in known),
        )

    def _build(self, ids: list[str]) -> None:
        clear(self._picture_row)
        wide = int(LEFT) + _LEAST_COLUMN_PX * len(ids)
        self._body.setMinimumWidth(wide)
        self._ids, self.pictures = ids, {}
        for design_id in ids:
            picture = CutawayWidget(small=True)
            picture.setFixedHeight(_PICTURE_PX)
            self.pictures[design_id] = picture
            self._picture_row.addWidget(picture, 1)
            # Only now: shown without a parent it would be a window of its own.
            picture.setVisible(VIEWS[self._pages.currentIndex()] in _WITH_PICTURES)

    def _summarise(self, rows: dict[str, CompareRow | None], month: int) -> None:
        known = [row for row in rows.values() if row is not None]
        if len(known) == len(rows):
            forage = has_forage(self._document.project.place, month)
            self.summary.setText(
                " ".join(summary_sentences(known, month, forage=forage, units=self._view.units))
            )
            return
        broken = [self._results.error(i) for i in self._ids if self._results.error(i)]
        self.summary.setText(broken[0] if broken else "Working it out …")

    def _pictures(self, designs: list[Design], month: int) -> None:
        """Draw the boxes to one scale; a tree too tall for it is drawn as large as it fits."""
        project = self._document.project
        boxes = [d for d in designs if d.form.has_frames]
        sizes = [outer_size_m(build_solids(d)) for d in boxes or designs]
        room = max(
            60.0,
            (max(self.width(), self._body.minimumWidth()) - LEFT - 30) / max(1, len(designs)) - 6,
        )
        limit = min(
            (_PICTURE_PX - 8) / max(size[2] for size in sizes),
            room / max(size[1] for size in sizes),
        )
        for design in designs:
            picture = scene(
                design,
                project.material_table(),
                project.colony,
                self._results.monthly(design.id),
                month,
                self._view.lens,
                units=self._view.units,
                solved=self._results.conduction(design.id, month),
            )
            self.pictures[design.id].set_scene(picture, limit)

    def cell(self, design_id: str, measure: str) -> str:
        """Return what is written for a hive and a measure."""
        return self.figures.texts()[measure, self._ids.index(design_id)]

    def mark(self, design_id: str, measure: str) -> str:
        """Return the mark of a hive at a measure: best, worst or none."""
        return self.figures.marks()[measure, self._ids.index(design_id)]

    @property
    def order(self) -> list[str]:
        """Ids of the hives from left to right."""
        return list(self._ids)
