"""Water a hive holds through an hour: films that freeze, melt and drip, and the quilt."""

from __future__ import annotations

from calveth.core import constants as c
from calveth.core.compiled import compiled, folded
from calveth.core.nest.kernel_arrays import (
    PE,
    TE,
    WIND,
    FloatArray,
    P,
    T,
    Work,
)
from calveth.core.nest.kernel_parts import AT_DEGC, AT_KG_S, SIDE_RATE, UPPER_WALL, saturation_pa
from calveth.core.year.chains import HOUR_S
from calveth.core.year.columns import (
    L_WATER_DRAINED,
    L_WATER_QUILT_OUT,
    L_WATER_QUILT_UP,
    L_WATER_SHELL,
    S_DRAIN,
    S_DRIP,
)
from calveth.core.year.kernel_arrays import (
    COMB_CLING,
    FLOOR_DRAINS,
    QUILT_INNER,
    QUILT_KG,
    QUILT_ON,
    QUILT_PASS,
    QUILT_VENTS,
    QUILT_WASH,
    WALL_AREA,
    WALL_CLING,
    WALL_FLAT,
    Held,
    Shell,
)
from calveth.core.year.kernel_wood import drink_inside

_WATER_J = c.LATENT_HEAT_WATER.value
_MELT_J = c.LATENT_HEAT_ICE.value - c.LATENT_HEAT_WATER.value
_KELVIN = c.KELVIN_AT_0_DEGC.value
_R_VAPOUR = c.GAS_CONSTANT_VAPOUR.value
_CD, _G, _GUSTS = c.DISCHARGE_COEFFICIENT.value, c.GRAVITY.value, c.WIND_FLUCTUATION.value
_VENT_HEIGHT_M, _COOL_K = c.QUILT_VENT_HEIGHT.value, c.COOL_AIR.value
LID_SURFACES = 2


@compiled
def freeze_and_melt(shell: Shell, held: Held, k: int, settled_kg: float, icy: float) -> None:
    """Mix what settled into the film of a surface, and let it freeze or melt in the next hour.

    Half of the heat that would bring the surface to 0 °C is turned over; it is taken from the wall
    as `Held.melting` [W/m²], positive where ice melts.
    """
    film_kg = held.film_kg
    ice = held.ice
    melting = held.melting
    surface_degc = held.surface_degc
    area = shell.walls[k, WALL_AREA]
    before = film_kg[k]
    ice_kg = before * ice[k]
    ice_kg += settled_kg * icy if settled_kg > 0.0 else settled_kg * ice[k]
    after = max(before + settled_kg, 0.0)
    film_kg[k] = after
    melting[k] = 0.0
    if after <= 0.0:
        ice[k] = 0.0
        return
    ice_kg = min(max(ice_kg, 0.0), after)
    degc = surface_degc[k]
    # Half: with all of it the surface would swing past 0 °C and back, hour by hour.
    able = 0.5 * shell.film[k] * degc * area * HOUR_S / _MELT_J
    turned = min(able, ice_kg) if degc > 0.0 else max(able, ice_kg - after)
    melting[k] = turned * _MELT_J / (area * HOUR_S)
    ice[k] = (ice_kg - turned) / after


@folded
def keep_films(shell: Shell, held: Held, work: Work, ledger: FloatArray, row: FloatArray) -> None:
    """Move the water on surfaces and combs through the hour: settle, freeze, drip, run, drain.

    What drips from the lid, runs down the walls or comes off the combs falls on the floor; what
    the floor does not hold runs out. Under a lid that slopes water runs from the middle to the rim
    and on to the upper wall. A quilt draws up what stands under the lid.
    """
    film_kg = held.film_kg
    ice = held.ice
    surface_degc = held.surface_degc
    comb_kg = held.comb_kg
    walls = shell.walls
    at = work.at
    extra = shell.extra
    dripped = 0.0
    keep_side_films(shell, held, work)
    for k in range(walls.shape[0]):
        area = walls[k, WALL_AREA]
        if area <= 0.0:
            continue
        surface_degc[k] = at[k, AT_DEGC]
        icy = min(max(0.5 - surface_degc[k], 0.0), 1.0)
        settled = at[k, AT_KG_S] * HOUR_S
        freeze_and_melt(shell, held, k, settled, icy)
        drink_inside(shell, held, k, settled)
        if k < LID_SURFACES and extra[QUILT_ON] > 0.0:
            room = max(extra[QUILT_KG] - held.quilt[0], 0.0)
            drawn = min(film_kg[k] * (1.0 - ice[k]), room)
            held.quilt[0] += drawn
            take_off(held, k, drawn)
            ledger[L_WATER_QUILT_UP] += drawn
        if walls[k, WALL_FLAT] < 0.0:
            continue
        # Ice holds on.
        over = min(film_kg[k] - walls[k, WALL_CLING], film_kg[k] * (1.0 - ice[k]))
        if k == UPPER_WALL:
            over = run_off_sides(shell, held)
        if over > 0.0:
            dripped += shed(shell, held, k, over, row)
    for z in range(3):
        comb_kg[z] = max(comb_kg[z] + work.comb_kg_s[z] * HOUR_S, 0.0)
        over = comb_kg[z] - shell.combs[z, COMB_CLING]
        if over > 0.0:
            comb_kg[z] -= over
            dripped += over
    floor = 5
    # What comes down is water; it mixes into what lies there.
    film_now = film_kg[floor] + dripped
    if film_now > 0.0:
        ice[floor] *= film_kg[floor] / film_now
    film_kg[floor] = film_now
    most = 0.0 if extra[FLOOR_DRAINS] > 0.0 else walls[floor, WALL_CLING]
    over = min(film_now - most, film_now * (1.0 - ice[floor]))
    if over > 0.0:
        take_off(held, floor, over)
        ledger[L_WATER_DRAINED] += over
        row[S_DRAIN] = over


@folded
def keep_side_films(shell: Shell, held: Held, work: Work) -> None:
    """Move the water on the sides of the upper wall: what settles on each, or dries from it.

    What its board could not bind any more is on all of them alike.
    """
    kg = held.side_kg
    area = 0.25 * shell.walls[UPPER_WALL, WALL_AREA]
    more = held.film_kg[UPPER_WALL] - (kg[0] + kg[1] + kg[2] + kg[3])
    for side in range(4):
        settled = work.sides[side, SIDE_RATE] * area * HOUR_S
        kg[side] = max(kg[side] + 0.25 * more + settled, 0.0)


@compiled
def run_off_sides(shell: Shell, held: Held) -> float:
    """Let run down what the sides of the upper wall do not hold; return how much [kg].

    The sides together hold the film of the wall, to the last bit.
    """
    kg = held.side_kg
    # Drinking and drips took from the wall as a whole: the sides share it alike.
    total_kg = kg[0] + kg[1] + kg[2] + kg[3]
    film = held.film_kg[UPPER_WALL]
    share = film / total_kg if total_kg > 0.0 else 0.0
    over = 0.0
    for side in range(4):
        kg[side] *= share
        off = min(
            kg[side] - 0.25 * shell.walls[UPPER_WALL, WALL_CLING],
            kg[side] * (1.0 - held.ice[UPPER_WALL]),
        )
        if off > 0.0:
            kg[side] -= off
            over += off
    return over


@compiled
def shed(shell: Shell, held: Held, k: int, kg: float, row: FloatArray) -> float:
    """Take off a surface what it does not hold; return what of it falls on the floor [kg]."""
    take_off(held, k, kg)
    if k >= LID_SURFACES:
        return kg
    # On a slope drops run to the low edge before they fall.
    if shell.walls[k, WALL_FLAT] < 1.0:
        run_on(held, k + 1, kg)
        return 0.0
    row[S_DRIP] += kg
    return kg


@compiled
def run_on(held: Held, k: int, kg: float) -> None:
    """Let water run on to a surface; it mixes into what is there, its ice stays."""
    ice = held.film_kg[k] * held.ice[k]
    held.film_kg[k] += kg
    held.ice[k] = ice / held.film_kg[k]
    if k == UPPER_WALL:
        for side in range(4):
            held.side_kg[side] += 0.25 * kg


@compiled
def take_off(held: Held, k: int, kg: float) -> None:
    """Take water off a surface and leave its ice."""
    ice = held.film_kg[k] * held.ice[k]
    held.film_kg[k] = max(held.film_kg[k] - kg, 0.0)
    held.ice[k] = min(ice / held.film_kg[k], 1.0) if held.film_kg[k] > 0.0 else 0.0


@folded
def keep_quilt(
    shell: Shell, held: Held, hour: FloatArray, ledger: FloatArray, row: FloatArray
) -> None:
    """Move the water of the quilt: what comes up through the lid, what its vents carry off.

    As `moisture.quilt`, by the hour: more than it holds drips back on the combs of the crown.
    """
    extra = shell.extra
    if extra[QUILT_ON] <= 0.0:
        return
    crown, outside = held.x[T + 2], hour[TE]
    degc = crown - (crown - outside) * extra[QUILT_INNER]
    into = max(extra[QUILT_PASS] * (held.x[P + 2] - hour[PE]), 0.0) * HOUR_S
    warmer = max(degc - outside, 0.0)
    stack = (_G * _VENT_HEIGHT_M * warmer / _COOL_K) ** 0.5
    # A third of the head: the same gap lets air in below and out above.
    flow = extra[QUILT_VENTS] * (_CD / 3.0 * stack + _GUSTS * hour[WIND])
    drier = max(saturation_pa(degc) - hour[PE], 0.0)
    washed = flow * extra[QUILT_WASH] * drier / (_R_VAPOUR * (degc + _KELVIN))
    # Without vents only what the cover lets through goes out.
    if extra[QUILT_VENTS] <= 0.0:
        washed = extra[QUILT_PASS] * drier
    water_now = held.quilt[0] + into
    out = min(water_now, washed * HOUR_S)
    water_now -= out
    held.quilt[0] = min(water_now, extra[QUILT_KG])
    back = water_now - held.quilt[0]
    held.comb_kg[2] += back
    row[S_DRIP] += back
    ledger[L_WATER_SHELL] -= into
    ledger[L_WATER_QUILT_OUT] += out
