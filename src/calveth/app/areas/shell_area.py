"""Shell: the cutaway with its lenses, the chosen face and what the hive says this month."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from calveth.app.areas.layers_panel import FACE_TITLE, LayersPanel
from calveth.app.areas.openings_panel import OpeningsPanel
from calveth.app.cutaway.view import LENSES, scene
from calveth.app.cutaway.widget import CutawayWidget
from calveth.app.document import Document
from calveth.app.results import Results
from calveth.app.ribbon.ribbon import paint_verdict
from calveth.app.theme.theme import current
from calveth.app.view_state import ViewState
from calveth.app.widgets.labels import clear, label, rule
from calveth.app.widgets.profile_plot import ProfilePlot
from calveth.core.assess.findings import Finding, findings
from calveth.core.assess.moments import FACE_ZONE
from calveth.core.climate.place import MONTH_NAMES
from calveth.core.hive.design import Face

_MARK = {"good": "dry", "note": "wet ring", "bad": "wet"}


class _Mark(QWidget):
    """The sign before a finding: a tick, a ring or a full drop."""

    def __init__(self, tone: str) -> None:
        super().__init__()
        self._tone = tone
        self.setFixedSize(16, 18)

    def sizeHint(self) -> QSize:
        return QSize(16, 18)

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_verdict(painter, QPointF(8, 10), _MARK[self._tone], current(), 5.0)


class ShellArea(QWidget):
    """The middle and right of the window while a hive is shaped."""

    def __init__(self, document: Document, results: Results, view: ViewState) -> None:
        super().__init__()
        self._document, self._results, self._view = document, results, view
        self.cutaway = CutawayWidget()
        self.title = label(role="title")
        self.moment = label(role="muted")
        self.layers = LayersPanel(document)
        self.openings = OpeningsPanel(document)
        self.profile = ProfilePlot()
        self.lens_buttons: dict[str, QPushButton] = {}
        self.face_buttons: dict[str, QPushButton] = {}
        self._findings = QVBoxLayout()
        self._findings.setSpacing(5)
        self.finding_texts: list[str] = []
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addLayout(self._middle(), 1)
        row.addWidget(self._inspector())
        self.cutaway.face_chosen.connect(view.set_face)
        view.design_changed.connect(self._show_all)
        view.month_changed.connect(self._show_results)
        view.lens_changed.connect(self._show_results)
        view.face_changed.connect(self._show_face)
        document.changed.connect(self._show_all)
        results.updated.connect(self._updated)
        self._show_face()

    def _middle(self) -> QVBoxLayout:
        bar = QHBoxLayout()
        bar.setContentsMargins(10, 6, 10, 0)
        bar.addWidget(self.title)
        bar.addWidget(self.moment)
        bar.addStretch()
        bar.addWidget(label("lens", "muted"))
        bar.addSpacing(4)
        group = QButtonGroup(self)
        for lens in LENSES:
            button = QPushButton(lens.capitalize())
            button.setCheckable(True)
            button.setChecked(lens == self._view.lens)
            button.setAccessibleName(f"lens {lens}")
            button.clicked.connect(lambda _, choice=lens: self._view.set_lens(choice))
            group.addButton(button)
            bar.addWidget(button)
            self.lens_buttons[lens] = button
        column = QVBoxLayout()
        column.setSpacing(0)
        column.addLayout(bar)
        column.addWidget(self.cutaway, 1)
        return column

    def _inspector(self) -> QWidget:
        body = QWidget()
        column = QVBoxLayout(body)
        column.setContentsMargins(12, 8, 12, 8)
        column.setSpacing(7)
        column.addLayout(self._findings)
        column.addWidget(rule())
        tabs = QHBoxLayout()
        tabs.setSpacing(4)
        group = QButtonGroup(self)
        for key, text in (*FACE_TITLE.items(), ("openings", "Openings")):
            button = QPushButton(text)
            button.setCheckable(True)
            button.clicked.connect(lambda _, choice=key: self._choose_tab(choice))
            group.addButton(button)
            tabs.addWidget(button)
            self.face_buttons[key] = button
        tabs.addStretch()
        column.addLayout(tabs)
        self._pages = QStackedWidget()
        face_page = QWidget()
        page = QVBoxLayout(face_page)
        page.setContentsMargins(0, 0, 0, 0)
        page.addWidget(label("from the outside in", "muted"))
        page.addWidget(self.layers)
        page.addWidget(self.profile, 1)
        self._pages.addWidget(face_page)
        opening_page = QWidget()
        page = QVBoxLayout(opening_page)
        page.setContentsMargins(0, 0, 0, 0)
        page.addWidget(self.openings)
        page.addStretch()
        self._pages.addWidget(opening_page)
        column.addWidget(self._pages, 1)
        scroll = QScrollArea()
        scroll.setWidget(body)
        scroll.setWidgetResizable(True)
        scroll.setFixedWidth(364)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        return scroll

    def show_tab(self, key: str) -> None:
        """Show the layers of a face, or ``openings``."""
        self.face_buttons[key].setChecked(True)
        self._choose_tab(key)

    def _choose_tab(self, key: str) -> None:
        if key == "openings":
            self._pages.setCurrentIndex(1)
            return
        self._pages.setCurrentIndex(0)
        face: Face = key  # type: ignore[assignment]
        self._view.set_face(face)

    def _updated(self, design_id: str) -> None:
        if design_id == self._view.design_id:
            self._show_results()

    def _show_all(self, *_: object) -> None:
        design = self._document.project.design(self._view.design_id)
        self.title.setText(design.name)
        self.layers.show_face(design.id, self._view.face)
        self.openings.show_design(design.id)
        self._show_results()

    def _show_face(self, *_: object) -> None:
        """Turn to the layers of the face that was chosen."""
        self._pages.setCurrentIndex(0)
        self.face_buttons[self._view.face].setChecked(True)
        self._show_all()

    def _show_results(self, *_: object) -> None:
        project, view = self._document.project, self._view
        design = project.design(view.design_id)
        assessed = self._results.monthly(design.id)
        table = project.material_table()
        self.moment.setText(
            f"  {MONTH_NAMES[view.month]}, "
            f"{project.place.months[view.month].temperature_degc:.1f} °C outside"
        )
        self.cutaway.set_scene(
            scene(design, table, project.colony, assessed, view.month, view.lens, view.face)
        )
        self.lens_buttons[view.lens].setChecked(True)
        if assessed is None:
            self._say([Finding(text=self._results.error(design.id) or "Working it out …",
                               tone="note")])  # fmt: skip
            self.profile.show_profile(view.face, design.shell.stack(view.face), table, None, 0, 0)
            return
        self._say(findings(assessed, view.month))
        months = assessed.months
        self.profile.show_profile(
            view.face,
            design.shell.stack(view.face),
            table,
            months.profile(view.face, view.month, table),
            float(months.outside.temperature_degc[view.month]),
            float(months.balance.temperature_degc[FACE_ZONE[view.face], view.month]),
        )

    def _say(self, said: list[Finding]) -> None:
        texts = [finding.text for finding in said]
        if texts == self.finding_texts:
            return
        self.finding_texts = texts
        clear(self._findings)
        for finding in said:
            line = QHBoxLayout()
            line.setSpacing(6)
            line.addWidget(_Mark(finding.tone), 0, Qt.AlignmentFlag.AlignTop)
            line.addWidget(label(finding.text, wrap=True), 1)
            self._findings.addLayout(line)
