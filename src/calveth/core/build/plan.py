"""The whole plan of a build, from one design: pieces, layouts, blocks, casts, weights, cost."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from math import ceil
from typing import TypeVar

from calveth.core.build.added import added_pieces, spare_timber
from calveth.core.build.boards import BoardLayout, Panel, board_layouts, board_thickness
from calveth.core.build.bulk import bulk_of
from calveth.core.build.casting import CastPart, cast_parts
from calveth.core.build.courses import BlockWall, block_walls
from calveth.core.build.lifting import LiftVerdict, judge, what_helps
from calveth.core.build.piece import Bulk, Piece, Row, rows_of
from calveth.core.build.pieces import pieces_of
from calveth.core.build.sheets import Blank, SheetPlan, cut_sheets
from calveth.core.build.stack import StackUp, stack_up
from calveth.core.build.standing import Standing, standing
from calveth.core.build.steps import Step, steps_of
from calveth.core.build.stock import StockItem, Workshop, items_for
from calveth.core.build.weights import STATES, lifts_of
from calveth.core.checkpoint import checkpoint
from calveth.core.climate.place import Place
from calveth.core.colony.colony import Colony
from calveth.core.errors import CalvethError, DomainError
from calveth.core.hive.design import Design
from calveth.core.hive.forms import HollowTree
from calveth.core.hive.joinery import BLOCK_LEAST_M
from calveth.core.hive.parts import HiveSolids
from calveth.core.hive.solids import build_solids
from calveth.core.materials import Material, SoldAs
from calveth.core.message import Message
from calveth.core.remembered import remembered

_ORDERED = "glass"
T = TypeVar("T")


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetLayout:
    """Sheets of one material and thickness.

    ``rows`` names the row of every blank; ``joined`` those of soft board that are butted from so
    many blanks.
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


@dataclass(frozen=True, slots=True, kw_only=True)
class BuildPlan:
    """All a workshop needs of a design.

    Attributes
    ----------
    rows : tuple of Row
        The cut list.
    bulk : tuple of Bulk
        What is bought by litre, area, length or count.
    boards, sheets : layouts
        What rows are cut from.
    panels : mapping
        How rows wider than boards are glued, by row number.
    walls, casts : tuple
        Walls of blocks, parts that are cast.
    ordered : tuple of int
        Rows that are ordered to size: glass.
    lifts, helps : tuple
        Weights against the guidelines, and what would help.
    stack : StackUp
        The gaps from floor to lid.
    steps : tuple of Step
        The order of the work.
    joined : mapping
        Rows larger than a sheet, which are butted from so many parts, by row number.
    standing : tuple of Standing
        How it stands empty, in February and full; none for a trunk.
    bought, used, priced : float, float, bool
        Cost of what is bought, of what of it is used, and whether every price is known.
    problems : tuple of str
        What could not be planned, each a sentence with its remedy.
    """

    design: Design
    hive: HiveSolids
    rows: tuple[Row, ...]
    bulk: tuple[Bulk, ...]
    boards: tuple[BoardLayout, ...]
    sheets: tuple[SheetLayout, ...]
    panels: Mapping[int, Panel]
    walls: tuple[BlockWall, ...]
    casts: tuple[CastPart, ...]
    ordered: tuple[int, ...]
    lifts: tuple[LiftVerdict, ...]
    helps: tuple[Message, ...]
    stack: StackUp
    steps: tuple[Step, ...]
    joined: Mapping[int, int]
    standing: tuple[Standing, ...]
    bought: float
    used: float
    priced: bool
    problems: tuple[str, ...]

    @property
    def pieces(self) -> tuple[Piece, ...]:
        """All pieces, row by row."""
        return tuple(p for row in self.rows for p in row.pieces)

    def row_of(self, number: int) -> Row:
        """Return the row with a number."""
        return self.rows[number - 1]


def build_plan(
    design: Design,
    materials: Mapping[str, Material],
    colony: Colony,
    place: Place,
    workshop: Workshop,
) -> BuildPlan:
    """Return the plan of a design; what cannot be planned is said in it, all else is there.

    Raises
    ------
    DomainError
        When parts take the same place, as `build_solids` says.
    """
    hive = build_solids(design)
    rows, bulk = listed(design, materials)
    problems: list[str] = []
    boards, sheets, panels, ordered = _layouts(design, rows, materials, workshop, problems)
    checkpoint()
    walls = _tried(lambda: block_walls(design, materials, workshop), problems)
    pieces = [p for row in rows for p in row.pieces]
    joined = {n: k for s in sheets for n, k in s.joined.items()}
    casts = cast_parts(pieces, materials)
    lifts = tuple(judge(x, design) for x in lifts_of(design, hive, materials, colony))
    stands: list[Standing] = []
    if not isinstance(design.form, HollowTree):
        for state in STATES:
            ask = partial(standing, design, hive, materials, colony, place, state)
            stands += _tried(lambda ask=ask: (ask(),), problems)  # type: ignore[misc]
    block_prices = _block_cost(walls, materials)
    bought = sum(x.cost for x in boards) + sum(x.cost for x in sheets)
    bought += sum(b.price for b in bulk) + block_prices[0] + _ordered_cost(rows, ordered, materials)
    bought += sum(c.mixed_l * c.count / 1000 * materials[c.material].price_eur_m3 for c in casts)
    used = sum(p.solid_m3 * materials[p.material].price_eur_m3 for p in pieces)
    used += sum(b.price for b in bulk)
    problems += _soft_timber(pieces, materials)
    priced = all(x.priced for x in boards) and all(x.priced for x in sheets) and block_prices[1]
    return BuildPlan(
        design=design, hive=hive, rows=rows, bulk=bulk, boards=boards, sheets=sheets,
        panels=panels, walls=walls, casts=casts, ordered=ordered, lifts=lifts,
        helps=what_helps(design, materials, colony),
        stack=stack_up(design, materials, workshop, walls), joined=joined,
        steps=steps_of(design, materials, rows, bulk, panels, walls, casts), standing=tuple(stands),
        bought=bought, used=used, priced=priced, problems=tuple(dict.fromkeys(problems)),
    )  # fmt: skip


def _soft_timber(pieces: Sequence[Piece], materials: Mapping[str, Material]) -> list[str]:
    """Return what is said of legs, posts and battens that are of no timber."""
    carries = {p.material for p in pieces if p.role in ("legs", "corner posts", "battens")}
    return [
        str(
            DomainError(
                "timber of the joints",
                materials[key].name,
                "carries nothing; choose a timber in the tab Joints",
            )
        )
        for key in sorted(carries)
        if materials[key].group not in ("wood", "wood board", "metal")
    ]


def listed(
    design: Design, materials: Mapping[str, Material]
) -> tuple[tuple[Row, ...], tuple[Bulk, ...]]:
    """Return the cut list and what is bought otherwise; no layout is made for it."""
    keys = (*design.material_ids, *spare_timber(design, materials))
    return _listed(design, frozenset((key, materials[key]) for key in keys))


@remembered(32)
def _listed(
    design: Design, table: frozenset[tuple[str, Material]]
) -> tuple[tuple[Row, ...], tuple[Bulk, ...]]:
    materials, hive = dict(table), build_solids(design)
    pieces = pieces_of(design, hive, materials)
    pieces = (*pieces, *added_pieces(design, hive, materials, pieces))
    return rows_of(pieces), bulk_of(design, hive, materials, pieces)


def _tried(work: Callable[[], tuple[T, ...]], problems: list[str]) -> tuple[T, ...]:
    """Return what some work gives; nothing, and a sentence more, where it is refused."""
    try:
        return work()
    except CalvethError as error:
        problems.append(str(error))
        return ()


def _layouts(
    design: Design,
    rows: Sequence[Row],
    materials: Mapping[str, Material],
    workshop: Workshop,
    problems: list[str],
) -> tuple[tuple[BoardLayout, ...], tuple[SheetLayout, ...], dict[int, Panel], tuple[int, ...]]:
    """Return what rows are cut from; rows nothing is large enough for are said."""
    groups: dict[tuple[SoldAs, str, float], list[Row]] = {}
    ordered = []
    for row in rows:
        piece = row.piece
        if piece.material == _ORDERED:
            ordered.append(row.number)
        elif piece.bought_as in ("board", "sheet"):
            thickness = piece.thickness_m
            if piece.bought_as == "board":
                try:
                    # Thinner pieces are planed from the same boards, and share them.
                    thickness, _ = board_thickness(piece, materials[piece.material], workshop)
                except DomainError as error:
                    problems.append(_named(materials[piece.material], error))
                    continue
            kind = (piece.bought_as, piece.material, round(thickness, 5))
            groups.setdefault(kind, []).append(row)
    boards: list[BoardLayout] = []
    sheets: list[SheetLayout] = []
    panels: dict[int, Panel] = {}
    for (way, key, thickness), group in groups.items():
        checkpoint()
        material = materials[key]
        try:
            if way == "board":
                made, glued = board_layouts(group, material, thickness, workshop)
                boards += made
                panels |= glued
            else:
                sheets.append(_sheets(design, group, material, thickness, workshop, problems))
        except DomainError as error:
            problems.append(_named(material, error))
    return tuple(boards), tuple(sheets), panels, tuple(ordered)


def _named(material: Material, error: DomainError) -> str:
    return str(error) if material.name in str(error) else f"{material.name}, {error}"


def _sheets(
    design: Design,
    rows: Sequence[Row],
    material: Material,
    thickness_m: float,
    workshop: Workshop,
    problems: list[str],
) -> SheetLayout:
    """Return the cheapest sheets rows can be cut from.

    Raises
    ------
    DomainError
        When no sheet of the thickness is in stock, or none is large enough for any row.
    """
    items = items_for(workshop, "sheet", material.id, material.group, thickness_m)
    if not items:
        raise DomainError(
            "stock", f"{1000 * thickness_m:.0f} mm",
            f"thick {material.name} is not in the stock list; add sheets of it",
        )  # fmt: skip
    turns = not (material.group == "wood board" and design.details.sheet_grain)
    soft = material.group in ("foam", "plant and wool")
    kerf = 0.0 if soft else workshop.kerf_m
    best: SheetLayout | None = None
    failed: DomainError | None = None
    # The largest last: a refusal names it.
    for item in sorted(items, key=lambda i: i.length_m * i.width_m):
        try:
            layout = _on_item(rows, material, thickness_m, item, kerf, workshop, turns=turns)
        except DomainError as error:
            failed = error
            continue
        if best is None or (layout.cost, len(layout.plan.sheets)) < (
            best.cost, len(best.plan.sheets),
        ):  # fmt: skip
            best = layout
    if best is not None:
        return best
    assert failed is not None
    largest = max(items, key=lambda i: i.length_m * i.width_m)
    some = [r for r in rows if _goes_on(r.piece, largest, workshop.trim_m, turns=turns)]
    if not some or len(some) == len(rows):
        raise failed
    problems.append(f"{material.name}, {failed}")
    return _on_item(some, material, thickness_m, largest, kerf, workshop, turns=turns)


def _goes_on(piece: Piece, item: StockItem, trim: float, *, turns: bool) -> bool:
    length, width = item.length_m - 2 * trim, item.width_m - 2 * trim
    straight = piece.length_m <= length and piece.width_m <= width
    return straight or (turns and piece.width_m <= length and piece.length_m <= width)


def _on_item(
    rows: Sequence[Row], material: Material, thickness_m: float, item: StockItem, kerf: float,
    workshop: Workshop, *, turns: bool,
) -> SheetLayout:  # fmt: skip
    blanks, numbers, joined = [], [], {}
    room = (item.length_m - 2 * workshop.trim_m, item.width_m - 2 * workshop.trim_m)
    for row in rows:
        across, along = _parts(row.piece, room) if kerf == 0 else (1, 1)
        if across * along > 1:
            joined[row.number] = across * along
        for _ in range(row.count * across * along):
            blanks.append(Blank(row.piece.length_m / along, row.piece.width_m / across, turns))
            numbers.append(row.number)
    plan = cut_sheets(blanks, (item.length_m, item.width_m), kerf, workshop.trim_m)
    volume = item.length_m * item.width_m * (item.thickness_m or thickness_m)
    price = item.price if item.price is not None else volume * material.price_eur_m3
    area = len(plan.sheets) * item.length_m * item.width_m
    used = sum(b.length_m * b.width_m for b in blanks)
    return SheetLayout(
        material=material.id, thickness_m=thickness_m, item=item, plan=plan, rows=tuple(numbers),
        cost=price * len(plan.sheets), priced=item.price is not None or material.price_eur_m3 > 0,
        waste=1 - used / area, joined=joined,
    )  # fmt: skip


def _parts(piece: Piece, room: tuple[float, float]) -> tuple[int, int]:
    """Return into how many equal parts a soft board is divided, across and along, to fit."""
    long, wide = max(room), min(room)
    one, two = max(piece.length_m, piece.width_m), min(piece.length_m, piece.width_m)
    if one <= long and two <= wide:
        return (1, 1)
    # Either way round: the fewer parts win.
    first = (ceil(one / long - 1e-9), ceil(two / wide - 1e-9))
    second = (ceil(one / wide - 1e-9), ceil(two / long - 1e-9))
    of_long, of_short = min(first, second, key=lambda p: (p[0] * p[1], p))
    return (of_short, of_long) if piece.length_m >= piece.width_m else (of_long, of_short)


def _block_cost(
    walls: Sequence[BlockWall], materials: Mapping[str, Material]
) -> tuple[float, bool]:
    total, known = 0.0, True
    for wall in walls:
        block = wall.block
        thick = materials[wall.material]
        volume = block.length_m * block.width_m * (block.thickness_m or BLOCK_LEAST_M)
        price = block.price if block.price is not None else volume * thick.price_eur_m3
        known &= price > 0
        total += price * wall.blocks
    return total, known


def _ordered_cost(
    rows: Sequence[Row], ordered: Sequence[int], materials: Mapping[str, Material]
) -> float:
    return sum(
        p.solid_m3 * materials[p.material].price_eur_m3
        for number in ordered
        for p in rows[number - 1].pieces
    )
