"""Which size of an opening gives a wanted air, CO2 or dew margin."""

from __future__ import annotations

from collections.abc import Callable
from typing import get_args

from PySide6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from calveth.app.dialogs.stoppable import StoppableDialog
from calveth.app.jobs import Jobs
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import label
from calveth.core.advice.opening_size import Goal, TargetAnswer
from calveth.core.errors import CalvethError
from calveth.core.hive.opening import Opening
from calveth.texts.units import UnitSystem, parse_quantity

_QUANTITY: dict[str, str] = {
    "fresh air": "flow",
    "CO2 in the nest": "fraction",
    "lid middle above dew": "temperature difference",
    "lid rim above dew": "temperature difference",
}
_USUAL = {
    "fresh air": 100.0,
    "CO2 in the nest": 0.02,
    "lid middle above dew": 1.0,
    "lid rim above dew": 0.5,
}


class OpeningSizeDialog(StoppableDialog):
    """Asks for a goal, finds the size in the background, and takes it on demand."""

    def __init__(
        self,
        opening: Opening,
        month_name: str,
        units: UnitSystem,
        jobs: Jobs,
        find: Callable[[Goal, float], TargetAnswer],
        take: Callable[[float], None],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(jobs, parent)
        self._opening, self._units, self._jobs = opening, units, jobs
        self._find, self._take = find, take
        self.answer: TargetAnswer | None = None
        self.setWindowTitle(f"Which size of {opening.name}?")
        self.resize(480, 220)
        what = "diameter" if opening.round else "height" if opening.shape == "lid gap" else "width"
        self._what = what
        self.goal = Choice("goal", [(g, g) for g in get_args(Goal)], self._suggest)
        self.target = QLineEdit()
        self.target.setAccessibleName("wanted value")
        self.caption = label(wrap=True)
        self.progress = QProgressBar()
        self.progress.setRange(0, 0)
        self.progress.hide()
        self.find_button = QPushButton("Find")
        self.find_button.setDefault(True)
        self.take_button = QPushButton("Take this size")
        self.take_button.setEnabled(False)
        close = QPushButton("Close")
        self.find_button.clicked.connect(self.begin)
        self.take_button.clicked.connect(self._taken)
        close.clicked.connect(self.reject)
        grid = QGridLayout()
        grid.addWidget(label(f"In {month_name} I want", "muted"), 0, 0)
        grid.addWidget(self.goal, 0, 1)
        grid.addWidget(label("of", "muted"), 0, 2)
        grid.addWidget(self.target, 0, 3)
        grid.setColumnStretch(1, 2)
        grid.setColumnStretch(3, 1)
        buttons = QHBoxLayout()
        buttons.addWidget(close)
        buttons.addStretch()
        buttons.addWidget(self.take_button)
        buttons.addWidget(self.find_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 14, 16, 12)
        column.setSpacing(10)
        column.addLayout(grid)
        column.addWidget(self.caption, 1)
        column.addWidget(self.progress)
        column.addLayout(buttons)
        self.hear(jobs.refused, self._refused)
        self._suggest("fresh air")

    def _suggest(self, goal: str) -> None:
        self.target.setText(self._units.write(_USUAL[goal], _QUANTITY[goal]))

    def begin(self) -> None:
        """Look for the size."""
        goal: Goal = self.goal.currentData()
        quantity = _QUANTITY[goal]
        try:
            target = parse_quantity(
                self.target.text(), quantity, self._units.unit(quantity), "wanted value"
            )
        except CalvethError as error:
            self._refused(str(error))
            return
        self.caption.setText("Trying sizes … Esc stops it")
        self.progress.show()
        self.take_button.setEnabled(False)
        find = self._find
        self._jobs.run(lambda: find(goal, target), self._done)

    def _done(self, answer: object) -> None:
        assert isinstance(answer, TargetAnswer)
        self.progress.hide()
        self.answer = answer
        self.take_button.setEnabled(answer.size_m is not None)
        self.caption.setText(self._sentence(answer))

    def _sentence(self, answer: TargetAnswer) -> str:
        u, quantity = self._units, _QUANTITY[answer.goal]
        digits = 1 if quantity == "fraction" else None
        target = u.write(answer.target, quantity, digits)
        if answer.size_m is not None:
            sentence = (
                f"A {self._what} of {u.write(answer.size_m, 'length', 1)} gives {answer.goal} of "
                f"{u.write(answer.reached, quantity, digits)}."
            )
            if answer.jumps_from is not None:
                before = u.write(answer.jumps_from, quantity, digits)
                sentence += (
                    f" A hair smaller it would be {before}: the air of this hive tips there."
                )
            return sentence
        low, high = (u.write(v, quantity, digits) for v in (answer.at_smallest, answer.at_largest))
        sizes = (u.write(v, "length") for v in (answer.smallest_m, answer.largest_m))
        small, large = sizes
        return (
            f"No size gives {answer.goal} of {target}: from {small} to {large} it goes from {low} "
            f"to {high}. Change another opening, or the wall."
        )

    def _refused(self, sentence: str) -> None:
        self.progress.hide()
        self.caption.setText(sentence)

    def _taken(self) -> None:
        if self.answer is not None and self.answer.size_m is not None:
            self._take(round(self.answer.size_m, 4))
            self.accept()
