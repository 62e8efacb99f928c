"""``calveth diary``, ``due``, ``log``, ``calibrate``: a file read, a hive explained, refusals."""

from __future__ import annotations

import io
import json
import tempfile
import unittest
from contextlib import redirect_stderr, redirect_stdout
from dataclasses import replace
from pathlib import Path
from unittest import mock

import icalendar
import numpy as np

from calveth.cli.edit import edit_project
from calveth.cli.main import main
from calveth.core.diary import calibrate as calibrate_module
from calveth.core.diary.samples import unpacked
from calveth.core.project import Project
from calveth.store.log_csv import read_log
from calveth.store.project_file import ProjectFile, load_project
from tests.app.test_logs import BOATHOUSE, boathouse
from tests.cases import explain_in_short, solve_coarsely

TAKE = (
    "--take",
    "lid °C=under the lid",
    "--take",
    "lid %=under the lid",
    "--take",
    "lid CO2 ppm=under the lid",
    "--take",
    "outside °C=outside",
)


class DiaryCommands(unittest.TestCase):
    def setUp(self) -> None:
        solve_coarsely(self)
        explain_in_short(self)
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.path = self.folder / "kept.calveth"
        ProjectFile.create(self.path, boathouse()).close()

    def run_(self, *words: str) -> tuple[int, str, str]:
        out, err = io.StringIO(), io.StringIO()
        with redirect_stdout(out), redirect_stderr(err):
            code = main(list(words))
        return code, out.getvalue(), err.getvalue()

    def import_(self, *more: str) -> tuple[int, str, str]:
        return self.run_(
            "log",
            "import",
            str(BOATHOUSE),
            "--into",
            str(self.path),
            "--hive",
            "Boathouse",
            "--zone",
            "Etc/GMT-1",
            *more,
        )

    def test_a_log_comes_in_and_says_what_was_read(self) -> None:
        code, text, _ = self.import_(*TAKE)
        self.assertEqual(code, 0)
        self.assertIn("lid °C: 3168 samples of temperature, under the lid", text)
        # A scale is where a scale is, without being told.
        self.assertIn("scale kg: 3168 samples of weight, scale", text)
        logs = load_project(self.path).diary.logs
        self.assertEqual(len(logs), 5)
        self.assertEqual({g.file for g in logs}, {"boathouse.csv"})
        self.assertEqual({len(g.sha256) for g in logs}, {64})
        before = load_project(self.path)
        self.assertEqual(self.import_(*TAKE)[0], 0)
        self.assertEqual(load_project(self.path), before)

    def test_samples_go_out_and_come_in_again(self) -> None:
        self.import_(*TAKE)
        out = self.folder / "out.csv"
        code, text, _ = self.run_(
            "log", "export", str(out), "--into", str(self.path), "--hive", "Boathouse"
        )
        self.assertEqual(code, 0)
        self.assertIn("3168 rows of 5 logs", text)
        back = {c.name: c.series for c in read_log(out, "UTC").columns}
        self.assertEqual(len(back), 5)
        for log in load_project(self.path).diary.logs:
            series = unpacked(log.chunks, log.quantity)
            name = next(
                n for n in back if n.startswith(log.at) and back[n].quantity == log.quantity
            )
            self.assertTrue((back[name].minutes == series.minutes).all())
            np.testing.assert_allclose(back[name].values, series.values, rtol=0, atol=1e-5)

    def test_why_and_what_the_logs_tell_and_taken_over(self) -> None:
        self.import_(*TAKE)
        # With the model's own error these logs tell of the leakage too little to take over.
        with mock.patch.multiple(calibrate_module, _STARTS=(0.7,), _MOST_RUNS=4, MODEL_ERROR=1.0):
            code, text, _ = self.run_(
                "calibrate",
                str(self.path),
                "--hive",
                "Boathouse",
                "--format",
                "json",
                "--take-over",
            )
        record = json.loads(text)
        self.assertEqual(
            (code, record["season"], record["hours_of_weather_logged"]), (0, 2024, 3168)
        )
        leak = next(f for f in record["factors"] if f["factor"] == "leakage")
        # The truth the apiary was made with is 2.
        self.assertLess(leak["low_90"], 2.0)
        self.assertGreater(leak["high_90"], 2.0)
        self.assertGreater(leak["value"], 1.2)
        self.assertIn("as worked out", [e["why"] for e in record["explanations"]])
        factors = load_project(self.path).design("plain-boards").factors
        assert factors is not None
        self.assertGreater(factors.leakage, 1.2)
        self.assertIn("Boathouse", factors.note)

    def test_what_another_program_wrote_meanwhile_stays(self) -> None:
        """Between reading the file and writing it a window renames the project."""
        told: list[int] = []

        def change(now: Project) -> Project:
            if not told:
                told.append(1)
                with ProjectFile.open(self.path) as other:
                    before = other.read()
                    other.write(before, replace(before, name="renamed meanwhile"), patient=True)
            return replace(now, honey_price_eur_kg=99.0)

        edit_project(self.path, change)
        found = load_project(self.path)
        self.assertEqual((found.name, found.honey_price_eur_kg), ("renamed meanwhile", 99.0))

    def test_inspections_by_hand_come_in_as_json(self) -> None:
        rows = [
            {"hive": "hive-2", "at": "2025-01-07T13:00", "stores_kg": 14.0, "floor": "wet"},
            {"id": "mine", "hive": "hive-2", "at": "2025-01-21T13:00", "seams": 5.5},
        ]
        given = self.folder / "looks.json"
        given.write_text(json.dumps({"inspections": rows}), encoding="utf-8")
        before = len(load_project(self.path).diary.inspections)
        code, text, _ = self.run_("diary", str(self.path), "--read", str(given))
        self.assertEqual(code, 0)
        self.assertIn("2025-01-07T13:00 Boathouse", text)
        looks = {i.id: i for i in load_project(self.path).diary.inspections}
        self.assertEqual(len(looks), before + 2)
        self.assertEqual(looks["mine"].seams, 5.5)
        # Again: the one with an id is replaced, the other is another inspection.
        rows[1]["seams"] = 6.0
        given.write_text(json.dumps(rows[1:]), encoding="utf-8")
        self.assertEqual(self.run_("diary", str(self.path), "--read", str(given))[0], 0)
        self.assertEqual(len(load_project(self.path).diary.inspections), before + 2)

    def test_what_is_due_as_a_calendar(self) -> None:
        target = self.folder / "due.ics"
        code, _, _ = self.run_("due", str(self.path), "-o", str(target))
        self.assertEqual(code, 0)
        events = icalendar.Calendar.from_ical(target.read_bytes()).walk("VEVENT")
        self.assertGreater(len(events), 2)

    def test_refusals_are_one_sentence_and_change_nothing(self) -> None:
        bad = self.folder / "bad.json"
        bad.write_text('[{"hive": "hive-9", "at": "2025-01-07T13:00"}]', encoding="utf-8")
        odd = self.folder / "odd.json"
        odd.write_text('[{"hive": "hive-2", "at": "2025-02-30T13:00"}]', encoding="utf-8")
        cut = self.folder / "cut.json"
        cut.write_text('[{"hive": ', encoding="utf-8")
        before = load_project(self.path)
        project = str(self.path)
        for words, said in (
            (("diary", project, "--read", str(bad)), "not there"),
            (("diary", project, "--read", str(odd)), "no date and hour"),
            (("diary", project, "--read", str(cut)), "not whole JSON"),
            (("diary", project, "--read", str(self.folder / "none.json")), "none.json"),
            (("calibrate", project, "--hive", "Nobody"), "--hive"),
            (("calibrate", project, "--hive", "Boathouse", "--season", "1990"), "is empty"),
            (("calibrate", project, "--hive", "Boathouse", "--season", "x"), "is no year"),
            (("log", "import", str(BOATHOUSE)), "--into"),
            (
                (
                    "log",
                    "import",
                    str(BOATHOUSE),
                    "--into",
                    project,
                    "--take",
                    "lid °C=under the lid",
                ),
                "--hive",
            ),
            (
                (
                    "log",
                    "import",
                    str(BOATHOUSE),
                    "--into",
                    project,
                    "--hive",
                    "Boathouse",
                    "--take",
                    "lid °C=in the sky",
                ),
                "no place of a probe",
            ),
            (
                (
                    "log",
                    "import",
                    str(BOATHOUSE),
                    "--into",
                    project,
                    "--hive",
                    "Boathouse",
                    "--take",
                    "window °C=outside",
                ),
                "is no column",
            ),
            (
                (
                    "log",
                    "import",
                    str(BOATHOUSE),
                    "--into",
                    project,
                    "--hive",
                    "Boathouse",
                    "--take",
                    "outside °C=under the lid",
                    "--take",
                    "lid °C=outside",
                ),
                "swapped",
            ),
        ):
            with self.subTest(words=words[2:]):
                code, _, err = self.run_(*words)
                self.assertEqual((code, err.count("\n")), (2, 1), err)
                self.assertIn(said, err)
        self.assertEqual(load_project(self.path), before)

    def test_without_logs_nothing_can_be_taken_over(self) -> None:
        project = boathouse()
        bare = replace(project, diary=replace(project.diary, logs=()))
        path = self.folder / "bare.calveth"
        ProjectFile.create(path, bare).close()
        code, text, _ = self.run_("calibrate", str(path), "--hive", "hive-2", "--take-over")
        self.assertEqual(code, 0)
        self.assertIn("nights of logs", text)
        self.assertIsNone(load_project(path).design("plain-boards").factors)


if __name__ == "__main__":
    unittest.main()
