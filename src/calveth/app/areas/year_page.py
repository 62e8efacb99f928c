"""The year as pictures: a hand through its hours, jumps to its worst ones, what stands there."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

import numpy as np
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.labels import label
from calveth.app.widgets.year_picture import YearPicture
from calveth.core.climate.air import (
    dew_point_unchecked_degc,
    saturation_pressure_unchecked_pa,
)
from calveth.core.year.columns import S_FILM, S_P
from calveth.core.year.figures import margin_k
from calveth.core.year.result import YearRun, is_winter
from calveth.texts.units import UnitSystem
from calveth.texts.year import hour_words

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
        self.said = label("", wrap=True)
        self.said.setMinimumHeight(54)
        self.state = label("", "muted", wrap=True)
        self.jumps: dict[str, QPushButton] = {}
        row = QHBoxLayout()
        row.setSpacing(6)
        for key, text, find in (
            ("coldest", "Coldest hour", _coldest),
            ("wettest", "Wettest hour", _wettest),
            ("hottest", "Hottest hour", _hottest),
        ):
            button = QPushButton(text)
            button.clicked.connect(partial(self._jump, find))
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
        column.addWidget(self.said)
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
            self.said.setText("")
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
            self.said.setText(hour_sentence(self._run, hour, self._view.units))

    def _jump(self, find: Callable[[YearRun], int], *_: object) -> None:
        if self._run is not None:
            self._view.set_hour(find(self._run))

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


def _coldest(run: YearRun) -> int:
    return int(np.argmin(run.weather.temperature_degc))


def _hottest(run: YearRun) -> int:
    return int(np.argmax(run.column("nest_degc")))


def _wettest(run: YearRun) -> int:
    """Return the winter hour with most water on the lid, or else nearest to the dew point."""
    films = run.column("lid_middle_kg") + run.column("lid_rim_kg")
    if films.max() > 0.0:
        return int(np.argmax(films))
    winter = np.repeat(is_winter(run.case.place), 24)
    margin = np.where(winter | ~winter.any(), margin_k(run)[:2].min(axis=0), np.inf)
    return int(np.argmin(margin))


def hour_sentence(run: YearRun, hour: int, units: UnitSystem) -> str:
    """Return what stands in an hour, in words."""
    outside = run.weather
    degc = float(outside.temperature_degc[hour])
    humid = float(outside.vapour_pressure_pa[hour]) / float(
        saturation_pressure_unchecked_pa(np.array(degc))
    )
    crown = float(run.column("crown_degc")[hour])
    dew = float(dew_point_unchecked_degc(np.array(max(run.series[hour, S_P + 2], 1.0))))
    lid, rim = (float(run.column(f"lid_{part}_degc")[hour]) for part in ("middle", "rim"))
    film = 1000.0 * float(run.series[hour, S_FILM : S_FILM + 2].sum())
    t = partial(units.write, quantity="temperature", digits=1)
    acts = []
    fanned = 1000.0 * float(run.column("fanning_m3_s")[hour])
    if fanned > 0.05:
        acts.append(f"bees fan {fanned:.1f} L/s")
    if run.column("cooling_kg_s")[hour] > 1e-6:
        acts.append(f"spread {3.6e6 * float(run.column('cooling_kg_s')[hour]):.0f} g of water an h")
    busy = f" In it {' and '.join(acts)}." if acts else ""
    return (
        f"{hour_words(hour)}: outside {t(degc)} and {100 * humid:.0f} %, wind at the hive "
        f"{units.write(float(outside.wind_m_s[hour]), 'speed', 1)}, sun "
        f"{float(outside.global_sun_w_m2[hour]):.0f} W/m². Beside the bees "
        f"{t(float(run.column('nest_degc')[hour]))}, under the lid {t(crown)} with the dew point "
        f"at {t(dew)}; the lid itself is {t(lid)}, its rim {t(rim)}, with {film:.0f} g of water "
        f"on them. The bees give {float(run.column('heat_w')[hour]):.1f} W, CO2 is "
        f"{100 * float(run.column('nest_co2')[hour]):.1f} %.{busy}"
    )
