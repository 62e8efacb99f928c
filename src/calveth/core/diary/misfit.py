"""How far a year lies from what was seen of a hive: logs by the night, lids, floors and stores."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import log, sqrt
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from calveth.core.climate import place as site
from calveth.core.diary.channels import Channel, channels, predicted
from calveth.core.diary.expected import (
    MIDDLE_CELL,
    Expected,
    as_expected,
    expected_at,
    expected_stores_kg,
    lid_as_expected,
    stores_before,
)
from calveth.core.diary.season import season_of
from calveth.core.records.diary import SIGNS_OF_WET, Diary, Inspection
from calveth.core.records.quantity import QUANTITIES
from calveth.core.year.result import YearRun

# A night counts this much where there are too few to see how they hang together; an estimate.
_UNKNOWN_WEIGHT = 0.3

FloatArray = NDArray[np.float64]

MISREAD = 0.1
"""Of ten looks at a place one is misread, or the place is not what the zone is; estimate."""
_SURPRISE = 2.0 * log((1.0 - MISREAD) / MISREAD)
_STORES_MODEL_KG = 0.7
_RIM_CELLS = (0, 1, 2, 3, 5, 6, 7, 8)
_MOST_HOLD, _MOST_SIGMAS = 0.9, 4.0


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Seen:
    """What was seen of a hive in a season.

    ``weights`` are one for nights that know nothing of each other, less for those that do.
    """

    channels: tuple[Channel, ...]
    weights: tuple[float, ...]
    inspections: tuple[Inspection, ...]
    diary: Diary
    place: site.Place

    @property
    def nights(self) -> int:
        """Nights of all channels."""
        return sum(c.nights for c in self.channels)

    @property
    def is_empty(self) -> bool:
        """Whether nothing was seen that could be held against a year."""
        return not self.channels and not any(
            i.looked_at_lid or i.floor != "not looked" or i.stores_kg is not None
            for i in self.inspections
        )


def seen_of(diary: Diary, hive_id: str, place: site.Place, season: int, run: YearRun) -> Seen:
    """Return what was seen of a hive in a season; ``run`` tells how nights hang together."""
    seen = tuple(channels(diary, hive_id, place, season))
    looks = tuple(i for i in diary.of_hive(hive_id) if season_of(place, i.when.date()) == season)
    seen = tuple(_as_it_scatters(c, run) for c in seen)
    weights = tuple(_weight(c, run) for c in seen)
    return Seen(channels=seen, weights=weights, inspections=looks, diary=diary, place=place)


def _as_it_scatters(channel: Channel, run: YearRun) -> Channel:
    """Return a channel whose nights scatter as they do, and no less than any hive's.

    Winds nobody logged and a cluster that shifts make single nights differ; 1.48 times the median
    deviation does not mind the odd night (of a normal spread it is 1.4826 times; Hampel 1974).
    """
    left = channel.seen - predicted(run, channel.log)
    left = left[np.isfinite(left)]
    scattered = 1.4826 * float(np.median(np.abs(left - np.median(left))))
    return replace(channel, scatter=max(scattered, channel.scatter))


def _weight(channel: Channel, run: YearRun) -> float:
    """Return what a night counts: (1 - ρ)/(1 + ρ) of residuals that hang together by ρ, AR(1)."""
    left = channel.seen - predicted(run, channel.log)
    left = left - np.nanmean(left)
    both = np.isfinite(left[1:]) & np.isfinite(left[:-1])
    if both.sum() < 8:
        return _UNKNOWN_WEIGHT
    a, b = left[1:][both], left[:-1][both]
    spread = float(np.sqrt((a @ a) * (b @ b)))
    hold = float(np.clip(a @ b / spread, 0.0, _MOST_HOLD)) if spread > 0.0 else 0.0
    return (1.0 - hold) / (1.0 + hold)


def residuals(seen: Seen, run: YearRun, *, free: str = "") -> FloatArray:
    """Return weighted residuals [R] of all nights, the offset of each probe taken at its best.

    ``free`` is the id of a log whose probe may be off by any amount.
    """
    parts: list[FloatArray] = []
    for channel, weight in zip(seen.channels, seen.weights, strict=True):
        left = (channel.seen - predicted(run, channel.log)) / channel.scatter
        left = sqrt(weight) * left[np.isfinite(left)]
        if channel.log.id == free:
            parts.append(left - left.mean() if left.size else left)
            continue
        width = QUANTITIES[channel.log.quantity].offset / channel.scatter * sqrt(weight)
        best = float(left.sum()) * width**2 / (1.0 + left.size * width**2)
        # No night counts for more than four sigmas.
        left = left - best
        parts.append(left / np.sqrt(1.0 + (left / _MOST_SIGMAS) ** 2))
        parts.append(np.array([best / width]))
    return np.concatenate(parts) if parts else np.zeros(0)


def surprises(seen: Seen, run: YearRun) -> float:
    """Return the cost of inspections that a year does not explain, as a sum of squares."""
    cost = 0.0
    for look in seen.inspections:
        expected = expected_at(run, look.when)
        cost += _places(look, expected)
        if look.floor != "not looked":
            cost += _SURPRISE * (not as_expected(look.floor, expected.floor))
        last = stores_before(seen.diary, seen.place, look)
        if last is None or look.stores_kg is None:
            continue
        left = expected_stores_kg(run, last.when, float(last.stores_kg or 0.0), look.when)
        sure = look.stores_sure_kg**2 + last.stores_sure_kg**2 + _STORES_MODEL_KG**2
        cost += (look.stores_kg - left) ** 2 / sure
    return cost


def _places(look: Inspection, expected: Expected) -> float:
    """Return what middle and rim of a lid cost; each differs when more than half of it does."""
    agrees = dict(lid_as_expected(look, expected))
    cost = 0.0
    for cells in ((MIDDLE_CELL,), _RIM_CELLS):
        looked = [agrees[k] for k in cells if k in agrees]
        if looked:
            cost += _SURPRISE * (sum(looked) < len(looked) / 2)
    return cost


Place = Literal["lid", "floor"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Unexpected:
    """A place that was not as a year expected it: a cell of the lid, or the floor (cell 0)."""

    place: Place
    cell: int
    at: str
    wet: bool


def unexpected(seen: Seen, run: YearRun) -> tuple[Unexpected, ...]:
    """Return every place of every inspection that a year does not expect so, in their order."""
    stretches = []
    for look in seen.inspections:
        expected = expected_at(run, look.when)
        for cell, agrees in lid_as_expected(look, expected):
            if not agrees:
                wet = look.lid[cell] in SIGNS_OF_WET
                stretches.append(Unexpected(place="lid", cell=cell, at=look.at, wet=wet))
        if look.floor != "not looked" and not as_expected(look.floor, expected.floor):
            wet = look.floor in SIGNS_OF_WET
            stretches.append(Unexpected(place="floor", cell=0, at=look.at, wet=wet))
    return tuple(stretches)


def misfit(seen: Seen, run: YearRun, *, free: str = "") -> float:
    """Return the whole misfit: squares of the nights, and what inspections cost."""
    left = residuals(seen, run, free=free)
    return float(left @ left) + surprises(seen, run)
