"""The project file: one SQLite database, every edit one transaction.

Layout and upgrade rule stand in docs/file-format.md. A killed process loses nothing that was
shown as done: SQLite rolls a half-written edit back when the file is opened again.
"""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from types import TracebackType
from typing import Any

from calveth.core.project import Project
from calveth.store.converter import DocumentError, from_document, to_document
from calveth.store.errors import FileError, check_readable

APPLICATION_ID = 0x43414C56  # "CALV"
FILE_VERSION = 3

_TABLES = """
CREATE TABLE document (name TEXT PRIMARY KEY, json TEXT NOT NULL) STRICT;
CREATE TABLE design (id TEXT PRIMARY KEY, position INTEGER NOT NULL, json TEXT NOT NULL) STRICT;
"""
_DAMAGED = "is damaged or cut short; open a copy you saved earlier"
_DOCUMENTS = (
    "name", "place", "colony", "materials", "school", "honey_price_eur_kg", "years_of_use",
)  # fmt: skip
_ELSEWHERE = "was changed in another window; your edit is only here: save it under another name"


class ProjectFile:
    """An open project file. Close it, or use it in a ``with`` statement."""

    def __init__(self, path: Path, connection: sqlite3.Connection) -> None:
        self.path = path
        self._connection = connection
        self._seen = self._data_version()

    def _data_version(self) -> int:
        """Return SQLite's count of changes other connections have made."""
        return int(self._connection.execute("PRAGMA data_version").fetchone()[0])

    @classmethod
    def create(cls, path: Path, project: Project) -> ProjectFile:
        """Write a new file with a project in it, replacing what stood there, and keep it open.

        The file is built beside the target and moved over it, so a full disk leaves the old one.

        Raises
        ------
        FileError
            When the folder cannot be written or the disk is full.
        """
        part = path.with_name(path.name + ".part")
        try:
            part.unlink(missing_ok=True)
            connection = sqlite3.connect(part, isolation_level=None)
            try:
                connection.execute(f"PRAGMA application_id = {APPLICATION_ID}")
                connection.execute(f"PRAGMA user_version = {FILE_VERSION}")
                connection.executescript(_TABLES)
                fresh = cls(path, connection)
                fresh.write(None, project)
            finally:
                connection.close()
            part.replace(path)
        except FileError:
            part.unlink(missing_ok=True)
            raise
        except (OSError, sqlite3.Error) as error:
            part.unlink(missing_ok=True)
            raise FileError(path, _why(error)) from error
        return cls.open(path)

    @classmethod
    def open(cls, path: Path) -> ProjectFile:
        """Open an existing file.

        Raises
        ------
        FileError
            When it is missing, a folder, not a project file, from a newer Calveth or locked.
        """
        check_readable(path)
        with path.open("rb") as stream:
            if stream.read(16) != b"SQLite format 3\x00":
                raise FileError(path, "is not a Calveth project; choose a .calveth file")
        try:
            connection = sqlite3.connect(path, isolation_level=None, timeout=2.0)
            application = connection.execute("PRAGMA application_id").fetchone()[0]
            version = connection.execute("PRAGMA user_version").fetchone()[0]
        except sqlite3.Error as error:
            raise FileError(path, _why(error)) from error
        if application != APPLICATION_ID:
            connection.close()
            raise FileError(path, "is a database of another program, not a Calveth project")
        if version > FILE_VERSION:
            connection.close()
            raise FileError(
                path,
                f"was written by a newer Calveth (file version {version}, this one reads "
                f"{FILE_VERSION}); update Calveth",
            )
        try:
            _upgrade(connection, version)
            return cls(path, connection)
        except sqlite3.Error as error:
            connection.close()
            raise FileError(path, _why(error)) from error

    def read(self) -> Project:
        """Return the project in the file.

        Raises
        ------
        FileError
            When the file is damaged or a field in it is out of range; the field is named.
        """
        try:
            if self._connection.execute("PRAGMA quick_check(1)").fetchone()[0] != "ok":
                raise FileError(self.path, _DAMAGED)
            rows = self._connection.execute("SELECT name, json FROM document").fetchall()
            designs = self._connection.execute(
                "SELECT json FROM design ORDER BY position"
            ).fetchall()
            whole: dict[str, Any] = {name: json.loads(text) for name, text in rows}
            whole["designs"] = [json.loads(text) for (text,) in designs]
            return from_document(whole, Project)
        except (sqlite3.Error, json.JSONDecodeError, TypeError) as error:
            raise FileError(self.path, _why(error)) from error
        except DocumentError as error:
            raise FileError(self.path, str(error)) from error

    def write(self, before: Project | None, after: Project) -> None:
        """Store what differs between two projects in one transaction.

        Raises
        ------
        FileError
            When nothing could be stored (the disk is full, another window has changed the file);
            the file keeps what it had.
        """
        try:
            with self._transaction() as connection:
                if self._data_version() != self._seen:
                    raise FileError(self.path, _ELSEWHERE)
                self._write_documents(connection, before, after)
                self._write_designs(connection, before, after)
        except (sqlite3.Error, OSError) as error:
            raise FileError(self.path, _why(error)) from error

    @staticmethod
    def _write_documents(
        connection: sqlite3.Connection, before: Project | None, after: Project
    ) -> None:
        for name in _DOCUMENTS:
            value = getattr(after, name)
            if before is None or getattr(before, name) != value:
                connection.execute(
                    "INSERT OR REPLACE INTO document VALUES (?, ?)", (name, _json(value))
                )

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
        except BaseException:
            connection.execute("ROLLBACK")
            raise
        connection.execute("COMMIT")

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


def _upgrade(connection: sqlite3.Connection, version: int) -> None:
    """Bring a file of an older version up to this one, a step a version, in one transaction."""
    if version == FILE_VERSION:
        return
    connection.execute("BEGIN IMMEDIATE")
    try:
        # 1 -> 2: fields with defaults came to materials, layers, openings, designs and place; the
        # documents stay as they are and are read with the defaults.
        # 2 -> 3: joinery, the shape of the lid and frames in use came with defaults, and new forms.
        connection.execute(f"PRAGMA user_version = {FILE_VERSION}")
    except BaseException:
        connection.execute("ROLLBACK")
        raise
    connection.execute("COMMIT")


def _json(value: object) -> str:
    return json.dumps(to_document(value), ensure_ascii=False, allow_nan=False)


def _why(error: Exception) -> str:
    text = str(error).lower()
    if "locked" in text:
        return "is open in another window; close it there and try again"
    if "full" in text or getattr(error, "errno", None) == 28:
        return "cannot be written, the disk is full; make room and save again"
    if "readonly" in text or isinstance(error, PermissionError) or "unable to open" in text:
        return "cannot be written there; choose a folder you may write to"
    if isinstance(error, FileNotFoundError):
        return "lies in a folder that does not exist; choose another"
    if isinstance(error, json.JSONDecodeError | sqlite3.DatabaseError | TypeError):
        return _DAMAGED
    return f"cannot be used ({error})"


def load_project(path: Path) -> Project:
    """Return the project in a file.

    Raises
    ------
    CalvethError
        As `ProjectFile.open` and `ProjectFile.read`.
    """
    with ProjectFile.open(path) as file:
        return file.read()
