"""A winter room forward, hour by hour: from fans, heat and hives to warmth, damp and CO2.

Air and what stands in the room are mixed; each hour is stepped exactly for what holds through it.
What one hive gives off at a warmth of the room is its own balance at that condition.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.assess.result import assess_condition
from calveth.core.case import HiveCase
from calveth.core.climate.air import (
    humidity_ratio,
    saturation_pressure_unchecked_pa,
    station_pressure_pa,
)
from calveth.core.climate.days import MONTH_OF_HOUR
from calveth.core.climate.year import year_weather
from calveth.core.errors import DomainError, require_between

FloatArray = NDArray[np.float64]

_HOUR_S = 3600.0
# Warmth at which the hives are balanced; between them what they give off is a straight line [°C].
_ASKED_DEGC = (-10.0, -4.0, 0.0, 3.0, 6.0, 9.0, 12.0, 16.0, 22.0)
_ASKED_HUMIDITY = 0.6
# Honey and combs of a hive that follow the warmth of the room; common practice, 2.5 kJ/(kg·K).
_HONEY_J_KG_K = 2500.0


@dataclass(frozen=True, slots=True, kw_only=True)
class RoomPlan:
    """How a winter room is built and aired.

    Attributes
    ----------
    hives : int
        That stand in it.
    volume_m3 : float
        Air in it [m³].
    loss_w_k : float
        Heat it loses through walls, roof and floor [W/K].
    least_m3_h, most_m3_h : float
        What its fans move when they are throttled, and at full speed [m³/h].
    heating_w : float
        Most heat a heater gives [W]; 0 for none.
    keep_degc : float
        The warmth fans and heater aim at [°C].
    """

    hives: int
    volume_m3: float
    loss_w_k: float
    least_m3_h: float
    most_m3_h: float
    heating_w: float = 0.0
    keep_degc: float = 5.0

    def __post_init__(self) -> None:
        require_between("hives in the room", self.hives, 1, 5000)
        require_between("volume of the room", self.volume_m3, 1, 1e5, "m³")
        require_between("heat loss of the room", self.loss_w_k, 0, 1e5, "W/K")
        require_between("least exchange", self.least_m3_h, 0.1, 1e6, "m³/h")
        require_between("most exchange", self.most_m3_h, 0.1, 1e6, "m³/h")
        require_between("heating", self.heating_w, 0, 1e6, "W")
        require_between("temperature to keep", self.keep_degc, -10, 20, "°C")
        if self.most_m3_h < self.least_m3_h:
            raise DomainError(
                "most exchange", self.most_m3_h, "is under the least; type as much or more"
            )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class RoomHours:
    """The room in every hour the hives stand in it, in the order of the winter.

    Attributes
    ----------
    hours : array of int [H]
        Hours of the year, 0 to 8759.
    degc, humidity, co2 : array [H]
        Warmth [°C], relative humidity and CO2 by volume of the room [-].
    exchange_m3_h, heating_w : array [H]
        What fans and heater do.
    settles_kg : array [H]
        Water that the air of the room cannot hold and that settles on its walls [kg].
    """

    hours: NDArray[np.int_]
    degc: FloatArray
    humidity: FloatArray
    co2: FloatArray
    exchange_m3_h: FloatArray
    heating_w: FloatArray
    settles_kg: FloatArray


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Given:
    """What one hive gives off in a month at each of `_ASKED_DEGC`: W, water and CO2 [kg/s]."""

    heat_w: FloatArray
    water_kg_s: FloatArray
    co2_kg_s: FloatArray


def given_off(case: HiveCase, month: int) -> Given:
    """Return what a hive gives off in still air of a room, with the bees of a month (0 to 11)."""
    heat, water, co2 = [], [], []
    # The room it stands in would shelter it from the air that is asked for here.
    outdoors = replace(case, place=replace(case.place, room=None))
    for degc in _ASKED_DEGC:
        balance = assess_condition(
            outdoors,
            month=month,
            outside_degc=degc,
            relative_humidity=_ASKED_HUMIDITY,
            wind_m_s=0.0,
        ).balance
        heat.append(float(balance.ledger.dry_heat_w[0]))
        water.append(float(balance.ledger.water_kg_s[0] + balance.cooling_kg_s[0]))
        co2.append(float(balance.ledger.co2_kg_s[0]))
    return Given(heat_w=np.array(heat), water_kg_s=np.array(water), co2_kg_s=np.array(co2))


def room_hours(case: HiveCase, plan: RoomPlan, months: tuple[int, ...]) -> RoomHours:
    """Return the hours of a room in which hives of a kind stand in some months (0 to 11).

    Fans aim at ``keep_degc``: throttled when it is colder, faster when it is warmer than that and
    warmer than outside. A heater helps where throttled fans are not enough.

    Raises
    ------
    DomainError
        When no month is given.
    """
    if not months:
        raise DomainError("months in the room", len(months), "are none; name one or more")
    weather = year_weather(replace(case.place, room=None))
    hours = _in_order(months)
    pressure = station_pressure_pa(case.place.altitude_m)
    out_x = humidity_ratio(weather.vapour_pressure_pa, pressure)
    given = {month: given_off(case, month) for month in set(months)}
    inertia = plan.hives * case.colony.stores_kg * _HONEY_J_KG_K
    inertia += plan.volume_m3 * y.AIR_DENSITY.value * c.AIR_HEAT_CAPACITY.value
    degc, x = plan.keep_degc, float(out_x[hours[0]])
    co2_out = c.CO2_OUTSIDE_MASS_FRACTION.value
    co2 = co2_out
    rows = np.zeros((hours.size, 6))
    for n, hour in enumerate(hours):
        hive = given[int(MONTH_OF_HOUR[hour])]
        outside = float(weather.temperature_degc[hour])
        warmth = plan.hives * float(np.interp(degc, _ASKED_DEGC, hive.heat_w))
        flow = _exchange_m3_h(plan, warmth, degc, outside)
        leaves = plan.loss_w_k + _w_k(flow)
        cold = leaves * (plan.keep_degc - outside) - warmth
        heat = min(max(cold, 0.0), plan.heating_w) if flow <= plan.least_m3_h else 0.0
        ends = outside + (warmth + heat) / leaves
        degc = ends + (degc - ends) * float(np.exp(-leaves * _HOUR_S / inertia))
        air_kg_s = flow * y.AIR_DENSITY.value / _HOUR_S
        stays = float(np.exp(-flow / plan.volume_m3))
        water = plan.hives * float(np.interp(degc, _ASKED_DEGC, hive.water_kg_s))
        damp = float(out_x[hour]) + water / air_kg_s
        x = damp + (x - damp) * stays
        full = float(saturation_pressure_unchecked_pa(np.array(degc)))
        most = float(humidity_ratio(np.array([full]), pressure)[0])
        settles = max(x - most, 0.0) * plan.volume_m3 * y.AIR_DENSITY.value
        x = min(x, most)
        breath = plan.hives * float(np.interp(degc, _ASKED_DEGC, hive.co2_kg_s))
        foul = co2_out + breath / air_kg_s
        co2 = foul + (co2 - foul) * stays
        rows[n] = degc, x / most, _by_volume(co2), flow, heat, settles
    return RoomHours(
        hours=hours,
        degc=rows[:, 0],
        humidity=rows[:, 1],
        co2=rows[:, 2],
        exchange_m3_h=rows[:, 3],
        heating_w=rows[:, 4],
        settles_kg=rows[:, 5],
    )


def _exchange_m3_h(plan: RoomPlan, warmth_w: float, degc: float, outside_degc: float) -> float:
    """Return what the fans move: what would keep the room, within what they can."""
    if outside_degc >= plan.keep_degc:
        # No fan cools below what is outside; air that is cooler than the room still helps.
        return plan.most_m3_h if degc > outside_degc else plan.least_m3_h
    apart = plan.keep_degc - outside_degc
    wanted_w_k = warmth_w / apart - plan.loss_w_k
    flow = wanted_w_k / _w_k(1.0)
    return min(max(flow, plan.least_m3_h), plan.most_m3_h)


def _w_k(m3_h: float) -> float:
    """Return the heat an exchange carries off by the kelvin [W/K]."""
    return m3_h / _HOUR_S * y.AIR_DENSITY.value * c.AIR_HEAT_CAPACITY.value


def _by_volume(mass: float) -> float:
    molar = c.CO2_OVER_AIR_MOLAR_MASS.value
    return mass / (mass + molar * (1.0 - mass))


def _in_order(months: tuple[int, ...]) -> NDArray[np.int_]:
    """Return the hours of months of a winter from its first month on, over the turn of the year."""
    inside = np.isin(np.arange(12), months)
    first = next((m for m in range(12) if inside[m] and not inside[m - 1]), 0)
    order = [m for m in ((first + k) % 12 for k in range(12)) if inside[m]]
    return np.concatenate([np.flatnonzero(month == MONTH_OF_HOUR) for month in order])
