"""The pressure that closes the air balance of the hive."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.airflow.flow import (
    Flows,
    joint_flow_m3_s,
    joint_slope_m3_s_pa,
    pressure_drop_pa,
    strip_flows_kg_s,
    strip_slope_kg_s_pa,
)
from calveth.core.airflow.paths import AirPaths

FloatArray = NDArray[np.float64]

_MOST_STEPS = 60
_CLOSED = 1e-8  # of the air that moves


def net_inflow_kg_s(flow: Flows) -> FloatArray:
    """Return air in minus air out over all paths [N] [kg/s]."""
    net: FloatArray = (
        flow.opening_in.sum(axis=0)
        + flow.joint_in.sum(axis=0)
        - flow.opening_out.sum(axis=0)
        - flow.joint_out.sum(axis=0)
    )
    return net


def balanced_pressure_pa(
    paths: AirPaths,
    outside_density: FloatArray,
    zone_density: FloatArray,
    wind_m_s: FloatArray,
    start_pa: FloatArray | None = None,
) -> FloatArray:
    """Return the floor pressure difference Δp0 [N] at which as much air enters as leaves [Pa].

    The net inflow grows with Δp0, so there is exactly one; Newton's method kept inside a
    shrinking bracket finds it. A hive without any path keeps zero.
    """
    n = outside_density.size
    if not (paths.strip_area_m2.any() or paths.joint_coefficient.any()):
        return np.zeros(n)
    height = max(np.max(paths.strip_top_m, initial=0.0), np.max(paths.joint_height_m, initial=0.0))
    steepest = np.max(np.abs(outside_density - zone_density), axis=0)
    largest_cp = float(np.max(np.abs(paths.strip_cp), initial=0.0))
    reach = c.GRAVITY.value * height * steepest + largest_cp * 0.5 * outside_density * wind_m_s**2
    low, high = np.broadcast_to(-reach - 1e-6, n).copy(), np.broadcast_to(reach + 1e-6, n).copy()
    x = np.zeros(n) if start_pa is None else np.clip(start_pa, low, high).copy()

    open_lanes = np.arange(n)
    lanes = (paths, outside_density, zone_density, wind_m_s)
    for _ in range(_MOST_STEPS):
        here, slope, moving = _net_with_slope(x[open_lanes], *lanes)
        closed = np.abs(here) <= _CLOSED * moving
        at = x[open_lanes]
        low[open_lanes] = np.where(here < 0, at, low[open_lanes])
        high[open_lanes] = np.where(here > 0, at, high[open_lanes])
        step = at - here / np.maximum(slope, 1e-300)
        inside = (step > low[open_lanes]) & (step < high[open_lanes])
        middle = (low[open_lanes] + high[open_lanes]) / 2
        x[open_lanes] = np.where(closed, at, np.where(inside, step, middle))
        if np.all(closed):
            break
        if np.any(closed):
            # A lane that is closed is worked on no more; its neighbours cost nothing by it.
            left = np.flatnonzero(~closed)
            open_lanes = open_lanes[left]
            paths, rho, zones, wind = lanes
            lanes = (paths.take(left), rho[left], zones[:, left], wind[left])
    return x


def _net_with_slope(
    pressure_pa: FloatArray,
    paths: AirPaths,
    outside_density: FloatArray,
    zone_density: FloatArray,
    wind_m_s: FloatArray,
) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Return net inflow [kg/s], its growth with the pressure [kg/(s·Pa)] and what moves in [N].

    What gusts, fanning and a lid exchange is as much in as out and has no part in it.
    """

    def drop(heights: FloatArray) -> FloatArray:
        return pressure_drop_pa(
            heights, pressure_pa, outside_density, zone_density, paths.zone_tops_m
        )

    wind = paths.strip_cp * (0.5 * outside_density * wind_m_s**2)[None, :]
    ends = (drop(paths.strip_bottom_m) + wind, drop(paths.strip_top_m) + wind)
    inside = zone_density[paths.part_zone[paths.strip_part]]
    rest = (paths.strip_area_m2, paths.strip_friction, outside_density[None, :], inside)
    into, out = strip_flows_kg_s(*ends, *rest)
    slope = strip_slope_kg_s_pa(*ends, *rest)
    crack = drop(paths.joint_height_m)
    inward = crack > 0
    density = np.where(inward, outside_density[None, :], zone_density[paths.joint_zone])
    joint = density * joint_flow_m3_s(crack, paths.joint_coefficient)
    joint_slope = density * joint_slope_m3_s_pa(crack, paths.joint_coefficient)
    moving = into.sum(axis=0) + (joint * inward).sum(axis=0) + 1e-12
    net = into.sum(axis=0) - out.sum(axis=0) + np.where(inward, joint, -joint).sum(axis=0)
    return net, slope.sum(axis=0) + joint_slope.sum(axis=0), moving
