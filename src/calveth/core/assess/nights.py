"""A design on its nights: which are wet, and how sure its figures are."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from calveth.core.assess.bands import Bands, bands
from calveth.core.assess.readings import LID_MIDDLE, LID_RIM, NestReadings
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.weather import (
    cold_night_degc,
    mean_degc,
    night_degc,
    outside_at,
)
from calveth.core.assess.wet_nights import wet_nights
from calveth.core.climate.place import Place
from calveth.core.colony.colony import colony_at
from calveth.core.hive.zones import NEST
from calveth.core.nest.network import stack_terms
from calveth.core.nest.steady import solve

FloatArray = NDArray[np.float64]

_ALL_MONTHS = np.arange(12)
NO_REST = 1  # as `kernel_solve.NO_REST`, which only the compiler can bring
# Two states closer than this share of the CO2 are one.
_APART = 0.2


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class NightAssessment:
    """The same design on its nights, and how sure its figures are.

    Attributes
    ----------
    nights, cold_nights : NestReadings
        Mean night of each month, and the night one in ten is colder than.
    coldest_night : NestReadings
        The coldest night to be expected at the place, one condition.
    bands : Bands or None
        How sure the months are; None when no draw has an answer.
    other_co2 : array [12]
        CO2 beside the bees by volume in a second state the hive may be in when its air has become
        foul; NaN in months that have one state only [-].
    wet_nights : array [7, 12]
        Nights of each month without forage on which water gathers on a surface that is seen.
    """

    nights: NestReadings
    cold_nights: NestReadings
    coldest_night: NestReadings
    bands: Bands | None
    wet_nights: FloatArray

    winter_honey_kg: float
    other_co2: FloatArray

    @property
    def winter_honey_range_kg(self) -> tuple[float, float]:
        """Low and high end of the winter honey [kg]; the likely figure where no draw answers."""
        if self.bands is None:
            return self.winter_honey_kg, self.winter_honey_kg
        low, high = self.bands.winter_honey_range_kg
        return min(low, self.winter_honey_kg), max(high, self.winter_honey_kg)

    @property
    def crown_wet_nights(self) -> float:
        """Winter nights on which the middle of the lid is wet."""
        return float(self.wet_nights[LID_MIDDLE].sum())

    @property
    def rim_wet_nights(self) -> float:
        """Winter nights on which the rim of the lid is wet."""
        return float(self.wet_nights[LID_RIM].sum())


def assess_nights(monthly: MonthlyAssessment) -> NightAssessment:
    """Return the nights of a design whose months are known, and the bands of its figures.

    Raises
    ------
    NotBalancedError
        When no steady state is found.
    """
    place, colony = monthly.place, monthly.colony
    coldest = monthly.coldest_month
    mean = mean_degc(place)
    last = place.coldest_night() if not _in_room(place, coldest) else float(mean[coldest])
    month = np.concatenate([np.tile(_ALL_MONTHS, 2), [coldest]])
    both = np.stack([night_degc(place), cold_night_degc(place)])
    outside = outside_at(place, month, np.concatenate([*both, [last]]))
    bees = colony_at(colony, month)
    models, owner = monthly.months.models, monthly.months.owner[month]
    balance = solve(
        stack_terms([m.terms for m in models], owner), bees, outside, [monthly.design.name]
    )
    readings = NestReadings(models, owner, outside, bees, balance)
    nights, colds = (readings.take(np.arange(12 * k, 12 * k + 12)) for k in range(2))
    return NightAssessment(
        nights=nights,
        cold_nights=colds,
        coldest_night=readings.take(np.array([24])),
        bands=bands(monthly.case),
        wet_nights=wet_nights(
            place, _ALL_MONTHS, both, np.stack([nights.seen_margin_k, colds.seen_margin_k])
        ),
        winter_honey_kg=monthly.winter_honey_kg,
        other_co2=_other_state(monthly),
    )


def _other_state(monthly: MonthlyAssessment) -> FloatArray:
    """Return CO2 of the state each month comes to from foul air [12], NaN where it is the same."""
    # The compiler's library takes half a second to load; nothing else waits for it.
    from calveth.core.nest.lanes import LADEN, balance_lanes

    months = monthly.months
    terms = stack_terms([m.terms for m in months.models], months.owner)
    balance, status = balance_lanes(terms, months.bees, months.outside, LADEN)
    other = replace(months, balance=balance).co2_volume_share[NEST]
    own = months.co2_volume_share[NEST]
    same = (np.abs(other - own) < _APART * own) | (status == NO_REST)
    return np.where(same, np.nan, other)


def _in_room(place: Place, month: int) -> bool:
    return place.room is not None and place.room.holds(month)
