"""Nights on which water is seen, from a mean and a cold night of each month."""

from __future__ import annotations

from math import erf, sqrt

import numpy as np
from numpy.typing import NDArray

from calveth.core.assess.readings import LID_MIDDLE, LID_RIM
from calveth.core.assess.weather import spread_k
from calveth.core.climate.place import Place, days_without_forage

FloatArray = NDArray[np.float64]

# Standard normal distribution; the library function would add a third of a second to the start.
_normal = np.vectorize(lambda x: 0.5 * (1.0 + erf(x / sqrt(2.0))), otypes=[float])


def wet_nights(
    place: Place, months: NDArray[np.int_], degc: FloatArray, margin_k: FloatArray
) -> FloatArray:
    """Return the nights without forage of months [M] on which each surface is seen wet [7, M].

    ``degc`` [2, M] are the mean night and the cold one, ``margin_k`` [2, 7, M] what a surface is
    above being seen wet then (`NestReadings.seen_margin_k`). Night temperatures are spread normally
    about the mean night. The margin is taken straight between the mean and the cold night; below
    the temperature where it is zero the surface is wet. The rim is wet on every night on which the
    middle is.
    """
    (t_night, t_cold), (at_night, at_cold) = degc, margin_k
    step = t_night - t_cold
    days = np.array(days_without_forage(place))[months]
    sigma = spread_k(place)[months]
    # Without a spread (a room, a steady place) every night is the mean night.
    alike = step < 1e-9
    slope = (at_night - at_cold) / np.where(alike, 1.0, step)
    # A margin that does not change with the weather is wet always or never.
    flat = np.abs(slope) < 1e-6
    turn = t_night - at_night / np.where(flat, 1.0, slope)
    below = _normal((turn - t_night) / np.where(alike, 1.0, sigma))
    share = np.where(slope > 0, below, 1 - below)
    share = np.where(flat | alike, (at_night < 0).astype(float), share)
    result: FloatArray = share * days
    result[LID_RIM] = np.maximum(result[LID_RIM], result[LID_MIDDLE])
    return result
