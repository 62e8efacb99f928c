"""Cold spots and metal on the usual grid, against much finer ones and against a law."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from calveth.core.conduction.grid import NO_SHARP, Fineness, Sharp, graded, make_grid
from calveth.core.conduction.hive_model import hive_parts
from calveth.core.conduction.parts import AirSpace, Body, ConductionModel
from calveth.core.conduction.solve import solve_conduction
from calveth.core.conduction.solved import crosses, sharpened, solve_hive
from calveth.core.conduction.spots import _at_the_edge, coldest_spots
from calveth.core.hive.forms import BarTrough, Form, HollowTree, LittleBoxes, StackedBoxes
from calveth.core.hive.shapes import Cuboid
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
        found = solved.found
        factor = found.surface_degc(solved.space_share.sum(axis=0))
        names = [s.name for s in found.model.spaces]
        inside = np.array([n not in ("outside",) for n in names])[found.surfaces.space]
        level = found.surfaces.axis == 2
        raw = float(factor[inside & level & (found.surfaces.centre_m[:, 2] > 0.1)].min())
        self.assertGreater(raw, spot.factor + 0.03)


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
    def extra_w_k(self, fineness: Fineness, sharp: Sharp) -> float:
        """What a steel sheet of 1 mm through 60 mm of foam adds to a metre of wall, 0.4 m high."""
        films = dict.fromkeys(("up", "horizontal", "down"), 0.13)
        out = dict.fromkeys(("up", "horizontal", "down"), 0.04)
        size = {"y0": 0.0, "y1": 1.0, "z0": 0.0, "z1": 0.06}
        foam = Body(part="foam", shape=Cuboid(x0=0, x1=0.4, **size), conductivity_w_mk=0.035)
        steel = Body(part="steel", shape=Cuboid(x0=0.1995, x1=0.2005, **size),
                     conductivity_w_mk=50.0)  # fmt: skip
        wide = {"x0": -0.1, "x1": 0.5, "y0": 0.0, "y1": 1.0}
        model = ConductionModel(
            outside=(AirSpace(name="outside", shape=Cuboid(z0=-0.1, z1=0.0, **wide),
                              film_m2k_w=out),),  # type: ignore[arg-type]
            bodies=(foam, steel),
            inside=(AirSpace(name="room", shape=Cuboid(z0=0.06, z1=0.16, **wide),
                             film_m2k_w=films),),  # type: ignore[arg-type]
        )  # fmt: skip
        found = solve_conduction(model, make_grid(model, fineness, "y", sharp))
        return float(found.coupling_w_k[1, 0]) - 0.4 / (0.17 + 0.06 / 0.035)

    def test_a_sheet_through_foam_keeps_its_extra_heat(self) -> None:
        planes: Sharp = ((0.1995, 0.2005), (), (0.0, 0.06))
        limit = self.extra_w_k(
            Fineness(first_m=5e-5, growth=1.1, least=12, thin_m=0.0), NO_SHARP
        )  # fmt: skip
        usual = Fineness(first_m=0.006, growth=1.5, least=3)
        keen = replace(usual, sharp_m=0.0002, sharp_growth=1.5)
        self.assertAlmostEqual(self.extra_w_k(keen, planes) / limit, 1.0, delta=0.02)
        self.assertLess(self.extra_w_k(usual, NO_SHARP) / limit, 0.8)

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
