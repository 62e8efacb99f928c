"""The whole shell: published shape factors, a plain numerical solution, and its directions."""

from __future__ import annotations

import itertools
import math
import unittest
from dataclasses import replace

import numpy as np
from scipy.sparse import coo_array, diags_array
from scipy.sparse.linalg import cg

from calveth.core.heat.shell import (
    box_shape_factor_m,
    cylinder_conductance_w_mk,
    mass_to_conductance_kg_k_w,
    shell_heat,
    whole_conductance_w_k,
)
from calveth.core.hive.design import Design
from calveth.core.hive.forms import HollowTree, StackedBoxes
from calveth.core.solids.build import build_solids
from tests.core.builders import TABLE, box, layer


def conductance(design: Design, rse: float = 0.04) -> float:
    return float(whole_conductance_w_k(shell_heat(design, build_solids(design), TABLE), rse))


def solved_box_w_k(
    inner: tuple[float, float, float],
    d: float,
    lam: float,
    rsi: tuple[float, float, float],
    rse: float,
    cell: float,
) -> float:
    """Return the conductance of a hollow box by plain finite volumes on a uniform grid [W/K].

    Written for this test only, on an eighth of a box that is alike in its three planes except that
    ``rsi`` differs by direction; the reference the estimate is held against.
    """
    counts = [round(side / 2 / cell) for side in inner]
    wall = round(d / cell)
    n = [count + wall for count in counts]
    solid = np.ones(n, dtype=bool)
    solid[: counts[0], : counts[1], : counts[2]] = False
    number = np.full(n, -1)
    number[solid] = np.arange(int(solid.sum()))
    size = int(solid.sum())
    diagonal, right = np.zeros(size), np.zeros(size)
    rows, columns, values = [], [], []
    for axis in range(3):
        low = [slice(None)] * 3
        high = [slice(None)] * 3
        low[axis], high[axis] = slice(0, -1), slice(1, None)
        a, b = number[tuple(low)], number[tuple(high)]
        both = (a >= 0) & (b >= 0)
        g = lam * cell
        for i, j in ((a[both], b[both]), (b[both], a[both])):
            rows.append(i)
            columns.append(j)
            values.append(np.full(i.size, -g))
            np.add.at(diagonal, i, g)
        film = cell**2 / (cell / 2 / lam + rsi[axis])
        wet = b[(a < 0) & (b >= 0)]  # the room lies at the low side
        np.add.at(diagonal, wet, film)
        np.add.at(right, wet, film)
        edge: list[slice | int] = [slice(None)] * 3
        edge[axis] = -1
        outer = number[tuple(edge)]
        np.add.at(diagonal, outer[outer >= 0], cell**2 / (cell / 2 / lam + rse))
    matrix = coo_array(
        (np.concatenate(values), (np.concatenate(rows), np.concatenate(columns))),
        shape=(size, size),
    ).tocsr() + diags_array(diagonal)
    t, code = cg(matrix, right, rtol=1e-8, M=diags_array(1 / diagonal))
    assert code == 0
    inside = float(np.sum(right * (1.0 - t)))
    return 8 * inside


class AgainstPublishedShapes(unittest.TestCase):
    def test_langmuir(self) -> None:
        # Langmuir, Adams and Meikle 1913: S = A/d + 0.54·Σ edges + 0.15·8·d, inner sides over d/5.
        sides = (0.374, 0.467, 0.508)
        for d in (0.02, 0.04, 0.06, 0.08, 0.1, 0.2, 0.3):
            with self.subTest(d=d):
                area = 2 * (sides[0] * sides[1] + sides[1] * sides[2] + sides[0] * sides[2])
                expected = area / d + 0.54 * 4 * sum(sides) + 0.15 * 8 * d
                self.assertAlmostEqual(box_shape_factor_m(sides, d, 0.54, 0.15), expected, places=9)
                # Ours, with the exact edge term and a corner fitted with films, stays beside it.
                self.assertLess(abs(box_shape_factor_m(sides, d) / expected - 1), 0.01)

    def test_cylinder(self) -> None:
        for r1, r2, lam in ((0.1, 0.25, 0.15), (0.1, 0.11, 0.13), (0.05, 0.5, 0.035)):
            with self.subTest(r1=r1, r2=r2):
                expected = 2 * math.pi * lam / math.log(r2 / r1)
                self.assertAlmostEqual(cylinder_conductance_w_mk(r1, r2, lam), expected, places=12)


class AgainstANumericalSolution(unittest.TestCase):
    """Box of one material, films as in EN ISO 6946; 8 cells through the wall (about 0.5 %)."""

    def check(self, mm: float, material: str, within: float) -> None:
        form = StackedBoxes(
            frame_count=10,
            frame_pitch_m=0.035,
            side_clearance_m=0.005,
            frame_length_m=0.46,
            end_clearance_m=0.01,
            box_height_m=0.24,
            box_count=2,
            bottom_space_m=0.0,
            frame_height_m=0.232,
        )
        design = box(layer(material, mm), form=form, openings=())
        lam = TABLE[material].conductivity_w_mk
        # Up and down films differ; the eighth of a box has their series mean on its level faces.
        level = 2 / (1 / 0.10 + 1 / 0.17)
        expected = solved_box_w_k(
            (0.36, 0.48, 0.48), mm / 1000, lam, (0.13, 0.13, level), 0.04, mm / 1000 / 8
        )
        self.assertLess(abs(conductance(design) / expected - 1), within)

    def test_thick_foam(self) -> None:
        self.check(60, "eps", 0.025)

    def test_thick_blocks(self) -> None:
        self.check(80, "aircrete", 0.03)

    def test_boards(self) -> None:
        self.check(40, "softwood", 0.03)


class Directions(unittest.TestCase):
    def test_thicker_is_warmer(self) -> None:
        values = [conductance(box(layer("eps", mm))) for mm in (20, 40, 60, 80)]
        self.assertTrue(all(a > b for a, b in itertools.pairwise(values)))

    def test_the_next_centimetre_brings_less(self) -> None:
        values = [conductance(box(layer("eps", mm))) for mm in (20, 30, 40, 50, 60)]
        saved = -np.diff(values)
        self.assertTrue(np.all(np.diff(saved) < 0))

    def test_edges_count(self) -> None:
        design = box(layer("aircrete", 100))
        faces = shell_heat(design, build_solids(design), TABLE)
        plain = sum(float(f.middle_w_m2k()) * f.area.inner_m2 for f in faces.values())
        self.assertGreater(conductance(design), 1.1 * plain)

    def test_wind_takes_more(self) -> None:
        design = box()
        self.assertGreater(conductance(design, rse=0.03), conductance(design, rse=0.10))

    def test_tree_of_the_benchmark(self) -> None:
        # Without ends: 2·π·H/(ln(r2/r1)/λ + films) by hand for the trunk of the demo.
        tree = replace(
            box(
                layer("tree-trunk", 150),
                lid=(layer("tree-trunk", 400),),
                floor=(layer("tree-trunk", 400),),
                openings=(),
                form=HollowTree(),
            ),
        )
        faces = shell_heat(tree, build_solids(tree), TABLE)
        u = float(faces["walls"].middle_w_m2k())
        by_hand = 1 / (0.13 + 0.1 * math.log(2.5) / 0.15 + 0.04 / 2.5)
        self.assertAlmostEqual(u, by_hand, places=9)

    def test_mass_to_conductance(self) -> None:
        # Mitchell 2016 (abstract): below 0.8 kg·K/W for common board hives.
        plain = conductance(box())
        self.assertLess(mass_to_conductance_kg_k_w(1.5, plain), 0.8)


if __name__ == "__main__":
    unittest.main()
