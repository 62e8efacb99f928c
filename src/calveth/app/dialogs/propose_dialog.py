"""Designs from limits: asked for, searched in the background, taken one by one."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from calveth.app.dialogs.stoppable import StoppableDialog
from calveth.app.jobs import Jobs
from calveth.app.widgets.labels import label
from calveth.core.errors import CalvethError, DomainError
from calveth.core.year.propose import Limits, Proposal, Search
from calveth.texts.proposals import proposal_sentence, search_sentence
from calveth.texts.units import UnitSystem, parse_quantity

Find = Callable[[Limits, Callable[[float], None]], Search]


class ProposeDialog(StoppableDialog):
    """Asks for limits, left empty where there is none; shows the front and takes from it."""

    def __init__(
        self,
        cavity: str,
        units: UnitSystem,
        jobs: Jobs,
        find: Find,
        take: Callable[[Proposal], object],
        at_hand: Mapping[str, frozenset[str]],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(jobs, parent)
        self._units, self._find, self._take = units, find, take
        self.search: Search | None = None
        self.setWindowTitle("Propose designs")
        self.resize(860, 460)
        self.fields: dict[str, QLineEdit] = {}
        self.materials = QComboBox()
        grid = self._asked(units, at_hand)
        self.answer = label(
            f"Constructions that ship, built round the cavity of {cavity}: in thicknesses, with "
            "joints filled or not, with and without an opening above.",
            wrap=True,
        )
        self.list = QListWidget()
        self.list.setAccessibleName("designs within the limits")
        self.list.setWordWrap(True)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.progress = QProgressBar()
        self.progress.hide()
        self.find_button, self.take_button = QPushButton("Search"), QPushButton("Take as a design")
        self.find_button.setDefault(True)
        self.take_button.setEnabled(False)
        self.list.currentRowChanged.connect(self._chosen)
        close = QPushButton("Close")
        self.find_button.clicked.connect(self.begin)
        self.take_button.clicked.connect(self._taken)
        close.clicked.connect(self.reject)
        buttons = QHBoxLayout()
        buttons.addWidget(close)
        buttons.addWidget(self.progress, 1)
        buttons.addStretch()
        buttons.addWidget(self.take_button)
        buttons.addWidget(self.find_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 14, 16, 12)
        column.setSpacing(10)
        column.addLayout(grid)
        column.addWidget(self.answer)
        column.addWidget(self.list, 1)
        column.addLayout(buttons)
        self.hear(jobs.refused, self._refused)
        self.hear(jobs.progress, self._show_share)

    def _asked(self, units: UnitSystem, at_hand: Mapping[str, frozenset[str]]) -> QGridLayout:
        """Return the fields of the limits."""
        grid = QGridLayout()
        for k, (name, text, unit) in enumerate(
            (
                ("lift", "heaviest lift, full", units.unit("mass")),
                ("cost", "material at most", "€"),
                ("size", "outer width and length", units.unit("length")),
                ("dry", "dry above the cluster in so many of 10 built alike", ""),
            )
        ):
            field = QLineEdit("9" if name == "dry" else "")
            field.setAccessibleName(text)
            field.setPlaceholderText("no limit")
            field.setMaximumWidth(110)
            self.fields[name] = field
            grid.addWidget(label(f"{text} {unit}".strip(), "muted"), k // 2, 2 * (k % 2))
            grid.addWidget(field, k // 2, 2 * (k % 2) + 1)
        self.materials.setAccessibleName("materials")
        for words, ids in {"any that ship": frozenset[str](), **at_hand}.items():
            self.materials.addItem(words, ids)
        grid.addWidget(label("materials", "muted"), 2, 0)
        grid.addWidget(self.materials, 2, 1, 1, 3)
        return grid

    def limits(self) -> Limits:
        """Return what is typed.

        Raises
        ------
        DomainError
            When it is no number, or a limit that means nothing.
        """
        u = self._units

        def value(name: str, quantity: str, unit: str) -> float:
            text = self.fields[name].text().strip()
            field = self.fields[name].accessibleName()
            return parse_quantity(text, quantity, unit, field) if text else float("inf")

        dry = value("dry", "number", "")
        if dry != int(min(dry, 10)):
            raise DomainError("dry hives of ten", self.fields["dry"].text(), "use 0 to 10")
        return Limits(
            lift_kg=value("lift", "mass", u.unit("mass")),
            cost_eur=value("cost", "money", "€"),
            outer_m=value("size", "length", u.unit("length")),
            dry_of_ten=int(dry),
            materials=self.materials.currentData(),
        )

    def begin(self) -> None:
        """Search within the limits."""
        try:
            limits = self.limits()
        except CalvethError as error:
            self._refused(str(error))
            return
        self.answer.setText("Weighing, pricing and taking them through the year … Esc stops it")
        self.list.clear()
        self.progress.setValue(0)
        self.progress.show()
        report, find = self._jobs.reporter(), self._find
        self._jobs.run(lambda: find(limits, report), self._done)

    def _done(self, answer: object) -> None:
        assert isinstance(answer, Search)
        self.progress.hide()
        self.search = answer
        self.answer.setText(search_sentence(answer))
        for proposal in answer.front:
            self.list.addItem(proposal_sentence(proposal, self._units))
        if answer.front:
            self.list.setCurrentRow(0)

    def _show_share(self, share: float) -> None:
        self.progress.setValue(round(100 * share))

    def _refused(self, sentence: str) -> None:
        self.progress.hide()
        self.answer.setText(sentence)

    def _chosen(self, row: int) -> None:
        self.take_button.setEnabled(row >= 0)

    def _taken(self) -> None:
        row = self.list.currentRow()
        if self.search is not None and 0 <= row < len(self.search.front):
            self._take(self.search.front[row])
            self.answer.setText(f"{self.search.front[row].bands.case.design.name} is taken.")
