"""Areas, litres, weights and balance, all taken from the solids."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import pi
from types import MappingProxyType

from calveth.core.hive.design import FACES, Face
from calveth.core.materials import Material
from calveth.core.remembered import remembered
from calveth.core.solids.parts import HiveSolids, Solid
from calveth.core.solids.shapes import Cuboid, Ring, SectionMap, Shape, bounds, centre_m, volume_m3


@dataclass(frozen=True, slots=True, kw_only=True)
class FaceArea:
    """Inner and outer area of a face [m²] and the inner edges it shares with other faces [m]."""

    inner_m2: float
    outer_m2: float
    edge_m: float


def cavity_litres(hive: HiveSolids) -> float:
    """Return the volume of the room the colony has [L], frames not deducted."""
    return volume_m3(hive.cavity, hive.bend) * 1000.0


def outer_size_m(hive: HiveSolids) -> tuple[float, float, float]:
    """Return the outer width, length and height [m], legs not counted."""
    boxes = [bounds(s.shape, hive.bend) for s in hive.solids if s.face is not None]
    return (
        max(b.x1 for b in boxes) - min(b.x0 for b in boxes),
        max(b.y1 for b in boxes) - min(b.y0 for b in boxes),
        max(b.z1 for b in boxes) - min(b.z0 for b in boxes),
    )


def solid_weights_kg(
    hive: HiveSolids, materials: Mapping[str, Material]
) -> list[tuple[Solid, float]]:
    """Return every piece with its weight [kg]; what an inset stands in place of is deducted."""
    weights = []
    for solid in hive.pieces:
        density = materials[solid.material].density_kg_m3
        if solid.second_share > 0:
            second = materials[solid.second].density_kg_m3
            density += solid.second_share * (second - density)
        volume = volume_m3(solid.shape, hive.bend)
        if solid.face is not None and isinstance(solid.shape, Cuboid):
            volume -= sum(overlap_m3(solid.shape, s.shape, hive.bend) for s in hive.inset)
        weights.append((solid, volume * density))
    return weights


def part_weights_kg(hive: HiveSolids, materials: Mapping[str, Material]) -> dict[str, float]:
    """Return the empty weight [kg] of every part a person lifts, openings cut out."""
    weights: dict[str, float] = {}
    for solid, weight in solid_weights_kg(hive, materials):
        part = solid.lifted_with.label
        weights[part] = weights.get(part, 0.0) + weight
    for cut in hive.cuts:
        weights[cut.part.label] -= cut.volume_m3 * materials[cut.material].density_kg_m3
    return weights


def centre_of_gravity_m(
    hive: HiveSolids, materials: Mapping[str, Material]
) -> tuple[float, float, float]:
    """Return where the empty hive balances (x, y, z) [m]; openings are not deducted."""
    weighed = solid_weights_kg(hive, materials)
    total = sum(weight for _, weight in weighed)
    middles = [(centre_m(solid.shape, hive.bend), weight) for solid, weight in weighed]
    x, y, z = (sum(at[k] * weight for at, weight in middles) / total for k in range(3))
    return x, y, z


def overlap_m3(a: Shape, b: Shape, bend: SectionMap | None = None) -> float:
    """Return the volume two blocks of a hive with this bend share [m³]; round bodies share none."""
    if isinstance(a, Ring) or isinstance(b, Ring):
        return 0.0
    shared = Cuboid(
        x0=max(a.x0, b.x0),
        x1=min(a.x1, b.x1),
        y0=max(a.y0, b.y0),
        y1=min(a.y1, b.y1),
        z0=max(a.z0, b.z0),
        z1=min(a.z1, b.z1),
    )
    if min(shared.x1 - shared.x0, shared.y1 - shared.y0, shared.z1 - shared.z0) <= 0:
        return 0.0
    return volume_m3(shared, bend)


@remembered(256)
def face_areas(hive: HiveSolids) -> Mapping[Face, FaceArea]:
    """Return the areas of walls, lid and floor round the colony's room, which nobody may change.

    A follower board counts as a wall: to be on the safe side the estimate takes no credit for the
    room behind it; the solved hive does.
    """
    cavity = hive.cavity
    if isinstance(cavity, Ring):
        return MappingProxyType(_round_areas(hive, cavity))
    bend = hive.bend or _straight(cavity)
    wall = _wall_thickness(hive)
    y0, y1, z0, z1 = cavity.y0, cavity.y1, cavity.z0, cavity.z1
    width = cavity.x1 - cavity.x0
    side = bend.length_m((y0, z0), (y0, z1)) + bend.length_m((y1, z0), (y1, z1))
    section = bend.area_m2(y0, y1, z0, z1)
    outer_z = _plates(hive)
    outer_side = bend.length_m((y0 - wall, z0), (y0 - wall, z1))
    outer_side += bend.length_m((y1 + wall, z0), (y1 + wall, z1))
    outer_side *= (outer_z[1] - outer_z[0]) / (z1 - z0)
    outer_section = bend.area_m2(y0 - wall, y1 + wall, *outer_z)
    walls = FaceArea(
        inner_m2=width * side + 2 * section,
        outer_m2=(width + 2 * wall) * outer_side + 2 * outer_section,
        # The four upright edges lie between two walls: the walls own both their halves.
        edge_m=sum(_level_edge(bend, cavity, z) for z in (z0, z1)) + 4 * side,
    )
    areas: dict[Face, FaceArea] = {"walls": walls}
    for face, z in (("lid", z1), ("floor", z0)):
        inner = bend.length_m((y0, z), (y1, z))
        outer = bend.length_m((y0 - wall, z), (y1 + wall, z))
        areas[face] = FaceArea(  # type: ignore[index]
            inner_m2=width * inner,
            outer_m2=(width + 2 * wall) * outer,
            edge_m=_level_edge(bend, cavity, z),
        )
    return MappingProxyType(areas)


@dataclass(frozen=True, slots=True)
class FollowerBoard:
    """A follower board or divider: its area, and the length of its upper and lower edge."""

    area_m2: float = 0.0
    top_m: float = 0.0
    foot_m: float = 0.0


def follower_board(hive: HiveSolids) -> FollowerBoard:
    """Return what of the room's sides is no wall but a board; nothing where there is none."""
    if not hive.beyond:
        return FollowerBoard()
    room, count = hive.shell, len(hive.beyond)
    bend = hive.bend or _straight(room)
    return FollowerBoard(
        count * bend.area_m2(room.y0, room.y1, room.z0, room.z1),
        *(count * bend.length_m((room.y0, z), (room.y1, z)) for z in (room.z1, room.z0)),
    )


def _straight(cavity: Cuboid) -> SectionMap:
    half = (cavity.y1 - cavity.y0) / 2
    knots = ((half, cavity.z0), (half, cavity.z1))
    return SectionMap(middle_m=(cavity.y0 + cavity.y1) / 2, half_m=half, knots=knots)


def _level_edge(bend: SectionMap, cavity: Cuboid, z: float) -> float:
    """Return the edge of floor or ceiling [m]."""
    along = bend.length_m((cavity.y0, z), (cavity.y1, z))
    return 2 * (along + cavity.x1 - cavity.x0)


def _wall_thickness(hive: HiveSolids) -> float:
    """Return how thick the walls are, skirts of the lid left out [m]."""
    return hive.shell.x0 - min(
        s.shape.x0 for s in hive.solids if s.face == "walls" and isinstance(s.shape, Cuboid)
    )


def _plates(hive: HiveSolids) -> tuple[float, float]:
    """Return lower side of the floor and upper side of the lid [m]."""
    return (
        min(s.shape.z0 for s in hive.solids if s.face == "floor"),
        max(s.shape.z1 for s in hive.solids if s.face == "lid"),
    )


def _round_areas(hive: HiveSolids, cavity: Ring) -> dict[Face, FaceArea]:
    outer = {face: _outer_bounds(hive, face) for face in FACES}
    height = cavity.z1 - cavity.z0
    radius, trunk = cavity.outer_radius_m, (outer["walls"].x1 - outer["walls"].x0) / 2
    ring_edge = 2 * pi * radius
    plate = FaceArea(inner_m2=pi * radius**2, outer_m2=pi * trunk**2, edge_m=ring_edge)
    walls = FaceArea(
        inner_m2=ring_edge * height,
        outer_m2=2 * pi * trunk * (outer["lid"].z1 - outer["floor"].z0),
        edge_m=2 * ring_edge,
    )
    if hive.bend is None:
        return {"walls": walls, "lid": plate, "floor": plate}
    lid = replace(plate, inner_m2=hive.bend.turned_ceiling_m2())
    return {"walls": walls, "lid": lid, "floor": plate}


def _outer_bounds(hive: HiveSolids, face: Face) -> Cuboid:
    boxes = [bounds(solid.shape) for solid in hive.solids if solid.face == face]
    return Cuboid(
        x0=min(b.x0 for b in boxes),
        x1=max(b.x1 for b in boxes),
        y0=min(b.y0 for b in boxes),
        y1=max(b.y1 for b in boxes),
        z0=min(b.z0 for b in boxes),
        z1=max(b.z1 for b in boxes),
    )
