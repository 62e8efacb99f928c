"""Solids a person can saw: which part owns what, where openings are, how wide it stands."""

from __future__ import annotations

import unittest
from collections import Counter
from dataclasses import replace

from calveth.catalogue.examples import workshop_project
from calveth.catalogue.library import opening_of_kind
from calveth.catalogue.shipped import demo_project
from calveth.core.airflow.paths import air_paths
from calveth.core.conduction.hive_model import hive_parts
from calveth.core.errors import DomainError
from calveth.core.hive.design import Design
from calveth.core.hive.forms import BarTrough, LittleBoxes, StackedBoxes
from calveth.core.hive.joinery import FloorJoint, Joinery, LidJoint
from calveth.core.parameters import LIKELY
from calveth.core.solids.build import build_solids
from calveth.core.solids.openings_cut import along_m, colony_openings
from calveth.core.solids.parts import Solid
from calveth.core.solids.quantities import part_weights_kg
from calveth.core.solids.shapes import Cuboid, bounds, volume_m3
from calveth.core.workshop.pieces import pieces_of
from calveth.core.workshop.weights import footprint_m
from tests.core.builders import TABLE, box, hole, layer, slot


def solids(design: Design, role: str) -> list[Solid]:
    """Return the solids of the parts of a role; all are blocks."""
    return [s for s in build_solids(design).pieces if s.lifted_with.role == role]


def block(solid: Solid) -> Cuboid:
    """Return the shape of a solid that is a block."""
    assert isinstance(solid.shape, Cuboid)
    return solid.shape


class Parts(unittest.TestCase):
    def test_two_boxes_are_the_same_box(self) -> None:
        """Boxes that can be swapped have the same boards, whatever the joints of lid and floor."""
        lids: tuple[LidJoint, ...] = (
            "board on the rim",
            "insulation meets",
            "insulation past the rim",
        )
        floors: tuple[FloorJoint, ...] = ("walls on the board", "insulation meets")
        for lid in lids:
            for floor in floors:
                design = box(
                    layer("softwood", 12),
                    layer("xps", 50),
                    layer("softwood", 12),
                    openings=(),
                    joinery=Joinery(lid=lid, floor=floor, corner="posts"),
                )
                found: dict[int, list[tuple[float, ...]]] = {1: [], 2: []}
                for s in solids(design, "box"):
                    b = block(s)
                    size = (b.x1 - b.x0, b.y1 - b.y0, b.z1 - b.z0)
                    found[s.lifted_with.number].append(tuple(round(v, 9) for v in size))
                with self.subTest(lid=lid, floor=floor):
                    self.assertEqual(sorted(found[1]), sorted(found[2]))
                    self.assertTrue(all(size[2] == 0.244 for size in found[1]))

    def test_the_floor_owns_the_space_under_the_frames(self) -> None:
        design = box(openings=(), form=StackedBoxes(frame_count=10, rack_m=0.05))
        rim = [block(s) for s in solids(design, "floor") if s.face == "walls"]
        self.assertEqual(len(rim), 4)
        for shape in rim:
            self.assertAlmostEqual(shape.z0, 0.0)
            self.assertAlmostEqual(shape.z1, 0.07)
        # Volume of the walls is as before, only the owner is another: 4 boards of the whole height.
        whole = sum(s.shape.volume_m3 for s in build_solids(design).solids if s.face == "walls")
        ring = (0.374 + 0.038) * (0.467 + 0.038) - 0.374 * 0.467
        self.assertAlmostEqual(whole, ring * (0.244 + 0.07), places=12)

    def test_cover_and_quilt_are_lifted_apart(self) -> None:
        demo = demo_project()
        cover = part_weights_kg(build_solids(demo.design("cover")), TABLE)
        self.assertEqual(set(cover), {"floor", "box 1", "box 2", "cover", "lid", "cover lid"})
        # A box in a cover is the plain 19 mm box of the demo.
        plain = part_weights_kg(build_solids(demo.design("plain-boards")), TABLE)
        self.assertAlmostEqual(cover["box 2"], plain["box 2"], places=9)
        # A cover is not cut where boxes meet.
        boards = [s for s in solids(demo.design("cover"), "cover") if s.side == "front"]
        self.assertEqual({round(block(s).z1, 6) for s in boards}, {0.508})
        quilt = part_weights_kg(build_solids(demo.design("quilt")), TABLE)
        self.assertIn("quilt", quilt)

    def test_a_cover_and_its_top_are_one_where_the_lid_lies_inside(self) -> None:
        design = demo_project().design("cover")
        inside = replace(design, joinery=replace(design.joinery, lid="insulation meets"))
        roles = {s.lifted_with.role for s in build_solids(inside).pieces}
        self.assertIn("cover", roles)
        self.assertNotIn("cover lid", roles)

    def test_a_quilt_has_sides_of_timber(self) -> None:
        design = demo_project().design("quilt")
        sides = [s for s in build_solids(design).inset if s.role == "quilt sides"]
        self.assertEqual(len(sides), 4)
        deep = {round(s.shape.z1 - s.shape.z0, 9) for s in sides if isinstance(s.shape, Cuboid)}
        self.assertEqual(deep, {0.07})  # 50 mm of shavings under 20 mm of air

    def test_the_stand_is_square_under_a_trough_that_leans(self) -> None:
        """By hand: room 440 mm wide at the top, 120 mm of spread and 32 mm of wall a side."""
        design = workshop_project().design("trapezoid")
        made = build_solids(design)
        stand = [s for s in made.inset if s.role == "legs"]
        bend = made.bend
        assert bend is not None
        foot = bend.knots[0][0]
        sizes: Counter[tuple[int, ...]] = Counter()
        for solid in stand:
            b = bounds(solid.shape, bend)
            self.assertAlmostEqual(
                volume_m3(solid.shape, bend), (b.x1 - b.x0) * (b.y1 - b.y0) * (b.z1 - b.z0)
            )
            sizes[tuple(round(1000 * v) for v in (b.x1 - b.x0, b.y1 - b.y0, b.z1 - b.z0))] += 1
            inside = bend.middle_m - foot - 1e-9 <= b.y0 and b.y1 <= bend.middle_m + foot + 1e-9
            self.assertEqual(inside, b.y1 - b.y0 < 0.1)
        self.assertEqual(sizes, {(1284, 45, 45): 2, (45, 45, 360): 4, (45, 744, 45): 2})
        cut = [p for p in pieces_of(design, made, TABLE) if p.role == "legs"]
        self.assertEqual(
            sorted(round(1000 * p.length_m) for p in cut), [360] * 4 + [744] * 2 + [1284] * 2
        )
        self.assertEqual({round(1000 * p.width_m) for p in cut}, {45})

    def test_the_stand_is_wider_than_the_body(self) -> None:
        design = box(openings=(), joinery=Joinery(stand="legs", leg_spread_m=0.1, leg_high_m=0.4))
        hive = build_solids(design)
        body = [bounds(s.shape) for s in hive.solids]
        foot = footprint_m(hive)
        xs, ys = [x for x, _ in foot], [y for _, y in foot]
        self.assertAlmostEqual(min(xs), min(b.x0 for b in body) - 0.1)
        self.assertAlmostEqual(max(ys), max(b.y1 for b in body) + 0.1)
        low = min(bounds(s.shape).z0 for s in hive.inset)
        self.assertAlmostEqual(low, min(b.z0 for b in body) - 0.4)
        with self.assertRaisesRegex(DomainError, "spread of the stand"):
            Joinery(leg_spread_m=0.7)

    def test_a_slope_lies_in_the_topmost_box(self) -> None:
        design = box(openings=(), lid_slope_deg=10.0)
        hive = build_solids(design)
        assert hive.bend is not None
        level = 0.02 + 0.244
        _, z = hive.bend.place([0.0, 0.467], [level, level])
        self.assertAlmostEqual(float(z[0]), level)
        self.assertAlmostEqual(float(z[1]), level)
        _, top = hive.bend.place([0.0, 0.467], [0.508, 0.508])
        self.assertGreater(float(top[1]) - float(top[0]), 0.05)

    def test_room_to_feed_is_a_part_of_its_own(self) -> None:
        form = StackedBoxes(frame_count=10, feed_room_m=0.06)
        design = box(openings=(), form=form)
        eke = [block(s) for s in solids(design, "eke")]
        self.assertEqual({round(b.z1 - b.z0, 9) for b in eke}, {0.06})
        self.assertAlmostEqual(form.height_m, 0.244 + 0.02 + 0.06)
        frames = build_solids(design).frames
        self.assertAlmostEqual(max(f.z1 for f in frames), 0.02 + 0.232)

    def test_bars_carry_the_nest_of_upper_boxes(self) -> None:
        design = box(openings=(), form=LittleBoxes(nest_bars=True))
        bars = [s for s in build_solids(design).inset if s.role == "nest bars"]
        self.assertEqual([s.lifted_with.number for s in bars], [2, 2, 3, 3])
        self.assertFalse(
            [
                s
                for s in build_solids(box(openings=(), form=LittleBoxes())).inset
                if s.role == "nest bars"
            ]
        )


class Openings(unittest.TestCase):
    def test_a_place_along_the_wall(self) -> None:
        moved = replace(slot(), along_m=0.09)
        design = box(openings=(moved,))
        way = build_solids(design).holes[0].shape
        self.assertAlmostEqual((way.x0 + way.x1) / 2, 0.09)
        self.assertAlmostEqual(along_m(design.form, slot()), 0.374 / 2)
        with self.assertRaisesRegex(DomainError, "place along the wall.*0.050 to 0.324"):
            box(openings=(replace(slot(), along_m=0.36),))

    def test_off_the_middle_nothing_is_mirrored(self) -> None:
        even = hive_parts(box(openings=(hole(0.1),)), TABLE, "heat")
        odd = hive_parts(box(openings=(replace(hole(0.1), along_m=0.1),)), TABLE, "heat")
        self.assertEqual((even.half_x, even.half_y), (True, False))
        self.assertEqual((odd.half_x, odd.half_y), (False, False))

    def test_each_colony_has_its_own_entrance(self) -> None:
        trough = workshop_project().design("trough")
        self.assertEqual([o.id for o in trough.openings], ["low", "second"])
        self.assertEqual([o.id for o in colony_openings(trough)], ["low"])
        right = replace(hole(0.1, name="end"), side="right")
        both = replace(trough, openings=(*trough.openings, right))
        self.assertNotIn("end", [o.id for o in colony_openings(both)])
        # The neighbour's entrance feeds no air to the colony worked with.
        place = demo_project().place
        ids = air_paths(both, build_solids(both), place, LIKELY).part_ids
        self.assertEqual(set(ids), {"low"})
        # In a hive of one colony all are its own.
        self.assertEqual(len(colony_openings(box(openings=(slot(), hole(0.1))))), 2)

    def test_the_neighbours_frames_hang_behind_the_divider(self) -> None:
        trough = workshop_project().design("trough")
        hive = build_solids(trough)
        assert isinstance(trough.form, StackedBoxes)
        begin = trough.form.colony_width_m
        self.assertEqual(len(hive.frames), 15)
        # The divider takes 19 mm: one frame less fits.
        self.assertEqual(len(hive.neighbours), 13)
        self.assertGreater(min(f.x0 for f in hive.neighbours), begin)
        self.assertLess(max(f.x1 for f in hive.neighbours), hive.shell.x1)

    def test_kinds_for_the_other_end_and_the_neighbour(self) -> None:
        form = BarTrough(bar_count=20, frames_in_use=10, beyond="second colony")
        second = opening_of_kind("neighbour's entrance", form)
        assert second.along_m is not None
        self.assertGreater(second.along_m - second.width_m / 2, form.colony_width_m)
        back = opening_of_kind("entrance at the back", form)
        self.assertEqual((back.side, back.free_share), ("back", 0.0))
