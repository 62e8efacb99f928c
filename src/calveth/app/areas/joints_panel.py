"""How the parts of a hive meet: a choice for every joint, and what it does to heat and damp."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from html import escape
from typing import TYPE_CHECKING, Any, get_args

from PySide6.QtWidgets import QGridLayout, QVBoxLayout

from calveth.app.areas.design_panel import DesignPanel
from calveth.app.document import Document
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import html_label, label, rule
from calveth.app.widgets.quantity import QuantityField
from calveth.catalogue.shipped import shipped_materials
from calveth.core.edits import MORTAR, needs_timber, set_joinery, set_joints
from calveth.core.hive.design import LidShape, Tightness
from calveth.core.hive.joinery import (
    BlockJoint,
    CornerJoint,
    EntranceWay,
    Fixing,
    FloorJoint,
    LidJoint,
    Stand,
    WindowFrame,
)
from calveth.texts.html import table
from calveth.texts.joints import rest_name

if TYPE_CHECKING:
    from calveth.core.conduction.joints import JointSum


_CHOICES: tuple[tuple[str, str, str, Any], ...] = (
    ("lid", "joint of lid and walls", "lid on walls", LidJoint),
    ("floor", "joint of floor and walls", "walls on floor", FloorJoint),
    ("corner", "corner of the walls", "corners", CornerJoint),
    ("entrance", "way of the entrance", "entrance through the wall", EntranceWay),
    ("window_frame", "window frame", "window frame", WindowFrame),
    ("fixing", "fixing of the outer layers", "outer layers held by", Fixing),
    ("blocks", "block joint", "between blocks", BlockJoint),
    ("stand", "stand", "stands on", Stand),
)
_TEXT = {
    "none": "nothing",
    "bare": "nothing lines it",
    "open": "air, on a stand",
    "legs": "four timber legs",
    "slab": "a slab",
    "posts": "timber posts",
}
_TIMBERS = (
    ("", "as the inner board"),
    ("softwood", "softwood"),
    ("hardwood", "hardwood"),
    ("plywood", "plywood"),
)


class JointsPanel(DesignPanel):
    """Edits the joints of one design, and shows what they add where they are solved."""

    def __init__(self, document: Document, view: ViewState) -> None:
        super().__init__(document, view)
        self.choices: dict[str, Choice] = {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(3)
        for row, (field, name, heading, kind) in enumerate(_CHOICES):
            rows = [(key, _TEXT.get(key, key)) for key in get_args(kind)]
            choice = Choice(name, rows, self._chooser(field), narrow=16)
            self.choices[field] = choice
            grid.addWidget(label(heading, "muted"), row, 0)
            grid.addWidget(choice, row, 1)
        self.timber = Choice("timber of joints", list(_TIMBERS), self._choose_timber, narrow=16)
        grid.addWidget(label("timber of the joints", "muted"), len(_CHOICES), 0)
        grid.addWidget(self.timber, len(_CHOICES), 1)
        self.tightness = Choice("joints", [(t, t) for t in get_args(Tightness)], self._join)
        grid.addWidget(label("how tight", "muted"), len(_CHOICES) + 1, 0)
        grid.addWidget(self.tightness, len(_CHOICES) + 1, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        self.answer = label("", wrap=True)
        column.addWidget(self.answer)
        column.addLayout(grid)
        column.addLayout(self._sizes())
        column.addWidget(self.problem)
        column.addWidget(rule())
        self.heat = html_label("what the joints cost")
        column.addWidget(self.heat)
        column.addStretch()

    def _sizes(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(3)
        self.overlap = self._quantity("overlap of the lid", "length", "overlap_m")
        self.block = self._quantity("timber round the entrance", "length", "block_m")
        self.slope = QuantityField(
            "slope of the lid",
            "angle",
            self._view,
            lambda v: self._edit("slope of the lid", lid_slope_deg=v),
        )
        self.slope.refused.connect(self._refused)
        self.shape = Choice(
            "shape of the lid",
            [(s, s) for s in get_args(LidShape)],
            lambda s: self._edit("shape of the lid", lid_shape=s),
        )
        for at, (heading, widget) in enumerate(
            (
                ("overlap", self.overlap),
                ("round the hole", self.block),
                ("lid slope", self.slope),
                ("lid shape", self.shape),
            )
        ):
            grid.addWidget(label(heading, "muted"), 0, at)
            grid.addWidget(widget, 1, at)
        return grid

    def _quantity(self, name: str, quantity: str, field: str) -> QuantityField:
        def put(value: float) -> None:
            changed: dict[str, Any] = {field: value}
            joinery = replace(self._design().joinery, **changed)
            self._document.edit(
                name,
                lambda p: set_joinery(p, self._design_id, joinery),
                merge=f"{self._design_id}/{field}",
            )

        made = QuantityField(name, quantity, self._view, put)
        made.refused.connect(self._refused)
        return made

    def show_design(self, design_id: str) -> None:
        """Show the joints of a design; a trunk has none."""
        super().show_design(design_id)
        design = self._design()
        built = design.form.of_boards
        for field, choice in self.choices.items():
            choice.show_id(getattr(design.joinery, field))
            choice.setEnabled(built and (field != "window_frame" or design.window is not None))
        self.timber.show_id(design.joinery.timber)
        self.tightness.show_id(design.joints)
        self.overlap.set_value(design.joinery.overlap_m)
        self.overlap.setEnabled(
            design.joinery.lid in ("insulation past the rim", "telescoping rim")
            or design.joinery.floor == "walls past the floor"
        )
        self.block.set_value(design.joinery.block_m)
        self.block.setEnabled(design.joinery.entrance == "solid block")
        self.slope.set_value(design.lid_slope_deg)
        self.shape.show_id(design.lid_shape)
        self.shape.setEnabled(built and design.lid_slope_deg > 0)
        self.timber.setEnabled(built)

    def show_heat(self, joints: JointSum | None, error: str = "") -> None:
        """Show what the joints add, or that they are being solved, or why not."""
        if joints is None:
            self.answer.setText(error or "Being solved …")
            self.heat.setText("")
            return
        self.answer.setText(_sentence(joints))
        self.heat.setText(_html(joints))

    def _chooser(self, field: str) -> Callable[[str], None]:
        def choose(key: str) -> None:
            changed: dict[str, Any] = {field: key}
            joinery = replace(self._design().joinery, **changed)
            kinds = {MORTAR} if field == "blocks" else set()
            if needs_timber(self._document.project, self._design_id, joinery):
                joinery = replace(joinery, timber=_TIMBERS[1][0])
                kinds.add(_TIMBERS[1][0])
            new = tuple(m for m in shipped_materials() if m.id in kinds)
            self._try("joint", lambda p: set_joinery(p, self._design_id, joinery, new))

        return choose

    def _choose_timber(self, key: str) -> None:
        joinery = replace(self._design().joinery, timber=key)
        new = tuple(m for m in shipped_materials() if m.id == key)
        self._try("joint", lambda p: set_joinery(p, self._design_id, joinery, new))

    def _join(self, key: str) -> None:
        tight = next(t for t in get_args(Tightness) if t == key)
        self._try("joint", lambda p: set_joints(p, self._design_id, tight))


def _sentence(joints: JointSum) -> str:
    """Return what the joints cost, and the one that makes its place coldest."""
    if not joints.joints:
        return "A trunk is of one piece and has no joints."
    added = sum(j.whole_w_k for j in joints.joints) + joints.rest_w_k
    total = joints.faces_w_k + added
    text = f"Joints and corners add {added:.2f} of {total:.2f} W/K ({added / total:.0%})."
    known = [j for j in joints.joints if j.factor is not None and j.plain_factor is not None]
    if known:
        worst = min(known, key=lambda j: j.factor or 0.0)
        text += (
            f" Coldest: {worst.name}, {worst.factor:.0%} of the way from the cold outside to the "
            f"warmth inside; {worst.plain_factor:.0%} if it were not there."
        )
    return text


def _html(joints: JointSum) -> str:
    """Return the joints as a small table: what each adds, and its coldest factor."""
    rows = [["solved", "adds", "ψ", "coldest (without)"]]
    for joint in joints.joints:
        factor = ""
        if joint.factor is not None and joint.plain_factor is not None:
            factor = f"{joint.factor:.2f} ({joint.plain_factor:.2f})"
        psi = f"{joint.psi:+.3f}" if joint.length_m else ""
        rows.append([escape(joint.name), f"{joint.whole_w_k:+.3f}", psi, factor])
    rows.append(["faces alone", f"{joints.faces_w_k:.3f}", "", ""])
    rows.append([rest_name(joints), f"{joints.rest_w_k:+.3f}", "", ""])
    return (
        table(rows, words=(0,)) + "<p>W/K, and ψ in W/(m·K) of each metre inside. Factor: 0 as "
        "cold as outside, 1 as warm as inside.</p>"
    )
