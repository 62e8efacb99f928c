"""Writes what two loggers of the invented apiary wrote, as their makers would export it.

``.venv/bin/python tools/make_logs.py``, after ``tools/make_apiary.py``. Boathouse (boards) has a
probe for warmth, damp and CO2 under the lid, a scale and one probe outside, with a German clock and
decimal commas; Alder (composite) warmth and CO2 under the lid, in ISO dates. Faults: spikes as a
loose plug makes them, a gap of two days, a probe stuck for two days, snow on the scale. Seeded.
"""

from __future__ import annotations

import sys
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

ROOT = Path(__file__).resolve().parent.parent
sys.path.insert(0, str(ROOT / "tools"))

from make_apiary import truth  # noqa: E402

from calveth.catalogue.apiary import apiary_designs  # noqa: E402
from calveth.catalogue.shipped import demo_project  # noqa: E402
from calveth.core.climate.air import saturation_pressure_unchecked_pa  # noqa: E402
from calveth.core.diary.season import clock_h, utc_hours  # noqa: E402
from calveth.core.year import columns as cl  # noqa: E402
from calveth.core.year.figures import honey_by_day  # noqa: E402

FloatArray = NDArray[np.float64]
WINTER, SEED = 2024, 11
FIRST, LAST = datetime(2024, 11, 2), datetime(2025, 3, 16)
HIVE_KG, STORES_KG = 21.0, 16.5


def main() -> None:
    """Work the winter out and write both files."""
    project = demo_project()
    place = project.place
    designs = {d.id: d for d in apiary_designs()}
    hours = utc_hours(place, WINTER)
    first = int((FIRST - datetime(1970, 1, 1)).total_seconds()) // 3600 - clock_h(place)
    count = int((LAST - FIRST).total_seconds()) // 3600
    at = np.argsort(hours)[np.searchsorted(np.sort(hours), first + np.arange(count))]
    random = np.random.default_rng(SEED)
    target = ROOT / "src" / "calveth" / "catalogue"

    run = truth(project, designs, "plain-boards", WINTER)
    degc = run.series[at, cl.S_T + 2]
    humid = run.series[at, cl.S_P + 2] / saturation_pressure_unchecked_pa(degc)
    outside = run.weather.temperature_degc[at]
    burnt = np.repeat(honey_by_day(run) / 24.0, 24)[at].cumsum()
    lid = _sixteenths(degc + 0.2 + _wander(random, count, 0.35))
    lid[random.choice(count, 5, replace=False)] = -40.0
    damp = np.clip(humid + 0.015 + _wander(random, count, 0.02), 0.0, 1.0)
    ppm = 1e6 * run.series[at, cl.S_CO2 + 1] * np.exp(_wander(random, count, 0.08))
    kg = HIVE_KG + STORES_KG - burnt + 0.008 * (outside - outside.mean())
    kg += 0.02 * random.standard_normal(count)
    snow = slice(60 * 24, 63 * 24)
    kg[snow] += 1.4
    keep = np.ones(count, dtype=bool)
    keep[95 * 24 : 97 * 24] = False
    rows = [
        ";".join(
            [
                f"{_clock(k):%d.%m.%Y %H:%M}",
                *(
                    f"{v:.{n}f}".replace(".", ",")
                    for v, n in (
                        (lid[k], 2),
                        (100 * damp[k], 0),
                        (ppm[k], 0),
                        (kg[k], 2),
                        (_sixteenths(outside)[k], 2),
                    )
                ),
            ]
        )
        for k in np.flatnonzero(keep)
    ]
    _write(target / "boathouse.csv", "Zeit;lid °C;lid %;lid CO2 ppm;scale kg;outside °C", rows)

    run = truth(project, designs, "composite", WINTER)
    lid = _sixteenths(run.series[at, cl.S_T + 2] - 0.15 + _wander(random, count, 0.35))
    lid[40 * 24 : 42 * 24] = lid[40 * 24]
    ppm = 1e6 * run.series[at, cl.S_CO2 + 1] * np.exp(_wander(random, count, 0.08))
    rows = [f"{_clock(k):%Y-%m-%d %H:%M},{lid[k]:.2f},{ppm[k]:.0f}" for k in range(count)]
    _write(target / "alder.csv", "time,lid °C,lid CO2 ppm", rows)


def _clock(k: int) -> datetime:
    return FIRST + timedelta(hours=int(k))


def _wander(random: np.random.Generator, count: int, size: float) -> FloatArray:
    """Return a wandering of a probe and what is round it that forgets in a day and a half."""
    hold = np.exp(-1.0 / 36.0)
    kick = size * np.sqrt(1.0 - hold**2) * random.standard_normal(count)
    found = np.zeros(count)
    for k in range(1, count):
        found[k] = hold * found[k - 1] + kick[k]
    return found


def _sixteenths(values: FloatArray) -> FloatArray:
    return np.round(16 * values) / 16


def _write(path: Path, head: str, rows: list[str]) -> None:
    path.write_text("\n".join([head, *rows]) + "\n", encoding="utf-8")
    print(f"wrote {path.name}: {len(rows)} rows")


if __name__ == "__main__":
    main()
