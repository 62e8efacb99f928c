"""Hives built of boards and blocks: boxes in a row or a stack, troughs, little boxes."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from math import floor

from calveth.core.hive.design import Design
from calveth.core.hive.forms import BoxForm, colony_from_m, has_neighbour
from calveth.core.solids.insets import fittings_of, quilt_rim
from calveth.core.solids.openings_cut import (
    cuts_of,
    holes_of,
    linings,
    panes,
    part_at,
    wall_joints_m,
    window_frame,
)
from calveth.core.solids.parts import HiveSolids, PartId, Solid, inset_timber
from calveth.core.solids.plates import (
    RING_SIDES,
    lid_or_floor,
    piece,
    plate_reach_m,
    ring_of_boards,
    wall_rise_m,
)
from calveth.core.solids.shapes import Cuboid, SectionMap

# Boards and timbers as the trade has them [m]; common practice, no source.
FOLLOWER_M = 0.019
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
    inset = [
        *fittings_of(design, form, bend_of(design, form)),
        *window_frame(design),
        *linings(design),
        *follower,
    ]
    inset += quilt_rim(solids, design)
    return HiveSolids(
        solids=tuple(solids),
        cuts=cuts_of(design),
        cavity=cavity,
        frames=_frames(form),
        shell=shell,
        beyond=beyond,
        bend=bend_of(design, form),
        inset=tuple(inset),
        holes=holes_of(design),
        neighbours=neighbour_frames(form),
    )


def bend_of(design: Design, form: BoxForm) -> SectionMap | None:
    """Return what makes the hive of its box, None where it is one."""
    width = form.spans_m[1]
    section = form.section
    if design.lid_slope_deg == 0 and len({w for w, _ in section}) == 1:
        return None
    # The slope of a lid is in the topmost box: those below stay square.
    top = form.levels_m[-1] if form.levels_m and design.lid_slope_deg > 0 else 0.0
    if top > 0:
        section = (section[0], (width, top), section[-1])
    return SectionMap(
        middle_m=width / 2,
        half_m=width / 2,
        knots=tuple((w / 2, z) for w, z in section),
        lid=design.lid_shape,
        lid_slope_deg=design.lid_slope_deg,
        lift_from_m=top,
    )


def _walls(design: Design, form: BoxForm) -> list[Solid]:
    """Return the walls of every box, and what of them rises beside lid and floor.

    The floor owns the strips round the space under the frames, so that two boxes are the same box;
    a cover slips over all boxes and is not cut where they meet.
    """
    width, length = form.spans_m
    room = ((0.0, width), (0.0, length))
    joints = wall_joints_m(form)
    reach = {face: plate_reach_m(design, face) for face in ("lid", "floor")}
    rise = {face: wall_rise_m(design, face) for face in ("lid", "floor")}
    solids: list[Solid] = []
    out = design.shell.thickness_m("walls")
    for index, layer in enumerate(design.shell.walls):
        inner = out - layer.thickness_m
        cover = layer.fitting == "cover"
        levels = (0.0, *(() if cover else joints), form.height_m)
        for z0, z1 in pairwise(levels):
            part = PartId(role="cover") if cover else part_at((z0 + z1) / 2, form)
            low = z0 - (rise["floor"] if z0 == 0 and inner >= reach["floor"] - 1e-9 else 0.0)
            top = z1 == form.height_m and inner >= reach["lid"] - 1e-9
            high = z1 + (rise["lid"] if top else 0.0)
            for owner, a, b in _owned(design, form, part, (low, z0, z1, high)):
                solids += [
                    piece(owner, layer, shape, "walls", index, side)
                    for side, shape in zip(
                        RING_SIDES, ring_of_boards(room, inner, out, a, b), strict=True
                    )
                ]
        for face, z0, z1 in (
            ("lid", form.height_m, form.height_m + rise["lid"]),
            ("floor", -rise["floor"], 0.0),
        ):
            # A layer that the edge of the inner board cuts in two rises with its outer half.
            if inner < reach[face] - 1e-9 and out > reach[face] + 1e-9 and z1 > z0:
                part = part_at(z1 if face == "floor" else z0 - 1e-6, form)
                if cover:
                    part = PartId(role="cover")
                elif part.role == "box" and form.levels_m:
                    part = PartId(role="lid" if face == "lid" else "floor")
                solids += [
                    piece(part, layer, shape, "walls", index, side)
                    for side, shape in zip(
                        RING_SIDES, ring_of_boards(room, reach[face], out, z0, z1), strict=True
                    )
                ]
        out = inner
    return solids


def _owned(
    design: Design, form: BoxForm, part: PartId, levels: tuple[float, float, float, float]
) -> list[tuple[PartId, float, float]]:
    """Return what of a ring of boards belongs to which part, from where to where [m].

    What rises beside lid or floor belongs to it where boxes are to be swapped; a single box, a
    trough and a cover keep it.
    """
    low, z0, z1, high = levels
    if part.role != "box" or not form.levels_m:
        return [(part, low, high)]
    past = design.joinery.floor == "walls past the floor"
    shares = [(part, low if past else z0, z1)]
    if low < z0 - 1e-9 and not past:
        shares.append((PartId(role="floor"), low, z0))
    if high > z1 + 1e-9:
        shares.append((PartId(role="lid"), z1, high))
    return shares


def _rooms(
    design: Design, form: BoxForm, shell: Cuboid
) -> tuple[Cuboid, tuple[Cuboid, ...], list[Solid]]:
    """Return the colony's room, what is behind its boards, and the boards."""
    low = colony_from_m(form)
    high = low + form.colony_width_m
    if high >= shell.x1 - 1e-9:
        return shell, (), []
    second = has_neighbour(form)
    timber = inset_timber(design.shell.walls, design.joinery.timber)
    board_id = PartId(role="divider" if second else "follower board")
    end = min(high + FOLLOWER_M, shell.x1)
    boards, rooms = [replace(shell, x0=high, x1=end)], [replace(shell, x0=end)]
    if low > 0:
        boards.append(replace(shell, x0=low - FOLLOWER_M, x1=low))
        rooms.append(replace(shell, x1=low - FOLLOWER_M))
    return (
        replace(shell, x0=low, x1=high),
        tuple(rooms),
        [Solid(id=board_id, material=timber, shape=board) for board in boards],
    )


def _frames(form: BoxForm) -> tuple[Cuboid, ...]:
    """Return the frames or combs in use."""
    return _hung(form, colony_from_m(form), form.frames_in_use or form.comb_count)


def neighbour_frames(form: BoxForm) -> tuple[Cuboid, ...]:
    """Return the frames of a second colony behind the divider, as many as fit its room."""
    if not has_neighbour(form):
        return ()
    begin = form.colony_width_m + FOLLOWER_M
    room = form.spans_m[0] - begin - 2 * form.beside_combs_m
    return _hung(form, begin, max(0, floor(room / form.comb_pitch_m + 1e-9)))


def _hung(form: BoxForm, begin: float, count: int) -> tuple[Cuboid, ...]:
    """Return so many frames or combs from a place along the hive [m]."""
    return tuple(
        Cuboid(x0=c.x0, x1=c.x1, y0=c.y0, y1=c.y1, z0=c.z0, z1=c.z1)
        for c in form.combs(begin, count)
    )
