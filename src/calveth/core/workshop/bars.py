"""Boards and bars cut to length: few of them, the same plan on every machine.

Cutting stock in one dimension: each board is filled as full as it can be with what is left (an
exact knapsack), and so are boards filled by first fit decreasing; the cheaper plan is kept and,
where it lies above the bound, an integer program (HiGHS by SciPy) tries for one board less within
a number of nodes, never of seconds.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

from calveth.core.checkpoint import checkpoint
from calveth.core.errors import DomainError

_STEP_M = 0.0005
_NODES = 400
_MOST_FOR_PROOF = 60


@dataclass(frozen=True, slots=True)
class Bar:
    """A length that can be bought, and what it costs (or its length, where prices are missing)."""

    length_m: float
    price: float


@dataclass(frozen=True, slots=True)
class CutBar:
    """One bar of ``stock`` (an index) with the pieces cut of it (indices), in order.

    ``left_m`` is what remains at its end, trim not counted [m].
    """

    stock: int
    pieces: tuple[int, ...]
    left_m: float


@dataclass(frozen=True, slots=True)
class BarPlan:
    """Bars and how near to the least they are.

    ``cost`` is the sum of their prices, ``bound`` no plan can cost less than. ``above`` is at
    most how many bars (of the dearest length) the plan lies above the least.
    """

    bars: tuple[CutBar, ...]
    cost: float
    bound: float
    above: int


def cut_bars(
    lengths_m: Sequence[float], stock: Sequence[Bar], kerf_m: float, trim_m: float
) -> BarPlan:
    """Return a plan to cut lengths from bars.

    A piece takes its length and a kerf, a bar offers its length less both trims plus one kerf.

    Raises
    ------
    DomainError
        When a piece is longer than every bar.
    """
    if not lengths_m:
        return BarPlan(bars=(), cost=0.0, bound=0.0, above=0)
    room = [room_steps(b.length_m, kerf_m, trim_m) for b in stock]
    need = [steps_needed(length, kerf_m) for length in lengths_m]
    if need and (not room or max(need) > max(room)):
        longest = max(lengths_m)
        raise DomainError(
            "board",
            f"{1000 * longest:.0f} mm",
            "is longer than every board in the stock list after trimming; add a longer one",
        )
    plans = [_by_knapsack(need, room, stock), _by_first_fit(need, room, stock)]
    best = min(plans, key=lambda p: (round(_cost(p, stock), 6), len(p)))
    bound = _bound(need, room, stock)
    cost = _cost(best, stock)
    open_ = len(stock) == 1 and cost > bound + 1e-9
    if open_ and len(need) <= _MOST_FOR_PROOF:
        better = _by_program(need, room[0], len(best) - 1)
        if better is not None:
            best = [(0, pieces) for pieces in better]
            cost = _cost(best, stock)
    dearest = max((b.price for b in stock), default=1.0)
    bars = tuple(
        CutBar(
            stock=k,
            pieces=tuple(sorted(pieces, key=lambda i: (-need[i], i))),
            left_m=steps_left_m(room[k], [need[i] for i in pieces]),
        )
        for k, pieces in best
    )
    bars = tuple(sorted(bars, key=lambda b: (-stock[b.stock].length_m, b.left_m, b.pieces)))
    above = ceil((cost - bound) / dearest - 1e-9) if dearest > 0 else 0
    # No plan has fewer bars than all lengths together fill of the longest.
    least = -(-sum(need) // max(room)) if need else 0
    above = min(above, len(bars) - least)
    return BarPlan(bars=bars, cost=cost, bound=bound, above=max(above, 0))


def room_steps(length_m: float, kerf_m: float, trim_m: float) -> int:
    """Return what a bar has room for, in half millimetres: less both trims, plus one kerf."""
    return _steps(length_m - 2 * trim_m + kerf_m, up=False)


def steps_needed(length_m: float, kerf_m: float) -> int:
    """Return what a piece and the cut beside it take of a bar, in half millimetres."""
    return _steps(length_m + kerf_m, up=True)


def steps_left_m(room: int, needs: Sequence[int]) -> float:
    """Return what remains at the end of a bar [m], trim not counted."""
    return max(_STEP_M * (room - sum(needs)), 0.0)


def _steps(length_m: float, *, up: bool) -> int:
    """Return a length in whole half millimetres."""
    steps = length_m / _STEP_M
    return ceil(steps - 1e-6) if up else int(steps + 1e-6)


Plan = list[tuple[int, list[int]]]


def _cost(plan: Plan, stock: Sequence[Bar]) -> float:
    return sum(stock[k].price for k, _ in plan)


def _bound(need: Sequence[int], room: Sequence[int], stock: Sequence[Bar]) -> float:
    """Return what no plan can cost less than: the cheapest length by the metre, whole bars."""
    if not need:
        return 0.0
    rate = min(b.price / r for b, r in zip(stock, room, strict=True) if r > 0)
    least = rate * sum(need)
    if len(stock) == 1:
        # Pieces longer than half a bar each want a bar of their own.
        long = sum(1 for n in need if 2 * n > room[0])
        return stock[0].price * max(ceil(sum(need) / room[0] - 1e-9), long)
    return max(least, min(b.price for b in stock))


def _by_first_fit(need: Sequence[int], room: Sequence[int], stock: Sequence[Bar]) -> Plan:
    """Return first fit decreasing on the longest bar, each then cut to the cheapest that holds."""
    longest = max(range(len(room)), key=lambda k: room[k])
    bars: list[list[int]] = []
    free: list[int] = []
    for i in sorted(range(len(need)), key=lambda i: (-need[i], i)):
        for k, left in enumerate(free):
            if need[i] <= left:
                bars[k].append(i)
                free[k] -= need[i]
                break
        else:
            bars.append([i])
            free.append(room[longest] - need[i])
    return [(_cheapest(sum(need[i] for i in bar), room, stock), bar) for bar in bars]


def _cheapest(filled: int, room: Sequence[int], stock: Sequence[Bar]) -> int:
    return min(
        (k for k in range(len(room)) if room[k] >= filled),
        key=lambda k: (stock[k].price, room[k]),
    )


def _by_knapsack(need: Sequence[int], room: Sequence[int], stock: Sequence[Bar]) -> Plan:
    """Return bars filled one after the other, each as full for its price as it can be."""
    left = sorted(range(len(need)), key=lambda i: (-need[i], i))
    plan: Plan = []
    while left:
        checkpoint()
        fills = {k: fullest([need[i] for i in left], room[k]) for k in range(len(room))}
        k = min(
            fills,
            key=lambda k: (
                stock[k].price / max(sum(need[left[i]] for i in fills[k]), 1),
                -room[k],
            ),
        )
        chosen = [left[i] for i in fills[k]]
        plan.append((k, chosen))
        left = [i for i in left if i not in set(chosen)]
    return plan


def fullest(sizes: Sequence[int], room: int) -> list[int]:
    """Return the pieces that fill a bar most, the longest first where two fill it alike."""
    if not sizes or min(sizes) > room:
        return []
    reach = 1  # bit s: a filling of s steps can be made
    before: list[int] = []
    mask = (1 << (room + 1)) - 1
    for size in sizes:
        before.append(reach)
        reach |= (reach << size) & mask
    filled = reach.bit_length() - 1
    chosen = []
    for k in range(len(sizes) - 1, -1, -1):
        if not before[k] >> filled & 1:
            chosen.append(k)
            filled -= sizes[k]
    return chosen[::-1]


def _by_program(need: Sequence[int], room: int, count: int) -> list[list[int]] | None:
    """Return a plan with at most ``count`` bars, None when none is found in so many nodes."""
    import numpy as np
    from scipy.optimize import Bounds, LinearConstraint, milp

    kinds = Counter(need)
    sizes = sorted(kinds, reverse=True)
    n, width = len(sizes), count * len(sizes)
    rows, low, high = [], [], []
    # No bar holds more than its length, and every piece is cut exactly as often as it is needed.
    for bar in range(count):
        row = np.zeros(width)
        row[bar * n : (bar + 1) * n] = sizes
        rows.append(row)
        low.append(0.0)
        high.append(float(room))
    for k, size in enumerate(sizes):
        row = np.zeros(width)
        row[k::n] = 1.0
        rows.append(row)
        low.append(float(kinds[size]))
        high.append(float(kinds[size]))
    result = milp(
        c=np.zeros(width),  # any plan with so few bars does
        constraints=LinearConstraint(np.array(rows), low, high),
        integrality=np.ones(width),
        bounds=Bounds(0, np.inf),
        options={"node_limit": _NODES},
    )
    if result.x is None:
        return None
    places = {size: [i for i in range(len(need)) if need[i] == size] for size in sizes}
    bars = []
    for bar in range(count):
        chosen = []
        for k, size in enumerate(sizes):
            for _ in range(round(float(result.x[bar * n + k]))):
                chosen.append(places[size].pop(0))
        if chosen:
            bars.append(chosen)
    return bars
