"""Reads CSV exports of loggers and scales: delimiter, comma, order of the date and units are seen.

What cannot be seen is asked for, never guessed: a date that may be read in two ways, a column that
may be two things, a time zone. What is said of a file by its keeper (`LogLayout`) wins.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np
from numpy.typing import NDArray

from calveth.core.diary.samples import unpacked
from calveth.core.diary.series import Series
from calveth.core.errors import DomainError, plain
from calveth.core.records.log import Log
from calveth.core.records.quantity import QUANTITIES, Quantity
from calveth.store.csv_in import CsvTable, read_csv
from calveth.store.errors import FileError
from calveth.store.log_times import (
    CLOCK_ALONE,
    DATE_ALONE,
    DATE_ORDERS,
    DateOrder,
    hour_offsets,
    is_time,
    local_minutes,
    order_seen,
)
from calveth.texts.units import Meaning, header_meanings

__all__ = ["DATE_ORDERS", "DateOrder", "LogColumn", "LogFile", "LogLayout", "log_rows", "read_log"]

MOST_BYTES = 200_000_000
_LOOKED_AT = 40
# More rows than these at the end that are no samples are no footer but another kind of file.
_MOST_FOOTER = 20


@dataclass(frozen=True, slots=True, kw_only=True)
class LogLayout:
    """What the keeper says of a file; nothing where it is to be seen.

    Attributes
    ----------
    header : int or None
        The row the names of the columns stand in, from 0 among those that are not empty.
    times : tuple of int
        The column of the time, or those of date and time, from 0.
    units : mapping
        By the name of a column, which unit its figures have (a token of `texts.units`).
    """

    header: int | None = None
    times: tuple[int, ...] = ()
    units: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class LogColumn:
    """One column of a log by its header, with its samples."""

    name: str
    series: Series


@dataclass(frozen=True, slots=True, kw_only=True)
class LogFile:
    """What a file held, and what was seen of how it is written.

    ``asked`` are columns that may be two things, with what they may be: they are read when
    `LogLayout.units` says which. ``layout`` is how the rows were taken.
    """

    columns: tuple[LogColumn, ...]
    notes: tuple[str, ...]
    asked: tuple[tuple[str, tuple[Meaning, ...]], ...] = ()
    layout: LogLayout = field(default_factory=LogLayout)


def read_log(
    path: Path, zone: str, order: DateOrder | None = None, layout: LogLayout | None = None
) -> LogFile:
    """Return the columns of a CSV log; ``zone`` is that of its clock (Europe/Berlin, UTC, ...).

    The same probe and minute twice: the later row counts, and that is told. Offsets in the file win
    over the zone; values no probe has are gaps that are counted; rows at the end that are no
    samples are left out and told.

    Raises
    ------
    FileError
        When it cannot be read as a log; it names the line or what is missing.
    DomainError
        When the zone is unknown or the dates may be read in two ways.
    """
    clock = _zone(zone)
    table = read_csv(path, MOST_BYTES, "a log has less than 200, split it")
    given = layout or LogLayout()
    at = _layout(path, table, given)
    assert at.header is not None
    head, first = table.rows[at.header], at.header + 1
    body, notes = _samples(path, table, at, first)
    texts = _times(body, at.times)
    seen = order_seen(texts)
    order_used: DateOrder | None = order
    if seen != "year first":
        order_used = order or seen
        if order_used is None:
            raise DomainError(
                "order of the date",
                plain(texts[0], 30),
                "may be day first or month first; say which",
            )
    local, own, wrong = local_minutes(texts, order_used)
    if wrong >= 0:
        line = table.lines[table.rows.index(body[wrong])]
        raise FileError(
            path,
            f"line {line}: {plain(texts[wrong], 30)} is a time that does not "
            "exist; correct or remove that line",
        )
    minutes, utc = _to_utc(path, local, own, clock, zone)
    columns, asked, more = _columns(path, head, body, at, minutes, comma=table.delimiter != ",")
    if not columns and not asked:
        raise FileError(
            path, "has no column of °C, °F, %, ppm, kg, lb or W; name the units in its first line"
        )
    parted = {"\t": "tab"}.get(table.delimiter, table.delimiter)
    how = "dates are year-month-day" if seen == "year first" else f"dates are {order_used}"
    return LogFile(
        columns=tuple(columns),
        asked=tuple(asked),
        layout=at,
        notes=(f"columns are parted by “{parted}”", how, *notes, *utc, *more),
    )


def _layout(path: Path, table: CsvTable, given: LogLayout) -> LogLayout:
    """Return the row of the header and the columns of the time, as given or as seen."""
    rows = table.rows
    if len(rows) < 3:
        raise FileError(path, "has less than three lines; a log has a header and samples")
    if max(len(row) for row in rows[:_LOOKED_AT]) < 2:
        raise FileError(path, "has one column; a log has a time and at least one figure")
    times, first = given.times, -1
    for k, row in enumerate(rows[:_LOOKED_AT]):
        places = times if times and _are_times(row, times) else () if times else _time_cells(row)
        if places and (given.header is None or k > given.header):
            times, first = places, k
            break
    if first < 0:
        line, cell = table.lines[1], rows[1][0]
        raise FileError(
            path,
            f"line {line}: {plain(cell, 30)} is no time as 2026-02-03 14:30; say which "
            "column holds the time",
        )
    header = given.header
    if header is None:
        header = first - 1
        # A line of units stands between the names and the samples, in some exports.
        if (
            header > 0
            and _names_of(rows[header]) < _names_of(rows[header - 1])
            and len(rows[header - 1]) == len(rows[first])
        ):
            header -= 1
    if header < 0:
        raise FileError(path, "has no line of names above its samples; add one with the units")
    return LogLayout(header=header, times=times, units=given.units)


def _names_of(row: Sequence[str]) -> int:
    """Return how many cells of a row are words of three letters and more."""
    return sum(sum(letter.isalpha() for letter in cell) >= 3 for cell in row)


def _are_times(row: Sequence[str], times: Sequence[int]) -> bool:
    if max(times) >= len(row):
        return False
    return is_time(" ".join(row[k] for k in times))


def _time_cells(row: Sequence[str]) -> tuple[int, ...]:
    """Return the column of the time, or those of date and time; nothing where there is none."""
    for k, cell in enumerate(row):
        if is_time(cell):
            return (k,)
    dates = [k for k, cell in enumerate(row) if DATE_ALONE.match(cell)]
    clocks = [k for k, cell in enumerate(row) if CLOCK_ALONE.match(cell)]
    return (dates[0], clocks[0]) if dates and clocks else ()


def _times(body: Sequence[list[str]], times: tuple[int, ...]) -> list[str]:
    if len(times) == 1:
        return [row[times[0]] for row in body]
    return [" ".join(row[k] for k in times) for row in body]


def _samples(
    path: Path, table: CsvTable, at: LogLayout, first: int
) -> tuple[list[list[str]], list[str]]:
    """Return the rows that are samples, and what was left out.

    Units under the header, a footer, and a last line that has no end yet are none.
    """
    rows, notes = list(table.rows[first:]), []
    # The last of the columns a time stands in: a row that is shorter cannot have one.
    most = max(at.times)

    def sample(row: list[str]) -> bool:
        return len(row) > most and is_time(" ".join(row[k] for k in at.times))

    while rows and not sample(rows[0]):
        rows.pop(0)
        first += 1
    wide = len(rows[0]) if rows else 0
    if table.cut_short and rows and (not sample(rows[-1]) or len(rows[-1]) < wide):
        rows.pop()
        notes.append("the last line has no end yet and waits for the next reading")
    footer = 0
    while rows and footer < _MOST_FOOTER and not sample(rows[-1]):
        rows.pop()
        footer += 1
    if footer:
        notes.append(f"{footer} line{'s' if footer > 1 else ''} at the end are no samples")
    for k, row in enumerate(rows):
        if not sample(row):
            cell = row[at.times[0]] if row and at.times[0] < len(row) else "nothing"
            raise FileError(
                path,
                f"line {table.lines[first + k]}: {plain(cell, 30)} is no time as "
                "2026-02-03 14:30; correct or remove that line",
            )
    odd = sum(len(row) != wide for row in rows)
    if odd:
        notes.append(f"{odd} line{'s have' if odd > 1 else ' has'} another number of cells")
    if len(rows) < 2:
        raise FileError(path, "has less than three lines; a log has a header and samples")
    return rows, notes


def _columns(
    path: Path,
    head: Sequence[str],
    body: Sequence[list[str]],
    at: LogLayout,
    minutes: NDArray[np.int64],
    *,
    comma: bool,
) -> tuple[list[LogColumn], list[tuple[str, tuple[Meaning, ...]]], list[str]]:
    """Return the columns that are something, those to be asked about, and what is to be told."""
    columns: list[LogColumn] = []
    asked: list[tuple[str, tuple[Meaning, ...]]] = []
    notes: list[str] = []
    for k, name in enumerate(_unique(head)):
        if k in at.times:
            continue
        meanings = header_meanings(head[k])
        chosen = at.units.get(name)
        if chosen is not None:
            meanings = tuple(m for m in meanings if f"{m.quantity} {m.unit}" == chosen)
        if not meanings:
            continue
        values = _numbers([row[k] if k < len(row) else "" for row in body], comma=comma)
        if not np.isfinite(values).any():
            continue
        if len(meanings) > 1:
            asked.append((name, meanings))
            continue
        meant = meanings[0]
        made = meant.factor * values + meant.offset
        # Loggers write codes such as 85 or -127 for a broken probe. Where no value is in range, the
        # range does not fit the column, and it stays as it is.
        low, high = QUANTITIES[meant.quantity].limits
        none = np.isfinite(made) & ((made < low) | (made > high))
        if none.any() and not none[np.isfinite(made)].all():
            made[none] = np.nan
            count = int(none.sum())
            notes.append(
                f"{name}: {count} value{'s' if count > 1 else ''} no probe has, such as "
                f"{values[none][0]:g}, left out"
            )
        series, twice = _series(meant.quantity, minutes, made)
        if series is None:
            continue
        if _of_two(series, twice, len(body)):
            raise FileError(
                path,
                f"column {plain(name, 40)} looks like two probes in turn; export each by itself",
            )
        if twice:
            notes.append(f"{plain(name, 40)}: {twice} minutes came twice; the later row counts")
        columns.append(LogColumn(name=name, series=series))
    return columns, asked, notes


def _unique(head: Sequence[str]) -> list[str]:
    """Return the names of columns; one that comes again gets its number."""
    names: list[str] = []
    for name in (plain(n.strip(), 80) for n in head):
        again = sum(f == name or f.startswith(f"{name} (") for f in names)
        names.append(f"{name} ({again + 1})" if again and name else name)
    return names


def _zone(name: str) -> ZoneInfo:
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise DomainError(
            "time zone", plain(name, 40), "is not known; use UTC or a name as Europe/Berlin"
        ) from None


def _to_utc(
    path: Path, local: NDArray[np.int64], own: NDArray[np.bool_], clock: ZoneInfo, name: str
) -> tuple[NDArray[np.int64], list[str]]:
    """Return UTC minutes; the hour that comes twice in autumn is told apart by the file's order."""
    if own.all():
        return local, ["times have their own offset, which counts"]
    if name == "UTC":
        return local, []
    hours, inverse = np.unique(local // 60, return_inverse=True)
    made = [hour_offsets(int(hour), clock) for hour in hours]
    early, late = (np.array([m[k] for m in made]) for k in (0, 1))
    if any(m[2] for m in made):
        raise FileError(
            path,
            "holds an hour the clock skips in spring: the log is in standard time all year; "
            "give its zone so, as Etc/GMT-1",
        )
    twice = (early != late)[inverse]
    # In the hour that comes twice what steps back, and all after it, is the second time.
    second = _after_step(local, twice)
    offset = np.where(own, 0.0, np.where(second, late[inverse], early[inverse]))
    notes = ["the hour that comes twice in autumn was told apart"] if second.any() else []
    return local - offset.astype(np.int64), notes


def _after_step(local: NDArray[np.int64], twice: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return what comes after a step back within a run of hours that come twice."""
    repeated = np.zeros(local.size, dtype=bool)
    back = np.flatnonzero(np.diff(local) < 0) + 1
    for k in back:
        if twice[k]:
            end = k
            while end < local.size and twice[end]:
                end += 1
            repeated[k:end] = True
    return repeated


def _numbers(texts: list[str], *, comma: bool) -> NDArray[np.float64]:
    """Return figures; what is none is left out (NaN)."""
    made = [t.strip().replace(",", ".") if comma else t.strip() for t in texts]
    try:
        return np.array([t or "nan" for t in made], dtype=float)
    except ValueError:
        values = np.full(len(made), np.nan)
        for k, text in enumerate(made):
            try:
                values[k] = float(text)
            except ValueError:
                continue
        return values


def _of_two(series: Series, twice: int, rows: int) -> bool:
    """Return whether two probes write into one column: by turns, or two rows at each time.

    By turns, a value is far from its neighbour and near the one after that.
    """
    if twice > max(0.3 * rows, 12):
        return True
    v = series.values
    if v.size < 24 or QUANTITIES[series.quantity].rests:
        return False
    near, far = (float(np.median(np.abs(v[k:] - v[:-k]))) for k in (2, 1))
    return far > 5.0 * max(near, QUANTITIES[series.quantity].coarse_step)


def _series(
    quantity: Quantity, minutes: NDArray[np.int64], values: NDArray[np.float64]
) -> tuple[Series | None, int]:
    """Return a series sorted by time, the later of two rows of a minute; and how many were so."""
    known = np.isfinite(values)
    if not known.any():
        return None, 0
    minutes, values = minutes[known], values[known]
    order = np.argsort(minutes, kind="stable")
    minutes, values = minutes[order], values[order]
    last = np.concatenate([np.diff(minutes) > 0, [True]])
    twice = int((~last).sum())
    return Series(quantity=quantity, minutes=minutes[last], values=values[last]), twice


def log_rows(logs: Sequence[Log]) -> list[list[str]]:
    """Return logs as rows: the time in UTC and a column each, with its unit; a row a minute."""
    series = [unpacked(g.chunks, g.quantity) for g in logs]
    minutes = np.unique(np.concatenate([s.minutes for s in series]))
    heads, columns = ["time UTC"], []
    for log, own in zip(logs, series, strict=True):
        facts = QUANTITIES[log.quantity]
        unit, factor, digits = facts.file_unit, facts.file_factor, facts.file_digits
        heads.append(f"{log.at} {unit}" if log.at != "scale" else f"scale {unit}")
        cells = np.full(minutes.size, "", dtype="U16")
        cells[np.searchsorted(minutes, own.minutes)] = [
            f"{v:.{digits}f}" for v in factor * own.values
        ]
        columns.append(cells)
    stamps = np.char.replace(np.datetime_as_string(minutes.astype("datetime64[m]")), "T", " ")
    body = [list(row) for row in zip(stamps.tolist(), *(c.tolist() for c in columns), strict=True)]
    return [heads, *body]
