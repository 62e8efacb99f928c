"""Walls of blocks: courses, bond, the saw's cuts, what glues them, and the dust.

Corners interlock: in one course front and back run through, in the next the sides do. What is
left of the height is one ripped course at the foot, or two that share it where it would be too
low to saw.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise
from math import ceil, floor

from calveth.core import constants_building as cb
from calveth.core.build.bars import Bar, cut_bars
from calveth.core.build.stock import StockItem, Workshop, items_for
from calveth.core.errors import DomainError
from calveth.core.hive.design import Design, Face
from calveth.core.hive.forms import BoxForm, HollowTree
from calveth.core.hive.joinery import BLOCK_LEAST_M, BlockJoint
from calveth.core.hive.opening import WallSide
from calveth.core.hive.openings_cut import part_at
from calveth.core.hive.parts import PartId
from calveth.core.materials import Material

_STEP_M = 0.01
JOINT_M: dict[BlockJoint, float] = {
    "none": cb.GLUE_JOINT.value, "dry-laid": 0.0, "mortar": cb.MORTAR_JOINT.value,
    "thin glue": cb.GLUE_JOINT.value,
}  # fmt: skip
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


@dataclass(frozen=True, slots=True, kw_only=True)
class BlockWall:
    """The walls of one part in blocks.

    Attributes
    ----------
    part : PartId
        The part.
    layer : int
        Which layer of the walls.
    block : StockItem
        The block they are cut from.
    outer_m : tuple of 2 float
        Width and length of the wall outside [m].
    joint_m : float
        Height of the joints [m].
    blocks : int
        Blocks to buy.
    cut_m2 : float
        Area sawn [m²].
    dust_g : float
        What the saw turns to dust [g].
    glue_l, glue_kg : float
        What is in the joints, a tenth spare [L], [kg].
    glued_l : float
        What they would take as a thin bed, were they glued [L].
    bond_ok : bool
        Whether joints overlap enough everywhere.
    flat : bool
        A floor of blocks laid flat: its courses lie side by side.
    """

    part: PartId
    layer: int
    material: str
    block: StockItem
    outer_m: tuple[float, float]
    height_m: float
    joint_m: float
    courses: tuple[Course, ...]
    blocks: int
    cut_m2: float
    dust_g: float
    glue_l: float
    glue_kg: float
    bond_ok: bool
    glued_l: float
    flat: bool = False

    @property
    def one_course(self) -> bool:
        """Whether corners do not interlock: they want screws or glue."""
        return len(self.courses) == 1 and not self.flat


def block_walls(
    design: Design, materials: Mapping[str, Material], workshop: Workshop
) -> tuple[BlockWall, ...]:
    """Return the walls that are laid of blocks; the floor's rim is laid with the lowest box.

    Raises
    ------
    DomainError
        When no block is in the stock list for the wall's thickness.
    """
    form = design.form
    if isinstance(form, HollowTree):
        return ()
    found = []
    out = design.shell.thickness_m("walls")
    for index, layer in enumerate(design.shell.walls):
        inner = out - layer.thickness_m
        material = materials[layer.material]
        if material.bought_as == "block" and layer.thickness_m >= BLOCK_LEAST_M:
            block = _block_for(material, layer.thickness_m, workshop)
            for part, height in _bodies(form):
                found.append(
                    _wall(design, material, block, workshop, part, index, (inner, out), height)
                )
        out = inner
    return (*found, *_floors(design, materials, workshop))


def _floors(
    design: Design, materials: Mapping[str, Material], workshop: Workshop
) -> list[BlockWall]:
    """Return a floor or lid of blocks laid flat, row beside row."""
    found = []
    wall = design.shell.thickness_m("walls")
    width, length = design.form.spans_m
    outer = (width + 2 * wall, length + 2 * wall)
    faces: tuple[Face, ...] = ("floor", "lid")
    for face in faces:
        for index, layer in enumerate(design.shell.stack(face)):
            material = materials[layer.material]
            if material.bought_as != "block" or layer.thickness_m < BLOCK_LEAST_M:
                continue
            block = _block_for(material, layer.thickness_m, workshop)
            part = PartId(role="floor" if face == "floor" else "lid")
            found.append(_flat(design, material, block, workshop, part, index, outer))
    return found


def _flat(
    design: Design, material: Material, block: StockItem, workshop: Workshop, part: PartId,
    layer: int, outer: tuple[float, float],
) -> BlockWall:  # fmt: skip
    """Return a plate of blocks: rows along the longer side, joints of the next row shifted."""
    long, wide = max(outer), min(outer)
    joint = JOINT_M[design.joinery.blocks]
    thick = design.shell.stack("floor" if part.role == "floor" else "lid")[layer].thickness_m
    rows: list[Course] = []
    y = 0.0
    for high in course_heights_m(wide, block.width_m, joint):
        under = _run_joints(rows[-1].runs[0], long) if rows else []
        lengths = _split(long, joint, block.length_m, 0.0, under)
        at, blocks = 0.0, []
        for size in lengths:
            blocks.append(LaidBlock(at, size))
            at += size + joint
        run = Run(side="front", start_m=0.0, blocks=tuple(blocks))
        gaps = [abs(a - b) for a in _run_joints(run, long) for b in under]
        rows.append(Course(z_m=y, height_m=high, runs=(run,), overlap_m=min(gaps, default=None)))
        y += high + joint
    count, cut = _sawn(rows, block, thick, workshop)
    ends = sum((len(r.runs[0].blocks) - 1) * r.height_m for r in rows)
    joints = (ends + (len(rows) - 1) * long) * thick
    spare = cb.GLUE_SPARE.value
    glue = spare * joints * joint
    return BlockWall(
        part=part, layer=layer, material=material.id, block=block, outer_m=(long, wide),
        height_m=thick, joint_m=joint, courses=tuple(rows), blocks=count, cut_m2=cut,
        dust_g=1000 * cut * workshop.block_kerf_m * material.density_kg_m3, glue_l=1000 * glue,
        glue_kg=glue * cb.GLUE_DENSITY.value, bond_ok=True, flat=True,
        glued_l=1000 * spare * joints * cb.GLUE_JOINT.value,
    )  # fmt: skip


def _block_for(material: Material, thickness_m: float, workshop: Workshop) -> StockItem:
    fits = items_for(workshop, "block", material.id, material.group, thickness_m)
    if not fits:
        raise DomainError(
            "stock", f"{1000 * thickness_m:.0f} mm",
            f"blocks of {material.name} are not in the stock list; add one of this thickness",
        )  # fmt: skip
    return fits[0]


def _bodies(form: BoxForm) -> list[tuple[PartId, float]]:
    """Return what is laid as one wall, with its height: each box, the floor's rim in the first."""
    levels = (0.0, *form.levels_m, form.height_m)
    return [(part_at((a + b) / 2 + 1e-9, form), b - a) for a, b in pairwise(levels)]


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


def _wall(
    design: Design,
    material: Material,
    block: StockItem,
    workshop: Workshop,
    part: PartId,
    layer: int,
    reach: tuple[float, float],
    height_m: float,
) -> BlockWall:
    """Return one wall: its courses, the blocks to buy, cuts, dust and glue."""
    inner, out = reach
    thick = out - inner
    width, length = design.form.spans_m
    outer = (width + 2 * out, length + 2 * out)
    joint = JOINT_M[design.joinery.blocks]
    courses: list[Course] = []
    z = 0.0
    for number, high in enumerate(course_heights_m(height_m, block.width_m, joint)):
        below = courses[-1] if courses else None
        courses.append(_course(number, z, high, outer, thick, joint, block.length_m, below))
        z += high + joint
    blocks, cut = _sawn(courses, block, thick, workshop)
    spare = cb.GLUE_SPARE.value
    glue = spare * _glue_m3(courses, outer, thick, joint)
    least = [
        c.overlap_m >= max(cb.BOND_SHARE.value * c.height_m, cb.LEAST_BOND.value) - 1e-9
        for c in courses
        if c.overlap_m is not None
    ]
    return BlockWall(
        part=part, layer=layer, material=material.id, block=block, outer_m=outer,
        height_m=height_m, joint_m=joint, courses=tuple(courses), blocks=blocks, cut_m2=cut,
        dust_g=1000 * cut * workshop.block_kerf_m * material.density_kg_m3,
        glue_l=1000 * glue, glue_kg=glue * cb.GLUE_DENSITY.value, bond_ok=all(least),
        glued_l=1000 * spare * _glue_m3(courses, outer, thick, cb.GLUE_JOINT.value),
    )  # fmt: skip


def _course(
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
        lengths = _split(long, joint, longest, start, under)
        at, blocks = start, []
        for size in lengths:
            blocks.append(LaidBlock(at, size))
            at += size + joint
        run = Run(side=side, start_m=start, blocks=tuple(blocks))
        runs.append(run)
        if below is not None:
            overlaps += [abs(a - b) for a in _run_joints(run, span) for b in under]
    least = min(overlaps) if overlaps else None
    if below is not None and least is None:
        least = thick
    return Course(z_m=z, height_m=high, runs=tuple(runs), overlap_m=least)


def _run_joints(run: Run, span: float) -> list[float]:
    """Return where the joints of a run are along its wall [m], those at its ends too."""
    found = [b.start_m for b in run.blocks[1:]]
    if run.start_m > 0:
        found = [run.start_m, *found, span - run.start_m]
    return found


def _joints_of(course: Course | None, side: WallSide) -> list[float]:
    if course is None:
        return []
    run = next(r for r in course.runs if r.side == side)
    last = run.blocks[-1]
    return _run_joints(run, last.start_m + last.length_m + run.start_m)


def _split(
    long: float, joint: float, longest: float, start: float, under: list[float]
) -> list[float]:
    """Return the lengths a run is laid of: few, none too short, joints far from those below."""
    if long <= longest + 1e-9:
        return [long]
    count = ceil((long + joint) / (longest + joint) - 1e-9)
    short = cb.LEAST_BLOCK.value
    best: tuple[float, float, list[float]] | None = None
    for more in (0, 1):
        whole = count + more - 2
        first = short
        while first <= longest + 1e-9:
            last = long - first - whole * longest - (whole + 1) * joint
            if short - 1e-9 <= last <= longest + 1e-9:
                sizes = [first, *[longest] * whole, last]
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


def _sawn(
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
        whole = abs(high - block.width_m) < 1e-6
        needed = ceil(len(plan.bars) / lanes)
        count += needed
        if not whole:
            area += len(plan.bars) * block.length_m * thick
    return count, area


def _glue_m3(
    courses: list[Course], outer: tuple[float, float], thick: float, joint: float
) -> float:
    """Return what fills all joints [m³]: beds between courses, ends of blocks, corners."""
    ring = 2 * thick * (outer[0] + outer[1] - 2 * thick)
    beds = (len(courses) - 1) * ring * joint
    heads = sum(
        (sum(len(r.blocks) - 1 for r in c.runs) + 4) * c.height_m * thick * joint for c in courses
    )
    return beds + heads
