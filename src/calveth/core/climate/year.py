"""The weather of a place hour by hour: as a file brought it, or made up from its months."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.calendar import HOURS_IN_YEAR
from calveth.core.climate.air import (
    SIDES,
    saturation_pressure_unchecked_pa,
    side_bearing_deg,
    wind_at_hive_m_s,
)
from calveth.core.climate.days import MONTH_OF_HOUR
from calveth.core.climate.generated import SEED, GeneratedHours, generated_hours
from calveth.core.climate.ground import ground_degc, snow_depth_m, snow_falls_kg_m2
from calveth.core.climate.place import Place
from calveth.core.climate.shade import OPEN, beam_share, sky_share
from calveth.core.climate.sky import (
    SunCourse,
    clock_ahead_h,
    cloud_of,
    diffuse_of,
    on_face,
    sky_loss_w_m2,
    sun_course,
)
from calveth.core.remembered import remembered

FloatArray = NDArray[np.float64]

# The most a warm low sky may give to a colder face; an estimate [W/m²].
_SKY_GIVES_MOST = 50.0
OWN_WIND = 16
"""Where the wind comes from when no hour says so: the row after the 16 of the compass."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class YearWeather:
    """What a hive meets, arrays [8760]; in a winter room its air and nothing else.

    ``wind_m_s`` is at the hive, ``station_wind_m_s`` at 10 m; ``sector`` the 16th of the compass
    the wind comes from, or `OWN_WIND`; ``global_sun_w_m2`` and its diffuse part fall on level
    ground, ``clock_h`` is how far the clock is ahead of the sun's; ``sun_lid_w_m2`` and
    ``sun_side_w_m2`` [4, 8760] fall on lid and upright sides past what stands round, ``sky_w_m2``
    and ``sky_side_w_m2`` are lost to the sky by a black lid and by the mean of black sides;
    ``snow_m`` lies on level ground, ``snow_falls_kg_m2`` comes in the hour, ``ground_degc`` is the
    ground under a slab. ``made_up`` names what was not in a file but made from the months.
    """

    temperature_degc: FloatArray
    vapour_pressure_pa: FloatArray
    wind_m_s: FloatArray
    station_wind_m_s: FloatArray
    sector: NDArray[np.int_]
    rain_mm: FloatArray
    global_sun_w_m2: FloatArray
    diffuse_sun_w_m2: FloatArray
    clock_h: int
    sun_lid_w_m2: FloatArray
    sun_side_w_m2: FloatArray
    sky_w_m2: FloatArray
    sky_side_w_m2: FloatArray
    snow_m: FloatArray
    snow_falls_kg_m2: FloatArray
    ground_degc: FloatArray
    made_up: tuple[str, ...]

    @property
    def daylight(self) -> NDArray[np.bool_]:
        """Hours in which the sun is up [8760]."""
        result: NDArray[np.bool_] = self.global_sun_w_m2 > 5.0
        return result


@remembered(80)
def year_weather(place: Place, seed: int = SEED) -> YearWeather:
    """Return the year of a place; what its hours do not hold is made up from its months."""
    made = generated_hours(place, seed)
    degc, pascal, wind, rain, sun, diffuse, sector, missing = _from_file(place, made)
    clock_h = 0
    if "global_sun_w_m2" not in missing:
        clock_h = clock_ahead_h(sun, place.latitude_deg, place.longitude_deg)
    course = sun_course(place.latitude_deg, place.longitude_deg, clock_h)
    sun = np.where(course.level_w_m2 > 0.0, np.minimum(sun, course.level_w_m2), 0.0)
    scattered = diffuse_of(sun, course) if diffuse is None else np.minimum(diffuse, sun)
    faces = _faces(place, sun, scattered, course)
    sky = _sky_loss(place, degc, pascal, cloud_of(sun, course))
    room = place.room
    blown = wind * wind_at_hive_m_s(1.0, place)
    inside = np.array([room is not None and room.holds(m) for m in range(12)])[MONTH_OF_HOUR]
    if room is not None:
        saturated = saturation_pressure_unchecked_pa(np.array([room.temperature_degc]))
        degc = np.where(inside, room.temperature_degc, degc)
        pascal = np.where(inside, room.relative_humidity * saturated, pascal)
    out = np.where(inside, 0.0, 1.0)
    snow, falls = np.zeros(HOURS_IN_YEAR), np.zeros(HOURS_IN_YEAR)
    if place.first_snow_week:
        snow, falls = snow_depth_m(degc, rain), snow_falls_kg_m2(degc, rain)
    return YearWeather(
        temperature_degc=degc,
        vapour_pressure_pa=pascal,
        wind_m_s=blown * out,
        station_wind_m_s=wind,
        sector=sector,
        rain_mm=rain * out,
        global_sun_w_m2=sun * out,
        diffuse_sun_w_m2=scattered * out,
        clock_h=clock_h,
        sun_lid_w_m2=faces.lid * out,
        sun_side_w_m2=faces.sides * out,
        sky_w_m2=sky * faces.sky_lid * out,
        sky_side_w_m2=sky * faces.sky_side * out,
        snow_m=snow * out,
        snow_falls_kg_m2=falls * out,
        ground_degc=np.where(inside, degc, ground_degc(degc)),
        made_up=missing,
    )


def _sky_loss(place: Place, degc: FloatArray, pascal: FloatArray, by_sun: FloatArray) -> FloatArray:
    """Return what a black level face loses to the sky [8760] [W/m²].

    From the long-wave radiation of the file where it has it, else from its cloud, else from what
    the sun of the day says of the cloud (``by_sun``).
    """
    columns = dict(place.hours.columns) if place.hours is not None else {}
    kept = {
        name: _bridged(np.asarray(columns[name], dtype=float))
        for name in ("sky_w_m2", "cloud")
        if name in columns and np.isnan(columns[name]).mean() <= 0.5
    }
    if "sky_w_m2" in kept:
        own = c.STEFAN_BOLTZMANN.value * (degc + c.KELVIN_AT_0_DEGC.value) ** 4
        # Under low cloud, after a warm hour, the sky may give more than the face does.
        result: FloatArray = np.maximum(own - kept["sky_w_m2"], -_SKY_GIVES_MOST)
        return result
    return sky_loss_w_m2(degc, pascal, np.clip(kept.get("cloud", by_sun), 0.0, 1.0))


class _Faces(NamedTuple):
    """Sun on lid [8760] and sides [4, 8760] [W/m²], and how much of the sky's loss they have."""

    lid: FloatArray
    sides: FloatArray
    sky_lid: FloatArray
    sky_side: FloatArray


def _faces(place: Place, sun: FloatArray, scattered: FloatArray, course: SunCourse) -> _Faces:
    """Return the sun on the faces of the hive and the sky they see, past hills and trees."""
    bearings = [side_bearing_deg(side, place) for side in SIDES]
    shade = place.shade or OPEN
    months = range(12)
    lid = np.array([sky_share(shade, shade.through[m]) for m in months])[MONTH_OF_HOUR]
    walls = [_sky_of_wall(place, b) for b in bearings]
    beam = beam_share(shade, course.zenith_deg, course.azimuth_deg, MONTH_OF_HOUR)
    return _Faces(
        lid=(sun - scattered) * beam + scattered * lid,
        sides=np.array(
            [
                on_face(sun, scattered, course, 90.0, b, beam, seen)
                for b, seen in zip(bearings, walls, strict=True)
            ]
        ),
        sky_lid=lid,
        sky_side=y.SKY_OF_WALL.value * np.mean(walls, axis=0),
    )


def _sky_of_wall(place: Place, bearing_deg: float) -> FloatArray:
    """Return the share of the sky a wall sees past what stands round, by hour [8760] [-]."""
    shade = place.shade or OPEN
    by_month = [sky_share(shade, shade.through[m], bearing_deg) for m in range(12)]
    result: FloatArray = np.array(by_month)[MONTH_OF_HOUR]
    return result


Slants = tuple[tuple[float, float], ...]
"""How a side stands: the tilt of each of its boards [°], 90 upright, and their shares of it [-]."""


@remembered(16)
def sun_on_slants(weather: YearWeather, place: Place, side: int, slants: Slants) -> FloatArray:
    """Return the sun on a side that leans [8760] [W/m²], past what stands round.

    ``side`` is its place in `SIDES`. An overhanging board (over 90°) sees less sky and more ground.
    """
    bearing, shade = side_bearing_deg(SIDES[side], place), place.shade or OPEN
    course = sun_course(place.latitude_deg, place.longitude_deg, weather.clock_h)
    beam = beam_share(shade, course.zenith_deg, course.azimuth_deg, MONTH_OF_HOUR)
    seen = _sky_of_wall(place, bearing)
    result = np.zeros(HOURS_IN_YEAR)
    for tilt_deg, share in slants:
        result += share * on_face(
            weather.global_sun_w_m2, weather.diffuse_sun_w_m2, course, tilt_deg, bearing, beam, seen
        )
    return result


def _from_file(
    place: Place, made: GeneratedHours
) -> tuple[
    FloatArray,
    FloatArray,
    FloatArray,
    FloatArray,
    FloatArray,
    FloatArray | None,
    NDArray[np.int_],
    tuple[str, ...],
]:
    """Return the hours of the file with its gaps bridged, and what it does not say made up."""
    columns = dict(place.hours.columns) if place.hours is not None else {}
    missing: list[str] = []

    def column(name: str, otherwise: FloatArray) -> FloatArray:
        if name not in columns or np.isnan(columns[name]).mean() > 0.5:
            missing.append(name)
            return otherwise
        return _bridged(np.asarray(columns[name], dtype=float))

    degc = column("temperature_degc", made.temperature_degc)
    saturated = saturation_pressure_unchecked_pa(degc)
    if "dew_point_degc" in columns and np.isnan(columns["dew_point_degc"]).mean() <= 0.5:
        dew = _bridged(np.asarray(columns["dew_point_degc"], dtype=float))
        pascal = np.minimum(saturation_pressure_unchecked_pa(dew), saturated)
    else:
        ratio = made.vapour_pressure_pa / saturation_pressure_unchecked_pa(made.temperature_degc)
        pascal = np.minimum(column("relative_humidity", ratio), 1.0) * saturated
    wind = column("wind_m_s", made.wind_m_s)
    rain = column("rain_mm", made.rain_mm)
    sun = column("global_sun_w_m2", made.global_sun_w_m2)
    diffuse = None
    if "diffuse_sun_w_m2" in columns and "global_sun_w_m2" not in missing:
        diffuse = _bridged(np.asarray(columns["diffuse_sun_w_m2"], dtype=float))
    sector = np.full(HOURS_IN_YEAR, OWN_WIND)
    if "wind_from_deg" in columns:
        bearing = np.asarray(columns["wind_from_deg"], dtype=float)
        known = np.isfinite(bearing)
        sector[known] = np.round(bearing[known] / 22.5).astype(int) % 16
    else:
        missing.append("wind_from_deg")
    return degc, pascal, wind, rain, sun, diffuse, sector, tuple(missing)


def _bridged(values: FloatArray) -> FloatArray:
    """Return values with gaps bridged by a straight line, over the turn of the year too."""
    known = np.flatnonzero(np.isfinite(values))
    if known.size in (0, values.size):
        return np.nan_to_num(values)
    return np.interp(np.arange(values.size), known, values[known], period=values.size)
