"""The year as pictures: a hand through its hours, jumps to its worst ones, what stands there."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.labels import label
from calveth.app.widgets.year_picture import YearPicture
from calveth.core.year.figures import SPECIAL_HOURS, special_hour
from calveth.core.year.result import YearRun
from calveth.texts.year_hours import hour_sentence

_PLAY_MS = 60
YEAR_NODES = ("year", "year ranges")


class YearPage(QWidget):
    """Shows the hours of one design; the hand is shared with the ribbon."""

    def __init__(self, results: Results, view: ViewState) -> None:
        super().__init__()
        self._results, self._view = results, view
        self._run: YearRun | None = None
        self.picture = YearPicture()
        self.picture.hour_changed.connect(view.set_hour)
        self.answer = label("", wrap=True)
        self.answer.setMinimumHeight(54)
        self.state = label("", "muted", wrap=True)
        self.jumps: dict[str, QPushButton] = {}
        row = QHBoxLayout()
        row.setSpacing(6)
        for key in SPECIAL_HOURS:
            button = QPushButton(f"{key.capitalize()} hour")
            button.clicked.connect(partial(self._jump, key))
            self.jumps[key] = button
            row.addWidget(button)
        self.play = QPushButton("Play the days")
        self.play.setCheckable(True)
        self.play.toggled.connect(self._toggle)
        row.addWidget(self.play)
        row.addWidget(self.state, 1)
        self._timer = QTimer(self)
        self._timer.setInterval(_PLAY_MS)
        self._timer.timeout.connect(self._step)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addLayout(row)
        column.addWidget(self.answer)
        column.addWidget(self.picture)
        column.addStretch()
        view.hour_changed.connect(self._hour)

    def show_design(self, design_id: str) -> None:
        """Show the year of a design as far as it is known."""
        run = self._results.year(design_id)
        bands = self._results.year_ranges(design_id)
        self._run = run
        for button in (*self.jumps.values(), self.play):
            button.setEnabled(run is not None)
        self.picture.setVisible(run is not None)
        self.picture.show_year(run, bands, self._view.units)
        share = self._results.year_share(design_id)
        trouble = self._results.state("year", design_id).sentence
        if run is None:
            self.state.setText(trouble or "Working out 8760 hours …")
            self.answer.setText("")
            return
        made = "made up from the months" if run.case.place.hours is None else "from the file"
        ranges = ""
        if bands is None:
            ranges = " Ranges come …" if share is None else f" Ranges {100 * share:.0f} % …"
        open_hours = run.unsettled_hours
        left = f" {open_hours} hours did not settle." if open_hours else ""
        self.state.setText(f"Weather {made}.{ranges}{left}")
        self._hour(self._view.hour)

    def stop(self) -> None:
        """Stop playing."""
        self.play.setChecked(False)

    def _hour(self, hour: int) -> None:
        self.picture.set_hour(hour)
        if self._run is not None and self.isVisible():
            self.answer.setText(hour_sentence(self._run, hour, self._view.units))

    def _jump(self, what: str, *_: object) -> None:
        if self._run is not None:
            self._view.set_hour(special_hour(self._run, what))

    def _toggle(self, on: bool) -> None:
        self.play.setText("Stop" if on else "Play the days")
        if on:
            self._timer.start()
        else:
            self._timer.stop()

    def _step(self) -> None:
        if not self.isVisible():
            self.stop()
            return
        self._view.set_hour((self._view.hour + 24) % 8760)
