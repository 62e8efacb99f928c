"""Runs all tests, in as many processes as there are cores; one plain line counts them.

./check                  everything, the long ones in a tenth
./check --long           everything in full: monkey, matrix, calibrations, random hives
./check tests.core       some modules, in this process
"""

from __future__ import annotations

import contextlib
import gc
import json
import os
import re
import shutil
import subprocess
import sys
import tempfile
import time
import unittest
from collections.abc import Iterator
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parent
# Two processes with two threads each would wait for each other.
_CACHE = "XDG_CACHE_HOME"
_ONE_THREAD = {"OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"}
WEIGHTS = ROOT / "durations.json"
"""Time every module took [s], as ``python -m tests --durations`` measured it last."""
_TIMES = "CALVETH_TEST_TIMES"
LONG = "CALVETH_TEST_LONG"
# A module that is new is taken to be as slow as its length.
_BYTES_A_SECOND = 1000
_SLOWEST = 12
_MOST_PROCESSES = 8
_LOOK_S = 1.0
_OBJECTS_BETWEEN_LOOKS = 50_000
# Modules still to be run, one file each, in the folder that the processes of a run share.
_QUEUE = "queue"
_FROM_QUEUE = "--from-queue"
# Solved shells are answers by the content of hive and code: what a run solved the next one reads.
_SHELLS = ROOT.parent / ".venv" / "solved-shells"
_SHELLS_OF_A_RUN = Path("calveth") / "shells"


def main(arguments: list[str]) -> int:
    """Run the named modules, or everything under tests/."""
    if arguments == ["--prepare"]:
        return 0
    if arguments == ["--durations"]:
        return measure()
    if "--long" in arguments:
        os.environ[LONG] = "1"
        arguments = [a for a in arguments if a != "--long"]
    processes = min(os.cpu_count() or 1, _MOST_PROCESSES)
    if not arguments and processes > 1:
        return side_by_side(processes)
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
    # Windows and solvers make much that lives as long as a test: looked through less often, a
    # tenth of the time is saved.
    gc.set_threshold(_OBJECTS_BETWEEN_LOOKS)
    suite: unittest.TestSuite
    if arguments == [_FROM_QUEUE]:
        suite = Claimed(loader, Path(os.environ[_TIMES]) / _QUEUE)
    elif arguments:
        suite = unittest.TestSuite(_load(loader, name) for name in arguments)
    else:
        suite = loader.discover(str(ROOT), top_level_dir=str(ROOT.parent))
    result = unittest.TextTestRunner(verbosity=1, buffer=True, resultclass=Timed).run(suite)
    assert isinstance(result, Timed)
    result.tell_of_module()
    for seconds, name in sorted(result.took, reverse=True)[:_SLOWEST]:
        print(f"{seconds:7.1f} s  {name}")
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    passed = result.testsRun - failed - len(result.skipped)
    print(f"{passed} passed, {failed} failed, {len(result.skipped)} skipped")
    return 1 if failed or not result.testsRun else 0


class Claimed(unittest.TestSuite):
    """The modules of a queue that nobody else has taken, one after another.

    A process that is done with one takes the next: none waits for the other, whatever else the
    machine is doing.
    """

    _cleanup = False

    def __init__(self, loader: unittest.TestLoader, queue: Path) -> None:
        super().__init__()
        self._loader, self._queue = loader, queue

    def __iter__(self) -> Iterator[unittest.TestSuite]:
        """Load and return the next module until none is left."""
        for path in sorted(self._queue.glob("*.module")):
            taken = path.with_suffix(".taken")
            try:
                path.rename(taken)
            except FileNotFoundError:
                continue  # the other process was faster
            yield _load(self._loader, taken.read_text(encoding="utf-8"))


class Timed(unittest.TextTestResult):
    """Keeps the time of every test, with that of its class's set-up in the first [s].

    Run side by side it tells of every module that is done, in a file the parent reads.
    """

    def __init__(self, *args: Any, **more: Any) -> None:
        super().__init__(*args, **more)
        self.took: list[tuple[float, str]] = []
        self._since = time.monotonic()
        self._module, self._began, self._failed, self._ran = "", self._since, 0, 0

    def startTest(self, test: unittest.TestCase) -> None:
        module = test.id().rsplit(".", 2)[0]
        if module != self._module:
            self.tell_of_module()
            self._module = module
        super().startTest(test)

    def stopTest(self, test: unittest.TestCase) -> None:
        now = time.monotonic()
        self.took.append((now - self._since, test.id()))
        self._since = now
        super().stopTest(test)

    def tell_of_module(self) -> None:
        """Add a line on the module that is done: its tests, failures and time."""
        folder, now = os.environ.get(_TIMES), time.monotonic()
        failed = len(self.failures) + len(self.errors) + len(self.unexpectedSuccesses)
        if folder and self._module:
            told = {
                "module": self._module,
                "ran": len(self.took) - self._ran,
                "failed": failed - self._failed,
                "seconds": round(now - self._began, 1),
            }
            with (Path(folder) / f"{os.getpid()}.lines").open("a", encoding="utf-8") as out:
                out.write(json.dumps(told) + "\n")
        self._began, self._failed, self._ran = now, failed, len(self.took)


def _load(loader: unittest.TestLoader, name: str) -> unittest.TestSuite:
    """Return the tests of a module, a class, a test, or of all modules of a package."""
    folder = ROOT.parent / name.replace(".", "/")
    if folder.is_dir():
        return loader.discover(str(folder), top_level_dir=str(ROOT.parent))
    return loader.loadTestsFromName(name)


def modules() -> list[str]:
    """Return all test modules, those first that took longest when it was last measured."""
    known: dict[str, float] = json.loads(WEIGHTS.read_text(encoding="utf-8"))
    weighed = []
    for path in ROOT.rglob("test_*.py"):
        module = ".".join(path.relative_to(ROOT.parent).with_suffix("").parts)
        weighed.append((known.get(module, path.stat().st_size / _BYTES_A_SECOND), module))
    return [module for _, module in sorted(weighed, reverse=True)]


def measure() -> int:
    """Run everything and keep the time of every module in the file the order is made by."""
    times: dict[str, float] = {}
    code = side_by_side(min(os.cpu_count() or 1, _MOST_PROCESSES), times)
    WEIGHTS.write_text(json.dumps(dict(sorted(times.items())), indent=1) + "\n", encoding="utf-8")
    print(f"{sum(times.values()):.0f} s in all; kept in {WEIGHTS.name}")
    return code


def side_by_side(count: int, times: dict[str, float] | None = None) -> int:
    """Run all modules in so many processes, each taking the next, and count them together.

    A line is printed for every module that is done; ``times`` takes what each took [s].
    """
    seen: dict[str, float] = {} if times is None else times
    with tempfile.TemporaryDirectory(prefix="calveth-tests-") as folder:
        began = time.time()
        queue, shells = Path(folder) / _QUEUE, Path(folder) / _SHELLS_OF_A_RUN
        queue.mkdir()
        names = modules()
        for number, name in enumerate(names):
            (queue / f"{number:03}.module").write_text(name, encoding="utf-8")
        if _SHELLS.is_dir():
            shutil.copytree(_SHELLS, shells)
        logs = [Path(folder) / f"{k}.txt" for k in range(count)]
        runs = []
        for log in logs:
            with log.open("wb") as out:
                runs.append(
                    subprocess.Popen(
                        [sys.executable, "-m", "tests", _FROM_QUEUE],
                        stdout=out,
                        stderr=out,
                        cwd=ROOT.parent,
                        env={**os.environ, **_ONE_THREAD, _CACHE: folder, _TIMES: folder},
                    )
                )
        total = len(names)
        while any(run.poll() is None for run in runs):
            time.sleep(_LOOK_S)
            _tell(Path(folder), seen, total)
        _tell(Path(folder), seen, total)
        codes = [run.returncode for run in runs]
        texts = [log.read_text(encoding="utf-8", errors="replace") for log in logs]
        left = [path.name for path in queue.glob("*.module")]
        _keep_shells(shells, began)
    counts = [0, len(left), 0]
    for text in texts:
        print(text)
        found = re.findall(r"^(\d+) passed, (\d+) failed, (\d+) skipped$", text, re.MULTILINE)
        if not found:
            counts[1] += 1  # it died before it could count
            continue
        counts = [a + int(b) for a, b in zip(counts, found[-1], strict=True)]
    print(f"{counts[0]} passed, {counts[1]} failed, {counts[2]} skipped")
    return 1 if any(codes) or counts[1] else 0


def _keep_shells(shells: Path, began: float) -> None:
    """Keep the shells this run has asked for, and no others, where they can be kept."""
    with contextlib.suppress(OSError):
        for path in shells.iterdir():
            if path.stat().st_mtime < began:
                path.unlink()
        shutil.rmtree(_SHELLS, ignore_errors=True)
        shutil.copytree(shells, _SHELLS)


def _tell(folder: Path, seen: dict[str, float], total: int) -> None:
    """Print a line for every module that is done since the last look."""
    for path in sorted(folder.glob("*.lines")):
        for line in path.read_text(encoding="utf-8").splitlines():
            told = json.loads(line)
            if told["module"] in seen:
                continue
            seen[told["module"]] = told["seconds"]
            mark = f", {told['failed']} FAILED" if told["failed"] else ""
            head = f"{len(seen):>4} of {total}  {told['seconds']:6.1f} s"
            print(f"{head}  {told['ran']:>3} tests{mark}  {told['module']}", flush=True)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
