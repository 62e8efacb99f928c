"""Keeps solved shells in the user's cache folder, by content, so that none is solved twice.

A shell that cannot be read or written is solved: the folder may be deleted at any time, and a
program that cannot use it is only slower. What was longest not asked for goes first. Files hold
figures alone (`answer_file`): nothing in them is run, and other users cannot read or write them.
"""

from __future__ import annotations

import contextlib
import logging
import os
import secrets
from pathlib import Path
from typing import TypeVar

import platformdirs

from calveth.core.kept import keep_with

log = logging.getLogger(__name__)

MOST_BYTES = 300_000_000
"""Some two hundred shells."""
_LEFT_AFTER_CLEARING = 0.8
_SUFFIX = ".answer"
T = TypeVar("T")


class ShellCache:
    """The folder of solved shells: a file for each, called by the key of what was asked."""

    def __init__(self, folder: Path, most_bytes: int = MOST_BYTES) -> None:
        self._folder = folder
        self._most_bytes = most_bytes
        self._bytes: int | None = None
        self._warned = False

    def get(self, key: str, kind: type[T]) -> T | None:
        """Return the shell of a key, None when there is none that can be read."""
        # Whoever finds nothing kept has no need of what reads it.
        path = self._path(key)
        if not path.is_file():
            self._say_if_no_folder()
            return None
        from calveth.store.answer_file import from_bytes

        try:
            answer = from_bytes(path.read_bytes(), kind)
            os.utime(path)
        except (OSError, ValueError) as error:
            self._warn("not read from", error)
            return None
        return answer

    def put(self, key: str, answer: object) -> None:
        """Keep a shell."""
        from calveth.store.answer_file import to_bytes

        part = self._path(key).with_suffix(f".{secrets.token_hex(6)}.part")
        try:
            self._folder.mkdir(mode=0o700, parents=True, exist_ok=True)
            content = to_bytes(answer)
            handle = os.open(part, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600)
            with os.fdopen(handle, "wb") as stream:
                stream.write(content)
            part.replace(self._path(key))
            self._make_room(len(content))
        except (OSError, ValueError, TypeError) as error:  # a full disk, a folder not ours
            self._warn("not kept in", error)
        finally:
            with contextlib.suppress(OSError):
                part.unlink(missing_ok=True)

    def close(self) -> None:
        """Let go of the folder: nothing is open."""

    def _path(self, key: str) -> Path:
        return self._folder / f"{key}{_SUFFIX}"

    def _say_if_no_folder(self) -> None:
        if self._folder.exists() and not self._folder.is_dir():
            self._warn("not read from", NotADirectoryError("no folder"))

    def _warn(self, what: str, error: Exception) -> None:
        """Say once that the folder does not serve; a shell each would be a page of it."""
        if not self._warned:
            self._warned = True
            log.warning("solved shells %s %s: %s", what, self._folder, error)

    def _make_room(self, more: int) -> None:
        """Remove what was longest not asked for when the folder has grown too large."""
        if self._bytes is not None and self._bytes + more <= self._most_bytes:
            self._bytes += more
            return
        files = []
        for path in self._folder.iterdir():
            with contextlib.suppress(OSError):
                known = path.stat()
                files.append((known.st_mtime_ns, known.st_size, path))
        self._bytes = sum(size for _, size, _ in files)
        if self._bytes <= self._most_bytes:
            return
        for _, size, path in sorted(files, key=lambda f: f[0]):
            with contextlib.suppress(OSError):
                path.unlink(missing_ok=True)
                self._bytes -= size
            if self._bytes <= _LEFT_AFTER_CLEARING * self._most_bytes:
                return


def keep_shells() -> None:
    """Keep what is solved in the user's cache folder from now on."""
    keep_with(ShellCache(platformdirs.user_cache_path("calveth") / "shells"))
