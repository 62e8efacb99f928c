"""What a beekeeper reads off a year: larder, wet surfaces, hot days, air."""

from __future__ import annotations

from dataclasses import dataclass, fields

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.calendar import DAYS_IN_YEAR, HOURS_IN_DAY
from calveth.core.climate.place import winter_days
from calveth.core.nest.network import SURFACES
from calveth.core.year import columns as cl
from calveth.core.year.result import YearRun, is_winter

FloatArray = NDArray[np.float64]

# A fifth more, and ten millilitres a second: what is fanned against heat.
_MORE_THAN_BROOD, _FELT_M3_S = 1.2, 1e-5
# An entrance is called closed by ice from here on [-].
HALF_CLOSED = 0.5
LID_MIDDLE, LID_RIM, UPPER_WALL, _, LOWER_WALL, FLOOR, _ = range(7)


@dataclass(frozen=True, slots=True, kw_only=True)
class YearFigures:
    """Figures of a year; winter is from the last to the first forage week.

    Attributes
    ----------
    winter_honey_kg, year_honey_kg : float
        Honey burnt [kg].
    reserve_kg : float
        Stores left when forage begins; below nought they were empty before [kg].
    empty_day : float
        Day of the year (0 to 364) on which they are, NaN when they last.
    lid_wet_nights, rim_wet_nights, wall_wet_nights, floor_wet_nights : float
        Winter nights at whose end a film is seen on the middle of the lid, its rim, the walls
        beside the crown, the floor.
    lid_wet_hours, rim_wet_hours : float
        Winter hours with a film that is seen.
    dripped_kg, drained_kg, frozen_most_kg : float
        Water that dripped from the lid in winter; ran out over the year; most ice at a time [kg].
    hottest_nest_degc, hottest_lid_degc : float
        Warmest hour of nest air and of the underside of the lid [°C].
    harmful_hours, bearding_hours, fanning_hours : float
        Hours too warm for brood, with bees hanging out, and with bees fanning against heat.
    water_kg, water_most_kg_day : float
        Water carried in to cool, in the year and on the hottest day [kg].
    coldest_nest_degc, winter_co2, most_co2 : float
        Coldest hour of the nest air [°C]; CO2 beside the bees through the winter and at most [-].
    iced_hours : float
        Hours in which ice closes more than half of the low entrances.
    snow_days : float
        Winter days on which snow lies on the lid.
    """

    winter_honey_kg: float
    year_honey_kg: float
    reserve_kg: float
    empty_day: float
    lid_wet_nights: float
    rim_wet_nights: float
    wall_wet_nights: float
    floor_wet_nights: float
    lid_wet_hours: float
    rim_wet_hours: float
    dripped_kg: float
    drained_kg: float
    frozen_most_kg: float
    hottest_nest_degc: float
    hottest_lid_degc: float
    harmful_hours: float
    bearding_hours: float
    fanning_hours: float
    water_kg: float
    water_most_kg_day: float
    coldest_nest_degc: float
    winter_co2: float
    most_co2: float
    iced_hours: float
    snow_days: float


NAMES = tuple(f.name for f in fields(YearFigures))


def year_figures(run: YearRun) -> YearFigures:
    """Return the figures of a year."""
    hours = np.repeat(is_winter(run.case.place), HOURS_IN_DAY)
    honey = honey_by_day(run)
    left, empty = larder(run)
    wet = wet_hours(run)
    nights = _mornings(wet)
    winter = is_winter(run.case.place)
    nest, cool = run.column("nest_degc"), run.column("cooling_kg_s") * 3600.0
    # More than they fan for brood in any weather.
    hot = _MORE_THAN_BROOD * run.bees.fanning_m3_s + _FELT_M3_S
    brood = run.bees.core_degc > 30.0
    return YearFigures(
        winter_honey_kg=float(honey[winter].sum()),
        year_honey_kg=float(honey.sum()),
        reserve_kg=left,
        empty_day=empty,
        lid_wet_nights=float((nights[LID_MIDDLE] & winter).sum()),
        rim_wet_nights=float((nights[LID_RIM] & winter).sum()),
        wall_wet_nights=float((nights[UPPER_WALL] & winter).sum()),
        floor_wet_nights=float((nights[FLOOR] & winter).sum()),
        lid_wet_hours=float((wet[LID_MIDDLE] & hours).sum()),
        rim_wet_hours=float((wet[LID_RIM] & hours).sum()),
        dripped_kg=float(run.column("dripped_kg")[hours].sum()),
        drained_kg=float(run.column("drained_kg").sum()),
        frozen_most_kg=float(run.column("ice_kg").max()),
        hottest_nest_degc=float(nest.max()),
        hottest_lid_degc=float(run.column("lid_middle_degc").max()),
        harmful_hours=float(((nest > y.BROOD_HARMED.value) & brood).sum()),
        bearding_hours=float((nest > y.BEARDING.value).sum()),
        fanning_hours=float((run.column("fanning_m3_s") > hot).sum()),
        water_kg=float(cool.sum()),
        water_most_kg_day=float(_by_day(cool).sum(axis=1).max()),
        coldest_nest_degc=float(nest.min()),
        winter_co2=float(run.column("nest_co2")[hours].mean()) if hours.any() else np.nan,
        most_co2=float(run.column("nest_co2").max()),
        snow_days=float((_by_day(run.column("snow_on_lid_kg_m2")).max(axis=1) > 0)[winter].sum()),
        iced_hours=float((run.column("entrance_iced") > HALF_CLOSED).sum()),
    )


def _by_day(values: FloatArray) -> FloatArray:
    return values.reshape(DAYS_IN_YEAR, HOURS_IN_DAY)


def honey_by_day(run: YearRun) -> FloatArray:
    """Return the honey burnt on each day [365] [kg], what is burnt outside the hive with it."""
    p = run.case.parameters
    inside = run.column("heat_w") / c.HONEY_ENERGY.value * 3600.0
    outside = (1 - p.activity_share) * p.bees_factor * run.bees.activity_w
    outside = outside / c.HONEY_ENERGY.value * 3600.0
    result: FloatArray = _by_day(inside + outside).sum(axis=1)
    return result


def larder(run: YearRun) -> tuple[float, float]:
    """Return what is left of the stores when forage begins [kg], and the day they are empty."""
    days, left = larder_course(run)
    if left.size == 0:
        return run.case.colony.stores_kg, float("nan")
    gone = np.flatnonzero(left < 0.0)
    return float(left[-1]), float(days[gone[0]]) if gone.size else float("nan")


def larder_course(run: YearRun) -> tuple[NDArray[np.int_], FloatArray]:
    """Return the days of the winter in their order, and the stores at the end of each [kg]."""
    days = np.array(winter_days(run.case.place), dtype=int)
    left: FloatArray = run.case.colony.stores_kg - np.cumsum(honey_by_day(run)[days])
    return days, left


def wet_hours(run: YearRun) -> NDArray[np.bool_]:
    """Return on which surfaces a film is seen in which hours [7, 8760].

    The upper wall is wet where one of its sides is.
    """
    films = run.series[:, cl.S_FILM : cl.S_FILM + len(SURFACES)].T
    area = run.areas_m2[:, None]
    wet: NDArray[np.bool_] = (films > y.SEEN_FILM.value * area) & (area > 0)
    wet[UPPER_WALL] = (side_films_kg_m2(run) > y.SEEN_FILM.value).any(axis=0)
    return wet


def side_films_kg_m2(run: YearRun) -> FloatArray:
    """Return the water on each side of the upper wall [4, 8760] [kg/m²], in `WALL_SIDES`."""
    area = max(0.25 * float(run.areas_m2[UPPER_WALL]), 1e-9)
    films: FloatArray = run.series[:, cl.S_SIDE_KG : cl.S_SIDE_KG + 4].T / area
    return films


def _mornings(wet: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Return the same at the end of each night, at 6 o'clock [7, 365]."""
    return wet.reshape(wet.shape[0], DAYS_IN_YEAR, HOURS_IN_DAY)[:, :, 5]


def margin_k(run: YearRun) -> FloatArray:
    """Return surface temperature less dew point of the air before it [7, 8760] [K]."""
    from calveth.core.climate.air import dew_point_unchecked_degc
    from calveth.core.nest.network import SURFACE_ZONE

    dew = dew_point_unchecked_degc(np.maximum(run.series[:, cl.S_P : cl.S_P + 3].T, 1.0))
    surfaces = run.series[:, cl.S_TS : cl.S_TS + len(SURFACES)].T
    result: FloatArray = surfaces - dew[SURFACE_ZONE]
    return result


SPECIAL_HOURS = ("coldest", "wettest", "hottest")
"""Hours worth going to."""


def special_hour(run: YearRun, what: str) -> int:
    """Return the coldest hour outside, the wettest under the lid, or the hottest beside the bees.

    The wettest has most water on the lid, or else is the winter hour nearest to the dew point.
    """
    if what == "coldest":
        return int(np.argmin(run.weather.temperature_degc))
    if what == "hottest":
        return int(np.argmax(run.column("nest_degc")))
    films = run.column("lid_middle_kg") + run.column("lid_rim_kg")
    if films.max() > 0.0:
        return int(np.argmax(films))
    winter = np.repeat(is_winter(run.case.place), HOURS_IN_DAY)
    margin = np.where(winter | ~winter.any(), margin_k(run)[:2].min(axis=0), np.inf)
    return int(np.argmin(margin))


@dataclass(frozen=True, slots=True, kw_only=True)
class NectarNeed:
    """What it takes to dry a kilogram of water a day out of nectar.

    ``air_m3_s`` to be fanned [m³/s] and ``heat_w`` [W]; ``bound_days``: on how many days of forage
    the openings do not let that air through beside what is fanned for anything else. ``brought_kg``
    and ``dried_kg``: water of nectar that the colony is given in the year, and what of it dries;
    ``waits_kg``: the most of it that waits for drier air.
    """

    air_m3_s: float
    heat_w: float
    bound_days: int
    brought_kg: float
    dried_kg: float
    waits_kg: float


def nectar_need(run: YearRun, water_kg_day: float = 1.0) -> NectarNeed:
    """Return what drying takes: uptake `NECTAR_UPTAKE` a kilogram of air, and the latent heat."""
    water = water_kg_day / 86400.0
    air = water / y.NECTAR_UPTAKE.value / y.AIR_DENSITY.value
    fanned = _by_day(run.column("fanning_m3_s")).mean(axis=1)
    most = _by_day(run.fan_limit_m3_s).mean(axis=1)
    # What is fanned for the nectar of this year is not counted twice.
    own = _by_day(run.bees.nectar_kg_s).mean(axis=1) * air / water
    own = np.minimum(own, fanned)
    forage = ~is_winter(run.case.place)
    return NectarNeed(
        air_m3_s=air,
        heat_w=water * c.LATENT_HEAT_WATER.value,
        bound_days=int((forage & (fanned - own + air > most)).sum()),
        brought_kg=3600.0 * float(run.bees.nectar_kg_s.sum()) * run.case.parameters.bees_factor,
        dried_kg=3600.0 * float(run.column("nectar_kg_s").sum()),
        waits_kg=float(run.column("nectar_waits_kg").max()),
    )
