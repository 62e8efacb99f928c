"""What a season plan would make worse, said before it is taken."""

from __future__ import annotations

from dataclasses import replace

from calveth.core.advice.findings_air import BAD_AIR
from calveth.core.advice.schools import winter_months
from calveth.core.assess.readings import LID_MIDDLE, LID_RIM, VISIBLE_G_DAY
from calveth.core.assess.result import MonthlyAssessment, assess_months
from calveth.core.assess.snowed_in import SnowedIn, when_snowed_in
from calveth.core.climate.place import days_with_snow
from calveth.core.hive.season_plan import SeasonPlan
from calveth.core.hive.zones import NEST
from calveth.core.message import Message, Value, message

# CO2 that rises to so many times what it was is told, from this share by volume on.
_TIMES, _FROM = 1.5, 0.02


def what_gets_worse(now: MonthlyAssessment, plan: SeasonPlan) -> tuple[Message, ...]:
    """Return a message for each thing a plan makes worse through the winter; none when nothing.

    Raises
    ------
    NotBalancedError
        When the bees would suffocate with the plan, or its air comes to no rest.
    """
    design = replace(now.design, seasons=plan)
    after = assess_months(now.case.of(design))
    winter = winter_months(now)
    messages = []
    wet, wetter = (_wet_months(m, winter) for m in (now, after))
    if wetter > wet:
        messages.append(message("lid wet longer", wetter=_count(wetter), wet=_count(wet)))
    co2, more = (float(m.months.co2_volume_share[NEST, winter].max()) for m in (now, after))
    if more > _FROM and more > _TIMES * co2:
        messages.append(message("air thicker", now=_share(co2), then=_share(more)))
    snow = days_with_snow(now.place)
    months = [k for k in range(12) if snow[k] > 0]
    before, snowed_in = (_worst_air(when_snowed_in(m, months)) for m in (now, after))
    if snowed_in > max(before, BAD_AIR):
        suffocate = message("no exit, bees suffocate")
        messages.append(
            suffocate if snowed_in >= 1 else message("no exit, air bad", co2=_share(snowed_in, 0))
        )
    return tuple(messages)


def _count(number: int) -> Value:
    return Value(number, "number", 0)


def _share(share: float, digits: int = 1) -> Value:
    return Value(share, "share", digits)


def _wet_months(assessed: MonthlyAssessment, months: list[int]) -> int:
    grams = assessed.months.condensing_g_day[[LID_MIDDLE, LID_RIM]].sum(axis=0)
    return sum(bool(grams[k] >= VISIBLE_G_DAY) for k in months)


def _worst_air(snowed_in: tuple[SnowedIn, ...]) -> float:
    """Return the highest CO2 under snow, share by volume; 1 where the bees suffocate."""
    worst = 0.0
    for month in snowed_in:
        readings = month.readings
        worst = max(worst, 1.0 if readings is None else float(readings.co2_volume_share[NEST, 0]))
    return worst
