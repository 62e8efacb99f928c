"""The fields of a hive's form: frames and boxes, bars and section, little boxes, a hollow tree."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Literal, get_args

from PySide6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import label
from calveth.app.widgets.quantity import QuantityField
from calveth.app.widgets.spin import CountBox
from calveth.core.hive.forms import (
    FORMS,
    BarTrough,
    Beyond,
    Form,
    HollowTree,
    LittleBoxes,
    StackedBoxes,
    is_divided,
)

Kind = Literal["count", "length", "beyond"]
Field = tuple[str, str, str, Kind]
"""Accessible name, field of the form, heading, and what it is."""

_IN_USE: tuple[Field, ...] = (
    ("frames in use", "frames_in_use", "in use (0: all)", "count"),
    ("behind the follower board", "beyond", "behind them", "beyond"),
)
FIELDS: dict[type, tuple[Field, ...]] = {
    StackedBoxes: (
        ("frames in a box", "frame_count", "frames in a box", "count"),
        ("boxes", "box_count", "boxes", "count"),
        ("frame pitch", "frame_pitch_m", "frames, middle to middle", "length"),
        ("frame length", "frame_length_m", "frame length", "length"),
        ("frame height", "frame_height_m", "frame height", "length"),
        ("box height", "box_height_m", "box height", "length"),
        ("bottom space", "bottom_space_m", "space under frames", "length"),
        ("slatted rack", "rack_m", "slatted rack", "length"),
        ("room to feed above the bars", "feed_room_m", "room above bars", "length"),
        *_IN_USE,
    ),
    BarTrough: (
        ("bars", "bar_count", "bars", "count"),
        ("bar width", "bar_width_m", "bar width", "length"),
        ("clearance of the comb", "comb_clearance_m", "comb to wall", "length"),
        *_IN_USE,
    ),
    LittleBoxes: (
        ("little boxes", "box_count", "boxes", "count"),
        ("inner width", "inner_width_m", "inner width", "length"),
        ("inner length", "inner_length_m", "inner length", "length"),
        ("height of a little box", "box_height_m", "box height", "length"),
        ("divider plate", "plate_m", "divider plate", "length"),
        ("gap at the plate", "plate_gap_m", "gap at the back", "length"),
    ),
    HollowTree: (
        ("inner diameter of the tree", "inner_diameter_m", "inner diameter", "length"),
        ("height of the hollow", "cavity_height_m", "height of the hollow", "length"),
    ),
}
if set(FIELDS) != set(FORMS):
    raise TypeError(f"FIELDS knows {set(FIELDS)}; the forms are {FORMS}")
_MOST_KNOTS = 8
_MOST = {"frame_count": 40, "box_count": 8, "bar_count": 80, "frames_in_use": 79}


class FormPage(QWidget):
    """The fields of one kind of form; ``put`` is given a field and its new value."""

    def __init__(
        self,
        kind: type,
        view: ViewState,
        put: Callable[[str, Any], None],
        refused: Callable[[str], None],
    ) -> None:
        super().__init__()
        self._view, self._put, self._refused = view, put, refused
        self._form: Form | None = None
        self.widgets: dict[str, QWidget] = {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(3)
        for number, (name, field, heading, what) in enumerate(FIELDS[kind]):
            row, at = divmod(number, 3)
            grid.addWidget(label(heading, "muted", wrap=True), 2 * row, at)
            self.widgets[field] = self._widget(name, field, what)
            grid.addWidget(self.widgets[field], 2 * row + 1, at)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addLayout(grid)
        self._section = self._section_rows() if kind is BarTrough else []
        for pair in self._section:
            for widget in pair:
                widget.hide()
        if self._section:
            column.addLayout(self._section_grid)

    def _widget(self, name: str, field: str, what: Kind) -> QWidget:
        if what == "count":
            least = 0 if field == "frames_in_use" else 1
            box = CountBox(name, least, _MOST[field])
            box.valueChanged.connect(lambda n: self._put(field, n))
            box.refused.connect(self._refused)
            return box
        if what == "beyond":
            return Choice(name, [(b, b) for b in get_args(Beyond)], lambda b: self._put(field, b))
        quantity = QuantityField(
            name, "length", self._view, lambda v: self._put(field, v), digits=1
        )
        quantity.refused.connect(self._refused)
        return quantity

    def _section_rows(self) -> list[tuple[QuantityField, QuantityField]]:
        """Return the rows of the section: inner width at a height, from the floor up."""
        self._section_grid = QGridLayout()
        self._section_grid.setHorizontalSpacing(8)
        self._section_grid.addWidget(label("inner width", "muted"), 0, 0)
        self._section_grid.addWidget(label("at a height above the floor", "muted"), 0, 1)
        rows = []
        for k in range(_MOST_KNOTS):
            pair = []
            for at, name in enumerate(("width", "height")):
                field = QuantityField(
                    f"{name} of the section {k + 1}",
                    "length",
                    self._view,
                    self._knot_setter(k, at),
                )
                field.refused.connect(self._refused)
                self._section_grid.addWidget(field, k + 1, at)
                pair.append(field)
            rows.append((pair[0], pair[1]))
        return rows

    def _knot_setter(self, row: int, at: int) -> Callable[[float], None]:
        def put(value: float) -> None:
            if not isinstance(self._form, BarTrough):
                return
            knots = [list(pair) for pair in self._form.section]
            knots[row][at] = value
            self._put("section", tuple((w, z) for w, z in knots))

        return put

    def show_form(self, form: Form) -> None:
        """Show the values of a form of this kind."""
        self._form = form
        for field, widget in self.widgets.items():
            value = getattr(form, field)
            if isinstance(widget, QuantityField):
                widget.set_value(value)
            elif isinstance(widget, CountBox):
                widget.show_value(value)
            elif isinstance(widget, Choice):
                widget.show_id(value)
                widget.setEnabled(is_divided(form))
        section = form.section if isinstance(form, BarTrough) else ()
        for k, (width, height) in enumerate(self._section):
            for widget in (width, height):
                widget.setVisible(k < len(section))
            if k < len(section):
                width.set_value(section[k][0])
                height.set_value(section[k][1])
                height.setEnabled(k > 0)
