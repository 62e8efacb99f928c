"""A hive through the year of its place: what goes in, and the hours that come out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants_year as y
from calveth.core.assess.readings import NestReadings
from calveth.core.calendar import (
    DAYS_IN_YEAR,
    HOURS_IN_DAY,
    HOURS_IN_YEAR,
)
from calveth.core.case import HiveCase
from calveth.core.climate.air import SIDES, station_pressure_pa
from calveth.core.climate.days import MONTH_OF_DAY, MONTH_OF_HOUR, smooth_days
from calveth.core.climate.generated import seed_of
from calveth.core.climate.place import Place, warm_months
from calveth.core.climate.year import OWN_WIND, YearWeather, sun_on_slants, year_weather
from calveth.core.colony.colony import Colony, ColonyState, colony_moment
from calveth.core.colony.room import co2_by_month
from calveth.core.errors import DomainError
from calveth.core.heat.slab import outer_film_m2k_w
from calveth.core.hive.by_month import as_set
from calveth.core.hive.forms import side_slants
from calveth.core.hive.season_plan import Setting
from calveth.core.nest import kernel_arrays as k
from calveth.core.nest.balance import Outside
from calveth.core.nest.network import HiveModel, hive_model
from calveth.core.remembered import remembered
from calveth.core.year import columns as cl
from calveth.core.year import kernel_arrays as ka
from calveth.core.year.result import YearRun, is_winter
from calveth.core.year.shells import exposed_sides, shell_arrays, wind_rows
from calveth.core.year.through import Block, Replay, hour_of, run_stretch, through
from calveth.core.year.wet_shells import wet_shells

# A curve through the months may not dip further below its least month [-].
_LEAST_OF_BEES = 0.2

FloatArray = NDArray[np.float64]

_UPRIGHT_DEG = 90.0
BEGINS_DAY = 181
"""The year begins on 1 July, when stores of water are as dry as they come; in the south 1 January.
Some weeks before are run first, so that it begins as it ends."""


@remembered(8)
def _own_bees(colony: Colony, place: Place) -> ColonyState:
    """Return the colony in the weather of its place; the same in every draw."""
    return bees_by_hour(colony, place, year_weather(place))


def bees_by_hour(colony: Colony, place: Place, weather: YearWeather) -> ColonyState:
    """Return the colony of every hour: between the months, and with its foragers out."""
    mass, brood, activity, nectar = (
        np.repeat(_by_day(values, floor), HOURS_IN_DAY)
        for values, floor in (
            (colony.mass_kg, _LEAST_OF_BEES * min(colony.mass_kg)),
            (colony.brood_share, 0.0),
            (colony.activity_kg_day, 0.0),
            (colony.nectar_kg_day, 0.0),
        )
    )
    flying = (
        weather.daylight
        & (weather.temperature_degc > y.FLIGHT_FROM.value)
        & (weather.rain_mm < y.HEAVY_RAIN.value)
        & ~np.repeat(is_winter(place), HOURS_IN_DAY)
    )
    away = np.where(flying, y.FORAGERS.value, 0.0)
    return colony_moment(colony, mass, np.minimum(brood, 1.0), activity, away, nectar)


def _by_day(months: Sequence[float], floor: float) -> FloatArray:
    """Return days [365] that run smoothly through months; a month of nought has nothing."""
    days = np.maximum(smooth_days(np.array(months)), floor)
    return np.where(np.array(months)[MONTH_OF_DAY] == 0.0, 0.0, days)


def outside_by_hour(place: Place, weather: YearWeather) -> Outside:
    """Return the air of every hour."""
    return Outside(
        temperature_degc=weather.temperature_degc,
        vapour_pressure_pa=weather.vapour_pressure_pa,
        wind_m_s=weather.wind_m_s,
        pressure_pa=station_pressure_pa(place.altitude_m),
        co2_mass_fraction=co2_by_month(place)[MONTH_OF_HOUR],
    )


def run_year(
    case: HiveCase,
    weather: YearWeather | None = None,
    bees: ColonyState | None = None,
) -> YearRun:
    """Return the year of a hive, with its place's own weather and bees unless others are given.

    Raises
    ------
    NotBalancedError
        When the bees would suffocate, or its air comes to no rest for days.
    """
    if weather is None:
        weather = year_weather(case.place, seed_of(case.parameters.weather_chance))
        bees = _own_bees(case.colony, case.place) if bees is None else bees
    bees = bees_by_hour(case.colony, case.place, weather) if bees is None else bees
    weather = on_leaning_sides(weather, case)
    blocks, hours = _blocks(case, weather, bees)
    exposed = exposed_sides(case.place)
    series, ledger, change, replay = through(
        case.design.name, blocks, hours, exposed, _begins(case.place)
    )
    return YearRun(
        case=case,
        weather=weather,
        series=series,
        ledger=ledger,
        held_change=change,
        bees=bees,
        areas_m2=blocks[0].shells[0].walls[:, ka.WALL_AREA].copy(),
        fan_limit_m3_s=_fan_limit(blocks),
        replay=replay,
    )


def on_leaning_sides(weather: YearWeather, case: HiveCase) -> YearWeather:
    """Return a weather whose sun on front and back is that of the boards as they lean."""
    slants = side_slants(case.design.form)
    if all(tilt == _UPRIGHT_DEG for tilt, _ in slants):
        return weather
    sides = weather.sun_side_w_m2.copy()
    for side in ("front", "back"):
        k = SIDES.index(side)
        sides[k] = sun_on_slants(weather, case.place, k, slants)
    sides.setflags(write=False)
    return replace(weather, sun_side_w_m2=sides)


def _fan_limit(blocks: Sequence[Block]) -> FloatArray:
    """Return half of the free openings, the way out, at the most speed [8760] [m³/s]."""
    limit = np.empty(HOURS_IN_YEAR)
    for block in blocks:
        most = 0.5 * block.shells[0].part_open[:, 0].sum() * block.hive.scalars[k.FAN_SPEED]
        limit[hour_of(block.first_day) : hour_of(block.end_day)] = most
    return limit


def _begins(place: Place) -> int:
    return BEGINS_DAY if place.latitude_deg >= 0 else 0


def moments_at(run: YearRun, hour: int) -> NestReadings:
    """Return the hive at one hour of its year (0 to 8759) as it is looked at in a month.

    The stretch the hour lies in is run again from its beginning to it: the same figures, as
    everything it began with was kept.
    """
    from calveth.core.nest.kernel_solve import Answers
    from calveth.core.nest.lanes import balance_of

    if not 0 <= hour < HOURS_IN_YEAR:
        raise DomainError("hour of the year", hour, "does not exist; use 0 to 8759")
    replay = run.replay
    assert isinstance(replay, Replay)
    first, _, block, level, began = next(s for s in replay.starts if s[0] <= hour < s[1])
    held = ka.Held(*(a.copy() for a in began))
    series = np.zeros((HOURS_IN_YEAR, len(cl.SERIES)))
    work, _ = run_stretch(
        block,
        level,
        held,
        replay.hours,
        first,
        hour + 1,
        replay.exposed,
        series,
        np.zeros(cl.LEDGER_COLUMNS),
    )
    answers = Answers(
        state=held.x[None],
        status=np.zeros(1, dtype=np.int64),
        part_flows=work.part_flows[None],
        joint_flows=work.joint_flows[None],
        at=work.at[None],
        shell_w=work.shell_w[None],
        comb_kg_s=work.comb_kg_s[None],
        sums=work.sums[None],
        residual=work.residual[None],
    )
    one = np.array([hour])
    return NestReadings(
        (block.model,),
        np.zeros(1, dtype=int),
        outside_by_hour(run.case.place, run.weather).take(one),
        run.bees.take(one),
        balance_of(answers),
    )


def _blocks(
    case: HiveCase, weather: YearWeather, bees: ColonyState
) -> tuple[list[Block], FloatArray]:
    """Return the stretches of a year in one setting, and its hours."""
    from calveth.core.nest.lanes import hive_arrays, packed

    place, design = case.place, case.design
    warm = np.array(warm_months(place))[MONTH_OF_DAY]
    settings = [design.seasons.on(day) for day in range(DAYS_IN_YEAR)]
    film = float(
        outer_film_m2k_w(float(weather.wind_m_s.mean()), float(weather.temperature_degc.mean()))
    )
    made: dict[tuple[Setting, bool], tuple[k.Hive, tuple[ka.Shell, ...], HiveModel]] = {}
    beside: dict[Setting, HiveModel] = {}
    blocks: list[Block] = []
    turns = bool((weather.sector != OWN_WIND).any())
    winds: FloatArray | None = None
    begin = 0
    for day in range(DAYS_IN_YEAR):
        key = (settings[day], bool(warm[day]))
        if key not in made:
            model = hive_model(
                case.of(as_set(design, key[0])), warm=key[1], beside=beside.get(key[0])
            )
            beside[key[0]] = model
            paths, rows = wind_rows(model, turns=turns, known=winds)
            winds = rows
            terms = replace(model.terms, paths=paths)
            one = _of_one_lane(hive_arrays(terms, 1))
            model = replace(model, terms=terms)
            dry = shell_arrays(model, (one.surfaces, one.zones), film, rows)
            made[key] = (one, wet_shells(model, one.surfaces, dry), model)
        if day + 1 == DAYS_IN_YEAR or (settings[day + 1], bool(warm[day + 1])) != key:
            one, shells, model = made[key]
            blocks.append(
                Block(first_day=begin, end_day=day + 1, hive=one, shells=shells, model=model)
            )
            begin = day + 1
    terms = next(iter(made.values()))[2].terms
    _, _, lanes = packed(terms, bees, outside_by_hour(place, weather))
    return blocks, np.column_stack([lanes, *_weather_columns(weather)])


def _of_one_lane(hive: k.Hive) -> k.Hive:
    """Return a hive without its first axis: months are worked side by side, hours one by one."""
    shared = {"path_share": hive.path_share}
    return k.Hive(**{f: shared.get(f, getattr(hive, f)[0]) for f in k.Hive._fields})


def _weather_columns(weather: YearWeather) -> list[FloatArray]:
    """Return what an hour has of the weather beside its air, each [8760], in the kernel's order."""
    # What lies on the lid is put in hour by hour: it hangs on the hive.
    still = np.zeros(weather.rain_mm.size)
    return [
        weather.sky_w_m2,
        weather.sector,
        weather.rain_mm,
        weather.sun_lid_w_m2,
        *weather.sun_side_w_m2,
        weather.snow_m,
        weather.ground_degc,
        weather.sky_side_w_m2,
        weather.snow_falls_kg_m2,
        still,
        still,
    ]
