"""The five questions keepers ask of a year, answered for one design with ranges."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.labels import clear, label, rule
from calveth.core.case import HiveCase
from calveth.core.year.draws import YearBands
from calveth.core.year.questions import Centimetre, Helped
from calveth.core.year.sweeps import SweptYear
from calveth.texts.year import (
    centimetre_sentences,
    dry_sentences,
    helped_sentences,
    hot_sentence,
    larder_sentence,
    nectar_sentence,
    plan_sentences,
    plan_settings,
    source_sentence,
    width_sentences,
)

DRAWS = 6
"""Draws for a centimetre of each layer: hives beside hives differ less than their figures do."""


@dataclass(frozen=True, slots=True, eq=False)
class Tried:
    """What was tried on the year: a centimetre of every layer, widths of the entrance, remedies."""

    centimetres: tuple[Centimetre, ...]
    widths: tuple[SweptYear, ...]
    helped: tuple[Helped, ...]


class QuestionsPage(QWidget):
    """Answers what is known at once; what has to be tried is tried on a button."""

    def __init__(self, document: Document, results: Results, view: ViewState, jobs: Jobs) -> None:
        super().__init__()
        self._document, self._results, self._view, self._jobs = document, results, view, jobs
        self._tried: tuple[HiveCase, Tried] | None = None
        self._working = ""
        self.button = QPushButton("Try centimetres, widths and remedies")
        self.button.clicked.connect(self._press)
        self.state = label("", "muted", wrap=True)
        self._answers = QVBoxLayout()
        self._answers.setSpacing(5)
        head = QHBoxLayout()
        head.addWidget(self.button)
        head.addWidget(self.state, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addLayout(head)
        column.addLayout(self._answers)
        column.addStretch()
        jobs.progress.connect(self._progress)
        jobs.refused.connect(self._fail)

    def show_design(self, design_id: str) -> None:
        """Answer for a design as far as it is known."""
        clear(self._answers)
        if self._jobs.idle():
            self._working = ""
        run, bands = self._results.year(design_id), self._results.year_ranges(design_id)
        self.button.setEnabled(run is not None)
        self.button.setText("Stop" if self._working else "Try centimetres, widths and remedies")
        if run is None or bands is None:
            share = self._results.year_share(design_id)
            far = "" if share is None else f" {100 * share:.0f} %"
            trouble = self._results.state("year", design_id).sentence
            self.state.setText(trouble or f"Working out the year and its ranges{far} …")
            return
        if not self._working:
            self.state.setText(
                f"{len(bands.parameters)} hives built alike, as wood, bees, joints and winters "
                "differ; a range holds 8 of 10 of them."
            )
        units = self._view.units
        self._ask("Does it stay dry above the cluster?", dry_sentences([bands], units))
        self._ask(
            "How much honey to leave?",
            [larder_sentence(bands, units), source_sentence(bands, "winter_honey_kg")],
        )
        self._ask(
            "What happens on the hottest day, and in a flow?",
            [hot_sentence(bands, units), nectar_sentence(run, units)],
        )
        tried = self._tried_for(bands)
        centimetres = ["Not tried yet: press the button above."]
        widths, helps = list(centimetres), list(centimetres)
        if tried is not None:
            case = bands.case
            centimetres = centimetre_sentences(
                case.design, case.materials, tried.centimetres, units
            )
            widths = width_sentences(tried.widths, units)
            helps = helped_sentences(tried.helped, units) or ["Nothing that was tried does."]
        self._ask("What does one more centimetre bring, and does it pay?", centimetres)
        self._ask("What helps through the year?", helps)
        acts = plan_sentences(bands.case.design, plan_settings(bands.case.design))
        self._ask("How wide to open, and when to change it?", [*widths, *acts])

    def _tried_for(self, bands: YearBands) -> Tried | None:
        if self._tried is None:
            return None
        case, tried = self._tried
        now = bands.case
        same = case.design == now.design and case.place == now.place
        same = same and case.materials == now.materials
        return tried if same and case.colony == now.colony else None

    def _ask(self, question: str, answers: Sequence[str]) -> None:
        self._answers.addWidget(label(question, "heading"))
        for text in answers:
            if text:
                self._answers.addWidget(label(text, wrap=True))
        self._answers.addWidget(rule())

    def _press(self) -> None:
        if self._working:
            self._working = ""
            self._jobs.cancel()
            self.show_design(self._view.design_id)
            return
        run = self._results.year(self._view.design_id)
        if run is None:
            return
        case, project = run.case, self._document.project
        price, years = project.honey_price_eur_kg, project.years_of_use
        remedies = self._results.remedies(case.design.id) or ()
        report = self._jobs.reporter()

        def work() -> Tried:
            from calveth.core.year.questions import one_more_centimetre, what_helped
            from calveth.core.year.sweeps import swept_cases, swept_years

            offers = one_more_centimetre(
                case,
                honey_price_eur_kg=price,
                years_of_use=years,
                draws=DRAWS,
                report=lambda s: report(0.6 * s),
            )
            widths = swept_years(
                swept_cases(case, "opening"), report=lambda s: report(0.6 + 0.1 * s)
            )
            helped = what_helped(
                case, remedies, draws=DRAWS, report=lambda s: report(0.7 + 0.3 * s)
            )
            return Tried(tuple(offers), tuple(widths), tuple(helped))

        def done(answer: object) -> None:
            assert isinstance(answer, Tried)
            self._tried, self._working = (case, answer), ""
            self.show_design(self._view.design_id)

        self._working = case.design.id
        self.button.setText("Stop")
        self.state.setText("Trying on the year …")
        self._jobs.run(work, done, self.stopped)

    def stopped(self) -> None:
        """Take note that the work was called off."""
        if self._working:
            self._working = ""
            self.show_design(self._view.design_id)

    def _progress(self, share: float) -> None:
        if self._working:
            self.state.setText(f"Trying on the year {100 * share:.0f} % …")

    def _fail(self, _: str) -> None:
        # The window says why.
        if self._working:
            self._working = ""
            self.show_design(self._view.design_id)
