"""From solids to pieces: sizes, holes, joints; and what is bought by litre or area instead.

The solids are the one description of the hive. A piece is what is sawn of one of them: parted
where posts and battens stand in it, its holes as they are drilled, its length as the corner joint
has it. Before joints, pieces fill the same volume as solids (a test holds it).
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np

from calveth.core.constants_building import FOLLOWER_PLAY, PANE_PLAY
from calveth.core.hive.design import FACES, Design
from calveth.core.materials import Material
from calveth.core.message import Message, message
from calveth.core.solids.outlines import corners_of, signed_area
from calveth.core.solids.parts import BOARD_M, HiveSolids, PartId, Solid
from calveth.core.solids.quantities import overlap_m3
from calveth.core.solids.shapes import Cuboid, SectionMap, bounds, volume_m3
from calveth.core.workshop.cutouts import cutouts_of, ways_of
from calveth.core.workshop.edge_work import (
    bevels,
    corner_joint,
    detail_work,
    frame_rest,
    places_of,
)
from calveth.core.workshop.piece import SAME_M, Piece, Place, Point, bounding
from calveth.core.workshop.planes import Plane, plane_of, split_by

CUT = ("board", "sheet", "block", "cast")
"""Ways a material is bought in that are cut to sizes."""
_GROUPED = ("entrance block", "window frame")
_IN_THE_ROOM = ("divider plate", "nest bars", "slatted rack", "follower board", "divider", "legs")


def pieces_of(
    design: Design, hive: HiveSolids, materials: Mapping[str, Material]
) -> tuple[Piece, ...]:
    """Return every piece that is cut, from the floor up; none for a trunk."""
    places = layer_places(design, materials)
    pieces: list[Piece] = []
    for solid in (*hive.solids, *merged_blocks(design, hive.inset)):
        material = materials[solid.material]
        if material.bought_as not in CUT or not isinstance(solid.shape, Cuboid):
            continue
        place: Place = "fitting"
        if solid.face is not None and solid.layer is not None:
            place = places[solid.face][solid.layer]
        pieces += _of_solid(design, hive, solid, material, place)
    order = {key: k for k, key in enumerate(_ORDER)}
    return tuple(sorted(pieces, key=lambda p: (order.get(p.part.role, len(order)), p.part.number)))


_ORDER = (
    "legs",
    "floor",
    "slatted rack",
    "trough",
    "trunk",
    "box",
    "follower board",
    "divider",
    "eke",
    "lid",
    "quilt",
    "cover",
    "cover lid",
)


def layer_places(design: Design, materials: Mapping[str, Material]) -> dict[str, list[Place]]:
    """Return the place of every layer of each face: whole, outer, middle, inner."""
    by_layer: dict[str, list[Place]] = {}
    for face in FACES:
        stack = design.shell.stack(face)
        boards = [
            y.thickness_m >= BOARD_M and materials[y.material].bought_as in CUT for y in stack
        ]
        by_layer[face] = places_of(boards)  # type: ignore[assignment]
    return by_layer


def merged_blocks(design: Design, inset: Iterable[Solid]) -> list[Solid]:
    """Return the insets with the timber round a hole as the one block it is drilled through."""
    return _merged(inset, lambda solid: is_drilled(design, solid))


def _merged(inset: Iterable[Solid], together: Callable[[Solid], bool]) -> list[Solid]:
    """Return solids, those of one id that belong together as the one block round them."""
    kept: list[Solid] = []
    groups: dict[PartId, list[Solid]] = {}
    for solid in inset:
        if together(solid):
            groups.setdefault(solid.id, []).append(solid)
        else:
            kept.append(solid)
    for group in groups.values():
        shapes = [s.shape for s in group if isinstance(s.shape, Cuboid)]
        kept.append(replace(group[0], shape=bounding(shapes)))
    return kept


def is_drilled(design: Design, solid: Solid) -> bool:
    """Return whether an inset is one block with the way of an opening drilled or sawn through."""
    if solid.role != "entrance block":
        return False
    round_ones = {o.name for o in design.openings if o.round}
    return design.joinery.entrance == "solid block" or solid.id.opening in round_ones


def _of_solid(
    design: Design, hive: HiveSolids, solid: Solid, material: Material, place: Place
) -> list[Piece]:
    """Return the boards one solid becomes."""
    box = solid.shape
    assert isinstance(box, Cuboid)
    if solid.role == "legs" and hive.bend is not None:
        # The stand is square under a hive that is not.
        real = replace(solid, shape=bounds(box, hive.bend))
        pieces = _of_solid(design, replace(hive, bend=None), real, material, place)
        return [replace(piece, shape=box) for piece in pieces]
    thickness = None
    if solid.face is not None and solid.layer is not None:
        thickness = design.shell.stack(solid.face)[solid.layer].thickness_m
    plane = plane_of(solid, thickness, in_wall=is_drilled(design, solid))
    standing = [
        s.shape
        for s in merged_insets(hive.inset)
        if solid.face is not None and isinstance(s.shape, Cuboid)
    ]
    made_of = []
    for part in _unbent(box, plane, hive.bend):
        for board, recesses in split_by(part, standing, plane):
            made_of.append(_piece(design, hive, solid, material, place, plane, board, recesses))
    return made_of


def merged_insets(inset: Iterable[Solid]) -> list[Solid]:
    """Return what stands in the shell, the four pieces of a frame as one block."""
    shell = (s for s in inset if s.role not in _IN_THE_ROOM)
    return _merged(shell, lambda solid: solid.role in _GROUPED)


def _unbent(box: Cuboid, plane: Plane, bend: SectionMap | None) -> list[Cuboid]:
    """Return the flat boards a wall or lid of a bent hive is built of."""
    if bend is None or plane.w == "x":
        return [box]
    if plane.w == "y":
        turns = [z for z in _real_turns(bend) if box.z0 + 1e-9 < z < box.z1 - 1e-9]
        return [replace(box, z0=a, z1=b) for a, b in pairwise((box.z0, *turns, box.z1))]
    pitched = bend.lid == "pitched" and bend.lid_slope_deg > 0 and bend.lifted(box.z0) > 0
    if pitched and box.y0 < bend.middle_m - 1e-9 and box.y1 > bend.middle_m + 1e-9:
        return [replace(box, y1=bend.middle_m), replace(box, y0=bend.middle_m)]
    return [box]


def _real_turns(bend: SectionMap) -> list[float]:
    """Return the heights where a side leans otherwise than below; not where it only may [m]."""
    turns = []
    for (w0, z0), (w1, z1), (w2, z2) in zip(
        bend.knots, bend.knots[1:], bend.knots[2:], strict=False
    ):
        if abs((w1 - w0) * (z2 - z1) - (w2 - w1) * (z1 - z0)) > 1e-12:
            turns.append(z1)
    return turns


def _piece(
    design: Design,
    hive: HiveSolids,
    solid: Solid,
    material: Material,
    place: Place,
    plane: Plane,
    board: Cuboid,
    recesses: tuple[Cuboid, ...],
) -> Piece:
    """Return one board with its sizes, holes and work."""
    bend = hive.bend
    length, width, outline = _sizes(board, plane, bend)
    thickness = plane.size(board, plane.w)
    corner = corner_joint(
        design, solid, material, place, _at_corners(solid, board, plane, outline, bend)
    )
    adds = corner.adds_m
    less = _play(solid, material)
    standing = merged_blocks(design, hive.inset) if solid.face is not None else []
    inset = sum(overlap_m3(board, s.shape, bend) for s in standing)
    cutouts, hole = cutouts_of(
        ways_of(design),
        board,
        plane,
        recesses,
        bend,
        drilled=solid.id.opening if solid.role == "entrance block" else None,
        through=solid.face is not None,
        blocks=[s.shape for s in standing if is_drilled(design, s) and isinstance(s.shape, Cuboid)],
    )
    # Places along a board are measured from the end that is sawn.
    cutouts = tuple(replace(c, u_m=c.u_m + corner.before_m) for c in cutouts)
    net = volume_m3(board, bend)
    work: tuple[Message, ...] = (
        *corner.work,
        *bevels(bend, board, plane),
        *frame_rest(design, solid, place, thickness),
        *detail_work(design, solid, place, material, thickness),
    )
    if bend is not None and bend.lid == "domed" and solid.face == "lid" and bend.lid_slope_deg > 0:
        work = (*work, message("bent over the dome"))
    return Piece(
        part=solid.lifted_with,
        role=solid.role,
        face=solid.face,
        side=solid.side,
        place=place,
        material=solid.material,
        bought_as=material.bought_as,
        length_m=length + adds - less,
        width_m=width - less,
        thickness_m=thickness,
        net_length_m=length,
        net_width_m=width,
        outline=outline,
        cutouts=cutouts,
        work=work,
        net_m3=net,
        inset_m3=inset,
        hole_m3=hole,
        shape=board,
        cautions=material.cautions,
        has_grain=material.has_grain,
    )


def _at_corners(
    solid: Solid, board: Cuboid, plane: Plane, outline: Sequence[Point], bend: SectionMap | None
) -> tuple[bool, bool]:
    """Return whether the left and the right end of a board lie at a corner of the walls.

    What stands in a wall parts its boards: their ends there meet it, not another board.
    """
    if outline or (bend is not None and board != solid.shape):
        return False, False
    box = solid.shape
    assert isinstance(box, Cuboid)
    return (
        plane.low(board, plane.u) <= plane.low(box, plane.u) + SAME_M,
        plane.high(board, plane.u) >= plane.high(box, plane.u) - SAME_M,
    )


def _play(solid: Solid, material: Material) -> float:
    """Return how much smaller than its place a piece is sawn each way [m]."""
    if solid.role == "window" and material.group == "glass and plastic":
        return PANE_PLAY.value
    return FOLLOWER_PLAY.value if solid.role == "follower board" else 0.0


def _sizes(
    board: Cuboid, plane: Plane, bend: SectionMap | None
) -> tuple[float, float, tuple[tuple[float, float], ...]]:
    """Return length and width of a board and, where it is no rectangle, its outline [m]."""
    length, width = plane.size(board, plane.u), plane.size(board, plane.v)
    if bend is None:
        return length, width, ()
    if plane.w == "x":
        points = bend.outline_m(board.y0, board.y1, board.z0, board.z1)
        low, high = points.min(axis=0), points.max(axis=0)
        if abs(abs(signed_area(points.tolist())) - float(np.prod(high - low))) < 1e-9:
            size = {"y": float(high[0] - low[0]), "z": float(high[1] - low[1])}
            return size[plane.u], size[plane.v], ()
        along, up = (points - low).T.tolist()
        flat = zip(along, up, strict=True) if plane.u == "y" else zip(up, along, strict=True)
        outline = corners_of([(float(u), float(v)) for u, v in flat])
        return max(u for u, _ in outline), max(v for _, v in outline), outline
    if plane.w == "y":
        slant = max(bend.length_m((y, board.z0), (y, board.z1)) for y in (board.y0, board.y1))
        return (length, slant, ()) if plane.v == "z" else (slant, width, ())
    slope = max(bend.length_m((board.y0, z), (board.y1, z)) for z in (board.z0, board.z1))
    return (slope, width, ()) if plane.u == "y" else (length, slope, ())
