"""What the user likes, kept between sessions: units, dark or light, recent files."""

from __future__ import annotations

import contextlib
import json
import logging
from dataclasses import asdict, dataclass, replace
from pathlib import Path

from platformdirs import user_data_path

log = logging.getLogger(__name__)

_MOST_RECENT = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class Preferences:
    """A value; `load` and `store` keep it in one small JSON file."""

    inch: bool = False
    dark: bool = False
    recent: tuple[str, ...] = ()

    def with_recent(self, path: Path) -> Preferences:
        """Return the preferences with a file first among the recent ones."""
        name = str(path)
        rest = tuple(p for p in self.recent if p != name)
        return replace(self, recent=(name, *rest)[:_MOST_RECENT])


def changed(preferences: Preferences, **fields: bool) -> Preferences:
    """Return the preferences with units or look changed."""
    return replace(preferences, **fields)  # type: ignore[arg-type]


def _file() -> Path:
    return user_data_path("calveth") / "preferences.json"


def load() -> Preferences:
    """Return the stored preferences; the usual ones when there are none or they are spoilt."""
    try:
        document = json.loads(_file().read_text(encoding="utf-8"))
        recent = document.get("recent", ())
        return Preferences(
            inch=document.get("inch") is True,
            dark=document.get("dark") is True,
            recent=tuple(p for p in recent if isinstance(p, str))[:_MOST_RECENT],
        )
    except (OSError, ValueError, AttributeError, TypeError):
        return Preferences()


def store(preferences: Preferences) -> None:
    """Keep the preferences; a folder that cannot be written costs no more than the memory."""
    path = _file()
    part = path.with_name(path.name + ".part")
    with contextlib.suppress(OSError):
        path.parent.mkdir(parents=True, exist_ok=True)
        part.write_text(json.dumps(asdict(preferences), indent=1), encoding="utf-8")
        part.replace(path)
