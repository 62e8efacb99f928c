"""Grids that follow the planes of the bodies and are finest beside them."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from calveth.core.conduction.parts import ConductionModel
from calveth.core.errors import DomainError
from calveth.core.hive.solids import Cuboid

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]

# Planes nearer to each other than this are one [m].
_SAME_M = 1e-7
MOST_CELLS = 600_000
"""More unknowns than this are refused: about 1 GB [cells]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Fineness:
    """How fine a grid is.

    Attributes
    ----------
    first_m : float
        Largest cell beside a plane [m].
    growth : float
        Each cell further from the planes may be this many times as long.
    least : int
        Fewest cells across a layer.
    """

    first_m: float = 0.006
    growth: float = 1.6
    least: int = 2

    def finer(self, times: float) -> Fineness:
        """Return a grid with cells this many times shorter everywhere."""
        return Fineness(
            first_m=self.first_m / times,
            growth=self.growth ** (1 / times),
            least=round(self.least * times),
        )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Grid:
    """Cells between planes.

    Attributes
    ----------
    edges_m : three arrays [n + 1]
        Planes along x, y, z [m].
    body : array [nx, ny, nz]
        Index of the body of a cell, -1 where there is none.
    space : array [nx, ny, nz]
        Index of the air space of a cell, -1 in bodies, -2 where nothing is.
    """

    edges_m: tuple[FloatArray, FloatArray, FloatArray]
    body: IntArray
    space: IntArray

    @property
    def cells(self) -> int:
        """Cells that conduct."""
        return int(np.count_nonzero(self.body >= 0))


def graded(length_m: float, fineness: Fineness) -> FloatArray:
    """Return cell lengths [m] over a span, short at both ends and longer in the middle."""
    first = min(fineness.first_m, length_m / fineness.least)
    half: list[float] = []
    reach, size = 0.0, first
    while reach < length_m / 2 - 1e-12:
        half.append(size)
        reach += size
        size *= fineness.growth
    if reach - length_m / 2 > 0.5 * half[-1] and len(half) > 1:
        # An odd number of cells fits better: the last of both halves becomes the one in the middle.
        lengths = [*half[:-1], half[-1], *half[-2::-1]]
    else:
        lengths = [*half, *half[::-1]]
    cells = np.array(lengths)
    result: FloatArray = cells * (length_m / cells.sum())
    return result


def planes(values: Iterable[float]) -> list[float]:
    """Return sorted planes, those that are the same once."""
    found: list[float] = []
    for value in sorted(values):
        if not found or value - found[-1] > _SAME_M:
            found.append(value)
    return found


def make_grid(model: ConductionModel, fineness: Fineness, flat: str = "") -> Grid:
    """Return the grid of a model; axes named in ``flat`` (such as ``x``) get one cell a span.

    Raises
    ------
    DomainError
        When it would have more cells than memory holds.
    """
    shapes = [b.shape for b in model.bodies] + [s.shape for s in model.spaces]
    solid = [b.shape for b in model.bodies]
    edges = []
    for axis in "xyz":
        at = planes(v for s in shapes for v in _ends(s, axis))
        low, high = (min(_ends(s, axis)[0] for s in solid), max(_ends(s, axis)[1] for s in solid))
        edges.append(_axis(at, low, high, fineness, flat=axis in flat))
    count = int(np.prod([len(e) - 1 for e in edges]))
    if count > MOST_CELLS:
        raise DomainError(
            "grid", f"{count} cells", f"is more than {MOST_CELLS}; use fewer parts or a coarser one"
        )
    x, y, z = edges
    grid = Grid(
        edges_m=(x, y, z),
        body=np.full((len(x) - 1, len(y) - 1, len(z) - 1), -1),
        space=np.full((len(x) - 1, len(y) - 1, len(z) - 1), -2),
    )
    for number, space in enumerate(model.outside):
        grid.space[_cover(grid, space.shape)] = number
    for number, body in enumerate(model.bodies):
        where = _cover(grid, body.shape)
        grid.body[where] = number
        grid.space[where] = -1
    for number, space in enumerate(model.inside):
        where = _cover(grid, space.shape)
        grid.body[where] = -1
        grid.space[where] = len(model.outside) + number
    return grid


def _ends(shape: Cuboid, axis: str) -> tuple[float, float]:
    return getattr(shape, f"{axis}0"), getattr(shape, f"{axis}1")


def _axis(
    at: Sequence[float], low: float, high: float, fineness: Fineness, *, flat: bool
) -> FloatArray:
    """Return the planes of an axis; air beyond the solids gets one cell a span."""
    parts = [np.array([float(at[0])])]
    for a, b in pairwise(at):
        beyond = b <= low + _SAME_M or a >= high - _SAME_M
        lengths = np.array([float(b - a)]) if flat or beyond else graded(b - a, fineness)
        inner = a + np.cumsum(lengths)
        inner[-1] = b
        parts.append(inner)
    return np.concatenate(parts)


def _cover(grid: Grid, shape: Cuboid) -> tuple[slice, slice, slice]:
    """Return the cells a block covers; its faces are planes of the grid."""
    found = []
    for axis, edges in zip("xyz", grid.edges_m, strict=True):
        a, b = _ends(shape, axis)
        found.append(slice(int(np.argmin(abs(edges - a))), int(np.argmin(abs(edges - b)))))
    return found[0], found[1], found[2]
