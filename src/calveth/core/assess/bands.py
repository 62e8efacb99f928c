"""How sure the answers are: the same hive with every uncertain figure drawn from its range.

Thirty-two draws, the same for all hives (`parameters.draws`), so that a comparison of two is one
of the hives and not of the draws. A band goes from the 10th to the 90th of a hundred.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core.assess.readings import (
    LID_MIDDLE,
    LID_RIM,
    CrownVerdict,
    NestReadings,
    crown_verdict,
)
from calveth.core.assess.result import MonthlyAssessment, assess_each
from calveth.core.assess.weather import cold_night_degc, night_degc, outside_at
from calveth.core.assess.wet_nights import wet_nights
from calveth.core.case import HiveCase
from calveth.core.climate.place import days_without_forage
from calveth.core.colony.colony import colony_at
from calveth.core.ends import ends_of
from calveth.core.hive.zones import NEST
from calveth.core.nest.network import SURFACES, stack_terms
from calveth.core.nest.steady import NotBalancedError, solve_lanes
from calveth.core.parameters import draws

FloatArray = NDArray[np.float64]

DRAWS, SEED = 32, 20
"""How many draws, and where they begin; the same for every hive of every project."""
_SURE, _UNTOLD = 0.95, 0.6
VERDICTS: tuple[CrownVerdict, ...] = ("dry", "wet ring", "wet")
"""What may be found under the lid, in the order of `Bands.crown`."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Sureness:
    """A verdict with how many of ten draws agree: ``dry``, ``dry`` in 8 of 10, or untold.

    Attributes
    ----------
    verdict : CrownVerdict
        The one most draws have.
    of_ten : int
        In how many of ten.
    """

    verdict: CrownVerdict
    of_ten: int

    @property
    def sure(self) -> bool:
        """Whether all but one in twenty have it."""
        return self.of_ten >= 10

    @property
    def can_be_told(self) -> bool:
        """Whether it can be told at all: six of ten agree."""
        return self.of_ten >= 10 * _UNTOLD


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Bands:
    """Bands of a hive's figures.

    Attributes
    ----------
    answered : int
        Draws that have an answer, of `DRAWS`; in the others the bees would suffocate.
    crown : array [3, 12]
        Share of all draws with each of `VERDICTS`, by month; those without an answer have none [-].
    lid_g_day, elsewhere_g_day, air_l_h, co2_share : array [2, 12]
        Low and high end by month: water on the lid, on other surfaces and combs [g/day], fresh air
        [L/h], CO2 beside the bees by volume [-].
    winter_honey_kg : array [DRAWS]
        Of every draw; NaN where it has no answer [kg].
    middle_wet_nights, rim_wet_nights : array [2]
        Low and high end of the winter nights on which middle and rim of the lid are wet.
    """

    answered: int
    crown: FloatArray
    lid_g_day: FloatArray
    elsewhere_g_day: FloatArray
    air_l_h: FloatArray
    co2_share: FloatArray
    winter_honey_kg: FloatArray
    middle_wet_nights: FloatArray
    rim_wet_nights: FloatArray

    @property
    def winter_honey_range_kg(self) -> tuple[float, float]:
        """Low and high end of the winter honey [kg]."""
        low, high = ends_of(self.winter_honey_kg)
        return float(low), float(high)

    def sureness(self, month: int) -> Sureness:
        """Return what is found under the lid in a month (0 to 11), and how sure it is."""
        at = int(np.argmax(self.crown[:, month]))
        share = float(self.crown[at, month])
        # Ten of ten is kept for what is sure: 0.94 is no "always".
        tens = 10 if share >= _SURE else min(round(10 * share), 9)
        return Sureness(verdict=VERDICTS[at], of_ten=tens)


def bands(case: HiveCase) -> Bands | None:
    """Return the bands of a hive; None when no draw has an answer.

    The shell is solved once: what is uncertain of it is a factor (`Parameters.shell_factor`).
    """
    each = _drawn(case)
    answers = [a for a in each if isinstance(a, MonthlyAssessment)]
    if not answers:
        return None
    months = [a.months for a in answers]
    wet = _wet_nights(answers)
    return Bands(
        answered=len(answers),
        crown=_crown_shares(answers),
        lid_g_day=_band(_over(months, lambda m: m.lid_g_day)),
        elsewhere_g_day=_band(_over(months, lambda m: m.elsewhere_g_day)),
        air_l_h=_band(3.6e6 * _over(months, lambda m: m.exchange_m3_s)),
        co2_share=_band(_over(months, lambda m: m.co2_volume_share[NEST])),
        winter_honey_kg=np.array(
            [a.winter_honey_kg if isinstance(a, MonthlyAssessment) else np.nan for a in each]
        ),
        middle_wet_nights=ends_of(wet[:, LID_MIDDLE]),
        rim_wet_nights=ends_of(wet[:, LID_RIM]),
    )


def tenths(shares: FloatArray) -> list[int]:
    """Return shares [n] in tenths that sum to ten: the largest remainders are rounded up.

    >>> tenths(np.array([0.68, 0.16, 0.16]))
    [7, 2, 1]
    """
    parts = 10 * np.asarray(shares, dtype=float) / max(float(np.sum(shares)), 1e-12)
    counts = np.floor(parts + 1e-9).astype(int)
    for k in np.argsort(counts - parts, kind="stable")[: 10 - int(counts.sum())]:
        counts[k] += 1
    return [int(count) for count in counts]


def dry_of_ten(case: HiveCase) -> int:
    """Return in how many of ten draws the lid is dry in the month it is dry in least often."""
    answers = [a for a in _drawn(case) if isinstance(a, MonthlyAssessment)]
    if not answers:
        return 0
    return round(10 * float(_crown_shares(answers)[VERDICTS.index("dry")].min()))


def _drawn(case: HiveCase) -> list[MonthlyAssessment | NotBalancedError]:
    return assess_each([case.drawn(p) for p in draws(DRAWS, SEED)])


def _crown_shares(answers: Sequence[MonthlyAssessment]) -> FloatArray:
    """Return the share of all draws with each verdict by month [3, 12]."""
    crown = np.array([[crown_verdict(a.months, k) for k in range(12)] for a in answers])
    shares: FloatArray = np.array([(crown == v).sum(axis=0) for v in VERDICTS]) / DRAWS
    return shares


def _wet_nights(answers: Sequence[MonthlyAssessment]) -> FloatArray:
    """Return the winter nights each surface is wet in each draw [D, 7]; all in one batch."""
    place, colony = answers[0].place, answers[0].colony
    months = np.flatnonzero(np.array(days_without_forage(place)) > 0)
    if months.size == 0:
        return np.zeros((len(answers), len(SURFACES)))
    # Mean nights and cold nights of every month; between the two the share of wet nights is read.
    both = np.tile(months, 2)
    degc = np.concatenate([night_degc(place)[months], cold_night_degc(place)[months]])
    models = [m for a in answers for m in a.months.models]
    first = np.cumsum([0, *(len(a.months.models) for a in answers)])
    owner = np.concatenate([first[n] + a.months.owner[both] for n, a in enumerate(answers)])
    every = np.tile(both, len(answers))
    outside = outside_at(place, every, np.tile(degc, len(answers)))
    bees = colony_at(colony, every)
    balance, status = solve_lanes(stack_terms([m.terms for m in models], owner), bees, outside)
    nights = []
    for n, a in enumerate(answers):
        at = np.arange(both.size) + n * both.size
        if np.any(status[at] != "ok"):
            # A draw without an answer in any night says nothing of the winter.
            nights.append(np.full(len(SURFACES), np.nan))
            continue
        readings = NestReadings(
            a.months.models, a.months.owner[both], outside.take(at), bees.take(at), balance.take(at)
        )
        margin = readings.seen_margin_k.reshape(len(SURFACES), 2, months.size).swapaxes(0, 1)
        night = wet_nights(place, months, degc.reshape(2, months.size), margin)
        nights.append(night.sum(axis=1))
    if all(np.isnan(row[0]) for row in nights):
        return np.zeros((len(answers), len(SURFACES)))
    return np.array(nights)


def _over(months: Sequence[NestReadings], take: Callable[[NestReadings], FloatArray]) -> FloatArray:
    """Return a figure of every draw and month [D, 12]."""
    return np.array([take(m) for m in months])


def _band(values: FloatArray) -> FloatArray:
    """Return low and high end over the draws [2, 12] of values [D, 12]."""
    result: FloatArray = ends_of(values, axis=0)
    return result


def burns_less(one: Bands, two: Bands) -> float:
    """Return the share of the draws in which the first hive burns less honey through the winter.

    Draws without an answer are left out.
    """
    both = np.isfinite(one.winter_honey_kg) & np.isfinite(two.winter_honey_kg)
    if not both.any():
        return 0.5
    return float((one.winter_honey_kg[both] < two.winter_honey_kg[both]).mean())
