"""The air of a winter room: how much must be exchanged for N hives."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.climate.air import (
    density_kg_m3,
    humidity_ratio,
    station_pressure_pa,
    vapour_pressure_pa,
)
from calveth.core.climate.place import MonthClimate, Place, WinterRoom

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class RoomAir:
    """What the room needs in a month.

    Attributes
    ----------
    water_kg_day, co2_kg_day, heat_w : float
        Given off by all hives together.
    for_humidity_m3_h : float or None
        Air exchange that holds the humidity; None when the outside air is too damp for it.
    for_co2_m3_h : float
        Air exchange that holds the CO2.
    humidity_at_co2_exchange : float
        Humidity the room takes when only CO2 is looked after, 0 to 1 (or past it).
    heating_w : float
        What must be heated (positive) or cooled away (negative) at the exchange that is needed.
    """

    water_kg_day: float
    co2_kg_day: float
    heat_w: float
    for_humidity_m3_h: float | None
    for_co2_m3_h: float
    humidity_at_co2_exchange: float
    heating_w: float


def co2_by_month(place: Place) -> FloatArray:
    """Return the CO2 round a hive in each month [12], by mass; that of the room while it has one.

    The room is aired so that its CO2 stays at what it is not to pass.
    """
    by_month = np.full(12, c.CO2_OUTSIDE_MASS_FRACTION.value)
    room = place.room
    if room is not None:
        share = room.target_co2 * c.CO2_OVER_AIR_MOLAR_MASS.value
        inside = [room.holds(month) for month in range(12)]
        by_month[inside] = share / (1.0 - room.target_co2 + share)
    return by_month


def room_air(
    room: WinterRoom,
    outside: MonthClimate,
    altitude_m: float,
    *,
    water_kg_s: float,
    co2_kg_s: float,
    heat_w: float,
) -> RoomAir:
    """Return the exchange a room needs; the arguments are what one hive gives off.

    Steady balances of water and CO2: ṁ·(x_room - x_outside) = N·source. The room itself is taken
    as loss-free, so the heating is only that of the air.

    Parameters
    ----------
    room : WinterRoom
        Hives, temperature and what CO2 is not to pass.
    outside : MonthClimate
        The month outdoors.
    altitude_m : float
        Above the sea [m].
    water_kg_s : float
        Water vapour of one hive [kg/s].
    co2_kg_s : float
        CO2 of one hive [kg/s].
    heat_w : float
        Heat of one hive [W].
    """
    pressure = station_pressure_pa(altitude_m)
    t_room = np.array([room.temperature_degc])
    p_room = vapour_pressure_pa(t_room, room.relative_humidity)
    p_out = vapour_pressure_pa(np.array([outside.temperature_degc]), outside.relative_humidity)
    w_room = float(humidity_ratio(p_room, pressure)[0])
    w_out = float(humidity_ratio(p_out, pressure)[0])
    density = float(
        density_kg_m3(t_room, p_room, np.array([c.CO2_OUTSIDE_MASS_FRACTION.value]), pressure)[0]
    )
    water, co2 = room.hives * water_kg_s, room.hives * co2_kg_s
    rise = room.target_co2 * c.CO2_OVER_AIR_MOLAR_MASS.value - c.CO2_OUTSIDE_MASS_FRACTION.value
    for_co2 = co2 / rise
    for_humidity = water / (w_room - w_out) if w_room > w_out else None
    w_then = w_out + water / for_co2
    p_then = (
        w_then * pressure / (c.GAS_CONSTANT_DRY_AIR.value / c.GAS_CONSTANT_VAPOUR.value + w_then)
    )
    saturated = float(vapour_pressure_pa(t_room, 1.0)[0])
    needed = max(for_humidity or 0.0, for_co2)
    heating = (
        needed * c.AIR_HEAT_CAPACITY.value * (room.temperature_degc - outside.temperature_degc)
        - room.hives * heat_w
    )
    return RoomAir(
        water_kg_day=water * 86400,
        co2_kg_day=co2 * 86400,
        heat_w=room.hives * heat_w,
        for_humidity_m3_h=None if for_humidity is None else for_humidity / density * 3600,
        for_co2_m3_h=for_co2 / density * 3600,
        humidity_at_co2_exchange=p_then / saturated,
        heating_w=heating,
    )
