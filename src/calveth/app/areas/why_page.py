"""Why a hive differs from what was expected, and what its logs tell of the factors."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from calveth.app.areas.working_panel import WorkingPanel
from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.figure_grid import Cell, FigureGrid, GridRow
from calveth.app.widgets.labels import label, rule
from calveth.app.widgets.pages import scroll_of
from calveth.core.diary.calibrate import Calibration, factors_of
from calveth.core.diary.explain import NOT_ENOUGH, Explained, Explanation
from calveth.core.diary.hive_season import HiveSeason, hive_season, seasons_of
from calveth.core.errors import CalvethError, DomainError
from calveth.texts.units import UnitSystem, sentence_of
from calveth.texts.why import (
    TESTS,
    WHY_TEXT,
    calibration_sentences,
    explained_sentences,
    look_figure,
)

_SHOWN = 8
_CAUTION = (
    "Tests of an empty hive (a lamp of known watts, or CO2 let in and watched) tell more: menu "
    "Hours, Test of an empty hive. A lamp made for it, away from straw and foam, and stay near."
)


class WhyPage(WorkingPanel):
    """Tries explanations, ranks them, fits the factors, and offers to take them over.

    Signals
    -------
    taken_over(design_id, factors, note)
        Factors are to be kept with the design.
    """

    taken_over = Signal(str, object, str)

    def __init__(self, document: Document, results: Results, view: ViewState, jobs: Jobs) -> None:
        super().__init__(jobs, "the explanations are")
        self._document, self._results, self._view = document, results, view
        self.hive, self.season = "", 0
        self.explained: Explained | None = None
        self.calibration: Calibration | None = None
        self._of_season: HiveSeason | None = None
        self._note = ""
        self.seasons = Choice("season", [], self._choose)
        self.answer = label("", wrap=True)
        self.grid = FigureGrid("explanations")
        self.factors = label("", wrap=True)
        self.take = QPushButton("Take over as factors")
        self.take.setToolTip("Keep with the design what the logs tell; Undo takes it back")
        self.kept = label("", "muted", wrap=True)
        head = QHBoxLayout()
        for widget in (label("season", "muted"), self.seasons, self.button, self.progress):
            head.addWidget(widget)
        head.addWidget(self.state, 1)
        body = QWidget()
        inner = QVBoxLayout(body)
        inner.setContentsMargins(0, 0, 10, 0)
        for part in (
            label("What would explain it", "heading"),
            self.answer,
            self.grid,
            rule(),
            label("What the logs tell", "heading"),
            self.factors,
        ):
            inner.addWidget(part)
        row = QHBoxLayout()
        row.addWidget(self.take)
        row.addWidget(self.kept, 1)
        inner.addLayout(row)
        inner.addWidget(label(_CAUTION, "muted", wrap=True))
        inner.addStretch()
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 6, 10, 8)
        column.addLayout(head)
        column.addWidget(scroll_of(body), 1)
        self.take.clicked.connect(self._take_over)
        view.units_changed.connect(lambda *_: self.show_hive(self.hive))

    def show_hive(self, hive: str) -> None:
        """Show another hive; what was found of the one before goes."""
        # Out of sight a page may be asked with the hive of a project that was left.
        hive = hive if self._document.project.diary.has_hive(hive) else ""
        known = seasons_of(self._document.project, hive) if hive else []
        if hive != self.hive:
            self.hive = hive
            self.season = known[-1] if known else 0
        elif self.season not in known:
            self.season = known[-1] if known else 0
        self.seasons.set_rows([(str(s), f"{s} / {(s + 1) % 100:02d}") for s in known])
        self.seasons.show_id(str(self.season))
        if self._of and self._of[1:3] != (self.hive, self.season):
            self.explained = self.calibration = None
            self._note, self._of = "", ()
        self._show()

    def _asked(self) -> tuple[object, ...]:
        project = self._document.project
        if not self.hive:
            return ()
        design = project.diary.hive(self.hive).design
        return (self._results.values_of(design), self.hive, self.season, project.diary)

    def begin(self) -> None:
        """Try the explanations, then fit the factors."""
        if not self.hive or not self.season or not self._jobs.idle():
            return
        try:
            season = hive_season(self._document.project, self.hive, self.season)
        except CalvethError as error:
            self.state.setText(sentence_of(error, self._view.units))
            return
        self._of, self._of_season = self._asked(), season
        self.explained = self.calibration = None
        self._note = ""

        def work(report: Callable[[float], None]) -> object:
            return season.explained(report)

        def done(answer: object) -> None:
            assert isinstance(answer, Explained)
            self.explained = answer
            self._calibrate(season, answer)
            self._show()

        self._start(work, done)

    def _calibrate(self, season: HiveSeason, explained: Explained) -> None:
        """Fit the factors next; too few nights are no error but an answer."""

        def work(report: Callable[[float], None]) -> object:
            try:
                return season.calibrated(explained.run, report)
            except DomainError as error:
                return str(error)

        def done(answer: object) -> None:
            self.calibration = answer if isinstance(answer, Calibration) else None
            self._note = answer if isinstance(answer, str) else ""
            self._show()

        self._start(work, done)

    def _show(self, *_: object) -> None:
        units, shown = self._view.units, self.explained
        self.answer.setText("\n".join(explained_sentences(shown, units)) if shown else "")
        rows = [] if shown is None else _rows(shown, units)
        self.grid.show_rows(["misfit", *(TESTS[t][2] for t in TESTS)], rows)
        self.grid.setVisible(bool(rows))
        texts = calibration_sentences(self.calibration) if self.calibration else [self._note]
        self.factors.setText("\n".join(texts))
        can = self.calibration is not None and bool(factors_of(self.calibration))
        self.take.setVisible(can)
        factors = None
        if self.hive:
            project = self._document.project
            factors = project.design(project.diary.hive(self.hive).design).factors
        self.kept.setText("" if factors is None else f"The design is calibrated: {factors.note}")
        self._tell()

    def _tell(self, *_: object) -> None:
        self.button.setText("Stop" if self._working else "Work it out")
        self.button.setEnabled(self._working or bool(self.season))
        if not self.season:
            self.state.setText("Nothing was seen of this hive yet: look into it, or read a log.")
        elif self._working:
            trying = "the factors are fitted …" if self.explained else "explanations are tried …"
            self.state.setText(trying)
        elif self.explained is None:
            self.state.setText("Tries leaks, wet insulation, fewer bees, wind and the like.")
        elif self._of != self._asked():
            self.state.setText("of what stood here before the last change")
        else:
            season = self._of_season
            hours = season.weather.hours if season is not None else 0
            self.state.setText(
                f"in the weather of that winter, {hours} hours of it logged"
                if hours
                else "in the weather of a typical year: log a probe outside"
            )

    def _choose(self, season: str) -> None:
        self.season = int(season)
        self.show_hive(self.hive)

    def _take_over(self, *_: object) -> None:
        calibration, season = self.calibration, self._of_season
        if calibration is None or season is None:
            return
        name = self._document.project.diary.hive(season.hive).name
        note = f"{name}, winter {season.season}, {calibration.nights} nights"
        self.taken_over.emit(season.design, factors_of(calibration), note)


def _rows(explained: Explained, units: UnitSystem) -> list[GridRow]:
    """Return a row for each explanation: its misfit, and what looking would find."""
    best = explained.ranked[0].cost
    rows = []
    for each in explained.ranked[:_SHOWN]:
        mark = "best" if explained.named and each.cost - best < NOT_ENOUGH else ""
        cells = [Cell(f"{each.cost:.0f}", mark)]
        cells += [Cell(look_figure(t, dict(each.shows)[t], units), "") for t in TESTS]
        times = f" × {each.times:g}" if each.times != 1.0 else ""
        rows.append(GridRow(f"{each.why}{times}", _tip(each), tuple(cells)))
    return rows


def _tip(each: Explanation) -> str:
    return f"{WHY_TEXT[each.why]}: misfit {each.cost:.1f}; less is nearer to what was seen"
