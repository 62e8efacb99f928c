"""New projects, materials, targets, libraries, exports: the dialogs behind the menus."""

from __future__ import annotations

import unittest
from typing import Any
from unittest import mock

from openpyxl import load_workbook
from pypdf import PdfReader
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest

from calveth.app import preferences
from calveth.app.dialogs.new_project import NewProjectDialog, choose
from calveth.app.preferences import Preferences
from calveth.catalogue.shipped import demo_project
from calveth.core.assess.readings import LID_RIM
from calveth.store.material_file import read_materials
from calveth.store.project_file import load_project
from calveth.texts.units import INCH
from tests.app.base import WindowTest
from tests.app.test_window import click


class NewProject(WindowTest):
    def test_three_short_steps(self) -> None:
        dialog = NewProjectDialog()
        self.addCleanup(dialog.deleteLater)
        choose(dialog.places, "norrvatn")
        click(dialog.go)
        self.assertEqual(dialog.step, 1)
        choose(dialog.frames, "trough-20")
        click(dialog.back)
        click(dialog.go)
        click(dialog.go)
        choose(dialog.make_ups, "block-trough")
        dialog.name.setText("My trough")
        dialog.bees.show_id("strong")
        click(dialog.go)
        project = dialog.project
        assert project is not None
        self.assertEqual((project.name, project.designs[0].id), ("My trough", "block-trough"))
        self.assertEqual(project.designs[0].form.frame_count, 20)  # type: ignore[union-attr]
        self.assertIn("Norrvatn", project.place.name)
        self.assertEqual(sum(d.benchmark for d in project.designs), 2)

    def test_a_name_that_is_none(self) -> None:
        dialog = NewProjectDialog()
        self.addCleanup(dialog.deleteLater)
        dialog.name.setText("  ")
        for _ in range(3):
            click(dialog.go)
        self.assertIn("project name", dialog.problem.text())
        self.assertIsNone(dialog.project)

    def test_in_the_window(self) -> None:
        w = self.window(on_disk=True)
        fresh = demo_project()
        self.prompts.projects = [None]
        document = w.document.project
        w.run("new")
        self.assertIs(w.document.project, document)
        self.prompts.projects = [fresh]
        w.run("new")
        self.settle(w)
        self.assertIs(w.document.project, fresh)
        self.assertIsNone(w.document.path)
        w.run("open_demo")
        self.settle(w)
        self.assertEqual(w.document.project, demo_project())


class Recent(WindowTest):
    def test_saved_files_come_back_in_the_menu(self) -> None:
        w = self.window(on_disk=True)
        first, second = self.folder / "a.calveth", self.folder / "b.calveth"
        self.prompts.paths = [first, second]
        w.run("save")
        w.run("save_as")
        self.assertEqual(preferences.load().recent[0], str(second))
        menu = w.menus.recent
        w.menus.fill_recent()
        self.assertEqual([a.text() for a in menu.actions()], ["b.calveth", "a.calveth"])
        second.unlink()
        w.menus.fill_recent()
        self.assertEqual([a.text() for a in menu.actions()], ["a.calveth"])
        menu.actions()[0].trigger()
        self.settle(w)
        self.assertEqual(w.document.path, first)

    def test_likes_are_kept_and_spoilt_ones_are_forgotten(self) -> None:
        preferences.store(Preferences(inch=True, dark=False, recent=("x",)))
        self.assertEqual(preferences.load(), Preferences(inch=True, recent=("x",)))
        w = self.window()
        self.assertIs(w.view.units, INCH)
        for text in ("", "[]", '{"inch": "yes", "recent": 5}', "\x00"):
            preferences._file().write_text(text, encoding="utf-8")
            with self.subTest(text=text):
                self.assertEqual(preferences.load(), Preferences())
        with mock.patch("pathlib.Path.write_text", side_effect=OSError(28, "full")):
            preferences.store(Preferences(dark=True))
        self.assertEqual(preferences.load(), Preferences())


class Materials(WindowTest):
    def use(self, script: Any) -> None:
        self.prompts.dialogs.append(script)
        self.w.run("edit_materials")

    def setUp(self) -> None:
        super().setUp()
        self.w = self.window()

    def test_own_materials(self) -> None:
        def script(d: Any) -> None:
            d.choose("xps")
            click(d.copy_button)
            self.type_into(d.fields["conductivity_w_mk"], "0.031")
            self.type_into(d.fields["conductivity_w_mk"], "900")
            self.assertIn("conductivity", d.problem.text())
            d.name.setText("My foam")
            d.name.editingFinished.emit()
            d.choose("softwood")
            click(d.remove_button)
            self.assertIn("is used in", d.problem.text())

        self.use(script)
        own = self.w.document.project.material_table()["xps-own"]
        self.assertEqual((own.name, own.conductivity_w_mk), ("My foam", 0.031))
        self.assertEqual(own.certainty, "estimate")
        self.w.shell.show_tab("walls")
        self.assertGreaterEqual(self.w.shell.layers.combos[0].findData("xps-own"), 0)

    def test_a_wood_by_its_species(self) -> None:
        def script(d: Any) -> None:
            d.species.setText("Old pear")
            d.gravity.setText("0,6")
            click(d.wood_button)
            d.gravity.setText("9")
            click(d.wood_button)
            self.assertIn("specific gravity", d.problem.text())
            d.gravity.setText("heavy")
            click(d.wood_button)
            self.assertIn("not a number", d.problem.text())

        self.use(script)
        wood = self.w.document.project.material_table()["old-pear"]
        # λ = 0.6·(0.1941 + 0.004064·12) + 0.01864 (USDA Wood Handbook, eq. 4-7).
        self.assertAlmostEqual(wood.conductivity_w_mk, 0.1644, places=4)

    def test_out_and_in(self) -> None:
        path = self.folder / "m.json"
        self.prompts.paths = [path, path, None]

        def script(d: Any) -> None:
            click(d.export_button)
            click(d.import_button)
            click(d.import_button)
            self.assertEqual(d.problem.text(), "")

        self.use(script)
        self.assertEqual(read_materials(path), self.w.document.project.materials)

    def test_edits_by_name_reach_every_hive(self) -> None:
        before = self.w.bench.card("timber").conductance.text()

        def script(d: Any) -> None:
            d.choose("softwood")
            self.type_into(d.fields["conductivity_w_mk"], "0.2")

        self.use(script)
        self.settle(self.w)
        self.assertNotEqual(self.w.bench.card("timber").conductance.text(), before)
        self.w.run("undo")
        self.settle(self.w)
        self.assertEqual(self.w.bench.card("timber").conductance.text(), before)


class Solved(WindowTest):
    hives = ()

    def test_the_shell_in_three_dimensions(self) -> None:
        w = self.window()
        w.choose("timber")
        self.settle(w)
        seen: list[str] = []

        def script(d: Any) -> None:
            seen.append(d.text.toPlainText())

        self.prompts.dialogs = [script]
        QTest.keyClick(w, Qt.Key.Key_F3)
        self.settle(w)
        for part in (
            "coldest inside",
            "lid rim",
            "floor in the corner",
            "board on the rim",
            "ψ",
            "on a finer grid W/K +0.",
            "a factor by 0.0",
        ):
            self.assertIn(part, seen[0])
        self.assertIn("wet", seen[0])

    def test_a_tree_is_solved_too(self) -> None:
        w = self.window()
        w.choose("hollow-tree")
        self.settle(w)
        seen: list[str] = []

        def script(d: Any) -> None:
            seen.append(d.text.toPlainText())

        self.prompts.dialogs = [script]
        w.run("solve_shell")
        self.settle(w)
        self.assertIn("walls: Trunk wood", seen[0])


class Targets(WindowTest):
    def test_which_size_gives(self) -> None:
        w = self.window()
        w.choose("timber")
        self.settle(w)

        def script(d: Any) -> None:
            d.goal.choose("fresh air")
            d.target.setText("200 L/h")
            click(d.find_button)
            self.settle(w)
            self.assertIn("diameter of", d.caption.text())
            d.target.setText("plenty")
            click(d.find_button)
            self.assertIn("wanted value", d.caption.text())
            d.target.setText("1000000")
            click(d.find_button)
            self.settle(w)
            self.assertIn("No size gives", d.caption.text())
            self.assertFalse(d.take_button.isEnabled())
            d.target.setText("200")
            click(d.find_button)
            self.settle(w)
            click(d.take_button)

        self.prompts.dialogs = [script]
        w.shell.openings.target_wanted.emit("high")
        self.settle(w)
        self.assertNotEqual(w.document.project.design("timber").openings[1].width_m, 0.0127)
        monthly = w.results.monthly("timber")
        assert monthly is not None
        self.assertAlmostEqual(3.6e6 * float(monthly.months.exchange_m3_s[0]), 200, delta=8)


class Library(WindowTest):
    hives = ()

    def test_a_design_is_added(self) -> None:
        w = self.window()

        def script(d: Any) -> None:
            choose(d.make_ups, "reed")
            choose(d.frames, "seventeen")
            click(d.go)

        self.prompts.dialogs = [script, lambda d: d.reject()]
        w.run("add_design")
        self.settle(w)
        self.assertEqual(w.view.design_id, "reed")
        w.run("add_design")
        self.assertEqual(len(w.document.project.designs), 9)
        w.run("hive_below")
        self.assertEqual(w.view.design_id, "plain-boards")

    def test_working_by_key(self) -> None:
        w = self.window()
        seen: list[str] = []

        def script(d: Any) -> None:
            for figure in ("heat loss", "fresh air", "material"):
                d.figure.choose(figure)
                seen.append(d.text.toPlainText())

        self.prompts.dialogs = [script]
        QTest.keyClick(w, Qt.Key.Key_F4)
        self.assertIn("W/K", seen[0])
        self.assertIn("EN 16798-7", seen[1])
        self.assertIn("€", seen[2])


class Exports(WindowTest):
    def setUp(self) -> None:
        super().setUp()
        project = demo_project()
        from dataclasses import replace

        self.w = self.window(replace(project, designs=project.designs[1:4:2]))

    def test_report(self) -> None:
        path = self.folder / "r.pdf"
        self.prompts.paths = [path]
        QTest.keyClick(self.w, Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
        self.settle(self.w)
        self.assertIn("wrote r.pdf", self.w.statusBar().currentMessage())
        pages = [page.extract_text() for page in PdfReader(path).pages]
        text = " ".join("\n".join(pages).split())
        for part in (
            "Lake Velm orchard",
            "Dry or wet through the winter",
            "For whom",
            "How sure it is",
            "What it says in January",
            "Heavy timber box",
            "Composite sandwich",
            "Season plan:",
            "softwood board",
            "never a reason to skip an inspection",
        ):
            with self.subTest(part=part):
                self.assertIn(part, text)
        self.assertEqual(len(pages), 3)  # the answer, and a page a hive
        # Not a page is nearly empty.
        self.assertGreater(min(len(page.split()) for page in pages), 150)
        self.assertLess(path.stat().st_size, 1_500_000)

    def test_report_with_every_table(self) -> None:
        path = self.folder / "r.pdf"
        self.prompts.paths = [path]
        self.w.run("export_report_with_tables")
        self.settle(self.w)
        pages = [page.extract_text() for page in PdfReader(path).pages]
        text = " ".join("\n".join(pages).split())
        for part in (
            "January, side by side",
            "By each way of wintering",
            "Weights",
            "Cautions",
            "estimate",
            "EN ISO 13788",
            "Softwood board",
        ):
            with self.subTest(part=part):
                self.assertIn(part, text)
        monthly = self.w.results.monthly("timber")
        assert monthly is not None
        self.assertIn(f"{monthly.conductance_w_k:.2f} W/K", text)
        deep = self.w.results.follow_up("timber")
        assert deep is not None
        # Every surface by month and in the coldest night, as they were balanced.
        at_rim = [*monthly.months.margin_k[LID_RIM], deep.nights.coldest_night.margin_k[LID_RIM, 0]]
        self.assertIn("lid rim " + " ".join(f"{v:.1f}" for v in at_rim), text)
        self.assertGreaterEqual(len(pages), 4)

    def test_report_that_cannot_be_written(self) -> None:
        self.prompts.paths = [self.folder / "no" / "r.pdf"]
        self.w.run("export_report")
        self.settle(self.w)
        self.assertIn("does not exist", self.w.statusBar().currentMessage())

    def test_a_report_can_be_stopped(self) -> None:
        path = self.folder / "r.pdf"
        self.prompts.paths = [path]
        self.w.run("export_report")
        self.w.run("stop")
        self.settle(self.w)
        self.assertFalse(path.exists())
        self.assertIn("nothing was changed", self.w.statusBar().currentMessage())

    def test_tables(self) -> None:
        book, sheet = self.folder / "t.xlsx", self.folder / "t.csv"
        self.prompts.paths = [book, sheet, self.folder / "t.doc"]
        for _ in range(3):
            self.w.run("export_tables")
            self.settle(self.w)
        self.assertIn("must end in", self.w.statusBar().currentMessage())
        names = load_workbook(book).sheetnames
        self.assertEqual(names[:3], ["designs", "months", "layers"])
        for name in names:
            text = (self.folder / f"t-{name}.csv").read_text(encoding="utf-8")
            self.assertGreater(len(text.splitlines()), 1)

    def test_drawings(self) -> None:
        for name in ("d.svg", "d.png"):
            path = self.folder / name
            self.prompts.paths = [path]
            self.w.run("export_drawing")
            self.assertIn(name, self.w.statusBar().currentMessage())
        svg = (self.folder / "d.svg").read_text(encoding="utf-8")
        self.assertIn("<svg", svg)
        self.assertIn("middle of the lid", svg)
        image = QImage(str(self.folder / "d.png"))
        self.assertEqual((image.width(), image.height()), (1800, 1240))
        self.prompts.paths = [self.folder / "d.gif", self.folder / "no" / "d.svg", None]
        self.w.run("export_drawing")
        self.assertIn("must end in .svg or .png", self.w.statusBar().currentMessage())
        self.w.run("export_drawing")
        self.assertIn("folder that does not exist", self.w.statusBar().currentMessage())
        self.w.run("export_drawing")

    def test_a_second_window_keeps_its_edit(self) -> None:
        path = self.folder / "shared.calveth"
        self.prompts.paths = [path, path]
        self.w.run("save")
        other = self.window()
        self.prompts.paths = [path]
        other.run("open")
        self.settle(other)
        self.w.choose("timber")
        self.w.run("duplicate")
        other.choose("composite")
        other.run("duplicate")
        self.settle(other)
        self.assertIn("another window", other._saved.text())
        self.assertEqual(len(other.document.project.designs), 3)
        self.assertFalse(other.document.on_disk)
        self.assertEqual(
            [d.id for d in load_project(path).designs], ["timber", "timber-2", "composite"]
        )
        rescued = self.folder / "mine.calveth"
        self.prompts.paths = [rescued]
        self.assertTrue(other.run("save_as"))
        self.assertEqual(load_project(rescued), other.document.project)


if __name__ == "__main__":
    unittest.main()
