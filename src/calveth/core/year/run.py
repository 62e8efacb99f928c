"""A hive through the year of its place: what goes in, and the hours that come out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.assess.moments import Moments
from calveth.core.calendar import (
    DAYS_IN_YEAR,
    FIRST_DAYS,
    HOURS_IN_DAY,
    HOURS_IN_YEAR,
)
from calveth.core.case import HiveCase
from calveth.core.climate.air import station_pressure_pa
from calveth.core.climate.days import MONTH_OF_DAY, MONTH_OF_HOUR, smooth_days
from calveth.core.climate.place import Place, warm_months
from calveth.core.climate.year import OWN_WIND, YearWeather, year_weather
from calveth.core.colony.colony import Colony, ColonyMoment, colony_moment
from calveth.core.colony.room import co2_by_month
from calveth.core.errors import DomainError
from calveth.core.heat.slab import outer_film_m2k_w
from calveth.core.hive.by_month import as_set
from calveth.core.hive.season_plan import Setting
from calveth.core.hive.zones import FRACTIONS
from calveth.core.nest import kernel_arrays as k
from calveth.core.nest.balance import Outside
from calveth.core.nest.network import HiveModel, hive_model
from calveth.core.nest.steady import no_answer
from calveth.core.year import columns as cl
from calveth.core.year import kernel_arrays as ka
from calveth.core.year.chains import HOUR_S
from calveth.core.year.result import YearRun, is_winter
from calveth.core.year.shells import exposed_sides, shell_arrays, wind_rows

FloatArray = NDArray[np.float64]

BEGINS_DAY = 181
"""The year begins on 1 July, when stores of water are as dry as they come; in the south 1 January.
Some weeks before are run first, so that it begins as it ends."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class _Block:
    """A stretch of days in one setting."""

    first_day: int
    end_day: int
    hive: k.Hive
    shell: ka.Shell
    model: HiveModel


@lru_cache(maxsize=8)
def _own_bees(colony: Colony, place: Place) -> ColonyMoment:
    """Return the colony in the weather of its place; the same in every draw."""
    return bees_by_hour(colony, place, year_weather(place))


def bees_by_hour(colony: Colony, place: Place, weather: YearWeather) -> ColonyMoment:
    """Return the colony of every hour: between the months, and with its foragers out."""
    mass, brood, activity, nectar = (
        np.repeat(_by_day(values, floor), HOURS_IN_DAY)
        for values, floor in (
            (colony.mass_kg, 0.2 * min(colony.mass_kg)),
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
    bees: ColonyMoment | None = None,
) -> YearRun:
    """Return the year of a hive, with its place's own weather and bees unless others are given.

    Raises
    ------
    NotBalancedError
        When the bees would suffocate, or its air comes to no rest for days.
    """
    if weather is None:
        weather = year_weather(case.place)
        bees = _own_bees(case.colony, case.place) if bees is None else bees
    bees = bees_by_hour(case.colony, case.place, weather) if bees is None else bees
    blocks, hours = _blocks(case, weather, bees)
    exposed = exposed_sides(case.place)
    series, ledger, change, replay = _through(
        case.design.name, blocks, hours, exposed, _begins(case.place)
    )
    return YearRun(
        case=case, weather=weather, series=series, ledger=ledger, held_change=change, bees=bees,
        areas_m2=blocks[0].shell.walls[:, ka.WALL_AREA].copy(),
        fan_limit_m3_s=_fan_limit(blocks), replay=replay,
    )  # fmt: skip


class _Refused:
    """Refuses a year no bees live through, or that is no answer; as the months do."""

    def __init__(self, name: str, outside_degc: float) -> None:
        self._name, self._outside_degc = name, outside_degc
        self._foul_h = 0

    def look_at(self, stretch: FloatArray, ledger: FloatArray) -> None:
        """Add the hours of a stretch [N, 50] to what was seen; raise when it is too much."""
        worst = np.maximum(stretch[:, cl.S_CO2], stretch[:, cl.S_CO2 + 1])
        self._foul_h += int((worst > c.CO2_SUFFOCATES.value).sum())
        if self._foul_h > _MOST_FOUL_H:
            raise no_answer("suffocates", self._name, 0.0)
        if ledger[cl.L_UNSETTLED] > _MOST_UNSETTLED_H:
            raise no_answer("no rest", self._name, self._outside_degc)


def _fan_limit(blocks: Sequence[_Block]) -> FloatArray:
    """Return half of the free openings, the way out, at the most speed [8760] [m³/s]."""
    limit = np.empty(HOURS_IN_YEAR)
    for block in blocks:
        most = 0.5 * block.shell.part_open[:, 0].sum() * block.hive.scalars[k.FAN_SPEED]
        limit[_hour(block.first_day) : _hour(block.end_day)] = most
    return limit


def _begins(place: Place) -> int:
    return BEGINS_DAY if place.latitude_deg >= 0 else 0


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Replay:
    """What it takes to look at any hour again: where each stretch of at most a month began."""

    starts: tuple[tuple[int, int, _Block, ka.Held], ...]
    hours: FloatArray
    exposed: FloatArray


def _through(
    name: str, blocks: Sequence[_Block], hours: FloatArray, exposed: FloatArray, begins: int
) -> tuple[FloatArray, FloatArray, tuple[float, float, float], Replay]:
    """Take the hive through some weeks to begin with, and then through the year."""
    from calveth.core.year import kernel_year as ky

    series = np.zeros((HOURS_IN_YEAR, len(cl.SERIES)))
    held = ka.new_held()
    order = _in_order(blocks, begins)
    now = order[-1].shell
    ky.begin(hours[max(_hour(order[-1].end_day) - _WIND_UP_H, 0) :], now, held)
    end, ledger = _hour(order[-1].end_day), np.zeros(cl.LEDGER_COLUMNS)
    first = max(_hour(order[-1].first_day), end - _WIND_UP_H)
    _run(order[-1], held, hours, first, end, exposed, series, ledger)
    # A year that is no answer is left as soon as it is known.
    outside_degc = float(hours[:, k.TE].mean())
    _Refused(name, outside_degc).look_at(series[first:end], ledger)
    before = _stock(now, held)
    ledger[:] = 0.0
    series[:] = 0.0
    starts, refused = [], _Refused(name, outside_degc)
    for block in order:
        if block.shell is not now:
            heat, water, _ = _stock(now, held)
            ky.change_setting(now, block.shell, held)
            later = _stock(block.shell, held)
            ledger[cl.L_HEAT_SET] += later[0] - heat
            ledger[cl.L_WATER_SET] += later[1] - water
            now = block.shell
        for first, end in _stretches(block):
            starts.append((first, end, block, ka.Held(*(a.copy() for a in held))))
            _run(block, held, hours, first, end, exposed, series, ledger)
            refused.look_at(series[first:end], ledger)
    after = _stock(now, held)
    change = (after[0] - before[0], after[1] - before[1], after[2] - before[2])
    replay = Replay(starts=tuple(starts), hours=hours, exposed=exposed)
    return series, ledger, change, replay


def _stretches(block: _Block) -> list[tuple[int, int]]:
    """Return the hours of a block cut at the months."""
    cuts = [day for day in FIRST_DAYS if block.first_day < day < block.end_day]
    edges = [_hour(day) for day in (block.first_day, *cuts, block.end_day)]
    return list(pairwise(edges))


def _run(
    block: _Block,
    held: ka.Held,
    hours: FloatArray,
    first: int,
    end: int,
    exposed: FloatArray,
    series: FloatArray,
    ledger: FloatArray,
) -> k.Work:
    """Run a stretch; return the balance as its last hour left it."""
    from calveth.core.year import kernel_year as ky

    work = k.new_work(block.hive)
    ky.run_hours(
        block.hive, block.shell, held, hours, first, end, exposed, series, ledger, work
    )  # fmt: skip
    return work


def moments_at(run: YearRun, hour: int) -> Moments:
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
    first, _, block, began = next(s for s in replay.starts if s[0] <= hour < s[1])
    held = ka.Held(*(a.copy() for a in began))
    series = np.zeros((HOURS_IN_YEAR, len(cl.SERIES)))
    work = _run(
        block, held, replay.hours, first, hour + 1, replay.exposed, series,
        np.zeros(cl.LEDGER_COLUMNS),
    )  # fmt: skip
    answers = Answers(
        state=held.x[None], status=np.zeros(1, dtype=np.int64), part_flows=work.part_flows[None],
        joint_flows=work.joint_flows[None], at=work.at[None], shell_w=work.shell_w[None],
        comb_kg_s=work.comb_kg_s[None], sums=work.sums[None], residual=work.residual[None],
    )  # fmt: skip
    one = np.array([hour])
    return Moments(
        (block.model,), np.zeros(1, dtype=int),
        outside_by_hour(run.case.place, run.weather).take(one), run.bees.take(one),
        balance_of(answers),
    )  # fmt: skip


# More hours of air no bees live in, or of balances left open, and the year is no answer.
_MOST_FOUL_H, _MOST_UNSETTLED_H = 24, 240
_WIND_UP_H = 30 * HOURS_IN_DAY
"""How long a hive is run before its year begins: boards and combs forget in some weeks. Measured in
all places that ship: against 150 days no figure of the year moves by more than one in 2000."""


def _hour(day: int) -> int:
    return day * HOURS_IN_DAY


def _in_order(blocks: Sequence[_Block], begins: int) -> list[_Block]:
    """Return the blocks from the day on a year begins, the one it falls into cut in two."""
    found: list[_Block] = []
    for block in blocks:
        if block.first_day < begins < block.end_day:
            found.append(replace(block, end_day=begins))
            found.append(replace(block, first_day=begins))
        else:
            found.append(block)
    return [b for b in found if b.first_day >= begins] + [b for b in found if b.first_day < begins]


def _stock(shell: ka.Shell, held: ka.Held) -> tuple[float, float, float]:
    """Return heat [J], water and CO2 [kg] a hive holds."""
    dry = np.einsum("kim,km->ki", shell.to_cells, held.dry) * shell.capacity
    wet = np.einsum("kim,km->ki", shell.to_cells, held.settled) * shell.capacity
    area, scale = shell.walls[:, ka.WALL_AREA], shell.walls[:, ka.WALL_SCALE]
    heat = float((area * (scale * dry.sum(axis=1) + wet.sum(axis=1))).sum())
    heat += float((shell.combs[:, ka.COMB_HEAT] * held.comb_degc).sum())
    air = shell.extra[ka.AIR_M3] * np.array(FRACTIONS)
    cp, density = c.AIR_HEAT_CAPACITY.value, y.AIR_DENSITY.value
    t, p, co2 = held.x[0:3], held.x[3:6], held.x[6:9]
    heat += float((air * density * cp * t).sum()) + HOUR_S * float(held.carry[0:3].sum())
    heat -= float((held.melting * area).sum()) * HOUR_S
    water = float((air * p / (c.GAS_CONSTANT_VAPOUR.value * (t + c.KELVIN_AT_0_DEGC.value))).sum())
    water += float(held.film_kg.sum() + held.comb_kg.sum() + held.quilt[0])
    water += float((shell.walls[:, ka.WALL_CAPACITY] * held.bound).sum())
    water += float((shell.walls[:, ka.WALL_DEEP] * held.deep).sum())
    water += float((shell.combs[:, ka.COMB_WATER] * held.comb_bound).sum())
    water += HOUR_S * float(held.carry[3:6].sum())
    carbon = float((air * density * co2).sum()) + HOUR_S * float(held.carry[6:9].sum())
    return heat, water, carbon


def _blocks(
    case: HiveCase, weather: YearWeather, bees: ColonyMoment
) -> tuple[list[_Block], FloatArray]:
    """Return the stretches of a year in one setting, and its hours."""
    from calveth.core.nest.lanes import hive_arrays, packed

    place, design = case.place, case.design
    warm = np.array(warm_months(place))[MONTH_OF_DAY]
    settings = [design.seasons.on(day) for day in range(DAYS_IN_YEAR)]
    film = float(
        outer_film_m2k_w(float(weather.wind_m_s.mean()), float(weather.temperature_degc.mean()))
    )
    made: dict[tuple[Setting, bool], tuple[k.Hive, ka.Shell, HiveModel]] = {}
    beside: dict[Setting, HiveModel] = {}
    found: list[_Block] = []
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
            hive = hive_arrays(terms, 1)
            one = k.Hive(
                hive.strips[0], hive.parts[0], hive.joints[0], hive.tops[0], hive.surfaces[0],
                hive.paths[0], hive.zones[0], hive.path_share, hive.scalars[0],
            )  # fmt: skip
            model = replace(model, terms=terms)
            made[key] = (one, shell_arrays(model, (one.surfaces, one.zones), film, rows), model)
        if day + 1 == DAYS_IN_YEAR or (settings[day + 1], bool(warm[day + 1])) != key:
            one, shell, model = made[key]
            found.append(
                _Block(first_day=begin, end_day=day + 1, hive=one, shell=shell, model=model)
            )
            begin = day + 1
    terms = next(iter(made.values()))[2].terms
    _, _, lanes = packed(terms, bees, outside_by_hour(place, weather))
    columns = [
        weather.sky_w_m2, weather.sector, weather.rain_mm, weather.sun_lid_w_m2,
        *weather.sun_side_w_m2, weather.snow_m, weather.ground_degc,
        weather.sky_side_w_m2,
    ]  # fmt: skip
    return found, np.column_stack([lanes, *columns])
