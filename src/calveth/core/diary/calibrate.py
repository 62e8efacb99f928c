"""Calibration: the four factors a log can tell of, by least squares with their priors.

Factors on leakage, bees, mixing under the lid and the conductance of the layers are fitted in
their logarithm to the nights of all logs (Gauss-Newton with a trust region,
`scipy.optimize.least_squares`), from three starts, as leakage has valleys of its own; what a probe
is off by for good is a nuisance, nights that hang together count less. The interval is that of the
profile for the leakage, of the curvature for the others. It speaks only where the data narrow the
prior; else it says what the log cannot tell.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from math import exp
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from calveth.core.case import HiveCase
from calveth.core.diary.misfit import Seen, residuals
from calveth.core.errors import CalvethError, DomainError
from calveth.core.parameters import Parameters, scaled
from calveth.core.year.result import YearRun
from calveth.core.year.run import run_year

FloatArray = NDArray[np.float64]

Factor = Literal["leakage", "bees", "mixing", "shell"]
FACTORS: tuple[Factor, ...] = ("leakage", "bees", "mixing", "shell")
FIELDS: dict[Factor, str] = {
    "leakage": "leakage_factor",
    "bees": "bees_factor",
    "mixing": "mixing_nest_crown_w_k",
    "shell": "shell_factor",
}
PRIOR: dict[Factor, float] = {"leakage": 0.86, "bees": 0.25, "mixing": 0.5, "shell": 0.10}
"""One sigma of the logarithm of each factor: joints are good to a factor of three (8 of 10)."""
_STARTS = (0.0, -0.7, 0.7)
_STEP = 3e-2
_MOST_RUNS = 8
_PROFILE = np.linspace(-1.4, 1.4, 7)
_NINETY = 1.645
MODEL_ERROR = 1.6
"""How many times as wide intervals are as the same model would make them [-]; estimate (1.3 to 2).

Real hives differ from the model in what the four factors do not change; see docs/method.md."""
_SPEAKS, LEAST_NIGHTS = 0.5, 14
# What a run that no bees live through is from what was seen.
_IMPOSSIBLE = 30.0
_THREADS = 2


@dataclass(frozen=True, slots=True, kw_only=True)
class FactorEstimate:
    """A factor: the most likely value, its 90 % interval, and how far the prior was narrowed.

    ``narrowed`` is the width of what is left over that of the prior, of the logarithms.
    """

    factor: Factor
    value: float
    low: float
    high: float
    narrowed: float

    @property
    def tells(self) -> bool:
        """Whether the log says something: narrower than half the prior, and not one."""
        return self.narrowed < _SPEAKS and not self.low <= 1.0 <= self.high

    @property
    def confirms(self) -> bool:
        """Whether the log says that the factor is near what was taken."""
        return self.narrowed < _SPEAKS and self.low <= 1.0 <= self.high


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Calibration:
    """What a season's logs of a hive tell."""

    factors: tuple[FactorEstimate, ...]
    nights: int
    quantities: tuple[str, ...]
    misfit_before: float
    misfit_after: float

    def of(self, factor: Factor) -> FactorEstimate:
        """Return one of the factors."""
        return next(f for f in self.factors if f.factor == factor)


@dataclass(frozen=True, slots=True, eq=False)
class _Problem:
    """The residuals of a point of the four logarithms, priors among them; runs are counted."""

    case: HiveCase
    seen: Seen
    report: Callable[[float], None]
    count: list[int]

    def run(self, point: FloatArray) -> YearRun | None:
        """Return the year at a point [4]; None where no bees would live."""
        self.count[0] += 1
        self.report(min(self.count[0] / 150.0, 0.99))
        try:
            return run_year(replace(self.case, parameters=at_point(self.case.parameters, point)))
        except CalvethError:
            return None

    def residual(self, point: FloatArray) -> FloatArray:
        """Return the residuals [R] at a point [4], the priors last [-]."""
        run = self.run(point)
        size = sum(c.nights for c in self.seen.channels) + len(self.seen.channels)
        data = residuals(self.seen, run) if run is not None else np.full(size, _IMPOSSIBLE)
        return np.concatenate([data, point / _sigmas()])

    def slopes(self, point: FloatArray) -> FloatArray:
        """Return the growth of the residuals [R, 4] with each logarithm, two runs at a time.

        To both sides, and of the two the lesser: where the air of a night tips over, the jump is
        on one side alone and is no slope.
        """
        steps = _STEP * np.eye(point.size)
        points = [point, *(point + row for row in steps), *(point - row for row in steps)]
        with ThreadPoolExecutor(_THREADS) as pool:
            rows = list(pool.map(self.residual, points))
        here, n = rows[0], point.size
        up = np.column_stack([(row - here) / _STEP for row in rows[1 : n + 1]])
        down = np.column_stack([(here - row) / _STEP for row in rows[n + 1 :]])
        lesser = np.where(np.abs(up) < np.abs(down), up, down)
        return np.where(up * down > 0.0, lesser, 0.0)


def _sigmas() -> FloatArray:
    return np.array([PRIOR[f] for f in FACTORS])


def at_point(base: Parameters, point: Sequence[float] | FloatArray) -> Parameters:
    """Return parameters with factors by their logarithms [4], kept within what is possible."""
    return scaled(base, {FIELDS[f]: exp(float(s)) for f, s in zip(FACTORS, point, strict=True)})


def calibrate(
    case: HiveCase, seen: Seen, report: Callable[[float], None] = lambda _: None
) -> Calibration:
    """Return what the logs of a hive tell about its factors.

    Raises
    ------
    DomainError
        When there are too few nights to learn from.
    """
    from scipy.optimize import least_squares

    if seen.nights < LEAST_NIGHTS:
        raise DomainError(
            "nights of logs",
            seen.nights,
            f"tell nothing; log {LEAST_NIGHTS} nights or more in the time without forage",
        )
    problem = _Problem(case, seen, report, [0])
    bounds = 2.5 * _sigmas()
    # Along the leakage the misfit may have more than one valley: it is entered from three sides.
    best, cost = np.zeros(len(FACTORS)), np.inf
    for start in _STARTS:
        first = np.array([start, 0.0, 0.0, 0.0])
        answer = least_squares(
            problem.residual,
            first,
            jac=problem.slopes,
            bounds=(-bounds, bounds),
            x_scale=_sigmas(),
            xtol=1e-2,
            ftol=5e-3,
            max_nfev=_MOST_RUNS,
        )
        if answer.cost < cost - 1e-6:
            best, cost = answer.x, float(answer.cost)
    slopes = problem.slopes(best)
    spread = np.sqrt(np.diag(np.linalg.pinv(slopes.T @ slopes)))
    before = problem.residual(np.zeros(len(FACTORS)))
    low, high, width = _profile(problem, best, slopes, 2.0 * cost)
    calibrations = []
    for k, factor in enumerate(FACTORS):
        sigma = float(spread[k])
        ends = (best[k] - _NINETY * sigma, best[k] + _NINETY * sigma)
        # Along the leakage the misfit is no parabola: its profile is followed instead.
        if factor == "leakage":
            ends, sigma = (min(low, best[k]), max(high, best[k])), width
        # A model that is not the hive is surer of itself than it may be.
        ends = (
            best[k] + MODEL_ERROR * (ends[0] - best[k]),
            best[k] + MODEL_ERROR * (ends[1] - best[k]),
        )
        calibrations.append(
            FactorEstimate(
                factor=factor,
                value=exp(float(best[k])),
                low=exp(float(ends[0])),
                high=exp(float(ends[1])),
                narrowed=min(sigma / PRIOR[factor], 1.0),
            )
        )
    quantities = tuple(dict.fromkeys(c.log.quantity for c in seen.channels))
    return Calibration(
        factors=tuple(calibrations),
        nights=seen.nights,
        quantities=quantities,
        misfit_before=float(before @ before),
        misfit_after=2.0 * cost,
    )


def _profile(
    problem: _Problem, best: FloatArray, slopes: FloatArray, least: float
) -> tuple[float, float, float]:
    """Return the 90 % interval of ln leakage and half its width as a sigma.

    At each of seven values the others are taken at their best by the slopes there are; between the
    values its root is a straight line, as of a parabola.
    """
    others = slopes[:, 1:]
    solve = np.linalg.pinv(others)
    points, costs = [float(best[0])], [least]
    for value in _PROFILE + best[0] / 2.0:
        point = best.copy()
        point[0] = value
        # The others follow the leakage first as the slopes say.
        left = problem.residual(point)
        left = left - others @ (solve @ left)
        points.append(float(value))
        costs.append(float(left @ left))
    order = np.argsort(points)
    x, y = np.array(points)[order], np.array(costs)[order]
    fine = np.linspace(x[0], x[-1], 1401)
    above = np.interp(fine, x, np.sqrt(np.maximum(y - y.min(), 0.0))) ** 2
    inside = fine[above <= _NINETY**2]
    low, high = (float(inside[0]), float(inside[-1])) if inside.size else (x[0], x[-1])
    return low, high, (high - low) / (2.0 * _NINETY)


def factors_of(calibration: Calibration) -> dict[str, float]:
    """Return the factors that can be taken over: those the log tells, the others as they are."""
    return {f.factor: f.value for f in calibration.factors if f.tells}
