"""Tables, workbooks, lists of materials, weather as CSV, files of older versions, two windows."""

from __future__ import annotations

import csv
import io
import shutil
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from unittest import mock

import numpy as np
from openpyxl import load_workbook

from calveth.catalogue.library import shipped_places
from calveth.catalogue.shipped import demo_project, shipped_materials
from calveth.core.assess.result import assess_months
from calveth.core.calendar import MONTH_NAMES
from calveth.core.edits import rename_design
from calveth.core.hive.design import Design
from calveth.core.hive.forms import BarTrough, Form, HollowTree, LittleBoxes, StackedBoxes
from calveth.core.hive.joinery import Joinery
from calveth.core.hive.season_plan import NO_PLAN
from calveth.store.converter import to_document
from calveth.store.errors import FileError
from calveth.store.file_tables import FILE_VERSION
from calveth.store.json_file import read_json
from calveth.store.material_file import read_materials, write_materials
from calveth.store.project_file import ProjectFile, load_project
from calveth.store.tables import csv_text, write_csv, write_workbook
from calveth.store.weather import import_weather
from tests.cases import hive_case

OLD = Path(__file__).resolve().parents[1] / "projects"


class Folder(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def refused(self, act: object, *arguments: object) -> str:
        with self.assertRaises(FileError) as caught:
            act(*arguments)  # type: ignore[operator]
        said = str(caught.exception)
        self.assertLess(len(said), 300)
        self.assertNotIn("Traceback", said)
        return said


class Tables(Folder):
    rows = ({"name": "Müller's “hive”, 2", "kg": 1.5, "note": "=1+1"}, {"name": "b", "more": 2})

    def test_csv_and_back(self) -> None:
        path = self.folder / "x.csv"
        write_csv(path, self.rows)
        back = list(csv.DictReader(io.StringIO(path.read_text(encoding="utf-8"))))
        self.assertEqual(back[0]["name"], "Müller's “hive”, 2")
        self.assertEqual(back[0]["kg"], "1.5")
        self.assertEqual((back[1]["more"], back[1]["kg"]), ("2", ""))

    def test_no_cell_becomes_a_formula(self) -> None:
        self.assertIn("'=1+1", csv_text(self.rows))
        path = self.folder / "x.xlsx"
        write_workbook(path, {"t": self.rows})
        cell = load_workbook(path)["t"]["C2"]
        self.assertEqual((cell.value, cell.data_type), ("'=1+1", "s"))
        self.assertIn("-3", csv_text([{"n": -3}]))

    def test_workbook(self) -> None:
        path = self.folder / "x.xlsx"
        write_workbook(path, {"designs": self.rows, "a/very:long*name" * 4: [{"x": 1}]})
        book = load_workbook(path)
        self.assertEqual(book.sheetnames[0], "designs")
        self.assertLessEqual(len(book.sheetnames[1]), 31)
        self.assertEqual([c.value for c in book["designs"][1]], ["name", "kg", "note", "more"])
        self.assertEqual(book["designs"]["B2"].value, 1.5)
        self.assertEqual([p.name for p in self.folder.iterdir()], ["x.xlsx"])

    def test_nowhere_to_write(self) -> None:
        for act, data in ((write_csv, self.rows), (write_workbook, {"t": self.rows})):
            said = self.refused(act, self.folder / "no" / "x", data)
            self.assertIn("folder that does not exist", said)
        full = OSError(28, "disk is full on device")
        with mock.patch("openpyxl.Workbook.save", side_effect=full):
            said = self.refused(write_workbook, self.folder / "x.xlsx", {"t": self.rows})
        self.assertIn("disk is full", said)
        self.assertEqual(list(self.folder.iterdir()), [])


class MaterialLists(Folder):
    def test_out_and_in(self) -> None:
        path = self.folder / "m.json"
        write_materials(path, shipped_materials())
        self.assertEqual(read_materials(path), shipped_materials())

    def test_hostile_lists(self) -> None:
        path = self.folder / "m.json"
        good = to_document(shipped_materials()[0])
        for text, part in (
            ("", "not whole JSON"),
            ("[1", "not whole JSON"),
            ("{}", "format"),
            ('{"format": "calveth-materials", "materials": [{"id": 5}]}', "id"),
            ('{"format": "calveth-materials"}', "is not a list"),
        ):
            path.write_text(text, encoding="utf-8")
            with self.subTest(text=text[:20]):
                self.assertIn(part, self.refused(read_materials, path))
        path.write_bytes(b"\xff\xd8\xff\xe0 a photograph")
        self.assertIn("not UTF-8", self.refused(read_materials, path))
        self.assertIn("folder", self.refused(read_materials, self.folder))
        import json

        spoilt = {**good, "conductivity_w_mk": float("nan")}
        path.write_text(json.dumps({"format": "calveth-materials", "materials": [spoilt]}))
        self.assertIn("conductivity", self.refused(read_materials, path))


class WeatherCsv(Folder):
    def monthly(self, **changes: str) -> Path:
        place = shipped_places()[1].place
        lines = [
            "# name: Dorn",
            "# latitude_deg: 51.5",
            "# altitude_m: 210",
            "month,temperature_degc,daily_swing_k,relative_humidity_percent,wind_km_h,rain_mm",
        ]
        for k, m in enumerate(place.months):
            cells = [
                MONTH_NAMES[k],
                f"{m.temperature_degc}",
                f"{m.daily_swing_k}",
                f"{100 * m.relative_humidity}",
                f"{3.6 * m.wind_m_s}",
                f"{m.rain_mm}",
            ]
            lines.append(",".join(cells))
        for old, new in changes.items():
            lines = [line.replace(old.replace("_", " "), new) for line in lines]
        path = self.folder / "months.csv"
        path.write_text("\n".join(lines) + "\n", encoding="utf-8")
        return path

    def test_twelve_months_in_other_units(self) -> None:
        found = import_weather(self.monthly())
        place = shipped_places()[1].place
        self.assertEqual((found.kind, found.hours), ("CSV", 0))
        self.assertEqual((found.place.name, found.place.altitude_m), ("Dorn", 210))
        for got, expected in zip(found.place.months, place.months, strict=True):
            self.assertAlmostEqual(got.temperature_degc, expected.temperature_degc)
            self.assertAlmostEqual(got.relative_humidity, expected.relative_humidity)
            self.assertAlmostEqual(got.wind_m_s, expected.wind_m_s, places=3)
            self.assertAlmostEqual(got.rain_mm, expected.rain_mm)

    def hours(
        self, count: int = 8760, *, gap: slice | None = None, semicolon: bool = False
    ) -> Path:
        k = np.arange(count)
        t = 50 - 27 * np.cos(2 * np.pi * k / 8760) + 9 * np.sin(2 * np.pi * k / 24)
        lines = ["time,temperature_degf,relative_humidity,wind_mph,rain_in"]
        for n in range(count):
            cell = "" if gap is not None and gap.start <= n < gap.stop else f"{t[n]:.2f}"
            lines.append(f"{n},{cell},0.8,5,0.004")
        text = "\n".join(lines)
        if semicolon:
            text = text.replace(",", ";").replace(".", ",")
        path = self.folder / "hours.csv"
        path.write_text(text, encoding="utf-8")
        return path

    def test_hours_in_fahrenheit(self) -> None:
        for semicolon in (False, True):
            found = import_weather(self.hours(semicolon=semicolon))
            january = found.place.months[0]
            self.assertEqual(found.hours, 8760)
            self.assertAlmostEqual(january.temperature_degc, (24 - 32) / 1.8, delta=1.0)
            self.assertAlmostEqual(january.daily_swing_k, 10.0, delta=0.5)
            self.assertAlmostEqual(january.wind_m_s, 5 * 0.44704, delta=0.01)
            self.assertAlmostEqual(january.rain_mm, 31 * 24 * 0.004 * 25.4, delta=0.5)

    def test_gaps_are_told(self) -> None:
        found = import_weather(self.hours(gap=slice(100, 104)))
        self.assertTrue(any("4 hours missing, 4 filled" in note for note in found.notes))
        said = self.refused(import_weather, self.hours(gap=slice(10, 500)))
        self.assertIn("January", said)

    def test_spoilt_files(self) -> None:
        rows = (
            ("temperature_degc,colour\n1,red\n", "colour"),
            ("temperature_degc,wind_m_s\n1,2\n3\n", "line 3 has 1 cells"),
            ("temperature_degc,wind_m_s\n" + "1,2\n" * 100, "100 hours"),
            ("temperature_degc,wind_m_s\n" + "1,2\n" * 12, "no column relative_humidity"),
            ("# altitude_m: high\ntemperature_degc\n1\n", "altitude_m: high"),
            ("nonsense\n1\n", "neither an EPW"),
        )
        path = self.folder / "w.csv"
        for text, part in rows:
            path.write_text(text, encoding="utf-8")
            with self.subTest(part=part):
                self.assertIn(part, self.refused(import_weather, path))
        path.write_bytes(b"temperature_degc,wind_m_s\n\x00,2\n")
        self.assertIn("is no text", self.refused(import_weather, path))

    def test_as_other_programs_write_it(self) -> None:
        """Semicolons and decimal commas, Latin-1 in the name, a byte order mark, tabs."""
        plain = self.monthly()
        whole = import_weather(plain).place
        text = plain.read_text(encoding="utf-8")
        path = self.folder / "w.csv"
        for made in (
            text.replace(",", ";").replace(".", ",").encode("utf-8-sig"),
            text.replace(",", "\t").encode("utf-16"),
            text.replace("\n", "\r\n").encode("cp1252"),
        ):
            path.write_bytes(made)
            with self.subTest(made=made[:30]):
                self.assertEqual(import_weather(path).place.months, whole.months)

    def test_a_month_without_a_figure(self) -> None:
        path = self.monthly()
        text = path.read_text(encoding="utf-8").replace("March,-7.0", "March,")
        path.write_text(text, encoding="utf-8")
        self.assertIn("month 3 has no temperature_degc", self.refused(import_weather, path))
        path.write_text(text.replace("March,", "March,-99"), encoding="utf-8")
        self.assertIn("month 3", self.refused(import_weather, path))


class OlderFiles(Folder):
    def test_version_1_opens_upgrades_and_is_worked_out(self) -> None:
        path = self.folder / "old.calveth"
        shutil.copy(OLD / "version-1.calveth", path)
        with ProjectFile.open(path) as file:
            project = file.read()
            file.write(project, rename_design(project, project.designs[0].id, "New name"))
        self.assertEqual(project.name, "Kept from file version 1")
        self.assertEqual(project.school, "sealed warm top")
        self.assertEqual(project.designs[0].seasons, NO_PLAN)
        again = load_project(path)
        self.assertEqual(again.designs[0].name, "New name")
        import sqlite3

        version = sqlite3.connect(path).execute("PRAGMA user_version").fetchone()[0]
        self.assertEqual(version, FILE_VERSION)
        year = assess_months(
            hive_case(project.designs[0], project.place, project.colony, project.material_table())
        )
        self.assertGreater(year.winter_honey_kg, 3)

    def test_schema_1_reads(self) -> None:
        project = read_json(OLD / "schema-1.json")
        self.assertEqual([d.id for d in project.designs], ["polystyrene", "timber"])
        self.assertEqual(project.designs[0].shell.walls[0].fitting, "fixed")

    def test_version_2_opens_with_the_joints_it_was_drawn_with(self) -> None:
        path = self.folder / "old.calveth"
        shutil.copy(OLD / "version-2.calveth", path)
        with ProjectFile.open(path) as file:
            project = file.read()
        self.assertEqual(project.name, "Kept from file version 2")
        timber = project.design("timber")
        self.assertEqual(timber.joinery, Joinery())
        self.assertEqual((timber.lid_slope_deg, timber.lid_shape), (4.0, "sloped"))
        self.assertEqual(read_json(OLD / "schema-2.json"), project)

    def test_every_form_and_joint_goes_through_the_file(self) -> None:
        project = demo_project()
        forms: tuple[Form, ...] = (
            BarTrough(bar_count=20, frames_in_use=8),
            LittleBoxes(),
            HollowTree(),
            StackedBoxes(frame_count=20, frames_in_use=9, beyond="second colony"),
        )
        designs = tuple(
            Design(
                id=f"d{k}",
                name=f"Form {k}",
                form=form,
                shell=project.designs[0].shell,
                openings=(),
                lid_shape="domed",
                lid_slope_deg=5.0,
                joinery=Joinery(lid="rebate", corner="posts", stand="legs"),
            )
            for k, form in enumerate(forms)
        )
        built = replace(project, designs=designs)
        path = self.folder / "forms.calveth"
        ProjectFile.create(path, built).close()
        self.assertEqual(load_project(path), built)


class TwoWindows(Folder):
    def test_the_second_edit_is_refused_and_nothing_is_lost(self) -> None:
        path = self.folder / "shared.calveth"
        project = demo_project()
        ProjectFile.create(path, project).close()
        mine, theirs = ProjectFile.open(path), ProjectFile.open(path)
        try:
            a, b = mine.read(), theirs.read()
            first = rename_design(a, "timber", "Mine")
            mine.write(a, first)
            second = rename_design(b, "timber", "Theirs")
            said = self.refused(theirs.write, b, second)
            self.assertIn("another window", said)
            self.assertIn("save it under another name", said)
            self.assertEqual(load_project(path), first)
            third = rename_design(first, "aircrete", "Mine too")
            mine.write(first, third)
            self.assertEqual(load_project(path), third)
            rescued = self.folder / "rescued.calveth"
            ProjectFile.create(rescued, second).close()
            self.assertEqual(load_project(rescued), second)
        finally:
            mine.close()
            theirs.close()


if __name__ == "__main__":
    unittest.main()
