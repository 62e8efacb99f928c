"""The walls, floors and lids of a design that are laid of blocks, of those at hand first."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial
from itertools import pairwise

from calveth.core import constants_building as cb
from calveth.core.errors import DomainError
from calveth.core.hive.design import Design, Face
from calveth.core.hive.forms import HiveForm
from calveth.core.hive.joinery import BLOCK_LEAST_M
from calveth.core.materials import Material
from calveth.core.solids.openings_cut import part_at
from calveth.core.solids.parts import PartId
from calveth.core.workshop.courses import (
    JOINT_M,
    Course,
    LaidBlock,
    Run,
    course_heights_m,
    course_of,
    glue_m3,
    run_joints,
    sawn,
    split_run,
)
from calveth.core.workshop.stock import StockItem, Workshop, at_hand, items_for


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
    own : int
        So many of the blocks are at hand.
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
    own: int = 0

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
    if not form.of_boards:
        return ()
    walls = []
    left = at_hand(workshop)
    out = design.shell.thickness_m("walls")
    for index, layer in enumerate(design.shell.walls):
        inner = out - layer.thickness_m
        material = materials[layer.material]
        if material.bought_as == "block" and layer.thickness_m >= BLOCK_LEAST_M:
            fits = _blocks_for(material, layer.thickness_m, workshop)
            for part, height in _bodies(form):
                lay = partial(_wall, design, material, workshop, part, index, (inner, out), height)
                walls.append(_own_first(fits, lay, left))
        out = inner
    return (*walls, *_floors(design, materials, workshop, left))


def _own_first(
    fits: Sequence[StockItem], lay: Callable[[StockItem], BlockWall], left: dict[StockItem, int]
) -> BlockWall:
    """Return a wall of blocks one has where they do or more can be bought; takes them off."""
    for block in sorted(fits, key=lambda i: not left.get(i, 0)):
        wall = lay(block)
        own = min(left.get(block, 0), wall.blocks)
        if block.more or own == wall.blocks:
            left[block] = left.get(block, 0) - own
            return replace(wall, own=own)
    raise DomainError(
        "blocks at hand",
        max(left.get(i, 0) for i in fits),
        "do not reach for the wall; have more, or let more of them be bought",
    )


def _floors(
    design: Design,
    materials: Mapping[str, Material],
    workshop: Workshop,
    left: dict[StockItem, int],
) -> list[BlockWall]:
    """Return a floor or lid of blocks laid flat, row beside row."""
    walls = []
    wall = design.shell.thickness_m("walls")
    width, length = design.form.spans_m
    outer = (width + 2 * wall, length + 2 * wall)
    faces: tuple[Face, ...] = ("floor", "lid")
    for face in faces:
        for index, layer in enumerate(design.shell.stack(face)):
            material = materials[layer.material]
            if material.bought_as != "block" or layer.thickness_m < BLOCK_LEAST_M:
                continue
            fits = _blocks_for(material, layer.thickness_m, workshop)
            part = PartId(role="floor" if face == "floor" else "lid")
            lay = partial(_flat, design, material, workshop, part, index, outer)
            walls.append(_own_first(fits, lay, left))
    return walls


def _flat(
    design: Design,
    material: Material,
    workshop: Workshop,
    part: PartId,
    layer: int,
    outer: tuple[float, float],
    block: StockItem,
) -> BlockWall:
    """Return a plate of blocks: rows along the longer side, joints of the next row shifted."""
    long, wide = max(outer), min(outer)
    joint = JOINT_M[design.joinery.blocks]
    thick = design.shell.stack("floor" if part.role == "floor" else "lid")[layer].thickness_m
    rows: list[Course] = []
    y = 0.0
    for high in course_heights_m(wide, block.width_m, joint):
        # No joint above a joint: the row below says where they may not be.
        under = run_joints(rows[-1].runs[0], long) if rows else []
        lengths = split_run(long, joint, block.length_m, 0.0, under)
        at, blocks = 0.0, []
        for size in lengths:
            blocks.append(LaidBlock(at, size))
            at += size + joint
        run = Run(side="front", start_m=0.0, blocks=tuple(blocks))
        gaps = [abs(a - b) for a in run_joints(run, long) for b in under]
        rows.append(Course(z_m=y, height_m=high, runs=(run,), overlap_m=min(gaps, default=None)))
        y += high + joint
    count, cut = sawn(rows, block, thick, workshop)
    ends = sum((len(r.runs[0].blocks) - 1) * r.height_m for r in rows)
    joints = (ends + (len(rows) - 1) * long) * thick
    spare = cb.GLUE_SPARE.value
    glue = spare * joints * joint
    return BlockWall(
        part=part,
        layer=layer,
        material=material.id,
        block=block,
        outer_m=(long, wide),
        height_m=thick,
        joint_m=joint,
        courses=tuple(rows),
        blocks=count,
        cut_m2=cut,
        dust_g=1000 * cut * workshop.block_kerf_m * material.density_kg_m3,
        glue_l=1000 * glue,
        glue_kg=glue * cb.GLUE_DENSITY.value,
        bond_ok=True,
        flat=True,
        glued_l=1000 * spare * joints * cb.GLUE_JOINT.value,
    )


def _blocks_for(
    material: Material, thickness_m: float, workshop: Workshop
) -> tuple[StockItem, ...]:
    fits = items_for(workshop, "block", material.id, material.group, thickness_m)
    if not fits:
        raise DomainError(
            "stock",
            f"{1000 * thickness_m:.0f} mm",
            f"blocks of {material.name} are not in the stock list; add one of this thickness",
        )
    return fits


def _bodies(form: HiveForm) -> list[tuple[PartId, float]]:
    """Return what is laid as one wall, with its height: each box, the floor's rim in the first."""
    levels = (0.0, *form.levels_m, form.height_m)
    return [(part_at((a + b) / 2 + 1e-9, form), b - a) for a, b in pairwise(levels)]


def _wall(
    design: Design,
    material: Material,
    workshop: Workshop,
    part: PartId,
    layer: int,
    reach: tuple[float, float],
    height_m: float,
    block: StockItem,
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
        courses.append(course_of(number, z, high, outer, thick, joint, block.length_m, below))
        z += high + joint
    blocks, cut = sawn(courses, block, thick, workshop)
    spare = cb.GLUE_SPARE.value
    glue = spare * glue_m3(courses, outer, thick, joint)
    least = [
        c.overlap_m >= max(cb.BOND_SHARE.value * c.height_m, cb.LEAST_BOND.value) - 1e-9
        for c in courses
        if c.overlap_m is not None
    ]
    return BlockWall(
        part=part,
        layer=layer,
        material=material.id,
        block=block,
        outer_m=outer,
        height_m=height_m,
        joint_m=joint,
        courses=tuple(courses),
        blocks=blocks,
        cut_m2=cut,
        dust_g=1000 * cut * workshop.block_kerf_m * material.density_kg_m3,
        glue_l=1000 * glue,
        glue_kg=glue * cb.GLUE_DENSITY.value,
        bond_ok=all(least),
        glued_l=1000 * spare * glue_m3(courses, outer, thick, cb.GLUE_JOINT.value),
    )
