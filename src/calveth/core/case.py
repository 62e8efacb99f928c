"""What an answer is asked for: one hive at one place with its bees, materials and shell."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from calveth.core.climate.place import Place
from calveth.core.colony.colony import Colony
from calveth.core.heat.correction import Shells, as_estimated
from calveth.core.hive.design import Design
from calveth.core.materials import Material
from calveth.core.parameters import LIKELY, Parameters, scaled
from calveth.core.project import Project


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class HiveCase:
    """One question: every figure of a hive follows from it alone.

    Attributes
    ----------
    design : Design
        The hive.
    place : Place
        Where it stands.
    colony : Colony
        Its bees.
    materials : Mapping of str to Material
        Every material the design names, by id.
    shells : Shells
        What is known of its shell in each setting of its plan. There is no default: whether an
        answer rests on a solved shell or on the estimate is always chosen
        (`estimated_case`, `shells.solved_case`).
    parameters : Parameters
        The uncertain figures: `parameters.LIKELY`, or a draw.
    """

    design: Design
    place: Place
    colony: Colony
    materials: Mapping[str, Material]
    shells: Shells
    parameters: Parameters

    @property
    def key(self) -> tuple[object, ...]:
        """What an answer is kept by: all that is asked but how the shell is known.

        Two cases of one key, both solved or both estimated, have the same answers.
        """
        used = tuple(sorted((key, self.materials[key]) for key in self.design.material_ids))
        return (self.design, self.place, self.colony, used, self.parameters)

    def drawn(self, parameters: Parameters) -> HiveCase:
        """Return the same question with other figures, on which what logs told is multiplied."""
        return replace(self, parameters=_calibrated(self.design, parameters))

    def of(self, design: Design) -> HiveCase:
        """Return the same question about another design, which takes the shell of its like."""
        return replace(self, design=design)


def _calibrated(design: Design, parameters: Parameters) -> Parameters:
    measured = design.factors
    if measured is None:
        return parameters
    factors = {
        "leakage_factor": measured.leakage,
        "bees_factor": measured.bees,
        "mixing_nest_crown_w_k": measured.mixing,
        "shell_factor": measured.shell,
    }
    return scaled(parameters, factors)


def estimated_case(project: Project, design: Design) -> HiveCase:
    """Return the case of a design of a project, its shell estimated.

    >>> from calveth.catalogue.shipped import demo_project
    >>> project = demo_project()
    >>> estimated_case(project, project.designs[0]).shells(project.designs[0]).solved
    False
    """
    return HiveCase(
        design=design,
        place=project.place,
        colony=project.colony,
        materials=project.material_table(),
        shells=as_estimated,
        parameters=_calibrated(design, LIKELY),
    )
