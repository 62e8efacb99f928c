"""The pressure that closes the air balance of the hive."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.airflow.flow import Flows, flows
from calveth.core.airflow.paths import AirPaths

FloatArray = NDArray[np.float64]

_MOST_STEPS = 60
_CLOSED = 1e-8  # of the air that moves
_PROBE_PA = 1e-7


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
    low, high = -reach - 1e-6, reach + 1e-6
    x = np.zeros(n) if start_pa is None else np.clip(start_pa, low, high)

    both = np.concatenate([np.arange(n), np.arange(n)])
    paths = paths.take(both)
    twice = [np.concatenate([a, a], axis=-1) for a in (outside_density, zone_density, wind_m_s)]
    for _ in range(_MOST_STEPS):
        flow = flows(paths, np.concatenate([x, x + _PROBE_PA]), *twice)
        net = net_inflow_kg_s(flow)
        here, there = net[:n], net[n:]
        moving = flow.opening_in.sum(axis=0)[:n] + flow.joint_in.sum(axis=0)[:n] + 1e-12
        closed = np.abs(here) <= _CLOSED * moving
        if np.all(closed):
            break
        low = np.where(here < 0, x, low)
        high = np.where(here > 0, x, high)
        slope = (there - here) / _PROBE_PA
        step = x - here / np.maximum(slope, 1e-300)
        inside = (step > low) & (step < high)
        x = np.where(closed, x, np.where(inside, step, (low + high) / 2))
    return x
