"""The linear solver on systems a diagonal cannot help, against a direct factorisation of SciPy."""

from __future__ import annotations

import unittest
from unittest import mock

import numpy as np
from scipy.sparse import coo_array, csr_array, diags_array
from scipy.sparse.linalg import spsolve

from calveth.core.conduction import linear
from calveth.core.conduction.linear import GOOD_RESIDUAL, answers


def contrast(n: int) -> csr_array:
    """Return conductances on a cube of n points a side, some of whose sheets are metal.

    The last layer is joined to the outside; air films couple the first layer to it too.
    """
    number = np.arange(n**3).reshape(n, n, n)
    metal = np.isin(np.arange(n), (n // 3, n // 3 + 1, 2 * n // 3))
    value = np.where(metal, 160.0, 0.03)
    rows, columns, held = [], [], []
    for axis in range(3):
        a = np.moveaxis(number, axis, 0)[:-1].ravel()
        b = np.moveaxis(number, axis, 0)[1:].ravel()
        one, two = value[a // n**2], value[b // n**2]
        rows.append(a)
        columns.append(b)
        held.append(2 * one * two / (one + two))
    i, j, g = (np.concatenate(part) for part in (rows, columns, held))
    links = coo_array((np.tile(g, 2), (np.r_[i, j], np.r_[j, i])), shape=(n**3, n**3)).tocsr()
    films = np.zeros(n**3)
    films[number[0].ravel()], films[number[-1].ravel()] = 0.01, 0.04
    return csr_array(diags_array(np.asarray(links.sum(axis=1)).ravel() + films) - links)


def sides(matrix: csr_array, n: int) -> np.ndarray:
    """Return the right sides of inside and outside at 1."""
    films = np.asarray(matrix.sum(axis=1)).ravel()
    inside = np.where(np.arange(n**3) < n**2, films, 0.0)
    return np.stack([inside, films - inside])


class Multigrid(unittest.TestCase):
    N = 22

    def test_it_finds_what_a_factorisation_finds_in_some_dozens_of_rounds(self) -> None:
        matrix = contrast(self.N)
        heat = sides(matrix, self.N)
        found = answers(matrix, heat, flat=False)
        share, residual = found.share, found.residual
        exact = spsolve(matrix.tocsc(), heat[0])
        self.assertLess(residual, GOOD_RESIDUAL)
        np.testing.assert_allclose(share[0], exact, atol=2e-5)
        # 51 with the diagonal, which do not help, then one try with multigrid.
        self.assertGreater(found.rounds, linear._EARLY)
        self.assertLess(found.rounds, linear._EARLY + 40)

    def test_a_large_system_begins_with_multigrid(self) -> None:
        matrix = contrast(self.N)
        with mock.patch.object(linear, "_LARGE", 100):
            found = answers(matrix, sides(matrix, self.N), flat=False)
        self.assertLess(found.residual, GOOD_RESIDUAL)
        self.assertLess(found.rounds, 60)
        np.testing.assert_allclose(found.share.sum(axis=0), 1.0, atol=1e-12)


if __name__ == "__main__":
    unittest.main()
