"""What is to be said of one hour of a year."""

from __future__ import annotations

import numpy as np

from calveth.core import constants_year as y
from calveth.core.assess.finding import Tone
from calveth.core.assess.moments import Moments
from calveth.core.hive.opening import WALL_SIDES
from calveth.core.nest.network import SURFACES
from calveth.core.units import litres_per_hour
from calveth.core.year.columns import S_FILM
from calveth.core.year.result import YearRun
from calveth.texts.units import UnitSystem

_STILL_KG_H = 2e-5


def hour_lines(
    run: YearRun, hour: int, moments: Moments, units: UnitSystem
) -> list[tuple[Tone, str]]:
    """Return what stands in an hour, worst first: wet surfaces, heat, air, sun."""
    lines = _wet(run, hour, moments, units)
    lines += _busy(run, hour, units)
    air = litres_per_hour(float(moments.exchange_m3_s[0]))
    co2 = 100.0 * float(run.column("nest_co2")[hour])
    tone: Tone = "bad" if co2 > 8.0 else "good"
    lines.append((tone, f"Air: {units.write(air, 'flow')}; CO2 {co2:.1f} %."))
    lines.append(("note", _sun(run, hour)))
    return sorted(lines, key=lambda line: line[0] != "bad")


def _wet(
    run: YearRun, hour: int, moments: Moments, units: UnitSystem
) -> list[tuple[Tone, str]]:  # fmt: skip
    """Return a line for each wet surface: how much stands there, and whether it grows or dries."""
    found: list[tuple[Tone, str]] = []
    for k, name in enumerate(SURFACES):
        area, film = float(run.areas_m2[k]), float(run.series[hour, S_FILM + k])
        if area <= 0.0 or film < y.SEEN_FILM.value * area:
            continue
        rate = 3600.0 * float(moments.balance.condensing_kg_s[k, 0])
        change = f"{units.write(1000 * abs(rate), 'water', 1)} an hour"
        does = "stands" if abs(rate) < _STILL_KG_H else ("settles" if rate > 0 else "dries")
        more = "" if does == "stands" else f", {change} {does}"
        cold = float(moments.balance.surface_degc[k, 0]) < 0.0
        text = f"{name.capitalize()}: {units.write(1000 * film, 'water', 0)} of "
        text += f"{'ice and water' if cold else 'water'}{more}."
        found.append(("bad" if k < 2 else "note", text))
    drip = float(run.column("dripped_kg")[hour])
    if drip > 1e-4:
        found.insert(0, ("bad", f"{units.write(1000 * drip, 'water', 0)} drip from the lid."))
    return found or [("good", "Nothing inside is wet.")]


def _busy(run: YearRun, hour: int, units: UnitSystem) -> list[tuple[Tone, str]]:
    found: list[tuple[Tone, str]] = []
    nest = float(run.column("nest_degc")[hour])
    brood = float(run.bees.core_degc[hour]) > 30.0
    if nest > y.BEARDING.value:
        found.append(("bad", "Bees hang out at the front: fanning and water do not do any more."))
    elif nest > y.BROOD_HARMED.value and brood:
        found.append(("bad", f"Too warm for brood: {units.write(nest, 'temperature', 1)}."))
    return found


def _sun(run: YearRun, hour: int) -> str:
    """Return the sun on lid and sides, and what the sky takes."""
    w = run.weather
    sky = float(w.sky_w_m2[hour])
    if float(w.global_sun_w_m2[hour]) < 1.0:
        return f"No sun; a clear sky takes {sky:.0f} W/m² from the lid."
    sides = np.array([float(w.sun_side_w_m2[k, hour]) for k in range(4)])
    each = ", ".join(f"{side} {v:.0f}" for side, v in zip(WALL_SIDES, sides, strict=True))
    return f"Sun in W/m²: lid {w.sun_lid_w_m2[hour]:.0f}, {each}; the sky takes {sky:.0f}."
