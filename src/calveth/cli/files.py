"""What several sub-commands share: reading projects and writing tables."""

from __future__ import annotations

import argparse
import json
import math
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from calveth.core.climate.place import Place, coldest_month
from calveth.core.errors import DomainError
from calveth.core.hive.design import Design
from calveth.core.project import Project
from calveth.store.atomic_write import try_to_write
from calveth.store.errors import FileError
from calveth.store.gate import exists
from calveth.store.json_file import read_json
from calveth.store.project_file import load_project
from calveth.store.tables import csv_text

Commands = Any  # argparse's own type for sub-parsers is private


def add_format(parser: argparse.ArgumentParser, choices: Sequence[str]) -> None:
    """Add ``--format`` with the given choices, the first as default."""
    parser.add_argument("--format", choices=choices, default=choices[0])


def read_project(path: str) -> Project:
    """Return the project of a ``.calveth`` or ``.json`` file."""
    file = Path(path)
    return read_json(file) if file.suffix.lower() == ".json" else load_project(file)


def new_file(text: str) -> Path:
    """Return the path of a file to make; an existing one is never written over.

    Raises
    ------
    FileError
        When something stands there, its ending is another, or the folder cannot be written.
    """
    path = Path(text)
    if exists(path):
        raise FileError(path, "exists already; choose another name")
    return output_file(text, ".calveth")


def output_file(text: str, *endings: str) -> Path:
    """Return the path of a file to write, tried out before any work is done for it.

    Raises
    ------
    FileError
        When its ending is another than one of ``endings``, or it cannot be written there.
    """
    path = Path(text)
    if not text or not path.name:
        raise FileError(text or "-o", "is no name; type the name of a file")
    if endings and path.suffix.lower() not in endings:
        raise FileError(path, "must end in " + " or ".join(endings))
    try_to_write(path)
    return path


def find_design(project: Project, key: str) -> Design:
    """Return the design with an id, or with a name as it stands on the screen."""
    named = [d for d in project.designs if d.name.casefold() == key.casefold()]
    if len(named) == 1 and key not in {d.id for d in project.designs}:
        return named[0]
    return project.design(key)


def month_index(text: str | None, place: Place) -> int:
    """Return the month 0 to 11 of a typed 1 to 12; the coldest when nothing was typed.

    Raises
    ------
    DomainError
        When it is no month.
    """
    if text is None:
        return coldest_month(place)
    month = finite("--month", text)
    if month != int(month) or not 1 <= month <= 12:
        raise DomainError("--month", text, "is not a month; type 1 to 12")
    return int(month) - 1


def finite(field: str, text: str) -> float:
    """Return a number typed on the command line; comma or point.

    Raises
    ------
    DomainError
        Naming the field.
    """
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        raise DomainError(field, text, "is not a number; type for example -5.5") from None
    if not math.isfinite(value):
        raise DomainError(field, text, "is not a usable number")
    return value


def print_json(document: object) -> None:
    """Print a document as JSON; a NaN in it would be a fault of ours and raises."""
    print(json.dumps(document, ensure_ascii=False, indent=1, allow_nan=False))


def print_csv(rows: Sequence[dict[str, Any]]) -> None:
    """Print rows as CSV with a header."""
    print(csv_text(rows), end="")


def humidity_of(text: str) -> float:
    """Return a relative humidity typed as 0.85 or 85%."""
    if text.strip().endswith("%"):
        return finite("--outside-rh", text.strip()[:-1]) / 100
    return finite("--outside-rh", text)
