"""What is opened, closed, put on and taken off through the year, by days."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal, get_args

from calveth.core.calendar import DAYS_IN_YEAR, FIRST_DAYS, middle_day
from calveth.core.errors import DomainError, require_between, require_choice

Rule = Literal[
    "",
    "forage begins",
    "forage ends",
    "first frost nights",
    "nights over 5 °C",
    "warm days",
    "cool days",
]
"""What the day of an act follows; empty where it is a date."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """How the hive is set for a while.

    Attributes
    ----------
    open_shares : tuple of (opening id, share)
        What the slider of an opening leaves open, 0 to 1, by id; openings not named stay as
        designed.
    quilt, cover, tray : bool
        Whether quilt and cover are on and the tray is in the screened floor.
    """

    open_shares: tuple[tuple[str, float], ...] = ()
    quilt: bool = True
    cover: bool = True
    tray: bool = True

    def __post_init__(self) -> None:
        for opening, share in self.open_shares:
            require_between(f"open share of “{opening}”", share, 0, 1, "share")
        # Settings that say the same are one, in whatever order a hand made them.
        object.__setattr__(self, "open_shares", tuple(sorted(dict(self.open_shares).items())))

    def share(self, opening_id: str, otherwise: float) -> float:
        """Return the open share of an opening."""
        return dict(self.open_shares).get(opening_id, otherwise)

    def with_share(self, opening_id: str, share: float) -> Setting:
        """Return the setting with another open share of an opening."""
        return replace(self, open_shares=(*self.open_shares, (opening_id, share)))

    def without(self, opening_id: str) -> Setting:
        """Return the setting that does not name an opening."""
        kept = tuple(pair for pair in self.open_shares if pair[0] != opening_id)
        return replace(self, open_shares=kept)


AS_BUILT = Setting()
"""What holds for a design without a plan."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Period:
    """A setting and the day of the year from which it holds, 1 (1 January) to 365.

    With a ``rule`` the day follows the place (`plans.rule_day`); empty where a hand set it.
    """

    from_day: int
    setting: Setting
    rule: Rule = ""

    def __post_init__(self) -> None:
        require_choice("rule of a setting", self.rule, get_args(Rule))
        require_between("first day of a setting", self.from_day, 1, DAYS_IN_YEAR, "day of the year")


@dataclass(frozen=True, slots=True, kw_only=True)
class SeasonPlan:
    """The settings of a year; the last one holds on over the turn of the year.

    Periods are kept sorted, and one that changes nothing is left out, so that plans that say the
    same are equal. Without periods the hive stays as it is built.
    """

    periods: tuple[Period, ...] = ()

    def __post_init__(self) -> None:
        days = [p.from_day for p in self.periods]
        if len(set(days)) < len(days):
            twice = next(d for d in days if days.count(d) > 1)
            raise DomainError("season plan", twice, "is the first day of two settings; keep one")
        ordered = sorted(self.periods, key=lambda p: p.from_day)
        kept = [p for k, p in enumerate(ordered) if p.setting != ordered[k - 1].setting]
        if ordered and not kept:
            kept = [Period(from_day=1, setting=ordered[0].setting)]
        object.__setattr__(self, "periods", tuple(kept))

    def __bool__(self) -> bool:
        return bool(self.periods)

    @property
    def has_rules(self) -> bool:
        """Whether an act follows the place."""
        return any(p.rule for p in self.periods)

    def on(self, day: int) -> Setting:
        """Return the setting of a day, 0 to 364."""
        if not self.periods:
            return AS_BUILT
        begun = [p for p in self.periods if p.from_day <= day + 1]
        return (begun or self.periods)[-1].setting

    def in_month(self, month: int) -> Setting:
        """Return the setting of a month (0 to 11): that of its 15th."""
        return self.on(middle_day(month))

    def with_month(self, month: int, setting: Setting) -> SeasonPlan:
        """Return the plan with one setting all through a month (0 to 11)."""
        first, end = FIRST_DAYS[month], (*FIRST_DAYS[1:], DAYS_IN_YEAR)[month]
        rest = [p for p in self.periods if not first < p.from_day <= end]
        after = end % DAYS_IN_YEAR
        if all(p.from_day != after + 1 for p in rest):
            rest.append(Period(from_day=after + 1, setting=self.on(after)))
        return SeasonPlan(periods=(*rest, Period(from_day=first + 1, setting=setting)))

    def each(self, change: Callable[[Setting], Setting]) -> SeasonPlan:
        """Return the plan with every setting changed."""
        return SeasonPlan(
            periods=tuple(replace(p, setting=change(p.setting)) for p in self.periods)
        )


NO_PLAN = SeasonPlan()


def monthly_plan(settings: tuple[Setting, ...]) -> SeasonPlan:
    """Return the plan of twelve settings, one for each month."""
    return SeasonPlan(
        periods=tuple(
            Period(from_day=first + 1, setting=setting)
            for first, setting in zip(FIRST_DAYS, settings, strict=True)
        )
    )
