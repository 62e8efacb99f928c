"""Courses of blocks counted by hand, glue and dust; mixes, moulds and the trade's cast hive."""

from __future__ import annotations

import unittest
from dataclasses import replace
from itertools import pairwise

from calveth.catalogue.examples import workshop_project
from calveth.catalogue.library import shipped_stock
from calveth.catalogue.shipped import demo_project
from calveth.core.errors import DomainError
from calveth.core.hive.forms import StackedBoxes
from calveth.core.hive.joinery import Joinery
from calveth.core.solids.build import build_solids
from calveth.core.workshop.block_walls import block_walls
from calveth.core.workshop.casting import cast_parts, mix_for
from calveth.core.workshop.courses import course_heights_m
from calveth.core.workshop.pieces import pieces_of
from calveth.core.workshop.stack import stack_up
from calveth.core.workshop.stock import Workshop
from tests.core.builders import TABLE, box, layer

WORKSHOP = shipped_stock()[0].workshop


class Courses(unittest.TestCase):
    def test_heights(self) -> None:
        """264 = 215 + 47: too low to saw, two share; 508 = 2·217 + 74 (build-diary 1.4)."""
        self.assertEqual(
            [round(h, 4) for h in course_heights_m(0.508, 0.215, 0.002)], [0.074, 0.215, 0.215]
        )
        self.assertEqual(course_heights_m(0.264, 0.215, 0.0), [0.132, 0.132])
        self.assertEqual(course_heights_m(0.43, 0.215, 0.0), [0.215, 0.215])
        self.assertEqual(course_heights_m(0.09, 0.215, 0.002), [0.09])
        for high in (0.05, 0.1, 0.2, 0.264, 0.275, 0.3, 0.508, 0.6, 1.0):
            for joint in (0.0, 0.002, 0.01):
                found = course_heights_m(high, 0.215, joint)
                self.assertAlmostEqual(sum(found) + joint * (len(found) - 1), high, delta=0.0011)
                self.assertLessEqual(max(found), 0.215 + 1e-9)

    def test_the_trough_by_hand(self) -> None:
        """600 x 215 x 100 blocks, dry: outer 1274 x 667, 275 high.

        Course 1, 60 high: front and back 1274 run through (3 pieces each, 600 the longest), sides
        467 between. Course 2 whole: sides 667 through (2 each), front and back 1074 between (2
        each). Whole blocks: 540+534 twice and 330+337 twice: the 4 long pieces take a block each,
        600 - 540 is too short for any; 330 and 337 do not share one (671 with the kerf), so 8. Of
        the ripped course three strips of 60 come off a block (4 mm kerf: 188 of 215); its 4112 mm
        of pieces take 9 strips: 3 blocks.
        """
        trough = workshop_project().design("trough")
        wall = next(w for w in block_walls(trough, TABLE, WORKSHOP) if not w.flat)
        self.assertEqual([round(c.height_m, 6) for c in wall.courses], [0.06, 0.215])
        self.assertEqual(wall.outer_m, (1.274, 0.667))
        first = {r.side: [b.length_m for b in r.blocks] for r in wall.courses[0].runs}
        self.assertEqual(len(first["front"]), 3)
        self.assertAlmostEqual(sum(first["front"]), 1.274)
        self.assertEqual([round(x, 6) for x in first["left"]], [0.467])
        second = {r.side: [b.length_m for b in r.blocks] for r in wall.courses[1].runs}
        self.assertAlmostEqual(sum(second["front"]), 1.074)
        self.assertAlmostEqual(sum(second["left"]), 0.667)
        self.assertEqual(wall.blocks, 8 + 3)
        self.assertEqual((wall.joint_m, wall.glue_l), (0.0, 0.0))
        self.assertTrue(wall.bond_ok)

    def test_corners_interlock_and_joints_overlap(self) -> None:
        """EN 1996-1-1, 8.1.4: 0.4 of the height, 40 mm at least (from memory)."""
        design = box(
            layer("aircrete", 100),
            openings=(),
            joinery=Joinery(blocks="thin glue"),
            form=StackedBoxes(
                frame_count=30, box_height_m=0.45, frame_height_m=0.44, bottom_space_m=0.0
            ),
        )
        wall = block_walls(design, TABLE, WORKSHOP)[0]
        for below, above in pairwise(wall.courses):
            starts = [{r.side: r.start_m for r in c.runs} for c in (below, above)]
            self.assertNotEqual(starts[0]["front"] > 0, starts[1]["front"] > 0)
            assert above.overlap_m is not None
            self.assertGreaterEqual(above.overlap_m, max(0.4 * above.height_m, 0.04) - 1e-9)
        for course in wall.courses:
            for run in course.runs:
                self.assertGreaterEqual(min(b.length_m for b in run.blocks), 0.1 - 1e-9)
                self.assertLessEqual(max(b.length_m for b in run.blocks), 0.6 + 1e-9)
        self.assertTrue(wall.bond_ok)

    def test_dust_of_a_cut(self) -> None:
        """100 x 215 mm through with 3 mm: 64 cm³, 32 g of aircrete of 500 kg/m³."""
        self.assertAlmostEqual(0.1 * 0.215 * 0.003 * 500 * 1000, 32.25)
        trough = workshop_project().design("trough")
        fine = replace(WORKSHOP, block_kerf_m=0.002)
        wide, thin = (
            sum(w.dust_g for w in block_walls(trough, TABLE, ws)) for ws in (WORKSHOP, fine)
        )
        self.assertLess(thin, 0.6 * wide)
        wall = block_walls(trough, TABLE, WORKSHOP)[0]
        self.assertAlmostEqual(wall.dust_g, 1e6 * wall.cut_m2 * 0.004 * 0.5)

    def test_glue_a_square_metre(self) -> None:
        """Thin bed: (1/0.217 + 1/0.602)·t·0.002 = 1.25 L/m² at 100 mm, a large wall."""
        design = box(
            layer("aircrete", 100),
            openings=(),
            joinery=Joinery(blocks="thin glue"),
            form=StackedBoxes(
                frame_count=40,
                frame_length_m=1.4,
                box_height_m=0.868,
                frame_height_m=0.8,
                bottom_space_m=0.0,
            ),
        )
        wall = block_walls(design, TABLE, WORKSHOP)[0]
        around = 2 * (wall.outer_m[0] + wall.outer_m[1]) - 0.4
        litres = wall.glue_l / 1.1 / (around * wall.height_m)
        self.assertAlmostEqual(litres, 1.25, delta=0.25)

    def test_a_floor_of_blocks_lies_flat(self) -> None:
        flat = [
            w for w in block_walls(workshop_project().design("trough"), TABLE, WORKSHOP) if w.flat
        ]
        self.assertEqual(len(flat), 1)
        wide = sum(c.height_m for c in flat[0].courses)
        self.assertAlmostEqual(wide, 0.667)

    def test_no_block_in_stock(self) -> None:
        with self.assertRaisesRegex(DomainError, "100 mm blocks of Aircrete block .* add one"):
            block_walls(workshop_project().design("trough"), TABLE, Workshop())

    def test_a_queen_and_a_divider_in_blocks(self) -> None:
        """Blocks true to 1.5 mm: 3 mm over two walls, 5 with what dry blocks shift; 4.2 pass."""
        trough = workshop_project().design("trough")
        walls = block_walls(trough, TABLE, WORKSHOP)
        says = {m.id for m in stack_up(trough, TABLE, WORKSHOP, walls).says}
        self.assertIn("queen may pass", says)
        glued = replace(trough, joinery=replace(trough.joinery, blocks="thin glue"))
        walls = block_walls(glued, TABLE, WORKSHOP)
        self.assertIn(
            "divider in blocks", {m.id for m in stack_up(glued, TABLE, WORKSHOP, walls).says}
        )


class Casts(unittest.TestCase):
    def test_a_mix_has_the_density_and_fills_the_volume(self) -> None:
        """Σ absolute volumes = 1 (grain densities of general reference, from memory)."""
        for key in ("cast-600", "cast-1000", "cast-1400"):
            mix = mix_for(TABLE[key])
            assert mix is not None
            self.assertAlmostEqual(mix.dry_kg, TABLE[key].density_kg_m3, places=6)
            volume = mix.cement_kg / 3100 + mix.water_kg / 1000 + 0.05
            volume += mix.sand_kg / 2650 + mix.light_kg / 350
            self.assertAlmostEqual(volume, 1.0, places=6)
            self.assertGreater(mix.fresh_kg, mix.dry_kg)
        self.assertIsNone(mix_for(TABLE["straw-clay"]))
        self.assertIsNone(mix_for(TABLE["dense-concrete"]))

    def test_the_cast_hive_of_the_trade(self) -> None:
        """Floor part 35, super 23, lid 23.5 kg at 1000 kg/m³ (common practice): within a third."""
        cast = workshop_project().design("cast")
        found = {
            c.part.role: c for c in cast_parts(pieces_of(cast, build_solids(cast), TABLE), TABLE)
        }
        self.assertEqual(found["box"].count, 2)
        self.assertAlmostEqual(found["box"].dry_kg, 23.0, delta=1.0)
        self.assertAlmostEqual(found["lid"].dry_kg, 23.5, delta=3.0)
        self.assertAlmostEqual(found["floor"].dry_kg, 35.0, delta=12.0)
        for part in found.values():
            self.assertAlmostEqual(part.litres, part.dry_kg, places=6)
            self.assertAlmostEqual(part.mixed_l, 1.1 * part.litres)
        # About 100 kg with one super over the brood part.
        whole = sum(c.dry_kg * c.count for c in found.values())
        self.assertAlmostEqual(whole, 100.0, delta=12.0)

    def test_pressure_on_the_mould(self) -> None:
        """ρ·g·h: 1500 kg/m³ on 250 mm are 3.7 kPa."""
        self.assertAlmostEqual(1500 * 9.80665 * 0.25, 3677, delta=1)
        cast = workshop_project().design("cast")
        part = next(
            c
            for c in cast_parts(pieces_of(cast, build_solids(cast), TABLE), TABLE)
            if c.part.role == "box"
        )
        assert part.mix is not None
        self.assertAlmostEqual(part.pressure_pa, part.mix.fresh_kg * 9.80665 * 0.244, places=6)
        core = [b for b in part.mould if b.where.startswith("core")]
        self.assertEqual({round(b.width_m, 6) for b in core}, {0.244})
        outer = next(b for b in part.mould if b.where == "outside, short")
        self.assertAlmostEqual(outer.length_m, 0.374 + 2 * 0.0502, places=3)

    def test_boxes_of_boards_are_not_cast(self) -> None:
        timber = demo_project().design("timber")
        self.assertEqual(cast_parts(pieces_of(timber, build_solids(timber), TABLE), TABLE), ())
