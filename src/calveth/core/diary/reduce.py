"""Samples made few enough to draw: the least and the most of every column of pixels.

Nothing is lost that an eye could see: methods that keep one point of many miss frost and
overheating by kelvins.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Reduced:
    """Columns of a curve, arrays [C]: pixel, least and most; ``piece`` counts up at a gap."""

    column: IntArray
    low: FloatArray
    high: FloatArray
    piece: IntArray


def reduced(
    minutes: IntArray, values: FloatArray, first: float, last: float, width: int, gap_min: float
) -> Reduced:
    """Return a curve, arrays [N], between two minutes at a width in pixels.

    It is broken where nothing is for longer than ``gap_min`` [min].
    """
    a, b = np.searchsorted(minutes, (first, last))
    # One sample more at each end, so that the line goes on past the edge.
    a, b = max(int(a) - 1, 0), min(int(b) + 1, minutes.size)
    m, v = minutes[a:b], values[a:b]
    known = np.isfinite(v)
    if not known.all():
        m, v = m[known], v[known]
    none = np.zeros(0, dtype=np.int64)
    if m.size == 0 or last <= first:
        return Reduced(column=none, low=np.zeros(0), high=np.zeros(0), piece=none)
    # Where columns begin is looked up, not worked out for every sample.
    begins = np.searchsorted(m, edges_of(first, last, width))
    gaps = np.flatnonzero(np.diff(m) > gap_min) + 1
    starts = np.unique(np.concatenate([[0], begins, gaps]))
    starts = starts[starts < m.size]
    return Reduced(
        column=np.searchsorted(begins, starts, side="right") - 1,
        low=np.minimum.reduceat(v, starts),
        high=np.maximum.reduceat(v, starts),
        piece=np.searchsorted(gaps, starts, side="right"),
    )


def edges_of(first: float, last: float, width: int) -> FloatArray:
    """Return the minutes [width + 1] columns of pixels begin at, and the end of the last one."""
    edges: FloatArray = np.linspace(first, last, width + 1)
    return edges
