"""The hives that stand and the inspections of the one that is chosen."""

from __future__ import annotations

from dataclasses import replace
from typing import Any, get_args

from PySide6.QtCore import QDate, Qt, Signal
from PySide6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from calveth.app.widgets.choice import Choice
from calveth.app.widgets.date_field import DateField
from calveth.app.widgets.labels import label
from calveth.core.errors import DomainError
from calveth.core.project import Project
from calveth.core.records.diary import Fate, StandingHive
from calveth.texts.diary import hive_line

COMPASS = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")


class StandingList(QWidget):
    """Lists hives and inspections; the chosen hive's name, colony, days and fate are edited here.

    Signals
    -------
    hive_chosen(id), inspection_chosen(id)
    hive_changed(hive)
        Its fields were changed.
    refused(sentence)
        What was typed is not accepted; empty when it is.
    """

    hive_chosen = Signal(str)
    inspection_chosen = Signal(str)
    hive_changed = Signal(object)
    refused = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._hive: StandingHive | None = None
        self._typed_day: DateField | None = None
        self._of_days = ""
        self.hives, self.inspections = QListWidget(), QListWidget()
        self.hives.setAccessibleName("hives that stand")
        self.inspections.setAccessibleName("inspections of the hive")
        for each in (self.hives, self.inspections):
            each.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
            each.setWordWrap(True)
            each.setMinimumHeight(64)
        self.hives.currentItemChanged.connect(lambda i, _: self._pick(i, self.hive_chosen))
        self.inspections.currentItemChanged.connect(
            lambda i, _: self._pick(i, self.inspection_chosen)
        )
        self.set_up, self.look = (
            QPushButton("Set up the chosen design"),
            QPushButton("New inspection"),
        )
        self.leave = QPushButton("Take it out")
        self.leave.setToolTip("A hive without inspections leaves the diary")
        self.strike = QPushButton("Delete it")
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 4, 8)
        column.setSpacing(5)
        column.addWidget(label("Hives that stand", "heading"))
        column.addWidget(self.hives, 2)
        row = QHBoxLayout()
        row.addWidget(self.set_up)
        row.addWidget(self.leave)
        column.addLayout(row)
        column.addLayout(self._fields())
        column.addWidget(label("Inspections", "heading"))
        column.addWidget(self.inspections, 3)
        row = QHBoxLayout()
        row.addWidget(self.look)
        row.addWidget(self.strike)
        column.addLayout(row)

    def _fields(self) -> QGridLayout:
        self.name, self.colony = QLineEdit(), QLineEdit()
        for edit, name, field in (
            (self.name, "name of the hive", "name"),
            (self.colony, "colony in it", "colony"),
        ):
            edit.setAccessibleName(name)
            edit.setMaxLength(80)
            edit.editingFinished.connect(lambda e=edit, f=field: self._put(**{f: e.text()}))
        self.since, self.until = DateField("set up on"), DateField("last day of it")
        for when, field in ((self.since, "since"), (self.until, "until")):
            when.entered.connect(lambda text, w=when, f=field: self._put_day(w, f, text))
            when.refused.connect(self.refused)
        self.fate = Choice("what became of it", [(f, f) for f in get_args(Fate)], self._put_fate)
        self.facing = Choice("way the hive faces", [], self._put_facing)
        grid = QGridLayout()
        grid.setVerticalSpacing(4)
        for k, (text, widget) in enumerate(
            (
                ("name", self.name),
                ("colony", self.colony),
                ("since", self.since),
                ("it", self.fate),
                ("until", self.until),
                ("faces", self.facing),
            )
        ):
            grid.addWidget(label(text, "muted"), k, 0)
            grid.addWidget(widget, k, 1)
        return grid

    def show_diary(self, project: Project, hive_id: str, inspection_id: str) -> None:
        """Show a project's hives and those inspections; nobody is told of what is chosen."""
        diary = project.diary
        self._hive = next((h for h in diary.hives if h.id == hive_id), None)
        hives = [(h.id, f"{h.name}: {hive_line(h, project.design(h.design))}") for h in diary.hives]
        _fill(self.hives, hives, hive_id)
        looks = [(i.id, _look_line(i)) for i in reversed(diary.of_hive(hive_id))]
        _fill(self.inspections, looks, inspection_id)
        for widget in (
            self.name,
            self.colony,
            self.since,
            self.fate,
            self.leave,
            self.look,
            self.facing,
        ):
            widget.setEnabled(self._hive is not None)
        self.strike.setEnabled(bool(inspection_id))
        hive = self._hive
        self.until.setEnabled(hive is not None and bool(hive.until))
        if hive is None:
            return
        self.name.setText(hive.name)
        self.colony.setText(hive.colony)
        self.fate.show_id(hive.fate)
        self._show_facing(hive, project.place.facing_deg)
        self._show_days(hive)

    def _show_days(self, hive: StandingHive) -> None:
        """Show the days of a hive; what was typed and refused stays to be corrected."""
        for when, text in ((self.since, hive.since), (self.until, hive.until)):
            if (hive.id, text) != (self._of_days, when.value) or not when.property("wrong"):
                when.set_value(text)
        self._of_days = hive.id

    def _put_day(self, when: DateField, field: str, text: str) -> None:
        """Change a day; where that is refused the field keeps what was typed and says why."""
        self._typed_day = when
        self._put(**{field: text})
        self._typed_day = None

    def refuse(self, sentence: str) -> None:
        """Say at the field that was typed into why its day was not taken."""
        if self._typed_day is not None:
            self._typed_day.refuse(sentence)

    def _pick(self, item: QListWidgetItem | None, signal: Any) -> None:
        if item is not None:
            signal.emit(item.data(Qt.ItemDataRole.UserRole))

    def _put(self, **fields: Any) -> None:
        if self._hive is None:
            return
        try:
            made = replace(self._hive, **fields)
        except DomainError as error:
            if self._typed_day is not None:
                self._typed_day.refuse(str(error))
            else:
                self.refused.emit(str(error))
            return
        if made != self._hive:
            self.hive_changed.emit(made)

    def _show_facing(self, hive: StandingHive, of_place_deg: float) -> None:
        rows = [("", f"as the place, {of_place_deg:.0f}°")]
        rows += [(f"{45.0 * k:g}", name) for k, name in enumerate(COMPASS)]
        own = "" if hive.facing_deg is None else f"{hive.facing_deg:g}"
        if own not in dict(rows):
            rows.append((own, f"{own}°"))
        self.facing.set_rows(rows)
        self.facing.show_id(own)

    def _put_facing(self, bearing: str) -> None:
        self._put(facing_deg=float(bearing) if bearing else None)

    def _put_fate(self, fate: str) -> None:
        today = QDate.currentDate().toString("yyyy-MM-dd")
        since = self._hive.since if self._hive is not None else today
        self._put(fate=fate, until="" if fate == "stands" else max(today, since))


def _look_line(inspection: Any) -> str:
    wet = sum(mark in ("wet", "ice") for mark in inspection.lid)
    lid = f"{wet} of 9 wet" if wet else "dry" if inspection.looked_at_lid else ""
    stores = f"{inspection.stores_kg:.1f} kg" if inspection.stores_kg is not None else ""
    more = ", ".join(text for text in (lid, stores, inspection.text[:40]) if text)
    return f"{inspection.at[:10]} {inspection.at[11:16]}  {more}"


def _fill(widget: QListWidget, rows: list[tuple[str, str]], chosen: str) -> None:
    """Put rows into a list and choose one, without telling anybody."""
    widget.blockSignals(True)
    widget.clear()
    for key, text in rows:
        item = QListWidgetItem(text)
        item.setData(Qt.ItemDataRole.UserRole, key)
        widget.addItem(item)
        if key == chosen:
            widget.setCurrentItem(item)
    widget.blockSignals(False)
