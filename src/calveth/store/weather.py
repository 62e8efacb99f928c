"""Weather files (EPW, TMY3, CSV) reduced to the twelve months of a place.

Parsing is pvlib's; what is checked, filled and refused is said in the report.
"""

from __future__ import annotations

import warnings
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from calveth.core.calendar import (
    DAYS_IN_YEAR,
    HOURS_IN_YEAR,
    MONTH_NAMES,
    WEEKS_IN_YEAR,
    day_of_hour,
    month_of_day,
    week_of_day,
)
from calveth.core.climate.air import (
    saturation_pressure_over_water_pa,
    saturation_pressure_pa,
)
from calveth.core.climate.hours import HourlyWeather
from calveth.core.climate.place import MonthClimate, Place
from calveth.core.errors import DomainError, plain
from calveth.store.csv_in import decoded
from calveth.store.errors import FileError
from calveth.store.gate import check_readable
from calveth.store.weather_csv import (
    looks_like_csv,
    meta_number,
    monthly_climates,
    read_columns,
)
from calveth.store.weather_sun import sun_notes

FloatArray = NDArray[np.float64]

_LONGEST_FILLED_H = 6
_LEAST_SHARE_OF_MONTH = 0.8
_LARGEST_BYTES = 60_000_000
# Below this daily mean bees hardly fly for forage; common practice, no source.
_FORAGE_DEGC = 10.0
# Below this daily mean snow stays on the ground; common practice, no source.
_SNOW_DEGC = 0.0
NOT_IN_FILES = (
    "No weather file knows the apiary: shelter, terrain, the way the front looks, winter room, "
    "shade and stores stay as they are. Look through them in Place."
)
"""What is said of every file that is read."""

# Column of pvlib, what to call it, plausible range: anything outside is a missing-value code.
_COLUMNS = (
    ("temp_air", "temperature", -70.0, 60.0),
    ("temp_dew", "dew point", -90.0, 50.0),
    ("relative_humidity", "relative humidity", 0.0, 110.0),
    ("wind_speed", "wind", 0.0, 60.0),
    ("wind_direction", "wind direction", 0.0, 360.0),
    ("rain", "rain", 0.0, 300.0),
    ("ghi", "sunshine", 0.0, 1500.0),
    ("dhi", "light of the sky", 0.0, 1200.0),
    ("ghi_infrared", "long-wave radiation of the sky", 50.0, 700.0),
    ("total_sky_cover", "cloud", 0.0, 10.0),
)
# Under what name and by what factor a column is kept with the place.
_KEPT_AS = {
    "temp_air": ("temperature_degc", 1.0),
    "temp_dew": ("dew_point_degc", 1.0),
    "relative_humidity": ("relative_humidity", 0.01),
    "wind_speed": ("wind_m_s", 1.0),
    "wind_direction": ("wind_from_deg", 1.0),
    "rain": ("rain_mm", 1.0),
    "ghi": ("global_sun_w_m2", 1.0),
    "dhi": ("diffuse_sun_w_m2", 1.0),
    "ghi_infrared": ("sky_w_m2", 1.0),
    "total_sky_cover": ("cloud", 0.1),
}
# The 29th of February in a year of 8784 hours.
_LEAP_DAY_H = (59 * 24, 60 * 24)
_NEEDED = ("temp_air", "wind_speed")


@dataclass(frozen=True, slots=True, kw_only=True)
class WeatherImport:
    """A place read from a weather file, and what was done to get it.

    Attributes
    ----------
    kind : str
        ``EPW``, ``TMY3`` or ``CSV``.
    hours : int
        Hours in the file; 0 for twelve months.
    notes : tuple of str
        What was filled, left out or guessed, a sentence each.
    """

    place: Place
    kind: str
    hours: int
    notes: tuple[str, ...]


def import_weather(path: Path) -> WeatherImport:
    """Return the place a weather file describes: EPW, TMY3, or CSV with hours or months.

    Raises
    ------
    FileError
        When the file is of no known kind, is cut short or has too many gaps.
    """
    check_readable(path)
    kind = _kind(path)
    table, meta, rows = _parse(path, kind)
    if kind == "CSV" and rows == 12:
        return _monthly(path, table, meta)
    if rows not in (8760, 8784):
        may_be = ", or 12 months" if kind == "CSV" else ""
        raise FileError(
            path, f"has {rows} hours, a year has 8760{may_be}; it is cut short or not a whole year"
        )
    notes: list[str] = []
    with warnings.catch_warnings():
        # Means of nothing but gaps come out as NaN, which is refused by name below.
        warnings.simplefilter("ignore", RuntimeWarning)
        try:
            place = _hourly(path, kind, table, meta, notes)
        except DomainError as error:
            raise FileError(path, str(error)) from error
    notes += sun_notes(place)
    return WeatherImport(place=place, kind=kind, hours=rows, notes=tuple(notes))


def _hourly(
    path: Path, kind: str, table: dict[str, Any], meta: dict[str, Any], notes: list[str]
) -> Place:
    """Return the place of a year of hours."""
    series = _clean(path, table, notes)
    rows = series["temp_air"].size
    month = np.array([month_of_day(day_of_hour(h)) for h in range(rows)])
    climates = tuple(_month(path, series, month == k, k, notes) for k in range(12))
    return _place(
        path,
        kind,
        meta,
        climates,
        notes,
        wind_from_deg=_winter_wind(series, month, climates),
        day_to_day_spread_k=_spread(series["temp_air"], month),
        hours=_kept_hours(series),
    )


def _kept_hours(series: dict[str, FloatArray]) -> HourlyWeather:
    """Return the hours themselves, without a leap day; gaps that were not filled stay gaps."""
    columns = {}
    for column, _, low, high in _COLUMNS:
        if column in series:
            name, factor = _KEPT_AS[column]
            values = series[column]
            if values.size > HOURS_IN_YEAR:
                values = np.delete(values, slice(*_LEAP_DAY_H))
            columns[name] = factor * np.clip(values, low, high)
    return HourlyWeather(columns)


def _monthly(path: Path, table: dict[str, Any], meta: dict[str, Any]) -> WeatherImport:
    notes = ["Twelve months: days are taken to differ by 4 K, winter wind to come from the west."]
    if "rain" not in table:
        notes.append("No rain in the file: 60 mm a month are taken.")
    climates = monthly_climates(path, table)
    place = _place(path, "CSV", meta, climates, notes, wind_from_deg=270.0, day_to_day_spread_k=4.0)
    return WeatherImport(place=place, kind="CSV", hours=0, notes=tuple(notes))


def _place(
    path: Path,
    kind: str,
    meta: dict[str, Any],
    climates: tuple[MonthClimate, ...],
    notes: list[str],
    *,
    wind_from_deg: float,
    day_to_day_spread_k: float,
    hours: HourlyWeather | None = None,
) -> Place:
    last, first = forage_weeks([m.temperature_degc for m in climates])
    notes.append(
        f"Forage weeks guessed from days above {_FORAGE_DEGC:g} °C: last {last}, first {first}; "
        "set what your own flowers say."
    )
    snow_first, snow_last = snow_weeks([m.temperature_degc for m in climates])
    notes.append(
        "Snow is not in the file: "
        + (
            f"weeks {snow_first} to {snow_last} guessed from days below {_SNOW_DEGC:g} °C."
            if snow_first
            else f"none is taken, as no month has days below {_SNOW_DEGC:g} °C."
        )
    )
    try:
        return Place(
            name=plain(str(meta["name"]), 80) or plain(path.stem, 80) or "imported place",
            latitude_deg=meta["latitude"],
            longitude_deg=meta["longitude"],
            altitude_m=meta["altitude"],
            wind_from_deg=wind_from_deg,
            day_to_day_spread_k=day_to_day_spread_k,
            last_forage_week=last,
            first_forage_week=first,
            first_snow_week=snow_first,
            last_snow_week=snow_last,
            months=climates,
            hours=hours,
            source=f"{kind} weather file {plain(path.name, 120)}",
        )
    except DomainError as error:
        raise FileError(path, str(error)) from error


def snow_weeks(monthly_degc: list[float]) -> tuple[int, int]:
    """Return the first and last week in which snow may lie, 0 and 0 for none; a guess.

    Where it freezes all year the weeks are those from the 1st to the 52nd.
    """
    middle = (np.arange(12) + 0.5) * DAYS_IN_YEAR / 12
    days = np.interp(np.arange(DAYS_IN_YEAR), middle, monthly_degc, period=DAYS_IN_YEAR)
    cold = days < _SNOW_DEGC
    if not cold.any():
        return 0, 0
    if cold.all():
        return 1, WEEKS_IN_YEAR
    start = int(np.argmax(cold & ~np.roll(cold, 1)))
    end = int(np.argmax(cold & ~np.roll(cold, -1)))
    return week_of_day(start), week_of_day(end)


def forage_weeks(monthly_degc: list[float]) -> tuple[int, int]:
    """Return the last and the first week with a mean temperature fit for forage; a guess.

    Where it is never too cold, or always, the winter is empty or the whole year but a week.
    """
    middle = (np.arange(12) + 0.5) * DAYS_IN_YEAR / 12
    days = np.interp(np.arange(DAYS_IN_YEAR), middle, monthly_degc, period=DAYS_IN_YEAR)
    fit = days >= _FORAGE_DEGC
    if fit.all():
        coldest = max(1, week_of_day(int(np.argmin(days))) - 1)
        return coldest, min(WEEKS_IN_YEAR, coldest + 1)
    if not fit.any():
        warmest = min(51, max(2, week_of_day(int(np.argmax(days)))))
        return warmest, warmest
    # The day after which the longest unfit spell begins, and the day it ends.
    start = int(np.argmax(fit & ~np.roll(fit, -1)))
    end = int(np.argmax(~np.roll(fit, 1) & fit))
    return week_of_day(start), week_of_day(end)


def _kind(path: Path) -> str:
    with path.open("rb") as stream:
        head = stream.read(4096)
    if path.stat().st_size > _LARGEST_BYTES:
        raise FileError(path, "is larger than 60 MB; an hourly year is about 2 MB")
    text = decoded(head)
    lines = text.splitlines()
    if text.startswith("LOCATION,"):
        return "EPW"
    if len(lines) > 1 and lines[1].startswith("Date (MM/DD/YYYY)"):
        return "TMY3"
    if looks_like_csv(text):
        return "CSV"
    raise FileError(
        path,
        "is neither an EPW nor a TMY3 nor a CSV with a temperature column; Help, File formats "
        "shows each",
    )


def _parse(path: Path, kind: str) -> tuple[dict[str, Any], dict[str, Any], int]:
    """Return the columns, the place's name and coordinates, and the number of rows."""
    if kind == "CSV":
        columns, text, rows = read_columns(path, _LARGEST_BYTES)
        return (
            columns,
            {
                "name": text.get("name", path.stem),
                "latitude": meta_number(path, text, "latitude_deg", 45.0),
                "longitude": meta_number(path, text, "longitude_deg", 0.0),
                "altitude": meta_number(path, text, "altitude_m", 0.0),
            },
            rows,
        )
    from pvlib import iotools  # takes over a second: only when a file is read

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            if kind == "EPW":
                table, meta = iotools.read_epw(str(path))
                name = meta["city"]
            else:
                table, meta = iotools.read_tmy3(str(path), map_variables=True)
                table = table.rename(columns={"TotCld (tenths)": "total_sky_cover"})
                name = meta["Name"]
        place = {
            "name": str(name).strip().strip('"').title(),
            "latitude": float(meta["latitude"]),
            "longitude": float(meta["longitude"]),
            "altitude": float(meta["altitude"]),
        }
        return {column: table[column] for column in table.columns}, place, len(table)
    except Exception as error:  # pvlib raises whatever pandas or a missing key raises
        raise FileError(
            path,
            f"begins like {kind} but cannot be read on ({type(error).__name__}); fetch it anew",
        ) from error


def _clean(path: Path, table: Any, notes: list[str]) -> dict[str, FloatArray]:
    """Return the columns with missing codes removed and short gaps filled."""
    series: dict[str, FloatArray] = {}
    for column, name, low, high in _COLUMNS:
        if column not in table:
            if column in _NEEDED:
                raise FileError(path, f"has no {name}; choose a file with it")
            continue
        values = _numbers(table[column])
        values[~((values >= low) & (values <= high))] = np.nan
        missing = int(np.isnan(values).sum())
        if missing == values.size and column not in _NEEDED:
            notes.append(f"No {name} in the file.")
            continue
        if missing:
            filled, left = _fill(values)
            notes.append(
                f"{name}: {missing} hours missing, {filled} filled between neighbours, "
                f"{left} left out of the means."
            )
        series[column] = values
    if "temp_dew" not in series and "relative_humidity" not in series:
        raise FileError(path, "has neither dew point nor relative humidity; choose another")
    return series


def _numbers(column: Any) -> FloatArray:
    """Return a column as numbers; a cell that holds none is a gap like any other."""
    try:
        return np.array(column, dtype=float)
    except (TypeError, ValueError):
        return np.array([_number(cell) for cell in column])


def _number(cell: Any) -> float:
    try:
        return float(cell)
    except (TypeError, ValueError):
        return np.nan


def _fill(values: FloatArray) -> tuple[int, int]:
    """Fill gaps of up to six hours in place by straight lines; return hours filled and left."""
    bad = np.isnan(values)
    edges = np.flatnonzero(np.diff(np.concatenate([[0], bad.astype(int), [0]])))
    filled = 0
    for start, end in zip(edges[::2], edges[1::2], strict=True):
        if end - start <= _LONGEST_FILLED_H and start > 0 and end < values.size:
            values[start:end] = np.interp(
                np.arange(start, end), [start - 1, end], [values[start - 1], values[end]]
            )
            filled += int(end - start)
    return filled, int(np.isnan(values).sum())


def _vapour(series: dict[str, FloatArray]) -> FloatArray:
    """Return the hourly vapour pressure [Pa].

    Weather stations give dew point and humidity over water also below 0 °C.
    """
    if "temp_dew" in series:
        return saturation_pressure_over_water_pa(series["temp_dew"])
    return saturation_pressure_over_water_pa(series["temp_air"]) * series["relative_humidity"] / 100


def _month(
    path: Path, series: dict[str, FloatArray], at: NDArray[np.bool_], k: int, notes: list[str]
) -> MonthClimate:
    name = MONTH_NAMES[k]
    temperature = series["temp_air"][at]
    vapour = _vapour(series)[at]
    wind = series["wind_speed"][at]
    for what, values in (("temperature", temperature), ("humidity", vapour), ("wind", wind)):
        share = float(np.isfinite(values).mean()) if values.size else 0.0
        if share < _LEAST_SHARE_OF_MONTH:
            raise FileError(
                path,
                f"{name} has {share:.0%} of its hours of {what}, at least "
                f"{_LEAST_SHARE_OF_MONTH:.0%} are needed; choose a fuller file",
            )
    days = temperature[: temperature.size // 24 * 24].reshape(-1, 24)
    full_days = days[np.isfinite(days).all(axis=1)]
    mean = float(np.nanmean(temperature))
    humidity = float(np.nanmean(vapour) / saturation_pressure_pa(mean))
    if humidity > 1:
        notes.append(f"{name}: mean humidity {humidity:.0%} taken as 100 %.")
    return MonthClimate(
        temperature_degc=round(mean, 2),
        daily_swing_k=round(float((full_days.max(axis=1) - full_days.min(axis=1)).mean()), 2),
        relative_humidity=round(min(max(humidity, 0.01), 1.0), 4),
        wind_m_s=round(float(np.nanmean(wind)), 2),
        rain_mm=_rain_mm(series, at),
    )


def _rain_mm(series: dict[str, FloatArray], at: NDArray[np.bool_]) -> float:
    """Return the rain of a month [mm], gaps at the mean of the rest; 60 mm when unknown."""
    if "rain" not in series or not np.any(np.isfinite(series["rain"][at])):
        return 60.0
    return round(float(np.nanmean(series["rain"][at]) * at.sum()), 1)


def _spread(temperature: FloatArray, month: NDArray[np.int_]) -> float:
    """Return the mean standard deviation of daily means within the months [K]."""
    full = temperature.size // 24 * 24
    days = temperature[:full].reshape(-1, 24).mean(axis=1)
    of_month = month[:full:24]
    return round(float(np.mean([np.nanstd(days[of_month == k]) for k in range(12)])), 2)


def _winter_wind(
    series: dict[str, FloatArray], month: NDArray[np.int_], climates: tuple[MonthClimate, ...]
) -> float:
    """Return the bearing the wind comes from in the three coldest months [°]; west if unknown."""
    if "wind_direction" not in series:
        return 270.0
    coldest = np.argsort([m.temperature_degc for m in climates])[:3]
    at = np.isin(month, coldest)
    bearing = np.radians(series["wind_direction"][at])
    speed = series["wind_speed"][at]
    east, north = np.nanmean(speed * np.sin(bearing)), np.nanmean(speed * np.cos(bearing))
    return round(float(np.degrees(np.arctan2(east, north)) % 360.0), 0)
