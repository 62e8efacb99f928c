"""Boards: panels glued from strips where boards are narrower, strips cut to length from boards."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace

from calveth.core.errors import DomainError
from calveth.core.materials import Material
from calveth.core.workshop.bars import Bar, cut_bars
from calveth.core.workshop.own_boards import OwnBar, cut_own, least_bought
from calveth.core.workshop.panels import Panel, panel_for
from calveth.core.workshop.piece import Piece, Row
from calveth.core.workshop.stock import StockItem, Workshop, at_hand, boards_of, less, price_of

_SAME_M = 1e-5


@dataclass(frozen=True, slots=True)
class Strip:
    """A strip to be cut: of which row, how long and wide [m]."""

    row: int
    length_m: float
    width_m: float


@dataclass(frozen=True, slots=True)
class Length:
    """What one crosscut takes off a board: a strip, or narrow ones to be ripped side by side."""

    strips: tuple[Strip, ...]

    @property
    def length_m(self) -> float:
        """Length of the longest of them [m]."""
        return max(s.length_m for s in self.strips)


@dataclass(frozen=True, slots=True)
class Board:
    """One board with the lengths that are cut of it, from its end; ``left_m`` remains [m].

    ``own`` boards are at hand and cost nothing.
    """

    item: StockItem
    lengths: tuple[Length, ...]
    left_m: float
    own: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardLayout:
    """Boards of one material, thickness and width.

    ``thickness_m`` is the thickness they are bought in, pieces may be planed thinner; ``above``
    at most how many boards the plan lies above the least; ``waste`` the share of what is bought
    that is in no strip.
    """

    material: str
    thickness_m: float
    width_m: float
    boards: tuple[Board, ...]
    cost: float
    priced: bool
    above: int
    waste: float


@dataclass(frozen=True, slots=True)
class _Work:
    """What layouts are made with: the sizes, what is left of one's own, prices and tools."""

    items: tuple[StockItem, ...]
    left: Mapping[StockItem, int]
    material: Material
    thickness_m: float
    workshop: Workshop

    def for_sale(self) -> tuple[StockItem, ...]:
        return tuple(i for i in self.items if i.more)

    def price(self, item: StockItem) -> float:
        return price_of(item, self.material, self.thickness_m)


_Laid = tuple[list[BoardLayout], dict[int, Panel]]


def board_layouts(
    rows: Sequence[Row],
    material: Material,
    thickness_m: float,
    workshop: Workshop,
    left: Mapping[StockItem, int] | None = None,
) -> _Laid:
    """Return the boards rows of one material are cut from, and how panels are made.

    All rows come from boards of one thickness, that `board_thickness` gives. Boards one has
    (``left`` of them; by default all at hand) are cut first: of pieces made from their width as
    far as they go, of pieces made from it altogether, and of none but where it is bought anyway,
    the way that leaves the least to pay is kept.

    Raises
    ------
    DomainError
        When no board is thick or long enough; it names the size and the remedy.
    """
    left = at_hand(workshop) if left is None else left
    items = tuple(
        i
        for i in boards_of(workshop, material.id, material.group)
        if not i.thickness_m or abs(i.thickness_m - thickness_m) < _SAME_M
        if i.more or left.get(i, 0)
    )
    work = _Work(items, left, material, thickness_m, workshop)
    own = tuple(i for i in items if left.get(i, 0))
    ways = [_own_first(rows, work, own, bounded=bounded) for bounded in (True, False) if own]
    try:
        # Where nothing is for sale, what one has must do, or is said to be used up.
        ways.append(_made(rows, _panels(rows, work.for_sale() or own, work), work))
    except DomainError:
        if not any(ways):
            raise
    return min((way for way in ways if way is not None), key=_spent)


def _spent(laid: _Laid) -> tuple[float, float]:
    bought = [b.item for layout in laid[0] for b in layout.boards if not b.own]
    area = sum(i.length_m * i.width_m for i in bought)
    return round(sum(layout.cost for layout in laid[0]), 6), round(area, 6)


def _own_first(
    rows: Sequence[Row], work: _Work, own: Sequence[StockItem], *, bounded: bool
) -> _Laid | None:
    """Return layouts with as many rows as can be from the widths one has.

    ``bounded`` buys no more of these widths; None when it cannot be done.
    """
    fitting = [r for r in rows if _can_be(r.piece, own, work)]
    while fitting:
        numbers = {r.number for r in fitting}
        others = [r for r in rows if r.number not in numbers]
        try:
            panels = _panels(fitting, own, work)
            panels |= _panels(others, work.for_sale(), work) if others else {}
            return _made(rows, panels, work, no_more=numbers if bounded else frozenset())
        except _UsedUpError as error:
            fitting = [r for r in fitting if r.number not in error.rows]
        except DomainError:
            return None
    return None


def _can_be(piece: Piece, items: Sequence[StockItem], work: _Work) -> bool:
    try:
        panel_for(piece, items, work.thickness_m, work.workshop)
    except DomainError:
        return False
    return True


def _panels(rows: Sequence[Row], items: Sequence[StockItem], work: _Work) -> dict[int, Panel]:
    """Return how rows are made of some sizes; narrow pieces share what is used anyway."""
    thickness_m, workshop = work.thickness_m, work.workshop
    panels = {row.number: panel_for(row.piece, items, thickness_m, workshop) for row in rows}
    used = {panel.board_m for panel in panels.values() if panel.lanes == 1}
    used = used or {max(p.board_m for p in panels.values())}
    shared = [i for i in items if i.width_m in used]
    for row in rows:
        if panels[row.number].lanes > 1 and row.piece.width_m <= max(used) + 1e-9:
            long = max(i.length_m for i in shared if i.width_m >= row.piece.width_m - 1e-9)
            if long - 2 * workshop.trim_m >= row.piece.length_m:
                panels[row.number] = panel_for(row.piece, shared, thickness_m, workshop)
    return panels


def _made(
    rows: Sequence[Row],
    panels: dict[int, Panel],
    work: _Work,
    no_more: Collection[int] = frozenset(),
) -> _Laid:
    """Return the layouts of rows whose panels are chosen; nothing is bought for ``no_more``."""
    groups: dict[float, list[Length]] = {}
    for row in rows:
        panel = panels[row.number]
        strip = Strip(row.number, row.piece.length_m, panel.strip_m)
        if panel.lanes == 1:
            lengths = [Length((strip,))] * (row.count * panel.strips * panel.layers)
            groups.setdefault(panel.board_m, []).extend(lengths)
    for board, bundles in _bundled(rows, panels).items():
        groups.setdefault(board, []).extend(bundles)
    layouts: list[BoardLayout] = []
    left = dict(work.left)
    # The widest first: what they leave of wide boards serves narrow strips.
    for width, lengths in sorted(groups.items(), reverse=True):
        made = _layout(lengths, width, replace(work, left=left), no_more)
        left = less(left, [b.item for x in made for b in x.boards if b.own])
        layouts = [*made, *layouts]
    return layouts, panels


def _bundled(rows: Sequence[Row], panels: Mapping[int, Panel]) -> dict[float, list[Length]]:
    """Return narrow strips of one width side by side, as many as a board is wide."""
    narrow: dict[tuple[float, float, int], list[Strip]] = {}
    for row in rows:
        panel = panels[row.number]
        if panel.lanes > 1:
            key = (panel.board_m, panel.strip_m, panel.lanes)
            strip = Strip(row.number, row.piece.length_m, panel.strip_m)
            narrow.setdefault(key, []).extend([strip] * (row.count * panel.layers))
    bundles: dict[float, list[Length]] = {}
    for (board, _, lanes), strips in narrow.items():
        strips.sort(key=lambda s: (-s.length_m, s.row))
        bundles.setdefault(board, []).extend(
            Length(tuple(strips[at : at + lanes])) for at in range(0, len(strips), lanes)
        )
    return bundles


class _UsedUpError(DomainError):
    """What one has is used up and no more is to be had; ``rows`` are left over."""

    def __init__(self, lengths: Sequence[Length], width_m: float) -> None:
        longest = max(x.length_m for x in lengths)
        super().__init__(
            "boards at hand",
            f"{1000 * width_m:.0f} mm",
            f"wide do not reach for all pieces ({1000 * longest:.0f} mm is left over); have more, "
            "or let more of them be bought",
        )
        self.rows = {s.row for x in lengths for s in x.strips}


def _layout(
    lengths: list[Length], width: float, work: _Work, no_more: Collection[int]
) -> list[BoardLayout]:
    """Return the boards for a width: those one has first, wider ones too, then those to be bought.

    Raises
    ------
    _UsedUpError
        When pieces are left that none may be bought for.
    """
    kerf, trim = work.workshop.kerf_m, work.workshop.trim_m
    strip = max(x.strips[0].width_m if len(x.strips) == 1 else width for x in lengths)
    own = sorted(
        (i for i in work.items if work.left.get(i, 0) and _serves(i.width_m, strip, width)),
        key=lambda i: (i.width_m, i.length_m),
    )
    bars = [OwnBar(i.length_m, work.left[i]) for i in own]
    long = [x.length_m for x in lengths]
    done = cut_own(long, bars, kerf, trim)
    made = [
        Board(own[bar.stock], tuple(lengths[i] for i in bar.pieces), bar.left_m, own=True)
        for bar in done.bars
    ]
    rest = [lengths[i] for i in done.rest]
    sold = sorted(
        (i for i in work.items if i.more and abs(i.width_m - width) < 1e-9),
        key=lambda i: i.length_m,
    )
    left_over = [x for x in rest if any(s.row in no_more for s in x.strips)]
    if rest and (left_over or not sold):
        raise _UsedUpError(left_over or rest, width)
    priced = all(work.price(i) > 0 for i in sold)
    # Without any price the length is what is saved.
    stock = [Bar(i.length_m, work.price(i) if priced else i.length_m) for i in sold]
    plan = cut_bars([x.length_m for x in rest], stock, kerf, trim)
    bought = [
        Board(sold[bar.stock], tuple(rest[i] for i in bar.pieces), bar.left_m) for bar in plan.bars
    ]
    above = plan.above
    if own and bought:
        least = least_bought(long, bars, max(i.length_m for i in sold), kerf, trim)
        above = len(bought) - least
    by_width: dict[float, list[Board]] = {}
    for board in (*made, *bought):
        by_width.setdefault(board.item.width_m, []).append(board)
    return [
        _of_width(boards, work, above if any(not b.own for b in boards) else 0)
        for _, boards in sorted(by_width.items())
    ]


def _serves(board_m: float, strip_m: float, width_m: float) -> bool:
    """Return whether strips are cut from a board one has: not where half of it would be waste."""
    if abs(board_m - width_m) < 1e-9:
        return True
    return strip_m - 1e-9 <= board_m <= _MOST_WASTE * strip_m


_MOST_WASTE = 2.0
"""So many times a strip's width a board at hand is at most, to be cut for it."""


def _of_width(boards: list[Board], work: _Work, above: int) -> BoardLayout:
    area = sum(b.item.length_m * b.item.width_m for b in boards)
    used = sum(s.length_m * s.width_m for b in boards for x in b.lengths for s in x.strips)
    bought = [b.item for b in boards if not b.own]
    return BoardLayout(
        material=work.material.id,
        thickness_m=boards[0].item.thickness_m or work.thickness_m,
        width_m=boards[0].item.width_m,
        boards=tuple(boards),
        cost=sum(work.price(i) for i in bought),
        priced=all(work.price(i) > 0 for i in bought),
        above=above,
        waste=1 - used / area,
    )
