"""The whole plan of a build, from one design: pieces, layouts, blocks, casts, weights, cost."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import partial
from typing import TypeVar

from calveth.core.checkpoint import checkpoint
from calveth.core.climate.place import Place
from calveth.core.colony.colony import Colony
from calveth.core.errors import CalvethError, DomainError
from calveth.core.hive.design import Design
from calveth.core.hive.joinery import BLOCK_LEAST_M
from calveth.core.materials import Material, SoldAs
from calveth.core.message import Message
from calveth.core.remembered import remembered
from calveth.core.solids.build import build_solids
from calveth.core.solids.parts import HiveSolids
from calveth.core.workshop.added import added_pieces, spare_timber
from calveth.core.workshop.block_walls import BlockWall, block_walls
from calveth.core.workshop.boards import BoardLayout, board_layouts
from calveth.core.workshop.bulk import bulk_of
from calveth.core.workshop.casting import CastPart, cast_parts
from calveth.core.workshop.lifting import LiftVerdict, judge, what_helps
from calveth.core.workshop.panels import Panel, board_thickness
from calveth.core.workshop.piece import Bulk, Piece, Row, rows_of
from calveth.core.workshop.pieces import pieces_of
from calveth.core.workshop.sheet_layouts import SheetLayout, sheet_layouts
from calveth.core.workshop.stack import StackUp, stack_up
from calveth.core.workshop.standing import Standing, standing
from calveth.core.workshop.steps import Step, steps_of
from calveth.core.workshop.stock import StockItem, Workshop, at_hand, less, to_buy
from calveth.core.workshop.weights import STATES, lifts_of

_ORDERED = "glass"
T = TypeVar("T")


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
    if design.form.of_boards:
        for state in STATES:
            ask = partial(standing, design, hive, materials, colony, place, state)
            stands += _tried(lambda ask=ask: (ask(),), problems)  # type: ignore[misc]
    block_prices = _block_cost(walls, materials)
    bought = sum(x.cost for x in boards) + sum(x.cost for x in sheets)
    bought += sum(b.price for b in bulk) + block_prices[0] + _ordered_cost(rows, ordered, materials)
    bought += sum(c.mixed_l * c.count / 1000 * materials[c.material].price_eur_m3 for c in casts)
    own = _own_shares(boards, sheets, walls)
    # What it is worth, not what is paid: boards at hand are free, and rests are not in it.
    used = sum(
        p.solid_m3 * materials[p.material].price_eur_m3 * (1 - own.get(_share_key(row), 0.0))
        for row in rows
        for p in row.pieces
    )
    used += sum(b.price for b in bulk)
    problems += _soft_timber(pieces, materials)
    priced = all(x.priced for x in boards) and all(x.priced for x in sheets) and block_prices[1]
    return BuildPlan(
        design=design,
        hive=hive,
        rows=rows,
        bulk=bulk,
        boards=boards,
        sheets=sheets,
        panels=panels,
        walls=walls,
        casts=casts,
        ordered=ordered,
        lifts=lifts,
        helps=what_helps(design, materials, colony),
        stack=stack_up(design, materials, workshop, walls),
        joined=joined,
        steps=steps_of(design, materials, rows, bulk, panels, walls, casts),
        standing=tuple(stands),
        bought=bought,
        used=used,
        priced=priced,
        problems=tuple(dict.fromkeys(problems)),
    )


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
            material = materials[piece.material]
            try:
                kind = (piece.bought_as, piece.material, _stock_thickness(row, material, workshop))
            except DomainError as error:
                problems.append(_named(material, error))
                continue
            groups.setdefault(kind, []).append(row)
    boards: list[BoardLayout] = []
    sheets: list[SheetLayout] = []
    panels: dict[int, Panel] = {}
    left = at_hand(workshop)
    for (way, key, thickness), group in groups.items():
        checkpoint()
        material = materials[key]
        try:
            if way == "board":
                made, glued = _boards(group, material, thickness, workshop, left)
                boards += made
                panels |= glued
                left = less(left, [b.item for layout in made for b in layout.boards if b.own])
            else:
                grain = material.group == "wood board" and design.details.sheet_grain
                laid, problem = sheet_layouts(
                    group, material, thickness, workshop, left, grain=grain
                )
                sheets += laid
                problems += [f"{material.name}, {problem}"] if problem else []
                own = [x for x in laid if x.own]
                left = less(left, [x.item for x in own for _ in x.plan.sheets])
        except DomainError as error:
            problems.append(_named(material, error))
    return tuple(boards), tuple(sheets), panels, tuple(ordered)


def _stock_thickness(row: Row, material: Material, workshop: Workshop) -> float:
    """Return the thickness a row's stock has [m]; thinner pieces are planed from shared boards."""
    if row.piece.bought_as == "sheet":
        return round(row.piece.thickness_m, 5)
    return round(board_thickness(row.piece, material, workshop)[0], 5)


def _boards(
    rows: Sequence[Row],
    material: Material,
    thickness_m: float,
    workshop: Workshop,
    left: Mapping[StockItem, int],
) -> tuple[list[BoardLayout], dict[int, Panel]]:
    """Return the boards of rows; where those one has do not reach, boards that can be bought."""
    try:
        return board_layouts(rows, material, thickness_m, workshop, left)
    except DomainError:
        shop = to_buy(workshop)
        if len(shop.items) == len(workshop.items):
            raise
        boards: list[BoardLayout] = []
        panels: dict[int, Panel] = {}
        groups: dict[float, list[Row]] = {}
        try:
            for row in rows:
                groups.setdefault(_stock_thickness(row, material, shop), []).append(row)
        except DomainError:
            groups = {}
        if not groups:
            raise
        for thickness, group in groups.items():
            made, glued = board_layouts(group, material, thickness, shop)
            boards += made
            panels |= glued
        return boards, panels


def _named(material: Material, error: DomainError) -> str:
    return str(error) if material.name in str(error) else f"{material.name}, {error}"


def _share_key(row: Row) -> int | str:
    """Return what shares of one's own stock are counted by: a row, blocks by their material."""
    return row.piece.material if row.piece.bought_as == "block" else row.number


def _own_shares(
    boards: Sequence[BoardLayout], sheets: Sequence[SheetLayout], walls: Sequence[BlockWall]
) -> dict[int | str, float]:
    """Return which share of what is cut comes out of one's own stock."""
    cut: Counter[int | str] = Counter()
    own: Counter[int | str] = Counter()
    for layout in boards:
        for board in layout.boards:
            numbers = [s.row for x in board.lengths for s in x.strips]
            cut.update(numbers)
            own.update(numbers if board.own else ())
    for sheet in sheets:
        cut.update(sheet.rows)
        own.update(sheet.rows if sheet.own else ())
    for wall in walls:
        cut[wall.material] += wall.blocks
        own[wall.material] += wall.own
    return {key: own[key] / count for key, count in cut.items() if own[key]}


def _block_cost(
    walls: Sequence[BlockWall], materials: Mapping[str, Material]
) -> tuple[float, bool]:
    total, known = 0.0, True
    for wall in walls:
        block = wall.block
        thick = materials[wall.material]
        volume = block.length_m * block.width_m * (block.thickness_m or BLOCK_LEAST_M)
        price = block.price if block.price is not None else volume * thick.price_eur_m3
        known &= price > 0 or wall.own == wall.blocks
        total += price * (wall.blocks - wall.own)
    return total, known


def _ordered_cost(
    rows: Sequence[Row], ordered: Sequence[int], materials: Mapping[str, Material]
) -> float:
    return sum(
        p.solid_m3 * materials[p.material].price_eur_m3
        for number in ordered
        for p in rows[number - 1].pieces
    )
