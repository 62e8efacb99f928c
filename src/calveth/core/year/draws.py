"""How sure the figures of a year are: the same hive with what nobody knows drawn from its ranges.

The draws are the same for every hive (`parameters.draws`), so that what differs between two hives
in a draw differs between the hives. Runs go on two threads: the compiled hours let others run.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core.case import HiveCase
from calveth.core.ends import ends_of
from calveth.core.errors import DomainError
from calveth.core.kept import kept
from calveth.core.nest.steady import NotBalancedError
from calveth.core.parameters import LIKELY, RANGES, Parameters, draws
from calveth.core.year.figures import NAMES, YearFigures, year_figures
from calveth.core.year.result import YearRun

# A source is told that stands out of chance by so many standard deviations of a rank.
_STANDS_OUT = 2.5
_MOST_DRAWS = 2000

FloatArray = NDArray[np.float64]

DRAWS, SEED = 64, 20
"""How many draws there are usually, and where they begin; as for the months."""
STAGES = (0, 8, DRAWS)
"""What a page shows: as likely at once, a first range, then all draws; each begins the next."""


def next_stage(count: int, stages: Sequence[int]) -> int | None:
    """Return how many draws come after so many, None after the last."""
    return next((more for more in stages if more > count), None)


REPORT_DRAWS = 8
"""Draws for the printed report."""
_THREADS = 2


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class YearBands:
    """Figures of a year, as likely and in every draw.

    Attributes
    ----------
    case : HiveCase
    likely : YearFigures
    values : array [D, F]
        Of each draw, in the order of `figures.NAMES`; none with ``count`` 0.
    parameters : tuple of Parameters
        The draws [D].
    trouble : str
        Why the likely year has no answer; then every figure is NaN. Empty when it has one.
    unsettled_hours : int
        Hours of the likely year whose air came to no rest.
    """

    case: HiveCase
    likely: YearFigures
    values: FloatArray
    parameters: tuple[Parameters, ...]
    trouble: str = ""
    unsettled_hours: int = 0

    def of(self, name: str) -> FloatArray:
        """Return a figure in every draw [D]."""
        columns: FloatArray = self.values[:, NAMES.index(name)]
        return columns

    def band(self, name: str) -> tuple[float, float]:
        """Return the 10th and 90th of a hundred; the likely figure where there are no draws.

        The likely figure belongs to it.
        """
        likely = float(getattr(self.likely, name))
        values = self.of(name)
        values = values[np.isfinite(values)]
        if values.size == 0 or self.trouble:
            return likely, likely
        low, high = (float(v) for v in ends_of(values))
        return (min(low, likely), max(high, likely)) if np.isfinite(likely) else (low, high)

    def share(self, name: str, holds: Callable[[float], bool]) -> float:
        """Return in which share of the draws a figure is as asked."""
        return float(np.mean([holds(float(v)) for v in self.of(name)])) if self.values.size else 0.0

    def comes_from(self, name: str) -> list[tuple[str, float]]:
        """Return the inputs a band comes from, the strongest first: rank correlations (Spearman).

        Of some forty inputs chance alone would show one beyond two standard errors: only
        those beyond two and a half are named.
        """
        from scipy.stats import rankdata

        figure = self.of(name)
        if figure.size < 8 or not np.isfinite(figure).all() or np.ptp(figure) == 0.0:
            return []
        rank = rankdata(figure)
        sources = []
        for key in RANGES:
            given = rankdata([getattr(p, key) for p in self.parameters])
            sources.append((key, float(np.corrcoef(given, rank)[0, 1])))
        least = _STANDS_OUT / np.sqrt(figure.size - 1)
        return sorted((f for f in sources if abs(f[1]) > least), key=lambda f: -abs(f[1]))


def drawn_years(
    case: HiveCase, count: int, report: Callable[[float], None] = lambda _: None
) -> list[YearRun]:
    """Return the years of hives built alike, by the draws all comparisons share.

    Draws no bees live through are left out.
    """
    from calveth.core.year.run import run_year

    runs = []
    for number, parameters in enumerate(draws(count, SEED), start=1):
        try:
            runs.append(run_year(case.drawn(parameters)))
        except NotBalancedError:
            continue
        report(number / count)
    return runs


def year_bands(
    cases: Sequence[HiveCase],
    count: int = DRAWS,
    report: Callable[[float], None] = lambda _: None,
    threads: int = _THREADS,
) -> list[YearBands]:
    """Return the years of hives with ``count`` draws each; none are drawn with 0.

    ``report`` is told the share that is done; it may raise to stop.

    Raises
    ------
    DomainError
        When there are too many draws or fewer than none.
    """
    if not 0 <= count <= _MOST_DRAWS:
        raise DomainError("draws", count, "cannot be; use 0 to 2000")
    made = draws(count, SEED) if count else ()
    jobs = [case.drawn(p) for case in cases for p in (LIKELY, *made)]
    rows: list[tuple[YearFigures, str, int]] = []
    with ThreadPoolExecutor(threads) as pool:
        asked = [pool.submit(_figures, job) for job in jobs]
        try:
            for number, future in enumerate(asked, start=1):
                rows.append(future.result())
                report(number / len(jobs))
        except BaseException:
            # Whoever called it off does not wait for what has not begun.
            pool.shutdown(wait=False, cancel_futures=True)
            raise
    bands = []
    for n, case in enumerate(cases):
        own = rows[n * (count + 1) : (n + 1) * (count + 1)]
        values = np.array([[getattr(f, name) for name in NAMES] for f, _, _ in own[1:]])
        bands.append(
            YearBands(
                case=case,
                likely=own[0][0],
                values=values.reshape(count, len(NAMES)),
                parameters=made,
                trouble=own[0][1],
                unsettled_hours=own[0][2],
            )
        )
    return bands


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptYear:
    """What is kept of `YearBands`: all but the case and the draws, which are known."""

    likely: YearFigures
    values: FloatArray
    trouble: str
    unsettled_hours: int


def kept_year_bands(
    cases: Sequence[HiveCase], count: int, report: Callable[[float], None] = lambda _: None
) -> list[YearBands]:
    """Return the years of solved hives as `year_bands` does; what was asked before is read."""
    rows = []
    for number, case in enumerate(cases):

        def work(case: HiveCase = case, number: int = number) -> KeptYear:
            done = year_bands([case], count, lambda s: report((number + s) / len(cases)))[0]
            return KeptYear(
                likely=done.likely,
                values=done.values,
                trouble=done.trouble,
                unsettled_hours=done.unsettled_hours,
            )

        solved = case.shells(case.design).solved
        known = kept(KeptYear, (*case.key, count, solved), work)
        rows.append(
            YearBands(
                case=case,
                likely=known.likely,
                values=known.values,
                parameters=draws(count, SEED) if count else (),
                trouble=known.trouble,
                unsettled_hours=known.unsettled_hours,
            )
        )
        report((number + 1) / len(cases))
    return rows


def _figures(case: HiveCase) -> tuple[YearFigures, str, int]:
    """Return the figures of a year and its unsettled hours; NaN and why where it has no answer."""
    # The compiler's library takes half a second to load; nothing else waits for it.
    from calveth.core.year.run import run_year

    try:
        run = run_year(case)
        return year_figures(run), "", run.unsettled_hours
    except NotBalancedError as error:
        return YearFigures(**dict.fromkeys(NAMES, float("nan"))), str(error), 0


def less_in(one: YearBands, two: YearBands, name: str) -> float:
    """Return in which share of the draws a figure is less for the first hive than the second."""
    a, b = one.of(name), two.of(name)
    both = np.isfinite(a) & np.isfinite(b)
    if not both.any():
        return 0.5
    return float((a[both] < b[both]).mean() + 0.5 * (a[both] == b[both]).mean())
