"""Compare by places: every hive in every climate that ships; advice from one fails in another."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from calveth.app.areas.working_panel import WorkingPanel
from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.figure_grid import Cell, FigureGrid, GridRow
from calveth.app.widgets.labels import label
from calveth.catalogue.library import shipped_places
from calveth.core.case import HiveCase
from calveth.core.climate.place import Place
from calveth.core.colony.curves import STRENGTHS, Strength
from calveth.core.year.draws import YearBands
from calveth.texts.units import UnitSystem
from calveth.texts.year import write


class TravelPanel(WorkingPanel):
    """A row for each place, a column for each hive: under the lid, honey, hottest hour."""

    def __init__(self, document: Document, results: Results, view: ViewState, jobs: Jobs) -> None:
        super().__init__(jobs, "the travel is")
        self._document, self._results, self._view = document, results, view
        self._ids: Callable[[], list[str]] = lambda: [d.id for d in document.project.designs]
        self._strength: Strength = "normal"
        self.rows: list[list[YearBands]] = []
        self.strength = Choice("bees", [(s, s) for s in STRENGTHS], self._choose)
        self.strength.show_id(self._strength)
        self.grid = FigureGrid("hives in all places")
        head = QHBoxLayout()
        for widget in (
            label("with bees that are", "muted"),
            self.strength,
            self.button,
            self.progress,
        ):
            head.addWidget(widget)
        head.addWidget(self.state, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 0)
        column.addLayout(head)
        column.addWidget(self.grid)
        column.addStretch()
        document.changed.connect(self._tell)
        view.units_changed.connect(self._show)
        self._tell()

    def of_hives(self, ids: Callable[[], list[str]]) -> None:
        """Take the hives whose ids ``ids`` returns."""
        self._ids = ids

    def _cases(self) -> list[HiveCase]:
        known = [self._results.monthly(i) for i in self._ids()]
        return [m.case for m in known if m is not None]

    def _asked(self) -> tuple[object, ...]:
        """Return what the years of the hives depend on, as it is now."""
        return tuple(self._results.values_of(i) for i in self._ids())

    def _places(self) -> list[Place]:
        own = self._document.project.place
        return [own, *(s.place for s in shipped_places() if s.place.name != own.name)]

    def _choose(self, strength: str) -> None:
        self._strength = strength  # type: ignore[assignment]

    def begin(self) -> None:
        """Take the hives that are compared to every place."""
        cases, places, strength = self._cases(), self._places(), self._strength
        if not cases:
            return
        self._of = self._asked()

        def work(report: Callable[[float], None]) -> object:
            from calveth.core.year.questions import travel

            return travel(cases, places, strength=strength, report=report)

        def done(answer: object) -> None:
            assert isinstance(answer, list)
            self.rows = answer
            self._show()
            self._tell()

        self._start(work, done)

    def _tell(self, *_: object) -> None:
        self.button.setText("Stop" if self._working else "Travel")
        if self._working:
            self.state.setText("working …")
        elif not self.rows:
            self.state.setText("Takes the hives through the year of every place that ships.")
        elif self._of != self._asked():
            self.state.setText("of what stood here before the last change")
        else:
            self.state.setText(
                "wet winter nights above the cluster / on the rim; winter honey, hottest nest"
            )

    def _show(self, *_: object) -> None:
        self.grid.show_rows(
            [row[0].case.design.name for row in self.rows],
            travel_rows(self.rows, self._view.units),
        )


def travel_rows(rows: Sequence[Sequence[YearBands]], units: UnitSystem) -> list[GridRow]:
    """Return a row for each place of hives' travels."""
    if not rows:
        return []
    lines = []
    for k, first in enumerate(rows[0]):
        name = first.case.place.name.replace(" (invented)", "")
        cells = tuple(_cell(row[k], units) for row in rows)
        lines.append(GridRow(name, first.case.place.source, cells))
    return lines


def _cell(cell: YearBands, units: UnitSystem) -> Cell:
    if cell.trouble:
        return Cell("no air", "no")
    f = cell.likely
    mark = "wet" if f.lid_wet_nights >= 1 else "wet ring" if f.rim_wet_nights >= 1 else "dry"
    text = f"{f.lid_wet_nights:.0f} / {f.rim_wet_nights:.0f}\n"
    text += f"{write('winter_honey_kg', f.winter_honey_kg, units)}, "
    return Cell(f"{text}{units.number(f.hottest_nest_degc, 'temperature', 0)}°", mark)
