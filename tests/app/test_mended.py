"""What stopped a newcomer or lost work once: each fault of the window, driven as a user would."""

from __future__ import annotations

import sqlite3
import threading
from dataclasses import replace
from itertools import combinations
from pathlib import Path
from unittest import mock

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QImage, QPainter
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel, QWidget

from calveth.app.areas.shell_area import TABS
from calveth.app.commands.file import begin
from calveth.app.cutaway.compose import mapping_of, paint_cutaway
from calveth.app.cutaway.view import LENSES, Scene, scene
from calveth.app.document import Document
from calveth.app.main_window import MainWindow
from calveth.app.pictures import InlineExecutor
from calveth.app.preferences import Preferences
from calveth.app.prompts import Prompts, plain_name, save_dialog, with_ending
from calveth.app.theme.palette import LIGHT
from calveth.app.widgets.labels import plain_tip
from calveth.catalogue.shipped import demo_project
from calveth.core.assess.result import assess_months
from calveth.core.checkpoint import unless
from calveth.core.conduction.hive import hive_conduction
from calveth.core.edits import add_design, change_design, rename_design, set_layer_thickness
from calveth.core.errors import CancelledError
from calveth.core.hive.opening import WALL_SIDES, Opening
from calveth.core.hive.season_plan import NO_PLAN
from calveth.core.project import Project
from calveth.core.year.faces import sun_of_month
from calveth.core.year.run import run_year
from calveth.store.project_file import ProjectFile, load_project
from tests.app.base import WindowTest, application, with_work
from tests.cases import hive_case

PROJECT = demo_project()


def only(*ids: str) -> Project:
    """Return the demo with some of its hives."""
    return replace(PROJECT, designs=tuple(d for d in PROJECT.designs if d.id in ids))


def many_openings(project: Project, count: int = 9) -> Project:
    """Return a project whose first hive has so many openings, low and high, on all sides."""
    openings = tuple(
        Opening(
            id=f"o{k}",
            name=f"opening number {k}",
            shape="hole",
            side=WALL_SIDES[k % 4],
            bottom_m=0.02 + 0.05 * (k % 9),
            width_m=0.016,
            height_m=0.016,
        )
        for k in range(count)
    )
    first = project.designs[0].id
    return change_design(project, first, lambda d: replace(d, openings=openings, seasons=NO_PLAN))


class Words(WindowTest):
    """Labels never lie on each other, on the hive or on the line below it."""

    def drawn(self, shown: Scene, width: int = 646, height: int = 480) -> list[QRectF]:
        image = QImage(width, height, QImage.Format.Format_ARGB32)
        painter = QPainter(image)
        area = QRectF(0, 0, width, height)
        boxes = paint_cutaway(painter, shown, area, LIGHT)
        painter.end()
        hive = mapping_of(shown, area).rect(shown.section.outline)
        for one, two in combinations(boxes, 2):
            self.assertFalse(
                one.adjusted(1, 1, -1, -1).intersects(two.adjusted(1, 1, -1, -1)), "words on words"
            )
        for box in boxes:
            self.assertFalse(box.adjusted(1, 1, -1, -1).intersects(hive), "words on the hive")
            self.assertTrue(area.contains(box), "words cut off")
        return boxes

    def test_every_hive_of_the_demo_through_every_lens(self) -> None:
        application()
        table = PROJECT.material_table()
        for design in PROJECT.designs:
            year = assess_months(hive_case(design, PROJECT.place, PROJECT.colony, table))
            sun = sun_of_month(run_year(year.case), 0)
            for lens in LENSES:
                with self.subTest(design=design.id, lens=lens):
                    shown = scene(design, table, PROJECT.colony, year, 0, lens, sun=sun)
                    self.assertGreaterEqual(len(self.drawn(shown)), 2)

    def test_nine_openings_and_a_name_as_long_as_a_line(self) -> None:
        application()
        project = many_openings(only("composite"))
        table = project.material_table()
        year = assess_months(hive_case(project.designs[0], project.place, project.colony, table))
        for lens in ("make-up", "air"):
            for size in ((646, 480), (430, 330)):
                with self.subTest(lens=lens, size=size):
                    shown = scene(project.designs[0], table, project.colony, year, 0, lens)
                    boxes = self.drawn(shown, *size)
                    self.assertGreaterEqual(len(boxes), 9)

    def test_the_air_is_beside_the_bees_and_never_that_of_the_cluster(self) -> None:
        from calveth.app.cutaway.painting import cluster_rect
        from calveth.app.cutaway.zones import ZONE_WORDS, zone_shares
        from calveth.core.hive.zones import NEST

        shown = scene(PROJECT.designs[0], PROJECT.material_table(), PROJECT.colony, None, 0, "wet")
        room = shown.section.cavity
        share = dict(zone_shares(shown))[NEST]
        self.assertLess(room.z0 + share * (room.z1 - room.z0), cluster_rect(shown).z0)
        self.assertIn("beside", ZONE_WORDS[NEST])


class Room(WindowTest):
    dressed = True

    def test_a_name_never_makes_the_window_wider(self) -> None:
        w = self.window(only("composite", "timber"))
        for length in (35, 48, 140, 200):
            w.document.edit("rename", lambda p, n=length: rename_design(p, "composite", "W" * n))  # type: ignore[misc]
            self.settle(w)
            for area in ("place", "shell", "seasons", "compare"):
                w.go_to(area)
                QApplication.processEvents()
                with self.subTest(length=length, area=area):
                    self.assertLessEqual(w.minimumSizeHint().width(), 1024)
                    self.assertEqual(w.width(), 1280)
        self.assertIn("W" * 200, w.bench.card("composite").toolTip())

    def test_the_window_can_be_as_small_as_1024_by_700(self) -> None:
        w = self.window(only("composite", "timber"))
        for area in ("place", "shell", "seasons", "compare"):
            w.go_to(area)
            for tab in TABS if area == "shell" else ("",):
                if tab:
                    w.shell.show_tab(tab)
                QApplication.processEvents()
                hint = w.minimumSizeHint()
                with self.subTest(area=area, tab=tab):
                    self.assertTrue(hint.width() <= 1024 and hint.height() <= 700, hint)

    def test_tabs_and_profile_stay_in_sight_and_sentences_push_nothing(self) -> None:
        w = self.window(only("composite"))
        w.shell.show_tab("walls")
        self.settle(w)
        tops = {k: b.mapTo(w, b.rect().topLeft()).y() for k, b in w.shell.face_buttons.items()}
        field = w.shell.layers.fields[0]
        before = field.mapTo(w, field.rect().topLeft())
        w.shell._say([])
        QApplication.processEvents()
        self.assertEqual(field.mapTo(w, field.rect().topLeft()), before)
        self.assertEqual(
            tops, {k: b.mapTo(w, b.rect().topLeft()).y() for k, b in w.shell.face_buttons.items()}
        )
        profile = w.shell.profile
        bottom = profile.mapTo(w, profile.rect().bottomLeft()).y()
        self.assertTrue(profile.isVisible())
        self.assertLess(bottom, 800)

    def test_tables_are_drawn_and_not_their_source(self) -> None:
        w = self.window(only("composite"))
        for label in (w.shell.hive.fits, w.shell.joints.heat):
            self.assertEqual(label.textFormat(), Qt.TextFormat.RichText)
        for tab in TABS:
            w.shell.show_tab(tab)
            for shown in w.shell.findChildren(QLabel):
                if shown.textFormat() == Qt.TextFormat.PlainText:
                    self.assertNotRegex(shown.text(), r"<(table|p|td|tr)\b")

    def test_what_comes_from_a_file_is_never_read_as_html(self) -> None:
        evil = "<img src='/dev/zero'>"
        w = self.window(change_design(only("timber"), "timber", lambda d: replace(d, note=evil)))
        self.assertNotIn(evil, w.bench.card("timber").toolTip())
        self.assertIn("&lt;img", w.bench.card("timber").toolTip())
        self.assertEqual(plain_tip("a & b"), "a & b")

    def test_every_tab_lens_area_and_small_button_has_a_tool_tip(self) -> None:
        w = self.window(only("composite"))
        buttons: list[QWidget] = [
            *w.area_buttons.values(),
            *w.shell.lens_buttons.values(),
            *w.shell.face_buttons.values(),
            w.shell.key_button,
        ]
        self.assertEqual([b.accessibleName() for b in buttons if not b.toolTip()], [])


class Keys(WindowTest):
    def test_undo_and_units_while_a_field_has_the_focus(self) -> None:
        w = self.window(only("timber"))
        w.shell.show_tab("lid")
        field = w.shell.layers.fields[0]
        before = w.document.project
        self.type_into(field, "90")
        self.assertAlmostEqual(w.document.project.design("timber").shell.lid[0].thickness_m, 0.09)
        self.assertTrue(field.hasFocus())
        QTest.keyClick(field, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(w.document.project, before)
        QTest.keyClick(field, Qt.Key.Key_U, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(w.view.units.name, "inch")

    def test_what_is_half_typed_is_taken_back_by_itself(self) -> None:
        w = self.window(only("timber"))
        w.shell.show_tab("lid")
        self.type_into(w.shell.layers.fields[0], "90")
        field = w.shell.layers.fields[0]
        QTest.keyClicks(field, "1")
        QTest.keyClick(field, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertAlmostEqual(w.document.project.design("timber").shell.lid[0].thickness_m, 0.09)

    def test_count_fields_refuse_and_swallow_nothing(self) -> None:
        w = self.window(only("timber"))
        w.go_to("place")
        place = w.document.project.place
        for typed in ("60", "999", "0"):
            box = w.place.last_week
            box.setFocus()
            box.selectAll()
            QTest.keyClicks(box, typed)
            self.assertEqual(box.lineEdit().text(), typed)
            QTest.keyClick(box, Qt.Key.Key_Return)
            w.place.first_week.setFocus()
            with self.subTest(typed=typed):
                self.assertEqual(w.document.project.place, place)
                self.assertIn(f"{typed} is outside 1 to 52", w.place.problem.text())
        w.go_to("shell")
        w.shell.show_tab("hive")
        frames = w.shell.hive.count("frame_count")
        frames.setFocus()
        frames.selectAll()
        QTest.keyClicks(frames, "999")
        QTest.keyClick(frames, Qt.Key.Key_Return)
        w.shell.show_tab("lid")
        form = w.document.project.design("timber").form
        self.assertEqual(form, PROJECT.design("timber").form)

    def test_a_refusal_speaks_the_unit_of_its_field(self) -> None:
        w = self.window(only("timber"))
        w.shell.show_tab("lid")
        field = w.shell.layers.fields[0]
        self.type_into(field, "5000")
        self.assertIn("5000 mm is outside 0.1 to 1000 mm", field.toolTip())
        w.run("switch_units")
        self.type_into(field, "99")
        self.assertIn("99 in is outside 0.003937 to 39.3701 in", field.toolTip())

    def test_letters_search_a_list_and_pick_nothing_before_return(self) -> None:
        w = self.window(only("timber"))
        w.shell.show_tab("lid")
        combo = w.shell.layers.combos[0]
        combo.setFocus()
        before = w.document.project
        QTest.keyClicks(combo, "c")
        found = combo._list
        self.assertTrue(found.isVisible())
        QTest.keyClicks(found.search, "ork")
        self.assertEqual(w.document.project, before)
        names = [found.list.item(k).text().strip() for k in range(found.list.count())]
        self.assertTrue(any("ork" in n for n in names))
        self.assertLess(len(names), 8)
        QTest.keyClick(found.search, Qt.Key.Key_Return)
        self.assertEqual(w.document.undo_stack.count(), 1)
        chosen = w.document.project.design("timber").shell.lid[0].material
        self.assertIn("ork", w.document.project.material_table()[chosen].name)
        QTest.keyClick(w, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(w.document.project, before)


class Kept(WindowTest):
    """No act loses work."""

    def named(self) -> tuple[MainWindow, Path]:
        path = self.folder / "mine.calveth"
        file = ProjectFile.create(path, only("timber"))
        w = MainWindow(
            Document(only("timber"), file, named=True, disposable=False),
            prompts=self.prompts,
            executor=InlineExecutor(),
            likes=Preferences(),
        )
        self.windows.append(w)
        w.show()
        self.settle(w)
        return w, path

    def thicken(self, w: MainWindow, mm: float = 50) -> None:
        w.document.edit("lid", lambda p: set_layer_thickness(p, "timber", "lid", 0, mm / 1000))

    def test_an_edit_that_could_not_be_written_is_asked_about(self) -> None:
        w, path = self.named()
        path.unlink()
        self.thicken(w)
        self.assertIn("NOT saved", w._saved.text())
        self.assertIn("moved, deleted or replaced", w.statusBar().currentMessage())
        self.prompts.unsaved_answers = ["stay", "stay", "stay"]
        w.close()
        self.assertTrue(w.isVisible())
        begin(w.context, PROJECT)
        self.assertEqual(w.document.project.designs[0].id, "timber")
        other = self.folder / "other.calveth"
        ProjectFile.create(other, PROJECT).close()
        w.run("open", other)
        self.assertEqual(len(w.document.project.designs), 1)
        # Saved elsewhere it goes: all of it is there.
        self.prompts.unsaved_answers = ["save"]
        self.prompts.paths = [self.folder / "kept.calveth"]
        expected = w.document.project
        w.close()
        self.assertFalse(w.isVisible())
        self.assertEqual(load_project(self.folder / "kept.calveth"), expected)

    def test_saving_writes_a_file_that_is_gone_and_leaves_one_put_in_its_place(self) -> None:
        w, path = self.named()
        path.unlink()
        self.assertTrue(w.run("save"))
        self.assertEqual(load_project(path), w.document.project)
        path.unlink()
        ProjectFile.create(path, PROJECT).close()
        self.assertFalse(w.run("save"))
        self.assertIn("moved, deleted or replaced", w.statusBar().currentMessage())
        self.assertEqual(load_project(path), PROJECT)

    def test_a_file_that_is_held_for_a_moment_is_written_when_it_is_free(self) -> None:
        w, path = self.named()
        reader = sqlite3.connect(path, isolation_level=None)
        reader.execute("BEGIN")
        reader.execute("SELECT * FROM design").fetchone()
        self.thicken(w)
        self.assertIn("another program", w.document.write_problem)
        self.assertTrue(w.document.would_lose)
        reader.close()
        for _ in range(100):
            QTest.qWait(50)
            if not w.document.would_lose:
                break
        self.assertEqual(w.document.write_problem, "")
        self.assertEqual(load_project(path), w.document.project)

    def test_saving_a_working_copy_onto_itself_by_another_name_keeps_it(self) -> None:
        w = self.window(only("timber"), on_disk=True)
        own = self.folder / "working.calveth"
        link = self.folder / "link.calveth"
        link.symlink_to(own)
        self.thicken(w)
        self.prompts.paths = [link]
        self.assertTrue(w.run("save_as"))
        self.assertEqual(load_project(own), w.document.project)

    def test_the_dialog_asks_about_the_name_that_will_be_written(self) -> None:
        application()
        dialog = save_dialog(None, "x", "a/b: hive.calveth", "Calveth (*.calveth)", ".calveth")
        self.assertEqual(dialog.defaultSuffix(), "calveth")
        dialog.deleteLater()
        for name, endings, expected in (
            ("foo", ".calveth", "foo.calveth"),
            ("Hive v1.5", ".calveth", "Hive v1.5.calveth"),
            ("t.CSV", ".xlsx .csv", "t.CSV"),
            ("x.svg", ".svg .png", "x.svg"),
        ):
            with self.subTest(name=name):
                self.assertEqual(with_ending(Path(name), endings), Path(expected))
        self.assertEqual(plain_name("../../etc/x"), "-..-etc-x")
        # An ending makes it another name: what stands there is asked about.
        (self.folder / "Hive v1.5.calveth").write_text("old")
        chosen = str(self.folder / "Hive v1.5")
        for answer in (True, False):
            with (
                mock.patch("calveth.app.prompts.QFileDialog.exec", return_value=1),
                mock.patch("calveth.app.prompts.QFileDialog.selectedFiles", return_value=[chosen]),
                mock.patch.object(Prompts, "confirm", return_value=answer) as asked,
            ):
                path = Prompts().save_path(QWidget(), "x")
            asked.assert_called_once()
            self.assertEqual(path is not None, answer)

    def test_closing_waits_for_nothing_and_a_late_answer_finds_nobody(self) -> None:
        release, begun = threading.Event(), threading.Event()

        def slow(*_: object, **__: object) -> object:
            begun.set()
            release.wait(30)
            raise AssertionError("late")

        w = MainWindow(
            Document(only("timber")),
            prompts=self.prompts,
            likes=Preferences(),
            nodes=with_work("months", slow),
        )
        w.show()
        for _ in range(200):
            QTest.qWait(20)
            if begun.is_set():
                break
        self.assertTrue(begun.is_set())
        w.close()
        self.assertFalse(release.is_set(), "closing waited for the solve")
        release.set()
        QTest.qWait(50)
        w.deleteLater()

    def test_a_solve_nobody_wants_ends_inside_its_rounds(self) -> None:
        composite = PROJECT.design("composite")
        with self.assertRaises(CancelledError), unless(lambda: True):
            hive_conduction(composite, PROJECT.material_table(), 1.1)


class SensorReadings(WindowTest):
    def test_compare_takes_every_hive_and_the_report_the_same(self) -> None:
        project = PROJECT
        for k in range(4):
            more = replace(PROJECT.design("timber"), id=f"more-{k}", name=f"More {k}")
            project = add_design(project, more, ())
        w = self.window(project)
        w.go_to("compare")
        self.settle(w)
        self.assertEqual(sorted(w.compare.order), sorted(d.id for d in project.designs))
        w.compare.show_hive("quilt", on=False)
        self.assertNotIn("quilt", w.compare.order)
        self.assertEqual(len(w.compare.order), 11)
        w.compare.school.choose("as listed")
        self.assertEqual(w.compare.order[0], project.designs[0].id)
        from calveth.app.exports import assess_for_report

        known = {d.id: w.results.dossier(d.id) for d in project.designs}
        self.assertTrue(all(known.values()))
        tried = {i: replace(k, remedies_tried=True) for i, k in known.items() if k is not None}
        wholes = assess_for_report(project, tried, lambda _: None)
        self.assertEqual([x.monthly.design.id for x in wholes], [d.id for d in project.designs])

    def test_figures_that_may_change_look_so(self) -> None:
        w = self.window(only("timber"))
        card = w.bench.card("timber")
        self.assertFalse(w.results.provisional("timber"))
        self.assertFalse(card.honey.text().startswith("≈"))
        with mock.patch.object(w.results, "_ask_for_more"):
            w.document.edit("l", lambda p: set_layer_thickness(p, "timber", "lid", 0, 0.05))
            QApplication.processEvents()
            self.assertTrue(w.results.provisional("timber"))
            self.assertTrue(card.honey.text().startswith("≈"))
            self.assertTrue(any("Not settled" in t for t in w.shell.says_texts()))
        w.results._ask_for_more()
        self.settle(w)
        self.assertFalse(card.honey.text().startswith("≈"))

    def test_a_late_part_that_fails_blanks_nothing(self) -> None:
        boom = mock.Mock(side_effect=ValueError("boom"))
        w = self.window(only("timber"), nodes=with_work("joints", boom))
        self.assertNotIn("no answer", w.bench.card("timber").conductance.text())
        self.assertIn("joints could not be worked out", w.results.trouble("timber"))
        self.assertIsNotNone(w.results.follow_up("timber"))

    def test_a_plan_that_makes_a_hive_worse_says_so_first(self) -> None:
        w = self.window(only("composite"))
        w.go_to("seasons")
        before = w.document.project
        self.prompts.confirmed = [False]
        w.seasons.plan_actions["sealed warm top"].trigger()
        self.settle(w)
        self.assertEqual(w.document.project, before)
        self.assertRegex(
            self.prompts.told[-1], r"CO2 beside the bees rises from .* in winter.*bees suffocate"
        )
        self.prompts.confirmed = [True]
        w.seasons.plan_actions["sealed warm top"].trigger()
        self.settle(w)
        self.assertTrue(w.document.project.design("composite").seasons)

    def test_cards_have_one_meaning_for_nights(self) -> None:
        w = self.window(PROJECT)
        for design in PROJECT.designs:
            with self.subTest(design=design.id):
                text = w.bench.card(design.id).nights.text()
                self.assertRegex(text, r"^rim wet \d+ of 190 nights$")
        self.assertRegex(w.bench.card("composite").conductance.text(), r"W/K, \d+% of boards")


if __name__ == "__main__":
    import unittest

    unittest.main()
