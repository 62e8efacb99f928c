"""Flow through every path for a given pressure; the balance itself is closed by the caller.

Δp(z) = Δp0 - ∫(ρe - ρi)·g·dz + Cp·½·ρe·v²   (outside minus inside, positive pushes air in)

Openings: (1/Cd²)·½ρ·u² + 32μL/D²·u = Δp, integrated in closed form over the height of every strip,
so that one opening breathes both ways. Joints: C·Δp^0.65. All arrays carry the conditions last.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.airflow.paths import AirPaths

FloatArray = NDArray[np.float64]

_G = c.GRAVITY.value
_CD = c.DISCHARGE_COEFFICIENT.value
_N = c.CRACK_EXPONENT.value
# Below this pressure joints are taken linear: the power law has an infinite slope at zero [Pa].
_JOINT_LINEAR_PA = 1e-3
# A pressure slope below this is a level pressure; the integral would divide zero by zero [Pa].
_LEVEL_PA = 1e-9


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Flows:
    """Mass flows of dry and moist air alike [kg/s].

    ``opening_in`` and ``opening_out`` are [O, N], by parts of openings; ``joint_in`` and
    ``joint_out`` [J, N].
    """

    opening_in: FloatArray
    opening_out: FloatArray
    joint_in: FloatArray
    joint_out: FloatArray


def pressure_drop_pa(
    heights_m: FloatArray,
    pressure_pa: FloatArray,
    outside_density: FloatArray,
    zone_density: FloatArray,
    zone_tops_m: FloatArray,
) -> FloatArray:
    """Return outside minus inside pressure [H, N] at heights [H, M], without wind [Pa].

    ``pressure_pa`` [N] is Δp0 at the floor, ``zone_density`` [3, N] from base to crown,
    ``zone_tops_m`` [2, M]; M is 1 or N.
    """
    z = heights_m
    low, high = zone_tops_m
    in_base = np.minimum(z, low)
    in_nest = np.clip(z, low, high) - low
    in_crown = np.maximum(z, high) - high
    difference = outside_density[None, :] - zone_density
    result: FloatArray = pressure_pa[None, :] - _G * (
        in_base * difference[0] + in_nest * difference[1] + in_crown * difference[2]
    )
    return result


def _speed_integral(pressure: FloatArray, density: FloatArray, friction: FloatArray) -> FloatArray:
    """Return ∫0^p u dp [Pa·m/s] for a positive pressure p, in closed form.

    With A = ½ρ/Cd² and B the friction, u = 2p/(B + s), s = √(B² + 4Ap); substituting d = s - B
    gives (B·d²/2 + d³/3)/(4A²), which does not cancel for small p.
    """
    a = 0.5 * density / _CD**2
    d = 4 * a * pressure / (np.sqrt(friction**2 + 4 * a * pressure) + friction + 1e-300)
    result: FloatArray = d * d * (friction / 2 + d / 3) / (4 * a * a)
    return result


def _speed(pressure: FloatArray, density: FloatArray, friction: FloatArray) -> FloatArray:
    """Return the mean speed in the opening u [m/s] at a positive pressure."""
    a = 0.5 * density / _CD**2
    result: FloatArray = (
        2 * pressure / (friction + np.sqrt(friction**2 + 4 * a * pressure) + 1e-300)
    )
    return result


def strip_flows_kg_s(
    low_pa: FloatArray,
    high_pa: FloatArray,
    strip_area_m2: FloatArray,
    friction: FloatArray,
    outside_density: FloatArray,
    inside_density: FloatArray,
) -> tuple[FloatArray, FloatArray]:
    """Return the mass flow in and out [kg/s] of strips whose Δp runs from ``low`` to ``high``.

    All arguments broadcast; positive Δp flows in with the outside density, negative flows out
    with the inside density.
    """
    slope = high_pa - low_pa
    level = np.abs(slope) < _LEVEL_PA
    safe = np.where(level, 1.0, slope)
    middle = (low_pa + high_pa) / 2

    def one_way(sign: float, density: FloatArray) -> FloatArray:
        ends = (
            _speed_integral(np.maximum(sign * high_pa, 0.0), density, friction)
            - _speed_integral(np.maximum(sign * low_pa, 0.0), density, friction)
        ) / (sign * safe)
        flat = _speed(np.maximum(sign * middle, 0.0), density, friction)
        flow: FloatArray = density * strip_area_m2 * np.where(level, flat, ends)
        return flow

    return one_way(1.0, outside_density), one_way(-1.0, inside_density)


def strip_slope_kg_s_pa(
    low_pa: FloatArray,
    high_pa: FloatArray,
    strip_area_m2: FloatArray,
    friction: FloatArray,
    outside_density: FloatArray,
    inside_density: FloatArray,
) -> FloatArray:
    """Return by how much the net flow in grows with Δp [kg/(s·Pa)]; see `strip_flows_kg_s`.

    The integral of u over a strip grows by u at its ends; a level strip by du/dp = 1/√(B² + 4Ap).
    """
    slope = high_pa - low_pa
    level = np.abs(slope) < _LEVEL_PA
    safe = np.where(level, 1.0, slope)
    middle = (low_pa + high_pa) / 2
    total = np.zeros(np.broadcast_shapes(slope.shape, friction.shape, inside_density.shape))
    for sign, density in ((1.0, outside_density), (-1.0, inside_density)):
        ends = (
            _speed(np.maximum(sign * high_pa, 0.0), density, friction)
            - _speed(np.maximum(sign * low_pa, 0.0), density, friction)
        ) / safe
        a = 0.5 * density / _CD**2
        flat = 1 / np.sqrt(friction**2 + 4 * a * np.maximum(sign * middle, 0.0) + 1e-24)
        on = (sign * middle >= 0) * flat
        total = total + sign * density * np.where(level, sign * on, ends)
    result: FloatArray = strip_area_m2 * total
    return result


def joint_slope_m3_s_pa(pressure_pa: FloatArray, coefficient: FloatArray) -> FloatArray:
    """Return by how much a joint's flow grows with Δp [m³/(s·Pa)]; see `joint_flow_m3_s`."""
    size = np.abs(pressure_pa)
    power = _N * np.maximum(size, _JOINT_LINEAR_PA) ** (_N - 1)
    result: FloatArray = coefficient * np.where(
        size < _JOINT_LINEAR_PA, _JOINT_LINEAR_PA ** (_N - 1), power
    )
    return result


def joint_flow_m3_s(pressure_pa: FloatArray, coefficient: FloatArray) -> FloatArray:
    """Return C·|Δp|^0.65 [m³/s], linear below 0.001 Pa."""
    size = np.abs(pressure_pa)
    power = np.maximum(size, _JOINT_LINEAR_PA) ** _N
    linear = size * _JOINT_LINEAR_PA ** (_N - 1)
    result: FloatArray = coefficient * np.where(size < _JOINT_LINEAR_PA, linear, power)
    return result


def flows(
    paths: AirPaths,
    pressure_pa: FloatArray,
    outside_density: FloatArray,
    zone_density: FloatArray,
    wind_m_s: FloatArray,
    fanning_m3_s: FloatArray | None = None,
) -> Flows:
    """Return the flow through every opening and joint at a floor pressure Δp0 [N].

    ``fanning_m3_s`` [N] is what the bees move in and out through the openings, shared by area; it
    is as much in as out and shifts no pressure.
    """
    dynamic = 0.5 * outside_density * wind_m_s**2

    def drop(heights: FloatArray) -> FloatArray:
        return pressure_drop_pa(
            heights, pressure_pa, outside_density, zone_density, paths.zone_tops_m
        )

    wind = paths.strip_cp * dynamic[None, :]
    inside = zone_density[paths.part_zone[paths.strip_part]]
    into, out = strip_flows_kg_s(
        drop(paths.strip_bottom_m) + wind,
        drop(paths.strip_top_m) + wind,
        paths.strip_area_m2,
        paths.strip_friction,
        outside_density[None, :],
        inside,
    )
    belongs = paths.strip_part[None, :] == np.arange(len(paths.part_ids))[:, None]
    opening_in, opening_out = belongs @ into, belongs @ out
    # Gusts pump air through an opening even where the mean flow stands still.
    gust = paths.gust_share * paths.part_area_m2 * wind_m_s[None, :] * outside_density[None, :]
    if np.any(paths.part_lid_exchange):
        gust = gust + _through_lid(paths, outside_density, zone_density)
    if fanning_m3_s is not None:
        whole = np.maximum(paths.part_area_m2.sum(axis=0), 1e-12)
        gust = gust + paths.part_area_m2 / whole * fanning_m3_s * outside_density
    crack = drop(paths.joint_height_m)
    volume = joint_flow_m3_s(crack, paths.joint_coefficient)
    return Flows(
        opening_in=opening_in + gust,
        opening_out=opening_out + gust,
        joint_in=np.where(crack > 0, volume * outside_density[None, :], 0.0),
        joint_out=np.where(crack < 0, volume * zone_density[paths.joint_zone], 0.0),
    )


def _through_lid(
    paths: AirPaths, outside_density: FloatArray, zone_density: FloatArray
) -> FloatArray:
    """Return the exchange [O, N] [kg/s] of level holes in the lid: heavy air above light air.

    Q = 0.055·√(g·Δρ/ρ)·D^2.5 (Epstein 1988); none while the air below is the heavier.
    """
    inside = zone_density[paths.part_zone]
    heavier = np.maximum(outside_density[None, :] - inside, 0.0)
    exchange: FloatArray = (
        paths.part_lid_exchange * np.sqrt(_G * heavier / outside_density) * outside_density
    )
    return exchange
