"""Moves the air of many hives whose densities are given, as compiled arithmetic."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from calveth.core.airflow.kernel import THROUGH_COLUMNS, balanced_pa, fill_flows, pass_air
from calveth.core.compiled import making

FloatArray = NDArray[np.float64]

AT_DP0, AT_RHO_OUT, AT_RHO, AT_WIND, AT_FANNING, AT_BALANCED = 0, 1, 2, 5, 6, 7
"""Columns of a condition of `move_all`: a floor pressure, densities, wind, fanning; above nought in
the last the floor pressure is only where the search begins."""


@making
def move_all(
    strips: FloatArray,
    parts: FloatArray,
    joints: FloatArray,
    tops: FloatArray,
    pumping: FloatArray,
    owner: NDArray[np.int64],
    conditions: FloatArray,
    pressure: FloatArray,
    part_flows: FloatArray,
    joint_flows: FloatArray,
) -> None:
    """Move the air of hives at conditions [N, 8] with densities given.

    ``pumping`` [M, 2] is what gusts exchange and the pressure below which cracks are laminar.
    Into ``pressure`` [N], ``part_flows`` [N, O, 2] and ``joint_flows`` [N, J, 2].
    """
    zone_flows, growth = np.zeros((3, 2)), np.zeros((3, 2, 4))
    through = np.zeros((strips.shape[1] + joints.shape[1], THROUGH_COLUMNS))
    for n in range(conditions.shape[0]):
        through[:] = 0.0
        at, h = conditions[n], owner[n]
        rho_out, rho = at[AT_RHO_OUT], at[AT_RHO:AT_WIND]
        lighter = rho_out - rho
        dynamic = 0.5 * rho_out * at[AT_WIND] ** 2
        pressure[n] = at[AT_DP0]
        if at[AT_BALANCED] > 0.0:
            pressure[n] = balanced_pa(
                at[AT_DP0],
                strips[h],
                joints[h],
                tops[h],
                rho_out,
                rho,
                lighter,
                dynamic,
                pumping[h, 1],
                through,
            )
        else:
            pass_air(
                at[AT_DP0],
                strips[h],
                joints[h],
                tops[h],
                rho_out,
                rho,
                lighter,
                dynamic,
                pumping[h, 1],
                through,
            )
        fill_flows(
            strips[h],
            parts[h],
            joints[h],
            tops[h],
            rho_out,
            rho,
            at[AT_WIND],
            pumping[h, 0],
            at[AT_FANNING],
            through,
            part_flows[n],
            joint_flows[n],
            zone_flows,
            growth,
        )
