"""A hive of the diary in a season: the case to work out, and what was seen of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from calveth.core.case import HiveCase
from calveth.core.diary.calibrate import Calibration, calibrate
from calveth.core.diary.explain import Explained, explain
from calveth.core.diary.misfit import Seen, seen_of
from calveth.core.diary.season import LoggedPlace, logged_place, logged_seasons, season_of
from calveth.core.diary.years import TYPICAL, bees_by_seams, hive_key, season_case
from calveth.core.errors import DomainError
from calveth.core.project import Project
from calveth.core.year.result import YearRun


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class HiveSeason:
    """A hive, the season it is looked at in, and its weather as far as it was logged."""

    project: Project
    hive: str
    season: int
    weather: LoggedPlace

    @property
    def design(self) -> str:
        """Id of the design the hive was built from."""
        return self.project.diary.hive(self.hive).design

    def case(self) -> HiveCase:
        """Return the case of the hive in the season's weather, its shell solved."""
        hive = self.project.diary.hive(self.hive)
        return season_case(
            self.project,
            *hive_key(
                hive,
                self.season if self.weather.hours else TYPICAL,
                bees_by_seams(self.project, self.hive, self.season),
            ),
        )

    def seen(self, run: YearRun) -> Seen:
        """Return what was seen of it in the season."""
        return seen_of(self.project.diary, self.hive, self.project.place, self.season, run)

    def explained(self, report: Callable[[float], None] = lambda _: None) -> Explained:
        """Return why it differs from what was expected.

        Raises
        ------
        DomainError
            When nothing was seen of it in the season.
        """
        explained = explain(self.case(), self.seen, report)
        if self.seen(explained.run).is_empty:
            raise DomainError(
                f"season {self.season} of {self.project.diary.hive(self.hive).name}",
                "nothing",
                "was seen or logged; look into it, or read a log",
            )
        return explained

    def calibrated(self, run: YearRun, report: Callable[[float], None]) -> Calibration:
        """Return what its logs tell of the factors; ``run`` is the season as it was expected.

        Raises
        ------
        DomainError
            When there are too few nights.
        """
        return calibrate(run.case, self.seen(run), report)


def seasons_of(project: Project, hive: str) -> list[int]:
    """Return the seasons in which a hive was logged or looked into, the first one first."""
    diary, place = project.diary, project.place
    looked = {season_of(place, i.when.date()) for i in diary.of_hive(hive)}
    mine = replace(diary, logs=diary.logs_of(hive))
    return sorted(looked | set(logged_seasons(place, mine)))


def hive_season(project: Project, hive: str, season: int | None = None) -> HiveSeason:
    """Return a hive in a season, the last one something was seen in unless one is named.

    Raises
    ------
    DomainError
        For a season in which nothing was seen.
    """
    known = seasons_of(project, hive)
    name = project.diary.hive(hive).name
    if not known:
        raise DomainError(f"diary of {name}", "nothing", "is in it; look into the hive first")
    if season is not None and season not in known:
        raise DomainError(
            "season", season, f"of {name} is empty; there are {', '.join(map(str, known))}"
        )
    chosen = known[-1] if season is None else season
    weather = logged_place(project.place, project.diary, chosen)
    return HiveSeason(project=project, hive=hive, season=chosen, weather=weather)
