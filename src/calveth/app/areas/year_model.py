"""The twelve months of a place and its bees as a table that can be edited."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, Qt, Signal

from calveth.app.document import Document
from calveth.app.view_state import ViewState
from calveth.core.calendar import MONTH_NAMES
from calveth.core.edits import set_colony, set_month
from calveth.core.errors import DomainError
from calveth.core.project import Project
from calveth.texts.units import parse_quantity, sentence_of, to_unit

_Index = QModelIndex | QPersistentModelIndex


@dataclass(frozen=True, slots=True)
class _Row:
    """One row of the year table: a monthly figure and how it is changed."""

    name: str
    quantity: str
    digits: int | None
    read: Callable[[Project, int], float]
    change: Callable[[Project, int, float], Project]
    of_bees: bool = False


def _climate_row(name: str, quantity: str, digits: int | None, field: str) -> _Row:
    return _Row(
        name,
        quantity,
        digits,
        lambda p, k: float(getattr(p.place.months[k], field)),
        lambda p, k, v: set_month(p, k, replace(p.place.months[k], **{field: v})),
    )


def _colony_row(name: str, quantity: str, digits: int | None, field: str) -> _Row:
    def change(p: Project, k: int, v: float) -> Project:
        values = list(getattr(p.colony, field))
        values[k] = v
        changed: dict[str, Any] = {field: tuple(values)}
        return set_colony(p, replace(p.colony, **changed))

    return _Row(
        name, quantity, digits, lambda p, k: getattr(p.colony, field)[k], change, of_bees=True
    )


# What one step of a drag changes, in the unit of the row.
_STEP = {
    "temperature": 0.5,
    "temperature difference": 0.5,
    "fraction": 1.0,
    "speed": 0.1,
    "rain": 5.0,
    "mass": 0.05,
}
_FINE_DIGITS, _FINE_STEP = 3, 0.005
ROWS = (
    _climate_row("mean temperature", "temperature", 1, "temperature_degc"),
    _climate_row("day to night", "temperature difference", 1, "daily_swing_k"),
    _climate_row("relative humidity", "fraction", 0, "relative_humidity"),
    _climate_row("wind", "speed", 1, "wind_m_s"),
    _climate_row("rain", "rain", None, "rain_mm"),
    _colony_row("bees", "mass", 2, "mass_kg"),
    _colony_row("brood", "fraction", 0, "brood_share"),
    _colony_row("brood and flight, a day", "mass", 3, "activity_kg_day"),
    _colony_row("water of nectar, a day", "mass", 2, "nectar_kg_day"),
)


BEES_ROWS = frozenset(row.name for row in ROWS if row.of_bees)
"""Rows no weather file holds."""


class YearModel(QAbstractTableModel):
    """Twelve months as columns; edits go to the document.

    Signals
    -------
    refused(sentence)
        What was typed is not accepted; empty when it is.
    """

    refused = Signal(str)

    def __init__(self, document: Document, view: ViewState) -> None:
        super().__init__()
        self._document, self._view = document, view
        document.changed.connect(self._rows_changed)
        view.units_changed.connect(self._units_changed)
        view.unsure_changed.connect(self._units_changed)

    def _rows_changed(self, *_: object) -> None:
        self.layoutChanged.emit()

    def _units_changed(self) -> None:
        self.headerDataChanged.emit(Qt.Orientation.Vertical, 0, len(ROWS) - 1)
        self.layoutChanged.emit()

    # -- for the bars and the drag (`month_table.Months`) ------------------------------------------
    def share(self, index: _Index) -> float:
        """Return how far a value lies between least and most of its row, 0 to 1; least is 0."""
        row, project = ROWS[index.row()], self._document.project
        values = [row.read(project, k) for k in range(12)]
        low, high = min(*values, 0.0) if row.quantity != "temperature" else min(values), max(values)
        return (values[index.column()] - low) / (high - low) if high > low else 0.0

    def value(self, index: _Index) -> float:
        """Return a value in the unit it is shown in."""
        row = ROWS[index.row()]
        shown = row.read(self._document.project, index.column())
        return to_unit(shown, row.quantity, self._view.units.unit(row.quantity))

    def step(self, index: _Index) -> float:
        """Return what one step of a drag changes."""
        row = ROWS[index.row()]
        return _FINE_STEP if row.digits == _FINE_DIGITS else _STEP[row.quantity]

    def drag(self, index: _Index, value: float) -> None:
        """Put a value that is dragged; out of its range it stays where it was."""
        row, month = ROWS[index.row()], index.column()
        field = f"{MONTH_NAMES[month]} {row.name}"
        units = self._view.units
        try:
            number = parse_quantity(f"{value:.6g}", row.quantity, units.unit(row.quantity), field)
            self._document.edit(
                field, lambda p: row.change(p, month, number), merge=f"drag/{field}"
            )
        except DomainError as error:
            self.refused.emit(sentence_of(error, units))
            return
        self.refused.emit("")
        self._looked_through(row.name)

    def _looked_through(self, row: str) -> None:
        self._view.set_unsure(self._view.unsure - {row})

    # -- Qt's own ----------------------------------------------------------------------------------
    def rowCount(self, _: _Index = QModelIndex()) -> int:  # noqa: B008 - Qt's signature
        return len(ROWS)

    def columnCount(self, _: _Index = QModelIndex()) -> int:  # noqa: B008 - Qt's signature
        return 12

    def data(self, index: _Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        row = ROWS[index.row()]
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.EditRole):
            value = row.read(self._document.project, index.column())
            return self._view.units.number(value, row.quantity, row.digits)
        if role == Qt.ItemDataRole.TextAlignmentRole:
            return Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        return None

    def headerData(
        self,
        section: int,
        orientation: Qt.Orientation,
        role: int = Qt.ItemDataRole.DisplayRole,
    ) -> object:
        vertical = orientation == Qt.Orientation.Vertical
        unsure = vertical and ROWS[section].name in self._view.unsure
        if role == Qt.ItemDataRole.ToolTipRole and unsure:
            return "Not in the weather file: what stood here before. Look through it."
        if role != Qt.ItemDataRole.DisplayRole:
            return None
        if not vertical:
            return MONTH_NAMES[section][:3]
        row = ROWS[section]
        return f"{row.name} {self._view.units.unit(row.quantity)}{' ?' if unsure else ''}"

    def flags(self, index: _Index) -> Qt.ItemFlag:
        return super().flags(index) | Qt.ItemFlag.ItemIsEditable

    def setData(self, index: _Index, value: object, role: int = Qt.ItemDataRole.EditRole) -> bool:
        if role != Qt.ItemDataRole.EditRole:
            return False
        row, month = ROWS[index.row()], index.column()
        field = f"{MONTH_NAMES[month]} {row.name}"
        try:
            unit = self._view.units.unit(row.quantity)
            number = parse_quantity(str(value), row.quantity, unit, field)
            self._document.edit(field, lambda p: row.change(p, month, number))
        except DomainError as error:
            text = str(error)
            self.refused.emit(text if field in text else f"{field}: {error.value} {error.reason}")
            return False
        self.refused.emit("")
        self._looked_through(row.name)
        return True
