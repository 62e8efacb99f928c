"""The conduction solver against printed cases of standards, exact solutions and itself."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from math import pi, sin, sinh, tanh

import numpy as np

from calveth.core.conduction.cases import (
    CASE_1_DEGC,
    CASE_2_DEGC,
    case_1_degc,
    case_2,
    case_2_degc,
)
from calveth.core.conduction.grid import MOST_CELLS, Fineness, graded, make_grid
from calveth.core.conduction.parts import AirSpace, Body, ConductionModel
from calveth.core.conduction.solve import (
    Conduction,
    NotSolvedError,
    refuse_floating,
    solve_conduction,
)
from calveth.core.errors import DomainError
from calveth.core.solids.shapes import Cuboid

NO_FILM = {"up": 0.0, "horizontal": 0.0, "down": 0.0}


def block(x: Sequence[float], y: Sequence[float], z: Sequence[float]) -> Cuboid:
    return Cuboid(x0=x[0], x1=x[1], y0=y[0], y1=y[1], z0=z[0], z1=z[1])


def space(name: str, shape: Cuboid, film: float = 0.0) -> AirSpace:
    films = {"up": film, "horizontal": film, "down": film}
    return AirSpace(name=name, shape=shape, film_m2k_w=films)  # type: ignore[arg-type]


def solve(model: ConductionModel, fineness: Fineness, flat: str = "x") -> Conduction:
    return solve_conduction(model, make_grid(model, fineness, flat))


class Cases(unittest.TestCase):
    """EN ISO 10211:2017, annex C; the printed values stand in `calveth verify`."""

    def test_case_1_against_its_series(self) -> None:
        """A unit square, warm at z = 1: the series of Fourier, at each of the 28 points."""
        found = case_1_degc()
        for row in range(7):
            for at in range(4):
                y, z = (at + 1) / 8, 1 - (row + 1) / 8
                exact = 20 * sum(
                    4 / (pi * n) * sin(n * pi * y) * sinh(n * pi * z) / sinh(n * pi)
                    for n in range(1, 160, 2)
                )
                with self.subTest(row=row, at=at):
                    self.assertAlmostEqual(found[row, at], exact, delta=0.03)
                    self.assertAlmostEqual(CASE_1_DEGC[row][at], exact, delta=0.051)

    def test_case_2(self) -> None:
        found = case_2()
        self.assertAlmostEqual(20 * found.coupling_w_k[1, 0], 9.5, delta=0.1)
        self.assertLess(found.imbalance, 1e-9)
        self.assertLess(found.residual, 1e-9)
        for (name, _, _, printed), degc in zip(CASE_2_DEGC, case_2_degc(), strict=True):
            with self.subTest(point=name):
                self.assertAlmostEqual(degc, printed, delta=0.1)


class Exact(unittest.TestCase):
    def test_a_wall_of_layers(self) -> None:
        """EN ISO 6946: 1/U is the sum of the resistances, to rounding on any grid."""
        model = ConductionModel(
            outside=(
                space("out", block((0, 1), (0, 1), (0.09, 0.1)), 0.04),
                space("in", block((0, 1), (0, 1), (-0.01, 0)), 0.1),
            ),
            bodies=(
                Body(part="board", shape=block((0, 1), (0, 1), (0, 0.02)), conductivity_w_mk=0.13),
                Body(
                    part="foam", shape=block((0, 1), (0, 1), (0.02, 0.09)), conductivity_w_mk=0.035
                ),
            ),
            inside=(),
        )
        found = solve(model, Fineness(), "xy")
        u = 1 / (0.04 + 0.02 / 0.13 + 0.07 / 0.035 + 0.1)
        self.assertAlmostEqual(found.coupling_w_k[0, 1], u, places=9)
        # λ·dL/dλ of each layer is U²·R of it.
        gains = found.sensitivity_w_k([0.0, 1.0])
        for gain, r in zip(gains, (0.02 / 0.13, 0.07 / 0.035), strict=True):
            self.assertAlmostEqual(gain, u * u * r, places=9)

    def test_edge_of_a_box(self) -> None:
        """The exact 2-D edge term of a square corner is 0.559 (conformal map; Langmuir 0.54)."""
        thick, side = 0.05, 0.4
        model = ConductionModel(
            outside=(space("out", block((0, 1), (-0.02, side + thick), (-0.02, side + thick))),),
            bodies=(
                Body(
                    part="shell",
                    shape=block((0, 1), (0, side + thick), (0, side + thick)),
                    conductivity_w_mk=1.0,
                ),
            ),
            inside=(space("in", block((0, 1), (thick, side + thick), (thick, side + thick))),),
        )
        coarse, fine = (
            solve(model, Fineness(first_m=h, growth=1.15)).coupling_w_k[0, 1] for h in (2e-3, 8e-4)
        )
        edges = [g - 2 * side / thick for g in (coarse, fine)]
        self.assertAlmostEqual(edges[1], 0.559, delta=0.003)
        self.assertLess(abs(edges[1] - 0.559), abs(edges[0] - 0.559))

    def test_a_fin_by_its_formula(self) -> None:
        """A thin straight fin with films: tanh(mL)/(mL) (Incropera et al.), metal across air."""
        length, half, film, k = 0.1, 0.001, 0.1, 50.0
        model = ConductionModel(
            outside=(
                space("air", block((0, 1), (0, length), (half, half + 0.01)), film),
                space("root", block((0, 1), (-0.01, 0), (0, half))),
            ),
            bodies=(
                Body(part="fin", shape=block((0, 1), (0, length), (0, half)), conductivity_w_mk=k),
            ),
            inside=(),
        )
        m = (1 / film / (k * half)) ** 0.5
        exact = k * half * m * tanh(m * length)
        found = solve(model, Fineness(first_m=0.0005, growth=1.1))
        self.assertAlmostEqual(found.coupling_w_k[0, 1] / exact, 1.0, delta=0.005)

    def test_order_of_convergence(self) -> None:
        """Halving the cells cuts the error of a smooth corner by a factor between 2 and 5."""
        errors = []
        for times in (1.0, 2.0, 4.0):
            thick = 0.05
            model = ConductionModel(
                outside=(space("out", block((0, 1), (-0.02, 0.15), (-0.02, 0.15)), 0.04),),
                bodies=(
                    Body(
                        part="shell",
                        shape=block((0, 1), (0, 0.15), (0, 0.15)),
                        conductivity_w_mk=0.1,
                    ),
                ),
                inside=(space("in", block((0, 1), (thick, 0.15), (thick, 0.15)), 0.13),),
            )
            errors.append(solve(model, Fineness().finer(times)).coupling_w_k[0, 1])
        first, second = errors[1] - errors[0], errors[2] - errors[1]
        self.assertGreater(first, 0)  # finite volumes come up from below
        self.assertTrue(2 < first / second < 5, (first, second))


class Box3D(unittest.TestCase):
    """Langmuir, Adams and Meikle 1913: A/d + 0.54·Σ edges + 0.15·8·d for surfaces held at T."""

    @staticmethod
    def shape_factor(thick: float, sides: Sequence[float], fineness: Fineness) -> Conduction:
        """Return an eighth of a hollow box; planes of symmetry let nothing through."""
        a, b, h = (s / 2 for s in sides)
        outer = block((0, a + thick), (0, b + thick), (0, h + thick))
        far = block((0, a + thick + 0.01), (0, b + thick + 0.01), (0, h + thick + 0.01))
        model = ConductionModel(
            outside=(space("out", far),),
            bodies=(Body(part="shell", shape=outer, conductivity_w_mk=1.0),),
            inside=(space("in", block((0, a), (0, b), (0, h))),),
        )
        return solve_conduction(model, make_grid(model, fineness))

    def test_over_the_thickness(self) -> None:
        sides = (0.45, 0.37, 0.5)
        area = 2 * sum(a * b for a, b in ((0.45, 0.37), (0.37, 0.5), (0.45, 0.5)))
        for thick in (0.02, 0.05, 0.1, 0.3):
            found = self.shape_factor(
                thick, sides, Fineness(first_m=min(thick / 8, 0.003), growth=1.3)
            )
            printed = area / thick + 0.54 * 4 * sum(sides) + 0.15 * 8 * thick
            with self.subTest(thick=thick):
                self.assertAlmostEqual(8 * found.coupling_w_k[0, 1] / printed, 1, delta=0.006)
                self.assertLess(found.imbalance, 1e-6)

    def test_in_and_out_are_the_same_way(self) -> None:
        found = self.shape_factor(0.05, (0.3, 0.3, 0.3), Fineness(first_m=0.01))
        self.assertAlmostEqual(found.coupling_w_k[0, 1], found.coupling_w_k[1, 0], places=6)

    def test_direct_and_iterative_agree(self) -> None:
        small = self.shape_factor(0.05, (0.3, 0.3, 0.3), Fineness(first_m=0.02))
        self.assertLess(small.grid.cells, 6000)
        large = self.shape_factor(0.05, (0.3, 0.3, 0.3), Fineness(first_m=0.006, growth=1.2))
        self.assertGreater(large.grid.cells, 6000)
        self.assertAlmostEqual(small.coupling_w_k[0, 1] / large.coupling_w_k[0, 1], 1.0, delta=0.03)
        self.assertLess(large.residual, 1e-6)


class Grids(unittest.TestCase):
    def test_graded_spans(self) -> None:
        for length in (0.0002, 0.004, 0.019, 0.5):
            cells = graded(length, Fineness())
            with self.subTest(length=length):
                self.assertAlmostEqual(float(cells.sum()), length, places=12)
                self.assertLess(float(max(cells[0], cells[-1])), 0.0061)
                self.assertTrue(np.allclose(cells, cells[::-1]))
                # A sheet thinner than 2.5 mm has one cell: its own resistance is exact by that.
                self.assertEqual(len(cells) >= 2, length > Fineness().thin_m)

    def test_what_is_not_solved(self) -> None:
        wall = Body(part="wall", shape=block((0, 1), (0, 1), (0, 0.1)), conductivity_w_mk=1.0)
        lone = Body(part="lone", shape=block((0, 1), (0, 1), (0.3, 0.30001)), conductivity_w_mk=1)
        air = space("out", block((0, 1), (0, 1), (-0.1, 0)))
        model = ConductionModel(outside=(air,), bodies=(wall, lone), inside=())
        with self.assertRaisesRegex(NotSolvedError, "lone: no air reaches it"):
            solve_conduction(model, make_grid(model, Fineness(least=1), "xy"))
        # Air at either end alone reaches through all of it, whichever way it has to go.
        for at in ((-0.1, 0.0), (0.2, 0.3)):
            pillar = Body(part="pillar", shape=block((0, 1), (0, 1), (0, 0.2)), conductivity_w_mk=1)
            air = space("out", block((0, 1), (0, 1), at))
            alone = ConductionModel(outside=(air,), bodies=(pillar,), inside=())
            refuse_floating(alone, make_grid(alone, Fineness(least=4), "xy"))
        with self.assertRaisesRegex(DomainError, f"more than the {MOST_CELLS}"):
            make_grid(model, Fineness(first_m=0.001, growth=1.0001))


if __name__ == "__main__":
    unittest.main()
