"""What openings and insets take out of a board: circles stay circles."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import pi

from calveth.core.hive.design import Design
from calveth.core.hive.forms import cavity_height_m, side_spans_m
from calveth.core.hive.opening import Opening
from calveth.core.remembered import remembered
from calveth.core.solids.openings_cut import along_m, in_wall
from calveth.core.solids.parts import Axis
from calveth.core.solids.shapes import Cuboid, SectionMap
from calveth.core.workshop.piece import Cutout
from calveth.core.workshop.planes import Plane, common

# Any size does: only where it is in the wall is asked.
_POINT_M = 0.01

_TOUCH_M = 1e-6


@dataclass(frozen=True, slots=True)
class Way:
    """An opening or window through a face: the block of each hole, round or not.

    ``opening`` is its id, empty for a window.
    """

    name: str
    round: bool
    shape: Cuboid
    opening: str = ""


@remembered(64)
def ways_of(design: Design) -> tuple[Way, ...]:
    """Return every hole through the shell as it is sawn or drilled, and the window."""
    if not design.form.of_boards:
        return ()
    ways = []
    for opening in design.openings:
        if opening.shape == "lid gap":
            continue  # the lid is lifted, nothing is sawn
        for at in hole_centres_m(opening, design):
            shape = _block(design, opening, at)
            ways.append(Way(opening.name, opening.round, shape, opening.id))
    window = design.window
    if window is not None:
        pane = next_pane(design)
        ways.append(Way("window", False, pane))
    return tuple(ways)


def next_pane(design: Design) -> Cuboid:
    """Return the block a window takes out of its whole wall."""
    window = design.window
    assert window is not None
    middle = along_m(
        design.form,
        Opening(
            id="w",
            name="w",
            shape="slot",
            side=window.side,
            bottom_m=0.0,
            width_m=_POINT_M,
            height_m=_POINT_M,
        ),
    )
    spans = side_spans_m(design.form)
    span = spans[1] if window.side in ("left", "right") else spans[0]
    return in_wall(
        design,
        window.side,
        window.width_m,
        (window.bottom_m, window.bottom_m + window.height_m),
        (0.0, design.shell.thickness_m("walls")),
        middle / span,
    )


def hole_centres_m(opening: Opening, design: Design) -> list[float]:
    """Return where the middles of an opening's holes are along the wall [m].

    Holes of a row stand two diameters apart, closer where the wall is too short.
    """
    middle = along_m(design.form, opening)
    if opening.count == 1:
        return [middle]
    spans = side_spans_m(design.form)
    span = spans[1] if opening.side in ("left", "right") else spans[0]
    # To the nearer end of the wall, so that the row stays in it.
    room = 2 * (min(middle, span - middle) - opening.width_m / 2)
    step = min(2 * opening.width_m, room / (opening.count - 1))
    first = middle - step * (opening.count - 1) / 2
    return [first + k * step for k in range(opening.count)]


def _block(design: Design, opening: Opening, at: float) -> Cuboid:
    spans, height = side_spans_m(design.form), cavity_height_m(design.form)
    wide, high = opening.width_m, opening.height_m
    if opening.level:
        face = "lid" if opening.side == "lid" else "floor"
        thick = design.shell.thickness_m(face)  # type: ignore[arg-type]
        z0, z1 = (height, height + thick) if face == "lid" else (-thick, 0.0)
        y = spans[1] / 2
        return Cuboid(
            x0=at - wide / 2, x1=at + wide / 2, y0=y - high / 2, y1=y + high / 2, z0=z0, z1=z1
        )
    span = spans[1] if opening.side in ("left", "right") else spans[0]
    return in_wall(
        design,
        opening.side,
        wide,
        (opening.bottom_m, opening.bottom_m + high),
        (0.0, design.shell.thickness_m("walls")),
        at / span,
    )


def cutouts_of(
    ways: Sequence[Way],
    board: Cuboid,
    plane: Plane,
    recesses: Sequence[Cuboid],
    bend: SectionMap | None,
    *,
    drilled: str | None,
    through: bool,
    blocks: Sequence[Cuboid] = (),
) -> tuple[tuple[Cutout, ...], float]:
    """Return the cutouts of a board and the volume openings take out of it [m³].

    ``drilled`` is the opening a block is drilled for; ``through`` says that all ways go through;
    what goes through one of the ``blocks`` set into the board is no hole of the board.
    """
    cutouts: list[Cutout] = []
    volume = 0.0
    for way in ways:
        if not through and way.name != drilled:
            continue
        shared = common(board, way.shape)
        if shared is None:
            continue
        # What opens inside a recess is cut with it: no second hole is drawn, but its room is gone.
        inside = any(_holds(r, shared) for r in recesses)
        if not inside:
            cutouts.append(
                _cutout(
                    way.name,
                    way.shape if way.round else shared,
                    board,
                    plane,
                    bend,
                    round_=way.round,
                )
            )
        if any(_holds(b, shared) for b in blocks):
            continue
        area = plane.size(shared, plane.u) * plane.size(shared, plane.v)
        volume += area * (pi / 4 if way.round else 1.0) * plane.size(shared, plane.w)
    for recess in recesses:
        deep = plane.size(recess, plane.w)
        whole_sum = deep >= plane.size(board, plane.w) - _TOUCH_M
        cutouts.append(
            _cutout("set in", recess, board, plane, bend, deep_m=None if whole_sum else deep)
        )
    return tuple(cutouts), volume


def _holds(outer: Cuboid, inner: Cuboid) -> bool:
    return all(
        getattr(outer, f"{k}0") <= getattr(inner, f"{k}0") + _TOUCH_M
        and getattr(outer, f"{k}1") >= getattr(inner, f"{k}1") - _TOUCH_M
        for k in "xyz"
    )


def _cutout(
    what: str,
    shape: Cuboid,
    board: Cuboid,
    plane: Plane,
    bend: SectionMap | None,
    *,
    round_: bool = False,
    deep_m: float | None = None,
) -> Cutout:
    """Return a cutout with its middle from the lower left corner of the board."""

    def along(axis: Axis) -> tuple[float, float]:
        low, high = plane.low(shape, axis), plane.high(shape, axis)
        return (low + high) / 2 - plane.low(board, axis), high - low

    (u, wide), (v, high) = along(plane.u), along(plane.v)
    if bend is not None and plane.w == "x":
        # Ends of a bent hive are measured from the corner of what they are sawn from.
        y, z = bend.place((shape.y0 + shape.y1) / 2, (shape.z0 + shape.z1) / 2)
        low = bend.outline_m(board.y0, board.y1, board.z0, board.z1).min(axis=0)
        at = {"y": float(y - low[0]), "z": float(z - low[1])}
        u, v = at[plane.u], at[plane.v]
    elif bend is not None and plane.w == "y" and plane.v == "z":
        y0 = min(board.y0, board.y1, key=lambda y: abs(y - bend.middle_m))
        v = bend.length_m((y0, board.z0), (y0, (shape.z0 + shape.z1) / 2))
    return Cutout(what=what, round=round_, u_m=u, v_m=v, wide_m=wide, high_m=high, deep_m=deep_m)
