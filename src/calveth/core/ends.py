"""The ends of a range from a few draws: what eight of ten hives built alike lie between."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

FloatArray = NDArray[np.float64]

LOW, HIGH = 0.1, 0.9
"""The 10th and the 90th of a hundred."""
_SURE = 0.95


def at_least(count: int, of: int) -> float:
    """Return the share that ``count`` of ``of`` draws speak for at the least, 95 of 100 sure [-].

    One-sided interval of Jeffreys (Brown, Cai and DasGupta 2001).

    >>> round(at_least(12, 12), 2), round(at_least(64, 64), 2)
    (0.85, 0.97)
    """
    from scipy.stats import beta

    return float(beta.ppf(1.0 - _SURE, count + 0.5, of - count + 0.5))


def ends_of(values: ArrayLike, axis: int | None = None) -> FloatArray:
    """Return low and high end [2, ...] that hold eight of ten more, by what was drawn.

    The k-th of n draws has k of (n + 1) below it in the mean (Weibull 1939), so that bands of
    sixteen draws hold 80 of 100 and not 71; of nine or fewer the ends are the least and the
    largest. Draws without an answer (NaN) are left out.

    Parameters
    ----------
    values : array
        Draws along ``axis``, in any unit; all of them where it is None [-].
    axis : int or None
        The axis of the draws.

    >>> [round(float(v), 1) for v in ends_of([1.0 * k for k in range(1, 20)])]
    [2.0, 18.0]
    """
    draws = np.asarray(values, dtype=float)
    rows = draws.reshape(-1, 1) if axis is None else np.moveaxis(draws, axis, 0)
    table = rows.reshape(len(rows), -1)
    answered = (~np.isnan(table)).sum(axis=0)
    ends = np.full((2, table.shape[1]), np.nan)
    ordered = np.sort(table, axis=0)
    # NaN sorts last. numpy's own nanquantile takes column by column: 50 times as long.
    for count in np.unique(answered[answered > 0]):
        at = answered == count
        ends[:, at] = np.quantile(ordered[:count, at], (LOW, HIGH), axis=0, method="weibull")
    return ends.reshape(2, *rows.shape[1:]) if axis is not None else ends[:, 0]
