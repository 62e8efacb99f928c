"""Steady conduction by finite volumes: one linear system, one answer a unit of temperature.

Between two cells of bodies the conductance is that of two half cells in series, towards an air
space that of half a cell and the film. Finite volumes of this kind lie below the truth and come up
as the grid gets finer.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array, csr_array
from scipy.sparse.csgraph import connected_components
from scipy.sparse.linalg import cg, splu

from calveth.core.conduction.grid import Grid
from calveth.core.conduction.parts import ConductionModel, Side
from calveth.core.errors import CalvethError

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]

# Below this many cells, or when one axis is flat, the factors of a direct solve fit and are fast.
_DIRECT_CELLS = 6_000
_RESIDUAL = 1e-8


class NotSolvedError(CalvethError):
    """The linear solver did not come to an answer."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Surfaces:
    """Every piece of surface between a body and an air space, arrays [n].

    ``cell`` is the unknown it lies on, ``conductance_w_k`` that of half a cell and the film,
    ``film_w_k`` that of the film alone (infinite without one), ``centre_m`` [n, 3].
    """

    cell: IntArray
    space: IntArray
    body: IntArray
    axis: IntArray
    area_m2: FloatArray
    conductance_w_k: FloatArray
    film_w_k: FloatArray
    centre_m: FloatArray


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Conduction:
    """The answer.

    Attributes
    ----------
    share : array [spaces, cells]
        Temperature of each cell when one space is at 1 and the others at 0.
    coupling_w_k : array [spaces, spaces]
        Watts from one space (row) to another (column) per kelvin between them; 0 on the diagonal.
    residual : float
        Largest relative residual of the linear systems.
    imbalance : float
        Heat that does not come out again, of what goes in.
    """

    model: ConductionModel
    grid: Grid
    surfaces: Surfaces
    links: tuple[IntArray, IntArray, FloatArray, FloatArray]
    share: FloatArray
    coupling_w_k: FloatArray
    residual: float
    imbalance: float

    def temperature_degc(self, spaces_degc: FloatArray) -> FloatArray:
        """Return the temperature of every cell [nx, ny, nz], NaN in the air [°C]."""
        result = np.full(self.grid.body.shape, np.nan)
        result[self.grid.body >= 0] = np.asarray(spaces_degc) @ self.share
        return result

    def surface_degc(self, spaces_degc: FloatArray) -> FloatArray:
        """Return the temperature of every piece of surface [n] [°C]."""
        air = np.asarray(spaces_degc)[self.surfaces.space]
        cell = (np.asarray(spaces_degc) @ self.share)[self.surfaces.cell]
        result: FloatArray = air - (air - cell) * (
            self.surfaces.conductance_w_k / self.surfaces.film_w_k
        )
        return result

    def surface_w(self, spaces_degc: FloatArray) -> FloatArray:
        """Return the heat that goes from the air into every piece of surface [n] [W]."""
        air = np.asarray(spaces_degc)[self.surfaces.space]
        cell = (np.asarray(spaces_degc) @ self.share)[self.surfaces.cell]
        result: FloatArray = self.surfaces.conductance_w_k * (air - cell)
        return result

    def sensitivity_w_k(self, *warm: int) -> FloatArray:
        """Return λ·dL/dλ of every body [W/K], with L from the spaces named to all the others.

        It is what L would gain if the body conducted twice as well and L went on as it begins. One
        solve gives all of them, as the system is its own adjoint.
        """
        theta = self.share[list(warm)].sum(axis=0)
        a, b, g, split = self.links
        body = self.grid.body[self.grid.body >= 0]
        heat = g * (theta[a] - theta[b]) ** 2
        result = np.zeros(len(self.model.bodies))
        np.add.at(result, body[a], heat * split)
        np.add.at(result, body[b], heat * (1 - split))
        s = self.surfaces
        drop = (np.isin(s.space, warm) - theta[s.cell]) * s.conductance_w_k
        half = 1 / s.conductance_w_k - 1 / s.film_w_k
        np.add.at(result, s.body, drop**2 * half)
        return result


def solve_conduction(model: ConductionModel, grid: Grid) -> Conduction:
    """Return the steady conduction of a model on a grid.

    Raises
    ------
    NotSolvedError
        When the linear solver gives up, or a part touches no air space at all.
    """
    links = _links(model, grid)
    surfaces = _surfaces(model, grid)
    n = grid.cells
    a, b, g, _ = links
    diagonal = _sum_at(a, g, n) + _sum_at(b, g, n)
    diagonal += _sum_at(surfaces.cell, surfaces.conductance_w_k, n)
    _refuse_floating(model, grid, a, b, surfaces)
    k = np.arange(n)
    matrix = csr_array(
        coo_array(
            (
                np.concatenate([diagonal, -g, -g]),
                (np.concatenate([k, a, b]), np.concatenate([k, b, a])),
            ),
            shape=(n, n),
        )
    )
    count = len(model.spaces)
    heat = np.zeros((count, n))
    np.add.at(heat, (surfaces.space, surfaces.cell), surfaces.conductance_w_k)
    share, residual = _answers(matrix, heat, diagonal, flat=1 in grid.body.shape)
    into = surfaces.conductance_w_k * (
        (surfaces.space == np.arange(count)[:, None]) - share[:, surfaces.cell]
    )
    flow = np.array([_sum_at(surfaces.space, row, count) for row in into])
    coupling = -flow * (1 - np.eye(count))
    given = np.diag(flow)
    imbalance = float(np.max(abs(flow.sum(axis=1)) / np.maximum(given, 1e-300)))
    return Conduction(
        model=model, grid=grid, surfaces=surfaces, links=links, share=share,
        coupling_w_k=coupling, residual=residual, imbalance=imbalance,
    )  # fmt: skip


def _refuse_floating(
    model: ConductionModel, grid: Grid, a: IntArray, b: IntArray, surfaces: Surfaces
) -> None:
    """Refuse parts that no air reaches, by name; they would have any temperature."""
    n = grid.cells
    graph = coo_array((np.ones(len(a)), (a, b)), shape=(n, n))
    count, label = connected_components(graph, directed=False)
    reached = np.zeros(count, dtype=bool)
    reached[label[surfaces.cell]] = True
    lone = np.flatnonzero(~reached[label])
    if len(lone):
        part = model.bodies[int(grid.body[grid.body >= 0][lone[0]])].part
        raise NotSolvedError(f"{part}: no air reaches it and nothing touches it; move or remove it")


def _sum_at(index: IntArray, values: FloatArray, count: int) -> FloatArray:
    return np.bincount(index, values, count).astype(np.float64)


def _answers(
    matrix: csr_array, heat: FloatArray, diagonal: FloatArray, *, flat: bool
) -> tuple[FloatArray, float]:
    """Return the cells' shares [spaces, cells] and the largest relative residual.

    All spaces at 1 make every cell 1, so the last answer is what the others leave.
    """
    share = np.empty_like(heat)
    if flat or len(diagonal) <= _DIRECT_CELLS:
        options = {"SymmetricMode": True}
        factors = splu(matrix.tocsc(), permc_spec="MMD_AT_PLUS_A", options=options)
        for k in range(len(heat) - 1):
            share[k] = factors.solve(heat[k])
    else:
        scale = 1 / np.sqrt(diagonal)
        scaled = csr_array(matrix.multiply(scale[:, None]).multiply(scale[None, :]))
        for k in range(len(heat) - 1):
            found, failed = cg(scaled, heat[k] * scale, rtol=_RESIDUAL, maxiter=4000)
            if failed:
                raise NotSolvedError("conduction: no answer was found; try a coarser grid")
            share[k] = found * scale
    share[-1] = 1 - share[:-1].sum(axis=0)
    rest = [
        float(np.linalg.norm(matrix @ s - h)) / max(float(np.linalg.norm(h)), 1e-300)
        for s, h in zip(share, heat, strict=True)
    ]
    return share, max(rest)


def _links(model: ConductionModel, grid: Grid) -> tuple[IntArray, IntArray, FloatArray, FloatArray]:
    """Return pairs of unknowns, their conductance [W/K], the first one's share of resistance."""
    number = _numbers(grid)
    lam = _conductivity(model, grid)
    found = []
    for axis in range(3):
        low, high = _neighbours(axis)
        d = _lengths(grid, axis)
        area = _areas(grid, axis)
        r = 0.5 * d / lam
        both = (grid.body[low] >= 0) & (grid.body[high] >= 0)
        first, second = r[low][both], r[high][both]
        g = np.broadcast_to(area, grid.body.shape)[low][both] / (first + second)
        found.append((number[low][both], number[high][both], g, first / (first + second)))
    a, b, g, split = (np.concatenate(part) for part in zip(*found, strict=True))
    return a, b, g, split


def _surfaces(model: ConductionModel, grid: Grid) -> Surfaces:
    """Return the pieces of surface between bodies and air spaces."""
    number, lam = _numbers(grid), _conductivity(model, grid)
    columns: list[tuple[NDArray[Any], ...]] = []
    for axis in range(3):
        low, high = _neighbours(axis)
        d, area = _lengths(grid, axis), np.broadcast_to(_areas(grid, axis), grid.body.shape)
        for body, air, step in ((low, high, 1), (high, low, -1)):
            touch = (grid.body[body] >= 0) & (grid.space[air] >= 0)
            space = grid.space[air][touch]
            side = _side(axis, step)
            film = np.array([s.film_m2k_w[side] for s in model.spaces])[space]
            size = area[body][touch]
            half = (0.5 * d / lam)[body][touch]
            columns.append(
                (
                    number[body][touch], space, grid.body[body][touch],
                    np.full(len(space), axis), size, size / (half + film),
                    np.divide(size, film, out=np.full_like(size, np.inf), where=film > 0),
                    *_centres(grid, axis, step, body, touch),
                )
            )  # fmt: skip
    cell, space, body_index, along, size, g, film_g, x, y, z = (
        np.concatenate(part) for part in zip(*columns, strict=True)
    )
    return Surfaces(
        cell=cell.astype(np.int64), space=space.astype(np.int64),
        body=body_index.astype(np.int64), axis=along.astype(np.int64), area_m2=size,
        conductance_w_k=g, film_w_k=film_g, centre_m=np.stack([x, y, z], axis=1),
    )  # fmt: skip


def _side(axis: int, step: int) -> Side:
    """Return where heat goes from the air into a body that lies at -``step`` along an axis."""
    if axis < 2:
        return "horizontal"
    return "down" if step > 0 else "up"


def _centres(
    grid: Grid, axis: int, step: int, body: tuple[slice, ...], touch: NDArray[np.bool_]
) -> tuple[FloatArray, FloatArray, FloatArray]:
    """Return the middles of pieces of surface [m]."""
    found = []
    for k, edges in enumerate(grid.edges_m):
        middle = 0.5 * (edges[:-1] + edges[1:])
        at = (edges[1:] if step > 0 else edges[:-1]) if k == axis else middle
        found.append(np.broadcast_to(_along(at, k), grid.body.shape)[body][touch])
    return found[0], found[1], found[2]


def _neighbours(axis: int) -> tuple[tuple[slice, ...], tuple[slice, ...]]:
    whole = [slice(None)] * 3
    low, high = whole.copy(), whole.copy()
    low[axis], high[axis] = slice(None, -1), slice(1, None)
    return tuple(low), tuple(high)


def _numbers(grid: Grid) -> IntArray:
    number = np.full(grid.body.shape, -1)
    number[grid.body >= 0] = np.arange(grid.cells)
    return number


def _conductivity(model: ConductionModel, grid: Grid) -> FloatArray:
    """Return λ of the cells [W/(m·K)], 1 in the air, where it is not used."""
    table = np.array([*(b.conductivity_w_mk for b in model.bodies), 1.0])
    result: FloatArray = table[grid.body]
    return result


def _along(values: FloatArray, axis: int) -> FloatArray:
    shape = [1, 1, 1]
    shape[axis] = -1
    return values.reshape(shape)


def _lengths(grid: Grid, axis: int) -> FloatArray:
    return _along(np.diff(grid.edges_m[axis]), axis)


def _areas(grid: Grid, axis: int) -> FloatArray:
    others = [k for k in range(3) if k != axis]
    result: FloatArray = _lengths(grid, others[0]) * _lengths(grid, others[1])
    return result
