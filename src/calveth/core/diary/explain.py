"""Why a hive differs from what was expected: explanations a keeper would try, each as a change.

Every one is a change of the model and a run of the same season; it is ranked by how much better it
explains what was seen, less what believing it costs. Two of them are told apart by the
observation they say the most different things about.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from math import inf
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import HiveCase
from calveth.core.climate.air import saturation_pressure_unchecked_pa
from calveth.core.climate.hours import HourlyWeather
from calveth.core.climate.place import Place
from calveth.core.climate.year import year_weather
from calveth.core.diary.misfit import Seen, Unexpected, misfit, unexpected
from calveth.core.errors import CalvethError
from calveth.core.hive.season_plan import Setting
from calveth.core.parameters import draws, scaled
from calveth.core.year import columns as cl
from calveth.core.year.figures import honey_by_day
from calveth.core.year.result import YearRun, is_winter
from calveth.core.year.run import run_year
from calveth.core.year.sweeps import entrance_of

FloatArray = NDArray[np.float64]

Why = Literal[
    "as worked out",
    "leaks more",
    "leaks less",
    "rim bridge",
    "wet insulation",
    "fewer bees",
    "more bees",
    "entrance blocked",
    "windier",
    "sheltered",
    "wetter air",
    "probe off",
]
_COST = 3.0
"""What believing in a change costs, as a sum of squares: e^-1.5, a fifth as likely; estimate."""
NOT_ENOUGH = 3.0
"""Less gained than this, and no reason is named."""
_MOST_WINS = 0.5
_TRIED_AGAIN, _DRAWS, _SEED = 3, 8, 24
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
    "lid": 0.7,
    "nest": 0.7,
    "floor": 0.7,
    "humidity": 0.05,
    "co2": 0.15,
    "honey": 0.35,
    "wet nights": 15.0,
}
"""How sure a keeper's look is: K, share, ln of CO2, kg in four weeks on a scale, nights."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Explanation:
    """One explanation: its misfit with what believing it costs, and what it would have shown.

    ``times`` is by how much something is more or less, 1 where that says nothing. ``wins`` is the
    share of hives built alike (what nobody knows of them drawn within its ranges) in which it
    explains better than none; it was not asked of those far behind, and is 0 there.
    """

    why: Why
    times: float
    cost: float
    shows: tuple[tuple[Test, float], ...]
    wins: float = 0.0


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
    """Explanations from the best to the worst, and the year as it was worked out.

    ``unexpected`` are the places the year as it was worked out does not expect so, ``unexplained``
    those that the best explanation does not expect so either. ``alike`` is the least misfit of
    hives built alike without any reason.
    """

    ranked: tuple[Explanation, ...]
    run: YearRun
    difference: Difference | None
    unexpected: tuple[Unexpected, ...] = ()
    unexplained: tuple[Unexpected, ...] = ()
    alike: float = inf

    @property
    def named(self) -> bool:
        """Whether the best explanation may be called the reason.

        It explains more than the hive as it was worked out, and than any of the hives built alike,
        and in most of those too: else what nobody knows of the hive is reason enough.
        """
        best = self.ranked[0]
        enough = self.gain >= NOT_ENOUGH and best.cost + NOT_ENOUGH <= self.alike
        return best.why != "as worked out" and enough and best.wins > _MOST_WINS

    @property
    def gain(self) -> float:
        """By how much the best one explains more than the hive as it was worked out."""
        as_is = next(e.cost for e in self.ranked if e.why == "as worked out")
        return as_is - self.ranked[0].cost


def changed_cases(case: HiveCase) -> list[tuple[Why, float, HiveCase]]:
    """Return the hive with each change in each size; those that do not apply are left out."""
    cases: list[tuple[Why, float, HiveCase]] = [
        (why, times, replace(case, parameters=scaled(case.parameters, {name: times})))
        for why, (name, sizes) in _SIZES.items()
        for times in sizes
    ]
    cases += [
        ("wetter air", 1.0, replace(case, place=_wetter(case.place, more))) for more in _WETTER
    ]
    made: list[tuple[Why, Callable[[], HiveCase]]] = [
        ("rim bridge", lambda: _bridged(case)),
        ("entrance blocked", lambda: _blocked(case)),
    ]
    for why, make in made:
        try:
            cases.append((why, 1.0, make()))
        except CalvethError:
            continue  # a hive that has no lid of layers, or no entrance
    return cases


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
    runs: dict[Why, tuple[int, YearRun]] = {}
    # A probe that reads wrong explains anything: only the first may, at the price of any reason.
    for channel in seen.channels[:1]:
        cost = _COST + misfit(seen, run, free=channel.log.id)
        best["probe off"] = _explanation("probe off", 1.0, cost, run)
    changes = changed_cases(case)
    for k, (why, times, changed) in enumerate(changes):
        report(0.5 * (k + 1) / len(changes))
        try:
            other = run_year(changed)
        except CalvethError:
            continue  # no bees would live so
        cost = _COST + misfit(seen, other)
        if why not in best or cost < best[why].cost:
            best[why] = _explanation(why, times, cost, other)
            runs[why] = (k, other)
    ranked = sorted(best.values(), key=lambda e: e.cost)
    # What beats no change at all may do so by luck: tried again among hives built alike.
    better = [e.why for e in ranked[:_TRIED_AGAIN] if e.cost < best["as worked out"].cost]
    wins, alike = _wins(
        case,
        seen,
        {why: runs[why][0] for why in better if why in runs},
        "probe off" in better,
        lambda s: report(0.5 + 0.5 * s),
    )
    made = tuple(replace(e, wins=wins.get(e.why, 0.0)) for e in ranked)
    explained = Explained(
        ranked=made,
        run=run,
        difference=tell_apart(made),
        unexpected=unexpected(seen, run),
        alike=alike,
    )
    first = made[0].why
    likeliest = runs[first][1] if explained.named and first in runs else run
    return replace(explained, unexplained=unexpected(seen, likeliest))


def _wins(
    case: HiveCase,
    seen: Seen,
    numbers: Mapping[Why, int],
    probe: bool,
    report: Callable[[float], None],
) -> tuple[dict[Why, float], float]:
    """Return in what share of draws each reason explains better than none, by enough to be named.

    ``numbers`` are the places of the reasons in `changed_cases`. What the reasons themselves change
    (leaks, bees, layers, wind) is as it was taken; all else that nobody knows is drawn. The second
    is the least misfit of the draws without any reason.
    """
    least = inf
    won: dict[Why, float] = dict.fromkeys(numbers, 0.0)
    if probe:
        won["probe off"] = 0.0
    if not won:
        return won, least
    for k, drawn in enumerate(draws(_DRAWS, _SEED)):
        report(k / _DRAWS)
        kept = {name: getattr(case.parameters, name) for name in _REASONED}
        alike = replace(case, parameters=replace(drawn, **kept))
        plain = _misfit_of(alike, seen)
        least = min(least, plain)
        changed = changed_cases(alike)
        for why, number in numbers.items():
            won[why] += _misfit_of(changed[number][2], seen) + _COST + NOT_ENOUGH <= plain
        if probe:
            free = _misfit_of(alike, seen, free=seen.channels[0].log.id)
            won["probe off"] += free + _COST + NOT_ENOUGH <= plain
    return {why: count / _DRAWS for why, count in won.items()}, least


_REASONED = ("leakage_factor", "bees_factor", "shell_factor", "wind_factor")


def _misfit_of(case: HiveCase, seen: Seen, free: str = "") -> float:
    """Return the misfit of a hive; without end where no bees would live so."""
    try:
        return misfit(seen, run_year(case), free=free)
    except CalvethError:
        return inf


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
            best = Difference(
                one=one.why, two=two.why, test=test, says=(a[test], b[test]), sigmas=sigmas
            )
    return best if best is not None and best.sigmas >= 1.0 else None


def _with(case: HiveCase, **changes: float) -> HiveCase:
    return replace(case, parameters=replace(case.parameters, **changes))


def _wetter(place: Place, more: float) -> Place:
    """Return a place whose air holds more: that much more of saturation, at every hour."""
    base = year_weather(replace(place, room=None))
    degc = base.temperature_degc
    share = base.vapour_pressure_pa / saturation_pressure_unchecked_pa(degc)
    columns = (
        {}
        if place.hours is None
        else {
            name: np.asarray(values, dtype=float)
            for name, values in place.hours.columns.items()
            if name != "dew_point_degc"
        }
    )
    columns["temperature_degc"] = degc
    columns["relative_humidity"] = np.minimum(share + more, 1.0)
    return replace(place, hours=HourlyWeather(columns))


def _bridged(case: HiveCase) -> HiveCase:
    """Return the hive with its lid's insulation ending inside a rim of boards."""
    joinery = case.design.joinery
    if joinery.lid == "board on the rim":
        # A rim of boards is there already: what else bridges it costs a tenth; an estimate.
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
