"""What a hive is made of: pieces, what is cut out of them, holes and rooms."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from calveth.core.hive.design import Face
from calveth.core.hive.opening import WallSide
from calveth.core.materials import Layer
from calveth.core.solids.shapes import Cuboid, Ring, SectionMap, Shape

BOARD_M = 0.003
"""A layer of this thickness or more can be a board; thinner ones are films [m]."""


PartRole = Literal[
    "box",
    "trough",
    "trunk",
    "eke",
    "lid",
    "floor",
    "cover",
    "cover lid",
    "quilt",
    "window",
    "window frame",
    "entrance block",
    "divider plate",
    "nest bars",
    "slatted rack",
    "corner posts",
    "battens",
    "quilt sides",
    "legs",
    "follower board",
    "divider",
]
"""What a piece is for; what asks about pieces asks for this, never for what they are called."""
Axis = Literal["x", "y", "z"]


@dataclass(frozen=True, slots=True, kw_only=True)
class PartId:
    """The part a person lifts: what it is for, which of several it is, and of which opening."""

    role: PartRole
    number: int = 0
    opening: str = ""

    @property
    def label(self) -> str:
        """What it is called: ``box 1``, ``plate over box 2``, ``entrance block: low slot``."""
        if self.role == "divider plate":
            return f"plate over box {self.number}"
        if self.role == "legs":
            return "stand"
        if self.opening:
            return f"{self.role}: {self.opening}"
        return f"{self.role} {self.number}" if self.number else self.role


@dataclass(frozen=True, slots=True, kw_only=True)
class Solid:
    """One piece of one material.

    Attributes
    ----------
    id : PartId
        What it is part of.
    home : PartId or None
        What a person lifts it with, where that is another: posts go with their box.
    face, layer : Face or None, int or None
        Where a piece of the shell belongs, layer 0 outermost; panes and fittings have neither.
    side : WallSide or None
        The wall it stands in.
    second, second_share : str, float
        A material that runs through it, with a share of the area.
    """

    id: PartId
    material: str
    shape: Shape
    face: Face | None = None
    layer: int | None = None
    side: WallSide | None = None
    second: str = ""
    second_share: float = 0.0
    home: PartId | None = None

    @property
    def lifted_with(self) -> PartId:
        """The part a person lifts it with."""
        return self.home or self.id

    @property
    def role(self) -> PartRole:
        """What it is for."""
        return self.id.role

    @property
    def part(self) -> str:
        """What the part is called, derived from its id."""
        return self.id.label

    @property
    def grain(self) -> Axis:
        """The axis the fibres of a board run along: its longest level side, upright in a trunk.

        Posts, battens and legs have it along their longest side. Only material with a grain
        (`Material.has_grain`) conducts better along it.
        """
        shape = self.shape
        if isinstance(shape, Ring):
            return "z"
        sides: dict[Axis, float] = {"x": shape.x1 - shape.x0, "y": shape.y1 - shape.y0}
        if self.face is None:
            sides["z"] = shape.z1 - shape.z0
        return max(sides, key=lambda axis: sides[axis])


@dataclass(frozen=True, slots=True, kw_only=True)
class Cut:
    """What an opening takes out of one layer: a straight prism through it.

    ``part`` is what a person lifts the layer with, as `Solid.lifted_with`.
    """

    part: PartId
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
    bend : SectionMap or None
        What makes the hive of the box its shapes describe.
    inset : tuple of Solid
        Pieces that stand in layers of the shell, in place of them, or in the room: posts, frames
        of windows, entrance blocks, battens, divider plates, the follower board, legs.
    neighbours : tuple of Cuboid
        Frames of a second colony behind the divider.
    """

    solids: tuple[Solid, ...]
    cuts: tuple[Cut, ...]
    cavity: Shape
    frames: tuple[Cuboid, ...]
    shell: Cuboid
    beyond: tuple[Cuboid, ...] = ()
    bend: SectionMap | None = None
    inset: tuple[Solid, ...] = ()
    holes: tuple[Hole, ...] = ()
    neighbours: tuple[Cuboid, ...] = ()

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


def inset_timber(design_walls: Sequence[Layer], timber: str) -> str:
    """Return the material of posts, blocks and battens: as wanted, or that of the inner board."""
    if timber:
        return timber
    boards = [layer for layer in design_walls if layer.thickness_m >= BOARD_M]
    return (boards or list(design_walls))[-1].material
