"""Samples packed small, and unpacked to the same numbers; what is read later takes their place.

Measured over five years of ten-minute samples of four channels: 2 MB, a channel out in
hundredths of a second; rows of a database took 16 to 23 MB.
"""

from __future__ import annotations

import zlib

import numpy as np
from numpy.typing import NDArray

from calveth.core.diary.series import Series
from calveth.core.errors import DomainError
from calveth.core.records.blob import Blob
from calveth.core.records.log import Chunk
from calveth.core.records.quantity import QUANTITIES, Quantity
from calveth.core.remembered import remembered

# From 1990 to 2100: what lies outside is a clock that was never set.
_FIRST_MIN, _LAST_MIN = 10_519_200, 68_373_216


def packed(series: Series) -> tuple[Chunk, ...]:
    """Return samples by month (UTC), rounded to the steps of `QUANTITIES`.

    Raises
    ------
    DomainError
        For times of another century, and values no probe has.
    """
    low, high = QUANTITIES[series.quantity].limits
    if series.minutes[0] < _FIRST_MIN or series.minutes[-1] > _LAST_MIN:
        wrong = series.minutes[0] if series.minutes[0] < _FIRST_MIN else series.minutes[-1]
        raise DomainError(
            "time of a sample",
            str(np.datetime64(int(wrong), "m"))[:10],
            "is of another century; set the logger's clock, or correct the file",
        )
    if series.values.min() < low or series.values.max() > high:
        raise DomainError(
            f"{series.quantity} of a log",
            float(series.values.min()),
            f"to {float(series.values.max()):g} is none; is it another column or unit?",
        )
    steps = np.round(series.values / QUANTITIES[series.quantity].kept_step).astype(np.int64)
    months = _months(series.minutes)
    edges = np.flatnonzero(np.diff(months)) + 1
    starts, ends = np.concatenate([[0], edges]), np.concatenate([edges, [months.size]])
    return tuple(
        Chunk(month=int(months[a]), count=int(b - a), packed=_pack(series.minutes[a:b], steps[a:b]))
        for a, b in zip(starts, ends, strict=True)
    )


@remembered(48)
def unpacked(chunks: tuple[Chunk, ...], quantity: Quantity) -> Series:
    """Return the samples of chunks.

    Raises
    ------
    DomainError
        When a chunk is not what was packed.
    """
    parts = [_unpack(chunk) for chunk in chunks]
    minutes = np.concatenate([m for m, _ in parts])
    values = np.concatenate([v for _, v in parts]) * QUANTITIES[quantity].kept_step
    return Series(quantity=quantity, minutes=minutes, values=values)


def merged(old: Series, new: Series) -> Series:
    """Return samples of both; of a minute that is in both the later one's."""
    minutes = np.concatenate([old.minutes, new.minutes])
    values = np.concatenate([old.values, new.values])
    order = np.argsort(minutes, kind="stable")
    minutes, values = minutes[order], values[order]
    last = np.concatenate([np.diff(minutes) > 0, [True]])
    return Series(quantity=old.quantity, minutes=minutes[last], values=values[last])


def _months(minutes: NDArray[np.int64]) -> NDArray[np.int64]:
    return minutes.astype("datetime64[m]").astype("datetime64[M]").astype(np.int64)


def _pack(minutes: NDArray[np.int64], steps: NDArray[np.int64]) -> Blob:
    # Differences of a steady step are one number over and over.
    both = np.concatenate([_steps(minutes), _steps(steps)]).astype("<i4")
    return Blob(zlib.compress(both.tobytes(), 6))


def _steps(values: NDArray[np.int64]) -> NDArray[np.int64]:
    return np.concatenate([values[:1], np.diff(values)])


def _unpack(chunk: Chunk) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    try:
        unpack = zlib.decompressobj()
        # No more than is told: a few bytes may stand for gigabytes.
        raw = unpack.decompress(chunk.packed.data, 8 * chunk.count + 1)
        both = np.frombuffer(raw, dtype="<i4").astype(np.int64)
    except (zlib.error, ValueError):
        both = np.zeros(0, dtype=np.int64)
    if both.size != 2 * chunk.count or chunk.count < 1:
        raise DomainError("samples of a log", "a month", "is damaged; read the file again")
    return np.cumsum(both[: chunk.count]), np.cumsum(both[chunk.count :])
