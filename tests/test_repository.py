"""Rules of the house that a reader would otherwise have to remember."""

from __future__ import annotations

import ast
import re
import unittest
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
SOURCES = sorted((ROOT / "src").rglob("*.py"))
TEXTS = [
    p
    for folder in ("src", "tests", "docs", "bench", "tools", ".ci")
    for p in (ROOT / folder).rglob("*")
    if p.suffix in (".py", ".md", ".json", ".qss", ".sh", ".svg") or p.name == "run"
] + [
    ROOT / n
    for n in (
        "README.md",
        "CONTRIBUTING.md",
        "CHANGELOG.md",
        "pyproject.toml",
        "requirements.lock",
        "requirements-dev.lock",
        "start",
        "check",
    )
]


def _is_table(function: ast.FunctionDef) -> bool:
    """Return whether a function does nothing but return a table."""
    last = function.body[-1]
    return (
        len(function.body) <= 2
        and isinstance(last, ast.Return)
        and isinstance(last.value, (ast.List, ast.Tuple, ast.Dict))
    )


class House(unittest.TestCase):
    def test_functions_stay_short(self) -> None:
        for path in SOURCES:
            for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
                if isinstance(node, ast.FunctionDef) and not _is_table(node):
                    with self.subTest(file=path.name, function=node.name):
                        self.assertLessEqual((node.end_lineno or 0) - node.lineno + 1, 75)

    def test_a_name_says_what_a_thing_is(self) -> None:
        """A search for one of these tells nothing, nor does a stack trace: found, whole, said."""
        empty = {"found", "whole", "said", "told", "wanted"}
        wrong = []
        for path in SOURCES:
            for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
                names = (
                    [node.id]
                    if isinstance(node, ast.Name)
                    else [node.arg]
                    if isinstance(node, ast.arg)
                    else [node.name]
                    if isinstance(node, ast.FunctionDef | ast.ClassDef)
                    else []
                )
                wrong += [
                    f"{path.name}:{getattr(node, 'lineno', 0)} {n}" for n in names if n in empty
                ]
        self.assertEqual(wrong, [])

    def test_the_formatter_is_never_switched_off(self) -> None:
        for path in SOURCES:
            with self.subTest(file=path.name):
                self.assertNotIn("# fmt" + ":", path.read_text(encoding="utf-8"))

    def test_what_the_core_remembers_is_locked(self) -> None:
        """`functools` alone would hand out what whoever asks can change for all."""
        mine = ("remembered.py", "kept.py")
        for path in SOURCES:
            if "core" in path.parts and path.name not in mine:
                self.assertNotIn("lru_cache", path.read_text(encoding="utf-8"), path)

    def test_tool_tips_show_text_of_files_as_it_stands(self) -> None:
        """Only texts of our own go straight to Qt, which reads what looks like HTML as HTML."""
        ours = re.compile(
            r'setToolTip\(\s*(f?"|_[A-Z_]+[\[.]|[A-Z_]+\[|words\[|shipped\.|command\.|'
            r"plain_tip|tip\)  # plain already)"
        )
        for path in SOURCES:
            if path.name == "labels.py":
                continue
            text = path.read_text(encoding="utf-8")
            for found in re.finditer(r"setToolTip\([^\n]*\n?[^\n]*", text):
                self.assertRegex(found.group(0), ours, path)

    def test_nothing_read_from_a_disk_is_run(self) -> None:
        for path in SOURCES:
            text = path.read_text(encoding="utf-8")
            for word in ("import pickle", "import marshal", "eval(", "exec(", "allow_pickle=True"):
                if word in ("eval(", "exec(") and "app" in path.parts:
                    continue  # dialogs and applications of Qt are run by a method of that name
                self.assertNotIn(word, text, path)

    def test_style_stands_in_the_theme_only(self) -> None:
        for path in SOURCES:
            if path.parent.name != "theme":
                with self.subTest(file=path.name):
                    self.assertNotIn("setStyleSheet", path.read_text(encoding="utf-8"))

    def test_no_host_of_a_registry_and_no_path_of_one_machine(self) -> None:
        hosts = re.compile(r"(pypi|pythonhosted|debian|npmjs)\.(org|com)|registry\.")
        paths = re.compile(r"(^|[^\w./])/(work|root|home|tmp)/")
        for path in TEXTS:
            if path == Path(__file__):
                continue
            text = path.read_text(encoding="utf-8")
            with self.subTest(file=path.name):
                self.assertIsNone(hosts.search(text))
                self.assertIsNone(paths.search(text))

    def test_locks_pin_every_package_by_hash(self) -> None:
        for name in ("requirements.lock", "requirements-dev.lock"):
            text = (ROOT / name).read_text(encoding="utf-8")
            packages = re.findall(r"^([\w.-]+)(==[\w.]+)?", text, re.MULTILINE)
            self.assertGreater(len(packages), 15)
            for package, version in packages:
                with self.subTest(lock=name, package=package):
                    self.assertTrue(version)
        self.assertIn("pyside6-essentials==6.11", (ROOT / "requirements.lock").read_text("utf-8"))

    def test_every_picture_is_linked_and_every_link_is_there(self) -> None:
        readme = (ROOT / "README.md").read_text(encoding="utf-8")
        linked = set(re.findall(r"docs/screenshots/([\w-]+\.png)", readme))
        there = {p.name for p in (ROOT / "docs" / "screenshots").glob("*.png")}
        self.assertEqual(linked, there)
        self.assertLess(len(there), 20)
        for target in re.findall(r"\]\(([\w./-]+)\)", readme):
            with self.subTest(link=target):
                self.assertTrue((ROOT / target).exists())

    def test_public_functions_of_the_core_say_what_they_return(self) -> None:
        for path in SOURCES:
            if "core" not in path.parts or path.name.startswith("kernel"):
                continue  # compiled lines put their answers into arrays that are handed in
            for node in ast.parse(path.read_text(encoding="utf-8")).body:
                if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                    with self.subTest(file=path.name, function=node.name):
                        said = ast.get_docstring(node) or ""
                        self.assertRegex(said, r"^(Return|Raise)")

    def test_parameters_of_formulas_are_those_of_the_code_with_their_units(self) -> None:
        told = 0
        for path in (p for p in SOURCES if "core" in p.parts):
            for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
                if not isinstance(node, ast.FunctionDef):
                    continue
                text = ast.get_docstring(node) or ""
                if "Parameters\n---" not in text:
                    continue
                section = re.split(r"\n\n(?=\S)", text.split("Parameters\n----------\n")[1])[0]
                rows = re.findall(r"^(\w+) : (.+)\n    (.+)", section, re.M)
                names = [a.arg for a in (*node.args.args, *node.args.kwonlyargs) if a.arg != "self"]
                with self.subTest(file=path.name, function=node.name):
                    self.assertEqual([name for name, _, _ in rows], names)
                    for name, kind, words in rows:
                        if re.match("float|array", kind):
                            self.assertRegex(words, r"\[.+\]\.$", name)
                told += 1
        self.assertGreaterEqual(told, 60)

    def test_arrays_of_the_public_core_have_shapes_and_units(self) -> None:
        """A public function or method that takes or gives arrays says their shape or unit."""
        for path in SOURCES:
            if "core" not in path.parts or path.name.startswith("kernel"):
                continue  # compiled lines put their answers into arrays that are handed in
            body = ast.parse(path.read_text(encoding="utf-8")).body
            methods = [m for c in body if isinstance(c, ast.ClassDef) for m in c.body]
            for node in (*body, *methods):
                if not isinstance(node, ast.FunctionDef) or node.name.startswith("_"):
                    continue
                given = [a.annotation for a in (*node.args.args, *node.args.kwonlyargs)]
                shown = [ast.unparse(a) for a in (*given, node.returns) if a is not None]
                if any("FloatArray" in text for text in shown):
                    with self.subTest(file=path.name, function=node.name):
                        self.assertIn("[", ast.get_docstring(node) or "")


if __name__ == "__main__":
    unittest.main()
