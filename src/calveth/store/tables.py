"""Tables out: CSV, and a workbook (OOXML spreadsheet) with a sheet a table."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from calveth.store.atomic_write import atomic_write
from calveth.store.json_file import write_text

Rows = Sequence[Mapping[str, Any]]

# Spreadsheets take a cell that begins with one of these for a formula.
_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def csv_text(rows: Rows) -> str:
    """Return rows as CSV with a header of all their keys."""
    stream = io.StringIO()
    names = list(dict.fromkeys(key for row in rows for key in row))
    writer = csv.DictWriter(stream, fieldnames=names, lineterminator="\n", restval="")
    writer.writeheader()
    writer.writerows({k: _safe(v) for k, v in row.items()} for row in rows)
    return stream.getvalue()


def _safe(value: Any) -> Any:
    """Return a cell no spreadsheet takes for a formula."""
    if isinstance(value, str) and value.startswith(_FORMULA):
        return "'" + value
    return value


def write_csv(path: Path, rows: Rows) -> None:
    """Write rows as CSV in one move.

    Raises
    ------
    FileError
        When it cannot be written.
    """
    write_text(path, csv_text(rows))


def write_workbook(path: Path, tables: Mapping[str, Rows]) -> None:
    """Write tables as sheets of one workbook.

    Raises
    ------
    FileError
        When it cannot be written.
    """
    from openpyxl import Workbook  # half a second: only when a workbook is written
    from openpyxl.styles import Font

    book = Workbook()
    book.remove(book.active)
    for title, rows in tables.items():
        sheet = book.create_sheet(re.sub(r"[\[\]:*?/\\]", " ", title)[:31])
        names = list(dict.fromkeys(key for row in rows for key in row))
        sheet.append(names)
        for cell in sheet[1]:
            cell.font = Font(bold=True)
        for row in rows:
            sheet.append([_safe(row.get(name)) for name in names])
        sheet.freeze_panes = "B2"
        for column, name in enumerate(names, start=1):
            width = max([len(name), *(len(str(r.get(name, ""))) for r in rows)])
            sheet.column_dimensions[sheet.cell(1, column).column_letter].width = min(48, width + 2)
    with atomic_write(path) as part:
        book.save(part)
