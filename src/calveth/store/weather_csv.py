"""Weather as CSV: a documented form anyone can write by hand, hourly or monthly.

Lines that begin with ``#`` hold ``name``, ``latitude_deg``, ``longitude_deg`` and ``altitude_m``.
The header names columns with their units; see docs/file-format.md.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from calveth.core.climate.place import MonthClimate
from calveth.core.errors import DomainError
from calveth.store.csv_in import read_csv
from calveth.store.errors import FileError

FloatArray = NDArray[np.float64]

# Header, name of the column elsewhere in the import, conversion to its unit.
_HEADERS: dict[str, tuple[str, Callable[[float], float]]] = {
    "temperature_degc": ("temp_air", lambda v: v),
    "temperature_degf": ("temp_air", lambda v: (v - 32) / 1.8),
    "dew_point_degc": ("temp_dew", lambda v: v),
    "dew_point_degf": ("temp_dew", lambda v: (v - 32) / 1.8),
    "relative_humidity": ("relative_humidity", lambda v: 100 * v),
    "relative_humidity_percent": ("relative_humidity", lambda v: v),
    "wind_m_s": ("wind_speed", lambda v: v),
    "wind_km_h": ("wind_speed", lambda v: v / 3.6),
    "wind_mph": ("wind_speed", lambda v: v * 0.44704),
    "wind_direction_deg": ("wind_direction", lambda v: v),
    "rain_mm": ("rain", lambda v: v),
    "rain_in": ("rain", lambda v: 25.4 * v),
    "global_sun_w_m2": ("ghi", lambda v: v),
    "diffuse_sun_w_m2": ("dhi", lambda v: v),
    "sky_w_m2": ("ghi_infrared", lambda v: v),
    "cloud_percent": ("total_sky_cover", lambda v: v / 10),
    "daily_swing_k": ("swing", lambda v: v),
    "daily_swing_degf": ("swing", lambda v: v / 1.8),
}
# Named in the page of formats; an error names the columns in their own units.
_OTHER_UNITS = ("_degf", "_mph", "_km_h", "_in", "_percent")
_IGNORED = ("time", "month", "hour", "date")
_META = ("name", "latitude_deg", "longitude_deg", "altitude_m")


def looks_like_csv(text: str) -> bool:
    """Return whether a text begins as a weather CSV: a header with a temperature column."""
    for line in text.splitlines():
        if not line.strip() or line.startswith("#"):
            continue
        names = [cell.strip().lower() for cell in re.split(r"[;,\t|]", line)]
        return any(name.startswith("temperature_deg") for name in names)
    return False


def read_columns(path: Path, most_bytes: int) -> tuple[dict[str, FloatArray], dict[str, str], int]:
    """Return columns, what the ``#`` lines say, and the number of rows.

    Empty cells and text that is no number become gaps (NaN).

    Raises
    ------
    FileError
        When it is no text, a column is unknown or a row has another length.
    """
    table = read_csv(path, most_bytes, "a year of hours is smaller", comment="#")
    meta = _meta(table.comments)
    if not table.rows:
        raise FileError(path, "holds no rows; it needs a header and a row for each hour or month")
    rows, delimiter = table.rows, table.delimiter
    header = [name.lower() for name in rows[0]]
    unknown = [name for name in header if name not in _HEADERS and name not in _IGNORED]
    if unknown:
        known = ", ".join(name for name in _HEADERS if not name.endswith(_OTHER_UNITS))
        raise FileError(path, f"has the column “{unknown[0]}”; it may have {known}")
    twice = {name for name in header if name and header.count(name) > 1}
    if twice:
        raise FileError(path, f"has the column “{sorted(twice)[0]}” twice; remove one")
    for number, row in zip(table.lines[1:], rows[1:], strict=True):
        if len(row) != len(header):
            raise FileError(
                path,
                f"line {number} has {len(row)} cells, the header {len(header)}; it is cut short",
            )
    columns: dict[str, FloatArray] = {}
    for at, name in enumerate(header):
        if name in _HEADERS:
            target, convert = _HEADERS[name]
            columns[target] = np.array(
                [convert(_number(row[at], delimiter)) for row in rows[1:]], dtype=float
            )
    return columns, meta, len(rows) - 1


def _number(cell: str, delimiter: str) -> float:
    text = cell.strip()
    if delimiter == ";":
        text = text.replace(",", ".")
    try:
        return float(text)
    except ValueError:
        return math.nan


def _meta(lines: tuple[str, ...]) -> dict[str, str]:
    meta = {}
    for line in lines:
        key, _, value = line.lstrip("#").partition(":")
        if key.strip().lower() in _META:
            meta[key.strip().lower()] = value.strip()
    return meta


def meta_number(path: Path, meta: dict[str, str], key: str, otherwise: float) -> float:
    """Return a number of the ``#`` lines.

    Raises
    ------
    FileError
        When it is there but no number.
    """
    if key not in meta:
        return otherwise
    try:
        return float(meta[key].replace(",", "."))
    except ValueError:
        raise FileError(path, f"says {key}: {meta[key]}; that is not a number") from None


def monthly_climates(path: Path, columns: dict[str, FloatArray]) -> tuple[MonthClimate, ...]:
    """Return the months of a CSV with twelve rows.

    Raises
    ------
    FileError
        When a column is missing or a value is out of range; row and column are named.
    """
    for column, name in (
        ("temp_air", "temperature_degc"),
        ("relative_humidity", "relative_humidity"),
        ("wind_speed", "wind_m_s"),
        ("swing", "daily_swing_k"),
    ):
        if column not in columns:
            raise FileError(path, f"has twelve rows but no column {name}; add it")
        if not np.all(np.isfinite(columns[column])):
            gap = int(np.flatnonzero(~np.isfinite(columns[column]))[0]) + 1
            raise FileError(path, f"month {gap} has no {name}; fill it in")
    rain = columns.get("rain", np.full(12, 60.0))
    months = []
    for k in range(12):
        try:
            months.append(
                MonthClimate(
                    temperature_degc=round(float(columns["temp_air"][k]), 3),
                    daily_swing_k=round(float(columns["swing"][k]), 3),
                    relative_humidity=round(float(columns["relative_humidity"][k]) / 100, 4),
                    wind_m_s=round(float(columns["wind_speed"][k]), 3),
                    rain_mm=round(float(rain[k]), 1),
                )
            )
        except DomainError as error:
            raise FileError(path, f"month {k + 1}: {error}") from error
    return tuple(months)
