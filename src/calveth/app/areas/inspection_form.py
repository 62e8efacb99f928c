"""An inspection as a form: lid and walls painted, stores hefted, the rest chosen or typed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any, get_args

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QButtonGroup,
    QCheckBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.date_field import DateField
from calveth.app.widgets.labels import label
from calveth.app.widgets.mark_grid import MarkGrid
from calveth.app.widgets.photo_strip import PhotoStrip
from calveth.app.widgets.quantity import QuantityField
from calveth.core.errors import DomainError
from calveth.core.records.diary import MARKS, Brood, Entrance, Inspection, Mark, Weighed
from calveth.texts.diary import MARK_TEXT, STINGS
from calveth.texts.units import sentence_of

LID_COLUMNS, LID_ROWS = ("left", "", "right"), ("front", "", "back")
WALL_COLUMNS, WALL_ROWS = ("front", "right", "back", "left"), ("above", "middle", "below")
_ALIVE = {"not looked": None, "alive": True, "dead": False}


def by_side(marks: tuple[Mark, ...]) -> tuple[Mark, ...]:
    """Return marks of the walls as the grid has them, row by row, from side by side; and back."""
    return tuple(marks[3 * (k % 4) + k // 4] for k in range(12))


def by_row(marks: tuple[Mark, ...]) -> tuple[Mark, ...]:
    """Return marks of the grid side by side, each from above."""
    return tuple(marks[4 * (k % 3) + k // 3] for k in range(12))


# What is seen only where the hive is opened.
_OPENED = ("floor", "seams of bees", "brood", "window")


class InspectionForm(QWidget):
    """Shows one inspection; every change is told at once.

    Signals
    -------
    changed(inspection)
        Something was painted, chosen or typed.
    refused(sentence)
        What was typed is not accepted; empty when it is.
    """

    changed = Signal(object)
    refused = Signal(str)

    def __init__(self, view: ViewState) -> None:
        super().__init__()
        self._view = view
        self._shown: Inspection | None = None
        self._of = ""
        self.at = DateField("hour of the inspection", hour=True)
        self.at.entered.connect(self._put_at)
        self.at.refused.connect(self.refused)
        self._putting_at = False
        self.lid = MarkGrid("under the lid, as seen", LID_COLUMNS, LID_ROWS)
        self.lid.changed.connect(lambda m: self._put(lid=m))
        self.walls = MarkGrid("walls, as seen", WALL_COLUMNS, WALL_ROWS)
        self.walls.changed.connect(lambda m: self._put(walls=by_row(m)))
        self.short = QCheckBox("short: heft, look, listen")
        self.short.setToolTip("At the gate in winter: the hive stays closed")
        self.short.toggled.connect(self._shorten)
        self.photos = PhotoStrip()
        self.photos.changed.connect(lambda photos: self._put(photos=photos))
        self.brushes: dict[str, QPushButton] = {}
        self._make_fields()
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 0, 8, 0)
        column.setSpacing(7)
        column.addLayout(self._head())
        self._opened = [
            label("under the lid", "heading"),
            self.lid,
            label("walls", "heading"),
            self.walls,
        ]
        for part in self._opened:
            column.addWidget(part)
        column.addLayout(self._grid())
        row = QHBoxLayout()
        row.addWidget(label("photographs", "muted"))
        row.addWidget(self.photos, 1)
        column.addLayout(row)
        column.addWidget(label(STINGS, "muted", wrap=True))
        column.addStretch()
        self.setEnabled(False)

    def _head(self) -> QVBoxLayout:
        head = QHBoxLayout()
        head.addWidget(label("seen", "muted"))
        head.addWidget(self.at)
        head.addWidget(self.short)
        head.addStretch()
        self._brush_row = QWidget()
        brushes = QHBoxLayout(self._brush_row)
        brushes.setContentsMargins(0, 0, 0, 0)
        brushes.setSpacing(2)
        brushes.addWidget(label("paint", "muted"))
        group = QButtonGroup(self)
        for mark in MARKS:
            button = QPushButton(mark)
            button.setCheckable(True)
            button.setToolTip(MARK_TEXT[mark])
            button.setAccessibleName(f"paint {mark}")
            button.clicked.connect(lambda _, m=mark: self._brush(m))
            group.addButton(button)
            brushes.addWidget(button)
            self.brushes[mark] = button
        brushes.addStretch()
        self.brushes["wet"].setChecked(True)
        column = QVBoxLayout()
        column.addLayout(head)
        column.addWidget(self._brush_row)
        return column

    def _make_fields(self) -> None:
        view = self._view
        self.stores = QuantityField(
            "stores", "mass", view, lambda v: self._put_typed(stores_kg=v), digits=1
        )
        self.sure = QuantityField(
            "how sure the stores are",
            "mass",
            view,
            lambda v: self._put_typed(stores_sure_kg=v),
            digits=1,
        )
        self.fed = QuantityField("food given", "mass", view, lambda v: self._put_typed(fed_kg=v))
        self.seams = QuantityField(
            "seams of bees", "number", view, lambda v: self._put_typed(seams=v), digits=1
        )
        self.stores.allow_nothing(lambda: self._put(stores_kg=None))
        self.seams.allow_nothing(lambda: self._put(seams=None))
        for field_ in (self.stores, self.sure, self.fed, self.seams):
            field_.setMaximumWidth(86)
        self.choices: dict[str, Choice] = {}
        for field, rows in (
            ("floor", MARKS),
            ("window", MARKS),
            ("stores_by", get_args(Weighed)),
            ("brood", get_args(Brood)),
            ("entrance", get_args(Entrance)),
            ("alive", tuple(_ALIVE)),
        ):
            self.choices[field] = Choice(
                field.replace("_", " "), [(r, r) for r in rows], self._chosen(field), narrow=8
            )
        self.texts: dict[str, QLineEdit] = {}
        for field, name in (("changed", "what was changed"), ("text", "anything else")):
            edit = QLineEdit()
            edit.setAccessibleName(name)
            edit.setMaxLength(2000)
            edit.editingFinished.connect(self._typed(field, edit))
            self.texts[field] = edit

    def _grid(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(5)
        for k, (text, widget) in enumerate(
            (
                ("stores", self.stores),
                ("±", self.sure),
                ("by", self.choices["stores_by"]),
                ("floor", self.choices["floor"]),
                ("seams of bees", self.seams),
                ("brood", self.choices["brood"]),
                ("entrance", self.choices["entrance"]),
                ("bees are", self.choices["alive"]),
                ("food given", self.fed),
                ("window", self.choices["window"]),
            )
        ):
            caption = label(text, "muted")
            grid.addWidget(caption, k // 2, 2 * (k % 2))
            grid.addWidget(widget, k // 2, 2 * (k % 2) + 1)
            if text in _OPENED:
                self._opened += [caption, widget]
        for k, (field, name) in enumerate((("changed", "changed"), ("text", "else"))):
            grid.addWidget(label(name, "muted"), 5 + k, 0)
            grid.addWidget(self.texts[field], 5 + k, 1, 1, 3)
        return grid

    def show_inspection(self, inspection: Inspection | None) -> None:
        """Show an inspection, or an empty form that cannot be filled."""
        self._shown = inspection
        self.setEnabled(inspection is not None)
        if inspection is None:
            return
        if inspection.id != self._of or not self.at.property("wrong"):
            self.at.set_value(inspection.at)
        self._of = inspection.id
        self.photos.show_photos(inspection.photos)
        self.lid.show_marks(inspection.lid)
        self.walls.show_marks(by_side(inspection.walls))
        if inspection.stores_kg is None:
            self.stores.clear_value()
        else:
            self.stores.set_value(inspection.stores_kg)
        self.sure.set_value(inspection.stores_sure_kg)
        self.fed.set_value(inspection.fed_kg)
        if inspection.seams is None:
            self.seams.clear_value()
        else:
            self.seams.set_value(inspection.seams)
        for field, choice in self.choices.items():
            value = getattr(inspection, field)
            if field == "alive":
                value = next(k for k, v in _ALIVE.items() if v is value)
            choice.show_id(value)
        for field, edit in self.texts.items():
            edit.setText(getattr(inspection, field))

    def _shorten(self, on: bool) -> None:
        """Leave out what only an open hive shows."""
        for part in (self._brush_row, *self._opened):
            part.setVisible(not on)

    # -- acts ------------------------------------------------------------------------------------
    def _brush(self, mark: Mark) -> None:
        self.lid.brush = self.walls.brush = mark

    def _put(self, **fields: Any) -> None:
        """Change what is shown; a refusal is told and the old value comes back."""
        if self._shown is None:
            return
        try:
            self._put_typed(**fields)
        except DomainError as error:
            sentence = sentence_of(error, self._view.units)
            self.refuse(sentence)
            if not self._putting_at:
                self.refused.emit(sentence)
            self.show_inspection(self._shown)
            return
        if not self.at.property("wrong"):
            self.refused.emit("")

    def _put_typed(self, **fields: Any) -> None:
        """Change what is shown by a field that shows a refusal itself."""
        if self._shown is None:
            return
        made = replace(self._shown, **fields)
        if made != self._shown:
            self._shown = made
            self.changed.emit(made)

    def _put_at(self, text: str) -> None:
        self._putting_at = True
        self._put(at=text)
        self._putting_at = False

    def refuse(self, sentence: str) -> None:
        """Say at the field for the hour why it was not taken, where that is what was typed."""
        if self._putting_at:
            self.at.refuse(sentence)

    def _chosen(self, field: str) -> Callable[[str], None]:
        def put(value: str) -> None:
            self._put(**{field: _ALIVE[value] if field == "alive" else value})

        return put

    def _typed(self, field: str, edit: QLineEdit) -> Callable[[], None]:
        return lambda: self._put(**{field: edit.text()})
