"""Place: where the hive stands, its twelve months, and the bees that live in it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, get_args

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, Qt, Signal
from PySide6.QtWidgets import (
    QAbstractButton,
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QTableView,
    QVBoxLayout,
    QWidget,
)

from calveth.app.document import Document
from calveth.app.widgets.labels import label
from calveth.app.widgets.quantity import QuantityField
from calveth.app.widgets.spin import BearingBox, CountBox
from calveth.core.climate.place import MONTH_NAMES, Place, Shelter, Terrain
from calveth.core.edits import set_colony, set_month, set_place
from calveth.core.errors import DomainError
from calveth.core.project import Project
from calveth.core.units import parse_quantity, to_unit

_Index = QModelIndex | QPersistentModelIndex


@dataclass(frozen=True, slots=True)
class _Row:
    """One row of the year table: a monthly figure and how it is changed."""

    name: str
    quantity: str
    unit: str
    digits: int
    read: Callable[[Project, int], float]
    change: Callable[[Project, int, float], Project]


def _climate_row(name: str, quantity: str, unit: str, digits: int, field: str) -> _Row:
    return _Row(
        name,
        quantity,
        unit,
        digits,
        lambda p, k: float(getattr(p.place.months[k], field)),
        lambda p, k, v: set_month(p, k, replace(p.place.months[k], **{field: v})),
    )


def _colony_row(name: str, quantity: str, unit: str, digits: int, field: str) -> _Row:
    def change(p: Project, k: int, v: float) -> Project:
        values = list(getattr(p.colony, field))
        values[k] = v
        changed: dict[str, Any] = {field: tuple(values)}
        return set_colony(p, replace(p.colony, **changed))

    return _Row(name, quantity, unit, digits, lambda p, k: getattr(p.colony, field)[k], change)


ROWS = (
    _climate_row("mean temperature °C", "temperature", "°C", 1, "temperature_degc"),
    _climate_row("day to night K", "plain", "K", 1, "daily_swing_k"),
    _climate_row("relative humidity %", "fraction", "%", 0, "relative_humidity"),
    _climate_row("wind m/s", "speed", "m/s", 1, "wind_m_s"),
    _colony_row("bees kg", "mass", "kg", 2, "mass_kg"),
    _colony_row("brood %", "fraction", "%", 0, "brood_share"),
)


class YearModel(QAbstractTableModel):
    """Twelve months as columns; edits go to the document.

    Signals
    -------
    refused(sentence)
        What was typed is not accepted; empty when it is.
    """

    refused = Signal(str)

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        document.changed.connect(lambda *_: self.layoutChanged.emit())

    def rowCount(self, _: _Index = QModelIndex()) -> int:  # noqa: B008 - Qt's signature
        return len(ROWS)

    def columnCount(self, _: _Index = QModelIndex()) -> int:  # noqa: B008 - Qt's signature
        return 12

    def data(self, index: _Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        row = ROWS[index.row()]
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.EditRole):
            value = row.read(self._document.project, index.column())
            shown = value if row.quantity == "plain" else to_unit(value, row.quantity, row.unit)
            return f"{shown:.{row.digits}f}"
        if role == Qt.ItemDataRole.TextAlignmentRole:
            return Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        return None

    def headerData(
        self,
        section: int,
        orientation: Qt.Orientation,
        role: int = Qt.ItemDataRole.DisplayRole,
    ) -> object:
        if role != Qt.ItemDataRole.DisplayRole:
            return None
        if orientation == Qt.Orientation.Horizontal:
            return MONTH_NAMES[section][:3]
        return ROWS[section].name

    def flags(self, index: _Index) -> Qt.ItemFlag:
        return super().flags(index) | Qt.ItemFlag.ItemIsEditable

    def setData(self, index: _Index, value: object, role: int = Qt.ItemDataRole.EditRole) -> bool:
        if role != Qt.ItemDataRole.EditRole:
            return False
        row, month = ROWS[index.row()], index.column()
        field = f"{MONTH_NAMES[month]} {row.name}"
        try:
            if row.quantity == "plain":
                number = parse_quantity(str(value), "mass", "kg", field)
            else:
                number = parse_quantity(str(value), row.quantity, row.unit, field)
            self._document.edit(field, lambda p: row.change(p, month, number))
        except DomainError as error:
            text = str(error)
            self.refused.emit(text if field in text else f"{field}: {error.value} {error.reason}")
            return False
        self.refused.emit("")
        return True


class PlaceArea(QWidget):
    """Edits place and colony.

    Signals
    -------
    import_wanted()
        The button for a weather file was pressed.
    """

    import_wanted = Signal()

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self.title = label(role="title")
        self.source = label(role="muted", wrap=True)
        self.import_button = QPushButton("Import weather file (EPW, TMY3) …")
        self.import_button.clicked.connect(self.import_wanted)
        self.problem = label(role="wrong", wrap=True)
        self.model = YearModel(document)
        self.model.refused.connect(self.problem.setText)
        self.table = QTableView()
        self.table.setModel(self.model)
        self.table.setAccessibleName("twelve months of weather and bees")
        corner = self.table.findChild(QAbstractButton)
        if corner is not None:
            corner.setAccessibleName("choose all months")
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.table.verticalHeader().setFixedWidth(150)
        self.table.setFixedHeight(34 + 31 * len(ROWS))
        head = QHBoxLayout()
        head.addWidget(self.title, 1)
        head.addWidget(self.import_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 10, 14, 6)
        column.setSpacing(8)
        column.addLayout(head)
        column.addWidget(self.source)
        column.addLayout(self._fields())
        column.addWidget(label("The year: weather and bees", "heading"))
        column.addWidget(self.table)
        column.addWidget(self.problem)
        column.addWidget(
            label(
                "Humidity is the month's mean vapour pressure over saturation at its mean "
                "temperature. Bees and brood are estimates; put in what your own colonies do.",
                "muted",
                wrap=True,
            )
        )
        column.addStretch()
        document.changed.connect(self._show)
        self._show()

    def _fields(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(6)
        self.altitude = QuantityField(
            "altitude", "length", "m", lambda v: self._put("altitude", altitude_m=v), step=10.0
        )
        self.stores = QuantityField("stores in autumn", "mass", "kg", self._put_stores)
        self.terrain, self.shelter = QComboBox(), QComboBox()
        for combo, name, choices in (
            (self.terrain, "terrain", get_args(Terrain)),
            (self.shelter, "shelter", get_args(Shelter)),
        ):
            combo.setAccessibleName(name)
            combo.addItems(choices)
            combo.activated.connect(lambda _, c=combo, n=name: self._put(n, **{n: c.currentText()}))
        self.facing = BearingBox("front looks to")
        self.wind_from = BearingBox("winter wind from")
        self.last_week = CountBox("last forage week", 1, 52)
        self.first_week = CountBox("first forage week", 1, 52)
        for box, field in (
            (self.facing, "facing_deg"),
            (self.wind_from, "wind_from_deg"),
            (self.last_week, "last_forage_week"),
            (self.first_week, "first_forage_week"),
        ):
            name, degrees = box.accessibleName(), isinstance(box, BearingBox)
            box.valueChanged.connect(
                lambda v, f=field, n=name, d=degrees: self._put(n, **{f: float(v) if d else v})
            )
        pairs: tuple[tuple[str, QWidget], ...] = (
            ("altitude", self.altitude),
            ("terrain", self.terrain),
            ("shelter at the hive", self.shelter),
            ("front looks to", self.facing),
            ("winter wind from", self.wind_from),
            ("last forage week", self.last_week),
            ("first forage week", self.first_week),
            ("honey in autumn", self.stores),
        )
        for number, (text, widget) in enumerate(pairs):
            row, at = divmod(number, 4)
            grid.addWidget(label(text, "muted"), row, 2 * at)
            grid.addWidget(widget, row, 2 * at + 1)
            grid.setColumnStretch(2 * at + 1, 1)
        return grid

    def _put(self, what: str, **fields: object) -> None:
        """Change fields of the place; a refusal is shown and the old value comes back."""
        try:
            self._document.edit(
                what,
                lambda p: set_place(p, replace(p.place, **fields)),  # type: ignore[arg-type]
                merge=f"place/{what}",
            )
            self.problem.setText("")
        except DomainError as error:
            self.problem.setText(str(error))
            self._show()
            if what == "altitude":
                raise

    def _put_stores(self, value_kg: float) -> None:
        self._document.edit(
            "stores", lambda p: set_colony(p, replace(p.colony, stores_kg=value_kg)), "stores"
        )

    def _show(self, *_: object) -> None:
        place: Place = self._document.project.place
        self.title.setText(place.name)
        self.source.setText(
            f"{abs(place.latitude_deg):.1f}° {'N' if place.latitude_deg >= 0 else 'S'}, "
            f"{abs(place.longitude_deg):.1f}° {'E' if place.longitude_deg >= 0 else 'W'} · "
            f"days differ by {place.day_to_day_spread_k:.1f} K · {place.source}"
        )
        self.altitude.set_value(place.altitude_m)
        self.stores.set_value(self._document.project.colony.stores_kg)
        self.terrain.setCurrentText(place.terrain)
        self.shelter.setCurrentText(place.shelter)
        for box, value in (
            (self.facing, place.facing_deg),
            (self.wind_from, place.wind_from_deg),
            (self.last_week, place.last_forage_week),
            (self.first_week, place.first_forage_week),
        ):
            box.show_value(round(value))
