"""Times the year by the hour: one, twelve, two hundred draws, and plain Python beside it.

``.venv/bin/python bench/year.py``, or with all the rest ``bench/run.py``. CPU seconds.
"""

from __future__ import annotations

import os
import resource
import subprocess
import sys
import time
from dataclasses import replace
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "src"))

from calveth.catalogue.shipped import demo_project
from calveth.core.case import HiveCase, estimated_case
from calveth.core.climate.year import year_weather
from calveth.core.parameters import LIKELY, draws
from calveth.core.year.draws import year_bands
from calveth.core.year.run import run_year

_PLAIN_HOURS = 48


def cpu_s(act: object, runs: int = 3) -> float:
    """Return the least CPU time of some runs [s]."""
    assert callable(act)
    found = []
    for _ in range(runs):
        start = time.process_time()
        act()
        found.append(time.process_time() - start)
    return min(found)


def year() -> None:
    """Print how long years take."""
    project = demo_project()
    case = estimated_case(project, project.design("composite"))
    run_year(case)
    one = cpu_s(lambda: run_year(case))
    drawn: list[HiveCase] = [replace(case, parameters=p) for p in (LIKELY, *draws(11, 20))]
    twelve = cpu_s(lambda: [run_year(each) for each in drawn], 1)
    weather = cpu_s(lambda: year_weather(replace(project.place, name=str(time.time()))))
    print(f"one year by the hour, CPU          {1000 * one:8.1f} ms   {one / 0.15:5.2f} of 0.15 s")
    print(
        f"twelve years, CPU                  {1000 * twelve:8.1f} ms   {twelve:5.2f} of 1 s asked"
    )
    print(f"a year of weather from months, CPU {1000 * weather:8.1f} ms")
    start, cpu = time.perf_counter(), time.process_time()
    year_bands([case], 200)
    wall, cpu = time.perf_counter() - start, time.process_time() - cpu
    most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"200 draws on two threads, CPU      {cpu:8.2f} s    {cpu / 15:5.2f} of 15 s asked")
    print(f"  the same, wall                   {wall:8.2f} s    {wall / cpu:5.2f} of the CPU time")
    print(f"  memory at most                   {most:8.0f} MB   {most / 1500:5.2f} of 1500 asked")
    print(
        f"plain Python, an hour              {_plain_ms():8.2f} ms   "
        f"{_plain_ms() / (1000 * one / 9840):5.0f} times compiled"
    )


_TOLD: list[float] = []


def _plain_ms() -> float:
    """Return how long an hour takes uncompiled [ms], the code being the same."""
    if not _TOLD:
        code = (
            "import sys, time; sys.path.insert(0, 'src')\n"
            "from bench.year import run_year, demo_project, estimated_case\n"
            "import calveth.core.year.run as r\n"
            "from calveth.core.year import kernel_year as ky\n"
            "whole, spent = ky.run_hours, [0.0]\n"
            "def short(*a):\n"
            "    start = time.process_time()\n"
            f"    whole(*a[:5], min(a[5], a[4] + {_PLAIN_HOURS}), *a[6:])\n"
            "    spent[0] += time.process_time() - start\n"
            "    raise KeyboardInterrupt\n"
            "ky.run_hours = short\n"
            "project = demo_project()\n"
            "try: run_year(estimated_case(project, project.design('composite')))\n"
            "except KeyboardInterrupt: pass\n"
            f"print(1000 * spent[0] / {_PLAIN_HOURS})\n"
        )
        done = subprocess.run(
            [sys.executable, "-c", code],
            capture_output=True,
            text=True,
            check=True,
            encoding="utf-8",
            env={**os.environ, "NUMBA_DISABLE_JIT": "1"},
            cwd=Path(__file__).resolve().parent.parent,
        )
        _TOLD.append(float(done.stdout))
    return _TOLD[0]


if __name__ == "__main__":
    year()
