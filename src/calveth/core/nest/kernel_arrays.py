"""The arrays of the balance: what a hive brings, a condition, a state, and what is left behind."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from calveth.core.airflow.kernel import THROUGH_COLUMNS
from calveth.core.compiled import making
from calveth.core.nest.kernel_parts import AT_COLUMNS, HOLD_COLUMNS, LAW_COLUMNS, SIDE_COLUMNS

FloatArray = NDArray[np.float64]

NINE = 9
T, P, C, DP0 = 0, 3, 6, 9
"""Where temperatures, vapour pressures, CO2 and the floor pressure stand in a state [10]."""
PLUME, MIX_BASE, MIX_CROWN, GUST, LAMINAR, FAN_MOST, FAN_SPEED, COOL_MOST = range(8)
BROOD_NEED, REST_LOG_Q10, MANTLE, BROODLESS_AIRS, LIKED, FAN_COST = range(8, 14)
LEAVES_K, BROOD_SHARE, HOT_K, DAMP_BY = range(14, 18)
HIVE_SCALARS = 18
"""Columns of the scalars of a hive; from `FAN_MOST` on what its bees can do and are like
(`ask_bees`)."""
TE, PE, WIND, PRESSURE, CORE, CLUSTER, REST, FANNING, ACTIVE, MASS, START_CO2 = range(11)
CO2_OUT, NECTAR, WAITING, BROOD = 11, 12, 13, 14
LANE_COLUMNS = 15
"""Columns of a condition and its bees, of the CO2 the search for a state begins with, of the CO2
outside by mass, of the water of nectar that is brought and that has waited [kg/s], and of how much
brood there is, 0 to 1."""
METABOLIC_W, AIR_W, CARRIED_KG_S, DIFFUSED_KG_S, CONDENSING_W, FAN_M3_S, COOL_KG_S = range(7)
WORST, NECTAR_KG_S = 7, 8
"""Columns of the sums of an answer."""
SUM_COLUMNS = 9
BEE_HEAT, BEE_HEAT_T, BEE_FAN, BEE_FAN_T, BEE_FAN_C, BEE_COOL, BEE_COOL_T = range(7)
BEE_SPREAD, BEE_SPREAD_T, BEE_COOL_P = 7, 8, 9
BEE_NECTAR, BEE_NECTAR_T, BEE_NECTAR_P, BEE_HEAT_P, BEE_FAN_P, BEE_HEAT_BASE = range(10, 16)
BEE_COLUMNS = 16
"""What bees do: heat [W], air fanned [m³/s], water evaporated [kg/s], that of nectar in it, how far
they are spread over the combs [-]; and how it grows with temperature (``_T``), vapour pressure
(``_P``) and CO2 by mass (``_C``) of the nest, and heat with the temperature of the
base (``_BASE``)."""


class Hive(NamedTuple):
    """What a hive brings, as arrays; see the column numbers of `kernel_parts` and `airflow`."""

    strips: FloatArray
    parts: FloatArray
    joints: FloatArray
    tops: FloatArray
    surfaces: FloatArray
    paths: FloatArray
    zones: FloatArray
    path_share: FloatArray
    scalars: FloatArray


class Work(NamedTuple):
    """What an evaluation leaves behind, and what holds for a condition.

    ``laws`` [7, 7] and ``hold`` [3, 12] say how walls and stores answer: at once where everything
    has settled (`kernel.rest`), or out of what they remember in an hour of a year; ``sides`` [4, 4]
    then are those of the upper wall, each with a film of its own.
    """

    laws: FloatArray
    hold: FloatArray
    sides: FloatArray
    through: FloatArray
    part_flows: FloatArray
    joint_flows: FloatArray
    zone_flows: FloatArray
    flow_growth: FloatArray
    flow_by: FloatArray
    bees: FloatArray
    at: FloatArray
    shell_w: FloatArray
    comb_kg_s: FloatArray
    sums: FloatArray
    residual: FloatArray
    jacobian: FloatArray
    scratch: FloatArray
    matrix: FloatArray


@making
def new_work(hive: Hive) -> Work:
    """Return empty arrays to work in."""
    return Work(
        np.zeros((hive.surfaces.shape[0], LAW_COLUMNS)),
        np.zeros((3, HOLD_COLUMNS)),
        np.zeros((4, SIDE_COLUMNS)),
        np.zeros((hive.strips.shape[0] + hive.joints.shape[0], THROUGH_COLUMNS)),
        np.zeros((hive.parts.shape[0], 2)),
        np.zeros((hive.joints.shape[0], 2)),
        np.zeros((3, 2)),
        np.zeros((3, 2, 4)),
        np.zeros((5, NINE)),
        np.zeros(BEE_COLUMNS),
        np.zeros((hive.surfaces.shape[0], AT_COLUMNS)),
        np.zeros(3),
        np.zeros(3),
        np.zeros(SUM_COLUMNS),
        np.zeros(NINE),
        np.zeros((NINE, NINE)),
        np.zeros((10, 3)),
        np.zeros((NINE, NINE)),
    )
