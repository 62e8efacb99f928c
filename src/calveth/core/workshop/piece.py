"""A piece to be cut, and the list of them with equal ones counted."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Literal

from calveth.core.hive.design import Face
from calveth.core.hive.opening import WallSide
from calveth.core.materials import SoldAs
from calveth.core.message import Message
from calveth.core.solids.parts import PartId
from calveth.core.solids.shapes import Cuboid, Shape

Place = Literal["whole", "outer", "middle", "inner", "fitting"]
Point = tuple[float, float]
SAME_M = 1e-6
"""Pieces whose sizes differ by less are one kind [m]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Cutout:
    """What is sawn or drilled out of a piece.

    ``u_m`` and ``v_m`` are its middle from the lower left corner of the piece along length and
    width; ``deep_m`` is None where it goes right through. ``what`` names an opening, or what is
    set in: a window, an entrance block.
    """

    what: str
    round: bool
    u_m: float
    v_m: float
    wide_m: float
    high_m: float
    deep_m: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Piece:
    """One piece of one material.

    Attributes
    ----------
    part : PartId
        The part a person lifts it with.
    role : str
        What it is for, where that is not the part itself: ``corner posts``, ``legs``.
    face, side, place : Face or None, WallSide or None, Place
        Where it sits; ``whole`` is a face of one board.
    bought_as : SoldAs
        ``board``, ``sheet``, ``block``, ``cast``.
    length_m, width_m, thickness_m : float
        Finished sizes, joints counted in; the length is along the grain [m].
    net_length_m, net_width_m : float
        The same without what joints add: those of the solid [m].
    outline : tuple of (u, v)
        Corners of a piece that is no rectangle, from its lower left corner [m]; empty for one.
    cutouts : tuple of Cutout
        Holes and recesses.
    work : tuple of Message
        Edge work and joints.
    net_m3, inset_m3, hole_m3 : float
        Volume of its solid, what is set into it and what openings take out [m³].
    shape : Shape
        Where it is in the hive.
    added : bool
        A piece the solids do not have: strips frames hang on, cleats.
    cautions : tuple of str
        Of its material.
    """

    part: PartId
    role: str
    face: Face | None
    side: WallSide | None
    place: Place
    material: str
    bought_as: SoldAs
    length_m: float
    width_m: float
    thickness_m: float
    net_length_m: float
    net_width_m: float
    outline: tuple[Point, ...] = ()
    cutouts: tuple[Cutout, ...] = ()
    work: tuple[Message, ...] = ()
    net_m3: float
    inset_m3: float = 0.0
    hole_m3: float = 0.0
    shape: Shape
    added: bool = False
    cautions: tuple[str, ...] = ()
    has_grain: bool = False

    @property
    def kind(self) -> tuple[object, ...]:
        """What two pieces have in common to be one row; boxes that are swapped are one."""
        number = 0 if self.part.role == "box" else self.part.number
        sizes = (self.length_m, self.width_m, self.thickness_m)
        mirrored = "ends" if self.side in ("left", "right") else self.side
        where = mirrored if self.cutouts else _pair(self.side) if self.face is not None else ""
        return (
            self.part.role,
            number,
            self.role,
            self.face,
            self.place,
            self.material,
            tuple(round(s / SAME_M) for s in sizes),
            _rounded(self.outline),
            tuple(_cutout_kind(c) for c in self.cutouts),
            self.work,
            where,
            self.added,
        )

    @property
    def solid_m3(self) -> float:
        """Volume without what is set into it [m³]."""
        return self.net_m3 - self.inset_m3

    @property
    def left_m3(self) -> float:
        """Volume that is left when holes are cut [m³]."""
        return self.solid_m3 - self.hole_m3


def _pair(side: WallSide | None) -> str:
    """Return the pair of walls a side is one of: front and back have the same boards."""
    return {"front": "long", "back": "long", "left": "ends", "right": "ends"}.get(side or "", "")


def _rounded(points: tuple[Point, ...]) -> tuple[Point, ...]:
    return tuple((round(u / SAME_M), round(v / SAME_M)) for u, v in points)


def _cutout_kind(cutout: Cutout) -> tuple[object, ...]:
    sizes = (cutout.u_m, cutout.v_m, cutout.wide_m, cutout.high_m, cutout.deep_m or 0.0)
    return (cutout.what, cutout.round, *(round(s / SAME_M) for s in sizes))


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """Equal pieces as one line of the list: ``number`` from 1, as marked on the drawings."""

    number: int
    pieces: tuple[Piece, ...]

    @property
    def piece(self) -> Piece:
        """The first of them."""
        return self.pieces[0]

    @property
    def count(self) -> int:
        """How many are cut."""
        return len(self.pieces)

    @property
    def parts(self) -> tuple[PartId, ...]:
        """The parts they belong to, each once."""
        return tuple(dict.fromkeys(p.part for p in self.pieces))

    @property
    def sides(self) -> tuple[WallSide, ...]:
        """The walls they stand in, each once."""
        return tuple(dict.fromkeys(p.side for p in self.pieces if p.side is not None))


def rows_of(pieces: Iterable[Piece]) -> tuple[Row, ...]:
    """Return pieces with equal ones counted, in the order they are met."""
    rows: dict[tuple[object, ...], list[Piece]] = {}
    for piece in pieces:
        rows.setdefault(piece.kind, []).append(piece)
    return tuple(
        Row(number=number, pieces=tuple(group))
        for number, group in enumerate(rows.values(), start=1)
    )


Amount = Literal["litres", "area", "count", "length", "mass"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Bulk:
    """What is bought by litre, area, length or count and not cut to a size.

    ``amount`` is in litres, m², m, kg or pieces as ``unit`` says; ``material`` is empty for
    fixings. ``said`` names it where it has no material.
    """

    what: str
    material: str = ""
    part: PartId | None = None
    amount: float
    unit: Amount
    price: float = 0.0
    message: Message | None = None
    shapes: tuple[Shape, ...] = field(default=(), compare=False)


def bounding(boxes: Iterable[Cuboid]) -> Cuboid:
    """Return the block round blocks [m]."""
    cuboids = list(boxes)
    return Cuboid(
        x0=min(b.x0 for b in cuboids),
        x1=max(b.x1 for b in cuboids),
        y0=min(b.y0 for b in cuboids),
        y1=max(b.y1 for b in cuboids),
        z0=min(b.z0 for b in cuboids),
        z1=max(b.z1 for b in cuboids),
    )
