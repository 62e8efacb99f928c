"""Trilinear hexahedra on a grid whose points lie where the hive is: sloped, many-sided, round.

The grid is that of the box a hive is described as; its points are placed by the bend, so that no
slope is made of stairs. Stiffness and film faces are integrated by two Gauss points a direction.
Elements of this kind lie above the truth and come down as the grid gets finer.
(Zienkiewicz, Taylor and Zhu, The Finite Element Method, chapters on 8-node bricks.)
"""

from __future__ import annotations

from itertools import product
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from calveth.core.conduction.grid import Grid
from calveth.core.conduction.parts import ConductionModel
from calveth.core.conduction.scheme import Surfaces
from calveth.core.conduction.volumes import placed
from calveth.core.errors import DomainError
from calveth.core.heat.slab import Direction

if TYPE_CHECKING:
    from scipy.sparse import csr_array

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]

_CORNERS = tuple(product((0, 1), repeat=3))
_GAUSS = 0.5 + np.array([-0.5, 0.5]) / np.sqrt(3)
# A film of no resistance is one so thin that it does not show [m²·K/W].
_NO_FILM = 1e-7


class Elements:
    """A model in trilinear elements; see `Scheme`. The unknowns are points of the grid."""

    def __init__(self, model: ConductionModel, grid: Grid) -> None:
        self.model, self.grid = model, grid
        self._shape = tuple(len(e) for e in grid.edges_m)
        self._strides = (self._shape[1] * self._shape[2], self._shape[2], 1)
        corners = np.meshgrid(*grid.edges_m, indexing="ij")
        box = np.stack([c.ravel() for c in corners], axis=1)
        self._points = placed(model, box).reshape(*self._shape, 3)
        self._elements = np.argwhere(grid.body >= 0)
        first = self._elements @ np.array(self._strides)
        self._nodes = np.stack([first + self._offset(c) for c in _CORNERS], axis=1)
        used = np.zeros(int(np.prod(self._shape)), dtype=bool)
        used[self._nodes.ravel()] = True
        self._used = np.flatnonzero(used)
        self._number = np.full(len(used), -1)
        self._number[self._used] = np.arange(len(self._used))
        self._body = grid.body[tuple(self._elements.T)]
        self._stiffness = self._element_stiffness()
        self._collect_surfaces()

    @property
    def unknowns(self) -> int:
        """Points of bodies."""
        return len(self._used)

    def _offset(self, corner: tuple[int, ...]) -> int:
        return int(np.dot(corner, self._strides))

    def _element_stiffness(self) -> FloatArray:
        """Return the stiffness of every element [n, 8, 8] [W/K]."""
        # [n, 3, 8]: coordinates first, so that sums over corners are products of matrices.
        x = np.ascontiguousarray(self._points.reshape(-1, 3)[self._nodes].transpose(0, 2, 1))
        table = np.array([[b.along(axis) for axis in "xyz"] for b in self.model.bodies])
        lam = table[self._body]
        result = np.zeros((len(x), 8, 8))
        for at in product(_GAUSS, repeat=3):
            slopes = _slopes(at)
            # Rows of the Jacobian: where x, y, z go along each direction of the box.
            rows = [x @ slopes[:, k] for k in range(3)]
            crossed = [np.cross(rows[1], rows[2]), np.cross(rows[2], rows[0])]
            crossed.append(np.cross(rows[0], rows[1]))
            det = (rows[0] * crossed[0]).sum(axis=1)
            if np.any(det <= 0):
                part = self.model.bodies[int(self._body[np.argmin(det)])].part
                raise DomainError("shape", part, "folds over itself; use a smaller slope or wall")
            inverse = np.stack(crossed, axis=2)  # times det, [n, 3, 3]
            gradient = inverse @ slopes.T  # times det, [n, 3, 8]
            weighted = gradient * (lam / (8 * det[:, None]))[:, :, None]
            result += np.matmul(gradient.transpose(0, 2, 1), weighted)
        return result

    def _collect_surfaces(self) -> None:
        surfaces = [self._faces(axis, upper=upper) for axis in range(3) for upper in (False, True)]
        nodes, space, body, axes, film = (np.concatenate(p) for p in zip(*surfaces, strict=True))
        x = self._points.reshape(-1, 3)[nodes]
        self._face_nodes = self._number[nodes]
        self._face_matrix, self._face_load = _film_faces(x, film)
        box = np.stack(
            [
                np.asarray(e)[i]
                for e, i in zip(
                    self.grid.edges_m, np.unravel_index(nodes, self._shape), strict=True
                )
            ],
            axis=2,
        ).mean(axis=1)
        self.surfaces = Surfaces(
            space=space.astype(np.int64),
            body=body.astype(np.int64),
            axis=axes.astype(np.int64),
            area_m2=self._face_load.sum(axis=1) * film,
            box_m=box,
            centre_m=x.mean(axis=1),
        )

    def _faces(self, axis: int, *, upper: bool) -> tuple[NDArray[Any], ...]:
        """Return nodes [n, 4], space, body, axis and film [n] of faces that look along an axis.

        ``upper`` are those with the body below and the air above.
        """
        solid = tuple(
            (slice(None, -1) if upper else slice(1, None)) if k == axis else slice(None)
            for k in range(3)
        )
        air = tuple(
            (slice(1, None) if upper else slice(None, -1)) if k == axis else slice(None)
            for k in range(3)
        )
        # A surface is where a cell of a body and one of an air space share a face.
        at = np.argwhere((self.grid.body[solid] >= 0) & (self.grid.space[air] >= 0))
        # argwhere counts in the shorter array: back to the cells on either side.
        here, there = at.copy(), at.copy()
        here[:, axis] += 0 if upper else 1
        there[:, axis] += 1 if upper else 0
        side: Direction = "horizontal" if axis < 2 else "down" if upper else "up"
        film = np.array([max(s.film_m2k_w[side], _NO_FILM) for s in self.model.spaces])
        space = self.grid.space[tuple(there.T)]
        base = here @ np.array(self._strides)
        base = base + (self._strides[axis] if upper else 0)
        one, two = (k for k in range(3) if k != axis)
        # Round the face, so that the four corners make a quadrilateral and no bow tie.
        face = [(0, 0), (1, 0), (1, 1), (0, 1)]
        nodes = np.stack(
            [base + a * self._strides[one] + b * self._strides[two] for a, b in face], axis=1
        )
        body = self.grid.body[tuple(here.T)]
        return nodes, space, body, np.full(len(at), axis), film[space]

    def matrix(self) -> csr_array:
        """Return the matrix, put together along its 27 diagonals."""
        from scipy.sparse import csr_array, dia_array

        count = int(np.prod(self._shape))
        diagonals: dict[int, FloatArray] = {}
        for a, one in enumerate(_CORNERS):
            for b, two in enumerate(_CORNERS):
                step = self._offset(two) - self._offset(one)
                row = diagonals.setdefault(step, np.zeros(count))
                # Each point is this corner of at most one element: no two add to one place.
                row[self._nodes[:, b]] += self._stiffness[:, a, b]
        full = dia_array(
            (np.array(list(diagonals.values())), list(diagonals)), shape=(count, count)
        ).tocsr()
        matrix = csr_array(full[self._used][:, self._used])
        n = self.unknowns
        rows = np.repeat(self._face_nodes, 4, axis=1).ravel()
        columns = np.tile(self._face_nodes, (1, 4)).ravel()
        return csr_array(matrix + csr_array((self._face_matrix.ravel(), (rows, columns)), (n, n)))

    def nearby_matrix(self) -> csr_array:
        """Return a matrix of conductances along the edges alone, near to `matrix`.

        An edge has a quarter of what its element holds against a slope along it. On elements with
        right angles no energy differs by more than nine times, however long and thin they are
        (each of two lumped masses by three), so multigrid of this one helps that one.
        """
        from scipy.sparse import csr_array, dia_array

        n = self.unknowns
        nodes = self._number[self._nodes]
        corner = np.array(_CORNERS)
        rows, columns, held = [], [], []
        for way in range(3):
            slope = corner[:, way].astype(float)
            along = np.einsum("a,nab,b->n", slope, self._stiffness, slope) / 4
            for low in np.flatnonzero(corner[:, way] == 0):
                high = low + (4, 2, 1)[way]
                rows.append(nodes[:, low])
                columns.append(nodes[:, high])
                held.append(along)
        i, j, g = (np.concatenate(part) for part in (rows, columns, held))
        edges = csr_array((g, (i, j)), shape=(n, n))
        edges = csr_array(edges + edges.T)
        films = np.bincount(self._face_nodes.ravel(), self._face_load.ravel(), n)
        diagonal = np.asarray(edges.sum(axis=1)).ravel() + films
        return csr_array(dia_array((diagonal[None, :], [0]), shape=(n, n)).tocsr() - edges)

    def heat(self) -> FloatArray:
        """Return the right sides [spaces, unknowns] [W/K]."""
        count, n = len(self.model.spaces), self.unknowns
        at = self.surfaces.space[:, None] * n + self._face_nodes
        flat = np.bincount(at.ravel(), self._face_load.ravel(), count * n)
        return np.asarray(flat, dtype=float).reshape(count, n)

    def surface_share(self, share: FloatArray) -> FloatArray:
        """Return temperatures at the middles of the surfaces [.., n]."""
        result: FloatArray = share[:, self._face_nodes].mean(axis=2)
        return result

    def surface_heat(self, share: FloatArray) -> FloatArray:
        """Return heat into the surfaces [spaces, n] [W/K]."""
        air = self.surfaces.space == np.arange(len(share))[:, None]
        given = air * self._face_load.sum(axis=1)
        taken = np.einsum("sfa,fa->sf", share[:, self._face_nodes], self._face_load)
        result: FloatArray = given - taken
        return result

    def body_energy(self, theta: FloatArray, spaces: FloatArray) -> FloatArray:  # noqa: ARG002
        """Return what each body dissipates [bodies] [W/K]."""
        local = theta[self._number[self._nodes]]
        energy = np.einsum("na,nab,nb->n", local, self._stiffness, local)
        return np.bincount(self._body, energy, len(self.model.bodies)).astype(float)

    def slice_share(self, share: FloatArray, axis: int, at_m: float) -> FloatArray:
        """Return temperatures [spaces, n, m] at the grid points of a plane; see `Scheme`."""
        k = int(np.argmin(abs(self.grid.edges_m[axis] - at_m)))
        number = np.take(self._number.reshape(self._shape), k, axis=axis)
        out = np.full((len(share), *number.shape), np.nan)
        out[:, number >= 0] = share[:, number[number >= 0]]
        return out


def _slopes(at: tuple[float, float, float]) -> FloatArray:
    """Return the slopes of the eight shape functions at a point of the unit cube [8, 3]."""
    result = np.empty((8, 3))
    for a, corner in enumerate(_CORNERS):
        value = [p if c else 1 - p for c, p in zip(corner, at, strict=True)]
        for k in range(3):
            others = [value[j] for j in range(3) if j != k]
            result[a, k] = (1 if corner[k] else -1) * others[0] * others[1]
    return result


def _film_faces(x: FloatArray, film: FloatArray) -> tuple[FloatArray, FloatArray]:
    """Return matrix [n, 4, 4] and load [n, 4] [W/K] of faces with corners x [n, 4, 3]."""
    matrix, load = np.zeros((len(x), 4, 4)), np.zeros((len(x), 4))
    for p, q in product(_GAUSS, repeat=2):
        value = np.array([(1 - p) * (1 - q), p * (1 - q), p * q, (1 - p) * q])
        along_p = np.array([-(1 - q), 1 - q, q, -q])
        along_q = np.array([-(1 - p), -p, p, 1 - p])
        normal = np.cross(np.einsum("a,nai->ni", along_p, x), np.einsum("a,nai->ni", along_q, x))
        weight = np.linalg.norm(normal, axis=1) / 4 / film
        matrix += weight[:, None, None] * np.outer(value, value)
        load += weight[:, None] * value
    return matrix, load
