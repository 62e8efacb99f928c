"""The hive as a whole: make-up, frames and boxes, joints, rack, tilt, tray and window."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any, get_args

from PySide6.QtWidgets import QCheckBox, QGridLayout, QVBoxLayout, QWidget

from calveth.app.document import Document
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import label, rule
from calveth.app.widgets.quantity import QuantityField
from calveth.app.widgets.spin import CountBox
from calveth.catalogue.library import (
    make_design,
    materials_of,
    named,
    shipped_frames,
    shipped_make_ups,
)
from calveth.catalogue.shipped import shipped_materials
from calveth.core.edits import change_design, put_design, set_boxes, set_joints, set_window
from calveth.core.errors import DomainError
from calveth.core.hive.design import Design, Tightness, Window
from calveth.core.hive.forms import StackedBoxes, cavity_height_m, side_spans_m
from calveth.core.hive.opening import WALL_SIDES
from calveth.core.materials import Layer
from calveth.core.project import Project

_WINDOWS: dict[str, tuple[str, tuple[tuple[str, float], ...]]] = {
    "": ("no window", ()),
    "one": ("one acrylic pane", (("acrylic", 0.004),)),
    "two": ("two acrylic panes", (("acrylic", 0.003), ("air-gap", 0.01), ("acrylic", 0.003))),
    "glass": ("one glass pane", (("glass", 0.004),)),
    "covered": (
        "one pane, foam cover", (("plywood", 0.006), ("xps", 0.02), ("acrylic", 0.004)),
    ),
    "two covered": (
        "two panes, foam cover",
        (("plywood", 0.006), ("xps", 0.02), ("acrylic", 0.003), ("air-gap", 0.01),
         ("acrylic", 0.003)),
    ),
}  # fmt: skip
_FORM_FIELDS: tuple[tuple[str, str, str], ...] = (
    ("frame pitch", "frame_pitch_m", "frames, middle to middle"),
    ("frame length", "frame_length_m", "frame length"),
    ("frame height", "frame_height_m", "frame height"),
    ("box height", "box_height_m", "box height"),
    ("bottom space", "bottom_space_m", "space under frames"),
    ("slatted rack", "rack_m", "slatted rack"),
)
_TREE_FIELDS: tuple[tuple[str, str, str], ...] = (
    ("inner diameter of the tree", "inner_diameter_m", "inner diameter"),
    ("height of the hollow", "cavity_height_m", "height of the hollow"),
)


class HivePanel(QWidget):
    """Edits the form of one design."""

    def __init__(self, document: Document, view: ViewState) -> None:
        super().__init__()
        self._document, self._view = document, view
        self._design_id = document.project.designs[0].id
        self.problem = label(role="wrong", wrap=True)
        self.problem.hide()
        self.make_up = Choice(
            "start from a make-up",
            [("", "start from a make-up …"), *((m.id, m.name) for m in shipped_make_ups())],
            self._start_from,
            narrow=20,
        )
        self.cavity = Choice(
            "cavity by its frames",
            [("", "choose frames …"), *((f.id, f.name) for f in shipped_frames())],
            self._choose_cavity,
            narrow=20,
        )
        self.frames = CountBox("frames in a box", 1, 40)
        self.boxes = CountBox("boxes", 1, 8)
        self.frames.valueChanged.connect(lambda n: self._resize(frame_count=n))
        self.boxes.valueChanged.connect(lambda n: self._resize(box_count=n))
        self.joints = Choice("joints", [(t, t) for t in get_args(Tightness)], self._join)
        self.tray = QCheckBox("tray under the screen")
        self.tray.setAccessibleName("tray under the screen")
        self.tray.clicked.connect(lambda on: self._edit("tray", has_tray=on))
        self.window_kind = Choice(
            "window", [(k, v[0]) for k, v in _WINDOWS.items()], self._choose_window, narrow=14
        )
        self.window_side = Choice(
            "wall of the window", [(s, f"in the {s}") for s in WALL_SIDES], self._window_side
        )
        self._form_fields: dict[str, QuantityField] = {}
        self._tree_fields: dict[str, QuantityField] = {}
        self._only_boxes: list[QWidget] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.make_up)
        column.addWidget(self.cavity)
        column.addLayout(self._counts())
        self.of_boxes, self.of_tree = QWidget(), QWidget()
        self.of_boxes.setLayout(self._form_grid())
        self.of_tree.setLayout(self._tree_grid())
        column.addWidget(self.of_boxes)
        column.addWidget(self.of_tree)
        column.addLayout(self._lie_grid())
        column.addWidget(rule())
        column.addLayout(self._window_grid())
        column.addWidget(self.problem)
        column.addStretch()

    def _counts(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        for at, (text, widget) in enumerate(
            (("frames in a box", self.frames), ("boxes", self.boxes), ("joints", self.joints))
        ):
            heading = label(text, "muted")
            grid.addWidget(heading, 0, at)
            grid.addWidget(widget, 1, at)
            if widget is not self.joints:
                self._only_boxes += [heading, widget]
        return grid

    def _tree_grid(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(8)
        for at, (name, field, heading) in enumerate(_TREE_FIELDS):
            quantity = QuantityField(name, "length", self._view, self._form_setter(field))
            quantity.refused.connect(self._refused)
            self._tree_fields[field] = quantity
            grid.addWidget(label(heading, "muted"), 0, at)
            grid.addWidget(quantity, 1, at)
        return grid

    def _form_grid(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(3)
        for number, (name, field, heading) in enumerate(_FORM_FIELDS):
            quantity = QuantityField(name, "length", self._view, self._form_setter(field), digits=1)
            self._form_fields[field] = quantity
            row, at = divmod(number, 3)
            grid.addWidget(label(heading, "muted", wrap=True), 2 * row, at)
            grid.addWidget(quantity, 2 * row + 1, at)
            quantity.refused.connect(self._refused)
        return grid

    def _lie_grid(self) -> QGridLayout:
        """Return how the hive stands and what lies under it."""
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(3)
        self.tilt = QuantityField(
            "tilt forward", "angle", self._view, lambda v: self._edit("tilt", tilt_deg=v)
        )
        self.slope = QuantityField(
            "slope of the ceiling", "angle", self._view,
            lambda v: self._edit("slope", lid_slope_deg=v),
        )  # fmt: skip
        for at, (heading, widget) in enumerate(
            (("tilt forward", self.tilt), ("ceiling slope", self.slope))
        ):
            grid.addWidget(label(heading, "muted"), 0, at)
            grid.addWidget(widget, 1, at)
            widget.refused.connect(self._refused)
        grid.addWidget(self.tray, 1, 2)
        return grid

    def _window_grid(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.addWidget(self.window_kind, 0, 0, 1, 2)
        grid.addWidget(self.window_side, 0, 2)
        self.window_fields: dict[str, QuantityField] = {}
        for at, (name, field, heading) in enumerate(
            (("window width", "width_m", "wide"), ("window height", "height_m", "high"),
             ("window above floor", "bottom_m", "above floor"))
        ):  # fmt: skip
            widget = QuantityField(name, "length", self._view, self._window_setter(field))
            widget.refused.connect(self._refused)
            self.window_fields[field] = widget
            grid.addWidget(label(heading, "muted"), 1, at)
            grid.addWidget(widget, 2, at)
        return grid

    def show_design(self, design_id: str) -> None:
        """Show a design."""
        self._design_id = design_id
        design = self._design()
        form = design.form
        boxes = isinstance(form, StackedBoxes)
        for widget in (self.of_boxes, *self._only_boxes):
            widget.setVisible(boxes)
        self.of_tree.setVisible(not boxes)
        if isinstance(form, StackedBoxes):
            self.frames.show_value(form.frame_count)
            self.boxes.show_value(form.box_count)
            for name, field in self._form_fields.items():
                field.set_value(getattr(form, name))
        else:
            for name, field in self._tree_fields.items():
                field.set_value(getattr(form, name))
        self.joints.show_id(design.joints)
        self.tray.setChecked(design.has_tray)
        self.tray.setEnabled(any(o.shape == "screen" for o in design.openings))
        self.tilt.set_value(design.tilt_deg)
        self.slope.set_value(design.lid_slope_deg)
        self.make_up.setCurrentIndex(0)
        self.cavity.setCurrentIndex(0)
        window = design.window
        self.window_kind.show_id(_kind_of(window))
        self.window_kind.setEnabled(boxes)
        for name, field in self.window_fields.items():
            field.setEnabled(window is not None)
            if window is not None:
                field.set_value(getattr(window, name))
        self.window_side.setEnabled(window is not None)
        if window is not None:
            self.window_side.show_id(window.side)

    def _design(self) -> Design:
        return self._document.project.design(self._design_id)

    def _try(self, text: str, change: Callable[[Project], Project], merge: str = "") -> None:
        """Edit; a refusal is shown and the fields go back."""
        try:
            self._document.edit(text, change, merge)
            self._refused("")
        except DomainError as error:
            self._refused(str(error))
            self.show_design(self._design_id)

    def _edit(self, text: str, **fields: Any) -> None:
        design = self._design_id
        self._document.edit(
            text,
            lambda p: change_design(p, design, lambda d: replace(d, **fields)),
            merge=f"{design}/{text}",
        )

    def _form_setter(self, field: str) -> Callable[[float], None]:
        def put(value: float) -> None:
            changed: dict[str, Any] = {field: value}
            design = self._design()
            self._edit(field, form=replace(design.form, **changed))

        return put

    def _start_from(self, key: str) -> None:
        """Give the design the shell, joints and openings of a make-up; it keeps its cavity."""
        if not key:
            return
        design = self._design()
        make_up = named("make-up", key, shipped_make_ups())

        def change(project: Project) -> Project:
            frames = replace(shipped_frames()[0], form=design.form)
            made = make_design(make_up, frames, design.id, design.name)
            made = replace(made, note=make_up.note, benchmark=design.benchmark)
            return put_design(project, made, materials_of(made))

        self._try(f"make-up {make_up.name}", change)

    def _choose_cavity(self, key: str) -> None:
        if not key:
            return
        frames = named("frames", key, shipped_frames())
        design = self._design()

        def change(project: Project) -> Project:
            height, spans = cavity_height_m(frames.form), side_spans_m(frames.form)
            openings = tuple(
                replace(
                    o,
                    bottom_m=round(min(o.bottom_m, max(0.0, height - o.height_m - 0.002)), 4),
                    width_m=o.width_m if o.round else min(o.width_m, round(0.95 * spans[0], 4)),
                )
                if not o.level and o.shape != "lid gap"
                else o
                for o in design.openings
            )
            made = replace(design, form=frames.form, openings=openings, window=None)
            return put_design(project, made)

        self._try(f"cavity {frames.name}", change)

    def _resize(self, *, frame_count: int | None = None, box_count: int | None = None) -> None:
        design = self._design_id
        self._try(
            "frames and boxes",
            lambda p: set_boxes(p, design, frame_count=frame_count, box_count=box_count),
            merge=f"{design}/boxes",
        )

    def _join(self, joints: str) -> None:
        design = self._design_id
        self._document.edit("joints", lambda p: set_joints(p, design, joints))  # type: ignore[arg-type]

    def _choose_window(self, key: str) -> None:
        design = self._design()
        layers = _WINDOWS[key][1]
        table = {m.id: m for m in shipped_materials()}
        new = tuple(table[material] for material, _ in layers)
        stack = tuple(Layer(material=m, thickness_m=t) for m, t in layers)
        window = None
        if stack and design.window is not None:
            window = replace(design.window, stack=stack)
        elif stack:
            width, height = side_spans_m(design.form)[0], cavity_height_m(design.form)
            window = Window(
                bottom_m=round(0.3 * height, 3), width_m=round(0.6 * width, 3),
                height_m=round(0.35 * height, 3), stack=stack,
            )  # fmt: skip
        self._try("window", lambda p: set_window(p, design.id, window, new))

    def _window_setter(self, field: str) -> Callable[[float], None]:
        def put(value: float) -> None:
            window = self._design().window
            if window is None:
                return
            changed: dict[str, Any] = {field: value}
            design = self._design_id
            self._document.edit(
                f"window {field}",
                lambda p: set_window(p, design, replace(window, **changed)),
                merge=f"{design}/window/{field}",
            )

        return put

    def _window_side(self, side: str) -> None:
        window = self._design().window
        if window is not None:
            design = self._design_id
            moved: dict[str, Any] = {"side": side}
            self._try("window", lambda p: set_window(p, design, replace(window, **moved)))

    def _refused(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setVisible(bool(sentence))


def _kind_of(window: Window | None) -> str:
    """Return the kind of window whose materials it has; the nearest by name when it is edited."""
    if window is None:
        return ""
    materials = tuple(layer.material for layer in window.stack)
    for key, (_, layers) in _WINDOWS.items():
        if layers and tuple(m for m, _ in layers) == materials:
            return key
    return "one"
