"""Outlines of boards and faces: their area, and the points where they turn."""

from __future__ import annotations

from collections.abc import Sequence
from math import hypot

_STRAIGHT = 1e-7
"""Sine of an angle no saw makes: points between such lines are no corners [-]."""
_SAME = 1e-9
"""Points nearer than this are one [m]."""


def signed_area(points: Sequence[Sequence[float]]) -> float:
    """Return the area within points in order, positive anticlockwise, in their unit squared.

    >>> signed_area([(0, 0), (2, 0), (2, 1), (0, 1)])
    2.0
    """
    total = 0.0
    for (a, b), (c, d) in zip(points, [*points[1:], points[0]], strict=True):
        total += a * d - c * b
    return total / 2


def corners_of(points: Sequence[tuple[float, float]]) -> tuple[tuple[float, float], ...]:
    """Return the points of an outline where it turns; all of them where it has no area.

    A point that is there twice counts once: it has no direction, and both would be lost.

    >>> corners_of([(0, 0), (1, 0), (2, 0), (2, 1e-4), (0, 1e-4)])
    ((0, 0), (2, 0), (2, 0.0001), (0, 0.0001))
    """
    corners, apart = [], []
    for k, (u, v) in enumerate(points):
        if hypot(u - points[k - 1][0], v - points[k - 1][1]) > _SAME:
            apart.append((u, v))
    for k, (u, v) in enumerate(apart):
        (u0, v0), (u1, v1) = apart[k - 1], apart[(k + 1) % len(apart)]
        turn = (u - u0) * (v1 - v) - (u1 - u) * (v - v0)
        if abs(turn) > _STRAIGHT * hypot(u - u0, v - v0) * hypot(u1 - u, v1 - v):
            corners.append((u, v))
    return tuple(corners) if len(corners) > 2 else tuple(points)
