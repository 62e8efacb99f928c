"""What is cut from sheets: which size, those one has first, soft boards butted from parts."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import ceil

from calveth.core.errors import DomainError
from calveth.core.materials import Material
from calveth.core.workshop.piece import Piece, Row
from calveth.core.workshop.sheets import Blank, CutSheet, SheetPlan, cut_sheets
from calveth.core.workshop.stock import StockItem, Workshop, at_hand, items_for, price_of


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetLayout:
    """Sheets of one material and thickness.

    ``rows`` names the row of every blank; ``joined`` those of soft board that are butted from so
    many blanks. ``own`` sheets are at hand and cost nothing.
    """

    material: str
    thickness_m: float
    item: StockItem
    plan: SheetPlan
    rows: tuple[int, ...]
    cost: float
    priced: bool
    waste: float
    joined: Mapping[int, int]
    own: bool = False


@dataclass(frozen=True, slots=True)
class _Blanks:
    """Blanks to be cut, the row of each, and into how many parts rows are divided."""

    blanks: tuple[Blank, ...]
    rows: tuple[int, ...]
    joined: Mapping[int, int]

    def chosen(self, numbers: Sequence[int]) -> _Blanks:
        rows = tuple(self.rows[i] for i in numbers)
        joined = {row: parts for row, parts in self.joined.items() if row in rows}
        return _Blanks(tuple(self.blanks[i] for i in numbers), rows, joined)


@dataclass(frozen=True, slots=True)
class _Work:
    """What sheets are cut with."""

    material: Material
    thickness_m: float
    workshop: Workshop
    kerf_m: float
    turns: bool

    def price(self, item: StockItem) -> float:
        return price_of(item, self.material, self.thickness_m)


def sheet_layouts(
    rows: Sequence[Row],
    material: Material,
    thickness_m: float,
    workshop: Workshop,
    left: Mapping[StockItem, int] | None = None,
    *,
    grain: bool,
) -> tuple[list[SheetLayout], str]:
    """Return the sheets rows are cut from, and what could not be laid, as a sentence or nothing.

    Sheets one has (``left`` of them; by default all at hand) are filled first wherever that does
    not make what is bought dearer. With ``grain`` nothing is turned across the sheet.

    Raises
    ------
    DomainError
        When no sheet of the thickness is in stock, or none is large enough for any row.
    """
    left = at_hand(workshop) if left is None else left
    items = [
        i
        for i in items_for(workshop, "sheet", material.id, material.group, thickness_m)
        if i.more or left.get(i, 0)
    ]
    if not items:
        raise DomainError(
            "stock",
            f"{1000 * thickness_m:.0f} mm",
            f"thick {material.name} is not in the stock list; add sheets of it",
        )
    # A knife takes no kerf away, a saw does.
    soft = material.group in ("foam", "plant and wool")
    work = _Work(material, thickness_m, workshop, 0.0 if soft else workshop.kerf_m, not grain)
    sold = [i for i in items if i.more]
    own = {i: n for i in items if (n := left.get(i, 0))}
    if not own:
        return _bought(rows, sold, work)
    # Sheets at hand may be small: what is cut from them can leave more to buy than it saves.
    mixed = _own_first(rows, own, sold, work)
    if mixed is not None and not sum(x.cost for x in mixed):
        return mixed, ""
    try:
        plain = _bought(rows, sold, work)
    except DomainError:
        if mixed is None:
            raise
        return mixed, ""
    if mixed is not None and (plain[1] or _spent(mixed) <= _spent(plain[0])):
        return mixed, ""
    return plain


def _spent(layouts: Sequence[SheetLayout]) -> tuple[float, float]:
    area = sum(len(x.plan.sheets) * x.item.length_m * x.item.width_m for x in layouts if not x.own)
    return round(sum(x.cost for x in layouts), 6), round(area, 6)


def _bought(
    rows: Sequence[Row], sold: Sequence[StockItem], work: _Work
) -> tuple[list[SheetLayout], str]:
    """Return the cheapest sheets of one size rows can be cut from."""
    best: SheetLayout | None = None
    failed: DomainError | None = None
    # The largest last: a refusal names it.
    for item in sorted(sold, key=lambda i: i.length_m * i.width_m):
        try:
            layout = _on_item(_blanks(rows, item, work), item, work)
        except DomainError as error:
            failed = error
            continue
        if best is None or (layout.cost, len(layout.plan.sheets)) < (
            best.cost,
            len(best.plan.sheets),
        ):
            best = layout
    if best is not None:
        return [best], ""
    if failed is None:
        raise DomainError(
            "sheets at hand",
            f"{1000 * work.thickness_m:.0f} mm",
            f"thick do not reach for all pieces of {work.material.name}; have more, or let more "
            "of them be bought",
        )
    largest = max(sold, key=lambda i: i.length_m * i.width_m)
    some = [r for r in rows if _goes_on(r.piece, largest, work)]
    if not some or len(some) == len(rows):
        raise failed
    return [_on_item(_blanks(some, largest, work), largest, work)], str(failed)


def _own_first(
    rows: Sequence[Row], own: Mapping[StockItem, int], sold: Sequence[StockItem], work: _Work
) -> list[SheetLayout] | None:
    """Return layouts that fill what one has, the largest first; None when the rest has none."""
    layouts: list[SheetLayout] = []
    open_ = _whole(rows, work)
    for item in sorted(own, key=lambda i: (-i.length_m * i.width_m, i.name)):
        fits = [i for i, blank in enumerate(open_.blanks) if _lies_on(blank, item, work)]
        if not fits:
            continue
        layout = _on_item(open_.chosen(fits), item, work)
        # The fullest sheets are those one has; what lies on the others goes on to the next.
        order = sorted(range(len(layout.plan.sheets)), key=lambda k: _filled(layout.plan.sheets[k]))
        taken = [
            fits[p.blank] for k in order[::-1][: own[item]] for p in layout.plan.sheets[k].placed
        ]
        layouts.append(_on_item(open_.chosen(sorted(taken)), item, work, own=True))
        if len(layouts[-1].plan.sheets) > own[item]:
            return None  # packed anew it came out worse; seldom, and then nothing is claimed
        gone = set(taken)
        open_ = open_.chosen([i for i in range(len(open_.blanks)) if i not in gone])
    if not open_.blanks:
        return layouts
    best: SheetLayout | None = None
    for item in sold:
        try:
            layout = _on_item(_parted(open_, item, work), item, work)
        except DomainError:
            continue
        if best is None or layout.cost < best.cost:
            best = layout
    return None if best is None else [*layouts, best]


def _filled(sheet: CutSheet) -> float:
    return sum(p.wide_m * p.high_m for p in sheet.placed)


def _room(item: StockItem, work: _Work) -> tuple[float, float]:
    trim = work.workshop.trim_m
    return item.length_m - 2 * trim, item.width_m - 2 * trim


def _lies_on(blank: Blank, item: StockItem, work: _Work) -> bool:
    length, width = _room(item, work)
    straight = blank.length_m <= length and blank.width_m <= width
    return straight or (blank.turns and blank.width_m <= length and blank.length_m <= width)


def _goes_on(piece: Piece, item: StockItem, work: _Work) -> bool:
    return _lies_on(Blank(piece.length_m, piece.width_m, work.turns), item, work)


def _blanks(rows: Sequence[Row], item: StockItem, work: _Work) -> _Blanks:
    return _parted(_whole(rows, work), item, work)


def _whole(rows: Sequence[Row], work: _Work) -> _Blanks:
    """Return a blank for every piece, whole."""
    pieces = [row.piece for row in rows for _ in range(row.count)]
    blanks = tuple(Blank(p.length_m, p.width_m, work.turns) for p in pieces)
    return _Blanks(blanks, tuple(row.number for row in rows for _ in range(row.count)), {})


def _parted(blanks: _Blanks, item: StockItem, work: _Work) -> _Blanks:
    """Return blanks with those of soft board divided where they are larger than the sheet."""
    if work.kerf_m > 0:
        return blanks
    made: list[tuple[Blank, int]] = []
    joined: dict[int, int] = {}
    for blank, row in zip(blanks.blanks, blanks.rows, strict=True):
        across, along = _parts(blank, _room(item, work))
        if across * along > 1:
            joined[row] = across * along
        part = Blank(blank.length_m / along, blank.width_m / across, blank.turns)
        made += [(part, row)] * (across * along)
    return _Blanks(tuple(b for b, _ in made), tuple(n for _, n in made), joined)


def _on_item(blanks: _Blanks, item: StockItem, work: _Work, *, own: bool = False) -> SheetLayout:
    size = (item.length_m, item.width_m)
    plan = cut_sheets(blanks.blanks, size, work.kerf_m, work.workshop.trim_m)
    area = len(plan.sheets) * item.length_m * item.width_m
    used = sum(b.length_m * b.width_m for b in blanks.blanks)
    return SheetLayout(
        material=work.material.id,
        thickness_m=work.thickness_m,
        item=item,
        plan=plan,
        rows=blanks.rows,
        cost=0.0 if own else work.price(item) * len(plan.sheets),
        priced=own or item.price is not None or work.material.price_eur_m3 > 0,
        waste=1 - used / area,
        joined=blanks.joined,
        own=own,
    )


def _parts(blank: Blank, room: tuple[float, float]) -> tuple[int, int]:
    """Return into how many equal parts a soft board is divided, across and along, to fit."""
    long, wide = max(room), min(room)
    one, two = max(blank.length_m, blank.width_m), min(blank.length_m, blank.width_m)
    if one <= long and two <= wide:
        return (1, 1)
    # Either way round: the fewer parts win.
    first = (ceil(one / long - 1e-9), ceil(two / wide - 1e-9))
    second = (ceil(one / wide - 1e-9), ceil(two / long - 1e-9))
    of_long, of_short = min(first, second, key=lambda p: (p[0] * p[1], p))
    return (of_short, of_long) if blank.length_m >= blank.width_m else (of_long, of_short)
