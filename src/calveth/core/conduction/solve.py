"""Steady conduction: one linear system, one answer for every air space at 1 and the others at 0."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import ArrayLike, NDArray

from calveth.core.conduction.elements import Elements
from calveth.core.conduction.grid import Grid
from calveth.core.conduction.linear import NotSolvedError, answers
from calveth.core.conduction.parts import ConductionModel
from calveth.core.conduction.scheme import Scheme, Surfaces
from calveth.core.conduction.volumes import Volumes
from calveth.core.errors import DomainError

__all__ = ["Conduction", "NotSolvedError", "solve_conduction"]

FloatArray = NDArray[np.float64]
# Heat that is lost between in and out, of what goes in: more is no answer.
_WORST_IMBALANCE = 1e-4
Way = Literal["fitting", "volumes", "elements"]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Conduction:
    """The answer.

    Attributes
    ----------
    share : array [spaces, unknowns]
        Temperature of each unknown when one space is at 1 and the others at 0.
    coupling_w_k : array [spaces, spaces]
        Watts from one space (row) to another (column) per kelvin between them; 0 on the diagonal.
    residual : float
        Largest relative residual of the linear systems.
    imbalance : float
        Heat that does not come out again, of what goes in.
    """

    model: ConductionModel
    grid: Grid
    scheme: Scheme
    share: FloatArray
    coupling_w_k: FloatArray
    residual: float
    imbalance: float

    @property
    def surfaces(self) -> Surfaces:
        """The wetted faces."""
        return self.scheme.surfaces

    @property
    def unknowns(self) -> int:
        """Unknowns of the system."""
        return int(self.share.shape[1])

    def temperature_degc(self, spaces_degc: FloatArray) -> FloatArray:
        """Return the temperature of every cell [nx, ny, nz], NaN in the air; volumes only [°C]."""
        result = np.full(self.grid.body.shape, np.nan)
        result[self.grid.body >= 0] = np.asarray(spaces_degc) @ self.share
        return result

    def surface_degc(self, spaces_degc: FloatArray) -> FloatArray:
        """Return the temperature of every piece of surface [n] [°C]."""
        result: FloatArray = np.asarray(spaces_degc) @ self.scheme.surface_share(self.share)
        return result

    def surface_w(self, spaces_degc: FloatArray) -> FloatArray:
        """Return the heat that goes from the air into every piece of surface [n] [W]."""
        result: FloatArray = np.asarray(spaces_degc) @ self.scheme.surface_heat(self.share)
        return result

    def sensitivity_w_k(self, spaces: ArrayLike) -> FloatArray:
        """Return λ·dL/dλ of every body [W/K], with L from the spaces at 1 to those at 0.

        It is what L would gain if the body conducted twice as well and L went on as it begins. One
        solve gives all of them, as the system is its own adjoint. Spaces in between are at what
        they come to by themselves: the state of least loss.
        """
        degrees = np.asarray(spaces, dtype=float)
        return self.scheme.body_energy(degrees @ self.share, degrees)


def scheme_of(model: ConductionModel, grid: Grid, way: Way = "fitting") -> Scheme:
    """Return finite volumes where faces are upright and level, elements elsewhere."""
    elements = model.bend is not None if way == "fitting" else way == "elements"
    return Elements(model, grid) if elements else Volumes(model, grid)


def solve_conduction(model: ConductionModel, grid: Grid, way: Way = "fitting") -> Conduction:
    """Return the steady conduction of a model on a grid.

    Raises
    ------
    NotSolvedError
        When the linear solver gives up, or a part touches no air space at all.
    DomainError
        When a part folds over itself, or a room is open to the outside.
    """
    refuse_open(model, grid)
    refuse_floating(model, grid)
    scheme = scheme_of(model, grid, way)
    answer = answers(
        scheme.matrix(),
        scheme.heat(),
        flat=1 in grid.body.shape,
        like=getattr(scheme, "nearby_matrix", None),
    )
    share = answer.share
    count = len(model.spaces)
    into = scheme.surface_heat(share)
    flow = np.array([np.bincount(scheme.surfaces.space, row, count) for row in into])
    coupling = -flow * (1 - np.eye(count))
    given = np.diag(flow)
    imbalance = float(np.max(abs(flow.sum(axis=1)) / np.maximum(given, 1e-300)))
    if not imbalance <= _WORST_IMBALANCE:
        raise NotSolvedError("shell: more heat goes into it than comes out; move or remove a part")
    return Conduction(
        model=model,
        grid=grid,
        scheme=scheme,
        share=share,
        coupling_w_k=coupling,
        residual=answer.residual,
        imbalance=imbalance,
    )


def refuse_open(model: ConductionModel, grid: Grid) -> None:
    """Raise for a room that is open to the outside air: its parts do not meet.

    Raises
    ------
    DomainError
        It names the spaces and the place [mm].
    """
    out = np.array([n < len(model.outside) or s.outdoors for n, s in enumerate(model.spaces)])
    for axis in range(3):
        low, high = (
            tuple(part if k == axis else slice(None) for k in range(3))
            for part in (slice(None, -1), slice(1, None))
        )
        a, b = grid.space[low], grid.space[high]
        both = (a >= 0) & (b >= 0)
        open_ = both & (out[np.maximum(a, 0)] != out[np.maximum(b, 0)])
        if not np.any(open_):
            continue
        cell = np.argwhere(open_)[0]
        at = [0.5 * (e[k] + e[k + 1]) for e, k in zip(grid.edges_m, cell, strict=True)]
        names = [model.spaces[int(v[tuple(cell)])].name for v in (a, b)]
        raise DomainError(
            "cavity",
            f"{names[0]} and {names[1]}",
            f"meet without a wall between them near x {1000 * at[0]:.0f}, y {1000 * at[1]:.0f}, "
            f"z {1000 * at[2]:.0f} mm; make parts meet there",
        )


def refuse_floating(model: ConductionModel, grid: Grid) -> None:
    """Raise for parts that no air reaches, by name; they would have any temperature."""
    solid = grid.body >= 0
    reached = np.zeros_like(solid)
    for low, high in _NEIGHBOURS:
        reached[low] |= solid[low] & (grid.space[high] >= 0)
        reached[high] |= solid[high] & (grid.space[low] >= 0)
    # From the cells beside air into the depth; walls are some cells thick.
    loose, before = int(reached.sum()), -1
    while loose != before:
        for low, high in _NEIGHBOURS:
            reached[high] |= reached[low] & solid[high]
            reached[low] |= reached[high] & solid[low]
        loose, before = int(reached.sum()), loose
    lone = np.argwhere(solid & ~reached)
    if len(lone):
        part = model.bodies[int(grid.body[tuple(lone[0])])].part
        raise NotSolvedError(f"{part}: no air reaches it and nothing touches it; move or remove it")


def _halves(axis: int) -> tuple[tuple[slice, ...], tuple[slice, ...]]:
    """Return the slices of a block [x, y, z] that lay each cell beside the next along an axis."""
    low, high = (
        tuple(part if k == axis else slice(None) for k in range(3))
        for part in (slice(None, -1), slice(1, None))
    )
    return low, high


_NEIGHBOURS = tuple(_halves(axis) for axis in range(3))


def eliminate(coupling_w_k: FloatArray, keep: list[int]) -> FloatArray:
    """Return the couplings [kept, kept] [W/K] of spaces when the others take their own temperature.

    Raises
    ------
    DomainError
        When a space that is not kept touches nothing.
    """
    count = len(coupling_w_k)
    other = [k for k in range(count) if k not in keep]
    laplace = np.diag(coupling_w_k.sum(axis=1)) - coupling_w_k
    if not other:
        return coupling_w_k
    inner = laplace[np.ix_(other, other)]
    if np.any(np.diag(inner) <= 0):
        raise DomainError("room", "empty", "touches nothing; remove the follower board")
    outer = laplace[np.ix_(keep, other)]
    reduced = laplace[np.ix_(keep, keep)] - outer @ np.linalg.solve(inner, outer.T)
    result: FloatArray = -reduced * (1 - np.eye(len(keep)))
    return result
