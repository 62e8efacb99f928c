"""What a weather file brings, shown before it becomes the place."""

from __future__ import annotations

from typing import Literal

from PySide6.QtWidgets import (
    QAbstractItemView,
    QDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QHeaderView,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import label
from calveth.core.calendar import MONTH_NAMES
from calveth.store.weather import NOT_IN_FILES, WeatherImport
from calveth.texts.units import UnitSystem

BeesMove = Literal["move", "keep"]

_ROWS = (
    ("mean temperature", "temperature", "temperature_degc"),
    ("day to night", "temperature difference", "daily_swing_k"),
    ("relative humidity", "fraction", "relative_humidity"),
    ("wind", "speed", "wind_m_s"),
    ("rain", "rain", "rain_mm"),
)


class WeatherDialog(QDialog):
    """Shows the months and what was filled, left out or guessed."""

    def __init__(
        self, imported: WeatherImport, units: UnitSystem, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        place = imported.place
        self.setWindowTitle("Weather file")
        self.resize(900, 420)
        hours = f"{imported.hours} hours" if imported.hours else "twelve months"
        self.head = label(
            f"{place.name}: {imported.kind}, {hours}, {place.latitude_deg:.2f}°, "
            f"{place.longitude_deg:.2f}°, {units.write(place.altitude_m, 'height')}",
            "title",
        )
        self.table = QTableWidget(len(_ROWS), 12)
        self.table.setAccessibleName("months of the weather file")
        self.table.setHorizontalHeaderLabels([name[:3] for name in MONTH_NAMES])
        self.table.setVerticalHeaderLabels([f"{n} {units.unit(q)}" for n, q, _ in _ROWS])
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        for row, (_, quantity, field) in enumerate(_ROWS):
            for month, climate in enumerate(place.months):
                text = units.number(getattr(climate, field), quantity)
                self.table.setItem(row, month, QTableWidgetItem(text))
        notes = imported.notes or ("Nothing was missing.",)
        self.notes = label("\n".join((*notes, NOT_IN_FILES)), wrap=True)
        self.bees: BeesMove = "move"
        weeks = f"{place.last_forage_week} to {place.first_forage_week}"
        rows = [
            ("move", f"moves with the weeks without forage, {weeks}"),
            ("keep", "stays as it is"),
        ]
        self.year_of_bees = Choice("the year of the bees", rows, self._choose)
        asked = QHBoxLayout()
        asked.addWidget(label("The year of the bees: brood, numbers, flight"))
        asked.addWidget(self.year_of_bees)
        asked.addStretch()
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        buttons.button(QDialogButtonBox.StandardButton.Ok).setText("Make it the place")
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        for widget in (self.head, self.table, self.notes):
            column.addWidget(widget)
        column.addLayout(asked)
        column.addWidget(buttons)

    def _choose(self, key: str) -> None:
        self.bees = "move" if key == "move" else "keep"
