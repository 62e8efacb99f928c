"""Files that are whole or not there: written beside their place, then moved to it."""

from __future__ import annotations

import contextlib
import os
import secrets
import stat
import time
from collections.abc import Iterator
from pathlib import Path

from calveth.store.errors import FileError, why_not_written

_PART = ".calveth-part"
# What a killed process left is cleared away when it is this old [s].
_LEFT_BEHIND_S = 3600.0


@contextlib.contextmanager
def atomic_write(path: Path) -> Iterator[Path]:
    """Give the name to write to; what is written there replaces ``path`` when it is whole.

    The name is one nobody else has and keeps the ending of ``path``; an empty file stands there
    from the start, which tells at once whether the folder may be written. A link stays a link: the
    file it leads to is replaced. The new file may be read by those who could read the old one.
    What was written is on the disk before the name leads to it.

    Raises
    ------
    FileError
        When anything in the block raises `OSError`, nothing was written, or ``path`` is no
        ordinary file; an old file stays.
    """
    target, part = Path(path), None
    try:
        target = writable_target(path)
        part = reserve_part(target)
        yield part
        if part.stat().st_size == 0:
            raise OSError(28, "no room or no right to write")
        move_into_place(part, target)
    except (OSError, ValueError) as error:
        if isinstance(error, OSError) or part is None:
            raise FileError(path, why_not_written(error)) from error
        raise
    finally:
        if part is not None:
            with contextlib.suppress(OSError):
                part.unlink(missing_ok=True)


def try_to_write(path: Path) -> None:
    """Find out whether a file can be written at ``path``; nothing is left behind.

    Raises
    ------
    FileError
        When it cannot.
    """
    try:
        part = reserve_part(writable_target(path))
        part.unlink(missing_ok=True)
    except (OSError, ValueError) as error:
        raise FileError(path, why_not_written(error)) from error


def writable_target(path: Path) -> Path:
    """Return the ordinary file that writing to ``path`` replaces or makes: a link's end.

    Raises
    ------
    FileError
        When it is a folder, a pipe or a device.
    OSError, ValueError
        When the path cannot be looked at.
    """
    target = Path(os.path.realpath(path))
    try:
        mode = target.stat().st_mode
    except FileNotFoundError:
        if not target.name:
            raise FileError(path, "is no name; type the name of a file") from None
        return target
    if stat.S_ISDIR(mode):
        raise FileError(path, "is a folder; type the name of a file in it")
    if not stat.S_ISREG(mode):
        raise FileError(path, "is a pipe or a device, not a file; type the name of a file")
    return target


def reserve_part(target: Path) -> Path:
    """Return a new empty file beside ``target`` with a name of its own.

    Raises
    ------
    OSError
        When the folder cannot be written.
    """
    _clear_left_behind(target)
    stem = target.stem[:80]
    part = target.with_name(f".{stem}.{secrets.token_hex(6)}{_PART}{target.suffix[:20]}")
    os.close(os.open(part, os.O_CREAT | os.O_EXCL | os.O_WRONLY, _mode_of(target)))
    with contextlib.suppress(FileNotFoundError):
        part.chmod(stat.S_IMODE(target.stat().st_mode))
    return part


def move_into_place(part: Path, target: Path) -> None:
    """Move a file that is whole over ``target``, on the disk for good."""
    with part.open("rb") as stream:
        os.fsync(stream.fileno())
    part.replace(target)
    fsync_folder(target.parent)


def fsync_folder(folder: Path) -> None:
    """Have the names in a folder written to the disk; where that cannot be asked for, go on."""
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def _mode_of(target: Path) -> int:
    try:
        return stat.S_IMODE(target.stat().st_mode)
    except OSError:
        return 0o666  # less what the user's mask takes off


def _clear_left_behind(target: Path) -> None:
    """Remove parts of this file that a killed process left long ago."""
    with contextlib.suppress(OSError):
        stem = f".{target.stem[:80]}."
        for entry in os.scandir(target.parent):
            mine = entry.name.startswith(stem) and _PART in entry.name
            if mine and time.time() - entry.stat().st_mtime > _LEFT_BEHIND_S:
                Path(entry.path).unlink(missing_ok=True)
