"""Where the hive stands, said once."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from calveth.core.calendar import (
    DAYS_IN_MONTH,
    day_after_week,
    days_between,
    days_by_month,
    first_day_of_week,
)
from calveth.core.climate.hours import HourlyWeather
from calveth.core.climate.shade import Shade
from calveth.core.constants import WARM_MONTH
from calveth.core.errors import (
    DomainError,
    require_between,
    require_choice,
    require_note,
    require_text,
)
from calveth.core.remembered import remembered

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
    rain_mm : float
        Rain of the month on level ground [mm].
    """

    temperature_degc: float
    daily_swing_k: float
    relative_humidity: float
    wind_m_s: float
    rain_mm: float = 60.0

    def __post_init__(self) -> None:
        require_between("temperature", self.temperature_degc, -45, 50, "°C")
        require_between("daily swing", self.daily_swing_k, 0, 35, "K")
        require_between("relative humidity", self.relative_humidity, 0.01, 1.0, "share")
        require_between("wind", self.wind_m_s, 0, 30, "m/s")
        require_between("rain", self.rain_mm, 0, 3000, "mm")


@dataclass(frozen=True, slots=True, kw_only=True)
class WinterRoom:
    """A shed or cellar the hives stand in for some months.

    Attributes
    ----------
    first_month, last_month : int
        1 to 12; the months run over the turn of the year when the first is the later.
    temperature_degc, relative_humidity : float
        Air of the room.
    hives : int
        Colonies in it.
    target_co2 : float
        CO2 of the room that is not to be passed, share by volume.
    """

    first_month: int = 11
    last_month: int = 3
    temperature_degc: float = 5.0
    relative_humidity: float = 0.375
    hives: int = 40
    target_co2: float = 0.005

    def __post_init__(self) -> None:
        for name, month in (("first", self.first_month), ("last", self.last_month)):
            require_between(f"{name} month of the winter room", month, 1, 12)
        require_between("room temperature", self.temperature_degc, -20, 30, "°C")
        require_between("room relative humidity", self.relative_humidity, 0.05, 1, "share")
        require_between("hives in the room", self.hives, 1, 5000)
        require_between("CO2 of the room", self.target_co2, 0.0006, 0.2, "share")

    def holds(self, month: int) -> bool:
        """Return whether the hives stand in the room in a month (0 to 11)."""
        number = month + 1
        if self.first_month <= self.last_month:
            return self.first_month <= number <= self.last_month
        return number >= self.first_month or number <= self.last_month


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
    side_shelter : tuple of str
        What stands before front, right, back and left, empty when it is the same all round.
    first_snow_week, last_snow_week : int
        Weeks in which snow or ice may close a low entrance, 0 for none.
    snow_brushed : bool
        Whether snow is brushed off the lids.
    coldest_night_degc : float or None
        The coldest night to be expected; None takes two and a half spreads under the mean night.
    storm_wind_m_s : float
        Base wind of the storm that comes once in 50 years: ten minutes' mean, 10 m over open land
        (EN 1991-1-4); 25 is an estimate for lowland in the middle of Europe [m/s].
    room : WinterRoom or None
        Where the hives stand in winter, None outdoors all year.
    shade : Shade or None
        Hills and trees round the hive, None on open land.
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
    side_shelter: tuple[Shelter, ...] = ()
    first_snow_week: int = 0
    last_snow_week: int = 0
    snow_brushed: bool = False
    coldest_night_degc: float | None = None
    storm_wind_m_s: float = 25.0
    room: WinterRoom | None = None
    shade: Shade | None = None
    last_forage_week: int
    first_forage_week: int
    months: tuple[MonthClimate, ...]
    hours: HourlyWeather | None = None
    source: str

    def __post_init__(self) -> None:
        require_text("place name", self.name)
        require_note("source of the climate", self.source)
        require_between("storm wind", self.storm_wind_m_s, 10, 60, "m/s")
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
        require_between("first snow week", self.first_snow_week, 0, 52)
        require_between("last snow week", self.last_snow_week, 0, 52)
        if (self.first_snow_week == 0) != (self.last_snow_week == 0):
            raise DomainError(
                "snow weeks", self.first_snow_week, "need a first and a last week, or 0 for both"
            )
        if self.coldest_night_degc is not None:
            require_between("coldest night", self.coldest_night_degc, -60, 30, "°C")
        if len(self.side_shelter) not in (0, 4):
            raise DomainError("shelter by side", len(self.side_shelter), "sides given; name four")
        for shelter in self.side_shelter:
            require_choice("shelter by side", shelter, get_args(Shelter))
        if len(self.months) != 12:
            raise DomainError("months", len(self.months), "months given; a year has 12")

    def shelter_of(self, side: str) -> Shelter:
        """Return what stands before a wall of the hive."""
        if not self.side_shelter:
            return self.shelter
        return self.side_shelter[("front", "right", "back", "left").index(side)]

    def coldest_night(self) -> float:
        """Return the coldest night to be expected [°C]."""
        if self.coldest_night_degc is not None:
            return self.coldest_night_degc
        month = self.months[coldest_month(self)]
        night = month.temperature_degc - month.daily_swing_k / 2
        # No colder than the field takes, whatever spread is given with a cold month.
        return max(-60.0, night - COLDEST_NIGHT_SPREADS * self.day_to_day_spread_k)


COLD_NIGHT_SPREADS = 1.2816
"""One night in ten of a normal spread is colder than the mean night less so many spreads."""
COLDEST_NIGHT_SPREADS = 2.5
"""The coldest night of a winter lies this many spreads under the mean night: about one night in a
hundred and sixty of a normal spread is colder."""


@remembered(64)
def days_with_snow(place: Place) -> tuple[float, ...]:
    """Return for each month the days that fall into the snow weeks."""
    if place.first_snow_week == 0:
        return (0.0,) * 12
    first, end = first_day_of_week(place.first_snow_week), day_after_week(place.last_snow_week)
    return days_by_month(days_between(first, end))


@remembered(64)
def winter_days(place: Place) -> tuple[int, ...]:
    """Return the days (0 to 364) between the last and the first forage week, in their order.

    The winter starts with the day after the last forage week and ends with the day before the
    first one; it may run over the turn of the year (northern winter) or not (southern winter).
    """
    first, end = day_after_week(place.last_forage_week), first_day_of_week(place.first_forage_week)
    return tuple(days_between(first, end))


@remembered(64)
def days_without_forage(place: Place) -> tuple[float, ...]:
    """Return for each month the days without forage (`winter_days`)."""
    return days_by_month(iter(winter_days(place)))


def has_forage(place: Place, month: int) -> bool:
    """Return whether most of a month (0 to 11) brings forage."""
    return days_without_forage(place)[month] < DAYS_IN_MONTH[month] / 2


def warm_months(place: Place) -> tuple[bool, ...]:
    """Return which of the twelve months are as warm as `WARM_MONTH`: walls are dry and warm."""
    return tuple(month.temperature_degc >= WARM_MONTH.value for month in place.months)


def coldest_month(place: Place) -> int:
    """Return the month 0 to 11 with the lowest mean temperature."""
    temperatures = [month.temperature_degc for month in place.months]
    return temperatures.index(min(temperatures))
