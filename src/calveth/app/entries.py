"""What is known of one design, and of which values it is known."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from calveth.core.assess.remedies import Remedy
from calveth.core.assess.result import MonthlyAssessment, NightAssessment
from calveth.core.assess.shells import SolvedShells
from calveth.core.assess.whole import DeepAssessment
from calveth.core.errors import CalvethError
from calveth.core.hive.design import Design
from calveth.core.project import Project

if TYPE_CHECKING:
    from calveth.core.conduction.joints import JointSum
    from calveth.core.conduction.linear import WarmHive

Key = tuple[object, ...]


def key_of(project: Project, design: Design) -> Key:
    """Return what an assessment depends on."""
    materials = project.material_table()
    used = sorted(design.material_ids)
    return (design, project.place, project.colony, *(materials[m] for m in used))


_WORDS = {
    "monthly": "the year", "shell": "the shell", "nights": "the nights", "deep": "damp and schools",
    "joints": "the joints", "remedies": "what helps",
}  # fmt: skip


def sentence_for(answer: object, what: str) -> str:
    """Return what is said when a piece of work ended in an error."""
    if isinstance(answer, CalvethError):
        return str(answer)
    return f"{_WORDS[what]} could not be worked out; Help, Log says why"


@dataclass(slots=True)
class Entry:
    """Figures of a design, each with the values it was worked out of; others are stale."""

    key: Key = ()
    monthly_key: Key = ()
    shells_key: Key = ()
    nights_key: Key = ()
    deep_key: Key = ()
    joints_key: Key = ()
    remedies_key: Key = ()
    monthly: MonthlyAssessment | None = None
    shells: SolvedShells | None = None
    shells_error: str = ""
    warm: dict[int, WarmHive] = field(default_factory=dict)
    nights: NightAssessment | None = None
    deep: DeepAssessment | None = None
    joints: JointSum | None = None
    remedies: tuple[Remedy, ...] | None = None
    error: str = ""
    troubles: dict[str, str] = field(default_factory=dict)
    asked: dict[str, Key] = field(default_factory=dict)
