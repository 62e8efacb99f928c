"""The area Build in the real window: change a wall, see the list, click a piece, print the plan."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QEvent, QItemSelectionModel, QPoint, QPointF, QRectF, Qt
from PySide6.QtGui import QHelpEvent, QPolygonF
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QLabel, QTableWidget, QTableWidgetItem

from calveth.app.areas.build_area import FORMS, LISTS, PICTURES
from calveth.app.commands.file import begin
from calveth.app.cutaway.sections import placed_of, view_of
from calveth.app.cutaway.weight import weighed
from calveth.app.dialogs.stock_dialog import StockDialog
from calveth.app.main_window import MainWindow
from calveth.app.workshop.drawing_view import DrawingView
from calveth.catalogue.examples import workshop_project
from calveth.catalogue.library import workshop_of
from calveth.core.edits import set_layer_thickness, set_workshop
from calveth.core.hive.design import Shell
from calveth.core.project import Project
from calveth.core.solids.openings_cut import along_m
from calveth.core.workshop.stock import StockItem
from calveth.drawing.shapes import Polygon
from tests.app.base import WindowTest
from tests.app.test_window import click
from tests.cases import LONG


def middle_of(view: DrawingView, row: int) -> QPointF:
    """Return a pixel on a piece of a row that nothing covers."""
    for placed in view.placed:
        for index, number in placed.drawing.rows:
            mark = placed.drawing.marks[index]
            if number != row or not isinstance(mark, Polygon):
                continue
            polygon = QPolygonF([placed.mapping.placed(*p) for p in mark.points])
            at = polygon.boundingRect().center()
            if view.row_at(at) == row:
                return at
    raise AssertionError(f"row {row} is not in sight")


def cell(table: QTableWidget, row: int, column: int) -> QTableWidgetItem:
    """Return a cell of a table."""
    item = table.item(row, column)
    assert item is not None
    return item


class MainPath(WindowTest):
    def test_change_a_wall_see_the_list_click_a_piece_print_the_plan(self) -> None:
        w = self.window(on_disk=True)
        click(w.bench.card("timber"))
        click(w.area_buttons["build"])
        self.settle(w)
        self.assertTrue(w.build.isVisible())
        self.assertFalse(w.ribbon.isVisible())
        table = w.build.table
        sizes = [cell(table, r, 2).text() for r in range(table.rowCount())]
        self.assertIn("438 x 244 x 32", sizes)

        w.document.edit("wall", lambda p: set_layer_thickness(p, "timber", "walls", 0, 0.025))
        self.settle(w)
        sizes = [cell(table, r, 2).text() for r in range(table.rowCount())]
        self.assertIn("424 x 244 x 25", sizes)
        self.assertNotIn("438 x 244 x 32", sizes)

        plan = w.build.plans.plan
        assert plan is not None
        lid = next(r for r in plan.rows if r.piece.part.role == "lid")
        click(w.build.drawings, middle_of(w.build.drawings, lid.number))
        self.settle(w)
        self.assertEqual(table.currentRow(), lid.number - 1)
        self.assertIn("glued from", w.build.work.text())
        # The other way round: a row that is chosen is marked in the hive.
        side = next(r for r in plan.rows if r.piece.side == "right" or "right" in r.sides)
        table.setCurrentCell(side.number - 1, 0)
        drawing = w.build.drawings.placed[0].drawing
        marked = [m for m in drawing.marks if isinstance(m, Polygon) and m.style.fill == "accent"]
        self.assertTrue(marked)

        target = self.folder / "plan.pdf"
        self.prompts.paths = [target]
        w.build.write_actions[".pdf"].trigger()
        self.settle(w)
        self.assertTrue(target.read_bytes().startswith(b"%PDF"))
        self.assertIn("wrote plan.pdf", w.statusBar().currentMessage())

        w.run("undo")
        self.settle(w)
        sizes = [cell(table, r, 2).text() for r in range(table.rowCount())]
        self.assertIn("438 x 244 x 32", sizes)


class Area(WindowTest):
    hives = ()

    def setUp(self) -> None:
        super().setUp()
        self.w = self.window(on_disk=True)

    def show_workshop(self) -> MainWindow:
        begin(self.w.context, workshop_project())
        self.w.go_to("build")
        self.settle(self.w)
        return self.w

    def test_every_hive_every_picture_every_list(self) -> None:
        w = self.show_workshop()
        for design in w.document.project.designs[:: 1 if LONG else 2]:
            w.choose(design.id)
            self.settle(w)
            self.assertTrue(w.build.plans.fresh)
            for picture in PICTURES:
                w.build.show_picture(picture)
                self.assertFalse(w.grab().isNull())
                self.assertTrue(w.build.drawings.placed or picture == "layouts")
            for page in LISTS:
                w.build.show_list(page)
                self.assertFalse(w.grab().isNull())
            with self.subTest(design=design.id):
                self.assertGreater(w.build.table.rowCount(), 3)
                self.assertIn("kg", w.build.weights.text())
                self.assertIn("1.", w.build.steps.text())
                self.assertEqual(w.build.problem.text(), "")

    def test_what_changes_from_another_hive(self) -> None:
        w = self.w
        w.choose("timber")
        w.go_to("build")
        self.settle(w)
        self.assertEqual(w.build.changes.text(), "")  # not looked at, not worked out
        w.build.show_list("change")
        w.build.before.choose("composite")
        self.assertIn(
            "To make “Heavy timber box” from “Composite sandwich”", w.build.changes.text()
        )
        before = w.build.changes.text()
        self.assertIn("make ", before)
        w.document.edit("wall", lambda p: set_layer_thickness(p, "timber", "walls", 0, 0.045))
        self.settle(w)
        self.assertNotEqual(w.build.changes.text(), before)
        self.assertIn("x 45 (", w.build.changes.text())

    def test_a_trunk_says_how_to_hollow_it(self) -> None:
        w = self.w
        w.choose("hollow-tree")
        w.go_to("build")
        self.settle(w)
        self.assertEqual(w.build.table.rowCount(), 0)
        self.assertIn("hollow out 200 mm across", w.build.steps.text())

    def test_units_and_tips(self) -> None:
        w = self.w
        w.choose("timber")
        w.go_to("build")
        w.run("switch_units")
        self.settle(w)
        sizes = [cell(w.build.table, r, 2).text() for r in range(w.build.table.rowCount())]
        self.assertTrue(any("/32" in s or "/16" in s for s in sizes), sizes)
        self.assertIn("1/32", w.build.summary.text())
        at = middle_of(w.build.drawings, 5).toPoint()
        event = QHelpEvent(QEvent.Type.ToolTip, at, w.build.drawings.mapToGlobal(at))
        QApplication.sendEvent(w.build.drawings, event)
        self.assertTrue(event.isAccepted())

    def test_how_it_is_built_changes_the_list(self) -> None:
        w = self.w
        w.choose("timber")
        w.go_to("build")
        w.build.show_list("how")
        how = w.build.how
        how.choices["corner_cut"].choose("finger")
        self.settle(w)
        plan = w.build.plans.plan
        assert plan is not None
        self.assertTrue(any(m.id == "fingers" for r in plan.rows for m in r.piece.work))
        how.choices["stand"].choose("legs")
        self.type_into(how.spread, "120")
        self.type_into(how.feed, "60")
        how.switches["drip_edge"].click()
        self.settle(w)
        design = w.document.project.design("timber")
        self.assertEqual((design.joinery.leg_spread_m, design.details.drip_edge), (0.12, True))
        roles = {r.piece.part.role for r in w.build.plans.plan.rows}  # type: ignore[union-attr]
        self.assertLessEqual({"legs", "eke"}, roles)
        self.type_into(how.spread, "900")
        self.assertIn("spread of the stand", how.problem.text())
        self.assertEqual(w.document.project.design("timber").joinery.leg_spread_m, 0.12)

    def test_a_stand_under_foam_is_of_timber(self) -> None:
        w = self.w
        w.choose("polystyrene")
        w.go_to("build")
        w.build.how.choices["stand"].choose("legs")
        self.settle(w)
        self.assertEqual(w.document.project.design("polystyrene").joinery.timber, "softwood")
        self.assertEqual(w.build.problem.text(), "")

    def test_every_form_of_file(self) -> None:
        w = self.w
        w.choose("plain-boards")
        w.go_to("build")
        self.settle(w)
        for ending, _ in FORMS:
            self.prompts.paths = [self.folder / f"out{ending}"]
            w.build.write_actions[ending].trigger()
            self.settle(w)
            with self.subTest(ending=ending):
                self.assertIn("wrote out", w.statusBar().currentMessage())
        self.prompts.paths = [self.folder / "none" / "a.pdf"]
        w.run("export_build")
        self.assertIn("a.pdf", w.statusBar().currentMessage())
        self.prompts.paths = [None]
        w.run("export_build")

    def test_what_cannot_be_planned_is_said_and_the_rest_stands(self) -> None:
        w = self.w
        w.choose("timber")
        w.go_to("build")
        # Four of the thickest boards make 200 mm.
        w.document.edit("wall", lambda p: set_layer_thickness(p, "timber", "walls", 0, 0.25))
        self.settle(w)
        said = "250 mm thick Softwood board is not in the stock list"
        self.assertIn(said, w.build.problem.text())
        self.assertTrue(w.build.problem.isVisible())
        self.assertGreater(w.build.table.rowCount(), 3)

    def test_closed_while_it_works(self) -> None:
        w = self.w
        w.go_to("build")
        w.document.edit("wall", lambda p: set_layer_thickness(p, "timber", "walls", 0, 0.038))
        w.close()
        self.assertFalse(w.build.plans._rest.isActive())


def _of_larch(project: Project) -> Project:
    """Return a project of one hive, whose wood has another id."""
    wood = project.material_table()["softwood"]
    larch = replace(wood, id="my-larch", name="Larch of my own")
    design = project.design("timber")
    shell = Shell(
        **{
            face: tuple(replace(y, material="my-larch") for y in design.shell.stack(face))
            for face in ("walls", "lid", "floor")
        }
    )
    others = tuple(m for m in project.materials if m.id != "softwood")
    return replace(project, designs=(replace(design, shell=shell),), materials=(*others, larch))


class OwnStock(WindowTest):
    def test_what_is_at_hand_is_offered_as_a_change_and_a_click_makes_it(self) -> None:
        w = self.window()
        w.choose("timber")
        own = StockItem(
            name="mine",
            kind="board",
            fits="softwood",
            length_m=2.4,
            width_m=0.15,
            thickness_m=0.025,
            have=9,
        )
        shop = workshop_of(w.document.project)
        shop = replace(shop, items=(own, *shop.items))
        w.document.edit("stock", lambda p: set_workshop(p, shop))
        w.go_to("build")
        self.settle(w)
        texts = [x.text() for x in w.build.findChildren(QLabel) if x.text().startswith("Your 25")]
        self.assertTrue(any("walls 25 mm instead of 32 mm" in t for t in texts), texts)
        self.assertIn("have", w.build.get.text())
        click(w.build.offer_buttons[0])
        self.settle(w)
        walls = w.document.project.design("timber").shell.walls
        self.assertEqual(walls[0].thickness_m, 0.025)
        w.run("undo")
        self.settle(w)
        self.assertEqual(w.document.project.design("timber").shell.walls[0].thickness_m, 0.032)

    def test_a_plan_that_is_no_longer_of_the_project_is_not_drawn(self) -> None:
        w = self.window()
        w.choose("timber")
        w.go_to("build")
        self.settle(w)
        before = w.build.table.rowCount()
        w.build.plans._ask()  # its answer is on the way while softwood is taken out of the project
        w.document.edit("of larch", _of_larch)
        QApplication.processEvents()
        self.assertEqual(w.build.table.rowCount(), before)
        self.settle(w)
        self.assertEqual(cell(w.build.table, 0, 4).text(), "Larch of my own")
        self.assertTrue(w.build.plans.fresh)


class Stock(WindowTest):
    def open(self, act: object) -> None:
        self.w = self.window(on_disk=True)
        self.prompts.dialogs = [act]  # type: ignore[list-item]
        self.w.run("edit_stock")
        self.settle(self.w)

    def test_sizes_are_edited(self) -> None:
        def act(dialog: QDialog) -> None:
            assert isinstance(dialog, StockDialog)
            dialog.table.setCurrentCell(0, 0)
            dialog.add()
            cell(dialog.table, 1, 0).setText("own board")
            cell(dialog.table, 1, 3).setText("2500 mm")
            cell(dialog.table, 1, 6).setText("7,50")
            item = workshop_of(self.w.document.project).items[1]
            self.assertEqual((item.name, item.length_m, item.price), ("own board", 2.5, 7.5))
            cell(dialog.table, 1, 7).setText("4")
            cell(dialog.table, 1, 8).setText("no")
            item = workshop_of(self.w.document.project).items[1]
            self.assertEqual((item.have, item.more), (4, False))
            for column, bad, words in (
                (7, "2.5", "whole number"),
                (7, "many", "not a number"),
                (8, "perhaps", "yes nor no"),
                (3, "99 m", "length"),
                (3, "long", "not a number"),
                (1, "plank", "kind"),
                (6, "-3", "price"),
                (0, "", "empty"),
                (4, "0", "width"),
            ):
                cell(dialog.table, 1, column).setText(bad)
                with self.subTest(bad=bad):
                    self.assertIn(words, dialog.problem.text())
                    self.assertNotEqual(cell(dialog.table, 1, column).text(), bad)
            self.type_into(dialog.fields["kerf_m"], "2")
            self.assertEqual(self.w.document.project.workshop.kerf_m, 0.002)
            self.type_into(dialog.fields["kerf_m"], "11")
            self.assertIn("kerf of the saw", dialog.problem.text())
            dialog.currency.choose("kr")
            self.assertEqual(self.w.document.project.workshop.currency, "kr")
            dialog.table.setCurrentCell(1, 0)
            dialog.remove()
            names = [i.name for i in workshop_of(self.w.document.project).items]
            self.assertNotIn("own board", names)

        self.open(act)

    def test_lists_and_export(self) -> None:
        def act(dialog: QDialog) -> None:
            assert isinstance(dialog, StockDialog)
            dialog.take_list(1)
            self.assertEqual(self.w.document.project.workshop.currency, "$")
            self.prompts.paths = [self.folder / "stock.csv"]
            dialog.export_file()
            self.assertIn("length_m", (self.folder / "stock.csv").read_text(encoding="utf-8"))
            self.prompts.paths = [None]
            dialog.export_file()
            # Everything selected but the own row: that one is left. Read again it is all back.
            whole = workshop_of(self.w.document.project).items
            dialog.table.selectAll()
            dialog.table.selectionModel().select(
                dialog.table.model().index(3, 0),
                QItemSelectionModel.SelectionFlag.Deselect | QItemSelectionModel.SelectionFlag.Rows,
            )
            dialog.remove()
            self.assertEqual(workshop_of(self.w.document.project).items, (whole[3],))
            dialog.table.selectAll()
            dialog.remove()
            self.assertIn("one has to stay", dialog.problem.text())
            self.prompts.paths = [self.folder / "stock.csv"]
            dialog.import_file()
            self.assertEqual(workshop_of(self.w.document.project).items, whole)
            self.prompts.paths = [self.folder / "none.csv", None]
            dialog.import_file()
            self.assertIn("none.csv", dialog.problem.text())
            dialog.import_file()

        self.open(act)


class Sections(WindowTest):
    """Front section and plan in Shell: clicked and dragged."""

    def setUp(self) -> None:
        super().setUp()
        self.w = self.window()
        self.w.choose("composite")
        self.w.view.set_lens("make-up")
        self.settle(self.w)

    def area(self) -> QRectF:
        return QRectF(self.w.shell.cutaway.rect())

    def opening_at(self, opening_id: str) -> QPointF:
        scene = self.w.shell.cutaway.scene
        assert scene is not None
        view, placed = view_of(scene), placed_of(scene, self.area())
        index = next(i for i, key in view.openings if key == opening_id)
        mark = view.drawing.marks[index]
        assert isinstance(mark, Polygon)
        polygon = QPolygonF([placed.mapping.placed(*p) for p in mark.points])
        return polygon.boundingRect().center()

    def test_faces_are_clicked_in_every_cut(self) -> None:
        cutaway = self.w.shell.cutaway
        for cut, faces in (("front", ("lid", "walls", "floor")), ("plan", ("walls",))):
            self.w.shell.cut.choose(cut)
            self.settle(self.w)
            scene = cutaway.scene
            assert scene is not None
            self.assertEqual(scene.way, cut)
            view, placed = view_of(scene), placed_of(scene, self.area())
            for face in faces:
                part = [p for p in view.parts if p.face == face][-1]
                mark = view.drawing.marks[part.mark]
                assert isinstance(mark, Polygon)
                polygon = QPolygonF([placed.mapping.placed(*q) for q in mark.points])
                click(cutaway, polygon.boundingRect().center())
                with self.subTest(cut=cut, face=face):
                    self.assertEqual(self.w.view.face, face)
            self.assertFalse(self.w.grab().isNull())

    def test_a_wall_is_drawn_thicker_in_the_plan(self) -> None:
        self.w.shell.cut.choose("plan")
        self.settle(self.w)
        cutaway = self.w.shell.cutaway
        scene = cutaway.scene
        assert scene is not None
        view, placed = view_of(scene), placed_of(scene, self.area())
        x0, _, z0, z1 = view.body
        edge = placed.mapping.placed(x0, (z0 + z1) / 2).toPoint()
        QTest.mousePress(cutaway, Qt.MouseButton.LeftButton, pos=edge)
        target = edge - QPoint(int(0.012 * placed.mapping.scale), 0)
        QTest.mouseMove(cutaway, target)
        self.settle(self.w)
        QTest.mouseRelease(cutaway, Qt.MouseButton.LeftButton, pos=target)
        foam = self.w.document.project.design("composite").shell.walls[1]
        self.assertGreater(foam.thickness_m, 0.05)

    def test_an_entrance_is_moved_along_its_wall(self) -> None:
        self.w.shell.cut.choose("front")
        self.settle(self.w)
        cutaway = self.w.shell.cutaway
        design = self.w.document.project.design("composite")
        before = along_m(design.form, design.openings[0])
        start = self.opening_at("low").toPoint()
        QTest.mousePress(cutaway, Qt.MouseButton.LeftButton, pos=start)
        self.assertTrue(self.w.shell.face_buttons["openings"].isChecked())
        QTest.mouseMove(cutaway, start + QPoint(30, 0))
        QTest.mouseRelease(cutaway, Qt.MouseButton.LeftButton, pos=start + QPoint(30, 0))
        self.settle(self.w)
        moved = self.w.document.project.design("composite").openings[0]
        assert moved.along_m is not None
        self.assertGreater(moved.along_m, before + 0.01)
        self.assertAlmostEqual(moved.bottom_m, design.openings[0].bottom_m, delta=0.004)
        field = self.w.shell.openings.field("low", "along")
        self.type_into(field, "5 m")
        self.assertIn("place along the wall", self.w.shell.openings.problem.text())

    def test_each_lens_offers_its_own_cuts(self) -> None:
        cut = self.w.shell.cut

        def offered() -> list[str]:
            return [cut.itemData(k) for k in range(cut.count())]

        self.assertEqual(offered(), ["upright", "front", "plan"])
        self.w.view.set_lens("warmth")
        self.settle(self.w)
        self.assertEqual(offered(), ["upright", "level", "outside"])
        self.w.view.set_lens("wet")
        self.settle(self.w)
        self.assertFalse(cut.isVisible())


class Weight(WindowTest):
    hives = ()

    def test_the_lens_says_what_is_heavy_and_where_it_balances(self) -> None:
        w = self.window()
        w.choose("timber")
        w.view.set_lens("weight")
        self.settle(w)
        scene = w.shell.cutaway.scene
        assert scene is not None
        lifts, stands = weighed(scene)
        self.assertEqual([v.lift.part.label for v in lifts], ["floor", "box 1", "box 2", "lid"])
        assert stands is not None
        self.assertGreater(stands.height_m, 0.1)
        self.assertFalse(w.grab().isNull())
        w.go_to("compare")
        self.settle(w)
        self.assertFalse(w.grab().isNull())
        w.choose("hollow-tree")
        w.go_to("shell")
        self.settle(w)
        self.assertFalse(w.grab().isNull())
