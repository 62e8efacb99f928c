"""What a project says: a place, a colony, materials and designs. One frozen value."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field

from calveth.core.climate.place import Place
from calveth.core.colony.colony import Colony
from calveth.core.errors import DomainError, require_between, require_choice, require_text
from calveth.core.hive.design import FACES, Design
from calveth.core.materials import Layer, Material
from calveth.core.records.diary import NO_DIARY, Diary
from calveth.core.school import SCHOOLS, School
from calveth.core.workshop.stock import Workshop


@dataclass(frozen=True, slots=True, kw_only=True)
class Project:
    """A whole project; it carries the materials it uses and needs no catalogue to be worked out.

    ``school`` orders the comparison; ``honey_price_eur_kg`` and ``years_of_use`` weigh the cost of
    a centimetre against the honey it saves; ``workshop`` is what there is to cut from, ``diary``
    what was built and seen.
    """

    name: str
    place: Place
    colony: Colony
    materials: tuple[Material, ...]
    designs: tuple[Design, ...]
    school: School = "sealed warm top"
    honey_price_eur_kg: float = 8.0
    years_of_use: float = 10.0
    workshop: Workshop = field(default_factory=Workshop)
    diary: Diary = NO_DIARY

    def __post_init__(self) -> None:
        require_text("project name", self.name)
        if not self.designs:
            raise DomainError("designs", "none", "are given; a project needs at least one design")
        for what, ids in (
            ("materials", [m.id for m in self.materials]),
            ("designs", [d.id for d in self.designs]),
        ):
            twice = {i for i, count in Counter(ids).items() if count > 1}
            if twice:
                raise DomainError(what, ", ".join(sorted(twice)), "is used as an id twice")
        require_choice("school", self.school, SCHOOLS)
        require_between("price of honey", self.honey_price_eur_kg, 0, 1000, "€/kg")
        require_between("years of use", self.years_of_use, 1, 100, "years")
        built = {d.id for d in self.designs}
        for hive in self.diary.hives:
            if hive.design not in built:
                raise DomainError(
                    f"design of {hive.name}", hive.design, "is not in the project; it stands there"
                )
        known = {m.id for m in self.materials}
        for design in self.designs:
            for face in FACES:
                _check_known(f"design “{design.name}” {face}", design.shell.stack(face), known)
            if design.window is not None:
                _check_known(f"design “{design.name}” window", design.window.stack, known)
            timber = design.joinery.timber
            if timber and timber not in known:
                raise DomainError(
                    f"design “{design.name}” timber of the joints",
                    timber,
                    "is not among the project's materials; add it, or leave it empty",
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


def _check_known(where: str, stack: tuple[Layer, ...], known: set[str]) -> None:
    for number, layer in enumerate(stack, start=1):
        for material in layer.materials:
            if material not in known:
                raise DomainError(
                    f"{where} layer {number} material",
                    material,
                    "is not among the project's materials; add it or choose another",
                )
