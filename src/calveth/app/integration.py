"""Tells the desktop of Calveth: menu entry, icon, and the kind of its files, known by content.

Everything goes under one folder of data (the user's own, or that of a package being built), and
can be taken away again to the last file.
"""

from __future__ import annotations

import contextlib
import shutil
import subprocess
from importlib.resources import files
from pathlib import Path

from calveth import __version__
from calveth.core.errors import CalvethError
from calveth.store.atomic_write import atomic_write

RELEASED = "2026-12-01"
"""Day of the version this is."""


class IntegrationError(CalvethError):
    """The desktop could not be told; says what to do."""


def desktop_files(command: str) -> dict[str, str]:
    """Return what is written, by its path under the folder of data.

    ``command`` is what opens a project: a path, or a name that is found.
    """
    own = files("calveth.app") / "desktop"
    icon = files("calveth.app.theme") / "icons" / "calveth.svg"
    entry = (own / "calveth.desktop").read_text(encoding="utf-8")
    info = (own / "calveth.metainfo.xml").read_text(encoding="utf-8")
    return {
        "applications/calveth.desktop": entry.replace("@EXEC@", _quoted(command)).replace(
            "@TRY@", command
        ),
        "icons/hicolor/scalable/apps/calveth.svg": icon.read_text(encoding="utf-8"),
        "mime/packages/calveth.xml": (own / "calveth.xml").read_text(encoding="utf-8"),
        "metainfo/calveth.metainfo.xml": info.replace("@VERSION@", __version__).replace(
            "@DATE@", RELEASED
        ),
    }


def _quoted(command: str) -> str:
    """Return a command as the entry wants it (Desktop Entry Specification 1.5, Exec)."""
    if all(c.isalnum() or c in "/._-+" for c in command):
        return command
    inner = command.replace("\\", "\\\\\\\\").replace('"', '\\\\"')
    inner = inner.replace("`", "\\\\`").replace("$", "\\\\$").replace("%", "%%")
    return f'"{inner}"'


def integrate(data: Path, command: str) -> list[Path]:
    """Write the files under a folder of data and return them.

    Raises
    ------
    IntegrationError
        When the folder cannot be written.
    """
    made = []
    for name, text in desktop_files(command).items():
        path = data / name
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            with atomic_write(path) as part:
                part.write_text(text, encoding="utf-8")
        except (OSError, CalvethError) as error:
            raise IntegrationError(f"{path} cannot be written: {error}") from error
        made.append(path)
    _refresh(data)
    return made


def remove(data: Path) -> list[Path]:
    """Take the files away again and return those that were there.

    Raises
    ------
    IntegrationError
        When one cannot be taken away.
    """
    gone = []
    for name in desktop_files("calveth"):
        path = data / name
        try:
            path.unlink()
        except FileNotFoundError:
            continue
        except OSError as error:
            raise IntegrationError(f"{path} cannot be removed: {error}") from error
        gone.append(path)
        with contextlib.suppress(OSError):  # others have files there too
            path.parent.rmdir()
    _refresh(data)
    return gone


def _refresh(data: Path) -> None:
    """Have the desktop read its folders anew, where it has what does so."""
    for program, folder in (
        ("update-mime-database", data / "mime"),
        ("update-desktop-database", data / "applications"),
    ):
        if shutil.which(program) and folder.is_dir():
            subprocess.run([program, str(folder)], capture_output=True, check=False, timeout=60)
