"""Whether the sun of a weather file shines when it is up there: another clock, or another place."""

from __future__ import annotations

import numpy as np

from calveth.core.climate.place import Place
from calveth.core.climate.sky import AT_NIGHT, clock_ahead_h, sun_at_night


def sun_notes(place: Place) -> list[str]:
    """Return a sentence when much of the sun of a place's hours falls at night; else none."""
    hours = place.hours
    if hours is None or "global_sun_w_m2" not in hours.columns:
        return []
    sun = np.nan_to_num(np.asarray(hours.columns["global_sun_w_m2"], dtype=float))
    share = sun_at_night(sun, place.latitude_deg, place.longitude_deg)
    if share <= AT_NIGHT:
        return []
    ahead = clock_ahead_h(sun, place.latitude_deg, place.longitude_deg)
    if ahead:
        way = "ahead of" if ahead > 0 else "behind"
        return [
            f"Sun: the clock of the file is {abs(ahead)} h {way} the time of its longitude (a wide "
            "time zone, or summer time); the sun follows it."
        ]
    return [
        f"Sun: {share:.0%} of it falls while the sun is down; look whether latitude and longitude "
        "are right. What shines at night is left out of the year by the hour."
    ]
