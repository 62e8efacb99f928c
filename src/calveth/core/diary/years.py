"""The years inspections are held against: of each design in each winter, in its own weather."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from calveth.core.assess.shells import solved_case
from calveth.core.case import HiveCase, estimated_case
from calveth.core.diary.expected import expected_stores_kg, stores_before
from calveth.core.diary.season import logged_place, logged_seasons, season_of
from calveth.core.diary.told import Told, told_of
from calveth.core.project import Project
from calveth.core.records.diary import Inspection, StandingHive
from calveth.core.year.draws import HIGH, LOW, drawn_years
from calveth.core.year.result import YearRun

DRAWS = 8
TYPICAL = 0
"""The season whose weather nobody logged: the usual year of the place."""
YearKey = tuple[str, int, float | None]
"""Id of a design, the season or `TYPICAL`, and the bearing a hive faces (None: as the place)."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SeasonYear:
    """A year as likely, and what hives built alike would tell, once ``ranged``.

    Those may be none: where every draw of them would suffocate.
    """

    run: YearRun
    alike: tuple[Told, ...] = ()
    ranged: bool = False


def weathered(project: Project) -> frozenset[int]:
    """Return the seasons whose outdoor air was logged for two days or more."""
    place, diary = project.place, project.diary
    mine = replace(diary, logs=tuple(g for g in diary.logs if g.at == "outside"))
    return frozenset(
        s for s in logged_seasons(place, mine) if logged_place(place, diary, s).hours > 0
    )


def year_key(project: Project, look: Inspection, known: frozenset[int]) -> YearKey:
    """Return the year an inspection is held against."""
    season = season_of(project.place, look.when.date())
    return hive_key(project.diary.hive(look.hive), season if season in known else TYPICAL)


def hive_key(hive: StandingHive, season: int = TYPICAL) -> YearKey:
    """Return the year of a hive in a season."""
    return hive.design, season, hive.facing_deg


def season_case(
    project: Project, design_id: str, season: int, facing_deg: float | None = None
) -> HiveCase:
    """Return a design in the weather of a season, facing its own way, its shell solved."""
    case = solved_case(estimated_case(project, project.design(design_id)), spots=False)[0]
    place = case.place
    if season != TYPICAL:
        place = logged_place(project.place, project.diary, season).place
    if facing_deg is not None:
        place = replace(place, facing_deg=facing_deg)
    return case if place is case.place else replace(case, place=place)


def season_year(
    case: HiveCase, draws: int = DRAWS, report: Callable[[float], None] = lambda _: None
) -> SeasonYear:
    """Return a year and what ``draws`` hives built alike would tell."""
    # The compiler's library loads with it: nothing waits for that before a year is asked for.
    from calveth.core.year.run import run_year

    run = run_year(case)
    report(1.0 / (draws + 1))
    return with_alike(run, draws, report)


def with_alike(
    run: YearRun, draws: int = DRAWS, report: Callable[[float], None] = lambda _: None
) -> SeasonYear:
    """Return a year with its range."""
    alike = tuple(told_of(r) for r in drawn_years(run.case, draws, report))
    return SeasonYear(run=run, alike=alike, ranged=True)


def stores_beside(
    project: Project, look: Inspection, year: SeasonYear
) -> tuple[float | None, tuple[float, float] | None]:
    """Return the stores that were expected at an inspection [kg], and the range of them.

    None where nothing was hefted before in that winter.
    """
    last = stores_before(project.diary, project.place, look)
    if last is None:
        return None, None
    had = float(last.stores_kg or 0.0)
    likely = expected_stores_kg(year.run, last.when, had, look.when)
    return likely, _range([expected_stores_kg(t, last.when, had, look.when) for t in year.alike])


def _range(values: Sequence[float]) -> tuple[float, float] | None:
    if not values:
        return None
    low, high = np.quantile(values, (LOW, HIGH))
    return float(low), float(high)
