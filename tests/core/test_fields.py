"""What is shown of a solved hive: sections, beads and the outer surface."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from calveth.catalogue.library import shipped_frames
from calveth.catalogue.shipped import demo_project
from calveth.core.conduction.grid import Fineness, make_grid
from calveth.core.conduction.hive import _hive_conduction, hive_conduction
from calveth.core.conduction.hive_model import hive_parts
from calveth.core.conduction.parts import AirSpace, Body, ConductionModel
from calveth.core.conduction.solve import solve_conduction
from calveth.core.edits import set_layer_thickness
from calveth.core.errors import DomainError
from calveth.core.hive.joinery import Joinery
from calveth.core.hive.opening import Opening
from calveth.core.solids.build import build_solids
from calveth.core.solids.faults import refuse_faults
from calveth.core.solids.shapes import Cuboid
from tests.core.builders import TABLE, box, hole, layer, slot

FORMS = {f.id: f.form for f in shipped_frames()}


def area_m2(corners: np.ndarray) -> np.ndarray:
    one = np.cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])
    two = np.cross(corners[:, 2] - corners[:, 0], corners[:, 3] - corners[:, 0])
    return np.asarray(0.5 * (np.linalg.norm(one, axis=1) + np.linalg.norm(two, axis=1)))


class Shown(unittest.TestCase):
    def test_the_outer_surface_loses_what_the_hive_loses(self) -> None:
        """Σ A·θ/Rse over the squares of the skin is L, for boxes, slopes and the tree."""
        designs = [
            box(layer("softwood", 25), openings=()),
            box(layer("softwood", 25), openings=(), lid_slope_deg=15.0, lid_shape="pitched"),
            box(layer("plywood", 25), openings=(), form=FORMS["octagon"]),
            demo_project().design("hollow-tree"),
        ]
        for design in designs:
            solved = hive_conduction(design, TABLE)
            theta = solved.skin.degc(np.ones(3), 0.0)
            lost = float((area_m2(solved.skin.corners_m) * theta).sum()) / 0.04
            with self.subTest(design=design.name, slope=design.lid_slope_deg):
                # Facets round a trunk are a little smaller than the trunk.
                self.assertAlmostEqual(lost / solved.conductance_w_k, 1, delta=0.012)

    def test_a_section_runs_from_outside_to_inside(self) -> None:
        solved = hive_conduction(demo_project().design("composite"), TABLE)
        for field in (solved.upright, solved.level):
            degc = field.degc(np.array([30.0, 30.0, 30.0]), 0.0)
            known = degc[np.isfinite(degc)]
            with self.subTest(plane=field.plane):
                self.assertTrue(0 < known.min() < 3)
                self.assertTrue(24 < known.max() < 30)
                self.assertTrue(np.isnan(degc).any())  # the room is no solid

    def test_sections_are_whole(self) -> None:
        """Mirrored halves reach from wall to wall."""
        design = box(layer("softwood", 25), openings=())
        solved = hive_conduction(design, TABLE)
        wide, deep = design.form.spans_m
        across = solved.upright.across_m[np.isfinite(solved.upright.share[0])]
        self.assertAlmostEqual(float(np.ptp(across)), deep + 0.05, places=6)
        known = np.isfinite(solved.level.share[0])
        self.assertAlmostEqual(float(np.ptp(solved.level.across_m[known])), wide + 0.05, places=6)

    def test_beads_lie_all_round_the_room(self) -> None:
        design = box(layer("softwood", 25), openings=())
        beads = hive_conduction(design, TABLE).beads
        around = 2 * (design.form.spans_m[1] + design.form.height_m)
        self.assertAlmostEqual(float(beads.length_m.sum()), around, places=6)
        self.assertEqual(set(beads.zone.tolist()), {0, 1, 2})
        rim = beads.factor[np.argmax(beads.z_m - 10 * abs(beads.y_m))]
        self.assertLess(rim, beads.factor.max())


class OneAnswer(unittest.TestCase):
    def test_a_hive_is_the_same_whatever_was_solved_before_it(self) -> None:
        """Every spot and field, to the bit: no solve begins from another."""
        design = demo_project().design("composite")
        first = hive_conduction(design, TABLE, 0.6)
        for mm in (40, 45, 50):
            other = set_layer_thickness(demo_project(), "composite", "walls", 1, mm / 1000)
            hive_conduction(other.design("composite"), TABLE, 0.6)
        _hive_conduction.cache_clear()
        again = hive_conduction(design, TABLE, 0.6)
        self.assertIsNot(again, first)
        self.assertEqual(again.conductance_w_k, first.conductance_w_k)
        self.assertEqual(again.coldest, first.coldest)
        np.testing.assert_array_equal(again.zone_w_k, first.zone_w_k)


class Refused(unittest.TestCase):
    """Bad input is named before anything is solved."""

    def test_openings_that_run_into_each_other(self) -> None:
        low = Opening(
            id="two", name="second slot", shape="slot", bottom_m=0.01, width_m=0.1, height_m=0.02
        )
        with self.assertRaisesRegex(DomainError, "low entrance and second slot"):
            hive_conduction(box(openings=(slot(), low)), TABLE)

    def test_blocks_round_entrances_that_meet(self) -> None:
        design = box(
            layer("softwood", 12),
            layer("xps", 50),
            layer("softwood", 12),
            openings=(slot(), hole(0.04, 0.02, "hole")),
            joinery=Joinery(entrance="solid block", block_m=0.05),
        )
        with self.assertRaisesRegex(DomainError, "entrance block: low entrance and entrance"):
            hive_conduction(design, TABLE)

    def test_parts_that_take_one_place(self) -> None:
        design = box(openings=())
        hive = build_solids(design)
        lid = next(s for s in hive.solids if s.face == "lid")
        assert isinstance(lid.shape, Cuboid)
        sunk = replace(lid, shape=replace(lid.shape, z0=lid.shape.z0 - 0.05))
        broken = replace(hive, solids=(*(s for s in hive.solids if s is not lid), sunk))
        with self.assertRaisesRegex(DomainError, r"lid \(lid layer 1\)"):
            refuse_faults(design, broken)

    def test_a_lid_that_comes_down_below_the_floor(self) -> None:
        design = box(
            form=FORMS["stingless"],
            openings=(),
            joinery=Joinery(lid="telescoping rim", overlap_m=0.4),
        )
        with self.assertRaisesRegex(DomainError, "overlap of the lid"):
            hive_conduction(design, TABLE)

    def model(self, *bodies: Body) -> ConductionModel:
        films = {"up": 0.1, "horizontal": 0.13, "down": 0.17}
        room = Cuboid(x0=0, x1=0.2, y0=0, y1=0.2, z0=0, z1=0.2)
        far = Cuboid(x0=-0.1, x1=0.3, y0=-0.1, y1=0.3, z0=-0.1, z1=0.3)
        return ConductionModel(
            outside=(AirSpace(name="outside", shape=far, film_m2k_w=films),),  # type: ignore[arg-type]
            bodies=bodies,
            inside=(AirSpace(name="room", shape=room, film_m2k_w=films),),  # type: ignore[arg-type]
        )

    def test_a_cavity_that_is_open(self) -> None:
        whole = Cuboid(x0=-0.02, x1=0.22, y0=-0.02, y1=0.22, z0=-0.02, z1=0.2)
        model = self.model(Body(part="box", shape=whole, conductivity_w_mk=0.13))
        with self.assertRaisesRegex(DomainError, "room and outside meet without a wall.*z 19"):
            solve_conduction(model, make_grid(model, Fineness()))

    def test_more_unknowns_than_memory_holds(self) -> None:
        with self.assertRaisesRegex(DomainError, "shell: .* cells"):
            hive_conduction(demo_project().design("composite"), TABLE, 4.0)

    def test_a_slope_that_folds(self) -> None:
        design = box(layer("softwood", 25), openings=(), lid_slope_deg=60.0)
        parts = hive_parts(design, TABLE, "heat")
        self.assertIsNotNone(parts.model.bend)  # steep, yet it can be built
        crossed = replace(parts.model.bend, knots=((0.2, 0.0), (-0.1, 0.3)))  # type: ignore[type-var]
        model = replace(parts.model, bend=crossed)
        with self.assertRaisesRegex(DomainError, "folds over itself"):
            solve_conduction(model, make_grid(model, Fineness(first_m=0.03)))

    def test_a_part_that_floats(self) -> None:
        walls = Cuboid(x0=-0.02, x1=0.22, y0=-0.02, y1=0.22, z0=-0.02, z1=0.22)
        far = Cuboid(x0=0.5, x1=0.52, y0=0.5, y1=0.52, z0=0.5, z1=0.52)
        model = self.model(
            Body(part="box", shape=walls, conductivity_w_mk=0.13),
            Body(part="lost board", shape=far, conductivity_w_mk=0.13),
        )
        with self.assertRaisesRegex(Exception, "lost board"):
            solve_conduction(model, make_grid(model, Fineness()))

    def test_a_layer_of_no_thickness(self) -> None:
        with self.assertRaisesRegex(DomainError, "layer thickness"):
            layer("softwood", 0)


class Named(unittest.TestCase):
    def test_solids_have_names_a_person_reads(self) -> None:
        for solid in build_solids(demo_project().design("composite")).pieces:
            self.assertRegex(solid.part, r"^(box \d|lid|floor)$")


if __name__ == "__main__":
    unittest.main()
