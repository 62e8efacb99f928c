"""What is inside a project file: its tables by version, the hours of its place, and the check."""

from __future__ import annotations

import json
import sqlite3
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from calveth.core.calendar import HOURS_IN_YEAR
from calveth.core.climate.hours import HourlyWeather
from calveth.core.climate.place import Place
from calveth.core.records.blob import Blob
from calveth.core.records.diary import Diary
from calveth.store.converter import to_document, to_row
from calveth.store.errors import DocumentError, FileError
from calveth.store.upgrades import VERSION

APPLICATION_ID = 0x43414C56  # "CALV"
FILE_VERSION = VERSION

_TABLES = {
    "document": "CREATE TABLE document (name TEXT PRIMARY KEY, json TEXT NOT NULL) STRICT",
    "design": "CREATE TABLE design (id TEXT PRIMARY KEY, position INTEGER NOT NULL, "
    "json TEXT NOT NULL) STRICT",
}
# Tables that came with a version; a file of an older one is given them by its first edit.
_NEWER_TABLES = {
    4: {
        # Little-endian single numbers, 8760 of them; the place names the digest.
        "weather": "CREATE TABLE weather (digest TEXT NOT NULL, name TEXT NOT NULL, "
        "hours BLOB NOT NULL, PRIMARY KEY (digest, name)) STRICT",
        "sample": "CREATE TABLE sample (channel TEXT NOT NULL, time INTEGER NOT NULL, "
        "value REAL NOT NULL, PRIMARY KEY (channel, time)) STRICT",
    },
    8: {
        # Samples and photographs, each written once; the diary names them by digest.
        "kept": "CREATE TABLE kept (digest TEXT PRIMARY KEY, data BLOB NOT NULL) STRICT",
    },
}
# Tables a version gave up: nothing was ever written to them.
_GONE_TABLES = {8: ("sample",)}
_FOREIGN = "holds tables that are not Calveth's; open a copy you trust"
DAMAGED = "is damaged or cut short; open a copy you saved earlier"


def check_kind(path: Path, connection: sqlite3.Connection) -> None:
    """Refuse what is no project file of this version or an older one: exactly its tables.

    Raises
    ------
    FileError
        It says what the file is instead.
    """
    application = connection.execute("PRAGMA application_id").fetchone()[0]
    version = connection.execute("PRAGMA user_version").fetchone()[0]
    if application != APPLICATION_ID:
        raise FileError(path, "is a database of another program, not a Calveth project")
    if version > FILE_VERSION:
        raise FileError(
            path,
            f"was written by a newer Calveth (file version {version}, this one reads "
            f"{FILE_VERSION}); update Calveth",
        )
    if version < 1:
        raise FileError(path, DAMAGED)
    tables = connection.execute(
        "SELECT type, name, sql FROM sqlite_schema WHERE name NOT LIKE 'sqlite_autoindex_%'"
    ).fetchall()
    has = {name: " ".join(str(sql).split()) for kind, name, sql in tables if kind == "table"}
    tables_asked = tables_of(version)
    if len(tables) != len(tables_asked) or has != tables_asked:
        raise FileError(path, _FOREIGN)


def tables_of(version: int) -> dict[str, str]:
    """Return the tables a file of a version has, and how they are made."""
    named = dict(_TABLES)
    for since, tables in _NEWER_TABLES.items():
        if version >= since:
            named |= tables
    for since, names in _GONE_TABLES.items():
        if version >= since:
            named = {name: made for name, made in named.items() if name not in names}
    return named


def change_tables(connection: sqlite3.Connection, version: int) -> None:
    """Give a file of an older version the tables of this one."""
    old, new = tables_of(version), tables_of(FILE_VERSION)
    for name in set(new) - set(old):
        connection.execute(new[name])
    for name in set(old) - set(new):
        connection.execute(f"DROP TABLE {name}")


def version_of(connection: sqlite3.Connection) -> int:
    """Return the version of a file."""
    return int(connection.execute("PRAGMA user_version").fetchone()[0])


def place_json(place: Place) -> str:
    """Return a place whose hours, if it has any, are named by their digest."""
    document = to_document(replace(place, hours=None))
    if place.hours is not None:
        document["hours"] = {"digest": place.hours.digest}
    return json.dumps(document, ensure_ascii=False, separators=(",", ":"), allow_nan=False)


def write_hours(connection: sqlite3.Connection, hours: HourlyWeather | None) -> None:
    """Keep the hours of the place, and those alone; they are written once, not with each edit."""
    digest = hours.digest if hours is not None else ""
    connection.execute("DELETE FROM weather WHERE digest <> ?", (digest,))
    has = connection.execute("SELECT count(*) FROM weather").fetchone()[0]
    if hours is not None and not has:
        connection.executemany(
            "INSERT INTO weather VALUES (?, ?, ?)",
            [(digest, name, v.astype("<f4").tobytes()) for name, v in hours.columns.items()],
        )


def diary_json(diary: Diary) -> str:
    """Return a diary whose samples and photographs are named by their digests."""
    return json.dumps(to_row(diary), ensure_ascii=False, allow_nan=False)


def write_kept(connection: sqlite3.Connection, diary: Diary) -> None:
    """Keep the samples and photographs of a diary, and those alone; each is written once."""
    blobs = diary.blobs()
    has = {digest for (digest,) in connection.execute("SELECT digest FROM kept")}
    connection.executemany(
        "DELETE FROM kept WHERE digest = ?", [(digest,) for digest in has - set(blobs)]
    )
    connection.executemany(
        "INSERT INTO kept VALUES (?, ?)",
        [(digest, blob.data) for digest, blob in blobs.items() if digest not in has],
    )


def put_kept(connection: sqlite3.Connection, diary: Any, version: int) -> None:
    """Put what a diary names by digest into its document, from the table that keeps it.

    Raises
    ------
    DocumentError
        When the file does not hold it, or other bytes.
    """
    if version < 8 or not isinstance(diary, dict):
        return
    kept = {d: Blob(data) for d, data in connection.execute("SELECT digest, data FROM kept")}
    diary.update(_with_bytes(diary, kept))


def _with_bytes(value: Any, kept: dict[str, Blob]) -> Any:
    """Return a document in which what names a digest alone is the bytes."""
    if isinstance(value, list):
        return [_with_bytes(item, kept) for item in value]
    if not isinstance(value, dict):
        return value
    if set(value) != {"digest"}:
        return {key: _with_bytes(item, kept) for key, item in value.items()}
    blob = kept.get(value["digest"]) if isinstance(value["digest"], str) else None
    if blob is None or blob.digest != value["digest"]:
        raise DocumentError("diary: samples or a photograph it names are not in the file")
    return blob


def put_hours(connection: sqlite3.Connection, place: Any, version: int) -> None:
    """Put the hours a place names into its document, from the table that keeps them.

    Raises
    ------
    DocumentError
        When the file does not hold them.
    """
    hours = place.get("hours") if isinstance(place, dict) else None
    if hours is None:
        return
    digest = hours.get("digest") if isinstance(hours, dict) and len(hours) == 1 else None
    if version < 4 or not isinstance(digest, str):
        raise DocumentError("hours: the place must name them by their digest")
    rows = connection.execute(
        "SELECT name, hours FROM weather WHERE digest = ? ORDER BY name", (digest,)
    ).fetchall()
    if not rows or any(len(blob) != 4 * HOURS_IN_YEAR for _, blob in rows):
        raise DocumentError("hours: the year of weather the place names is not in the file")
    place["hours"] = {"columns": {name: np.frombuffer(blob, dtype="<f4") for name, blob in rows}}
