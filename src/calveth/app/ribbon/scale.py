"""The scale of temperatures of a year."""

from __future__ import annotations

import numpy as np

from calveth.core.climate.place import Place


def scale_ends(place: Place, nest: np.ndarray | None) -> tuple[float, float]:
    """Return the ends of the temperature scale, at tens of degrees [°C]."""
    mean = np.array([m.temperature_degc for m in place.months])
    half = np.array([m.daily_swing_k for m in place.months]) / 2
    high = float((mean + half).max())
    if nest is not None:
        high = max(high, float(nest.max()))
    low = float((mean - half).min())
    return 10.0 * float(np.floor(low / 10)), 10.0 * float(np.ceil(high / 10))
