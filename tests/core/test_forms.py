"""The forms of hives: litres, areas, weights and balance by hand."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

from calveth.catalogue.library import make_design, shipped_frames, shipped_make_ups
from calveth.catalogue.shipped import demo_project
from calveth.core.conduction.hive import hive_conduction
from calveth.core.errors import DomainError
from calveth.core.hive.forms import BarTrough, HollowTree, LittleBoxes, StackedBoxes
from calveth.core.hive.joinery import Joinery
from calveth.core.solids.build import build_solids
from calveth.core.solids.clearances import bee_space, clearances, frames_that_fit
from calveth.core.solids.level import cut_level
from calveth.core.solids.quantities import (
    cavity_litres,
    centre_of_gravity_m,
    face_areas,
    outer_size_m,
    part_weights_kg,
)
from calveth.core.solids.section import section_of
from tests.core.builders import TABLE, box, layer

FRAMES = {f.id: f for f in shipped_frames()}
SLOPED = BarTrough(bar_count=20, section=((0.21, 0.0), (0.44, 0.29)))
OCTAGON = BarTrough(bar_count=10, section=((0.17, 0.0), (0.41, 0.12), (0.41, 0.29), (0.3, 0.345)))


class Litres(unittest.TestCase):
    def test_sloped_sides(self) -> None:
        """Mean width × height × length."""
        hive = build_solids(box(form=SLOPED, openings=()))
        self.assertAlmostEqual(
            cavity_litres(hive), 1000 * 0.5 * (0.21 + 0.44) * 0.29 * 0.7, places=6
        )

    def test_octagon(self) -> None:
        """Three trapezoids, one above the other."""
        area = 0.5 * (0.17 + 0.41) * 0.12 + 0.41 * 0.17 + 0.5 * (0.41 + 0.3) * 0.055
        hive = build_solids(box(form=OCTAGON, openings=()))
        self.assertAlmostEqual(cavity_litres(hive), 1000 * area * 0.35, places=6)

    def test_little_boxes_hold_a_litre_each(self) -> None:
        """100 to 110 mm square, 90 mm high: 0.9 to 1 L; common practice, no source."""
        form = FRAMES["stingless"].form
        assert isinstance(form, LittleBoxes)
        each = cavity_litres(build_solids(box(form=form, openings=()))) / form.box_count
        self.assertTrue(0.9 <= each <= 1.0, each)

    def test_the_large_stingless_stack_holds_twelve(self) -> None:
        """Common practice, no source."""
        hive = build_solids(box(form=FRAMES["stingless-large"].form, openings=()))
        self.assertAlmostEqual(cavity_litres(hive), 12, delta=0.5)

    def test_a_follower_board_leaves_the_colony_its_frames(self) -> None:
        whole = StackedBoxes(frame_count=20)
        half = replace(whole, frames_in_use=8)
        litres = [cavity_litres(build_solids(box(form=f, openings=()))) for f in (whole, half)]
        wide = [f.frame_count * 0.035 + 0.024 for f in (whole, replace(whole, frame_count=8))]
        self.assertAlmostEqual(litres[1] / litres[0], wide[1] / wide[0], places=9)
        self.assertEqual(len(build_solids(box(form=half, openings=())).frames), 8)

    def test_a_domed_hollow(self) -> None:
        """A cylinder and a paraboloid half as high as the radius at 45°."""
        tree = replace(demo_project().design("hollow-tree"), openings=())
        flat = replace(tree, lid_slope_deg=0.0)
        cylinder = math.pi * 0.1**2 * 1.2
        self.assertAlmostEqual(cavity_litres(build_solids(flat)), 1000 * cylinder, places=6)
        dome = math.pi * 0.1**2 * 0.05 / 2
        self.assertAlmostEqual(
            cavity_litres(build_solids(tree)), 1000 * (cylinder + dome), places=6
        )
        self.assertEqual(
            sum(part_weights_kg(build_solids(tree), TABLE).values()),
            sum(part_weights_kg(build_solids(flat), TABLE).values()),
        )


class Shapes(unittest.TestCase):
    def test_area_of_sloped_sides(self) -> None:
        side = math.hypot(0.29, (0.44 - 0.21) / 2)
        areas = face_areas(build_solids(box(form=SLOPED, openings=())))
        ends = 2 * 0.5 * (0.21 + 0.44) * 0.29
        self.assertAlmostEqual(areas["walls"].inner_m2, 2 * side * 0.7 + ends, places=9)
        self.assertAlmostEqual(areas["lid"].inner_m2, 0.44 * 0.7, places=9)
        self.assertAlmostEqual(areas["floor"].inner_m2, 0.21 * 0.7, places=9)

    def test_the_weight_of_sloped_sides(self) -> None:
        """A board of t along the slope weighs t × its length: to the corners."""
        thick = 0.025
        design = box(layer("plywood", 25), form=SLOPED, openings=())
        run, tall = (0.44 - 0.21) / 2, 0.29
        level = thick * math.hypot(run, tall) / tall
        long = 0.7 + 2 * thick
        walls = 2 * level * tall * long + 2 * 0.5 * (0.21 + 0.44) * tall * thick
        plates = thick * long * (0.21 + 0.44 + 4 * level)
        kilos = sum(part_weights_kg(build_solids(design), TABLE).values())
        self.assertAlmostEqual(kilos, (walls + plates) * TABLE["plywood"].density_kg_m3, places=6)

    def test_it_balances_over_its_middle(self) -> None:
        for form in (SLOPED, OCTAGON, StackedBoxes(frame_count=10), LittleBoxes()):
            hive = build_solids(box(form=form, openings=()))
            x, y, z = centre_of_gravity_m(hive, TABLE)
            wide, deep = form.spans_m
            with self.subTest(form=type(form).__name__):
                self.assertAlmostEqual(x, wide / 2, places=9)
                if not isinstance(form, LittleBoxes):  # the way at the back of its plates
                    self.assertAlmostEqual(y, deep / 2, places=9)
                self.assertTrue(0 < z < form.height_m)
        # Sloped sides carry more of their boards high up than upright ones.
        high = centre_of_gravity_m(build_solids(box(form=SLOPED, openings=())), TABLE)[2]
        self.assertGreater(high, 0.29 / 2)

    def test_a_pitched_lid_makes_it_taller(self) -> None:
        """tan 20° × half the width."""
        flat = box(form=StackedBoxes(frame_count=10), openings=())
        pitched = replace(flat, lid_slope_deg=20.0, lid_shape="pitched")
        sizes = [outer_size_m(build_solids(d))[2] for d in (flat, pitched)]
        half = flat.form.spans_m[1] / 2
        self.assertAlmostEqual(sizes[1] - sizes[0], half * math.tan(math.radians(20)), places=9)

    def test_a_slatted_rack_weighs_its_slats(self) -> None:
        form = StackedBoxes(frame_count=10, rack_m=0.06)
        hive = build_solids(box(form=form, openings=()))
        weights = part_weights_kg(hive, TABLE)
        slats = 10 * 0.6 * 0.035 * 0.01 * form.spans_m[1] * TABLE["softwood"].density_kg_m3
        bare = part_weights_kg(
            replace(hive, inset=tuple(s for s in hive.inset if s.role != "slatted rack")), TABLE
        )
        self.assertAlmostEqual(weights["floor"] - bare["floor"], slats, places=9)
        low = hive_conduction(box(form=form, openings=()), TABLE)
        self.assertNotIn("slatted rack", low.part_w_k)

    def test_the_cast_hive(self) -> None:
        """Each super 23 kg, lid 23 to 24 kg; common practice, no source."""
        make_up = next(m for m in shipped_make_ups() if m.id == "cast")
        design = make_design(make_up, FRAMES["deep-10x2"])
        weights = part_weights_kg(build_solids(design), TABLE)
        self.assertAlmostEqual(weights["box 2"], 23, delta=2)
        self.assertAlmostEqual(weights["lid"], 23.5, delta=2.5)


class Rooms(unittest.TestCase):
    def test_an_empty_room_behind_the_board_insulates_a_little(self) -> None:
        """Eight frames of twenty lose more than eight in a box of their own would not: less."""
        trough = box(form=StackedBoxes(frame_count=20), openings=())
        small = box(form=StackedBoxes(frame_count=8), openings=())
        behind = box(form=StackedBoxes(frame_count=20, frames_in_use=8), openings=())
        whole, own, kept = (
            hive_conduction(d, TABLE).conductance_w_k for d in (trough, small, behind)
        )
        self.assertLess(kept, own)
        self.assertLess(kept, 0.7 * whole)

    def test_a_nest_between_two_boards(self) -> None:
        """It stands in the middle, is symmetric, and loses less than behind one board."""
        one = StackedBoxes(frame_count=20, frames_in_use=8)
        both = replace(one, beyond="empty room on both sides")
        hive = build_solids(box(form=both))
        self.assertEqual(len([s for s in hive.inset if s.part == "follower board"]), 2)
        middle = both.spans_m[0] / 2
        way = hive.holes[0].shape
        for low, high in (
            (min(f.x0 for f in hive.frames), max(f.x1 for f in hive.frames)),
            (way.x0, way.x1),
        ):
            self.assertAlmostEqual(0.5 * (low + high), middle, places=9)
        solved = [hive_conduction(box(form=f, openings=()), TABLE) for f in (one, both)]
        self.assertLess(solved[1].conductance_w_k, solved[0].conductance_w_k)
        into = sum(w for w, _ in solved[1].part_w_k.values())
        self.assertAlmostEqual(into, solved[1].conductance_w_k, places=4)
        with self.assertRaisesRegex(DomainError, "both sides"):
            replace(both, frames_in_use=19)

    def test_what_a_part_would_add_beside_empty_rooms(self) -> None:
        """λ·dL/dλ of all parts together against the hive of a little more conductive wood."""
        form = StackedBoxes(frame_count=16, frames_in_use=6)
        design = box(layer("plywood", 25), form=form, openings=())
        wood = TABLE["plywood"]
        more = {
            **TABLE,
            "plywood": replace(wood, conductivity_w_mk=1.002 * wood.conductivity_w_mk),
        }
        one, two = (hive_conduction(design, table, 0.6) for table in (TABLE, more))
        gain = sum(g for _, g in one.part_w_k.values())
        rise = (two.conductance_w_k - one.conductance_w_k) / 0.002
        self.assertAlmostEqual(rise / gain, 1, delta=0.01)

    def test_the_entrance_leads_to_the_colony(self) -> None:
        form = StackedBoxes(frame_count=20, frames_in_use=8)
        hive = build_solids(box(form=form))
        way = hive.holes[0].shape
        self.assertAlmostEqual(0.5 * (way.x0 + way.x1), form.colony_width_m / 2, places=9)

    def test_two_colonies_warm_each_other(self) -> None:
        """Each half of a trough with a divider loses half of the whole, whose middle is warm."""
        form = StackedBoxes(frame_count=20)
        whole = hive_conduction(box(form=form, openings=()), TABLE).conductance_w_k
        two = replace(form, frames_in_use=10, beyond="second colony")
        half = hive_conduction(box(form=two, openings=()), TABLE).conductance_w_k
        # Its own side clearance and half a divider make each half 6 % longer.
        self.assertTrue(1 < half / (0.5 * whole) < 1.07, half / whole)
        own = box(form=StackedBoxes(frame_count=10), openings=())
        self.assertLess(half, 0.92 * hive_conduction(own, TABLE).conductance_w_k)


class Cuts(unittest.TestCase):
    def test_a_level_cut_of_sloped_sides(self) -> None:
        hive = build_solids(box(layer("plywood", 25), form=SLOPED, openings=()))
        pieces = [p for p in cut_level(hive, 0.145) if not p.comb]
        inner = max(p.y1 for p in pieces if p.y1 < 0.22)  # the front board's inner face
        self.assertAlmostEqual(inner, 0.22 - 0.25 * (0.21 + 0.44), places=9)
        combs = [p for p in cut_level(hive, 0.145) if p.comb]
        self.assertEqual(len(combs), 20)

    def test_the_section_goes_through_the_colony(self) -> None:
        form = StackedBoxes(frame_count=20, frames_in_use=10)
        section = section_of(box(form=form, openings=()))
        self.assertNotIn("follower board", {p.part for p in section.pieces})

    def test_legs_are_seen_behind(self) -> None:
        design = box(openings=(), joinery=Joinery(stand="legs"))
        section = section_of(design)
        # A bearer and a leg in front and behind, and the rail under both.
        self.assertEqual(len(section.legs), 5)
        self.assertAlmostEqual(section.frame().z0, section.outline.z0 - 0.25)
        # Wider than the body on both sides.
        self.assertLess(section.frame().y0, section.outline.y0)


class Clearances(unittest.TestCase):
    """Bee space 6 to 9 mm; common practice, no source."""

    def test_verdicts(self) -> None:
        self.assertEqual(
            [bee_space("gap", mm / 1000).verdict for mm in (4, 6, 8, 9, 12)],
            ["glued", "right", "right", "right", "built up"],
        )

    def test_ten_frames_fit_where_eleven_fit_closer(self) -> None:
        """Common practice: 10 at 35 mm, 11 at 32 mm."""
        form = StackedBoxes(frame_count=10)
        self.assertEqual(frames_that_fit(form, 0.035), 10)
        self.assertEqual(frames_that_fit(form, 0.032), 11)

    def test_a_box_too_tall_for_its_frames_is_built_up(self) -> None:
        form = StackedBoxes(frame_count=10, box_height_m=0.26)
        found = {c.id: c.verdict for c in clearances(box(form=form))}
        self.assertEqual(found["above frames"], "built up")

    def test_a_divider_shrinks_more_than_a_queen_needs(self) -> None:
        form = StackedBoxes(frame_count=20, frames_in_use=10, box_height_m=0.3)
        said = next(c for c in clearances(box(form=form)) if c.id == "divider")
        assert said.gap_m is not None
        self.assertGreater(said.gap_m, 0.0042)
        self.assertEqual(said.message.id, "let it slide")

    def test_a_lid_that_no_longer_closes(self) -> None:
        design = box(joinery=Joinery(lid="telescoping rim", overlap_m=0.04))
        spare = next(c for c in clearances(design) if c.id == "shim")
        self.assertEqual(spare.gap_m, 0.04 - 0.015)

    def test_a_rim_that_covers_the_upper_hole_is_named(self) -> None:
        design = replace(
            demo_project().design("timber"), joinery=Joinery(lid="telescoping rim", overlap_m=0.06)
        )
        self.assertIn("upper hole", [c.opening for c in clearances(design)])

    def test_a_tree_has_none(self) -> None:
        self.assertEqual(clearances(demo_project().design("hollow-tree")), [])


class Refused(unittest.TestCase):
    def test_sizes_by_name(self) -> None:
        rows: tuple[tuple[str, type, dict[str, object]], ...] = (
            (
                "height of the section",
                BarTrough,
                {"bar_count": 9, "section": ((0.2, 0.0), (0.3, 0.0))},
            ),
            (
                "height of the section",
                BarTrough,
                {"bar_count": 9, "section": ((0.2, 0.1), (0.3, 0.3))},
            ),
            ("section", BarTrough, {"bar_count": 9, "section": ((0.2, 0.0),)}),
            ("number of bars", BarTrough, {"bar_count": 0}),
            ("frames in use", BarTrough, {"bar_count": 9, "frames_in_use": 9}),
            ("frames in use", StackedBoxes, {"frame_count": 9, "beyond": "second colony"}),
            ("gap at the plate", LittleBoxes, {"plate_gap_m": 0.3}),
            ("inner diameter", HollowTree, {"inner_diameter_m": float("nan")}),
            ("joint of lid and walls", Joinery, {"lid": "glued"}),
            ("overlap of the lid", Joinery, {"overlap_m": 2.0}),
        )
        for field, kind, values in rows:
            with self.subTest(field=field), self.assertRaises(DomainError) as caught:
                kind(**values)
            self.assertEqual(caught.exception.field, field)


if __name__ == "__main__":
    unittest.main()
