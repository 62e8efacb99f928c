"""The hive cut open from front to back, as flat pieces taken from the solids.

The cut runs through the middle of the hive: y (front to back) to the right, z up.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from calveth.core.hive.design import Design, Face
from calveth.core.hive.forms import cavity_height_m, side_spans_m
from calveth.core.hive.opening import opening_parts
from calveth.core.remembered import remembered
from calveth.core.solids.build import HiveSolids, build_solids
from calveth.core.solids.openings_cut import along_m, colony_openings
from calveth.core.solids.shapes import Cuboid, Ring, SectionMap

# What a cut plane may miss an opening by and still show it [m].
_TOUCHES_M = 1e-5
# A drawn comb of wild bees hangs a bee space from the walls and ends just under the lid [m].
_COMB_FROM_WALL_M, _COMB_FROM_LID_M = 0.008, 0.002


@dataclass(frozen=True, slots=True, kw_only=True)
class Rect:
    """A rectangle of the section [m]."""

    y0: float
    y1: float
    z0: float
    z1: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """A cut piece; ``front`` tells the two walls apart (None for lid and floor).

    ``face`` and ``layer`` are those of the layer it is, or -1 and the face it stands in: posts,
    battens, frames, entrance blocks, the follower board, legs.
    """

    rect: Rect
    material: str
    face: Face
    layer: int
    part: str
    front: bool | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Gap:
    """An opening: cut through the front or back wall, or seen on a side wall behind."""

    opening: str
    rect: Rect
    through: bool
    front: bool
    level: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Pane:
    """A layer of the window: cut through in front or back, or seen on a side wall behind."""

    rect: Rect
    material: str
    behind: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Section:
    """What the cutaway shows, all in metres; rectangles are those of the box before its bend.

    ``legs`` are seen behind the cut.
    """

    pieces: tuple[Piece, ...]
    gaps: tuple[Gap, ...]
    cavity: Rect
    combs: tuple[Rect, ...]
    outline: Rect
    panes: tuple[Pane, ...] = ()
    rack: Rect | None = None
    bend: SectionMap | None = None
    legs: tuple[Rect, ...] = ()

    def frame(self) -> Rect:
        """Return the rectangle round all pieces and legs as they lie in the hive [m]."""
        rects = [*(p.rect for p in self.pieces), *self.legs]
        if self.bend is None:
            points = np.array([p for r in rects for p in ((r.y0, r.z0), (r.y1, r.z1))])
        else:
            bend = self.bend
            points = np.concatenate([bend.outline_m(r.y0, r.y1, r.z0, r.z1) for r in rects])
        low, high = points.min(axis=0), points.max(axis=0)
        return Rect(y0=float(low[0]), y1=float(high[0]), z0=float(low[1]), z1=float(high[1]))


@remembered(64)
def section_of(design: Design) -> Section:
    """Return the section of a design through its middle; remembered, for it is drawn often."""
    return cut_open(design, build_solids(design))


def cut_open(design: Design, hive: HiveSolids) -> Section:
    """Return the section of a hive through its middle."""
    cavity = hive.cavity
    middle = cut_at_m(hive)
    if isinstance(cavity, Ring):
        room = _ring_rect(cavity)
    else:
        room = Rect(y0=cavity.y0, y1=cavity.y1, z0=cavity.z0, z1=cavity.z1)
    pieces: list[Piece] = []
    for solid in hive.solids:
        if solid.face is None or solid.layer is None:
            continue
        for rect in _cut(solid.shape, middle):
            wall = solid.face == "walls"
            pieces.append(
                Piece(
                    rect=rect,
                    material=solid.material,
                    face=solid.face,
                    layer=solid.layer,
                    part=solid.part,
                    front=(rect.y1 <= room.y0 + 1e-9) if wall else None,
                )
            )
    pieces += _insets(hive, middle, room)
    outline = Rect(
        y0=min(p.rect.y0 for p in pieces),
        y1=max(p.rect.y1 for p in pieces),
        z0=min(p.rect.z0 for p in pieces),
        z1=max(p.rect.z1 for p in pieces),
    )
    return Section(
        pieces=tuple(pieces),
        gaps=_gaps(design, hive, room, outline),
        cavity=room,
        combs=_combs(hive, room),
        outline=outline,
        panes=_panes(hive, design),
        rack=_rack(design, room),
        bend=hive.bend,
        legs=_legs(hive),
    )


def cut_at_m(hive: HiveSolids) -> float:
    """Return where the section runs: through the middle of the colony's room [m].

    Off it by a hair, so that the cut never runs along a joint.
    """
    cavity = hive.cavity
    if isinstance(cavity, Ring):
        return cavity.x - 1e-6
    return (cavity.x0 + cavity.x1) / 2 - 1e-6


def _legs(hive: HiveSolids) -> tuple[Rect, ...]:
    seen = {
        Rect(y0=s.shape.y0, y1=s.shape.y1, z0=s.shape.z0, z1=s.shape.z1): None
        for s in hive.inset
        if s.role == "legs" and isinstance(s.shape, Cuboid)
    }
    return tuple(seen)


def _insets(hive: HiveSolids, middle: float, room: Rect) -> list[Piece]:
    """Return the pieces that stand in the shell or the room, where the section cuts them."""
    pieces = []
    for solid in hive.inset:
        if solid.role in ("legs", "slatted rack"):
            continue  # seen behind the cut, or drawn by itself
        for rect in _cut(solid.shape, middle):
            wall = rect.y1 <= room.y0 + 1e-9 or rect.y0 >= room.y1 - 1e-9
            below, above = rect.z1 <= room.z0 + 1e-9, rect.z0 >= room.z1 - 1e-9
            pieces.append(
                Piece(
                    rect=rect,
                    material=solid.material,
                    face="floor" if below else "lid" if above else "walls",
                    layer=-1,
                    part=solid.part,
                    front=rect.y1 <= room.y0 + 1e-9 if wall and not (below or above) else None,
                )
            )
    return pieces


def _panes(hive: HiveSolids, design: Design) -> tuple[Pane, ...]:
    if design.window is None:
        return ()
    behind = design.window.side in ("left", "right")
    panes = []
    for solid in hive.solids:
        if solid.role == "window" and isinstance(solid.shape, Cuboid):
            box = solid.shape
            rect = Rect(y0=box.y0, y1=box.y1, z0=box.z0, z1=box.z1)
            panes.append(Pane(rect=rect, material=solid.material, behind=behind))
    return tuple(panes[:1] if behind else panes)


def _rack(design: Design, room: Rect) -> Rect | None:
    form = design.form
    if form.rack_m == 0:
        return None
    top = form.frames_from_m
    return Rect(y0=room.y0, y1=room.y1, z0=top - form.rack_m, z1=top)


def _ring_rect(ring: Ring) -> Rect:
    r = ring.outer_radius_m
    return Rect(y0=ring.y - r, y1=ring.y + r, z0=ring.z0, z1=ring.z1)


def _cut(shape: Cuboid | Ring, x: float) -> list[Rect]:
    if isinstance(shape, Cuboid):
        if shape.x0 <= x <= shape.x1:
            return [Rect(y0=shape.y0, y1=shape.y1, z0=shape.z0, z1=shape.z1)]
        return []
    inner, outer = shape.inner_radius_m, shape.outer_radius_m
    if inner == 0:
        return [_ring_rect(shape)]
    return [
        Rect(y0=shape.y - outer, y1=shape.y - inner, z0=shape.z0, z1=shape.z1),
        Rect(y0=shape.y + inner, y1=shape.y + outer, z0=shape.z0, z1=shape.z1),
    ]


def _gaps(design: Design, hive: HiveSolids, room: Rect, outline: Rect) -> tuple[Gap, ...]:
    spans, height = side_spans_m(design.form), cavity_height_m(design.form)
    gaps = []
    middle = (room.y0 + room.y1) / 2
    cut = cut_at_m(hive)
    for opening in colony_openings(design):
        for part in opening_parts(opening, spans, height):
            z0, z1 = part.bottom_m, part.bottom_m + opening.height_m
            front = part.side == "front"
            through = part.side in ("front", "back") or opening.level
            if opening.level:
                half = min(opening.height_m, room.y1 - room.y0) / 2
                y0, y1 = middle - half, middle + half
                z0, z1 = (room.z1, outline.z1) if part.side == "lid" else (outline.z0, room.z0)
            elif through:
                y0, y1 = (outline.y0, room.y0) if front else (room.y1, outline.y1)
                # Off the cut it is seen behind.
                through = abs(along_m(design.form, opening) - cut) <= part.width_m / 2 + _TOUCHES_M
            else:
                half = part.width_m / 2
                at = middle if opening.along_m is None else opening.along_m
                y0, y1 = at - half, at + half
            gaps.append(
                Gap(
                    opening=opening.id,
                    rect=Rect(y0=y0, y1=y1, z0=z0, z1=z1),
                    through=through,
                    front=front,
                    level=opening.level,
                )
            )
    return tuple(gaps)


def _combs(hive: HiveSolids, room: Rect) -> tuple[Rect, ...]:
    """Return the comb faces seen: one a box, or one hanging in a hollow tree."""
    seen = {(f.z0, f.z1): Rect(y0=f.y0, y1=f.y1, z0=f.z0, z1=f.z1) for f in hive.frames}
    if seen:
        return tuple(seen.values())
    gap = _COMB_FROM_WALL_M
    low = room.z0 + 0.25 * (room.z1 - room.z0)
    return (Rect(y0=room.y0 + gap, y1=room.y1 - gap, z0=low, z1=room.z1 - _COMB_FROM_LID_M),)
