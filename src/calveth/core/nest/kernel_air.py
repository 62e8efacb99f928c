"""What the air carries of heat, water and CO2 between outside and zones, with its slopes."""

from __future__ import annotations

from calveth.core import constants as c
from calveth.core.compiled import folded
from calveth.core.nest.kernel_arrays import (
    AIR_W,
    BEE_FAN,
    BEE_FAN_C,
    BEE_FAN_P,
    BEE_FAN_T,
    CARRIED_KG_S,
    CO2_OUT,
    MIX_BASE,
    MIX_CROWN,
    NINE,
    PE,
    PRESSURE,
    TE,
    C,
    FloatArray,
    Hive,
    P,
    T,
    Work,
)
from calveth.core.nest.kernel_bees import add_by_fan
from calveth.core.nest.kernel_parts import (
    air_density,
    density_growth,
    kg_kg,
)

_CP = c.AIR_HEAT_CAPACITY.value


@folded
def add_air(hive: Hive, lane: FloatArray, x: FloatArray, work: Work) -> None:
    """Add what the air carries of heat, water and CO2, and how it follows the densities.

    ``scratch`` holds the quantity in hand by zone and its growth (rows 3, 4), ``flow_by`` how what
    enters each zone (rows 0 to 2) and what rises to nest and crown (3, 4) follows the nine unknowns
    by way of the densities.
    """
    s = work.scratch
    flows = work.zone_flows
    bees = work.bees
    sums = work.sums
    pressure = lane[PRESSURE]
    follow_densities(x, pressure, work)
    rise_0 = flows[0, 0] - flows[0, 1]
    rise_1 = rise_0 + flows[1, 0] - flows[1, 1]
    # Fanned air passes entrance, nest, entrance: it stirs nest and base.
    density = air_density(lane[TE], lane[PE], lane[CO2_OUT], pressure)
    fan = bees[BEE_FAN] * density
    stir_0, stir_1 = hive.scalars[MIX_BASE] / _CP + fan, hive.scalars[MIX_CROWN] / _CP
    fans = bees[BEE_FAN_T] != 0.0 or bees[BEE_FAN_C] != 0.0 or bees[BEE_FAN_P] != 0.0
    for kind in range(3):
        outside, factor = lane[CO2_OUT], 1.0
        for z in range(3):
            s[3, z], s[4, z] = x[3 * kind + z], 1.0
        if kind == 0:
            outside, factor = lane[TE], _CP
            for z in range(3):
                s[4, z] = _CP
        elif kind == 1:
            outside = kg_kg(lane[PE], pressure)
            for z in range(3):
                # d(kg/kg)/dp = w·P/(p·(P - p))
                s[3, z] = kg_kg(x[P + z], pressure)
                s[4, z] = s[3, z] * pressure / (x[P + z] * (pressure - x[P + z]))
        carry_from_outside(work, outside, factor, 3 * kind)
        carry_between(work, 0, rise_0, stir_0, factor, 3 * kind)
        carry_between(work, 1, rise_1, stir_1, factor, 3 * kind)
        if fans:
            add_by_fan(hive, density, outside, factor, 3 * kind, work)
        if kind < 2:
            carried = 0.0
            for z in range(3):
                carried += flows[z, 1] * s[3, z] - flows[z, 0] * outside
            sums[AIR_W if kind == 0 else CARRIED_KG_S] = factor * carried


@folded
def follow_densities(x: FloatArray, pressure: float, work: Work) -> None:
    """Put how the flows follow the unknowns by way of the densities into ``flow_by`` [5, 9]."""
    growth = work.flow_growth
    by = work.flow_by
    for k in range(3):
        by_t, by_p, by_c = density_growth(x[T + k], x[P + k], x[C + k], pressure)
        rise = 0.0
        for z in range(3):
            enters = growth[z, 0, 1 + k]
            by[z, k], by[z, 3 + k], by[z, 6 + k] = enters * by_t, enters * by_p, enters * by_c
            rise += enters - growth[z, 1, 1 + k]
            if z < 2:
                row = 3 + z
                by[row, k], by[row, 3 + k], by[row, 6 + k] = rise * by_t, rise * by_p, rise * by_c


@folded
def carry_from_outside(work: Work, outside: float, factor: float, row: int) -> None:
    """Add the air that enters the zones from outside, of the quantity in ``scratch[3]``."""
    residual = work.residual
    matrix = work.jacobian
    s = work.scratch
    flows = work.zone_flows
    by = work.flow_by
    for z in range(3):
        into, step = flows[z, 0], outside - s[3, z]
        residual[row + z] += factor * into * step
        matrix[row + z, row + z] -= into * s[4, z]
        step *= factor
        for j in range(NINE):
            matrix[row + z, j] += step * by[z, j]


@folded
def carry_between(work: Work, pair: int, rise: float, stir: float, factor: float, row: int) -> None:
    """Add the air that rises or sinks between two zones, and what they exchange beside it."""
    residual = work.residual
    matrix = work.jacobian
    by = work.flow_by
    s = work.scratch
    low, high = pair, pair + 1
    step = s[3, low] - s[3, high]
    up, down = max(rise, 0.0) + stir, max(-rise, 0.0) + stir
    residual[row + high] += factor * up * step
    residual[row + low] -= factor * down * step
    matrix[row + high, row + low] += up * s[4, low]
    matrix[row + high, row + high] -= up * s[4, high]
    matrix[row + low, row + low] -= down * s[4, low]
    matrix[row + low, row + high] += down * s[4, high]
    # What rises through a level is what all zones below it take in.
    into = row + (high if rise > 0.0 else low)
    step *= factor
    for j in range(NINE):
        matrix[into, j] += step * by[3 + pair, j]
