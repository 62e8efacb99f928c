"""A colony whose year is moved to the forage weeks of another place."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from calveth.core.calendar import DAYS_IN_YEAR
from calveth.core.climate.place import Place, winter_days
from calveth.core.colony.colony import Colony

_MIDDLES = (np.arange(12) + 0.5) * DAYS_IN_YEAR / 12


def moved_with_forage(colony: Colony, before: Place, after: Place) -> Colony:
    """Return the colony with its curves moved from the forage weeks of a place to another's.

    The first day of forage stays the first, the last the last, and days between are stretched
    evenly, in the season as in winter: bees follow the flowers. An estimate; common practice, no
    source. Where either place knows no winter or nothing else the colony stays as it is.
    """
    old, new = winter_days(before), winter_days(after)
    if old == new or not all(0 < len(days) < DAYS_IN_YEAR for days in (old, new)):
        return colony
    at = _day_before(_MIDDLES, old, new)

    def moved(values: tuple[float, ...]) -> tuple[float, ...]:
        values_moved = np.interp(at, _MIDDLES, values, period=DAYS_IN_YEAR)
        return tuple(round(float(v), 4) for v in values_moved)

    return replace(
        colony,
        mass_kg=moved(colony.mass_kg),
        brood_share=moved(colony.brood_share),
        activity_kg_day=moved(colony.activity_kg_day),
        nectar_kg_day=moved(colony.nectar_kg_day),
    )


def _day_before(
    day: NDArray[np.float64], old: tuple[int, ...], new: tuple[int, ...]
) -> NDArray[np.float64]:
    """Return the day of the old year that a day of the new one stands for, both [N] from 0."""
    into = (day - new[0]) % DAYS_IN_YEAR
    winter = into < len(new)
    share = np.where(winter, into / len(new), (into - len(new)) / (DAYS_IN_YEAR - len(new)))
    then = np.where(winter, share * len(old), len(old) + share * (DAYS_IN_YEAR - len(old)))
    day_of: NDArray[np.float64] = (old[0] + then) % DAYS_IN_YEAR
    return day_of
