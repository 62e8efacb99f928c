"""Newton's method on the balance, for all conditions at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.airflow.network import balanced_pressure_pa
from calveth.core.climate.air import density_kg_m3
from calveth.core.colony.colony import ColonyMoment
from calveth.core.errors import CalvethError
from calveth.core.hive.zones import FRACTIONS
from calveth.core.nest.balance import Balance, Outside, evaluate
from calveth.core.nest.network import NestNetwork
from calveth.core.nest.state import CO2, FLOOR_PRESSURE, TEMPERATURE, UNKNOWNS, VAPOUR

FloatArray = NDArray[np.float64]

# Finite steps for the Jacobian and the largest Newton step: K, Pa, kg/kg, Pa.
_DELTA = np.array([1e-4] * 3 + [1e-2] * 3 + [1e-7] * 3 + [1e-6])
_LARGEST = np.array([6.0] * 3 + [400.0] * 3 + [0.02] * 3 + [0.5])
# Size of each balance that counts as one: W, kg/s of water, kg/s of CO2, kg/s of air.
_SCALE = np.array([1.0] * 3 + [1e-6] * 3 + [1e-6] * 3 + [1e-5])
_CLOSED = 5e-8
# A small colony gives little: its balances close to as much of what it gives as a large one's [W].
_USUAL_HEAT_W = 2.0
# Fall of the sum of squares in a step that lets the Jacobian be used once more.
_FAST = 1e-4
# Where the air turns just as a joint changes from letting in to letting out, Newton's method
# hunts to and fro; a balance open by less than this is accepted after the second try.
_ACCEPTED = 5e-3
_FIRST_TRY, _SECOND_TRY, _SETTLING, _CREEPING = 12, 40, 150, 60
# Share of Newton's step that is taken on a kink.
_SHORT = 0.35
# More breath than this and no steady state is one bees live in [kg CO2/kg air].
_SUFFOCATING = 0.3


class NotBalancedError(CalvethError):
    """No steady state was found; carries the conditions for the log."""


LaneStatus = Literal["ok", "suffocates", "no rest"]
"""What became of a condition: balanced; no air for the bees; its air turns to and fro."""


def solve(
    terms: NestNetwork,
    bees: ColonyMoment,
    out: Outside,
    start: FloatArray | None = None,
    names: Sequence[str] = ("",),
) -> Balance:
    """Return the steady balance of a hive at N conditions, or of N hives at one condition each.

    ``start`` [10, N] is the state of a similar hive; ``names`` are those of the hives for the
    error, one or N; the rest is as in `solve_lanes`.

    Raises
    ------
    NotBalancedError
        When one of them has no steady state.
    """
    balance, status = solve_lanes(terms, bees, out, start)
    for wanted in ("suffocates", "no rest"):
        bad = np.flatnonzero(status == wanted)
        if bad.size:
            raise no_answer(wanted, names[bad[0] % len(names)], out.temperature_degc[bad[0]])
    return balance


def no_answer(status: str, name: str, outside_degc: float) -> NotBalancedError:
    """Return the error of a condition without a steady state."""
    if status == "suffocates":
        return NotBalancedError(
            f"design “{name}”: the bees would suffocate, hardly any air "
            "gets in; open an entrance or make it larger"
        )
    return NotBalancedError(
        f"design “{name}”: its air comes to no rest at {outside_degc:.1f} °C "
        "outside, it breathes in and out of the same openings by turns; make the largest "
        "entrance a tenth wider or narrower"
    )


def solve_lanes(
    terms: NestNetwork, bees: ColonyMoment, out: Outside, start: FloatArray | None = None
) -> tuple[Balance, NDArray[np.str_]]:
    """Return the steady balance of N lanes and the `LaneStatus` of each [N].

    A lane without an answer harms no other; its figures are those of the last try.
    ``start`` [10, N] is the state of a similar hive (the one before an edit); it only saves steps.

    Newton's method with a line search on the sum of squared, scaled balances; conditions that have
    closed leave the batch. Where Newton's method is caught (breath held back by its own CO2 can
    make the sum of squares dip without reaching zero), the hive is followed through time until it
    settles, as the real one does.
    """
    out, bees = _at_the_hive(terms, out), _bees_of(terms, bees)
    n = out.temperature_degc.size
    if start is None or start.shape != (UNKNOWNS, n) or not np.all(np.isfinite(start)):
        state = _first_guess(terms, bees, out)
    else:
        state = _level(terms, out, start)
    left = _newton(terms, bees, out, state, np.arange(state.shape[1]), _FIRST_TRY)
    if left.size:
        state[:, left] = _settle(terms.take(left), bees.take(left), out.take(left))
        left = _newton(terms, bees, out, state, left, _SECOND_TRY)
    if left.size:
        left = _creep(terms, bees, out, state, left)
        left = left[_worst(evaluate(terms, bees, out, state).residual)[left] > _ACCEPTED]
    status = np.full(n, "ok", dtype="<U10")
    status[left] = "no rest"
    status[np.max(state[CO2], axis=0) > _SUFFOCATING] = "suffocates"
    return evaluate(terms, bees, out, state), status


def _at_the_hive(terms: NestNetwork, out: Outside) -> Outside:
    """Return the conditions with the wind each hive gets of it."""
    return replace(out, wind_m_s=out.wind_m_s * terms.wind_factor)


def _bees_of(terms: NestNetwork, bees: ColonyMoment) -> ColonyMoment:
    """Return the bees as each hive's parameters have them."""
    return replace(
        bees,
        core_degc=bees.core_degc + terms.core_offset_k,
        cluster_conductance_w_k=bees.cluster_conductance_w_k * terms.cluster_factor,
        rest_heat_w=bees.rest_heat_w * terms.rest_factor,
        fanning_m3_s=bees.fanning_m3_s * terms.fanning_factor,
    )


def _newton(
    terms: NestNetwork,
    bees: ColonyMoment,
    out: Outside,
    state: FloatArray,
    cases: NDArray[np.int_],
    steps: int,
) -> NDArray[np.int_]:
    """Improve ``state`` [10, N] in place at ``cases``; return those that have not closed."""
    terms, bees, out = terms.take(cases), bees.take(cases), out.take(cases)
    now = evaluate(terms, bees, out, state[:, cases]).residual
    jacobian = np.zeros((cases.size, UNKNOWNS, UNKNOWNS))
    stale = np.ones(cases.size, dtype=bool)
    for _ in range(steps):
        still = ~(_worst(now) <= _CLOSED * _little(bees))
        if not np.all(still):
            kept = np.flatnonzero(still)
            cases, now = cases[kept], now[:, kept]
            if not cases.size:
                break
            terms, bees, out = terms.take(kept), bees.take(kept), out.take(kept)
            jacobian, stale = jacobian[kept], stale[kept]
        here = state[:, cases]
        if np.any(stale):
            # Each column costs an evaluation: only cases that close slowly get a new one.
            old = np.flatnonzero(stale)
            jacobian[old] = _jacobian(
                terms.take(old), bees.take(old), out.take(old), here[:, old], now[:, old]
            )
        before = _size(now)
        state[:, cases], now = _line_search(terms, bees, out, here, now, _step(jacobian, now))
        stale = _size(now) > _FAST * before
    return cases


def _creep(
    terms: NestNetwork,
    bees: ColonyMoment,
    out: Outside,
    state: FloatArray,
    cases: NDArray[np.int_],
) -> NDArray[np.int_]:
    """Improve ``state`` [10, N] in place by short steps; return the cases that have not closed.

    Where a joint turns from letting in to letting out, whole steps jump to and fro over the kink;
    a third of each comes to rest on it. The best state met is kept.
    """
    terms, bees, out = terms.take(cases), bees.take(cases), out.take(cases)
    here = state[:, cases]
    now = evaluate(terms, bees, out, here).residual
    best, size = here, _size(now)
    for _ in range(_CREEPING):
        step = _step(_jacobian(terms, bees, out, here, now), now)
        here = _level(terms, out, _admissible(here + _SHORT * step, out.pressure_pa))
        now = evaluate(terms, bees, out, here).residual
        better = _size(now) < size
        best = np.where(better, here, best)
        size = np.where(better, _size(now), size)
        if np.all(_worst(evaluate(terms, bees, out, best).residual) <= _CLOSED * _little(bees)):
            break
    state[:, cases] = best
    rest = _worst(evaluate(terms, bees, out, best).residual)
    return cases[~(rest <= _CLOSED * _little(bees))]


def _settle(terms: NestNetwork, bees: ColonyMoment, out: Outside) -> FloatArray:
    """Return the state [10, N] the hive drifts to in time, by linearised implicit Euler steps.

    Pseudo-transient continuation: each case has its own time step, longer as its balances close
    and shorter when they open, so that the hive is followed where it tips from one way of
    breathing to another.
    """
    state = _first_guess(terms, bees, out)
    volumes = np.array(FRACTIONS)[:, None] * terms.volume_m3[None, :]
    storage = np.concatenate(
        [
            volumes * 30e3,  # J/K: air with a little comb; it only steers the way to the end
            volumes / (c.GAS_CONSTANT_VAPOUR.value * 283.0),
            volumes * 1.2,
            np.zeros((1, volumes.shape[1])),
        ]
    )
    dt = np.full(out.temperature_degc.size, 60.0)
    now = evaluate(terms, bees, out, state).residual
    size = _size(now)
    for _ in range(_SETTLING):
        inertia = storage / dt[None, :]
        step = _step(_jacobian(terms, bees, out, state, now), now, inertia)
        # A step against what the balances push for has jumped over a tipping point: shorter.
        push = np.sum(now * inertia * step / _SCALE[:, None] ** 2, axis=0)
        keep = push > 0
        trial = _level(terms, out, _admissible(state + step * keep, out.pressure_pa))
        after = evaluate(terms, bees, out, trial).residual
        change = np.sqrt(size / _size(after))
        state, now, size = trial, after, _size(after)
        if np.all(size < 1e-6):
            break
        growth = np.where(keep, np.clip(1.3 * change, 0.3, 2.0), 0.25)
        dt = np.clip(dt * growth, 1.0, 1e9)
    return state


def _line_search(
    terms: NestNetwork,
    bees: ColonyMoment,
    out: Outside,
    state: FloatArray,
    residual: FloatArray,
    step: FloatArray,
) -> tuple[FloatArray, FloatArray]:
    """Return the new state and its residual [10, N]: the whole step, or the best of shorter ones.

    Where no length helps the shortest is taken, for the sum may have to climb over a kink such as
    the one where a surface starts to condense.
    """
    trial = _level(terms, out, _admissible(state + step, out.pressure_pa))
    after = evaluate(terms, bees, out, trial).residual
    before = _size(residual)
    worse = np.flatnonzero(_size(after) > before)
    if worse.size:
        lengths = np.array([0.5, 0.25, 0.1, 0.03])
        index = np.tile(worse, lengths.size)
        factor = np.repeat(lengths, worse.size)
        there = out.take(index)
        shorter = _admissible(state[:, index] + factor * step[:, index], out.pressure_pa)
        hives = terms.take(index)
        shorter = _level(hives, there, shorter)
        found = evaluate(hives, bees.take(index), there, shorter).residual
        best = np.argmin(_size(found).reshape(lengths.size, worse.size), axis=0)
        chosen = best * worse.size + np.arange(worse.size)
        trial[:, worse], after[:, worse] = shorter[:, chosen], found[:, chosen]
    return trial, after


def _little(bees: ColonyMoment) -> FloatArray:
    """Return how the heat of the bees at rest compares with the usual, 1 at most [N]."""
    return np.minimum(1.0, bees.rest_heat_w / _USUAL_HEAT_W)


def _worst(residual: FloatArray) -> FloatArray:
    """Return the largest scaled balance [N]."""
    largest: FloatArray = np.max(np.abs(residual) / _SCALE[:, None], axis=0)
    return largest


def _size(residual: FloatArray) -> FloatArray:
    """Return the sum of squared scaled balances [N]; infinite where a number failed."""
    total: FloatArray = np.sum((residual / _SCALE[:, None]) ** 2, axis=0)
    return np.where(np.isfinite(total), total, np.inf)


def _first_guess(terms: NestNetwork, bees: ColonyMoment, out: Outside) -> FloatArray:
    """Return a state [10, N] a few kelvin above the outside, with a little breath in it."""
    te = out.temperature_degc
    loss = np.sum(terms.zone_whole_w_k(np.full_like(te, c.RSE.value)), axis=0) + 0.15
    g = bees.cluster_conductance_w_k
    warm = np.clip((g * bees.core_degc + loss * te) / (g + loss), te + 1.0, te + 25.0)
    rise = warm - te
    state = np.empty((UNKNOWNS, te.size))
    state[TEMPERATURE] = te + rise * np.array([0.6, 1.0, 1.2])[:, None]
    state[VAPOUR] = out.vapour_pressure_pa + 150.0
    state[CO2] = 0.01
    state[FLOOR_PRESSURE] = 0.0
    return _level(terms, out, state)


def _level(terms: NestNetwork, out: Outside, state: FloatArray) -> FloatArray:
    """Return the state [10, N] with the floor pressure that closes the air balance exactly.

    Eliminating the stiffest unknown this way halves the number of Newton steps.
    """
    co2 = np.full_like(out.temperature_degc, c.CO2_OUTSIDE_MASS_FRACTION.value)
    outside = density_kg_m3(out.temperature_degc, out.vapour_pressure_pa, co2, out.pressure_pa)
    inside = density_kg_m3(state[TEMPERATURE], state[VAPOUR], state[CO2], out.pressure_pa)
    state = state.copy()
    state[FLOOR_PRESSURE] = balanced_pressure_pa(
        terms.paths, outside, inside, out.wind_m_s, state[FLOOR_PRESSURE]
    )
    return state


def _admissible(state: FloatArray, pressure_pa: float) -> FloatArray:
    """Return the state kept where the formulas have a meaning; the solution lies well inside."""
    state = state.copy()
    state[TEMPERATURE] = np.clip(state[TEMPERATURE], -75.0, 95.0)
    state[VAPOUR] = np.clip(state[VAPOUR], 0.1, 0.5 * pressure_pa)
    state[CO2] = np.clip(state[CO2], 1e-5, 0.5)
    return state


def _jacobian(
    terms: NestNetwork, bees: ColonyMoment, out: Outside, state: FloatArray, residual: FloatArray
) -> FloatArray:
    """Return the scaled Jacobian [N, 10, 10]; all columns of all cases in one evaluation."""
    n = state.shape[1]
    wide = np.repeat(state[:, None, :], UNKNOWNS, axis=1)
    wide[np.arange(UNKNOWNS), np.arange(UNKNOWNS)] += _DELTA[:, None]
    index = np.tile(np.arange(n), UNKNOWNS)
    shifted = evaluate(
        terms.take(index), bees.take(index), out.take(index), wide.reshape(UNKNOWNS, UNKNOWNS * n)
    ).residual.reshape(UNKNOWNS, UNKNOWNS, n)
    jacobian = (shifted - residual[:, None, :]) / _DELTA[None, :, None]
    scaled: FloatArray = np.moveaxis(
        jacobian / _SCALE[:, None, None] * _LARGEST[None, :, None], 2, 0
    )
    return scaled


def _step(
    jacobian: FloatArray, residual: FloatArray, inertia: FloatArray | None = None
) -> FloatArray:
    """Return the Newton step [10, N], shortened where one unknown would move too far.

    ``inertia`` [10, N] is storage over time step; it turns the step into an implicit Euler step.
    """
    if inertia is not None:
        jacobian = jacobian.copy()
        diagonal = np.arange(UNKNOWNS)
        jacobian[:, diagonal, diagonal] -= (inertia * (_LARGEST / _SCALE)[:, None]).T
    right = np.moveaxis(residual / _SCALE[:, None], 1, 0)[:, :, None]
    solution = np.linalg.solve(jacobian, -right)[:, :, 0]
    step = np.moveaxis(solution, 0, 1) * _LARGEST[:, None]
    shrink = np.min(_LARGEST[:, None] / np.maximum(np.abs(step), 1e-300), axis=0)
    limited: FloatArray = step * np.minimum(1.0, shrink)
    return limited
