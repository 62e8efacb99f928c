"""Cold spots and metal on the usual grid, against much finer ones and against a law."""

from __future__ import annotations

import unittest
from unittest import mock

import numpy as np

from calveth.core.conduction import hive as hive_module
from calveth.core.conduction.exact import sheet_through_foam_w_k
from calveth.core.conduction.grid import Fineness, graded
from calveth.core.conduction.hive import hive_conduction
from calveth.core.conduction.hive_model import hive_parts
from calveth.core.conduction.linear import NotSolvedError
from calveth.core.conduction.solved import Solved, crosses, sharpened, solve_hive
from calveth.core.conduction.spots import _at_the_edge, coldest_spots
from calveth.core.hive.design import Design
from calveth.core.hive.forms import BarTrough, Form, HollowTree, LittleBoxes, StackedBoxes
from calveth.core.kept import keep_with
from tests.core.builders import TABLE, box, layer

# Temperature factors; what issue and docs promise.
NEAR, NEAR_AN_OPENING = 0.01, 0.015


class AgainstFinerGrids(unittest.TestCase):
    def off(self, form: Form, stack: str, finer: float) -> dict[str, float]:
        """How far the factor of every named spot is from that of a finer grid."""
        design = box(layer(stack, 40), form=form)
        usual, fine = (coldest_spots(solve_hive(design, TABLE, "damp", f)) for f in (1.0, finer))
        return {name: usual[name].factor - fine[name].factor for name in usual.keys() & fine.keys()}

    def test_every_named_spot_is_within_a_hundredth(self) -> None:
        for form, stack, finer in (
            (StackedBoxes(frame_count=3), "eps", 2.0),
            (BarTrough(bar_count=3), "softwood", 1.6),
            (LittleBoxes(box_count=2), "softwood", 1.6),
            (HollowTree(), "eps", 3.0),
        ):
            with self.subTest(form=type(form).__name__):
                off = self.off(form, stack, finer)
                self.assertGreater(len(off), 6)
                for name, value in off.items():
                    near = NEAR_AN_OPENING if name.startswith("at the") else NEAR
                    self.assertLess(abs(value), near, name)

    def test_without_the_law_of_the_edge_they_would_not_be(self) -> None:
        """The same grid as long as nothing is done about the edge: 0.05 and more off."""
        design = box(layer("eps", 40), form=StackedBoxes(frame_count=3))
        solved = solve_hive(design, TABLE, "damp")
        spot = coldest_spots(solved)["lid in the corner"]
        found = solved.field
        factor = found.surface_degc(solved.space_share.sum(axis=0))
        names = [s.name for s in found.model.spaces]
        inside = np.array([n not in ("outside",) for n in names])[found.surfaces.space]
        level = found.surfaces.axis == 2
        raw = float(factor[inside & level & (found.surfaces.centre_m[:, 2] > 0.1)].min())
        self.assertGreater(raw, spot.factor + 0.03)


class OnlyWhenAsked(unittest.TestCase):
    def setUp(self) -> None:
        # A test of the window may have left a keeper, which answers without solving.
        keep_with(None)

    def test_spots_are_solved_once_and_only_when_asked_for(self) -> None:
        design = box(layer("eps", 41), form=StackedBoxes(frame_count=3))
        with mock.patch.object(hive_module, "solve_hive", wraps=solve_hive) as asked:
            found = hive_conduction(design, TABLE)
            self.assertEqual([c.args[2] for c in asked.call_args_list], ["heat"])
            first = found.coldest["lid rim"].factor
            self.assertEqual(found.coldest["lid rim"].factor, first)
            self.assertEqual([c.args[2] for c in asked.call_args_list], ["heat", "damp"])

    def test_without_an_answer_for_damp_the_heat_stands_in(self) -> None:
        def only_heat(
            design: Design, materials: object, films: str, *more: float, **k: bool
        ) -> Solved:
            if films == "damp":
                raise NotSolvedError("shell: none")
            return solve_hive(design, TABLE, "heat", *more, **k)

        design = box(layer("eps", 42), form=StackedBoxes(frame_count=3))
        with mock.patch.object(hive_module, "solve_hive", only_heat):
            found = hive_conduction(design, TABLE)
            self.assertGreater(found.coldest["lid rim"].factor, 0.5)


class TheLaw(unittest.TestCase):
    def test_an_edge_of_270_degrees_is_read_exactly(self) -> None:
        """T = T0 + a·r^(2/3): the first term of a wedge of 270° (Williams 1952)."""
        r = np.array([0.0005, 0.002])
        factor = 0.31 + 4.0 * r ** (2 / 3)
        change = _at_the_edge(factor, r, np.array([0]), np.array([1]))
        self.assertAlmostEqual(float(factor[0] + change[0]), 0.31)

    def test_cells_double_from_a_sharp_plane(self) -> None:
        cells = graded(0.3, Fineness(first_m=0.006, growth=1.5), sharp=(True, False))
        self.assertLess(float(cells[0]), 0.00101)
        self.assertAlmostEqual(float(cells[1] / cells[0]), 2.0)
        self.assertGreater(float(cells[-1]), 0.004)
        self.assertAlmostEqual(float(cells.sum()), 0.3)


class Metal(unittest.TestCase):
    def test_a_sheet_through_foam_keeps_its_extra_heat(self) -> None:
        limit = sheet_through_foam_w_k(fine=True)
        self.assertAlmostEqual(sheet_through_foam_w_k() / limit, 1.0, delta=0.02)
        self.assertLess(sheet_through_foam_w_k(keen=False) / limit, 0.85)

    def test_a_cladding_outside_is_no_bridge(self) -> None:
        for lid, bridge in (
            ((layer("zinc", 1), layer("eps", 40)), False),
            ((layer("eps", 40), layer("zinc", 1)), True),
            ((layer("zinc", 1),), True),
        ):
            parts = hive_parts(box(layer("eps", 40), lid=lid), TABLE, "heat", holes=True)
            metal = [b for b in parts.model.bodies if b.conductivity_w_mk > 10]
            self.assertTrue(metal)
            self.assertEqual({crosses(b, parts) for b in metal}, {bridge})
            fineness, sharp = sharpened(parts, Fineness(), "heat")
            self.assertEqual(any(sharp), bridge)
            self.assertEqual(fineness.sharp_m < 0.001, bridge)


if __name__ == "__main__":
    unittest.main()
