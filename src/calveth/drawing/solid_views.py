"""Front, side and plan of a hive, and its parts drawn apart, all from the same solids."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from math import cos, pi, sin, sqrt
from typing import Literal

from calveth.core.materials import Hatch, Material
from calveth.core.solids.outlines import corners_of, signed_area
from calveth.core.solids.parts import HiveSolids, PartId, Solid
from calveth.core.solids.shapes import Cuboid, Ring, SectionMap, Shape, bounds
from calveth.core.workshop.cutouts import Way
from calveth.core.workshop.piece import Row
from calveth.drawing.shapes import Dim, Drawing, Ellipse, Mark, Point, Polygon, Style, Text

View = Literal["front", "side", "plan"]
VIEWS: tuple[View, ...] = ("front", "side", "plan")
VIEW_TITLE: dict[View, str] = {"front": "front", "side": "side", "plan": "from above"}
FILL: dict[Hatch, str] = {
    "grain": "wood",
    "beads": "foam",
    "foam": "foam",
    "pores": "stone",
    "stone": "stone",
    "shavings": "wood",
    "foil": "stone",
    "air": "sheet",
    "plain": "fill",
    "glass": "sheet",
    "cork": "wood",
    "straw": "wood",
    "brick": "stone",
}
"""Ground colour of a hatch."""
_ROUND = 28
_APART, _NUMBER = 0.35, 0.03
Corner = tuple[float, float, float]
Face = tuple[tuple[Corner, ...], int]
"""Corners of a face and how strongly it is filled: shades tell top, front and end apart."""


@dataclass(frozen=True, slots=True)
class _Body:
    """A solid as an upright or lying prism: faces with what way they look."""

    solid: Solid
    box: Cuboid
    faces: tuple[Face, ...]
    row: int


def row_numbers(rows: Sequence[Row]) -> dict[Shape, int]:
    """Return the row of every shape in the hive."""
    return {piece.shape: row.number for row in rows for piece in row.pieces}


def hive_view(
    hive: HiveSolids,
    materials: Mapping[str, Material],
    view: View,
    rows: Sequence[Row] = (),
    *,
    ways: Sequence[Way] = (),
    label: Callable[[float], str] | None = None,
    chosen: int = 0,
) -> Drawing:
    """Return a hive seen from one side; what lies behind is covered.

    ``ways`` are the openings; ``label`` writes overall lengths, none without it; ``chosen`` is a
    row to be marked.
    """
    numbers = _numbers(hive, rows)
    marks: list[Mark] = []
    size: list[tuple[int, int]] = []
    for solid in _by_depth(hive, view):
        points = _silhouette(solid.shape, hive.bend, view)
        row = numbers.get(solid.shape, 0)
        fill = "chosen" if row and row == chosen else FILL[materials[solid.material].hatch]
        marks.append(Polygon(points=points, style=Style(fill=fill, line="ink", line_px=0.9)))
        if row:
            size.append((len(marks) - 1, row))
    marks += _holes(hive, ways, view)
    if label is not None:
        marks += _overall(hive, view, label)
    return Drawing(title=VIEW_TITLE[view], marks=tuple(marks), rows=tuple(size))


def _numbers(hive: HiveSolids, rows: Sequence[Row]) -> dict[Shape, int]:
    """Return the row of every solid; a solid sawn into several has the row of its first board."""
    numbers = row_numbers(rows)
    labels = dict(numbers)
    for solid in hive.pieces:
        if solid.shape in labels or isinstance(solid.shape, Ring):
            continue
        for shape, number in numbers.items():
            if isinstance(shape, Cuboid) and _inside(shape, solid.shape):
                labels[solid.shape] = number
                break
    return labels


def _inside(inner: Cuboid, outer: Cuboid) -> bool:
    return all(
        getattr(inner, f"{k}0") >= getattr(outer, f"{k}0") - 1e-9
        and getattr(inner, f"{k}1") <= getattr(outer, f"{k}1") + 1e-9
        for k in "xyz"
    )


def _by_depth(hive: HiveSolids, view: View) -> list[Solid]:
    """Return the solids from the farthest to the nearest, as seen from a side."""

    def depth(solid: Solid) -> float:
        box = bounds(solid.shape, hive.bend)
        if view == "front":
            return -box.y0
        return box.x1 if view == "side" else box.z1

    return sorted(hive.pieces, key=depth)


def _silhouette(shape: Shape, bend: SectionMap | None, view: View) -> tuple[Point, ...]:
    if isinstance(shape, Ring):
        box = bounds(shape, bend)
        if view == "plan":
            r = shape.outer_radius_m
            return tuple(
                (shape.x + r * cos(a), shape.y + r * sin(a))
                for a in (2 * pi * k / _ROUND for k in range(_ROUND))
            )
        return _rectangle(box, view)
    if view == "side" and bend is not None:
        points = bend.outline_m(shape.y0, shape.y1, shape.z0, shape.z1).tolist()
        return tuple((float(y), float(z)) for y, z in points)
    return _rectangle(bounds(shape, bend), view)


def _rectangle(box: Cuboid, view: View) -> tuple[Point, ...]:
    spans = {
        "front": (box.x0, box.x1, box.z0, box.z1),
        "side": (box.y0, box.y1, box.z0, box.z1),
        "plan": (box.x0, box.x1, box.y0, box.y1),
    }
    a0, a1, b0, b1 = spans[view]
    return ((a0, b0), (a1, b0), (a1, b1), (a0, b1))


def _holes(hive: HiveSolids, ways: Sequence[Way], view: View) -> list[Mark]:
    """Return the openings of the side that is seen, dark; what is drilled is round."""
    holes: list[Mark] = []
    style = Style(fill="ink", fill_alpha=190)
    for way in ways:
        box = way.shape
        seen = {
            "front": box.y1 <= hive.shell.y0 + 1e-9,
            "side": box.x0 >= hive.shell.x1 - 1e-9,
            "plan": box.z0 >= hive.shell.z1 - 1e-9,
        }[view]
        if not seen:
            continue
        points = _silhouette(box, hive.bend, view)
        if way.round:
            (y0, y1), (z0, z1) = ((min(c), max(c)) for c in zip(*points, strict=True))
            holes.append(Ellipse(y0=y0, y1=y1, z0=z0, z1=z1, style=style))
        else:
            holes.append(Polygon(points=points, style=style))
    return holes


def _overall(hive: HiveSolids, view: View, label: Callable[[float], str]) -> list[Mark]:
    """Return the overall dimensions of a view."""
    boxes = [bounds(s.shape, hive.bend) for s in hive.pieces]
    x0, x1 = min(b.x0 for b in boxes), max(b.x1 for b in boxes)
    y0, y1 = min(b.y0 for b in boxes), max(b.y1 for b in boxes)
    z0, z1 = min(b.z0 for b in boxes), max(b.z1 for b in boxes)
    a0, a1, b0, b1 = {
        "front": (x0, x1, z0, z1),
        "side": (y0, y1, z0, z1),
        "plan": (x0, x1, y0, y1),
    }[view]
    off = 0.06 * max(a1 - a0, b1 - b0)
    high = 0.028 * max(a1 - a0, b1 - b0)
    return [
        Dim(a=(a0, b0), b=(a1, b0), off_m=-off, text=label(a1 - a0), high_m=high),
        Dim(a=(a0, b0), b=(a0, b1), off_m=off, text=label(b1 - b0), high_m=high),
    ]


# -- parts drawn apart -----------------------------------------------------------------------------


def exploded(
    hive: HiveSolids,
    materials: Mapping[str, Material],
    rows: Sequence[Row],
    *,
    chosen: int = 0,
    apart: float = _APART,
) -> Drawing:
    """Return the parts of a hive drawn apart, seen from the front, the right and above.

    ``chosen`` is a row that is marked; ``apart`` the gap between parts as a share of its height.
    """
    lifts = _lifted(hive, apart)
    numbers = _numbers(hive, rows)
    bodies = [
        _body(solid, lifts[solid.lifted_with], hive.bend, numbers.get(solid.shape, 0))
        for solid in hive.pieces
    ]
    marks: list[Mark] = []
    size: list[tuple[int, int]] = []
    tall = max(b.box.z1 for b in bodies) - min(b.box.z0 for b in bodies)
    largest = _NUMBER * max(tall, *(b.box.x1 - b.box.x0 for b in bodies))
    for body in _painted_order(bodies):
        fill = FILL[materials[body.solid.material].hatch]
        if body.row and body.row == chosen:
            fill = "accent"
        for face, shade in body.faces:
            points = _flat(face)
            marks.append(Polygon(points=points, style=Style(fill="line")))
            alpha = shade if fill != "accent" else 170
            style = Style(fill=fill, fill_alpha=alpha, line="ink", line_px=0.7)
            marks.append(Polygon(points=points, style=style))
            if body.row:
                size.append((len(marks) - 1, body.row))
        if body.row:
            marks.append(_number(body, largest))
    return Drawing(title="parts drawn apart", marks=tuple(marks), rows=tuple(size))


def _number(body: _Body, largest: float) -> Text:
    """Return the number of a piece on the face of it that shows most, no higher than so much."""
    flat = [_flat(face) for face, _ in body.faces]
    points = max(flat, key=lambda face: abs(signed_area(face)))
    at = (sum(p[0] for p in points) / len(points), sum(p[1] for p in points) / len(points))
    wide = max(p[0] for p in points) - min(p[0] for p in points)
    high = min(largest, 0.5 * abs(signed_area(points)) / max(wide, 1e-6))
    return Text(at=at, text=str(body.row), high_m=high, color="muted")


def _lifted(hive: HiveSolids, apart: float) -> dict[PartId, float]:
    """Return how far every part is lifted off the one below [m]."""
    low: dict[PartId, float] = {}
    top: dict[PartId, float] = {}
    for solid in hive.pieces:
        box, part = bounds(solid.shape, hive.bend), solid.lifted_with
        low[part] = min(low.get(part, box.z0), box.z0)
        top[part] = max(top.get(part, box.z1), box.z1)
    high = max(top.values()) - min(low.values())

    def order(part: PartId) -> float:
        # A cover is lifted off when the lid is off: it hangs between boxes and lid.
        return top[part] - 1e-6 if part.role == "cover" else low[part]

    gap = apart * high / max(len(low) - 1, 1)
    shifts = {}
    shift = 0.0
    for k, part in enumerate(sorted(low, key=order)):
        shift = gap * k
        if part.role == "cover":
            shift += top[part] - low[part]
        shifts[part] = shift
    covers = [p for p in low if p.role == "cover"]
    if covers:
        above = [p for p in low if order(p) > order(covers[0])]
        for part in above:
            shifts[part] += top[covers[0]] - low[covers[0]]
    return shifts


def _body(solid: Solid, shift: float, bend: SectionMap | None, row: int) -> _Body:
    shape = solid.shape
    box = bounds(shape, bend)
    lifted = Cuboid(
        x0=box.x0, x1=box.x1, y0=box.y0, y1=box.y1, z0=box.z0 + shift, z1=box.z1 + shift
    )
    if isinstance(shape, Ring):
        return _Body(solid, lifted, _of_ring(shape, lifted), row)
    if bend is None:
        outline: list[Point] = [
            (box.y0, box.z0),
            (box.y1, box.z0),
            (box.y1, box.z1),
            (box.y0, box.z1),
        ]
    else:
        points = bend.outline_m(shape.y0, shape.y1, shape.z0, shape.z1).tolist()
        outline = list(corners_of([(float(y), float(z)) for y, z in points]))
    return _Body(solid, lifted, _of_prism(outline, shape.x0, shape.x1, shift), row)


def _of_prism(outline: list[Point], x0: float, x1: float, shift: float) -> tuple[Face, ...]:
    """Return the faces of an outline drawn out along x that are seen: above, front, right end."""
    turn = outline if signed_area(outline) > 0 else outline[::-1]
    top: list[tuple[Corner, ...]] = []
    front: list[tuple[Corner, ...]] = []
    for (y0, z0), (y1, z1) in zip(turn, [*turn[1:], turn[0]], strict=True):
        out_y, out_z = z1 - z0, -(y1 - y0)
        if -out_y + out_z <= 1e-12:
            continue  # it looks away
        face = (
            (x0, y0, z0 + shift),
            (x1, y0, z0 + shift),
            (x1, y1, z1 + shift),
            (x0, y1, z1 + shift),
        )
        (top if out_z > -out_y else front).append(face)
    end = tuple((x1, y, z + shift) for y, z in turn)
    shaded: list[Face] = [(face, 255) for face in top]
    shaded += [(face, 225) for face in front]
    return (*shaded, (end, 195))


def _of_ring(ring: Ring, box: Cuboid) -> tuple[Face, ...]:
    """Return the sides and the top of a trunk."""
    at = [2 * pi * k / _ROUND for k in range(_ROUND)]
    circle = [
        (ring.x + ring.outer_radius_m * cos(a), ring.y + ring.outer_radius_m * sin(a)) for a in at
    ]
    faces: list[Face] = []
    for (x0, y0), (x1, y1), a in zip(circle, [*circle[1:], circle[0]], at, strict=True):
        middle = a + pi / _ROUND
        if cos(middle) - sin(middle) > 0:
            corners = ((x0, y0, box.z0), (x1, y1, box.z0), (x1, y1, box.z1), (x0, y0, box.z1))
            faces.append((corners, round(225 - 30 * sin(middle + pi / 2) ** 2)))
    faces.append((tuple((x, y, box.z1) for x, y in circle), 255))
    return tuple(faces)


def _flat(face: tuple[Corner, ...]) -> tuple[Point, ...]:
    """Return where corners lie on the paper: isometric, seen from the front, right and above."""
    return tuple(((x + y) / sqrt(2), (-x + y + 2 * z) / sqrt(6)) for x, y, z in face)


def _painted_order(bodies: list[_Body]) -> list[_Body]:
    """Return bodies so that none is painted over by one behind it."""
    left = sorted(bodies, key=lambda b: b.box.x1 - b.box.y0 + b.box.z1)
    behind: dict[int, set[int]] = {k: set() for k in range(len(left))}
    for i, one in enumerate(left):
        for j, two in enumerate(left):
            if i != j and _is_behind(one.box, two.box) and not _is_behind(two.box, one.box):
                behind[j].add(i)
    order: list[_Body] = []
    done: set[int] = set()
    while len(order) < len(left):
        free = [k for k in range(len(left)) if k not in done and not behind[k] - done]
        k = free[0] if free else next(k for k in range(len(left)) if k not in done)
        done.add(k)
        order.append(left[k])
    return order


def _is_behind(a: Cuboid, b: Cuboid) -> bool:
    """Tell whether a lies behind, under or to the left of b, so that b may cover it."""
    e = 1e-9
    return a.x1 <= b.x0 + e or a.y0 >= b.y1 - e or a.z1 <= b.z0 + e
