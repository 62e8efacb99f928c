"""The one list of solids from which drawing, areas, litres and weights are taken.

Axes: x across the frames from left to right, y from the front (0 and below is the front wall) to
the back, z up from the inner face of the floor. The origin is the front left lower inner corner of
the cavity; a hollow tree has its axis at the middle of its inner square.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import pi

from calveth.core.hive.design import (
    Design,
    Face,
    HollowTree,
    StackedBoxes,
    cavity_height_m,
    side_spans_m,
)
from calveth.core.hive.opening import opening_parts


@dataclass(frozen=True, slots=True, kw_only=True)
class Cuboid:
    """An axis-aligned block [m]."""

    x0: float
    x1: float
    y0: float
    y1: float
    z0: float
    z1: float

    @property
    def volume_m3(self) -> float:
        """Volume [m³]."""
        return (self.x1 - self.x0) * (self.y1 - self.y0) * (self.z1 - self.z0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Ring:
    """An upright round body, hollow when the inner radius is not zero [m]."""

    x: float
    y: float
    inner_radius_m: float
    outer_radius_m: float
    z0: float
    z1: float

    @property
    def volume_m3(self) -> float:
        """Volume [m³]."""
        return pi * (self.outer_radius_m**2 - self.inner_radius_m**2) * (self.z1 - self.z0)


Shape = Cuboid | Ring


@dataclass(frozen=True, slots=True, kw_only=True)
class Solid:
    """One piece of one material.

    ``face`` and ``layer`` (0 is the outermost) say where a shell piece belongs; panes and frames
    have neither. ``second`` is a material that runs through it with ``second_share`` of the area.
    ``part`` is the piece a person lifts: ``box 1``, ``lid``, ``floor``...
    """

    part: str
    material: str
    shape: Shape
    face: Face | None = None
    layer: int | None = None
    second: str = ""
    second_share: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Cut:
    """What an opening takes out of one layer: a straight prism through it."""

    part: str
    material: str
    opening: str
    area_m2: float
    length_m: float

    @property
    def volume_m3(self) -> float:
        """Volume removed [m³]."""
        return self.area_m2 * self.length_m


@dataclass(frozen=True, slots=True, kw_only=True)
class HiveSolids:
    """Everything the hive is made of, and the room inside."""

    solids: tuple[Solid, ...]
    cuts: tuple[Cut, ...]
    cavity: Shape
    frames: tuple[Cuboid, ...]


@lru_cache(maxsize=64)
def build_solids(design: Design) -> HiveSolids:
    """Return the solids of a design; the only place where a form becomes geometry."""
    if isinstance(design.form, HollowTree):
        return _tree(design, design.form)
    return _boxes(design, design.form)


def _boxes(design: Design, form: StackedBoxes) -> HiveSolids:
    width, length = side_spans_m(form)
    height = cavity_height_m(form)
    solids: list[Solid] = []
    wall = design.shell.thickness_m("walls")
    for box in range(form.box_count):
        z0 = 0.0 if box == 0 else form.frames_from_m + box * form.box_height_m
        z1 = form.frames_from_m + (box + 1) * form.box_height_m
        out = wall
        for index, layer in enumerate(design.shell.walls):
            inner = out - layer.thickness_m
            solids.extend(
                Solid(
                    part=f"box {box + 1}",
                    material=layer.material,
                    shape=shape,
                    face="walls",
                    layer=index,
                    second=layer.mixed_with,
                    second_share=layer.mixed_share,
                )
                for shape in _ring_of_boards(width, length, inner, out, z0, z1)
            )
            out = inner
    outline = (-wall, width + wall, -wall, length + wall)
    solids += _plates(design, "lid", height, outline)
    solids += _plates(design, "floor", 0.0, outline)
    solids += _panes(design)
    frames = tuple(
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
            form.side_clearance_m + (i + 0.5) * form.frame_pitch_m for i in range(form.frame_count)
        )
    )
    return HiveSolids(
        solids=tuple(solids),
        cuts=_cuts(design, form),
        cavity=Cuboid(x0=0.0, x1=width, y0=0.0, y1=length, z0=0.0, z1=height),
        frames=frames,
    )


def _ring_of_boards(
    width: float, length: float, inner: float, out: float, z0: float, z1: float
) -> list[Cuboid]:
    """Return front, back (full width), left and right boards of one layer around the cavity."""
    return [
        Cuboid(x0=-out, x1=width + out, y0=-out, y1=-inner, z0=z0, z1=z1),
        Cuboid(x0=-out, x1=width + out, y0=length + inner, y1=length + out, z0=z0, z1=z1),
        Cuboid(x0=-out, x1=-inner, y0=-inner, y1=length + inner, z0=z0, z1=z1),
        Cuboid(x0=width + inner, x1=width + out, y0=-inner, y1=length + inner, z0=z0, z1=z1),
    ]


def _plates(
    design: Design, face: Face, inner_z: float, outline: tuple[float, float, float, float]
) -> list[Solid]:
    """Return the plates of lid or floor, laid over the whole outline; layer 0 is outermost."""
    x0, x1, y0, y1 = outline
    solids = []
    distance = 0.0
    stack = design.shell.stack(face)
    for index in range(len(stack) - 1, -1, -1):
        thickness = stack[index].thickness_m
        if face == "lid":
            z0, z1 = inner_z + distance, inner_z + distance + thickness
        else:
            z0, z1 = inner_z - distance - thickness, inner_z - distance
        distance += thickness
        solids.append(
            Solid(
                part=face,
                material=stack[index].material,
                shape=Cuboid(x0=x0, x1=x1, y0=y0, y1=y1, z0=z0, z1=z1),
                face=face,
                layer=index,
                second=stack[index].mixed_with,
                second_share=stack[index].mixed_share,
            )
        )
    return solids


def _cuts(design: Design, form: StackedBoxes | None) -> tuple[Cut, ...]:
    """Return what openings and window take out of every layer they go through."""
    spans, height = side_spans_m(design.form), cavity_height_m(design.form)
    cuts = []
    for opening in design.openings:
        if opening.shape == "lid gap":
            continue  # the lid is lifted, nothing is sawn
        for part in opening_parts(opening, spans, height):
            if part.side in ("lid", "floor"):
                face: Face = part.side
                owner: str = face if form is not None else "trunk"
            else:
                face, owner = "walls", _part_at(part.bottom_m + opening.height_m / 2, form)
            cuts += [
                Cut(
                    part=owner,
                    material=layer.material,
                    opening=opening.id,
                    area_m2=part.gross_area_m2,
                    length_m=layer.thickness_m,
                )
                for layer in design.shell.stack(face)
            ]
    window = design.window
    if window is not None:
        owner = _part_at(window.bottom_m + window.height_m / 2, form)
        cuts += [
            Cut(
                part=owner,
                material=layer.material,
                opening="window",
                area_m2=window.area_m2,
                length_m=layer.thickness_m,
            )
            for layer in design.shell.walls
        ]
    return tuple(cuts)


def _panes(design: Design) -> list[Solid]:
    """Return the layers of the window, set flush with the inner face of its wall."""
    window = design.window
    if window is None:
        return []
    width, length = side_spans_m(design.form)
    across = (width if window.side in ("front", "back") else length) / 2
    low, high = across - window.width_m / 2, across + window.width_m / 2
    z0, z1 = window.bottom_m, window.bottom_m + window.height_m
    solids, depth = [], 0.0
    for layer in reversed(window.stack):
        near, far = depth, depth + layer.thickness_m
        depth = far
        if window.side == "front":
            box = Cuboid(x0=low, x1=high, y0=-far, y1=-near, z0=z0, z1=z1)
        elif window.side == "back":
            box = Cuboid(x0=low, x1=high, y0=length + near, y1=length + far, z0=z0, z1=z1)
        elif window.side == "left":
            box = Cuboid(x0=-far, x1=-near, y0=low, y1=high, z0=z0, z1=z1)
        else:
            box = Cuboid(x0=width + near, x1=width + far, y0=low, y1=high, z0=z0, z1=z1)
        solids.append(Solid(part="window", material=layer.material, shape=box))
    return solids


def _part_at(height_m: float, form: StackedBoxes | None) -> str:
    """Return the part a height in the wall belongs to."""
    if form is None:
        return "trunk"
    middle = height_m - form.frames_from_m
    box = min(max(int(middle // form.box_height_m), 0), form.box_count - 1)
    return f"box {box + 1}"


def _tree(design: Design, form: HollowTree) -> HiveSolids:
    radius = form.inner_diameter_m / 2
    height = form.cavity_height_m
    solids: list[Solid] = []
    out = radius + design.shell.thickness_m("walls")
    trunk = out
    for index, layer in enumerate(design.shell.walls):
        inner = out - layer.thickness_m
        shape = Ring(
            x=radius, y=radius, inner_radius_m=inner, outer_radius_m=out, z0=0.0, z1=height
        )
        solids.append(
            Solid(part="trunk", material=layer.material, shape=shape, face="walls", layer=index)
        )
        out = inner
    outline = (radius - trunk, radius + trunk, radius - trunk, radius + trunk)
    for solid in _plates(design, "lid", height, outline) + _plates(design, "floor", 0.0, outline):
        plate = solid.shape
        disc = Ring(
            x=radius, y=radius, inner_radius_m=0.0, outer_radius_m=trunk, z0=plate.z0, z1=plate.z1
        )
        solids.append(
            Solid(
                part="trunk",
                material=solid.material,
                shape=disc,
                face=solid.face,
                layer=solid.layer,
            )
        )
    cavity = Ring(x=radius, y=radius, inner_radius_m=0.0, outer_radius_m=radius, z0=0.0, z1=height)
    return HiveSolids(solids=tuple(solids), cuts=_cuts(design, None), cavity=cavity, frames=())
