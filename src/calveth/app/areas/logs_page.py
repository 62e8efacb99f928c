"""Logs of a hive over time, with what was expected beside them and the inspections as marks."""

from __future__ import annotations

from typing import Any

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from calveth.app.document import Document
from calveth.app.season_years import SeasonYears
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import label
from calveth.app.widgets.log_plot import Band, Curve, LogPlot, Strip
from calveth.core.diary.channels import predicted_hours
from calveth.core.diary.hive_season import seasons_of
from calveth.core.diary.samples import unpacked
from calveth.core.diary.season import clock_h, outside_logs, utc_hours, utc_minute
from calveth.core.diary.series import Fault, Series, find_faults
from calveth.core.diary.years import TYPICAL, SeasonYear, YearKey, bees_by_seams, hive_key
from calveth.core.ends import ends_of
from calveth.core.records.log import Log
from calveth.core.records.quantity import QUANTITIES
from calveth.core.year.result import YearRun
from calveth.texts.log_curves import curve_name, drawn, log_line, strip_title
from calveth.texts.logs import fault_sentence

# Faults that have a place in time.
_PLACED = ("spike", "stuck", "unit", "gap")
_COLORS = {
    "under the lid": "accent",
    "among the bees": "heat",
    "at the floor": "honey",
    "outside": "water",
    "scale": "accent",
    "heater": "heat",
}

# Logs whose faults are remembered.
_MOST_FAULTS = 64


class LogsPage(QWidget):
    """Shows the logs of the chosen hive in a season, beside the year of that season.

    Signals
    -------
    read_wanted()
        A logger's file is to be read.
    drop_wanted(log_id)
        A log is to leave the diary.
    """

    read_wanted = Signal()
    drop_wanted = Signal(str)

    def __init__(self, document: Document, years: SeasonYears, view: ViewState) -> None:
        super().__init__()
        self._document, self._years, self._view = document, years, view
        self.hive, self.season = "", 0
        self.state = label(role="muted", wrap=True)
        years.came.connect(self._came)
        self._faults: dict[tuple[str, ...], tuple[YearRun | None, list[Fault]]] = {}
        self.plot = LogPlot()
        self.seasons = Choice("season", [], self._choose)
        self.read, self.drop = QPushButton("Read a log …"), QPushButton("Take a log out")
        self.read.setToolTip("A CSV file of any logger or scale; a file that grows is followed")
        self.list = QListWidget()
        self.list.setAccessibleName("logs of the hive")
        self.list.setFixedHeight(96)
        self.list.setWordWrap(True)
        head = QHBoxLayout()
        for widget in (label("season", "muted"), self.seasons, self.read, self.drop):
            head.addWidget(widget)
        head.addWidget(self.state, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 6, 10, 8)
        column.addLayout(head)
        column.addWidget(self.plot, 1)
        column.addWidget(self.list)
        self.read.clicked.connect(self.read_wanted)
        self.drop.clicked.connect(self._drop)
        self.plot.hand_moved.connect(self._hand)
        view.hour_changed.connect(self._follow)
        view.units_changed.connect(lambda *_: self.show_hive(self.hive))

    # -- what is shown ----------------------------------------------------------------------------
    def show_hive(self, hive: str) -> None:
        """Show the logs of a hive in the last season of it, or in the one that was chosen."""
        hive = hive if self._document.project.diary.has_hive(hive) else ""
        if hive != self.hive:
            self.hive, self.season = hive, 0
        project = self._document.project
        known = seasons_of(project, hive) if hive else []
        if self.season not in known:
            self.season = known[-1] if known else 0
        self.seasons.set_rows([(str(s), f"{s} / {(s + 1) % 100:02d}") for s in known])
        self.seasons.show_id(str(self.season))
        logs = self._logs()
        self.list.clear()
        for log in logs:
            faults = self._faults_of(log)
            lines = [log_line(log, len(faults))]
            lines += [
                f"   {fault_sentence(f, unpacked(log.chunks, log.quantity))}" for f in faults[:3]
            ]
            item = QListWidgetItem("\n".join(lines))
            item.setToolTip(
                "\n".join(
                    fault_sentence(f, unpacked(log.chunks, log.quantity)) for f in faults[:20]
                )
            )
            item.setData(256, log.id)
            self.list.addItem(item)
        self.drop.setEnabled(bool(logs))
        self.read.setEnabled(bool(hive))
        self._draw()
        self._tell()

    def _logs(self) -> list[Log]:
        """Return the logs of the hive and those outside, as far as they reach into the season."""
        diary = self._document.project.diary
        if not self.hive:
            return []
        return [*diary.logs_of(self.hive), *diary.logs_of("")]

    def _faults_of(self, log: Log) -> list[Fault]:
        """Return the faults of a log, found once for its samples.

        A drift among bees shows only against what was expected of them.
        """
        year = self.year()
        run = None if year is None else year.run
        key = tuple(c.packed.digest for c in log.chunks)
        known = self._faults.get(key)
        # The run itself is held: the number of one that was let go is lent to the next.
        if known is None or known[0] is not run:
            outside = outside_logs(self._document.project.diary, "temperature")
            beside = self._series(outside[0]) if outside and log.at != "outside" else None
            series, expected = self._series(log), None
            if run is not None and log.hive and log.quantity == "temperature":
                hours = utc_hours(self._document.project.place, self.season)
                order = np.argsort(hours)
                expected = Series(
                    quantity="temperature",
                    minutes=60 * hours[order] + 30,
                    values=predicted_hours(run, log)[order],
                )
            faults = find_faults(series, beside, expected)
            kept = [f for f in faults if f.kind != "drift" or expected is not None]
            known = self._faults[key] = run, kept
            while len(self._faults) > _MOST_FAULTS:
                del self._faults[next(iter(self._faults))]
        return known[1]

    @staticmethod
    def _series(log: Log) -> Series:
        return unpacked(log.chunks, log.quantity)

    def year(self) -> SeasonYear | None:
        """Return the year of the season that is shown; None while it is worked out."""
        if not self.hive or not self.season:
            return None
        return self._years.get(self._key(), ranged=True)

    def _key(self) -> YearKey:
        project = self._document.project
        season = self.season if self.season in self._years.seasons() else TYPICAL
        bees = bees_by_seams(project, self.hive, self.season)
        return hive_key(project.diary.hive(self.hive), season, bees)

    def _tell(self) -> None:
        if not self.hive:
            self.state.setText("Set up a hive first.")
        elif not self._logs():
            self.state.setText("No log yet: read the file of a probe or a scale.")
        elif (year := self.year()) is None:
            waits = "what was expected is worked out …"
            self.state.setText(self._years.trouble(self._key()) or waits)
        elif not year.ranged:
            self.state.setText("its range comes …")
        else:
            self.state.setText("dashed: expected, shade: 8 of 10 built alike; marks: inspections")

    def _came(self) -> None:
        if self.isVisible():
            self.show_hive(self.hive)

    def _draw(self) -> None:
        place, units = self._document.project.place, self._view.units
        ahead = 60 * clock_h(place)
        hours = utc_hours(place, self.season) if self.season else np.zeros(0, dtype=np.int64)
        inside = (60 * int(hours.min()), 60 * int(hours.max()) + 60) if hours.size else (0, 1)
        strips = []
        for quantity in QUANTITIES:
            logs = [g for g in self._logs() if g.quantity == quantity]
            curves: list[Curve] = []
            faults: list[tuple[float, float]] = []
            bands: list[Band] = []
            for log in logs:
                series = self._series(log)
                own = (series.minutes >= inside[0]) & (series.minutes < inside[1])
                if not own.any():
                    continue
                made = drawn(quantity, series.values[own], units)
                curves.append(
                    Curve(
                        name=curve_name(log),
                        minutes=series.minutes[own] + ahead,
                        values=made,
                        color=_COLORS[log.at],
                        gap_min=max(180.0, 3.0 * series.step_min),
                    )
                )
                faults += [
                    (f.begins_min + ahead, f.ends_min + ahead)
                    for f in self._faults_of(log)
                    if f.kind in _PLACED
                ]
                curves += self._expected(log, series, hours, ahead)
                bands += self._band(log, series, hours, ahead)
            if curves:
                strips.append(
                    Strip(
                        title=strip_title(quantity, units),
                        curves=tuple(curves),
                        faults=tuple(faults),
                        bands=tuple(bands),
                        digits=QUANTITIES[quantity].digits,
                    )
                )
        looks = self._document.project.diary.of_hive(self.hive) if self.hive else ()
        marks = [(utc_minute(place, i.when) + ahead, i.at) for i in looks]
        self.plot.show_strips(strips, marks)
        self._follow()

    def _expected(self, log: Log, series: Series, hours: Any, ahead: int) -> list[Curve]:
        """Return the curve of the season as it was expected where the log has samples."""
        year = self.year()
        if year is None or log.at in ("outside", "heater"):
            return []
        values = predicted_hours(year.run, log)
        order = np.argsort(hours)
        minutes = 60 * hours[order] + 30
        within = (minutes >= series.minutes[0]) & (minutes <= series.minutes[-1])
        values = values[order][within]
        if log.quantity == "weight" and values.size:
            values = values - values[0] + float(np.median(series.values[:24]))
        shown = drawn(log.quantity, values, self._view.units)
        return [
            Curve(
                name="expected",
                minutes=minutes[within] + ahead,
                values=shown,
                color="heat",
                dashed=True,
                gap_min=2000.0,
            )
        ]

    def _band(self, log: Log, series: Series, hours: Any, ahead: int) -> list[Band]:
        """Return the range of hives built alike where the log has samples."""
        year = self.year()
        if year is None or not year.alike or log.at in ("outside", "heater"):
            return []
        order = np.argsort(hours)
        minutes = 60 * hours[order] + 30
        within = (minutes >= series.minutes[0]) & (minutes <= series.minutes[-1])
        rows = np.array([predicted_hours(readings, log)[order][within] for readings in year.alike])
        if log.quantity == "weight" and rows.size:
            rows = rows - rows[:, :1] + float(np.median(series.values[:24]))
        low, high = (drawn(log.quantity, ends, self._view.units) for ends in ends_of(rows, axis=0))
        return [Band(minutes=minutes[within] + ahead, low=low, high=high, color="heat")]

    # -- the hand ---------------------------------------------------------------------------------
    def _hand(self, minute: int) -> None:
        """Have ribbon, Seasons and Shell go to the hour under the hand."""
        hours = utc_hours(self._document.project.place, self.season)
        hour = minute // 60 - clock_h(self._document.project.place)
        at = np.flatnonzero(hours == hour)
        if at.size:
            self._view.set_hour(int(at[0]))

    def _follow(self, *_: object) -> None:
        if not self.season or not self._view.by_hour:
            return
        place = self._document.project.place
        hour = int(utc_hours(place, self.season)[self._view.hour])
        if self.plot.hand is None or self.plot.hand // 60 != hour + clock_h(place):
            self.plot.set_hand(60 * (hour + clock_h(place)))

    # -- acts -------------------------------------------------------------------------------------
    def _choose(self, season: str) -> None:
        self.season = int(season)
        self.show_hive(self.hive)

    def _drop(self, *_: object) -> None:
        item = self.list.currentItem() or self.list.item(0)
        if item is not None:
            self.drop_wanted.emit(str(item.data(256)))
