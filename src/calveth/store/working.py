"""Working copies: projects that have no name yet are files all the same."""

from __future__ import annotations

import contextlib
import os
import time
from pathlib import Path

from platformdirs import user_data_path

from calveth.core.project import Project
from calveth.store.project_file import ProjectFile


def working_folder() -> Path:
    """Return the folder of working copies, made if it can be."""
    folder = user_data_path("calveth") / "working"
    with contextlib.suppress(OSError):
        folder.mkdir(parents=True, exist_ok=True)
    return folder


def working_copy(project: Project) -> ProjectFile:
    """Return an open file in the user's data folder for a project without a name.

    Raises
    ------
    FileError
        When the folder cannot be written.
    """
    stamp = time.strftime("%Y%m%d-%H%M%S")
    return ProjectFile.create(working_folder() / f"{stamp}-{os.getpid()}.calveth", project)
