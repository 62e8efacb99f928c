"""Hives built of boards and blocks: boxes in a row or a stack, troughs, little boxes."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

from calveth.core.hive.design import Design
from calveth.core.hive.forms import (
    BarTrough,
    BoxForm,
    LittleBoxes,
    StackedBoxes,
    colony_from_m,
)
from calveth.core.hive.opening import WALL_SIDES
from calveth.core.hive.openings_cut import (
    cuts_of,
    holes_of,
    in_wall,
    linings,
    panes,
    part_at,
    window_frame,
)
from calveth.core.hive.parts import HiveSolids, PartId, Solid, inner_part, inset_timber
from calveth.core.hive.plates import (
    RING_SIDES,
    lid_or_floor,
    piece,
    plate_reach_m,
    ring_of_boards,
    wall_rise_m,
)
from calveth.core.hive.shapes import Bend, Cuboid

# Boards and timbers as the trade has them [m]; common practice, no source.
FOLLOWER_M = 0.019
_SLAT_HIGH_M, _SLAT_SHARE = 0.01, 0.6
_BATTEN_M, _LEG_M, _LEG_HIGH_M = 0.03, 0.045, 0.25
_COMB_M = 0.025


def build_boxes(design: Design, form: BoxForm) -> HiveSolids:
    """Return the solids of a hive built of boards."""
    width, length = form.spans_m
    height = form.height_m
    room = ((0.0, width), (0.0, length))
    shell = Cuboid(x0=0.0, x1=width, y0=0.0, y1=length, z0=0.0, z1=height)
    solids = _walls(design, form)
    solids += lid_or_floor(design, "lid", height, room)
    solids += lid_or_floor(design, "floor", 0.0, room)
    solids += panes(design)
    cavity, beyond, follower = _rooms(design, form, shell)
    inset = [*_posts(design, form), *_battens(design, form), *window_frame(design)]
    inset += [*linings(design), *follower, *_plates(design, form), *_rack(design, form)]
    inset += _legs(design, form)
    return HiveSolids(
        solids=tuple(solids), cuts=cuts_of(design), cavity=cavity, frames=_frames(form),
        shell=shell, beyond=beyond, bend=bend_of(design, form), inset=tuple(inset),
        holes=holes_of(design),
    )  # fmt: skip


def bend_of(design: Design, form: BoxForm) -> Bend | None:
    """Return what makes the hive of its box, None where it is one."""
    width, height = form.spans_m[1], form.height_m
    section = form.section if isinstance(form, BarTrough) else ((width, 0.0), (width, height))
    if design.lid_slope_deg == 0 and len({w for w, _ in section}) == 1:
        return None
    return Bend(
        middle_m=width / 2,
        half_m=width / 2,
        knots=tuple((w / 2, z) for w, z in section),
        lid=design.lid_shape,
        lid_slope_deg=design.lid_slope_deg,
    )


def _walls(design: Design, form: BoxForm) -> list[Solid]:
    """Return the walls of every box, and what of them rises beside lid and floor."""
    width, length = form.spans_m
    room = ((0.0, width), (0.0, length))
    levels = (0.0, *form.levels_m, form.height_m)
    reach = {face: plate_reach_m(design, face) for face in ("lid", "floor")}
    rise = {face: wall_rise_m(design, face) for face in ("lid", "floor")}
    found: list[Solid] = []
    out = design.shell.thickness_m("walls")
    for index, layer in enumerate(design.shell.walls):
        inner = out - layer.thickness_m
        for z0, z1 in pairwise(levels):
            part = part_at((z0 + z1) / 2, form)
            low = z0 - (rise["floor"] if z0 == 0 and inner >= reach["floor"] - 1e-9 else 0.0)
            top = z1 == form.height_m and inner >= reach["lid"] - 1e-9
            high = z1 + (rise["lid"] if top else 0.0)
            found += [
                piece(part, layer, shape, "walls", index, side)
                for side, shape in zip(
                    RING_SIDES, ring_of_boards(room, inner, out, low, high), strict=True
                )
            ]
        for face, z0, z1 in (
            ("lid", form.height_m, form.height_m + rise["lid"]), ("floor", -rise["floor"], 0.0),
        ):  # fmt: skip
            # A layer that the edge of the inner board cuts in two rises with its outer half.
            if inner < reach[face] - 1e-9 and out > reach[face] + 1e-9 and z1 > z0:
                part = part_at(z1 if face == "floor" else z0 - 1e-6, form)
                found += [
                    piece(part, layer, shape, "walls", index, side)
                    for side, shape in zip(
                        RING_SIDES, ring_of_boards(room, reach[face], out, z0, z1), strict=True
                    )
                ]
        out = inner
    return found


def _rooms(
    design: Design, form: BoxForm, shell: Cuboid
) -> tuple[Cuboid, tuple[Cuboid, ...], list[Solid]]:
    """Return the colony's room, what is behind its boards, and the boards."""
    low = colony_from_m(form)
    high = low + form.colony_width_m
    if high >= shell.x1 - 1e-9:
        return shell, (), []
    second = isinstance(form, StackedBoxes | BarTrough) and form.beyond == "second colony"
    timber = inset_timber(design.shell.walls, design.joinery.timber)
    board_id = PartId(role="divider" if second else "follower board")
    end = min(high + FOLLOWER_M, shell.x1)
    boards, rooms = [replace(shell, x0=high, x1=end)], [replace(shell, x0=end)]
    if low > 0:
        boards.append(replace(shell, x0=low - FOLLOWER_M, x1=low))
        rooms.append(replace(shell, x1=low - FOLLOWER_M))
    return (
        replace(shell, x0=low, x1=high), tuple(rooms),
        [Solid(id=board_id, material=timber, shape=board) for board in boards],
    )  # fmt: skip


def _frames(form: BoxForm) -> tuple[Cuboid, ...]:
    """Return the frames or combs in use."""
    if isinstance(form, LittleBoxes):
        return ()
    if isinstance(form, BarTrough):
        near, (_, length) = form.comb_clearance_m, form.spans_m
        return tuple(
            Cuboid(
                x0=colony_from_m(form) + (i + 0.5) * form.bar_width_m - _COMB_M / 2,
                x1=colony_from_m(form) + (i + 0.5) * form.bar_width_m + _COMB_M / 2,
                y0=near,
                y1=length - near,
                z0=form.frames_from_m,
                z1=form.height_m,
            )
            for i in range(form.frames_in_use or form.bar_count)
        )
    length = form.spans_m[1]
    return tuple(
        Cuboid(
            x0=x - form.frame_thickness_m / 2,
            x1=x + form.frame_thickness_m / 2,
            y0=form.end_clearance_m,
            y1=length - form.end_clearance_m,
            z0=form.frames_from_m + box * form.box_height_m,
            z1=form.frames_from_m + box * form.box_height_m + form.frame_height_m,
        )
        for box in range(form.box_count)
        for x in (
            colony_from_m(form) + form.side_clearance_m + (i + 0.5) * form.frame_pitch_m
            for i in range(form.frames_in_use or form.frame_count)
        )
    )


def _plates(design: Design, form: BoxForm) -> list[Solid]:
    """Return the plates between little boxes, with the way of the bees at the back."""
    if not isinstance(form, LittleBoxes):
        return []
    width, length = form.spans_m
    timber = inset_timber(design.shell.walls, design.joinery.timber)
    return [
        Solid(
            id=PartId(role="divider plate", number=number),
            material=timber,
            shape=Cuboid(
                x0=0.0, x1=width, y0=0.0, y1=length - form.plate_gap_m, z0=level - form.plate_m,
                z1=level,
            ),
        )
        for number, level in enumerate(form.levels_m, start=1)
    ]  # fmt: skip


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
            material=timber,
            shape=Cuboid(
                x0=first + (i + 0.5) * form.frame_pitch_m - wide / 2,
                x1=first + (i + 0.5) * form.frame_pitch_m + wide / 2,
                y0=0.0, y1=form.spans_m[1], z0=top - high, z1=top,
            ),
        )
        for i in range(form.frames_in_use or form.frame_count)
    ]  # fmt: skip


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
            id=PartId(role="corner posts"),
            material=timber,
            shape=Cuboid(x0=x[0], x1=x[1], y0=y[0], y1=y[1], z0=0.0, z1=form.height_m),
        )
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
            id=PartId(role="battens"),
            side=side,
            material=timber,
            shape=in_wall(design, side, _BATTEN_M, (0.0, form.height_m), core, at),
        )
        for side in WALL_SIDES
        for at in (0.2, 0.8)
    ]


def _legs(design: Design, form: BoxForm) -> list[Solid]:
    """Return four legs under the corners of the room."""
    if design.joinery.stand != "legs":
        return []
    width, length = form.spans_m
    low = -design.shell.thickness_m("floor")
    side = min(_LEG_M, width / 3, length / 3)
    timber = inset_timber(design.shell.walls, design.joinery.timber)
    return [
        Solid(
            id=PartId(role="legs"),
            material=timber,
            shape=Cuboid(x0=x, x1=x + side, y0=y, y1=y + side, z0=low - _LEG_HIGH_M, z1=low),
        )
        for x in (0.0, width - side)
        for y in (0.0, length - side)
    ]
