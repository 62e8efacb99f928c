"""What air, contents, boards and combs remember when an hour begins, and what they keep of it."""

from __future__ import annotations

from math import exp

import numpy as np

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.compiled import compiled, folded
from calveth.core.hive.zones import FRACTIONS
from calveth.core.nest.kernel_arrays import (
    C,
    FloatArray,
    Hive,
    P,
    T,
    Work,
)
from calveth.core.nest.kernel_parts import (
    HOLD_BOARD,
    HOLD_BOARD_KG,
    HOLD_CO2,
    HOLD_CO2_KG,
    HOLD_COMB,
    HOLD_HEAT,
    HOLD_HEAT_W,
    HOLD_PATCH,
    HOLD_VAPOUR,
    HOLD_VAPOUR_KG,
    SURFACE_ZONE,
    saturation_pa,
)
from calveth.core.year.chains import HOUR_S
from calveth.core.year.columns import (
    L_HEAT_BOUND,
)
from calveth.core.year.kernel_arrays import (
    AIR_M3,
    COMB_CLING,
    COMB_FOLLOWS,
    COMB_HEAT,
    COMB_SORB,
    COMB_WATER,
    WALL_CAPACITY,
    WALL_DEEP,
    WALL_INWARD,
    WALL_SORB,
    Held,
    Shell,
)

_WATER_J = c.LATENT_HEAT_WATER.value
_KELVIN = c.KELVIN_AT_0_DEGC.value
_R_VAPOUR = c.GAS_CONSTANT_VAPOUR.value
_AIR_KG_M3 = y.AIR_DENSITY.value
_AIR_J_M3K = _AIR_KG_M3 * c.AIR_HEAT_CAPACITY.value
_TRACE_KG = y.TRACE_OF_WATER.value
_SHARES = np.array(FRACTIONS)


@folded
def remember_stores(hive: Hive, shell: Shell, held: Held, work: Work, taking: FloatArray) -> None:
    """Put what air, contents, boards and combs hold into ``work.hold``.

    ``taking`` [10, 2] keeps, of the surfaces and then of the combs, how readily they take water up
    [kg/(s·Pa)] and the saturation pressure at which [Pa], for `keep_bound`.
    """
    hold = work.hold
    surfaces = hive.surfaces
    combs = shell.combs
    walls = shell.walls
    x = held.x
    carry = held.carry
    comb_degc = held.comb_degc
    comb_bound = held.comb_bound
    comb_kg = held.comb_kg
    surface_degc = held.surface_degc
    bound = held.bound
    air = shell.extra[AIR_M3]
    for z in range(3):
        share = _SHARES[z]
        capacity = combs[z, COMB_HEAT]
        # Exact for an air that stays as it is through the hour.
        follows = capacity / HOUR_S * combs[z, COMB_FOLLOWS]
        own = air * share * _AIR_J_M3K / HOUR_S
        hold[z, HOLD_HEAT] = follows + own
        hold[z, HOLD_HEAT_W] = follows * comb_degc[z] + own * x[T + z] + carry[T + z]
        volume = air * share / (_R_VAPOUR * HOUR_S)
        hold[z, HOLD_VAPOUR] = volume
        hold[z, HOLD_VAPOUR_KG] = volume * x[P + z] / (x[T + z] + _KELVIN)
        hold[z, HOLD_VAPOUR_KG] += carry[P + z]
        hold[z, HOLD_CO2] = air * share * _AIR_KG_M3 / HOUR_S
        hold[z, HOLD_CO2_KG] = hold[z, HOLD_CO2] * x[C + z] + carry[C + z]
        saturated = saturation_pa(comb_degc[z])
        k = taken_up(combs[z, COMB_SORB], combs[z, COMB_WATER], saturated)
        taking[7 + z, 0], taking[7 + z, 1] = k, saturated
        hold[z, HOLD_BOARD] += k
        hold[z, HOLD_BOARD_KG] += k * comb_bound[z] * saturated
        hold[z, HOLD_COMB] = comb_kg[z] / HOUR_S if comb_kg[z] > _TRACE_KG else 0.0
        hold[z, HOLD_PATCH] = min(comb_kg[z] / max(combs[z, COMB_CLING], 1e-9), 1.0)
    for k in range(walls.shape[0]):
        if walls[k, WALL_CAPACITY] <= 0.0:
            continue
        z = int(surfaces[k, SURFACE_ZONE])
        saturated = saturation_pa(surface_degc[k])
        inward = taken_up(walls[k, WALL_SORB], walls[k, WALL_CAPACITY], saturated)
        taking[k, 0], taking[k, 1] = inward, saturated
        hold[z, HOLD_BOARD] += inward
        hold[z, HOLD_BOARD_KG] += inward * bound[k] * saturated


@compiled
def taken_up(conductance: float, capacity: float, saturated: float) -> float:
    """Return the mean conductance into a layer that fills over an hour [kg/(s·Pa)].

    Exact for a vapour pressure that stays: J = K·(1 - e⁻ʳ)/r·(p - φ·psat), r = K·psat·dt/capacity.
    """
    if capacity <= 0.0 or conductance <= 0.0:
        return 0.0
    rate = conductance * saturated * HOUR_S / capacity
    return conductance * -(exp(-rate) - 1.0) / rate


@folded
def keep_bound(
    hive: Hive, shell: Shell, held: Held, x: FloatArray, taking: FloatArray, ledger: FloatArray
) -> None:
    """Move contents, and what boards and combs have bound, through the hour.

    ``taking`` is what `remember_stores` gave the balance to count with.
    """
    surfaces = hive.surfaces
    combs = shell.combs
    walls = shell.walls
    comb_degc = held.comb_degc
    comb_bound = held.comb_bound
    comb_kg = held.comb_kg
    bound = held.bound
    deep = held.deep
    film_kg = held.film_kg
    for z in range(3):
        k, saturated = taking[7 + z, 0], taking[7 + z, 1]
        taken = k * (x[P + z] - comb_bound[z] * saturated) * HOUR_S
        if combs[z, COMB_WATER] > 0.0:
            comb_bound[z] += taken / combs[z, COMB_WATER]
            ledger[L_HEAT_BOUND] += taken * _WATER_J
            if comb_bound[z] > 1.0:
                # More than it can bind stands on it.
                comb_kg[z] += (comb_bound[z] - 1.0) * combs[z, COMB_WATER]
                comb_bound[z] = 1.0
        comb_degc[z] += combs[z, COMB_FOLLOWS] * (x[T + z] - comb_degc[z])
    for k in range(walls.shape[0]):
        if walls[k, WALL_CAPACITY] <= 0.0:
            continue
        inward, saturated = taking[k, 0], taking[k, 1]
        taken = inward * (x[P + int(surfaces[k, SURFACE_ZONE])] - bound[k] * saturated) * HOUR_S
        bound[k] += taken / walls[k, WALL_CAPACITY]
        ledger[L_HEAT_BOUND] += taken * _WATER_J
        if bound[k] > 1.0:
            film_kg[k] += (bound[k] - 1.0) * walls[k, WALL_CAPACITY]
            bound[k] = 1.0
        # Into the depth and back; the two layers share what they hold.
        both = (
            walls[k, WALL_CAPACITY]
            * walls[k, WALL_DEEP]
            / (walls[k, WALL_CAPACITY] + walls[k, WALL_DEEP])
        )
        rate = walls[k, WALL_INWARD] * saturated * HOUR_S / both
        moved = both * (bound[k] - deep[k]) * -(exp(-rate) - 1.0)
        bound[k] -= moved / walls[k, WALL_CAPACITY]
        deep[k] += moved / walls[k, WALL_DEEP]
