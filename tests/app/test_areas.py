"""Seasons, Compare, Place and Shell as a user drives them: plans, schools, sweeps, drags, rooms."""

from __future__ import annotations

import unittest

from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog, QLabel

from calveth.app.cutaway.drag import begin_drag
from calveth.app.cutaway.view import LENSES
from calveth.app.dialogs.working_dialog import WorkingDialog
from calveth.app.widgets.plan_grid import PlanGrid
from calveth.core.hive.by_month import setting_of
from calveth.core.hive.season_plan import NO_PLAN
from calveth.core.school import SCHOOLS
from calveth.texts.units import INCH, METRIC
from tests.app.base import WindowTest, what_helps_too
from tests.app.test_window import click

NO_KEY = Qt.KeyboardModifier.NoModifier


def _text_of(dialog: QDialog) -> str:
    assert isinstance(dialog, WorkingDialog)
    return dialog.text.toPlainText()


class Seasons(WindowTest):
    hives = ()

    def setUp(self) -> None:
        super().setUp()
        self.w = self.window()
        self.w.choose("quilt")
        self.w.go_to("seasons")
        self.settle(self.w)

    @property
    def grid(self) -> PlanGrid:
        return self.w.seasons.grid

    def at(self, row: int, month: int) -> QPointF:
        return self.grid.cell_rect(row, month).center()

    def test_the_plan_of_the_demo(self) -> None:
        names = [row.name for row in self.grid.rows]
        self.assertEqual(names, ["low entrance, open %", "upper hole, open %", "quilt on"])
        quilt = self.grid.rows[2].values
        self.assertEqual(quilt, (1, 1, 1, 0, 0, 0, 0, 0, 0, 1, 1, 1))

    def test_a_click_puts_the_quilt_on(self) -> None:
        click(self.grid, self.at(2, 5))
        design = self.w.document.project.design("quilt")
        self.assertTrue(setting_of(design, 5).quilt)
        self.assertEqual(self.w.view.month, 5)
        self.w.run("undo")
        self.assertFalse(setting_of(self.w.document.project.design("quilt"), 5).quilt)

    def test_keys(self) -> None:
        self.grid.setFocus()
        QTest.keyClick(self.grid, Qt.Key.Key_Home)
        for key, share in (
            (Qt.Key.Key_Space, 0.3),
            (Qt.Key.Key_Space, 0.6),
            (Qt.Key.Key_Space, 1.0),
            (Qt.Key.Key_Space, 0.0),
            (Qt.Key.Key_Plus, 0.1),
            (Qt.Key.Key_5, 0.5),
            (Qt.Key.Key_9, 1.0),
            (Qt.Key.Key_Minus, 0.9),
        ):
            QTest.keyClick(self.grid, key)
            design = self.w.document.project.design("quilt")
            self.assertAlmostEqual(setting_of(design, 0).share("low", 9), share)
        QTest.keyClick(self.grid, Qt.Key.Key_Right)
        QTest.keyClick(self.grid, Qt.Key.Key_Down)
        self.assertEqual(self.grid.cell, (1, 1))
        self.assertEqual(self.w.ribbon.month, 1)
        self.assertIn("upper hole, open %, February: 100% open", self.grid.accessibleDescription())

    def test_the_year_follows(self) -> None:
        before = self.w.results.monthly("quilt")
        click(self.grid, self.at(2, 0))
        self.settle(self.w)
        after = self.w.results.monthly("quilt")
        assert before is not None
        assert after is not None
        degc = [float(m.months.balance.surface_degc[0, 0]) for m in (before, after)]
        self.assertLess(degc[1], degc[0] - 0.3)

    def test_start_from_a_plan_of_each_school(self) -> None:
        self.w.choose("timber")
        for school in SCHOOLS:
            self.prompts.confirmed = [True]
            self.w.seasons.plan_actions[school].trigger()
            self.settle(self.w)
            self.assertTrue(self.w.document.project.design("timber").seasons)
        self.w.seasons.plan_actions["none"].trigger()
        self.settle(self.w)
        self.assertEqual(self.w.document.project.design("timber").seasons, NO_PLAN)
        self.assertIn("No plan yet", self.w.seasons.hint.text())

    def test_the_school_chosen_is_written_out_first(self) -> None:
        self.w.seasons.school.choose("upper entrance")
        self.settle(self.w)
        self.assertEqual(self.w.document.project.school, "upper entrance")
        self.w.seasons.show()
        found = self.w.seasons.schools.findChildren(QLabel)
        labels = [x.text() for x in found if not x.isHidden()]
        self.assertTrue(labels[0].startswith("upper entrance"))
        self.assertTrue(any("at most" in text for text in labels))

    def test_it_paints_with_and_without_an_answer(self) -> None:
        full = self.w.seasons.table.grab().toImage()
        self.w.seasons.table.show_year(None, None, self.w.document.project.place)
        self.assertNotEqual(full, self.w.seasons.table.grab().toImage())


class CompareViews(WindowTest):
    hives = ()

    def setUp(self) -> None:
        super().setUp()
        self.w = self.window()
        self.w.go_to("compare")
        self.settle(self.w)

    def test_eight_designs_best_for_the_school_first(self) -> None:
        self.assertEqual(len(self.w.compare.order), 8)
        self.assertEqual(self.w.compare.order[-2:], ["plain-boards", "hollow-tree"])
        before = self.w.compare.order
        self.w.compare.school.choose("breathing top")
        self.settle(self.w)
        self.assertNotEqual(self.w.compare.order, before)
        self.assertEqual(sorted(self.w.compare.order), sorted(before))

    def test_a_figure_opens_its_working(self) -> None:
        seen: list[str] = []
        self.prompts.dialogs = [lambda d: seen.extend([d.windowTitle(), _text_of(d)])]
        grid = self.w.compare.figures
        click(grid.viewport(), grid.cell_rect(2, 0).center())
        self.assertEqual(seen[0], "Winter honey")
        self.assertIn("12.7", seen[1])
        self.assertIn("estimate", seen[1])

    def test_by_keyboard(self) -> None:
        grid = self.w.compare.figures
        grid.setFocus()
        for key in (*[Qt.Key.Key_Down] * 3, Qt.Key.Key_Right):
            QTest.keyClick(grid, key)
        self.assertEqual(grid.cell, (3, 1))
        read_aloud = grid.currentIndex().data(Qt.ItemDataRole.AccessibleTextRole)
        self.assertIn("lid middle above dew", read_aloud)
        seen: list[str] = []
        self.prompts.dialogs = [lambda d: seen.append(d.windowTitle())]
        QTest.keyClick(grid, Qt.Key.Key_Return)
        self.assertIn("Lid middle above dew point", seen[0])

    def test_ledgers_schools_and_pictures(self) -> None:
        click(self.w.compare.view_buttons["ledgers"])
        self.assertTrue(self.w.compare.ledgers.isVisible())
        self.assertIn("Composite sandwich", self.w.compare.ledgers.accessibleDescription())
        click(self.w.compare.view_buttons["schools"])
        cells = self.w.compare.schools.texts()
        self.assertEqual(len(cells), len(SCHOOLS) * 8)
        self.assertTrue(any(text == "passes" for text in cells.values()))
        schools = self.w.compare.schools
        click(schools.viewport(), schools.cell_rect(2, 0).center())
        self.assertIn("upper entrance on Composite", self.w.compare.criteria.text())
        for lens in LENSES:
            self.w.view.set_lens(lens)
            for picture in self.w.compare.pictures.values():
                assert picture.scene is not None
                self.assertEqual(picture.scene.lens, lens)

    def test_sweep(self) -> None:
        self.w.choose("timber")
        click(self.w.compare.view_buttons["sweep"])
        self.settle(self.w)
        sweep = self.w.compare.sweep
        self.assertEqual(len(sweep.points), 9)
        self.assertFalse(sweep.progress.isVisible())
        sweep.face.choose("lid")
        self.settle(self.w)
        self.assertIn("32 mm", sweep.plot.accessibleDescription())
        before = [p.pays for p in sweep.points]
        self.type_into(sweep.price, "0.1")
        self.settle(self.w)
        self.assertEqual(self.w.document.project.honey_price_eur_kg, 0.1)
        self.assertNotEqual([p.pays for p in sweep.points], before)
        self.assertGreater(sweep.plot.grab().width(), 0)

    def test_from_a_layer_to_its_sweep(self) -> None:
        self.w.go_to("shell")
        self.w.choose("composite")
        self.w.shell.show_tab("walls")
        self.w.shell.layers.show_details(1)
        details = self.w.shell.layers.details
        assert details is not None
        click(details.sweep_button)
        self.settle(self.w)
        self.assertTrue(self.w.compare.sweep.isVisible())
        self.assertIn("Extruded", self.w.compare.sweep.layer.currentText())


class Dragging(WindowTest):
    hives = ()

    def test_the_outer_side_follows_the_hand_from_stock_size_to_stock_size(self) -> None:
        w = self.window()
        w.choose("timber")
        self.settle(w)
        cutaway = w.shell.cutaway
        outline = cutaway.mapping().rect(cutaway.scene.section.outline)  # type: ignore[union-attr]
        at = QPoint(round(outline.right()) - 1, round(outline.center().y()))
        scale = cutaway.mapping().scale
        QTest.mousePress(cutaway, Qt.MouseButton.LeftButton, NO_KEY, at)
        self.assertEqual(w.view.face, "walls")
        QTest.mouseMove(cutaway, at + QPoint(round(0.0055 * scale), 0))
        self.assertAlmostEqual(
            w.document.project.design("timber").shell.walls[0].thickness_m, 0.038
        )
        QTest.mouseMove(cutaway, at + QPoint(round(0.2 * scale), 0))
        QTest.mouseRelease(cutaway, Qt.MouseButton.LeftButton, NO_KEY, at)
        self.assertAlmostEqual(w.document.project.design("timber").shell.walls[0].thickness_m, 0.05)
        self.assertEqual(w.document.undo_stack.count(), 1)
        w.run("undo")
        self.assertEqual(w.document.project.design("timber").shell.walls[0].thickness_m, 0.032)

    def test_only_the_edge_can_be_held(self) -> None:
        w = self.window()
        scene = w.shell.cutaway.scene
        assert scene is not None
        mapping = w.shell.cutaway.mapping()
        room = mapping.rect(scene.section.cavity).center()
        self.assertIsNone(begin_drag(scene, mapping, room))
        top = mapping.rect(scene.section.outline)
        hold = begin_drag(scene, mapping, QPointF(top.center().x(), top.top()))
        assert hold is not None
        self.assertEqual((hold.face, hold.cursor), ("lid", Qt.CursorShape.SizeVerCursor))

    def test_a_layer_that_is_off_in_summer_is_not_mistaken(self) -> None:
        w = self.window()
        w.choose("cover")
        w.view.set_month(6)
        self.settle(w)
        cutaway = w.shell.cutaway
        outline = cutaway.mapping().rect(cutaway.scene.section.outline)  # type: ignore[union-attr]
        at = QPoint(round(outline.left()), round(outline.center().y()))
        QTest.mousePress(cutaway, Qt.MouseButton.LeftButton, NO_KEY, at)
        QTest.mouseMove(cutaway, at - QPoint(round(0.006 * cutaway.mapping().scale), 0))
        QTest.mouseRelease(cutaway, Qt.MouseButton.LeftButton, NO_KEY, at)
        walls = w.document.project.design("cover").shell.walls
        self.assertEqual([round(1000 * y.thickness_m) for y in walls[:2]], [25, 20])
        self.assertEqual(round(1000 * walls[2].thickness_m), 25)


class Inspector(WindowTest):
    hives = ()

    def setUp(self) -> None:
        super().setUp()
        self.w = self.window()
        self.w.choose("timber")
        self.settle(self.w)

    def test_what_helps_becomes_a_new_version(self) -> None:
        self.w = self.window(nodes=what_helps_too())
        self.w.choose("timber")
        self.w.shell.show_tab("says")
        self.settle(self.w)
        button = self.w.shell.says.buttons[0]
        click(button)
        self.settle(self.w)
        self.assertEqual(self.w.view.design_id, "timber-2")
        version = self.w.document.project.design("timber-2")
        self.assertTrue(version.note)
        self.assertNotEqual(version.shell, self.w.document.project.design("timber").shell)
        self.w.run("undo")
        self.assertEqual(len(self.w.document.project.designs), 8)

    def test_details_of_a_layer(self) -> None:
        self.w.shell.show_tab("walls")
        self.w.shell.layers.show_details(0)
        details = self.w.shell.layers.details
        assert details is not None
        details.second.choose("xps")
        wall = self.w.document.project.design("timber").shell.walls[0]
        self.assertEqual((wall.mixed_with, wall.mixed_share), ("xps", 0.1))
        self.type_into(details.share, "25 %")
        self.assertEqual(self.w.document.project.design("timber").shell.walls[0].mixed_share, 0.25)
        self.type_into(details.share, "95")
        self.assertIn("share", self.w.shell.layers.problem.text())
        details.fitting.choose("cover")
        self.assertEqual(self.w.document.project.design("timber").shell.walls[0].fitting, "cover")

    def test_layers_change_places(self) -> None:
        self.w.choose("composite")
        self.w.shell.show_tab("walls")
        before = self.w.document.project.design("composite").shell.walls
        self.w.shell.layers.show_details(1)
        details = self.w.shell.layers.details
        assert details is not None
        click(details.out_button)
        after = self.w.document.project.design("composite").shell.walls
        self.assertEqual(after[:2], before[:2][::-1])

    def test_a_film_keeps_its_thickness(self) -> None:
        self.w.shell.show_tab("walls")
        combo = self.w.shell.layers.combos[0]
        combo.setCurrentIndex(combo.findData("paint-white"))
        combo.activated.emit(combo.currentIndex())
        self.assertFalse(self.w.shell.layers.fields[0].isEnabled())
        wall = self.w.document.project.design("timber").shell.walls[0]
        self.assertAlmostEqual(wall.thickness_m, 0.0002)

    def test_the_hive_from_the_library(self) -> None:
        hive = self.w.shell.hive
        self.w.shell.show_tab("hive")
        hive.make_up.choose("cork")
        self.settle(self.w)
        design = self.w.document.project.design("timber")
        self.assertEqual(
            (design.name, design.shell.walls[1].material), ("Heavy timber box", "cork")
        )
        hive.cavity.choose("nucleus")
        self.assertEqual(self.w.document.project.design("timber").form.frame_count, 5)  # type: ignore[union-attr]
        hive.make_up.choose("screened")
        self.type_into(hive.tilt, "2")
        self.assertEqual(self.w.document.project.design("timber").tilt_deg, 2.0)
        self.assertTrue(hive.tray.isChecked())
        self.type_into(hive.tilt, "50")
        self.assertIn("tilt", hive.problem.text())

    def test_a_window_in_the_wall(self) -> None:
        hive = self.w.shell.hive
        hive.window_kind.choose("two")
        self.settle(self.w)
        window = self.w.document.project.design("timber").window
        assert window is not None
        self.assertEqual(len(window.stack), 3)
        hive.window_side.choose("left")
        self.type_into(hive.window_fields["width_m"], "12 in")
        window = self.w.document.project.design("timber").window
        assert window is not None
        self.assertEqual((window.side, round(window.width_m, 4)), ("left", 0.3048))
        self.type_into(hive.window_fields["width_m"], "2 m")
        self.assertIn("window", hive.problem.text())
        hive.window_kind.choose("")
        self.assertIsNone(self.w.document.project.design("timber").window)

    def test_openings_of_every_kind_can_be_added(self) -> None:
        panel = self.w.shell.openings
        for kind, action in panel.add_actions.items():
            before = len(self.w.document.project.design("timber").openings)
            action.trigger()
            with self.subTest(kind=kind):
                self.assertEqual(
                    len(self.w.document.project.design("timber").openings),
                    before + 1,
                    panel.problem.text(),
                )
        self.settle(self.w)
        for lens in LENSES:
            self.w.view.set_lens(lens)
            self.assertGreater(self.w.shell.cutaway.grab().width(), 0)

    def test_more_of_an_opening(self) -> None:
        panel = self.w.shell.openings
        self.w.shell.show_tab("openings")
        panel.show_more("high")
        self.type_into(panel.field("high", "propolis share"), "30")
        self.type_into(panel.field("high", "mesh share"), "60 %")
        panel.sides["high"].choose("back")
        opening = self.w.document.project.design("timber").openings[1]
        self.assertEqual(
            (opening.propolis_share, opening.mesh_share, opening.side), (0.3, 0.6, "back")
        )
        panel.sides["high"].choose("floor")
        self.assertEqual(self.w.document.project.design("timber").openings[1].side, "floor")


class Units(WindowTest):
    dressed = True

    def test_at_a_key_everywhere(self) -> None:
        w = self.window()
        w.shell.show_tab("lid")
        for units, length, heat in ((INCH, "in", "R "), (METRIC, "mm", "U ")):
            QTest.keyClick(w, Qt.Key.Key_U, Qt.KeyboardModifier.ControlModifier)
            self.assertIs(w.view.units, units)
            self.assertTrue(w.shell.layers.fields[0].text().endswith(length))
            self.assertIn(heat, w.shell.layers.summary.text())
            self.assertIn(units.unit("temperature"), w.shell.moment.text())
            self.assertIn(units.unit("mass"), w.bench.card("timber").honey.text())
            w.go_to("place")
            header = w.place.model.headerData(0, Qt.Orientation.Vertical)
            self.assertIn(units.unit("temperature"), str(header))
            w.go_to("shell")

    def test_dark_and_back(self) -> None:
        w = self.window()
        light = w.grab().toImage()
        w.run("switch_look")
        dark = w.grab().toImage()
        self.assertLess(dark.pixelColor(640, 20).lightness(), 80)
        w.run("switch_look")
        self.settle(w)
        self.assertEqual(w.grab().toImage().pixelColor(640, 20), light.pixelColor(640, 20))


class Room(WindowTest):
    def setUp(self) -> None:
        super().setUp()
        self.w = self.window()
        self.w.go_to("place")

    def test_a_climate_and_its_bees(self) -> None:
        place = self.w.place
        place.place_actions["whare-downs"].trigger()
        place.bees_actions["strong"].trigger()
        self.settle(self.w)
        project = self.w.document.project
        self.assertLess(project.place.latitude_deg, 0)
        self.assertEqual(project.colony.stores_kg, 24.0)
        self.assertIn("Whare Downs", place.title.text())

    def test_a_winter_room(self) -> None:
        place = self.w.place
        click(place.room_on)
        self.settle(self.w)
        self.assertIn("m³/h", place.room_says.text())
        self.type_into(place.room_degc, "41 °F")
        place.room_hives.setValue(200)
        place.room_first.choose("12")
        room = self.w.document.project.place.room
        assert room is not None
        self.assertEqual((room.temperature_degc, room.hives, room.first_month), (5.0, 200, 12))
        self.type_into(place.room_rh, "0")
        self.assertTrue(place.room_rh.property("wrong"))
        click(place.room_on)
        self.assertIsNone(self.w.document.project.place.room)

    def test_snow_comes_in_pairs(self) -> None:
        place = self.w.place
        place.snow_from.setValue(0)
        now = self.w.document.project.place
        self.assertEqual((now.first_snow_week, now.last_snow_week), (0, 0))
        place.snow_from.setValue(48)
        now = self.w.document.project.place
        self.assertEqual((now.first_snow_week, now.last_snow_week), (48, 48))

    def test_the_compass_turns_the_hive(self) -> None:
        compass = self.w.place.compass
        click(compass, QPointF(92 + 60, 92))
        self.assertEqual(self.w.document.project.place.facing_deg, 90.0)
        compass.setFocus()
        QTest.keyClick(compass, Qt.Key.Key_Right)
        self.assertEqual(self.w.document.project.place.facing_deg, 95.0)
        self.assertIn("front to 95°", compass.accessibleDescription())


if __name__ == "__main__":
    unittest.main()
