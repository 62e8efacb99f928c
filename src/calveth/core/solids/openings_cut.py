"""What openings and windows take out of the shell: cuts, holes, panes and their linings."""

from __future__ import annotations

from math import pi, sqrt

from calveth.core.hive.design import Design, Face
from calveth.core.hive.forms import (
    Form,
    HiveForm,
    cavity_height_m,
    colony_from_m,
    has_neighbour,
    side_spans_m,
)
from calveth.core.hive.opening import WALL_SIDES, Opening, Side, opening_parts
from calveth.core.solids.parts import Cut, Hole, PartId, Solid, inset_timber
from calveth.core.solids.plates import lid_part
from calveth.core.solids.shapes import Cuboid

_SLEEVE_M = 0.004


def owns_rim(form: HiveForm) -> bool:
    """Return whether the floor has a rim of its own round the space under the frames."""
    return form.has_frames and form.frames_from_m > 0


def wall_joints_m(form: HiveForm) -> tuple[float, ...]:
    """Return the heights where walls come apart: over the floor's rim, between boxes [m]."""
    rim = (form.frames_from_m,) if owns_rim(form) else ()
    return (*rim, *form.levels_m)


def part_at(height_m: float, form: HiveForm) -> PartId:
    """Return the part a height in the wall belongs to."""
    if not form.of_boards:
        return PartId(role="trunk")
    if form.has_bars:
        return PartId(role="trough")
    if owns_rim(form) and height_m < form.frames_from_m:
        return PartId(role="floor")
    if form.feed_room_m > 0 and height_m >= form.levels_m[-1]:
        return PartId(role="eke")
    return PartId(role="box", number=1 + sum(height_m >= level for level in form.levels_m))


def cuts_of(design: Design) -> tuple[Cut, ...]:
    """Return what openings and window take out of every layer they go through."""
    spans, height = side_spans_m(design.form), cavity_height_m(design.form)
    tree = not design.form.of_boards
    cuts = []
    for opening in design.openings:
        if opening.shape == "lid gap":
            continue  # the lid is lifted, nothing is sawn
        for part in opening_parts(opening, spans, height):
            area = part.gross_area_m2
            if part.side in ("lid", "floor"):
                face: Face = part.side
                owner = PartId(role="trunk" if tree else "lid" if face == "lid" else "floor")
            else:
                face = "walls"
                owner = part_at(part.bottom_m + opening.height_m / 2, design.form)
            cuts += _through(design, face, owner, opening.id, area)
    window = design.window
    if window is not None:
        owner = part_at(window.bottom_m + window.height_m / 2, design.form)
        cuts += _through(design, "walls", owner, "window", window.area_m2)
    return tuple(cuts)


def _through(design: Design, face: Face, owner: PartId, opening: str, area_m2: float) -> list[Cut]:
    cuts = []
    for index, layer in enumerate(design.shell.stack(face)):
        part = owner
        if face == "lid" and owner.role == "lid":
            part = lid_part(design, index)
        elif face == "walls" and layer.fitting == "cover" and owner.role != "trunk":
            part = PartId(role="cover")
        cuts.append(
            Cut(
                part=part,
                material=layer.material,
                opening=opening,
                area_m2=area_m2,
                length_m=layer.thickness_m,
            )
        )
    return cuts


def holes_of(design: Design) -> tuple[Hole, ...]:
    """Return the ways of openings through walls, lid and floor; screens and lid gaps are none."""
    return tuple(
        Hole(opening=o.id, shape=_way(design, o, *_hole_size(o)))
        for o in design.openings
        if o.shape not in ("lid gap", "screen")
    )


def _hole_size(opening: Opening) -> tuple[float, float]:
    """Return width and height of the way [m]; round holes as squares of their area, in a row."""
    side = sqrt(pi) / 2 if opening.round else 1.0
    return opening.width_m * opening.count * side, opening.height_m * side


def _way(design: Design, opening: Opening, wide: float, high: float, more: float = 0.0) -> Cuboid:
    """Return the block a way fills, ``more`` wider on each side [m]."""
    length, height = side_spans_m(design.form)[1], cavity_height_m(design.form)
    if opening.level:
        x, y = along_m(design.form, opening), length / 2
        face: Face = "lid" if opening.side == "lid" else "floor"
        thick = design.shell.thickness_m(face)
        z0, z1 = (height, height + thick) if face == "lid" else (-thick, 0.0)
        return Cuboid(
            x0=x - wide / 2, x1=x + wide / 2, y0=y - high / 2, y1=y + high / 2, z0=z0, z1=z1
        )
    middle = opening.bottom_m + opening.height_m / 2
    z0 = max(0.0, middle - high / 2 - more)
    z1 = min(height, middle + high / 2 + more)
    return in_wall(
        design,
        opening.side,
        wide + 2 * more,
        (z0, z1),
        (0.0, design.shell.thickness_m("walls")),
        along_m(design.form, opening) / _span(design.form, opening.side),
    )


def _span(form: Form, side: Side) -> float:
    return side_spans_m(form)[1] if side in ("left", "right") else side_spans_m(form)[0]


def along_m(form: Form, opening: Opening) -> float:
    """Return where the middle of an opening is along its wall [m], as `Opening.along_m`."""
    if opening.along_m is not None:
        return opening.along_m
    side: Side = "front" if opening.level else opening.side
    return _middle(form, side) * _span(form, side)


def colony_openings(design: Design) -> tuple[Opening, ...]:
    """Return the openings that lead to the colony worked with, not to its neighbour's room.

    Of two colonies behind a divider each has its own: what is cut into the neighbour's part of
    front, back, lid or floor, or into the wall at its end, is the neighbour's.
    """
    form = design.form
    if not has_neighbour(form):
        return design.openings
    end = form.colony_width_m

    def ours(opening: Opening) -> bool:
        if opening.shape == "lid gap" or opening.side == "left":
            return True
        return opening.side != "right" and along_m(form, opening) <= end

    return tuple(o for o in design.openings if ours(o))


def _middle(form: Form, side: Side) -> float:
    """Return the share of a wall's span at which the middle of the colony's room lies."""
    if side not in ("front", "back") or not form.of_boards:
        return 0.5
    return (colony_from_m(form) + form.colony_width_m / 2) / form.spans_m[0]


def in_wall(
    design: Design,
    side: Side,
    wide: float,
    z: tuple[float, float],
    deep: tuple[float, float],
    at: float = 0.5,
) -> Cuboid:
    """Return a block in a wall, ``at`` a share of its span, between depths from inside [m]."""
    width, length = side_spans_m(design.form)
    across = (width if side in ("front", "back") else length) * at
    low, high = across - wide / 2, across + wide / 2
    near, far = deep
    if side == "front":
        return Cuboid(x0=low, x1=high, y0=-far, y1=-near, z0=z[0], z1=z[1])
    if side == "back":
        return Cuboid(x0=low, x1=high, y0=length + near, y1=length + far, z0=z[0], z1=z[1])
    if side == "left":
        return Cuboid(x0=-far, x1=-near, y0=low, y1=high, z0=z[0], z1=z[1])
    return Cuboid(x0=width + near, x1=width + far, y0=low, y1=high, z0=z[0], z1=z[1])


def _lining(design: Design, opening: Opening) -> list[Solid]:
    """Return the timber round the way of an entrance, four pieces of a frame."""
    joinery = design.joinery
    if joinery.entrance == "bare" or opening.shape not in ("slot", "hole") or opening.level:
        return []
    if not design.form.of_boards:
        return []
    more = joinery.block_m if joinery.entrance == "solid block" else _SLEEVE_M
    wide, high = _hole_size(opening)
    timber = inset_timber(design.shell.walls, joinery.timber)
    outer = _way(design, opening, wide, high, more)
    inner = _way(design, opening, wide, high)
    part = PartId(role="entrance block", opening=opening.name)
    side = next(s for s in WALL_SIDES if s == opening.side)
    home = part_at((outer.z0 + outer.z1) / 2, design.form)
    return [
        Solid(id=part, home=home, material=timber, shape=shape, side=side)
        for shape in framed(outer, inner, side)
    ]


def framed(outer: Cuboid, inner: Cuboid, side: Side) -> list[Cuboid]:
    """Return the pieces of a block in a wall round another: under, over, beside."""
    x, y = ("x0", "x1"), ("y0", "y1")
    low, high = x if side in ("front", "back") else y
    rims = []
    for z0, z1 in ((outer.z0, inner.z0), (inner.z1, outer.z1)):
        if z1 > z0 + 1e-9:
            rims.append(_with(outer, z0=z0, z1=z1))
    for a, b in (
        (getattr(outer, low), getattr(inner, low)),
        (getattr(inner, high), getattr(outer, high)),
    ):
        if b > a + 1e-9:
            rims.append(_with(outer, **{low: a, high: b}, z0=inner.z0, z1=inner.z1))
    return rims


def _with(shape: Cuboid, **changed: float) -> Cuboid:
    values = {key: getattr(shape, key) for key in ("x0", "x1", "y0", "y1", "z0", "z1")}
    return Cuboid(**(values | changed))


def linings(design: Design) -> list[Solid]:
    """Return the timber round all entrances."""
    return [solid for opening in design.openings for solid in _lining(design, opening)]


def panes(design: Design) -> list[Solid]:
    """Return the layers of the window, set flush with the inner face of its wall."""
    window = design.window
    if window is None:
        return []
    z = (window.bottom_m, window.bottom_m + window.height_m)
    solids, depth = [], 0.0
    for layer in reversed(window.stack):
        near, far = depth, depth + layer.thickness_m
        depth = far
        at = _middle(design.form, window.side)
        box = in_wall(design, window.side, window.width_m, z, (near, far), at)
        home = part_at(sum(z) / 2, design.form)
        solids.append(
            Solid(
                id=PartId(role="window"),
                home=home,
                material=layer.material,
                shape=box,
                side=window.side,
            )
        )
    return solids


_FRAME_M = 0.02


def window_frame(design: Design) -> list[Solid]:
    """Return the timber round the window: through the wall, or in its inner half."""
    window, kind = design.window, design.joinery.window_frame
    if window is None or kind == "none":
        return []
    height = cavity_height_m(design.form)
    thick = design.shell.thickness_m("walls")
    deep = (0.0, thick if kind == "timber through" else thick / 2)
    z0, z1 = window.bottom_m, window.bottom_m + window.height_m
    outer = in_wall(
        design,
        window.side,
        window.width_m + 2 * _FRAME_M,
        (max(0.0, z0 - _FRAME_M), min(height, z1 + _FRAME_M)),
        deep,
        _middle(design.form, window.side),
    )
    at = _middle(design.form, window.side)
    inner = in_wall(design, window.side, window.width_m, (z0, z1), deep, at)
    timber = inset_timber(design.shell.walls, design.joinery.timber)
    home = part_at((z0 + z1) / 2, design.form)
    return [
        Solid(
            id=PartId(role="window frame"),
            home=home,
            material=timber,
            shape=shape,
            side=window.side,
        )
        for shape in framed(outer, inner, window.side)
    ]
