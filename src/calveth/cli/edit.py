"""Edits of a project file by a command, which never undo what a window wrote meanwhile."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from calveth.core.errors import DomainError
from calveth.core.project import Project
from calveth.store.errors import FileChangedError
from calveth.store.project_file import ProjectFile

_TRIES = 5


def refuse_json(path: Path) -> None:
    """Raise for a project that is kept as JSON: it is made anew, not edited."""
    if path.suffix.lower() == ".json":
        raise DomainError("file", path.name, "is JSON; make a project of it with calveth import")


def edit_project(path: Path, change: Callable[[Project], Project]) -> Project:
    """Apply an edit to the project as its file holds it now; return it as it was written.

    What a window or another command wrote meanwhile stays: the edit is made on that.

    Raises
    ------
    FileError
        When the file cannot be written, or others never stop writing it.
    """
    refuse_json(path)
    for tried in range(1, _TRIES + 1):
        with ProjectFile.open(path) as file:
            before = file.read()
            after = change(before)
            try:
                file.write(before, after, patient=True)
            except FileChangedError:
                if tried == _TRIES:
                    raise
                continue
            return after
    raise AssertionError("the last try returns or raises")
