"""Sheets cut from edge to edge (guillotine), with grain; the tree of cuts is the plan to saw by.

A seeded greedy in many variants: order of the pieces, which free rectangle, which way the rest is
split. Every cut runs from edge to edge of what it cuts by construction. Plans are ordered by the
number of sheets, then by the largest rest, since a person keeps the rest. Lower bound: area, and
with fixed grain dual feasible functions (Fekete and Schepers 2001, from memory).
"""

from __future__ import annotations

import random
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import partial
from math import ceil, floor
from typing import Literal

from calveth.core.checkpoint import checkpoint
from calveth.core.errors import DomainError

# What is left over and narrower than this is waste [m].
_WASTE_M = 0.02

_SWAPS, _FEW = 60, 40
_MANY = 400
_TOUCH = 1e-9
Way = Literal["along", "across"]


@dataclass(frozen=True, slots=True)
class Blank:
    """A rectangle to be cut: ``length_m`` along the sheet's length unless it may be turned."""

    length_m: float
    width_m: float
    turns: bool


@dataclass(frozen=True, slots=True)
class Placed:
    """A blank on a sheet: its lower left corner from the sheet's, and its size there [m]."""

    blank: int
    x_m: float
    y_m: float
    wide_m: float
    high_m: float


@dataclass(frozen=True, slots=True)
class SawCut:
    """A cut from edge to edge, in the order of sawing.

    ``way`` is ``along`` the sheet's length (a rip) or ``across``; it starts at (``x_m``, ``y_m``)
    and runs ``long_m`` [m].
    """

    way: Way
    x_m: float
    y_m: float
    long_m: float


@dataclass(frozen=True, slots=True)
class Rest:
    """A rectangle left over [m]."""

    x_m: float
    y_m: float
    wide_m: float
    high_m: float


@dataclass(frozen=True, slots=True)
class CutSheet:
    """One sheet: what is cut from it, the cuts in their order, and what is left."""

    placed: tuple[Placed, ...]
    cuts: tuple[SawCut, ...]
    rests: tuple[Rest, ...]


@dataclass(frozen=True, slots=True)
class SheetPlan:
    """Sheets of one size; ``bound`` sheets are needed at least, ``greedy_only`` with very many."""

    sheets: tuple[CutSheet, ...]
    bound: int
    greedy_only: bool = False

    @property
    def above(self) -> int:
        """At most so many sheets above the least possible."""
        return len(self.sheets) - self.bound


@dataclass(slots=True)
class _Free:
    x: float
    y: float
    w: float
    h: float


@dataclass(slots=True)
class _Open:
    free: list[_Free]
    placed: list[Placed]
    cuts: list[SawCut]


_Choice = Callable[[_Free, float, float], tuple[float, float]]
_CHOICES: tuple[_Choice, ...] = (
    lambda f, w, h: (min(f.w - w, f.h - h), max(f.w - w, f.h - h)),
    lambda f, w, h: (f.w * f.h - w * h, min(f.w - w, f.h - h)),
)
_SPLITS = ("shorter", "larger", "along", "across")


def cut_sheets(
    blanks: Sequence[Blank], sheet_m: tuple[float, float], kerf_m: float, trim_m: float
) -> SheetPlan:
    """Return a plan to cut blanks from sheets of a size.

    Raises
    ------
    DomainError
        When a blank is larger than the trimmed sheet, or has no size.
    """
    length, width = (side - 2 * trim_m for side in sheet_m)
    for blank in blanks:
        if min(blank.length_m, blank.width_m) <= 0:
            raise DomainError("piece", 0.0, "wide cannot be cut; give it a size")
        fits = blank.length_m <= length + _TOUCH and blank.width_m <= width + _TOUCH
        turned = blank.width_m <= length + _TOUCH and blank.length_m <= width + _TOUCH
        if not fits and not (turned and blank.turns):
            raise DomainError(
                "piece",
                f"{1000 * blank.length_m:.0f} x {1000 * blank.width_m:.0f} mm",
                f"does not fit a sheet of {1000 * sheet_m[0]:.0f} x {1000 * sheet_m[1]:.0f} mm "
                "after trimming; choose a larger sheet or glue it from two",
            )
    size = (length + kerf_m, width + kerf_m)
    many = len(blanks) > _MANY
    best = _tries(blanks, size, kerf_m, swaps=0 if many else _SWAPS, few=many)
    return SheetPlan(
        sheets=tuple(_finished(s, kerf_m, trim_m) for s in best),
        bound=_bound(blanks, (length, width), kerf_m),
        greedy_only=many,
    )


def _tries(
    blanks: Sequence[Blank], size: tuple[float, float], kerf: float, *, swaps: int, few: bool
) -> list[_Open]:
    """Return the best of all variants, improved by seeded swaps."""
    orders = [sorted(range(len(blanks)), key=key) for key in _orders(blanks)]
    # Of the same length side by side: a rip gives them all one width.
    variants = [
        (choice, split, first)
        for choice in range(len(_CHOICES))
        for split in _SPLITS
        for first in (True, False)
    ]
    if few:
        orders, variants = orders[:1], variants[:2]
    pack = partial(_pack, blanks, size, kerf)
    results = [(_score(p), p, o, v) for o in orders for v in variants if (p := pack(o, *v))]
    score, best, order, variant = min(results, key=lambda r: r[0])
    source = random.Random(len(blanks))
    for _ in range(swaps if len(blanks) <= _FEW else swaps // 4):
        checkpoint()
        if len(blanks) < 3:
            break
        tried = list(order)
        a, b = source.sample(range(len(tried)), 2)
        tried[a], tried[b] = tried[b], tried[a]
        plan = pack(tried, *variant)
        if _score(plan) < score:
            score, best, order = _score(plan), plan, tried
    return best


def _orders(blanks: Sequence[Blank]) -> list[Callable[[int], tuple[float, ...]]]:
    def sides(i: int) -> tuple[float, float]:
        b = blanks[i]
        return max(b.length_m, b.width_m), min(b.length_m, b.width_m)

    return [
        lambda i: (-sides(i)[0] * sides(i)[1], -sides(i)[0], i),
        lambda i: (-blanks[i].width_m, -blanks[i].length_m, i),
        lambda i: (-blanks[i].length_m, -blanks[i].width_m, i),
        lambda i: (-sides(i)[0], -sides(i)[1], i),
        lambda i: (-sum(sides(i)), -sides(i)[0], i),
    ]


def _score(plan: list[_Open]) -> tuple[float, float]:
    rest = max((f.w * f.h for s in plan for f in s.free), default=0.0)
    return len(plan), -round(rest, 9)


def _pack(
    blanks: Sequence[Blank],
    size: tuple[float, float],
    kerf: float,
    order: Sequence[int],
    choice: int,
    split: str,
    first: bool,
) -> list[_Open]:
    """Return sheets filled in an order; sizes grow by a kerf, so that cuts take no room."""
    sheets: list[_Open] = []
    for i in order:
        blank = blanks[i]
        ways = [(blank.length_m + kerf, blank.width_m + kerf)]
        if blank.turns:
            ways.append((blank.width_m + kerf, blank.length_m + kerf))
        place = _best_place(sheets, ways, _CHOICES[choice], first=first)
        if place is None:
            sheets.append(_Open([_Free(0.0, 0.0, *size)], [], []))
            place = _best_place(sheets[-1:], ways, _CHOICES[choice], first=True)
            assert place is not None
            place = (len(sheets) - 1, *place[1:])
        sheet, at, (w, h) = place
        _put(sheets[sheet], at, i, w, h, split)
    return sheets


def _best_place(
    sheets: Sequence[_Open], ways: Sequence[tuple[float, float]], choice: _Choice, *, first: bool
) -> tuple[int, int, tuple[float, float]] | None:
    best: tuple[tuple[float, float], tuple[int, int, tuple[float, float]]] | None = None
    for k, sheet in enumerate(sheets):
        for at, free in enumerate(sheet.free):
            for w, h in ways:
                if w > free.w + _TOUCH or h > free.h + _TOUCH:
                    continue
                score = choice(free, w, h)
                if best is None or score < best[0]:
                    best = (score, (k, at, (w, h)))
        if first and best is not None:
            return best[1]
    return None if best is None else best[1]


def _put(sheet: _Open, at: int, blank: int, w: float, h: float, split: str) -> None:
    """Lay a blank in a free rectangle and split what is left of it by two cuts."""
    free = sheet.free.pop(at)
    sheet.placed.append(Placed(blank, free.x, free.y, w, h))
    right, above = free.w - w, free.h - h
    if split == "shorter":
        along = right < above
    elif split == "larger":
        along = max(free.w * above, right * h) >= max(w * above, right * free.h)
    else:
        along = split == "along"
    if above > _TOUCH and right > _TOUCH:
        if along:
            sheet.cuts += [
                SawCut("along", free.x, free.y + h, free.w),
                SawCut("across", free.x + w, free.y, h),
            ]
            sheet.free += [
                _Free(free.x + w, free.y, right, h),
                _Free(free.x, free.y + h, free.w, above),
            ]
        else:
            sheet.cuts += [
                SawCut("across", free.x + w, free.y, free.h),
                SawCut("along", free.x, free.y + h, w),
            ]
            sheet.free += [
                _Free(free.x, free.y + h, w, above),
                _Free(free.x + w, free.y, right, free.h),
            ]
    elif above > _TOUCH:
        sheet.cuts.append(SawCut("along", free.x, free.y + h, free.w))
        sheet.free.append(_Free(free.x, free.y + h, free.w, above))
    elif right > _TOUCH:
        sheet.cuts.append(SawCut("across", free.x + w, free.y, free.h))
        sheet.free.append(_Free(free.x + w, free.y, right, free.h))


def _finished(sheet: _Open, kerf: float, trim: float) -> CutSheet:
    """Return a sheet with true sizes: the kerf taken off again, the trim added."""
    placed = tuple(
        Placed(p.blank, p.x_m + trim, p.y_m + trim, p.wide_m - kerf, p.high_m - kerf)
        for p in sheet.placed
    )
    rests = tuple(
        sorted(
            (
                Rest(f.x + trim, f.y + trim, f.w - kerf, f.h - kerf)
                for f in sheet.free
                if f.w - kerf > _WASTE_M and f.h - kerf > _WASTE_M
            ),
            key=lambda r: -r.wide_m * r.high_m,
        )
    )
    cuts = tuple(SawCut(c.way, c.x_m + trim, c.y_m + trim, c.long_m - kerf) for c in sheet.cuts)
    return CutSheet(placed=placed, cuts=cuts, rests=rests)


def _bound(blanks: Sequence[Blank], room: tuple[float, float], kerf: float) -> int:
    """Return the sheets needed at least."""
    if not blanks:
        return 0
    length, width = room[0] + kerf, room[1] + kerf
    area = sum((b.length_m + kerf) * (b.width_m + kerf) for b in blanks) / (length * width)
    least = ceil(area - 1e-9)
    if any(b.turns for b in blanks):
        return max(least, 1)
    shares = [((b.length_m + kerf) / length, (b.width_m + kerf) / width) for b in blanks]
    for f in _FUNCTIONS:
        for g in _FUNCTIONS:
            least = max(least, ceil(sum(f(x) * g(y) for x, y in shares) - 1e-9))
    return max(least, 1)


def _same(x: float) -> float:
    return x


def _rounds(k: int, x: float) -> float:
    """Dual feasible: u(k) of Fekete and Schepers, on shares of a bin."""
    y = (k + 1) * x
    return x if abs(y - round(y)) < 1e-9 else floor(y) / k


def _over(e: float, x: float) -> float:
    """Dual feasible: large items count whole, small ones not at all."""
    return 1.0 if x > 1 - e + 1e-9 else x if x >= e - 1e-9 else 0.0


_FUNCTIONS: tuple[Callable[[float], float], ...] = (
    _same,
    partial(_rounds, 1),
    partial(_rounds, 2),
    partial(_rounds, 3),
    partial(_over, 0.2),
    partial(_over, 1 / 3),
    partial(_over, 0.45),
)
