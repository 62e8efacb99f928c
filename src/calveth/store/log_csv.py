"""Reads CSV exports of loggers and scales: delimiter, comma, order of the date and units are seen.

What cannot be seen is asked for, never guessed: a date that may be read in two ways, a time zone.
"""

from __future__ import annotations

import csv
import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Literal, get_args
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np
from numpy.typing import NDArray

from calveth.core.diary.samples import unpacked
from calveth.core.diary.series import Series
from calveth.core.errors import DomainError, plain
from calveth.core.records.log import Log, Quantity
from calveth.store.errors import FileError

DateOrder = Literal["day first", "month first"]
DATE_ORDERS: tuple[DateOrder, ...] = get_args(DateOrder)
# Steps a coarse probe may jump by without being two [unit of the quantity].
_COARSE: dict[Quantity, float] = {
    "temperature": 0.3, "humidity": 0.02, "co2": 2e-4, "weight": 0.1, "power": 1e9,
}  # fmt: skip
MOST_BYTES = 200_000_000
_EPOCH = datetime(1970, 1, 1)
_ISO = re.compile(r"\d{4}-\d\d-\d\d[ T]\d\d:\d\d")
_OTHER = re.compile(r"(\d\d)[./-](\d\d)[./-](\d{4})[ T](\d\d):(\d\d)")
# What a header says of its column: the quantity, and how its figures become SI.
_UNITS: tuple[tuple[str, Quantity, float, float], ...] = (
    (r"°?F\b|fahrenheit", "temperature", 1 / 1.8, -32 / 1.8),
    (r"°?C\b|celsius|temp", "temperature", 1.0, 0.0),
    (r"%|humid|\bRH\b", "humidity", 0.01, 0.0),
    (r"ppm|co2", "co2", 1e-6, 0.0),
    (r"\blb\b|pound", "weight", 0.45359237, 0.0),
    (r"\bkg\b|weight|gewicht", "weight", 1.0, 0.0),
    (r"\bW\b|watt|power", "power", 1.0, 0.0),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class LogColumn:
    """One column of a log by its header, with its samples."""

    name: str
    series: Series


@dataclass(frozen=True, slots=True, kw_only=True)
class LogFile:
    """What a file held, and what was seen of how it is written."""

    columns: tuple[LogColumn, ...]
    notes: tuple[str, ...]


def read_log(path: Path, zone: str, order: DateOrder | None = None) -> LogFile:
    """Return the columns of a CSV log; ``zone`` is that of its clock (Europe/Berlin, UTC, ...).

    The same probe and minute twice: the later row counts, and that is told.

    Raises
    ------
    FileError
        When it cannot be read as a log; it names the line or what is missing.
    DomainError
        When the zone is unknown or the dates may be read in two ways.
    """
    rows, delimiter = _rows(path)
    head, body = rows[0], rows[1:]
    clock = _zone(zone)
    texts = np.array([row[0].strip()[:16] for row in body])
    local, how = _minutes(path, texts, order)
    minutes, notes = _to_utc(path, local, clock, zone)
    comma = delimiter in {";", "\t"}
    columns: list[LogColumn] = []
    for k, name in enumerate(head[1:], start=1):
        meant = _meant(name)
        if meant is None:
            continue
        quantity, factor, offset = meant
        values = _numbers([row[k] if k < len(row) else "" for row in body], comma=comma)
        series, twice = _series(quantity, minutes, factor * values + offset)
        if series is None:
            continue
        if _of_two(series, twice, len(body)):
            raise FileError(
                path,
                f"column {plain(name, 40)} looks like two probes in turn; export each by itself",
            )
        if twice:
            notes.append(f"{name}: {twice} minutes came twice; the later row counts")
        columns.append(LogColumn(name=name.strip(), series=series))
    if not columns:
        raise FileError(
            path, "has no column of °C, °F, %, ppm, kg, lb or W; name the units in its first line"
        )
    told = (f"columns are parted by “{'tab' if delimiter == chr(9) else delimiter}”", how)
    return LogFile(columns=tuple(columns), notes=(*told, *notes))


def _rows(path: Path) -> tuple[list[list[str]], str]:
    try:
        size = path.stat().st_size
        if size > MOST_BYTES:
            raise FileError(path, f"has {size / 1e6:.0f} MB; a log has less than 200, split it")
        text = path.read_text(encoding="utf-8-sig", errors="replace")
    except OSError as error:
        raise FileError(path, f"cannot be read ({error.strerror}); choose another") from error
    lines = [line for line in text.splitlines() if line.strip()]
    if len(lines) < 3:
        raise FileError(path, "has less than three lines; a log has a header and samples")
    delimiter = max(";\t,", key=lines[1].count)
    rows = list(csv.reader(lines, delimiter=delimiter))
    if len(rows[0]) < 2:
        raise FileError(path, "has one column; a log has a time and at least one figure")
    return rows, delimiter


def _meant(header: str) -> tuple[Quantity, float, float] | None:
    for pattern, quantity, factor, offset in _UNITS:
        if re.search(pattern, header, re.IGNORECASE if len(pattern) > 8 else 0):
            return quantity, factor, offset
    return None


def _zone(name: str) -> ZoneInfo:
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise DomainError(
            "time zone", plain(name, 40), "is not known; use UTC or a name as Europe/Berlin"
        ) from None


def _minutes(
    path: Path, texts: NDArray[np.str_], order: DateOrder | None
) -> tuple[NDArray[np.int64], str]:
    """Return local minutes since 1970, and how the dates were read."""
    first = str(texts[0])
    if _ISO.match(first):
        made = np.char.replace(texts, " ", "T")
        return _stamps(path, made), "dates are year-month-day"
    if not _OTHER.match(first):
        raise FileError(path, f"line 2: {plain(first, 30)} is no time as 2026-02-03 14:30")
    letters = texts.astype("U16").view("U1").reshape(texts.size, 16)
    one, two, year, time = (
        np.ascontiguousarray(letters[:, a:b]).view(f"U{b - a}").ravel()
        for a, b in ((0, 2), (3, 5), (6, 10), (11, 16))
    )
    if order is None:
        # A dot parts days and months where the day comes first.
        by_dot = "." in first[:6]
        first_big, second_big = (max(np.unique(p).tolist()) > "12" for p in (one, two))
        if not (by_dot or first_big or second_big):
            raise DomainError(
                "order of the date", plain(first, 30),
                "may be day first or month first; say which",
            )  # fmt: skip
        order = "month first" if second_big and not first_big else "day first"
    day, month = (one, two) if order == "day first" else (two, one)
    dashed = np.char.add(np.char.add(np.char.add(year, "-"), np.char.add(month, "-")), day)
    return _stamps(path, np.char.add(np.char.add(dashed, "T"), time)), f"dates are {order}"


def _stamps(path: Path, texts: NDArray[np.str_]) -> NDArray[np.int64]:
    try:
        return texts.astype("datetime64[m]").astype(np.int64)
    except ValueError as error:
        raise FileError(path, f"holds a time that does not exist ({error})") from None


def _to_utc(
    path: Path, local: NDArray[np.int64], clock: ZoneInfo, name: str
) -> tuple[NDArray[np.int64], list[str]]:
    """Return UTC minutes; the hour that comes twice in autumn is told apart by the file's order."""
    if name == "UTC":
        return local, []
    hours, inverse = np.unique(local // 60, return_inverse=True)
    early, late, missing = np.empty(hours.size), np.empty(hours.size), 0
    for k, hour in enumerate(hours):
        when = _EPOCH + timedelta(hours=int(hour))
        offsets = [when.replace(tzinfo=clock, fold=f).utcoffset() for f in (0, 1)]
        early[k], late[k] = (o.total_seconds() / 60 if o else 0.0 for o in offsets)
        back = (when - timedelta(minutes=early[k])).replace(tzinfo=UTC).astimezone(clock)
        missing += back.replace(tzinfo=None) != when
    if missing:
        raise FileError(
            path,
            "holds an hour the clock skips in spring: the log is in standard time all year; "
            "give its zone so, as Etc/GMT-1",
        )
    twice = (early != late)[inverse]
    seen = np.maximum.accumulate(local)
    # In the hour that comes twice what steps back, and all after it, is the second time.
    second = twice & ((local < np.concatenate([[local[0]], seen[:-1]])) | _after_step(local, twice))
    offset = np.where(second, late[inverse], early[inverse])
    notes = ["the hour that comes twice in autumn was told apart"] if second.any() else []
    return local - offset.astype(np.int64), notes


def _after_step(local: NDArray[np.int64], twice: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return what comes after a step back within a run of hours that come twice."""
    found = np.zeros(local.size, dtype=bool)
    back = np.flatnonzero(np.diff(local) < 0) + 1
    for k in back:
        if twice[k]:
            end = k
            while end < local.size and twice[end]:
                end += 1
            found[k:end] = True
    return found


def _numbers(texts: list[str], *, comma: bool) -> NDArray[np.float64]:
    """Return figures; what is none is left out (NaN)."""
    made = [t.strip().replace(",", ".") if comma else t.strip() for t in texts]
    try:
        return np.array([t or "nan" for t in made], dtype=float)
    except ValueError:
        found = np.full(len(made), np.nan)
        for k, text in enumerate(made):
            try:
                found[k] = float(text)
            except ValueError:
                continue
        return found


def _of_two(series: Series, twice: int, rows: int) -> bool:
    """Return whether two probes write into one column: by turns, or two rows at each time.

    By turns, a value is far from its neighbour and near the one after that.
    """
    if twice > max(0.3 * rows, 12):
        return True
    v = series.values
    if v.size < 24 or series.quantity == "power":
        return False
    near, far = (float(np.median(np.abs(v[k:] - v[:-k]))) for k in (2, 1))
    return far > 5.0 * max(near, _COARSE[series.quantity])


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


_HEADS: dict[Quantity, tuple[str, float, int]] = {
    "temperature": ("°C", 1.0, 3), "humidity": ("%", 100.0, 3), "co2": ("CO2 ppm", 1e6, 1),
    "weight": ("kg", 1.0, 3), "power": ("W", 1.0, 2),
}  # fmt: skip


def log_rows(logs: Sequence[Log]) -> list[list[str]]:
    """Return logs as rows: the time in UTC and a column each, with its unit; a row a minute."""
    series = [unpacked(g.chunks, g.quantity) for g in logs]
    minutes = np.unique(np.concatenate([s.minutes for s in series]))
    heads, columns = ["time UTC"], []
    for log, own in zip(logs, series, strict=True):
        unit, factor, digits = _HEADS[log.quantity]
        heads.append(f"{log.at} {unit}" if log.at != "scale" else f"scale {unit}")
        cells = np.full(minutes.size, "", dtype="U16")
        cells[np.searchsorted(minutes, own.minutes)] = [
            f"{v:.{digits}f}" for v in factor * own.values
        ]
        columns.append(cells)
    stamps = np.char.replace(np.datetime_as_string(minutes.astype("datetime64[m]")), "T", " ")
    body = [list(row) for row in zip(stamps.tolist(), *(c.tolist() for c in columns), strict=True)]
    return [heads, *body]
