"""What a project says: a place, a colony, materials and designs. One frozen value."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from calveth.core.climate.place import Place
from calveth.core.colony.colony import Colony
from calveth.core.errors import DomainError, require_text
from calveth.core.hive.design import FACES, Design
from calveth.core.materials import Material


@dataclass(frozen=True, slots=True, kw_only=True)
class Project:
    """A whole project; it carries the materials it uses and needs no catalogue to be worked out."""

    name: str
    place: Place
    colony: Colony
    materials: tuple[Material, ...]
    designs: tuple[Design, ...]

    def __post_init__(self) -> None:
        require_text("project name", self.name)
        if not self.designs:
            raise DomainError("designs", "none", "are given; a project needs at least one design")
        for what, ids in (
            ("materials", [m.id for m in self.materials]),
            ("designs", [d.id for d in self.designs]),
        ):
            twice = {i for i in ids if ids.count(i) > 1}
            if twice:
                raise DomainError(what, ", ".join(sorted(twice)), "is used as an id twice")
        known = {m.id for m in self.materials}
        for design in self.designs:
            for face in FACES:
                for number, layer in enumerate(design.shell.stack(face), start=1):
                    if layer.material not in known:
                        raise DomainError(
                            f"design “{design.name}” {face} layer {number} material",
                            layer.material,
                            "is not among the project's materials; add it or choose another",
                        )

    def design(self, design_id: str) -> Design:
        """Return the design with that id.

        Raises
        ------
        DomainError
            When there is none.
        """
        for design in self.designs:
            if design.id == design_id:
                return design
        known = ", ".join(d.id for d in self.designs)
        raise DomainError("design", design_id, f"is not in the project; it has {known}")

    def material_table(self) -> Mapping[str, Material]:
        """Return the materials by id."""
        return {material.id: material for material in self.materials}
