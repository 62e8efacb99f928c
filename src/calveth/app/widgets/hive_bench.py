"""The bench at the left: every design as a small cutaway with three figures."""

from __future__ import annotations

from dataclasses import fields

from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from calveth.app.cutaway.view import Scene, scene
from calveth.app.cutaway.widget import CutawayWidget
from calveth.app.document import Document
from calveth.app.results import Results
from calveth.app.ribbon.verdict import paint_verdict
from calveth.app.theme.theme import current
from calveth.app.view_state import ViewState
from calveth.app.widgets.labels import ElidedLabel, clear, label, plain_tip
from calveth.core.climate.place import coldest_month
from calveth.core.compare.table import CompareRow
from calveth.core.hive.design import Design
from calveth.core.project import Project
from calveth.texts.measures import snow_words
from calveth.texts.units import UnitSystem


class HiveCard(QWidget):
    """One design on the bench."""

    clicked = Signal(str)

    def __init__(self, design: Design) -> None:
        super().__init__()
        self.design_id = design.id
        self._chosen = self._is_provisional = self.danger = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFixedHeight(90)
        self.picture = CutawayWidget(small=True)
        self.picture.setFixedWidth(56)
        self.picture.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.name = ElidedLabel("heading")
        self.name.setText(design.name)
        self.conductance, self.honey, self.nights = (ElidedLabel("figures") for _ in range(3))
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

    def show_design(
        self, picture: Scene, results: Results, month: int, boards_w_k: float | None
    ) -> None:
        """Show a design; figures that are being worked out are written as dots.

        ``boards_w_k`` is the heat loss of plain boards, the yardstick of one's own.
        """
        design = picture.design
        self.name.setText(design.name)
        self.picture.set_scene(picture)
        row = results.row(design.id, month)
        self._warn(row is not None and row.snow is not None and row.snow.danger)
        error = results.error(design.id)
        tip = [design.name, design.note]
        if error:
            lines = ["no answer", error, ""]
            tip = [design.name, error]
        elif row is None:
            lines = ["working it out …", "", ""]
        else:
            lines = card_lines(row, picture.units, boards_w_k)
            if design.factors is not None:
                lines[2] += ", calibrated"
                tip.append(f"calibrated: {design.factors.note}")
            if self.danger:
                tip.append(f"under snow: {snow_words(row.snow)}".replace("\n", " "))
            tip += [*lines, *(_PROVISIONAL if results.provisional(design.id) else ())]
            trouble = results.trouble(design.id) or results.shell_error(design.id)
            tip += [trouble] if trouble else []
        self._provisional(results.provisional(design.id) and row is not None)
        for place, text in zip((self.conductance, self.honey, self.nights), lines, strict=True):
            place.setText(f"≈ {text}" if self._is_provisional and text else text)
        self.setToolTip(plain_tip("\n".join(t for t in tip if t)))
        spoken = [_DANGER] * self.danger + [t for t in lines if t]
        self.setAccessibleName(f"{design.name}: " + ", ".join(spoken))

    def _warn(self, on: bool) -> None:
        """Put the mark of danger to life behind the name, or take it away."""
        self.danger = on
        self.name.setContentsMargins(0, 0, 20 if on else 0, 0)
        self.update()

    def _provisional(self, on: bool) -> None:
        """Let figures that may still change look so."""
        self._is_provisional = on
        for place in (self.conductance, self.honey, self.nights):
            if place.property("role") != ("provisional" if on else "figures"):
                place.setProperty("role", "provisional" if on else "figures")
                place.style().unpolish(place)
                place.style().polish(place)

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
        painter.setPen(
            QPen(
                p.color("accent" if self._chosen or self.hasFocus() else "line"),
                2 if self._chosen or self.hasFocus() else 1,
            )
        )
        painter.drawRoundedRect(self.rect().adjusted(1, 1, -2, -2), 4, 4)
        if self.danger:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint_verdict(painter, QPointF(self.width() - 15.0, 17.0), "danger", p, 7.0)


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
        self.setAccessibleName("list of hives")
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
        # The boards are the yardstick of all others.
        for key in self._cards if design_id == "plain-boards" else (design_id,):
            self._refresh(key)

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
        rest = [f.name for f in fields(Project) if f.name != "designs"]
        alike = all(getattr(before, name) == getattr(after, name) for name in rest)
        for old, new in zip(before.designs, after.designs, strict=True):
            if old != new or not alike:
                self._refresh(new.id)

    def _rebuild(self) -> None:
        clear(self._column)
        self._cards = {}
        project = self._document.project
        own = [d for d in project.designs if not d.benchmark]
        for design in (*own, *(d for d in project.designs if d.benchmark)):
            if design.benchmark and len(self._cards) == len(own):
                self._column.addWidget(label("To compare with", "muted"))
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
        card.show_design(picture, self._results, month, self._boards_w_k(design_id))

    def _boards_w_k(self, design_id: str) -> float | None:
        """Return the heat loss of the plain boards to compare with; None for themselves."""
        boards = next(
            (d for d in self._document.project.designs if d.benchmark and d.id == "plain-boards"),
            None,
        )
        if boards is None or boards.id == design_id:
            return None
        known = self._results.monthly(boards.id)
        return None if known is None else known.conductance_w_k


_DANGER = "danger to the life of the bees under snow"
_PROVISIONAL = ("≈ is not settled yet: the shell and the nights are being worked out",)
_SHORT_WINTER_NIGHTS = 14


def card_lines(row: CompareRow, units: UnitSystem, boards_w_k: float | None) -> list[str]:
    """Return the three figures of a card: heat loss, honey, and how often the lid's rim is wet.

    Where there is no winter to speak of, the honey is that of the year.
    """
    loss = f"{row.conductance_w_k:.2f} W/K"
    if boards_w_k:
        loss += f", {row.conductance_w_k / boards_w_k:.0%} of boards"
    if row.winter_nights < _SHORT_WINTER_NIGHTS:
        honey = f"{units.write(row.year_honey_kg, 'mass', 0)} honey a year"
    else:
        honey = f"{units.write(row.winter_honey_kg, 'mass')} winter honey"
    if row.rim_wet_nights is None:
        nights = "rim wet … nights"
    elif row.winter_nights < _SHORT_WINTER_NIGHTS:
        nights = f"rim {'dry' if row.rim_margin_k > 0 else 'wet'} in the coldest month"
    else:
        nights = f"rim wet {row.rim_wet_nights:.0f} of {row.winter_nights:.0f} nights"
    return [loss, honey, nights]
