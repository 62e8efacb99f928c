"""What a weather file brings, shown before it becomes the place."""

from __future__ import annotations

from PySide6.QtWidgets import (
    QAbstractItemView,
    QDialog,
    QDialogButtonBox,
    QHeaderView,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from calveth.app.widgets.labels import label
from calveth.core.calendar import MONTH_NAMES
from calveth.store.weather import WeatherImport
from calveth.texts.units import UnitSystem

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
        self, found: WeatherImport, units: UnitSystem, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        place = found.place
        self.setWindowTitle("Weather file")
        self.resize(900, 420)
        hours = f"{found.hours} hours" if found.hours else "twelve months"
        self.head = label(
            f"{place.name}: {found.kind}, {hours}, {place.latitude_deg:.2f}°, "
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
        self.notes = label("\n".join(found.notes) or "Nothing was missing.", wrap=True)
        buttons = QDialogButtonBox(
            QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel
        )
        buttons.button(QDialogButtonBox.StandardButton.Ok).setText("Make it the place")
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column = QVBoxLayout(self)
        for widget in (self.head, self.table, self.notes, buttons):
            column.addWidget(widget)
