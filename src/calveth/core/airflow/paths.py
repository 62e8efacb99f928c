"""The ways air can take: strips of openings, and joints.

Arrays carry the hives they stand for last: an axis of one for a single hive, of N when N hives of
one structure are worked out together.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.climate.air import wind_pressure_coefficient
from calveth.core.climate.place import Place
from calveth.core.constants_tables import BLOCK_LEAK, CRACK_M3_S_M, LEAK_FACTOR
from calveth.core.hive.design import Design
from calveth.core.hive.forms import cavity_height_m, side_spans_m
from calveth.core.hive.joinery import BLOCK_JOINT_M_M2
from calveth.core.hive.opening import WALL_SIDES, Opening, OpeningPart, opening_parts
from calveth.core.hive.zones import BASE, CROWN, zone_at, zone_tops_m
from calveth.core.parameters import Parameters
from calveth.core.remembered import remembered
from calveth.core.solids.build import HiveSolids
from calveth.core.solids.openings_cut import colony_openings
from calveth.core.solids.quantities import face_areas

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int_]

_STRIPS_OF_A_HOLE = 8


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class AirPaths:
    """All ways of air of one hive, or of N hives of one structure.

    Parts of openings are [O, M], thin horizontal strips of them [S, M], joints [J, M], with M one
    or N. ``strip_part`` [S] names the part (index) a strip belongs to. ``part_ids`` names the
    opening of each part; an opening that is shut has its parts with no area. ``gust_share``
    [1, M] is what gusts exchange, of area times wind, ``laminar_pa`` [1, M] the pressure below
    which cracks are laminar.
    """

    part_ids: tuple[str, ...]
    part_zone: IntArray
    strip_part: IntArray
    joint_zone: IntArray
    part_area_m2: FloatArray
    part_lid_exchange: FloatArray
    strip_bottom_m: FloatArray
    strip_top_m: FloatArray
    strip_area_m2: FloatArray
    strip_friction: FloatArray
    strip_cp: FloatArray
    joint_height_m: FloatArray
    joint_coefficient: FloatArray
    joint_cp: FloatArray
    zone_tops_m: FloatArray
    gust_share: FloatArray
    laminar_pa: FloatArray

    @property
    def structure(self) -> tuple[object, ...]:
        """What must be alike for hives to be worked out together."""
        return (
            tuple(self.part_zone.tolist()),
            tuple(self.strip_part.tolist()),
            tuple(self.joint_zone.tolist()),
        )

    def take(self, index: IntArray) -> AirPaths:
        """Return the hives at ``index``; a single hive stands for any number of conditions."""
        if self.zone_tops_m.shape[1] == 1:
            return self
        return _with_arrays(self, {name: getattr(self, name)[:, index] for name in _ARRAYS})


_ARRAYS = (
    "part_area_m2",
    "part_lid_exchange",
    "strip_bottom_m",
    "strip_top_m",
    "strip_area_m2",
    "strip_friction",
    "strip_cp",
    "joint_height_m",
    "joint_coefficient",
    "joint_cp",
    "zone_tops_m",
    "gust_share",
    "laminar_pa",
)


def _with_arrays(paths: AirPaths, arrays: dict[str, FloatArray]) -> AirPaths:
    changed: dict[str, Any] = dict(arrays)
    return replace(paths, **changed)


def stack_paths(paths: Sequence[AirPaths], owner: IntArray) -> AirPaths:
    """Return hives of one structure side by side; ``owner`` [N] names the hive of a condition."""
    return _with_arrays(
        paths[0],
        {
            name: np.concatenate([getattr(p, name) for p in paths], axis=1)[:, owner]
            for name in _ARRAYS
        },
    )


def air_paths(
    design: Design,
    hive: HiveSolids,
    place: Place,
    parameters: Parameters,
    *,
    by_side: bool = False,
) -> AirPaths:
    """Return the air paths of a design at a place.

    Joints under one pressure are one, unless they are asked for ``by_side``, in the order of
    `WALL_SIDES`: in the hours of a year the wind turns.
    """
    spans, height = side_spans_m(design.form), cavity_height_m(design.form)
    tops = zone_tops_m(height)
    # An opening has a part on each wall it is in, and a hole strips of a height each: air goes in
    # through its lower and out through its upper half.
    parts = [part for o in colony_openings(design) for part in opening_parts(o, spans, height)]
    strips = [(k, *strip) for k, part in enumerate(parts) for strip in _strips(part)]
    columns = np.array(strips, dtype=float).reshape(-1, 4)
    owner = columns[:, 0].astype(int)
    joints = [
        (z, share * length, cp)
        for z, length in _joints(design, hive)
        for cp, share in _joint_winds(place, by_side)
    ]
    crack = CRACK_M3_S_M[design.joints] * parameters.leakage_factor
    friction = np.array([tunnel_friction_pa_s_m(p.opening, tunnel_m(p, design)) for p in parts])
    pressure = np.array([wind_pressure_coefficient(p.side, place) for p in parts])

    def column(values: Sequence[float]) -> FloatArray:
        return np.array(values, dtype=float).reshape(-1, 1)

    return AirPaths(
        part_ids=tuple(p.opening.id for p in parts),
        part_zone=np.array([part_zone(p, tops) for p in parts], dtype=int),
        strip_part=owner,
        joint_zone=np.array([zone_at(z, tops) for z, _, _ in joints], dtype=int),
        part_area_m2=column([p.area_m2 for p in parts]),
        part_lid_exchange=column([_lid_exchange(p) for p in parts]),
        strip_bottom_m=columns[:, 1:2],
        strip_top_m=columns[:, 2:3],
        strip_area_m2=columns[:, 3:4],
        strip_friction=friction[owner].reshape(-1, 1) if strips else np.zeros((0, 1)),
        strip_cp=pressure[owner].reshape(-1, 1) if strips else np.zeros((0, 1)),
        joint_height_m=column([z for z, _, _ in joints]),
        joint_coefficient=column([crack * length for _, length, _ in joints]),
        joint_cp=column([cp for _, _, cp in joints]),
        zone_tops_m=column(tops),
        gust_share=column([c.WIND_FLUCTUATION.value * parameters.gust_factor]),
        laminar_pa=column([parameters.crack_laminar_pa]),
    )


@remembered(64)
def _joint_winds(place: Place, by_side: bool) -> tuple[tuple[float, float], ...]:
    """Return the pressure coefficients round a hive, and the share of its joints under each."""
    each = [round(wind_pressure_coefficient(side, place), 9) for side in WALL_SIDES]
    if by_side:
        return tuple((cp, 0.25) for cp in each)
    winds: dict[float, float] = {}
    for cp in each:
        winds[cp] = winds.get(cp, 0.0) + 0.25
    return tuple(winds.items())


def part_zone(part: OpeningPart, tops_m: tuple[float, float]) -> int:
    """Return the zone a part of an opening leads into."""
    opening = part.opening
    if opening.shape == "lid gap" or part.side == "lid":
        return CROWN
    if part.side == "floor":
        return BASE
    return zone_at(part.bottom_m + opening.lift_m + opening.height_m / 2, tops_m)


def tunnel_m(part: OpeningPart, design: Design) -> float:
    """Return the length of the way through [m]: as given, or the face; the lift comes to it."""
    opening = part.opening
    if opening.tunnel_m is not None:
        return opening.tunnel_m + opening.lift_m
    if opening.shape == "screen":
        return 0.001
    face = part.side if part.side in ("lid", "floor") else "walls"
    return design.shell.thickness_m(face) + opening.lift_m


def tunnel_friction_pa_s_m(opening: Opening, length_m: float) -> float:
    """Return the laminar friction f·Re/2·μ·L/D² [Pa·s/m] of the tunnel through the wall.

    f·Re is 64 for a round hole (Hagen and Poiseuille) and 57 to 96 for a rectangle by its sides
    (Shah and London 1978), with the hydraulic diameter D: 2·w·h/(w + h) of a slot.

    Parameters
    ----------
    opening : Opening
        What the air goes through.
    length_m : float
        Of the tunnel [m].

    >>> from calveth.core.hive.opening import Opening
    >>> hole = Opening(id="h", name="hole", shape="hole", bottom_m=0.1, width_m=0.02, height_m=0.02)
    >>> round(tunnel_friction_pa_s_m(hole, 0.05), 3)  # 32·μ·L/D²
    0.07
    """
    friction = 64.0 if opening.round else _slot_friction(opening.width_m, opening.height_m)
    return friction / 2 * c.AIR_VISCOSITY.value * length_m / opening.hydraulic_diameter_m**2


def _slot_friction(width_m: float, height_m: float) -> float:
    """Return f·Re of laminar flow through a rectangle; Shah and London 1978, from memory.

    56.9 for a square, 96 between wide plates.
    """
    a = min(width_m, height_m) / max(width_m, height_m)
    rest = (-1.3553, 1.9467, -1.7012, 0.9564, -0.2537)
    return 96.0 * (1.0 + sum(f * a ** (k + 1) for k, f in enumerate(rest)))


def _lid_exchange(part: OpeningPart) -> float:
    """Return 0.055·D^2.5 [m^2.5] of a level hole in the lid, its negative in the floor, else 0.

    The exchange of Epstein (1988), `LID_EXCHANGE`.
    """
    if part.side not in ("lid", "floor") or part.opening.open_share == 0:
        return 0.0
    number = part.opening.count
    diameter = np.sqrt(4 * part.area_m2 / number / np.pi)
    above = 1.0 if part.side == "lid" else -1.0
    return float(above * c.LID_EXCHANGE.value * number * diameter**2.5)


def _strips(part: OpeningPart) -> list[tuple[float, float, float]]:
    """Return bottom, top and free area of the strips a part is cut into [m, m, m²].

    With a lift the strips lie where the air comes in: what fills the shaft is outside air.
    """
    opening = part.opening
    bottom = part.bottom_m + opening.lift_m
    if opening.level:
        return [(bottom, bottom, part.area_m2)]
    if not opening.round:
        return [(bottom, bottom + opening.height_m, part.area_m2)]
    r = opening.width_m / 2
    edges = -r * np.cos(np.linspace(0.0, np.pi, _STRIPS_OF_A_HOLE + 1))
    area_below = r**2 * np.arcsin(np.clip(edges / r, -1, 1)) + edges * np.sqrt(
        np.maximum(r**2 - edges**2, 0.0)
    )
    # Each strip keeps the exact area of its slice of the circle.
    areas = np.diff(area_below) * opening.open_share * opening.count
    return [
        (float(bottom + r + low), float(bottom + r + high), float(area))
        for low, high, area in zip(edges[:-1], edges[1:], areas, strict=True)
    ]


def _joints(design: Design, hive: HiveSolids) -> list[tuple[float, float]]:
    """Return height and length [m] of the level joints: under, between and above the boxes.

    Lengths are those of boards laid flat that leak as much (`LEAK_FACTOR`); joints between
    blocks are spread over the three zones.
    """
    areas = face_areas(hive)
    form, joinery = design.form, design.joinery
    height = cavity_height_m(form)
    if not form.of_boards:
        # A trunk has no joints but cracks and old knots: counted as one ring under the top.
        return [(height, areas["lid"].edge_m)]
    lengths = [(0.0, areas["floor"].edge_m * LEAK_FACTOR[joinery.floor])]
    lengths += [(z, areas["lid"].edge_m) for z in form.levels_m]
    lengths.append((height, areas["lid"].edge_m * LEAK_FACTOR[joinery.lid]))
    if BLOCK_LEAK[joinery.blocks] > 0:
        metres = areas["walls"].inner_m2 * BLOCK_JOINT_M_M2 * BLOCK_LEAK[joinery.blocks]
        # A third each near the floor, in the middle and near the lid; an estimate.
        lengths += [(share * height, metres / 3) for share in (0.15, 0.5, 0.85)]
    return lengths
