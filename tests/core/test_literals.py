"""Numbers of the core: what is estimated stands in the constants with its source and range.

In the body of a function only plain numbers are left, published formulas beside their source,
limits of fields, settings of solvers and the reference cases.
"""

from __future__ import annotations

import ast
import re
import unittest
from collections.abc import Iterator
from pathlib import Path

import calveth.core

CORE = Path(calveth.core.__file__).parent
# Counting, halving, units of time, of parts and of angles.
PLAIN = {*range(13), 0.5, 0.25, 16, 24, 28, 30, 31, 60, 90, 100, 180, 360, 365, 366, 1000, 3600}
PLAIN |= {1e-3, 15.0, 22.5, 8.64e7, 3.6e6, 1e6, 1e-6, 400, 59, 86400, 0.8}
# A number this small keeps a division whole or says that two are the same; this large, none.
LEAST, MOST = 1e-6, 1e9
SOURCED = re.compile(
    r"\b(EN|ISO|ASHRAE|NIOSH|DIN)\b|[Ee]stimate|from memory|[Cc]ommon practice|et al"
    r"|\(\d{4}\)|19\d\d"
)
SETTINGS = {
    "compiled.py": "rights of a file",
    "conduction/exact.py": "reference cases with an exact answer",
    "conduction/cases.py": "reference cases of ISO 10211",
    "conduction/fields.py": "points of a drawn line",
    "conduction/joints.py": "solver",
    "conduction/linear.py": "solver",
    "conduction/solved.py": "solver",
    "diary/calibrate.py": "search for a fit",
    "diary/stand_in.py": "the simulated logger",
    "errors.py": "lengths of a sentence",
    "make_compiled.py": "sizes of empty arrays",
    "nest/kernel_parts.py": "solver",
    "nest/kernel_sides.py": "solver",
    "nest/kernel_solve.py": "solver",
    "year/kernel_arrays.py": "where a search begins",
    "year/kernel_year.py": "where a search begins",
}
"""Files whose numbers in functions decide how a figure is searched for, not what it is."""
LIMITS = {"require_between", "require_note", "require_text", "report", "remembered", "date"}


def numbers(tree: ast.AST) -> Iterator[tuple[int, float]]:
    """Yield line and value of every number in a function that needs a reason."""
    for node in ast.walk(tree):
        if not isinstance(node, ast.FunctionDef) or node.name == "__post_init__":
            continue
        if SOURCED.search(ast.get_docstring(node) or "") or node.name.endswith("limits"):
            continue
        left_out = {
            id(number)
            for call in ast.walk(node)
            if isinstance(call, ast.Call) and _name(call.func) in LIMITS
            for number in ast.walk(call)
        }
        for number in ast.walk(node):
            if not isinstance(number, ast.Constant) or id(number) in left_out:
                continue
            value = number.value
            if isinstance(value, bool) or not isinstance(value, int | float) or value in PLAIN:
                continue
            if LEAST < abs(value) < MOST:
                yield number.lineno, value


def _name(function: ast.expr) -> str:
    return function.attr if isinstance(function, ast.Attribute) else getattr(function, "id", "")


class Numbers(unittest.TestCase):
    def test_a_number_in_a_function_has_its_source_or_is_a_constant(self) -> None:
        bare = []
        for path in sorted(CORE.rglob("*.py")):
            name = path.relative_to(CORE).as_posix()
            if name in SETTINGS or name.startswith("published"):
                continue
            source = path.read_text(encoding="utf-8")
            lines = source.splitlines()
            for line, value in numbers(ast.parse(source)):
                near = "\n".join(lines[max(0, line - 4) : line])
                if not ("#" in near and SOURCED.search(near)):
                    bare.append(f"{name}:{line}: {value}  {lines[line - 1].strip()}")
        self.assertEqual(bare, [])

    def test_settings_are_of_files_that_have_numbers(self) -> None:
        for name in SETTINGS:
            with self.subTest(file=name):
                tree = ast.parse((CORE / name).read_text(encoding="utf-8"))
                self.assertTrue(list(numbers(tree)))


if __name__ == "__main__":
    unittest.main()
