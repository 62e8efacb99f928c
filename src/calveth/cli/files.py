"""What several sub-commands share: reading projects and writing tables."""

from __future__ import annotations

import argparse
import csv
import io
import json
import math
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from calveth.core.errors import DomainError
from calveth.core.project import Project
from calveth.store.json_file import read_json
from calveth.store.project_file import load_project

Commands = Any  # argparse's own type for sub-parsers is private


def add_format(parser: argparse.ArgumentParser, choices: Sequence[str]) -> None:
    """Add ``--format`` with the given choices, the first as default."""
    parser.add_argument("--format", choices=choices, default=choices[0])


def read_project(path: str) -> Project:
    """Return the project of a ``.calveth`` or ``.json`` file."""
    file = Path(path)
    return read_json(file) if file.suffix.lower() == ".json" else load_project(file)


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
    """Print rows of like keys as CSV with a header."""
    stream = io.StringIO()
    writer = csv.DictWriter(stream, fieldnames=list(rows[0]), lineterminator="\n")
    writer.writeheader()
    writer.writerows(rows)
    print(stream.getvalue(), end="")
