"""What stands in the shell or under it: posts, battens, rack, plates, the stand, a quilt box."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from calveth.core.hive.design import Design
from calveth.core.hive.forms import BoxForm, LittleBoxes, StackedBoxes, colony_from_m
from calveth.core.hive.opening import WALL_SIDES
from calveth.core.solids.openings_cut import in_wall, part_at, wall_joints_m
from calveth.core.solids.parts import BOARD_M, PartId, Solid, inner_part, inset_timber
from calveth.core.solids.plates import RING_SIDES, ring_of_boards
from calveth.core.solids.shapes import Cuboid, SectionMap

# Where along a wall its battens stand [-].
_BATTENS_AT = (0.2, 0.8)

# Timbers as the trade has them [m]; common practice, no source.
_SLAT_HIGH_M, _SLAT_SHARE = 0.01, 0.6
_BATTEN_M, _LEG_M = 0.03, 0.045
_QUILT_SIDE_M = 0.019
_NEST_BAR_M = 0.006


def fittings_of(design: Design, form: BoxForm, bend: SectionMap | None) -> list[Solid]:
    """Return posts, battens, plates, bars under the nest, rack and stand."""
    return [
        *_posts(design, form),
        *_battens(design, form),
        *_plates(design, form),
        *_nest_bars(design, form),
        *_rack(design, form),
        *_stand(design, form, bend),
    ]


def _plates(design: Design, form: BoxForm) -> list[Solid]:
    """Return the plates between little boxes, with the way of the bees at the back."""
    if not isinstance(form, LittleBoxes):
        return []
    width, length = form.spans_m
    timber = inset_timber(design.shell.walls, design.joinery.timber)
    return [
        Solid(
            id=PartId(role="divider plate", number=number),
            home=PartId(role="box", number=number),
            material=timber,
            shape=Cuboid(
                x0=0.0,
                x1=width,
                y0=0.0,
                y1=length - form.plate_gap_m,
                z0=level - form.plate_m,
                z1=level,
            ),
        )
        for number, level in enumerate(form.levels_m, start=1)
    ]


def _core(design: Design) -> tuple[float, float] | None:
    """Return from where to where the walls are filled between their boards, from inside [m]."""
    walls = design.shell.walls
    count, near = inner_part(walls)
    if count == 0:
        return None
    far = design.shell.thickness_m("walls")
    return near, far - (walls[0].thickness_m if len(walls) > count + 1 else 0.0)


def _rack(design: Design, form: BoxForm) -> list[Solid]:
    """Return the slats of a slatted rack: one under every frame, across the way of the air."""
    if not isinstance(form, StackedBoxes) or form.rack_m == 0:
        return []
    timber = inset_timber(design.shell.walls, design.joinery.timber)
    top = form.frames_from_m
    first = colony_from_m(form) + form.side_clearance_m
    high, wide = min(_SLAT_HIGH_M, form.rack_m), _SLAT_SHARE * form.frame_pitch_m
    return [
        Solid(
            id=PartId(role="slatted rack"),
            home=PartId(role="floor"),
            material=timber,
            shape=Cuboid(
                x0=first + (i + 0.5) * form.frame_pitch_m - wide / 2,
                x1=first + (i + 0.5) * form.frame_pitch_m + wide / 2,
                y0=0.0,
                y1=form.spans_m[1],
                z0=top - high,
                z1=top,
            ),
        )
        for i in range(form.frames_in_use or form.frame_count)
    ]


def _upright(design: Design, form: BoxForm) -> list[tuple[PartId, float, float]]:
    """Return what posts and battens stand in, from where to where: a cover, or each box [m]."""
    if design.shell.walls[0].fitting == "cover":
        return [(PartId(role="cover"), 0.0, form.height_m)]
    levels = (0.0, *wall_joints_m(form), form.height_m)
    return [(part_at((a + b) / 2, form), a, b) for a, b in pairwise(levels)]


def _posts(design: Design, form: BoxForm) -> list[Solid]:
    """Return the corner posts: in all between the inner board and the outermost layer."""
    core = _core(design)
    if design.joinery.corner != "posts" or core is None:
        return []
    near, far = core
    width, length = form.spans_m
    timber = inset_timber(design.shell.walls, design.joinery.timber)
    return [
        Solid(
            id=PartId(role="corner posts", number=home.number),
            home=home,
            material=timber,
            shape=Cuboid(x0=x[0], x1=x[1], y0=y[0], y1=y[1], z0=z0, z1=z1),
        )
        for home, z0, z1 in _upright(design, form)
        for x in ((-far, -near), (width + near, width + far))
        for y in ((-far, -near), (length + near, length + far))
    ]


def _battens(design: Design, form: BoxForm) -> list[Solid]:
    """Return the timber battens that hold the outer layers, two in each wall."""
    core = _core(design)
    if design.joinery.fixing != "timber spacers" or core is None:
        return []
    timber = inset_timber(design.shell.walls, design.joinery.timber)
    return [
        Solid(
            id=PartId(role="battens", number=home.number),
            home=home,
            side=side,
            material=timber,
            shape=in_wall(design, side, _BATTEN_M, (z0, z1), core, at),
        )
        for home, z0, z1 in _upright(design, form)
        for side in WALL_SIDES
        for at in _BATTENS_AT
    ]


def _nest_bars(design: Design, form: BoxForm) -> list[Solid]:
    """Return the two bars in the foot of each upper little box, which carry its nest."""
    if not isinstance(form, LittleBoxes) or not form.nest_bars:
        return []
    width, length = form.spans_m
    side = min(_NEST_BAR_M, width / 8, form.box_height_m / 4)
    timber = inset_timber(design.shell.walls, design.joinery.timber)
    return [
        Solid(
            id=PartId(role="nest bars", number=number),
            home=PartId(role="box", number=number),
            material=timber,
            shape=Cuboid(x0=x - side / 2, x1=x + side / 2, y0=0.0, y1=length, z0=z, z1=z + side),
        )
        for number, z in enumerate(form.levels_m, start=2)
        for x in (width / 3, 2 * width / 3)
    ]


def _stand(design: Design, form: BoxForm, bend: SectionMap | None) -> list[Solid]:
    """Return the stand: two bearers, four legs under their ends, and two rails on the ground.

    Bearers run from left to right under front and back, rails from front to back under the legs;
    both go past the body by the spread, at its widest. Under a hive that is bent the timbers are
    square all the same: they are laid out where they stand and brought back into the box.
    """
    joinery = design.joinery
    if joinery.stand != "legs":
        return []
    (width, length), wall = form.spans_m, design.shell.thickness_m("walls")
    top = -design.shell.thickness_m("floor")
    foot_m = 2 * bend.knots[0][0] if bend is not None else length
    front, back = (length - foot_m) / 2, (length + foot_m) / 2
    wide = min(_LEG_M, width / 3, foot_m / 3)
    high, out = min(wide, joinery.leg_high_m / 3), wall + joinery.leg_spread_m
    foot = top - joinery.leg_high_m
    deep = ((front, front + wide), (back - wide, back))
    across = ((-out, -out + wide), (width + out - wide, width + out))
    legs = [Cuboid(x0=-out, x1=width + out, y0=y0, y1=y1, z0=top - high, z1=top) for y0, y1 in deep]
    legs += [
        Cuboid(x0=x0, x1=x1, y0=y0, y1=y1, z0=foot + high, z1=top - high)
        for x0, x1 in across
        for y0, y1 in deep
    ]
    legs += [
        Cuboid(x0=x0, x1=x1, y0=-out, y1=length + out, z0=foot, z1=foot + high) for x0, x1 in across
    ]
    timber = inset_timber(design.shell.walls, joinery.timber)
    if bend is not None:
        legs = [replace(s, y0=bend.flat_m(s.y0), y1=bend.flat_m(s.y1)) for s in legs]
    return [Solid(id=PartId(role="legs"), material=timber, shape=shape) for shape in legs]


def quilt_rim(solids: Sequence[Solid], design: Design) -> list[Solid]:
    """Return the four sides of the box a quilt lies in, round its layers in the lid.

    Loose shavings need sides; they stand in the outer edge of the layers.
    """
    deep = [
        s.shape
        for s in solids
        if s.role == "quilt" and isinstance(s.shape, Cuboid) and s.shape.z1 - s.shape.z0 >= BOARD_M
    ]
    if not deep:
        return []
    one = deep[0]
    side = min(_QUILT_SIDE_M, (one.x1 - one.x0) / 6, (one.y1 - one.y0) / 6)
    room = ((one.x0 + side, one.x1 - side), (one.y0 + side, one.y1 - side))
    z0, z1 = min(s.z0 for s in deep), max(s.z1 for s in deep)
    timber = inset_timber(design.shell.walls, design.joinery.timber)
    return [
        Solid(
            id=PartId(role="quilt sides"),
            home=PartId(role="quilt"),
            side=at,
            material=timber,
            shape=shape,
        )
        for at, shape in zip(RING_SIDES, ring_of_boards(room, 0.0, side, z0, z1), strict=True)
    ]
