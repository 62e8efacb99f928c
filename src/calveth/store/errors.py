"""What goes wrong with files, in one sentence that names the file and the remedy."""

from __future__ import annotations

from pathlib import Path

from calveth.core.errors import CalvethError


class FileError(CalvethError):
    """A file that cannot be read or written."""

    def __init__(self, path: Path | str, reason: str) -> None:
        self.path = Path(path)
        self.reason = reason
        super().__init__(f"{self.path.name or self.path}: {reason}")


def check_readable(path: Path) -> None:
    """Raise `FileError` unless ``path`` is an ordinary file that may be read."""
    if not path.exists():
        raise FileError(path, "does not exist; check the name and the folder")
    if path.is_dir():
        raise FileError(path, "is a folder; choose a file in it")
    try:
        with path.open("rb") as stream:
            stream.read(1)
    except PermissionError:
        raise FileError(path, "may not be read; ask for permission or copy it") from None
    except OSError as error:
        raise FileError(path, f"cannot be read ({error.strerror})") from None
