"""The hive when ice or snow closes its low entrances."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import log
from typing import Literal

import numpy as np

from calveth.core.assess.readings import NestReadings
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.weather import mean_degc, outside_at
from calveth.core.climate.place import Place, days_with_snow, warm_months
from calveth.core.colony.colony import colony_at
from calveth.core.constants import CO2_BAD, CO2_SUFFOCATES
from calveth.core.hive.by_month import in_month
from calveth.core.hive.opening import Opening
from calveth.core.hive.zones import NEST
from calveth.core.nest.network import hive_model, stack_terms
from calveth.core.nest.steady import NotBalancedError, solve

_CO2_KG_M3 = 1.95  # near 5 °C
LOW_M = 0.15
"""Openings lower than this above the floor are closed by snow on the landing board; estimate."""


@dataclass(frozen=True, slots=True, kw_only=True)
class SnowedIn:
    """A month with the low entrances closed.

    ``readings`` is one condition, None when the bees would suffocate; ``shut`` names what ice
    closes and ``left`` what stays open; ``days`` is how many days of the month have snow.
    ``hours_bad`` and ``hours_end`` are how long the air of the open hive lasts until it is bad
    (8 % CO2) and until there is no oxygen left, None where it does not come so far.
    """

    month: int
    days: float
    readings: NestReadings | None
    shut: tuple[str, ...]
    left: tuple[str, ...]
    hours_bad: float | None = None
    hours_end: float | None = None


SnowAir = Literal["no snow", "exit", "no exit", "bad", "suffocates"]
"""What becomes of bees and air under snow, from nothing to the worst."""

_WORSE: tuple[SnowAir, ...] = ("no snow", "exit", "no exit", "bad", "suffocates")


@dataclass(frozen=True, slots=True, kw_only=True)
class UnderSnow:
    """The worst that snow on the low entrances does to a hive in its year.

    ``months`` are those (0 to 11) in which the bees are in danger: their air turns bad or they
    suffocate. ``hours`` is how soon the air is bad then, None where it never is.
    """

    air: SnowAir
    months: tuple[int, ...] = ()
    hours: float | None = None

    @property
    def danger(self) -> bool:
        """Whether bees die of it or are close to it."""
        return self.air in ("bad", "suffocates")


def snow_air(snowed_in: SnowedIn) -> SnowAir:
    """Return what becomes of bees and air in a month with the low entrances closed."""
    if snowed_in.days == 0:
        return "no snow"
    if not snowed_in.shut:
        return "exit"
    if snowed_in.readings is None:
        return "suffocates"
    if snowed_in.hours_bad is not None:
        return "bad"
    return "exit" if snowed_in.left else "no exit"


def under_snow(snowed_in: Sequence[SnowedIn]) -> UnderSnow:
    """Return the worst of the months with snow."""
    iced_months = {i.month: snow_air(i) for i in snowed_in}
    worst: SnowAir = max(iced_months.values(), key=_WORSE.index, default="no snow")
    hours = [i.hours_bad for i in snowed_in if i.hours_bad is not None]
    if worst not in ("bad", "suffocates"):
        return UnderSnow(air=worst)
    months = tuple(sorted(k for k, air in iced_months.items() if air in ("bad", "suffocates")))
    return UnderSnow(air=worst, months=months, hours=min(hours, default=None))


def snow_months(place: Place) -> list[int]:
    """Return the months (0 to 11) in which snow may close an entrance; none in a winter room."""
    snow, room = days_with_snow(place), place.room
    return [k for k in range(12) if snow[k] > 0 and (room is None or not room.holds(k))]


def closed_by_ice(opening: Opening) -> bool:
    """Return whether snow and ice close an opening."""
    if opening.shape == "lid gap" or opening.side == "lid":
        return False
    return opening.side == "floor" or opening.bottom_m < LOW_M


def when_snowed_in(assessed: MonthlyAssessment, months: Sequence[int]) -> tuple[SnowedIn, ...]:
    """Return an assessed hive in months (0 to 11) with every low opening closed by ice.

    All months are balanced in one batch; should one suffocate they are worked out one by one.
    """
    if not months:
        return ()
    try:
        by_month: list[NestReadings | None] = list(_frozen(assessed, months))
    except NotBalancedError:
        by_month = [_alone(assessed, month) for month in months]
    snow = days_with_snow(assessed.place)
    made = []
    for month, readings in zip(months, by_month, strict=True):
        openings = [o for o in in_month(assessed.design, month).openings if o.open_share > 0]
        bad, end = (
            _hours_until(share, assessed, month, readings)
            for share in (CO2_BAD.value, CO2_SUFFOCATES.value)
        )
        made.append(
            SnowedIn(
                hours_bad=bad,
                hours_end=end,
                month=month,
                days=snow[month],
                readings=readings,
                shut=tuple(o.name for o in openings if closed_by_ice(o)),
                left=tuple(o.name for o in openings if not closed_by_ice(o)),
            )
        )
    return tuple(made)


def _hours_until(
    share: float, assessed: MonthlyAssessment, month: int, snowed_in: NestReadings | None
) -> float | None:
    """Return after how many hours without the shut openings CO2 comes to a share by volume.

    The room as one jar: V·dx/dt = G - k·x, with G what the bees breathe out and k what the closed
    hive still exchanges, by the CO2 it would come to; nothing where the bees would suffocate.
    """
    model, open_ = assessed.model_in(month), assessed.months
    litres = float(open_.balance.ledger.co2_kg_s[month]) / _CO2_KG_M3
    volume, begin = float(model.terms.volume_m3[0]), float(open_.co2_volume_share[NEST, month])
    if begin >= share:
        return 0.0
    if snowed_in is None:
        return volume * (share - begin) / litres / 3600
    settled = float(snowed_in.co2_volume_share[NEST, 0])
    if settled <= share:
        return None
    return volume * settled / litres * log((settled - begin) / (settled - share)) / 3600


def _alone(assessed: MonthlyAssessment, month: int) -> NestReadings | None:
    try:
        return _frozen(assessed, [month])[0]
    except NotBalancedError:
        return None


def _frozen(assessed: MonthlyAssessment, months: Sequence[int]) -> list[NestReadings]:
    """Return the hive of each month with its low openings shut, one condition each."""
    models = []
    for month in months:
        now = in_month(assessed.design, month)
        shut = tuple(replace(o, free_share=0.0) if closed_by_ice(o) else o for o in now.openings)
        warm = warm_months(assessed.place)[month]
        models.append(hive_model(assessed.case.of(replace(now, openings=shut)), warm=warm))
    at, owner = np.array(months), np.arange(len(models))
    outside = outside_at(assessed.place, at, mean_degc(assessed.place)[at])
    bees = colony_at(assessed.colony, at)
    names = [assessed.design.name]
    balance = solve(stack_terms([m.terms for m in models], owner), bees, outside, names)
    readings = NestReadings(tuple(models), owner, outside, bees, balance)
    return [readings.take(np.array([k])) for k in owner]
