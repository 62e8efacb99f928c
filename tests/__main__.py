"""Runs all tests, in two processes where there are two cores; one plain line counts them."""

from __future__ import annotations

import contextlib
import json
import os
import re
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parent
# Two processes with two threads each would wait for each other.
_CACHE = "XDG_CACHE_HOME"
_ONE_THREAD = {"OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"}
WEIGHTS = ROOT / "durations.json"
"""Time every module took [s], as ``python -m tests --durations`` measured it last."""
_TIMES = "CALVETH_TEST_TIMES"
# A module that is new is taken to be as slow as its length.
_BYTES_A_SECOND = 1000
_SLOWEST = 12


def main(arguments: list[str]) -> int:
    """Run the named modules, or everything under tests/."""
    if arguments == ["--prepare"]:
        return 0
    if arguments == ["--durations"]:
        return measure()
    if not arguments and (os.cpu_count() or 1) > 1:
        return side_by_side(halves())
    os.environ.update(_ONE_THREAD)
    with contextlib.ExitStack() as stack:
        if "calveth-tests" not in os.environ.get(_CACHE, ""):
            # The user's own cache is left alone.
            folder = tempfile.TemporaryDirectory(prefix="calveth-tests-")
            os.environ[_CACHE] = stack.enter_context(folder)
        return run_them(arguments)


def run_them(arguments: list[str]) -> int:
    """Run the named modules, or everything, in this process."""
    loader = unittest.TestLoader()
    if arguments:
        suite = unittest.TestSuite(_load(loader, name) for name in arguments)
    else:
        suite = loader.discover(str(ROOT), top_level_dir=str(ROOT.parent))
    result = unittest.TextTestRunner(verbosity=1, buffer=True, resultclass=Timed).run(suite)
    assert isinstance(result, Timed)
    for seconds, name in sorted(result.took, reverse=True)[:_SLOWEST]:
        print(f"{seconds:7.1f} s  {name}")
    _store_times(result.took)
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    passed = result.testsRun - failed - len(result.skipped)
    print(f"{passed} passed, {failed} failed, {len(result.skipped)} skipped")
    return 1 if failed or not result.testsRun else 0


class Timed(unittest.TextTestResult):
    """Keeps the time of every test, with that of its class's set-up in the first [s]."""

    def __init__(self, *args: Any, **more: Any) -> None:
        super().__init__(*args, **more)
        self.took: list[tuple[float, str]] = []
        self._since = time.monotonic()

    def stopTest(self, test: unittest.TestCase) -> None:
        now = time.monotonic()
        self.took.append((now - self._since, test.id()))
        self._since = now
        super().stopTest(test)


def _store_times(took: list[tuple[float, str]]) -> None:
    """Keep what each module took, for `halves` and for whoever asks with ``--durations``."""
    folder = os.environ.get(_TIMES)
    if not folder:
        return
    modules: dict[str, float] = {}
    for seconds, name in took:
        module = name.rsplit(".", 2)[0]
        modules[module] = round(modules.get(module, 0.0) + seconds, 1)
    path = Path(folder) / f"{os.getpid()}.json"
    path.write_text(json.dumps(modules), encoding="utf-8")


def _load(loader: unittest.TestLoader, name: str) -> unittest.TestSuite:
    """Return the tests of a module, a class, a test, or of all modules of a package."""
    folder = ROOT.parent / name.replace(".", "/")
    if folder.is_dir():
        return loader.discover(str(folder), top_level_dir=str(ROOT.parent))
    return loader.loadTestsFromName(name)


def halves() -> tuple[list[str], list[str]]:
    """Return all test modules in two groups that take about as long, by the times last kept."""
    known: dict[str, float] = json.loads(WEIGHTS.read_text(encoding="utf-8"))
    weighed = []
    for path in ROOT.rglob("test_*.py"):
        parts = path.relative_to(ROOT.parent).with_suffix("").parts
        module = ".".join(parts)
        weighed.append((known.get(module, path.stat().st_size / _BYTES_A_SECOND), module))
    groups: tuple[list[str], list[str]] = ([], [])
    sums = [0.0, 0.0]
    for weight, module in sorted(weighed, reverse=True):
        less = 0 if sums[0] <= sums[1] else 1
        groups[less].append(module)
        sums[less] += weight
    return groups


def measure() -> int:
    """Run everything and keep the time of every module in the file the groups are made by."""
    with tempfile.TemporaryDirectory() as folder:
        os.environ[_TIMES] = folder
        code = side_by_side(halves())
        found: dict[str, float] = {}
        for path in Path(folder).glob("*.json"):
            found |= json.loads(path.read_text(encoding="utf-8"))
    WEIGHTS.write_text(json.dumps(dict(sorted(found.items())), indent=1) + "\n", encoding="utf-8")
    print(f"{sum(found.values()):.0f} s in all; kept in {WEIGHTS.name}")
    return code


def side_by_side(groups: tuple[list[str], ...]) -> int:
    """Run groups of modules each in a process of its own and count them together."""
    with tempfile.TemporaryDirectory(prefix="calveth-tests-") as folder:
        logs = [Path(folder) / f"{k}.txt" for k in range(len(groups))]
        runs = []
        for log, group in zip(logs, groups, strict=True):
            with log.open("wb") as out:
                runs.append(
                    subprocess.Popen(
                        [sys.executable, "-m", "tests", *group],
                        stdout=out,
                        stderr=out,
                        cwd=ROOT.parent,
                        env={**os.environ, **_ONE_THREAD, _CACHE: folder},
                    )
                )
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
