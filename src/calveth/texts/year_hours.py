"""What is to be said of one hour of a year."""

from __future__ import annotations

from functools import partial

import numpy as np

from calveth.core import constants_year as y
from calveth.core.advice.finding import Tone
from calveth.core.assess.readings import NestReadings
from calveth.core.climate.air import (
    dew_point_unchecked_degc,
    saturation_pressure_unchecked_pa,
)
from calveth.core.hive.opening import WALL_SIDES
from calveth.core.nest.network import SURFACES
from calveth.core.units import litres_per_hour
from calveth.core.year.columns import S_FILM, S_P
from calveth.core.year.figures import HALF_CLOSED, UPPER_WALL, side_films_kg_m2, wet_hours
from calveth.core.year.result import YearRun
from calveth.texts.units import UnitSystem
from calveth.texts.year import hour_words

_STILL_KG_H = 2e-5
_FELT_ICE = 0.05
# Less than half a gram would be written as none.
_SEEN_DRIP_KG = 5e-4


def hour_lines(
    run: YearRun, hour: int, readings: NestReadings, units: UnitSystem
) -> list[tuple[Tone, str]]:
    """Return what stands in an hour, worst first: wet surfaces, heat, air, sun."""
    lines = _wet(run, hour, readings, units)
    lines += _busy(run, hour, units)
    lines += _snow_and_ice(run, hour, units)
    air = litres_per_hour(float(readings.exchange_m3_s[0]))
    co2 = 100.0 * float(run.column("nest_co2")[hour])
    tone: Tone = "bad" if co2 > 8.0 else "good"
    lines.append((tone, f"Air: {units.write(air, 'flow')}; CO2 {co2:.1f} %."))
    lines.append(("note", _sun(run, hour)))
    return sorted(lines, key=lambda line: line[0] != "bad")


def _wet(
    run: YearRun, hour: int, readings: NestReadings, units: UnitSystem
) -> list[tuple[Tone, str]]:
    """Return a line for each wet surface: how much stands there, and whether it grows or dries."""
    lines: list[tuple[Tone, str]] = []
    wet = wet_hours(run)[:, hour]
    for k, name in enumerate(SURFACES):
        if not wet[k]:
            continue
        film = float(run.series[hour, S_FILM + k])
        rate = 3600.0 * float(readings.balance.condensing_kg_s[k, 0])
        change = f"{units.write(1000 * abs(rate), 'water', 1)} an hour"
        does = "stands" if abs(rate) < _STILL_KG_H else ("settles" if rate > 0 else "dries")
        more = "" if does == "stands" else f", {change} {does}"
        cold = float(readings.balance.surface_degc[k, 0]) < 0.0
        text = f"{name.capitalize()}: {units.write(1000 * film, 'water', 0)} of "
        text += f"{'ice and water' if cold else 'water'}{more}{_on_sides(run, hour, k)}."
        lines.append(("bad" if k < 2 else "note", text))
    drip = float(run.column("dripped_kg")[hour])
    if drip > _SEEN_DRIP_KG:
        lines.insert(0, ("bad", f"{units.write(1000 * drip, 'water', 0)} drip from the lid."))
    return lines or [("good", "Nothing inside is wet.")]


def _snow_and_ice(run: YearRun, hour: int, units: UnitSystem) -> list[tuple[Tone, str]]:
    """Return what snow on the lid and ice in the entrance do; nothing where there is none."""
    lines: list[tuple[Tone, str]] = []
    snow = float(run.column("snow_on_lid_kg_m2")[hour])
    if snow > 0.0:
        deep = units.write(snow / y.SNOW_DENSITY.value, "length", 0)
        lines.append(("note", f"Snow on the lid, {deep} deep, keeps it warmer than a bare one."))
    iced = float(run.column("entrance_iced")[hour])
    if iced > _FELT_ICE:
        tone: Tone = "bad" if iced > HALF_CLOSED else "note"
        lines.append((tone, f"Ice closes {100 * iced:.0f} % of the low entrance: knock it free."))
    return lines


def _on_sides(run: YearRun, hour: int, surface: int) -> str:
    """Return on which sides of the upper wall water is seen; nothing where it is on all alike."""
    films = side_films_kg_m2(run)[:, hour]
    wet = [side for side, film in zip(WALL_SIDES, films, strict=True) if film > y.SEEN_FILM.value]
    if surface != UPPER_WALL or not wet or len(wet) == len(WALL_SIDES):
        return ""
    return f"; {' and '.join(wet)} alone"


def _busy(run: YearRun, hour: int, units: UnitSystem) -> list[tuple[Tone, str]]:
    lines: list[tuple[Tone, str]] = []
    nest = float(run.column("nest_degc")[hour])
    brood = float(run.bees.core_degc[hour]) > 30.0
    if nest > y.BEARDING.value:
        lines.append(("bad", "Bees hang out at the front: fanning and water do not do any more."))
    elif nest > y.BROOD_HARMED.value and brood:
        lines.append(("bad", f"Too warm for brood: {units.write(nest, 'temperature', 1)}."))
    return lines


def _sun(run: YearRun, hour: int) -> str:
    """Return the sun on lid and sides, and what the sky takes."""
    w = run.weather
    sky = float(w.sky_w_m2[hour])
    if float(w.global_sun_w_m2[hour]) < 1.0:
        return f"No sun; a clear sky takes {sky:.0f} W/m² from the lid."
    sides = np.array([float(w.sun_side_w_m2[k, hour]) for k in range(4)])
    each = ", ".join(f"{side} {v:.0f}" for side, v in zip(WALL_SIDES, sides, strict=True))
    return f"Sun in W/m²: lid {w.sun_lid_w_m2[hour]:.0f}, {each}; the sky takes {sky:.0f}."


def hour_sentence(run: YearRun, hour: int, units: UnitSystem) -> str:
    """Return what stands in an hour, in words."""
    outside = run.weather
    degc = float(outside.temperature_degc[hour])
    humid = float(outside.vapour_pressure_pa[hour]) / float(
        saturation_pressure_unchecked_pa(np.array(degc))
    )
    crown = float(run.column("crown_degc")[hour])
    dew = float(dew_point_unchecked_degc(np.array(max(run.series[hour, S_P + 2], 1.0))))
    lid, rim = (float(run.column(f"lid_{part}_degc")[hour]) for part in ("middle", "rim"))
    film = 1000.0 * float(run.series[hour, S_FILM : S_FILM + 2].sum())
    t = partial(units.write, quantity="temperature", digits=1)
    acts = []
    fanned = 1000.0 * float(run.column("fanning_m3_s")[hour])
    if fanned > 0.05:
        acts.append(f"bees fan {fanned:.1f} L/s")
    if run.column("cooling_kg_s")[hour] > 1e-6:
        acts.append(f"spread {3.6e6 * float(run.column('cooling_kg_s')[hour]):.0f} g of water an h")
    busy = f" In it {' and '.join(acts)}." if acts else ""
    return (
        f"{hour_words(hour)}: outside {t(degc)} and {100 * humid:.0f} %, wind at the hive "
        f"{units.write(float(outside.wind_m_s[hour]), 'speed', 1)}, sun "
        f"{float(outside.global_sun_w_m2[hour]):.0f} W/m². Beside the bees "
        f"{t(float(run.column('nest_degc')[hour]))}, under the lid {t(crown)} with the dew point "
        f"at {t(dew)}; the lid itself is {t(lid)}, its rim {t(rim)}, with {film:.0f} g of water "
        f"on them. The bees give {float(run.column('heat_w')[hour]):.1f} W, CO2 is "
        f"{100 * float(run.column('nest_co2')[hour]):.1f} %.{busy}"
    )
