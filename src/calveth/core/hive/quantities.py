"""Areas, litres and weights, all taken from the solids."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import pi

from calveth.core.hive.design import FACES, Face
from calveth.core.hive.solids import Cuboid, HiveSolids, Ring, Shape
from calveth.core.materials import Material


@dataclass(frozen=True, slots=True, kw_only=True)
class FaceArea:
    """Inner and outer area of a face [m²] and the inner edges it shares with other faces [m]."""

    inner_m2: float
    outer_m2: float
    edge_m: float


def cavity_litres(hive: HiveSolids) -> float:
    """Return the volume of the room inside [L], frames not deducted."""
    return hive.cavity.volume_m3 * 1000.0


def outer_size_m(hive: HiveSolids) -> tuple[float, float, float]:
    """Return the outer width, length and height [m]."""
    boxes = [_bounds(solid.shape) for solid in hive.solids if solid.face is not None]
    return (
        max(b.x1 for b in boxes) - min(b.x0 for b in boxes),
        max(b.y1 for b in boxes) - min(b.y0 for b in boxes),
        max(b.z1 for b in boxes) - min(b.z0 for b in boxes),
    )


def part_weights_kg(hive: HiveSolids, materials: Mapping[str, Material]) -> dict[str, float]:
    """Return the empty weight [kg] of every part a person lifts, openings cut out."""
    weights: dict[str, float] = {}
    for solid in hive.solids:
        density = materials[solid.material].density_kg_m3
        if solid.second_share > 0:
            second = materials[solid.second].density_kg_m3
            density += solid.second_share * (second - density)
        weights[solid.part] = weights.get(solid.part, 0.0) + solid.shape.volume_m3 * density
    for cut in hive.cuts:
        weights[cut.part] -= cut.volume_m3 * materials[cut.material].density_kg_m3
    return weights


def face_areas(hive: HiveSolids) -> dict[Face, FaceArea]:
    """Return the areas of walls, lid and floor, read off the cavity and the outermost solids."""
    outer = {face: _outer_bounds(hive, face) for face in FACES}
    cavity = hive.cavity
    height = cavity.z1 - cavity.z0
    if isinstance(cavity, Ring):
        radius, trunk = cavity.outer_radius_m, (outer["walls"].x1 - outer["walls"].x0) / 2
        ring_edge = 2 * pi * radius
        plate = FaceArea(inner_m2=pi * radius**2, outer_m2=pi * trunk**2, edge_m=ring_edge)
        walls = FaceArea(
            inner_m2=ring_edge * height,
            outer_m2=2 * pi * trunk * _full_height(outer),
            edge_m=2 * ring_edge,
        )
        return {"walls": walls, "lid": plate, "floor": plate}
    width, length = cavity.x1 - cavity.x0, cavity.y1 - cavity.y0
    out_w = outer["walls"].x1 - outer["walls"].x0
    out_l = outer["walls"].y1 - outer["walls"].y0
    perimeter = 2 * (width + length)
    plate = FaceArea(inner_m2=width * length, outer_m2=out_w * out_l, edge_m=perimeter)
    # The four upright edges lie between two walls: the walls own both their halves.
    walls = FaceArea(
        inner_m2=perimeter * height,
        outer_m2=2 * (out_w + out_l) * _full_height(outer),
        edge_m=2 * perimeter + 8 * height,
    )
    return {"walls": walls, "lid": plate, "floor": plate}


def _full_height(outer: Mapping[Face, Cuboid]) -> float:
    return outer["lid"].z1 - outer["floor"].z0


def _outer_bounds(hive: HiveSolids, face: Face) -> Cuboid:
    boxes = [_bounds(solid.shape) for solid in hive.solids if solid.face == face]
    return Cuboid(
        x0=min(b.x0 for b in boxes),
        x1=max(b.x1 for b in boxes),
        y0=min(b.y0 for b in boxes),
        y1=max(b.y1 for b in boxes),
        z0=min(b.z0 for b in boxes),
        z1=max(b.z1 for b in boxes),
    )


def _bounds(shape: Shape) -> Cuboid:
    if isinstance(shape, Cuboid):
        return shape
    r = shape.outer_radius_m
    return Cuboid(
        x0=shape.x - r, x1=shape.x + r, y0=shape.y - r, y1=shape.y + r, z0=shape.z0, z1=shape.z1
    )
