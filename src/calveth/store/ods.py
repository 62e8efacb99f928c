"""Tables as an OpenDocument spreadsheet (ISO/IEC 26300), a sheet a table."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from calveth.store.atomic_write import atomic_write
from calveth.store.tables import Rows


def write_ods(path: Path, tables: Mapping[str, Rows]) -> None:
    """Write tables as sheets of one spreadsheet; numbers stay numbers.

    Raises
    ------
    FileError
        When it cannot be written.
    """
    from odf.opendocument import OpenDocumentSpreadsheet
    from odf.table import Table, TableRow

    book = OpenDocumentSpreadsheet()
    for title, rows in tables.items():
        sheet = Table(name=re.sub(r"[\[\]:*?/\\']", " ", title))
        names = list(dict.fromkeys(key for row in rows for key in row))
        lines: list[list[Any]] = [list(names), *([row.get(n) for n in names] for row in rows)]
        for values in lines:
            line = TableRow()
            for value in values:
                line.addElement(_cell(value))
            sheet.addElement(line)
        book.spreadsheet.addElement(sheet)
    with atomic_write(path) as part, part.open("wb") as stream:
        book.write(stream)


def _cell(value: Any) -> Any:
    from odf.table import TableCell
    from odf.text import P

    if isinstance(value, bool):
        cell = TableCell(valuetype="string")
        cell.addElement(P(text="yes" if value else "no"))
        return cell
    if isinstance(value, int | float) and math.isfinite(value):
        cell = TableCell(valuetype="float", value=repr(value))
        cell.addElement(P(text=f"{value:g}"))
        return cell
    cell = TableCell(valuetype="string")
    cell.addElement(P(text="" if value is None else str(value)))
    return cell
