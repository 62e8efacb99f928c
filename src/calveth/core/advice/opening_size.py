"""Which opening meets a target: the size at which air, CO2 or dew margin comes out as wanted."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from calveth.core.assess.cases import readings_in_month
from calveth.core.assess.readings import LID_MIDDLE, LID_RIM, NestReadings
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import HiveCase
from calveth.core.errors import DomainError
from calveth.core.hive.by_month import in_month
from calveth.core.hive.design import Design
from calveth.core.hive.opening import Opening
from calveth.core.hive.zones import NEST
from calveth.core.units import litres_per_hour

# What does not fit is tried this much smaller.
_SMALLER = 0.95

Goal = Literal["fresh air", "CO2 in the nest", "lid middle above dew", "lid rim above dew"]

_SMALLEST_M = 0.003
# A hole or a gap is tried up to this size; slots and screens as far as the wall goes [m].
_LARGEST_M, _LARGEST_WIDTH_M = 0.15, 4.0
_GRID, _CUTS = 17, 9
# No drill or saw is finer [m].
_STEP_M = 1e-4
# How often the shell of the size found is solved.
_SHELLS = 3
# A step of the size that changes the figure by more is a jump: the air of the hive tips there.
_JUMP: dict[Goal, float] = {
    "fresh air": 10.0,
    "CO2 in the nest": 0.002,
    "lid middle above dew": 0.3,
    "lid rim above dew": 0.3,
}


@dataclass(frozen=True, slots=True, kw_only=True)
class TargetAnswer:
    """The size that meets a target.

    Attributes
    ----------
    size_m : float or None
        Diameter of a hole, width of a slot, to a tenth of a millimetre [m]; None when no size
        reaches the target.
    reached : float
        The figure at that size, or the one nearest to the target.
    jumps_from : float or None
        The figure a tenth of a millimetre before, where it jumps: the air of the hive tips there.
    at_smallest, at_largest : float
        The figure at the smallest and the largest size that was tried.
    smallest_m, largest_m : float
        These sizes [m].
    """

    goal: Goal
    target: float
    size_m: float | None
    reached: float
    at_smallest: float
    at_largest: float
    smallest_m: float
    largest_m: float
    jumps_from: float | None = None


def goal_value(readings: NestReadings, goal: Goal) -> float:
    """Return the figure of a goal: L/h, share by volume, or K."""
    if goal == "fresh air":
        return litres_per_hour(float(readings.exchange_m3_s[0]))
    if goal == "CO2 in the nest":
        return float(readings.co2_volume_share[NEST, 0])
    at = LID_MIDDLE if goal == "lid middle above dew" else LID_RIM
    return float(readings.margin_k[at, 0])


def resized(opening: Opening, size_m: float) -> Opening:
    """Return an opening of another diameter (hole) or width (slot, gap, screen)."""
    if opening.round:
        return replace(opening, width_m=size_m, height_m=size_m)
    if opening.shape == "lid gap":
        return replace(opening, height_m=size_m)
    return replace(opening, width_m=size_m)


def size_for_target(
    case: HiveCase, opening_id: str, goal: Goal, target: float, month: int
) -> TargetAnswer:
    """Return the smallest size of an opening at which a goal is met in a month (0 to 11).

    Seventeen sizes between the smallest and the largest that fit are balanced in one batch, and
    the interval in which the target is first met is cut finer down to a tenth of a millimetre. An
    opening is a hole in the shell too: where that is solved, the search is repeated with the shell
    of the size found, and what is said to be reached is the figure of that very hive.

    Raises
    ------
    DomainError
        When the design has no such opening, or it is shut in that month.
    """
    now = in_month(case.design, month)
    opening = next((o for o in now.openings if o.id == opening_id), None)
    if opening is None:
        raise DomainError("opening", opening_id, "is not in the design; choose another")
    if opening.open_share == 0:
        raise DomainError(
            f"opening “{opening.name}”", "shut", "in this month; open its slider first"
        )
    answer = _search(case.of(now), opening, goal, target, month)
    if not case.shells(now).solved:
        return answer
    for _ in range(_SHELLS):
        if answer.size_m is None:
            return answer
        very = solved_case(case.of(_with_size(now, opening, answer.size_m)), spots=False)[0]
        reached = goal_value(readings_in_month([very], month)[0], goal)
        again = _search(replace(very, design=now), opening, goal, target, month)
        size = replace(answer, reached=reached, jumps_from=again.jumps_from)
        if again.size_m is None or abs(again.size_m - answer.size_m) < 0.5 * _STEP_M:
            return size
        answer = again
    return size


def _search(
    case: HiveCase, opening: Opening, goal: Goal, target: float, month: int
) -> TargetAnswer:
    """Return the size with the shell of the case, whatever the opening takes from it."""
    ends = _SMALLEST_M, _largest(case.design, opening)
    sizes = np.unique(np.round(np.geomspace(*ends, _GRID) / _STEP_M - 1e-6)) * _STEP_M
    values = _values(case, opening, sizes, goal, month)
    answer = TargetAnswer(
        goal=goal,
        target=target,
        size_m=None,
        reached=float(values[np.argmin(np.abs(values - target))]),
        at_smallest=float(values[0]),
        at_largest=float(values[-1]),
        smallest_m=float(sizes[0]),
        largest_m=float(sizes[-1]),
    )
    while True:
        met = np.flatnonzero((values[:-1] < target) != (values[1:] < target))
        if met.size == 0:
            return answer
        k = int(met[0])
        low, high = (round(float(size) / _STEP_M) for size in sizes[k : k + 2])
        if high - low <= 1:
            break
        sizes = np.unique(np.round(np.linspace(low, high, min(_CUTS, high - low + 1)))) * _STEP_M
        values = _values(case, opening, sizes, goal, month)
    before, after = float(values[k]), float(values[k + 1])
    return replace(
        answer,
        size_m=high * _STEP_M,
        reached=after,
        jumps_from=before if abs(after - before) > _JUMP[goal] else None,
    )


def _with_size(design: Design, opening: Opening, size_m: float) -> Design:
    return replace(
        design,
        openings=tuple(resized(o, size_m) if o.id == opening.id else o for o in design.openings),
    )


def _values(
    case: HiveCase, opening: Opening, sizes: np.ndarray, goal: Goal, month: int
) -> np.ndarray:
    tried = [case.of(_with_size(case.design, opening, float(size))) for size in sizes]
    return np.array([goal_value(m, goal) for m in readings_in_month(tried, month)])


def _largest(design: Design, opening: Opening) -> float:
    """Return the largest size that still fits, found by trying."""
    wide = opening.shape in ("slot", "screen")
    size = _LARGEST_WIDTH_M if wide else _LARGEST_M
    while size > 2 * _SMALLEST_M:
        try:
            _with_size(design, opening, size)
        except DomainError:
            size *= _SMALLER
        else:
            return size
    return size
