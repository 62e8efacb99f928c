"""Keeps solved shells in the user's cache folder, by content, so that none is solved twice.

A shell that cannot be read or written is solved: the folder may be deleted at any time, and a
program that cannot use it is only slower. What was longest not asked for goes first.
"""

from __future__ import annotations

import logging
from pathlib import Path
from typing import Any

import platformdirs

from calveth.core.kept import keep_with

log = logging.getLogger(__name__)

MOST_BYTES = 300_000_000
"""Some two hundred shells."""


class ShellCache:
    """The folder of solved shells."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._cache: Any = None

    def _open(self) -> Any:
        if self._cache is None:
            # Loaded when the first shell is asked for; not every command asks for one.
            from diskcache import Cache

            self._cache = Cache(
                str(self._folder), size_limit=MOST_BYTES, eviction_policy="least-recently-used",
                timeout=5,
            )  # fmt: skip
        return self._cache

    def get(self, key: str) -> object | None:
        """Return the shell of a key, None when there is none that can be read."""
        try:
            found: object | None = self._open().get(key)
        except Exception as error:  # whatever a damaged file makes a reader say
            log.warning("solved shell not read from %s: %s", self._folder, error)
            return None
        return found

    def put(self, key: str, answer: object) -> None:
        """Keep a shell."""
        try:
            self._open().set(key, answer)
        except Exception as error:  # a full disk, a folder that may not be written
            log.warning("solved shell not kept in %s: %s", self._folder, error)

    def close(self) -> None:
        """Let go of the folder."""
        if self._cache is not None:
            self._cache.close()
            self._cache = None


def keep_shells() -> None:
    """Keep what is solved in the user's cache folder from now on."""
    keep_with(ShellCache(platformdirs.user_cache_path("calveth") / "shells"))
