"""Elements against volumes, exact solutions and a general library (scikit-fem)."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import get_args

import numpy as np
import skfem
from numpy.typing import NDArray
from skfem.helpers import dot, grad

from calveth.catalogue.shipped import demo_project
from calveth.core.conduction.exact import (
    SLOPED_W_K,
    block,
    cylinder_w_k,
    half_sphere_w_k,
    held,
)
from calveth.core.conduction.grid import Fineness, make_grid
from calveth.core.conduction.hive import zone_conductances
from calveth.core.conduction.hive_model import hive_parts
from calveth.core.conduction.joint_section import section_conduction
from calveth.core.conduction.parts import Body, ConductionModel
from calveth.core.conduction.solve import Way, solve_conduction
from calveth.core.conduction.solved import Solved, fineness_of
from calveth.core.hive.forms import BarTrough
from tests.core.builders import TABLE, box, layer


class Exact(unittest.TestCase):
    """Incropera et al., Fundamentals of Heat and Mass Transfer, table 3.3 (from memory)."""

    def test_cylinder(self) -> None:
        """2πλL/ln(r2/r1), by elements on a wedge and by volumes along the radius."""
        for way in get_args(Way)[1:]:
            solved, exact = cylinder_w_k(way)
            with self.subTest(way=way):
                self.assertAlmostEqual(solved / exact, 1, delta=2e-3)

    def test_half_a_sphere(self) -> None:
        """2πλ/(1/r1 - 1/r2); the error falls by four when the cells are halved."""
        errors = [
            solved / exact - 1 for solved, exact in (half_sphere_w_k(1.0), half_sphere_w_k(2.0))
        ]
        self.assertTrue(0 < errors[1] < 1e-3, errors)
        self.assertTrue(3 < errors[0] / errors[1] < 5, errors)

    def test_unlike_along_and_across(self) -> None:
        """Four times as conductive along y is the same as y half as long and λ doubled."""

        def stretched(stretch: float, lam: float, along: float) -> float:
            thick, side = 0.04, 0.1
            far = stretch * (thick + side)
            model = ConductionModel(
                outside=(held("out", block((0, 1), (-0.01, far), (-0.01, thick + side))),),
                bodies=(
                    Body(
                        part="shell",
                        shape=block((0, 1), (0, far), (0, thick + side)),
                        conductivity_w_mk=lam,
                        grain="y",
                        along_grain=along,
                    ),
                ),
                inside=(held("in", block((0, 1), (stretch * thick, far), (thick, thick + side))),),
            )
            fine = Fineness(first_m=0.002, growth=1.2)
            return float(solve_conduction(model, make_grid(model, fine, "x")).coupling_w_k[0, 1])

        self.assertAlmostEqual(stretched(2.0, 0.1, 4.0) / stretched(1.0, 0.2, 1.0), 1, delta=2e-3)
        self.assertGreater(stretched(1.0, 0.1, 4.0), 1.2 * stretched(1.0, 0.1, 1.0))


class TwoWays(unittest.TestCase):
    def test_elements_lie_above_and_volumes_below(self) -> None:
        parts = hive_parts(demo_project().design("timber"), TABLE, "heat")
        found = {}
        for times in (0.7, 1.4):
            grid = make_grid(parts.model, fineness_of(parts).finer(times))
            for way in get_args(Way)[1:]:
                one = solve_conduction(parts.model, grid, way)
                found[way, times] = float(zone_conductances(Solved(parts=parts, field=one)).sum())
        low, high = found["volumes", 1.4], found["elements", 1.4]
        self.assertTrue(found["volumes", 0.7] < low < high < found["elements", 0.7], found)
        self.assertLess(high / low - 1, 0.005)

    def test_in_and_out_are_alike(self) -> None:
        """What 1 K inside sends out, 1 K outside sends in."""
        for slope in (0.0, 12.0):
            design = box(layer("softwood", 25), lid_slope_deg=slope)
            parts = hive_parts(design, TABLE, "heat")
            grid = make_grid(parts.model, fineness_of(parts).finer(0.6))
            coupling = solve_conduction(parts.model, grid).coupling_w_k
            with self.subTest(slope=slope):
                np.testing.assert_allclose(coupling, coupling.T, rtol=1e-4, atol=1e-7)


class SlopedSides(unittest.TestCase):
    """A section of a trough with sloped sides against scikit-fem on quadratic elements."""

    LOW, HIGH, TALL, THICK = 0.21, 0.44, 0.29, 0.03

    def mesh(self, n: int) -> skfem.MeshQuad:
        """Return half of the section as five blocks of squares; y to the right, z up."""
        run = (self.HIGH - self.LOW) / 2
        level = self.THICK * np.hypot(run, self.TALL) / self.TALL  # thickness measured level
        a, b = self.LOW / 2, self.HIGH / 2
        t = self.THICK
        plates = (
            ((0, -t), (a, -t), (0, 0), (a, 0), 3 * n, n),
            ((a, -t), (a + level, -t), (a, 0), (a + level, 0), n, n),
            ((a, 0), (a + level, 0), (b, self.TALL), (b + level, self.TALL), n, 6 * n),
            (
                (b, self.TALL),
                (b + level, self.TALL),
                (b, self.TALL + t),
                (b + level, self.TALL + t),
                n,
                n,
            ),
            ((0, self.TALL), (b, self.TALL), (0, self.TALL + t), (b, self.TALL + t), 5 * n, n),
        )
        whole = None
        for p00, p10, p01, p11, i, j in plates:
            unit = skfem.MeshQuad.init_tensor(np.linspace(0, 1, i + 1), np.linspace(0, 1, j + 1))
            u, v = unit.p
            corners = [np.array(p, float)[:, None] for p in (p00, p10, p01, p11)]
            points = (
                corners[0] * (1 - u) * (1 - v)
                + corners[1] * u * (1 - v)
                + corners[2] * (1 - u) * v
                + corners[3] * u * v
            )
            part = skfem.MeshQuad(points, unit.t)
            whole = part if whole is None else whole + part
        return whole

    def reference(self, lam: float, n: int) -> float:
        """Return W/K of a metre of half the section."""
        mesh = self.mesh(n)
        a, b = self.LOW / 2, self.HIGH / 2
        slope = (b - a) / self.TALL

        def inside(x: NDArray[np.float64]) -> NDArray[np.bool_]:
            y, z = x
            near = 1e-6
            floor = (abs(z) < near) & (y < a)
            lid = (abs(z - self.TALL) < near) & (y < b)
            wall = (abs(y - a - slope * z) < near) & (z > 0) & (z < self.TALL)
            return np.asarray(floor | lid | wall)

        edges = mesh.boundary_facets()
        middle = mesh.p[:, mesh.facets[:, edges]].mean(axis=1)
        inner = inside(middle)
        axis = abs(middle[0]) < 1e-9
        films = {
            0.17: edges[inner & (abs(middle[1]) < 1e-6)],
            0.10: edges[inner & (abs(middle[1] - self.TALL) < 1e-6)],
            0.13: edges[inner & (middle[1] > 1e-6) & (middle[1] < self.TALL - 1e-6)],
        }
        outer = edges[~inner & ~axis]
        element = skfem.ElementQuad2()

        @skfem.BilinearForm
        def stiffness(u, v, _):  # type: ignore[no-untyped-def]
            return lam * dot(grad(u), grad(v))

        @skfem.BilinearForm
        def film(u, v, _):  # type: ignore[no-untyped-def]
            return u * v

        @skfem.LinearForm
        def load(v, _):  # type: ignore[no-untyped-def]
            return v

        matrix = stiffness.assemble(skfem.Basis(mesh, element))
        right = np.zeros(matrix.shape[0])
        warm = []
        for r, facets in films.items():
            basis = skfem.FacetBasis(mesh, element, facets=facets)
            matrix = matrix + film.assemble(basis) / r
            right += load.assemble(basis) / r
            warm.append((r, basis))
        matrix = matrix + film.assemble(skfem.FacetBasis(mesh, element, facets=outer)) / 0.04
        theta = skfem.solve(matrix, right)
        return float(sum((load.assemble(b) / r) @ (np.ones_like(theta) - theta) for r, b in warm))

    def test_against_scikit_fem(self) -> None:
        form = BarTrough(bar_count=20, section=((self.LOW, 0.0), (self.HIGH, self.TALL)))
        board = layer("plywood", 1000 * self.THICK)  # no grain
        design = box(board, form=form, openings=())
        found = section_conduction(
            design, TABLE, "heat", "x", 0.2, lambda s: replace(s, y1=min(s.y1, self.HIGH / 2))
        ).field
        lam = TABLE["plywood"].conductivity_w_mk
        coarse, fine = (self.reference(lam, n) for n in (4, 8))
        self.assertAlmostEqual(coarse / fine, 1, delta=2e-4)
        names = [s.name for s in found.model.spaces]
        ours = sum(
            found.coupling_w_k[names.index("outside"), k]
            for k, name in enumerate(names)
            if name != "outside"
        )
        self.assertAlmostEqual(ours / fine, 1, delta=1e-3)
        self.assertGreater(ours, fine)  # elements come down on the truth
        # What `calveth verify` prints was worked out so.
        self.assertAlmostEqual(self.reference(0.13, 12) / SLOPED_W_K, 1, delta=1e-5)


if __name__ == "__main__":
    unittest.main()
