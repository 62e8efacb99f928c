"""Place: where the hive stands, its twelve months, its winter room, and the bees in it."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import Executor
from dataclasses import replace
from functools import partial
from typing import Any, get_args

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QAbstractButton,
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QMenu,
    QPushButton,
    QTableView,
    QVBoxLayout,
    QWidget,
)

from calveth.app.areas.year_model import ROWS, YearModel
from calveth.app.document import Document
from calveth.app.results import Results
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.compass import Compass
from calveth.app.widgets.labels import ElidedLabel, label
from calveth.app.widgets.month_table import MonthTable
from calveth.app.widgets.quantity import QuantityField
from calveth.app.widgets.spin import BearingBox, CountBox
from calveth.app.widgets.weather_picture import WeatherPicture
from calveth.catalogue.library import shipped_places
from calveth.core.calendar import MONTH_NAMES
from calveth.core.climate.place import Place, Shelter, Terrain, WinterRoom
from calveth.core.colony.curves import STRENGTHS, Strength, curves_for
from calveth.core.edits import set_colony, set_place
from calveth.core.errors import DomainError
from calveth.core.hive.opening import WALL_SIDES
from calveth.texts.room import room_sentence
from calveth.texts.units import sentence_of

_HINTS = {
    "last forage week": "Week of the year with the last income in autumn, 1 to 52",
    "first forage week": "Week of the year with the first income in spring, 1 to 52",
    "first snow week": "Week from which snow may close a low entrance; 0 for no snow",
    "last snow week": "Week until which snow may close a low entrance; 0 for no snow",
    "days differ by": "Standard deviation of daily mean temperatures within a month",
    "front looks to": "Compass bearing the entrance looks to; drag the compass too",
    "terrain": "What lies between the weather mast and the apiary",
    "coldest night": "The coldest night to be expected in a winter",
    "stores": "Honey in the hive when forage ends",
    "wind from": "Where the winter wind comes from",
}

UNSURE_FIELDS = frozenset(
    (
        "terrain",
        "stores",
        "first snow week",
        "last snow week",
        *(f"{side} shelter" for side in WALL_SIDES),
    )
)
"""What no weather file holds: kept or guessed when one is read, marked until it is edited."""
_UNSURE_HINT = {
    True: "No weather file holds this: it is guessed or of the place before. Look it through.",
    False: "",
}


class PlaceArea(QWidget):
    """Edits place and colony.

    Signals
    -------
    import_wanted()
        The button for a weather file was pressed.
    shade_wanted()
        What stands round the hives is to be drawn.
    """

    import_wanted = Signal()
    shade_wanted = Signal()

    def __init__(
        self,
        document: Document,
        results: Results,
        view: ViewState,
        executor: Executor | None = None,
    ) -> None:
        super().__init__()
        self._document, self._results, self._view = document, results, view
        self.hours = WeatherPicture(executor)
        self.title = ElidedLabel("title")
        self.source = label(role="muted", wrap=True)
        self.problem = label(role="wrong", wrap=True)
        self.room_says = label(role="muted", wrap=True)
        self.compass = Compass()
        self.compass.turned.connect(lambda deg: self._put("front looks to", facing_deg=deg))
        self.model = YearModel(document, view)
        self.model.refused.connect(self.problem.setText)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 8, 14, 4)
        column.setSpacing(6)
        column.addLayout(self._head())
        column.addWidget(self.source)
        middle = QHBoxLayout()
        middle.setSpacing(14)
        middle.addWidget(self.compass)
        middle.addLayout(self._fields(), 1)
        column.addLayout(middle)
        column.addWidget(self.room_says)
        column.addWidget(self._table())
        column.addWidget(self.hours)
        column.addWidget(self.problem)
        column.addStretch()
        document.changed.connect(self._show)
        view.unsure_changed.connect(self._mark_unsure)
        results.updated.connect(self._show_room)
        view.units_changed.connect(
            lambda: self.hours.show_place(document.project.place, view.units)
        )
        self._show()

    def _head(self) -> QHBoxLayout:
        self.place_button = QPushButton("Choose a climate")
        menu = QMenu(self.place_button)
        self.place_actions = {}
        for shipped in shipped_places():
            action = menu.addAction(f"{shipped.climate}: {shipped.place.name}")
            action.setToolTip(shipped.hint)
            action.triggered.connect(partial(self._move_to, shipped.id))
            self.place_actions[shipped.id] = action
        self.place_button.setMenu(menu)
        self.bees_button = QPushButton("Choose the bees")
        menu = QMenu(self.bees_button)
        self.bees_actions = {}
        for strength in STRENGTHS:
            action = menu.addAction(strength)
            action.triggered.connect(partial(self._settle_bees, strength))
            self.bees_actions[strength] = action
        self.bees_button.setMenu(menu)
        self.import_button = QPushButton("Import weather …")
        self.import_button.clicked.connect(self.import_wanted)
        self.shade_button = QPushButton("Trees and hills …")
        self.shade_button.setToolTip("What stands round the hives and keeps sun and sky off")
        self.shade_button.clicked.connect(self.shade_wanted)
        head = QHBoxLayout()
        head.addWidget(self.title, 1)
        for button in (self.place_button, self.bees_button, self.shade_button, self.import_button):
            head.addWidget(button)
        return head

    def _table(self) -> QTableView:
        self.table = MonthTable(self.model)
        self.table.setModel(self.model)
        self.table.setAccessibleName("twelve months of weather and bees")
        corner = self.table.findChild(QAbstractButton)
        if corner is not None:
            corner.setAccessibleName("choose all months")
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.table.verticalHeader().setFixedWidth(168)
        self.table.verticalHeader().setMinimumSectionSize(20)
        self.table.verticalHeader().setDefaultSectionSize(22)
        self.table.horizontalHeader().setFixedHeight(24)
        self.table.setFixedHeight(28 + 22 * len(ROWS))
        return self.table

    def _make_fields(self) -> None:
        view = self._view
        self.altitude = QuantityField(
            "altitude",
            "height",
            view,
            lambda v: self._put_typed("altitude", altitude_m=v),
            step=10.0,
        )
        self.latitude = QuantityField(
            "latitude",
            "angle",
            view,
            lambda v: self._put_typed("latitude", latitude_deg=v),
            digits=1,
        )
        self.spread = QuantityField(
            "days differ by",
            "temperature difference",
            view,
            lambda v: self._put_typed("days differ by", day_to_day_spread_k=v),
        )
        self.coldest = QuantityField(
            "coldest night",
            "temperature",
            view,
            lambda v: self._put_typed("coldest night", coldest_night_degc=v),
        )
        self.stores = QuantityField("stores in autumn", "mass", view, self._put_stores)
        self.terrain = Choice(
            "terrain",
            [(t, t) for t in get_args(Terrain)],
            self._put_terrain,
            narrow=13,
        )
        self.side_shelter = {
            side: Choice(
                f"shelter before the {side}",
                [(t, t) for t in get_args(Shelter)],
                partial(self._put_side, side),
                narrow=6,
            )
            for side in WALL_SIDES
        }
        self.facing, self.wind_from = BearingBox("front looks to"), BearingBox("winter wind from")
        self.last_week = CountBox("last forage week", 1, 52)
        self.first_week = CountBox("first forage week", 1, 52)
        self.snow_from = CountBox("first snow week", 0, 52)
        self.snow_to = CountBox("last snow week", 0, 52)
        self.snow_brushed = QCheckBox("snow is brushed off the lids")
        self.snow_brushed.clicked.connect(
            lambda on: self._put("snow on the lids", snow_brushed=bool(on))
        )
        self._connect_counts()

    def _fields(self) -> QGridLayout:
        self._make_fields()
        self._names: dict[str, QLabel] = {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(5)
        columns: tuple[tuple[tuple[str, QWidget], ...], ...] = (
            (
                ("latitude", self.latitude),
                ("altitude", self.altitude),
                ("terrain", self.terrain),
                ("stores", self.stores),
            ),
            (
                ("front looks to", self.facing),
                ("wind from", self.wind_from),
                ("coldest night", self.coldest),
                ("days differ by", self.spread),
            ),
            (
                ("last forage week", self.last_week),
                ("first forage week", self.first_week),
                ("first snow week", self.snow_from),
                ("last snow week", self.snow_to),
            ),
            tuple((f"{side} shelter", box) for side, box in self.side_shelter.items()),
        )
        for at, pairs in enumerate(columns):
            for row, (text, widget) in enumerate(pairs):
                widget.setToolTip(_HINTS.get(text, ""))
                self._names[text] = label(text, "muted")
                grid.addWidget(self._names[text], row, 2 * at)
                grid.addWidget(widget, row, 2 * at + 1)
            grid.setColumnStretch(2 * at + 1, 1)
        grid.addWidget(self.snow_brushed, 4, 4, 1, 4)
        grid.addLayout(self._room_fields(), 5, 0, 1, 8)
        return grid

    def _room_fields(self) -> QHBoxLayout:
        view = self._view
        self.room_on = QCheckBox("in a winter room from")
        self.room_on.setAccessibleName("hives stand in a winter room")
        self.room_on.clicked.connect(self._switch_room)
        self.room_first = Choice("first month of the room", _months(), self._room("first_month"))
        self.room_last = Choice("last month of the room", _months(), self._room("last_month"))
        self.room_degc = QuantityField(
            "room temperature", "temperature", view, self._room("temperature_degc")
        )
        self.room_rh = QuantityField(
            "room humidity", "fraction", view, self._room("relative_humidity"), digits=1
        )
        self.room_hives = CountBox("hives in the room", 1, 5000)
        self.room_hives.valueChanged.connect(self._room("hives"))
        self.room_hives.refused.connect(self.problem.setText)
        row = QHBoxLayout()
        for widget in (
            self.room_on,
            self.room_first,
            label("to", "muted"),
            self.room_last,
            label("at", "muted"),
            self.room_degc,
            self.room_rh,
            label("humid, for", "muted"),
            self.room_hives,
            label("hives", "muted"),
        ):
            row.addWidget(widget)
        for field in (self.room_degc, self.room_rh):
            field.setMaximumWidth(78)
        for widget in (self.room_first, self.room_last):
            widget.setFixedWidth(104)
        row.setSpacing(6)
        row.addStretch()
        return row

    def _connect_counts(self) -> None:
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
            box.refused.connect(self.problem.setText)
        for box in (self.snow_from, self.snow_to):
            box.valueChanged.connect(self._put_snow)
            box.refused.connect(self.problem.setText)

    def _mark_unsure(self) -> None:
        """Put a question mark to the fields no weather file holds, until they are edited."""
        for name in UNSURE_FIELDS:
            unsure = name in self._view.unsure
            self._names[name].setText(f"{name} ?" if unsure else name)
            self._names[name].setToolTip(_UNSURE_HINT[unsure])

    def _looked_through(self, *names: str) -> None:
        self._view.set_unsure(self._view.unsure.difference(names))

    # -- acts ----------------------------------------------------------------------------------
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
            self.problem.setText(sentence_of(error, self._view.units))
            self._show()

    def _put_typed(self, what: str, **fields: object) -> None:
        """Change fields of the place that were typed; the field itself shows a refusal."""
        self._document.edit(
            what,
            lambda p: set_place(p, replace(p.place, **fields)),  # type: ignore[arg-type]
            merge=f"place/{what}",
        )

    def _put_stores(self, value_kg: float) -> None:
        self._document.edit(
            "stores", lambda p: set_colony(p, replace(p.colony, stores_kg=value_kg)), "stores"
        )
        self._looked_through("stores")

    def _put_terrain(self, terrain: str) -> None:
        self._put("terrain", terrain=terrain)
        self._looked_through("terrain")

    def _put_side(self, side: str, shelter: str) -> None:
        place = self._document.project.place
        sides = [place.shelter_of(s) for s in WALL_SIDES]
        sides[WALL_SIDES.index(side)] = shelter  # type: ignore[call-overload]
        self._put(f"shelter before the {side}", side_shelter=tuple(sides))
        self._looked_through(f"{side} shelter")

    def _put_snow(self, *_: object) -> None:
        """Both weeks or none: the first one set brings the other along."""
        first, last = self.snow_from.value(), self.snow_to.value()
        if (first == 0) != (last == 0):
            changed_first = self.sender() is self.snow_from
            if first and last == 0:
                first, last = (first, first) if changed_first else (0, 0)
            else:
                first, last = (0, 0) if changed_first else (last, last)
        self._put("snow weeks", first_snow_week=first, last_snow_week=last)
        self._looked_through("first snow week", "last snow week")

    def _move_to(self, key: str, *_: object) -> None:
        shipped = next(s for s in shipped_places() if s.id == key)
        self._document.attempt(f"place {shipped.place.name}", lambda p: set_place(p, shipped.place))

    def _settle_bees(self, strength: Strength, *_: object) -> None:
        place = self._document.project.place
        self._document.attempt(
            f"bees: {strength}", lambda p: set_colony(p, curves_for(place, strength))
        )

    def _switch_room(self, on: bool) -> None:
        self._put("winter room", room=WinterRoom() if on else None)

    def _room(self, field: str) -> Callable[[Any], None]:
        def put(value: Any) -> None:
            room = self._document.project.place.room
            if room is None:
                return
            number = int(value) if field in ("first_month", "last_month") else value
            changed: dict[str, Any] = {field: number}
            self._put_typed(f"room {field}", room=replace(room, **changed))

        return put

    # -- shows ---------------------------------------------------------------------------------
    def _show(self, *_: object) -> None:
        place: Place = self._document.project.place
        self.title.setText(place.name)
        self.source.setText(
            f"{abs(place.longitude_deg):.1f}° {'E' if place.longitude_deg >= 0 else 'W'} · "
            f"{place.source} · humidity is the month's mean vapour pressure over saturation; "
            "bees, brood and honey for brood and flight are estimates"
        )
        self.hours.show_place(place, self._view.units)
        self.altitude.set_value(place.altitude_m)
        self.latitude.set_value(place.latitude_deg)
        self.spread.set_value(place.day_to_day_spread_k)
        self.coldest.set_value(round(place.coldest_night(), 1))
        self.stores.set_value(self._document.project.colony.stores_kg)
        self.terrain.show_id(place.terrain)
        for side, box in self.side_shelter.items():
            box.show_id(place.shelter_of(side))
        for count, value in (
            (self.facing, place.facing_deg),
            (self.wind_from, place.wind_from_deg),
            (self.last_week, place.last_forage_week),
            (self.first_week, place.first_forage_week),
            (self.snow_from, place.first_snow_week),
            (self.snow_to, place.last_snow_week),
        ):
            count.show_value(round(value))
        self.snow_brushed.setChecked(place.snow_brushed)
        self.snow_brushed.setEnabled(place.first_snow_week > 0)
        self.compass.show_place(place)
        self._show_room()

    def _show_room(self, *_: object) -> None:
        place = self._document.project.place
        room = place.room
        self.room_on.setChecked(room is not None)
        for widget in (
            self.room_first,
            self.room_last,
            self.room_degc,
            self.room_rh,
            self.room_hives,
        ):
            widget.setEnabled(room is not None)
        self.room_says.setVisible(room is not None)
        if room is None:
            return
        self.room_first.show_id(str(room.first_month))
        self.room_last.show_id(str(room.last_month))
        self.room_degc.set_value(room.temperature_degc)
        self.room_rh.set_value(room.relative_humidity)
        self.room_hives.show_value(room.hives)
        project = self._document.project
        monthly = self._results.monthly(project.design(self._results.current).id)
        self.room_says.setText(
            room_sentence(monthly, self._view.units) if monthly else "Working the room out …"
        )


def _months() -> list[tuple[str, str]]:
    return [(str(k + 1), name) for k, name in enumerate(MONTH_NAMES)]
