"""The linear systems of conduction: symmetric, positive, one matrix and a few right sides."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from calveth.core.checkpoint import checkpoint
from calveth.core.errors import CalvethError

if TYPE_CHECKING:
    from scipy.sparse import csr_array

FloatArray = NDArray[np.float64]

# Below this many unknowns, or when one axis is flat, the factors of a direct solve are small.
_DIRECT = 4_000
RESIDUAL = 1e-7
"""Relative residual the scaled iterations stop at first."""
GOOD_RESIDUAL = 8e-7
"""Relative residual of the system itself they go on to: heat flows are good to 1e-6 or better."""
# Beyond this an answer is none.
_WORST_RESIDUAL = 1e-5
# Rounds with the diagonal alone, with multigrid, and how often they are begun anew.
_PLAIN_ROUNDS, _GRID_ROUNDS, _TRIES = 300, 150, 4
# After so many plain rounds, more than this relative residual is far from the end.
_EARLY, _FAR = 50, 3e-3
# Of so many unknowns multigrid is begun with, and with fewer points on its coarser grids.
_LARGE = 200_000
_NO_ANSWER = (
    "shell: its heat flow cannot be solved, thin metal lies beside thick insulation; "
    "make the thinnest layer thicker or leave it out"
)


class NotSolvedError(CalvethError):
    """The linear solver did not come to an answer."""


@dataclass(frozen=True, slots=True, eq=False)
class Answers:
    """Shares [spaces, unknowns], the largest relative residual and the rounds that were needed."""

    share: FloatArray
    residual: float
    rounds: int = 0


def answers(
    matrix: csr_array,
    heat: FloatArray,
    *,
    flat: bool,
    like: Callable[[], csr_array] | None = None,
) -> Answers:
    """Return the shares of the unknowns for right sides ``heat`` [spaces, unknowns].

    All spaces at 1 make every unknown 1, so the last answer is what the others leave. ``like``
    gives a matrix near to ``matrix`` whose off-diagonal terms are all negative, for multigrid;
    without it ``matrix`` is such a one.

    Raises
    ------
    NotSolvedError
        When the iterations do not come to an end.
    CancelledError
        When nobody wants the answer any more.
    """
    share, rounds = np.empty_like(heat), 0
    # The one that is left to the others is the largest, so that their errors show least in it.
    rest = int(np.argmax(np.linalg.norm(heat, axis=1)))
    asked = [k for k in range(len(heat)) if k != rest]
    if flat or heat.shape[1] <= _DIRECT:
        # A tenth of a second to load, and the iterations go without.
        from scipy.sparse.linalg import splu

        options = {"SymmetricMode": True}
        factors = splu(matrix.tocsc(), permc_spec="MMD_AT_PLUS_A", options=options)
        for k in asked:
            share[k] = factors.solve(heat[k])
    elif asked:
        work = _Iterations(matrix, like or (lambda: matrix))
        share[asked] = work.answers(heat[asked])
        rounds = work.rounds
    share[rest] = 1 - share[asked].sum(axis=0)
    residual = max(_residual(matrix, s, h) for s, h in zip(share, heat, strict=True))
    if not residual <= _WORST_RESIDUAL:
        raise NotSolvedError(_NO_ANSWER)
    return Answers(share, residual, rounds)


def _residual(matrix: csr_array, share: FloatArray, heat: FloatArray) -> float:
    rest = float(np.linalg.norm(matrix @ share - heat))
    return rest / max(float(np.linalg.norm(heat)), 1e-300)


class _Iterations:
    """Conjugate gradients: scaled by the diagonal, and where that is slow helped by multigrid.

    Thin sheets of metal between foam make systems on which the diagonal alone takes thousands of
    rounds; classical multigrid (Ruge and Stueben 1987, by `pyamg`) takes some dozens, but is slow
    to set up and dearer by the round, so that it is called only then, and for very large ones.
    """

    def __init__(self, matrix: csr_array, like: Callable[[], csr_array]) -> None:
        matrix = _narrow(matrix)
        self._matrix, self._like = matrix, like
        self._large = matrix.shape[0] > _LARGE
        # A large system is never run without multigrid, which wants no scale.
        self._scale = np.ones(matrix.shape[0]) if self._large else 1 / np.sqrt(matrix.diagonal())
        self._scaled = matrix if self._large else self._scaled_by_diagonal(matrix)
        self._total = float(matrix.sum())
        self._grids: Callable[[FloatArray], FloatArray] | None = None
        self.rounds = 0

    def _scaled_by_diagonal(self, matrix: csr_array) -> csr_array:
        from scipy.sparse import csr_array

        scale = self._scale
        return csr_array(matrix.multiply(scale[:, None]).multiply(scale[None, :]))

    def answers(self, heat: FloatArray) -> FloatArray:
        """Return the answers to right sides [n, unknowns], each begun from its mean."""
        return np.stack([self._answer(h, np.full_like(h, h.sum() / self._total)) for h in heat])

    def _answer(self, heat: FloatArray, share: FloatArray) -> FloatArray:
        for _ in range(_TRIES):
            share = self._scale * self._run(heat, share / self._scale)
            # The sum of what is left over goes out with one constant: in and out agree by it.
            share += (heat - self._matrix @ share).sum() / self._total
            if _residual(self._matrix, share, heat) <= GOOD_RESIDUAL:
                break
        return share

    def _run(self, heat: FloatArray, x: FloatArray) -> FloatArray:
        if self._grids is None:
            if not self._large and self._conjugate(heat, x, None, _PLAIN_ROUNDS):
                return x
            self._grids = self._multigrid()
        self._conjugate(heat, x, self._grids, _GRID_ROUNDS)
        return x

    def _conjugate(self, heat: FloatArray, x: FloatArray, grids: Any, most: int) -> bool:
        """Improve ``x`` in place by conjugate gradients; return whether it is good enough.

        Without multigrid it gives up early when it is far from the end.
        """
        matrix, right = self._scaled, self._scale * heat
        size = max(float(np.linalg.norm(right)), 1e-300)
        given = max(float(np.linalg.norm(heat)), 1e-300)
        rest = right - matrix @ x
        toward = rest if grids is None else grids(rest)
        step = toward.copy()
        energy = float(rest @ toward)
        for number in range(most):
            off = float(np.linalg.norm(rest))
            if off <= RESIDUAL * size and (
                np.linalg.norm(rest / self._scale) <= 0.9 * GOOD_RESIDUAL * given
            ):
                return True
            if grids is None and number == _EARLY and off > _FAR * size:
                return False
            self._count()
            moved = matrix @ step
            length = energy / float(step @ moved)
            x += length * step
            rest -= length * moved
            toward = rest if grids is None else grids(rest)
            new = float(rest @ toward)
            step *= new / energy
            step += toward
            energy = new
        return False

    def _multigrid(self) -> Callable[[FloatArray], FloatArray]:
        # Half a second to load, and seldom wanted.
        from pyamg import ruge_stuben_solver
        from scipy.sparse import csr_matrix

        # Of the matrix as it is: interpolation takes a constant for smooth, which scaling would
        # hide. A second pass gives every two fine points a coarse one in common, without which
        # jumps of the conductivity cost three times the rounds.
        large = self._large
        grids = ruge_stuben_solver(
            csr_matrix(_narrow(self._like())),
            max_coarse=300,
            strength=("classical", {"theta": 0.25 if large else 0.5}),
            CF=("RS", {"second_pass": not large}),
            interpolation="direct" if large else "classical",
        )
        return _single_cycle(grids, self._scale)

    def _count(self) -> None:
        self.rounds += 1
        if self.rounds % 8 == 0:
            checkpoint()


def _narrow(matrix: csr_array) -> csr_array:
    """Return a matrix with indices of 32 bits: a product of a large one waits for its memory."""
    from scipy.sparse import csr_array

    if matrix.indices.dtype == np.int32 or matrix.nnz >= np.iinfo(np.int32).max:
        return matrix
    parts = (matrix.data, matrix.indices.astype(np.int32), matrix.indptr.astype(np.int32))
    return csr_array(parts, shape=matrix.shape)


def _single_cycle(grids: Any, scale: FloatArray) -> Callable[[FloatArray], FloatArray]:
    """Return one V cycle as a preconditioner, in single precision: half as much to read.

    The iterations around it are in double precision, so that no answer is less exact by it.
    """
    from pyamg.relaxation.relaxation import gauss_seidel
    from scipy.sparse import csr_array
    from scipy.sparse.linalg import splu

    levels = [
        tuple(_narrow(csr_array(m).astype(np.float32)) for m in (level.A, level.P, level.R))
        for level in grids.levels[:-1]
    ]
    least = splu(grids.levels[-1].A.tocsc())

    def descend(number: int, given: NDArray[np.float32]) -> NDArray[np.float32]:
        if number == len(levels):
            return np.asarray(least.solve(given.astype(float)), dtype=np.float32)
        matrix, up, down = levels[number]
        correction = np.zeros_like(given)
        gauss_seidel(matrix, correction, given, sweep="forward")
        correction += up @ descend(number + 1, down @ (given - matrix @ correction))
        gauss_seidel(matrix, correction, given, sweep="backward")
        return correction

    def cycle(rest: FloatArray) -> FloatArray:
        size = float(np.max(np.abs(rest), initial=0.0)) or 1.0
        result: FloatArray = descend(0, (rest / (scale * size)).astype(np.float32)) / scale
        result *= size
        return result

    return cycle
