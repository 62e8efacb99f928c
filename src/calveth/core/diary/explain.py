"""Why a hive differs from what was expected: explanations a keeper would try, each as a change.

Every one is a change of the model and a run of the same season; it is ranked by how much better it
explains what was seen, less what believing it costs. Two of them are told apart by the
observation they say the most different things about.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from calveth.core.assess.shells import solved_case
from calveth.core.case import HiveCase
from calveth.core.climate.air import saturation_pressure_unchecked_pa
from calveth.core.climate.hours import HourlyWeather
from calveth.core.climate.place import Place
from calveth.core.climate.year import year_weather
from calveth.core.diary.misfit import Seen, misfit
from calveth.core.errors import CalvethError
from calveth.core.hive.season_plan import Setting
from calveth.core.parameters import scaled
from calveth.core.year import columns as cl
from calveth.core.year.figures import honey_by_day
from calveth.core.year.result import YearRun, is_winter
from calveth.core.year.run import run_year
from calveth.core.year.sweeps import entrance_of

FloatArray = NDArray[np.float64]

Why = Literal[
    "as worked out", "leaks more", "leaks less", "rim bridge", "wet insulation", "fewer bees",
    "more bees", "entrance blocked", "windier", "sheltered", "wetter air", "probe off",
]  # fmt: skip
_COST = 3.0
"""What believing in a change costs, as a sum of squares: e^-1.5, a fifth as likely; estimate."""
_SIZES: dict[Why, tuple[str, tuple[float, ...]]] = {
    "leaks more": ("leakage_factor", (1.5, 2.5, 4.0)),
    "leaks less": ("leakage_factor", (0.65, 0.4)),
    "wet insulation": ("shell_factor", (1.1, 1.2)),
    "fewer bees": ("bees_factor", (0.85, 0.7)),
    "more bees": ("bees_factor", (1.15, 1.3)),
    "windier": ("wind_factor", (1.2, 1.4)),
    "sheltered": ("wind_factor", (0.8, 0.65)),
}
"""Which figure a reason multiplies, and by how much it is tried."""
_BLOCKED, _WETTER = 0.1, (0.04, 0.08)

Test = Literal["lid", "nest", "floor", "humidity", "co2", "honey", "wet nights"]
_SURE: dict[Test, float] = {
    "lid": 0.7, "nest": 0.7, "floor": 0.7, "humidity": 0.05, "co2": 0.15, "honey": 0.35,
    "wet nights": 15.0,
}  # fmt: skip
"""How sure a keeper's look is: K, share, ln of CO2, kg in four weeks on a scale, nights."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Explanation:
    """One explanation: its misfit with what believing it costs, and what it would have shown.

    ``times`` is by how much something is more or less, 1 where that says nothing.
    """

    why: Why
    times: float
    cost: float
    shows: tuple[tuple[Test, float], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Difference:
    """The look that tells two explanations apart: what each says, and by how many sigmas."""

    one: Why
    two: Why
    test: Test
    says: tuple[float, float]
    sigmas: float


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Explained:
    """Explanations from the best to the worst, and the year as it was worked out."""

    ranked: tuple[Explanation, ...]
    run: YearRun
    difference: Difference | None

    @property
    def gain(self) -> float:
        """By how much the best one explains more than the hive as it was worked out."""
        as_is = next(e.cost for e in self.ranked if e.why == "as worked out")
        return as_is - self.ranked[0].cost


def changed_cases(case: HiveCase) -> list[tuple[Why, float, HiveCase]]:
    """Return the hive with each change in each size; those that do not apply are left out."""
    found: list[tuple[Why, float, HiveCase]] = [
        (why, times, replace(case, parameters=scaled(case.parameters, {name: times})))
        for why, (name, sizes) in _SIZES.items() for times in sizes
    ]  # fmt: skip
    found += [("wetter air", 1.0, replace(case, place=_wetter(case.place, more)))
              for more in _WETTER]  # fmt: skip
    made: list[tuple[Why, Callable[[], HiveCase]]] = [
        ("rim bridge", lambda: _bridged(case)), ("entrance blocked", lambda: _blocked(case)),
    ]  # fmt: skip
    for why, make in made:
        try:
            found.append((why, 1.0, make()))
        except CalvethError:
            continue  # a hive that has no lid of layers, or no entrance
    return found


def explain(
    case: HiveCase,
    seen_by: Callable[[YearRun], Seen],
    report: Callable[[float], None] = lambda _: None,
) -> Explained:
    """Return the explanations of what was seen of a hive in a season, each in its best size.

    ``case`` has the weather of the season and a solved shell; ``seen_by`` returns what was seen,
    given the year as it was worked out; ``report`` is told the share that is done.
    """
    run = run_year(case)
    seen = seen_by(run)
    best = {"as worked out": _explanation("as worked out", 1.0, misfit(seen, run), run)}
    for channel in seen.channels[:1]:
        cost = _COST + misfit(seen, run, free=channel.log.id)
        best["probe off"] = _explanation("probe off", 1.0, cost, run)
    changes = changed_cases(case)
    for k, (why, times, changed) in enumerate(changes):
        report((k + 1) / (len(changes) + 1))
        try:
            other = run_year(changed)
        except CalvethError:
            continue  # no bees would live so
        cost = _COST + misfit(seen, other)
        if why not in best or cost < best[why].cost:
            best[why] = _explanation(why, times, cost, other)
    ranked = tuple(sorted(best.values(), key=lambda e: e.cost))
    return Explained(ranked=ranked, run=run, difference=tell_apart(ranked))


def _explanation(why: Why, times: float, cost: float, run: YearRun) -> Explanation:
    return Explanation(why=why, times=times, cost=cost, shows=tuple(shows(run).items()))


def shows(run: YearRun) -> dict[Test, float]:
    """Return what a keeper with instruments would find in the coldest weeks of a year."""
    winter = np.flatnonzero(is_winter(run.case.place))
    if winter.size == 0:
        winter = np.arange(365)
    cold = winter[np.argsort(run.weather.temperature_degc.reshape(365, 24).mean(axis=1)[winter])]
    days = cold[: max(winter.size // 3, 1)]
    night = (days[:, None] * 24 + np.arange(6)[None, :]).ravel()
    s = run.series
    degc = s[night, cl.S_T + 2]
    humid = s[night, cl.S_P + 2] / saturation_pressure_unchecked_pa(degc)
    film = run.series[:, cl.S_FILM].reshape(365, 24)[winter, :6].mean(axis=1)
    wet = film > 1e-3 * max(float(run.areas_m2[0]), 1e-9)
    return {
        "lid": float(degc.mean()),
        "nest": float(s[night, cl.S_T + 1].mean()),
        "floor": float(s[night, cl.S_T].mean()),
        "humidity": float(np.minimum(humid, 1.0).mean()),
        "co2": float(s[night, cl.S_CO2 + 1].mean()),
        "honey": 28.0 * float(honey_by_day(run)[days].mean()),
        "wet nights": float(wet.sum()),
    }


def tell_apart(ranked: Sequence[Explanation]) -> Difference | None:
    """Return the look the two best explanations differ most about; None where none does."""
    if len(ranked) < 2:
        return None
    one, two = ranked[0], ranked[1]
    a, b = dict(one.shows), dict(two.shows)
    best: Difference | None = None
    for test, sure in _SURE.items():
        gap = np.log(a[test] / b[test]) if test == "co2" else a[test] - b[test]
        sigmas = abs(float(gap)) / sure
        if best is None or sigmas > best.sigmas:
            best = Difference(one=one.why, two=two.why, test=test, says=(a[test], b[test]),
                              sigmas=sigmas)  # fmt: skip
    return best if best is not None and best.sigmas >= 1.0 else None


def _with(case: HiveCase, **changes: float) -> HiveCase:
    return replace(case, parameters=replace(case.parameters, **changes))


def _wetter(place: Place, more: float) -> Place:
    """Return a place whose air holds more: that much more of saturation, at every hour."""
    base = year_weather(replace(place, room=None))
    degc = base.temperature_degc
    share = base.vapour_pressure_pa / saturation_pressure_unchecked_pa(degc)
    columns = {} if place.hours is None else {
        name: np.asarray(values, dtype=float)
        for name, values in place.hours.columns.items() if name != "dew_point_degc"
    }  # fmt: skip
    columns["temperature_degc"] = degc
    columns["relative_humidity"] = np.minimum(share + more, 1.0)
    return replace(place, hours=HourlyWeather(columns))


def _bridged(case: HiveCase) -> HiveCase:
    """Return the hive with its lid's insulation ending inside a rim of boards."""
    joinery = case.design.joinery
    if joinery.lid == "board on the rim":
        return _with(case, shell_factor=1.1 * case.parameters.shell_factor)
    other = replace(case.design, joinery=replace(joinery, lid="board on the rim"))
    return solved_case(case.of(other), spots=False)[0]


def _blocked(case: HiveCase) -> HiveCase:
    """Return the hive with its entrance all but shut by dead bees, ice or snow."""
    key = entrance_of(case.design)
    openings = tuple(
        replace(o, free_share=_BLOCKED * o.free_share) if o.id == key else o
        for o in case.design.openings
    )

    def shut(setting: Setting) -> Setting:
        shares = dict(setting.open_shares)
        return setting.with_share(key, _BLOCKED * shares[key]) if key in shares else setting

    plan = case.design.seasons.each(shut)
    return case.of(replace(case.design, openings=openings, seasons=plan))
