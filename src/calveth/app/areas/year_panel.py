"""Compare by the year: every hive through 8760 hours, first as likely, then with ranges."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QVBoxLayout, QWidget

from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.dot_plot import DotPlot
from calveth.app.widgets.labels import label
from calveth.core.case import HiveCase
from calveth.core.year.draws import YearBands
from calveth.texts.year import WORDS, source_sentence

DRAWS = 12


class YearPanel(QWidget):
    """Works the hives out side by side, and shows one figure of the year at a time."""

    def __init__(self, document: Document, results: Results, view: ViewState, jobs: Jobs) -> None:
        super().__init__()
        self._document, self._results, self._view, self._jobs = document, results, view, jobs
        self._of: tuple[object, ...] = ()
        self._working = False
        self._ids: Callable[[], list[str]] = lambda: [d.id for d in document.project.designs]
        self.rows: list[YearBands] = []
        self.figure = "winter_honey_kg"
        self.choice = Choice(
            "figure of the year",
            [(k, f"{w.group}: {w.name[0].lower()}{w.name[1:]}") for k, w in WORDS.items()],
            self.show_figure,
        )  # fmt: skip
        self.choice.show_id(self.figure)
        self.button = QPushButton("Work it out anew")
        self.button.clicked.connect(self._press)
        self.progress = QProgressBar()
        self.progress.setAccessibleName("how far the years are")
        self.progress.setMaximumWidth(120)
        self.progress.hide()
        self.state = label(role="muted", wrap=True)
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
        jobs.progress.connect(self._progress)
        jobs.refused.connect(lambda *_: self.stopped())
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
        if not cases or of == self._of or not self._jobs.idle():
            self._tell()
            return
        self._of, self.rows = of, []
        self._run(cases, 0)

    def _run(self, cases: list[HiveCase], draws: int) -> None:
        self._working = True
        self.progress.setValue(0)
        self.progress.show()
        report = self._jobs.reporter()

        def work() -> object:
            from calveth.core.year.draws import year_bands

            return year_bands(cases, draws, report)

        def done(answer: object) -> None:
            assert isinstance(answer, list)
            self._working, self.rows = False, answer
            self.progress.hide()
            self._plot()
            if draws == 0:
                # As likely at once, the ranges after.
                self._run(cases, DRAWS)

        self._jobs.run(work, done)
        self._tell()

    def _press(self) -> None:
        if self._working:
            self._jobs.cancel()
            self.stopped()
            return
        self._of = ()
        self.begin()

    def stopped(self) -> None:
        """Take note that the work was called off."""
        if self._working:
            self._working = False
            self.progress.hide()
            self._tell()

    def _again(self, *_: object) -> None:
        if self.isVisible() and not self._working:
            self.begin()
        else:
            self._tell()

    def _progress(self, share: float) -> None:
        if self._working:
            self.progress.setValue(round(100 * share))

    def _tell(self) -> None:
        self.button.setText("Stop" if self._working else "Work it out anew")
        ready = bool(self.rows) and bool(self.rows[0].values.size)
        if self.rows and self._of != self._asked():
            self.state.setText("of what stood here before the last change")
        elif self._working:
            self.state.setText("as likely; ranges come …" if self.rows else "working …")
        else:
            self.state.setText(
                f"{DRAWS} hives built alike of each, with the same chances" if ready else ""
            )

    def _plot(self, *_: object) -> None:
        self.plot.show_rows(self.rows, self.figure, self._view.units)
        told = [source_sentence(row, self.figure) for row in self.rows]
        self.source.setText(next((t for t in told if t), ""))
        self._tell()
