"""The whole project as one JSON document, to read, write by hand and exchange."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from calveth.core.project import Project
from calveth.core.records.diary import MOST_PHOTOS_BYTES
from calveth.store.atomic_write import atomic_write
from calveth.store.converter import from_document, to_document
from calveth.store.errors import DocumentError, FileError
from calveth.store.gate import parse_json, read_text
from calveth.store.upgrades import VERSION, upgraded

FORMAT = "calveth-project"
SCHEMA = VERSION
_READABLE = tuple(range(1, SCHEMA + 1))
LARGEST_BYTES = 60_000_000 + 4 * MOST_PHOTOS_BYTES // 3 + MOST_PHOTOS_BYTES // 10
"""What a project may be as JSON: photographs in base64, logs and hours beside them."""


def project_to_json(project: Project) -> str:
    """Return the JSON text of a project, as docs/file-format.md describes it."""
    document = {"format": FORMAT, "schema": SCHEMA, "project": to_document(project)}
    return json.dumps(document, ensure_ascii=False, indent=1, allow_nan=False) + "\n"


def project_from_json(text: str) -> Project:
    """Return the project of a JSON text.

    Raises
    ------
    DocumentError
        Naming the first wrong field.
    """
    document: Any = parse_json(text)
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise DocumentError(f"format: must be “{FORMAT}”; this is not a Calveth project")
    schema = document.get("schema")
    if isinstance(schema, bool) or not isinstance(schema, int):
        raise DocumentError(f"schema: must be one of {', '.join(map(str, _READABLE))}")
    if schema > SCHEMA:
        raise DocumentError(
            f"schema: {schema} is newer than this Calveth reads ({SCHEMA}); update Calveth"
        )
    if schema not in _READABLE:
        raise DocumentError(f"schema: must be one of {', '.join(map(str, _READABLE))}")
    unknown = set(document) - {"format", "schema", "project"}
    if unknown:
        raise DocumentError("unknown field " + ", ".join(sorted(unknown)[:3]))
    if "project" not in document:
        raise DocumentError("required field missing: project")
    return from_document(upgraded(document["project"], schema), Project)


def read_json(path: Path) -> Project:
    """Return the project in a JSON file.

    Raises
    ------
    FileError
        When it cannot be read or a field is wrong.
    """
    text = read_text(path, LARGEST_BYTES, "this is not a project")
    try:
        return project_from_json(text)
    except DocumentError as error:
        raise FileError(path, str(error)) from error


def write_json(path: Path, project: Project) -> None:
    """Write a project as JSON; the old file stays until the new one is whole.

    Raises
    ------
    FileError
        When the folder cannot be written.
    """
    text = project_to_json(project)
    size = len(text.encode())
    if size > LARGEST_BYTES:
        raise FileError(
            path,
            f"would have {size / 1e6:.0f} MB and could not be read again; take photographs "
            "or logs out, or keep the .calveth file",
        )
    write_text(path, text)


def write_text(path: Path, text: str) -> None:
    """Write a text file in one move.

    Raises
    ------
    FileError
        When the folder cannot be written.
    """
    with atomic_write(path) as part:
        part.write_text(text, encoding="utf-8")
