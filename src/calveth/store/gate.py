"""The one gate all readers of files go through: what may come in, and how much of it."""

from __future__ import annotations

import json
import os
import stat
from pathlib import Path
from typing import Any

from calveth.core.errors import plain
from calveth.store.errors import DocumentError, FileError, why_not_read

# Digits of a whole number in a document: more is no quantity, and Python would refuse 4 300.
_MOST_DIGITS = 300


def exists(path: Path) -> bool:
    """Return whether anything stands at a path.

    Raises
    ------
    FileError
        When the path cannot be looked at: no right to its folder, a name too long.
    """
    try:
        os.lstat(path)
    except (FileNotFoundError, NotADirectoryError):
        return False
    except (OSError, ValueError) as error:
        raise FileError(path, why_not_read(error)) from None
    return True


def check_readable(path: Path) -> None:
    """Raise `FileError` unless ``path`` is an ordinary file that may be read.

    Pipes and devices are refused before they are opened: they may wait for ever or never end.
    """
    try:
        status = path.stat()
        if stat.S_ISDIR(status.st_mode):
            raise FileError(path, "is a folder; choose a file in it")
        if not stat.S_ISREG(status.st_mode):
            raise FileError(path, "is a pipe or a device, not a file; choose a file")
        with path.open("rb") as stream:
            stream.read(1)
    except (OSError, ValueError) as error:
        raise FileError(path, why_not_read(error)) from None


def read_bytes(path: Path, most: int, what: str) -> bytes:
    """Return what an ordinary file holds; more than ``most`` bytes are refused.

    ``what`` ends the sentence, such as ``this is not a project``.

    Raises
    ------
    FileError
        When it cannot be read or is too large.
    """
    check_readable(path)
    try:
        with path.open("rb") as stream:
            # A link to a device says it has no bytes: only what comes out counts.
            data = stream.read(most + 1)
    except OSError as error:
        raise FileError(path, why_not_read(error)) from None
    if len(data) > most:
        raise FileError(path, f"is larger than {most // 1_000_000} MB; {what}")
    return data


def read_text(path: Path, most: int, what: str) -> str:
    """Return the UTF-8 text of a file, with or without a byte order mark.

    Raises
    ------
    FileError
        As `read_bytes`, and when it is no UTF-8.
    """
    try:
        return read_bytes(path, most, what).decode("utf-8-sig")
    except UnicodeDecodeError:
        raise FileError(path, "is not UTF-8 text; save it as UTF-8") from None


def parse_json(text: str) -> Any:
    """Return what a JSON text says.

    NaN passes here: the field it stands in is named later.

    Raises
    ------
    DocumentError
        For JSON that is cut short, nested too deeply, says a key twice or holds a number of more
        digits than a quantity has.
    """
    try:
        return json.loads(text, object_pairs_hook=_once, parse_int=_whole)
    except json.JSONDecodeError as error:
        raise DocumentError(
            f"line {error.lineno}, column {error.colno}: {error.msg}; this is not whole JSON"
        ) from None
    except RecursionError:
        raise DocumentError("the document is nested too deeply to be a project") from None


def _once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    pairs_seen = dict(pairs)
    if len(pairs_seen) < len(pairs):
        keys = [key for key, _ in pairs]
        twice = next(key for key in keys if keys.count(key) > 1)
        raise DocumentError(f"the field {plain(twice, 60)} stands twice; remove one")
    return pairs_seen


def _whole(digits: str) -> int:
    if len(digits) > _MOST_DIGITS:
        raise DocumentError(f"a number has {len(digits)} digits; write a usual one")
    return int(digits)
