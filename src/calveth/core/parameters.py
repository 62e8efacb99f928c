"""What nobody knows exactly, as one value a lane: the likely figures, or a draw from their ranges.

Every estimate months and year rest on is a field here, with its range in `RANGES`; no
calculation reads such a constant from anywhere else. A draw is one set of values; hives that
are compared share their draws, so that the difference between them is that of the hives.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from math import ceil, log, log2
from types import MappingProxyType

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.constant import Constant
from calveth.core.errors import DomainError

# Of the sequence that is drawn from; more than there are parameters.
_DIMENSIONS = 64
# Never nearer to nothing than this share of the low end.
_NEVER_NOTHING = 0.05

FloatArray = NDArray[np.float64]

LEAKAGE_FACTOR = Constant(
    value=1.0,
    unit="-",
    source="on the leakage of joints, whose classes are good to a factor of 3",
    certainty="estimate",
    low=1 / 3,
    high=3.0,
)
WIND_FACTOR = Constant(
    value=1.0,
    unit="-",
    source="on the wind at the hive: shelter 0.7 (0.45 to 1.0) of the free",
    certainty="estimate",
    low=0.65,
    high=1.45,
)
SHELL_FACTOR = Constant(
    value=1.0,
    unit="-",
    source="on what the layers conduct: λ as bought, its moisture (7 to 13 % "
    "in timber), and boards as they fit; classes of EN ISO 10456 lie so far apart",
    certainty="estimate",
    low=0.93,
    high=1.08,
)
WEATHER_CHANCE = Constant(
    value=0.5,
    unit="-",
    source="which of the years with a place's months comes, any alike; a convention",
    certainty="estimate",
    low=0.0,
    high=1.0,
)
GUST_FACTOR = Constant(
    value=1.0,
    unit="-",
    source="on what gusts exchange; Warren and Parkins 1984 scatter by a half",
    certainty="estimate",
    low=0.5,
    high=1.5,
)


FILM_FACTOR = Constant(
    value=1.0,
    unit="-",
    source="on what the inner films conduct and how fast vapour crosses them: "
    "a bee space is narrower than the rooms of EN ISO 6946, combs stir the air",
    certainty="estimate",
    low=0.6,
    high=1.3,
)
BEES_FACTOR = Constant(
    value=1.0,
    unit="-",
    source="on the mass of the bees, judged by seams and not weighed",
    certainty="estimate",
    low=0.75,
    high=1.25,
)
SUN_FACTOR = Constant(
    value=1.0,
    unit="-",
    source="on the sun a face takes in: colour as it ages (absorptance 0.4 "
    "to 0.9 for what is called 0.6), leaves and neighbours",
    certainty="estimate",
    low=0.65,
    high=1.4,
)
BUFFER_FACTOR = Constant(
    value=1.0,
    unit="-",
    source="on the water boards and combs bind; wax and propolis close pores",
    certainty="estimate",
    low=0.4,
    high=1.6,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Parameters:
    """One set of the uncertain figures; `LIKELY` has the likely ones.

    Attributes
    ----------
    plume_share : float
        Share of the bees' warm moist breath that rises into the crown [-].
    mixing_nest_crown_w_k, mixing_nest_base_w_k : float
        Exchange between the zones beside the through-flow [W/K].
    shell_factor : float
        On what the layers of the shell conduct [-].
    leakage_factor, wind_factor, gust_factor : float
        On the leakage of joints, the wind at the hive, and what gusts exchange [-].
    cluster_factor, rest_factor, fanning_factor : float
        On the conductance of the cluster, the heat of bees at rest, and fanning [-].
    core_offset_k : float
        On the temperature of the cluster's core [K].
    quilt_capacity_kg_kg, quilt_wash : float
        Water shavings hold, times their weight, and how near to saturation air leaves them [-].
    rain_fill, rain_drying : float
        Share of the pores rain fills, and of the free evaporation a drying face gives [-].
    slats_share : float
        Share of a draught that passes a slatted rack [-].
    crack_laminar_pa : float
        Pressure below which the flow through cracks is laminar [Pa].
    activity_share : float
        Share of the honey for brood and flight that is spent in the hive [-].
    fanning_most_m3_s_kg, fanning_speed_m_s, cooling_most_1_s : float
        Most air bees fan [m³/(s·kg)], how fast [m/s], and most water they evaporate [1/s].
    brood_need, rest_q10, mantle_degc, broodless_airs_k, liked_degc, fanning_cost_w_m3_s : float
        How many times more a kelvin costs bees spread over brood, what ten kelvins of body warmth
        do to rest [-], the mantle of a cluster [°C], how much earlier broodless bees air [K].
    snow_on_lid_m : float
        The deepest snow a level lid keeps; the year only [m].
    pores_co2 : float
        On the CO2 that passes open pores [-].
    visible_g_day : float
        Water on a surface that is seen [g/day].
    film_factor, bees_factor : float
        On the inner films, and on the mass of the bees [-].
    sun_factor, buffer_factor : float
        On the sun that faces take in, and on the water boards and combs bind; the year only [-].
    ice_at_mouth : float
        Share of the vapour too much that freezes in a low opening; the year only [-].
    weather_chance : float
        Which of the years a place may have, where weather is made up; the year only [-].
    cluster_leaves_k, brood_bees, heat_borne_k, damp_borne : float
        How much warmer it is when bees leave the cluster [K], the share of them on full brood [-],
        how much more warmth [K] and damp [-] they bear before they fan, carry water and hang out.
    cling_factor, comb_heat_factor : float
        On the water that clings before it drips, and on the heat combs hold; the year only [-].
    isotherm_steeper, thirsty_inside : float
        How much steeper the isotherm of boards is above 80 %, and the share of them that is bare
        and drinks; the year only [-].

    What a shell is solved with (λ along the grain, corners, the moisture of a winter wall) is not
    solved again for a draw: its doubt is in ``shell_factor``. Where crown and base begin
    (`constants.ZONE_SHARE`) cuts the solids themselves and is a convention of the three zones.
    """

    plume_share: float = c.PLUME_SHARE.value
    mixing_nest_crown_w_k: float = c.MIXING_NEST_CROWN.value
    mixing_nest_base_w_k: float = c.MIXING_NEST_BASE.value
    shell_factor: float = SHELL_FACTOR.value
    leakage_factor: float = LEAKAGE_FACTOR.value
    wind_factor: float = WIND_FACTOR.value
    gust_factor: float = GUST_FACTOR.value
    cluster_factor: float = 1.0
    rest_factor: float = 1.0
    fanning_factor: float = 1.0
    core_offset_k: float = 0.0
    quilt_capacity_kg_kg: float = c.QUILT_CAPACITY.value
    quilt_wash: float = c.QUILT_WASH.value
    rain_fill: float = c.RAIN_FILL.value
    rain_drying: float = c.RAIN_DRYING.value
    slats_share: float = c.SLATS_SHARE.value
    crack_laminar_pa: float = c.CRACK_LAMINAR.value
    activity_share: float = c.ACTIVITY_SHARE.value
    fanning_most_m3_s_kg: float = c.FANNING_MOST.value
    fanning_speed_m_s: float = c.FANNING_SPEED.value
    cooling_most_1_s: float = c.COOLING_MOST.value
    brood_need: float = c.BROOD_NEED.value
    rest_q10: float = c.REST_HEAT_Q10.value
    mantle_degc: float = c.MANTLE_TEMPERATURE.value
    broodless_airs_k: float = c.BROODLESS_AIRS.value
    liked_degc: float = c.IDLE_LIKE.value
    fanning_cost_w_m3_s: float = c.FANNING_COST.value
    snow_on_lid_m: float = y.SNOW_ON_LID.value
    pores_co2: float = c.PORES_CO2.value
    visible_g_day: float = c.VISIBLE_WATER.value
    film_factor: float = FILM_FACTOR.value
    bees_factor: float = BEES_FACTOR.value
    sun_factor: float = SUN_FACTOR.value
    buffer_factor: float = BUFFER_FACTOR.value
    isotherm_steeper: float = y.ISOTHERM_STEEPER.value
    thirsty_inside: float = y.THIRSTY_INSIDE.value
    ice_at_mouth: float = y.ICE_AT_MOUTH.value
    weather_chance: float = WEATHER_CHANCE.value
    cluster_leaves_k: float = 0.0
    brood_bees: float = c.BROOD_BEES.value
    heat_borne_k: float = 0.0
    damp_borne: float = 0.0
    cling_factor: float = 1.0
    comb_heat_factor: float = 1.0

    def __post_init__(self) -> None:
        for field in fields(self):
            low, high = RANGES[field.name]
            value = getattr(self, field.name)
            # Calibration may leave the range of the estimate, but not the possible by far.
            span = high - low
            if not low - span <= value <= high + span:
                raise DomainError(field.name, value, f"is far outside {low:.3g} to {high:.3g}")


def _factor(constant: Constant) -> tuple[float, float]:
    low, high = _range(constant)
    return low / constant.value, high / constant.value


def _range(constant: Constant) -> tuple[float, float]:
    assert constant.low is not None and constant.high is not None
    return constant.low, constant.high


def _offset(constant: Constant) -> tuple[float, float]:
    low, high = _range(constant)
    return low - constant.value, high - constant.value


RANGES: Mapping[str, tuple[float, float]] = MappingProxyType(
    {
        "plume_share": _range(c.PLUME_SHARE),
        "mixing_nest_crown_w_k": _range(c.MIXING_NEST_CROWN),
        "mixing_nest_base_w_k": _range(c.MIXING_NEST_BASE),
        "shell_factor": _range(SHELL_FACTOR),
        "leakage_factor": _range(LEAKAGE_FACTOR),
        "wind_factor": _range(WIND_FACTOR),
        "gust_factor": _range(GUST_FACTOR),
        "cluster_factor": _factor(c.CLUSTER_CONDUCTANCE),
        "rest_factor": _factor(c.REST_HEAT),
        "fanning_factor": _factor(c.FANNING),
        "core_offset_k": _offset(c.CORE_TEMPERATURE_NO_BROOD),
        "quilt_capacity_kg_kg": _range(c.QUILT_CAPACITY),
        "quilt_wash": _range(c.QUILT_WASH),
        "rain_fill": _range(c.RAIN_FILL),
        "rain_drying": _range(c.RAIN_DRYING),
        "slats_share": _range(c.SLATS_SHARE),
        "crack_laminar_pa": _range(c.CRACK_LAMINAR),
        "activity_share": _range(c.ACTIVITY_SHARE),
        "fanning_most_m3_s_kg": _range(c.FANNING_MOST),
        "fanning_speed_m_s": _range(c.FANNING_SPEED),
        "cooling_most_1_s": _range(c.COOLING_MOST),
        "brood_need": _range(c.BROOD_NEED),
        "rest_q10": _range(c.REST_HEAT_Q10),
        "mantle_degc": _range(c.MANTLE_TEMPERATURE),
        "broodless_airs_k": _range(c.BROODLESS_AIRS),
        "liked_degc": _range(c.IDLE_LIKE),
        "fanning_cost_w_m3_s": _range(c.FANNING_COST),
        "snow_on_lid_m": _range(y.SNOW_ON_LID),
        "pores_co2": _range(c.PORES_CO2),
        "visible_g_day": _range(c.VISIBLE_WATER),
        "film_factor": _range(FILM_FACTOR),
        "bees_factor": _range(BEES_FACTOR),
        "sun_factor": _range(SUN_FACTOR),
        "buffer_factor": _range(BUFFER_FACTOR),
        "isotherm_steeper": _range(y.ISOTHERM_STEEPER),
        "thirsty_inside": _range(y.THIRSTY_INSIDE),
        "ice_at_mouth": _range(y.ICE_AT_MOUTH),
        "weather_chance": _range(WEATHER_CHANCE),
        "cluster_leaves_k": _offset(c.CLUSTER_LEFT_FROM),
        "brood_bees": _range(c.BROOD_BEES),
        "heat_borne_k": _offset(c.FANNING_HOT_FROM),
        "damp_borne": _offset(c.FANNING_DAMP_FROM),
        "cling_factor": _factor(y.CLING_LID),
        "comb_heat_factor": _factor(y.COMB_HEAT),
    }
)
"""Lowest and highest believable value of every parameter."""

LIKELY = Parameters()
"""The likely figures."""


def scaled(base: Parameters, factors: Mapping[str, float]) -> Parameters:
    """Return parameters some of which are multiplied, kept within what is possible by far."""
    changes = {}
    for name, factor in factors.items():
        low, high = RANGES[name]
        span = high - low
        value = getattr(base, name) * factor
        changes[name] = min(max(value, low - span, _NEVER_NOTHING * low), high + span)
    return replace(base, **changes)


def draws(count: int, seed: int) -> tuple[Parameters, ...]:
    """Return paired draws: the same for whoever asks with the same seed.

    Each parameter is drawn from a triangle over its range with its top at the likely value, those
    that span a factor (leakage) in their logarithm. The ranks are a scrambled Sobol sequence (Sobol
    1967, Owen 1998; SciPy): any few of its first draws cover all ranges evenly, and the first
    eight of sixty-four are those that are asked for alone.

    >>> len(draws(8, 1)), draws(8, 1) == draws(8, 1)
    (8, True)
    """
    if count < 1:
        raise DomainError("draws", count, "are none; use 1 or more")
    from scipy.stats import qmc

    # Of as many dimensions as there may ever be: one more parameter leaves the others' draws.
    sequence = qmc.Sobol(_DIMENSIONS, scramble=True, rng=seed)
    ranks = sequence.random_base2(ceil(log2(count)))[:count]
    columns: dict[str, FloatArray] = {}
    for rank, (name, (low, high)) in zip(ranks.T, RANGES.items(), strict=False):
        likely = getattr(LIKELY, name)
        if name == "weather_chance":
            columns[name] = rank
        elif name in ("leakage_factor", "crack_laminar_pa"):
            columns[name] = np.exp(_triangle(rank, log(low), log(likely), log(high)))
        else:
            columns[name] = _triangle(rank, low, likely, high)
    return tuple(
        replace(LIKELY, **{name: float(values[k]) for name, values in columns.items()})
        for k in range(count)
    )


def _triangle(rank: FloatArray, low: float, top: float, high: float) -> FloatArray:
    """Return the values of a triangular distribution at ranks of 0 to 1."""
    turn = (top - low) / (high - low)
    left = low + np.sqrt(rank * (high - low) * (top - low))
    right = high - np.sqrt((1 - rank) * (high - low) * (high - top))
    result: FloatArray = np.where(rank < turn, left, right)
    return result
