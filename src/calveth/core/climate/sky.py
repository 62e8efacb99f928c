"""Sun and sky of every hour, on level ground and on the faces of a hive.

Positions of the sun and the transposition to tilted faces are those of pvlib; the hours are those
of a year without a leap day in the standard time of the longitude.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.calendar import DAYS_IN_YEAR, HOURS_IN_DAY, HOURS_IN_YEAR
from calveth.core.remembered import remembered

FloatArray = NDArray[np.float64]

_LEVEL_SINE = 0.03  # a lower sun is left to the diffuse sky


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SunCourse:
    """The sun over a place, arrays [8760] in the middle of each hour.

    ``zenith_deg`` and ``azimuth_deg`` [°]; ``extra_w_m2`` on a face turned to it outside the
    air, ``level_w_m2`` on level ground there [W/m²].
    """

    zenith_deg: FloatArray
    azimuth_deg: FloatArray
    extra_w_m2: FloatArray
    level_w_m2: FloatArray

    @property
    def by_day_w_m2(self) -> FloatArray:
        """Mean on level ground outside the air of each day [365] [W/m²]."""
        by_day: FloatArray = self.level_w_m2.reshape(DAYS_IN_YEAR, HOURS_IN_DAY).mean(axis=1)
        return by_day


@remembered(32)
def sun_course(latitude_deg: float, longitude_deg: float, clock_h: int = 0) -> SunCourse:
    """Return the course of the sun (pvlib's ephemeris).

    ``clock_h`` is how far the clock is ahead of the standard time of the longitude.
    """
    import pandas as pd
    from pvlib import irradiance, solarposition

    zone = round(longitude_deg / 15.0) + clock_h
    # A year of 365 days; that its days count from 2001 shifts the sun by less than its diameter.
    local = pd.date_range("2001-01-01 00:30", periods=HOURS_IN_YEAR, freq="h")
    times: Any = (local - pd.Timedelta(hours=zone)).tz_localize("UTC")
    positions = solarposition.ephemeris(times, latitude_deg, longitude_deg)
    zenith = positions["zenith"].to_numpy(dtype=float)
    extra = np.asarray(irradiance.get_extra_radiation(times), dtype=float)
    return SunCourse(
        zenith_deg=zenith,
        azimuth_deg=positions["azimuth"].to_numpy(dtype=float),
        extra_w_m2=extra,
        level_w_m2=extra * np.maximum(np.cos(np.radians(zenith)), 0.0),
    )


_SHIFTS_H = (-3, -2, -1, 1, 2, 3)
# Share of the year's sun that may fall while it is down: hours are means, and twilight is light.
AT_NIGHT = 0.02


def sun_at_night(
    global_w_m2: FloatArray, latitude_deg: float, longitude_deg: float, clock_h: int = 0
) -> float:
    """Return the share of the year's sun [8760] that falls while the sun is down [-]."""
    sun_total = float(global_w_m2.sum())
    up = sun_course(latitude_deg, longitude_deg, clock_h).level_w_m2 > 0.0
    return float(global_w_m2[~up].sum()) / sun_total if sun_total > 0.0 else 0.0


def clock_ahead_h(global_w_m2: FloatArray, latitude_deg: float, longitude_deg: float) -> int:
    """Return how far the clock of hours [8760] is ahead of the standard time of their longitude.

    Seen from the sun: where much of it falls at night, the whole hour that halves that at least. A
    wide time zone is so, and summer time.
    """
    share = sun_at_night(global_w_m2, latitude_deg, longitude_deg)
    if share <= AT_NIGHT:
        return 0
    tried = {s: sun_at_night(global_w_m2, latitude_deg, longitude_deg, s) for s in _SHIFTS_H}
    best = min(tried, key=lambda s: tried[s])
    return best if tried[best] < 0.5 * share else 0


def diffuse_of(global_w_m2: FloatArray, course: SunCourse) -> FloatArray:
    """Return the diffuse part of the sun on level ground [8760] [W/m²] (Erbs 1982, pvlib).

    Parameters
    ----------
    global_w_m2 : array [8760]
        Sun on level ground [W/m²].
    course : SunCourse
        Where the sun stands in every hour.
    """
    from pvlib import irradiance

    day = np.repeat(np.arange(1, DAYS_IN_YEAR + 1), HOURS_IN_DAY)
    split = irradiance.erbs(global_w_m2, course.zenith_deg, day)
    result: FloatArray = np.nan_to_num(np.asarray(split["dhi"], dtype=float))
    return np.minimum(result, global_w_m2)


def relative_air_mass(zenith_deg: FloatArray) -> FloatArray:
    """Return how many times the air above the beam crosses, 40 where the sun is down.

    Parameters
    ----------
    zenith_deg : array [H]
        How far the sun is from overhead [°].

    Returns
    -------
    array [H]
        Air mass [-]; formula of Kasten and Young (1989), by pvlib.
    """
    from pvlib.atmosphere import get_relative_airmass

    mass: FloatArray = np.nan_to_num(get_relative_airmass(zenith_deg), nan=40.0)
    return mass


def on_face(
    global_w_m2: FloatArray,
    diffuse_w_m2: FloatArray,
    course: SunCourse,
    tilt_deg: float,
    azimuth_deg: float,
    beam: FloatArray | float = 1.0,
    sky: FloatArray | float = 1.0,
) -> FloatArray:
    """Return the sun on a face [8760] [W/m²]: direct, from sky (Hay and Davies 1980) and ground.

    ``beam`` and ``sky`` are the shares of both that come past what stands round [-].

    Parameters
    ----------
    global_w_m2 : array [8760]
        Sun on level ground [W/m²].
    diffuse_w_m2 : array [8760]
        Its diffuse part [W/m²].
    course : SunCourse
        Where the sun stands in every hour.
    tilt_deg : float
        Of the face: 0 looks up, 90 stands upright [°].
    azimuth_deg : float
        Bearing the face looks to, from north by east [°].
    beam : float or array [8760]
        Share of the direct sun that comes past what stands round [-].
    sky : float or array [8760]
        Share of the sky in sight [-].
    """
    from pvlib import irradiance

    sine = np.cos(np.radians(course.zenith_deg))
    high = sine > _LEVEL_SINE
    direct = np.where(high, (global_w_m2 - diffuse_w_m2) / np.maximum(sine, _LEVEL_SINE), 0.0)
    direct = np.clip(direct, 0.0, course.extra_w_m2)
    projection = np.maximum(
        irradiance.aoi_projection(tilt_deg, azimuth_deg, course.zenith_deg, course.azimuth_deg), 0.0
    )
    scattered = irradiance.haydavies(
        tilt_deg,
        azimuth_deg,
        diffuse_w_m2,
        direct,
        course.extra_w_m2,
        solar_zenith=course.zenith_deg,
        solar_azimuth=course.azimuth_deg,
    )
    level = (global_w_m2 - diffuse_w_m2) * beam + diffuse_w_m2 * sky
    ground = level * y.ALBEDO.value * (1.0 - np.cos(np.radians(tilt_deg))) / 2.0
    result: FloatArray = (
        direct * projection * beam + np.nan_to_num(np.asarray(scattered)) * sky + ground
    )
    return result


def sky_loss_w_m2(
    temperature_degc: FloatArray, vapour_pressure_pa: FloatArray, cloud: FloatArray
) -> FloatArray:
    """Return what a level black face at air temperature loses to the sky [W/m²].

    ε of the clear sky by dew point (Berdahl and Martin 1984), and by cloud a share of the rest
    (`CLOUD_EMITS`).

    Parameters
    ----------
    temperature_degc : array
        Of the air, any shape [°C].
    vapour_pressure_pa : array
        Shape of the temperature [Pa].
    cloud : array
        Cloudiness, 0 to 1, shape of the temperature [-].
    """
    from calveth.core.climate.air import dew_point_unchecked_degc

    dew = dew_point_unchecked_degc(vapour_pressure_pa) / 100.0
    clear = np.clip(0.711 + 0.56 * dew + 0.73 * dew**2, 0.5, 1.0)
    emits = clear + (1.0 - clear) * y.CLOUD_EMITS.value * cloud
    kelvin = temperature_degc + c.KELVIN_AT_0_DEGC.value
    result: FloatArray = c.STEFAN_BOLTZMANN.value * kelvin**4 * (1.0 - emits)
    return result


def cloud_of(global_w_m2: FloatArray, course: SunCourse) -> FloatArray:
    """Return how cloudy each hour is [8760], 0 to 1, from how much of the day's sun came through.

    Where the sun does not rise, half.

    Parameters
    ----------
    global_w_m2 : array [8760]
        Sun on level ground [W/m²].
    course : SunCourse
        Where the sun stands in every hour.
    """
    day = global_w_m2.reshape(DAYS_IN_YEAR, HOURS_IN_DAY).mean(axis=1)
    most = course.by_day_w_m2
    through = np.divide(day, most, out=np.full(DAYS_IN_YEAR, 0.5), where=most > 2.0)
    clear, grey = y.CLEAR_DAY_THROUGH.value, y.GREY_DAY_THROUGH.value
    cloud = np.clip((clear - through) / (clear - grey), 0.0, 1.0)
    return np.repeat(cloud, HOURS_IN_DAY)
