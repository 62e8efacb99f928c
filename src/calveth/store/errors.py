"""What goes wrong with files, in one sentence that names the file and the remedy."""

from __future__ import annotations

import errno
from pathlib import Path

from calveth.core.errors import CalvethError, plain


class FileError(CalvethError):
    """A file that cannot be read or written."""

    def __init__(self, path: Path | str, reason: str) -> None:
        self.path = Path(path)
        self.reason = reason
        super().__init__(f"{plain(self.path.name or str(self.path), 80)}: {reason}")


class FileBusyError(FileError):
    """A file another program holds for a moment; trying again may do."""


class FileChangedError(FileError):
    """A file somebody else has written since it was read; reading it again may do."""


class DocumentError(CalvethError, ValueError):
    """A document that cannot be read, with the path to the first wrong field."""


_FULL = "cannot be written, the disk is full; make room and save again"
_RIGHT = "cannot be written there; choose a folder you may write to"
_LONG = "has too long a name; shorten it"
_NO_NAME = "is not a name a file can have; type another"
_READ = {
    errno.ENOENT: "does not exist; check the name and the folder",
    errno.ENOTDIR: "lies in something that is no folder; check the name",
    errno.EACCES: "may not be read; ask for permission or copy it",
    errno.EPERM: "may not be read; ask for permission or copy it",
    errno.ENAMETOOLONG: _LONG,
}
_WRITTEN = {
    errno.ENOSPC: _FULL,
    errno.EDQUOT: _FULL,
    errno.EFBIG: "cannot be written, it would be larger than a file may be here; make room",
    errno.ENOENT: "lies in a folder that does not exist; choose another",
    errno.ENOTDIR: "lies in something that is no folder; choose another",
    errno.EACCES: _RIGHT,
    errno.EPERM: _RIGHT,
    errno.EROFS: _RIGHT,
    errno.ENAMETOOLONG: _LONG,
}


def why_not_read(error: OSError | ValueError) -> str:
    """Return why a path could not be looked at or read, and the remedy."""
    if not isinstance(error, OSError):
        return _NO_NAME
    return _READ.get(error.errno or 0, f"cannot be read ({error.strerror})")


def why_not_written(error: OSError | ValueError) -> str:
    """Return why a file could not be written, and the remedy."""
    if not isinstance(error, OSError):
        return _NO_NAME
    otherwise = f"cannot be written ({error.strerror}); choose another folder or make room"
    return _WRITTEN.get(error.errno or 0, otherwise)
