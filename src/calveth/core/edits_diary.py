"""Edits of the diary, and what they keep from being changed: designs that were built."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from calveth.core.errors import DomainError
from calveth.core.hive.design import Design
from calveth.core.hive.factors import Factors
from calveth.core.project import Project
from calveth.core.records.diary import Diary


def set_diary(project: Project, diary: Diary) -> Project:
    """Return the project with another diary."""
    return replace(project, diary=diary)


def take_over(project: Project, design_id: str, factors: Mapping[str, float], note: str) -> Project:
    """Return the project with what logs told kept with a design, on top of what was kept before.

    Raises
    ------
    DomainError
        When a factor leaves what is possible.
    """
    design = project.design(design_id)
    old = design.factors or Factors()
    made = {name: getattr(old, name) * value for name, value in factors.items()}
    new = replace(design, factors=replace(old, **made, note=note))
    return replace(project, designs=tuple(new if d.id == design_id else d for d in project.designs))


def refuse_change(project: Project, old: Design, new: Design) -> None:
    """Raise where a design changes that hives with entries in the diary were built from.

    What they are held against must not change; its name, its note, whether it is a benchmark and
    what logs told of it may.

    Raises
    ------
    DomainError
        It says to make a copy.
    """
    entries = project.diary.entries_of(old.id)
    same = replace(new, name=old.name, note=old.note, benchmark=old.benchmark, factors=old.factors)
    if entries and same != old:
        raise DomainError(
            f"design “{old.name}”",
            entries,
            "entries of the diary are of hives built so; duplicate it and change the copy",
        )


def refuse_removal(project: Project, design: Design) -> None:
    """Raise where a design is taken away that a hive of the diary was built from.

    Raises
    ------
    DomainError
        It names the hives.
    """
    stand = [h.name for h in project.diary.hives if h.design == design.id]
    if stand:
        raise DomainError(
            f"design “{design.name}”",
            ", ".join(stand[:3]),
            "was built from it and is in the diary; keep the design",
        )
