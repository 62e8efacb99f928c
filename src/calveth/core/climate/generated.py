"""A year of hours made up from twelve months, seeded: the same for whoever asks.

Days swing about the months by a first-order memory, more so in winter; clear days have a wide
swing and much sun (Hargreaves and Samani 1982), less of it while the sun is low; temperature runs
in half cosines from sunrise to early afternoon and back; vapour follows the warmth and the damp of
days and the hour, to fog; wind is gusty by hours (Weibull). The means of the months are kept to
rounding, rain falls on the greyest days. Checked against typical years in the tests.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants_year as y
from calveth.core.calendar import (
    DAYS_IN_YEAR,
    HOURS_IN_DAY,
    HOURS_IN_YEAR,
)
from calveth.core.climate.air import saturation_pressure_unchecked_pa, vapour_pressure_pa
from calveth.core.climate.days import MONTH_OF_DAY, MONTH_OF_HOUR, by_month, smooth_days
from calveth.core.climate.place import Place
from calveth.core.climate.sky import SunCourse, relative_air_mass, sun_course

FloatArray = NDArray[np.float64]

SEED = 20260
"""Where the chance of every made-up year begins."""
_YEARS, _LIKELY_YEAR = 1_000_000, 0.5
_RAIN_HOURS_DAY = 8
_ROUNDS = 12


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class GeneratedHours:
    """Hours of a year [8760]: °C, Pa, m/s at 10 m, mm, and W/m² of sun on level ground."""

    temperature_degc: FloatArray
    vapour_pressure_pa: FloatArray
    wind_m_s: FloatArray
    rain_mm: FloatArray
    global_sun_w_m2: FloatArray


def seed_of(chance: float) -> int:
    """Return where the chance of a year begins that is one of many alike, 0 to 1; 0.5 is `SEED`.

    >>> seed_of(0.5) == SEED, seed_of(0.25) == SEED
    (True, False)
    """
    return SEED if chance == _LIKELY_YEAR else SEED + 1 + int(chance * _YEARS)


def generated_hours(place: Place, seed: int = SEED) -> GeneratedHours:
    """Return a year of hours with the means of the months of a place."""
    random = np.random.default_rng(seed)
    months = place.months
    mean = np.array([m.temperature_degc for m in months])
    swing = np.array([m.daily_swing_k for m in months])
    course = sun_course(place.latitude_deg, place.longitude_deg)
    chance = _memory(random.standard_normal(DAYS_IN_YEAR), y.DAYS_HOLD.value)
    anomaly = _in_months(chance * _by_season(mean)) * place.day_to_day_spread_k
    clear = _clearness(random, mean, chance)
    day = smooth_days(mean) + anomaly
    width = np.maximum(swing[MONTH_OF_DAY], 0.0) * (0.5 + clear)
    sun = _sun(width, course)
    degc = _keep_month_means(_course_of_days(day, width, course), mean)
    wind = _wind(random, np.array([m.wind_m_s for m in months]))
    return GeneratedHours(
        temperature_degc=degc,
        vapour_pressure_pa=_vapour(place, degc, anomaly, _damp(seed)),
        wind_m_s=wind,
        rain_mm=_rain(np.array([m.rain_mm for m in months]), clear, random),
        global_sun_w_m2=sun,
    )


def _memory(noise: FloatArray, hold: float) -> FloatArray:
    """Return a first-order autoregression of spread 1."""
    remembered = np.empty_like(noise)
    remembered[0] = noise[0]
    fresh = np.sqrt(1.0 - hold * hold)
    for k in range(1, noise.size):
        remembered[k] = hold * remembered[k - 1] + fresh * noise[k]
    return remembered


def _in_months(chance: FloatArray) -> FloatArray:
    """Return chance without a mean in any month, of spread 1 within the months."""
    left = chance - by_month(chance, MONTH_OF_DAY)[MONTH_OF_DAY]
    result: FloatArray = left / max(float(np.sqrt((left**2).mean())), 1e-9)
    return result


def _clearness(random: np.random.Generator, mean: FloatArray, chance: FloatArray) -> FloatArray:
    """Return how clear each day is among those of its month, 0 to 1."""
    from scipy.special import ndtr
    from scipy.stats import rankdata

    half = max(float(mean.max() - mean.min()) / 2, 0.5)
    season = np.clip((smooth_days(mean) - mean.mean()) / half, -1.0, 1.0)
    bound = y.CLEAR_AND_COLD.value * season
    own = _memory(random.standard_normal(DAYS_IN_YEAR), y.CLEAR_DAYS_HOLD.value)
    mixed = ndtr(bound * chance + np.sqrt(1.0 - bound**2) * own)
    clear = np.empty(DAYS_IN_YEAR)
    for month in range(12):
        days = np.flatnonzero(month == MONTH_OF_DAY)
        clear[days] = (rankdata(mixed[days]) - 0.5) / days.size
    return clear


def _sun(width: FloatArray, course: SunCourse) -> FloatArray:
    """Return hours of sun: of a day what its swing tells, less of it where the sun is low."""
    through = np.minimum(y.SUN_OF_SWING.value * np.sqrt(width), y.MOST_SUN_THROUGH.value)
    mass = relative_air_mass(course.zenith_deg)
    weight = np.exp(-y.CLEAR_BY_AIR_MASS.value * (mass - 1.0)) * course.level_w_m2
    days = weight.reshape(DAYS_IN_YEAR, HOURS_IN_DAY).sum(axis=1)
    whole_days = course.level_w_m2.reshape(DAYS_IN_YEAR, HOURS_IN_DAY).sum(axis=1)
    share = through * whole_days / np.maximum(days, 1e-9)
    result: FloatArray = np.minimum(
        np.repeat(share, HOURS_IN_DAY) * weight, y.MOST_SUN_THROUGH.value * course.level_w_m2
    )
    return result


def _course_of_days(day: FloatArray, width: FloatArray, course: SunCourse) -> FloatArray:
    """Return hours that fall from the warmest hour to sunrise and rise again in half cosines."""
    up = course.level_w_m2.reshape(DAYS_IN_YEAR, HOURS_IN_DAY) > 0.0
    rise = np.where(up.any(axis=1), np.argmax(up, axis=1), 8).astype(float)
    rise = np.clip(rise, 3.0, 9.0)
    low, high = day - width / 2, day + width / 2
    start = 24.0 * np.arange(DAYS_IN_YEAR)
    at = np.concatenate([start + rise, start + y.WARMEST_HOUR.value])
    value = np.concatenate([low, high])
    order = np.argsort(at)
    at, value = at[order], value[order]
    at = np.concatenate([[at[-1] - HOURS_IN_YEAR], at, [at[0] + HOURS_IN_YEAR]])
    value = np.concatenate([value[-1:], value, value[:1]])
    hours = np.arange(HOURS_IN_YEAR) + 0.5
    k = np.searchsorted(at, hours) - 1
    share = (hours - at[k]) / (at[k + 1] - at[k])
    result: FloatArray = value[k] + (value[k + 1] - value[k]) * (1 - np.cos(np.pi * share)) / 2
    return result


def _keep_month_means(values: FloatArray, mean: FloatArray) -> FloatArray:
    off = mean - by_month(values, MONTH_OF_HOUR)
    result: FloatArray = values + off[MONTH_OF_HOUR]
    return result


def _by_season(mean: FloatArray) -> FloatArray:
    """Return how much wider or narrower days scatter than in the mean of the year [365] [-]."""
    apart = float(mean.max() - mean.min())
    season = (smooth_days(mean) - (mean.max() + mean.min()) / 2) / max(apart / 2, 0.5)
    strength = y.SPREAD_OF_SEASONS.value * min(apart / y.SEASONS_APART.value, 1.0)
    result: FloatArray = 1.0 - strength * np.clip(season, -1.0, 1.0)
    return result


def _damp(seed: int) -> FloatArray:
    """Return how much damper each day is than its warmth says [365], as a logarithm."""
    # Of a chance of its own: the other columns stay what they were.
    random = np.random.default_rng((seed, 1))
    chance = _memory(random.standard_normal(DAYS_IN_YEAR), y.DAMP_DAYS_HOLD.value)
    return _in_months(chance) * y.DAMP_OF_DAYS.value


def _vapour(place: Place, degc: FloatArray, anomaly: FloatArray, damp: FloatArray) -> FloatArray:
    """Return a vapour pressure that follows the warmth and damp of days, saturated at most."""
    mean = np.array([m.temperature_degc for m in place.months])
    humidity = np.array([m.relative_humidity for m in place.months])
    vapour = vapour_pressure_pa(mean, humidity)
    saturated = saturation_pressure_unchecked_pa(degc)
    day = smooth_days(np.log(vapour)) + y.VAPOUR_BY_WARMTH.value * anomaly + damp
    # From the middle of a day to that of the next: air does not change at midnight.
    at = np.arange(HOURS_IN_YEAR) / HOURS_IN_DAY - 0.5
    hours = np.exp(np.interp(at, np.arange(DAYS_IN_YEAR), day, period=DAYS_IN_YEAR))
    clock = np.tile(np.arange(HOURS_IN_DAY), DAYS_IN_YEAR)
    turn = 2 * np.pi * (clock - y.DAMPEST_HOUR.value) / HOURS_IN_DAY
    hours *= 1.0 + y.DAMP_OF_HOURS.value * np.cos(turn)
    for _ in range(_ROUNDS):
        capped = np.minimum(hours, saturated)
        hours = hours * (vapour / by_month(capped, MONTH_OF_HOUR))[MONTH_OF_HOUR]
    result: FloatArray = np.minimum(hours, saturated)
    return result


def _wind(random: np.random.Generator, mean: FloatArray) -> FloatArray:
    from scipy.special import ndtr

    days = np.repeat(
        _memory(random.standard_normal(DAYS_IN_YEAR), y.WINDY_DAYS_HOLD.value), HOURS_IN_DAY
    )
    hours = _memory(random.standard_normal(HOURS_IN_YEAR), y.WINDY_HOURS_HOLD.value)
    rank = np.clip(ndtr(np.sqrt(0.5) * (days + hours)), 1e-6, 1 - 1e-6)
    blown = (-np.log(1.0 - rank)) ** (1.0 / y.WIND_SHAPE.value)
    clock = np.tile(np.arange(HOURS_IN_DAY), DAYS_IN_YEAR)
    turn = 2 * np.pi * (clock - y.WINDIEST_HOUR.value) / HOURS_IN_DAY
    blown *= 1.0 + y.WIND_OF_HOURS.value * np.cos(turn)
    result: FloatArray = blown * (mean / by_month(blown, MONTH_OF_HOUR))[MONTH_OF_HOUR]
    return result


def _rain(mm: FloatArray, clear: FloatArray, random: np.random.Generator) -> FloatArray:
    """Return rain on the greyest days of each month, some 1 mm an hour."""
    rain = np.zeros((DAYS_IN_YEAR, HOURS_IN_DAY))
    for month in range(12):
        days = np.flatnonzero(month == MONTH_OF_DAY)
        if mm[month] <= 0.0:
            continue
        count = int(np.clip(np.ceil(mm[month] / _RAIN_HOURS_DAY), 1, days.size))
        grey = days[np.argsort(clear[days])][:count]
        for day in grey:
            begins = int(random.integers(0, HOURS_IN_DAY))
            which = (begins + np.arange(_RAIN_HOURS_DAY)) % HOURS_IN_DAY
            rain[day, which] += mm[month] / (count * _RAIN_HOURS_DAY)
    return rain.reshape(-1)
