"""A figure of Compare stands in one row and reaches window, text, JSON, CSV and report."""

import unittest
from functools import lru_cache
from typing import Any

from calveth.app.areas.measures import figure_rows
from calveth.app.report.appendix import comparison_page
from calveth.catalogue.shipped import demo_project
from calveth.cli.compare import side_by_side
from calveth.core.advice.dossier import Dossier, make_dossier
from calveth.core.case import estimated_case
from calveth.core.compare.figures import FIGURE, FIGURES
from calveth.core.compare.table import CompareRow, compare_row
from calveth.store.records import compare_record
from calveth.texts.measures import MEASURES
from calveth.texts.units import METRIC

DEMO = demo_project()


@lru_cache(1)
def _assessed() -> tuple[Dossier, CompareRow]:
    dossier = make_dossier(estimated_case(DEMO, DEMO.design("timber")))
    return dossier, compare_row(
        dossier.monthly, dossier.follow_up.nights, 0, dossier.follow_up.snow
    )


class OneTable(unittest.TestCase):
    def test_keys_are_one_of_a_kind_and_carry_their_unit(self) -> None:
        self.assertEqual(len(FIGURE), len(FIGURES))
        self.assertEqual(FIGURE["water_on_lid_g_day"].range_keys()[0], "water_on_lid_low_g_day")
        self.assertEqual(FIGURE["co2_volume_share"].range_keys()[1], "co2_volume_share_high")

    def test_what_the_screen_shows_stands_in_files(self) -> None:
        for measure in MEASURES:
            with self.subTest(measure=measure.name):
                self.assertLessEqual(set(measure.keys), set(FIGURE))
                self.assertTrue(measure.keys or measure.tells_crown or measure.tells_snow)

    def test_a_row_reaches_every_reader(self) -> None:
        dossier, row = _assessed()
        record: dict[str, Any] = compare_record(row)
        for figure in FIGURES:
            with self.subTest(figure=figure.key):
                self.assertAlmostEqual(
                    record[figure.key], figure.of(row), delta=0.51 * 10**-figure.digits
                )
                if figure.ends is not None:
                    low, high = (record[key] for key in figure.range_keys())
                    self.assertLessEqual(low, high)
        printed = side_by_side([row], 100)
        grid = figure_rows(["timber"], {"timber": row}, METRIC)
        page = comparison_page(DEMO, [dossier], 0, METRIC)
        for measure, shown in zip(MEASURES, grid, strict=True):
            with self.subTest(measure=measure.name):
                name = measure.name.replace("\n", ", ")
                line = next(text for text in printed if text.startswith(name))
                self.assertIn(" ".join(measure.write(row, METRIC).split()), line)
                self.assertEqual(shown.cells[0].text, measure.write(row, METRIC))
                self.assertIn(name, page)

    def test_text_of_many_hives_keeps_to_the_width(self) -> None:
        row = _assessed()[1]
        lines = side_by_side([row] * 9, 90)
        self.assertLessEqual(max(map(len, lines)), 90)
        self.assertEqual(sum(line.count(row.name) for line in lines), 9)


if __name__ == "__main__":
    unittest.main()
