"""The hive as bodies between air spaces: the solids, with the conductivity each has in its place.

Every layer conducts as its resistance in the face says (EN ISO 6946, with gaps, foils and mixed
layers). Timber conducts better along its grain. Holes are filled with still air: what moves through
them is the business of the air balance. Frames and divider plates hang in the air and are left out.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from math import pi
from typing import Literal

from calveth.core import constants as c
from calveth.core.conduction.parts import WEDGE_RAD, AirSpace, Body, ConductionModel
from calveth.core.conduction.parts import Side as Way
from calveth.core.errors import DomainError
from calveth.core.heat.shell import DIRECTIONS
from calveth.core.heat.slab import air_gap_resistance_m2k_w, plane_layers
from calveth.core.hive.design import FACES, Design, Face
from calveth.core.hive.forms import has_neighbour
from calveth.core.hive.opening import Side
from calveth.core.hive.zones import zone_tops_m
from calveth.core.materials import Material
from calveth.core.solids.build import build_solids
from calveth.core.solids.faults import refuse_faults
from calveth.core.solids.parts import HiveSolids, Solid, inner_part
from calveth.core.solids.shapes import Cuboid, Ring, SectionMap, Shape

Films = Literal["heat", "damp"]
ZONES = ("base", "nest", "crown")
ROOM = "room"
OUTSIDE, RECESS, BEYOND = "outside", "outside, before the window", "behind the follower board"
HEAT_FILMS: Mapping[Way, float] = {
    "up": c.RSI_UP.value,
    "horizontal": c.RSI_HORIZONTAL.value,
    "down": c.RSI_DOWN.value,
}
DAMP_FILMS: Mapping[Way, float] = dict.fromkeys(("up", "horizontal", "down"), c.RSI_EDGE.value)
"""Inner films of EN ISO 13788, 4.4.1 for corners and behind things: on the safe side for damp."""

_AROUND_M = 0.01
_WIDEST_GAP_M = 0.3


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class HiveParts:
    """A model of a hive, or of the half or quarter of it that says all.

    ``times`` is how many of it make the hive; ``half_x`` and ``half_y`` say which planes of
    symmetry it ends at.
    """

    model: ConductionModel
    hive: HiveSolids
    times: float
    half_x: bool
    half_y: bool


def hive_parts(
    design: Design,
    materials: Mapping[str, Material],
    films: Films,
    *,
    holes: bool = True,
    halves: bool = True,
) -> HiveParts:
    """Return a hive as bodies between its air spaces.

    Without ``halves`` it is the whole hive although a half of it would say all.

    Raises
    ------
    DomainError
        When parts take the same place.
    """
    hive = build_solids(design)
    refuse_faults(design, hive)
    bodies = [*_layers(design, hive, materials), *_insets(hive, materials)]
    if holes:
        bodies += _holes(design, hive)
    around = _grown(_bounds([b.shape for b in bodies]))
    outside_films: dict[Way, float] = dict.fromkeys(("up", "horizontal", "down"), c.RSE.value)
    if design.joinery.stand == "slab":
        outside_films["up"] = 0.0  # the underside of the floor lies on it
    second = has_neighbour(design.form)
    inside = _rooms(hive, films, second=second)
    recess = _recess(design, hive, around)
    if recess is not None:
        inside.append(AirSpace(name=RECESS, shape=recess, film_m2k_w=outside_films, outdoors=True))
    half_x, half_y = _symmetry(design, hive, holes=holes) if halves else (False, False)
    far_x = around.x1
    if second and hive.beyond and halves:
        # The other colony warms the divider as this one does: nothing crosses its middle.
        far_x = 0.5 * (hive.beyond[0].x0 + _block(hive.cavity).x1)
    cut = replace(
        around,
        x1=0.5 * (hive.shell.x0 + hive.shell.x1) if half_x else far_x,
        y1=0.5 * (hive.shell.y0 + hive.shell.y1) if half_y else around.y1,
    )
    if isinstance(hive.cavity, Ring):
        cut = around
    model = ConductionModel(
        outside=(AirSpace(name=OUTSIDE, shape=cut, film_m2k_w=outside_films),),
        bodies=tuple(
            replace(b, shape=shape) for b in bodies if (shape := common(b.shape, cut)) is not None
        ),
        inside=tuple(
            replace(s, shape=shape) for s in inside if (shape := common(s.shape, cut)) is not None
        ),
        bend=_bend(hive),
        round=isinstance(hive.cavity, Ring),
    )
    times = float(2 ** (half_x + half_y))
    if model.round:
        times = 2 * pi / WEDGE_RAD if model.bend is not None else 1.0
    return HiveParts(model=model, hive=hive, times=times, half_x=half_x, half_y=half_y)


def _rooms(hive: HiveSolids, films: Films, *, second: bool) -> list[AirSpace]:
    """Return the spaces inside: the colony's, in three for heat, and empty ones beside it."""
    inner = HEAT_FILMS if films == "heat" else DAMP_FILMS
    cavity = _block(hive.cavity)
    # For damp one temperature inside is enough: one answer instead of three.
    rooms = zip(ZONES, _zones(cavity), strict=True) if films == "heat" else [(ROOM, cavity)]
    spaces = [
        AirSpace(name=name, shape=shape, film_m2k_w=inner, soft=True) for name, shape in rooms
    ]
    if not second:
        spaces += [AirSpace(name=BEYOND, shape=b, film_m2k_w=inner) for b in hive.beyond]
    return spaces


def _bend(hive: HiveSolids) -> SectionMap | None:
    """Return the bend of the model: that of a round one runs from its axis out."""
    if hive.bend is None or not isinstance(hive.cavity, Ring):
        return hive.bend
    return replace(hive.bend, middle_m=0.0)


def _symmetry(design: Design, hive: HiveSolids, *, holes: bool) -> tuple[bool, bool]:
    """Return whether left and right, and front and back, are alike."""
    if isinstance(hive.cavity, Ring):
        return False, False
    window = design.window
    sides: set[Side] = {window.side} if window is not None else set()
    if holes:
        sides |= {o.side for o in design.openings for h in hive.holes if h.opening == o.id}
    half_x = not sides & {"left", "right"} and len(hive.beyond) != 1
    half_y = not sides & {"front", "back"} and (hive.bend is None or hive.bend.symmetric)
    ways = [hole.shape for hole in hive.holes] if holes else []
    room = hive.shell
    for way in ways:
        # Off the middle of its wall it is not mirrored.
        half_x &= way.x1 <= room.x0 or way.x0 >= room.x1 or _is_even(way.x0, way.x1, room.x1)
        half_y &= way.y1 <= room.y0 or way.y0 >= room.y1 or _is_even(way.y0, way.y1, room.y1)
    return half_x, half_y


def _is_even(low: float, high: float, span: float) -> bool:
    return abs(low + high - span) < 1e-9


def _layers(design: Design, hive: HiveSolids, table: Mapping[str, Material]) -> list[Body]:
    """Return the pieces of the shell and the panes."""
    bodies = []
    resistances = {
        face: plane_layers(design.shell.stack(face), table, DIRECTIONS[face]).resistances_m2k_w
        for face in FACES
    }
    for face, rows in resistances.items():
        if max(rows) <= 0:
            raise DomainError(
                face,
                "every layer",
                "lies outside of an air gap that is open to the outside; put a board inside of "
                "the gap, or take its vents away",
            )
    panes: list[float] = []
    if design.window is not None:
        r = plane_layers(design.window.stack, table, "horizontal").resistances_m2k_w
        panes = [y.thickness_m / k for y, k in zip(design.window.stack, r, strict=True)][::-1]
    glass = iter(panes)
    for solid in hive.solids:
        if solid.face is None or solid.layer is None:
            bodies.append(
                Body(
                    part=solid.part,
                    role="window",
                    shape=_block(solid.shape),
                    conductivity_w_mk=next(glass),
                )
            )
            continue
        layer = design.shell.stack(solid.face)[solid.layer]
        r_layer = resistances[solid.face][solid.layer]
        if r_layer <= 0:
            continue  # outside an open gap: outside air stands there
        lam = layer.thickness_m / r_layer + _screws(design, solid)
        part = f"{solid.face}: {table[layer.material].name}"
        body = _body(solid, part, lam, table)
        bodies.append(replace(body, face=solid.face, layer=solid.layer))
    return bodies


def _screws(design: Design, solid: Solid) -> float:
    """Return what steel screws add to the conductivity of the layers they hold [W/(m·K)]."""
    if design.joinery.fixing != "steel screws" or solid.face is None or solid.layer is None:
        return 0.0
    stack = design.shell.stack(solid.face)
    count, _ = inner_part(stack)
    if count == 0 or solid.layer >= len(stack) - count:
        return 0.0
    share = c.FASTENER_FACTOR.value * c.SCREW_AREA_SHARE.value
    return share * c.SCREW_CONDUCTIVITY.value


def _insets(hive: HiveSolids, table: Mapping[str, Material]) -> list[Body]:
    """Return posts, battens, frames, blocks, the follower board and legs."""
    return [
        replace(
            _body(solid, solid.part, table[solid.material].conductivity_w_mk, table),
            role=solid.role,
            opening=solid.id.opening,
            soft=solid.role == "entrance block",
        )
        for solid in hive.inset
        if solid.role not in ("divider plate", "nest bars", "slatted rack")
    ]


def _body(solid: Solid, part: str, conductivity: float, table: Mapping[str, Material]) -> Body:
    material = table[solid.material]
    shape = _block(solid.shape)
    if not material.has_grain:
        return Body(part=part, shape=shape, conductivity_w_mk=conductivity)
    return Body(
        part=part,
        shape=shape,
        conductivity_w_mk=conductivity,
        grain=solid.grain,
        along_grain=c.ALONG_GRAIN.value,
    )


def _holes(design: Design, hive: HiveSolids) -> list[Body]:
    """Return the still air in the ways of openings, as well insulating as a closed gap."""
    if isinstance(hive.cavity, Ring):
        return []
    names = {o.id: o for o in design.openings}
    holes = []
    for hole in hive.holes:
        opening = names[hole.opening]
        face: Face = opening.side if opening.side in ("lid", "floor") else "walls"
        deep = design.shell.thickness_m(face)
        r = air_gap_resistance_m2k_w(min(deep, _WIDEST_GAP_M), DIRECTIONS[face])
        holes.append(
            Body(
                part=f"air in: {opening.name}",
                role="opening air",
                opening=opening.name,
                shape=hole.shape,
                conductivity_w_mk=deep / r,
                soft=True,
            )
        )
    return holes


def _zones(cavity: Cuboid) -> list[Cuboid]:
    low, high = zone_tops_m(cavity.z1 - cavity.z0)
    levels = (cavity.z0, cavity.z0 + low, cavity.z0 + high, cavity.z1)
    return [replace(cavity, z0=a, z1=b) for a, b in pairwise(levels)]


def _block(shape: Shape) -> Cuboid:
    """Return a shape as a block of the box; a round one along its radius and round its axis."""
    if isinstance(shape, Cuboid):
        return shape
    return Cuboid(
        x0=shape.inner_radius_m,
        x1=shape.outer_radius_m,
        y0=0.0,
        y1=2 * pi,
        z0=shape.z0,
        z1=shape.z1,
    )


def _recess(design: Design, hive: HiveSolids, around: Cuboid) -> Cuboid | None:
    """Return the hole in the wall before the panes of a window, open to the outside air."""
    panes = [s.shape for s in hive.solids if s.role == "window" and isinstance(s.shape, Cuboid)]
    if design.window is None or not panes:
        return None
    box = _bounds(panes)
    beyond = {
        "front": replace(box, y0=around.y0, y1=box.y0),
        "back": replace(box, y0=box.y1, y1=around.y1),
        "left": replace(box, x0=around.x0, x1=box.x0),
        "right": replace(box, x0=box.x1, x1=around.x1),
    }
    return beyond[design.window.side]


def _bounds(shapes: Sequence[Cuboid]) -> Cuboid:
    return Cuboid(
        x0=min(s.x0 for s in shapes),
        x1=max(s.x1 for s in shapes),
        y0=min(s.y0 for s in shapes),
        y1=max(s.y1 for s in shapes),
        z0=min(s.z0 for s in shapes),
        z1=max(s.z1 for s in shapes),
    )


def _grown(box: Cuboid) -> Cuboid:
    """Return a block with room for the outside air round it; none inside an axis or an angle."""
    a = _AROUND_M
    if box.y1 == 2 * pi and box.y0 == 0.0:
        return replace(box, x1=box.x1 + a, z0=box.z0 - a, z1=box.z1 + a)
    return Cuboid(
        x0=box.x0 - a, x1=box.x1 + a, y0=box.y0 - a, y1=box.y1 + a, z0=box.z0 - a, z1=box.z1 + a
    )


def common(a: Cuboid, b: Cuboid) -> Cuboid | None:
    """Return what two blocks share, None when that is nothing."""
    shape = Cuboid(
        x0=max(a.x0, b.x0),
        x1=min(a.x1, b.x1),
        y0=max(a.y0, b.y0),
        y1=min(a.y1, b.y1),
        z0=max(a.z0, b.z0),
        z1=min(a.z1, b.z1),
    )
    overlaps = shape.x1 > shape.x0 and shape.y1 > shape.y0 and shape.z1 > shape.z0
    return shape if overlaps else None
