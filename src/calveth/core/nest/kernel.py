"""The balance of one hive at one condition, stated once, as compiled arithmetic.

Unknowns: temperature, vapour pressure and CO2 of base, nest and crown; the pressure at the floor
follows from them exactly (`airflow.kernel.balanced_pa`). Nine balances of heat, water and CO2
with the slopes of every law in closed form; `kernel_solve` closes them.
"""

from __future__ import annotations

import numpy as np

from calveth.core import constants as c
from calveth.core.airflow.kernel import (
    balanced_pa,
    fill_flows,
)
from calveth.core.compiled import compiled, folded
from calveth.core.hive.zones import FRACTIONS
from calveth.core.nest.kernel_air import add_air
from calveth.core.nest.kernel_arrays import (
    BEE_COOL,
    BEE_COOL_P,
    BEE_COOL_T,
    BEE_FAN,
    BEE_HEAT,
    BEE_HEAT_BASE,
    BEE_HEAT_P,
    BEE_HEAT_T,
    BEE_NECTAR,
    BEE_SPREAD,
    BEE_SPREAD_T,
    CO2_OUT,
    CONDENSING_W,
    COOL_KG_S,
    DIFFUSED_KG_S,
    DP0,
    FAN_M3_S,
    GUST,
    LAMINAR,
    METABOLIC_W,
    NECTAR_KG_S,
    PE,
    PLUME,
    PRESSURE,
    TE,
    WIND,
    C,
    FloatArray,
    Hive,
    P,
    T,
    Work,
)
from calveth.core.nest.kernel_bees import ask_bees
from calveth.core.nest.kernel_parts import (
    AT_KG_P,
    AT_KG_S,
    AT_KG_T,
    AT_LATENT_J,
    AT_TO_ZONE,
    AT_W,
    CO2_W,
    DRY_W,
    HOLD_BOARD,
    HOLD_BOARD_KG,
    HOLD_CO2,
    HOLD_CO2_KG,
    HOLD_COMB,
    HOLD_HEAT,
    HOLD_HEAT_W,
    HOLD_PATCH,
    HOLD_SHELL,
    HOLD_SHELL_W,
    HOLD_VAPOUR,
    HOLD_VAPOUR_KG,
    LAW_APART,
    SURFACE_ZONE,
    WATER_W,
    ZONE_BREATH,
    ZONE_COMB,
    ZONE_VAPOUR,
    air_density,
    exchanged,
    latent_j_kg,
    outer_film_m2k_w,
    saturation_pa,
    saturation_slope_pa_k,
    settle_on,
    steady_law,
    transfer_kg_s_m2_pa,
    whole_w_k,
)
from calveth.core.nest.kernel_sides import settle_on_sides

_KELVIN = c.KELVIN_AT_0_DEGC.value
_COMB_W_M2K = c.CONVECTION_HORIZONTAL.value
_WATER_J = c.LATENT_HEAT_WATER.value
_ALL_OVER = np.array(FRACTIONS)
# Much more than the vapour any colony gives, for each part of air above saturation.
_FOG_KG_S = 1e-3


@folded
def breathe(hive: Hive, lane: FloatArray, x: FloatArray, work: Work) -> FloatArray:
    """Move the air of a state, its floor pressure with it; return outside less inside densities.

    Afterwards ``flow_growth`` [3, 2, 1:4] is by the zones' densities with the floor pressure
    following them.
    """
    strips = hive.strips
    joints = hive.joints
    tops = hive.tops
    growth = work.flow_growth
    laminar = hive.scalars[LAMINAR]
    rho_out = air_density(lane[TE], lane[PE], lane[CO2_OUT], lane[PRESSURE])
    rho: FloatArray = work.scratch[5]
    lighter: FloatArray = work.scratch[6]
    for z in range(3):
        rho[z] = air_density(x[T + z], x[P + z], x[C + z], lane[PRESSURE])
        lighter[z] = rho_out - rho[z]
    dynamic = 0.5 * rho_out * lane[WIND] ** 2
    # The search for the floor pressure begins where it had followed the densities to.
    was, follows = work.scratch[8], work.scratch[9]
    for z in range(3):
        x[DP0] += follows[z] * (lighter[z] - was[z])
        was[z] = lighter[z]
    x[DP0] = balanced_pa(
        x[DP0],
        strips,
        joints,
        tops,
        rho_out,
        rho,
        lighter,
        dynamic,
        laminar,
        work.through,
    )
    fill_flows(
        strips,
        hive.parts,
        joints,
        tops,
        rho_out,
        rho,
        lane[WIND],
        hive.scalars[GUST],
        work.bees[BEE_FAN],
        work.through,
        work.part_flows,
        work.joint_flows,
        work.zone_flows,
        growth,
    )
    for j in range(1, 4):
        net, stiff = 0.0, 1e-300
        for z in range(3):
            net += growth[z, 0, j] - growth[z, 1, j]
            stiff += growth[z, 0, 0] - growth[z, 1, 0]
        follows[j - 1] = net / stiff
        for z in range(3):
            for way in range(2):
                growth[z, way, j] -= growth[z, way, 0] * net / stiff
    return rho


@compiled
def rest(hive: Hive, lane: FloatArray, work: Work) -> None:
    """Let walls and stores answer as they do when everything has settled."""
    outer = outer_film_m2k_w(lane[WIND], lane[TE])
    work.hold[:] = 0.0
    whole_w_k(hive.paths, hive.zones, hive.path_share, outer, work.hold[:, HOLD_SHELL])
    for z in range(3):
        work.hold[z, HOLD_SHELL_W] = work.hold[z, HOLD_SHELL] * lane[TE]
    steady_law(hive.surfaces, lane[TE], outer, work.laws)


@compiled
def evaluate(hive: Hive, lane: FloatArray, x: FloatArray, work: Work) -> None:
    """State the balances of a state [10] and their slopes; the floor pressure is put right.

    ``work.laws`` and ``work.hold`` say how walls and stores answer. Everything the ledgers show is
    left in ``work``; ``residual`` [9] is nought in the solution.
    """
    residual = work.residual
    jacobian = work.jacobian
    hold = work.hold
    sums = work.sums
    bees = work.bees
    shell_w = work.shell_w
    zones = hive.zones
    residual[:] = 0.0
    jacobian[:] = 0.0
    ask_bees(hive, lane, x, bees)
    rho = breathe(hive, lane, x, work)
    pe = lane[PE]
    metabolic = bees[BEE_HEAT]
    sums[METABOLIC_W] = metabolic
    sums[FAN_M3_S], sums[COOL_KG_S] = bees[BEE_FAN], bees[BEE_COOL]
    sums[NECTAR_KG_S] = bees[BEE_NECTAR]
    rho_out = air_density(lane[TE], pe, lane[CO2_OUT], lane[PRESSURE])
    plume = hive.scalars[PLUME]
    sums[DIFFUSED_KG_S], sums[CONDENSING_W] = 0.0, 0.0
    spread, spread_t = bees[BEE_SPREAD], bees[BEE_SPREAD_T]
    for z in range(3):
        close = 0.0 if z == 0 else (1.0 - plume if z == 1 else plume)
        share = close + spread * (_ALL_OVER[z] - close)
        # Grows with the temperature of the nest by the heat and by where the bees are.
        by_nest = share * bees[BEE_HEAT_T] + spread_t * (_ALL_OVER[z] - close) * metabolic
        shell_w[z] = hold[z, HOLD_SHELL] * x[T + z] - hold[z, HOLD_SHELL_W]
        residual[T + z] = share * DRY_W * metabolic - shell_w[z]
        jacobian[T + z, T + z] -= hold[z, HOLD_SHELL]
        diffused = zones[z, ZONE_VAPOUR] * (x[P + z] - pe)
        sums[DIFFUSED_KG_S] += diffused
        residual[P + z] = share * WATER_W * metabolic - diffused
        jacobian[P + z, P + z] -= zones[z, ZONE_VAPOUR]
        breath = zones[z, ZONE_BREATH]
        residual[C + z] = share * CO2_W * metabolic - breath * (
            rho[z] * x[C + z] - rho_out * lane[CO2_OUT]
        )
        jacobian[C + z, C + z] -= breath * rho[z]
        add_growth(z, by_nest, share, bees, jacobian)
    add_cooling_to(work)
    if hold[0, HOLD_CO2] > 0.0:
        add_memory(x, work)
    add_surfaces(hive, lane, x, work)
    add_combs(hive, lane, x, work)
    add_air(hive, lane, x, work)


@folded
def add_growth(
    z: int, by_nest: float, share: float, bees: FloatArray, jacobian: FloatArray
) -> None:
    """Add how heat, water and CO2 of the bees in a zone grow with the state of nest and base."""
    for row, per_w in ((T, DRY_W), (P, WATER_W), (C, CO2_W)):
        jacobian[row + z, T + 1] += per_w * by_nest
        jacobian[row + z, P + 1] += per_w * share * bees[BEE_HEAT_P]
        jacobian[row + z, T] += per_w * share * bees[BEE_HEAT_BASE]


@folded
def add_cooling_to(work: Work) -> None:
    """Add what bees evaporate in the nest, and the heat it takes."""
    residual = work.residual
    jacobian = work.jacobian
    bees = work.bees
    residual[T + 1] -= bees[BEE_COOL] * _WATER_J
    jacobian[T + 1, T + 1] -= bees[BEE_COOL_T] * _WATER_J
    residual[P + 1] += bees[BEE_COOL]
    jacobian[P + 1, T + 1] += bees[BEE_COOL_T]
    jacobian[T + 1, P + 1] -= bees[BEE_COOL_P] * _WATER_J
    jacobian[P + 1, P + 1] += bees[BEE_COOL_P]


@folded
def add_memory(x: FloatArray, work: Work) -> None:
    """Add what contents, air, boards and combs take up over the time there is."""
    residual = work.residual
    jacobian = work.jacobian
    holds = work.hold
    for z in range(3):
        hold = holds[z]
        t, p, co2 = T + z, P + z, C + z
        residual[t] -= hold[HOLD_HEAT] * x[t] - hold[HOLD_HEAT_W]
        jacobian[t, t] -= hold[HOLD_HEAT]
        kelvin = x[t] + _KELVIN
        residual[p] -= hold[HOLD_VAPOUR] * x[p] / kelvin - hold[HOLD_VAPOUR_KG]
        jacobian[p, p] -= hold[HOLD_VAPOUR] / kelvin
        jacobian[p, t] += hold[HOLD_VAPOUR] * x[p] / kelvin**2
        residual[co2] -= hold[HOLD_CO2] * x[co2] - hold[HOLD_CO2_KG]
        jacobian[co2, co2] -= hold[HOLD_CO2]
        taken = hold[HOLD_BOARD] * x[p] - hold[HOLD_BOARD_KG]
        residual[p] -= taken
        jacobian[p, p] -= hold[HOLD_BOARD]
        # Bound water gives off as much heat as if it condensed (the little more is left out).
        residual[t] += taken * _WATER_J
        jacobian[t, p] += hold[HOLD_BOARD] * _WATER_J


@folded
def add_surfaces(hive: Hive, lane: FloatArray, x: FloatArray, work: Work) -> None:
    """Add what settles on the surfaces, and what dries, to the balances of their zones."""
    residual = work.residual
    jacobian = work.jacobian
    at = work.at
    sums = work.sums
    shell_w = work.shell_w
    laws = work.laws
    surfaces = hive.surfaces
    for k in range(surfaces.shape[0]):
        z = int(surfaces[k, SURFACE_ZONE])
        if laws[k, LAW_APART] > 0.0:
            settle_on_sides(surfaces, laws, work.sides, k, x[T + z], x[P + z], lane[PRESSURE], at)
        else:
            settle_on(surfaces, laws, k, x[T + z], x[P + z], lane[PRESSURE], at)
        if at[k, AT_KG_S] == 0.0:
            continue
        sums[CONDENSING_W] += at[k, AT_W]
        to_zone = at[k, AT_W] * at[k, AT_TO_ZONE]
        shell_w[z] += at[k, AT_W] - to_zone
        residual[T + z] += to_zone
        residual[P + z] -= at[k, AT_KG_S]
        heat = at[k, AT_LATENT_J] * at[k, AT_TO_ZONE]
        jacobian[T + z, T + z] += heat * at[k, AT_KG_T]
        jacobian[T + z, P + z] += heat * at[k, AT_KG_P]
        jacobian[P + z, T + z] -= at[k, AT_KG_T]
        jacobian[P + z, P + z] -= at[k, AT_KG_P]


@folded
def add_combs(hive: Hive, lane: FloatArray, x: FloatArray, work: Work) -> None:
    """Add what settles on combs, which have the temperature of the air, and in it, or dries."""
    residual = work.residual
    jacobian = work.jacobian
    hold = work.hold
    sums = work.sums
    comb_kg_s = work.comb_kg_s
    zones = hive.zones
    for z in range(3):
        degc = x[T + z]
        saturation = saturation_pa(degc)
        excess = x[P + z] - saturation
        store = hold[z, HOLD_COMB]
        if excess <= 0.0 and store <= 0.0:
            comb_kg_s[z] = 0.0
            continue
        beta = transfer_kg_s_m2_pa(_COMB_W_M2K, degc, lane[PRESSURE]) * zones[z, ZONE_COMB]
        slope = saturation_slope_pa_k(degc, saturation)
        if excess > 0.0:
            # What the combs do not take at once is fog: it forms as fast as it must, and the air
            # stays at saturation.
            rate = beta + _FOG_KG_S / saturation
            settled = rate * excess
            falls = (rate + _FOG_KG_S / saturation**2 * excess) * slope
            latent = latent_j_kg(degc)
        else:
            settled, rate = exchanged(beta, excess, store, hold[z, HOLD_PATCH])
            falls, latent = rate * slope, _WATER_J
        comb_kg_s[z] = settled
        sums[CONDENSING_W] += latent * settled
        residual[T + z] += latent * settled
        residual[P + z] -= settled
        jacobian[T + z, T + z] -= latent * falls
        jacobian[T + z, P + z] += latent * rate
        jacobian[P + z, T + z] += falls
        jacobian[P + z, P + z] -= rate
