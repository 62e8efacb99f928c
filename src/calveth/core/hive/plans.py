"""A season plan to start from, by school and climate: each act on the day its rule names."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from calveth.core.calendar import DAYS_IN_YEAR
from calveth.core.climate.days import smooth_days
from calveth.core.climate.place import COLD_NIGHT_SPREADS, Place, winter_days
from calveth.core.constants_year import FROST_FREE_NIGHT
from calveth.core.hive.design import Design
from calveth.core.hive.forms import cavity_height_m
from calveth.core.hive.opening import is_high
from calveth.core.hive.season_plan import Period, Rule, SeasonPlan, Setting
from calveth.core.school import School

# Common practice, no source: the low entrance is narrowed to keep mice and robbers out.
_WINTER_SHARE, _TURN_SHARE = 0.3, 0.6
_COVER_OFF_DEGC = 15.0


@dataclass(frozen=True, slots=True, kw_only=True)
class SeasonDays:
    """What the days of a place (0 to 364) are like, for the rules of a plan.

    Attributes
    ----------
    winter : array of bool [365]
        Without forage.
    frosty : array of bool [365]
        One night in ten or more has frost.
    cool : array of bool [365]
        The mean night is colder than `FROST_FREE_NIGHT`.
    warm : array of bool [365]
        The mean day is warm enough to take a cover off.
    """

    winter: np.ndarray
    frosty: np.ndarray
    cool: np.ndarray
    warm: np.ndarray


def season_days(place: Place) -> SeasonDays:
    """Return what the days of a place are like, from its months."""
    mean = smooth_days(np.array([m.temperature_degc for m in place.months]))
    night = mean - smooth_days(np.array([m.daily_swing_k for m in place.months])) / 2
    winter = np.isin(np.arange(DAYS_IN_YEAR), winter_days(place))
    return SeasonDays(
        winter=winter,
        frosty=night - COLD_NIGHT_SPREADS * place.day_to_day_spread_k < 0.0,
        cool=night < FROST_FREE_NIGHT.value,
        warm=mean >= _COVER_OFF_DEGC,
    )


def rule_days(place: Place) -> dict[Rule, int]:
    """Return the days (1 to 365) on which the rules of a plan fall at a place, by their rule.

    Each is the first day of a week, at the beginning or the end of the longest stretch of weeks
    of its kind; a rule that never comes (no frost, no winter) has no day.
    """
    days = season_days(place)
    weeks = np.arange(0, DAYS_IN_YEAR - 1, 7)
    cold = (days.frosty | days.cool)[weeks]
    by_rule: dict[Rule, int] = {}
    rules: tuple[tuple[np.ndarray, Rule, Rule], ...] = (
        (days.winter[weeks], "forage ends", "forage begins"),
        (cold, "first frost nights", "nights over 5 °C"),
        (days.warm[weeks], "warm days", "cool days"),
    )
    for which, begins, ends in rules:
        stretch = _longest(which)
        if stretch is not None:
            by_rule[begins], by_rule[ends] = (int(weeks[k]) + 1 for k in stretch)
    return by_rule


def _longest(which: np.ndarray) -> tuple[int, int] | None:
    """Return where the longest stretch round the year begins, and the first after it."""
    n = which.size
    if which.all() or not which.any():
        return None
    begins = [k for k in range(n) if which[k] and not which[k - 1]]
    long = {k: next(i for i in range(n) if not which[(k + i) % n]) for k in begins}
    first = max(begins, key=lambda k: long[k])
    return first, (first + long[first]) % n


def by_rules(plan: SeasonPlan, place: Place) -> SeasonPlan:
    """Return a plan with every act that follows a rule on its day at a place.

    An act whose rule has no day there stays where it is; where two fall on one day, the one that
    came later in the plan holds.
    """
    days = rule_days(place)
    placed: dict[int, Period] = {}
    for period in plan.periods:
        day = days.get(period.rule, period.from_day) if period.rule else period.from_day
        placed[day] = replace(period, from_day=day)
    return SeasonPlan(periods=tuple(placed.values()))


def starting_plan(design: Design, place: Place, school: School) -> SeasonPlan:
    """Return the plan a keeper of a school might start from, each act on its day.

    From the last to the first forage week the low entrance is narrow; it is half wide in the weeks
    around that while one night in ten has frost or the mean night is under 5 °C, and wide
    after. What is high up stays open for the schools that breathe above and is shut through the
    winter for the sealed top; cross-flow shuts what is low. The quilt is on while the entrance is
    not wide, the cover while the mean day is under 15 °C, the tray is in through the winter for
    the sealed top. Each changes on the first day of a week.
    """
    days = season_days(place)
    # Where two fall on one week the first of the list names it.
    rules = {day: rule for rule, day in reversed(rule_days(place).items())}
    periods: dict[int, Setting] = {}
    for week in range(0, DAYS_IN_YEAR - 1, 7):
        cold = bool((days.frosty | days.cool)[week])
        winter = bool(days.winter[week])
        periods[week + 1] = _setting(
            design, school, winter=winter, turning=cold and not winter, warm=bool(days.warm[week])
        )
    return SeasonPlan(
        periods=tuple(
            Period(from_day=day, setting=setting, rule=rules.get(day, ""))
            for day, setting in periods.items()
        )
    )


def _setting(design: Design, school: School, *, winter: bool, turning: bool, warm: bool) -> Setting:
    shares = []
    for opening in design.openings:
        high = is_high(opening, cavity_height_m(design.form))
        if opening.shape == "screen":
            share = opening.free_share
        elif high:
            share = 0.0 if winter and school == "sealed warm top" else opening.free_share
        elif winter and school == "high cross-flow":
            share = 0.0
        else:
            part = _WINTER_SHARE if winter else _TURN_SHARE if turning else 1.0
            # Of the way as it is sawn: what the slider leaves as built is a setting like any other.
            share = part if opening.free_share > 0.0 else 0.0
        shares.append((opening.id, share))
    return Setting(
        open_shares=tuple(shares),
        quilt=winter or turning,
        cover=not warm,
        tray=winter and school != "breathing top",
    )
