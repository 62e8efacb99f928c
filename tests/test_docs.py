"""What the documents print is run as it stands: examples, commands, keys and packages."""

from __future__ import annotations

import argparse
import contextlib
import doctest
import importlib
import inspect
import io
import json
import os
import re
import runpy
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from calveth.cli.main import build_parser, main, with_command
from calveth.store.json_file import read_json
from calveth.store.weather import import_weather

ROOT = Path(__file__).resolve().parents[1]
FORMATS = (ROOT / "docs" / "file-format.md").read_text(encoding="utf-8")
README = (ROOT / "README.md").read_text(encoding="utf-8")


def blocks(text: str, kind: str) -> list[str]:
    """Return the fenced blocks of a kind."""
    return re.findall(rf"^```{kind}\n(.*?)^```$", text, re.MULTILINE | re.DOTALL)


class Examples(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def call(self, *arguments: object) -> str:
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            code = main([str(a) for a in arguments])
        self.assertEqual((code, err.getvalue()), (0, ""), arguments)
        return out.getvalue()

    def test_the_project_by_hand_through_every_command(self) -> None:
        """The page calls it complete: a place without snow, colony curves of two fields."""
        (text,) = blocks(FORMATS, "json")
        mine = self.folder / "mine.json"
        mine.write_text(text, encoding="utf-8")
        project = read_json(mine)
        own = self.folder / "mine.calveth"
        self.call("import", mine, "-o", own)
        self.assertEqual(own.stat().st_size % 4096, 0)
        for command in ("assess", "compare", "findings"):
            with self.subTest(command=command):
                self.assertTrue(self.call(command, mine))
        self.assertIn("W/K", self.call("conduct", mine, "--design", project.designs[0].id))
        self.assertIn("cm", self.call("sweep", own, "--design", "box"))
        for name in ("mine.pdf", "mine.xlsx"):
            self.call("report", own, "-o", self.folder / name)
            self.assertGreater((self.folder / name).stat().st_size, 2000)

    def test_the_weather_of_the_help(self) -> None:
        page = ROOT / "src" / "calveth" / "app" / "help" / "formats.md"
        (text,) = blocks(page.read_text(encoding="utf-8"), "")
        rows = next(line for line in text.splitlines() if line.startswith("1,"))
        months = "\n".join(f"{k}{rows[1:]}" for k in range(1, 13))
        path = self.folder / "own.csv"
        path.write_text(re.sub(r"^1,.*", months, text, flags=re.MULTILINE | re.DOTALL))
        place = import_weather(path).place
        self.assertEqual((place.name, place.altitude_m), ("My orchard", 480))
        self.assertEqual(place.months[0].temperature_degc, -1.5)

    def test_every_command_of_the_readme_is_one_and_the_other_way_round(self) -> None:
        told = set(re.findall(r"`calveth ([a-z-]+)", README)) | {"import"}
        parser = build_parser()
        action = next(a for a in parser._actions if isinstance(a, argparse._SubParsersAction))
        self.assertEqual(told, set(action.choices))

    def test_a_file_alone_opens_and_nothing_starts(self) -> None:
        self.assertEqual(with_command([]), ["start"])
        self.assertEqual(with_command(["my.calveth"]), ["open", "my.calveth"])
        self.assertEqual(with_command(["dir/mine"]), ["open", "dir/mine"])
        for given in (["verify"], ["--version"], ["import-weather", "x.epw"], ["nonsense"]):
            self.assertEqual(with_command(given), given)
        with mock.patch("calveth.app.launch.open_file", return_value=0) as opened:
            self.assertEqual(main([str(self.folder / "x.calveth")]), 0)
        opened.assert_called_once()

    def test_the_demo_as_a_file(self) -> None:
        path = self.folder / "demo.calveth"
        self.call("demo", "-o", path)
        from calveth.catalogue.shipped import demo_project
        from calveth.store.project_file import load_project

        self.assertEqual(load_project(path), demo_project())

    def test_keys_of_the_format_page_are_those_that_are_written(self) -> None:
        from calveth.catalogue.shipped import demo_project
        from calveth.store.json_file import project_to_json

        written: set[str] = set()

        def walk(value: object) -> None:
            if isinstance(value, dict):
                for key, item in value.items():
                    written.add(key)
                    walk(item)
            elif isinstance(value, list):
                for item in value:
                    walk(item)

        walk(json.loads(project_to_json(demo_project())))
        missing = {k for k in written if f"`{k}`" not in FORMATS and f'"{k}"' not in FORMATS}
        self.assertEqual(missing, set())

    def test_the_format_page_tells_the_version_that_is_written(self) -> None:
        from calveth.store.json_file import SCHEMA

        told = re.findall(
            r'"schema": (\d+),\n "project"|`schema` is (\d+)|`user_version` (\d+)', FORMATS
        )
        self.assertEqual([int("".join(each)) for each in told], [SCHEMA] * 3)
        self.assertIn(f"(1 to {SCHEMA - 1} are read too", FORMATS)
        kept = {p.name for p in (ROOT / "tests" / "projects").iterdir()}
        for version in range(1, SCHEMA):
            self.assertTrue(any(f"{version}." in name for name in kept), (version, kept))

    def test_defaults_of_the_format_page_are_those_of_the_code(self) -> None:
        """A number in brackets behind a key is what is taken where the key is left out."""
        from dataclasses import fields

        from calveth.core.climate.place import Place, WinterRoom
        from calveth.core.colony.colony import Colony
        from calveth.core.hive.design import Design
        from calveth.core.hive.details import Details
        from calveth.core.hive.forms import FORMS
        from calveth.core.hive.joinery import Joinery
        from calveth.core.hive.opening import Opening
        from calveth.core.workshop.stock import Workshop

        known: dict[str, set[float]] = {}
        for kind in (
            *FORMS,
            Joinery,
            Details,
            Opening,
            Design,
            Colony,
            WinterRoom,
            Place,
            Workshop,
        ):
            for field in fields(kind):
                if isinstance(field.default, int | float):
                    known.setdefault(field.name, set()).add(float(field.default))
        checked = 0
        for name, number in re.findall(r"`([a-z0-9_]+)` \((\d[\d.]*)(?=[,;)])", FORMATS):
            if name in known:
                checked += 1
                self.assertIn(float(number), known[name], name)
        self.assertGreaterEqual(checked, 25)

    def test_units_of_the_format_page_are_those_of_the_values(self) -> None:
        """A key the page gives a unit in has the unit its docstring gives."""
        from calveth.core.materials import Material

        said = inspect.getdoc(Material) or ""
        checked = 0
        for names, text in re.findall(r"^([a-z0-9_, ]+) : .*\n((?: {4}.*\n?)+)", said, re.M):
            unit = re.search(r"\[([^\]]+)\]", text)
            for name in names.split(", "):
                row = next((r for r in FORMATS.splitlines() if f"`{name}`" in r), "")
                given = re.findall(r"kg/kg|m³/m³|g/\(m²·%(?:RH)?\)", row)
                if unit and given:
                    checked += 1
                    self.assertIn(given[0].replace("%)", "%RH)"), text, name)
        self.assertGreaterEqual(checked, 4)


class Nomenclature(unittest.TestCase):
    def test_the_table_of_constants_is_that_of_the_code(self) -> None:
        tool = runpy.run_path(str(ROOT / "tools" / "constants_page.py"))
        text = tool["PAGE"].read_text(encoding="utf-8")
        self.assertEqual(tool["page"](text), text, "run tools/constants_page.py")
        self.assertGreater(len(tool["all_constants"]()), 60)

    def test_names_of_the_code_are_in_the_code(self) -> None:
        text = (ROOT / "docs" / "nomenclature.md").read_text(encoding="utf-8")
        code = "\n".join(
            f.read_text(encoding="utf-8") for f in (ROOT / "src" / "calveth").rglob("*.py")
        )
        symbols = text.partition("## Words of the code")[0]
        for name in re.findall(r"`([A-Za-z_][A-Za-z0-9_.]*)`", symbols):
            self.assertTrue(name.rpartition(".")[2] in code, name)


EXAMPLES = (
    "calendar",
    "case",
    "message",
    "parameters",
    "materials",
    "climate.air",
    "colony.colony",
    "hive.zones",
    "solids.build",
    "heat.slab",
    "airflow.paths",
    "moisture.profile",
    "conduction.exact",
    "compare.sweep",
)


class Python(unittest.TestCase):
    def test_examples_of_the_core_and_of_the_pages_run(self) -> None:
        tried = {}
        for name in EXAMPLES:
            module = importlib.import_module(f"calveth.core.{name}")
            result = doctest.testmod(module)
            self.assertEqual(result.failed, 0)
            tried[name] = result.attempted
        # Every room has an example that is worked out.
        self.assertEqual([name for name, n in tried.items() if n == 0], [])
        page = (ROOT / "docs" / "architecture.md").read_text(encoding="utf-8")
        for block in re.findall(r"```python\n(.*?)```", page, re.S):
            out = io.StringIO()
            with contextlib.redirect_stdout(out):
                exec(block, {})
            self.assertRegex(out.getvalue(), r"^\d\.\d+$")


class HelpTexts(unittest.TestCase):
    def test_no_environment_of_ours_is_needed_to_read_them(self) -> None:
        folder = ROOT / "src" / "calveth" / "app" / "help"
        self.assertEqual(
            sorted(p.name for p in folder.iterdir() if p.suffix == ".md"),
            ["formats.md", "guide.md", "words.md"],
        )
        self.assertTrue(os.access(folder / "guide.md", os.R_OK))


if __name__ == "__main__":
    unittest.main()
