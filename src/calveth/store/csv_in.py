"""The one gate CSV comes in by: logs, stock lists and weather as people's programs write them."""

from __future__ import annotations

import csv
from dataclasses import dataclass
from pathlib import Path

from calveth.store.errors import FileError
from calveth.store.gate import check_readable, read_bytes

DELIMITERS = (";", "\t", ",", "|")
_LONGEST_CELL = 2_000
_LOOKED_AT = 60
_LOOKED_AT_BYTES, _LONGEST_SHOWN = 65_536, 40


@dataclass(frozen=True, slots=True, kw_only=True)
class CsvTable:
    """Rows of cells, as a file has them.

    Attributes
    ----------
    rows : tuple of list
        Lines that are not empty; cells are stripped of blanks and quotes.
    lines : tuple of int
        The number of each row's line in the file, from 1.
    delimiter : str
    cut_short : bool
        Whether the last line has no end: whoever writes the file may not be through with it.
    comments : tuple of str
        The lines that were left out.
    """

    rows: tuple[list[str], ...]
    lines: tuple[int, ...]
    delimiter: str
    cut_short: bool
    comments: tuple[str, ...] = ()


def read_csv(path: Path, most_bytes: int, what: str, *, comment: str = "") -> CsvTable:
    """Return the rows of a CSV file; each line is a row of its own.

    A quote that is never closed ends with its line, so that it swallows no other. UTF-8, UTF-16
    with its mark, and else Latin-1 as older programs write.

    Parameters
    ----------
    path : Path
        An ordinary file; pipes and devices are refused.
    most_bytes, what : int, str
        How large it may be, and how the sentence ends that refuses more.
    comment : str
        Lines that begin with it are left out.

    Raises
    ------
    FileError
        When it cannot be read, is too large, or holds a cell no table has; the line is named.
    """
    text = decoded(read_bytes(path, most_bytes, what))
    numbered = [
        (number, line)
        for number, line in enumerate(text.split("\n"), start=1)
        if line.strip() and not (comment and line.startswith(comment))
    ]
    if "\0" in text:
        raise FileError(path, "is no text; export it as CSV")
    lines = [line.rstrip("\r") for _, line in numbered]
    delimiter = delimiter_of(lines)
    rows = []
    for number, line in zip((n for n, _ in numbered), lines, strict=True):
        try:
            cells = next(csv.reader([line], delimiter=delimiter))
        except (csv.Error, StopIteration) as error:
            raise FileError(path, f"line {number} cannot be read as CSV ({error})") from None
        if max((len(cell) for cell in cells), default=0) > _LONGEST_CELL:
            raise FileError(path, f"line {number} has a cell of {_LONGEST_CELL} letters and more")
        rows.append([cell.strip() for cell in cells])
    return CsvTable(
        rows=tuple(rows),
        lines=tuple(n for n, _ in numbered),
        delimiter=delimiter,
        cut_short=bool(lines) and not text.endswith("\n"),
        comments=tuple(
            line.rstrip("\r") for line in text.split("\n") if comment and line.startswith(comment)
        ),
    )


def first_rows(path: Path, count: int) -> tuple[tuple[str, ...], ...]:
    """Return the first rows of a CSV file, without what is empty, to be looked at.

    Raises
    ------
    FileError
        When it cannot be read.
    """
    check_readable(path)
    with path.open("rb") as stream:
        content = stream.read(_LOOKED_AT_BYTES)
    lines = [line.rstrip("\r") for line in decoded(content).split("\n") if line.strip()]
    lines = lines[:count]
    delimiter = delimiter_of(lines)
    rows = csv.reader(lines, delimiter=delimiter, strict=False)
    return tuple(tuple(cell.strip()[:_LONGEST_SHOWN] for cell in row) for row in rows)


def delimiter_of(lines: list[str]) -> str:
    """Return what parts the cells: of what stands equally often in most lines, the most often.

    >>> delimiter_of(["Zeit;Beute °C", "03.02.2026;21,5", "04.02.2026;21,6"])
    ';'
    """
    looked = lines[:_LOOKED_AT]

    def score(delimiter: str) -> tuple[int, int]:
        counts = [line.count(delimiter) for line in looked]
        usual = max(set(counts), key=lambda n: (counts.count(n) if n else 0, n), default=0)
        # Decimal commas stand in every line too; a semicolon or a tab is never in a figure.
        return (counts.count(usual) if usual else 0, -DELIMITERS.index(delimiter))

    return max(DELIMITERS, key=score) if looked else ","


def decoded(content: bytes) -> str:
    """Return bytes as text: UTF-8, UTF-16 with its mark, and else Latin-1."""
    if content[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return content.decode("utf-16", errors="replace")
    try:
        return content.decode("utf-8-sig")
    except UnicodeDecodeError:
        return content.decode("cp1252", errors="replace")
