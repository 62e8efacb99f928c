"""Materials in a JSON file of their own, to pass from project to project."""

from __future__ import annotations

import json
from collections.abc import Sequence
from pathlib import Path

from calveth.core.materials import Material
from calveth.store.converter import from_document, to_document
from calveth.store.errors import DocumentError, FileError
from calveth.store.gate import parse_json, read_text
from calveth.store.json_file import write_text
from calveth.store.upgrades import material_as_sheet, material_as_sold

FORMAT = "calveth-materials"
SCHEMA = 3
_LARGEST_BYTES = 5_000_000


def write_materials(path: Path, materials: Sequence[Material]) -> None:
    """Write materials as JSON in one move.

    Raises
    ------
    FileError
        When it cannot be written.
    """
    document = {
        "format": FORMAT,
        "schema": SCHEMA,
        "materials": [to_document(m) for m in materials],
    }
    write_text(path, json.dumps(document, ensure_ascii=False, indent=1, allow_nan=False) + "\n")


def read_materials(path: Path) -> tuple[Material, ...]:
    """Return the materials of a JSON file.

    Raises
    ------
    FileError
        When it is no such file or a field is wrong; the field is named.
    """
    text = read_text(path, _LARGEST_BYTES, "this is no list of materials")
    try:
        document = parse_json(text)
    except DocumentError as error:
        raise FileError(path, str(error)) from None
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise FileError(path, f"format: must be “{FORMAT}”; this is no list of materials")
    try:
        listed = document.get("materials")
        if isinstance(listed, list) and document.get("schema") in (1, 2):
            listed = [material_as_sheet(item) for item in listed]
        if isinstance(listed, list):
            listed = [material_as_sold(item) for item in listed]
        return from_document(listed, tuple[Material, ...])
    except DocumentError as error:
        raise FileError(path, str(error)) from error
