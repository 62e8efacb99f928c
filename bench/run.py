"""Times what a user waits for, and prints the ratios: ``.venv/bin/python bench/run.py``.

Absolute times depend on the machine; the ratios are what to compare between versions.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "src"))

from calveth.catalogue.library import workshop_of
from calveth.catalogue.shipped import demo_project
from calveth.core.assess.bands import bands
from calveth.core.assess.nights import assess_nights
from calveth.core.assess.result import assess_many, assess_months
from calveth.core.case import estimated_case
from calveth.core.edits import set_layer_thickness
from calveth.core.hive.design import Design
from calveth.core.workshop.plan import BuildPlan, build_plan

_BUDGET_MS = 50.0


def times_ms(act: Callable[[], object], runs: int) -> list[float]:
    """Return the wall times of some runs of ``act`` in milliseconds."""
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        act()
        times.append(1000 * (time.perf_counter() - start))
    return times


def median_ms(act: Callable[[], object], runs: int) -> float:
    """Return the median wall time of ``act`` in milliseconds."""
    return statistics.median(times_ms(act, runs))


def cpu_ms(act: Callable[[], object]) -> float:
    """Return the least CPU time of three runs of ``act`` in milliseconds."""
    times = []
    for _ in range(3):
        start = time.process_time()
        act()
        times.append(1000 * (time.process_time() - start))
    return min(times)


def core() -> None:
    """Time assessments without a window."""
    project = demo_project()
    timber = project.design("timber")
    first = assess_months(estimated_case(project, timber))
    widths = iter(range(1, 100000))

    def nudged() -> Design:
        walls = (replace(timber.shell.walls[0], thickness_m=0.032 + 1e-6 * next(widths)),)
        return replace(timber, shell=replace(timber.shell, walls=walls))

    cold = median_ms(lambda: assess_months(estimated_case(project, nudged())), 9)
    night = median_ms(lambda: assess_nights(first), 9)
    print(f"twelve months, after an edit       {cold:8.1f} ms   {cold / 3:5.2f} of 3 ms asked")
    print(f"nights with their bands            {night:8.1f} ms   {night / cold:5.2f}")
    cases = [estimated_case(project, d) for d in project.designs]
    every = cpu_ms(lambda: [bands(case) for case in cases])
    print(f"bands of eight hives, CPU          {every:8.1f} ms   {every / 1000:5.2f} of 1 s asked")
    batches()


def batches() -> None:
    """Time many designs at once: 40, 1000 and what they would take one by one."""
    project = demo_project()
    timber = project.design("timber")

    def designs(count: int) -> list[Design]:
        """Return walls from 10 to 110 mm, however many are asked for."""
        return [
            replace(
                timber,
                shell=replace(
                    timber.shell,
                    walls=(replace(timber.shell.walls[0], thickness_m=0.01 + 0.1 * k / count),),
                ),
            )
            for k in range(count)
        ]

    def assess(count: int) -> None:
        assess_many([estimated_case(project, d) for d in designs(count)])

    few = median_ms(lambda: assess(40), 5)
    many = cpu_ms(lambda: assess(1000))
    alone = median_ms(
        lambda: [assess_months(estimated_case(project, d)) for d in designs(40)],
        3,
    )
    print(f"40 designs in one batch            {few:8.1f} ms   {few / alone:5.2f} of one by one")
    print(f"1000 designs, months, CPU          {many:8.1f} ms   {many / 1500:5.2f} of 1.5 s asked")


def compared() -> None:
    """Time ``calveth compare`` of the demo: nothing solved before, and the same file once more."""
    from calveth.store.project_file import ProjectFile

    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "bench.calveth"
        ProjectFile.create(file, demo_project()).close()

        def asked(cache: Path) -> float:
            command = [sys.executable, "-m", "calveth.cli.entry", "compare", str(file)]
            run = Path(__file__).resolve().parent.parent / "src"
            environment = {**os.environ, "PYTHONPATH": str(run), "XDG_CACHE_HOME": str(cache)}
            return median_ms(
                lambda: subprocess.run(command, env=environment, check=True, capture_output=True), 1
            )

        asked(Path(folder) / "first")
        cold = statistics.median([asked(Path(folder) / str(k)) for k in range(3)])
        again = statistics.median([asked(Path(folder) / "first") for _ in range(3)])
    print(f"compare of eight, from cold        {cold:8.1f} ms   {cold / 2500:5.2f} of 2.5 s asked")
    print(f"  the same file once more          {again:8.1f} ms   {again / 1000:5.2f} of 1 s asked")


def workshop() -> None:
    """Time a change of thickness to the new list and layouts, of some 60 pieces."""
    project = demo_project()
    composite = project.design("composite")
    stock, table = workshop_of(project), project.material_table()
    steps = iter(range(1, 100000))

    def edited() -> BuildPlan:
        walls = list(composite.shell.walls)
        walls[1] = replace(walls[1], thickness_m=0.05 + 1e-5 * next(steps))
        design = replace(composite, shell=replace(composite.shell, walls=tuple(walls)))
        return build_plan(design, table, project.colony, project.place, stock)

    pieces = len(edited().pieces)
    took = median_ms(edited, 7)
    print(
        f"new list and layout, {pieces} pieces {took:12.1f} ms   {took / 500:5.2f} of 500 ms asked"
    )


def window() -> None:
    """Time from an edit to the painted window."""
    os.environ.pop("QT_QPA_PLATFORM", None)
    from calveth.app.launch import use_offscreen

    use_offscreen()
    from PySide6.QtWidgets import QApplication

    from calveth.app.document import Document
    from calveth.app.main_window import MainWindow
    from calveth.app.pictures import settle
    from calveth.app.preferences import Preferences
    from calveth.app.theme import theme
    from calveth.store.project_file import ProjectFile

    app = QApplication([])
    theme.apply(app)
    with tempfile.TemporaryDirectory() as folder:
        project = demo_project()
        file = ProjectFile.create(Path(folder) / "bench.calveth", project)
        main = MainWindow(Document(project, file, named=True), likes=Preferences())
        main.show()
        settle(app, main)
        main.choose("timber")
        settle(app, main)
        steps = iter(range(1, 1000))

        def edit_and_paint() -> None:
            thickness = 0.032 + 0.0005 * next(steps)
            main.document.edit(
                "bench", lambda p: set_layer_thickness(p, "timber", "walls", 0, thickness)
            )
            app.processEvents()  # delivers the paint events the edit has asked for

        painted = times_ms(edit_and_paint, 20)
        print(
            f"edit to painted, slowest of 20     {max(painted):8.1f} ms   "
            f"{max(painted) / _BUDGET_MS:5.2f} of the 50 ms asked"
        )
        print(f"  the same, median                 {statistics.median(painted):8.1f} ms")
        settle(app, main)

        def step_month() -> None:
            main.view.set_month((main.view.month + 1) % 12)
            app.processEvents()

        month = median_ms(step_month, 24)
        print(f"month hand to painted window       {month:8.1f} ms")
        main.close()


def start() -> None:
    """Time a warm start: from the command to the window on the screen, in a process of its own."""
    code = (
        "import sys, time; t = time.perf_counter();"
        "from calveth.app.launch import use_offscreen; use_offscreen();"
        "from PySide6.QtWidgets import QApplication; app = QApplication([]);"
        "from calveth.app.theme import theme; theme.prepare(app, theme.current());"
        "from calveth.app.document import Document;"
        "from calveth.app.main_window import MainWindow;"
        "from calveth.app.preferences import Preferences;"
        "from calveth.catalogue.shipped import demo_project;"
        "w = MainWindow(Document(demo_project()), likes=Preferences()); theme.dress(app); w.show();"
        "app.processEvents(); print(time.perf_counter() - t); w.close()"
    )
    environment = {**os.environ, "PYTHONPATH": str(Path(__file__).resolve().parent.parent / "src")}
    environment.pop("QT_QPA_PLATFORM", None)

    def once() -> float:
        run = subprocess.run(
            [sys.executable, "-c", code],
            capture_output=True,
            encoding="utf-8",
            env=environment,
            check=True,
        )
        return 1000 * float(run.stdout.split()[-1])

    once()
    times = [once() for _ in range(5)]
    shown = statistics.median(times)
    print(
        f"start to shown window, warm        {shown:8.1f} ms   {shown / 1500:5.2f} of 1.5 s asked"
    )


if __name__ == "__main__":
    core()
    compared()
    workshop()
    for other in ("conduction.py", "year.py", "logs.py"):
        subprocess.run([sys.executable, Path(__file__).with_name(other)], check=True)
    start()
    window()
