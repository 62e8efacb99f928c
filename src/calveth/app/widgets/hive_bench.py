"""The bench at the left: every design as a small cutaway with three figures."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from calveth.app.cutaway.view import Scene, scene
from calveth.app.cutaway.widget import CutawayWidget
from calveth.app.document import Document
from calveth.app.results import Results
from calveth.app.theme.theme import current
from calveth.app.view_state import ViewState
from calveth.app.widgets.labels import clear, label
from calveth.core.climate.place import coldest_month
from calveth.core.compare.table import CompareRow
from calveth.core.hive.design import Design
from calveth.core.project import Project


class HiveCard(QWidget):
    """One design on the bench."""

    clicked = Signal(str)

    def __init__(self, design: Design) -> None:
        super().__init__()
        self.design_id = design.id
        self._chosen = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedHeight(90)
        self.picture = CutawayWidget(small=True)
        self.picture.setFixedWidth(62)
        self.picture.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.name = label(design.name, "heading", wrap=True)
        self.conductance, self.honey, self.nights = label(), label(), label()
        text = QVBoxLayout()
        text.setSpacing(0)
        text.setContentsMargins(0, 4, 0, 4)
        for line in (self.name, self.conductance, self.honey, self.nights):
            text.addWidget(line)
        text.addStretch()
        row = QHBoxLayout(self)
        row.setContentsMargins(4, 3, 3, 3)
        row.setSpacing(6)
        row.addWidget(self.picture)
        row.addLayout(text, 1)

    def sizeHint(self) -> QSize:
        return QSize(222, 90)

    def set_chosen(self, chosen: bool) -> None:
        """Mark the card as the one worked on."""
        self._chosen = chosen
        self.update()

    def show_design(self, picture: Scene, results: Results, month: int) -> None:
        """Show a design; figures that are being worked out are written as dots."""
        design = picture.design
        self.name.setText(design.name)
        self.picture.set_scene(picture)
        row = results.row(design.id, month)
        error = results.error(design.id)
        if error:
            self.conductance.setText("no answer")
            self.honey.setText("")
            self.nights.setText("")
            self.setToolTip(error)
        elif row is None:
            for line in (self.conductance, self.honey, self.nights):
                line.setText("…")
        else:
            self.setToolTip(design.note)
            self.conductance.setText(f"{row.conductance_w_k:.2f} W/K")
            self.honey.setText(f"{picture.units.write(row.winter_honey_kg, 'mass')} winter honey")
            self.nights.setText(_wet_nights(row))
        self.setAccessibleName(
            f"{design.name}: {self.conductance.text()}, {self.honey.text()}, {self.nights.text()}"
        )

    def mousePressEvent(self, _: QMouseEvent) -> None:
        self.clicked.emit(self.design_id)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space):
            self.clicked.emit(self.design_id)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, _: QPaintEvent) -> None:
        painter = QPainter(self)
        p = current()
        painter.setBrush(p.color("chosen" if self._chosen else "sheet"))
        painter.setPen(QPen(p.color("accent" if self._chosen or self.hasFocus() else "line"),
                            2 if self._chosen or self.hasFocus() else 1))  # fmt: skip
        painter.drawRoundedRect(self.rect().adjusted(1, 1, -2, -2), 4, 4)


class HiveBench(QScrollArea):
    """All designs, candidates first; the one worked on is marked.

    Signals
    -------
    chosen(design_id)
        A card was clicked.
    """

    chosen = Signal(str)

    def __init__(self, document: Document, results: Results, view: ViewState) -> None:
        super().__init__()
        self._document, self._results = document, results
        self._view = view
        self._cards: dict[str, HiveCard] = {}
        self._current = results.current
        self.setWidgetResizable(True)
        self.setFixedWidth(238)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName("bench of designs")
        body = QWidget()
        self._column = QVBoxLayout(body)
        self._column.setContentsMargins(8, 4, 5, 8)
        self._column.setSpacing(6)
        self.setWidget(body)
        self._rebuild()
        document.changed.connect(self._project_changed)
        results.updated.connect(self._updated)
        view.units_changed.connect(self._refresh_all)

    def _updated(self, design_id: str) -> None:
        # While an edit is on its way the document's own signal follows and refreshes the card.
        if self._document.project is self._shown:
            self._refresh(design_id)

    def _refresh_all(self) -> None:
        for key in self._cards:
            self._refresh(key)

    def card(self, design_id: str) -> HiveCard:
        """Return the card of a design."""
        return self._cards[design_id]

    def order(self) -> list[str]:
        """Return the ids of the designs from top to bottom."""
        return list(self._cards)

    def set_current(self, design_id: str) -> None:
        """Mark another design."""
        self._current = design_id
        for key, card in self._cards.items():
            card.set_chosen(key == design_id)

    def _project_changed(self, before: Project, after: Project) -> None:
        if [d.id for d in before.designs] != [d.id for d in after.designs]:
            self._rebuild()
            return
        self._shown = after
        for old, new in zip(before.designs, after.designs, strict=True):
            if old != new or before.place != after.place or before.colony != after.colony:
                self._refresh(new.id)

    def _rebuild(self) -> None:
        clear(self._column)
        self._cards = {}
        project = self._shown = self._document.project
        own = [d for d in project.designs if not d.benchmark]
        for design in (*own, *(d for d in project.designs if d.benchmark)):
            if design.benchmark and len(self._cards) == len(own):
                self._column.addWidget(label("Benchmarks", "muted"))
            card = HiveCard(design)
            card.clicked.connect(self.chosen)
            self._cards[design.id] = card
            self._column.addWidget(card)
            self._refresh(design.id)
        self._column.addStretch()
        self.set_current(self._current)

    def _refresh(self, design_id: str) -> None:
        card = self._cards.get(design_id)
        if card is None:
            return
        project = self._document.project
        # The figures on a card are those of the year, so its picture keeps the coldest month.
        month = coldest_month(project.place)
        picture = scene(
            project.design(design_id),
            project.material_table(),
            project.colony,
            None,
            month,
            "make-up",
            units=self._view.units,
        )
        card.show_design(picture, self._results, month)


def _wet_nights(row: CompareRow) -> str:
    """Return the nights with water over the bees; the rim is named when only it is wet."""
    if row.crown_wet_nights is None or row.rim_wet_nights is None:
        return "… wet nights"
    if row.crown_wet_nights < 1 <= row.rim_wet_nights:
        return f"rim wet {row.rim_wet_nights:.0f} nights"
    return f"{row.crown_wet_nights:.0f} wet nights"
