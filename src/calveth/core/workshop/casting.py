"""Parts that are cast: volume, mix by parts and mass, weights fresh and dry, the mould.

The mix is found by two sums: what is left when it has set has the density of the material, and the
grains, the water and some air fill the volume. Densities of loose materials are estimates; a first
small batch, weighed, says more.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise

from calveth.core import constants_building as cb
from calveth.core.constants import GRAVITY
from calveth.core.materials import Material
from calveth.core.solids.parts import PartId
from calveth.core.solids.shapes import Cuboid
from calveth.core.workshop.piece import Piece, bounding

# Foamed and light concrete of these densities; lighter and heavier is another recipe [kg/m³].
_LIGHTEST, _HEAVIEST = 400, 1800

# Cement of a light mix by the density it has when dry [kg/m³]; common practice, no source.
_CEMENT = ((600.0, 280.0), (1000.0, 320.0), (1400.0, 340.0))


@dataclass(frozen=True, slots=True, kw_only=True)
class Mix:
    """What goes into a cubic metre [kg], and into parts by volume with cement as one."""

    cement_kg: float
    sand_kg: float
    light_kg: float
    water_kg: float
    parts: tuple[float, float, float]

    @property
    def dry_kg(self) -> float:
        """What is left of a cubic metre when it has set and dried [kg]."""
        return self.cement_kg * (1 + cb.CEMENT_WATER.value) + self.sand_kg + self.light_kg

    @property
    def fresh_kg(self) -> float:
        """A cubic metre when it is mixed [kg]."""
        return self.cement_kg + self.sand_kg + self.light_kg + self.water_kg


@dataclass(frozen=True, slots=True, kw_only=True)
class MouldBoard:
    """A board of a mould: where, how many, its sizes [m]."""

    where: str
    count: int
    length_m: float
    width_m: float
    thickness_m: float


@dataclass(frozen=True, slots=True, kw_only=True)
class CastPart:
    """One part that is cast.

    ``litres`` fill the mould, ``mixed_l`` are mixed; ``fresh_kg`` and ``dry_kg`` are its weights,
    ``pressure_pa`` presses on the foot of the mould. ``mix`` is None where Calveth knows none for
    the material.
    """

    part: PartId
    count: int
    material: str
    litres: float
    mixed_l: float
    fresh_kg: float
    dry_kg: float
    pressure_pa: float
    mix: Mix | None
    mould: tuple[MouldBoard, ...]


def mix_for(material: Material) -> Mix | None:
    """Return a mix of cement, sand and light grains with the density of a material, else None.

    >>> from calveth.catalogue.shipped import shipped_materials
    >>> table = {m.id: m for m in shipped_materials()}
    >>> round(mix_for(table["cast-1000"]).dry_kg)
    1000
    """
    density = material.density_kg_m3
    if material.id == "straw-clay" or not _LIGHTEST <= density <= _HEAVIEST:
        return None
    cement = _between(density)
    water = cement * cb.WATER_CEMENT.value
    grains_kg = density - cement * (1 + cb.CEMENT_WATER.value)
    room = 1 - cement / cb.CEMENT_DENSITY.value - water / 1000 - cb.AIR_IN_MIX.value
    light, sand = cb.LIGHT_GRAIN.value, cb.SAND_DENSITY.value
    light_kg = (room - grains_kg / sand) / (1 / light - 1 / sand)
    sand_kg = grains_kg - light_kg
    if sand_kg < 0:
        sand_kg, light_kg = 0.0, grains_kg
    if light_kg < 0 or grains_kg <= 0:
        return None
    volumes = (
        cement / cb.CEMENT_LOOSE.value,
        sand_kg / cb.SAND_LOOSE.value,
        light_kg / cb.LIGHT_LOOSE.value,
    )
    parts = (1.0, volumes[1] / volumes[0], volumes[2] / volumes[0])
    return Mix(cement_kg=cement, sand_kg=sand_kg, light_kg=light_kg, water_kg=water, parts=parts)


def _between(density: float) -> float:
    points = _CEMENT
    if density <= points[0][0]:
        return points[0][1]
    for (x0, y0), (x1, y1) in pairwise(points):
        if density <= x1:
            return y0 + (y1 - y0) * (density - x0) / (x1 - x0)
    return points[-1][1]


def cast_parts(pieces: Sequence[Piece], materials: Mapping[str, Material]) -> tuple[CastPart, ...]:
    """Return every part that is cast; boxes alike are one mould used several times."""
    casts: dict[tuple[object, ...], list[tuple[PartId, list[Piece]]]] = {}
    by_part: dict[tuple[PartId, str], list[Piece]] = {}
    for piece in pieces:
        if piece.bought_as == "cast":
            by_part.setdefault((piece.part, piece.material), []).append(piece)
    for (part, material), group in by_part.items():
        volume = sum(p.solid_m3 for p in group)
        key = (part.role, material, round(volume, 7), _size_key(group))
        casts.setdefault(key, []).append((part, group))
    return tuple(_cast(same, materials) for same in casts.values())


def _size_key(group: Sequence[Piece]) -> tuple[float, ...]:
    box = bounding(p.shape for p in group if isinstance(p.shape, Cuboid))
    return tuple(round(v, 6) for v in (box.x1 - box.x0, box.y1 - box.y0, box.z1 - box.z0))


def _cast(same: list[tuple[PartId, list[Piece]]], materials: Mapping[str, Material]) -> CastPart:
    part, group = same[0]
    material = materials[group[0].material]
    volume = sum(p.solid_m3 for p in group)
    mix = mix_for(material)
    mould = mould_of(group)
    high = max((b.width_m for b in mould if b.where != "base"), default=0.0)
    fresh = mix.fresh_kg if mix is not None else material.density_kg_m3 * cb.FRESH_OVER_DRY.value
    return CastPart(
        part=part,
        count=len(same),
        material=material.id,
        litres=1000 * volume,
        mixed_l=1000 * volume * cb.MIX_SPARE.value,
        fresh_kg=volume * fresh,
        dry_kg=volume * material.density_kg_m3,
        pressure_pa=fresh * GRAVITY.value * high,
        mix=mix,
        mould=mould,
    )


def mould_of(group: Sequence[Piece]) -> tuple[MouldBoard, ...]:
    """Return the boards of a mould: a frame outside, a core inside walls, a base under it all."""
    thick = cb.MOULD_BOARD.value
    box = bounding(p.shape for p in group if isinstance(p.shape, Cuboid))
    wide, deep, high = box.x1 - box.x0, box.y1 - box.y0, box.z1 - box.z0
    boards = [
        MouldBoard(
            where="outside, long",
            count=2,
            length_m=max(wide, deep) + 2 * thick,
            width_m=high,
            thickness_m=thick,
        ),
        MouldBoard(
            where="outside, short",
            count=2,
            length_m=min(wide, deep),
            width_m=high,
            thickness_m=thick,
        ),
    ]
    walls = [p.shape for p in group if p.face == "walls" and isinstance(p.shape, Cuboid)]
    if walls:
        t = min(min(w.x1 - w.x0, w.y1 - w.y0) for w in walls)
        inner = sorted((wide - 2 * t, deep - 2 * t))
        tall = max(w.z1 - w.z0 for w in walls)
        boards += [
            MouldBoard(
                where="core, long", count=2, length_m=inner[1], width_m=tall, thickness_m=thick
            ),
            MouldBoard(
                where="core, short",
                count=2,
                length_m=inner[0] - 2 * thick,
                width_m=tall,
                thickness_m=thick,
            ),
        ]
    boards.append(
        MouldBoard(
            where="base",
            count=1,
            length_m=max(wide, deep) + 2 * thick,
            width_m=min(wide, deep) + 2 * thick,
            thickness_m=thick,
        )
    )
    return tuple(boards)
