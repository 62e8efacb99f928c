"""Where the sun stands at noon; for the picture of a place."""

from __future__ import annotations

OBLIQUITY_DEG = 23.44
"""Tilt of the earth's axis (IAU)."""


def winter_noon_height_deg(latitude_deg: float) -> float:
    """Return how high the sun stands at noon on the shortest day [°]; negative: it does not rise.

    90° minus latitude minus the obliquity, alike in both hemispheres.
    """
    return 90.0 - abs(latitude_deg) - OBLIQUITY_DEG
