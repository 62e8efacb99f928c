"""Files that are whole or not there: written beside their place, then moved to it."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator
from pathlib import Path

from calveth.store.errors import FileError


@contextlib.contextmanager
def in_one_move(path: Path) -> Iterator[Path]:
    """Give the name to write to; what is written there replaces ``path`` when it is whole.

    The name keeps the ending of ``path``, and an empty file stands there from the start, which
    tells at once whether the folder may be written.

    Raises
    ------
    FileError
        When anything in the block raises `OSError` or nothing was written; an old file stays.
    """
    part = path.with_name(f"{path.stem}.part{path.suffix}")
    try:
        part.write_bytes(b"")
        yield part
        if part.stat().st_size == 0:
            raise OSError(28, "no room or no right to write")
        part.replace(path)
    except OSError as error:
        raise FileError(
            path, f"cannot be written ({error.strerror}); choose another folder or make room"
        ) from error
    finally:
        with contextlib.suppress(OSError):
            part.unlink(missing_ok=True)
