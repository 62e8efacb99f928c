"""Base, nest and crown: the three parts of the air inside, from below."""

from __future__ import annotations

from calveth.core import constants as c

BASE, NEST, CROWN = 0, 1, 2
"""Zones of the nest air from the bottom up."""
_SHARE = c.ZONE_SHARE.value
FRACTIONS = (_SHARE, 1 - 2 * _SHARE, _SHARE)
"""Of the height of the cavity, and with it of its walls, combs and volume."""


def zone_tops_m(height_m: float) -> tuple[float, float]:
    """Return the heights [m] at which base turns into nest, and nest into crown.

    >>> zone_tops_m(1.0)
    (0.2, 0.8)
    """
    return FRACTIONS[BASE] * height_m, (1 - FRACTIONS[CROWN]) * height_m


def zone_at(height_m: float, tops_m: tuple[float, float]) -> int:
    """Return the zone a height lies in."""
    return BASE if height_m < tops_m[0] else NEST if height_m < tops_m[1] else CROWN
