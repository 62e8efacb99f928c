"""The acts of a season plan with their dates, which can be moved."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QDate, Signal
from PySide6.QtWidgets import QDateEdit, QGridLayout, QWidget

from calveth.app.widgets.labels import clear, label
from calveth.core.calendar import FIRST_DAYS, month_of_day, week_of_day
from calveth.core.hive.design import Design
from calveth.texts.year import plan_acts, plan_rules, plan_settings

_YEAR = 2001  # one without a leap day


class ActsList(QWidget):
    """A row for each act: date, week, what is done.

    Signals
    -------
    moved(from_day, to_day)
        An act was put on another day; both count from 1.
    """

    moved = Signal(int, int)

    def __init__(self) -> None:
        super().__init__()
        self.dates: list[QDateEdit] = []
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(10)
        self._grid.setVerticalSpacing(4)
        self._grid.setColumnStretch(2, 1)

    def show_design(self, design: Design) -> None:
        """Show the acts of a design."""
        clear(self._grid)
        self.dates = []
        for row, (day, words) in enumerate(plan_acts(design, plan_settings(design))):
            month = month_of_day(day)
            edit = QDateEdit(QDate(_YEAR, month + 1, day - FIRST_DAYS[month] + 1))
            edit.setDisplayFormat("d MMMM")
            edit.setAccessibleName(f"date of: {words}")
            line = edit.lineEdit()
            if line is not None:
                line.setAccessibleName(f"date of: {words}")
            edit.setKeyboardTracking(False)
            edit.editingFinished.connect(partial(self._move, edit, day + 1))
            self.dates.append(edit)
            self._grid.addWidget(edit, row, 0)
            self._grid.addWidget(label(f"week {week_of_day(day)}", "muted"), row, 1)
            rule = plan_rules(design).get(day, "")
            self._grid.addWidget(label(f"{words}, {rule}" if rule else words, wrap=True), row, 2)

    def _move(self, edit: QDateEdit, from_day: int) -> None:
        to_day = FIRST_DAYS[edit.date().month() - 1] + edit.date().day()
        if to_day != from_day:
            self.moved.emit(from_day, to_day)
