"""Logs come into the diary: samples of a probe join those that are there."""

from __future__ import annotations

import numpy as np

from calveth.core.diary.samples import merged, packed, unpacked
from calveth.core.diary.series import Series, at_hours
from calveth.core.errors import DomainError
from calveth.core.records.diary import Diary, next_id
from calveth.core.records.log import Log
from calveth.core.records.quantity import Where

_SWAPPED_K, _LEAST_H = 0.5, 48


def take_in(
    diary: Diary,
    series: Series,
    *,
    hive: str,
    at: Where,
    name: str,
    file: str = "",
    sha256: str = "",
    zone: str = "UTC",
) -> Diary:
    """Return the diary with the samples of a column; ``hive`` is empty for a probe outside.

    What the same probe wrote before stays; of a minute that is in both the later file's counts.

    Raises
    ------
    DomainError
        For samples of another century, values no probe has, probes that look swapped, a place that
        does not go with the quantity, or a time the hive did not stand.
    """
    _refuse_elsewhen(diary, series, hive, name)
    old = next(
        (
            g
            for g in diary.logs
            if (g.hive, g.at, g.quantity, g.name) == (hive, at, series.quantity, name)
        ),
        None,
    )
    series_now = series if old is None else merged(unpacked(old.chunks, old.quantity), series)
    log = Log(
        id=old.id if old else next_id({g.id for g in diary.logs}, "log"),
        name=name,
        hive=hive,
        at=at,
        quantity=series.quantity,
        file=file,
        sha256=sha256,
        zone=zone,
        chunks=packed(series_now),
    )
    made = diary.with_log(log)
    _refuse_swapped(made, log)
    return made


def _refuse_elsewhen(diary: Diary, series: Series, hive: str, name: str) -> None:
    """Raise where nothing was measured while the hive stood."""
    if not hive:
        return
    stands = diary.hive(hive)
    first, last = (str(np.datetime64(int(m), "m"))[:10] for m in series.minutes[[0, -1]])
    if last < stands.since or (stands.until and first > stands.until):
        raise DomainError(
            f"log {name}",
            f"{first} to {last}",
            f"is not while {stands.name} stands, from {stands.since} to {stands.until or 'today'}; "
            "choose another hive, or correct its days",
        )


def _refuse_swapped(diary: Diary, log: Log) -> None:
    """Raise where a probe in a hive is colder than one outside: bees warm what they live in."""
    if log.quantity != "temperature":
        return
    outside = [g for g in diary.logs if g.at == "outside" and g.quantity == "temperature"]
    inside = [g for g in diary.logs if g.hive and g.quantity == "temperature"]
    pairs = [(log, o) for o in outside] if log.hive else [(i, log) for i in inside]
    for within, without in pairs:
        a, b = unpacked(within.chunks, "temperature"), unpacked(without.chunks, "temperature")
        hours = np.arange(a.minutes[0] // 60, a.minutes[-1] // 60 + 1)
        gap = at_hours(a, hours) - at_hours(b, hours)
        gap = gap[np.isfinite(gap)]
        if gap.size >= _LEAST_H and float(np.median(gap)) < -_SWAPPED_K:
            raise DomainError(
                f"log {within.name}",
                f"{float(np.median(gap)):.1f} K",
                f"is what it is warmer than {without.name} outside; are the two swapped?",
            )
