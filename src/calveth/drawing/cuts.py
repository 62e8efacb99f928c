"""Front section and plan of a hive, from the same solids as the side section.

The front section runs across the frames through the middle of the hive, seen from the front; the
plan runs through the middle of the room, seen from above, front below.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from calveth.core.hive.design import Design, Face
from calveth.core.materials import Material
from calveth.core.solids.build import build_solids
from calveth.core.solids.parts import HiveSolids, Solid
from calveth.core.solids.shapes import Cuboid, Ring
from calveth.core.workshop.cutouts import ways_of
from calveth.drawing.shapes import Dim, Drawing, Ellipse, Mark, Polygon, Style

_COMB = Style(fill="honey", fill_alpha=26, line="honey", line_alpha=130)
_SEEN = Style(fill="wood", fill_alpha=120, line="ink", line_alpha=140, line_px=0.8)
_HIDDEN = Style(line="ink", line_px=1.0, dash="dash")


@dataclass(frozen=True, slots=True)
class CutPart:
    """A face in a drawing: which mark shows which layer of it, -1 for what stands in it."""

    mark: int
    face: Face
    layer: int


@dataclass(frozen=True, slots=True)
class CutView:
    """A drawing of a cut, its faces and openings for clicking, and the body's rectangle [m].

    ``openings`` are marks with the id of the opening they show; ``room`` is the rectangle inside.
    """

    drawing: Drawing
    parts: tuple[CutPart, ...]
    body: tuple[float, float, float, float]
    openings: tuple[tuple[int, str], ...] = ()
    room: tuple[float, float, float, float] | None = None


@dataclass(frozen=True, slots=True)
class _Plane:
    """A plane through a hive: where it cuts, and what it makes of a block."""

    title: str
    crosses: Callable[[Cuboid], bool]
    outline: Callable[[Cuboid], tuple[tuple[float, float], ...]]
    faces: Callable[[Cuboid], bool]
    """Whether a hole at a place is seen along its own axis, and so as it is: round."""
    shows: Callable[[Cuboid], bool]
    """Whether a hole that is not cut is seen dashed."""


def front_cut(design: Design, materials: Mapping[str, Material]) -> CutView:
    """Return the hive cut across its frames: x to the right, z up."""
    hive = build_solids(design)
    if isinstance(hive.cavity, Ring):
        return _trunk(hive, materials, level=False)
    y = (hive.shell.y0 + hive.shell.y1) / 2 - 1e-6

    def crosses(box: Cuboid) -> bool:
        return box.y0 <= y < box.y1

    plane = _Plane(
        title="cut across the frames, from the front",
        crosses=crosses,
        outline=lambda box: _upright(hive, box, y),
        faces=lambda box: not crosses(box),
        shows=lambda box: box.z0 < hive.shell.z1,
    )
    return _cut(design, hive, materials, plane)


def plan_cut(design: Design, materials: Mapping[str, Material]) -> CutView:
    """Return the hive cut level through the middle of its room: x to the right, back up."""
    hive = build_solids(design)
    if isinstance(hive.cavity, Ring):
        return _trunk(hive, materials, level=True)
    z = _level_of(hive)
    plane = _Plane(
        title="cut level through the middle, from above",
        crosses=lambda box: box.z0 <= z < box.z1,
        outline=lambda box: _level(hive, box, z),
        faces=lambda box: box.z0 >= hive.shell.z1 - 1e-9 or box.z1 <= hive.shell.z0 + 1e-9,
        shows=lambda _box: True,
    )
    return _cut(design, hive, materials, plane)


def _cut(
    design: Design, hive: HiveSolids, materials: Mapping[str, Material], plane: _Plane
) -> CutView:
    """Return what a plane shows: the stand behind, room and combs, what is cut, openings."""
    made = _Maker(materials)
    for solid in hive.inset:
        if solid.role == "legs" and isinstance(solid.shape, Cuboid):
            made.add(solid, plane.outline(solid.shape), style=_SEEN)
    made.room(plane.outline(hive.shell))
    for frame in (*hive.frames, *hive.neighbours):
        if plane.crosses(frame):
            made.mark(Polygon(points=plane.outline(frame), style=_COMB))
    for solid in hive.pieces:
        shape = solid.shape
        if isinstance(shape, Cuboid) and plane.crosses(shape) and solid.role != "legs":
            made.add(solid, plane.outline(shape))
    for way in ways_of(design):
        cut = plane.crosses(way.shape)
        if not cut and not plane.shows(way.shape):
            continue
        style = Style(fill="sheet", line="ink") if cut else _HIDDEN
        made.hole(
            plane.outline(way.shape),
            round_=way.round and plane.faces(way.shape),
            style=style,
            opening=way.opening,
        )
    return made.view(plane.title)


def cut_drawing(view: CutView, label: Callable[[float], str]) -> Drawing:
    """Return a cut with the dimensions of the body, outside and inside."""
    x0, x1, z0, z1 = view.body
    size = max(x1 - x0, z1 - z0)
    y0, _, low, _ = view.drawing.frame
    high = 0.028 * size
    dims: tuple[Dim, ...] = (
        Dim(a=(x0, low), b=(x1, low), off_m=-0.06 * size, text=label(x1 - x0), high_m=high),
        Dim(a=(y0, z0), b=(y0, z1), off_m=0.06 * size, text=label(z1 - z0), high_m=high),
    )
    if view.room is not None:
        dims += _inner_dims(view.room, label, high)
    return replace(view.drawing, marks=(*view.drawing.marks, *dims))


def _inner_dims(
    room: tuple[float, float, float, float], label: Callable[[float], str], high: float
) -> tuple[Dim, ...]:
    """Return width and height of the room, drawn within it where they hide least."""
    x0, x1, z0, z1 = room
    return (
        Dim(a=(x0, z1), b=(x1, z1), off_m=-0.16 * (z1 - z0), text=label(x1 - x0), high_m=high),
        Dim(a=(x1, z0), b=(x1, z1), off_m=0.10 * (x1 - x0), text=label(z1 - z0), high_m=high),
    )


def _level_of(hive: HiveSolids) -> float:
    """Return the height of the plan: through frames where there are any, not along a joint [m]."""
    if hive.frames:
        frame = hive.frames[-1]
        return frame.z0 + 0.4 * (frame.z1 - frame.z0)
    return hive.shell.z0 + 0.47 * (hive.shell.z1 - hive.shell.z0)


def _upright(hive: HiveSolids, box: Cuboid, y: float) -> tuple[tuple[float, float], ...]:
    """Return the corners of a block in the plane across the frames."""
    z0, z1 = box.z0, box.z1
    if hive.bend is not None:
        at = min(max(y, box.y0), box.y1)
        z0, z1 = (float(hive.bend.place(at, z)[1]) for z in (z0, z1))
    return ((box.x0, z0), (box.x1, z0), (box.x1, z1), (box.x0, z1))


def _level(hive: HiveSolids, box: Cuboid, z: float) -> tuple[tuple[float, float], ...]:
    """Return the corners of a block in the level plane."""
    y0, y1 = box.y0, box.y1
    if hive.bend is not None:
        at = min(max(z, box.z0), box.z1)
        y0, y1 = (float(hive.bend.place(y, at)[0]) for y in (y0, y1))
    return ((box.x0, y0), (box.x1, y0), (box.x1, y1), (box.x0, y1))


class _Maker:
    """Collects the marks of a cut and which face each shows."""

    def __init__(self, materials: Mapping[str, Material]) -> None:
        self._materials = materials
        self._marks: list[Mark] = []
        self._parts: list[CutPart] = []
        self._body: list[tuple[float, float]] = []
        self._openings: list[tuple[int, str]] = []
        self._room: tuple[float, float, float, float] | None = None

    def mark(self, mark: Mark) -> None:
        """Add a mark that is no face."""
        self._marks.append(mark)

    def room(self, points: tuple[tuple[float, float], ...]) -> None:
        """Add the ground of the room."""
        across, up = [x for x, _ in points], [z for _, z in points]
        self._room = (min(across), max(across), min(up), max(up))
        self.mark(Polygon(points=points, style=Style(fill="sheet")))

    def add(
        self, solid: Solid, points: tuple[tuple[float, float], ...], style: Style | None = None
    ) -> None:
        """Add a solid as it is cut, or as it is seen behind."""
        (x0, z0), (x1, z1) = points[0], points[2]
        upright = (z1 - z0) > (x1 - x0)
        hatch = self._materials[solid.material].hatch
        cut = style or Style(hatch=hatch, upright=upright, line="ink", line_alpha=220, thins=True)
        origin = (min(x0, x1), max(z0, z1))
        self._marks.append(Polygon(points=points, style=cut, origin=origin))
        if solid.face is not None:
            layer = -1 if solid.layer is None else solid.layer
            self._parts.append(CutPart(len(self._marks) - 1, solid.face, layer))
            self._body += points

    def hole(
        self,
        points: tuple[tuple[float, float], ...],
        *,
        round_: bool,
        style: Style,
        opening: str = "",
    ) -> None:
        """Add an opening: cut through, or dashed where it lies behind or before the cut."""
        if opening:
            self._openings.append((len(self._marks), opening))
        if not round_:
            self.mark(Polygon(points=points, style=style))
            return
        (x0, z0), (x1, z1) = points[0], points[2]
        self.mark(
            Ellipse(y0=min(x0, x1), y1=max(x0, x1), z0=min(z0, z1), z1=max(z0, z1), style=style)
        )

    def view(self, title: str) -> CutView:
        """Return what was collected."""
        xs, zs = [x for x, _ in self._body], [z for _, z in self._body]
        body = (min(xs), max(xs), min(zs), max(zs))
        drawing = Drawing(title=title, marks=tuple(self._marks))
        return CutView(drawing, tuple(self._parts), body, tuple(self._openings), self._room)


def _trunk(hive: HiveSolids, materials: Mapping[str, Material], *, level: bool) -> CutView:
    """Return a trunk: rings in plan, from the front the same as from the side."""
    made = _Maker(materials)
    solids = [s for s in hive.solids if isinstance(s.shape, Ring)]
    if level:
        for solid in solids:
            ring = solid.shape
            assert isinstance(ring, Ring)
            if solid.face != "walls":
                continue
            for r, fill in ((ring.outer_radius_m, "wood"), (ring.inner_radius_m, "sheet")):
                made.mark(
                    Ellipse(
                        y0=ring.x - r,
                        y1=ring.x + r,
                        z0=ring.y - r,
                        z1=ring.y + r,
                        style=Style(fill=fill, line="ink"),
                    )
                )
            r = ring.outer_radius_m
            corners = (
                (ring.x - r, ring.y - r),
                (ring.x + r, ring.y - r),
                (ring.x + r, ring.y + r),
                (ring.x - r, ring.y + r),
            )
            made._body += corners
        return made.view("cut level, from above")
    for solid in solids:
        ring = solid.shape
        assert isinstance(ring, Ring)
        spans = [
            (-ring.outer_radius_m, -ring.inner_radius_m),
            (ring.inner_radius_m, ring.outer_radius_m),
        ]
        if ring.inner_radius_m == 0:
            spans = [(-ring.outer_radius_m, ring.outer_radius_m)]
        for low, high in spans:
            points = (
                (ring.x + low, ring.z0),
                (ring.x + high, ring.z0),
                (ring.x + high, ring.z1),
                (ring.x + low, ring.z1),
            )
            made.add(solid, points)
    return made.view("cut open, from the front")
