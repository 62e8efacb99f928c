"""The years the diary holds inspections against, worked out beside the window as they are asked."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import Executor
from functools import partial

from PySide6.QtCore import QObject, Signal

from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.results import Results
from calveth.core.diary.years import (
    DRAWS,
    TYPICAL,
    SeasonYear,
    YearKey,
    season_case,
    weathered,
    with_alike,
)
from calveth.core.errors import CalvethError, CancelledError
from calveth.core.project import Project
from calveth.core.year.result import YearRun


class SeasonYears(QObject):
    """Keeps a year for each design and season; what is asked for first comes first.

    As likely at once, then the range of hives built alike. A year belongs to the values it was
    worked out from: after an edit that changes them it is asked anew.

    Signals
    -------
    came()
        A year is there, or its range.
    """

    came = Signal()

    def __init__(self, document: Document, results: Results, executor: Executor | None) -> None:
        super().__init__()
        self._document, self._results = document, results
        self.jobs = Jobs(executor)
        self._years: dict[tuple[object, ...], SeasonYear] = {}
        self._waiting: list[tuple[tuple[object, ...], YearKey]] = []
        self._ranged: set[tuple[object, ...]] = set()
        self._troubles: dict[tuple[object, ...], str] = {}
        self._known: tuple[object, frozenset[int]] | None = None

    def seasons(self) -> frozenset[int]:
        """Return the seasons whose weather was logged."""
        logs = self._document.project.diary.logs
        if self._known is None or self._known[0] != logs:
            self._known = (logs, weathered(self._document.project))
        return self._known[1]

    def get(self, key: YearKey, *, ranged: bool = False) -> SeasonYear | None:
        """Return a year; None while it is worked out. ``ranged`` asks for its range too."""
        full_key = self._whole(key)
        season = self._years.get(full_key)
        if full_key in self._troubles:
            return None
        if season is None or (ranged and not season.ranged):
            self._want(full_key, key, ranged=ranged)
        return season

    def _whole(self, key: YearKey) -> tuple[object, ...]:
        project, (design, season, facing, bees) = self._document.project, key
        logs = (
            () if season == TYPICAL else tuple(g for g in project.diary.logs if g.at == "outside")
        )
        return (self._results.values_of(design), season, facing, bees, logs)

    def _want(self, full_key: tuple[object, ...], key: YearKey, *, ranged: bool) -> None:
        if ranged:
            self._ranged.add(full_key)
        if all(known != full_key for known, _ in self._waiting):
            self._waiting.append((full_key, key))
        self._next()

    def _next(self) -> None:
        """Work on the first that is waited for; years without any go before ranges."""
        if not self.jobs.idle():
            return  # whoever heard of the last year has begun the next
        known = {d.id for d in self._document.project.designs}
        self._waiting = [
            (full_key, key)
            for full_key, key in self._waiting
            if key[0] in known
            and self._whole(key) == full_key
            and (
                full_key not in self._years
                or (full_key in self._ranged and not self._years[full_key].ranged)
            )
            and full_key not in self._troubles
        ]
        if not self._waiting:
            return
        bare = [pair for pair in self._waiting if pair[0] not in self._years]
        full_key, key = (bare or self._waiting)[0]
        project = self._document.project
        if bare:
            self.jobs.run(partial(_likely, project, key), partial(self._likely_came, full_key))
        else:
            run, report = self._years[full_key].run, self.jobs.reporter()
            self.jobs.run(partial(_alike, run, report), partial(self._alike_came, full_key))

    def trouble(self, key: YearKey) -> str:
        """Return why there is no such year; empty where there is, or it comes."""
        return self._troubles.get(self._whole(key), "")

    def _likely_came(self, full_key: tuple[object, ...], answer: object) -> None:
        if isinstance(answer, YearRun):
            self._years[full_key] = SeasonYear(run=answer)
            self._forget()
        else:
            self._troubles[full_key] = str(answer)
        self.came.emit()
        self._next()

    def _alike_came(self, full_key: tuple[object, ...], answer: object) -> None:
        assert isinstance(answer, SeasonYear)
        self._years[full_key] = answer
        self.came.emit()
        self._next()

    def _forget(self) -> None:
        """Let go of the oldest years: each has its hours."""
        while len(self._years) > _MOST:
            del self._years[next(iter(self._years))]


_MOST = 24


def _likely(project: Project, key: YearKey) -> YearRun | str:
    """Return a year, or why there is none: that is an answer too, and not asked for again."""
    from calveth.core.year.run import run_year

    try:
        return run_year(season_case(project, *key))
    except CancelledError:
        raise
    except CalvethError as error:
        return str(error)


def _alike(run: YearRun, report: Callable[[float], None]) -> SeasonYear:
    return with_alike(run, DRAWS, report)
