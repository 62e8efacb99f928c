"""Boards: panels glued from strips where boards are narrower, strips cut to length from boards."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from math import ceil, floor

from calveth.core import constants_building as cb
from calveth.core.build.bars import Bar, cut_bars
from calveth.core.build.piece import Piece, Row
from calveth.core.build.stock import StockItem, Workshop, boards_of
from calveth.core.errors import DomainError
from calveth.core.materials import Material


@dataclass(frozen=True, slots=True)
class Panel:
    """How a width is made of boards: ``strips`` of ``strip_m`` each from a board ``board_m`` wide.

    ``lanes`` strips lie side by side on one board. One strip is no panel: nothing is glued.
    ``planed_from_m`` is the thickness of the board; 0.0 where it is the thickness wanted. So many
    ``layers`` are glued flat on each other where no board is thick enough.
    """

    strips: int
    strip_m: float
    board_m: float
    lanes: int
    planed_from_m: float = 0.0
    layers: int = 1


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
    """One board with the lengths that are cut of it, from its end; ``left_m`` remains [m]."""

    item: StockItem
    lengths: tuple[Length, ...]
    left_m: float


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


def panel_of(
    width_m: float,
    widths_m: Iterable[float],
    kerf_m: float,
    costs: Mapping[float, float] | None = None,
) -> Panel:
    """Return how a width is best made from boards of some widths, for the least money.

    ``costs`` are what a metre of each width costs; without them board area is what is saved. A
    panel loses what jointing both edges takes of every board; strips are equal and no narrower
    than 40 mm.

    Raises
    ------
    DomainError
        When there are no boards.

    >>> panel_of(0.244, [0.145, 0.195], 0.003)
    Panel(strips=2, strip_m=0.122, board_m=0.145, lanes=1, planed_from_m=0.0, layers=1)
    """
    best: tuple[tuple[float, int, float], Panel] | None = None
    for board in sorted(set(widths_m)):
        if width_m <= board + 1e-9:
            lanes = max(1, floor((board + kerf_m) / (width_m + kerf_m) + 1e-9))
            panel = Panel(1, width_m, board, lanes)
            spent = costs[board] / lanes if costs else board / lanes
        else:
            usable = board - cb.JOINTING.value
            count = ceil(width_m / usable - 1e-9)
            if width_m / count < cb.LEAST_STRIP.value:
                continue
            panel = Panel(count, width_m / count, board, 1)
            # A joint more is only worth it where it saves some board.
            metre = costs[board] if costs else board
            spent = metre * count * (1 + cb.GLUE_COST.value * (count - 1))
        score = (round(spent, 6), panel.strips, board)
        if best is None or score < best[0]:
            best = (score, panel)
    if best is None:
        raise DomainError(
            "board", f"{1000 * width_m:.0f} mm", "wide cannot be made from the boards in stock; "
            "add wider ones",
        )  # fmt: skip
    return best[1]


def board_thickness(piece: Piece, material: Material, workshop: Workshop) -> tuple[float, int]:
    """Return the thickness of the boards a piece is made from [m], and how many lie on each other.

    The thinnest boards that are thick, long and wide enough; squares for posts are passed over
    where a piece is wider. Only where no board is thick enough are layers glued.

    Raises
    ------
    DomainError
        When no board is thick, long or wide enough; it names the size and the remedy.
    """
    stock = boards_of(workshop, material.id, material.group)
    failed: DomainError | None = None
    for layers in range(1, cb.MOST_LAYERS + 1):
        least = (piece.thickness_m - cb.SAME_THICKNESS.value) / layers - 1e-9
        for thickness in sorted({i.thickness_m for i in stock}):
            if 0 < thickness < least or (layers > 1 and thickness > cb.LAYER_WASTE.value * least):
                continue
            widths = [
                i.width_m for i in stock
                if i.thickness_m == thickness
                and i.length_m - 2 * workshop.trim_m >= piece.length_m - 1e-9
            ]  # fmt: skip
            if not widths:
                longest = max(i.length_m for i in stock)
                failed = failed or DomainError(
                    "piece", f"{1000 * piece.length_m:.0f} mm",
                    f"long does not come from boards of {1000 * longest:.0f} mm after trim; add "
                    "longer ones",
                )  # fmt: skip
                continue
            if max(widths) <= thickness < piece.width_m - cb.SAME_THICKNESS.value:
                continue  # squares
            try:
                panel_of(piece.width_m, widths, workshop.kerf_m)
            except DomainError as error:
                failed = error
                continue
            return thickness or piece.thickness_m, layers
        if failed is not None:
            raise failed
    raise DomainError(
        "stock", f"{1000 * piece.thickness_m:.0f} mm",
        f"thick {material.name} is not in the stock list; add boards of this thickness",
    )  # fmt: skip


def board_layouts(
    rows: Sequence[Row], material: Material, thickness_m: float, workshop: Workshop
) -> tuple[list[BoardLayout], dict[int, Panel]]:
    """Return the boards rows of one material are cut from, and how panels are made.

    All rows come from boards of one thickness, that `board_thickness` gives.

    Raises
    ------
    DomainError
        When no board is thick or long enough; it names the size and the remedy.
    """
    items = [
        i for i in boards_of(workshop, material.id, material.group)
        if not i.thickness_m or abs(i.thickness_m - thickness_m) < 1e-5
    ]  # fmt: skip
    panels = {row.number: _panel(row.piece, items, thickness_m, workshop) for row in rows}
    # Narrow pieces share the boards that are bought anyway.
    used = {panel.board_m for panel in panels.values() if panel.lanes == 1}
    used = used or {max(p.board_m for p in panels.values())}
    shared = [i for i in items if i.width_m in used]
    for row in rows:
        if panels[row.number].lanes > 1 and row.piece.width_m <= max(used) + 1e-9:
            long = max(i.length_m for i in shared if i.width_m >= row.piece.width_m - 1e-9)
            if long - 2 * workshop.trim_m >= row.piece.length_m:
                panels[row.number] = _panel(row.piece, shared, thickness_m, workshop)
    groups: dict[float, list[Length]] = {}
    for row in rows:
        panel = panels[row.number]
        strip = Strip(row.number, row.piece.length_m, panel.strip_m)
        if panel.lanes == 1:
            lengths = [Length((strip,))] * (row.count * panel.strips * panel.layers)
            groups.setdefault(panel.board_m, []).extend(lengths)
    for board, bundles in _bundled(rows, panels).items():
        groups.setdefault(board, []).extend(bundles)
    found = [
        _layout(lengths, width, items, material, thickness_m, workshop)
        for width, lengths in sorted(groups.items())
    ]
    return found, panels


def _panel(
    piece: Piece, items: Sequence[StockItem], thickness_m: float, workshop: Workshop
) -> Panel:
    """Return how a piece is made of boards of one thickness."""
    long = [i for i in items if i.length_m - 2 * workshop.trim_m >= piece.length_m - 1e-9]
    widths = {i.width_m for i in long}
    priced = [(i.width_m, i.price / i.length_m) for i in long if i.price]
    # Prices tell only where every size has one.
    costs = None
    if len(priced) == len(long):
        costs = {w: min(cost for width, cost in priced if width == w) for w in widths}
    panel = panel_of(piece.width_m, widths, workshop.kerf_m, costs)
    play = cb.SAME_THICKNESS.value + 1e-9
    layers = max(1, ceil((piece.thickness_m - play) / thickness_m))
    planed = layers * thickness_m - piece.thickness_m > play
    return replace(panel, planed_from_m=layers * thickness_m if planed else 0.0, layers=layers)


def _bundled(rows: Sequence[Row], panels: Mapping[int, Panel]) -> dict[float, list[Length]]:
    """Return narrow strips of one width side by side, as many as a board is wide."""
    narrow: dict[tuple[float, float, int], list[Strip]] = {}
    for row in rows:
        panel = panels[row.number]
        if panel.lanes > 1:
            key = (panel.board_m, panel.strip_m, panel.lanes)
            strip = Strip(row.number, row.piece.length_m, panel.strip_m)
            narrow.setdefault(key, []).extend([strip] * (row.count * panel.layers))
    found: dict[float, list[Length]] = {}
    for (board, _, lanes), strips in narrow.items():
        strips.sort(key=lambda s: (-s.length_m, s.row))
        found.setdefault(board, []).extend(
            Length(tuple(strips[at : at + lanes])) for at in range(0, len(strips), lanes)
        )
    return found


def _layout(
    lengths: list[Length],
    width: float,
    items: Sequence[StockItem],
    material: Material,
    thickness_m: float,
    workshop: Workshop,
) -> BoardLayout:
    fitting = sorted((i for i in items if abs(i.width_m - width) < 1e-9), key=lambda i: i.length_m)
    bought = fitting[0].thickness_m or thickness_m

    def price(item: StockItem) -> float:
        if item.price is not None:
            return item.price
        return item.length_m * item.width_m * bought * material.price_eur_m3

    priced = all(price(i) > 0 for i in fitting)
    # Without any price the length is what is saved.
    bars = [Bar(i.length_m, price(i) if priced else i.length_m) for i in fitting]
    plan = cut_bars([x.length_m for x in lengths], bars, workshop.kerf_m, workshop.trim_m)
    boards = tuple(
        Board(fitting[bar.stock], tuple(lengths[i] for i in bar.pieces), bar.left_m)
        for bar in plan.bars
    )
    area = sum(b.item.length_m * b.item.width_m for b in boards)
    used = sum(s.length_m * s.width_m for x in lengths for s in x.strips)
    return BoardLayout(
        material=material.id, thickness_m=bought, width_m=width,
        boards=boards, cost=sum(price(b.item) for b in boards), priced=priced, above=plan.above,
        waste=1 - used / area,
    )  # fmt: skip
