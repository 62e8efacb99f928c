"""JSON in and out, strict, and the document in docs/file-format.md works as it stands."""

from __future__ import annotations

import copy
import json
import os
import re
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from typing import Any
from unittest import mock

from calveth.catalogue.shipped import demo_project
from calveth.core.assess.result import assess_months
from calveth.core.project import Project
from calveth.core.records.blob import Blob
from calveth.core.records.diary import MOST_PHOTOS_BYTES
from calveth.store import json_file
from calveth.store.converter import DocumentError, from_document, to_document
from calveth.store.errors import FileError
from calveth.store.json_file import project_from_json, project_to_json, read_json, write_json
from calveth.store.upgrades import VERSION
from tests.cases import hive_case
from tests.diary.cases import KEPT, WINTER

PROJECT = demo_project()
ROOT = Path(__file__).resolve().parents[2]


class RoundTrip(unittest.TestCase):
    def test_text_and_back(self) -> None:
        self.assertEqual(project_from_json(project_to_json(PROJECT)), PROJECT)

    def test_file_and_back(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "x.json"
            write_json(path, PROJECT)
            self.assertEqual(read_json(path), PROJECT)
            self.assertEqual([p.name for p in Path(folder).iterdir()], ["x.json"])

    def test_keys_carry_units(self) -> None:
        bare: list[str] = []
        free = {
            "frame_count",
            "box_count",
            "from_day",
            "free_share",
            "brood_share",
            "relative_humidity",
            "vapour_resistance_factor",
            "emissivity",
            "last_forage_week",
            "first_forage_week",
            "schema",
            "mixed_share",
            "propolis_share",
            "mesh_share",
            "count",
            "open_shares",
            "wet_vapour_resistance_factor",
            "moisture_conversion",
            "moisture_50",
            "moisture_80",
            "solar_absorptance",
            "first_snow_week",
            "last_snow_week",
            "years_of_use",
            "frames_in_use",
        }
        units = (
            "_m",
            "_degc",
            "_k",
            "_m_s",
            "_kg",
            "_deg",
            "_w_mk",
            "_kg_m3",
            "_j_kgk",
            "_w_kg",
            "_w_k_kg23",
            "_mm",
            "_m2_m",
            "_1_k",
            "_g_m2",
            "_kg_m2_h05",
            "_eur_m3",
            "_eur_kg",
            "_kg_day",
        )

        def walk(value: Any, key: str) -> None:
            if isinstance(value, dict):
                for name, item in value.items():
                    walk(item, name)
            elif isinstance(value, list):
                for item in value:
                    walk(item, key)
            elif (
                isinstance(value, float | int)
                and not isinstance(value, bool)
                and key not in free
                and not key.endswith(units)
            ):
                bare.append(key)

        walk(json.loads(project_to_json(PROJECT)), "")
        self.assertEqual(bare, [])


class Strictness(unittest.TestCase):
    def setUp(self) -> None:
        self.document = json.loads(project_to_json(PROJECT))

    def spoil(self, path: str, value: Any) -> str:
        """Return the sentence about a document with one field changed."""
        document = copy.deepcopy(self.document)
        *parents, last = path.split(".")
        place: Any = document
        for part in parents:
            place = place[int(part)] if part.isdigit() else place[part]
        if value is KeyError:
            del place[last]
        else:
            place[int(last) if last.isdigit() else last] = value
        with self.assertRaises(DocumentError) as caught:
            project_from_json(json.dumps(document))
        return str(caught.exception)

    def test_each_wrong_field_is_named(self) -> None:
        rows: tuple[tuple[str, Any, str], ...] = (
            ("project.designs.0.shell.walls.0.thickness_m", "0.04", "thickness_m"),
            ("project.designs.0.shell.walls.0.thickness_m", -1, "layer thickness"),
            ("project.designs.0.shell.walls.0.thickness_m", float("nan"), "NaN is not a number"),
            ("project.designs.0.shell.walls.0.thickness_m", float("inf"), "walls[0].thickness_m"),
            ("project.designs.0.shell.walls.0.thickness_m", True, "thickness_m"),
            ("project.designs.0.shell.walls.0.thickness_m", None, "thickness_m"),
            ("project.designs.0.shell.walls.0.material", "unobtainium", "unobtainium"),
            ("project.designs.0.shell.walls.0.colour", "red", "colour"),
            ("project.designs.0.shell.walls", [], "at least one layer"),
            ("project.designs.0.benchmark", "false", "benchmark"),
            ("project.designs.0.name", 5, "name"),
            ("project.designs.0.form.kind", "pyramid", "kind"),
            ("project.designs.0.form.frame_count", 9.5, "frame_count"),
            ("project.designs.0.openings.0.width_m", 3.0, "wider"),
            ("project.designs.0.joints", "glued", "joints"),
            ("project.designs", [], "at least one design"),
            ("project.place.latitude_deg", 95, "latitude"),
            ("project.place.months.2.relative_humidity", 89, "relative humidity"),
            ("project.place.months", [], "a year has 12"),
            ("project.place.altitude_m", KeyError, "altitude_m"),
            ("project.colony.mass_kg.3", "lots", "mass_kg"),
            ("project.materials.0.conductivity_w_mk", 0, "conductivity"),
            ("project.materials.0.hatch", "tartan", "hatch"),
            ("project.designs.0", 5, "designs"),
            ("project.place", [], "place"),
            ("project.designs.0.shell.walls.0", "board", "walls"),
            ("project.extra", 1, "extra"),
            ("schema", VERSION + 1, "newer"),
            ("schema", 0, "schema"),
            ("schema", "1", "schema"),
            ("format", "something", "format"),
            ("project", KeyError, "project"),
            ("more", 1, "more"),
        )
        for path, value, part in rows:
            with self.subTest(path=path, value=value):
                said = self.spoil(path, value)
                self.assertIn(part, said)
                self.assertNotIn("Traceback", said)
                self.assertLess(len(said), 400)

    def test_text_that_is_not_json(self) -> None:
        for text, part in (
            ("", "line 1"),
            ('{"format": ', "not whole JSON"),
            ("[]", "format"),
            ("[" * 100000, "nested"),
        ):
            with self.subTest(text=text[:12]), self.assertRaises(DocumentError) as caught:
                project_from_json(text)
            self.assertIn(part, str(caught.exception))

    def test_files_that_are_not_text(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "x.json"
            path.write_bytes(b"\xff\xfe\x00picture")
            with self.assertRaises(FileError) as caught:
                read_json(path)
            self.assertIn("UTF-8", str(caught.exception))
            with self.assertRaises(FileError):
                write_json(Path(folder) / "no" / "x.json", PROJECT)

    def test_documents_of_parts(self) -> None:
        layer = to_document(PROJECT.designs[0].shell.walls[0])
        self.assertEqual((layer["material"], layer["thickness_m"]), ("eps-dense", 0.04))
        with self.assertRaises(DocumentError):
            from_document([], Project)


class TheDocumentedExample(unittest.TestCase):
    def test_written_by_hand_from_the_page_it_imports_and_is_assessed(self) -> None:
        page = (ROOT / "docs" / "file-format.md").read_text(encoding="utf-8")
        blocks = re.findall(r"```json\n(.*?)```", page, re.DOTALL)
        whole = [b for b in blocks if '"calveth-project"' in b]
        self.assertEqual(len(whole), 1)
        project = project_from_json(whole[0])
        monthly = assess_months(
            hive_case(project.designs[0], project.place, project.colony, project.material_table())
        )
        self.assertGreater(monthly.winter_honey_kg, 1)

    def test_the_page_names_every_key(self) -> None:
        page = (ROOT / "docs" / "file-format.md").read_text(encoding="utf-8")
        keys = set(re.findall(r'"(\w+)":', project_to_json(PROJECT)))
        self.assertEqual([key for key in sorted(keys) if f"`{key}`" not in page], [])


class ManyPhotographs(unittest.TestCase):
    def test_what_is_written_can_be_read_up_to_the_limit_of_the_diary(self) -> None:
        """Forty-odd photographs, the most a diary holds, through JSON and back."""
        picture = b"\xff\xd8" + os.urandom(MOST_PHOTOS_BYTES // 40 - 10)
        looks = tuple(
            replace(WINTER, id=f"p{k}", photos=(Blob(picture + bytes([k])),)) for k in range(39)
        )
        project = replace(KEPT, diary=replace(KEPT.diary, inspections=looks))
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "many.json"
            write_json(path, project)
            self.assertGreater(path.stat().st_size, 60_000_000)
            self.assertEqual(read_json(path), project)
            with (
                mock.patch.object(json_file, "LARGEST_BYTES", 1000),
                self.assertRaisesRegex(FileError, "could not be read again"),
            ):
                write_json(path, project)
            self.assertEqual(read_json(path), project)


if __name__ == "__main__":
    unittest.main()
