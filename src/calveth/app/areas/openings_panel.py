"""The openings of a design: size, height and how far they are open; frames, boxes and joints."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import get_args

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from calveth.app.document import Document
from calveth.app.widgets.labels import clear, label, small_button
from calveth.app.widgets.quantity import QuantityField
from calveth.app.widgets.spin import CountBox
from calveth.core.edits import remove_opening, set_boxes, set_joints, set_opening
from calveth.core.errors import DomainError
from calveth.core.hive.design import (
    Design,
    StackedBoxes,
    Tightness,
    cavity_height_m,
)
from calveth.core.hive.opening import Opening

# A half-inch hole two inches below the lid; common practice, no source.
_UPPER_HOLE_M = 0.0127
_BELOW_LID_M = 0.05


class OpeningsPanel(QWidget):
    """Edits openings, frames and joints of one design."""

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._design_id = document.project.designs[0].id
        self._shape: tuple[object, ...] = ()
        self._fields: list[tuple[QuantityField, Callable[[Opening], float]]] = []
        self._grid = QGridLayout()
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(4)
        self._grid.setVerticalSpacing(4)
        self.problem = label(role="wrong", wrap=True)
        self.problem.hide()
        self.add_button = small_button("+ upper hole", "add an upper hole", self._add)
        self.frames = CountBox("frames in a box", 1, 40)
        self.boxes = CountBox("boxes", 1, 8)
        self.frames.valueChanged.connect(lambda n: self._resize(frame_count=n))
        self.boxes.valueChanged.connect(lambda n: self._resize(box_count=n))
        self.joints = QComboBox()
        self.joints.setAccessibleName("joints")
        for name in get_args(Tightness):
            self.joints.addItem(name, name)
        self.joints.activated.connect(self._join)
        form = QGridLayout()
        form.setHorizontalSpacing(8)
        for at, (text, widget) in enumerate(
            (("frames in a box", self.frames), ("boxes", self.boxes), ("joints", self.joints))
        ):
            form.addWidget(label(text, "muted"), 0, at)
            form.addWidget(widget, 1, at)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(5)
        column.addLayout(self._grid)
        foot = QHBoxLayout()
        foot.addStretch()
        foot.addWidget(self.add_button)
        column.addLayout(foot)
        column.addWidget(self.problem)
        column.addLayout(form)

    def show_design(self, design_id: str) -> None:
        """Show a design, keeping the rows while only values differ."""
        self._design_id = design_id
        design = self._design()
        shape = (design_id, tuple((o.id, o.shape) for o in design.openings))
        if shape != self._shape:
            self._shape = shape
            self._build(design)
        per_opening = len(self._fields) // max(1, len(design.openings))
        for number, (field, read) in enumerate(self._fields):
            field.set_value(read(design.openings[number // per_opening]))
        boxes = isinstance(design.form, StackedBoxes)
        self.frames.setEnabled(boxes)
        self.boxes.setEnabled(boxes)
        if isinstance(design.form, StackedBoxes):
            self.frames.show_value(design.form.frame_count)
            self.boxes.show_value(design.form.box_count)
        self.joints.setCurrentIndex(self.joints.findData(design.joints))

    def field(self, opening_id: str, name: str) -> QuantityField:
        """Return the field of an opening by the end of its name, e.g. ``width``."""
        opening = next(o for o in self._design().openings if o.id == opening_id)
        wanted = f"{opening.name} {name}"
        return next(f for f, _ in self._fields if f.accessibleName().startswith(wanted))

    def _design(self) -> Design:
        return self._document.project.design(self._design_id)

    def _build(self, design: Design) -> None:
        clear(self._grid)
        self._fields = []
        for number, opening in enumerate(design.openings):
            row = 3 * number
            head = label(f"{opening.name}, {opening.shape} in the {opening.side}", "heading")
            self._grid.addWidget(head, row, 0, 1, 3)
            for column, text in enumerate(("wide", "high", "above floor", "open")):
                self._grid.addWidget(label(text, "muted"), row + 1, column)
            for column, (what, quantity, unit, read, write) in enumerate(_COLUMNS):
                field = QuantityField(
                    f"{opening.name} {what}",
                    quantity,
                    unit,
                    partial(self._change, opening.id, write, what),
                    step=5.0 if unit == "%" else 1.0,
                )
                field.setMinimumWidth(70)
                field.refused.connect(self._refused)
                self._grid.addWidget(field, row + 2, column)
                self._fields.append((field, read))
            remove = small_button("×", f"remove {opening.name}", partial(self._remove, opening.id))
            self._grid.addWidget(remove, row, 3, Qt.AlignmentFlag.AlignRight)

    def _change(
        self, opening_id: str, write: Callable[[Opening, float], Opening], what: str, value: float
    ) -> None:
        opening = next(o for o in self._design().openings if o.id == opening_id)
        changed = write(opening, value)
        design = self._design_id
        self._document.edit(
            f"{what} of {opening.name}",
            lambda p: set_opening(p, design, changed),
            merge=f"{design}/{opening_id}/{what}",
        )

    def _add(self) -> None:
        design = self._design()
        taken = {o.id for o in design.openings}
        number = next(n for n in range(1, 100) if f"high-{n}" not in taken)
        below_lid = cavity_height_m(design.form) - _BELOW_LID_M - _UPPER_HOLE_M
        opening = Opening(
            id=f"high-{number}",
            name="upper hole" if number == 1 else f"upper hole {number}",
            shape="hole",
            bottom_m=round(max(below_lid, 0.0), 4),
            width_m=_UPPER_HOLE_M,
            height_m=_UPPER_HOLE_M,
        )
        self._document.edit("new upper hole", lambda p: set_opening(p, design.id, opening))

    def _remove(self, opening_id: str) -> None:
        design = self._design_id
        self._document.edit("remove opening", lambda p: remove_opening(p, design, opening_id))

    def _resize(self, *, frame_count: int | None = None, box_count: int | None = None) -> None:
        design = self._design_id
        try:
            self._document.edit(
                "frames and boxes",
                lambda p: set_boxes(p, design, frame_count=frame_count, box_count=box_count),
                merge=f"{design}/boxes",
            )
            self._refused("")
        except DomainError as error:
            self._refused(str(error))
            self.show_design(design)

    def _join(self) -> None:
        design, joints = self._design_id, self.joints.currentData()
        self._document.edit("joints", lambda p: set_joints(p, design, joints))

    def _refused(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setVisible(bool(sentence))


def _set_width(opening: Opening, value: float) -> Opening:
    if opening.shape == "hole":
        return replace(opening, width_m=value, height_m=value)
    return replace(opening, width_m=value)


def _set_height(opening: Opening, value: float) -> Opening:
    if opening.shape == "hole":
        return replace(opening, width_m=value, height_m=value)
    return replace(opening, height_m=value)


_COLUMNS: tuple[
    tuple[str, str, str, Callable[[Opening], float], Callable[[Opening, float], Opening]], ...
] = (
    ("width", "length", "mm", lambda o: o.width_m, _set_width),
    ("height", "length", "mm", lambda o: o.height_m, _set_height),
    ("above floor", "length", "mm", lambda o: o.bottom_m,
     lambda o, v: replace(o, bottom_m=v)),
    ("open share", "fraction", "%", lambda o: o.free_share,
     lambda o, v: replace(o, free_share=v)),
)  # fmt: skip
