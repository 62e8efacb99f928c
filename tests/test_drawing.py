"""Neutral shapes: true to scale, in the colours that are handed in, for every form of hive."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path
from xml.etree import ElementTree as Xml

from calveth.catalogue.library import make_design, shipped_frames, shipped_make_ups
from calveth.catalogue.shipped import demo_project
from calveth.core.solids.build import build_solids
from calveth.core.solids.quantities import outer_size_m
from calveth.core.solids.section import section_of
from calveth.drawing.colors import PRINT
from calveth.drawing.document import write_section
from calveth.drawing.section import section_shapes
from calveth.drawing.shapes import Polygon, frame_of
from calveth.drawing.svg import section_svg
from tests.core.builders import TABLE

PROJECT = demo_project()
SVG = "{http://www.w3.org/2000/svg}"


class Shapes(unittest.TestCase):
    def test_they_are_as_large_as_the_hive(self) -> None:
        make_up = next(m for m in shipped_make_ups() if m.id == "sandwich")
        for frames in shipped_frames():
            design = make_design(make_up, frames)
            with self.subTest(frames=frames.id):
                y0, y1, z0, z1 = frame_of(section_shapes(design, section_of(design), TABLE))
                _, length, height = outer_size_m(build_solids(design))
                self.assertAlmostEqual(y1 - y0, length, delta=2e-3)
                self.assertAlmostEqual(z1 - z0, height, delta=2e-3)

    def test_every_colour_has_a_name_in_the_palette(self) -> None:
        for design in PROJECT.designs:
            for shape in section_shapes(design, section_of(design), TABLE, chosen="lid"):
                for name in (shape.style.fill, shape.style.line):
                    self.assertTrue(not name or name in PRINT)

    def test_the_chosen_face_is_outlined(self) -> None:
        design = PROJECT.design("composite")
        plain = section_shapes(design, section_of(design), TABLE)
        marked = section_shapes(design, section_of(design), TABLE, chosen="walls")
        self.assertEqual(len(marked), len(plain) + 2)
        self.assertEqual([s.style.line for s in marked].count("accent"), 2)


class Svg(unittest.TestCase):
    def test_a_millimetre_is_so_many_of_the_hive(self) -> None:
        design = PROJECT.design("timber")
        shapes = section_shapes(design, section_of(design), TABLE)
        for scale in (1.0, 5.0):
            root = Xml.fromstring(section_svg(shapes, PRINT, title="t", scale=scale))
            wide = float(root.attrib["width"].removesuffix("mm"))
            y0, y1, _, _ = frame_of(shapes)
            self.assertAlmostEqual(wide, (y1 - y0) * 1000 / scale + 24, delta=0.02)
            xs = [
                float(p.split(",")[0])
                for e in root.iter(f"{SVG}polygon")
                for p in e.attrib["points"].split()
            ]
            self.assertAlmostEqual(max(xs) - min(xs), (y1 - y0) * 1000 / scale, delta=0.01)

    def test_boards_are_hatched_by_a_pattern_that_is_there(self) -> None:
        design = PROJECT.design("composite")
        shapes = section_shapes(design, section_of(design), TABLE)
        root = Xml.fromstring(section_svg(shapes, PRINT, title="t"))
        known = {e.attrib["id"] for e in root.iter(f"{SVG}pattern")}
        asked = {
            e.attrib["fill"][5:-1]
            for e in root.iter(f"{SVG}polygon")
            if e.attrib["fill"].startswith("url(")
        }
        self.assertEqual(asked, known)
        self.assertIn("grain-upright", known)
        hatched = [s for s in shapes if isinstance(s, Polygon) and s.style.hatch]
        self.assertEqual(
            len([e for e in root.iter(f"{SVG}polygon") if e.attrib["fill"].startswith("url(")]),
            len(hatched),
        )

    def test_other_colours_are_those_handed_in(self) -> None:
        design = PROJECT.design("timber")
        shapes = section_shapes(design, section_of(design), TABLE)
        odd = dict.fromkeys(PRINT, "#123456")
        text = section_svg(shapes, odd, title="a < b")
        self.assertIn("a &lt; b", text)
        self.assertNotIn(PRINT["wood"], text)

    def test_a_file(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "s.svg"
            write_section(path, PROJECT.design("hollow-tree"), TABLE, 10.0)
            self.assertEqual(Xml.parse(path).getroot().tag, f"{SVG}svg")


if __name__ == "__main__":
    unittest.main()
