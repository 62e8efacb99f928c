"""Edits of the diary, and what they keep from being changed: designs that were built."""

from __future__ import annotations

from dataclasses import replace

from calveth.core.errors import DomainError
from calveth.core.hive.design import Design
from calveth.core.project import Project
from calveth.core.records.diary import Diary


def set_diary(project: Project, diary: Diary) -> Project:
    """Return the project with another diary."""
    return replace(project, diary=diary)


def refuse_change(project: Project, old: Design, new: Design) -> None:
    """Raise where a design changes that hives with entries in the diary were built from.

    What they are held against must not change; its name, its note and whether it is a benchmark
    may.

    Raises
    ------
    DomainError
        It says to make a copy.
    """
    entries = project.diary.entries_of(old.id)
    if entries and replace(new, name=old.name, note=old.note, benchmark=old.benchmark) != old:
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
            f"design “{design.name}”", ", ".join(stand[:3]),
            "was built from it and is in the diary; keep the design",
        )  # fmt: skip
