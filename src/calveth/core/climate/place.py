"""Where the hive stands, said once."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from calveth.core.errors import DomainError, require_between, require_choice, require_text

MONTH_NAMES = (
    "January", "February", "March", "April", "May", "June",
    "July", "August", "September", "October", "November", "December",
)  # fmt: skip
DAYS_IN_MONTH = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)

Terrain = Literal["open water or plain", "farmland", "village or orchard", "forest"]
Shelter = Literal["open", "normal", "sheltered"]


@dataclass(frozen=True, slots=True, kw_only=True)
class MonthClimate:
    """Means of one calendar month.

    Attributes
    ----------
    temperature_degc : float
        Mean outside temperature [°C].
    daily_swing_k : float
        Mean difference between the warmest and the coldest hour of a day [K].
    relative_humidity : float
        Mean vapour pressure over saturation at the mean temperature, 0 to 1
        (over ice below 0 °C, as EN ISO 13788 has it).
    wind_m_s : float
        Mean wind speed at 10 m over open land [m/s].
    """

    temperature_degc: float
    daily_swing_k: float
    relative_humidity: float
    wind_m_s: float

    def __post_init__(self) -> None:
        require_between("temperature", self.temperature_degc, -45, 50, "°C")
        require_between("daily swing", self.daily_swing_k, 0, 35, "K")
        require_between("relative humidity", self.relative_humidity, 0.01, 1.0)
        require_between("wind", self.wind_m_s, 0, 30, "m/s")


@dataclass(frozen=True, slots=True, kw_only=True)
class Place:
    """A place with its year.

    Attributes
    ----------
    altitude_m : float
        Above sea level [m]; sets the air pressure.
    terrain : str
        Ground roughness between the weather mast and the apiary.
    shelter : str
        What stands around the hive: sets how much of the wind presses on it.
    facing_deg, wind_from_deg : float
        Compass bearings [°] the front looks to, and the winter wind comes from.
    day_to_day_spread_k : float
        Standard deviation of daily mean temperatures within a month [K].
    last_forage_week, first_forage_week : int
        Last week of income in autumn and first in spring, 1 to 52.
    months : tuple of 12 MonthClimate
        January first.
    source : str
        Where the figures come from.
    """

    name: str
    latitude_deg: float
    longitude_deg: float
    altitude_m: float
    terrain: Terrain = "village or orchard"
    shelter: Shelter = "normal"
    facing_deg: float = 135.0
    wind_from_deg: float = 270.0
    day_to_day_spread_k: float = 4.0
    last_forage_week: int
    first_forage_week: int
    months: tuple[MonthClimate, ...]
    source: str

    def __post_init__(self) -> None:
        require_text("place name", self.name)
        require_between("latitude", self.latitude_deg, -90, 90, "°")
        require_between("longitude", self.longitude_deg, -180, 180, "°")
        require_between("altitude", self.altitude_m, -430, 5000, "m")
        require_choice("terrain", self.terrain, get_args(Terrain))
        require_choice("shelter", self.shelter, get_args(Shelter))
        require_between("facing", self.facing_deg, 0, 360, "°")
        require_between("wind bearing", self.wind_from_deg, 0, 360, "°")
        require_between("day-to-day spread", self.day_to_day_spread_k, 0, 15, "K")
        require_between("last forage week", self.last_forage_week, 1, 52)
        require_between("first forage week", self.first_forage_week, 1, 52)
        if len(self.months) != 12:
            raise DomainError("months", len(self.months), "months given; a year has 12")


def days_without_forage(place: Place) -> tuple[float, ...]:
    """Return for each month the days that fall between the last and the first forage week.

    The winter starts with the day after the last forage week and ends with the day before the
    first one; it may run over the turn of the year (northern winter) or not (southern winter).
    """
    first_day = place.last_forage_week * 7
    last_day = (place.first_forage_week - 1) * 7
    days = [0.0] * 12
    day = first_day % 365
    while day != last_day % 365:
        days[month_of_day(day)] += 1.0
        day = (day + 1) % 365
    return tuple(days)


def has_forage(place: Place, month: int) -> bool:
    """Return whether most of a month (0 to 11) brings forage."""
    return days_without_forage(place)[month] < DAYS_IN_MONTH[month] / 2


def coldest_month(place: Place) -> int:
    """Return the month 0 to 11 with the lowest mean temperature."""
    temperatures = [month.temperature_degc for month in place.months]
    return temperatures.index(min(temperatures))


def month_of_day(day_of_year: int) -> int:
    """Return the month index 0 to 11 of a day 0 to 364 of a year without a leap day."""
    for month, length in enumerate(DAYS_IN_MONTH):
        if day_of_year < length:
            return month
        day_of_year -= length
    raise DomainError("day of the year", day_of_year, "is past the end of December")
