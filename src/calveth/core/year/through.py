"""A hive run through its hours, stretch by stretch, and where each stretch began."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.calendar import FIRST_DAYS, HOURS_IN_DAY, HOURS_IN_YEAR
from calveth.core.hive.zones import FRACTIONS
from calveth.core.nest import kernel_arrays as k
from calveth.core.nest.network import HiveModel
from calveth.core.nest.steady import no_answer
from calveth.core.year import columns as cl
from calveth.core.year import kernel_arrays as ka
from calveth.core.year.chains import HOUR_S
from calveth.core.year.wet_shells import rain_level

FloatArray = NDArray[np.float64]

# More hours of air no bees live in, or of balances left open, and the year is no answer.
_MOST_FOUL_H, _MOST_UNSETTLED_H = 24, 240
_WIND_UP_H = 30 * HOURS_IN_DAY
"""How long a hive is run before its year begins: boards and combs forget in some weeks. Measured in
all places that ship: against 150 days no figure of the year moves by more than one in 2000."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Block:
    """A stretch of days in one setting.

    ``shells`` are its walls dry and, where they drink rain, by levels as wet as they come.
    """

    first_day: int
    end_day: int
    hive: k.Hive
    shells: tuple[ka.Shell, ...]
    model: HiveModel


class _Refused:
    """Refuses a year no bees live through, or that is no answer; as the months do."""

    def __init__(self, name: str, outside_degc: float) -> None:
        self._name, self._outside_degc = name, outside_degc
        self._foul_h = 0

    def look_at(self, stretch: FloatArray, ledger: FloatArray) -> None:
        """Add the hours of a stretch [N, 50] to what was seen; raise when it is too much."""
        worst = np.maximum(stretch[:, cl.S_CO2], stretch[:, cl.S_CO2 + 1])
        self._foul_h += int((worst > c.CO2_SUFFOCATES.value).sum())
        if self._foul_h > _MOST_FOUL_H:
            raise no_answer("suffocates", self._name, 0.0)
        if ledger[cl.L_UNSETTLED] > _MOST_UNSETTLED_H:
            raise no_answer("no rest", self._name, self._outside_degc)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Replay:
    """What it takes to look at any hour again: where each stretch of at most a month began.

    Of each its first hour and its end, the setting, how wet its walls are, what it held.
    """

    starts: tuple[tuple[int, int, Block, int, ka.Held], ...]
    hours: FloatArray
    exposed: FloatArray


def through(
    name: str, blocks: Sequence[Block], hours: FloatArray, exposed: FloatArray, begins: int
) -> tuple[FloatArray, FloatArray, tuple[float, float, float], Replay]:
    """Return series [8760, 52] and ledger of a year, after some weeks to begin with.

    With what heat, water and CO2 it holds more at the end, and what it takes to look at an hour
    again. ``hours`` [8760, 25] are weather and bees, ``exposed`` [17, 4] how far each side looks
    into each wind.
    """
    from calveth.core.year import kernel_year as ky

    series = np.zeros((HOURS_IN_YEAR, len(cl.SERIES)))
    held = ka.new_held()
    order = _in_order(blocks, begins)
    last = order[-1]
    end, ledger = hour_of(last.end_day), np.zeros(cl.LEDGER_COLUMNS)
    ky.begin(hours[max(end - _WIND_UP_H, 0) :], last.shells[0], held)
    first = max(hour_of(last.first_day), end - _WIND_UP_H)
    walls = _Walls(last.shells[0])
    _wet_by_wet(last, first, end, held, walls, (hours, exposed, series, ledger))
    # A year that is no answer is left as soon as it is known.
    outside_degc = float(hours[:, k.TE].mean())
    _Refused(name, outside_degc).look_at(series[first:end], ledger)
    before = _stock(walls.shell, held)
    ledger[:] = 0.0
    series[:] = 0.0
    starts, refused = [], _Refused(name, outside_degc)
    for block in order:
        for first, end in _stretches(block):
            starts += _wet_by_wet(block, first, end, held, walls, (hours, exposed, series, ledger))
            refused.look_at(series[first:end], ledger)
    after = _stock(walls.shell, held)
    change = (after[0] - before[0], after[1] - before[1], after[2] - before[2])
    replay = Replay(starts=tuple(starts), hours=hours, exposed=exposed)
    return series, ledger, change, replay


class _Walls:
    """The walls as they are set and wet just now."""

    def __init__(self, shell: ka.Shell) -> None:
        self.shell = shell
        self.level = 0

    def become(self, shell: ka.Shell, held: ka.Held, ledger: FloatArray) -> None:
        """Return nothing; change to other walls, what that brings is booked in ``ledger`` [19]."""
        from calveth.core.year import kernel_year as ky

        if shell is self.shell:
            return
        heat, water, _ = _stock(self.shell, held)
        ky.change_setting(self.shell, shell, held)
        later = _stock(shell, held)
        ledger[cl.L_HEAT_SET] += later[0] - heat
        ledger[cl.L_WATER_SET] += later[1] - water
        self.shell = shell


def _wet_by_wet(
    block: Block,
    first: int,
    end: int,
    held: ka.Held,
    walls: _Walls,
    rows: tuple[FloatArray, FloatArray, FloatArray, FloatArray],
) -> list[tuple[int, int, Block, int, ka.Held]]:
    """Run a stretch; where rain makes the walls wetter or they dry, others stand in from there.

    Return where each part began, as in `Replay`. ``rows`` are hours, exposed, series and ledger.
    """
    starts = []
    hours, exposed, series, ledger = rows
    while first < end:
        walls.level = rain_level(block.shells, held, walls.level)
        walls.become(block.shells[walls.level], held, ledger)
        began = ka.Held(*(a.copy() for a in held))
        _, reached = run_stretch(
            block, walls.level, held, hours, first, end, exposed, series, ledger
        )
        starts.append((first, reached, block, walls.level, began))
        first = reached
    return starts


def _stretches(block: Block) -> list[tuple[int, int]]:
    """Return the hours of a block cut at the months."""
    cuts = [day for day in FIRST_DAYS if block.first_day < day < block.end_day]
    edges = [hour_of(day) for day in (block.first_day, *cuts, block.end_day)]
    return list(pairwise(edges))


def run_stretch(
    block: Block,
    level: int,
    held: ka.Held,
    hours: FloatArray,
    first: int,
    end: int,
    exposed: FloatArray,
    series: FloatArray,
    ledger: FloatArray,
) -> tuple[k.Work, int]:
    """Return the balance as a stretch with walls of one wetness left it, and how far it came.

    It ends before ``end`` where the walls become wetter or drier than they are taken to be; arrays
    are as in `kernel_year.run_hours`, ``series`` [8760, 52] and ``ledger`` [19] are written.
    """
    from calveth.core.year import kernel_year as ky

    work = k.new_work(block.hive)
    reached = ky.run_hours(
        block.hive, block.shells[level], held, hours, first, end, exposed, series, ledger, work
    )
    return work, int(reached)


def hour_of(day: int) -> int:
    """Return the first hour of a day of the year, 0 to 364."""
    return day * HOURS_IN_DAY


def _in_order(blocks: Sequence[Block], begins: int) -> list[Block]:
    """Return the blocks from the day on a year begins, the one it falls into cut in two."""
    blocks_done: list[Block] = []
    for block in blocks:
        if block.first_day < begins < block.end_day:
            blocks_done.append(replace(block, end_day=begins))
            blocks_done.append(replace(block, first_day=begins))
        else:
            blocks_done.append(block)
    return [b for b in blocks_done if b.first_day >= begins] + [
        b for b in blocks_done if b.first_day < begins
    ]


def _stock(shell: ka.Shell, held: ka.Held) -> tuple[float, float, float]:
    """Return heat [J], water and CO2 [kg] a hive holds."""
    dry = np.einsum("kim,km->ki", shell.to_cells, held.dry) * shell.capacity
    wet = np.einsum("kim,km->ki", shell.to_cells, held.settled) * shell.capacity
    area, scale = shell.walls[:, ka.WALL_AREA], shell.walls[:, ka.WALL_SCALE]
    heat = float((area * (scale * dry.sum(axis=1) + wet.sum(axis=1))).sum())
    heat += float((shell.combs[:, ka.COMB_HEAT] * held.comb_degc).sum())
    air = shell.extra[ka.AIR_M3] * np.array(FRACTIONS)
    cp, density = c.AIR_HEAT_CAPACITY.value, y.AIR_DENSITY.value
    t, p, co2 = held.x[0:3], held.x[3:6], held.x[6:9]
    heat += float((air * density * cp * t).sum()) + HOUR_S * float(held.carry[0:3].sum())
    heat -= float((held.melting * area).sum()) * HOUR_S
    water = float((air * p / (c.GAS_CONSTANT_VAPOUR.value * (t + c.KELVIN_AT_0_DEGC.value))).sum())
    water += float(held.film_kg.sum() + held.comb_kg.sum() + held.quilt[0])
    water += float((shell.wood_kg * held.bound).sum() + held.drunk_kg.sum())
    water += float((shell.combs[:, ka.COMB_WATER] * held.comb_bound).sum())
    water += HOUR_S * float(held.carry[3:6].sum())
    carbon = float((air * density * co2).sum()) + HOUR_S * float(held.carry[6:9].sum())
    return heat, water, carbon
