"""The conduction solver against printed cases of standards, exact solutions and itself."""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from math import cosh, log, pi, sin, sinh, tanh

import numpy as np

from calveth.core.conduction.grid import MOST_CELLS, Fineness, graded, make_grid
from calveth.core.conduction.parts import AirSpace, Body, ConductionModel
from calveth.core.conduction.solve import Conduction, NotSolvedError, solve_conduction
from calveth.core.errors import DomainError
from calveth.core.hive.solids import Cuboid

NO_FILM = {"up": 0.0, "horizontal": 0.0, "down": 0.0}


def block(x: Sequence[float], y: Sequence[float], z: Sequence[float]) -> Cuboid:
    return Cuboid(x0=x[0], x1=x[1], y0=y[0], y1=y[1], z0=z[0], z1=z[1])


def space(name: str, shape: Cuboid, film: float = 0.0) -> AirSpace:
    films = {"up": film, "horizontal": film, "down": film}
    return AirSpace(name=name, shape=shape, film_m2k_w=films)  # type: ignore[arg-type]


def solve(model: ConductionModel, fineness: Fineness, flat: str = "x") -> Conduction:
    return solve_conduction(model, make_grid(model, fineness, flat))


class Case1(unittest.TestCase):
    """EN ISO 10211:2017, annex C, case 1: half a square column with one warm side."""

    # Printed temperatures [°C] at the points of a grid of an eighth of the side, from memory; each
    # also stands beside the series below.
    PRINTED = (
        (9.7, 13.4, 14.7, 15.1), (5.3, 8.6, 10.3, 10.8), (3.2, 5.6, 7.0, 7.5), (2.0, 3.6, 4.7, 5.0),
        (1.3, 2.3, 3.0, 3.2), (0.7, 1.4, 1.8, 1.9), (0.3, 0.6, 0.8, 0.9),
    )  # fmt: skip

    @staticmethod
    def exact(y: float, z: float) -> float:
        """Return the series for a unit square, warm at z = 1 [°C]."""
        return 20 * sum(
            4 / (pi * n) * sin(n * pi * y) * sinh(n * pi * z) / sinh(n * pi)
            for n in range(1, 160, 2)
        )

    def test_each_of_the_28_points(self) -> None:
        thick = 0.02
        model = ConductionModel(
            outside=(
                space("cold", block((0, 1), (-thick, 0.5), (-thick, 1))),
                space("warm", block((0, 1), (0, 0.5), (1, 1 + thick))),
            ),
            bodies=(Body(part="column", shape=block((0, 1), (0, 0.5), (0, 1)),
                         conductivity_w_mk=1.0),),
            inside=(),
        )  # fmt: skip
        grid = make_grid(model, Fineness(first_m=0.004, growth=1.08), "x")
        degc = solve_conduction(model, grid).temperature_degc(np.array([0.0, 20.0]))[0]
        y, z = (0.5 * (e[:-1] + e[1:]) for e in grid.edges_m[1:])
        for row, values in enumerate(self.PRINTED):
            for column, printed in enumerate(values):
                at_y, at_z = (column + 1) / 8, 1 - (row + 1) / 8
                # Between the middles of the cells around it; the plane of symmetry mirrors.
                lines = [float(np.interp(at_z, z, degc[j])) for j in range(len(y))]
                got = float(np.interp(at_y, [*y, 1 - y[-1]], [*lines, lines[-1]]))
                with self.subTest(row=row, column=column):
                    self.assertAlmostEqual(got, printed, delta=0.1)
                    self.assertAlmostEqual(got, self.exact(at_y, at_z), delta=0.03)


class Case2(unittest.TestCase):
    """EN ISO 10211:2017, annex C, case 2: 9.5 W/m within 0.1, points within 0.1 K.

    Geometry and printed values from memory: 500 mm wide with no heat through the sides; from the
    inside up aluminium 1.5 mm, insulation 40 mm, concrete 6 mm. A timber batten 15 × 5 mm at the
    left under the concrete, under it an aluminium foot 15 × 1.5 mm and a web 1.5 mm wide.
    """

    POINTS = (
        ("A", 0.0, 0.0475, 7.1), ("B", 0.5, 0.0475, 0.8), ("C", 0.0, 0.0415, 7.9),
        ("D", 0.015, 0.0415, 6.3), ("E", 0.5, 0.0415, 0.8), ("F", 0.0, 0.0365, 16.4),
        ("G", 0.015, 0.0365, 16.3), ("H", 0.0, 0.0, 16.8), ("I", 0.5, 0.0, 18.3),
    )  # fmt: skip

    def setUp(self) -> None:
        def body(part: str, y: tuple[float, float], z: tuple[float, float], k: float) -> Body:
            return Body(part=part, shape=block((0, 1), y, z), conductivity_w_mk=k)

        self.model = ConductionModel(
            outside=(
                space("out", block((0, 1), (0, 0.5), (0.0475, 0.05)), 0.06),
                space("in", block((0, 1), (0, 0.5), (-0.01, 0)), 0.11),
            ),
            bodies=(
                body("insulation", (0, 0.5), (0.0015, 0.0415), 0.029),
                body("sheet", (0, 0.5), (0, 0.0015), 230.0),
                body("concrete", (0, 0.5), (0.0415, 0.0475), 1.15),
                body("batten", (0, 0.015), (0.0365, 0.0415), 0.12),
                body("foot", (0, 0.015), (0.035, 0.0365), 230.0),
                body("web", (0, 0.0015), (0.0015, 0.035), 230.0),
            ),
            inside=(),
        )
        grid = make_grid(self.model, Fineness(first_m=0.0005, growth=1.25), "x")
        self.found = solve_conduction(self.model, grid)

    def test_heat_flow(self) -> None:
        watts = 20 * self.found.coupling_w_k[1, 0]
        self.assertAlmostEqual(watts, 9.5, delta=0.1)
        self.assertLess(self.found.imbalance, 1e-9)
        self.assertLess(self.found.residual, 1e-9)

    def test_points(self) -> None:
        degc = self.found.temperature_degc(np.array([0.0, 20.0]))[0]
        _, ey, ez = self.found.grid.edges_m
        y, z = 0.5 * (ey[:-1] + ey[1:]), 0.5 * (ez[:-1] + ez[1:])
        surface = self.found.surface_degc(np.array([0.0, 20.0]))
        centre = self.found.surfaces.centre_m
        for name, at_y, at_z, printed in self.POINTS:
            with self.subTest(point=name):
                if at_z in (0.0, 0.0475):
                    near = np.argmin(abs(centre[:, 1] - at_y) + 10 * abs(centre[:, 2] - at_z))
                    got = float(surface[near])
                else:
                    got = float(np.interp(at_z, z, degc[np.argmin(abs(y - at_y))]))
                # C to G lie where materials of very different λ meet, between two cells.
                self.assertAlmostEqual(got, printed, delta=0.1 if name in "ABEHI" else 0.3)


class Exact(unittest.TestCase):
    def test_a_wall_of_layers(self) -> None:
        """EN ISO 6946: 1/U is the sum of the resistances, to rounding on any grid."""
        model = ConductionModel(
            outside=(space("out", block((0, 1), (0, 1), (0.09, 0.1)), 0.04),
                     space("in", block((0, 1), (0, 1), (-0.01, 0)), 0.1)),
            bodies=(
                Body(part="board", shape=block((0, 1), (0, 1), (0, 0.02)), conductivity_w_mk=0.13),
                Body(part="foam", shape=block((0, 1), (0, 1), (0.02, 0.09)),
                     conductivity_w_mk=0.035),
            ),
            inside=(),
        )  # fmt: skip
        found = solve(model, Fineness(), "xy")
        u = 1 / (0.04 + 0.02 / 0.13 + 0.07 / 0.035 + 0.1)
        self.assertAlmostEqual(found.coupling_w_k[0, 1], u, places=9)
        # λ·dL/dλ of each layer is U²·R of it.
        gains = found.sensitivity_w_k(1)
        for gain, r in zip(gains, (0.02 / 0.13, 0.07 / 0.035), strict=True):
            self.assertAlmostEqual(gain, u * u * r, places=9)

    def test_edge_of_a_box(self) -> None:
        """The exact 2-D edge term of a square corner is 0.559 (conformal map; Langmuir 0.54)."""
        thick, side = 0.05, 0.4
        model = ConductionModel(
            outside=(space("out", block((0, 1), (-0.02, side + thick), (-0.02, side + thick))),),
            bodies=(Body(part="shell", shape=block((0, 1), (0, side + thick), (0, side + thick)),
                         conductivity_w_mk=1.0),),
            inside=(space("in", block((0, 1), (thick, side + thick), (thick, side + thick))),),
        )  # fmt: skip
        coarse, fine = (
            solve(model, Fineness(first_m=h, growth=1.15)).coupling_w_k[0, 1] for h in (2e-3, 1e-3)
        )
        edges = [g - 2 * side / thick for g in (coarse, fine)]
        self.assertAlmostEqual(edges[1], 0.559, delta=0.003)
        self.assertLess(abs(edges[1] - 0.559), abs(edges[0] - 0.559))

    def test_a_fin_by_its_formula(self) -> None:
        """A thin straight fin with films: tanh(mL)/(mL) (Incropera et al.), metal across air."""
        length, half, film, k = 0.1, 0.001, 0.1, 50.0
        model = ConductionModel(
            outside=(space("air", block((0, 1), (0, length), (half, half + 0.01)), film),
                     space("root", block((0, 1), (-0.01, 0), (0, half)))),
            bodies=(Body(part="fin", shape=block((0, 1), (0, length), (0, half)),
                         conductivity_w_mk=k),),
            inside=(),
        )  # fmt: skip
        m = (1 / film / (k * half)) ** 0.5
        exact = k * half * m * tanh(m * length)
        found = solve(model, Fineness(first_m=0.0005, growth=1.1))
        self.assertAlmostEqual(found.coupling_w_k[0, 1] / exact, 1.0, delta=0.005)
        self.assertGreater(cosh(m * length), 1.2)  # the fin does cool along its length

    def test_order_of_convergence(self) -> None:
        """Halving the cells cuts the error of a smooth corner by a factor between 2 and 5."""
        errors = []
        for times in (1.0, 2.0, 4.0):
            thick = 0.05
            model = ConductionModel(
                outside=(space("out", block((0, 1), (-0.02, 0.15), (-0.02, 0.15)), 0.04),),
                bodies=(Body(part="shell", shape=block((0, 1), (0, 0.15), (0, 0.15)),
                             conductivity_w_mk=0.1),),
                inside=(space("in", block((0, 1), (thick, 0.15), (thick, 0.15)), 0.13),),
            )  # fmt: skip
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
        small = self.shape_factor(0.05, (0.3, 0.3, 0.3), Fineness(first_m=0.025))
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
                self.assertGreaterEqual(len(cells), 2)

    def test_what_is_not_solved(self) -> None:
        wall = Body(part="wall", shape=block((0, 1), (0, 1), (0, 0.1)), conductivity_w_mk=1.0)
        lone = Body(part="lone", shape=block((0, 1), (0, 1), (0.3, 0.30001)), conductivity_w_mk=1)
        air = space("out", block((0, 1), (0, 1), (-0.1, 0)))
        model = ConductionModel(outside=(air,), bodies=(wall, lone), inside=())
        with self.assertRaisesRegex(NotSolvedError, "lone: no air reaches it"):
            solve_conduction(model, make_grid(model, Fineness(least=1), "xy"))
        with self.assertRaisesRegex(DomainError, f"more than {MOST_CELLS}"):
            make_grid(model, Fineness(first_m=0.001, growth=1.0001))
        self.assertGreater(log(MOST_CELLS), 10)


if __name__ == "__main__":
    unittest.main()
