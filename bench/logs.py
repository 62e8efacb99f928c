"""Times logs: reading a CSV file, keeping five years of them, drawing them.

``.venv/bin/python bench/logs.py``, or with all the rest ``bench/run.py``.
"""

from __future__ import annotations

import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "src"))

from calveth.catalogue.shipped import demo_project
from calveth.core.diary.samples import packed, unpacked
from calveth.core.diary.series import Series, find_faults
from calveth.core.diary.take_in import take_in
from calveth.core.records.diary import Diary, StandingHive
from calveth.store.log_csv import read_log
from calveth.store.project_file import ProjectFile

_SAMPLES = 262_800  # five years of ten minutes
_QUANTITIES = ("temperature", "humidity", "co2", "weight")


def wall_ms(act: Callable[[], object], runs: int = 5) -> float:
    """Return the median wall time [ms]."""
    times = []
    for _ in range(runs):
        start = time.perf_counter()
        act()
        times.append(1000 * (time.perf_counter() - start))
    return statistics.median(times)


def five_years() -> list[Series]:
    """Return four channels as loggers write them, in their steps."""
    random = np.random.default_rng(1)
    minutes = 27_300_000 + 10 * np.arange(_SAMPLES, dtype=np.int64)
    day = np.sin(2 * np.pi * (minutes % 1440) / 1440)
    year = np.sin(2 * np.pi * minutes / 525_600)
    noise = random.standard_normal((4, _SAMPLES))
    values = (
        np.round(16 * (8 + 10 * year + 4 * day + 0.2 * noise[0])) / 16,
        np.round(np.clip(0.8 - 0.1 * day + 0.02 * noise[1], 0, 1), 2),
        np.round(np.exp(-5 + 0.5 * year + 0.1 * noise[2]), 6),
        np.round(40 + 8 * year + 0.02 * noise[3], 2),
    )
    return [
        Series(quantity=q, minutes=minutes, values=v)  # type: ignore[arg-type]
        for q, v in zip(_QUANTITIES, values, strict=True)
    ]


def storage(series: list[Series]) -> None:
    """Print size and times of what is kept."""
    chunks = packed(series[0])

    def unpack() -> None:
        unpacked.cache_clear()
        unpacked(chunks, "temperature")

    size = sum(len(c.packed.data) for s in series for c in packed(s))
    print(f"five years of four channels        {size / 1e6:8.2f} MB   {size / 5e6:5.2f} of 5 MB")
    print(f"packing a channel                  {wall_ms(lambda: packed(series[0])):8.1f} ms")
    print(f"unpacking a channel                {wall_ms(unpack):8.1f} ms")
    print(
        f"faults of a channel                {wall_ms(lambda: find_faults(series[0]), 3):8.1f} ms"
    )
    diary = Diary(hives=(StandingHive(id="h", name="h", design="timber", since="2020-01-01"),))
    for s, at in zip(
        series, ("under the lid", "under the lid", "under the lid", "scale"), strict=True
    ):
        diary = take_in(diary, s, hive="h", at=at, name=s.quantity)  # type: ignore[arg-type]
    project = replace(demo_project(), diary=diary)
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "logs.calveth"
        with ProjectFile.create(path, demo_project()) as file:
            start = time.perf_counter()
            file.write(demo_project(), project)
            wrote = 1000 * (time.perf_counter() - start)
            again = replace(project, name="other")

            def edits() -> None:
                file.write(project, again)
                file.write(again, project)

            edit = wall_ms(edits)
        print(f"writing them into the project      {wrote:8.1f} ms")
        print(f"two edits of the project after     {edit:8.1f} ms")


def reading(series: list[Series]) -> None:
    """Print how long a CSV file of them takes."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "log.csv"
        stamps = np.datetime_as_string(series[0].minutes.astype("datetime64[m]"))
        with path.open("w", encoding="utf-8") as out:
            out.write("time;lid °C;lid %;CO2 ppm;scale kg\n")
            for row in zip(stamps, *(s.values for s in series), strict=True):
                out.write(
                    f"{row[0]};{row[1]:.2f};{100 * row[2]:.0f};{1e6 * row[3]:.0f};"
                    f"{row[4]:.2f}\n".replace(".", ",")
                )
        took = wall_ms(lambda: read_log(path, "Etc/GMT-1"), 3)
    print(f"reading 262 800 rows of CSV        {took:8.1f} ms   {took / 2000:5.2f} of 2 s asked")


def drawing(series: list[Series]) -> None:
    """Print how long the four take to paint."""
    from calveth.app.launch import use_offscreen

    use_offscreen()
    from PySide6.QtGui import QPixmap
    from PySide6.QtWidgets import QApplication

    from calveth.app.theme import theme
    from calveth.app.widgets.log_plot import Curve, LogPlot, Strip

    app = QApplication.instance() or QApplication([])
    theme.apply(app)  # type: ignore[arg-type]
    plot = LogPlot()
    plot.resize(1200, 600)
    plot.show_strips(
        [
            Strip(
                title=s.quantity,
                curves=(Curve(name="a", minutes=s.minutes, values=s.values, color="accent"),),
            )
            for s in series
        ],
        [],
    )
    picture = QPixmap(1200, 600)
    whole = wall_ms(lambda: plot.render(picture))
    plot.zoom(0.02)
    near = wall_ms(lambda: plot.render(picture))
    print(f"drawing five years of four         {whole:8.1f} ms   {whole / 50:5.2f} of 50 ms asked")
    print(f"drawing five weeks of them         {near:8.1f} ms")


if __name__ == "__main__":
    channels = five_years()
    storage(channels)
    reading(channels)
    drawing(channels)
