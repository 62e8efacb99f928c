"""The openings of a design: what, where, how large, how far open, and which size meets a target."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QAction
from PySide6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QMenu,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from calveth.app.document import Document
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import clear, label, small_button
from calveth.app.widgets.quantity import QuantityField
from calveth.catalogue.library import OPENING_KINDS, opening_of_kind
from calveth.core.edits import remove_opening, set_opening
from calveth.core.errors import DomainError
from calveth.core.hive.design import Design
from calveth.core.hive.opening import WALL_SIDES, Opening
from calveth.core.solids.openings_cut import along_m


@dataclass(frozen=True, slots=True)
class _Column:
    """A field of an opening: its heading, how it is read and written, where it applies."""

    name: str
    heading: str
    quantity: str
    read: Callable[[Opening], float]
    write: Callable[[Opening, float], Opening]
    applies: Callable[[Opening], bool]
    step: float = 1.0


def _round_size(opening: Opening, value: float) -> Opening:
    return replace(opening, width_m=value, height_m=value)


def _set_width(opening: Opening, value: float) -> Opening:
    return _round_size(opening, value) if opening.round else replace(opening, width_m=value)


def _set_height(opening: Opening, value: float) -> Opening:
    return _round_size(opening, value) if opening.round else replace(opening, height_m=value)


def _whole(opening: Opening, value: float) -> Opening:
    return replace(opening, count=round(value))


_MAIN = (
    _Column(
        "width", "wide", "length", lambda o: o.width_m, _set_width, lambda o: o.shape != "lid gap"
    ),
    _Column("height", "high", "length", lambda o: o.height_m, _set_height, lambda o: not o.round),
    _Column(
        "above floor",
        "above floor",
        "length",
        lambda o: o.bottom_m,
        lambda o, v: replace(o, bottom_m=v),
        lambda o: not o.level and o.shape != "lid gap",
    ),
    _Column(
        "open share",
        "open",
        "fraction",
        lambda o: o.free_share,
        lambda o, v: replace(o, free_share=v),
        lambda _: True,
        5.0,
    ),
)
_MORE = (
    _Column(
        "count",
        "holes",
        "number",
        lambda o: float(o.count),
        _whole,
        lambda o: o.shape == "row of holes",
    ),
    _Column(
        "mesh share",
        "mesh leaves",
        "fraction",
        lambda o: o.mesh_share,
        lambda o, v: replace(o, mesh_share=v),
        lambda _: True,
        5.0,
    ),
    _Column(
        "propolis share",
        "propolised",
        "fraction",
        lambda o: o.propolis_share,
        lambda o, v: replace(o, propolis_share=v),
        lambda _: True,
        5.0,
    ),
    _Column(
        "along",
        "from the left",
        "length",
        lambda o: o.along_m or 0.0,
        lambda o, v: replace(o, along_m=v),
        lambda o: o.shape != "lid gap",
        5.0,
    ),
    _Column(
        "lift",
        "lift inside",
        "length",
        lambda o: o.lift_m,
        lambda o, v: replace(o, lift_m=v),
        lambda o: not o.level and o.shape != "lid gap",
        5.0,
    ),
)


class OpeningsPanel(QWidget):
    """Edits the openings of one design.

    Signals
    -------
    target_wanted(opening_id)
        The user asks which size of an opening meets a target.
    """

    target_wanted = Signal(str)

    def __init__(self, document: Document, view: ViewState) -> None:
        super().__init__()
        self._document, self._view = document, view
        self._design_id = document.project.designs[0].id
        self._shape: tuple[object, ...] = ()
        self._open = ""
        self._fields: list[tuple[QuantityField, str, _Column]] = []
        self.sides: dict[str, Choice] = {}
        self._grid = QGridLayout()
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(4)
        self._grid.setVerticalSpacing(3)
        for column in range(4):
            self._grid.setColumnStretch(column, 1)
        self.problem = label(role="wrong", wrap=True)
        self.problem.hide()
        self.add_button = QToolButton()
        self.add_button.setText("+ opening ▾")
        self.add_button.setAccessibleName("add an opening")
        self.add_button.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(self.add_button)
        self.add_actions: dict[str, QAction] = {}
        for kind in OPENING_KINDS:
            action = menu.addAction(kind)
            action.triggered.connect(partial(self._add, kind))
            self.add_actions[kind] = action
        self.add_button.setMenu(menu)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(5)
        outer.addLayout(self._grid)
        outer.addWidget(self.add_button, 0, Qt.AlignmentFlag.AlignLeft)
        outer.addWidget(self.problem)

    def show_design(self, design_id: str) -> None:
        """Show a design, keeping the rows while only values differ."""
        if design_id != self._design_id:
            self._open = ""
        self._design_id = design_id
        design = self._design()
        openings = {o.id: o for o in design.openings}
        shape = (
            design_id,
            self._open,
            tuple((o.id, o.shape, o.level, o.name) for o in design.openings),
        )
        if shape != self._shape:
            self._shape = shape
            self._build(design)
        for field, key, column in self._fields:
            opening = openings[key]
            # Without a place of its own an opening is at the middle of the colony's room.
            at = column.name == "along"
            value = along_m(design.form, opening) if at else column.read(opening)
            field.set_value(value)
        for key, side in self.sides.items():
            side.show_id(openings[key].side)

    def field(self, opening_id: str, name: str) -> QuantityField:
        """Return the field of an opening by its name, e.g. ``width``."""
        return next(f for f, key, c in self._fields if key == opening_id and c.name == name)

    def show_more(self, opening_id: str) -> None:
        """Open the finer settings of an opening, or close them."""
        self._open = "" if self._open == opening_id else opening_id
        self.show_design(self._design_id)

    def open_more(self, opening_id: str) -> None:
        """Open the finer settings of an opening."""
        self._open = opening_id
        self.show_design(self._design_id)

    def _design(self) -> Design:
        return self._document.project.design(self._design_id)

    def _build(self, design: Design) -> None:
        clear(self._grid)
        self._fields, self.sides = [], {}
        row = 0
        if not design.openings:
            self._grid.addWidget(label("No opening yet; the bees need one.", "muted"), 0, 0, 1, 4)
        for opening in design.openings:
            row = self._opening_rows(opening, row)

    def _opening_rows(self, opening: Opening, row: int) -> int:
        self._grid.addWidget(label(f"{opening.name}, {opening.shape}", "heading"), row, 0, 1, 3)
        tools = QWidget()
        line = QHBoxLayout(tools)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(3)
        more = small_button("…", f"more of {opening.name}", partial(self.show_more, opening.id))
        remove = small_button("×", f"remove {opening.name}", partial(self._remove, opening.id))
        line.addStretch()
        line.addWidget(more)
        line.addWidget(remove)
        self._grid.addWidget(tools, row, 3)
        row = self._field_rows(opening, _MAIN, row + 1)
        if opening.id == self._open:
            row = self._field_rows(opening, _MORE, row)
            row = self._tool_row(opening, row)
        return row

    def _field_rows(self, opening: Opening, columns: tuple[_Column, ...], row: int) -> int:
        shown = [column for column in columns if column.applies(opening)]
        for at, column in enumerate(shown):
            heading = "diameter" if opening.round and column.name == "width" else column.heading
            self._grid.addWidget(label(heading, "muted"), row, at)
            field = QuantityField(
                f"{opening.name} {column.name}",
                column.quantity,
                self._view,
                partial(self._change, opening.id, column),
                step=column.step,
                digits=0 if column.name == "count" else None,
            )
            field.setMinimumWidth(66)
            field.refused.connect(self._refused)
            self._grid.addWidget(field, row + 1, at)
            self._fields.append((field, opening.id, column))
        return row + 2

    def _tool_row(self, opening: Opening, row: int) -> int:
        sides = ["floor", "lid"] if opening.shape == "screen" else list(WALL_SIDES)
        if opening.shape in ("slot", "hole", "row of holes"):
            sides += ["lid", "floor"]
        words = "closed at the" if opening.shape == "lid gap" else "in the"
        side = Choice(
            f"{opening.name} side",
            [(s, f"{words} {s}") for s in sides],
            partial(self._set_side, opening.id),
        )
        self.sides[opening.id] = side
        self._grid.addWidget(side, row, 0, 1, 2)
        button = small_button(
            "which size gives …",
            f"which size of {opening.name} meets a target",
            partial(self.target_wanted.emit, opening.id),
        )
        self._grid.addWidget(button, row, 2, 1, 2)
        return row + 1

    def _change(self, opening_id: str, column: _Column, value: float) -> None:
        opening = next(o for o in self._design().openings if o.id == opening_id)
        changed = column.write(opening, value)
        design = self._design_id
        self._document.edit(
            f"{column.name} of {opening.name}",
            lambda p: set_opening(p, design, changed),
            merge=f"{design}/{opening_id}/{column.name}",
        )

    def _set_side(self, opening_id: str, side: str) -> None:
        opening = next(o for o in self._design().openings if o.id == opening_id)
        design = self._design_id
        try:
            changed = replace(opening, side=side)  # type: ignore[arg-type]
            self._document.edit(
                f"side of {opening.name}", lambda p: set_opening(p, design, changed)
            )
            self._refused("")
        except DomainError as error:
            self._refused(str(error))
            self.show_design(design)

    def _add(self, kind: str, *_: object) -> None:
        design = self._design()
        try:
            opening = opening_of_kind(kind, design.form)
            taken = {o.id for o in design.openings}
            number = next(n for n in range(1, 100) if _numbered(opening.id, n) not in taken)
            if number > 1:
                opening = replace(
                    opening,
                    id=_numbered(opening.id, number),
                    name=f"{opening.name} {number}",
                )
            self._document.edit(f"new {kind}", lambda p: set_opening(p, design.id, opening))
            self._refused("")
        except DomainError as error:
            self._refused(str(error))

    def _remove(self, opening_id: str) -> None:
        design = self._design_id
        self._open = ""
        self._document.attempt("remove opening", lambda p: remove_opening(p, design, opening_id))

    def _refused(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setVisible(bool(sentence))


def _numbered(text: str, number: int) -> str:
    return text if number == 1 else f"{text}-{number}"
