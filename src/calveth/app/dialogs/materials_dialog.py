"""Own materials: made from one of the catalogue, or a wood from its species' figures; exported."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from calveth.app.document import Document
from calveth.app.view_state import ViewState
from calveth.app.widgets.labels import label
from calveth.app.widgets.quantity import QuantityField
from calveth.catalogue.shipped import shipped_materials
from calveth.core.edits import put_material, remove_material
from calveth.core.errors import CalvethError, DomainError
from calveth.core.materials import Material, wood_of_species
from calveth.store.material_file import read_materials, write_materials

# Field of the material, heading, quantity, digits.
_FIELDS: tuple[tuple[str, str, str, int | None], ...] = (
    ("conductivity_w_mk", "conductivity", "conductivity", 3),
    ("density_kg_m3", "density", "density", 0),
    ("specific_heat_j_kgk", "specific heat J/(kg·K)", "number", 0),
    ("vapour_resistance_factor", "μ, dry", "number", 1),
    ("film_sd_m", "sd of a film, m", "number", 3),
    ("moisture_conversion", "λ by moisture, fu", "number", 2),
    ("moisture_50", "moisture at 50 %", "fraction", 1),
    ("moisture_80", "moisture at 80 %", "fraction", 1),
    ("buffer_value_g_m2", "moisture buffer g/(m²·%)", "number", 2),
    ("water_absorption_kg_m2_h05", "drinks kg/(m²·√h)", "number", 2),
    ("emissivity", "emissivity", "number", 2),
    ("solar_absorptance", "takes up sun", "number", 2),
    ("price_eur_m3", "price €/m³", "number", 0),
)


class MaterialsDialog(QDialog):
    """The project's materials beside the fields of the one that is chosen."""

    def __init__(
        self,
        document: Document,
        view: ViewState,
        ask_open: Callable[[], Path | None],
        ask_save: Callable[[], Path | None],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(parent)
        self._document, self._view = document, view
        self._ask_open, self._ask_save = ask_open, ask_save
        self._id = ""
        self.setWindowTitle("Materials of this project")
        self.resize(820, 560)
        self.list = QListWidget()
        self.list.setAccessibleName("materials of the project")
        self.list.currentRowChanged.connect(self._choose)
        self.name = QLineEdit()
        self.name.setAccessibleName("name of the material")
        self.name.editingFinished.connect(self._rename)
        self.safe = QCheckBox("bees may touch it bare")
        self.safe.clicked.connect(lambda on: self._put(bee_safe_bare=on))
        self.source = label(role="muted", wrap=True)
        self.problem = label(role="wrong", wrap=True)
        self.fields: dict[str, QuantityField] = {}
        row = QHBoxLayout(self)
        row.addLayout(self._left(), 2)
        row.addLayout(self._right(), 3)
        for button in self.findChildren(QPushButton):
            button.setAutoDefault(False)  # Return in a field takes the number, it presses nothing
        document.changed.connect(self._fill)
        self._fill()
        self.list.setCurrentRow(0)

    def _left(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.addWidget(self.list, 1)
        line = QHBoxLayout()
        self.copy_button = QPushButton("Copy as own")
        self.remove_button = QPushButton("Remove")
        self.copy_button.clicked.connect(self.copy)
        self.remove_button.clicked.connect(self.remove)
        line.addWidget(self.copy_button)
        line.addWidget(self.remove_button)
        column.addLayout(line)
        line = QHBoxLayout()
        self.import_button, self.export_button = QPushButton("Import …"), QPushButton("Export …")
        self.import_button.clicked.connect(self.import_file)
        self.export_button.clicked.connect(self.export_file)
        line.addWidget(self.import_button)
        line.addWidget(self.export_button)
        column.addLayout(line)
        return column

    def _right(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.addWidget(self.name)
        grid = QGridLayout()
        grid.setVerticalSpacing(4)
        for number, (field, heading, quantity, digits) in enumerate(_FIELDS):
            widget = QuantityField(
                heading, quantity, self._view, self._setter(field), digits=digits, step=0.01
            )
            widget.refused.connect(self.problem.setText)
            self.fields[field] = widget
            row, at = divmod(number, 2)
            grid.addWidget(label(heading, "muted"), row, 2 * at)
            grid.addWidget(widget, row, 2 * at + 1)
        column.addLayout(grid)
        column.addWidget(self.safe)
        column.addWidget(self.source)
        column.addWidget(label("A wood by its species", "heading"))
        wood = QHBoxLayout()
        self.gravity, self.moisture = QLineEdit("0.45"), QLineEdit("12")
        self.species = QLineEdit("My wood")
        for text, edit, name in (
            ("name", self.species, "name of the wood"),
            ("specific gravity", self.gravity, "specific gravity"),
            ("moisture %", self.moisture, "moisture of the wood in per cent"),
        ):
            edit.setAccessibleName(name)
            wood.addWidget(label(text, "muted"))
            wood.addWidget(edit)
        self.wood_button = QPushButton("Add")
        self.wood_button.clicked.connect(self.add_wood)
        wood.addWidget(self.wood_button)
        column.addLayout(wood)
        column.addWidget(label("λ by the USDA Wood Handbook, eq. 4-7", "muted"))
        column.addWidget(self.problem)
        column.addStretch()
        close = QPushButton("Close")
        close.clicked.connect(self.accept)
        line = QHBoxLayout()
        line.addStretch()
        line.addWidget(close)
        column.addLayout(line)
        return column

    # -- acts ----------------------------------------------------------------------------------
    @property
    def material(self) -> Material:
        """The material that is chosen."""
        return self._document.project.material_table()[self._id]

    def choose(self, material_id: str) -> None:
        """Show a material by its id."""
        ids = [m.id for m in self._document.project.materials]
        self.list.setCurrentRow(ids.index(material_id))

    def copy(self) -> None:
        """Make an own material like the chosen one."""
        like = self.material
        new_id = self._free_id(like.id + "-own")
        own = replace(
            like,
            id=new_id,
            name=f"{like.name}, own",
            source=f"own figures, begun as {like.name}",
            certainty="estimate",
        )
        self._try("new material", lambda p: put_material(p, own))
        self.choose(new_id)

    def add_wood(self) -> None:
        """Make a wood from specific gravity and moisture."""
        try:
            gravity, moisture = (
                _number(w.text(), w.accessibleName()) for w in (self.gravity, self.moisture)
            )
            like = next(m for m in shipped_materials() if m.id == "softwood")
            new_id = self._free_id(_slug(self.species.text()))
            wood = wood_of_species(new_id, self.species.text(), gravity, moisture, like)
        except DomainError as error:
            self.problem.setText(str(error))
            return
        self._try("new wood", lambda p: put_material(p, wood))
        self.choose(new_id)

    def remove(self) -> None:
        """Remove the chosen material unless it is built in somewhere."""
        gone = self._id
        self._try("remove material", lambda p: remove_material(p, gone))

    def import_file(self) -> None:
        """Read materials from a JSON file into the project."""
        path = self._ask_open()
        if path is None:
            return
        try:
            materials = read_materials(path)
        except CalvethError as error:
            self.problem.setText(str(error))
            return

        def change(project):  # type: ignore[no-untyped-def]
            for material in materials:
                project = put_material(project, material)
            return project

        self._try("import materials", change)

    def export_file(self) -> None:
        """Write the project's materials as JSON."""
        path = self._ask_save()
        if path is None:
            return
        try:
            write_materials(path, self._document.project.materials)
            self.problem.setText("")
        except CalvethError as error:
            self.problem.setText(str(error))

    def _free_id(self, stem: str) -> str:
        taken = {m.id for m in self._document.project.materials}
        taken |= {m.id for m in shipped_materials()}
        names = (stem if n == 1 else f"{stem}-{n}" for n in range(1, 1000))
        return next(name for name in names if name not in taken)

    def _try(self, text: str, change: Any) -> None:
        try:
            self._document.edit(text, change)
            self.problem.setText("")
        except DomainError as error:
            self.problem.setText(str(error))

    def _put(self, **fields: Any) -> None:
        changed = replace(self.material, **fields)
        self._document.edit(
            f"material {changed.name}",
            lambda p: put_material(p, changed),
            merge=f"material/{changed.id}/{next(iter(fields))}",
        )

    def _setter(self, field: str) -> Callable[[float], None]:
        def put(value: float) -> None:
            self._put(**{field: value})

        return put

    def _rename(self) -> None:
        if self.name.text() != self.material.name:
            try:
                self._put(name=self.name.text())
            except DomainError as error:
                self.problem.setText(str(error))

    # -- shows ---------------------------------------------------------------------------------
    def _fill(self, *_: object) -> None:
        materials = self._document.project.materials
        names = [m.name for m in materials]
        shown = [self.list.item(k).text() for k in range(self.list.count())]
        if names != shown:
            row = self.list.currentRow()
            self.list.blockSignals(True)
            self.list.clear()
            self.list.addItems(names)
            self.list.setCurrentRow(min(max(row, 0), len(names) - 1))
            self.list.blockSignals(False)
        self._choose(self.list.currentRow())

    def _choose(self, row: int) -> None:
        materials = self._document.project.materials
        if not 0 <= row < len(materials):
            return
        material = materials[row]
        self._id = material.id
        self.name.setText(material.name)
        self.safe.setChecked(material.bee_safe_bare)
        for field, widget in self.fields.items():
            widget.set_value(getattr(material, field))
        self.fields["film_sd_m"].setEnabled(material.kind == "film")
        self.source.setText(f"{material.source} ({material.certainty})")


def _number(text: str, field: str) -> float:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        raise DomainError(field, repr(text), "is not a number; type for example 0.45") from None


def _slug(name: str) -> str:
    return re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-") or "own-wood"
