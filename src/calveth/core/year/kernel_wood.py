"""Boards inside a hive through an hour: what their cells bind, hand inwards, drink and give back.

A board is cut into cells that grow with the depth. What a cell binds follows an isotherm of two
straight pieces with its knee at 80 %: above it wood binds some 2.6 times as much for a percent, up
to fibre saturation. Liquid that reaches a bare surface is drunk by the law of a sharp front,
i = A·√t; it first saturates the cells, and what is more stays in the pores until the cells take it.
"""

from __future__ import annotations

from math import exp, sqrt

from calveth.core.compiled import compiled, folded
from calveth.core.nest.kernel_arrays import FloatArray, Hive, P, Work
from calveth.core.nest.kernel_parts import (
    HOLD_BOARD,
    HOLD_BOARD_KG,
    SURFACE_ZONE,
    saturation_pa,
)
from calveth.core.year.chains import HOUR_S
from calveth.core.year.kernel_arrays import (
    STEEPER,
    WALL_AREA,
    WALL_CLING,
    WALL_DRIES,
    WALL_DRINKS,
    WALL_PORES,
    WALL_THIRSTY,
    WOOD_CELLS,
    Held,
    Shell,
)

KNEE = 0.8
"""Relative humidity at which the isotherm grows steeper: the higher of the two EN ISO 10456 has."""


@compiled
def humidity_of(bound: float, steeper: float) -> float:
    """Return the humidity a cell is in balance with [-], 1 from saturation on.

    Parameters
    ----------
    bound : float
        Water it binds over what one slope of the isotherm would bind from dry to saturated [-].
    steeper : float
        Slope above the knee over that below [-].
    """
    if bound <= KNEE:
        return max(bound, 0.0)
    return min(KNEE + (bound - KNEE) / steeper, 1.0)


@compiled
def most_bound(steeper: float) -> float:
    """Return what a saturated cell binds, in the unit of `humidity_of` [-]."""
    return KNEE + (1.0 - KNEE) * steeper


@compiled
def slope_at(bound: float, steeper: float) -> float:
    """Return the slope of the isotherm over that below the knee [-]."""
    return steeper if bound > KNEE else 1.0


@compiled
def taken_up(conductance: float, capacity: float, saturated: float) -> float:
    """Return the mean conductance into a layer that fills over an hour [kg/(s·Pa)].

    Exact for a vapour pressure that stays: J = K·(1 - e⁻ʳ)/r·(p - φ·psat), r = K·psat·dt/capacity.
    """
    if capacity <= 0.0 or conductance <= 0.0:
        return 0.0
    rate = conductance * saturated * HOUR_S / capacity
    return conductance * -(exp(-rate) - 1.0) / rate


@compiled
def drunk_in(hours: float, held: float, absorbs: float) -> float:
    """Return what a wet bare surface drinks [kg/m²] in some hours when it has drunk before.

    Sharp front: i² grows by A²·t, so that from dry it is A·√t; Hall and Hoff, from memory.

    Parameters
    ----------
    hours : float
        For which water stands on it [h].
    held : float
        Liquid in its pores already [kg/m²].
    absorbs : float
        Water absorption coefficient A [kg/(m²·√h)].
    """
    return sqrt(held * held + absorbs * absorbs * hours) - held


@folded
def remember_boards(hive: Hive, shell: Shell, held: Held, work: Work, taking: FloatArray) -> None:
    """Add what boards answer to the air before them to ``work.hold``.

    ``taking`` [10, 2] keeps how readily each takes water up [kg/(s·Pa)] and at which saturation
    pressure [Pa], for `keep_boards`.
    """
    hold = work.hold
    surfaces = hive.surfaces
    wood_kg = shell.wood_kg
    wood_pass = shell.wood_pass
    bound = held.bound
    surface_degc = held.surface_degc
    steeper = shell.extra[STEEPER]
    for k in range(wood_kg.shape[0]):
        taking[k, 0] = 0.0
        if wood_kg[k, 0] <= 0.0:
            continue
        z = int(surfaces[k, SURFACE_ZONE])
        saturated = saturation_pa(surface_degc[k])
        first = bound[k, 0]
        # Full pores keep the face wet: only the film of air holds back what dries.
        passes = shell.walls[k, WALL_DRIES] if held.drunk_kg[k] > 0.0 else wood_pass[k, 0]
        store = wood_kg[k, 0] * slope_at(first, steeper) + held.drunk_kg[k]
        inward = taken_up(passes, store, saturated)
        taking[k, 0], taking[k, 1] = inward, saturated
        hold[z, HOLD_BOARD] += inward
        hold[z, HOLD_BOARD_KG] += inward * humidity_of(first, steeper) * saturated


@folded
def keep_boards(hive: Hive, shell: Shell, held: Held, x: FloatArray, taking: FloatArray) -> float:
    """Move what boards bind through the hour; return what they took from the air [kg].

    More than the first cell binds stands on it; the cells share what they hold with the next one,
    each pair exactly as two stores that are left alone for an hour.
    """
    surfaces = hive.surfaces
    wood_kg = shell.wood_kg
    wood_pass = shell.wood_pass
    bound = held.bound
    steeper = shell.extra[STEEPER]
    most = most_bound(steeper)
    total = 0.0
    for k in range(wood_kg.shape[0]):
        if wood_kg[k, 0] <= 0.0:
            continue
        inward, saturated = taking[k, 0], taking[k, 1]
        air = x[P + int(surfaces[k, SURFACE_ZONE])]
        taken = inward * (air - humidity_of(bound[k, 0], steeper) * saturated) * HOUR_S
        total += taken
        bound[k, 0] += taken / wood_kg[k, 0]
        if bound[k, 0] > most:
            held.film_kg[k] += (bound[k, 0] - most) * wood_kg[k, 0]
            bound[k, 0] = most
        for n in range(WOOD_CELLS - 1):
            here = wood_kg[k, n] * slope_at(bound[k, n], steeper)
            there = wood_kg[k, n + 1] * slope_at(bound[k, n + 1], steeper)
            both = here * there / (here + there)
            apart = humidity_of(bound[k, n], steeper) - humidity_of(bound[k, n + 1], steeper)
            rate = wood_pass[k, n + 1] * saturated * HOUR_S / both
            moved = both * apart * -(exp(-rate) - 1.0)
            bound[k, n] -= moved / wood_kg[k, n]
            bound[k, n + 1] += moved / wood_kg[k, n + 1]
        if held.drunk_kg[k] > 0.0:
            soak(shell, held, k, most)
    return total


@compiled
def soak(shell: Shell, held: Held, k: int, most: float) -> None:
    """Let the cells of a board take liquid out of its pores until they are saturated."""
    for n in range(WOOD_CELLS):
        room = max(most - held.bound[k, n], 0.0) * shell.wood_kg[k, n]
        given = min(held.drunk_kg[k], room)
        held.bound[k, n] += given / shell.wood_kg[k, n]
        held.drunk_kg[k] -= given


@compiled
def drink_inside(shell: Shell, held: Held, k: int, settled_kg: float) -> None:
    """Let the bare share of a board drink what settled on it, and what runs over it.

    The rest of it is sealed with propolis and wax: there water stands until the air takes it. Ice
    is not drunk.
    """
    absorbs = shell.walls[k, WALL_DRINKS]
    if absorbs <= 0.0 or shell.wood_kg[k, 0] <= 0.0:
        return
    area = shell.walls[k, WALL_AREA]
    film = held.film_kg[k]
    over = max(film - shell.walls[k, WALL_CLING], 0.0)
    offered = shell.walls[k, WALL_THIRSTY] * (max(settled_kg, 0.0) + over)
    liquid = film * (1.0 - held.ice[k])
    room = max(shell.walls[k, WALL_PORES] - held.drunk_kg[k], 0.0)
    able = drunk_in(1.0, held.drunk_kg[k] / area, absorbs) * area
    drunk = min(offered, liquid, able, room)
    if drunk <= 0.0:
        return
    held.ice[k] = held.ice[k] * film / (film - drunk) if film > drunk else 0.0
    held.film_kg[k] = film - drunk
    held.drunk_kg[k] += drunk
