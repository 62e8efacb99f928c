"""What a hive was expected to show at an hour of its year, and how it agrees with what was seen."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

import numpy as np

from calveth.core import constants_year as y
from calveth.core.calendar import DAYS_IN_YEAR, HOURS_IN_DAY
from calveth.core.climate.place import Place, winter_days
from calveth.core.diary.told import Told
from calveth.core.records.diary import (
    LID_CELLS,
    WET_MARKS,
    Diary,
    Inspection,
    Mark,
    StandingHive,
)
from calveth.core.year import columns as cl
from calveth.core.year.figures import honey_by_day, side_films_kg_m2
from calveth.core.year.result import YearRun

MIDDLE_CELL = 4
DAMP_SHARE = 0.2
"""Film, of one that is seen, from which a hand feels it damp; estimate."""
_ICY = 0.5
_OCTOBER = 273


@dataclass(frozen=True, slots=True, kw_only=True)
class Expected:
    """What the year of a hive has at an hour: marks as an inspection has them, and the air.

    ``walls`` are of front, right, back, left, each from above; ``outside_degc`` and ``nest_degc``
    are air [°C], ``co2`` is by volume.
    """

    lid: tuple[Mark, ...]
    walls: tuple[Mark, ...]
    floor: Mark
    outside_degc: float
    nest_degc: float
    co2: float


def hour_of_year(when: datetime) -> int:
    """Return the hour of a year without a leap day, 0 to 8759; 29 February counts as the 28th."""
    day = (date(2001, when.month, min(when.day, 28) if when.month == 2 else when.day)).timetuple()
    return (day.tm_yday - 1) * HOURS_IN_DAY + when.hour


def expected_at(run: YearRun, when: datetime) -> Expected:
    """Return what a year has at a local hour, its surfaces as marks."""
    hour = hour_of_year(when)
    row = run.series[hour]
    films = row[cl.S_FILM : cl.S_FILM + 7] / np.maximum(run.areas_m2, 1e-9)
    degc = row[cl.S_TS : cl.S_TS + 7]

    def mark(k: int, film: float | None = None) -> Mark:
        film = float(films[k]) if film is None else film
        if run.areas_m2[k] <= 0.0 or film < DAMP_SHARE * y.SEEN_FILM.value:
            return "dry"
        if film < y.SEEN_FILM.value:
            return "damp"
        return "ice" if degc[k] < -_ICY else "wet"

    rim, middle = mark(1), mark(0)
    walls: list[Mark] = []
    for film in side_films_kg_m2(run)[:, hour]:
        walls += [mark(2, float(film)), mark(3), mark(4)]
    return Expected(
        lid=tuple(middle if k == MIDDLE_CELL else rim for k in range(LID_CELLS)),
        walls=tuple(walls), floor=mark(5),
        outside_degc=float(run.weather.temperature_degc[hour]),
        nest_degc=float(row[cl.S_T + 1]), co2=float(row[cl.S_CO2]),
    )  # fmt: skip


def expected_stores_kg(
    run: YearRun | Told, start: datetime, stores_kg: float, when: datetime
) -> float:
    """Return what is left of stores [kg] that were hefted at one hour, at a later one.

    What the year of the hive burns in between is taken off, and nothing is added for forage.
    """
    if when < start:
        return stores_kg
    day = run.honey_day if isinstance(run, Told) else honey_by_day(run)
    first, days = hour_of_year(start) // HOURS_IN_DAY, (when.date() - start.date()).days
    index = (first + np.arange(days)) % DAYS_IN_YEAR
    return stores_kg - float(day[index].sum())


def winter_begins(place: Place, when: datetime) -> datetime:
    """Return the noon on which forage ended last before an hour."""
    days = winter_days(place)
    first = days[0] if days else _OCTOBER
    for year in (when.year, when.year - 1):
        begins = datetime(year, 1, 1, 12) + timedelta(days=first)
        if begins <= when:
            return begins
    return begins


def stores_before(diary: Diary, place: Place, look: Inspection) -> Inspection | None:
    """Return the inspection whose stores those of another follow from: the last of its winter.

    None when nothing was hefted since forage ended: what it brought nobody knows.
    """
    begins = winter_begins(place, look.when)
    found = [
        i for i in diary.of_hive(look.hive)
        if i.stores_kg is not None and begins <= i.when < look.when
    ]  # fmt: skip
    return found[-1] if found else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Agreement:
    """Lids that were looked at, by whether they were expected wet and were found so."""

    wet_and_wet: int
    wet_but_dry: int
    dry_but_wet: int
    dry_and_dry: int

    @property
    def count(self) -> int:
        """Inspections that were compared."""
        return self.wet_and_wet + self.wet_but_dry + self.dry_but_wet + self.dry_and_dry

    @property
    def agreed(self) -> int:
        """How many agreed."""
        return self.wet_and_wet + self.dry_and_dry


def is_wet(marks: Iterable[Mark]) -> bool:
    """Return whether any cell is wet or iced."""
    return any(mark in WET_MARKS for mark in marks)


def agreement(pairs: Sequence[tuple[Inspection, Expected]]) -> Agreement:
    """Return how lids that were looked at agree with what was expected of them."""
    looked = [(is_wet(e.lid), is_wet(i.lid)) for i, e in pairs if i.looked_at_lid]
    return Agreement(
        wet_and_wet=looked.count((True, True)), wet_but_dry=looked.count((True, False)),
        dry_but_wet=looked.count((False, True)), dry_and_dry=looked.count((False, False)),
    )  # fmt: skip


def share_interval(count: int, of: int) -> tuple[float, float]:
    """Return the 95 % interval of a share seen ``count`` times of ``of``: Clopper and Pearson 1934.

    >>> [round(100 * v) for v in share_interval(7, 8)]
    [47, 100]
    """
    from scipy.stats import binomtest

    if of <= 0:
        return 0.0, 1.0
    found = binomtest(count, of).proportion_ci(0.95, method="exact")
    return float(found.low), float(found.high)


@dataclass(frozen=True, slots=True, kw_only=True)
class Survival:
    """Winters that hives of one design went into, and came out of."""

    design: str
    winters: int
    alive: int

    @property
    def interval(self) -> tuple[float, float]:
        """The 95 % interval of the share that came through."""
        return share_interval(self.alive, self.winters)


def survival(diary: Diary, today: date) -> list[Survival]:
    """Return by design how many winters (1 November to 1 April) hives came through.

    A hive counts for a winter it went into with a colony once that winter is over or it is lost.
    """
    found: dict[str, list[bool]] = {}
    for hive in diary.hives:
        for winter in _winters(hive, today):
            lost = hive.fate == "lost" and date.fromisoformat(hive.until) <= date(winter + 1, 4, 1)
            found.setdefault(hive.design, []).append(not lost)
    return [
        Survival(design=d, winters=len(came), alive=sum(came)) for d, came in sorted(found.items())
    ]


def _winters(hive: StandingHive, today: date) -> list[int]:
    """Return the years in whose November a hive went into a winter whose end is known."""
    first = date.fromisoformat(hive.since).year
    last = date.fromisoformat(hive.until) if hive.until else today
    winters = []
    for year in range(first, last.year + 1):
        into, out = date(year, 11, 1), date(year + 1, 4, 1)
        over = last >= out or (hive.fate == "lost" and last >= into)
        if hive.stands_on(into) and over:
            winters.append(year)
    return winters
