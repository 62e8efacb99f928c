"""What stands round the hive, drawn into its sky: hills and houses, trees and their leaves."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from PySide6.QtWidgets import (
    QButtonGroup,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QRadioButton,
    QVBoxLayout,
    QWidget,
)

from calveth.app.widgets.labels import label
from calveth.app.widgets.sky_dome import SkyDome
from calveth.app.widgets.spin import CountBox
from calveth.core.calendar import MONTH_NAMES
from calveth.core.climate.place import Place
from calveth.core.climate.shade import OPEN, Shade, leaves_of
from calveth.texts.shade import shade_sentence

_EVERGREEN = 0.15


class ShadeDialog(QDialog):
    """Draws the horizon of a place; `shade` is what was drawn, None for open land."""

    def __init__(self, place: Place, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._place = place
        start = place.shade or replace(OPEN, through=leaves_of(place.latitude_deg))
        self.setWindowTitle("What stands round the hives")
        self.dome = SkyDome(start, place.latitude_deg, place.facing_deg)
        self.dome.changed.connect(self._show)
        self.kinds = {True: QRadioButton("trees"), False: QRadioButton("hills and houses")}
        group = QButtonGroup(self)
        for trees, kind in self.kinds.items():
            kind.setAccessibleName(f"draw {kind.text()}")
            kind.toggled.connect(partial(self._choose, trees))
            group.addButton(kind)
        self.kinds[True].setChecked(True)
        self.answer = label("", wrap=True)
        self.problem = label("", "wrong", wrap=True)
        self.months: list[CountBox] = []
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 14, 16, 12)
        row.setSpacing(16)
        row.addWidget(self.dome)
        row.addLayout(self._column(), 1)
        self._show_months()
        self._show()

    def _column(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(8)
        column.addWidget(
            label(
                "The rim is the horizon, the middle is straight up. Drag from the rim inwards as "
                "high as things stand; lines are the sun.",
                "muted",
                wrap=True,
            )
        )
        kinds = QHBoxLayout()
        kinds.addWidget(label("draw", "muted"))
        for kind in self.kinds.values():
            kinds.addWidget(kind)
        kinds.addStretch()
        column.addLayout(kinds)
        column.addWidget(label("sun that comes through the trees, %", "muted"))
        grid = QGridLayout()
        grid.setSpacing(4)
        for k, name in enumerate(MONTH_NAMES):
            box = CountBox(f"sun through the trees in {name}", 0, 100)
            box.setFixedWidth(70)
            box.valueChanged.connect(self._through)
            box.refused.connect(self.problem.setText)
            self.months.append(box)
            grid.addWidget(label(name[:3], "muted"), 2 * (k // 6), k % 6)
            grid.addWidget(box, 2 * (k // 6) + 1, k % 6)
        column.addLayout(grid)
        quick = QHBoxLayout()
        leaves = leaves_of(self._place.latitude_deg)
        for text, through in (
            ("Trees that shed leaves", leaves),
            ("Evergreen", (_EVERGREEN,) * 12),
        ):
            button = QPushButton(text)
            button.clicked.connect(partial(self._put_through, through))
            quick.addWidget(button)
        quick.addStretch()
        column.addLayout(quick)
        column.addWidget(self.answer)
        column.addWidget(self.problem)
        column.addStretch()
        buttons = QHBoxLayout()
        self.open_button, cancel, self.ok = (
            QPushButton(t) for t in ("Open land", "Cancel", "Take over")
        )
        self.open_button.clicked.connect(self._clear)
        cancel.clicked.connect(self.reject)
        self.ok.clicked.connect(self.accept)
        self.ok.setDefault(True)
        for each in (self.open_button, cancel, self.ok):
            buttons.addWidget(each)
        column.addLayout(buttons)
        return column

    @property
    def shade(self) -> Shade | None:
        """What was drawn; None where nothing stands."""
        measured = self.dome.shade
        return None if measured.is_open else measured

    def _choose(self, trees: bool, on: bool) -> None:
        if on:
            self.dome.trees = trees

    def _clear(self) -> None:
        self.dome.show_shade(replace(OPEN, through=self.dome.shade.through))
        self._show()

    def _through(self, *_: object) -> None:
        through = tuple(box.value() / 100.0 for box in self.months)
        self.dome.show_shade(replace(self.dome.shade, through=through))
        self._show()

    def _put_through(self, through: tuple[float, ...], *_: object) -> None:
        self.dome.show_shade(replace(self.dome.shade, through=through))
        self._show_months()
        self._show()

    def _show_months(self) -> None:
        for box, share in zip(self.months, self.dome.shade.through, strict=True):
            box.show_value(round(100 * share))

    def _show(self, *_: object) -> None:
        self.answer.setText(shade_sentence(self.dome.shade, self._place.latitude_deg))
