"""What the faces of a hive feel of sun and sky: in one hour, or through a month of its year."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants_year as y
from calveth.core.calendar import HOURS_IN_DAY
from calveth.core.climate.days import MONTH_OF_HOUR
from calveth.core.climate.sky import SunCourse, sun_course
from calveth.core.hive.opening import WALL_SIDES
from calveth.core.year import columns as cl
from calveth.core.year.figures import side_films_kg_m2
from calveth.core.year.result import YearRun


@dataclass(frozen=True, slots=True, kw_only=True)
class FaceSun:
    """Sun on faces and what they make of it, at one hour or as the mean of a month.

    Attributes
    ----------
    sun_w_m2, outside_degc : dict
        By face, the lid and the sides of `WALL_SIDES`: sun [W/m²] and how warm its outside is [°C].
    inside_k : dict
        By side, how much warmer the upper wall is inside than the mean of the four [K].
    lid_loses_w_m2, sides_lose_w_m2 : float
        What the sky takes from a black lid, and from a black side in the mean [W/m²].
    air_degc, snow_m : float
        Outside air [°C] and snow on level ground [m].
    height_deg, bearing_deg : float
        Where the sun stands; below nought it is down. In a month at noon.
    wet_hours : dict
        By side, the share of the hours in which water is seen on the upper wall [-].
    """

    sun_w_m2: dict[str, float]
    outside_degc: dict[str, float]
    inside_k: dict[str, float]
    lid_loses_w_m2: float
    sides_lose_w_m2: float
    air_degc: float
    snow_m: float
    height_deg: float
    bearing_deg: float
    wet_hours: dict[str, float]


def sun_at(run: YearRun, hour: int) -> FaceSun:
    """Return what the faces feel in an hour (0 to 8759)."""
    return _mean(run, np.array([hour]), hour)


def sun_of_month(run: YearRun, month: int) -> FaceSun:
    """Return the means of a month (0 to 11); the sun stands where it does at its middle noon."""
    hours = np.flatnonzero(month == MONTH_OF_HOUR)
    middle = hours[hours.size // 2] // HOURS_IN_DAY * HOURS_IN_DAY
    course = _course(run)
    noon = middle + int(np.argmin(course.zenith_deg[middle : middle + HOURS_IN_DAY]))
    return _mean(run, hours, noon)


def _course(run: YearRun) -> SunCourse:
    place = run.case.place
    return sun_course(place.latitude_deg, place.longitude_deg)


def _mean(run: YearRun, hours: NDArray[np.int_], stands: int) -> FaceSun:
    w, series = run.weather, run.series[hours]
    sides = series[:, cl.S_SIDE : cl.S_SIDE + 4]
    outside = series[:, cl.S_OUTSIDE : cl.S_OUTSIDE + 4]
    wet = side_films_kg_m2(run)[:, hours] > y.SEEN_FILM.value
    sun, degc = {"lid": float(w.sun_lid_w_m2[hours].mean())}, {}
    degc["lid"] = float(series[:, cl.S_OUTER].mean())
    for k, side in enumerate(WALL_SIDES):
        sun[side] = float(w.sun_side_w_m2[k, hours].mean())
        degc[side] = float(outside[:, k].mean())
    course = _course(run)
    return FaceSun(
        sun_w_m2=sun,
        outside_degc=degc,
        inside_k={s: float(sides[:, k].mean()) for k, s in enumerate(WALL_SIDES)},
        lid_loses_w_m2=float(w.sky_w_m2[hours].mean()),
        sides_lose_w_m2=float(w.sky_side_w_m2[hours].mean()),
        air_degc=float(w.temperature_degc[hours].mean()),
        snow_m=float(w.snow_m[hours].mean()),
        height_deg=90.0 - float(course.zenith_deg[stands]),
        bearing_deg=float(course.azimuth_deg[stands]),
        wet_hours={s: float(wet[k].mean()) for k, s in enumerate(WALL_SIDES)},
    )
