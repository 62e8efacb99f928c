"""The layers of the chosen face: material and thickness of each, from the outside in."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QVBoxLayout, QWidget

from calveth.app.areas.layer_details import LayerDetails
from calveth.app.document import Document
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import SearchChoice
from calveth.app.widgets.labels import clear, label, small_button
from calveth.app.widgets.quantity import QuantityField
from calveth.catalogue.shipped import shipped_materials
from calveth.core.calendar import MONTH_NAMES
from calveth.core.climate.place import coldest_month
from calveth.core.constants import RSE
from calveth.core.edits import (
    add_layer,
    change_layer,
    remove_layer,
    set_layer_material,
    set_layer_thickness,
)
from calveth.core.heat.seasons import winter_materials
from calveth.core.heat.shell import shell_heat
from calveth.core.hive.design import Face
from calveth.core.materials import Layer, Material
from calveth.core.solids.build import build_solids

FACE_TITLE: dict[Face, str] = {"lid": "Lid", "walls": "Walls", "floor": "Floor"}


def material_choices(document: Document) -> list[Material]:
    """Return the project's own materials, then the rest of the catalogue, by group."""
    own = list(document.project.materials)
    known = {m.id for m in own}
    rest = [m for m in shipped_materials() if m.id not in known]
    return own + sorted(rest, key=lambda m: m.group)


def material_rows(document: Document) -> list[tuple[str, str, str]]:
    """Return id, name and group of every material to choose from."""
    own = {m.id for m in document.project.materials}
    return [
        (m.id, m.name, "In this project" if m.id in own else m.group.capitalize())
        for m in material_choices(document)
    ]


class LayersPanel(QWidget):
    """Edits one face of one design.

    Signals
    -------
    materials_wanted()
        The button for own materials was pressed.
    sweep_wanted(face, layer)
        The user asks what each centimetre of a layer brings.
    """

    materials_wanted = Signal()
    sweep_wanted = Signal(str, int)

    def __init__(self, document: Document, view: ViewState) -> None:
        super().__init__()
        self._document, self._view = document, view
        self._design_id = document.project.designs[0].id
        self._face: Face = "lid"
        self._shape: tuple[object, ...] = ()
        self._open = -1
        self.fields: list[QuantityField] = []
        self.combos: list[SearchChoice] = []
        self._grid = QGridLayout()
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(4)
        self._grid.setVerticalSpacing(4)
        self._grid.setColumnStretch(0, 1)
        self.details: LayerDetails | None = None
        self.summary = label(role="muted")
        self.problem = label(role="wrong", wrap=True)
        self.problem.hide()
        self.caution = label(role="muted", wrap=True)
        self.add_button = small_button("+ layer inside", "add a layer inside", self._add)
        self.materials_button = small_button(
            "materials …", "own materials", self.materials_wanted.emit
        )
        foot = QHBoxLayout()
        foot.addWidget(self.add_button)
        foot.addWidget(self.materials_button)
        foot.addStretch()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(5)
        column.addLayout(self._grid)
        column.addLayout(foot)
        column.addWidget(self.summary)
        column.addWidget(self.problem)
        column.addWidget(self.caution)
        view.units_changed.connect(self._units_changed)

    def show_face(self, design_id: str, face: Face) -> None:
        """Show a face of a design, keeping the rows while only values differ."""
        if (design_id, face) != (self._design_id, self._face):
            self._open = -1
        self._design_id, self._face = design_id, face
        stack = self._stack()
        ids = tuple((m.id, m.name) for m in material_choices(self._document))
        shape = (design_id, face, len(stack), ids, self._open)
        if shape != self._shape:
            self._shape = shape
            self._build(stack)
        for layer, field, combo in zip(stack, self.fields, self.combos, strict=True):
            field.set_value(layer.thickness_m)
            combo.show_id(layer.material)
            material = self._document.project.material_table()[layer.material]
            field.setEnabled(material.kind != "film")
        if self.details is not None:
            self.details.show_layer(stack[self._open])
        self._summarise(stack)

    def show_details(self, index: int) -> None:
        """Open the finer settings of a layer, or close them."""
        self._open = -1 if index == self._open else index
        self.show_face(self._design_id, self._face)

    def _stack(self) -> tuple[Layer, ...]:
        return self._document.project.design(self._design_id).shell.stack(self._face)

    def _build(self, stack: tuple[Layer, ...]) -> None:
        clear(self._grid)
        self.fields, self.combos, self.details = [], [], None
        row = 0
        rows = material_rows(self._document)
        for index in range(len(stack)):
            combo = SearchChoice(
                f"{FACE_TITLE[self._face]} layer {index + 1} material",
                rows,
                partial(self._choose, index),
                narrow=10,
            )
            field = QuantityField(
                f"{self._face} layer {index + 1} thickness",
                "length",
                self._view,
                partial(self._thicken, index),
                digits=1,
            )
            field.setFixedWidth(78)
            field.refused.connect(self._refused)
            more = small_button("…", f"more of layer {index + 1}", partial(self._more, index))
            more.setCheckable(True)
            more.setChecked(index == self._open)
            remove = small_button("×", f"remove layer {index + 1}", partial(self._remove, index))
            remove.setEnabled(len(stack) > 1)
            for at, widget in enumerate((combo, field, more, remove)):
                self._grid.addWidget(widget, row, at, Qt.AlignmentFlag.AlignVCenter)
            self.combos.append(combo)
            self.fields.append(field)
            row += 1
            if index == self._open:
                self.details = LayerDetails(self._document, self._view, self._face, index)
                self.details.changed.connect(self._put)
                self.details.moved.connect(self._moved)
                self.details.refused.connect(self._refused)
                self.details.sweep_wanted.connect(self.sweep_wanted)
                self.details.set_design(self._design_id)
                self._grid.addWidget(self.details, row, 0, 1, 4)
                row += 1

    def _more(self, index: int) -> None:
        self.show_details(index)

    def _units_changed(self) -> None:
        self._summarise(self._stack())

    def _summarise(self, stack: tuple[Layer, ...]) -> None:
        table = self._document.project.material_table()
        design = self._document.project.design(self._design_id)
        place = self._document.project.place
        solids = build_solids(design)
        dry = float(shell_heat(design, solids, table)[self._face].middle_w_m2k())
        # The one value findings and report tell too: as moist and cold as its winter makes it.
        heat = shell_heat(design, solids, winter_materials(table, place))[self._face]
        u = float(heat.middle_w_m2k())
        units = self._view.units
        total = units.number(sum(layer.thickness_m for layer in stack), "length", None)
        self.summary.setText(f"{total} {units.unit('length')} · {units.resistance(u)}")
        self.summary.setToolTip(
            f"U = 1/(Rsi + ΣR + Rse) = 1/({heat.film_m2k_w:.2f} + {sum(heat.layers_m2k_w):.3f} + "
            f"{RSE.value / heat.outer_ratio:.3f}) = {u:.2f} W/(m²·K) in "
            f"{MONTH_NAMES[coldest_month(place)]}, EN ISO 6946, per inner area; dry, by the table, "
            f"{dry:.2f}"
        )
        notes = [note for layer in stack for key in layer.materials for note in table[key].cautions]
        inner = next(
            (table[y.material] for y in reversed(stack) if table[y.material].kind != "air gap"),
            table[stack[-1].material],
        )
        if not inner.bee_safe_bare:
            notes.insert(0, f"{inner.name} faces the bees bare.")
        self.caution.setText("\n".join(dict.fromkeys(notes)))
        self.caution.setVisible(bool(notes))

    def _thicken(self, index: int, value_m: float) -> None:
        design, face = self._design_id, self._face
        self._document.edit(
            f"thickness of {face} layer {index + 1}",
            lambda p: set_layer_thickness(p, design, face, index, value_m),
            merge=f"{design}/{face}/{index}",
        )

    def _choose(self, index: int, chosen: str) -> None:
        material = next(m for m in material_choices(self._document) if m.id == chosen)
        design, face = self._design_id, self._face
        layer = self._stack()[index]

        def change(p):  # type: ignore[no-untyped-def]
            p = set_layer_material(p, design, face, index, material)
            if material.kind == "film":
                thin = replace(layer, material=material.id, thickness_m=material.new_layer_m)
                p = change_layer(p, design, face, index, thin)
            return p

        self._document.attempt(f"material of {face} layer {index + 1}", change)

    def _put(self, index: int, layer: Layer, material: object) -> None:
        design, face = self._design_id, self._face
        new = (material,) if isinstance(material, Material) else ()
        self._document.attempt(
            f"layer {index + 1} of the {face}",
            lambda p: change_layer(p, design, face, index, layer, *new),
            merge=f"{design}/{face}/{index}/details",
        )

    def _moved(self, index: int) -> None:
        self._open = index
        self.show_face(self._design_id, self._face)

    def _add(self) -> None:
        design, face = self._design_id, self._face
        stack = self._stack()
        material = self._document.project.material_table()[stack[-1].material]
        self._document.attempt(
            f"new {face} layer",
            lambda p: add_layer(p, design, face, len(stack), material, material.new_layer_m),
        )

    def _remove(self, index: int) -> None:
        self._open = -1
        design, face = self._design_id, self._face
        self._document.attempt(
            f"remove {face} layer {index + 1}", lambda p: remove_layer(p, design, face, index)
        )

    def _refused(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setVisible(bool(sentence))
