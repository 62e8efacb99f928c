"""Lid and floor: plates laid on or into the walls as their joint says, with skirts."""

from __future__ import annotations

from calveth.core.hive.design import Design, Face
from calveth.core.hive.opening import WallSide
from calveth.core.materials import Layer
from calveth.core.solids.parts import PartId, Solid, inner_part
from calveth.core.solids.shapes import Cuboid

Span = tuple[float, float]


def plate_reach_m(design: Design, face: Face) -> float:
    """Return how far over the wall the inner board of lid or floor lies [m]."""
    wall = design.shell.thickness_m("walls")
    _, inner = inner_part(design.shell.walls)
    joint = design.joinery.lid if face == "lid" else design.joinery.floor
    if joint in ("insulation meets", "walls past the floor"):
        return inner
    return wall / 2 if joint == "rebate" else wall


def wall_rise_m(design: Design, face: Face) -> float:
    """Return how far walls go past the inner face of lid or floor, outside of its reach [m]."""
    if design.joinery.floor == "walls past the floor" and face == "floor":
        return design.shell.thickness_m("floor")
    reach = plate_reach_m(design, face)
    if reach >= design.shell.thickness_m("walls"):
        return 0.0
    return inner_part(design.shell.stack(face))[1]


def plate_solids(design: Design, face: Face, inner_z: float, x: Span, y: Span) -> list[Solid]:
    """Return the plates of lid or floor over an outline [m]; layer 0 is outermost."""
    solids = []
    distance = 0.0
    stack = design.shell.stack(face)
    # From the room outwards: the inner face is where it is, whatever lies behind it.
    for index in range(len(stack) - 1, -1, -1):
        thickness = stack[index].thickness_m
        z0, z1 = _levels(face, inner_z, distance, distance + thickness)
        distance += thickness
        shape = Cuboid(x0=x[0], x1=x[1], y0=y[0], y1=y[1], z0=z0, z1=z1)
        part = PartId(role="lid" if face == "lid" else "floor")
        solids.append(piece(part, stack[index], shape, face, index))
    return solids


def lid_part(design: Design, index: int) -> PartId:
    """Return what a layer of the lid is lifted with: the lid, a quilt, a cover or its own lid.

    A cover over the boxes and its top are one part where the inner lid lies inside of it; where
    the inner lid lies on the cover's walls the top comes off first, by itself.
    """
    layer = design.shell.lid[index]
    if layer.fitting == "quilt":
        return PartId(role="quilt")
    if layer.fitting == "fixed":
        return PartId(role="lid")
    cover = sum(y.thickness_m for y in design.shell.walls if y.fitting == "cover")
    inside = design.shell.thickness_m("walls") - cover
    joined = cover > 0 and (
        plate_reach_m(design, "lid") <= inside + 1e-9
        or all(y.fitting == "cover" for y in design.shell.lid)
    )
    return PartId(role="cover" if joined else "cover lid")


def piece(
    part: PartId,
    layer: Layer,
    shape: Cuboid,
    face: Face,
    index: int,
    side: WallSide | None = None,
) -> Solid:
    """Return the solid of a layer."""
    return Solid(
        id=part,
        material=layer.material,
        shape=shape,
        face=face,
        layer=index,
        side=side,
        second=layer.mixed_with,
        second_share=layer.mixed_share,
    )


def lid_or_floor(
    design: Design, face: Face, inner_z: float, room: tuple[Span, Span]
) -> list[Solid]:
    """Return lid or floor as its joint lays it: inner board, the rest over it, skirts.

    ``room`` gives the spans of the shell's room along x and y [m].
    """
    stack = design.shell.stack(face)
    inner, _ = inner_part(stack)
    wall, reach = design.shell.thickness_m("walls"), plate_reach_m(design, face)
    past = design.joinery.floor == "walls past the floor" and face == "floor"
    solids: list[Solid] = []
    distance, grown = 0.0, 0.0
    for index in range(len(stack) - 1, -1, -1):
        layer = stack[index]
        part = lid_part(design, index) if face == "lid" else PartId(role="floor")
        is_inner = index >= len(stack) - inner
        z0, z1 = _levels(face, inner_z, distance, distance + layer.thickness_m)
        skirt = face == "lid" and _has_skirt(design, index, is_inner=is_inner)
        # What lies over the inner board covers the walls, and skirts that hang down inside it.
        over = reach if is_inner or past else wall + grown
        if skirt:
            solids += _skirt(design, index, (inner_z, z0), wall + grown, room)
            grown += layer.thickness_m
            over = wall + grown
        shape = Cuboid(
            x0=room[0][0] - over,
            x1=room[0][1] + over,
            y0=room[1][0] - over,
            y1=room[1][1] + over,
            z0=z0,
            z1=z1,
        )
        solids.append(piece(part, layer, shape, face, index))
        distance += layer.thickness_m
    return solids


def _has_skirt(design: Design, index: int, *, is_inner: bool) -> bool:
    joint = design.joinery.lid
    if joint == "insulation past the rim":
        return not is_inner
    return joint == "telescoping rim" and index == 0


def _skirt(
    design: Design, index: int, levels: tuple[float, float], inside: float, room: tuple[Span, Span]
) -> list[Solid]:
    """Return what of a lid layer comes down outside the walls, up to the plate of the layer."""
    layer = design.shell.lid[index]
    low = levels[0] - design.joinery.overlap_m
    boards = ring_of_boards(room, inside, inside + layer.thickness_m, low, levels[1])
    return [
        piece(lid_part(design, index), layer, shape, "lid", index, side)
        for side, shape in zip(RING_SIDES, boards, strict=True)
    ]


RING_SIDES: tuple[WallSide, ...] = ("front", "back", "left", "right")
"""The walls of `ring_of_boards` in their order."""


def ring_of_boards(
    room: tuple[Span, Span], inner: float, out: float, z0: float, z1: float
) -> list[Cuboid]:
    """Return front, back (full width), left and right boards of one layer around a room [m]."""
    (x0, x1), (y0, y1) = room
    return [
        Cuboid(x0=x0 - out, x1=x1 + out, y0=y0 - out, y1=y0 - inner, z0=z0, z1=z1),
        Cuboid(x0=x0 - out, x1=x1 + out, y0=y1 + inner, y1=y1 + out, z0=z0, z1=z1),
        Cuboid(x0=x0 - out, x1=x0 - inner, y0=y0 - inner, y1=y1 + inner, z0=z0, z1=z1),
        Cuboid(x0=x1 + inner, x1=x1 + out, y0=y0 - inner, y1=y1 + inner, z0=z0, z1=z1),
    ]


def _levels(face: Face, inner_z: float, near: float, far: float) -> Span:
    return (inner_z + near, inner_z + far) if face == "lid" else (inner_z - far, inner_z - near)
