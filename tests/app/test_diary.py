"""The diary in the window, driven through a winter: set up, look, paint, heft, next version."""

from __future__ import annotations

import datetime
from dataclasses import replace
from unittest import mock

import icalendar
from pypdf import PdfReader
from PySide6.QtCore import QDate, QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget

from calveth.app.areas import diary_area
from calveth.app.areas.inspection_form import by_row, by_side
from calveth.app.commands import diary as diary_commands
from calveth.app.main_window import MainWindow
from calveth.core.diary.expected import expected_at
from calveth.core.diary.years import TYPICAL, season_case
from calveth.core.edits import next_name
from calveth.core.edits_diary import set_diary
from calveth.core.records.diary import MARKS
from tests.app.test_mended import only
from tests.app.test_year import YearTest, click
from tests.diary.cases import DIARY


class Winter(datetime.datetime):
    @classmethod
    def now(cls, tz: object = None) -> datetime.datetime:  # type: ignore[override]
        return datetime.datetime(2026, 1, 20, 13, 5)


class Day(datetime.date):
    @classmethod
    def today(cls) -> datetime.date:  # type: ignore[override]
        return datetime.date(2025, 10, 1)


class DiaryTest(YearTest):
    def setUp(self) -> None:
        super().setUp()
        for target, name, value in (
            (diary_area, "date", Day),
            (diary_area, "datetime", Winter),
            (diary_commands, "date", Day),
        ):
            patch = mock.patch.object(target, name, value)
            patch.start()
            self.addCleanup(patch.stop)

    def kept(self) -> MainWindow:
        project = only("composite", "plain-boards")
        w = self.window(set_diary(project, DIARY))
        w.go_to("diary")
        w.diary.choose_hive("hive-1")
        self.settle(w)
        return w


class AWinter(DiaryTest):
    def test_from_setting_up_to_version_two(self) -> None:
        w = self.window(only("plain-boards"), on_disk=True)
        w.go_to("diary")
        click(w.diary.list.set_up)
        self.settle(w)
        hive = w.document.project.diary.hives[0]
        self.assertEqual((hive.design, hive.since), ("plain-boards", "2025-10-01"))
        self.type_into(w.diary.list.name, "By the wall")
        self.type_into(w.diary.list.colony, "C 7")
        click(w.diary.list.look)
        self.settle(w)
        form = w.diary.form
        for cell in (0, 2, 8):
            QTest.mouseClick(
                form.lid,
                Qt.MouseButton.LeftButton,
                Qt.KeyboardModifier.NoModifier,
                form.lid.box(cell).center().toPoint(),
            )
        form.brushes["dry"].click()
        form.lid.setFocus()
        for key in (Qt.Key.Key_Left, Qt.Key.Key_I, Qt.Key.Key_Left, Qt.Key.Key_Space):
            QTest.keyClick(form.lid, key)
        self.type_into(form.stores, "11,5")
        form.choices["alive"].setCurrentText("alive")
        form.choices["alive"].activated.emit(1)
        self.type_into(form.texts["text"], "drips in the corners")
        look = w.document.project.diary.inspections[0]
        self.assertEqual((look.lid[0], look.lid[7], look.lid[6]), ("wet", "ice", "dry"))
        self.assertEqual((look.stores_kg, look.alive), (11.5, True))
        self.assertIn("places as expected", w.diary.answer.text())
        self.assertIn("1 lids", w.diary.tally.text())
        self.assertTrue(any("look under the lid" in t.accessibleName() for t in w.diary.ticks))
        click(w.diary.version)
        self.settle(w)
        new = w.document.project.designs[-1]
        self.assertEqual(new.name, "Plain 19 mm boards 2")
        self.assertIn("4 of 9 places wet under the lid on 2026-01-20 in By the wall", new.note)
        self.assertEqual(w.view.design_id, new.id)
        w.document.undo_stack.undo()
        self.assertEqual(len(w.document.project.designs), 1)

    def test_the_built_design_says_that_it_is_copied(self) -> None:
        w = self.kept()
        w.go_to("shell")
        w.choose("plain-boards")
        w.shell.cutaway.thickness_dragged.emit("walls", 0, 0.03)
        self.assertIn("duplicate it", w.statusBar().currentMessage())

    def test_expected_beside_seen_and_what_is_due(self) -> None:
        w = self.kept()
        self.assertEqual(w.diary.form.lid.marks, DIARY.inspections[1].lid)
        wet = {m in ("wet", "ice") for m in w.diary.expected_lid.marks}
        year = w.years.get(("plain-boards", TYPICAL, None, 1.0))
        assert year is not None
        run = year.run
        self.assertEqual(
            wet, {expected_at(run, DIARY.inspections[1].when).lid[0] in ("wet", "ice")}
        )
        self.assertNotIn("not looked", w.diary.expected_lid.marks)
        self.assertIn("Stores: 13.0 kg", w.diary.answer.text())
        first = w.diary.ticks[0]
        self.assertFalse(first.isChecked())
        first.click()
        self.assertEqual(len(w.document.project.diary.done), 1)
        self.assertTrue(w.diary.ticks[0].isChecked())
        w.document.undo_stack.undo()
        self.assertEqual(w.document.project.diary.done, ())

    def test_a_short_form_for_the_gate_leaves_the_hive_closed(self) -> None:
        w = self.kept()
        form = w.diary.form
        self.assertTrue(form.lid.isVisible())
        form.short.setChecked(True)
        opened: list[QWidget] = [form.lid, form.walls, form.seams, form.choices["brood"]]
        closed: list[QWidget] = [form.stores, form.choices["entrance"], form.texts["text"]]
        self.assertFalse(any(part.isVisible() for part in opened))
        self.assertTrue(all(part.isVisible() for part in closed))
        form.short.setChecked(False)
        self.assertTrue(form.lid.isVisible())

    def test_a_hive_faces_its_own_way(self) -> None:
        """Turned about, its front is the weather side: another year is held against it."""
        w = self.kept()
        before = w.years.get(("plain-boards", TYPICAL, None, 1.0))
        facing = w.diary.list.facing
        self.assertIn("as the place", facing.currentText())
        facing.choose("315")
        facing.activated.emit(facing.currentIndex())
        self.settle(w)
        self.assertEqual(w.document.project.diary.hive("hive-1").facing_deg, 315.0)
        after = w.years.get(("plain-boards", TYPICAL, 315.0, 1.0))
        assert before is not None and after is not None
        self.assertNotEqual(
            float(before.run.series[:, 1].sum()), float(after.run.series[:, 1].sum())
        )
        self.assertEqual(after.run.case.place.facing_deg, 315.0)

    def test_a_hive_bees_cannot_live_in_says_so_once_and_the_rest_goes_on(self) -> None:
        project = only("composite", "plain-boards")
        shut = replace(project.design("plain-boards"), openings=(), joints="filled")
        designs = tuple(shut if d.id == shut.id else d for d in project.designs)
        with mock.patch("calveth.app.season_years.season_case", wraps=season_case) as asked:
            w = self.window(set_diary(replace(project, designs=designs), DIARY))
            w.go_to("diary")
            w.diary.choose_hive("hive-1")
            self.settle(w)
        self.assertIn("suffocate", w.diary.answer.text())
        self.assertEqual(len([c for c in asked.call_args_list if c.args[1] == shut.id]), 1)
        w.diary.show_page("logs")
        self.settle(w)
        self.prompts.paths = [self.folder / "due.ics"]
        click(w.diary.calendar)
        self.assertTrue((self.folder / "due.ics").exists())

    def test_propolis_is_painted_by_its_key(self) -> None:
        w = self.kept()
        w.diary.form.lid.setFocus()
        QTest.keyClick(w.diary.form.lid, Qt.Key.Key_P)
        self.assertIn("propolis", w.document.project.diary.inspections[1].lid)

    def test_the_calendar_is_written(self) -> None:
        w = self.kept()
        self.prompts.paths = [self.folder / "due.ics"]
        click(w.diary.calendar)
        text = (self.folder / "due.ics").read_bytes()
        self.assertGreater(len(icalendar.Calendar.from_ical(text).walk("VEVENT")), 4)

    def test_the_sheet_has_a_map_for_every_hive_that_stands(self) -> None:
        w = self.kept()
        self.prompts.paths = [self.folder / "looks.pdf"]
        w.run("print_sheet")
        text = "".join(page.extract_text() for page in PdfReader(self.folder / "looks.pdf").pages)
        text = text.replace("\t", " ")
        for name in ("Lake 1", "Lake 2", "heft", "above", "expected on"):
            self.assertIn(name, text)
        self.prompts.paths = []
        empty = self.window(only("composite"))
        empty.run("print_sheet")
        self.assertIn("No hive stands", empty.statusBar().currentMessage())

    def test_refusals_bring_the_old_value_back(self) -> None:
        w = self.kept()
        click(w.diary.list.leave)
        self.assertIn("has inspections", w.statusBar().currentMessage())
        since = w.diary.list.since
        self.type_into(since, "1 March 2026")
        self.assertIn("not while it stands", w.statusBar().currentMessage())
        # What was refused stays to be corrected, with the reason beside it and above the area.
        self.assertEqual((since.text(), since.value), ("1 March 2026", "2025-05-01"))
        self.assertTrue(since.property("wrong"))
        self.assertIn("not while it stands", since.toolTip())
        self.app.processEvents()
        self.assertTrue(w.refusal.isVisible())
        self.assertIn("not while it stands", w.refusal.text.text())
        self.type_into(since, "3/4/2025")
        self.assertIn("3 April or 4 March", since.toolTip())
        self.type_into(since, "30.4.2025")
        self.assertEqual(w.document.project.diary.hive("hive-1").since, "2025-04-30")
        self.assertFalse(since.property("wrong"))
        self.assertFalse(w.refusal.isVisible())
        w.diary.list.fate.show_id("lost")
        w.diary.list.fate.activated.emit(1)
        self.assertEqual(w.document.project.diary.hive("hive-1").fate, "lost")
        self.type_into(w.diary.form.stores, "many")
        self.assertIn("stores", w.diary.form.stores.toolTip())
        self.type_into(w.diary.form.stores, " ")
        self.assertIsNone(w.document.project.diary.inspections[1].stores_kg)
        click(w.diary.list.strike)
        self.assertEqual(len(w.document.project.diary.inspections), 1)

    def test_an_hour_before_the_hive_stood_keeps_what_was_typed(self) -> None:
        w = self.kept()
        at = w.diary.form.at
        self.type_into(at, "2024-12-01 11:00")
        self.assertIn("not while it stands", at.toolTip())
        self.app.processEvents()
        self.assertEqual(at.text(), "2024-12-01 11:00")
        self.assertIn("not while it stands", w.refusal.text.text())
        self.assertEqual(w.document.project.diary.inspections[1].at, "2026-01-04T13:00")
        self.type_into(at, "15 Jan 2026 2:30 pm")
        self.assertEqual(w.document.project.diary.inspections[1].at, "2026-01-15T14:30")
        at.pick(QDate(2026, 1, 18))
        self.assertEqual(w.document.project.diary.inspections[1].at, "2026-01-18T14:30")

    def test_walls_are_told_side_by_side(self) -> None:
        marks = tuple(MARKS[k % len(MARKS)] for k in range(12))
        self.assertEqual(by_row(by_side(marks)), marks)
        self.assertEqual(by_side(marks)[:4], (marks[0], marks[3], marks[6], marks[9]))
        w = self.kept()
        grid = w.diary.form.walls
        self.assertIsNone(grid.cell_at(QPoint(1, 1).toPointF()))
        QTest.mouseClick(
            grid,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
            grid.box(4).center().toPoint(),
        )
        self.assertEqual(w.document.project.diary.inspections[1].walls[1], "wet")

    def test_an_empty_diary_asks_for_a_hive(self) -> None:
        w = self.window(only("composite"))
        w.go_to("diary")
        self.settle(w)
        self.assertIn("Set up a hive", w.diary.answer.text())
        self.assertFalse(w.diary.form.isEnabled())
        w.run("export_due")
        self.assertIn("Nothing is due", w.statusBar().currentMessage())
        self.assertEqual(next_name("Box 2", {"Box", "Box 2"}), "Box 3")
        self.assertEqual(next_name("Box", {"Box"}), "Box 2")
        self.assertEqual(replace(DIARY, done=("a",)).with_done("a", False).done, ())
