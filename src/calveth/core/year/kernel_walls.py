"""Walls of a hive through an hour, as compiled arithmetic: what they feel, answer and keep."""

from __future__ import annotations

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.compiled import folded
from calveth.core.nest.kernel_arrays import TE, WIND, FloatArray, Hive, T, Work
from calveth.core.nest.kernel_parts import (
    AT_W,
    HOLD_SHELL,
    HOLD_SHELL_W,
    LAW_APART,
    LAW_FOLLOW,
    LAW_ICE,
    LAW_LATENT,
    LAW_PAST,
    LAW_PATCH,
    LAW_STORE,
    SIDE_PATCH,
    SIDE_STORE,
    SIDE_WARMER,
    SURFACE_ZONE,
    UPPER_WALL,
    outer_film_m2k_w,
)
from calveth.core.year.chains import BROUGHT, CELLS, HOUR_S, INSIDE, OUTSIDE, SETTLING
from calveth.core.year.columns import L_HEAT_MELT, L_HEAT_OUT
from calveth.core.year.kernel_arrays import (
    FLOOR,
    GROUND_DEGC,
    LID,
    ON_SLAB,
    SKY_SIDE_W,
    SKY_W,
    SNOW_LID,
    SNOW_MELTS,
    SUN_LID,
    SUN_SIDE,
    WALL_ABSORBS,
    WALL_AREA,
    WALL_EMITS,
    WALL_FACE,
    WALL_RATIO,
    WALL_SCALE,
    WALL_SHARE,
    Held,
    Shell,
)
from calveth.core.year.kernel_rain import ON_LID
from calveth.core.year.kernel_snow import CONDUCTS_W_MK, CONTACT_M2K_W, snow_air_degc

_STILL_M2K_W = c.RSI_HORIZONTAL.value
_TRACE_KG = y.TRACE_OF_WATER.value
_WET_KG_M2 = y.WET_ALL_OVER.value


@folded
def outer_film_w_m2k(walls: FloatArray, k: int, outer: float, hour: FloatArray) -> float:
    """Return what the outer film of a wall conducts, per area inside [W/(m²·K)].

    On a lid with the snow that lies on it; where that melts, its face is the outside.
    """
    share = walls[k, WALL_SHARE]
    behind = share * outer + (1.0 - share) * _STILL_M2K_W
    if walls[k, WALL_FACE] == LID:
        if hour[SNOW_MELTS] > 0.0:
            behind = CONTACT_M2K_W
        else:
            behind += hour[SNOW_LID] / CONDUCTS_W_MK
    film: float = walls[k, WALL_RATIO] / behind
    return film


@folded
def outer_air_degc(
    shell: Shell, k: int, hour: FloatArray, outer: float, drying_w_m2: FloatArray
) -> float:
    """Return the temperature of the outer air a wall feels: with sun, sky and rain that dries.

    Te + R·(a·I - ε·F·(σ·Te⁴ - L)), F of the sky 1 for a lid and a half for a wall; behind a
    ventilated gap only what the gap lets through. Of the four sides the mean: as they are built
    alike, the wall answers to it as their mean would. Snow on a lid takes little of the sun and is
    never warmer than it melts; a floor on a slab feels the ground.
    """
    walls = shell.walls
    face = walls[k, WALL_FACE]
    degc: float = hour[TE]
    snowed = face == LID and hour[SNOW_LID] > 0.0
    if face == FLOOR:
        if shell.extra[ON_SLAB] > 0.0:
            degc = hour[GROUND_DEGC]
    elif snowed:
        degc = 0.0 if hour[SNOW_MELTS] > 0.0 else snow_air_degc(hour, outer)
    elif face == LID:
        gain = walls[k, WALL_ABSORBS] * hour[SUN_LID] - walls[k, WALL_EMITS] * hour[SKY_W]
        gain -= drying_w_m2[ON_LID]
        degc += gain * outer * walls[k, WALL_SHARE]
    else:
        gain = -walls[k, WALL_EMITS] * hour[SKY_SIDE_W]
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

    ``felt`` [7, 5] holds outer air, dh (see `wall_law`), the memory of the outer surface (dry,
    settled), and at the end of the hour its temperature.
    """
    walls = shell.walls
    laws = work.laws
    hold = work.hold
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
        felt[k, 0] = outer_air_degc(shell, k, hour, outer, drying_w_m2)
        felt[k, 1] = outer_film_w_m2k(walls, k, outer, hour) - outer_films[k]
        past, wet = wall_law(shell, held, k, laws, felt)
        film = film_kg[k]
        # A trace stays where it is: nobody sees it, and drying it would never end.
        laws[k, LAW_STORE] = film / HOUR_S if film > _TRACE_KG else 0.0
        # Drying ice takes the heat of ice with it, and a thin film dries as far as it reaches.
        laws[k, LAW_ICE] = ice[k]
        laws[k, LAW_PATCH] = min(film / (area * _WET_KG_M2), 1.0)
        z = int(surfaces[k, SURFACE_ZONE])
        scaled = area * walls[k, WALL_SCALE] * films[k]
        hold[z, HOLD_SHELL] += scaled * (1.0 - laws[k, LAW_FOLLOW])
        hold[z, HOLD_SHELL_W] += scaled * past + area * films[k] * wet


@folded
def wall_law(
    shell: Shell, held: Held, k: int, laws: FloatArray, felt: FloatArray
) -> tuple[float, float]:
    """Put the law of a surface into ``laws``; return its memory of both airs and of what settled.

    The outer film of the hour differs from the one in the modes by dh: a flow q = dh·(Tsa - Tso)
    comes to the outside, and as Tso follows q it is solved for here.
    """
    by_in = shell.inner_by
    by_out = shell.outer_by
    inner_modes = shell.inner
    outer_modes = shell.outer
    dry_modes = held.dry
    wet_modes = held.settled
    inner, outer_dry, wet, outer_wet = 0.0, 0.0, 0.0, 0.0
    for m in range(CELLS):
        inner += inner_modes[k, m] * dry_modes[k, m]
        outer_dry += outer_modes[k, m] * dry_modes[k, m]
        wet += inner_modes[k, m] * wet_modes[k, m]
        outer_wet += outer_modes[k, m] * wet_modes[k, m]
    sun, more = felt[k, 0], felt[k, 1]
    stiff = more / (1.0 + more * by_out[k, BROUGHT])
    # Without air inside and without what settles now: both are unknowns of the balance.
    brought = stiff * (sun * (1.0 - by_out[k, OUTSIDE]) - outer_dry)
    past = inner + by_in[k, OUTSIDE] * sun + by_in[k, BROUGHT] * brought
    wet -= by_in[k, BROUGHT] * stiff * outer_wet
    laws[k, LAW_FOLLOW] = by_in[k, INSIDE] - by_in[k, BROUGHT] * stiff * by_out[k, INSIDE]
    laws[k, LAW_LATENT] = by_in[k, SETTLING] - by_in[k, BROUGHT] * stiff * by_out[k, SETTLING]
    wet -= laws[k, LAW_LATENT] * held.melting[k]
    laws[k, LAW_PAST] = past + wet
    felt[k, 2], felt[k, 3] = outer_dry, outer_wet
    return past, wet


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
        # What the balance settled here warms the wall, and what melts cools it.
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
                + gain[k, m, INSIDE] * inside
                + gain[k, m, OUTSIDE] * sun
                + gain[k, m, BROUGHT] * brought
            )
            wet_modes[k, m] = (
                decay[k, m] * wet_modes[k, m]
                + gain[k, m, SETTLING] * latent
                + gain[k, m, BROUGHT] * brought_wet
            )
        ledger[L_HEAT_MELT] += melting[k] * area * HOUR_S
    ledger[L_HEAT_OUT] += out * HOUR_S
    return out


@folded
def tell_sides(
    shell: Shell,
    held: Held,
    hour: FloatArray,
    drying_w_m2: FloatArray,
    felt: FloatArray,
    row: FloatArray,
    work: Work,
) -> None:
    """Put how much warmer each side of the upper wall is than their mean into ``row`` [8].

    The sides are built alike and look at the same air inside, so that what differs is sun and
    drying rain outside; walls answer in proportion, and the differences move by the same modes,
    whatever the hour does inside. The first four are of the inner surface, the others of the outer
    one [K]. What each side brings to the hour goes to ``work.sides``.
    """
    walls = shell.walls
    by_in = shell.inner_by
    by_out = shell.outer_by
    inner_modes = shell.inner
    outer_modes = shell.outer
    gain = shell.gain
    decay = shell.decay
    sides = held.sides
    k = UPPER_WALL
    outer = outer_film_m2k_w(hour[WIND], hour[TE]) * walls[k, WALL_SHARE]
    mean = 0.0
    for side in range(4):
        mean += 0.25 * (walls[k, WALL_ABSORBS] * hour[SUN_SIDE + side] - drying_w_m2[side])
    more = felt[k, 1]
    for side in range(4):
        own = walls[k, WALL_ABSORBS] * hour[SUN_SIDE + side] - drying_w_m2[side]
        sun = (own - mean) * outer
        inner, dry = by_in[k, OUTSIDE] * sun, by_out[k, OUTSIDE] * sun
        for m in range(CELLS):
            inner += inner_modes[k, m] * sides[side, m]
            dry += outer_modes[k, m] * sides[side, m]
        brought = more * (sun - dry) / (1.0 + more * by_out[k, BROUGHT])
        row[side] = inner + by_in[k, BROUGHT] * brought
        row[4 + side] = dry + by_out[k, BROUGHT] * brought
        for m in range(CELLS):
            sides[side, m] = (
                decay[k, m] * sides[side, m]
                + gain[k, m, OUTSIDE] * sun
                + gain[k, m, BROUGHT] * brought
            )
    # From here on what each side brings to the water of the hour.
    area = 0.25 * walls[k, WALL_AREA]
    if area <= 0.0:
        return
    at = work.sides
    work.laws[k, LAW_APART] = 1.0
    least = 0.25 * _TRACE_KG if held.film_kg[k] > _TRACE_KG else 1.0
    for side in range(4):
        kg = held.side_kg[side]
        at[side, SIDE_WARMER] = row[side]
        at[side, SIDE_STORE] = kg / (area * HOUR_S) if kg > least else 0.0
        at[side, SIDE_PATCH] = min(kg / (area * _WET_KG_M2), 1.0)
