"""The hive when ice or snow closes its low entrances."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from calveth.core.assess.moments import Moments
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.weather import mean_degc, outside_at
from calveth.core.climate.place import days_with_snow
from calveth.core.colony.colony import colony_at
from calveth.core.hive.by_month import in_month
from calveth.core.hive.opening import Opening
from calveth.core.nest.network import hive_model, stack_terms
from calveth.core.nest.steady import NotBalancedError, solve

LOW_M = 0.15
"""Openings lower than this above the floor are closed by snow on the landing board; estimate."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Iced:
    """A month with the low entrances closed.

    ``moments`` is one condition, None when the bees would suffocate; ``shut`` names what ice
    closes and ``left`` what stays open; ``days`` is how many days of the month have snow.
    """

    month: int
    days: float
    moments: Moments | None
    shut: tuple[str, ...]
    left: tuple[str, ...]


def closed_by_ice(opening: Opening) -> bool:
    """Return whether snow and ice close an opening."""
    if opening.shape == "lid gap" or opening.side == "lid":
        return False
    return opening.side == "floor" or opening.bottom_m < LOW_M


def when_iced(assessed: MonthlyAssessment, months: Sequence[int]) -> tuple[Iced, ...]:
    """Return an assessed hive in months (0 to 11) with every low opening closed by ice.

    All months are balanced in one batch that begins from the open hive; should one suffocate they
    are worked out one by one.
    """
    if not months:
        return ()
    try:
        found: list[Moments | None] = list(_frozen(assessed, months))
    except NotBalancedError:
        found = [_alone(assessed, month) for month in months]
    snow = days_with_snow(assessed.place)
    made = []
    for month, moments in zip(months, found, strict=True):
        openings = [o for o in in_month(assessed.design, month).openings if o.open_share > 0]
        made.append(
            Iced(
                month=month,
                days=snow[month],
                moments=moments,
                shut=tuple(o.name for o in openings if closed_by_ice(o)),
                left=tuple(o.name for o in openings if not closed_by_ice(o)),
            )
        )
    return tuple(made)


def _alone(assessed: MonthlyAssessment, month: int) -> Moments | None:
    try:
        return _frozen(assessed, [month])[0]
    except NotBalancedError:
        return None


def _frozen(assessed: MonthlyAssessment, months: Sequence[int]) -> list[Moments]:
    """Return the hive of each month with its low openings shut, one condition each."""
    models = []
    for month in months:
        now = in_month(assessed.design, month)
        shut = tuple(replace(o, free_share=0.0) if closed_by_ice(o) else o for o in now.openings)
        models.append(hive_model(assessed.case.of(replace(now, openings=shut))))
    at, owner = np.array(months), np.arange(len(models))
    outside = outside_at(assessed.place, at, mean_degc(assessed.place)[at])
    bees = colony_at(assessed.colony, at)
    names = [assessed.design.name]
    balance = solve(stack_terms([m.terms for m in models], owner), bees, outside, names)
    whole = Moments(tuple(models), owner, outside, bees, balance)
    return [whole.take(np.array([k])) for k in owner]
