"""Compiled lines that are shipped: of these sources, for any path, to the last bit."""

from __future__ import annotations

import ast
import os
import shutil
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from calveth.catalogue.shipped import demo_project
from calveth.core import compiled
from calveth.core.assess.result import assess_months
from calveth.core.case import estimated_case
from calveth.core.year.run import run_year

SOURCE = compiled.CORE.parent
YEAR = """
import sys
from calveth.catalogue.shipped import demo_project
from calveth.core.assess.result import assess_months
from calveth.core.case import estimated_case
from calveth.core.year.run import run_year
project = demo_project()
case = estimated_case(project, project.design("timber"))
print(repr(assess_months(case).winter_honey_kg))
print(repr(float(run_year(case).column("dripped_kg").sum())))
made = [value for module in list(sys.modules.values()) if "calveth.core" in module.__name__
        for value in vars(module).values() if hasattr(value, "stats")]
print(sum(len(function.stats.cache_misses) for function in made))
"""
PLAIN = """
import sys
from calveth.core import compiled
compiled.stay_plain()
from calveth.catalogue.shipped import demo_project
from calveth.core.assess.result import assess_months
from calveth.core.case import estimated_case
project = demo_project()
case = estimated_case(project, project.design("timber"))
plain = assess_months(case).winter_honey_kg
assert not hasattr(sys.modules["calveth.core.nest.kernel_solve"].solve_all, "stats")
compiled.take_up()
from calveth.core.nest import kernel_solve
assert hasattr(kernel_solve.solve_all, "stats")
print(repr(plain), repr(assess_months(case).winter_honey_kg))
print(kernel_solve.solve_all.stats.cache_hits.total() > 0)
"""


def answers(code: str, source: Path = SOURCE, **environment: str) -> list[str]:
    """Return what a program prints that runs with the sources of a folder."""
    run = subprocess.run(
        [sys.executable, "-c", code],
        capture_output=True,
        text=True,
        check=False,
        env={**os.environ, "PYTHONPATH": str(source), **environment},
    )
    assert run.returncode == 0, run.stderr
    return run.stdout.split()


class Shipped(unittest.TestCase):
    def test_what_is_shipped_is_of_these_sources(self) -> None:
        """Else every new user compiles for two minutes: `tools/pack_kernels.sh` makes them anew."""
        packed = sorted(compiled.CORE.glob("kernel-*.tar.xz"))
        self.assertTrue(packed)
        for path in packed:
            with self.subTest(path=path.name):
                self.assertEqual(compiled.packed_digest(path), compiled.digest())
                self.assertLess(path.stat().st_size, 4_000_000)

    @unittest.skipUnless(compiled.PACKED.exists(), "nothing is shipped for this Python")
    def test_a_copy_of_the_folder_compiles_nothing_and_says_the_same(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            copy = Path(folder) / "elsewhere"
            # With its bytecode, so that only what machine code there is decides how long it takes.
            shutil.copytree(
                SOURCE, copy / "calveth", ignore=shutil.ignore_patterns("kernel-?*[!z]")
            )
            there = answers(YEAR, copy, XDG_CACHE_HOME=folder)
        self.assertEqual(there[2], "0")
        project = demo_project()
        case = estimated_case(project, project.design("timber"))
        here = (
            assess_months(case).winter_honey_kg,
            float(run_year(case).column("dripped_kg").sum()),
        )
        self.assertEqual(there[:2], [repr(figure) for figure in here])

    def test_plain_lines_go_on_compiled_when_they_are_there(self) -> None:
        one, two, taken_from_what_was_kept = answers(PLAIN)
        self.assertEqual(one, two)
        self.assertEqual(taken_from_what_was_kept, "True")


class Nowhere(unittest.TestCase):
    def test_where_nothing_may_be_written_a_folder_of_the_run_does(self) -> None:
        """As of a user without a home: the folder of the sources and the cache are not theirs."""
        with tempfile.TemporaryDirectory() as folder:
            blocked = Path(folder) / "blocked"
            blocked.write_text("", encoding="utf-8")
            with (
                mock.patch.object(compiled, "CORE", blocked),
                mock.patch.dict(os.environ, {"XDG_CACHE_HOME": str(blocked)}),
            ):
                made = compiled._folder()
        self.assertTrue(made.is_dir())
        self.assertNotIn(blocked, made.parents)
        shutil.rmtree(made.parent)


class Digest(unittest.TestCase):
    def test_words_do_not_count_and_code_does(self) -> None:
        """What is left of every kernel without words is its code, to the last statement."""
        for name in compiled.KERNELS:
            source = (compiled.CORE / name).read_text(encoding="utf-8")
            left = compiled.without_words(source)
            with self.subTest(file=name):
                self.assertEqual(_code(source), _code(left))
                self.assertLess(len(left), len(source))
        self.assertNotEqual(
            compiled.without_words("def f():\n    return 1\n"),
            compiled.without_words("def f():\n    return 2\n"),
        )


def _code(source: str) -> list[str]:
    """Return the statements of a source that do something, as the parser sees them."""
    lines = []
    for node in ast.walk(ast.parse(source)):
        words = isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)
        if isinstance(node, ast.stmt) and not words and not hasattr(node, "body"):
            lines.append(ast.unparse(node))
    return lines


class Packing(unittest.TestCase):
    def test_packed_and_unpacked_is_the_same(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            packed, target = Path(folder) / "k.tar.xz", Path(folder) / "kernel-x"
            compiled.pack(packed, quick=True)
            target.mkdir()
            self.assertTrue(compiled.unpack(target, packed))
            here = {
                str(p.relative_to(compiled._KEPT)): p.read_bytes()
                for p in compiled._KEPT.rglob("*.nb?")
            }
            there = {str(p.relative_to(target)): p.read_bytes() for p in target.rglob("*.nb?")}
            self.assertTrue(here)
            self.assertEqual(there, here)
            self.assertEqual(list(Path(folder).glob("*.part")), [])

    def test_sources_that_changed_meanwhile_are_not_packed_under_the_new_name(self) -> None:
        with (
            tempfile.TemporaryDirectory() as folder,
            mock.patch.object(compiled, "digest", return_value="other"),
            self.assertRaisesRegex(ValueError, "sources changed"),
        ):
            compiled.pack(Path(folder) / "k.tar.xz")

    def test_what_is_of_other_sources_or_broken_is_left(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            packed, target = Path(folder) / "k.tar.xz", Path(folder) / "kernel-x"
            target.mkdir()
            compiled.pack(packed, quick=True)
            with mock.patch.object(compiled, "digest", return_value="other"):
                self.assertFalse(compiled.unpack(target, packed))
            whole = packed.read_bytes()
            for broken in (b"", whole[:200], whole[: len(whole) // 2], b"no archive at all"):
                packed.write_bytes(broken)
                with self.subTest(size=len(broken)):
                    self.assertFalse(compiled.unpack(target, packed))
            self.assertFalse(compiled.unpack(target, Path(folder) / "none"))
            self.assertEqual(list(target.iterdir()), [])
            self.assertEqual(list(Path(folder).glob("*.part")), [])

    def test_nothing_is_packed_that_is_not_whole(self) -> None:
        with (
            mock.patch.object(compiled, "is_kept", return_value=False),
            self.assertRaisesRegex(ValueError, "not all"),
        ):
            compiled.pack(Path("nowhere"))

    def test_every_file_with_compiled_lines_decides_what_is_compiled(self) -> None:
        """A kernel forgotten there would meet the machine code of another day."""
        named = set(compiled.KERNELS)
        for path in compiled.CORE.rglob("*.py"):
            name = path.relative_to(compiled.CORE).as_posix()
            decorators = {
                d.id
                for node in ast.walk(ast.parse(path.read_text(encoding="utf-8")))
                if isinstance(node, ast.FunctionDef)
                for d in node.decorator_list
                if isinstance(d, ast.Name)
            }
            if decorators & {"compiled", "folded", "making"}:
                with self.subTest(file=name):
                    self.assertIn(name, named)
        for name in named:
            self.assertTrue((compiled.CORE / name).exists(), name)
