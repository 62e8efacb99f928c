"""The project file: one SQLite database, every edit one transaction.

Layout and upgrade rule stand in docs/file-format.md. A killed process loses nothing that was
shown as done: SQLite rolls a half-written edit back when the file is opened again.
"""

from __future__ import annotations

import contextlib
import errno
import json
import sqlite3
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import fields
from pathlib import Path
from types import TracebackType
from typing import Any

from calveth.core.project import Project
from calveth.store.atomic_write import fsync_folder, move_into_place, reserve_part, writable_target
from calveth.store.converter import from_document, to_document
from calveth.store.errors import (
    DocumentError,
    FileBusyError,
    FileChangedError,
    FileError,
    why_not_written,
)
from calveth.store.file_tables import (
    APPLICATION_ID,
    DAMAGED,
    FILE_VERSION,
    change_tables,
    check_kind,
    diary_json,
    place_json,
    put_hours,
    put_kept,
    tables_of,
    version_of,
    write_hours,
    write_kept,
)
from calveth.store.gate import check_readable, exists, parse_json
from calveth.store.upgrades import upgraded

# Every field of a project but its designs, which have rows of their own: none can be forgotten.
_DOCUMENTS = tuple(f.name for f in fields(Project) if f.name != "designs")
# What names bytes that are kept in tables of their own.
_OWN_JSON: dict[str, Callable[[Any], str]] = {"place": place_json, "diary": diary_json}
_ELSEWHERE = "was changed in another window; your edit is only here: save it under another name"
_GONE = "was moved, deleted or replaced by another program; save under another name"
_HALF = "was left half-written by a crash; copy it with its journal to a folder of yours"
# Another program that holds the file is waited for so long; the window tries again later [s].
_PATIENCE_S = 0.05
_PATIENT_S = 2.0
# Text of one row, and of all of them [bytes].
_LARGEST_ROW = 20_000_000
_LARGEST_FILE = 200_000_000


class ProjectFile:
    """An open project file. Close it, or use it in a ``with`` statement."""

    def __init__(self, path: Path, connection: sqlite3.Connection) -> None:
        self.path = path
        self._connection = connection
        self._seen = self._dataversion_of()
        self._identity = _identity(path)

    def _dataversion_of(self) -> int:
        """Return SQLite's count of changes other connections have made."""
        return int(self._connection.execute("PRAGMA data_version").fetchone()[0])

    @classmethod
    def create(cls, path: Path, project: Project) -> ProjectFile:
        """Write a new file with a project in it, replacing what stood there, and keep it open.

        The file is built beside the target and moved over it, so a full disk leaves the old one.
        What a crash left half-written in the old one is settled first, else SQLite would play the
        old journal into the new file.

        Raises
        ------
        FileError
            When the folder cannot be written, the disk is full or ``path`` is no ordinary file.
        """
        part = None
        try:
            target = writable_target(path)
            part = reserve_part(target)
            connection = sqlite3.connect(part, isolation_level=None)
            try:
                connection.execute(f"PRAGMA application_id = {APPLICATION_ID}")
                connection.execute(f"PRAGMA user_version = {FILE_VERSION}")
                for table in tables_of(FILE_VERSION).values():
                    connection.execute(table)
                fresh = cls(part, connection)
                fresh._store(None, project)
            finally:
                connection.close()
            _settle_journals(target)
            move_into_place(part, target)
        except (OSError, ValueError, sqlite3.Error) as error:
            if isinstance(error, DocumentError):
                raise
            raise _refused(path, error) from error
        finally:
            _clear(part)
        return cls.open(path)

    @classmethod
    def open(cls, path: Path) -> ProjectFile:
        """Open an existing file; nothing is written by it.

        Raises
        ------
        FileError
            When it is missing, a folder, not a project file, from a newer Calveth or locked.
        """
        check_readable(path)
        connection: sqlite3.Connection | None = None
        try:
            with path.open("rb") as stream:
                if stream.read(16) != b"SQLite format 3\x00":
                    raise FileError(path, "is not a Calveth project; choose a .calveth file")
            if path.stat().st_size > _LARGEST_FILE:
                raise FileError(path, "is larger than 200 MB; this is not a project")
            connection = sqlite3.connect(path, isolation_level=None, timeout=_PATIENT_S)
            connection.setlimit(sqlite3.SQLITE_LIMIT_LENGTH, _LARGEST_ROW)
            connection.execute("PRAGMA trusted_schema = OFF")
            connection.execute("PRAGMA cell_size_check = ON")
            check_kind(path, connection)
            return cls(path, connection)
        except (OSError, ValueError, sqlite3.Error) as error:
            _close(connection)
            raise _refused(path, error) from error
        except FileError:
            _close(connection)
            raise

    def read(self) -> Project:
        """Return the project in the file.

        Raises
        ------
        FileError
            When the file is damaged or a field in it is out of range; the field is named.
        """
        try:
            if self._connection.execute("PRAGMA quick_check(1)").fetchone()[0] != "ok":
                raise FileError(self.path, DAMAGED)
            rows = self._connection.execute("SELECT name, json FROM document").fetchall()
            designs = self._connection.execute(
                "SELECT id, json FROM design ORDER BY position, id"
            ).fetchall()
            document: dict[str, Any] = {name: parse_json(text) for name, text in rows}
            document["designs"] = [self._design(row, text) for row, text in designs]
            version = version_of(self._connection)
            put_hours(self._connection, document.get("place"), version)
            put_kept(self._connection, document.get("diary"), version)
            return from_document(upgraded(document, version), Project)
        except DocumentError as error:
            raise FileError(self.path, str(error)) from error
        except (sqlite3.Error, ValueError, TypeError, RecursionError) as error:
            raise _refused(self.path, error) from error

    @staticmethod
    def _design(row: str, text: str) -> Any:
        """Return a design's document; its row must go by its own id, or edits would miss it."""
        document = parse_json(text)
        if not isinstance(document, dict) or document.get("id") != row:
            raise DocumentError(f"designs: the row {row} holds a design of another id")
        return document

    def write(self, before: Project | None, after: Project, *, patient: bool = False) -> None:
        """Store what differs between two projects in one transaction.

        ``patient`` waits two seconds for another program to let go of the file.

        Raises
        ------
        FileBusyError
            When another program holds the file at this moment.
        FileError
            When nothing could be stored (the disk is full, another window has changed the file);
            the file keeps what it had.
        """
        if not self.is_ours():
            raise FileError(self.path, _GONE)
        wait = _PATIENT_S if patient else _PATIENCE_S
        try:
            self._connection.execute(f"PRAGMA busy_timeout = {int(1000 * wait)}")
            self._store(before, after)
        except (sqlite3.Error, OSError) as error:
            raise _refused(self.path, error) from error

    def _store(self, before: Project | None, after: Project) -> None:
        with self._transaction() as connection:
            if self._dataversion_of() != self._seen:
                raise FileChangedError(self.path, _ELSEWHERE)
            version = version_of(connection)
            if version != FILE_VERSION:
                # The first edit of an older file writes all of it as this version has it.
                before = None
                change_tables(connection, version)
            if before is None:
                connection.execute("DELETE FROM document")
                connection.execute("DELETE FROM design")
                connection.execute(f"PRAGMA user_version = {FILE_VERSION}")
            self._write_documents(connection, before, after)
            self._write_designs(connection, before, after)

    @staticmethod
    def _write_documents(
        connection: sqlite3.Connection, before: Project | None, after: Project
    ) -> None:
        for name in _DOCUMENTS:
            value = getattr(after, name)
            if before is None or getattr(before, name) != value:
                write = _OWN_JSON.get(name, _json)
                row = (name, write(value))
                connection.execute("INSERT OR REPLACE INTO document VALUES (?, ?)", row)
                if name == "place":
                    write_hours(connection, value.hours)
                if name == "diary":
                    write_kept(connection, value)

    @staticmethod
    def _write_designs(
        connection: sqlite3.Connection, before: Project | None, after: Project
    ) -> None:
        old = {d.id: (k, d) for k, d in enumerate(before.designs)} if before else {}
        for gone in set(old) - {d.id for d in after.designs}:
            connection.execute("DELETE FROM design WHERE id = ?", (gone,))
        for position, design in enumerate(after.designs):
            if old.get(design.id) != (position, design):
                connection.execute(
                    "INSERT OR REPLACE INTO design VALUES (?, ?, ?)",
                    (design.id, position, _json(design)),
                )

    @contextmanager
    def _transaction(self) -> Iterator[sqlite3.Connection]:
        connection = self._connection
        connection.execute("BEGIN IMMEDIATE")
        try:
            yield connection
            # A reader can hold this off: then all of it is undone, and none of it half done.
            connection.execute("COMMIT")
        except BaseException:
            with contextlib.suppress(sqlite3.Error):
                connection.execute("ROLLBACK")
            raise

    def is_ours(self) -> bool:
        """Return whether the path still leads to the file that was opened."""
        return self._identity is not None and _identity(self.path) == self._identity

    def is_missing(self) -> bool:
        """Return whether nothing stands at the path any more."""
        return _identity(self.path) is None

    def close(self) -> None:
        """Close the file; nothing is pending."""
        self._connection.close()

    def __enter__(self) -> ProjectFile:
        return self

    def __exit__(
        self,
        kind: type[BaseException] | None,
        error: BaseException | None,
        trace: TracebackType | None,
    ) -> None:
        self.close()


def same_file(one: Path, two: Path) -> bool:
    """Return whether two paths lead to one file, however they are spelled."""
    here = _identity(one)
    return here is not None and here == _identity(two)


def _identity(path: Path) -> tuple[int, int] | None:
    try:
        status = path.stat()
    except (OSError, ValueError):
        return None
    return status.st_dev, status.st_ino


def _settle_journals(target: Path) -> None:
    """Have SQLite undo what a crash left half-written beside a name, and take the journals away."""
    journals = [target.with_name(target.name + end) for end in ("-journal", "-wal", "-shm")]
    if not any(exists(j) for j in journals):
        return
    if exists(target):
        with (
            contextlib.suppress(sqlite3.Error),
            contextlib.closing(sqlite3.connect(target, timeout=_PATIENT_S)) as old,
        ):
            old.execute("SELECT count(*) FROM sqlite_schema").fetchone()
    for journal in journals:
        journal.unlink(missing_ok=True)
    fsync_folder(target.parent)


def _clear(part: Path | None) -> None:
    if part is None:
        return
    for end in ("", "-journal", "-wal", "-shm"):
        with contextlib.suppress(OSError):
            part.with_name(part.name + end).unlink(missing_ok=True)


def _close(connection: sqlite3.Connection | None) -> None:
    if connection is not None:
        connection.close()


def _json(value: object) -> str:
    return json.dumps(to_document(value), ensure_ascii=False, allow_nan=False)


def _refused(path: Path, error: Exception) -> FileError:
    """Return the error to show for one of SQLite, of the system or of a document."""
    if isinstance(error, FileError):
        return error
    if isinstance(error, OSError):
        return FileError(path, why_not_written(error))
    name = getattr(error, "sqlite_errorname", "")
    if name.startswith(("SQLITE_BUSY", "SQLITE_LOCKED")):
        return FileBusyError(path, "is being used by another program; it is tried again")
    return FileError(path, _sqlite_sentence(name, error))


# Beginnings of SQLite's names of errors, the longer ones first, and what is said of them.
_SQLITE = (
    ("SQLITE_FULL", why_not_written(OSError(errno.ENOSPC, ""))),
    ("SQLITE_READONLY_DBMOVED", _GONE),
    ("SQLITE_READONLY_ROLLBACK", _HALF),
    ("SQLITE_READONLY_RECOVERY", _HALF),
    ("SQLITE_READONLY", why_not_written(OSError(errno.EACCES, ""))),
    ("SQLITE_CANTOPEN", why_not_written(OSError(errno.EACCES, ""))),
    ("SQLITE_IOERR", "the disk gave an error, nothing was written; make room or save elsewhere"),
)


def _sqlite_sentence(name: str, error: Exception) -> str:
    if not name and "disk is full" in str(error):
        name = "SQLITE_FULL"
    return next((sentence for start, sentence in _SQLITE if name.startswith(start)), DAMAGED)


def load_project(path: Path) -> Project:
    """Return the project in a file.

    Raises
    ------
    CalvethError
        As `ProjectFile.open` and `ProjectFile.read`.
    """
    with ProjectFile.open(path) as file:
        return file.read()
