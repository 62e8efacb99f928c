"""What there is to cut from: boards, sheets, blocks, with sizes, prices, kerf and trim."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal, get_args

from calveth.core.constants_building import SAME_THICKNESS
from calveth.core.errors import DomainError, require_between, require_choice, require_text
from calveth.core.materials import Material

StockKind = Literal["board", "sheet", "block"]
Currency = Literal["€", "$", "£", "kr", "CHF", "zł", "Kč"]


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
    """

    name: str
    kind: StockKind
    fits: str
    length_m: float
    width_m: float
    thickness_m: float = 0.0
    price: float | None = None

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


@dataclass(frozen=True, slots=True, kw_only=True)
class Workshop:
    """The stock and the tools of one workshop.

    Attributes
    ----------
    items : tuple of StockItem
        Sizes that can be bought.
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


def boards_of(workshop: Workshop, material: str, group: str) -> tuple[StockItem, ...]:
    """Return the boards of a material; those for its group where none names it."""
    boards = [i for i in workshop.items if i.kind == "board"]
    own = tuple(i for i in boards if i.fits == material)
    return own or tuple(i for i in boards if i.fits == group)


def items_for(workshop: Workshop, kind: StockKind, material: str, group: str,
              thickness_m: float) -> tuple[StockItem, ...]:  # fmt: skip
    """Return the sizes a piece can be cut from: of its thickness, else of the next one above.

    Items that name the material come before those for its group, which then do not count.
    """
    fitting = [i for i in workshop.items if i.kind == kind and i.fits == material]
    if not fitting:
        fitting = [i for i in workshop.items if i.kind == kind and i.fits == group]
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
