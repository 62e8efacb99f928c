"""One thing taken through its sizes over the whole year: an opening, the bees, a layer."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from calveth.app.areas.working_panel import WorkingPanel
from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.band_plot import BandPlot
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import ElidedLabel, label
from calveth.core.compare.sweep import insulation_of
from calveth.core.errors import CalvethError
from calveth.core.hive.design import FACES, Design
from calveth.core.year.draws import STAGES, next_stage
from calveth.core.year.sweeps import SweptYear, entrance_of, swept_cases
from calveth.texts.units import UnitSystem

_BEES = "bees"


class YearSweepPanel(WorkingPanel):
    """Chooses what is swept, takes the chosen hive through the year with it, shows the figures."""

    def __init__(self, document: Document, results: Results, view: ViewState, jobs: Jobs) -> None:
        super().__init__(jobs, "the sweep of the year is")
        self._document, self._results, self._view = document, results, view
        self.years: list[SweptYear] = []
        self._now, self._axis = 1.0, ""
        self.title = ElidedLabel("heading")
        self.what = Choice("what is taken through its sizes", [], lambda _: self.begin())
        self.plot = BandPlot()
        head = QHBoxLayout()
        for widget in (label("sizes of", "muted"), self.what, self.button, self.progress):
            head.addWidget(widget)
        head.addWidget(self.state, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        column.addWidget(self.title)
        column.addLayout(head)
        column.addWidget(self.plot)
        column.addStretch()
        document.changed.connect(self._tell)
        results.updated.connect(self._again)
        view.design_changed.connect(self._tell)
        view.units_changed.connect(self._plot)
        self._tell()

    def _design(self) -> Design:
        return self._document.project.design(self._view.design_id)

    def _rows(self) -> list[tuple[str, str]]:
        """Return what can be swept, by keys of kind and name."""
        design, table = self._design(), self._document.project.material_table()
        rows = [(f"opening/{o.id}", f"opening: {o.name}") for o in design.openings]
        rows.append((_BEES, "bees"))
        for face in FACES:
            stack = design.shell.stack(face)
            k = insulation_of(stack, table)
            rows.append((f"layer/{face}/{k}", f"{face}: {table[stack[k].material].name}"))
        return rows

    def _asked(self) -> tuple[object, ...]:
        return self._results.values_of(self._view.design_id), self.what.currentData()

    def begin(self) -> None:
        """Start unless this very thing is shown, or something else is at work."""
        monthly = self._results.monthly(self._view.design_id)
        self._waits = not self._jobs.idle() and not self._working
        if monthly is None or self._of == self._asked() or not self._jobs.idle():
            self._tell()
            return
        kind, _, rest = str(self.what.currentData()).partition("/")
        face, _, layer = rest.partition("/")
        try:
            if kind == "opening":
                cases = swept_cases(monthly.case, "opening", opening=rest)
            elif kind == _BEES:
                cases = swept_cases(monthly.case, "bees")
            else:
                known = next(f for f in FACES if f == face)
                cases = swept_cases(monthly.case, "layer", face=known, layer=int(layer))
        except CalvethError as error:
            self.state.setText(str(error))
            return
        self._now = _size_now(self._design(), kind, rest)
        self._axis = {
            "opening": "open all year",
            _BEES: "of the bees there are",
            "layer": "thick",
        }[kind]
        self._of, self.years = self._asked(), []
        self._run(cases, 0)

    def _run(self, cases: list, draws: int) -> None:  # type: ignore[type-arg]
        def work(report: Callable[[float], None]) -> object:
            from calveth.core.year.sweeps import swept_years

            return swept_years(cases, draws=draws, report=report)

        def done(answer: object) -> None:
            assert isinstance(answer, list)
            self.years = answer
            self._plot()
            # As likely at once, a first range after, then the whole.
            more = next_stage(draws, STAGES)
            if more is not None:
                self._run(cases, more)

        self._start(work, done)

    def _again(self, *_: object) -> None:
        """Begin when the months come in that were waited for; what is shown is not replaced."""
        if self.isVisible() and not self._working and not self.years:
            self.begin()
        else:
            self._tell()

    def _tell(self, *_: object) -> None:
        design = self._design()
        rows = self._rows()
        keys = [self.what.itemData(k) for k in range(self.what.count())]
        if keys != [key for key, _ in rows]:
            self.what.set_rows(rows)
            first = f"opening/{entrance_of(design)}"
            self.what.show_id(first if first in dict(rows) else rows[0][0])
        self.title.setText(f"{design.name}: what a size does to the year")
        self.button.setText("Stop" if self._working else "Work it out")
        ready = bool(self.years) and bool(self.years[0].bands.values.size)
        if self._working:
            self.state.setText("as likely; ranges come …" if self.years else "working …")
        elif self.years and self._of != self._asked():
            self.state.setText("of what stood here before the last change")
        else:
            self.state.setText("shade: 8 of 10 built alike; dotted: as it is now" if ready else "")

    def _plot(self, *_: object) -> None:
        units = self._view.units
        texts = [size_text(y.size, self._axis, units) for y in self.years]
        axis = f"{units.unit('length')} thick" if self._axis == "thick" else f"%, {self._axis}"
        self.plot.show_years(self.years, self._now, axis, texts, units)
        self._tell()


def _size_now(design: Design, kind: str, rest: str) -> float:
    """Return the size as it is."""
    if kind == "opening":
        return next(o.free_share for o in design.openings if o.id == rest)
    if kind == _BEES:
        return 1.0
    face, _, layer = rest.partition("/")
    return design.shell.stack(next(f for f in FACES if f == face))[int(layer)].thickness_m


def size_text(size: float, axis: str, units: UnitSystem) -> str:
    """Return a size under the axis: a share in percent, a thickness in the units shown."""
    return units.number(size, "length") if axis == "thick" else f"{100 * size:.0f}"
