"""Where the sun stands, for the pictures of a place."""

from __future__ import annotations

from math import asin, atan2, cos, degrees, radians, sin

OBLIQUITY_DEG = 23.44
"""Tilt of the earth's axis (IAU)."""


def winter_noon_height_deg(latitude_deg: float) -> float:
    """Return how high the sun stands at noon on the shortest day [°]; negative: it does not rise.

    90° minus latitude minus the obliquity, alike in both hemispheres.
    """
    return 90.0 - abs(latitude_deg) - OBLIQUITY_DEG


def sun_path_deg(latitude_deg: float, declination_deg: float) -> list[tuple[float, float]]:
    """Return the course of the sun through a day as (height, bearing from north) [°].

    Every quarter of an hour while it is up; sin h = sin φ·sin δ + cos φ·cos δ·cos ω (spherical
    trigonometry, any textbook of astronomy).
    """
    lat, dec = radians(latitude_deg), radians(declination_deg)
    path = []
    for quarter in range(4 * 24):
        turn = radians(15.0 * (quarter / 4.0 - 12.0))
        sine = sin(lat) * sin(dec) + cos(lat) * cos(dec) * cos(turn)
        if sine <= 0.0:
            continue
        east = -cos(dec) * sin(turn)
        north = cos(lat) * sin(dec) - sin(lat) * cos(dec) * cos(turn)
        path.append((degrees(asin(min(sine, 1.0))), degrees(atan2(east, north)) % 360.0))
    return path
