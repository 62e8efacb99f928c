"""Painted tables go to the clipboard as they are read; axes have round figures."""

import unittest
from functools import partial

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest

from calveth.app.widgets.axis import Axis, round_ticks
from calveth.texts.measures import MEASURES
from calveth.texts.units import INCH, METRIC
from calveth.texts.year import WORDS, shown, unit_of
from tests.app.base import WindowTest


class Copied(WindowTest):
    def test_compare_goes_to_the_clipboard_as_it_is_read(self) -> None:
        w = self.window()
        w.go_to("compare")
        self.settle(w)
        grid = w.compare.figures
        grid.setFocus()
        QTest.keyClick(grid, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
        lines = QGuiApplication.clipboard().text().splitlines()
        self.assertEqual(len(lines), 1 + len(MEASURES))
        self.assertEqual(len({line.count("\t") for line in lines}), 1)
        names = [d.name for d in w.document.project.designs]
        self.assertEqual(sorted(lines[0].split("\t")[1:]), sorted(names))
        honey = next(line for line in lines if line.startswith("winter honey"))
        row = w.results.row("timber", 0)
        assert row is not None
        self.assertIn(METRIC.write(row.winter_honey_kg, "mass"), honey)
        self.assertIn("(best)", "".join(lines))

    def test_what_is_selected_is_copied_with_its_heads_and_no_more(self) -> None:
        w = self.window()
        w.go_to("compare")
        self.settle(w)
        grid = w.compare.figures
        grid.setFocus()
        for key, held in (
            (Qt.Key.Key_Down, Qt.KeyboardModifier.NoModifier),
            (Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier),
            (Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier),
            (Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier),
        ):
            QTest.keyClick(grid, key, held)
        lines = [r.split("\t") for r in QGuiApplication.clipboard().text().splitlines()]
        self.assertEqual([len(line) for line in lines], [3, 3, 3])
        shown_names = list(dict.fromkeys(name for name, _ in grid.texts()))
        read = [name.replace("\n", ", ") for name in shown_names[1:3]]
        self.assertEqual([line[0] for line in lines[1:]], read)

    def test_the_year_by_month_too(self) -> None:
        w = self.window()
        w.choose("timber")
        w.go_to("seasons")
        self.settle(w)
        table = w.seasons.table
        table.setFocus()
        QTest.keyClick(table, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
        rows = [line.split("\t") for line in QGuiApplication.clipboard().text().splitlines()]
        self.assertEqual(
            rows[0][1:],
            [
                *[
                    "Jan",
                    "Feb",
                    "Mar",
                    "Apr",
                    "May",
                    "Jun",
                    "Jul",
                    "Aug",
                    "Sep",
                    "Oct",
                    "Nov",
                    "Dec",
                ],
                "coldest night",
            ],
        )
        monthly = w.results.monthly("timber")
        assert monthly is not None
        by_name = {row[0]: row[1:] for row in rows}
        self.assertEqual(
            by_name["honey burnt kg"],
            [METRIC.number(float(v), "mass") for v in monthly.honey_kg_month],
        )
        lid = next(row for name, row in by_name.items() if name.startswith("lid rim above"))
        self.assertEqual(len(lid), 13)


class Axes(unittest.TestCase):
    @settings(deadline=None, suppress_health_check=[HealthCheck.too_slow])
    @given(
        st.floats(-1e6, 1e6),
        st.floats(1e-6, 1e6),
        st.integers(2, 12),
    )
    def test_ticks_are_round_within_the_range_and_not_too_many(
        self, low: float, span: float, most: int
    ) -> None:
        high = low + span
        ticks = round_ticks(low, high, most)
        self.assertGreaterEqual(len(ticks), 2)
        self.assertLessEqual(len(ticks), max(most + 1, 5))
        slack = 1e-6 * span + 1e-9 * abs(low)
        for tick in ticks:
            self.assertTrue(low - slack <= tick <= high + slack, (low, high, ticks))
        if span > 1e-3 * abs(low):
            step = ticks[1] - ticks[0]
            first = f"{step:e}"[0]
            self.assertIn(first if not f"{step:.3e}".startswith("1.000") else "1", "1259")

    def test_round_figures_of_the_unit_that_is_shown(self) -> None:
        # 0 to 10 kg are 0 to 22.05 lb.
        axis = Axis.of(0.0, 10.0, lambda kg: shown("winter_honey_kg", kg, INCH))
        ticks = axis.ticks(110.0)
        self.assertEqual([text for _, text in ticks], ["0", "5", "10", "15", "20"])
        self.assertAlmostEqual(ticks[1][0], 5 / 22.0462, places=4)

    def test_every_figure_of_the_year_has_an_axis(self) -> None:
        for name in WORDS:
            for units in (METRIC, INCH):
                with self.subTest(figure=name, units=units.name):
                    axis = Axis.of(0.0, 200.0, partial(shown, name, units=units))
                    self.assertGreaterEqual(len(axis.ticks(200.0)), 2)
                    self.assertIsInstance(unit_of(name, units), str)


if __name__ == "__main__":
    unittest.main()
