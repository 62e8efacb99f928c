"""What the user likes, kept between sessions: units, dark or light, recent files."""

from __future__ import annotations

import contextlib
import json
import logging
from collections.abc import Callable
from dataclasses import asdict, dataclass, replace
from pathlib import Path

from platformdirs import user_data_path

from calveth.core.errors import CalvethError
from calveth.store.atomic_write import atomic_write
from calveth.store.gate import parse_json, read_text

log = logging.getLogger(__name__)

_MOST_RECENT = 8
_LARGEST_BYTES = 1_000_000


@dataclass(frozen=True, slots=True, kw_only=True)
class Preferences:
    """A value; `load` and `store` keep it in one small JSON file.

    ``geometry`` is what Qt says of the window's size and place, in hexadecimal.
    """

    inch: bool = False
    dark: bool = False
    recent: tuple[str, ...] = ()
    geometry: str = ""

    def with_recent(self, path: Path) -> Preferences:
        """Return the preferences with a file first among the recent ones."""
        name = str(path)
        rest = tuple(p for p in self.recent if p != name)
        return replace(self, recent=(name, *rest)[:_MOST_RECENT])


def _file() -> Path:
    return user_data_path("calveth") / "preferences.json"


def load() -> Preferences:
    """Return the stored preferences; the usual ones when there are none or they are spoilt."""
    try:
        document = parse_json(read_text(_file(), _LARGEST_BYTES, "these are no preferences"))
        recent = document.get("recent", ())
        geometry = document.get("geometry", "")
        return Preferences(
            inch=document.get("inch") is True,
            dark=document.get("dark") is True,
            recent=tuple(p for p in recent if isinstance(p, str))[:_MOST_RECENT],
            geometry=geometry if isinstance(geometry, str) else "",
        )
    except (CalvethError, ValueError, AttributeError, TypeError):
        return Preferences()


def store(preferences: Preferences) -> None:
    """Keep the preferences; a folder that cannot be written costs no more than the memory."""
    path = _file()
    with contextlib.suppress(OSError, CalvethError):
        path.parent.mkdir(parents=True, exist_ok=True)
        with atomic_write(path) as part:
            part.write_text(json.dumps(asdict(preferences), indent=1), encoding="utf-8")


class KeptPreferences:
    """The preferences of a window: those given are neither read nor kept, the user's own are."""

    def __init__(self, given: Preferences | None = None) -> None:
        self._keeps = given is None
        self.value = load() if given is None else given
        self._told: list[Callable[[Preferences], None]] = []

    def when_changed(self, tell: Callable[[Preferences], None]) -> None:
        """Have a function told of every change."""
        self._told.append(tell)

    def put(self, value: Preferences) -> None:
        """Take other preferences."""
        self.value = value
        if self._keeps:
            store(value)
        for tell in self._told:
            tell(value)

    def change(self, *, inch: bool | None = None, dark: bool | None = None) -> None:
        """Take other units or another look."""
        now = self.value
        self.put(
            replace(
                now,
                inch=now.inch if inch is None else inch,
                dark=now.dark if dark is None else dark,
            )
        )

    def remember(self, path: Path) -> None:
        """Put a file first among the recent ones."""
        self.put(self.value.with_recent(path))
