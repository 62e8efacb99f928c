"""Shapes of solids: blocks, rings, and the bend that makes sloped sides and roofs of blocks."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from math import hypot, pi, radians, tan

import numpy as np
from numpy.typing import ArrayLike, NDArray

from calveth.core.hive.design import LidShape

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True)
class Cuboid:
    """An axis-aligned block [m]."""

    x0: float
    x1: float
    y0: float
    y1: float
    z0: float
    z1: float

    @property
    def volume_m3(self) -> float:
        """Volume [m³]."""
        return (self.x1 - self.x0) * (self.y1 - self.y0) * (self.z1 - self.z0)

    @property
    def centre_m(self) -> tuple[float, float, float]:
        """Centre [m]."""
        return (self.x0 + self.x1) / 2, (self.y0 + self.y1) / 2, (self.z0 + self.z1) / 2


@dataclass(frozen=True, slots=True, kw_only=True)
class Ring:
    """An upright round body, hollow when the inner radius is not zero [m]."""

    x: float
    y: float
    inner_radius_m: float
    outer_radius_m: float
    z0: float
    z1: float

    @property
    def volume_m3(self) -> float:
        """Volume [m³]."""
        return pi * (self.outer_radius_m**2 - self.inner_radius_m**2) * (self.z1 - self.z0)

    @property
    def centre_m(self) -> tuple[float, float, float]:
        """Centre [m]."""
        return self.x, self.y, (self.z0 + self.z1) / 2


Shape = Cuboid | Ring


@dataclass(frozen=True, slots=True, kw_only=True)
class SectionMap:
    """What the y-z plane of a box becomes: sloped or many-sided sides, a lid that is not flat.

    A hive of any prismatic section is described as a box; this puts its points where they are.
    Everything along x stays. Outside the room the distance from the inner face of a wall stays
    the distance from it, and boards meet on the mitre.

    Attributes
    ----------
    middle_m, half_m : float
        Middle of the box's room along y and half its width [m].
    knots : tuple of (half width, height)
        The side of the room from floor to ceiling [m].
    lid : LidShape
        ``sloped`` falls to the front, ``pitched`` has its ridge in the middle, so has ``domed``.
    lid_slope_deg : float
        Slope of the lid at its edge, 0 for a flat one.
    lift_from_m : float
        Height from which walls stretch up to a lid that is not flat: the topmost box alone [m].
    """

    middle_m: float
    half_m: float
    knots: tuple[tuple[float, float], ...]
    lid: LidShape = "sloped"
    lid_slope_deg: float = 0.0
    lift_from_m: float = 0.0

    @property
    def height_m(self) -> float:
        """Height of the room before the lid is sloped [m]."""
        return self.knots[-1][1]

    @property
    def symmetric(self) -> bool:
        """Whether front and back are alike."""
        return self.lid_slope_deg == 0 or self.lid != "sloped"

    def levels_m(self) -> tuple[float, ...]:
        """Heights between floor and ceiling where a side turns [m]."""
        return tuple(z for _, z in self.knots[1:-1])

    def place(self, y: ArrayLike, z: ArrayLike) -> tuple[FloatArray, FloatArray]:
        """Return where points (y, z) of the box lie in the hive [m], of their common shape."""
        y, z = np.broadcast_arrays(np.asarray(y, dtype=float), np.asarray(z, dtype=float))
        across = y - self.middle_m
        inner = np.minimum(abs(across), self.half_m)
        beyond = abs(across) - inner
        out_y, out_z = self._directions()
        heights = [h for _, h in self.knots]
        share = np.interp(z, heights, [w / self.half_m for w, _ in self.knots])
        along = np.sign(across) * (inner * share + beyond * np.interp(z, heights, out_y))
        up = z + beyond * np.interp(z, heights, out_z) + self._lift(across, z)
        return self.middle_m + along, np.asarray(up)

    def flat_m(self, y_m: float) -> float:
        """Return the y of the box that lies at a y of the hive under its floor [m]."""
        across, foot = y_m - self.middle_m, self.knots[0][0]
        inner = min(abs(across), foot)
        flat = inner * self.half_m / foot + (abs(across) - inner) / self._directions()[0][0]
        return self.middle_m + (flat if across > 0 else -flat)

    def _directions(self) -> tuple[list[float], list[float]]:
        """Return where a point one metre before each knot lies: on the mitre, level at the ends."""
        normals = []
        for (w0, z0), (w1, z1) in pairwise(self.knots):
            length = hypot(w1 - w0, z1 - z0)
            normals.append(((z1 - z0) / length, -(w1 - w0) / length))
        first, last = normals[0], normals[-1]
        y, z = [1 / first[0]], [0.0]
        for a, b in pairwise(normals):
            grow = 1 + a[0] * b[0] + a[1] * b[1]
            y.append((a[0] + b[0]) / grow)
            z.append((a[1] + b[1]) / grow)
        return [*y, 1 / last[0]], [*z, 0.0]

    def _lift(self, across: FloatArray, z: FloatArray) -> FloatArray:
        """Return how far the lid's shape lifts points [m]; walls stretch with it."""
        if self.lid_slope_deg == 0:
            return np.zeros_like(across)
        reach = self.knots[-1][0]
        steep = tan(radians(self.lid_slope_deg))
        at = across * reach / self.half_m
        if self.lid == "sloped":
            rise = steep * (at + reach)
        elif self.lid == "pitched":
            rise = steep * (reach - abs(at))
        else:
            rise = steep * np.maximum(reach - at**2 / reach, 0.0) / 2
        low = self.lift_from_m
        result: FloatArray = rise * np.clip((z - low) / (self.height_m - low), 0.0, 1.0)
        return result

    def lifted(self, z: float) -> float:
        """Return how much of the lid's shape a height takes part in, 0 to 1."""
        low = self.lift_from_m
        return float(np.clip((z - low) / (self.height_m - low), 0.0, 1.0))

    def turned_m3(self, inner_m: float, outer_m: float) -> float:
        """Return ∫ 2πr·lift dr, what a dome adds when turned round the middle [m³]."""
        reach, steep = self.knots[-1][0], tan(radians(self.lid_slope_deg))

        def to(r: float) -> float:
            r = min(r, reach)
            return float(pi * steep * (reach * r**2 / 2 - r**4 / (4 * reach)))

        return to(outer_m) - to(inner_m)

    def turned_ceiling_m2(self) -> float:
        """Return the area of a domed ceiling turned round the middle [m²]."""
        reach, steep = self.knots[-1][0], tan(radians(self.lid_slope_deg))
        return float(pi * reach**2 * 2 / (3 * steep**2) * ((1 + steep**2) ** (3 / 2) - 1))

    @property
    def _plain(self) -> bool:
        """Whether nothing is moved at all: upright walls and a flat lid."""
        return self.lid_slope_deg == 0 and all(w == self.half_m for w, _ in self.knots)

    def outline_m(self, y0: float, y1: float, z0: float, z1: float) -> FloatArray:
        """Return the corners [n, 2] (y, z) of what a rectangle of the box becomes, in order."""
        turn_y = self._turns(y0, y1)
        turn_z = [z for _, z in self.knots if z0 < z < z1]
        up, along = [z0, *turn_z, z1], [y0, *turn_y, y1]
        corners = [
            *((y, z0) for y in along),
            *((y1, z) for z in up[1:]),
            *((y, z1) for y in along[::-1][1:]),
            *((y0, z) for z in up[::-1][1:-1]),
        ]
        y, z = self.place([c[0] for c in corners], [c[1] for c in corners])
        return np.stack([y, z], axis=1)

    def _turns(self, y0: float, y1: float) -> list[float]:
        """Return where lines along y turn between two points [m]."""
        turns = [self.middle_m - self.half_m, self.middle_m + self.half_m]
        if self.lid_slope_deg > 0 and self.lid == "pitched":
            turns.append(self.middle_m)
        if self.lid_slope_deg > 0 and self.lid == "domed":
            turns = list(self.middle_m + self.half_m * np.linspace(-1, 1, 16 + 1))
        return sorted(t for t in turns if y0 < t < y1)

    def area_m2(self, y0: float, y1: float, z0: float, z1: float) -> float:
        """Return the area of what a rectangle of the box becomes [m²]."""
        if self._plain:
            return abs((y1 - y0) * (z1 - z0))
        y, z = self.outline_m(y0, y1, z0, z1).T
        return float(abs(np.dot(y, np.roll(z, -1)) - np.dot(z, np.roll(y, -1))) / 2)

    def length_m(self, start: tuple[float, float], end: tuple[float, float]) -> float:
        """Return the length of what a line along y or z of the box becomes [m]."""
        (y0, z0), (y1, z1) = start, end
        if self._plain:
            return hypot(y1 - y0, z1 - z0)
        ys = [y0, *self._turns(min(y0, y1), max(y0, y1)), y1] if y0 != y1 else [y0]
        zs = [z0, *(z for _, z in self.knots if z0 < z < z1), z1] if z0 != z1 else [z0]
        y, z = self.place(ys, zs)
        return float(np.hypot(np.diff(y), np.diff(z)).sum())


def volume_m3(shape: Shape, bend: SectionMap | None = None) -> float:
    """Return the volume of a shape of a hive with this bend [m³]."""
    if bend is None:
        return shape.volume_m3
    if isinstance(shape, Ring):
        return shape.volume_m3 + (bend.lifted(shape.z1) - bend.lifted(shape.z0)) * bend.turned_m3(
            shape.inner_radius_m, shape.outer_radius_m
        )
    area = bend.area_m2(shape.y0, shape.y1, shape.z0, shape.z1)
    return (shape.x1 - shape.x0) * area


def centre_m(shape: Shape, bend: SectionMap | None = None) -> tuple[float, float, float]:
    """Return the middle of a shape of a hive with this bend [m]."""
    if bend is None:
        return shape.centre_m
    if isinstance(shape, Ring):
        x, y0, z0 = shape.centre_m
        floor = shape.volume_m3 / max(shape.z1 - shape.z0, 1e-9)
        mean = bend.turned_m3(shape.inner_radius_m, shape.outer_radius_m) / floor
        return x, y0, z0 + mean * 0.5 * (bend.lifted(shape.z0) + bend.lifted(shape.z1))
    y, z = bend.outline_m(shape.y0, shape.y1, shape.z0, shape.z1).T
    cross = y * np.roll(z, -1) - np.roll(y, -1) * z
    if abs(cross.sum()) < 1e-15:
        return shape.centre_m
    return (
        (shape.x0 + shape.x1) / 2,
        float(((y + np.roll(y, -1)) * cross).sum() / (3 * cross.sum())),
        float(((z + np.roll(z, -1)) * cross).sum() / (3 * cross.sum())),
    )


def bounds(shape: Shape, bend: SectionMap | None = None) -> Cuboid:
    """Return the block round a shape [m]."""
    if isinstance(shape, Ring):
        r = shape.outer_radius_m
        # A dome rises highest over the axis; its skirt falls no lower than its flat outline.
        up = float(bend.place(bend.middle_m, shape.z1)[1]) - shape.z1 if bend else 0.0
        return Cuboid(
            x0=shape.x - r,
            x1=shape.x + r,
            y0=shape.y - r,
            y1=shape.y + r,
            z0=shape.z0,
            z1=shape.z1 + up,
        )
    if bend is None:
        return shape
    y, z = bend.outline_m(shape.y0, shape.y1, shape.z0, shape.z1).T
    return Cuboid(
        x0=shape.x0,
        x1=shape.x1,
        y0=float(y.min()),
        y1=float(y.max()),
        z0=float(z.min()),
        z1=float(z.max()),
    )
