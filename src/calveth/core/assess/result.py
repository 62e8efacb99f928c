"""A design through the year: the answers a beekeeper asks for.

In two steps, so that a screen can answer while the hand still moves: `assess_months` (twelve
conditions) and `assess_nights` (nights, and the range of the bees' own heat: forty-eight more).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import erf, sqrt

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.assess.balance import Outside
from calveth.core.assess.model import HiveModel, hive_model
from calveth.core.assess.moments import LID_MIDDLE, LID_RIM, Moments
from calveth.core.assess.solve import solve
from calveth.core.climate.air import (
    saturation_pressure_pa,
    station_pressure_pa,
    vapour_pressure_pa,
    wind_at_hive_m_s,
)
from calveth.core.climate.place import (
    DAYS_IN_MONTH,
    Place,
    coldest_month,
    days_without_forage,
)
from calveth.core.colony.colony import Colony, ColonyMoment, colony_at
from calveth.core.errors import require_between
from calveth.core.heat.shell import mass_to_conductance_kg_k_w, whole_conductance_w_k
from calveth.core.hive.design import Design
from calveth.core.materials import Material

FloatArray = NDArray[np.float64]

# A cold night of a month: one in ten is colder.
_COLD_NIGHT_SIGMA = 1.2816
_ALL_MONTHS = np.arange(12)
# Standard normal distribution; the library function would add a third of a second to the start.
_normal = np.vectorize(lambda x: 0.5 * (1.0 + erf(x / sqrt(2.0))), otypes=[float])


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class MonthlyAssessment:
    """A design at a place in the mean conditions of its twelve months.

    Attributes
    ----------
    conductance_w_k : float
        Whole shell with edges and table films [W/K].
    mass_to_conductance_kg_k_w : float
        Bees of the coldest month over the conductance [kg·K/W].
    winter_honey_kg : float
        Honey burnt from the last to the first forage week [kg].
    honey_kg_month : array [12]
        Honey burnt in each month [kg].
    coldest_month : int
        Index 0 to 11.
    """

    design: Design
    place: Place
    colony: Colony
    model: HiveModel
    conductance_w_k: float
    mass_to_conductance_kg_k_w: float
    months: Moments
    winter_honey_kg: float
    honey_kg_month: FloatArray
    coldest_month: int

    @property
    def stores_last(self) -> bool:
        """Whether the stores outlast the winter."""
        return self.winter_honey_kg <= self.colony.stores_kg


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class NightAssessment:
    """The same design on its nights, and with frugal and busy bees.

    Attributes
    ----------
    nights, cold_nights : Moments
        Mean night of each month, and the night one in ten is colder than.
    winter_honey_range_kg : tuple of float
        Lowest and highest winter honey within the range of the bees' own heat [kg].
    wet_nights : array [6, 12]
        Nights of each month without forage on which a surface is below the dew point. With forage
        on, bees fan, which the monthly balance leaves out.
    state : array
        Start for the next assessment of a similar design.
    """

    nights: Moments
    cold_nights: Moments
    winter_honey_range_kg: tuple[float, float]
    wet_nights: FloatArray
    state: FloatArray

    @property
    def crown_wet_nights(self) -> float:
        """Winter nights on which the middle of the lid is wet."""
        return float(self.wet_nights[LID_MIDDLE].sum())

    @property
    def rim_wet_nights(self) -> float:
        """Winter nights on which the rim of the lid is wet."""
        return float(self.wet_nights[LID_RIM].sum())


def assess_months(
    design: Design,
    place: Place,
    colony: Colony,
    materials: Mapping[str, Material],
    start: MonthlyAssessment | None = None,
) -> MonthlyAssessment:
    """Return a design in the mean conditions of the months.

    ``start`` is the assessment of a similar design, such as the one before an edit.

    Raises
    ------
    NotBalancedError
        When no steady state is found.
    """
    model = hive_model(design, place, materials)
    temperature = np.array([m.temperature_degc for m in place.months])
    outside = _outside(place, temperature, 1)
    bees = colony_at(colony, _ALL_MONTHS)
    guess = None if start is None else start.months.balance.state
    months = Moments(model, outside, bees, solve(model, bees, outside, guess))
    conductance = float(whole_conductance_w_k(model.faces))
    coldest = coldest_month(place)
    rate = months.balance.ledger.honey_kg_s * 86400
    return MonthlyAssessment(
        design=design,
        place=place,
        colony=colony,
        model=model,
        conductance_w_k=conductance,
        mass_to_conductance_kg_k_w=mass_to_conductance_kg_k_w(colony.mass_kg[coldest], conductance),
        months=months,
        winter_honey_kg=float((rate * np.array(days_without_forage(place))).sum()),
        honey_kg_month=rate * np.array(DAYS_IN_MONTH),
        coldest_month=coldest,
    )


def assess_nights(
    monthly: MonthlyAssessment, start: NightAssessment | None = None
) -> NightAssessment:
    """Return the nights and the honey range of a design whose months are known.

    Raises
    ------
    NotBalancedError
        When no steady state is found.
    """
    place, model = monthly.place, monthly.model
    mean = np.array([m.temperature_degc for m in place.months])
    night = mean - np.array([m.daily_swing_k for m in place.months]) / 2
    cold = night - _COLD_NIGHT_SIGMA * place.day_to_day_spread_k
    outside = _outside(place, np.concatenate([night, cold, mean, mean]), 4)
    bees = _bees_with_range(monthly.colony)
    guess = np.tile(monthly.months.balance.state, 4) if start is None else start.state
    balance = solve(model, bees, outside, guess)
    nights, colds, low, high = (
        _part(Moments(model, outside, bees, balance), 12 * k) for k in range(4)
    )
    days = np.array(days_without_forage(place))
    honey = [float((m.balance.ledger.honey_kg_s * 86400 * days).sum()) for m in (low, high)]
    return NightAssessment(
        nights=nights,
        cold_nights=colds,
        winter_honey_range_kg=(min(honey), max(honey)),
        wet_nights=_wet_nights(place, nights, colds),
        state=balance.state,
    )


def assess_condition(
    design: Design,
    place: Place,
    colony: Colony,
    materials: Mapping[str, Material],
    *,
    month: int,
    outside_degc: float,
    relative_humidity: float,
    wind_m_s: float,
) -> Moments:
    """Return the hive at one outside condition with the bees of a month (0 to 11).

    ``wind_m_s`` is the wind of the weather station at 10 m; shelter and height are taken off.
    """
    require_between("outside temperature", outside_degc, -45, 50, "°C")
    require_between("outside relative humidity", relative_humidity, 0.01, 1)
    require_between("wind", wind_m_s, 0, 40, "m/s")
    one = np.array([outside_degc], dtype=float)
    outside = Outside(
        temperature_degc=one,
        vapour_pressure_pa=vapour_pressure_pa(one, relative_humidity),
        wind_m_s=np.array([wind_at_hive_m_s(wind_m_s, place)]),
        pressure_pa=station_pressure_pa(place.altitude_m),
    )
    bees = colony_at(colony, np.array([month]))
    model = hive_model(design, place, materials)
    return Moments(model, outside, bees, solve(model, bees, outside))


def _outside(place: Place, temperature: FloatArray, repeats: int) -> Outside:
    """Return the months' vapour and wind, ``repeats`` times over, at other temperatures.

    The air keeps its water at night until it is saturated; the rest falls as dew.
    """
    mean = np.array([m.temperature_degc for m in place.months])
    humidity = np.array([m.relative_humidity for m in place.months])
    wind = np.array([wind_at_hive_m_s(m.wind_m_s, place) for m in place.months])
    vapour = np.tile(vapour_pressure_pa(mean, humidity), repeats)
    return Outside(
        temperature_degc=temperature,
        vapour_pressure_pa=np.minimum(vapour, saturation_pressure_pa(temperature)),
        wind_m_s=np.tile(wind, repeats),
        pressure_pa=station_pressure_pa(place.altitude_m),
    )


def _bees_with_range(colony: Colony) -> ColonyMoment:
    """Return the bees four times over: twice likely, then frugal, then busy [48]."""
    bees = colony_at(colony, np.tile(_ALL_MONTHS, 4))
    g, rest = c.CLUSTER_CONDUCTANCE, c.REST_HEAT
    factor_g, factor_rest = np.ones(48), np.ones(48)
    for part, end in ((slice(24, 36), "low"), (slice(36, 48), "high")):
        factor_g[part] = getattr(g, end) / g.value
        factor_rest[part] = getattr(rest, end) / rest.value
    return ColonyMoment(
        mass_kg=bees.mass_kg,
        core_degc=bees.core_degc,
        cluster_conductance_w_k=bees.cluster_conductance_w_k * factor_g,
        rest_heat_w=bees.rest_heat_w * factor_rest,
    )


def _wet_nights(place: Place, night: Moments, cold: Moments) -> FloatArray:
    """Return the nights without forage of each month on which each surface is wet [6, 12].

    Night temperatures are spread normally about the mean night. The dew-point margin is taken
    straight between the mean and the cold night; below the temperature where it is zero the
    surface is wet.
    """
    t_night, t_cold = night.outside.temperature_degc, cold.outside.temperature_degc
    at_night, at_cold = night.margin_k, cold.margin_k
    step = t_night - t_cold
    days = np.array(days_without_forage(place))
    sigma = place.day_to_day_spread_k
    if sigma == 0:
        return np.where(at_night < 0, days, 0.0)
    slope = (at_night - at_cold) / step
    # A margin that does not change with the weather is wet always or never.
    flat = np.abs(slope) < 1e-6
    turn = t_night - at_night / np.where(flat, 1.0, slope)
    below = _normal((turn - t_night) / sigma)
    share = np.where(slope > 0, below, 1 - below)
    share = np.where(flat, (at_night < 0).astype(float), share)
    result: FloatArray = share * days
    return result


def _part(whole: Moments, first: int) -> Moments:
    """Return twelve of the conditions, from ``first`` on."""
    index = np.arange(first, first + 12)
    return Moments(
        whole.model, whole.outside.take(index), whole.bees.take(index), whole.balance.take(index)
    )
