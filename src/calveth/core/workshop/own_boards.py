"""Boards one has, filled before any is bought; how few must be bought at the least."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

from calveth.core.checkpoint import checkpoint
from calveth.core.workshop.bars import CutBar, fullest, room_steps, steps_left_m, steps_needed


@dataclass(frozen=True, slots=True)
class OwnBar:
    """A length one has ``count`` of [m]."""

    length_m: float
    count: int


@dataclass(frozen=True, slots=True)
class OwnCut:
    """Bars of one's own with the pieces cut of them; ``rest`` are the pieces left to buy for."""

    bars: tuple[CutBar, ...]
    rest: tuple[int, ...]


def cut_own(
    lengths_m: Sequence[float], own: Sequence[OwnBar], kerf_m: float, trim_m: float
) -> OwnCut:
    """Return what comes out of bars one has, so that little is left to be bought.

    Bars are filled one after the other as full as they can be: the one with the least waste
    first, the longest first, the shortest first; of the three the way that leaves the least
    length is kept, and of those that leave it alike the one that opens the least of the stock.
    """
    need = [steps_needed(length, kerf_m) for length in lengths_m]
    room = [room_steps(bar.length_m, kerf_m, trim_m) for bar in own]
    ways = [_filled(need, room, [bar.count for bar in own], way) for way in _WAYS]

    def score(way: tuple[list[tuple[int, list[int]]], list[int]]) -> tuple[int, int, int]:
        bars, rest = way
        return sum(need[i] for i in rest), sum(room[k] for k, _ in bars), len(bars)

    bars, rest = min(ways, key=score)
    made = tuple(
        CutBar(
            stock=k,
            pieces=tuple(sorted(pieces, key=lambda i: (-need[i], i))),
            left_m=steps_left_m(room[k], [need[i] for i in pieces]),
        )
        for k, pieces in bars
    )
    return OwnCut(bars=made, rest=tuple(sorted(rest)))


_WAYS = ("waste", "longest", "shortest")


def _filled(
    need: Sequence[int], room: Sequence[int], counts: list[int], way: str
) -> tuple[list[tuple[int, list[int]]], list[int]]:
    left = sorted(range(len(need)), key=lambda i: (-need[i], i))
    bars: list[tuple[int, list[int]]] = []
    while left:
        checkpoint()
        sizes = [need[i] for i in left]
        fills = {
            k: fill for k in range(len(room)) if counts[k] > 0 and (fill := fullest(sizes, room[k]))
        }
        if not fills:
            break
        k = min(fills, key=lambda k: _rank(way, room[k], sum(sizes[i] for i in fills[k]), k))
        chosen = {left[i] for i in fills[k]}
        bars.append((k, sorted(chosen)))
        counts[k] -= 1
        left = [i for i in left if i not in chosen]
    return bars, left


def _rank(way: str, room: int, filled: int, k: int) -> tuple[float, int, int]:
    if way == "waste":
        return (room - filled) / room, -room, k
    return float(-room if way == "longest" else room), -filled, k


def least_bought(
    lengths_m: Sequence[float],
    own: Sequence[OwnBar],
    longest_m: float,
    kerf_m: float,
    trim_m: float,
) -> int:
    """Return how many bars have to be bought at the least, however own ones are cut."""
    need = sum(steps_needed(length, kerf_m) for length in lengths_m)
    had = sum(bar.count * max(room_steps(bar.length_m, kerf_m, trim_m), 0) for bar in own)
    return max(ceil((need - had) / room_steps(longest_m, kerf_m, trim_m)), 0)
