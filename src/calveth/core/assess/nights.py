"""A design on its nights: which are wet, and how sure its figures are."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import erf, sqrt

import numpy as np
from numpy.typing import NDArray

from calveth.core.assess.bands import Bands, bands
from calveth.core.assess.moments import LID_MIDDLE, LID_RIM, Moments
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.weather import (
    cold_night_degc,
    mean_degc,
    night_degc,
    outside_at,
    spread_k,
)
from calveth.core.climate.place import Place, days_without_forage
from calveth.core.colony.colony import colony_at
from calveth.core.hive.zones import NEST
from calveth.core.nest.network import stack_terms
from calveth.core.nest.steady import solve

FloatArray = NDArray[np.float64]

_ALL_MONTHS = np.arange(12)
NO_REST = 1  # as `kernel_solve.NO_REST`, which only the compiler can bring
# Two states closer than this share of the CO2 are one.
_APART = 0.2
# Standard normal distribution; the library function would add a third of a second to the start.
_normal = np.vectorize(lambda x: 0.5 * (1.0 + erf(x / sqrt(2.0))), otypes=[float])


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class NightAssessment:
    """The same design on its nights, and how sure its figures are.

    Attributes
    ----------
    nights, cold_nights : Moments
        Mean night of each month, and the night one in ten is colder than.
    coldest_night : Moments
        The coldest night to be expected at the place, one condition.
    bands : Bands or None
        How sure the months are; None when no draw has an answer.
    other_co2 : array [12]
        CO2 beside the bees by volume in a second state the hive may be in when its air has become
        foul; NaN in months that have one state only [-].
    wet_nights : array [7, 12]
        Nights of each month without forage on which water gathers on a surface that is seen.
    """

    nights: Moments
    cold_nights: Moments
    coldest_night: Moments
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
    outside = outside_at(
        place, month, np.concatenate([night_degc(place), cold_night_degc(place), [last]])
    )
    bees = colony_at(colony, month)
    models, owner = monthly.months.models, monthly.months.owner[month]
    balance = solve(
        stack_terms([m.terms for m in models], owner), bees, outside, [monthly.design.name]
    )
    whole = Moments(models, owner, outside, bees, balance)
    nights, colds = (whole.take(np.arange(12 * k, 12 * k + 12)) for k in range(2))
    return NightAssessment(
        nights=nights,
        cold_nights=colds,
        coldest_night=whole.take(np.array([24])),
        bands=bands(monthly.case),
        wet_nights=_wet_nights(place, nights, colds),
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


def _wet_nights(place: Place, night: Moments, cold: Moments) -> FloatArray:
    """Return the nights without forage of each month on which each surface is seen wet [7, 12].

    Night temperatures are spread normally about the mean night. The dew-point margin is taken
    straight between the mean and the cold night; below the temperature where it is zero the
    surface is wet. The rim is wet on every night on which the middle is.
    """
    t_night, t_cold = night.outside.temperature_degc, cold.outside.temperature_degc
    at_night, at_cold = night.seen_margin_k, cold.seen_margin_k
    step = t_night - t_cold
    days = np.array(days_without_forage(place))
    sigma = spread_k(place)
    # Without a spread (a room, a steady place) every night is the mean night.
    alike = step < 1e-9
    slope = (at_night - at_cold) / np.where(alike, 1.0, step)
    # A margin that does not change with the weather is wet always or never.
    flat = np.abs(slope) < 1e-6
    turn = t_night - at_night / np.where(flat, 1.0, slope)
    below = _normal((turn - t_night) / np.where(alike, 1.0, sigma))
    share = np.where(slope > 0, below, 1 - below)
    share = np.where(flat | alike, (at_night < 0).astype(float), share)
    result: FloatArray = share * days
    result[LID_RIM] = np.maximum(result[LID_RIM], result[LID_MIDDLE])
    return result
