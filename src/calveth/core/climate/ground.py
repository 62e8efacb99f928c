"""Snow that lies on the ground, and the ground under a slab, hour by hour."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants_year as y
from calveth.core.calendar import HOURS_IN_DAY

FloatArray = NDArray[np.float64]

# Once round for what the year begins with, and once to keep.
_ROUNDS = 2


def snow_falls_kg_m2(temperature_degc: FloatArray, rain_mm: FloatArray) -> FloatArray:
    """Return the snow that falls in each hour [8760] [kg/m²]: the rain of air near the frost.

    Parameters
    ----------
    temperature_degc : array [8760]
        Of the air [°C].
    rain_mm : array [8760]
        Rain or snow, as water [mm].
    """
    falls: FloatArray = np.where(temperature_degc < y.SNOW_FALLS_BELOW.value, rain_mm, 0.0)
    return falls


def snow_depth_m(temperature_degc: FloatArray, rain_mm: FloatArray) -> FloatArray:
    """Return the snow on level ground [8760] [m]: what falls below `SNOW_FALLS_BELOW` lies.

    It melts by degree-days (`SNOW_MELT`); the density is one (`SNOW_DENSITY`). A place that is
    never free of it keeps what two years bring.

    Parameters
    ----------
    temperature_degc : array [8760]
        Of the air [°C].
    rain_mm : array [8760]
        Rain or snow, as water [mm].
    """
    falls = snow_falls_kg_m2(temperature_degc, rain_mm)
    melts = np.maximum(temperature_degc, 0.0) * y.SNOW_MELT.value / HOURS_IN_DAY
    water = np.zeros_like(falls)
    lies = 0.0
    for _ in range(_ROUNDS):
        for h, (fall, melt) in enumerate(zip(falls.tolist(), melts.tolist(), strict=True)):
            lies = max(lies + fall - melt, 0.0)
            water[h] = lies
    depth: FloatArray = water / y.SNOW_DENSITY.value
    return depth


def ground_degc(temperature_degc: FloatArray) -> FloatArray:
    """Return the ground under a slab [8760] [°C]: it follows the air in `GROUND_FOLLOWS` days.

    Parameters
    ----------
    temperature_degc : array [8760]
        Of the air [°C].
    """
    from scipy.signal import lfilter

    hold = float(np.exp(-1.0 / (y.GROUND_FOLLOWS.value * HOURS_IN_DAY)))
    mean = float(temperature_degc.mean())
    twice = np.tile(temperature_degc - mean, 2)
    degc: FloatArray = lfilter([1.0 - hold], [1.0, -hold], twice)[temperature_degc.size :]
    return degc + mean
