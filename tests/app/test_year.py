"""The year in the window: Hours and Answers of Seasons, The year of Compare."""

from __future__ import annotations

import time
from unittest import mock

from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QDialog, QLabel

from calveth.app import season_years
from calveth.app.areas import questions_page, travel_panel, year_panel
from calveth.app.dialogs.propose_dialog import ProposeDialog
from calveth.app.document import Document
from calveth.app.engine import nodes as nodes_module
from calveth.app.main_window import MainWindow
from calveth.catalogue import candidates as candidates_module
from calveth.catalogue.library import shipped_make_ups, shipped_places
from calveth.core.edits import set_layer_thickness
from tests.app.base import WindowTest
from tests.app.test_mended import only


def click(button: QAbstractButton) -> None:
    """Press a button with the mouse."""
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)


def texts(widget: object) -> str:
    """Return all that is written on a widget."""
    return "\n".join(w.text() for w in widget.findChildren(QLabel))  # type: ignore[attr-defined]


class YearTest(WindowTest):
    def setUp(self) -> None:
        super().setUp()
        for module, name, value in (
            (nodes_module, "YEAR_DRAWS", 2),
            (questions_page, "DRAWS", 0),
            (year_panel, "STAGES", (0, 2)),
            (season_years, "DRAWS", 2),
        ):
            patch = mock.patch.object(module, name, value)
            patch.start()
            self.addCleanup(patch.stop)

    def seasons(self, page: str) -> MainWindow:
        w = self.window(only("composite", "plain-boards"))
        w.choose("plain-boards")
        w.go_to("seasons")
        w.seasons.show_page(page)
        self.settle(w)
        return w


class Hours(YearTest):
    def test_the_year_is_worked_out_only_in_sight(self) -> None:
        w = self.window(only("composite"))
        w.go_to("seasons")
        self.settle(w)
        self.assertIsNone(w.results.year("composite"))
        w.seasons.show_page("year")
        self.settle(w)
        run = w.results.year("composite")
        assert run is not None
        self.assertEqual(run.series.shape[0], 8760)
        w.document.edit("lid", lambda p: set_layer_thickness(p, "composite", "lid", 1, 0.09))
        w.go_to("shell")
        self.settle(w)
        self.assertIsNone(w.results.year("composite"))

    def test_one_hand_goes_through_hours_days_and_months(self) -> None:
        w = self.seasons("year")
        picture = w.seasons.year.picture
        w.view.set_month(3)
        self.assertEqual(picture.hour, (90 + 14) * 24 + 12)
        picture.setFocus()
        for key, step in ((Qt.Key.Key_Right, 24), (Qt.Key.Key_Up, 1), (Qt.Key.Key_PageDown, 720)):
            before = w.view.hour
            QTest.keyClick(picture, key)
            self.assertEqual(w.view.hour, before + step)
        self.assertEqual((w.view.month, w.ribbon.month), (4, 4))
        QTest.keyClick(picture, Qt.Key.Key_Home)
        self.assertEqual(w.view.hour, 0)
        QTest.keyClick(picture, Qt.Key.Key_Left)
        self.assertEqual(w.view.hour, 8760 - 24)
        at = picture.hour_at(QPointF(picture.width() / 2, 70.0))
        QTest.mouseClick(
            picture, Qt.MouseButton.LeftButton, pos=QPointF(picture.width() / 2, 70.0).toPoint()
        )
        self.assertEqual(w.view.hour, at)
        self.assertIn(f"{at % 24}:00", w.seasons.year.answer.text())

    def test_jumps_go_to_what_they_are_called(self) -> None:
        w = self.seasons("year")
        run = w.results.year("plain-boards")
        assert run is not None
        click(w.seasons.year.jumps["coldest"])
        self.assertEqual(w.view.hour, int(run.weather.temperature_degc.argmin()))
        click(w.seasons.year.jumps["hottest"])
        self.assertEqual(w.view.hour, int(run.column("nest_degc").argmax()))
        self.assertIn("spread", w.seasons.year.answer.text())
        click(w.seasons.year.jumps["wettest"])
        films = run.column("lid_middle_kg") + run.column("lid_rim_kg")
        self.assertEqual(w.view.hour, int(films.argmax()))

    def test_playing_goes_day_by_day_and_stops_out_of_sight(self) -> None:
        w = self.seasons("year")
        before = w.view.hour
        w.seasons.year.play.click()
        QTest.qWait(200)
        self.assertEqual(w.seasons.year.play.text(), "Stop")
        self.assertGreater((w.view.hour - before) % 8760, 0)
        self.assertEqual((w.view.hour - before) % 24, 0)
        w.seasons.show_page("plan")
        self.assertFalse(w.seasons.year.play.isChecked())

    def test_the_hive_is_cut_open_at_the_hour_under_every_lens(self) -> None:
        w = self.seasons("year")
        panel = w.seasons.hour
        click(w.seasons.year.jumps["wettest"])
        self.settle(w)
        self.assertIn("of ", texts(panel))
        shown = panel.picture.grab().toImage()
        for lens, button in panel.lens_buttons.items():
            with self.subTest(lens=lens):
                click(button)
                self.settle(w)
                self.assertEqual(w.view.lens, lens)
        w.view.set_lens("wet")
        click(w.seasons.year.jumps["hottest"])
        self.settle(w)
        self.assertIn("25 August, 16:00", texts(panel))
        self.assertNotEqual(panel.picture.grab().toImage(), shown)
        w.seasons.show_page("plan")
        self.assertFalse(panel.isVisible())

    def test_another_look_and_other_units_are_painted(self) -> None:
        w = self.seasons("year")
        light = w.seasons.year.picture.grab().toImage()
        w.run("switch_look")
        w.run("switch_units")
        self.settle(w)
        dark = w.seasons.year.picture.grab().toImage()
        self.assertNotEqual(light.pixelColor(3, 3), dark.pixelColor(3, 3))
        self.assertIn("°F", w.seasons.year.answer.text())
        w.run("switch_look")
        w.run("switch_units")


class Answers(YearTest):
    def test_five_questions_are_answered_and_two_are_tried(self) -> None:
        w = self.seasons("questions")
        page = w.seasons.questions
        said = texts(page)
        for words in ("gets wet above the cluster", "Leave ", "hottest day", "Not tried yet"):
            self.assertIn(words, said)
        click(page.button)
        self.settle(w)
        said = texts(page)
        self.assertIn("Walls, layer 1 from outside", said)
        self.assertIn("10 % open", said)
        self.assertNotIn("Not tried yet", said)
        # Another hive was not tried; this one still is.
        w.choose("composite")
        self.settle(w)
        self.assertIn("Not tried yet", texts(page))
        w.choose("plain-boards")
        self.settle(w)
        self.assertIn("10 % open", texts(page))

    def test_an_edit_takes_the_answers_away(self) -> None:
        w = self.seasons("questions")
        w.document.edit("wall", lambda p: set_layer_thickness(p, "plain-boards", "walls", 0, 0.03))
        self.assertIn("Working out the year", w.seasons.questions.state.text())
        self.settle(w)
        self.assertIn("Leave ", texts(w.seasons.questions))


class CompareYear(YearTest):
    def test_hives_are_ordered_by_any_figure_with_pairs(self) -> None:
        w = self.window(only("composite", "plain-boards"))
        w.go_to("compare")
        w.compare.show_view("year")
        self.settle(w)
        panel = w.compare.year
        self.assertEqual(panel.plot.order, ["composite", "plain-boards"])
        self.assertEqual(panel.rows[0].values.shape[0], 2)
        panel.show_figure("most_co2")
        rows = {r.case.design.id: r.likely.most_co2 for r in panel.rows}
        self.assertEqual(panel.plot.order, sorted(rows, key=lambda k: rows[k]))
        self.assertIn("Composite sandwich", panel.plot.accessibleDescription())
        self.assertFalse(panel.plot.grab().isNull())
        self.assertFalse(w.compare.summary.isVisible())
        # A change has them worked out anew.
        w.document.edit("wall", lambda p: set_layer_thickness(p, "composite", "walls", 1, 0.1))
        self.settle(w)
        self.assertEqual(panel.rows[0].case.design.shell.walls[1].thickness_m, 0.1)
        self.assertEqual(panel.button.text(), "Work it out anew")


class Acts(YearTest):
    def test_the_date_of_an_act_is_moved_and_undone(self) -> None:
        w = self.window(only("quilt"))
        w.go_to("seasons")
        self.settle(w)
        acts = w.seasons.acts
        before = [p.from_day for p in w.document.project.design("quilt").seasons.periods]
        first = acts.dates[0]
        first.setFocus()
        first.setDate(first.date().addDays(9))
        first.editingFinished.emit()
        self.settle(w)
        after = [p.from_day for p in w.document.project.design("quilt").seasons.periods]
        self.assertEqual(after, [before[0] + 9, *before[1:]])
        # Two acts on one day are refused in a sentence, and the date goes back.
        first = w.seasons.acts.dates[0]
        first.setDate(w.seasons.acts.dates[1].date())
        first.editingFinished.emit()
        self.assertIn("choose a day beside", w.statusBar().currentMessage())
        self.settle(w)
        self.assertEqual(
            [p.from_day for p in w.document.project.design("quilt").seasons.periods], after
        )
        w.run("undo")
        self.assertEqual(
            [p.from_day for p in w.document.project.design("quilt").seasons.periods], before
        )


class Elsewhere(YearTest):
    def test_hives_travel_to_every_place(self) -> None:
        w = self.window(only("composite", "plain-boards"))
        places = mock.patch.object(travel_panel, "shipped_places", lambda: shipped_places()[1:4])
        places.start()
        self.addCleanup(places.stop)
        w.go_to("compare")
        w.compare.show_view("travel")
        click(w.compare.travel.button)
        self.settle(w)
        panel = w.compare.travel
        self.assertEqual(len(panel.rows[0]), 4)
        texts_by = panel.grid.texts()
        here = texts_by["Orchard at Lake Velm", 0]
        self.assertRegex(here, r"^\d+ / \d+\n\d+\.\d kg, \d+°$")
        self.assertEqual(panel.grid.marks()["Orchard at Lake Velm", 0], "dry")
        self.assertEqual(panel.grid.marks()["Orchard at Lake Velm", 1], "wet")
        w.document.edit("wall", lambda p: set_layer_thickness(p, "composite", "walls", 1, 0.1))
        self.settle(w)
        self.assertIn("before the last change", panel.state.text())


class Proposing(YearTest):
    def test_designs_are_proposed_from_limits_and_taken(self) -> None:
        w = self.window(only("timber"))
        for name, few in (
            ("shipped_make_ups", lambda: shipped_make_ups()[:1]),
            ("SIZES_M", (0.05,)),
        ):
            patch = mock.patch.object(candidates_module, name, few)
            patch.start()
            self.addCleanup(patch.stop)

        def script(dialog: QDialog) -> None:
            assert isinstance(dialog, ProposeDialog)
            dialog.fields["lift"].setText("heavy")
            click(dialog.find_button)
            self.assertIn("heaviest lift", dialog.answer.text())
            dialog.fields["lift"].setText("3")
            click(dialog.find_button)
            self.settle(w)
            self.assertIn("None keeps to the limits; nearest:", dialog.answer.text())
            dialog.fields["lift"].setText("60 kg")
            dialog.materials.setCurrentIndex(1)
            here = frozenset(w.document.project.designs[0].material_ids)
            self.assertEqual(dialog.limits().materials, here)
            dialog.materials.setCurrentIndex(0)
            dialog.fields["dry"].setText("0")
            click(dialog.find_button)
            self.settle(w)
            self.assertGreater(dialog.list.count(), 0)
            click(dialog.take_button)
            self.assertIn("is taken", dialog.answer.text())

        self.prompts.dialogs.append(script)
        w.run("propose_designs")
        self.settle(w)
        designs = w.document.project.designs
        self.assertEqual(len(designs), 2)
        self.assertEqual(designs[1].note, "proposed from limits")
        self.assertEqual(type(designs[1].form), type(designs[0].form))
        w.run("undo")
        self.assertEqual(len(w.document.project.designs), 1)


class WhileItWorks(YearTest):
    def test_an_edit_and_closing_call_the_years_off(self) -> None:
        """With threads of their own, as for a user."""
        w = MainWindow(Document(only("composite", "plain-boards")), prompts=self.prompts)
        self.windows.append(w)
        w.show()
        w.choose("plain-boards")
        w.go_to("seasons")
        w.seasons.show_page("questions")
        for _ in range(3000):
            self._wait()
            if w.results.state("year ranges", "plain-boards").kind == "working":
                break
        self.assertEqual(w.results.state("year ranges", "plain-boards").kind, "working")
        w.document.edit("wall", lambda p: set_layer_thickness(p, "plain-boards", "walls", 0, 0.03))
        self.assertIsNone(w.results.year_ranges("plain-boards"))
        self.assertEqual(w.results.state("year ranges", "plain-boards").kind, "absent")
        w.go_to("compare")
        w.compare.show_view("year")
        for _ in range(20):
            self._wait()
        w.run("stop")
        self.assertFalse(w.compare.year.progress.isVisible())
        w.close()
        for _ in range(20):
            self._wait()

    def _wait(self) -> None:
        """Let threads work and hear of them; `QTest.qWait` would keep Python for itself."""
        time.sleep(0.02)
        self.app.processEvents()
