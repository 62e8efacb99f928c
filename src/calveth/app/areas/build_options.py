"""How it is built: corner joints, what frames hang on, the stand, and the small things."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any, get_args

from PySide6.QtWidgets import QCheckBox, QGridLayout, QVBoxLayout

from calveth.app.areas.design_panel import DesignPanel
from calveth.app.document import Document
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import label, rule
from calveth.app.widgets.quantity import QuantityField
from calveth.catalogue.shipped import shipped_materials
from calveth.core.edits import change_design, needs_timber, set_joinery
from calveth.core.hive.details import Grips, Strap
from calveth.core.hive.forms import LittleBoxes, StackedBoxes
from calveth.core.hive.joinery import CornerCut, FrameRest, Stand
from calveth.core.materials import Material

_JOINTS: tuple[tuple[str, str, str, Any], ...] = (
    ("corner_cut", "corner joint", "corners joined by", CornerCut),
    ("frame_rest", "frame rest", "frames hang on", FrameRest),
    ("stand", "what the hive stands on", "stands on", Stand),
)
_DETAILS: tuple[tuple[str, str, str, Any], ...] = (
    ("grips", "grips", "grips", Grips),
    ("strap", "strap", "strap", Strap),
)
_TEXT = {
    "butt": "butt, screwed",
    "rebate": "rebate",
    "finger": "fingers",
    "mitre": "mitre, 45°",
    "strip": "a strip on the wall",
    "open": "air, no stand",
    "legs": "a timber stand",
    "slab": "a slab",
}
_FRAME_REST = {"rebate": "a rebate in the wall", "strip": "a strip on the wall"}
_SWITCHES: tuple[tuple[str, str], ...] = (
    ("tool_bevel", "bevel for the hive tool"),
    ("tight_faces", "faces that meet planed tight"),
    ("rough_inside", "inside left rough"),
    ("drip_edge", "drip edge on the lid"),
    ("strap_groove", "groove for the strap"),
    ("hinge", "lid on hinges with a stay"),
    ("grease_cups", "grease cups under the feet"),
    ("sealed_ends", "end grain sealed"),
    ("sheet_grain", "face grain of sheets runs along"),
)


class BuildOptions(DesignPanel):
    """Edits what changes the pieces of one design and not its heat."""

    def __init__(self, document: Document, view: ViewState) -> None:
        super().__init__(document, view)
        self.choices: dict[str, Choice] = {}
        self.switches: dict[str, QCheckBox] = {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(4)
        rows = [(*row, True) for row in _JOINTS] + [(*row, False) for row in _DETAILS]
        for at, (field, name, heading, kind, joint) in enumerate(rows):
            texts = _FRAME_REST if field == "frame_rest" else _TEXT
            options = [(key, texts.get(key, key)) for key in get_args(kind)]
            act = self._joint_setter(field) if joint else self._detail_setter(field)
            self.choices[field] = Choice(name, options, act, narrow=18)
            grid.addWidget(label(heading, "muted"), at, 0)
            grid.addWidget(self.choices[field], at, 1)
        self.high = self._length("height of the stand", "leg_high_m")
        self.spread = self._length("spread of the stand", "leg_spread_m")
        at = len(rows)
        for heading, widget in (("stand, high", self.high), ("wider than the body", self.spread)):
            grid.addWidget(label(heading, "muted"), at, 0)
            grid.addWidget(widget, at, 1)
            at += 1
        self.feed = QuantityField(
            "room above the bars", "length", view, self._set_feed_room, digits=0
        )
        self.feed.refused.connect(self._refused)
        grid.addWidget(label("room above the bars to feed", "muted"), at, 0)
        grid.addWidget(self.feed, at, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(5)
        column.addLayout(grid)
        column.addWidget(rule())
        for field, text in _SWITCHES:
            box = QCheckBox(text)
            box.setAccessibleName(text)
            box.clicked.connect(self._switch(field))
            self.switches[field] = box
            column.addWidget(box)
        self.nest_bars = QCheckBox("bars under the nest of each little box")
        self.nest_bars.setAccessibleName(self.nest_bars.text())
        self.nest_bars.clicked.connect(self._set_nest_bars)
        column.addWidget(self.nest_bars)
        column.addWidget(self.problem)
        column.addStretch()

    def _length(self, name: str, field: str) -> QuantityField:
        def put(value: float) -> None:
            changed: dict[str, Any] = {field: value}
            joinery = replace(self._design().joinery, **changed)
            design = self._design_id
            self._document.edit(
                name, lambda p: set_joinery(p, design, joinery), merge=f"{design}/{field}"
            )

        made = QuantityField(name, "length", self._view, put)
        made.refused.connect(self._refused)
        return made

    def _joint_setter(self, field: str) -> Callable[[str], None]:
        def put(key: str) -> None:
            changed: dict[str, Any] = {field: key}
            joinery = replace(self._design().joinery, **changed)
            new: tuple[Material, ...] = ()
            if needs_timber(self._document.project, self._design_id, joinery):
                joinery = replace(joinery, timber="softwood")
                new = tuple(m for m in shipped_materials() if m.id == "softwood")
            self._try("build", lambda p: set_joinery(p, self._design_id, joinery, new))

        return put

    def _detail_setter(self, field: str) -> Callable[[Any], None]:
        def put(value: Any) -> None:
            changed: dict[str, Any] = {field: value}
            design = self._design_id
            self._try(
                "build",
                lambda p: change_design(
                    p, design, lambda d: replace(d, details=replace(d.details, **changed))
                ),
            )

        return put

    def _switch(self, field: str) -> Callable[[bool], None]:
        return self._detail_setter(field)

    def _set_feed_room(self, value: float) -> None:
        form = self._design().form
        if isinstance(form, StackedBoxes):
            self._edit("room above the bars", form=replace(form, feed_room_m=value))

    def _set_nest_bars(self, on: bool) -> None:
        form = self._design().form
        if isinstance(form, LittleBoxes):
            design = self._design_id
            changed = replace(form, nest_bars=on)
            self._try(
                "bars under the nest",
                lambda p: change_design(p, design, lambda d: replace(d, form=changed)),
            )

    def show_design(self, design_id: str) -> None:
        """Show how a design is built; a trunk has no choice."""
        super().show_design(design_id)
        design = self._design()
        built = design.form.of_boards
        for field, _, _, _ in _JOINTS:
            self.choices[field].show_id(getattr(design.joinery, field))
            self.choices[field].setEnabled(built)
        self.choices["frame_rest"].setEnabled(design.form.has_frames)
        for field, _, _, _ in _DETAILS:
            self.choices[field].show_id(getattr(design.details, field))
            self.choices[field].setEnabled(built)
        for field, box in self.switches.items():
            box.setChecked(getattr(design.details, field))
            box.setEnabled(built)
        legs = built and design.joinery.stand == "legs"
        self.high.set_value(design.joinery.leg_high_m)
        self.spread.set_value(design.joinery.leg_spread_m)
        self.high.setEnabled(legs)
        self.spread.setEnabled(legs)
        form = design.form
        self.feed.setEnabled(form.has_frames)
        self.feed.set_value(form.feed_room_m)
        self.nest_bars.setVisible(isinstance(form, LittleBoxes))
        self.nest_bars.setChecked(isinstance(form, LittleBoxes) and form.nest_bars)
