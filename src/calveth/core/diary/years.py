"""The years inspections are held against: of each design in each winter, in its own weather."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import HiveCase, estimated_case
from calveth.core.constants_bees import BEES_OF_SEAM
from calveth.core.diary.expected import expected_stores_kg, stores_before
from calveth.core.diary.season import logged_place, logged_seasons, season_of
from calveth.core.diary.sensor_readings import SensorReadings, sensor_readings
from calveth.core.ends import ends_of
from calveth.core.hive.forms import StackedBoxes
from calveth.core.parameters import scaled
from calveth.core.project import Project
from calveth.core.records.diary import Inspection, StandingHive
from calveth.core.year.draws import drawn_years
from calveth.core.year.result import YearRun

# Shares of a year are told in twentieths.
_STEPS = 20

DRAWS = 8
TYPICAL = 0
"""The season whose weather nobody logged: the usual year of the place."""
YearKey = tuple[str, int, float | None, float]
"""Id of a design, the season or `TYPICAL`, the bearing a hive faces (None: as the place), and how
many times the bees of the project it has (`bees_by_seams`)."""
_LEAST_BEES, _MOST_BEES = 0.3, 3.0


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SeasonYear:
    """A year as likely, and what hives built alike would tell, once ``ranged``.

    Those may be none: where every draw of them would suffocate.
    """

    run: YearRun
    alike: tuple[SensorReadings, ...] = ()
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
    bees = bees_by_seams(project, look.hive, season)
    return hive_key(project.diary.hive(look.hive), season if season in known else TYPICAL, bees)


def hive_key(hive: StandingHive, season: int = TYPICAL, bees_times: float = 1.0) -> YearKey:
    """Return the year of a hive in a season, with so many times the bees of the project."""
    return hive.design, season, hive.facing_deg, bees_times


def bees_by_seams(project: Project, hive_id: str, season: int) -> float:
    """Return how many times the bees of the project a hive had in a season, by the seams seen [-].

    The median over its inspections, to a twentieth; 1 where nobody counted, or the hive has no
    frames that seams could lie between.
    """
    form = project.design(project.diary.hive(hive_id).design).form
    if not isinstance(form, StackedBoxes):
        return 1.0
    seam_kg = BEES_OF_SEAM.value * form.frame_length_m * form.frame_height_m
    place, curve = project.place, project.colony.mass_kg
    ratios = [
        look.seams * seam_kg / curve[look.when.month - 1]
        for look in project.diary.of_hive(hive_id)
        if look.seams and season_of(place, look.when.date()) == season
    ]
    if not ratios:
        return 1.0
    share = min(max(float(np.median(ratios)), _LEAST_BEES), _MOST_BEES)
    return round(_STEPS * share) / _STEPS


def season_case(
    project: Project,
    design_id: str,
    season: int,
    facing_deg: float | None = None,
    bees_times: float = 1.0,
) -> HiveCase:
    """Return a design in the weather of a season, facing its own way, with its bees, solved."""
    case = solved_case(estimated_case(project, project.design(design_id)), spots=False)[0]
    place = case.place
    if season != TYPICAL:
        place = logged_place(project.place, project.diary, season).place
    if facing_deg is not None:
        place = replace(place, facing_deg=facing_deg)
    if bees_times != 1.0:
        case = replace(case, parameters=scaled(case.parameters, {"bees_factor": bees_times}))
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
    alike = tuple(sensor_readings(r) for r in drawn_years(run.case, draws, report))
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
    low, high = ends_of(values)
    return float(low), float(high)
