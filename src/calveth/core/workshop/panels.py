"""How a width is made of boards: one board, or strips glued to a panel, or layers on each other."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from math import ceil, floor

from calveth.core import constants_building as cb
from calveth.core.errors import DomainError
from calveth.core.materials import Material
from calveth.core.workshop.piece import Piece
from calveth.core.workshop.stock import StockItem, Workshop, boards_of


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
            "board",
            f"{1000 * width_m:.0f} mm",
            "wide cannot be made from the boards in stock; add wider ones",
        )
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
                i.width_m
                for i in stock
                if i.thickness_m == thickness
                and i.length_m - 2 * workshop.trim_m >= piece.length_m - 1e-9
            ]
            if not widths:
                longest = max(i.length_m for i in stock)
                failed = failed or DomainError(
                    "piece",
                    f"{1000 * piece.length_m:.0f} mm",
                    f"long does not come from boards of {1000 * longest:.0f} mm after trim; add "
                    "longer ones",
                )
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
        "stock",
        f"{1000 * piece.thickness_m:.0f} mm",
        f"thick {material.name} is not in the stock list; add boards of this thickness",
    )


def panel_for(
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
