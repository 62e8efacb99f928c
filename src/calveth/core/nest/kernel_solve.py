"""Closes the balances of `kernel`, lane by lane, as compiled arithmetic.

From fresh air the hive is followed through time until it settles, as a real one does, in steps that
soon are those of Newton's method. Where they are caught on a kink, slower, then with a line search.
"""

from __future__ import annotations

from math import isfinite
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.compiled import compiled, making
from calveth.core.nest.kernel import evaluate, rest
from calveth.core.nest.kernel_arrays import (
    CLUSTER,
    CORE,
    DP0,
    NINE,
    PE,
    PRESSURE,
    REST,
    START_CO2,
    TE,
    WORST,
    C,
    FloatArray,
    Hive,
    P,
    T,
    Work,
    new_work,
)
from calveth.core.nest.kernel_parts import ZONE_VOLUME, solve_linear, whole_w_k

CLOSED, NO_REST, SUFFOCATES = range(3)
"""What became of a lane."""

_RSE = c.RSE.value
_R_VAPOUR = c.GAS_CONSTANT_VAPOUR.value
# Size of each balance that counts as one: W, kg/s of water, kg/s of CO2.
_SCALE = np.array([1.0] * 3 + [1e-6] * 6)
_ONE = 1.0 / _SCALE
# Furthest each unknown moves in a step: K, Pa, kg CO2/kg.
_LARGEST = np.array([6.0] * 3 + [400.0] * 3 + [0.02] * 3)
_CLOSED = 5e-8
# Where the air turns just as a joint changes from letting in to letting out, Newton's method
# hunts to and fro; a balance open by less than this is accepted after the last try.
_ACCEPTED = 5e-3
_USUAL_HEAT_W = 2.0
# More breath than this, by volume, and no steady state is one bees live in.
_SUFFOCATING = c.CO2_SUFFOCATES.value
_MOLAR = c.CO2_OVER_AIR_MOLAR_MASS.value
_SETTLING, _TRY, _CREEPING = 80, 60, 300


class Answers(NamedTuple):
    """Answers of N lanes: state [N, 10], status [N], and what `Work` holds of each."""

    state: FloatArray
    status: NDArray[np.int64]
    part_flows: FloatArray
    joint_flows: FloatArray
    at: FloatArray
    shell_w: FloatArray
    comb_kg_s: FloatArray
    sums: FloatArray
    residual: FloatArray


@compiled
def size_of(residual: FloatArray) -> float:
    """Return the sum of squared scaled balances; infinite where a number failed."""
    total = 0.0
    for k in range(NINE):
        total += (residual[k] / _SCALE[k]) ** 2
    return total if isfinite(total) else np.inf


@compiled
def worst_of(residual: FloatArray) -> float:
    """Return the largest scaled balance."""
    worst = 0.0
    for k in range(NINE):
        size = abs(residual[k]) / _SCALE[k]
        worst = worst if size <= worst else size  # not a number counts as largest
    return worst if isfinite(worst) else np.inf


@compiled
def newton_step(work: Work, inertia: FloatArray, rate: float, step: FloatArray) -> bool:
    """Put Newton's step [9] into ``step``, shortened where one unknown would move too far.

    ``inertia`` [9] over a time step (``rate`` is its inverse) makes it one of implicit Euler.
    """
    residual = work.residual
    jacobian = work.jacobian
    matrix = work.matrix
    for i in range(NINE):
        # Rows and columns are scaled: kelvins, pascals and shares of CO2 differ by ten powers.
        one = _ONE[i]
        step[i] = -residual[i] * one
        for j in range(NINE):
            matrix[i, j] = jacobian[i, j] * (one * _LARGEST[j])
        matrix[i, i] -= inertia[i] * rate * one * _LARGEST[i]
    if not solve_linear(matrix, step):
        return False
    # All by the same share, so that the step keeps its direction.
    shrink = 1.0
    for i in range(NINE):
        if not isfinite(step[i]):
            return False
        shrink = min(shrink, 1.0 / max(abs(step[i]), 1e-300))
    for i in range(NINE):
        step[i] *= _LARGEST[i] * shrink
    return True


@compiled
def stepped(
    x: FloatArray, step: FloatArray, length: float, pressure: float, to: FloatArray
) -> None:
    """Put a state moved along a step into ``to``, kept where the formulas have a meaning."""
    for z in range(3):
        to[T + z] = min(max(x[T + z] + length * step[T + z], -75.0), 95.0)
        to[P + z] = min(max(x[P + z] + length * step[P + z], 0.1), 0.5 * pressure)
        to[C + z] = min(max(x[C + z] + length * step[C + z], 1e-5), 0.5)
    to[DP0] = x[DP0]


@making
def newton(
    hive: Hive, lane: FloatArray, x: FloatArray, work: Work, steps: int, tolerance: float
) -> bool:
    """Improve ``x`` in place by Newton's method with a line search; whether it closed."""
    step, trial, inertia = np.empty(NINE), np.empty(10), np.zeros(NINE)
    best = np.empty(10)
    evaluate(hive, lane, x, work)
    for _ in range(steps):
        if worst_of(work.residual) <= tolerance:
            return True
        before = size_of(work.residual)
        if not newton_step(work, inertia, 0.0, step):
            return False
        # No more than five lengths: where none is better the least bad one leads off a kink.
        length, least, now = 1.0, np.inf, np.inf
        for _ in range(5):
            stepped(x, step, length, lane[PRESSURE], trial)
            evaluate(hive, lane, trial, work)
            now = size_of(work.residual)
            if now < least:
                least = now
                best[:] = trial
            if now < before:
                break
            length *= 0.4
        x[:] = best
        if now > least:
            evaluate(hive, lane, x, work)
    return worst_of(work.residual) <= tolerance


@compiled
def put_inertia(hive: Hive, inertia: FloatArray) -> None:
    """Put what a hive holds by each unknown into ``inertia`` [9]; it only steers the way."""
    for z in range(3):
        volume = hive.zones[z, ZONE_VOLUME]
        inertia[T + z] = volume * 30e3  # air with a little comb
        inertia[P + z] = volume / (_R_VAPOUR * 283.0)
        inertia[C + z] = volume * 1.2


@making
def settle(
    hive: Hive, lane: FloatArray, x: FloatArray, work: Work, haste: float, tolerance: float
) -> bool:
    """Follow the hive through time until it settles, by implicit Euler steps; whether it closed.

    Pseudo-transient continuation: the time step grows as the balances close and shrinks as they
    open, so that the hive is followed where it tips from one way of breathing to another. With
    ``haste`` 1 it begins with a night, and with less the slower.
    """
    inertia, step, trial = np.empty(NINE), np.empty(NINE), np.empty(10)
    put_inertia(hive, inertia)
    dt, quicker, most = 30000.0 * haste, 1.3 + 0.7 * haste, 2.0 + 6.0 * haste
    evaluate(hive, lane, x, work)
    size = size_of(work.residual)
    for _ in range(_SETTLING):
        if worst_of(work.residual) <= tolerance:
            return True
        if not newton_step(work, inertia, 1.0 / dt if dt < 1e7 else 0.0, step):
            return False
        # A step against what the balances push for has jumped over a tipping point: shorter.
        push = 0.0
        for k in range(NINE):
            push += work.residual[k] * inertia[k] * step[k] / _SCALE[k] ** 2
        if push <= 0.0 and 1.0 < dt < 1e7:
            dt = max(0.25 * dt, 1.0)
            continue
        stepped(x, step, 1.0, lane[PRESSURE], trial)
        x[:] = trial
        evaluate(hive, lane, x, work)
        now = size_of(work.residual)
        # Switched evolution relaxation: the step grows as the residual falls (Mulder, van Leer).
        change = (size / max(now, 1e-300)) ** 0.5
        size = now
        dt = min(max(dt * min(max(quicker * change, 0.3), most), 1.0), 1e9)
    return False


@making
def creep(hive: Hive, lane: FloatArray, x: FloatArray, work: Work, tolerance: float) -> float:
    """Improve ``x`` in place by steps of ten minutes; return the worst balance of the best state.

    Where a joint turns from letting in to letting out, whole steps jump to and fro over the kink;
    the inertia of the hive lets it come to rest on it.
    """
    step, here, inertia = np.empty(NINE), x.copy(), np.empty(NINE)
    put_inertia(hive, inertia)
    evaluate(hive, lane, here, work)
    size = size_of(work.residual)
    trial = np.empty(10)
    for _ in range(_CREEPING):
        if worst_of(work.residual) <= tolerance:
            break
        if not newton_step(work, inertia, 1.0 / 600.0, step):
            break
        stepped(here, step, 1.0, lane[PRESSURE], trial)
        here[:] = trial
        evaluate(hive, lane, here, work)
        if size_of(work.residual) < size:
            size = size_of(work.residual)
            x[:] = here
    evaluate(hive, lane, x, work)
    return worst_of(work.residual)


@compiled
def first_guess(hive: Hive, lane: FloatArray, x: FloatArray, work: Work) -> None:
    """Put a state a few kelvin above the outside, with a little breath in it, into ``x``."""
    te = lane[TE]
    whole_w_k(hive.paths, hive.zones, hive.path_share, _RSE, work.shell_w)
    loss, g = work.shell_w.sum() + 0.15, lane[CLUSTER]
    # As if bees and shell were two resistances in a row; near enough for what follows.
    warm = min(max((g * lane[CORE] + loss * te) / (g + loss), te + 1.0), te + 25.0)
    for z in range(3):
        x[T + z] = te + (warm - te) * (0.6 if z == 0 else (1.0 if z == 1 else 1.2))
        x[P + z] = lane[PE] + 150.0
        x[C + z] = lane[START_CO2]
    x[DP0] = 0.0


@making
def solve_lane(hive: Hive, lane: FloatArray, x: FloatArray, work: Work) -> int:
    """Put the steady state of a hive at a condition into ``x`` [10]; return what became of it."""
    # A small colony gives little: its balances close to as much of it as a large one's.
    tolerance = _CLOSED * min(1.0, lane[REST] / _USUAL_HEAT_W)
    rest(hive, lane, work)
    first_guess(hive, lane, x, work)
    closed = settle(hive, lane, x, work, 1.0, tolerance)
    if not closed:
        # Some hives tip on the way: followed slower they come to the state a real one comes to.
        first_guess(hive, lane, x, work)
        settle(hive, lane, x, work, 0.02, tolerance)
        closed = newton(hive, lane, x, work, _TRY, tolerance)
    if not closed:
        closed = creep(hive, lane, x, work, tolerance) <= _ACCEPTED
    work.sums[WORST] = worst_of(work.residual)
    co2 = max(x[C + 1], x[C + 2])
    if co2 / (co2 + _MOLAR * (1.0 - co2)) > _SUFFOCATING:
        return SUFFOCATES
    return CLOSED if closed else NO_REST


@making
def solve_all(hives: Hive, owner: NDArray[np.int64], lanes: FloatArray, answers: Answers) -> None:
    """Solve lanes [N, 8], each of the hive ``owner`` [N] names, into ``answers``.

    The arrays of ``hives`` have one axis more than those of a hive, the first, for the hives;
    ``path_share`` is the same for all.
    """
    for n in range(lanes.shape[0]):
        h = owner[n]
        hive = Hive(
            hives.strips[h],
            hives.parts[h],
            hives.joints[h],
            hives.tops[h],
            hives.surfaces[h],
            hives.paths[h],
            hives.zones[h],
            hives.path_share,
            hives.scalars[h],
        )
        work = new_work(hive)
        answers.status[n] = solve_lane(hive, lanes[n], answers.state[n], work)
        answers.part_flows[n] = work.part_flows
        answers.joint_flows[n] = work.joint_flows
        answers.at[n] = work.at
        answers.shell_w[n] = work.shell_w
        answers.comb_kg_s[n] = work.comb_kg_s
        answers.sums[n] = work.sums
        answers.residual[n] = work.residual
