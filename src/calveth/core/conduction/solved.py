"""One solution of a hive on the grid that suits it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import inf

import numpy as np
from numpy.typing import NDArray

from calveth.core.conduction.grid import NO_SHARP, Fineness, Sharp, make_grid
from calveth.core.conduction.hive_model import (
    BEYOND,
    OUTSIDE,
    RECESS,
    ROOM,
    ZONES,
    Films,
    HiveParts,
    hive_parts,
)
from calveth.core.conduction.parts import Body
from calveth.core.conduction.solve import Conduction, solve_conduction
from calveth.core.hive.design import Design
from calveth.core.materials import Material
from calveth.core.solids.shapes import Ring

FloatArray = NDArray[np.float64]

HIVE_FINENESS = Fineness(first_m=0.006, growth=1.5, least=3)
BENT_FINENESS = Fineness(first_m=0.010, growth=1.6, least=2)
"""Of hives solved by elements, which need fewer points for the same error."""


METAL_W_MK = 10.0
"""What conducts as well is metal: it draws the heat of all round it [W/(m·K)]."""
# Cells beside metal that passes insulation: a 1 mm sheet through 60 mm of foam comes out within 2 %
# of its extra heat; with the usual cells a quarter of it is lost.
BESIDE_METAL_M, BESIDE_METAL_GROWTH = 0.0002, 1.5
MOST_UPRIGHT, MOST_BENT = 120_000, 32_000
"""Cells of the usual grid: more of them belong to hives of odd steps, not to a finer answer [-]."""
_MOST_SHARP = 70_000
_COARSER_STEPS = 8


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Solved:
    """One solution of a hive, with what its parts are."""

    parts: HiveParts
    field: Conduction

    @property
    def space_share(self) -> FloatArray:
        """Temperature of each space when base, nest or crown is at 1 and outside at 0 [3, S].

        Of one row when the room inside is one. The room behind a follower board takes the
        temperature that loses what it gains.
        """
        spaces = self.field.model.spaces
        rooms = ZONES if any(s.name == ZONES[0] for s in spaces) else (ROOM,)
        known = np.zeros((len(rooms), len(spaces)))
        for zone, name in enumerate(rooms):
            known[zone, [k for k, s in enumerate(spaces) if s.name == name]] = 1.0
        free = [k for k, s in enumerate(spaces) if s.name == BEYOND]
        for k in free:
            g = self.field.coupling_w_k[k]
            known[:, k] = known @ g / g.sum()
        return known

    def outdoors(self) -> list[int]:
        """Return the spaces that are outside air."""
        return [k for k, s in enumerate(self.field.model.spaces) if s.name in (OUTSIDE, RECESS)]


def fineness_of(parts: HiveParts) -> Fineness:
    """Return the fineness a hive is solved at: finer for little boxes."""
    usual = BENT_FINENESS if parts.model.bend is not None else HIVE_FINENESS
    cavity = parts.hive.cavity
    if isinstance(cavity, Ring):
        return usual
    least = min(cavity.x1 - cavity.x0, cavity.y1 - cavity.y0, cavity.z1 - cavity.z0)
    return replace(usual, first_m=min(usual.first_m, 0.03 * least))


def within(parts: HiveParts, fineness: Fineness) -> Fineness:
    """Return a fineness that keeps a hive of very many planes within what is solved in seconds.

    Each step makes cells a fifth longer; no hive of the demo takes one.
    """
    most = MOST_BENT if parts.model.bend is not None else MOST_UPRIGHT
    flat = "y" if parts.model.round else ""
    for _ in range(_COARSER_STEPS):
        if make_grid(parts.model, fineness, flat).cells <= most:
            break
        fineness = fineness.finer(1 / 1.2)
    return fineness


def solve_hive(
    design: Design,
    materials: Mapping[str, Material],
    films: Films = "heat",
    finer: float = 1.0,
    *,
    holes: bool = True,
) -> Solved:
    """Return one solution of a hive on its grid, ``finer`` times as fine.

    Raises
    ------
    DomainError
        For a grid too large, or parts that fold over themselves.
    NotSolvedError
        When there is no answer.
    """
    parts = hive_parts(design, materials, films, holes=holes)
    fineness = within(parts, fineness_of(parts))
    flat = "y" if parts.model.round else ""
    fineness, sharp = sharpened(parts, fineness, films)
    grid = make_grid(parts.model, fineness.finer(finer) if finer != 1 else fineness, flat, sharp)
    return Solved(parts=parts, field=solve_conduction(parts.model, grid))


def sharpened(parts: HiveParts, fineness: Fineness, films: Films) -> tuple[Fineness, Sharp]:
    """Return a fineness and its sharp planes: the room's edges for cold spots, faces of metal.

    The finest that is solved in seconds: beside metal the cells are shortest, less so, or as usual,
    and hives of very many planes have no sharp ones at all.
    """
    keenest = replace(fineness, sharp_m=BESIDE_METAL_M, sharp_growth=BESIDE_METAL_GROWTH)
    edges = room_limits_m(parts) if films == "damp" else NO_SHARP
    metal = metal_planes(parts)
    both = tuple((*a, *b) for a, b in zip(edges, metal, strict=True))
    tried: list[tuple[Fineness, Sharp]] = []
    if any(metal):
        tried = [(keenest, (both[0], both[1], both[2])), (fineness, (both[0], both[1], both[2]))]
    tried.append((fineness, edges))
    flat = "y" if parts.model.round else ""
    most = MOST_BENT if parts.model.bend is not None else _MOST_SHARP
    for fine, sharp in tried:
        if make_grid(parts.model, fine, flat, sharp).cells <= most:
            return fine, sharp
    return fineness, NO_SHARP


def room_limits_m(parts: HiveParts) -> Sharp:
    """Return where the colony's room ends along x, y and z [m].

    A plane of symmetry is no end: there it is as far as infinity, as along the angle of round
    hives and in their middle.
    """
    rooms = [s.shape for s in parts.model.inside if s.name in (*ZONES, ROOM)]
    limits = []
    for axis, half in zip("xyz", (parts.half_x, parts.half_y, False), strict=True):
        low = min(getattr(r, f"{axis}0") for r in rooms)
        high = max(getattr(r, f"{axis}1") for r in rooms)
        if parts.model.round and axis != "z":
            low, high = -inf, (high if axis == "x" else inf)
        limits.append((low, inf) if half else (low, high))
    return limits[0], limits[1], limits[2]


def crosses(body: Body, parts: HiveParts) -> bool:
    """Return whether a body is metal that may pass insulation: all but a cladding outside."""
    if body.conductivity_w_mk < METAL_W_MK:
        return False
    layers = [b.layer for b in parts.model.bodies if b.face == body.face and b.layer is not None]
    return body.role != "layer" or body.layer is None or body.layer > 0 or max(layers) == 0


def metal_planes(parts: HiveParts) -> Sharp:
    """Return the planes metal ends at that may pass insulation."""
    metal = [b.shape for b in parts.model.bodies if crosses(b, parts)]
    x, y, z = (
        sorted({v for m in metal for v in (getattr(m, f"{axis}0"), getattr(m, f"{axis}1"))})
        for axis in "xyz"
    )
    return x, y, z
