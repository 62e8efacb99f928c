"""The ways air can take: strips of openings, and joints."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.climate.air import wind_pressure_coefficient
from calveth.core.climate.place import Place
from calveth.core.hive.design import Design, HollowTree, Opening, Tightness, cavity_height_m
from calveth.core.hive.quantities import face_areas
from calveth.core.hive.solids import HiveSolids

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int_]

BASE, NEST, CROWN = 0, 1, 2
"""Zones of the nest air from the bottom up."""

_STRIPS_OF_A_HOLE = 8

CRACK_M3_S_M: dict[Tightness, float] = {
    "propolised": 1.0e-6,
    "planed": 1.0e-5,
    "re-opened": 4.0e-5,
    "dry-laid": 1.0e-4,
}
"""Leakage of a joint per metre at 1 Pa [m³/(s·m·Pa^0.65)]; estimates, a factor of 3 either way.

For comparison, weather-stripped to poor windows have 0.3e-4 to 3e-4 (order of magnitude from
memory of EN 12207 classes)."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class AirPaths:
    """All ways of air of one design.

    Strips are thin horizontal slices of the openings, arrays [S]; joints arrays [J].
    ``strip_opening`` names the opening (index) a strip belongs to.
    """

    opening_ids: tuple[str, ...]
    opening_area_m2: FloatArray
    opening_zone: IntArray
    strip_opening: IntArray
    strip_zone: IntArray
    strip_bottom_m: FloatArray
    strip_top_m: FloatArray
    strip_width_m: FloatArray
    strip_friction: FloatArray
    strip_cp: FloatArray
    joint_zone: IntArray
    joint_height_m: FloatArray
    joint_coefficient: FloatArray
    zone_tops_m: tuple[float, float]


def zone_tops_m(height_m: float) -> tuple[float, float]:
    """Return the heights [m] at which base turns into nest, and nest into crown."""
    share = c.ZONE_SHARE.value
    return share * height_m, (1 - share) * height_m


def zone_at(height_m: float, tops_m: tuple[float, float]) -> int:
    """Return the zone a height lies in."""
    return BASE if height_m < tops_m[0] else NEST if height_m < tops_m[1] else CROWN


def air_paths(design: Design, hive: HiveSolids, place: Place) -> AirPaths:
    """Return the air paths of a design at a place."""
    tops = zone_tops_m(cavity_height_m(design.form))
    open_ones = [o for o in design.openings if o.area_m2 > 0]
    strips = [
        (index, *strip) for index, opening in enumerate(open_ones) for strip in _strips(opening)
    ]
    tunnel = design.shell.thickness_m("walls")
    columns = np.array(strips, dtype=float).reshape(-1, 4)
    owner = columns[:, 0].astype(int)
    joints = _joints(design, hive)
    zones = np.array([zone_at(o.bottom_m + o.height_m / 2, tops) for o in open_ones], dtype=int)
    friction = np.array([tunnel_friction_pa_s_m(o, tunnel) for o in open_ones])
    pressure = np.array([wind_pressure_coefficient(o.side, place) for o in open_ones])
    crack = CRACK_M3_S_M[design.joints]
    return AirPaths(
        opening_ids=tuple(o.id for o in open_ones),
        opening_area_m2=np.array([o.area_m2 for o in open_ones]),
        opening_zone=zones,
        strip_opening=owner,
        strip_zone=zones[owner] if strips else np.zeros(0, dtype=int),
        strip_bottom_m=columns[:, 1],
        strip_top_m=columns[:, 2],
        strip_width_m=columns[:, 3],
        strip_friction=friction[owner] if strips else np.zeros(0),
        strip_cp=pressure[owner] if strips else np.zeros(0),
        joint_zone=np.array([zone_at(z, tops) for z, _ in joints], dtype=int),
        joint_height_m=np.array([z for z, _ in joints]),
        joint_coefficient=np.array([crack * length for _, length in joints]),
        zone_tops_m=tops,
    )


def tunnel_friction_pa_s_m(opening: Opening, length_m: float) -> float:
    """Return the laminar friction 32·μ·L/D² [Pa·s/m] of the tunnel through the wall.

    From 64/Re·L/D·½ρu² (Hagen and Poiseuille) with the hydraulic diameter: 2·w·h/(w + h) of a
    slot, the diameter of a hole.
    """
    diameter = opening.width_m
    if opening.shape == "slot":
        diameter = 2 * opening.width_m * opening.height_m / (opening.width_m + opening.height_m)
    return 32 * c.AIR_VISCOSITY.value * length_m / diameter**2


def _strips(opening: Opening) -> list[tuple[float, float, float]]:
    """Return bottom, top and width of the strips an opening is cut into [m]."""
    if opening.shape == "slot":
        width = opening.width_m * opening.free_share
        return [(opening.bottom_m, opening.bottom_m + opening.height_m, width)]
    r = opening.width_m / 2
    edges = -r * np.cos(np.linspace(0.0, np.pi, _STRIPS_OF_A_HOLE + 1))
    area_below = r**2 * np.arcsin(np.clip(edges / r, -1, 1)) + edges * np.sqrt(
        np.maximum(r**2 - edges**2, 0.0)
    )
    # Each strip keeps the exact area of its slice of the circle.
    widths = np.diff(area_below) / np.diff(edges) * opening.free_share
    middle = opening.bottom_m + r
    return [
        (float(middle + low), float(middle + high), float(width))
        for low, high, width in zip(edges[:-1], edges[1:], widths, strict=True)
    ]


def _joints(design: Design, hive: HiveSolids) -> list[tuple[float, float]]:
    """Return height and length [m] of the level joints: under, between and above the boxes."""
    perimeter = face_areas(hive)["lid"].edge_m
    form = design.form
    height = cavity_height_m(form)
    if isinstance(form, HollowTree):
        # A trunk has no joints but cracks and old knots: counted as one ring under the top.
        return [(height, perimeter)]
    between = [form.bottom_space_m + box * form.box_height_m for box in range(1, form.box_count)]
    return [(z, perimeter) for z in [0.0, *between, height]]
