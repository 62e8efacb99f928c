"""Columns of a logger's file put into the diary of a project; the window and commands share it."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from pathlib import Path

from calveth.core.diary.take_in import take_in
from calveth.core.edits_diary import set_diary
from calveth.core.project import Project
from calveth.core.records.quantity import Where
from calveth.store.gate import read_bytes
from calveth.store.log_csv import MOST_BYTES, LogFile


def digest_of(path: Path) -> str:
    """Return the SHA-256 of a log file, by which the diary knows it again.

    Raises
    ------
    FileError
        When it cannot be read or is too large for a log.
    """
    return hashlib.sha256(read_bytes(path, MOST_BYTES, "split it")).hexdigest()


def with_columns(
    project: Project,
    log: LogFile,
    columns: Sequence[tuple[str, Where]],
    hive: str,
    *,
    file: str,
    sha256: str,
    zone: str,
) -> Project:
    """Return the project with columns of a file in its diary; those it does not have are passed.

    Raises
    ------
    DomainError
        As `take_in`.
    """
    diary = project.diary
    for name, at in columns:
        series = next((c.series for c in log.columns if c.name == name), None)
        if series is None:
            continue
        diary = take_in(
            diary,
            series,
            hive="" if at == "outside" else hive,
            at=at,
            name=name,
            file=file,
            sha256=sha256,
            zone=zone,
        )
    return set_diary(project, diary)
