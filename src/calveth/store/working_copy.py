"""Working copies: projects that have no name yet are files all the same."""

from __future__ import annotations

import contextlib
import os
import secrets
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from platformdirs import user_data_path

from calveth.core.errors import CalvethError
from calveth.core.project import Project
from calveth.store.errors import FileError, why_not_written
from calveth.store.project_file import ProjectFile, load_project


def working_folder() -> Path:
    """Return the folder of working copies, made if it can be."""
    folder = user_data_path("calveth") / "working"
    with contextlib.suppress(OSError):
        # Places of apiaries and photographs are nobody else's to read.
        folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        folder.chmod(0o700)
    return folder


def working_copy(project: Project) -> ProjectFile:
    """Return an open file in the user's data folder for a project without a name.

    No two have one name, whatever the clock says.

    Raises
    ------
    FileError
        When the folder cannot be written.
    """
    name = f"{time.strftime('%Y%m%d-%H%M%S')}-{os.getpid()}-{secrets.token_hex(4)}.calveth"
    return ProjectFile.create(working_folder() / name, project)


@dataclass(frozen=True, slots=True, kw_only=True)
class UnnamedWork:
    """A working copy an earlier session left: what it holds and when it was last changed [s]."""

    path: Path
    project: Project
    changed_s: float


def unnamed_work(most: int = 12) -> list[UnnamedWork]:
    """Return what was worked on and never named, the newest first; copies in use are left out.

    What cannot be read is passed over: it stays in the folder.
    """
    copies = []
    with contextlib.suppress(OSError):
        for path, changed_s in _copies():
            if in_use(path):
                continue
            with contextlib.suppress(CalvethError):
                copies.append(
                    UnnamedWork(path=path, project=load_project(path), changed_s=changed_s)
                )
            if len(copies) == most:
                break
    return copies


def _copies() -> Iterator[tuple[Path, float]]:
    dated = [(p, p.stat().st_mtime) for p in working_folder().glob("*.calveth")]
    yield from sorted(dated, key=lambda pair: -pair[1])


def in_use(path: Path) -> bool:
    """Return whether the process that made a working copy is still running."""
    parts = path.stem.split("-")
    if len(parts) < 3 or not parts[2].isdigit():
        return False
    number = int(parts[2])
    if number == os.getpid():
        return True
    try:
        os.kill(number, 0)
        command = Path(f"/proc/{number}/cmdline").read_bytes()
    except OSError:
        return False
    return b"calveth" in command


def claim(path: Path) -> Path:
    """Give a working copy a name of this process, so that no other offers it; return the name.

    Raises
    ------
    FileError
        When it cannot be renamed.
    """
    stamp = "-".join(path.stem.split("-")[:2])
    mine = path.with_name(f"{stamp}-{os.getpid()}-{secrets.token_hex(4)}.calveth")
    try:
        path.rename(mine)
    except OSError as error:
        raise FileError(path, why_not_written(error)) from error
    return mine


def discard(path: Path) -> None:
    """Remove a working copy the user does not want any more.

    Raises
    ------
    FileError
        When it cannot be removed.
    """
    try:
        path.unlink(missing_ok=True)
    except OSError as error:
        raise FileError(path, why_not_written(error)) from error


def ago(seconds: float) -> str:
    """Return how long ago something was, in words."""
    for size, word in ((86_400.0, "day"), (3_600.0, "hour"), (60.0, "minute")):
        count = int(seconds // size)
        if count >= 1:
            return f"{count} {word}{'s' if count > 1 else ''} ago"
    return "a moment ago"
