"""Flow through every path for densities that are given; the physics stands in `airflow.kernel`."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from calveth.core.airflow import kernel_given as k
from calveth.core.airflow.flows import Flows
from calveth.core.airflow.paths import AirPaths

FloatArray = NDArray[np.float64]


def rows(*columns: FloatArray | NDArray[np.int_], hives: int) -> FloatArray:
    """Return columns [K] or [K, M] side by side as [hives, K, columns], M being one or hives."""
    made = np.empty((hives, columns[0].shape[0], len(columns)))
    for number, column in enumerate(columns):
        made[:, :, number] = column if column.ndim == 1 else column.T
    return made


def path_arrays(p: AirPaths, hives: int) -> tuple[FloatArray, FloatArray, FloatArray, FloatArray]:
    """Return strips, parts, joints and zone tops of hives [M, rows, columns] for the kernel."""
    strips = rows(
        p.strip_part,
        p.part_zone[p.strip_part],
        p.strip_bottom_m,
        p.strip_top_m,
        p.strip_area_m2,
        p.strip_friction,
        p.strip_cp,
        hives=hives,
    )
    parts = rows(p.part_zone, p.part_area_m2, p.part_lid_exchange, hives=hives)
    joints = rows(p.joint_zone, p.joint_height_m, p.joint_coefficient, p.joint_cp, hives=hives)
    # A copy: a view that is read only would have the hours compiled once more.
    tops = np.array(np.broadcast_to(p.zone_tops_m.T, (hives, 2)), order="C")
    return strips, parts, joints, tops


def balanced_pressure_pa(
    paths: AirPaths,
    outside_density: FloatArray,
    zone_density: FloatArray,
    wind_m_s: FloatArray,
) -> FloatArray:
    """Return the floor pressure difference Δp0 [N] at which as much air enters as leaves [Pa].

    Densities are outside [N] and of base, nest and crown [3, N].
    """
    start = np.zeros(outside_density.size)
    return _moved(paths, start, outside_density, zone_density, wind_m_s, None, True)[0]


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
    return _moved(paths, pressure_pa, outside_density, zone_density, wind_m_s, fanning_m3_s, False)[
        1
    ]


def _moved(
    paths: AirPaths,
    pressure_pa: FloatArray,
    outside_density: FloatArray,
    zone_density: FloatArray,
    wind_m_s: FloatArray,
    fanning_m3_s: FloatArray | None,
    balanced: bool,
) -> tuple[FloatArray, Flows]:
    n, hives = outside_density.size, paths.zone_tops_m.shape[1]
    owner = np.arange(n) if hives > 1 else np.zeros(n, dtype=np.int64)
    conditions = np.zeros((n, 8))
    conditions[:, k.AT_DP0], conditions[:, k.AT_RHO_OUT] = pressure_pa, outside_density
    conditions[:, k.AT_RHO : k.AT_WIND] = zone_density.T
    conditions[:, k.AT_WIND], conditions[:, k.AT_BALANCED] = wind_m_s, float(balanced)
    if fanning_m3_s is not None:
        conditions[:, k.AT_FANNING] = fanning_m3_s
    pressure = np.zeros(n)
    parts = np.zeros((n, paths.part_zone.size, 2))
    joints = np.zeros((n, paths.joint_zone.size, 2))
    pumping = np.empty((hives, 2))
    pumping[:, 0], pumping[:, 1] = paths.gust_share[0], paths.laminar_pa[0]
    k.move_all(*path_arrays(paths, hives), pumping, owner, conditions, pressure, parts, joints)
    return pressure, Flows(
        opening_in=parts[:, :, 0].T,
        opening_out=parts[:, :, 1].T,
        joint_in=joints[:, :, 0].T,
        joint_out=joints[:, :, 1].T,
    )
