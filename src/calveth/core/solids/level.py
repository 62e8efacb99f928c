"""The hive cut level, as flat pieces taken from the solids: x to the right, y (to the back) up."""

from __future__ import annotations

from dataclasses import dataclass

from calveth.core.solids.parts import HiveSolids
from calveth.core.solids.shapes import Cuboid, Ring


@dataclass(frozen=True, slots=True, kw_only=True)
class LevelPiece:
    """A piece of a level cut [m]; ``round`` ones are rings that fill the rectangle.

    ``comb`` marks frames, which hang in the room.
    """

    x0: float
    x1: float
    y0: float
    y1: float
    material: str
    round: bool = False
    comb: bool = False


def cut_level(hive: HiveSolids, at_m: float) -> list[LevelPiece]:
    """Return what a level cut at a height of the box [m] goes through, outer rings first."""
    cut_pieces = [
        level_piece(hive, solid.shape, at_m, solid.material)
        for solid in (*hive.solids, *hive.inset)
        if solid.shape.z0 <= at_m < solid.shape.z1
    ]
    cut_pieces += [
        level_piece(hive, f, at_m, comb=True) for f in hive.frames if f.z0 <= at_m < f.z1
    ]
    return cut_pieces


def level_piece(
    hive: HiveSolids, shape: Cuboid | Ring, at_m: float, material: str = "", *, comb: bool = False
) -> LevelPiece:
    """Return what a level cut makes of a shape."""
    if isinstance(shape, Ring):
        r = shape.outer_radius_m
        return LevelPiece(
            x0=shape.x - r,
            x1=shape.x + r,
            y0=shape.y - r,
            y1=shape.y + r,
            material=material,
            round=True,
        )
    y0, y1 = shape.y0, shape.y1
    if hive.bend is not None:
        y0, y1 = (float(hive.bend.place(y, at_m)[0]) for y in (y0, y1))
    return LevelPiece(x0=shape.x0, x1=shape.x1, y0=y0, y1=y1, material=material, comb=comb)
