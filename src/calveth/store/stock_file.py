"""A stock list as a table: out as CSV, in again with every cell checked."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from calveth.core.errors import DomainError
from calveth.core.workshop.stock import StockItem, Workshop
from calveth.store.csv_in import read_csv
from calveth.store.errors import FileError

_FIELDS = (
    "name",
    "kind",
    "fits",
    "length_m",
    "width_m",
    "thickness_m",
    "price",
    "have",
    "more",
)
_YES, _NO = ("yes", "true", "1", ""), ("no", "false", "0")
_LARGEST_BYTES = 1_000_000


def stock_rows(workshop: Workshop) -> list[dict[str, Any]]:
    """Return the sizes of a list as rows with units in their names."""
    return [{field: _cell(getattr(item, field)) for field in _FIELDS} for item in workshop.items]


def _cell(value: Any) -> Any:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return "" if value is None else value


def read_stock(path: Path) -> tuple[StockItem, ...]:
    """Return the sizes of a CSV file as `stock_rows` writes it.

    Raises
    ------
    FileError
        When it is no such table; line, field and remedy are named.
    """
    table = read_csv(path, _LARGEST_BYTES, "this is no stock list")
    head = [cell.lower() for cell in table.rows[0]] if table.rows else []
    missing = [f for f in _FIELDS[:5] if f not in head]
    if missing:
        raise FileError(path, f"has no column {', '.join(missing)}; export a list to see the form")
    items = []
    for number, cells in zip(table.lines[1:], table.rows[1:], strict=True):
        if len(cells) > len(head):
            raise FileError(
                path,
                f"line {number} has {len(cells)} cells, the header {len(head)}; put names "
                "with a comma into quotes",
            )
        try:
            items.append(_item(dict(zip(head, cells, strict=False))))
        except DomainError as error:
            raise FileError(path, f"line {number}: {error}") from error
    if not items:
        raise FileError(path, "holds no sizes; add a line for each")
    return tuple(items)


def _count(value: float) -> int:
    if value != int(value):
        raise DomainError("have", value, "is no count; enter a whole number")
    return int(value)


def _item(row: dict[str, Any]) -> StockItem:
    def number(field: str) -> float:
        text = (row.get(field) or "0").strip().replace(",", ".")
        try:
            return float(text)
        except ValueError:
            raise DomainError(field, text, "is not a number; type metres such as 2.4") from None

    price = (row.get("price") or "").strip()
    more = (row.get("more") or "").strip().lower()
    if more not in (*_YES, *_NO):
        raise DomainError("more", more, "is neither yes nor no; can more of it be bought?")
    return StockItem(
        name=(row.get("name") or "").removeprefix("'"),
        kind=row.get("kind", ""),
        fits=row.get("fits", ""),
        length_m=number("length_m"),
        width_m=number("width_m"),
        thickness_m=number("thickness_m"),
        price=number("price") if price else None,
        have=_count(number("have")),
        more=more in _YES,
    )
