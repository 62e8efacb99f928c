"""One list of solids: it has no holes and no overlaps, and litres and weights come out of it."""

from __future__ import annotations

import itertools
import math
import unittest
from dataclasses import replace

from calveth.catalogue.shipped import demo_project
from calveth.core.errors import DomainError
from calveth.core.hive.design import Shell
from calveth.core.hive.forms import HollowTree, StackedBoxes
from calveth.core.hive.opening import Opening
from calveth.core.solids.build import build_solids
from calveth.core.solids.quantities import (
    cavity_litres,
    face_areas,
    outer_size_m,
    part_weights_kg,
)
from calveth.core.solids.section import cut_open
from calveth.core.solids.shapes import Cuboid, Ring
from tests.core.builders import TABLE, box, hole, layer, slot


def overlap(a: Cuboid, b: Cuboid) -> float:
    sides = (
        min(a.x1, b.x1) - max(a.x0, b.x0),
        min(a.y1, b.y1) - max(a.y0, b.y0),
        min(a.z1, b.z1) - max(a.z0, b.z0),
    )
    return math.prod(sides) if min(sides) > 1e-9 else 0.0


class Boxes(unittest.TestCase):
    def setUp(self) -> None:
        self.designs = [d for d in demo_project().designs if isinstance(d.form, StackedBoxes)]

    def test_solids_fill_the_outer_block_and_nothing_twice(self) -> None:
        for design in self.designs:
            with self.subTest(design=design.id):
                hive = build_solids(design)
                shapes = [s.shape for s in hive.solids if isinstance(s.shape, Cuboid)]
                assert isinstance(hive.cavity, Cuboid)
                for a, b in itertools.combinations([*shapes, hive.cavity], 2):
                    self.assertEqual(overlap(a, b), 0.0)
                whole = sum(s.volume_m3 for s in shapes) + hive.cavity.volume_m3
                self.assertAlmostEqual(whole, math.prod(outer_size_m(hive)), places=9)

    def test_frames_hang_inside_and_keep_bee_space(self) -> None:
        for design in self.designs:
            hive = build_solids(design)
            room = hive.cavity
            assert isinstance(room, Cuboid)
            for frame in hive.frames:
                with self.subTest(design=design.id, x=frame.x0):
                    self.assertGreaterEqual(frame.x0 - room.x0, 0.006)
                    self.assertGreaterEqual(room.x1 - frame.x1, 0.006)
                    # Bee space 6 to 9 mm at the ends and above (common practice, no source).
                    self.assertTrue(0.006 <= frame.y0 - room.y0 <= 0.0100)
                    self.assertTrue(0.006 <= room.y1 - frame.y1 <= 0.0100)
            top = max(f.z1 for f in hive.frames)
            self.assertAlmostEqual(room.z1 - top, 0.012, places=6)
            for a, b in itertools.combinations(hive.frames, 2):
                self.assertEqual(overlap(a, b), 0.0)

    def test_ten_frames_fit_the_ten_frame_footprint(self) -> None:
        # 16 1/4 × 19 7/8 in outside with 3/4 in boards (common practice): 14 3/4 × 18 3/8 inside.
        design = box(layer("softwood", 19.05))
        width, length, _ = outer_size_m(build_solids(design))
        self.assertAlmostEqual(width, 16.25 * 0.0254, delta=0.002)
        self.assertAlmostEqual(length, 19.875 * 0.0254, delta=0.002)

    def test_outer_size_follows_from_the_wall(self) -> None:
        thin = outer_size_m(build_solids(box(layer("eps", 20))))
        thick = outer_size_m(build_solids(box(layer("eps", 60))))
        for a, b in zip(thin, thick, strict=True):
            self.assertAlmostEqual(b - a, 0.08)

    def test_weight_of_plain_boards_by_hand(self) -> None:
        design = box(layer("softwood", 19), openings=())
        hive = build_solids(design)
        w, length, h = outer_size_m(hive)
        inner = cavity_litres(hive) / 1000
        self.assertAlmostEqual(
            sum(part_weights_kg(hive, TABLE).values()), (w * length * h - inner) * 500, places=6
        )

    def test_an_opening_takes_its_wood_away(self) -> None:
        solid = sum(part_weights_kg(build_solids(box(openings=())), TABLE).values())
        cut = sum(part_weights_kg(build_solids(box(openings=(slot(),))), TABLE).values())
        self.assertAlmostEqual(solid - cut, 0.1 * 0.0127 * 0.019 * 500, places=9)

    def test_the_box_with_the_hole_is_lighter(self) -> None:
        weights = part_weights_kg(build_solids(box(openings=(hole(0.4, 0.05),))), TABLE)
        plain = part_weights_kg(build_solids(box(openings=())), TABLE)
        self.assertEqual(weights["box 1"], plain["box 1"])
        self.assertLess(weights["box 2"], plain["box 2"])

    def test_areas_of_a_box(self) -> None:
        design = box(layer("softwood", 19))
        hive = build_solids(design)
        areas = face_areas(hive)
        w, length, h = (0.374, 0.467, 0.508)
        self.assertAlmostEqual(areas["lid"].inner_m2, w * length)
        self.assertAlmostEqual(areas["walls"].inner_m2, 2 * (w + length) * h)
        whole = sum(a.outer_m2 for a in areas.values())
        a, b, c = outer_size_m(hive)
        self.assertAlmostEqual(whole, 2 * (a * b + b * c + a * c))


class SmallBox(unittest.TestCase):
    def test_one_litre(self) -> None:
        # Stingless box 105 × 105 × 90 mm: 0.99 L, "1 litre" in the trade (common practice).
        form = StackedBoxes(
            frame_count=3,
            frame_pitch_m=0.03,
            frame_length_m=0.095,
            frame_height_m=0.08,
            frame_thickness_m=0.01,
            box_height_m=0.09,
            side_clearance_m=0.0075,
            end_clearance_m=0.005,
            bottom_space_m=0.0,
        )
        litres = cavity_litres(build_solids(box(form=form, openings=())))
        self.assertAlmostEqual(litres, 0.105 * 0.105 * 0.09 * 1000, places=9)


class Trees(unittest.TestCase):
    def setUp(self) -> None:
        self.tree = demo_project().design("hollow-tree")

    def test_litres(self) -> None:
        # π·0.1²·1.2 m³ = 37.7 L under a flat top; the dome is in test_forms.
        flat = replace(self.tree, lid_slope_deg=0.0)
        self.assertAlmostEqual(cavity_litres(build_solids(flat)), 37.699, places=3)

    def test_trunk_volume(self) -> None:
        hive = build_solids(replace(self.tree, openings=()))
        outer = math.pi * 0.25**2 * (1.2 + 0.8)
        got = sum(s.shape.volume_m3 for s in hive.solids)
        self.assertAlmostEqual(got, outer - math.pi * 0.1**2 * 1.2, places=9)

    def test_it_is_round(self) -> None:
        hive = build_solids(self.tree)
        self.assertTrue(all(isinstance(s.shape, Ring) for s in hive.solids))
        areas = face_areas(hive)
        self.assertAlmostEqual(areas["walls"].inner_m2, math.pi * 0.2 * 1.2)


class CutOpen(unittest.TestCase):
    def test_the_section_shows_the_solids(self) -> None:
        for design in demo_project().designs:
            with self.subTest(design=design.id):
                hive = build_solids(design)
                section = cut_open(design, hive)
                walls = [p for p in section.pieces if p.face == "walls" and p.front]
                # A trunk is cut twice by one plane; of boards each front is cut once.
                boards = [s for s in hive.solids if s.face == "walls" and s.side == "front"]
                self.assertEqual(len(walls), len(boards) or len(design.shell.walls))
                thickness = section.cavity.y0 - section.outline.y0
                self.assertAlmostEqual(thickness, design.shell.thickness_m("walls"))
                self.assertAlmostEqual(
                    section.outline.z1 - section.cavity.z1, design.shell.thickness_m("lid")
                )

    def test_layers_lie_from_the_outside_in(self) -> None:
        design = demo_project().design("composite")
        section = cut_open(design, build_solids(design))
        front = sorted(
            (p for p in section.pieces if p.front and p.part == "box 1"), key=lambda p: p.rect.y0
        )
        self.assertEqual([p.layer for p in front], [0, 1, 2])
        lid = sorted((p for p in section.pieces if p.face == "lid"), key=lambda p: -p.rect.z1)
        self.assertEqual([p.layer for p in lid], [0, 1, 2])

    def test_openings_go_through_front_or_back_only(self) -> None:
        side = replace(hole(0.2), side="left")
        design = box(openings=(slot(), side))
        gaps = {g.opening: g for g in cut_open(design, build_solids(design)).gaps}
        self.assertTrue(gaps["low"].through and gaps["low"].front)
        self.assertFalse(gaps["high"].through)


class Refusals(unittest.TestCase):
    def check(self, part: str, make: object) -> None:
        with self.assertRaises(DomainError) as caught:
            make()  # type: ignore[operator]
        self.assertIn(part, str(caught.exception))

    def test_what_cannot_be_built(self) -> None:
        self.check("frame count", lambda: StackedBoxes(frame_count=0))
        self.check("frame count", lambda: StackedBoxes(frame_count=2.5))  # type: ignore[arg-type]
        self.check("bee space", lambda: StackedBoxes(frame_count=10, frame_height_m=0.25))
        self.check("inner diameter", lambda: HollowTree(inner_diameter_m=-0.2))
        self.check("above the wall", lambda: box(openings=(hole(0.5, 0.05),)))
        self.check("wider than the wall", lambda: box(openings=(slot(width=0.5),)))
        self.check("use one id twice", lambda: box(openings=(slot(), slot())))
        self.check("at least one layer", lambda: Shell(walls=(), lid=(), floor=()))
        self.check("a hole is round", self.oval)
        self.check("joints", lambda: box(joints="glued"))
        self.check("open share", lambda: replace(slot(), free_share=1.2))

    @staticmethod
    def oval() -> Opening:
        return replace(hole(0.1), width_m=0.03)

    def test_a_design_is_a_value(self) -> None:
        self.assertEqual(box(), box())
        self.assertEqual(len({box(), box(), box(name="other")}), 2)


if __name__ == "__main__":
    unittest.main()
