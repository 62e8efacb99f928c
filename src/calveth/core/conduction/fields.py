"""Pictures of a solved hive: sections with their temperatures, its surfaces, cold places."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from calveth.core.conduction.hive_model import OUTSIDE, RECESS, ROOM, ZONES
from calveth.core.conduction.solved import Solved
from calveth.core.conduction.volumes import placed
from calveth.core.hive.zones import zone_at, zone_tops_m
from calveth.core.solids.section import cut_at_m
from calveth.core.solids.shapes import Ring

FloatArray = NDArray[np.float64]
Plane = Literal["upright", "level"]
# A level section lies at this share of the height: in the nest, clear of the joint of two boxes.
_LEVEL_SHARE = 0.6


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SectionField:
    """Temperatures of a section at the points of a grid.

    Attributes
    ----------
    across_m, up_m : array [n, m]
        Where the points lie: y and z of an upright section, x and y of a level one [m].
    share : array [3, n, m]
        Temperature for base, nest or crown at 1 and the rest at 0; NaN off the solids.
    at_m : float
        Where the section lies: x or z [m].
    """

    plane: Plane
    across_m: FloatArray
    up_m: FloatArray
    share: FloatArray
    at_m: float

    def degc(self, zones_degc: FloatArray, outside_degc: float) -> FloatArray:
        """Return temperatures [n, m] for air of base, nest and crown and outside [°C]."""
        rise = np.asarray(zones_degc) - outside_degc
        result: FloatArray = outside_degc + np.tensordot(rise, self.share, axes=1)
        return result


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Beads:
    """Pieces of inner surface along the upright section through the middle, arrays [n].

    ``y_m``, ``z_m`` where they lie, ``length_m`` how long, ``factor`` with the films for damp,
    ``zone`` 0 to 2.
    """

    y_m: FloatArray
    z_m: FloatArray
    length_m: FloatArray
    factor: FloatArray
    zone: NDArray[np.int64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Skin:
    """The outer surface as squares.

    ``corners_m`` [n, 4, 3], ``share`` [3, n] as in `SectionField`, ``part`` [n] index into
    ``parts``; ``open_parts`` are those that are the ways of openings.
    """

    corners_m: FloatArray
    share: FloatArray
    part: NDArray[np.int64]
    parts: tuple[str, ...]
    open_parts: tuple[int, ...] = ()

    def degc(self, zones_degc: FloatArray, outside_degc: float) -> FloatArray:
        """Return temperatures [n] [°C]."""
        rise = np.asarray(zones_degc) - outside_degc
        result: FloatArray = outside_degc + rise @ self.share
        return result


def section_field(solved: Solved, plane: Plane, at_m: float | None = None) -> SectionField:
    """Return the field of a section: through the middle, or level through the nest."""
    field, parts = solved.field, solved.parts
    shell, grid = parts.hive.shell, field.grid
    round_one = isinstance(parts.hive.cavity, Ring)
    if plane == "upright":
        axis = 1 if round_one else 0
        at = cut_at_m(parts.hive) if at_m is None else at_m
    else:
        axis = 2
        at = shell.z0 + _LEVEL_SHARE * (shell.z1 - shell.z0) if at_m is None else at_m
    raw = field.scheme.slice_share(field.share, axis, 0.0 if round_one and axis == 1 else at)
    share = np.tensordot(solved.space_share, raw, axes=1)
    one, two = (grid.edges_m[k] for k in range(3) if k != axis)
    if round_one:
        return _round_field(solved, plane, one, two, share, at)
    box = np.zeros((len(one), len(two), 3))
    others = [k for k in range(3) if k != axis]
    box[..., axis] = at
    box[..., others[0]], box[..., others[1]] = one[:, None], two[None, :]
    where = placed(field.model, box.reshape(-1, 3)).reshape(box.shape)
    across, up = where[..., others[0]], where[..., others[1]]
    # Only a quarter of a hive that is its own mirror image was solved.
    mirror = []
    if plane == "upright" and parts.half_y:
        mirror = [(0, shell.y0 + shell.y1)]
    elif plane == "level":
        mirror = [(0, shell.x0 + shell.x1)] if parts.half_x else []
        mirror += [(1, shell.y0 + shell.y1)] if parts.half_y else []
    for way, total in mirror:
        across, up, share = _mirrored(across, up, share, way, total)
    return SectionField(plane=plane, across_m=across, up_m=up, share=share, at_m=at)


def _mirrored(
    across: FloatArray, up: FloatArray, share: FloatArray, way: int, total: float
) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Return a field with its mirror image beside it."""
    flip = (
        (slice(None, None, -1), slice(None)) if way == 0 else (slice(None), slice(None, None, -1))
    )
    other_across, other_up = across[flip], up[flip]
    if way == 0:
        other_across = total - other_across
    else:
        other_up = total - other_up
    # The plane of symmetry stands once.
    skip = (slice(1, None), slice(None)) if way == 0 else (slice(None), slice(1, None))
    axis = way
    return (
        np.concatenate([across, other_across[skip]], axis=axis),
        np.concatenate([up, other_up[skip]], axis=axis),
        np.concatenate([share, share[(slice(None), *flip)][(slice(None), *skip)]], axis=axis + 1),
    )


def _round_field(
    solved: Solved, plane: Plane, one: FloatArray, two: FloatArray, share: FloatArray, at: float
) -> SectionField:
    """Return the section of a round hive: to both sides of its axis, or all round it."""
    ring = solved.parts.hive.cavity
    assert isinstance(ring, Ring)
    if plane == "upright":
        r, z = _meridian(solved, *np.broadcast_arrays(one[:, None], two[None, :]))
        across = ring.y + np.concatenate([-r[::-1], r[1:]])
        up = np.concatenate([z[::-1], z[1:]])
        both = np.concatenate([share[:, ::-1], share[:, 1:]], axis=1)
        return SectionField(plane=plane, across_m=across, up_m=up, share=both, at_m=at)
    angle = np.linspace(0, 2 * np.pi, 49)
    across = ring.x + one[:, None] * np.cos(angle)
    up = ring.y + one[:, None] * np.sin(angle)
    spread = np.repeat(share[:, :, :1], len(angle), axis=2)
    return SectionField(plane=plane, across_m=across, up_m=up, share=spread, at_m=at)


def _meridian(solved: Solved, r: FloatArray, z: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Return where points of a round box lie: distance from the axis and height [m]."""
    bend = solved.field.model.bend
    return (r, z) if bend is None else bend.place(r, z)


def beads_of(damp: Solved) -> Beads:
    """Return the inner surface along the upright section, front and back."""
    field, parts = damp.field, damp.parts
    s, shell = field.surfaces, parts.hive.shell
    names = [space.name for space in field.model.spaces]
    factor = field.surface_degc(damp.space_share.sum(axis=0))
    inside = np.array([n in (*ZONES, ROOM) for n in names])[s.space]
    if isinstance(parts.hive.cavity, Ring):
        keep = inside
        y, z = _meridian(damp, s.box_m[:, 0], s.box_m[:, 2])
        length = parts.times * s.area_m2 / np.maximum(2 * np.pi * np.maximum(y, 1e-3), 1e-9)
        middle = parts.hive.cavity.y
        both = [(middle + y, 1), (middle - y, 1)]
    else:
        at = cut_at_m(parts.hive)
        edges = field.grid.edges_m[0]
        k = int(np.clip(np.searchsorted(edges, at) - 1, 0, len(edges) - 2))
        deep = edges[k + 1] - edges[k]
        keep = (
            inside & (s.axis != 0) & (abs(s.box_m[:, 0] - 0.5 * (edges[k] + edges[k + 1])) < 1e-9)
        )
        y, z = s.centre_m[:, 1], s.centre_m[:, 2]
        length = s.area_m2 / deep
        both = [(y, 1)]
        if parts.half_y:
            both.append((shell.y0 + shell.y1 - y, 1))
    tops = zone_tops_m(shell.z1 - shell.z0)
    zone = np.array([zone_at(v - shell.z0, tops) for v in s.box_m[keep, 2]], dtype=np.int64)
    times = len(both)
    return Beads(
        y_m=np.concatenate([side[keep] for side, _ in both]),
        z_m=np.tile(z[keep], times),
        length_m=np.tile(length[keep], times),
        factor=np.tile(factor[keep], times),
        zone=np.tile(zone, times),
    )


def skin_of(heat: Solved) -> Skin:
    """Return the outer surface with its temperatures, mirrored to the whole hive."""
    field, parts = heat.field, heat.parts
    s, grid = field.surfaces, field.grid
    names = [space.name for space in field.model.spaces]
    outer = np.flatnonzero(np.array([n in (OUTSIDE, RECESS) for n in names])[s.space])
    share = heat.space_share @ field.scheme.surface_share(field.share)[:, outer]
    corners = _corners(grid.edges_m, s.box_m[outer], s.axis[outer])
    bodies = [b.part for b in field.model.bodies]
    names_of = tuple(dict.fromkeys(bodies))
    part = np.array([names_of.index(bodies[b]) for b in s.body[outer]], dtype=np.int64)
    if isinstance(parts.hive.cavity, Ring):
        corners[..., 0], corners[..., 2] = _meridian(heat, corners[..., 0], corners[..., 2])
        corners, share, part = _turned(corners, share, part, parts.hive.cavity)
    else:
        shell = parts.hive.shell
        corners = placed(field.model, corners.reshape(-1, 3)).reshape(corners.shape)
        for axis, half, total in (
            (0, parts.half_x, shell.x0 + shell.x1),
            (1, parts.half_y, shell.y0 + shell.y1),
        ):
            if half:
                other = corners.copy()
                other[..., axis] = total - other[..., axis]
                corners = np.concatenate([corners, other])
                share = np.concatenate([share, share], axis=1)
                part = np.concatenate([part, part])
    ways = {b.part for b in field.model.bodies if b.role == "opening air"}
    open_parts = tuple(k for k, name in enumerate(names_of) if name in ways)
    return Skin(corners_m=corners, share=share, part=part, parts=names_of, open_parts=open_parts)


def _corners(
    edges: tuple[FloatArray, FloatArray, FloatArray], box: FloatArray, axis: NDArray[np.int64]
) -> FloatArray:
    """Return the corners [n, 4, 3] in the box of pieces of surface by their middles."""
    result = np.repeat(box[:, None, :], 4, axis=1)
    for normal in range(3):
        rows = np.flatnonzero(axis == normal)
        one, two = (k for k in range(3) if k != normal)
        for k, pattern in ((one, (0, 1, 1, 0)), (two, (0, 0, 1, 1))):
            cell = np.clip(np.searchsorted(edges[k], box[rows, k]) - 1, 0, len(edges[k]) - 2)
            for corner, high in enumerate(pattern):
                result[rows, corner, k] = edges[k][cell + high]
    return result


def _turned(
    corners: FloatArray, share: FloatArray, part: NDArray[np.int64], ring: Ring
) -> tuple[FloatArray, FloatArray, NDArray[np.int64]]:
    """Return the surface of a round hive: its profile carried round the axis in 24 steps."""
    steps = np.linspace(0, 2 * np.pi, 25)
    marks = []
    for low, high in pairwise(steps):
        turned = corners.copy()
        r = corners[..., 0]
        # Corners 0 and 1 (or 0 and 3) of a piece differ along the profile, the others in angle.
        profile = np.where(np.ptp(corners[..., 1], axis=1)[:, None] > 1, corners[..., 1] > 1, False)
        angle = np.where(profile, high, low)
        turned[..., 0] = ring.x + r * np.cos(angle)
        turned[..., 1] = ring.y + r * np.sin(angle)
        marks.append(turned)
    times = len(marks)
    return np.concatenate(marks), np.tile(share, (1, times)), np.tile(part, times)
