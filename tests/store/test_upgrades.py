"""Older files become today's in memory; no field is lost; hours of weather are kept."""

from __future__ import annotations

import contextlib
import dataclasses
import hashlib
import json
import shutil
import sqlite3
import unittest
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from calveth.catalogue.library import shipped_stock
from calveth.catalogue.shipped import demo_project
from calveth.core.calendar import FIRST_DAYS
from calveth.core.climate.hours import HourlyWeather
from calveth.core.edits import rename_design, set_place
from calveth.core.errors import DomainError
from calveth.core.project import Project
from calveth.core.records.diary import Diary, StandingHive
from calveth.core.workshop.stock import Workshop
from calveth.store.errors import DocumentError, FileError
from calveth.store.json_file import project_from_json, project_to_json, read_json
from calveth.store.project_file import ProjectFile, load_project
from calveth.store.upgrades import VERSION, upgraded
from calveth.store.weather import import_weather
from tests.store.test_tables_and_lists import OLD, Folder
from tests.store.test_weather import GREEN

PROJECT = demo_project()


def a_year(shift: float = 0.0) -> HourlyWeather:
    """Return a made-up year with a gap."""
    hours = np.arange(8760)
    degc = 8 + shift + 10 * np.sin(hours / 8760 * 2 * np.pi)
    degc[100:110] = np.nan
    return HourlyWeather({"temperature_degc": degc, "wind_m_s": np.full(8760, 3.3)})


def kept(old: Any, new: Any) -> Any:
    """Return what is left of new where old has a key: the same as old where nothing was lost."""
    if isinstance(old, dict) and isinstance(new, dict):
        return {key: kept(old[key], new.get(key)) for key in old}
    if isinstance(old, list) and isinstance(new, list) and len(old) == len(new):
        return [kept(a, b) for a, b in zip(old, new, strict=True)]
    return new


class Older(Folder):
    def test_version_3_reads_unchanged_and_its_months_become_periods(self) -> None:
        path = self.folder / "v3.calveth"
        shutil.copy(OLD / "version-3.calveth", path)
        before = hashlib.sha256(path.read_bytes()).hexdigest()
        project = load_project(path)
        self.assertEqual(hashlib.sha256(path.read_bytes()).hexdigest(), before)
        plan = project.design("composite").seasons
        # Kept by the program of that version: (low share, quilt, cover) of the twelve months.
        was = [(0.3, 1, 1)] * 3 + [(0.6, 1, 1), (1.0, 0, 1)] + [(1.0, 0, 0)] * 3
        was += [(1.0, 0, 1)] + [(0.3, 1, 1)] * 3
        settings = [plan.in_month(k) for k in range(12)]
        self.assertEqual([(s.share("low", 9), s.quilt, s.cover) for s in settings], was)
        self.assertEqual(len(plan.periods), 5)
        self.assertFalse(project.design("timber").seasons)
        self.assertEqual(read_json(OLD / "schema-3.json"), project)

    def test_the_first_edit_rewrites_all_of_it(self) -> None:
        path = self.folder / "v3.calveth"
        shutil.copy(OLD / "version-3.calveth", path)
        with ProjectFile.open(path) as file:
            project = file.read()
            edited = rename_design(project, "timber", "Anew")
            file.write(project, edited)
        with sqlite3.connect(path) as raw:
            self.assertEqual(raw.execute("PRAGMA user_version").fetchone()[0], VERSION)
            text = raw.execute("SELECT json FROM design WHERE id = 'composite'").fetchone()[0]
        self.assertIn("periods", json.loads(text)["seasons"])
        self.assertEqual(load_project(path), edited)

    def test_sheets_of_older_files_say_that_they_are(self) -> None:
        for name in ("version-1", "version-2", "version-3"):
            path = self.folder / f"{name}.calveth"
            shutil.copy(OLD / f"{name}.calveth", path)
            sheets = {m.id for m in load_project(path).materials if m.is_sheet}
            used = {m.id for m in load_project(path).materials}
            wanted = {m.id for m in PROJECT.materials if m.is_sheet}
            self.assertEqual(sheets, wanted & used)

    def test_version_4_keeps_its_fields_and_materials_say_how_they_are_sold(self) -> None:
        path = self.folder / "v4.calveth"
        shutil.copy(OLD / "version-4.calveth", path)
        before = hashlib.sha256(path.read_bytes()).hexdigest()
        project = load_project(path)
        self.assertEqual(hashlib.sha256(path.read_bytes()).hexdigest(), before)
        self.assertEqual(read_json(OLD / "schema-4.json"), project)
        wanted = {m.id: m.bought_as for m in PROJECT.materials}
        for material in project.materials:
            self.assertEqual(material.bought_as, wanted[material.id], material.id)
        self.assertEqual(project.workshop, Workshop())
        raw = json.loads((OLD / "schema-4.json").read_text(encoding="utf-8"))["project"]
        now = json.loads(project_to_json(project))["project"]
        self.assertEqual(kept(raw["designs"], now["designs"]), raw["designs"])

    def opened_whole(self, version: int) -> tuple[Path, Project]:
        """Open a copy of an old file; every field of it, and of the JSON beside it, is there."""
        path = self.folder / f"v{version}.calveth"
        shutil.copy(OLD / f"version-{version}.calveth", path)
        project = load_project(path)
        text = (OLD / f"schema-{version}.json").read_text(encoding="utf-8")
        self.assertEqual(read_json(OLD / f"schema-{version}.json"), project)
        raw, now = json.loads(text)["project"], json.loads(project_to_json(project))["project"]
        self.assertEqual({key: kept(raw[key], now[key]) for key in raw}, raw)
        return path, project

    def test_version_5_keeps_every_field(self) -> None:
        _, project = self.opened_whole(5)
        self.assertIsNone(project.place.shade)
        self.assertEqual(project.colony.nectar_kg_day, (0.0,) * 12)

    def test_version_7_keeps_its_diary_and_its_first_edit_makes_room_for_logs(self) -> None:
        """Written by the program of that version: two hives, two inspections, an act ticked."""
        path, project = self.opened_whole(7)
        self.assertEqual([h.id for h in project.diary.hives], ["hive-1", "hive-2"])
        self.assertEqual(len(project.diary.inspections), 2)
        self.assertEqual(project.diary.done, ("plan/hive-1/2025-10-01",))
        self.assertEqual(project.diary.logs, ())
        with ProjectFile.open(path) as file:
            before = file.read()
            edited = rename_design(before, "composite", "Anew")
            file.write(before, edited)
        with sqlite3.connect(path) as db:
            tables = {n for (n,) in db.execute("SELECT name FROM sqlite_schema")}
            self.assertEqual(db.execute("PRAGMA user_version").fetchone()[0], VERSION)
        self.assertIn("kept", tables)
        self.assertNotIn("sample", tables)
        self.assertEqual(load_project(path), edited)

    def test_version_8_keeps_its_stock_and_has_nothing_at_hand(self) -> None:
        """Written by the program of that version: twelve sizes, one with a price, a thin saw."""
        _, project = self.opened_whole(8)
        self.assertEqual(len(project.workshop.items), 12)
        self.assertEqual(project.workshop.items[0].price, 7.5)
        self.assertEqual({(i.have, i.more) for i in project.workshop.items}, {(0, True)})
        self.assertEqual(project.workshop.kerf_m, 0.002)

    def test_version_9_keeps_its_hours_and_snow_lies_on_its_lids(self) -> None:
        """Written by the program of that version: hours without sun, three of a size at hand."""
        _, project = self.opened_whole(9)
        assert project.place.hours is not None
        self.assertEqual(set(project.place.hours.columns), {"temperature_degc", "wind_m_s"})
        self.assertFalse(project.place.snow_brushed)
        # A file names its hours by their digest: the same numbers have the same one for ever.
        with contextlib.closing(sqlite3.connect(OLD / "version-9.calveth")) as db:
            named = {digest for (digest,) in db.execute("SELECT digest FROM weather")}
        self.assertEqual(named, {project.place.hours.digest})
        self.assertEqual(project.workshop.items[0].have, 3)

    def test_twelve_different_months_begin_on_their_first_days(self) -> None:
        months = [{"open_shares": [["low", k / 12]]} for k in range(12)]
        made = upgraded({"designs": [{"id": "a", "seasons": months}]}, 3)
        periods = made["designs"][0]["seasons"]["periods"]
        self.assertEqual([p["from_day"] for p in periods], [d + 1 for d in FIRST_DAYS])
        self.assertEqual([p["setting"] for p in periods], months)

    def test_a_step_refuses_what_its_version_never_had(self) -> None:
        with self.assertRaisesRegex(DocumentError, "a year has 12"):
            upgraded({"designs": [{"seasons": [{}] * 11}]}, 3)
        self.assertEqual(upgraded(["no object"], 1), ["no object"])


class Complete(Folder):
    def test_no_field_of_a_project_is_lost_by_the_file(self) -> None:
        path = self.folder / "p.calveth"
        other = {
            "name": "another",
            "school": "breathing top",
            "honey_price_eur_kg": 11.0,
            "years_of_use": 3.0,
            "colony": replace(PROJECT.colony, stores_kg=17.0),
            "place": replace(PROJECT.place, name="elsewhere", hours=a_year()),
            "materials": (*PROJECT.materials[:-1], replace(PROJECT.materials[-1], name="other")),
            "designs": PROJECT.designs[1:],
            "workshop": shipped_stock()[1].workshop,
            "diary": Diary(
                hives=(
                    StandingHive(
                        id="h", name="H", design=PROJECT.designs[1].id, since="2026-01-01"
                    ),
                )
            ),
        }
        self.assertEqual(set(other), {f.name for f in dataclasses.fields(Project)})
        ProjectFile.create(path, PROJECT).close()
        now = PROJECT
        for name, value in other.items():
            with self.subTest(field=name), ProjectFile.open(path) as file:
                after = replace(now, **{name: value})  # type: ignore[arg-type]
                file.write(now, after)
                now = after
                self.assertEqual(getattr(load_project(path), name), value)


class Hours(Folder):
    def test_hours_stay_in_file_and_json(self) -> None:
        place = replace(PROJECT.place, hours=a_year())
        project = replace(PROJECT, place=place)
        path = self.folder / "h.calveth"
        ProjectFile.create(path, project).close()
        again = load_project(path)
        assert again.place.hours is not None
        np.testing.assert_array_equal(
            again.place.hours.columns["temperature_degc"],
            a_year().columns["temperature_degc"],
        )
        self.assertEqual(again, project)
        self.assertEqual(project_from_json(project_to_json(project)), project)
        with ProjectFile.open(path) as file:
            other = set_place(project, replace(place, hours=a_year(1.0)))
            file.write(project, other)
            file.write(other, PROJECT)
        with sqlite3.connect(path) as raw:
            self.assertEqual(raw.execute("SELECT count(*) FROM weather").fetchone()[0], 0)
        self.assertEqual(load_project(path), PROJECT)

    def test_hours_a_file_lost_are_told(self) -> None:
        project = replace(PROJECT, place=replace(PROJECT.place, hours=a_year()))
        path = self.folder / "h.calveth"
        ProjectFile.create(path, project).close()
        with sqlite3.connect(path) as raw:
            raw.execute("DELETE FROM weather")
        with self.assertRaisesRegex(FileError, "the year of weather the place names is not in"):
            load_project(path)

    def test_an_imported_year_keeps_its_hours(self) -> None:
        place = import_weather(GREEN).place
        assert place.hours is not None
        self.assertLess(0, float(place.hours.columns["global_sun_w_m2"].max()))
        mean = float(np.nanmean(place.hours.columns["temperature_degc"][:744]))
        self.assertAlmostEqual(mean, place.months[0].temperature_degc, delta=0.06)

    def test_refusals(self) -> None:
        for columns, said in (
            ({"sunspots": np.zeros(8760)}, "is not known"),
            ({"wind_m_s": np.zeros(8000)}, "a year has 8760"),
            ({"wind_m_s": np.full(8760, 99.0)}, "outside 0 to 60"),
        ):
            with self.assertRaisesRegex(DomainError, said):
                HourlyWeather(columns)
        with self.assertRaises(ValueError):
            a_year().columns["wind_m_s"][0] = 1.0


if __name__ == "__main__":
    unittest.main()
