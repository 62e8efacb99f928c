"""Palette, typeface, hatches and the platform underneath."""

from __future__ import annotations

import itertools
import unittest

from PySide6.QtGui import QColor, QFontMetricsF, QRawFont
from PySide6.QtWidgets import QLabel, QWidget

from calveth.app.cutaway.hatches import _tile
from calveth.app.main_window import MainWindow
from calveth.app.theme.palette import DARK, LIGHT
from calveth.app.theme.theme import font, font_family, style_sheet
from calveth.catalogue.shipped import demo_project, shipped_materials
from tests.app.base import WindowTest


def luminance(color: str) -> float:
    """Relative luminance, WCAG 2.1."""

    def linear(v: float) -> float:
        return v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4

    c = QColor(color)
    return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF())


def contrast(a: str, b: str) -> float:
    high, low = sorted((luminance(a), luminance(b)), reverse=True)
    return (high + 0.05) / (low + 0.05)


def _shades(widget: QWidget) -> int:
    """Return how many different colours a widget shows, at every fifth pixel; a blank one has 1."""
    image = widget.grab().toImage()
    spots = ((x, y) for x in range(0, image.width(), 5) for y in range(0, image.height(), 5))
    return len({image.pixel(x, y) for x, y in spots})


class Colours(WindowTest):
    dressed = True

    def test_text_can_be_read(self) -> None:
        # WCAG 2.1, 1.4.3: 4.5 : 1 for text.
        for text, ground in itertools.product(
            ("ink", "muted", "water", "heat", "honey", "accent"),
            ("ground", "sheet"),
        ):
            with self.subTest(text=text, ground=ground):
                self.assertGreaterEqual(contrast(getattr(LIGHT, text), getattr(LIGHT, ground)), 4.5)
        self.assertGreaterEqual(contrast(LIGHT.on_accent, LIGHT.accent), 4.5)
        self.assertGreaterEqual(contrast(LIGHT.ink, LIGHT.chosen), 4.5)
        for ground in ("night", "forage"):
            self.assertGreaterEqual(contrast(LIGHT.honey, getattr(LIGHT, ground)), 4.5)

    def test_water_and_heat_differ_without_red_and_green(self) -> None:
        # Seen by the blue channel, which red-green blindness leaves: far apart.
        self.assertGreater(QColor(LIGHT.water).blue() - QColor(LIGHT.heat).blue(), 100)

    def test_no_placeholder_is_left_in_the_style_sheet(self) -> None:
        self.assertNotIn("@", style_sheet())


class Type(WindowTest):
    dressed = True

    def test_the_shipped_face_is_used_and_has_every_sign(self) -> None:
        self.assertEqual(font_family(), "Calveth Sans")
        raw = QRawFont.fromFont(font())
        for sign in "°λψμ²³₂Δ→≤≥×−·…½¾•“”":
            with self.subTest(sign=sign):
                self.assertTrue(raw.supportsCharacter(ord(sign)))

    def test_figures_are_of_one_width(self) -> None:
        metrics = QFontMetricsF(font())
        self.assertEqual(len({metrics.horizontalAdvance(d) for d in "0123456789"}), 1)


class DarkAndLight(WindowTest):
    dressed = True

    def shades(self, window: MainWindow) -> set[str]:
        """Return the colours that fill the window: its ground, and the sheets on it."""
        image = window.grab().toImage()
        return {
            image.pixelColor(x, y).name()
            for x in range(3, image.width(), 7)
            for y in range(3, image.height(), 7)
        }

    def test_every_area_follows_also_those_out_of_sight(self) -> None:
        """The bench stands in all of them; Build was filled before the look changed."""
        window = self.window()
        window.choose("timber")
        window.go_to("build")
        self.settle(window)
        window.go_to("place")
        self.settle(window)
        for palette, other in ((DARK, LIGHT), (LIGHT, DARK)):
            window.run("switch_look")
            for area in ("place", "build"):
                window.go_to(area)
                self.settle(window)
                with self.subTest(area=area, ground=palette.ground):
                    seen = self.shades(window)
                    self.assertTrue({palette.ground, palette.sheet, palette.accent} <= seen)
                    self.assertFalse({other.ground, other.sheet, other.accent} & seen)


class Hatches(WindowTest):
    dressed = True

    def test_each_differs_from_each_in_black_and_white(self) -> None:
        kinds = sorted({m.hatch for m in shipped_materials()} - {"plain", "air"})
        pictures = {k: _tile(k, LIGHT, 1.0).toImage() for k in kinds}
        for a, b in itertools.combinations(kinds, 2):
            with self.subTest(a=a, b=b):
                pa, pb = pictures[a], pictures[b]
                different = sum(
                    abs(QColor(pa.pixel(x, y)).lightness() - QColor(pb.pixel(x, y)).lightness())
                    > 20
                    for x in range(0, 48, 2)
                    for y in range(0, 48, 2)
                )
                self.assertGreater(different, 20)


class Pictures(WindowTest):
    dressed = True

    hives = ()

    def test_the_window_holds_at_1280_by_800(self) -> None:
        window = self.window()
        for area in ("place", "shell", "compare"):
            window.go_to(area)
            self.settle(window)
            with self.subTest(area=area):
                hint = window.minimumSizeHint()
                self.assertLessEqual(hint.width(), 1280)
                self.assertLessEqual(hint.height(), 800)
                image = window.grab().toImage()
                self.assertEqual((image.width(), image.height()), (1280, 800))

    def test_wet_surfaces_are_drawn_wet(self) -> None:
        """Blue beads stand on the walls of the plain boards, and none on a dry lid."""
        window = self.window()
        water = QColor(LIGHT.water)

        def blue(design: str) -> int:
            window.choose(design)
            window.view.set_lens("wet")
            self.settle(window)
            cutaway = window.shell.cutaway
            scene = cutaway.scene
            assert scene is not None
            room = cutaway.mapping().rect(scene.section.cavity)
            image = cutaway.grab().toImage()
            y = int(room.top())
            return sum(
                image.pixelColor(x, yy) == water
                for x in range(int(room.left()) + 40, int(room.right()) - 40)
                for yy in (y - 1, y, y + 1)
            )

        self.assertGreater(blue("plain-boards"), 40)
        self.assertEqual(blue("composite"), 0)

    def test_every_demo_design_paints_in_every_month_and_lens(self) -> None:
        window = self.window()
        for design in demo_project().designs:
            for lens in ("make-up", "wet"):
                for month in (0, 3, 6, 9):
                    window.choose(design.id)
                    window.view.set_lens(lens)
                    window.view.set_month(month)
                    with self.subTest(design=design.id, lens=lens, month=month):
                        self.assertGreater(_shades(window.shell.cutaway), 12)


class Platform(WindowTest):
    dressed = True

    def test_void_calls_do_not_eat_references(self) -> None:
        """A Qt version that loses a reference to None at such calls kills the process here."""
        label = QLabel()
        for _ in range(20000):
            label.setText("a")
        self.assertEqual(label.text(), "a")
        label.deleteLater()


if __name__ == "__main__":
    unittest.main()
