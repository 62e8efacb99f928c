"""What is to be done and when: acts of the season plans, hefting, looks after findings."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Literal

from calveth.core.calendar import DAYS_IN_YEAR
from calveth.core.climate.place import Place, winter_days
from calveth.core.diary.expected import expected_stores_kg, is_wet, winter_begins
from calveth.core.hive.season_plan import SeasonPlan, Setting
from calveth.core.records.diary import Diary, StandingHive
from calveth.core.year.result import YearRun

Kind = Literal["plan", "heft", "look again", "feed"]
HEFT_DAYS = ((12, 15), (2, 1), (3, 15))
"""Days of a winter on which stores are hefted; common practice, no source."""
LOOK_AGAIN_DAYS = 21
"""After a wet lid it is looked at again; common practice, no source."""
RESERVE_KG = 4.0
"""Stores under which a colony is fed: what it burns in three weeks of early brood; common
practice, 3 to 6 kg, no source."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Due:
    """One act.

    Attributes
    ----------
    day : date
    hive : StandingHive
    kind : Kind
    before, setting : Setting or None
        Of a plan: how the hive is set until then and after.
    expected_kg : float or None
        Stores the year expects, to be hefted against [kg].
    key : str
        By which it is ticked.
    """

    day: date
    hive: StandingHive
    kind: Kind
    before: Setting | None = None
    setting: Setting | None = None
    expected_kg: float | None = None

    @property
    def key(self) -> str:
        """The key an act is ticked by."""
        return f"{self.day.isoformat()}/{self.hive.id}/{self.kind}"


def due_acts(
    diary: Diary,
    place: Place,
    stores_kg: float,
    plans: Mapping[str, SeasonPlan],
    runs: Mapping[str, YearRun],
    begins: date,
    days: int = DAYS_IN_YEAR,
) -> list[Due]:
    """Return what is due from a day on, in the order of days.

    ``stores_kg`` is what colonies have when forage ends [kg]; ``plans`` are those of the designs
    by id; ``runs`` the years of the hives by their ids, as far as they are known: without one
    stores are hefted without a figure to heft against.
    """
    ends = begins + timedelta(days=days)
    acts: list[Due] = []
    for hive in diary.hives:
        acts += _plan(hive, plans[hive.design], begins, ends)
        acts += _hefts((diary, place, stores_kg), hive, runs.get(hive.id), begins, ends)
        acts += _looks(diary, hive, begins, ends)
    kept = [act for act in acts if act.hive.stands_on(act.day)]
    return sorted(kept, key=lambda act: (act.day, act.hive.name, act.kind))


def _plan(hive: StandingHive, plan: SeasonPlan, begins: date, ends: date) -> list[Due]:
    acts = []
    periods = plan.periods
    for k, period in enumerate(periods):
        if len(periods) < 2:
            break  # one setting all year: nothing is done
        for year in range(begins.year, ends.year + 1):
            day = date(year, 1, 1) + timedelta(days=_leap_safe(year, period.from_day) - 1)
            if begins <= day < ends:
                acts.append(
                    Due(
                        day=day,
                        hive=hive,
                        kind="plan",
                        before=periods[k - 1].setting,
                        setting=period.setting,
                    )
                )
    return acts


def _leap_safe(year: int, day: int) -> int:
    """Return the day of a real year for one of 365: after February it is a day more."""
    leap = (date(year, 12, 31) - date(year, 1, 1)).days == DAYS_IN_YEAR
    return day + 1 if leap and day > 59 else day


def _hefts(
    of: tuple[Diary, Place, float],
    hive: StandingHive,
    run: YearRun | None,
    begins: date,
    ends: date,
) -> list[Due]:
    diary, place, stores_kg = of
    bare = set(winter_days(place))
    hefted = [i for i in diary.of_hive(hive.id) if i.stores_kg is not None]
    acts = []
    for year in range(begins.year, ends.year + 1):
        for month, dom in HEFT_DAYS:
            day = date(year, month, dom)
            number = (date(2001, month, dom) - date(2001, 1, 1)).days
            if not begins <= day < ends or number not in bare:
                continue
            last = [i for i in hefted if i.when.date() <= day]
            expected = None
            if run is not None:
                noon = datetime(year, month, dom, 12)
                start, kg = winter_begins(place, noon), stores_kg
                if last and last[-1].when >= start:
                    start, kg = last[-1].when, float(last[-1].stores_kg or 0.0)
                expected = expected_stores_kg(run, start, kg, noon)
            acts.append(Due(day=day, hive=hive, kind="heft", expected_kg=expected))
            if expected is not None and expected < RESERVE_KG:
                acts.append(Due(day=day, hive=hive, kind="feed", expected_kg=expected))
    return acts


def _looks(diary: Diary, hive: StandingHive, begins: date, ends: date) -> list[Due]:
    acts = []
    seen = diary.of_hive(hive.id)
    for k, inspection in enumerate(seen):
        again = inspection.when.date() + timedelta(days=LOOK_AGAIN_DAYS)
        later = any(i.looked_at_lid for i in seen[k + 1 :])
        if is_wet(inspection.lid) and not later and begins <= again < ends:
            acts.append(Due(day=again, hive=hive, kind="look again"))
    return acts
