"""Forms, joints and the solved field in the window."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtTest import QTest

from calveth.app.cutaway.view import CUTS, frame_mapping
from calveth.app.cutaway.widget import CutawayWidget
from calveth.catalogue.library import make_design, materials_of, shipped_frames, shipped_make_ups
from calveth.catalogue.shipped import demo_project
from calveth.core.edits import add_design
from calveth.core.errors import DomainError
from calveth.core.hive.forms import BarTrough, LittleBoxes, StackedBoxes
from calveth.core.project import Project
from tests.app.base import WindowTest

FRAMES = {f.id: f for f in shipped_frames()}
MAKE_UPS = {m.id: m for m in shipped_make_ups()}


def project_of_forms() -> Project:
    """Return a small project: one hive of each kind of form."""
    project = replace(demo_project(), designs=demo_project().designs[1:2])
    for make_up, frames in (
        ("standard", "sloped"),
        ("sandwich", "octagon"),
        ("log-box", "stingless"),
        ("tree", "tree"),
    ):
        design = make_design(MAKE_UPS[make_up], FRAMES[frames], frames, f"A {frames}")
        if frames == "stingless":
            # The bees of the demo would suffocate behind a hole of 8 mm.
            wide = replace(design.openings[0], width_m=0.03, height_m=0.03)
            design = replace(design, openings=(wide,))
        project = add_design(project, design, materials_of(design))
    return project


class Joints(WindowTest):
    def setUp(self) -> None:
        super().setUp()
        project = demo_project()
        self.w = self.window(replace(project, designs=(project.design("composite"),)))
        self.w.shell.show_tab("joints")

    def design(self) -> Any:
        return self.w.document.project.design("composite")

    def test_a_choice_changes_solids_psi_and_the_drawing(self) -> None:
        panel = self.w.shell.joints
        scene = self.w.shell.cutaway.scene
        assert scene is not None
        before, said = scene.section, panel.answer.text()
        self.assertIn("Joints and corners add", said)
        panel.choices["lid"].choose("board on the rim")
        self.settle(self.w)
        self.assertEqual(self.design().joinery.lid, "board on the rim")
        scene = self.w.shell.cutaway.scene
        assert scene is not None
        self.assertNotEqual(scene.section, before)
        self.assertNotEqual(panel.answer.text(), said)
        joints = self.w.results.joints("composite")
        assert joints is not None
        self.assertEqual(joints.joints[0].choice, "board on the rim")
        self.assertIn(f"{joints.joints[0].psi:+.3f}", panel.heat.text())
        self.w.run("undo")
        self.assertEqual(self.design().joinery.lid, "insulation meets")

    def test_sizes_and_what_they_belong_to(self) -> None:
        panel = self.w.shell.joints
        self.assertFalse(panel.overlap.isEnabled() or panel.block.isEnabled())
        panel.choices["lid"].choose("telescoping rim")
        panel.choices["entrance"].choose("solid block")
        self.type_into(panel.overlap, "2 in")
        self.assertAlmostEqual(self.design().joinery.overlap_m, 0.0508)
        self.type_into(panel.block, "900")
        self.assertIn("timber round the entrance", panel.problem.text())
        self.assertAlmostEqual(self.design().joinery.block_m, 0.03)
        self.type_into(panel.slope, "12")
        panel.shape.choose("pitched")
        self.assertEqual((self.design().lid_slope_deg, self.design().lid_shape), (12.0, "pitched"))

    def test_timber_and_mortar_join_the_project(self) -> None:
        panel = self.w.shell.joints
        panel.timber.choose("hardwood")
        panel.choices["blocks"].choose("mortar")
        have = self.w.document.project.material_table()
        self.assertLessEqual({"hardwood", "mortar"}, set(have))
        # There is no wall of blocks here for the mortar to run through.
        self.assertTrue(all(y.mixed_share == 0 for y in self.design().shell.walls))

    def test_parts_that_take_one_place_are_said(self) -> None:
        hole = replace(self.design().openings[1], bottom_m=0.04, width_m=0.02, height_m=0.02)
        panel = self.w.shell.joints
        with self.assertRaises(DomainError):
            self.w.document.edit(
                "clash",
                lambda p: replace(
                    p,
                    designs=(
                        replace(
                            p.designs[0],
                            openings=(p.designs[0].openings[0], replace(hole, id="low")),
                        ),
                    ),
                ),
            )
        self.w.document.edit(
            "clash",
            lambda p: replace(
                p,
                designs=(
                    replace(
                        p.designs[0],
                        openings=(p.designs[0].openings[0], hole),
                        joinery=replace(p.designs[0].joinery, entrance="solid block", block_m=0.05),
                    ),
                ),
            ),
        )
        self.settle(self.w)
        self.assertIn("take the same place", panel.answer.text())
        self.assertTrue(any("take the same place" in t for t in self.w.shell.finding_texts))
        monthly = self.w.results.monthly("composite")
        assert monthly is not None
        self.assertFalse(monthly.solved)


class Forms(WindowTest):
    def setUp(self) -> None:
        super().setUp()
        self.w = self.window(project_of_forms())

    def test_each_form_has_its_fields(self) -> None:
        self.w.shell.show_tab("hive")
        hive = self.w.shell.hive
        self.w.choose("sloped")
        self.assertTrue(hive.pages[BarTrough].isVisible())
        self.type_into(hive.quantity("bar_width_m"), "38 mm")
        hive.count("frames_in_use").setValue(12)
        form = self.w.document.project.design("sloped").form
        assert isinstance(form, BarTrough)
        self.assertEqual((form.bar_width_m, form.frames_in_use), (0.038, 12))
        hive.count("frames_in_use").setValue(60)
        self.assertIn("frames in use", hive.problem.text())
        self.w.choose("stingless")
        self.type_into(hive.quantity("plate_gap_m"), "15")
        little = self.w.document.project.design("stingless").form
        assert isinstance(little, LittleBoxes)
        self.assertEqual(little.plate_gap_m, 0.015)
        self.w.choose("timber")
        self.assertTrue(hive.pages[StackedBoxes].isVisible())
        self.assertIn("bee space", hive.fits.text())

    def test_the_section_is_edited_width_by_width(self) -> None:
        self.w.shell.show_tab("hive")
        self.w.choose("sloped")
        width, height = self.w.shell.hive.pages[BarTrough]._section[1]
        self.type_into(width, "400 mm")
        self.type_into(height, "300 mm")
        form = self.w.document.project.design("sloped").form
        assert isinstance(form, BarTrough)
        self.assertEqual(form.section[1], (0.4, 0.3))
        self.type_into(height, "1 mm")
        self.assertEqual(form.section[1], (0.4, 0.3))

    def test_a_slope_is_drawn_as_a_slope(self) -> None:
        self.w.choose("sloped")
        scene = self.w.shell.cutaway.scene
        assert scene is not None
        m = frame_mapping(scene, QRectF(0, 0, 600, 400))
        room = m.shape(scene.section.cavity)
        points = [room.at(k) for k in range(room.count())]
        low = [p.x() for p in points if abs(p.y() - room.boundingRect().bottom()) < 0.5]
        high = [p.x() for p in points if abs(p.y() - room.boundingRect().top()) < 0.5]
        ratio = (max(low) - min(low)) / (max(high) - min(high))
        self.assertAlmostEqual(ratio, 0.21 / 0.44, places=3)
        # A click beside the foot of the sloped wall hits nothing, one on the wall the walls.
        cut = self.w.shell.cutaway
        own = cut.mapping()
        wall = next(p for p in scene.section.pieces if p.face == "walls" and p.front)
        middle = own.shape(wall.rect).boundingRect().center()
        self.assertEqual(cut.face_at(middle), "walls")
        box = own.shape(wall.rect).boundingRect()
        self.assertIsNone(cut.face_at(QPointF(box.left() + 1, box.bottom() - 1)))

    def test_every_form_through_every_lens_and_cut(self) -> None:
        seen = set()
        for design in self.w.document.project.designs:
            self.w.choose(design.id)
            self.settle(self.w)
            self.assertIsNotNone(self.w.results.conduction(design.id, 0))
            for lens in ("make-up", "warmth", "wet", "air"):
                self.w.view.set_lens(lens)
                for cut in CUTS if lens == "warmth" else CUTS[:1]:
                    self.w.view.set_cut(cut)
                    image = self.w.shell.cutaway.grab().toImage()
                    shades = {
                        image.pixel(x, y)
                        for x in range(0, image.width(), 7)
                        for y in range(0, image.height(), 7)
                    }
                    with self.subTest(design=design.id, lens=lens, cut=cut):
                        self.assertGreater(len(shades), 6)
                    seen.add((design.id, lens, cut))
                self.w.view.set_cut("upright")
        self.assertEqual(len(seen), 5 * 6)


class Looking(WindowTest):
    def test_the_cut_is_chosen_in_the_corner_and_only_through_warmth(self) -> None:
        project = demo_project()
        w = self.window(replace(project, designs=(project.design("timber"),)))
        self.assertFalse(w.shell.cut.isVisible())
        w.view.set_lens("warmth")
        self.assertTrue(w.shell.cut.isVisible())
        w.shell.cut.choose("outside")
        cutaway: CutawayWidget = w.shell.cutaway
        assert cutaway.scene is not None
        self.assertEqual(cutaway.scene.way, "outside")
        self.assertIsNone(cutaway.face_at(QPointF(cutaway.rect().center())))
        QTest.mouseClick(cutaway, Qt.MouseButton.LeftButton)  # holds nothing, and is no error
        w.view.set_lens("wet")
        self.assertEqual(cutaway.scene.way, "upright")


if __name__ == "__main__":
    unittest.main()
