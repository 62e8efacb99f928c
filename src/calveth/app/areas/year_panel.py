"""Compare by the year: every hive through 8760 hours, first as likely, then with ranges."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from calveth.app.areas.working_panel import WorkingPanel
from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.dot_plot import DotPlot
from calveth.app.widgets.labels import label
from calveth.core.case import HiveCase
from calveth.core.year.draws import STAGES, YearBands, next_stage
from calveth.texts.year import WORDS, source_sentence


class YearPanel(WorkingPanel):
    """Works the hives out side by side, and shows one figure of the year at a time."""

    def __init__(self, document: Document, results: Results, view: ViewState, jobs: Jobs) -> None:
        super().__init__(jobs, "the years are")
        self._document, self._results, self._view = document, results, view
        self._ids: Callable[[], list[str]] = lambda: [d.id for d in document.project.designs]
        self.rows: list[YearBands] = []
        self.figure = "winter_honey_kg"
        self.choice = Choice(
            "figure of the year",
            [(k, f"{w.group}: {w.name[0].lower()}{w.name[1:]}") for k, w in WORDS.items()],
            self.show_figure,
        )
        self.choice.show_id(self.figure)
        self.plot = DotPlot()
        self.source = label(role="muted", wrap=True)
        head = QHBoxLayout()
        for widget in (self.choice, self.button, self.progress):
            head.addWidget(widget)
        head.addWidget(self.state, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        column.addLayout(head)
        column.addWidget(self.plot)
        column.addWidget(self.source)
        column.addStretch()
        document.changed.connect(self._again)
        results.updated.connect(self._again)
        view.units_changed.connect(self._plot)

    def of_hives(self, ids: Callable[[], list[str]]) -> None:
        """Compare the hives whose ids ``ids`` returns."""
        self._ids = ids

    def show_figure(self, figure: str) -> None:
        """Order the hives by another figure."""
        self.figure = figure
        self._plot()

    def _cases(self) -> list[HiveCase]:
        known = [self._results.monthly(i) for i in self._ids()]
        return [m.case for m in known if m is not None]

    def _asked(self) -> tuple[object, ...]:
        """Return what the years of the hives depend on, as it is now."""
        return tuple(self._results.values_of(i) for i in self._ids())

    def begin(self) -> None:
        """Start unless the very hives are shown, or something else is at work."""
        cases = self._cases()
        of = self._asked()
        self._waits = not self._jobs.idle() and not self._working
        if not cases or of == self._of or not self._jobs.idle():
            self._tell()
            return
        self._of, self.rows = of, []
        self._run(cases, 0)

    def _run(self, cases: list[HiveCase], draws: int) -> None:
        def work(report: Callable[[float], None]) -> object:
            from calveth.core.year.draws import year_bands

            return year_bands(cases, draws, report)

        def done(answer: object) -> None:
            assert isinstance(answer, list)
            self.rows = answer
            self._plot()
            # As likely at once, a first range after, then the whole.
            more = next_stage(draws, STAGES)
            if more is not None:
                self._run(cases, more)

        self._start(work, done)

    def _again(self, *_: object) -> None:
        if self.isVisible() and not self._working:
            self.begin()
        else:
            self._tell()

    def _tell(self, *_: object) -> None:
        self.button.setText("Stop" if self._working else "Work it out anew")
        ready = bool(self.rows) and bool(self.rows[0].values.size)
        if self.rows and self._of != self._asked():
            self.state.setText("of what stood here before the last change")
        elif self._working:
            self.state.setText("as likely; ranges come …" if self.rows else "working …")
        else:
            self.state.setText(
                f"{len(self.rows[0].values)} hives built alike of each, with the same chances"
                if ready
                else ""
            )

    def _plot(self, *_: object) -> None:
        self.plot.show_rows(self.rows, self.figure, self._view.units)
        sources = [source_sentence(row, self.figure) for row in self.rows]
        self.source.setText(next((t for t in sources if t), ""))
        self._tell()
