"""What the solved conduction of a hive tells: couplings, watts by part, cold spots, its field."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, fields
from functools import cached_property, partial
from types import MappingProxyType

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.conduction.fields import (
    Beads,
    SectionField,
    Skin,
    beads_of,
    section_field,
    skin_of,
)
from calveth.core.conduction.hive_model import (
    BEYOND,
    ROOM,
    ZONES,
)
from calveth.core.conduction.solve import NotSolvedError, eliminate
from calveth.core.conduction.solved import Solved, solve_hive
from calveth.core.conduction.spots import Spot, coldest_spots
from calveth.core.errors import DomainError
from calveth.core.hive.design import Design
from calveth.core.kept import kept
from calveth.core.materials import Material
from calveth.core.remembered import remembered
from calveth.core.solids.shapes import Ring

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, eq=False)
class Damp:
    """The cold spots beside edges, and the beads, of a shell with the films for damp."""

    spots: Mapping[str, Spot]
    beads: Beads


@dataclass(frozen=True, kw_only=True, eq=False)
class ShellAnswer:
    """What solving a shell for its heat has told; figures alone.

    Attributes
    ----------
    conductance_w_k : float
        L of the whole shell, all zones at one temperature [W/K].
    zone_w_k : array [3]
        L of base, nest and crown to the outside [W/K].
    part_w_k : mapping
        What goes into every part from the colony's room, and what each part would add if it
        conducted twice as well: (W/K, W/K).
    leaving_w_k : mapping
        What leaves every part to the outside air [W/K].
    rim_factor : float or None
        Mean temperature factor of the strip along the lid's edge, with `HEAT_FILMS`.
    upright, level : SectionField
        Fields of the section through the middle, and of a level one through the nest.
    skin : Skin
        The outer surface.
    middles : mapping
        The coldest spot in the middle of each face by name, with `HEAT_FILMS`.
    cells, residual, imbalance
        Of the solution.
    """

    conductance_w_k: float
    zone_w_k: FloatArray
    part_w_k: Mapping[str, tuple[float, float]]
    leaving_w_k: Mapping[str, float]
    rim_factor: float | None
    upright: SectionField
    level: SectionField
    skin: Skin
    middles: Mapping[str, Spot]
    cells: int
    residual: float
    imbalance: float


@dataclass(frozen=True, kw_only=True, eq=False)
class HiveConduction(ShellAnswer):
    """The solved shell of a hive.

    Its cold spots and beads are solved with the films for damp when they are first asked for: what
    is tried and thrown away (remedies, sweeps) does without.
    """

    solve_damp: Callable[[], Damp]

    @cached_property
    def _damp(self) -> Damp:
        return self.solve_damp()

    @property
    def coldest(self) -> Mapping[str, Spot]:
        """The coldest spot of each inner surface by name.

        Beside edges with `DAMP_FILMS`, in the middle of faces with `HEAT_FILMS`.
        """
        return MappingProxyType({**self._damp.spots, **self.middles})

    @property
    def beads(self) -> Beads:
        """The inner surface along the upright section, with the films for damp."""
        return self._damp.beads

    @property
    def coldest_spot(self) -> Spot:
        """The coldest of all."""
        return min(self.coldest.values(), key=lambda spot: spot.factor)


def hive_conduction(
    design: Design,
    materials: Mapping[str, Material],
    finer: float = 1.0,
    *,
    holes: bool = True,
) -> HiveConduction:
    """Return the solved conduction of a hive with outer film 0.04 m²·K/W; remembered.

    Raises
    ------
    DomainError
        For a grid too large, or parts that fold over themselves.
    NotSolvedError
        When there is no answer.
    """
    used = tuple(materials[key] for key in sorted(set(design.material_ids)))
    return _hive_conduction(design, used, finer, holes)


FINER_CHECK = 1.3
"""How many times as fine the grid is that tells how far an answer may be off [-]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class GridChange:
    """What a finer grid changes: the conductance as a share [-], the spots' factors by most [-]."""

    conductance: float
    factor: float


def grid_change(
    design: Design, materials: Mapping[str, Material], solved: HiveConduction
) -> GridChange:
    """Return what a grid `FINER_CHECK` times as fine changes of a solved shell.

    Where that is too large, what one so many times as coarse changes.

    Raises
    ------
    NotSolvedError
        When there is no answer.
    """
    try:
        finer = hive_conduction(design, materials, FINER_CHECK)
    except DomainError:
        finer = hive_conduction(design, materials, 1 / FINER_CHECK)
    both = solved.coldest.keys() & finer.coldest.keys()
    return GridChange(
        conductance=finer.conductance_w_k / solved.conductance_w_k - 1,
        factor=max(
            (abs(finer.coldest[n].factor - solved.coldest[n].factor) for n in both), default=0.0
        ),
    )


@remembered(48)
def _hive_conduction(
    design: Design,
    used: tuple[Material, ...],
    finer: float,
    holes: bool,
) -> HiveConduction:
    asked = (design, used, finer, holes)
    answer = kept(ShellAnswer, asked, lambda: _solved_for_heat(*asked))
    known = {f.name: getattr(answer, f.name) for f in fields(ShellAnswer)}
    return HiveConduction(**known, solve_damp=partial(_damp, *asked))


def _solved_for_heat(
    design: Design, used: tuple[Material, ...], finer: float, holes: bool
) -> ShellAnswer:
    materials = {m.id: m for m in used}
    heat = solve_hive(design, materials, "heat", finer, holes=holes)
    zones = zone_conductances(heat)
    # Away from edges the air moves as over any face: the films of EN ISO 6946 hold there.
    middles = {name: spot for name, spot in coldest_spots(heat).items() if name.endswith("middle")}
    return ShellAnswer(
        conductance_w_k=float(zones.sum()),
        zone_w_k=zones,
        part_w_k=MappingProxyType(_by_part(heat)),
        leaving_w_k=MappingProxyType(_leaving(heat)),
        rim_factor=_rim_factor(heat),
        upright=section_field(heat, "upright"),
        level=section_field(heat, "level"),
        skin=skin_of(heat),
        middles=MappingProxyType(middles),
        cells=heat.field.unknowns,
        residual=heat.field.residual,
        imbalance=heat.field.imbalance,
    )


def _damp(design: Design, used: tuple[Material, ...], finer: float, holes: bool) -> Damp:
    """Return what the films for damp tell of a shell."""

    def solve() -> Damp:
        solved = _damp_or_heat(design, {m.id: m for m in used}, finer, holes=holes)
        return Damp(MappingProxyType(coldest_spots(solved)), beads_of(solved))

    return kept(Damp, (design, used, finer, holes), solve)


def _damp_or_heat(
    design: Design, materials: Mapping[str, Material], finer: float, *, holes: bool
) -> Solved:
    """Return the solution with the films for damp, or that for heat where it has none.

    So a shell counts as solved by its heat alone, whoever asks for its spots or not.
    """
    try:
        return solve_hive(design, materials, "damp", finer, holes=holes)
    except (NotSolvedError, DomainError):
        return solve_hive(design, materials, "heat", finer, holes=holes)


def zone_conductances(heat: Solved) -> FloatArray:
    """Return L of base, nest and crown to the outside [3] [W/K]."""
    field, out = heat.field, heat.outdoors()
    spaces = field.model.spaces
    keep = [k for k, s in enumerate(spaces) if s.name != BEYOND]
    coupling = eliminate(field.coupling_w_k, keep)
    at = [keep.index(k) for k in out]
    result = np.zeros(3)
    for row, k in enumerate(keep):
        if spaces[k].name in ZONES:
            result[ZONES.index(spaces[k].name)] = coupling[row, at].sum()
    scaled: FloatArray = result * heat.parts.times
    return scaled


def _by_part(heat: Solved) -> dict[str, tuple[float, float]]:
    """Return W/K into each part from the colony's room, and λ·dL/dλ of each part [W/K]."""
    kg_by_part, times = heat.field, heat.parts.times
    kelvin = heat.space_share.sum(axis=0)
    in_room = np.array([s.name in ZONES for s in kg_by_part.model.spaces])
    watts = in_room[kg_by_part.surfaces.space] * kg_by_part.surface_w(kelvin)
    into = np.bincount(kg_by_part.surfaces.body, watts, len(kg_by_part.model.bodies))
    gains = kg_by_part.sensitivity_w_k(kelvin)
    result: dict[str, tuple[float, float]] = {}
    for body, w, g in zip(kg_by_part.model.bodies, into, gains, strict=True):
        old = result.get(body.part, (0.0, 0.0))
        result[body.part] = (old[0] + float(w) * times, old[1] + float(g) * times)
    return result


def _leaving(heat: Solved) -> dict[str, float]:
    """Return W/K from every part to the outside air."""
    field = heat.field
    outside = np.isin(field.surfaces.space, heat.outdoors())
    watts = -field.surface_w(heat.space_share.sum(axis=0)) * outside * heat.parts.times
    result: dict[str, float] = {}
    for body, w in zip(
        field.model.bodies,
        np.bincount(field.surfaces.body, watts, len(field.model.bodies)),
        strict=True,
    ):
        result[body.part] = result.get(body.part, 0.0) + float(w)
    return result


def _rim_factor(solved: Solved) -> float | None:
    """Return the area mean of the temperature factor of the strip along the lid's edge [-]."""
    field, cavity = solved.field, solved.parts.hive.cavity
    s, near = field.surfaces, c.RIM_WIDTH.value
    names = [space.name for space in field.model.spaces]
    in_room = np.array([n in (*ZONES, ROOM) for n in names])[s.space]
    x, y, z = s.box_m.T
    above = in_room & (s.axis == 2) & (cavity.z1 - z < near)
    if isinstance(cavity, Ring):
        edge = cavity.outer_radius_m - x < near
    else:
        edge = np.minimum(x - cavity.x0, cavity.x1 - x) < near
        edge |= np.minimum(y - cavity.y0, cavity.y1 - y) < near
    strip = above & edge
    area = s.area_m2[strip]
    if area.sum() <= 0:
        return None
    factor = field.surface_degc(solved.space_share.sum(axis=0))[strip]
    return float((factor * area).sum() / area.sum())
