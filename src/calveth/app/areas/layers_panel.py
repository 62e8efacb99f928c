"""The layers of the chosen face: material and thickness of each, from the outside in."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from calveth.app.document import Document
from calveth.app.widgets.labels import clear, label, small_button
from calveth.app.widgets.quantity import QuantityField
from calveth.catalogue.shipped import shipped_materials
from calveth.core.constants import RSE
from calveth.core.edits import add_layer, remove_layer, set_layer_material, set_layer_thickness
from calveth.core.heat.shell import shell_heat
from calveth.core.hive.design import Face
from calveth.core.hive.solids import build_solids
from calveth.core.materials import Layer, Material

FACE_TITLE: dict[Face, str] = {"lid": "Lid", "walls": "Walls", "floor": "Floor"}
_NEW_LAYER_M = 0.02


class LayersPanel(QWidget):
    """Edits one face of one design."""

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._design_id = document.project.designs[0].id
        self._face: Face = "lid"
        self._shape: tuple[object, ...] = ()
        self.fields: list[QuantityField] = []
        self.combos: list[QComboBox] = []
        self._grid = QGridLayout()
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(4)
        self._grid.setVerticalSpacing(4)
        self._grid.setColumnStretch(0, 1)
        self.summary = label(role="muted")
        self.problem = label(role="wrong", wrap=True)
        self.problem.hide()
        self.caution = label(role="muted", wrap=True)
        self.add_button = small_button("+ layer inside", "add a layer inside", self._add)
        foot = QHBoxLayout()
        foot.addWidget(self.summary, 1)
        foot.addWidget(self.add_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(5)
        column.addLayout(self._grid)
        column.addLayout(foot)
        column.addWidget(self.problem)
        column.addWidget(self.caution)

    def show_face(self, design_id: str, face: Face) -> None:
        """Show a face of a design, keeping the rows while only values differ."""
        self._design_id, self._face = design_id, face
        stack = self._stack()
        ids = tuple(m.id for m in self._choices())
        shape = (design_id, face, len(stack), ids)
        if shape != self._shape:
            self._shape = shape
            self._build(stack)
        for layer, field, combo in zip(stack, self.fields, self.combos, strict=True):
            field.set_value(layer.thickness_m)
            combo.setCurrentIndex(combo.findData(layer.material))
        self._summarise(stack)

    def _stack(self) -> tuple[Layer, ...]:
        return self._document.project.design(self._design_id).shell.stack(self._face)

    def _choices(self) -> list[Material]:
        """Return the project's own materials, then the rest of the catalogue."""
        own = list(self._document.project.materials)
        known = {m.id for m in own}
        return own + [m for m in shipped_materials() if m.id not in known]

    def _build(self, stack: tuple[Layer, ...]) -> None:
        clear(self._grid)
        self.fields, self.combos = [], []
        for index in range(len(stack)):
            combo = QComboBox()
            combo.setAccessibleName(f"{FACE_TITLE[self._face]} layer {index + 1} material")
            combo.setSizeAdjustPolicy(
                QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon
            )
            combo.setMinimumContentsLength(12)
            for material in self._choices():
                combo.addItem(material.name, material.id)
            combo.activated.connect(partial(self._choose, index))
            field = QuantityField(
                f"{self._face} layer {index + 1} thickness",
                "length",
                "mm",
                partial(self._thicken, index),
            )
            field.setFixedWidth(78)
            field.refused.connect(self._refused)
            remove = small_button("×", f"remove layer {index + 1}", partial(self._remove, index))
            remove.setEnabled(len(stack) > 1)
            self._grid.addWidget(combo, index, 0)
            self._grid.addWidget(field, index, 1)
            self._grid.addWidget(remove, index, 2, Qt.AlignmentFlag.AlignVCenter)
            self.combos.append(combo)
            self.fields.append(field)

    def _summarise(self, stack: tuple[Layer, ...]) -> None:
        table = self._document.project.material_table()
        design = self._document.project.design(self._design_id)
        heat = shell_heat(design, build_solids(design), table)[self._face]
        u = float(heat.middle_w_m2k())
        whole = sum(layer.thickness_m for layer in stack) * 1000
        self.summary.setText(f"{whole:g} mm · U {u:.2f} W/(m²·K)")
        self.summary.setToolTip(
            f"U = 1/(Rsi + ΣR + Rse) = 1/({heat.film_m2k_w:.2f} + {sum(heat.layers_m2k_w):.3f} + "
            f"{RSE.value / heat.outer_ratio:.3f}), EN ISO 6946, per inner area"
        )
        notes = [note for layer in stack for note in table[layer.material].cautions]
        if not table[stack[-1].material].bee_safe_bare:
            notes.insert(0, f"{table[stack[-1].material].name} faces the bees bare.")
        self.caution.setText("\n".join(dict.fromkeys(notes)))
        self.caution.setVisible(bool(notes))

    def _thicken(self, index: int, value_m: float) -> None:
        design, face = self._design_id, self._face
        self._document.edit(
            f"thickness of {face} layer {index + 1}",
            lambda p: set_layer_thickness(p, design, face, index, value_m),
            merge=f"{design}/{face}/{index}",
        )

    def _choose(self, index: int, _: int = 0) -> None:
        chosen = self.combos[index].currentData()
        material = next(m for m in self._choices() if m.id == chosen)
        design, face = self._design_id, self._face
        self._document.edit(
            f"material of {face} layer {index + 1}",
            lambda p: set_layer_material(p, design, face, index, material),
        )

    def _add(self) -> None:
        design, face = self._design_id, self._face
        stack = self._stack()
        material = self._document.project.material_table()[stack[-1].material]
        self._document.edit(
            f"new {face} layer",
            lambda p: add_layer(p, design, face, len(stack), material, _NEW_LAYER_M),
        )

    def _remove(self, index: int) -> None:
        design, face = self._design_id, self._face
        self._document.edit(
            f"remove {face} layer {index + 1}", lambda p: remove_layer(p, design, face, index)
        )

    def _refused(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setVisible(bool(sentence))
