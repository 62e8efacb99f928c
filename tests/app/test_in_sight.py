"""What must be seen is seen: danger to life, names of rows, whole figures, on a small screen too.

Source of the cases: common practice, no source; 1280x800 and 1024x700 are screens of the field.
"""

from __future__ import annotations

import re
from dataclasses import replace
from unittest import mock

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QFontMetricsF, QImage, QPainter
from PySide6.QtWidgets import QMessageBox, QScrollArea, QWidget

from calveth.app.areas.measures import figure_rows, school_rows
from calveth.app.cutaway.labels import Labels
from calveth.app.document import Document
from calveth.app.prompts import Prompts
from calveth.app.theme.theme import current
from calveth.app.widgets.figure_grid import LEFT
from calveth.app.widgets.plan_grid import LEFT as PLAN_LEFT
from calveth.app.widgets.plan_grid import RIGHT as PLAN_RIGHT
from calveth.catalogue.apiary import apiary_project
from calveth.catalogue.shipped import demo_project
from calveth.core.case import estimated_case
from calveth.core.errors import DomainError
from calveth.core.solids.openings_cut import colony_openings
from calveth.core.year.sweeps import swept_cases
from calveth.texts.units import METRIC
from tests.app.base import WindowTest
from tests.random_hives import random_project

DEMO = demo_project()
SNOW_ROW = "exit and air\nunder snow"
# Foam with one low entrance, and the sandwich with a hole above the snow.
SHUT, OPEN = "polystyrene", "composite"


def _scroll_round(widget: QWidget) -> QScrollArea:
    """Return the nearest scroll area a widget lies in."""
    above: QWidget | None = widget.parentWidget()
    while above is not None and not isinstance(above, QScrollArea):
        above = above.parentWidget()
    assert isinstance(above, QScrollArea)
    return above


def _ink(image: QImage) -> set[tuple[int, int]]:
    """Return the pixels that are clearly darker than paper."""
    return {
        (x, y)
        for x in range(image.width())
        for y in range(image.height())
        if image.pixelColor(x, y).lightness() < 170
    }


class Danger(WindowTest):
    def test_it_has_a_mark_on_card_ribbon_compare_and_findings(self) -> None:
        w = self.window()
        w.choose(SHUT)
        self.settle(w)
        self.assertTrue(w.bench.card(SHUT).danger)
        self.assertIn("danger to the life", w.bench.card(SHUT).accessibleName())
        self.assertFalse(w.bench.card(OPEN).danger)
        self.assertIn(0, w.ribbon.danger)
        self.assertNotIn(6, w.ribbon.danger)
        w.view.set_month(0)
        self.assertIn("danger", w.ribbon.accessibleDescription())
        deep = w.results.follow_up(SHUT)
        assert deep is not None
        self.assertEqual(deep.snow.months, w.ribbon.danger)
        w.go_to("compare")
        self.assertEqual(w.compare.mark(SHUT, SNOW_ROW), "danger")
        self.assertIn("suffocates", w.compare.cell(SHUT, SNOW_ROW))
        self.assertEqual(w.compare.mark(OPEN, SNOW_ROW), "")
        self.assertEqual(w.compare.cell(OPEN, SNOW_ROW), "exit stays open")
        self.assertTrue(w.compare.summary.text().startswith("Danger under snow"))
        self.assertIn(DEMO.design(SHUT).name, w.compare.summary.text().split(".")[0])
        w.choose(OPEN)
        self.settle(w)
        self.assertEqual(w.ribbon.danger, ())

    def test_a_key_in_haste_leaves_everything_as_it_is(self) -> None:
        seen: list[str] = []

        def look(box: QMessageBox) -> int:
            seen.append(box.defaultButton().text())
            return 0

        with mock.patch.object(QMessageBox, "exec", look):
            taken = Prompts().confirm(self.window(), "Season plan", "worse.", "Take it")
        self.assertEqual((seen, taken), (["Leave it"], False))


class Best(WindowTest):
    hives = ()

    def test_it_waits_for_the_nights_of_all(self) -> None:
        w = self.window()
        self.settle(w)
        ids = [d.id for d in DEMO.designs]
        rows = {i: w.results.row(i, 0) for i in ids}
        marks = [c.mark for r in figure_rows(ids, rows, METRIC) for c in r.cells]
        self.assertIn("best", marks)
        first = rows[ids[0]]
        assert first is not None
        late = {**rows, ids[0]: replace(first, crown_wet_nights=None)}
        marks = [c.mark for r in figure_rows(ids, late, METRIC) for c in r.cells]
        self.assertFalse({"best", "joint best", "worst"} & set(marks))

    def test_two_that_read_the_same_are_marked_the_same(self) -> None:
        w = self.window()
        self.settle(w)
        ids = [d.id for d in DEMO.designs]
        own = {d.id for d in DEMO.designs if not d.benchmark}
        for month in (0, 6):
            rows = {i: w.results.row(i, month) for i in ids}
            for row in figure_rows(ids, rows, METRIC):
                for mark in ("best", "worst"):
                    marked = [c.lines[0] for c in row.cells if c.mark == mark]
                    others = [
                        c.lines[0]
                        for i, c in zip(ids, row.cells, strict=True)
                        if i in own and c.mark != mark
                    ]
                    with self.subTest(month=month, row=row.name, mark=mark):
                        self.assertLessEqual(len(marked), 1)
                        self.assertFalse(set(marked) & set(others))

    def test_a_hive_of_another_way_has_no_cross(self) -> None:
        w = self.window()
        self.settle(w)
        ids = [d.id for d in DEMO.designs]
        verdicts = {i: deep.verdicts for i in ids if (deep := w.results.follow_up(i)) is not None}
        cells = [c for r in school_rows(ids, verdicts, DEMO.school) for c in r.cells]
        other = [c for c in cells if "not this way" in c.text]
        self.assertTrue(other)
        self.assertEqual({c.mark for c in other}, {""})
        self.assertIn("no", {c.mark for c in cells})


class SmallScreens(WindowTest):
    hives = ()
    dressed = True

    def test_pages_of_compare_ask_for_no_more_than_they_have(self) -> None:
        w = self.window()
        for size in ((1280, 800), (1024, 700)):
            w.resize(*size)
            w.go_to("compare")
            self.settle(w)
            page = _scroll_round(w.compare)
            # The others begin to work out years as soon as they are shown.
            for view in ("figures", "ledgers", "schools", "travel"):
                w.compare.show_view(view)
                self.app.processEvents()
                with self.subTest(size=size, view=view):
                    self.assertLessEqual(w.compare.minimumSizeHint().width(), page.width())
                    self.assertFalse(page.horizontalScrollBar().isVisible())
                    self.assertLessEqual(
                        w.compare.summary.geometry().right(), page.viewport().width()
                    )

    def test_names_of_rows_stay_when_hives_are_moved_through(self) -> None:
        w = self.window()
        w.resize(1024, 700)
        w.go_to("compare")
        self.settle(w)
        grid = w.compare.figures
        scroll = _scroll_round(grid)
        names = QRectF(0, grid.viewport().y() + grid.cell_rect(0, 0).top(), LEFT - 8, 200).toRect()
        before = grid.grab(names).toImage()
        bar = scroll.horizontalScrollBar()
        self.assertGreater(bar.maximum(), 100)
        bar.setValue(bar.maximum())
        self.app.processEvents()
        after = grid.grab(names.translated(bar.value(), 0)).toImage()
        inks = [_ink(before), _ink(after)]
        self.assertGreater(len(inks[0]), 500)
        self.assertGreater(len(inks[0] & inks[1]), 0.8 * len(inks[0]))
        self.assertLess(len(inks[1]), 1.3 * len(inks[0]))

    def test_a_month_of_the_plan_holds_three_figures(self) -> None:
        w = self.window()
        w.resize(1024, 700)
        w.go_to("seasons")
        self.settle(w)
        wide = (w.seasons.grid.width() - PLAN_LEFT - PLAN_RIGHT) / 12
        self.assertGreater(wide, w.fontMetrics().horizontalAdvance("100") + 6)
        w.resize(1280, 800)
        self.settle(w)
        self.assertGreater(w.seasons.sides.x(), w.seasons.grid.width())

    def test_sentences_take_what_a_page_leaves_free(self) -> None:
        w = self.window()
        w.choose(SHUT)
        w.shell.show_tab("lid")
        self.settle(w)
        tall = w.shell._above.height()
        self.assertGreater(tall, 200)
        # What comes later must not move a button: the height is that of the page, not of the text.
        w.view.set_month(6)
        self.settle(w)
        self.assertEqual(w.shell._above.height(), tall)

    def test_a_label_beside_the_hive_keeps_its_figure(self) -> None:
        image = QImage(320, 300, QImage.Format.Format_RGB32)
        painter = QPainter(image)
        labels = Labels(painter, QRectF(0, 0, 320, 300), QRectF(110, 60, 100, 160), current())
        said = "rim of the lid 3.3 °C\na little dew, 0.1 g a day"
        labels.put(QPointF(110, 60), said, "left")
        metrics = QFontMetricsF(painter.font())
        (words,) = labels._broken(labels._asked["left"], labels._room("left"), metrics)
        self.assertGreater(len(words.lines), 2)
        for line in words.lines:
            self.assertLessEqual(metrics.horizontalAdvance(line), labels._room("left"))
        self.assertTrue(any(re.search(r"3\.3 °C$", line) for line in words.lines))
        painter.end()


class LeftProjects(WindowTest):
    def test_pages_out_of_sight_let_go_of_hives_that_are_gone(self) -> None:
        """Found by the monkey: units switched after another project was opened."""
        for page in ("logs", "why"):
            with self.subTest(page=page):
                w = self.window(apiary_project())
                w.go_to("diary")
                w.diary.choose_hive("hive-2")
                w.diary.show_page(page)
                self.app.processEvents()
                w.go_to("shell")
                w.adopt(Document(DEMO))
                w.run("switch_units")
                self.app.processEvents()
                w.go_to("diary")
                self.app.processEvents()
                self.assertEqual(getattr(w.diary, page).hive, "")
                self._close_all()


class NothingOpen(WindowTest):
    def test_sizes_of_a_hive_whose_openings_are_the_neighbours(self) -> None:
        """Found by the monkey: a trough for two whose first colony has no opening of its own."""
        trough = random_project(57)
        self.assertTrue(trough.designs[0].openings)
        self.assertEqual(colony_openings(trough.designs[0]), ())
        w = self.window(trough)
        w.go_to("compare")
        panel = w.compare.sizes
        panel._tell()
        self.assertEqual(panel.what.currentIndex(), 0)
        self.assertGreater(panel.what.count(), 2)
        with self.assertRaisesRegex(DomainError, "give the hive an entrance"):
            swept_cases(estimated_case(trough, trough.designs[0]), "opening")
