"""What a hive remembers when an hour begins, and what it keeps of it, as compiled arithmetic."""

from __future__ import annotations

from math import exp

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.compiled import compiled, folded
from calveth.core.nest.kernel_arrays import (
    TE,
    WIND,
    C,
    FloatArray,
    Hive,
    P,
    T,
    Work,
)
from calveth.core.nest.kernel_parts import (
    AT_W,
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
    LAW_FOLLOW,
    LAW_ICE,
    LAW_LATENT,
    LAW_PAST,
    LAW_PATCH,
    LAW_STORE,
    SURFACE_ZONE,
    outer_film_m2k_w,
    saturation_pa,
)
from calveth.core.year.chains import BROUGHT, CELLS, HOUR_S, INSIDE, OUTSIDE, SETTLING
from calveth.core.year.columns import (
    L_HEAT_BOUND,
    L_HEAT_MELT,
    L_HEAT_OUT,
)
from calveth.core.year.kernel_arrays import (
    AIR_M3,
    COMB_CLING,
    COMB_G,
    COMB_HEAT,
    COMB_SORB,
    COMB_WATER,
    FLOOR,
    LID,
    SKY_W,
    SUN_LID,
    SUN_SIDE,
    WALL_ABSORBS,
    WALL_AREA,
    WALL_CAPACITY,
    WALL_DEEP,
    WALL_EMITS,
    WALL_FACE,
    WALL_INWARD,
    WALL_RATIO,
    WALL_SCALE,
    WALL_SHARE,
    WALL_SORB,
    Held,
    Shell,
)

_STILL_M2K_W = c.RSI_HORIZONTAL.value
_WATER_J = c.LATENT_HEAT_WATER.value
_KELVIN = c.KELVIN_AT_0_DEGC.value
_R_VAPOUR = c.GAS_CONSTANT_VAPOUR.value
_WET_KG_M2 = y.WET_ALL_OVER.value
_SKY_OF_WALL = y.SKY_OF_WALL.value
_AIR_J_M3K, _AIR_KG_M3 = 1.2 * c.AIR_HEAT_CAPACITY.value, 1.2


@folded
def outer_film_w_m2k(walls: FloatArray, k: int, outer: float) -> float:
    """Return what the outer film of a wall conducts, per area inside [W/(m²·K)]."""
    share = walls[k, WALL_SHARE]
    film: float = walls[k, WALL_RATIO] / (share * outer + (1.0 - share) * _STILL_M2K_W)
    return film


@folded
def outer_air_degc(
    walls: FloatArray, k: int, hour: FloatArray, outer: float, drying_w_m2: FloatArray
) -> float:
    """Return the temperature of the outer air a wall feels: with sun, sky and rain that dries.

    Te + R·(a·I - ε·F·(σ·Te⁴ - L)), F of the sky 1 for a lid and a half for a wall; behind a
    ventilated gap only what the gap lets through. Of the four sides the mean: as they are built
    alike, the wall answers to it as their mean would.
    """
    face = walls[k, WALL_FACE]
    degc: float = hour[TE]
    if face == FLOOR:
        return degc
    if face == LID:
        gain = walls[k, WALL_ABSORBS] * hour[SUN_LID] - walls[k, WALL_EMITS] * hour[SKY_W]
    else:
        gain = -walls[k, WALL_EMITS] * _SKY_OF_WALL * hour[SKY_W]
        for side in range(4):
            gain += 0.25 * (walls[k, WALL_ABSORBS] * hour[SUN_SIDE + side] - drying_w_m2[side])
    degc += gain * outer * walls[k, WALL_SHARE]
    return degc


@folded
def remember_walls(
    hive: Hive,
    shell: Shell,
    held: Held,
    hour: FloatArray,
    work: Work,
    drying_w_m2: FloatArray,
    felt: FloatArray,
) -> None:
    """Put the laws of the surfaces for an hour into ``work`` and what walls feel into ``felt``.

    The outer film of the hour differs from the one in the modes by dh: a flow q = dh·(Tsa - Tso)
    comes to the outside, and as Tso follows q it is solved for here. ``felt`` [7, 5] holds outer
    air, dh, and the two memories of inner surface (dry, settled) with that of the outer one.
    """
    walls = shell.walls
    laws = work.laws
    by_in = shell.inner_by
    by_out = shell.outer_by
    inner_modes = shell.inner
    outer_modes = shell.outer
    dry_modes = held.dry
    wet_modes = held.settled
    hold = work.hold
    melting = held.melting
    film_kg = held.film_kg
    ice = held.ice
    films = shell.film
    outer_films = shell.outer_film
    surfaces = hive.surfaces
    outer = outer_film_m2k_w(hour[WIND], hour[TE])
    hold[:] = 0.0
    laws[:] = 0.0
    for k in range(walls.shape[0]):
        area = walls[k, WALL_AREA]
        if area <= 0.0:
            laws[k, LAW_PAST] = hour[TE]
            continue
        sun = outer_air_degc(walls, k, hour, outer, drying_w_m2)
        more = outer_film_w_m2k(walls, k, outer) - outer_films[k]
        inner, outer_dry, wet, outer_wet = 0.0, 0.0, 0.0, 0.0
        for m in range(CELLS):
            inner += inner_modes[k, m] * dry_modes[k, m]
            outer_dry += outer_modes[k, m] * dry_modes[k, m]
            wet += inner_modes[k, m] * wet_modes[k, m]
            outer_wet += outer_modes[k, m] * wet_modes[k, m]
        stiff = more / (1.0 + more * by_out[k, BROUGHT])
        # Without air inside and without what settles now.
        brought = stiff * (sun * (1.0 - by_out[k, OUTSIDE]) - outer_dry)
        past = inner + by_in[k, OUTSIDE] * sun + by_in[k, BROUGHT] * brought
        wet -= by_in[k, BROUGHT] * stiff * outer_wet
        laws[k, LAW_FOLLOW] = by_in[k, INSIDE] - by_in[k, BROUGHT] * stiff * by_out[k, INSIDE]
        laws[k, LAW_LATENT] = by_in[k, SETTLING] - by_in[k, BROUGHT] * stiff * by_out[k, SETTLING]
        wet -= laws[k, LAW_LATENT] * melting[k]
        laws[k, LAW_PAST] = past + wet
        film = film_kg[k]
        laws[k, LAW_STORE], laws[k, LAW_ICE] = film / HOUR_S, ice[k]
        laws[k, LAW_PATCH] = min(film / (area * _WET_KG_M2), 1.0)
        felt[k, 0], felt[k, 1], felt[k, 2], felt[k, 3] = sun, more, outer_dry, outer_wet
        z = int(surfaces[k, SURFACE_ZONE])
        scaled = area * walls[k, WALL_SCALE] * films[k]
        hold[z, HOLD_SHELL] += scaled * (1.0 - laws[k, LAW_FOLLOW])
        hold[z, HOLD_SHELL_W] += scaled * past + area * films[k] * wet


@folded
def remember_stores(shell: Shell, held: Held, work: Work) -> None:
    """Put what air, contents, boards and combs hold into ``work.hold``."""
    hold = work.hold
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
        share = 0.6 if z == 1 else 0.2
        g, capacity = combs[z, COMB_G], combs[z, COMB_HEAT]
        # Exact for an air that stays as it is through the hour.
        whole = capacity / HOUR_S * -(exp(-g * HOUR_S / capacity) - 1.0)
        own = air * share * _AIR_J_M3K / HOUR_S
        hold[z, HOLD_HEAT] = whole + own
        hold[z, HOLD_HEAT_W] = whole * comb_degc[z] + own * x[T + z] + carry[T + z]
        volume = air * share / (_R_VAPOUR * HOUR_S)
        hold[z, HOLD_VAPOUR] = volume
        hold[z, HOLD_VAPOUR_KG] = volume * x[P + z] / (x[T + z] + _KELVIN)
        hold[z, HOLD_VAPOUR_KG] += carry[P + z]
        hold[z, HOLD_CO2] = air * share * _AIR_KG_M3 / HOUR_S
        hold[z, HOLD_CO2_KG] = hold[z, HOLD_CO2] * x[C + z] + carry[C + z]
        k, _ = taken_up(combs[z, COMB_SORB], combs[z, COMB_WATER], saturation_pa(comb_degc[z]))
        hold[z, HOLD_BOARD] += k
        hold[z, HOLD_BOARD_KG] += k * comb_bound[z] * saturation_pa(comb_degc[z])
        hold[z, HOLD_COMB] = comb_kg[z] / HOUR_S
        hold[z, HOLD_PATCH] = min(comb_kg[z] / max(combs[z, COMB_CLING], 1e-9), 1.0)
    for k in range(walls.shape[0]):
        if walls[k, WALL_CAPACITY] <= 0.0:
            continue
        z = zone_of(k)
        saturated = saturation_pa(surface_degc[k])
        inward, _ = taken_up(walls[k, WALL_SORB], walls[k, WALL_CAPACITY], saturated)
        hold[z, HOLD_BOARD] += inward
        hold[z, HOLD_BOARD_KG] += inward * bound[k] * saturated


@compiled
def zone_of(surface: int) -> int:
    """Return the zone before a surface: lid and upper wall crown, floor and lower wall base."""
    if surface < 3:
        return 2
    return 0 if surface in (4, 5) else 1


@compiled
def taken_up(conductance: float, capacity: float, saturated: float) -> tuple[float, float]:
    """Return the mean conductance into a layer that fills over an hour, and how far it comes.

    Exact for a vapour pressure that stays: J = K·(1 - e⁻ʳ)/r·(p - φ·psat), r = K·psat·dt/capacity.
    """
    if capacity <= 0.0 or conductance <= 0.0:
        return 0.0, 0.0
    rate = conductance * saturated * HOUR_S / capacity
    filled = -(exp(-rate) - 1.0)
    return conductance * filled / rate, filled


@folded
def keep_walls(
    hive: Hive,
    shell: Shell,
    held: Held,
    work: Work,
    felt: FloatArray,
    ledger: FloatArray,
) -> float:
    """Move the walls through the hour; return the heat they let out to the outer air [W]."""
    walls = shell.walls
    by_out = shell.outer_by
    gain = shell.gain
    decay = shell.decay
    dry_modes = held.dry
    wet_modes = held.settled
    melting = held.melting
    at = work.at
    outer_films = shell.outer_film
    surfaces = hive.surfaces
    x = held.x
    out = 0.0
    for k in range(walls.shape[0]):
        area = walls[k, WALL_AREA]
        if area <= 0.0:
            continue
        z = int(surfaces[k, SURFACE_ZONE])
        inside = x[T + z]
        latent = at[k, AT_W] / area - melting[k]
        sun, more = felt[k, 0], felt[k, 1]
        below = 1.0 + more * by_out[k, BROUGHT]
        dry = felt[k, 2] + by_out[k, INSIDE] * inside + by_out[k, OUTSIDE] * sun
        brought = more * (sun - dry) / below
        outer = dry + by_out[k, BROUGHT] * brought
        wet = felt[k, 3] + by_out[k, SETTLING] * latent
        brought_wet = -more * wet / below
        outer_wet = wet + by_out[k, BROUGHT] * brought_wet
        scaled = area * walls[k, WALL_SCALE]
        film = outer_films[k]
        flow = scaled * (film * (outer - sun) - brought)
        flow += area * (film * outer_wet - brought_wet)
        out += flow
        felt[k, 4] = outer + outer_wet
        for m in range(CELLS):
            dry_modes[k, m] = (
                decay[k, m] * dry_modes[k, m]
                + gain[k, m, INSIDE] * inside + gain[k, m, OUTSIDE] * sun
                + gain[k, m, BROUGHT] * brought
            )  # fmt: skip
            wet_modes[k, m] = (
                decay[k, m] * wet_modes[k, m]
                + gain[k, m, SETTLING] * latent + gain[k, m, BROUGHT] * brought_wet
            )  # fmt: skip
        ledger[L_HEAT_MELT] += melting[k] * area * HOUR_S
    ledger[L_HEAT_OUT] += out * HOUR_S
    return out


@folded
def keep_bound(shell: Shell, held: Held, x: FloatArray, ledger: FloatArray) -> None:
    """Move contents, and what boards and combs have bound, through the hour.

    Called before ``held.x`` and ``held.surface_degc`` move on: what the balance was given counts.
    """
    combs = shell.combs
    walls = shell.walls
    comb_degc = held.comb_degc
    comb_bound = held.comb_bound
    comb_kg = held.comb_kg
    bound = held.bound
    deep = held.deep
    surface_degc = held.surface_degc
    film_kg = held.film_kg
    for z in range(3):
        saturated = saturation_pa(comb_degc[z])
        k, _ = taken_up(combs[z, COMB_SORB], combs[z, COMB_WATER], saturated)
        taken = k * (x[P + z] - comb_bound[z] * saturated) * HOUR_S
        if combs[z, COMB_WATER] > 0.0:
            comb_bound[z] += taken / combs[z, COMB_WATER]
            ledger[L_HEAT_BOUND] += taken * _WATER_J
            if comb_bound[z] > 1.0:
                # More than it can bind stands on it.
                comb_kg[z] += (comb_bound[z] - 1.0) * combs[z, COMB_WATER]
                comb_bound[z] = 1.0
        share = -(exp(-combs[z, COMB_G] * HOUR_S / combs[z, COMB_HEAT]) - 1.0)
        comb_degc[z] += share * (x[T + z] - comb_degc[z])
    for k in range(walls.shape[0]):
        if walls[k, WALL_CAPACITY] <= 0.0:
            continue
        saturated = saturation_pa(surface_degc[k])
        inward, _ = taken_up(walls[k, WALL_SORB], walls[k, WALL_CAPACITY], saturated)
        taken = inward * (x[P + zone_of(k)] - bound[k] * saturated) * HOUR_S
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
