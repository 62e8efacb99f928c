"""Compare: all designs side by side under one lens and one month."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QShowEvent
from PySide6.QtWidgets import (
    QButtonGroup,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from calveth.app.cutaway.view import LENSES, scene
from calveth.app.cutaway.widget import CutawayWidget
from calveth.app.document import Document
from calveth.app.results import Results
from calveth.app.ribbon.ribbon import paint_verdict
from calveth.app.theme.theme import current
from calveth.app.view_state import ViewState
from calveth.app.widgets.labels import clear, label
from calveth.core.assess.moments import CrownVerdict
from calveth.core.climate.place import has_forage
from calveth.core.compare.table import CompareRow, summary_sentences
from calveth.core.hive.design import StackedBoxes
from calveth.core.hive.quantities import outer_size_m
from calveth.core.hive.solids import build_solids


@dataclass(frozen=True, slots=True)
class Measure:
    """One row: its name, how a value is written, and which end is better (0: neither)."""

    name: str
    write: Callable[[CompareRow], str]
    rank: Callable[[CompareRow], float | None]
    better: int
    hint: str


def _range(row: CompareRow) -> str:
    if row.winter_honey_range_kg is None:
        return f"{row.winter_honey_kg:.1f} kg\n…"
    low, high = row.winter_honey_range_kg
    return f"{row.winter_honey_kg:.1f} kg\n{low:.1f} to {high:.1f}"


def _nights(row: CompareRow) -> str:
    if row.crown_wet_nights is None or row.rim_wet_nights is None:
        return "… / …"
    return f"{row.crown_wet_nights:.0f} / {row.rim_wet_nights:.0f}"


def _all_nights(row: CompareRow) -> float | None:
    if row.crown_wet_nights is None or row.rim_wet_nights is None:
        return None
    return row.crown_wet_nights + row.rim_wet_nights


MEASURES = (
    Measure("winter honey\nlikely, range", _range, lambda r: r.winter_honey_kg, -1,
            "Burnt from the last to the first forage week; the range is that of the bees' heat."),
    Measure("lid middle above dew", lambda r: f"{r.crown_margin_k:+.1f} K",
            lambda r: r.crown_margin_k, 1, "Surface minus dew point of the crown air."),
    Measure("lid rim above dew", lambda r: f"{r.rim_margin_k:+.1f} K",
            lambda r: r.rim_margin_k, 1, "At the edge, where the wet ring starts."),
    Measure("water on the lid", lambda r: f"{r.water_on_lid_g_day:.1f} g a day",
            lambda r: r.water_on_lid_g_day, -1, "Condensing on middle and rim."),
    Measure("water lower down", lambda r: f"{r.water_elsewhere_g_day:.0f} g a day",
            lambda r: r.water_elsewhere_g_day, 0,
            "On walls, floor and combs: drink for one school, a fault for another."),
    Measure("wet nights, middle / rim", _nights, _all_nights, -1,
            "Winter nights with the lid below dew point."),
    Measure("heat loss", lambda r: f"{r.conductance_w_k:.2f} W/K",
            lambda r: r.conductance_w_k, -1, "Whole shell with edges and corners (estimate)."),
    Measure("bees per heat loss", lambda r: f"{r.mass_to_conductance_kg_k_w:.2f} kg·K/W",
            lambda r: r.mass_to_conductance_kg_k_w, 1, "Mass-to-conductance ratio."),
    Measure("fresh air", lambda r: f"{r.air_l_h:.0f} L/h", lambda r: r.air_l_h, 0,
            "Outside air through openings and joints."),
    Measure("CO2 in the nest", lambda r: f"{r.co2_share:.1%}", lambda r: r.co2_share, 0,
            "By volume."),
    Measure("empty / heaviest part", lambda r: f"{r.weight_kg:.0f} / {r.heaviest_part_kg:.0f} kg",
            lambda r: r.heaviest_part_kg, 0, "Without bees, combs and honey."),
)  # fmt: skip


_PICTURE_PX = 150


class _Verdict(QWidget):
    """The crown's mark and word."""

    def __init__(self) -> None:
        super().__init__()
        self.verdict: CrownVerdict | None = None
        self.setFixedHeight(26)

    def sizeHint(self) -> QSize:
        return QSize(110, 26)

    def paintEvent(self, _: QPaintEvent) -> None:
        if self.verdict is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        p = current()
        paint_verdict(painter, QPointF(9, 13), self.verdict, p)
        painter.setPen(p.color("ink"))
        painter.drawText(
            self.rect().adjusted(22, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, self.verdict
        )


class CompareArea(QWidget):
    """A column a design, a row a measure; the sentence above says what matters."""

    def __init__(self, document: Document, results: Results, view: ViewState) -> None:
        super().__init__()
        self._document, self._results, self._view = document, results, view
        self.summary = label(role="big", wrap=True)
        self.summary.setAccessibleName("summary of the comparison")
        self.values: dict[tuple[str, str], QLabel] = {}
        self.verdicts: dict[str, _Verdict] = {}
        self.pictures: dict[str, CutawayWidget] = {}
        self._grid = QGridLayout()
        self._grid.setContentsMargins(10, 0, 10, 0)
        self._grid.setHorizontalSpacing(8)
        self._grid.setVerticalSpacing(4)
        body = QWidget()
        inner = QVBoxLayout(body)
        inner.setContentsMargins(0, 0, 0, 0)
        inner.addLayout(self._grid)
        inner.addStretch()
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setWidget(body)
        scroll.setMinimumWidth(400)
        bar = QHBoxLayout()
        bar.setContentsMargins(12, 8, 12, 2)
        bar.addWidget(self.summary, 1)
        group = QButtonGroup(self)
        self.lens_buttons: dict[str, QPushButton] = {}
        for lens in LENSES:
            button = QPushButton(lens.capitalize())
            button.setCheckable(True)
            button.setChecked(lens == view.lens)
            button.setAccessibleName(f"lens {lens}")
            button.clicked.connect(lambda _, choice=lens: view.set_lens(choice))
            group.addButton(button)
            bar.addWidget(button, 0, Qt.AlignmentFlag.AlignTop)
            self.lens_buttons[lens] = button
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        column.addLayout(bar)
        column.addWidget(scroll, 1)
        self._ids: list[str] = []
        for signal in (view.month_changed, view.lens_changed, document.changed, results.updated):
            signal.connect(self._show)
        self._show()

    def _show(self, *_: object) -> None:
        designs = self._document.project.designs
        ids = [d.id for d in designs]
        if ids != self._ids:
            self._build(ids)
        # Out of sight it waits; six pictures and sixty figures are not drawn for nobody.
        self._stale = True
        if self.isVisible():
            self._fill()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if self._stale:
            self._fill()

    def _build(self, ids: list[str]) -> None:
        clear(self._grid)
        self._ids = ids
        self.values, self.verdicts, self.pictures = {}, {}, {}
        self._grid.addWidget(label("crown", "heading"), 2, 0)
        for row, measure in enumerate(MEASURES, start=3):
            name = label(measure.name)
            name.setToolTip(measure.hint)
            self._grid.addWidget(name, row, 0)
        for column, design_id in enumerate(ids, start=1):
            picture = CutawayWidget(small=True)
            picture.setFixedHeight(_PICTURE_PX)
            self.pictures[design_id] = picture
            self._grid.addWidget(picture, 0, column)
            design = self._document.project.design(design_id)
            name = label(
                design.name + ("\nbenchmark" if design.benchmark else ""), "heading", wrap=True
            )
            self._grid.addWidget(name, 1, column, Qt.AlignmentFlag.AlignTop)
            self.verdicts[design_id] = _Verdict()
            self._grid.addWidget(self.verdicts[design_id], 2, column)
            for row, measure in enumerate(MEASURES, start=3):
                value = label()
                value.setAccessibleName(f"{design.name}, {measure.name}")
                self.values[design_id, measure.name] = value
                self._grid.addWidget(value, row, column)
            self._grid.setColumnStretch(column, 1)

    def _fill(self) -> None:
        self._stale = False
        project, month = self._document.project, self._view.month
        self.lens_buttons[self._view.lens].setChecked(True)
        rows = {i: self._results.row(i, month) for i in self._ids}
        self._pictures(month)
        known = [row for row in rows.values() if row is not None]
        if len(known) == len(rows):
            self.summary.setText(
                " ".join(summary_sentences(known, month, forage=has_forage(project.place, month)))
            )
        else:
            broken = [self._results.error(i) for i in self._ids if self._results.error(i)]
            self.summary.setText(broken[0] if broken else "Working it out …")
        for design_id, row in rows.items():
            self.verdicts[design_id].verdict = row.crown if row else None
            self.verdicts[design_id].setAccessibleName(
                f"{project.design(design_id).name}, crown: {row.crown if row else 'unknown'}"
            )
            self.verdicts[design_id].update()
        for measure in MEASURES:
            self._write(measure, rows)

    def _pictures(self, month: int) -> None:
        """Draw the boxes to one scale; a tree too tall for it is drawn as large as it fits."""
        project = self._document.project
        boxes = [d for d in project.designs if isinstance(d.form, StackedBoxes)]
        sizes = [outer_size_m(build_solids(d)) for d in boxes or project.designs]
        limit = min(
            (_PICTURE_PX - 8) / max(size[2] for size in sizes),
            _PICTURE_PX / max(size[1] for size in sizes),
        )
        for design in project.designs:
            picture = scene(
                design,
                project.material_table(),
                project.colony,
                self._results.monthly(design.id),
                month,
                self._view.lens,
            )
            self.pictures[design.id].set_scene(picture, limit)

    def _write(self, measure: Measure, rows: dict[str, CompareRow | None]) -> None:
        ranks = {
            i: measure.rank(row) for i, row in rows.items() if row is not None and not row.benchmark
        }
        numbers = [v for v in ranks.values() if v is not None]
        spread = len(numbers) > 1 and max(numbers) - min(numbers) > 1e-6
        for design_id, row in rows.items():
            text = measure.write(row) if row is not None else "…"
            value = ranks.get(design_id)
            if measure.better and spread and value is not None:
                best = max(numbers) if measure.better > 0 else min(numbers)
                worst = min(numbers) if measure.better > 0 else max(numbers)
                head, *rest = text.split("\n")
                sign = "  · best" if value == best else "  · worst" if value == worst else ""
                text = "\n".join([head + sign, *rest])
            target = self.values[design_id, measure.name]
            target.setText(text)
            bold = "best" in text
            target.setProperty("role", "heading" if bold else "")
            target.style().unpolish(target)
            target.style().polish(target)
