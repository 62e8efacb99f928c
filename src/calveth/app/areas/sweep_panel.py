"""What a centimetre brings: sweeps the thickness of a layer in the background."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QVBoxLayout, QWidget

from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import ElidedLabel, label
from calveth.app.widgets.quantity import QuantityField
from calveth.app.widgets.sweep_plot import SweepPlot
from calveth.core.case import estimated_case
from calveth.core.compare.sweep import SweepPoint, insulation_of, stock_range_m, sweep
from calveth.core.edits import set_values
from calveth.core.hive.design import FACES, Design, Face
from calveth.core.project import Project


class SweepPanel(QWidget):
    """Chooses the layer, runs the sweep, shows it."""

    def __init__(self, document: Document, view: ViewState, jobs: Jobs) -> None:
        super().__init__()
        self._document, self._view, self._jobs = document, view, jobs
        self._face: Face = "walls"
        self._layer = -1
        self._shown: Project | None = None
        # Asked for while something else was at work.
        self._waits = False
        self.points: list[SweepPoint] = []
        self.face = Choice("face", [(f, f) for f in FACES], self._choose_face)
        self.face.show_id(self._face)
        self.layer = Choice("layer", [], self._choose_layer, narrow=22)
        self.price = QuantityField(
            "price of honey in € a kg",
            "number",
            view,
            lambda v: self._put("price of honey", honey_price_eur_kg=v),
            digits=1,
        )
        self.years = QuantityField(
            "years of use",
            "number",
            view,
            lambda v: self._put("years of use", years_of_use=v),
            digits=0,
        )
        self.progress = QProgressBar()
        self.progress.setAccessibleName("how far the sweep is")
        self.progress.setMaximumWidth(120)
        self.progress.hide()
        self.state = label(role="muted")
        self.plot = SweepPlot()
        self.title = ElidedLabel("heading")
        head = QHBoxLayout()
        for widget in (
            label("thickness of", "muted"),
            self.face,
            self.layer,
            label("honey at", "muted"),
            self.price,
            label("€/kg for", "muted"),
            self.years,
            label("years", "muted"),
            self.progress,
            self.state,
        ):
            head.addWidget(widget)
        for field in (self.price, self.years):
            field.setMaximumWidth(64)
        head.addStretch()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        column.addWidget(self.title)
        column.addLayout(head)
        column.addWidget(self.plot, 1)
        jobs.progress.connect(self._progress)
        jobs.rested.connect(self._rested)
        jobs.refused.connect(lambda *_: self.stopped())
        view.design_changed.connect(self._again)
        view.units_changed.connect(self._plot)
        document.changed.connect(self._again)

    def _progress(self, share: float) -> None:
        if self.progress.isVisible():
            self.progress.setValue(round(100 * share))

    def _rested(self) -> None:
        """Begin what was put off while something else was at work."""
        if self._waits and self.isVisible():
            self.begin()

    def ask(self, face: Face, layer: int) -> None:
        """Sweep a layer of the chosen design."""
        self._face, self._layer = face, layer
        self.face.show_id(face)
        self._shown = None
        self.begin()

    def begin(self) -> None:
        """Start the sweep unless it is shown already."""
        project, design = self._document.project, self._design()
        if self._shown is project:
            return
        self._waits = not self._jobs.idle()
        if self._waits:
            self.state.setText("waits for what is at work …")
            return
        self._shown = project
        stack = design.shell.stack(self._face)
        table = project.material_table()
        if not 0 <= self._layer < len(stack):
            self._layer = insulation_of(stack, table)
        self.title.setText(f"{design.name}: what a centimetre more brings")
        rows = [(str(k), f"{k + 1}: {table[y.material].name}") for k, y in enumerate(stack)]
        self.layer.set_rows(rows)
        self.layer.show_id(str(self._layer))
        self.price.set_value(project.honey_price_eur_kg)
        self.years.set_value(project.years_of_use)
        now = stack[self._layer].thickness_m
        sizes = sorted({*stock_range_m(table[stack[self._layer].material]), now})
        face, index = self._face, self._layer
        self.progress.setValue(0)
        self.progress.show()
        self.state.setText("Esc stops it")
        report = self._jobs.reporter()

        def work() -> object:
            return sweep(
                estimated_case(project, design),
                face,
                index,
                sizes,
                solve=True,
                honey_price_eur_kg=project.honey_price_eur_kg,
                years_of_use=project.years_of_use,
                report=report,
            )

        self._jobs.run(work, self._done, self.stopped)

    def stopped(self) -> None:
        """Say that the sweep was called off."""
        if self.progress.isVisible():
            self.progress.hide()
            self.state.setText("stopped")
            self._shown = None

    def _design(self) -> Design:
        return self._document.project.design(self._view.design_id)

    def _done(self, answer: object) -> None:
        self.progress.hide()
        self.state.setText("")
        self.points = answer  # type: ignore[assignment]
        self._plot()

    def _plot(self) -> None:
        if not self.points:
            return
        project = self._document.project
        stack = self._design().shell.stack(self._face)
        now = stack[min(self._layer, len(stack) - 1)].thickness_m
        worth = project.honey_price_eur_kg * project.years_of_use
        self.plot.show_points(self.points, now, worth, self._view.units)

    def _again(self, *_: object) -> None:
        self._shown = None
        if self.isVisible():
            self.begin()

    def _choose_face(self, face: str) -> None:
        self.ask(face, -1)  # type: ignore[arg-type]

    def _choose_layer(self, key: str) -> None:
        self.ask(self._face, int(key))

    def _put(self, text: str, **fields: float) -> None:
        self._document.edit(text, lambda p: set_values(p, **fields), merge=text)
