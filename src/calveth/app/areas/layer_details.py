"""The finer settings of a layer: what runs through it, its vents, its season, its place."""

from __future__ import annotations

from dataclasses import replace
from typing import get_args

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout

from calveth.app.document import Document
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import label, small_button
from calveth.app.widgets.quantity import QuantityField
from calveth.catalogue.shipped import shipped_materials
from calveth.core.edits import move_layer
from calveth.core.errors import DomainError
from calveth.core.hive.design import Face
from calveth.core.materials import Fitting, Layer, Material

_FITTING_TEXT = {
    "fixed": "always on",
    "quilt": "quilt, by the season plan",
    "cover": "cover, by the season plan",
}


class LayerDetails(QFrame):
    """Settings of one layer.

    Signals
    -------
    changed(index, layer, material)
        The layer is to be another one; ``material`` is a new one it needs, or None.
    moved(index)
        The layer has gone to another place.
    refused(sentence)
        What was typed is not accepted.
    sweep_wanted(face, index)
        Show what each centimetre of it brings.
    """

    changed = Signal(int, object, object)
    moved = Signal(int)
    refused = Signal(str)
    sweep_wanted = Signal(str, int)

    def __init__(self, document: Document, view: ViewState, face: Face, index: int) -> None:
        super().__init__()
        self._document, self._face, self._index = document, face, index
        self._design_id = ""
        self._layer: Layer | None = None
        self.setProperty("role", "sheet")
        self.second = Choice(
            f"layer {index + 1} second material", self._rows(), self._choose_second, narrow=12
        )
        self.share = QuantityField(
            f"layer {index + 1} share of the second material",
            "fraction",
            view,
            self._set_share,
            step=1.0,
        )
        self.vents = QuantityField(
            f"layer {index + 1} vents of the gap in cm² per metre",
            "number",
            view,
            self._set_vents,
            digits=1,
        )
        self.fitting = Choice(
            f"layer {index + 1} season", list(_FITTING_TEXT.items()), self._choose_fitting
        )
        for field in (self.share, self.vents):
            field.setFixedWidth(70)
            field.refused.connect(self.refused)
        grid = QGridLayout(self)
        grid.setContentsMargins(8, 6, 8, 6)
        grid.setVerticalSpacing(4)
        grid.addWidget(label("through it run studs, mortar …", "muted"), 0, 0, 1, 2)
        grid.addWidget(self.second, 1, 0)
        grid.addWidget(self.share, 1, 1)
        self._vents_label = label("vents of the gap, cm² a metre", "muted")
        grid.addWidget(self._vents_label, 2, 0)
        grid.addWidget(self.vents, 2, 1)
        grid.addWidget(self.fitting, 3, 0, 1, 2)
        row = QHBoxLayout()
        self.out_button = small_button("↑ outwards", "move the layer outwards", self._out)
        self.in_button = small_button("↓ inwards", "move the layer inwards", self._in)
        self.sweep_button = small_button(
            "what a cm brings",
            "show what each centimetre brings",
            lambda: self.sweep_wanted.emit(self._face, self._index),
        )
        for button in (self.out_button, self.in_button, self.sweep_button):
            row.addWidget(button)
        row.addStretch()
        grid.addLayout(row, 4, 0, 1, 2)

    def set_design(self, design_id: str) -> None:
        """Say whose layer it is."""
        self._design_id = design_id

    def show_layer(self, layer: Layer) -> None:
        """Show the settings of a layer."""
        self._layer = layer
        self.second.show_id(layer.mixed_with if layer.mixed_share > 0 else "")
        self.share.set_value(layer.mixed_share)
        self.share.setEnabled(layer.mixed_share > 0)
        self.vents.set_value(1e4 * layer.vents_m2_m)
        gap = self._document.project.material_table()[layer.material].kind == "air gap"
        self.vents.setVisible(gap)
        self._vents_label.setVisible(gap)
        self.fitting.show_id(layer.fitting)

    def _rows(self) -> list[tuple[str, str]]:
        own = self._document.project.materials
        known = {m.id for m in own}
        rest = tuple(m for m in shipped_materials() if m.id not in known)
        solid = [(m.id, m.name) for m in (*own, *rest) if m.kind == "solid"]
        return [("", "nothing"), *solid]

    def _change(self, material: Material | None = None, **fields: object) -> None:
        assert self._layer is not None
        layer = replace(self._layer, **fields)  # type: ignore[arg-type]
        self.changed.emit(self._index, layer, material)

    def _choose_second(self, key: str) -> None:
        assert self._layer is not None
        if not key:
            self._change(mixed_with="", mixed_share=0.0)
            return
        known = {m.id: m for m in (*shipped_materials(), *self._document.project.materials)}
        share = self._layer.mixed_share or 0.1
        self._change(known[key], mixed_with=key, mixed_share=share)

    def _set_share(self, value: float) -> None:
        if value <= 0:
            raise DomainError(
                "share of the second material", value, "is nothing; choose “nothing” above instead"
            )
        self._change(mixed_share=value)

    def _set_vents(self, value_cm2: float) -> None:
        self._change(vents_m2_m=value_cm2 * 1e-4)

    def _choose_fitting(self, key: str) -> None:
        assert key in get_args(Fitting)
        self._change(fitting=key)

    def _move(self, step: int) -> None:
        design, face, index = self._design_id, self._face, self._index
        count = len(self._document.project.design(design).shell.stack(face))
        target = min(max(index + step, 0), count - 1)
        if target == index:
            return
        if self._document.attempt(
            f"move {face} layer {index + 1}", lambda p: move_layer(p, design, face, index, step)
        ):
            self.moved.emit(target)

    def _out(self) -> None:
        self._move(-1)

    def _in(self) -> None:
        self._move(1)
