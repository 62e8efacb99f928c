"""The linear systems of conduction: symmetric, positive, one matrix and a few right sides."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_array
from scipy.sparse.linalg import cg, splu

from calveth.core.errors import CalvethError

FloatArray = NDArray[np.float64]

# Below this many unknowns, or when one axis is flat, the factors of a direct solve are small.
_DIRECT = 4_000
RESIDUAL = 1e-7
"""Relative residual the iterations stop at: heat flows are good to 1e-6 of themselves or better."""


class NotSolvedError(CalvethError):
    """The linear solver did not come to an answer."""


# Answers of this many solves are kept: enough to foresee where a steady hand drags.
_KEPT = 3


@dataclass(eq=False)
class Warm:
    """What solves learned, for the next of a model that differs a little.

    ``shares`` are the last answers, ``spans`` how many cells the grid had between its planes, for
    a grid that keeps its cells while planes move, ``rounds`` the iterations of the last solve.
    """

    shares: list[FloatArray] = field(default_factory=list)
    spans: tuple[tuple[int, ...], ...] = ()
    rounds: int = 0

    def keep(self, share: FloatArray) -> None:
        """Remember an answer; those of another size are forgotten."""
        alike = [s for s in self.shares if s.shape == share.shape]
        self.shares = [*alike[-_KEPT + 1 :], share]

    def guesses(self, matrix: csr_array, heat: FloatArray) -> FloatArray | None:
        """Return the best answers made of those kept (Galerkin), None without any.

        Symmetric and positive, the system measures its own error: of all sums of kept answers
        this is the one nearest to the new answer.
        """
        known = [s for s in self.shares if s.shape[1] == heat.shape[1]]
        if not known:
            return None
        basis, _ = np.linalg.qr(np.concatenate([s[:-1] for s in known]).T)
        small = basis.T @ (matrix @ basis)
        result: FloatArray = (basis @ np.linalg.solve(small, basis.T @ heat.T)).T
        return result


@dataclass(eq=False)
class WarmHive:
    """What the solves of one hive learned, with either kind of films.

    All are alike to a cache: an answer is the same with or without it, only sooner.
    """

    heat: Warm = field(default_factory=Warm)
    damp: Warm = field(default_factory=Warm)

    def __eq__(self, other: object) -> bool:
        return other is None or isinstance(other, WarmHive)

    def __hash__(self) -> int:
        return hash(None)


def answers(
    matrix: csr_array, heat: FloatArray, *, flat: bool, warm: Warm | None = None
) -> tuple[FloatArray, float]:
    """Return the unknowns' shares [spaces, unknowns] and the largest relative residual.

    All spaces at 1 make every unknown 1, so the last answer is what the others leave.

    Raises
    ------
    NotSolvedError
        When the iterations do not come to an end.
    """
    share = np.empty_like(heat)
    if flat or heat.shape[1] <= _DIRECT:
        options = {"SymmetricMode": True}
        factors = splu(matrix.tocsc(), permc_spec="MMD_AT_PLUS_A", options=options)
        for k in range(len(heat) - 1):
            share[k] = factors.solve(heat[k])
    else:
        share[:-1] = _iterated(matrix, heat[:-1], warm or Warm())
        if warm is not None:
            warm.keep(share)
    share[-1] = 1 - share[:-1].sum(axis=0)
    rest = [
        float(np.linalg.norm(matrix @ s - h)) / max(float(np.linalg.norm(h)), 1e-300)
        for s, h in zip(share, heat, strict=True)
    ]
    return share, max(rest)


def _iterated(matrix: csr_array, heat: FloatArray, warm: Warm) -> FloatArray:
    """Return the answers by conjugate gradients, scaled by the diagonal."""
    scale = 1 / np.sqrt(matrix.diagonal())
    guess = warm.guesses(matrix, heat)
    rounds = 0

    def count(_: FloatArray) -> None:
        nonlocal rounds
        rounds += 1

    scaled = csr_array(matrix.multiply(scale[:, None]).multiply(scale[None, :]))
    found = np.empty_like(heat)
    for k, row in enumerate(heat):
        start = None if guess is None else guess[k] / scale
        x, failed = cg(scaled, row * scale, x0=start, rtol=RESIDUAL, maxiter=4000, callback=count)
        if failed:
            raise NotSolvedError("conduction: no answer was found; try a coarser grid")
        found[k] = x * scale
    warm.rounds = rounds
    return found
