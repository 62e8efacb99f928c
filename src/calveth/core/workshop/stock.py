"""What there is to cut from: boards, sheets, blocks, with sizes, prices, kerf and trim."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Literal, get_args

from calveth.core.constants_building import SAME_THICKNESS
from calveth.core.errors import DomainError, require_between, require_choice, require_text
from calveth.core.materials import Material

StockKind = Literal["board", "sheet", "block"]
Currency = Literal["€", "$", "£", "kr", "CHF", "zł", "Kč"]
MOST_HAD = 9999
"""Of one size; more is a slip of the hand."""


@dataclass(frozen=True, slots=True, kw_only=True)
class StockItem:
    """One size that can be bought.

    Attributes
    ----------
    name : str
        As the trade calls it; nominal sizes stand here, actual ones in the fields.
    kind : StockKind
        ``board`` (bars too), ``sheet`` or ``block``.
    fits : str
        Id of a material, or a group of materials such as ``wood`` or ``foam``.
    length_m, width_m : float
        Actual [m]; of a block its length and height.
    thickness_m : float
        Actual [m]; 0 is any thickness the material is sold in.
    price : float or None
        Of one piece, None when it is not known: the material's price by volume stands in.
    have : int
        So many are at hand; they are used before any is bought.
    more : bool
        Whether more of it can be bought.
    """

    name: str
    kind: StockKind
    fits: str
    length_m: float
    width_m: float
    thickness_m: float = 0.0
    price: float | None = None
    have: int = 0
    more: bool = True

    def __post_init__(self) -> None:
        require_text("name of the stock", self.name)
        where = f"stock “{self.name}”"
        require_choice(f"{where} kind", self.kind, get_args(StockKind))
        require_text(f"{where} fits", self.fits)
        require_between(f"{where} length", self.length_m, 0.05, 13, "m")
        require_between(f"{where} width", self.width_m, 0.01, 5, "m")
        require_between(f"{where} thickness", self.thickness_m, 0, 1, "m")
        if self.price is not None:
            require_between(f"{where} price", self.price, 0, 1e5)
        require_between(f"{where} have", self.have, 0, MOST_HAD)
        if int(self.have) != self.have:
            raise DomainError(f"{where} have", self.have, "is no count; enter a whole number")


@dataclass(frozen=True, slots=True, kw_only=True)
class Workshop:
    """The stock and the tools of one workshop.

    Attributes
    ----------
    items : tuple of StockItem
        Sizes that can be bought or are at hand.
    kerf_m : float
        What a saw cut takes: table saw 3 mm, track saw 2, band saw 1, knife for foam 0 [m].
    block_kerf_m : float
        The same of the block saw [m].
    trim_m : float
        What is cut off each end of a board and each edge of a sheet [m].
    tolerance_m : float
        How exact the tools are [m].
    currency : Currency
        What prices are in; nothing is converted.
    """

    items: tuple[StockItem, ...] = ()
    kerf_m: float = 0.003
    block_kerf_m: float = 0.004
    trim_m: float = 0.010
    tolerance_m: float = 0.0005
    currency: Currency = "€"

    def __post_init__(self) -> None:
        require_between("kerf of the saw", self.kerf_m, 0, 0.010, "m")
        require_between("kerf of the block saw", self.block_kerf_m, 0, 0.010, "m")
        require_between("trim", self.trim_m, 0, 0.2, "m")
        require_between("tolerance of the tools", self.tolerance_m, 0, 0.005, "m")
        require_choice("currency", self.currency, get_args(Currency))
        if len(self.items) > 400:
            raise DomainError("stock", len(self.items), "sizes are too many; keep 400 or fewer")
        for item in self.items:
            least = min(item.length_m, item.width_m) if item.kind == "sheet" else item.length_m
            if item.kind != "block" and self.trim_m > least / 4:
                raise DomainError(
                    "trim", self.trim_m, f"m is more than a quarter of “{item.name}”; enter less"
                )


def materials_in_stock(workshop: Workshop, materials: Iterable[Material]) -> frozenset[str]:
    """Return the ids of the materials there is a size of, by their own name or their group's."""
    fits = {item.fits for item in workshop.items}
    return frozenset(m.id for m in materials if m.id in fits or m.group in fits)


def at_hand(workshop: Workshop) -> dict[StockItem, int]:
    """Return how many there are of every size one has some of."""
    stock: Counter[StockItem] = Counter()
    for item in workshop.items:
        if item.have:
            stock[item] += item.have
    return dict(stock)


def price_of(item: StockItem, material: Material, thickness_m: float) -> float:
    """Return what one costs: its price, else the material's by volume; for any thickness this."""
    if item.price is not None:
        return item.price
    thick = item.thickness_m or thickness_m
    return item.length_m * item.width_m * thick * material.price_eur_m3


def less(left: Mapping[StockItem, int], taken: Iterable[StockItem]) -> dict[StockItem, int]:
    """Return what is left at hand after some are taken."""
    gone = Counter(taken)
    return {item: count - gone[item] for item, count in left.items()}


def to_buy(workshop: Workshop) -> Workshop:
    """Return a workshop that has nothing and buys what can be bought."""
    kept = tuple(replace(i, have=0) for i in workshop.items if i.more)
    return replace(workshop, items=kept)


def _fitting(workshop: Workshop, kind: StockKind, material: str, group: str) -> list[StockItem]:
    """Return what a material can be cut from: sizes at hand, and those more can be bought of.

    Sizes for sale that name the material stand for those of its group; what is at hand is used
    beside them.
    """
    there = [i for i in workshop.items if i.kind == kind and (i.more or i.have)]
    named = any(i.fits == material and not i.have for i in there)
    return [i for i in there if i.fits == material or (i.fits == group and (i.have or not named))]


def boards_of(workshop: Workshop, material: str, group: str) -> tuple[StockItem, ...]:
    """Return the boards a material is cut from, as `_fitting` says."""
    return tuple(_fitting(workshop, "board", material, group))


def items_for(
    workshop: Workshop, kind: StockKind, material: str, group: str, thickness_m: float
) -> tuple[StockItem, ...]:
    """Return the sizes a piece can be cut from: of its thickness, else of the next one above."""
    fitting = _fitting(workshop, kind, material, group)
    exact = [
        i
        for i in fitting
        if i.thickness_m == 0 or abs(i.thickness_m - thickness_m) <= SAME_THICKNESS.value + 1e-9
    ]
    if exact:
        return tuple(exact)
    thicker = sorted({i.thickness_m for i in fitting if i.thickness_m > thickness_m})
    if not thicker:
        return ()
    return tuple(i for i in fitting if i.thickness_m == thicker[0])
