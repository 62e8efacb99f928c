"""Grids that follow the planes of the bodies and are finest beside them."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from calveth.core.conduction.parts import AirSpace, Body, ConductionModel
from calveth.core.errors import DomainError
from calveth.core.solids.shapes import Cuboid

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]

# Planes nearer to each other than this are one [m].
_SAME_M = 1e-7
MOST_CELLS = 800_000
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
    thin_m : float
        A layer thinner than this has one cell across: what it holds back is exact by that, and
        more cells of a sheet of metal only make the system stiff [m]. Not so beside one sharp
        plane: there the field bends inside it.
    soft : float
        Beside planes where nothing much happens (ends of air zones, edges of holes) cells may be
        this many times as long.
    sharp_m : float
        Largest cell beside a sharp plane, where the field bends most [m].
    sharp_growth : float
        From there each cell is so many times as long, until they are as long as elsewhere.
    """

    first_m: float = 0.006
    growth: float = 1.6
    least: int = 2
    thin_m: float = 0.0025
    soft: float = 3.0
    sharp_m: float = 0.001
    sharp_growth: float = 2.0

    def finer(self, times: float) -> Fineness:
        """Return a grid with cells this many times shorter everywhere."""
        return Fineness(
            first_m=self.first_m / times,
            growth=self.growth ** (1 / times),
            least=round(self.least * times),
            thin_m=self.thin_m / times,
            soft=self.soft,
            sharp_m=self.sharp_m / times,
            sharp_growth=self.sharp_growth ** (1 / times),
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


Sharp = tuple[Sequence[float], Sequence[float], Sequence[float]]
"""Planes along x, y and z towards which cells get very short [m]."""
NO_SHARP: Sharp = ((), (), ())


def graded(
    length_m: float,
    fineness: Fineness,
    soft: tuple[bool, bool] = (False, False),
    sharp: tuple[bool, bool] = (False, False),
) -> FloatArray:
    """Return cell lengths [m] over a span, short at both ends and longer in the middle.

    ``soft`` says which ends lie on soft planes, ``sharp`` which on sharp ones.
    """
    if length_m < fineness.thin_m and sharp[0] == sharp[1]:
        return np.array([length_m])
    ends = [
        fineness.sharp_m if s else fineness.first_m * (fineness.soft if f else 1.0)
        for f, s in zip(soft, sharp, strict=True)
    ]
    least = 1 if all(soft) else fineness.least
    low, high = [min(end, length_m / least) for end in ends]
    first, last = [low], [high]
    while sum(first) + sum(last) < length_m - 1e-12:
        # The shorter end grows, so that both meet with cells of one length.
        side, keen = (first, sharp[0]) if first[-1] <= last[-1] else (last, sharp[1])
        quick = keen and side[-1] < fineness.first_m
        side.append(side[-1] * (fineness.sharp_growth if quick else fineness.growth))
    lengths = [*first, *last[::-1]]
    if len(lengths) > least and sum(lengths) - length_m > 0.5 * max(lengths):
        lengths.remove(max(lengths))
    if all(soft) and low >= length_m - 1e-12:
        lengths = [length_m]
    cells = np.array(lengths)
    result: FloatArray = cells * (length_m / cells.sum())
    return result


def planes(values: Iterable[float]) -> list[float]:
    """Return sorted planes, those that are the same once."""
    lines: list[float] = []
    for value in sorted(values):
        if not lines or value - lines[-1] > _SAME_M:
            lines.append(value)
    return lines


def make_grid(
    model: ConductionModel,
    fineness: Fineness,
    flat: str = "",
    sharp: Sharp = NO_SHARP,
) -> Grid:
    """Return the grid of a model; axes named in ``flat`` (such as ``x``) get one cell a span.

    Cells are shortest beside the planes in ``sharp``; those that are none of the model's are
    passed over.

    Raises
    ------
    DomainError
        When it would have more cells than memory holds.
    """
    everything: tuple[Body | AirSpace, ...] = (*model.bodies, *model.spaces)
    # Beside the planes of soft parts alone the cells may be longer: little turns there.
    hard = [part.shape for part in everything if not part.soft]
    rest = [part.shape for part in everything if part.soft]
    solid = [b.shape for b in model.bodies]
    edges = []
    for axis in "xyz":
        firm = planes(v for s in hard for v in _ends(s, axis))
        if model.bend is not None and axis == "z":
            firm = planes([*firm, *model.bend.levels_m()])
        at = planes([*firm, *(v for s in rest for v in _ends(s, axis))])
        low, high = (min(_ends(s, axis)[0] for s in solid), max(_ends(s, axis)[1] for s in solid))
        soft = [min((abs(v - f) for f in firm), default=1.0) > _SAME_M for v in at]
        keen = [min((abs(v - f) for f in sharp["xyz".index(axis)]), default=1.0) < 1e-7 for v in at]
        edges.append(_axis(at, soft, keen, (low, high), fineness, flat=axis in flat))
    count = int(np.prod([len(e) - 1 for e in edges]))
    if count > MOST_CELLS:
        raise DomainError(
            "shell",
            f"{count} cells",
            f"are more than the {MOST_CELLS} that can be solved; use fewer layers or openings",
        )
    x, y, z = edges
    grid = Grid(
        edges_m=(x, y, z),
        body=np.full((len(x) - 1, len(y) - 1, len(z) - 1), -1),
        space=np.full((len(x) - 1, len(y) - 1, len(z) - 1), -2),
    )
    # The order is the truth of the model: bodies cut the outside, rooms cut the bodies.
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
    at: Sequence[float],
    soft: Sequence[bool],
    sharp: Sequence[bool],
    solid: tuple[float, float],
    fineness: Fineness,
    *,
    flat: bool,
) -> FloatArray:
    """Return the planes of an axis; air beyond the solids gets one."""
    parts = [np.array([float(at[0])])]
    for (a, soft_a, keen_a), (b, soft_b, keen_b) in pairwise(zip(at, soft, sharp, strict=True)):
        beyond = b <= solid[0] + _SAME_M or a >= solid[1] - _SAME_M
        if flat or beyond:
            lengths = np.array([float(b - a)])
        else:
            lengths = graded(b - a, fineness, (soft_a, soft_b), (keen_a, keen_b))
        inner = a + np.cumsum(lengths)
        inner[-1] = b
        parts.append(inner)
    result: FloatArray = np.concatenate(parts)
    return result


def _cover(grid: Grid, shape: Cuboid) -> tuple[slice, slice, slice]:
    """Return the cells a block covers; its faces are planes of the grid."""
    covered = []
    for axis, edges in zip("xyz", grid.edges_m, strict=True):
        a, b = _ends(shape, axis)
        covered.append(slice(int(np.argmin(abs(edges - a))), int(np.argmin(abs(edges - b)))))
    return covered[0], covered[1], covered[2]
