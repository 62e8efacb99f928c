"""A hive through the hours of a year, as compiled arithmetic.

An hour is the same balance as a month or a night (`nest.kernel`), its unknowns being means of the
hour; walls and stores answer out of what they hold. What a balance is left open by is carried into
the next hour, so that nothing is lost over the year; hours that did not settle are counted.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.airflow.kernel import JOINT_CP, PART_AREA, STRIP_AREA, STRIP_CP
from calveth.core.compiled import compiled, folded, making
from calveth.core.nest.kernel import evaluate
from calveth.core.nest.kernel_arrays import (
    AIR_W,
    CARRIED_KG_S,
    CO2_OUT,
    CONDENSING_W,
    COOL_KG_S,
    DIFFUSED_KG_S,
    DP0,
    FAN_M3_S,
    MASS,
    METABOLIC_W,
    NECTAR,
    NECTAR_KG_S,
    NINE,
    PE,
    PRESSURE,
    TE,
    WAITING,
    C,
    FloatArray,
    Hive,
    P,
    T,
    Work,
)
from calveth.core.nest.kernel_parts import (
    CO2_W,
    DRY_W,
    UPPER_WALL,
    WATER_W,
    ZONE_BREATH,
    air_density,
)
from calveth.core.nest.kernel_solve import creep, newton, newton_step, stepped, worst_of
from calveth.core.year.chains import HOUR_S
from calveth.core.year.columns import (
    L_CO2_BEES,
    L_CO2_OUT,
    L_HEAT_AIR,
    L_HEAT_BEES,
    L_HEAT_SETTLED,
    L_PASSES,
    L_UNSETTLED,
    L_WATER_AIR,
    L_WATER_BEES,
    L_WATER_SHELL,
    L_WORST,
    S_AIR,
    S_CO2,
    S_COMBS,
    S_COOL,
    S_FAN,
    S_FILM,
    S_HEAT,
    S_ICE,
    S_ICED,
    S_INFLOW,
    S_NECTAR,
    S_OPEN,
    S_OUTER,
    S_P,
    S_QUILT,
    S_RAIN,
    S_SHELL,
    S_SIDE,
    S_SIDE_KG,
    S_SNOW,
    S_T,
    S_TS,
    S_WAITS,
)
from calveth.core.year.kernel_arrays import (
    ICE_CLOSES,
    QUILT_ON,
    RAIN_ON,
    SECTOR,
    SNOW_M,
    Held,
    Shell,
)
from calveth.core.year.kernel_ice import keep_ice
from calveth.core.year.kernel_memory import keep_bound, remember_stores
from calveth.core.year.kernel_rain import rain_on_faces, stands_for
from calveth.core.year.kernel_snow import keep_snow, show_snow
from calveth.core.year.kernel_walls import keep_walls, remember_walls, tell_sides
from calveth.core.year.kernel_water import keep_films, keep_quilt

_WATER_J = c.LATENT_HEAT_WATER.value
_MOLAR = c.CO2_OVER_AIR_MOLAR_MASS.value
# An hour is closed when its worst balance is open by less than this (1 is 1 W or 1e-6 kg/s), and
# has not settled when it is left open by more.
_CLOSED, _UNSETTLED = 1e-2, 5e-2
_PLAIN, _SEARCH, _ONWARD = 8, 25, 0.9
_UNDER_SNOW = y.SNOW_SHUTS.value
# Openings snow never reaches have its depth without end.
_NEVER = 1e6
# What ice closes is taken over in steps: each turns the flows anew.
_ICE_STEP = 0.02
# What waits is spread over the day that follows.
_DAY_S = 86400.0
_NECTAR_ROOM = y.NECTAR_ROOM.value
# The middle wall, whose outside tells how fast rain dries.
_MIDDLE = 3


class Room(NamedTuple):
    """Arrays an hour is worked out in: the hour as the bees meet it, states tried, what walls feel.

    ``hour`` [29] is the row of the hours with the nectar that has waited in it.
    """

    hour: FloatArray

    step: FloatArray
    trial: FloatArray
    before: FloatArray
    none: FloatArray
    x: FloatArray
    felt: FloatArray
    drying_w_m2: FloatArray
    row: FloatArray
    sides: FloatArray
    taking: FloatArray


@compiled
def close_hour(hive: Hive, hour: FloatArray, work: Work, room: Room) -> int:
    """Close the balances of an hour from the state before.

    Return how many passes it took, -1 where plain steps of Newton's method do not.
    """
    x, step, trial = room.x, room.step, room.trial
    # Begin where the last two hours point to.
    for i in range(NINE):
        step[i] = x[i] - room.before[i]
    stepped(x, step, _ONWARD, hour[PRESSURE], trial)
    for i in range(x.size):
        room.before[i] = x[i]
        x[i] = trial[i]
    evaluate(hive, hour, x, work)
    # Newton as it stands: most hours close in two passes, and none is searched that need not be.
    for passes in range(_PLAIN):
        if worst_of(work.residual) <= _CLOSED:
            return passes
        if not newton_step(work, room.none, 0.0, step):
            return -1
        stepped(x, step, 1.0, hour[PRESSURE], trial)
        for i in range(x.size):
            x[i] = trial[i]
        evaluate(hive, hour, x, work)
    return _PLAIN if worst_of(work.residual) <= _CLOSED else -1


@making
def search_hour(hive: Hive, hour: FloatArray, work: Work, room: Room) -> int:
    """Close an hour slower: where the air turns in a joint or between two zones whole steps jump.

    Return the passes it counts as.
    """
    # From the state of the hour before: the extrapolated one may lie beyond the kink.
    room.x[:] = room.before
    if creep(hive, hour, room.x, work, _CLOSED) > _CLOSED:
        newton(hive, hour, room.x, work, _SEARCH, _CLOSED)
    return _PLAIN + _SEARCH


@compiled
def turn_to_wind(hive: Hive, shell: Shell, sector: int) -> None:
    """Let the wind of an hour press on openings and joints from where it comes."""
    for k in range(hive.strips.shape[0]):
        hive.strips[k, STRIP_CP] = shell.strip_cp[sector, k]
    for k in range(hive.joints.shape[0]):
        hive.joints[k, JOINT_CP] = shell.joint_cp[sector, k]


@compiled
def shut_by_winter(hive: Hive, shell: Shell, snow_m: float, iced: float) -> None:
    """Leave of openings that snow lies before, or ice is in, the area air still finds.

    Snow shuts what it comes up to, all but a share; ice takes its share of the low openings, those
    that snow could ever reach, and leaves as little.
    """
    left = max(1.0 - iced, _UNDER_SNOW)
    strips = shell.strip_open
    parts = shell.part_open
    for k in range(strips.shape[0]):
        free = _UNDER_SNOW if snow_m > strips[k, 1] else (left if strips[k, 1] < _NEVER else 1.0)
        hive.strips[k, STRIP_AREA] = strips[k, 0] * free
    for k in range(parts.shape[0]):
        free = _UNDER_SNOW if snow_m > parts[k, 1] else (left if parts[k, 1] < _NEVER else 1.0)
        hive.parts[k, PART_AREA] = parts[k, 0] * free


@folded
def book(hive: Hive, hour: FloatArray, x: FloatArray, work: Work, ledger: FloatArray) -> None:
    """Add an hour's heat, water and CO2 to the ledger."""
    sums, bees = work.sums, work.sums[METABOLIC_W]
    # Breath takes its water along as vapour, so that only the dry heat is heat of the hive.
    co2_out = hour[CO2_OUT]
    ledger[L_HEAT_BEES] += (DRY_W * bees - sums[COOL_KG_S] * _WATER_J) * HOUR_S
    ledger[L_HEAT_AIR] += sums[AIR_W] * HOUR_S
    ledger[L_HEAT_SETTLED] += sums[CONDENSING_W] * HOUR_S
    ledger[L_WATER_BEES] += (WATER_W * bees + sums[COOL_KG_S]) * HOUR_S
    ledger[L_WATER_AIR] += sums[CARRIED_KG_S] * HOUR_S
    ledger[L_WATER_SHELL] += sums[DIFFUSED_KG_S] * HOUR_S
    ledger[L_CO2_BEES] += CO2_W * bees * HOUR_S
    rho_out = air_density(hour[TE], hour[PE], co2_out, hour[PRESSURE])
    out = 0.0
    for z in range(3):
        out += work.zone_flows[z, 1] * x[C + z] - work.zone_flows[z, 0] * co2_out
        out += hive.zones[z, ZONE_BREATH] * (work.scratch[5, z] * x[C + z] - rho_out * co2_out)
    ledger[L_CO2_OUT] += out * HOUR_S
    worst = worst_of(work.residual)
    ledger[L_UNSETTLED] += 1.0 if worst > _UNSETTLED else 0.0
    ledger[L_WORST] = max(ledger[L_WORST], worst)


@folded
def write_row(held: Held, work: Work, felt: FloatArray, sides: FloatArray, row: FloatArray) -> None:
    """Put what is kept of an hour into its row."""
    film_kg = held.film_kg
    comb_kg = held.comb_kg
    surface_degc = held.surface_degc
    sums = work.sums
    ice = held.ice
    rain = held.rain
    x = held.x
    for z in range(3):
        row[S_T + z], row[S_P + z] = x[T + z], x[P + z]
        row[S_COMBS] += comb_kg[z]
        row[S_INFLOW] += work.zone_flows[z, 0]
        row[S_SHELL] += work.shell_w[z]
    for n in range(2):
        co2 = x[C + 1 + n]
        row[S_CO2 + n] = co2 / (co2 + _MOLAR * (1.0 - co2))
    for k in range(7):
        # What stands on a board and what fills its pores: both feel wet.
        row[S_TS + k], row[S_FILM + k] = surface_degc[k], film_kg[k] + held.drunk_kg[k]
        row[S_ICE] += film_kg[k] * ice[k]
    row[S_QUILT] = held.quilt[0]
    row[S_RAIN] = max(rain[0], rain[1], rain[2], rain[3], rain[4])
    row[S_HEAT], row[S_AIR] = sums[METABOLIC_W], sums[AIR_W]
    row[S_FAN], row[S_COOL] = sums[FAN_M3_S], sums[COOL_KG_S] - sums[NECTAR_KG_S]
    row[S_NECTAR] = sums[NECTAR_KG_S]
    for i in range(8):
        row[S_SIDE + i] = sides[i] + (felt[UPPER_WALL, 4] if i >= 4 else 0.0)
    for side in range(4):
        row[S_SIDE_KG + side] = held.side_kg[side] + 0.25 * held.drunk_kg[UPPER_WALL]
    row[S_WAITS] = held.nectar[0]
    row[S_OUTER], row[S_OPEN] = felt[0, 4], worst_of(work.residual)
    row[S_SNOW] = held.snow[0]
    row[S_ICED] = held.iced[1]


@making
def run_hours(
    hive: Hive,
    shell: Shell,
    held: Held,
    hours: FloatArray,
    first: int,
    end: int,
    exposed: FloatArray,
    series: FloatArray,
    ledger: FloatArray,
    work: Work,
) -> int:
    """Take a hive, as it is set for a while, through hours ``first`` up to ``end``.

    Return the hour it came to: before ``end`` where rain has made the walls wetter, or they are
    drier, than those of ``shell``.

    ``hours`` [N, 29] are weather and bees, ``exposed`` [17, 4] how far each side looks into each
    wind; ``series`` [N, 52] and ``ledger`` are written. ``held`` is where it begins and ends,
    ``work`` is left as the last hour was.
    """
    room = Room(
        np.zeros(hours.shape[1]),
        np.zeros(NINE),
        np.zeros(10),
        held.x.copy(),
        np.zeros(NINE),
        held.x.copy(),
        np.zeros((7, 5)),
        np.zeros(5),
        np.zeros(series.shape[1]),
        np.zeros(8),
        np.zeros((10, 2)),
    )
    room.felt[_MIDDLE, 4] = held.surface_degc[_MIDDLE]
    room.felt[0, 4] = held.surface_degc[0]
    sector = -1
    rains = shell.rain[0, RAIN_ON] > 0.0 or shell.rain[1, RAIN_ON] > 0.0
    for h in range(first, end):
        if rains and h > first and not stands_for(shell, held):
            return h
        if int(hours[h, SECTOR]) != sector:
            sector = int(hours[h, SECTOR])
            turn_to_wind(hive, shell, sector)
        closes = shell.extra[ICE_CLOSES]
        iced = held.iced[0] / closes if closes > 0.0 else 0.0
        moved = abs(iced - held.iced[1]) > _ICE_STEP or (iced <= 0.0 < held.iced[1])
        if h == first or moved or hours[h, SNOW_M] != hours[h - 1, SNOW_M]:
            held.iced[1] = iced
            shut_by_winter(hive, shell, hours[h, SNOW_M], iced)
        for i in range(room.hour.size):
            room.hour[i] = hours[h, i]
        # Dried over the day that follows, not in the first hour there is room in the air.
        room.hour[WAITING] = held.nectar[0] / _DAY_S
        show_snow(held, room.hour)
        passes = begin_hour(hive, shell, held, room.hour, exposed[sector], work, room)
        if passes < 0:
            passes = search_hour(hive, room.hour, work, room)
        ledger[L_PASSES] += passes
        waits = held.nectar[0] + (hours[h, NECTAR] - work.sums[NECTAR_KG_S]) * HOUR_S
        held.nectar[0] = min(max(waits, 0.0), _NECTAR_ROOM * hours[h, MASS])
        end_hour(hive, shell, held, room.hour, work, room, ledger)
        for i in range(room.row.size):
            series[h, i] = room.row[i]
    return end


@compiled
def begin_hour(
    hive: Hive,
    shell: Shell,
    held: Held,
    hour: FloatArray,
    exposed: FloatArray,
    work: Work,
    room: Room,
) -> int:
    """Let walls and stores answer out of what they hold, and close the balances of an hour."""
    felt, drying = room.felt, room.drying_w_m2
    rain_on_faces(shell, held, hour, felt[_MIDDLE, 4], felt[0, 4], exposed, drying)
    remember_walls(hive, shell, held, hour, work, drying, felt)
    tell_sides(shell, held, hour, drying, felt, room.sides, work)
    remember_stores(hive, shell, held, work, room.taking)
    return close_hour(hive, hour, work, room)


@compiled
def end_hour(
    hive: Hive,
    shell: Shell,
    held: Held,
    hour: FloatArray,
    work: Work,
    room: Room,
    ledger: FloatArray,
) -> None:
    """Keep what an hour has changed; what is told of it is left in ``room.row``."""
    x, row, felt = room.x, room.row, room.felt
    for i in range(row.size):
        row[i] = 0.0
    # Before the state is taken over: what boards took is counted from the hour's own beginning.
    keep_bound(hive, shell, held, x, room.taking, ledger)
    for i in range(NINE):
        held.x[i] = x[i]
        held.carry[i] = work.residual[i]
    held.x[DP0] = x[DP0]
    keep_walls(hive, shell, held, work, felt, ledger)
    keep_snow(shell, held, hour, felt)
    book(hive, hour, x, work, ledger)
    keep_quilt(shell, held, hour, ledger, row)
    # After the quilt, which drips on the combs, and before the ice, which what drains feeds.
    keep_films(shell, held, work, ledger, row)
    keep_ice(shell, held, hour, work, hour[PRESSURE], row)
    write_row(held, work, felt, room.sides, row)


@making
def change_setting(was: Shell, now: Shell, held: Held) -> None:
    """Take what a hive holds over to another setting: its cells keep their temperature."""
    cells = np.empty(was.decay.shape[1])
    for k in range(was.walls.shape[0]):
        for which in range(2):
            modes = held.dry[k] if which == 0 else held.settled[k]
            # Modes of one setting mean nothing in another: only temperatures of cells do.
            for i in range(cells.size):
                cells[i] = 0.0
                for m in range(cells.size):
                    cells[i] += was.to_cells[k, i, m] * modes[m]
            for m in range(cells.size):
                modes[m] = 0.0
                for i in range(cells.size):
                    modes[m] += now.to_modes[k, m, i] * cells[i]
    for side in range(4):
        for i in range(cells.size):
            cells[i] = 0.0
            for m in range(cells.size):
                cells[i] += was.to_cells[UPPER_WALL, i, m] * held.sides[side, m]
        for m in range(cells.size):
            held.sides[side, m] = 0.0
            for i in range(cells.size):
                held.sides[side, m] += now.to_modes[UPPER_WALL, m, i] * cells[i]
    if now.extra[QUILT_ON] <= 0.0:
        held.quilt[0] = 0.0


def begin(hours: FloatArray, shell: Shell, held: Held) -> None:
    """Let a hive begin as warm and damp as the mean of its first ten days, walls level with it."""
    first = hours[:240].mean(axis=0)
    te = float(first[TE])
    held.x[T : T + 3] = te + np.array([3.0, 8.0, 8.0])
    held.x[P : P + 3] = first[PE] + 150.0
    held.x[C : C + 3] = 0.005
    held.comb_degc[:] = held.x[T : T + 3]
    inside = held.x[T : T + 3][[2, 2, 2, 1, 0, 0, 1]]
    steps = np.linspace(0.1, 0.9, shell.decay.shape[1])
    cells = inside[:, None] + (te - inside)[:, None] * steps
    held.dry[:] = np.einsum("kmi,ki->km", shell.to_modes, cells)
    held.surface_degc[:] = cells[:, 0]
