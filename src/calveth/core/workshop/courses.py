"""Walls of blocks: courses, bond, the saw's cuts, what glues them, and the dust.

Corners interlock: in one course front and back run through, in the next the sides do. What is
left of the height is one ripped course at the foot, or two that share it where it would be too
low to saw.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, floor

from calveth.core import constants_building as cb
from calveth.core.hive.joinery import BlockJoint
from calveth.core.hive.opening import WallSide
from calveth.core.workshop.bars import Bar, cut_bars
from calveth.core.workshop.stock import StockItem, Workshop

_STEP_M = 0.01
JOINT_M: dict[BlockJoint, float] = {
    "none": cb.GLUE_JOINT.value,
    "dry-laid": 0.0,
    "mortar": cb.MORTAR_JOINT.value,
    "thin glue": cb.GLUE_JOINT.value,
}
"""Height of a joint; where a design says nothing lies between blocks they are glued [m]."""


@dataclass(frozen=True, slots=True)
class LaidBlock:
    """A block in a run: from where along the wall, and how long [m]."""

    start_m: float
    length_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """The blocks of one side in a course, from the outer left or front corner of the wall."""

    side: WallSide
    start_m: float
    blocks: tuple[LaidBlock, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Course:
    """One course: from which height above the foot, how high, its runs, and its least overlap."""

    z_m: float
    height_m: float
    runs: tuple[Run, ...]
    overlap_m: float | None


_SAME_HEIGHT_M = 0.001
"""What the joints of a wall take up [m]."""


def course_heights_m(height_m: float, block_m: float, joint_m: float) -> list[float]:
    """Return the heights of courses from the foot up; whole ones but for a ripped one or two.

    >>> [round(h, 3) for h in course_heights_m(0.508, 0.215, 0.002)]
    [0.074, 0.215, 0.215]
    >>> course_heights_m(0.450, 0.215, 0.010)
    [0.1075, 0.1075, 0.215]
    """
    count = floor((height_m + joint_m) / (block_m + joint_m) + 1e-9)
    rest = height_m - count * (block_m + joint_m)
    # Whole courses end a joint below the next: only then they are as high as the wall.
    if rest + joint_m <= _SAME_HEIGHT_M and count:
        return [block_m] * count
    if count == 0:
        return [height_m]
    if rest >= cb.LEAST_RIP.value - 1e-9:
        return [rest, *[block_m] * count]
    shared = (height_m - (count - 1) * (block_m + joint_m) - joint_m) / 2
    return [shared, shared, *[block_m] * (count - 1)]


def course_of(
    number: int,
    z: float,
    high: float,
    outer: tuple[float, float],
    thick: float,
    joint: float,
    longest: float,
    below: Course | None,
) -> Course:
    """Return a course; in even ones front and back run through the corners."""
    through = ("front", "back") if number % 2 == 0 else ("left", "right")
    runs, overlaps = [], []
    sides: tuple[WallSide, ...] = ("front", "back", "left", "right")
    for side in sides:
        span = outer[0] if side in ("front", "back") else outer[1]
        start = 0.0 if side in through else thick + joint
        long = span - 2 * start
        under = _joints_of(below, side)
        lengths = split_run(long, joint, longest, start, under)
        at, blocks = start, []
        for size in lengths:
            blocks.append(LaidBlock(at, size))
            at += size + joint
        run = Run(side=side, start_m=start, blocks=tuple(blocks))
        runs.append(run)
        if below is not None:
            overlaps += [abs(a - b) for a in run_joints(run, span) for b in under]
    least = min(overlaps) if overlaps else None
    if below is not None and least is None:
        least = thick
    return Course(z_m=z, height_m=high, runs=tuple(runs), overlap_m=least)


def run_joints(run: Run, span: float) -> list[float]:
    """Return where the joints of a run are along its wall [m], those at its ends too."""
    edges = [b.start_m for b in run.blocks[1:]]
    if run.start_m > 0:
        edges = [run.start_m, *edges, span - run.start_m]
    return edges


def _joints_of(course: Course | None, side: WallSide) -> list[float]:
    if course is None:
        return []
    run = next(r for r in course.runs if r.side == side)
    last = run.blocks[-1]
    return run_joints(run, last.start_m + last.length_m + run.start_m)


def split_run(
    long: float, joint: float, longest: float, start: float, under: list[float]
) -> list[float]:
    """Return the lengths a run is laid of: few, none too short, joints far from those below."""
    if long <= longest + 1e-9:
        return [long]
    count = ceil((long + joint) / (longest + joint) - 1e-9)
    short = cb.LEAST_BLOCK.value
    best: tuple[float, float, list[float]] | None = None
    for more in (0, 1):
        total = count + more - 2
        first = short
        while first <= longest + 1e-9:
            last = long - first - total * longest - (total + 1) * joint
            if short - 1e-9 <= last <= longest + 1e-9:
                sizes = [first, *[longest] * total, last]
                at, gaps = start, []
                for size in sizes[:-1]:
                    at += size + joint
                    gaps += [abs(at - u) for u in under]
                score = (round(min(gaps), 4) if gaps else 1.0, min(first, last), sizes)
                if best is None or score[:2] > best[:2]:
                    best = score
            first += _STEP_M
        if best is not None:
            return best[2]
    return [long / count - joint * (count - 1) / count] * count


def sawn(
    courses: list[Course], block: StockItem, thick: float, workshop: Workshop
) -> tuple[int, float]:
    """Return the blocks needed, and the area sawn [m²]; ripped courses come several of a block."""
    kerf, count, area = workshop.block_kerf_m, 0, 0.0
    for high in sorted({round(c.height_m, 6) for c in courses}, reverse=True):
        lengths = [
            b.length_m
            for c in courses
            if round(c.height_m, 6) == high
            for r in c.runs
            for b in r.blocks
        ]
        plan = cut_bars(lengths, [Bar(block.length_m, 1.0)], kerf, 0.0)
        crosscuts = sum(len(b.pieces) - (1 if b.left_m <= kerf + 1e-9 else 0) for b in plan.bars)
        area += crosscuts * high * thick
        lanes = max(1, floor((block.width_m + kerf) / (high + kerf) + 1e-9))
        fits = abs(high - block.width_m) < 1e-6
        needed = ceil(len(plan.bars) / lanes)
        count += needed
        if not fits:
            area += len(plan.bars) * block.length_m * thick
    return count, area


def glue_m3(courses: list[Course], outer: tuple[float, float], thick: float, joint: float) -> float:
    """Return what fills all joints [m³]: beds between courses, ends of blocks, corners."""
    ring = 2 * thick * (outer[0] + outer[1] - 2 * thick)
    beds = (len(courses) - 1) * ring * joint
    heads = sum(
        (sum(len(r.blocks) - 1 for r in c.runs) + 4) * c.height_m * thick * joint for c in courses
    )
    return beds + heads
