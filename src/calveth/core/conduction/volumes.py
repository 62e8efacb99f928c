"""Finite volumes on the cells of a grid, for upright and level faces, and for round hives.

Between two cells of bodies the conductance is that of two half cells in series, towards an air
space that of half a cell and the film. Finite volumes of this kind lie below the truth and come up
as the grid gets finer.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from calveth.core.conduction.grid import Grid
from calveth.core.conduction.parts import WEDGE_RAD, ConductionModel, Side
from calveth.core.conduction.scheme import Surfaces
from calveth.core.errors import DomainError

if TYPE_CHECKING:
    from scipy.sparse import csr_array

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]


class Volumes:
    """A model in finite volumes; see `Scheme`."""

    def __init__(self, model: ConductionModel, grid: Grid) -> None:
        if model.bend is not None:
            raise DomainError("hive", "sloped", "is solved by elements, not by volumes")
        self.model, self.grid = model, grid
        self._number = np.full(grid.body.shape, -1)
        self._number[grid.body >= 0] = np.arange(grid.cells)
        self._half = [self._half_resistances(axis) for axis in range(3)]
        self._a, self._b, self._g, self._split = self._links()
        self._collect_surfaces()

    @property
    def unknowns(self) -> int:
        """Cells that conduct."""
        return self.grid.cells

    def _half_resistances(self, axis: int) -> tuple[FloatArray, FloatArray]:
        """Return the resistance from the middle of each cell to its lower and upper face [K/W].

        Infinite where there is no body. In round models radial ones follow the logarithm.
        """
        edges = self.grid.edges_m
        name = "xyz"[axis]
        table = np.array([b.along(name) for b in self.model.bodies] + [0.0])
        lam = table[self.grid.body]
        size = [np.diff(e) for e in edges]
        shape = [1, 1, 1]
        if self.model.round and axis == 0:
            e = edges[0]
            middle = 0.5 * (e[:-1] + e[1:])
            low = np.log(middle / np.maximum(e[:-1], 1e-12))
            high = np.log(e[1:] / middle)
            through = size[1][None, :, None] * size[2][None, None, :]
            shape[0] = -1
            with np.errstate(divide="ignore"):
                return low.reshape(shape) / (lam * through), high.reshape(shape) / (lam * through)
        shape[axis] = -1
        half = 0.5 * size[axis].reshape(shape)
        with np.errstate(divide="ignore"):
            result = half / (lam * self._face_area(axis))
        return result, result

    def _face_area(self, axis: int, *, upper: bool = False) -> FloatArray:
        """Return the area of the cells' faces across an axis [m²], of a shape that broadcasts."""
        size = [np.diff(e) for e in self.grid.edges_m]
        if not self.model.round:
            others = [k for k in range(3) if k != axis]
            result = np.ones((1, 1, 1))
            for k in others:
                shape = [1, 1, 1]
                shape[k] = -1
                result = result * size[k].reshape(shape)
            return result
        r = self.grid.edges_m[0]
        if axis == 2:
            rings = 0.5 * (r[1:] ** 2 - r[:-1] ** 2)
            return rings[:, None, None] * size[1][None, :, None]
        if axis == 1:
            return size[0][:, None, None] * size[2][None, None, :]
        at = r[1:] if upper else r[:-1]
        return at[:, None, None] * size[1][None, :, None] * size[2][None, None, :]

    def _links(self) -> tuple[IntArray, IntArray, FloatArray, FloatArray]:
        """Return the pairs of cells that touch, their conductances, and the part of a's half."""
        a, b, g, split = [], [], [], []
        for axis in range(3):
            one, two = (_ends(axis, slice(None, -1)), _ends(axis, slice(1, None)))
            r1 = np.broadcast_to(self._half[axis][1], self.grid.body.shape)[one]
            r2 = np.broadcast_to(self._half[axis][0], self.grid.body.shape)[two]
            both = (self.grid.body[one] >= 0) & (self.grid.body[two] >= 0)
            resistance = r1[both] + r2[both]
            a.append(self._number[one][both])
            b.append(self._number[two][both])
            g.append(1 / resistance)
            split.append(r1[both] / resistance)
        return np.concatenate(a), np.concatenate(b), np.concatenate(g), np.concatenate(split)

    def _collect_surfaces(self) -> None:
        rows: list[list[FloatArray | IntArray]] = []
        grid, spaces = self.grid, self.model.spaces
        middles = [0.5 * (e[:-1] + e[1:]) for e in grid.edges_m]
        for axis in range(3):
            for upper in (False, True):
                solid = _ends(axis, slice(None, -1) if upper else slice(1, None))
                air = _ends(axis, slice(1, None) if upper else slice(None, -1))
                at = np.argwhere((grid.body[solid] >= 0) & (grid.space[air] >= 0))
                here, there = at.copy(), at.copy()
                here[:, axis] += 0 if upper else 1
                there[:, axis] += 1 if upper else 0
                space = grid.space[tuple(there.T)]
                side = _side(axis, upper=upper)
                film = np.array([s.film_m2k_w[side] for s in spaces])
                area = np.broadcast_to(self._face_area(axis, upper=upper), grid.body.shape)
                area = area[tuple(here.T)]
                half = np.broadcast_to(self._half[axis][1 if upper else 0], grid.body.shape)
                centre = np.stack([middles[k][here[:, k]] for k in range(3)], axis=1)
                centre[:, axis] = grid.edges_m[axis][at[:, axis] + 1]
                rows.append(
                    [
                        self._number[tuple(here.T)],
                        space,
                        grid.body[tuple(here.T)],
                        np.full(len(at), axis),
                        area,
                        half[tuple(here.T)],
                        film[space] / area,
                        centre,
                    ]
                )
        cell, space, body, axis_of, area, half, film, centre = (
            np.concatenate([row[k] for row in rows]) for k in range(8)
        )
        self._cell = cell.astype(np.int64)
        # From the middle of the cell to the air: half a cell and the film in a row.
        self._conductance = 1 / (half + film)
        self._film_part = film / (half + film)
        self.surfaces = Surfaces(
            space=space.astype(np.int64),
            body=body.astype(np.int64),
            axis=axis_of.astype(np.int64),
            area_m2=area,
            box_m=centre,
            centre_m=placed(self.model, centre),
        )

    def matrix(self) -> csr_array:
        """Return the matrix."""
        from scipy.sparse import coo_array, csr_array

        n = self.unknowns
        a, b, g = self._a, self._b, self._g
        diagonal = np.bincount(a, g, n) + np.bincount(b, g, n)
        diagonal += np.bincount(self._cell, self._conductance, n)
        k = np.arange(n)
        return csr_array(
            coo_array(
                (
                    np.concatenate([diagonal, -g, -g]),
                    (np.concatenate([k, a, b]), np.concatenate([k, b, a])),
                ),
                shape=(n, n),
            )
        )

    def heat(self) -> FloatArray:
        """Return the right sides [spaces, unknowns] [W/K]."""
        count, n = len(self.model.spaces), self.unknowns
        flat = np.bincount(self.surfaces.space * n + self._cell, self._conductance, count * n)
        return np.asarray(flat, dtype=float).reshape(count, n)

    def surface_share(self, share: FloatArray) -> FloatArray:
        """Return temperatures of the surfaces [.., n]."""
        air = (self.surfaces.space == np.arange(len(share))[:, None]).astype(float)
        result: FloatArray = air - (air - share[:, self._cell]) * self._film_part
        return result

    def surface_heat(self, share: FloatArray) -> FloatArray:
        """Return heat into the surfaces [spaces, n] [W/K]."""
        air = self.surfaces.space == np.arange(len(share))[:, None]
        result: FloatArray = self._conductance * (air - share[:, self._cell])
        return result

    def body_energy(self, theta: FloatArray, spaces: FloatArray) -> FloatArray:
        """Return what each body dissipates [bodies] [W/K]."""
        body = self.grid.body[self.grid.body >= 0]
        heat = self._g * (theta[self._a] - theta[self._b]) ** 2
        count = len(self.model.bodies)
        result = np.bincount(body[self._a], heat * self._split, count)
        result += np.bincount(body[self._b], heat * (1 - self._split), count)
        drop = (spaces[self.surfaces.space] - theta[self._cell]) * self._conductance
        half = (1 - self._film_part) / self._conductance
        result += np.bincount(self.surfaces.body, drop**2 * half, count)
        return np.asarray(result, dtype=float)

    def slice_share(self, share: FloatArray, axis: int, at_m: float) -> FloatArray:
        """Return temperatures [spaces, n, m] at the grid points of a plane; see `Scheme`.

        A point has the mean of what touches it, each as strongly as it holds the point.
        """
        edges = self.grid.edges_m
        k = int(np.clip(np.searchsorted(edges[axis], at_m) - 1, 0, len(edges[axis]) - 2))
        take: list[slice | int] = [slice(None)] * 3
        take[axis] = k
        number, space = self._number[tuple(take)], self.grid.space[tuple(take)]
        one, two = (d for d in range(3) if d != axis)
        body = self.grid.body[tuple(take)]
        lam = np.array([b.conductivity_w_mk for b in self.model.bodies] + [0.0])[body]
        size = np.minimum(np.diff(edges[one])[:, None], np.diff(edges[two])[None, :])
        film = np.array([max(min(s.film_m2k_w.values()), 1e-6) for s in self.model.spaces])
        hold = np.where(body >= 0, 2 * lam / size, 0.0)
        in_air = space >= 0
        hold[in_air] = 1 / film[space[in_air]]
        total = _gather(hold)
        solid = _gather((body >= 0).astype(float)) > 0
        out = np.full((len(share), *total.shape), np.nan)
        for s, row in enumerate(share):
            value = np.where(number >= 0, row[np.maximum(number, 0)], space == s)
            out[s][solid] = (_gather(hold * value)[solid]) / total[solid]
        return out


def _gather(cells: FloatArray) -> FloatArray:
    """Return at every grid point the sum of the four cells round it."""
    padded = np.pad(cells, 1)
    result: FloatArray = padded[:-1, :-1] + padded[1:, :-1] + padded[:-1, 1:] + padded[1:, 1:]
    return result


def _ends(axis: int, part: slice) -> tuple[slice, ...]:
    return tuple(part if k == axis else slice(None) for k in range(3))


def _side(axis: int, *, upper: bool) -> Side:
    """Return where heat goes through a face of a body: into a floor down, into a ceiling up.

    The upper face of a body looks up: a space above it loses heat downwards into it.
    """
    if axis != 2:
        return "horizontal"
    return "down" if upper else "up"


def placed(model: ConductionModel, box: FloatArray) -> FloatArray:
    """Return where points [n, 3] of the box lie in the hive [n, 3] [m]."""
    if model.round:
        r, angle, z = box[:, 0], box[:, 1], box[:, 2]
        if model.bend is not None:
            r, z = model.bend.place(r, z)
            angle = angle * WEDGE_RAD / (2 * np.pi)
            return np.stack([r * np.cos(angle), r * np.sin(angle), z], axis=1)
        return np.stack([r * np.cos(angle), r * np.sin(angle), box[:, 2]], axis=1)
    if model.bend is None:
        return box
    y, z = model.bend.place(box[:, 1], box[:, 2])
    return np.stack([box[:, 0], y, z], axis=1)
