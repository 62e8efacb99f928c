"""``calveth year``, ``pairs``, ``travel`` and ``feed-table`` on the demo, and what they refuse."""

from __future__ import annotations

import csv
import io
import json
import tempfile
import unittest
from contextlib import redirect_stderr, redirect_stdout
from itertools import pairwise
from pathlib import Path

import pvlib

from calveth.catalogue.shipped import demo_project
from calveth.cli.main import main
from calveth.store.json_file import write_json
from tests.cases import solve_coarsely

GREEN = Path(pvlib.__file__).parent / "data" / "723170TYA.CSV"


class YearCommands(unittest.TestCase):
    def setUp(self) -> None:
        solve_coarsely(self)
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.file = str(Path(folder.name) / "demo.json")
        write_json(Path(self.file), demo_project())

    def _run(self, *words: str) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with redirect_stdout(out), redirect_stderr(err):
            code = main(list(words))
        return code, out.getvalue(), err.getvalue()

    def _year(self, *words: str) -> tuple[int, str, str]:
        return self._run("year", self.file, *words)

    def test_figures_of_one_hive_in_words_and_as_data(self) -> None:
        code, text, _ = self._year("--design", "Composite sandwich", "--draws", "3")
        self.assertEqual(code, 0)
        self.assertIn("Composite sandwich stays dry above the cluster all winter", text)
        self.assertIn("Leave ", text)
        code, text, _ = self._year("--design", "composite", "--draws", "3", "--format", "json")
        (row,) = json.loads(text)
        self.assertEqual((code, row["draws"], row["shell"]), (0, 3, "solved"))
        self.assertLessEqual(row["winter_honey_kg_low"], row["winter_honey_kg"])
        self.assertIsNone(row["empty_day"])

    def test_every_hour_with_units_in_the_names(self) -> None:
        code, text, _ = self._year("--design", "composite", "--hours")
        rows = list(csv.DictReader(io.StringIO(text)))
        self.assertEqual((code, len(rows)), (0, 8760))
        self.assertEqual((rows[-1]["day"], rows[-1]["hour"]), ("365", "23"))
        for name in ("outside_degc", "nest_pa", "lid_rim_kg", "fanning_m3_s", "sun_w_m2"):
            float(rows[4000][name])

    def test_weather_of_a_file(self) -> None:
        code, text, _ = self._year(
            "--design", "composite", "--draws", "0", "--weather", str(GREEN), "--format", "csv"
        )
        (row,) = csv.DictReader(io.StringIO(text))
        self.assertEqual(code, 0)
        self.assertIn("GREENSBORO", row["place"].upper())

    def test_pairs_travel_and_feed_table(self) -> None:
        code, text, _ = self._run("travel", self.file, "--design", "composite", "--format", "json")
        cells = json.loads(text)
        self.assertEqual(code, 0)
        self.assertGreaterEqual(len({c["place"] for c in cells}), 12)
        code, text, _ = self._run(
            "feed-table",
            self.file,
            "--design",
            "composite",
            "--place",
            "skerrel",
            "--draws",
            "1",
            "--format",
            "csv",
        )
        rows = list(csv.DictReader(io.StringIO(text)))
        self.assertEqual((code, len(rows)), (0, 6))
        self.assertEqual({r["top"] for r in rows}, {"sealed", "vented"})
        self.assertTrue(all(float(r["honey_kg_high"]) >= float(r["honey_kg"]) for r in rows))

    def test_sizes_of_a_layer_an_opening_and_the_bees(self) -> None:
        # Common practice, no source: thicker walls and fewer bees burn less honey.
        burnt = {}
        for what, key in (("layer", "thickness_m"), ("bees", "share"), ("opening", "share")):
            code, text, _ = self._run(
                "sizes", self.file, "--design", "composite", "--of", what, "--format", "csv"
            )
            rows = list(csv.DictReader(io.StringIO(text)))
            self.assertEqual(code, 0)
            sizes = [float(r[key]) for r in rows]
            self.assertEqual(sizes, sorted(set(sizes)))
            burnt[what] = [float(r["winter_honey_kg"]) for r in rows]
        self.assertLess(burnt["layer"][-1], 0.97 * burnt["layer"][0])
        for thinner, thicker in pairwise(burnt["layer"]):
            # Where little goes through the walls, drier air may cost as much as they save.
            self.assertLess(thicker, 1.002 * thinner)
        self.assertEqual(burnt["bees"], sorted(burnt["bees"]))
        code, text, _ = self._run("sizes", self.file, "--design", "composite")
        self.assertEqual((code, len(text.splitlines())), (0, 6))
        for words in (("--layer", "9", "--of", "layer"), ("--layer", "a"), ("--opening", "nine")):
            code, _, err = self._run("sizes", self.file, "--design", "composite", *words)
            self.assertEqual((code, err.count("\n")), (2, 1))

    def test_refusals_name_what_was_typed(self) -> None:
        for words, said in (
            (("--draws", "-1"), "--draws"),
            (("--draws", "many"), "--draws"),
            (("--hours",), "--design"),
            (("--design", "nothing"), "design"),
            (("--weather", "missing.epw"), "missing.epw"),
        ):
            with self.subTest(words=words):
                code, _, err = self._year(*words)
                self.assertEqual(code, 2)
                self.assertIn(said, err)
                self.assertEqual(err.count("\n"), 1)
        code, _, err = self._run("pairs", self.file, "--figure", "beauty")
        self.assertEqual(code, 2)
        self.assertIn("winter_honey_kg", err)
        code, _, err = self._run("pairs", self.file, "--draws", "0")
        self.assertEqual(code, 2)
        self.assertIn("--draws", err)


if __name__ == "__main__":
    unittest.main()
