"""A level or upright section through a joint, solved a metre deep, and what is read off it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from math import inf
from typing import TypeVar

import numpy as np

from calveth.core.conduction.grid import NO_SHARP, Fineness, Sharp, make_grid
from calveth.core.conduction.hive_model import (
    OUTSIDE,
    RECESS,
    ROOM,
    ZONES,
    Films,
    HiveParts,
    common,
    hive_parts,
)
from calveth.core.conduction.parts import AirSpace, Body, ConductionModel
from calveth.core.conduction.solve import Conduction, solve_conduction
from calveth.core.conduction.solved import (
    BESIDE_METAL_GROWTH,
    BESIDE_METAL_M,
    metal_planes,
    room_limits_m,
)
from calveth.core.conduction.spots import limit_factors
from calveth.core.hive.design import Design
from calveth.core.materials import Material
from calveth.core.solids.shapes import Cuboid

SECTION_FINENESS = Fineness(first_m=0.003, growth=1.4, least=4)
_SAME_M = 1e-9
Part = TypeVar("Part", Body, AirSpace)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class JointSection:
    """A solved section through a joint, and where the colony's room ends in it [m].

    A room that goes on past the section ends as far as infinity.
    """

    field: Conduction
    room_m: Sharp

    @property
    def through_w_k(self) -> float:
        """The conductance from all rooms to all outside air [W/K]."""
        names = [s.name for s in self.field.model.spaces]
        out = [k for k, n in enumerate(names) if n in (OUTSIDE, RECESS)]
        rooms = [k for k in range(len(names)) if k not in out]
        return float(sum(self.field.coupling_w_k[r, o] for r in rooms for o in out))

    @property
    def coldest(self) -> float:
        """The coldest temperature factor of the inner surface, as a very fine grid has it [-]."""
        field = self.field
        names = [s.name for s in field.model.spaces]
        inside = np.array([float(n not in (OUTSIDE, RECESS)) for n in names])
        in_room = inside[field.surfaces.space] > 0
        factors = limit_factors(field, field.surface_degc(inside), in_room, self.room_m)
        return float(factors[in_room].min())


def section_conduction(
    design: Design,
    materials: Mapping[str, Material],
    films: Films,
    axis: str,
    at: float,
    region: Callable[[Cuboid], Cuboid],
    leave_out: tuple[str, ...] = (),
    finer: float = 1.0,
) -> JointSection:
    """Return a section across ``axis`` at a place, a metre deep, cut to a region.

    Its grid is that of a whole hive: cells are short beside metal that passes insulation, and with
    the films for damp beside the edges of the room.
    """
    parts = hive_parts(design, materials, films, holes=False)
    model = parts.model
    low, high = f"{axis}0", f"{axis}1"

    def flat(shape: Cuboid) -> Cuboid | None:
        if not getattr(shape, low) <= at < getattr(shape, high):
            return None
        # A metre deep, so that its coupling is a length's and ψ can be read off.
        deep = {low: 0.0, high: 1.0}
        shape = replace(shape, **deep)
        return common(shape, region(shape))

    def kept(parts: tuple[Part, ...]) -> tuple[Part, ...]:
        cut = [(p, flat(p.shape)) for p in parts if getattr(p, "role", "") not in leave_out]
        return tuple(replace(p, shape=shape) for p, shape in cut if shape is not None)

    small = ConductionModel(
        outside=kept(model.outside),
        bodies=kept(model.bodies),
        inside=kept(model.inside),
        bend=model.bend if axis == "x" else None,
    )
    cut = replace(parts, model=small)
    room = _ends_in(cut, room_limits_m(parts), axis)
    metal = metal_planes(cut)
    edges = room if films == "damp" else NO_SHARP
    x, y, z = ((*a, *b) for a, b in zip(edges, metal, strict=True))
    fineness = SECTION_FINENESS
    if any(metal):
        fineness = replace(fineness, sharp_m=BESIDE_METAL_M, sharp_growth=BESIDE_METAL_GROWTH)
    if finer != 1:
        fineness = fineness.finer(finer)
    grid = make_grid(small, fineness, axis, (x, y, z))
    return JointSection(field=solve_conduction(small, grid), room_m=room)


def _ends_in(section: HiveParts, room: Sharp, across: str) -> Sharp:
    """Return which ends of a room lie in a section across an axis [m]; infinity elsewhere."""
    shapes = [s.shape for s in section.model.inside if s.name in (*ZONES, ROOM)]
    ends = []
    for axis, (low, high) in zip("xyz", room, strict=True):
        if axis == across or not shapes:
            ends.append((-inf, inf))
            continue
        begins = min(getattr(s, f"{axis}0") for s in shapes)
        stops = max(getattr(s, f"{axis}1") for s in shapes)
        ends.append(
            (
                low if abs(begins - low) < _SAME_M else -inf,
                high if abs(stops - high) < _SAME_M else inf,
            )
        )
    return ends[0], ends[1], ends[2]
