"""What a hive is made of: pieces, what is cut out of them, holes and rooms."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from calveth.core.hive.design import Face
from calveth.core.hive.shapes import Bend, Cuboid, Shape
from calveth.core.materials import Layer

BOARD_M = 0.003
"""A layer of this thickness or more can be a board; thinner ones are films [m]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Solid:
    """One piece of one material.

    ``face`` and ``layer`` (0 is the outermost) say where a shell piece belongs; panes and fittings
    have neither. ``second`` is a material that runs through it with ``second_share`` of the area.
    ``part`` is the piece a person lifts: ``box 1``, ``lid``, ``floor``...
    """

    part: str
    material: str
    shape: Shape
    face: Face | None = None
    layer: int | None = None
    second: str = ""
    second_share: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Cut:
    """What an opening takes out of one layer: a straight prism through it."""

    part: str
    material: str
    opening: str
    area_m2: float
    length_m: float

    @property
    def volume_m3(self) -> float:
        """Volume removed [m³]."""
        return self.area_m2 * self.length_m


@dataclass(frozen=True, slots=True, kw_only=True)
class Hole:
    """The way of an opening through the shell; a round one is a square of its area."""

    opening: str
    shape: Cuboid


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class HiveSolids:
    """Everything the hive is made of, and the rooms inside; one for each design (`build_solids`).

    Attributes
    ----------
    cavity : Shape
        The room the colony has.
    shell : Cuboid
        The room inside the shell: the same, or more with a follower board in it.
    beyond : tuple of Cuboid
        What is behind each follower board or divider.
    bend : Bend or None
        What makes the hive of the box its shapes describe.
    inset : tuple of Solid
        Pieces that stand in layers of the shell, in place of them, or in the room: posts, frames
        of windows, entrance blocks, battens, divider plates, the follower board, legs.
    """

    solids: tuple[Solid, ...]
    cuts: tuple[Cut, ...]
    cavity: Shape
    frames: tuple[Cuboid, ...]
    shell: Cuboid
    beyond: tuple[Cuboid, ...] = ()
    bend: Bend | None = None
    inset: tuple[Solid, ...] = ()
    holes: tuple[Hole, ...] = ()

    @property
    def pieces(self) -> tuple[Solid, ...]:
        """All pieces."""
        return (*self.solids, *self.inset)


def inner_part(stack: Sequence[Layer]) -> tuple[int, float]:
    """Return how many layers, from the inside, are the inner board, and their thickness [m].

    The films on the board count to it; a face of one board has no inner part.
    """
    count = 0
    for layer in reversed(stack):
        count += 1
        if layer.thickness_m >= BOARD_M:
            break
    rest = stack[: len(stack) - count]
    if not any(layer.thickness_m >= BOARD_M for layer in rest):
        return 0, 0.0
    return count, sum(layer.thickness_m for layer in stack[len(stack) - count :])


def inset_timber(design_walls: Sequence[Layer], wanted: str) -> str:
    """Return the material of posts, blocks and battens: as wanted, or that of the inner board."""
    if wanted:
        return wanted
    boards = [layer for layer in design_walls if layer.thickness_m >= BOARD_M]
    return (boards or list(design_walls))[-1].material
