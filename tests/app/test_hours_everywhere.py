"""Hours in every area: ribbon, commands and Shell by the hour, lens Sun, sizes, feed, the sky."""

from __future__ import annotations

import csv
from dataclasses import replace
from unittest import mock

from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog

from calveth.app.areas import year_sweep_panel
from calveth.app.cutaway.sun import paint_sun
from calveth.app.dialogs import feed_dialog
from calveth.app.dialogs.feed_dialog import FeedDialog
from calveth.app.dialogs.shade_dialog import ShadeDialog
from calveth.app.view_state import noon_of
from calveth.app.widgets.sky_dome import dome_point
from calveth.core.climate.shade import Shade
from calveth.core.climate.sun import OBLIQUITY_DEG, sun_path_deg, winter_noon_height_deg
from calveth.core.edits import set_place
from calveth.core.hive.plans import rule_days
from calveth.core.year.figures import special_hour
from calveth.texts.feed import feed_html
from calveth.texts.units import METRIC
from tests.app.test_mended import only
from tests.app.test_year import YearTest, click, texts


class ByHour(YearTest):
    def test_the_ribbon_goes_by_month_day_and_hour(self) -> None:
        w = self.window(only("composite"))
        w.ribbon.set_month(2)
        noon = noon_of(2)
        w.ribbon.setFocus()
        QTest.keyClick(w.ribbon, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
        self.assertEqual(w.view.hour, noon + 24)
        QTest.keyClick(w.ribbon, Qt.Key.Key_Up)
        self.assertEqual(w.view.hour, noon + 25)
        self.assertIn("16 March, 13:00", w.ribbon.accessibleDescription())
        QTest.keyClick(w.ribbon, Qt.Key.Key_Return)
        self.assertEqual((w.view.hour, w.view.by_hour), (noon, False))
        column = w.ribbon.column(4)
        at = QPoint(int(column.left() + 0.9 * column.width()), 60)
        QTest.mouseClick(w.ribbon, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier, at)
        self.assertEqual(w.view.month, 4)
        self.assertGreater(w.view.hour // 24 - 120, 24)
        QTest.mouseClick(w.ribbon, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
        self.assertFalse(w.view.by_hour)

    def test_shell_follows_the_hour(self) -> None:
        w = self.window(only("plain-boards"))
        self.assertIsNone(w.results.year("plain-boards"))
        before = list(w.shell.finding_texts)
        w.run("coldest_hour")
        self.settle(w)
        run = w.results.year("plain-boards")
        assert run is not None
        hour = special_hour(run, "coldest")
        self.assertEqual(w.view.hour, hour)
        shown = w.shell.cutaway.scene
        assert shown is not None and shown.assessed is not None
        self.assertTrue(shown.by_hour)
        degc = float(shown.assessed.months.balance.temperature_degc[1, w.view.month])
        self.assertEqual(degc, float(run.column("nest_degc")[hour]))
        self.assertNotEqual(w.shell.finding_texts, before)
        self.assertIn(f"{run.weather.temperature_degc[hour]:.1f} °C", w.shell.moment.text())
        w.run("day_after")
        w.run("hour_before")
        self.assertEqual(w.view.hour, (hour + 23) % 8760)
        w.run("whole_month")
        self.settle(w)
        assert w.shell.cutaway.scene is not None
        self.assertFalse(w.shell.cutaway.scene.by_hour)

    def test_ice_that_stands_is_drawn_and_named(self) -> None:
        w = self.window(only("plain-boards"))
        w.view.set_lens("wet")
        w.run("wettest_hour")
        self.settle(w)
        shown = w.shell.cutaway.scene
        assert shown is not None and shown.films_g is not None
        self.assertGreater(shown.films_g[0], 1.0)
        self.assertTrue(any("ice" in t or "water" in t for t in w.shell.finding_texts))

    def test_the_year_is_let_go_when_nobody_looks(self) -> None:
        w = self.window(only("composite"))
        w.view.set_hour(100)
        self.settle(w)
        self.assertIsNotNone(w.results.year("composite"))
        w.go_to("place")
        self.assertEqual(w.results._in_sight_now(), frozenset())


class LensSun(YearTest):
    def test_each_face_has_its_sun_by_hour_and_month(self) -> None:
        w = self.window(only("timber"))
        w.view.set_lens("sun")
        self.settle(w)
        shown = w.shell.cutaway.scene
        assert shown is not None and shown.sun is not None
        run = w.results.year("timber")
        assert run is not None
        january = slice(0, 744)
        self.assertAlmostEqual(
            shown.sun.sun_w_m2["lid"], float(run.weather.sun_lid_w_m2[january].mean())
        )
        noon = winter_noon_height_deg(w.document.project.place.latitude_deg)
        self.assertAlmostEqual(shown.sun.height_deg, noon, delta=4.0)
        w.view.set_hour(24 * 180 + 12)
        self.settle(w)
        shown = w.shell.cutaway.scene
        assert shown is not None and shown.sun is not None
        self.assertEqual(shown.sun.sun_w_m2["front"], run.weather.sun_side_w_m2[0, 24 * 180 + 12])
        self.assertEqual(shown.sun.outside_degc["lid"], run.column("outer_lid_degc")[24 * 180 + 12])

    def test_it_says_that_it_waits(self) -> None:
        w = self.window(only("timber"))
        w.view.set_lens("sun")
        shown = w.shell.cutaway.scene
        assert shown is not None
        painter = mock.MagicMock()
        waiting = mock.Mock(sun=None, units=METRIC)
        self.assertEqual(
            paint_sun(painter, waiting, mock.Mock(), mock.MagicMock(), mock.Mock()), []
        )
        self.assertIn("worked out", str(painter.drawText.call_args))


class Sky(YearTest):
    def draw(self, dialog: QDialog) -> None:
        assert isinstance(dialog, ShadeDialog)
        dome = dialog.dome
        middle = QPointF(dome.width() / 2.0, dome.height() / 2.0)
        at = dome_point(middle, 168.0, 90.0, 40.0).toPoint()
        QTest.mouseClick(dome, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
        self.assertEqual(dome.shade.trees_deg[4], 40.0)
        dialog.kinds[False].click()
        dome.setFocus()
        for key in (Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Up, Qt.Key.Key_Down):
            QTest.keyClick(dome, key)
        self.assertEqual(dome.shade.hills_deg[5], 5.0)
        self.assertIn("E: hills", dome.accessibleDescription().replace("SE", "E"))
        self.type_into(dialog.months[0], "500")
        self.assertIn("0 to 100", dialog.problem.text())
        self.type_into(dialog.months[0], "35")
        self.assertEqual(dome.shade.through[0], 0.35)
        self.assertIn("shortest day", dialog.answer.text())
        click(dialog.ok)

    def test_what_stands_round_is_drawn_and_undone(self) -> None:
        w = self.window(only("composite"))
        w.go_to("place")
        self.prompts.dialogs = [self.draw, lambda d: d.reject()]
        click(w.place.shade_button)
        shade = w.document.project.place.shade
        assert shade is not None
        self.assertEqual((shade.trees_deg[4], shade.hills_deg[5]), (40.0, 5.0))
        w.run("draw_shade")
        self.assertEqual(w.document.project.place.shade, shade)
        w.document.undo_stack.undo()
        self.assertIsNone(w.document.project.place.shade)

    def test_open_land_is_none(self) -> None:
        w = self.window(only("composite"))
        shade = Shade(trees_deg=(30.0,) * 16)
        w.document.edit("s", lambda p: set_place(p, replace(p.place, shade=shade)))

        def clear(dialog: QDialog) -> None:
            assert isinstance(dialog, ShadeDialog)
            click(dialog.open_button)
            click(dialog.ok)

        self.prompts.dialogs = [clear]
        w.run("draw_shade")
        self.assertIsNone(w.document.project.place.shade)

    def test_the_sun_of_the_dome_is_that_of_the_almanac(self) -> None:
        """Noon height 90° - φ ± 23.44°, and up for 12 h at the equinox (any almanac)."""
        for latitude in (-35.0, 0.0, 47.2):
            for declination in (-OBLIQUITY_DEG, 0.0, OBLIQUITY_DEG):
                course = sun_path_deg(latitude, declination)
                noon = 90.0 - abs(latitude - declination)
                self.assertAlmostEqual(max(h for h, _ in course), noon, places=6)
            self.assertAlmostEqual(len(sun_path_deg(latitude, 0.0)) / 4, 12.0, delta=0.3)
        self.assertEqual(sun_path_deg(80.0, -OBLIQUITY_DEG), [])
        self.assertLess(sun_path_deg(47.0, 0.0)[0][1], 100.0)  # it rises in the east


class Months(YearTest):
    def test_a_value_is_dragged_and_one_undo_takes_it_back(self) -> None:
        w = self.window(only("composite"))
        w.go_to("place")
        self.settle(w)
        table = w.place.table
        at = table.visualRect(table.model().index(0, 6)).center()
        before = w.document.project.place.months[6].temperature_degc
        port = table.viewport()
        QTest.mousePress(port, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
        for up in (12, 20, 16):
            QTest.mouseMove(port, at - QPoint(0, up))
        QTest.mouseRelease(
            port, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at - QPoint(0, 16)
        )
        self.assertAlmostEqual(w.document.project.place.months[6].temperature_degc, before + 2.0)
        w.document.undo_stack.undo()
        self.assertEqual(w.document.project.place.months[6].temperature_degc, before)

    def test_out_of_range_stays_and_is_said(self) -> None:
        w = self.window(only("composite"))
        w.go_to("place")
        model = w.place.model
        model.drag(model.index(6, 0), 150.0)  # brood in percent
        self.assertIn("brood", w.place.problem.text())
        self.assertLessEqual(w.document.project.colony.brood_share[0], 1.0)
        model.drag(model.index(8, 5), 0.65)
        self.assertAlmostEqual(w.document.project.colony.nectar_kg_day[5], 0.65)
        self.assertEqual(model.share(model.index(8, 5)), 1.0)


class Sizes(YearTest):
    def test_an_opening_the_bees_and_a_layer(self) -> None:
        with mock.patch.object(year_sweep_panel, "STAGES", (0, 2)):
            w = self.window(only("composite"))
            w.go_to("compare")
            w.compare.show_view("sizes")
            self.settle(w)
            panel = w.compare.sizes
            self.assertEqual([y.size for y in panel.years], [0.1, 0.25, 0.5, 0.75, 1.0])
            co2 = [y.bands.likely.most_co2 for y in panel.years]
            self.assertGreater(co2[0], 2 * co2[-1])
            self.assertEqual(panel.years[0].bands.values.shape[0], 2)
            for key in ("bees", next(k for k, _ in panel._rows() if k.startswith("layer/walls"))):
                panel.what.show_id(key)
                panel.begin()
                self.settle(w)
            honey = [y.bands.likely.winter_honey_kg for y in panel.years]
            self.assertGreater(honey[0], honey[-1] + 0.3)
            self.assertIn("dotted", panel.state.text())
            w.document.edit("stores", lambda p: set_place(p, replace(p.place, wind_from_deg=10.0)))
            self.settle(w)
            self.assertIn("before the last change", panel.state.text())


class Feed(YearTest):
    def test_the_table_is_shown_and_saved(self) -> None:
        w = self.window(only("composite"))
        self.prompts.paths = [self.folder / "feed.pdf", self.folder / "feed.csv"]

        def use(dialog: QDialog) -> None:
            assert isinstance(dialog, FeedDialog)
            self.assertFalse(dialog.save_buttons[".csv"].isEnabled())
            click(dialog.begin_button)
            self.settle(w)
            self.assertIn("weak, sealed", dialog.page.toPlainText())
            for button in dialog.save_buttons.values():
                click(button)

        self.prompts.dialogs = [use]
        with mock.patch.object(feed_dialog, "DRAWS", 2):
            w.run("winter_feed")
        self.assertTrue((self.folder / "feed.pdf").read_bytes().startswith(b"%PDF"))
        with (self.folder / "feed.csv").open(encoding="utf-8") as file:
            rows = list(csv.DictReader(file))
        self.assertEqual(len(rows), 6)
        by = {(r["top"], r["colony"]): float(r["honey_kg"]) for r in rows}
        self.assertLess(by["sealed", "weak"], by["sealed", "strong"])
        self.assertEqual(feed_html([], METRIC), "")


class Plan(YearTest):
    def test_acts_say_what_they_follow(self) -> None:
        w = self.window(only("quilt"))
        w.go_to("seasons")
        self.prompts.confirmed = [True]
        w.seasons.plan_actions["sealed warm top"].trigger()
        self.settle(w)
        self.assertIn("with the first forage week", texts(w.seasons.acts))
        day = rule_days(w.document.project.place)["forage begins"]
        self.assertIn(day, [p.from_day for p in w.document.project.designs[0].seasons.periods])
        w.go_to("place")
        w.place.first_week.setValue(18)
        later = [p.from_day for p in w.document.project.designs[0].seasons.periods]
        self.assertIn(rule_days(w.document.project.place)["forage begins"], later)
        self.assertNotIn(day, later)
