"""What a hive was expected to show at an hour of its year, and how it agrees with what was seen."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

import numpy as np

from calveth.core import constants_year as y
from calveth.core.calendar import DAYS_IN_YEAR, HOURS_IN_DAY
from calveth.core.climate.place import Place, winter_days
from calveth.core.diary.sensor_readings import SensorReadings
from calveth.core.records.diary import (
    LID_CELLS,
    SIGNS_OF_WET,
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
_MOULD_WEEKS = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class Expected:
    """What the year of a hive has at an hour: marks as an inspection has them, and the air.

    ``walls`` are of front, right, back, left, each from above; ``was_wet`` says of middle and rim
    of the lid whether they were damp for a day or more in the eight weeks before, so that mould may
    grow; ``outside_degc`` and ``nest_degc`` are air [°C], ``co2`` is by volume.
    """

    lid: tuple[Mark, ...]
    walls: tuple[Mark, ...]
    floor: Mark
    was_wet: tuple[bool, bool] = (False, False)
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
    # Of a wall the hours know its middle by the side it looks to; top and foot are those of all.
    for film in side_films_kg_m2(run)[:, hour]:
        walls += [mark(2, float(film)), mark(3), mark(4)]
    return Expected(
        lid=tuple(middle if k == MIDDLE_CELL else rim for k in range(LID_CELLS)),
        walls=tuple(walls),
        floor=mark(5),
        was_wet=_was_wet(run, hour),
        outside_degc=float(run.weather.temperature_degc[hour]),
        nest_degc=float(row[cl.S_T + 1]),
        co2=float(row[cl.S_CO2]),
    )


def _was_wet(run: YearRun, hour: int) -> tuple[bool, bool]:
    """Return whether middle and rim of the lid were damp for a day or more in the weeks before."""
    # Round the end of the year: it begins as it ends.
    before = (hour - np.arange(_MOULD_WEEKS * 7 * HOURS_IN_DAY)) % (DAYS_IN_YEAR * HOURS_IN_DAY)
    films = run.series[before][:, cl.S_FILM : cl.S_FILM + 2] / np.maximum(run.areas_m2[:2], 1e-9)
    damp = (films > DAMP_SHARE * y.SEEN_FILM.value).sum(axis=0) >= HOURS_IN_DAY
    return bool(damp[0]), bool(damp[1])


def as_expected(seen: Mark, expected: Mark, *, was_wet: bool = False) -> bool:
    """Return whether a place is as it was expected: with signs of water where there is some.

    A film that is only damp agrees with dry too: a hand feels it or does not. Mould is as expected
    where it ``was_wet`` long enough before.
    """
    if expected == "damp" or (seen == "mould" and was_wet):
        return True
    return (seen in SIGNS_OF_WET) == (expected in SIGNS_OF_WET)


def lid_as_expected(seen: Inspection, expected: Expected) -> list[tuple[int, bool]]:
    """Return the cells of the lid that were looked at, each with whether it is as expected."""
    middle, rim = expected.was_wet
    return [
        (k, as_expected(s, e, was_wet=middle if k == MIDDLE_CELL else rim))
        for k, (s, e) in enumerate(zip(seen.lid, expected.lid, strict=True))
        if s != "not looked"
    ]


def expected_stores_kg(
    run: YearRun | SensorReadings, start: datetime, stores_kg: float, when: datetime
) -> float:
    """Return what is left of stores [kg] that were hefted at one hour, at a later one.

    What the year of the hive burns in between is taken off, and nothing is added for forage.
    """
    if when < start:
        return stores_kg
    day = run.honey_day if isinstance(run, SensorReadings) else honey_by_day(run)
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
    earlier = [
        i
        for i in diary.of_hive(look.hive)
        if i.stores_kg is not None and begins <= i.when < look.when
    ]
    return earlier[-1] if earlier else None


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
    looked = []
    for seen, expected in pairs:
        if not seen.looked_at_lid:
            continue
        differs = [seen.lid[k] for k, agrees in lid_as_expected(seen, expected) if not agrees]
        # One cell that differs makes a lid that differs, and then it was expected the other way.
        wet = any(mark in SIGNS_OF_WET for mark in (differs or seen.lid))
        looked.append((wet if not differs else not wet, wet))
    return Agreement(
        wet_and_wet=looked.count((True, True)),
        wet_but_dry=looked.count((True, False)),
        dry_but_wet=looked.count((False, True)),
        dry_and_dry=looked.count((False, False)),
    )


def share_interval(count: int, of: int) -> tuple[float, float]:
    """Return the 95 % interval of a share seen ``count`` times of ``of``: Clopper and Pearson 1934.

    >>> [round(100 * v) for v in share_interval(7, 8)]
    [47, 100]
    """
    from scipy.stats import binomtest

    if of <= 0:
        return 0.0, 1.0
    interval = binomtest(count, of).proportion_ci(0.95, method="exact")
    return float(interval.low), float(interval.high)


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

    A hive counts for a winter it went into with a colony once somebody has seen it alive after it,
    or dead, or it is lost: what nobody looked at says nothing. The first dead look ends it.
    """
    outcomes: dict[str, list[bool]] = {}
    for hive in diary.hives:
        looks = diary.of_hive(hive.id)
        dead = next((i.when.date() for i in looks if i.alive is False), None)
        if dead is None and hive.fate == "lost":
            dead = date.fromisoformat(hive.until)
        alive = [
            i.when.date() for i in looks if is_alive(i) and (dead is None or i.when.date() < dead)
        ]
        for winter in _winters(hive, today, dead):
            # Alive on 1 April; a look in March says that it was not dead yet, no more.
            out = date(winter + 1, 4, 1)
            if any(day >= out for day in alive):
                outcomes.setdefault(hive.design, []).append(True)
            elif dead is not None:
                outcomes.setdefault(hive.design, []).append(False)
                break
    return [
        Survival(design=d, winters=len(came), alive=sum(came))
        for d, came in sorted(outcomes.items())
    ]


def is_alive(look: Inspection) -> bool:
    """Return whether an inspection has seen living bees: said so, or brood, seams, traffic."""
    if look.alive is not None:
        return look.alive
    busy = look.entrance in ("few", "many", "fanning", "hanging out")
    return busy or look.brood in ("some", "plenty") or bool(look.seams)


def _winters(hive: StandingHive, today: date, dead: date | None) -> list[int]:
    """Return the years in whose November a hive went alive into a winter that began by today."""
    first = date.fromisoformat(hive.since).year
    last = min(date.fromisoformat(hive.until) if hive.until else today, today)
    return [
        year
        for year in range(first, last.year + 1)
        if hive.stands_on(date(year, 11, 1))
        and date(year, 11, 1) <= last
        and (dead is None or date(year, 11, 1) < dead)
    ]
