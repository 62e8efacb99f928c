"""Runs all tests, in two processes where there are two cores; one plain line counts them."""

from __future__ import annotations

import os
import re
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

ROOT = Path(__file__).parent
# Two processes with two threads each would wait for each other.
_ONE_THREAD = {"OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"}
# A window is slower than its lines: what its tests take beside others of their length.
_WINDOW_WEIGHT = 4


def main(arguments: list[str]) -> int:
    """Run the named modules, or everything under tests/."""
    if arguments == ["--prepare"]:
        return 0
    if not arguments and (os.cpu_count() or 1) > 1:
        return side_by_side(halves())
    loader = unittest.TestLoader()
    if arguments:
        suite = unittest.TestSuite(_load(loader, name) for name in arguments)
    else:
        suite = loader.discover(str(ROOT), top_level_dir=str(ROOT.parent))
    result = unittest.TextTestRunner(verbosity=1, buffer=True).run(suite)
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    passed = result.testsRun - failed - len(result.skipped)
    print(f"{passed} passed, {failed} failed, {len(result.skipped)} skipped")
    return 1 if failed or not result.testsRun else 0


def _load(loader: unittest.TestLoader, name: str) -> unittest.TestSuite:
    """Return the tests of a module, a class, a test, or of all modules of a package."""
    folder = ROOT.parent / name.replace(".", "/")
    if folder.is_dir():
        return loader.discover(str(folder), top_level_dir=str(ROOT.parent))
    return loader.loadTestsFromName(name)


def halves() -> tuple[list[str], list[str]]:
    """Return all test modules in two groups that take about as long."""
    weighed = []
    for path in ROOT.rglob("test_*.py"):
        parts = path.relative_to(ROOT.parent).with_suffix("").parts
        weight = path.stat().st_size * (_WINDOW_WEIGHT if "app" in parts else 1)
        weighed.append((weight, ".".join(parts)))
    groups: tuple[list[str], list[str]] = ([], [])
    sums = [0, 0]
    for weight, module in sorted(weighed, reverse=True):
        less = 0 if sums[0] <= sums[1] else 1
        groups[less].append(module)
        sums[less] += weight
    return groups


def side_by_side(groups: tuple[list[str], ...]) -> int:
    """Run groups of modules each in a process of its own and count them together."""
    with tempfile.TemporaryDirectory() as folder:
        logs = [Path(folder) / f"{k}.txt" for k in range(len(groups))]
        runs = []
        for log, group in zip(logs, groups, strict=True):
            with log.open("wb") as out:
                runs.append(
                    subprocess.Popen(
                        [sys.executable, "-m", "tests", *group], stdout=out, stderr=out,
                        cwd=ROOT.parent, env={**os.environ, **_ONE_THREAD},
                    )
                )  # fmt: skip
        codes = [run.wait() for run in runs]
        texts = [log.read_text(encoding="utf-8", errors="replace") for log in logs]
    counts = [0, 0, 0]
    for text in texts:
        print(text)
        found = re.findall(r"^(\d+) passed, (\d+) failed, (\d+) skipped$", text, re.MULTILINE)
        if not found:
            counts[1] += 1  # it died before it could count
            continue
        counts = [a + int(b) for a, b in zip(counts, found[-1], strict=True)]
    print(f"{counts[0]} passed, {counts[1]} failed, {counts[2]} skipped")
    return 1 if any(codes) else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
