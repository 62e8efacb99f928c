"""Walls and lid of a hive as wet as rain makes them, ready to stand in for each other."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product
from math import exp

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.nest.network import HiveModel
from calveth.core.year import kernel_arrays as ka
from calveth.core.year.chains import Chains
from calveth.core.year.shells import wall_modes

# How far from a level its shell still stands for the wall, in steps between levels [-].
_REACH = 0.7

FloatArray = NDArray[np.float64]

# Rain that makes a layer conduct less than this more is not followed; levels above dry.
_FELT_GROWTH, _WET_LEVELS = 1.02, {ka.WALL_RAIN: 5, ka.LID_RAIN: 3}


def wet_shells(model: HiveModel, surfaces: FloatArray, dry: ka.Shell) -> tuple[ka.Shell, ...]:
    """Return the walls of a hive dry and, where they drink rain, by levels up to as wet as can be.

    A level stands for λ of the outer layer around its own; the levels overlap, so that walls do
    not change to and fro. ``surfaces`` [7, 7] and ``dry`` are as in `shells.shell_arrays`.
    """
    walls, lid = (_levels(dry, row) for row in (ka.WALL_RAIN, ka.LID_RAIN))
    made = []
    for wall_grown, lid_grown in product(walls, lid):
        shell = dry
        if wall_grown > 1.0 or lid_grown > 1.0:
            modes = wall_modes(model, surfaces, dry.outer_film, (wall_grown, lid_grown))
            shell = _with_modes(dry, modes)
        rain = shell.rain.copy()
        for row, levels, grown in (
            (ka.WALL_RAIN, walls, wall_grown),
            (ka.LID_RAIN, lid, lid_grown),
        ):
            step = levels[1] - levels[0] if len(levels) > 1 else np.inf
            # A level holds to the middle of the next and a little on: none flickers between two.
            reach = _REACH * step
            rain[row, ka.RAIN_FROM], rain[row, ka.RAIN_TO] = grown - reach, grown + reach
        made.append(shell._replace(rain=rain))
    return tuple(made)


def _levels(dry: ka.Shell, row: int) -> list[float]:
    """Return how much better than dry the outer layer conducts at each level; [1] when it stays."""
    of = dry.rain[row]
    most = exp(min(of[ka.RAIN_CONDUCTS] * of[ka.RAIN_MOST], c.RAIN_MOST_GROWN.value))
    if of[ka.RAIN_ON] <= 0.0 or most < _FELT_GROWTH:
        return [1.0]
    return [float(grown) for grown in np.linspace(1.0, most, _WET_LEVELS[row] + 1)]


def rain_level(shells: Sequence[ka.Shell], held: ka.Held, level: int) -> int:
    """Return which of `wet_shells` stands for what is held: the one there is, where it may."""
    from calveth.core.year.kernel_rain import stands_for, wet_conducts

    if len(shells) == 1 or (level < len(shells) and stands_for(shells[level], held)):
        return min(level, len(shells) - 1)
    off = np.zeros(len(shells))
    for row in (ka.WALL_RAIN, ka.LID_RAIN):
        low, high = (np.array([s.rain[row, k] for s in shells]) for k in (ka.RAIN_FROM, ka.RAIN_TO))
        if np.isfinite(low).all() and shells[0].rain[row, ka.RAIN_ON] > 0.0:
            grown = wet_conducts(shells[0], held, row)
            off += np.abs(0.5 * (low + high) - grown) / (high - low)
    return int(np.argmin(off))


def _with_modes(shell: ka.Shell, modes: Chains) -> ka.Shell:
    """Return walls with other modes."""
    return shell._replace(
        decay=modes.decay,
        gain=modes.gain,
        inner=modes.inner,
        outer=modes.outer,
        inner_by=modes.inner_by,
        outer_by=modes.outer_by,
        to_cells=np.ascontiguousarray(modes.to_cells),
        to_modes=np.ascontiguousarray(modes.to_modes),
        capacity=modes.capacity,
    )
