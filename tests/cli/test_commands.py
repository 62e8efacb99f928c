"""The command line as a user calls it: outputs, units, exit codes, sentences."""

from __future__ import annotations

import contextlib
import csv
import io
import json
import os
import subprocess
import sys
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from unittest import mock

import pvlib

from calveth.app.pictures import VIEWS
from calveth.catalogue.shipped import demo_project
from calveth.cli.main import main
from calveth.core.hive.season_plan import NO_PLAN
from calveth.core.published import Check
from calveth.store.json_file import read_json, write_json
from calveth.store.project_file import ProjectFile, load_project
from tests.cases import LONG, solve_coarsely

GREEN = Path(pvlib.__file__).parent / "data" / "723170TYA.CSV"


_DEMO = demo_project()
SMALL = replace(_DEMO, designs=(_DEMO.design("timber"), _DEMO.design("composite")))


class Base(unittest.TestCase):
    def setUp(self) -> None:
        solve_coarsely(self)
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.file = self.folder / "demo.calveth"
        ProjectFile.create(self.file, demo_project()).close()
        # What asks for all hives and all remedies is content with two of them.
        self.small = self.folder / "small.calveth"
        ProjectFile.create(self.small, SMALL).close()

    def call(self, *arguments: object) -> tuple[int, str, str]:
        """Return exit code, output and errors of a command."""
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            try:
                code = main([str(a) for a in arguments])
            except SystemExit as stop:
                code = int(stop.code or 0)
        return code, out.getvalue(), err.getvalue()

    def refused(self, *arguments: object) -> str:
        code, out, err = self.call(*arguments)
        self.assertEqual(code, 2)
        self.assertEqual(out, "")
        self.assertNotIn("Traceback", err)
        return err


class Assess(Base):
    def test_text(self) -> None:
        code, out, _ = self.call("assess", self.file, "--design", "timber")
        self.assertEqual(code, 0)
        for word in ("Heavy timber box", "January", "W/K", "winter honey", "estimates"):
            self.assertIn(word, out)

    def test_json_keys_carry_units(self) -> None:
        code, out, _ = self.call("assess", self.file, "--design", "composite", "--format", "json")
        self.assertEqual(code, 0)
        design = json.loads(out)["designs"][0]
        self.assertEqual(len(design["months"]), 12)
        for key in (
            "cavity_l",
            "shell_conductance_w_k",
            "mass_to_conductance_kg_k_w",
            "winter_honey_kg",
            "winter_honey_low_kg",
            "winter_honey_high_kg",
        ):
            self.assertGreater(design[key], 0)
        faces = sum(design["face_conductance_w_k"].values())
        self.assertAlmostEqual(faces, design["shell_conductance_w_k"], places=3)
        january = design["months"][0]
        water = january["water_ledger_g_day"]
        gone = sum(v for k, v in water.items() if k != "released")
        self.assertAlmostEqual(gone, water["released"], places=2)
        heat = january["heat_ledger_w"]
        self.assertAlmostEqual(
            heat["warms the nest"] + heat["set free by condensation"],
            heat["through the shell"] + heat["with the air"],
            places=2,
        )

    def test_csv_has_a_row_a_month(self) -> None:
        code, out, _ = self.call("assess", self.file, "--format", "csv")
        rows = list(csv.DictReader(io.StringIO(out)))
        self.assertEqual((code, len(rows)), (0, 96))
        self.assertEqual(rows[0]["month"], "January")
        self.assertLess(float(rows[0]["outside_degc"]), 0)

    def test_one_condition(self) -> None:
        options = (
            "assess",
            self.file,
            "--design",
            "timber",
            "--outside-temp=-12",
            "--outside-rh",
            "0.9",
            "--wind",
            "3",
            "--month",
            "2",
            "--format",
        )
        code, out, _ = self.call(*options, "json")
        record = json.loads(out)["timber"]
        self.assertEqual(code, 0)
        self.assertEqual(record["outside_temperature_degc"], -12)
        self.assertLess(record["surfaces"]["floor"]["temperature_degc"], -5)
        wall = record["profiles"]["walls"]
        self.assertEqual(wall["depth_m"][0], 0)
        self.assertEqual(len(wall["depth_m"]), len(wall["vapour_pressure_pa"]))
        self.assertTrue(
            all(
                a <= b + 0.1
                for a, b in zip(
                    wall["vapour_pressure_pa"], wall["saturation_pressure_pa"], strict=True
                )
            )
        )
        code, out, _ = self.call(*options, "text")
        self.assertIn("lid middle", out)
        code, out, _ = self.call(*options, "csv")
        self.assertEqual(len(list(csv.DictReader(io.StringIO(out)))), 7)

    def test_humidity_in_percent_and_a_bare_minus(self) -> None:
        outs = [
            self.call(
                "assess",
                self.file,
                "--design",
                "timber",
                "--outside-temp",
                "-6",
                "--outside-rh",
                rh,
                "--format",
                "json",
            )[1]
            for rh in ("0.9", "90%", "90 %")
        ]
        self.assertEqual(len(set(outs)), 1)

    def test_colder_is_said_to_cost_more(self) -> None:
        def honey(t: str) -> float:
            _, out, _ = self.call(
                "assess", self.file, "--design", "timber", f"--outside-temp={t}", "--format", "json"
            )
            return float(json.loads(out)["timber"]["honey_g_day"])

        self.assertGreater(honey("-15"), honey("5"))

    def test_design_by_id_or_by_name(self) -> None:
        outs = {
            self.call("assess", self.file, "--design", wanted, "--format", "csv")[1]
            for wanted in ("timber", "Heavy timber box", "heavy timber BOX")
        }
        self.assertEqual(len(outs), 1)
        self.assertIn("timber,January", outs.pop())

    def test_json_project_is_assessed_as_it_is(self) -> None:
        path = self.folder / "x.json"
        write_json(path, demo_project())
        code, out, _ = self.call("assess", path, "--design", "timber")
        self.assertEqual(code, 0)
        self.assertIn("Heavy timber box", out)

    def test_refusals(self) -> None:
        rows: tuple[tuple[tuple[object, ...], str], ...] = (
            (("--design", "nothing"), "polystyrene"),
            (("--outside-temp", "nan"), "--outside-temp"),
            (("--outside-temp", "cold"), "--outside-temp"),
            (("--outside-temp=-90",), "outside temperature"),
            (("--outside-temp", "0", "--outside-rh", "85"), "relative humidity"),
            (("--outside-temp", "0", "--wind=-1"), "wind"),
            (("--outside-temp", "0", "--month", "13"), "--month"),
            (("--wind", "2"), "needs --outside-temp"),
        )
        for options, part in rows:
            with self.subTest(options=options):
                self.assertIn(part, self.refused("assess", self.file, *options))

    def test_files_that_cannot_be_read(self) -> None:
        self.assertIn("does not exist", self.refused("assess", self.folder / "no.calveth"))
        self.assertIn("is a folder", self.refused("assess", self.folder))
        (self.folder / "bad.json").write_text('{"format": 1', encoding="utf-8")
        self.assertIn("JSON", self.refused("assess", self.folder / "bad.json"))


class Compare(Base):
    def test_it_tells_who_is_dry_in_january_and_what_it_costs(self) -> None:
        code, out, _ = self.call("compare", self.file)
        self.assertEqual(code, 0)
        self.assertRegex(
            out,
            r"dry under the whole lid in Composite sandwich \(\d+\.\d kg of winter honey\)",
        )
        self.assertRegex(out, r"it drips: Heavy timber box \(\d+\.\d kg\)")

    def test_formats(self) -> None:
        _, out, _ = self.call("compare", self.file, "--format", "json")
        document = json.loads(out)
        self.assertEqual(len(document["designs"]), 8)
        crowns = {d["design"]: d["crown"] for d in document["designs"]}
        self.assertEqual((crowns["composite"], crowns["timber"]), ("dry", "wet"))
        _, out, _ = self.call("compare", self.file, "--format", "csv", "--month", "7")
        rows = list(csv.DictReader(io.StringIO(out)))
        self.assertEqual(len(rows), 8)
        self.assertIn("winter_honey_low_kg", rows[0])

    def test_month_refused(self) -> None:
        self.assertIn("--month", self.refused("compare", self.file, "--month", "0"))


class Verify(Base):
    def test_all_hold(self) -> None:
        code, out, _ = self.call("verify")
        self.assertEqual(code, 0)
        self.assertNotIn("FAIL", out)
        code, out, _ = self.call("verify", "--format", "json")
        document = json.loads(out)
        self.assertEqual(document["failed"], 0)
        self.assertGreater(document["passed"], 35)
        for row in document["checks"]:
            self.assertEqual(
                set(row),
                {
                    "name",
                    "unit",
                    "expected",
                    "computed",
                    "deviation",
                    "tolerance",
                    "passed",
                    "source",
                },
            )

    def test_one_that_fails_is_shown_and_changes_the_exit_code(self) -> None:
        bad = Check(
            name="broken",
            unit="Pa",
            expected=1.0,
            computed=2.0,
            tolerance=0.1,
            source="made up for this test",
        )
        with mock.patch("calveth.core.published.published_checks", return_value=[bad]):
            code, out, _ = self.call("verify")
        self.assertEqual(code, 1)
        self.assertIn("FAIL broken", out)


class Files(Base):
    def test_new_export_import(self) -> None:
        new = self.folder / "mine.calveth"
        self.assertEqual(self.call("new", new)[0], 0)
        self.assertEqual(load_project(new).name, "mine")
        self.assertIn("exists already", self.refused("new", new))
        out = self.folder / "mine.json"
        self.assertEqual(self.call("export", new, "-o", out)[0], 0)
        self.assertEqual(read_json(out), load_project(new))
        back = self.folder / "back.calveth"
        self.assertEqual(self.call("import", out, "-o", back)[0], 0)
        self.assertEqual(load_project(back), load_project(new))
        self.assertIn("exists already", self.refused("import", out, "-o", back))
        self.assertEqual(self.call("import", out, "-o", back, "--replace")[0], 0)

    def test_import_of_nonsense_writes_nothing(self) -> None:
        bad = self.folder / "bad.json"
        bad.write_text('{"format": "calveth-project", "schema": 1, "project": {}}', "utf-8")
        target = self.folder / "x.calveth"
        self.assertIn("required field missing", self.refused("import", bad, "-o", target))
        self.assertFalse(target.exists())

    def test_weather_into_a_project(self) -> None:
        code, out, _ = self.call("import-weather", GREEN, "--into", self.file)
        self.assertEqual(code, 0)
        self.assertIn("8760 hours", out)
        self.assertAlmostEqual(load_project(self.file).place.latitude_deg, 36.1, places=1)
        # Acts of their plans go with the place, all else stays.
        bare = [replace(d, seasons=NO_PLAN) for d in load_project(self.file).designs]
        self.assertEqual(bare, [replace(d, seasons=NO_PLAN) for d in demo_project().designs])

    def test_weather_formats_and_refusal(self) -> None:
        _, out, _ = self.call("import-weather", GREEN, "--format", "json")
        self.assertEqual(len(json.loads(out)["place"]["months"]), 12)
        _, out, _ = self.call("import-weather", GREEN, "--format", "csv")
        self.assertEqual(len(list(csv.DictReader(io.StringIO(out)))), 12)
        self.assertIn("neither an EPW", self.refused("import-weather", self.file))


class Process(Base):
    """The real program, in a process of its own."""

    def run_it(
        self, *arguments: object, run: tuple[str, ...] = ("-m", "calveth.cli.entry")
    ) -> subprocess.CompletedProcess[str]:
        clean = {
            k: v
            for k, v in os.environ.items()
            if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")
        }
        return subprocess.run(
            [sys.executable, *run, *map(str, arguments)],
            capture_output=True,
            encoding="utf-8",
            check=False,
            timeout=400,
            env={**clean, "XDG_DATA_HOME": str(self.folder)},
        )

    def test_demo_without_a_display_says_what_to_do(self) -> None:
        done = self.run_it("demo")
        self.assertEqual(done.returncode, 2)
        self.assertIn("--screenshots", done.stderr)
        self.assertNotIn("Traceback", done.stderr)

    def test_open_without_a_display(self) -> None:
        done = self.run_it("open", self.file)
        self.assertEqual(done.returncode, 2)
        self.assertIn("no display", done.stderr)

    def test_screenshots_of_every_main_view(self) -> None:
        # With few draws and no remedies: what is asked is that every view can be drawn.
        code = (
            "import sys\n"
            "from calveth.app.areas import questions_page, year_panel\n"
            "from calveth.app.engine import nodes\n"
            "from calveth.cli.main import main\n"
            "from calveth.core.assess import bands\n"
            "questions_page.DRAWS = nodes.YEAR_DRAWS = 2\n"
            "year_panel.STAGES = (0, 2)\n"
            "bands.DRAWS = 3\n"
            "nodes.remedies = lambda *asked: ()\n"
            "from calveth.app import season_years\n"
            "from calveth.core.assess import solved_shells as shells\n"
            "from calveth.core.diary import calibrate\n"
            "season_years.DRAWS = 1\n"
            "calibrate._STARTS, calibrate._MOST_RUNS = (0.7,), 1\n"
            "solve = shells.solved_shells\n"
            "shells.solved_shells = lambda *a, finer=1.0, **b: solve(*a, finer=0.45 * finer, **b)\n"
            "from calveth.app import pictures\n"
            f"pictures.VIEWS = pictures.VIEWS[:{None if LONG else 2}]\n"
            "sys.exit(main(sys.argv[1:]))\n"
        )
        target = self.folder / "shots"
        done = self.run_it("demo", "--screenshots", target, run=("-c", code))
        self.assertEqual(done.returncode, 0, done.stderr)
        names = sorted(p.name for p in target.iterdir())
        self.assertEqual(names, sorted(name for name, _ in VIEWS[: None if LONG else 2]))
        for path in target.iterdir():
            head = path.read_bytes()[:24]
            self.assertEqual(
                (int.from_bytes(head[16:20], "big"), int.from_bytes(head[20:24], "big")),
                (1280, 800),
            )

    def test_a_reader_that_leaves_early_is_no_error(self) -> None:
        done = subprocess.run(
            f'"{sys.executable}" -m calveth.cli.entry assess "{self.small}" | head -n 1',
            shell=True,
            capture_output=True,
            encoding="utf-8",
            check=False,
            timeout=60,
        )
        self.assertEqual(done.stderr, "")

    def test_usage_error(self) -> None:
        self.assertEqual(self.run_it("assess").returncode, 2)
        self.assertEqual(self.run_it("--version").returncode, 0)


if __name__ == "__main__":
    unittest.main()
