"""What air, contents, boards and combs remember when an hour begins, and what they keep of it."""

from __future__ import annotations

import numpy as np

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.compiled import folded
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
    Held,
    Shell,
)
from calveth.core.year.kernel_wood import keep_boards, remember_boards, taken_up

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
    combs = shell.combs
    x = held.x
    carry = held.carry
    comb_degc = held.comb_degc
    comb_bound = held.comb_bound
    comb_kg = held.comb_kg
    air = shell.extra[AIR_M3]
    for z in range(3):
        share = _SHARES[z]
        capacity = combs[z, COMB_HEAT]
        # Exact for an air that stays as it is through the hour.
        follows = capacity / HOUR_S * combs[z, COMB_FOLLOWS]
        # Air and combs hold heat beside the walls: without it an hour would answer at once.
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
    remember_boards(hive, shell, held, work, taking)


@folded
def keep_bound(
    hive: Hive, shell: Shell, held: Held, x: FloatArray, taking: FloatArray, ledger: FloatArray
) -> None:
    """Move contents, and what boards and combs have bound, through the hour.

    ``taking`` is what `remember_stores` gave the balance to count with.
    """
    combs = shell.combs
    comb_degc = held.comb_degc
    comb_bound = held.comb_bound
    comb_kg = held.comb_kg
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
    ledger[L_HEAT_BOUND] += keep_boards(hive, shell, held, x, taking) * _WATER_J
