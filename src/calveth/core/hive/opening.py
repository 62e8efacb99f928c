"""Openings: what is sawn or drilled, what covers it, and the simple shapes air sees."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi, sqrt
from typing import Literal, get_args

from calveth.core.errors import DomainError, require_between, require_choice, require_text

# A screen that fills the floor is as large as it, but for rounding.
_ALL_OF_IT = 1.001

Side = Literal["front", "right", "back", "left", "lid", "floor"]
WallSide = Literal["front", "right", "back", "left"]
WALL_SIDES: tuple[WallSide, ...] = get_args(WallSide)
OpeningShape = Literal["slot", "hole", "row of holes", "lid gap", "screen"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Opening:
    """One hole, slot, row of holes, gap under the lid or screen.

    Attributes
    ----------
    shape : str
        ``slot``; ``hole``; ``row of holes``; ``lid gap``, which runs under the lid along three
        walls, all but ``side``; ``screen``, a mesh in the floor (or the lid).
    side : str
        Wall, or ``lid`` or ``floor`` for a level opening.
    bottom_m : float
        Height of its lower edge above the floor [m]; not used for level openings and lid gaps.
    width_m, height_m : float
        Of a slot, screen or gap [m]; a hole has both equal to its diameter.
    count : int
        Holes in a row.
    free_share : float
        What the slider leaves open, 0 (shut) to 1 [-].
    mesh_share : float
        Free share of a mesh over it, 1 without [-].
    propolis_share : float
        Share the bees have closed [-].
    tunnel_m : float or None
        Length of the way through; None is the thickness of the wall [m].
    along_m : float or None
        Where its middle is along the wall, from the inner left (front, back, lid, floor) or the
        inner front (left, right) [m]; None is the middle of the colony's room.
    lift_m : float
        How far bees climb in a shaft before they are in the room [m].
    """

    id: str
    name: str
    shape: OpeningShape
    side: Side = "front"
    bottom_m: float
    width_m: float
    height_m: float
    count: int = 1
    free_share: float = 1.0
    mesh_share: float = 1.0
    propolis_share: float = 0.0
    tunnel_m: float | None = None
    lift_m: float = 0.0
    along_m: float | None = None

    def __post_init__(self) -> None:
        require_text("opening id", self.id)
        require_text("opening name", self.name)
        where = f"opening “{self.name}”"
        require_choice(f"{where} shape", self.shape, get_args(OpeningShape))
        require_choice(f"{where} side", self.side, get_args(Side))
        require_between(f"{where} height above floor", self.bottom_m, 0, 4, "m")
        require_between(f"{where} width", self.width_m, 0.001, 4, "m")
        require_between(f"{where} height", self.height_m, 0.001, 4, "m")
        require_between(f"{where} number of holes", self.count, 1, 100)
        require_between(f"{where} open share", self.free_share, 0, 1, "share")
        require_between(f"{where} free share of the mesh", self.mesh_share, 0.05, 1, "share")
        require_between(f"{where} propolis share", self.propolis_share, 0, 1, "share")
        require_between(f"{where} lift", self.lift_m, 0, 2, "m")
        if self.tunnel_m is not None:
            require_between(f"{where} tunnel", self.tunnel_m, 0.0005, 2, "m")
        if self.along_m is not None:
            require_between(f"{where} place along the wall", self.along_m, 0, 4, "m")
        if self.count != int(self.count):
            raise DomainError(f"{where} number of holes", self.count, "must be a whole number")
        if self.count > 1 and self.shape != "row of holes":
            raise DomainError(
                f"{where} number of holes", self.count, "needs the shape row of holes"
            )
        if self.round and abs(self.width_m - self.height_m) > 1e-9:
            raise DomainError(
                f"{where} height", self.height_m, "differs from the width; a hole is round"
            )
        if self.shape == "lid gap" and self.side in ("lid", "floor"):
            raise DomainError(f"{where} side", self.side, "is no wall; name the closed wall")
        if self.shape == "screen" and self.side not in ("lid", "floor"):
            raise DomainError(f"{where} side", self.side, "is a wall; a screen lies in the floor")

    @property
    def round(self) -> bool:
        """Whether it is drilled."""
        return self.shape in ("hole", "row of holes")

    @property
    def level(self) -> bool:
        """Whether it lies flat, in lid or floor."""
        return self.shape != "lid gap" and self.side in ("lid", "floor")

    @property
    def open_share(self) -> float:
        """Share of the sawn area air can use [-]."""
        return self.free_share * self.mesh_share * (1.0 - self.propolis_share)

    @property
    def hydraulic_diameter_m(self) -> float:
        """Diameter of a hole, 2·w·h/(w + h) of a slot [m]."""
        if self.round:
            return self.width_m
        return 2 * self.width_m * self.height_m / (self.width_m + self.height_m)


@dataclass(frozen=True, slots=True, kw_only=True)
class OpeningPart:
    """A part of an opening on one side: ``bottom_m`` above the floor, free ``area_m2``."""

    opening: Opening
    side: Side
    bottom_m: float
    width_m: float

    @property
    def gross_area_m2(self) -> float:
        """Area as sawn or drilled [m²]."""
        if self.opening.round:
            return self.opening.count * pi / 4 * self.opening.width_m**2
        return self.width_m * self.opening.height_m

    @property
    def area_m2(self) -> float:
        """Free area left by mesh, slider and propolis [m²]."""
        return self.gross_area_m2 * self.opening.open_share


def opening_parts(
    opening: Opening, spans_m: tuple[float, float], height_m: float
) -> tuple[OpeningPart, ...]:
    """Return the parts of an opening in a room of inner width, length and height [m]."""
    if opening.shape == "lid gap":
        bottom = max(0.0, height_m - opening.height_m)
        return tuple(
            OpeningPart(
                opening=opening,
                side=side,
                bottom_m=bottom,
                width_m=min(opening.width_m, wall_span_m(side, spans_m)),
            )
            for side in WALL_SIDES
            if side != opening.side
        )
    bottom = opening.bottom_m
    if opening.level:
        bottom = height_m if opening.side == "lid" else 0.0
    return (
        OpeningPart(
            opening=opening,
            side=opening.side,
            bottom_m=bottom,
            width_m=opening.width_m * opening.count,
        ),
    )


def opening_area_m2(
    opening: Opening, spans_m: tuple[float, float], height_m: float, *, gross: bool = False
) -> float:
    """Return the free area of an opening, or with ``gross`` the sawn one [m²]."""
    parts = opening_parts(opening, spans_m, height_m)
    return sum(part.gross_area_m2 if gross else part.area_m2 for part in parts)


def wall_span_m(side: Side, spans_m: tuple[float, float]) -> float:
    """Return the inner length of a wall [m]; the shorter span for lid and floor."""
    if side in ("front", "back"):
        return spans_m[0]
    return spans_m[1] if side in ("left", "right") else min(spans_m)


def check_opening(opening: Opening, spans_m: tuple[float, float], height_m: float) -> None:
    """Raise `DomainError` when an opening does not fit the face it is in."""
    where = f"opening “{opening.name}”"
    if opening.shape == "lid gap":
        if opening.height_m > height_m / 2:
            raise DomainError(where, opening.height_m, "m is half the wall; narrow the gap")
        return
    _check_along(opening, spans_m)
    span = wall_span_m(opening.side, spans_m)
    if opening.level:
        room, floor_m2 = max(spans_m), spans_m[0] * spans_m[1]
        gross = opening_area_m2(opening, spans_m, height_m, gross=True)
        if max(opening.height_m, opening.width_m) > room or gross > floor_m2 * _ALL_OF_IT:
            raise DomainError(
                where, opening.width_m, f"m is larger than the {opening.side}; make it smaller"
            )
        return
    top = opening.bottom_m + opening.height_m
    if top > height_m + 1e-9:
        raise DomainError(
            where, top, f"m at its top edge is above the wall of {height_m:.3f} m; lower it"
        )
    if opening.bottom_m + opening.lift_m > height_m:
        raise DomainError(
            f"{where} lift", opening.lift_m, "m ends above the lid; shorten the shaft"
        )
    if opening.width_m * opening.count > span + 1e-9:
        raise DomainError(
            where,
            opening.width_m * opening.count,
            f"m is wider than the wall of {span:.3f} m; narrow it",
        )


def _check_along(opening: Opening, spans_m: tuple[float, float]) -> None:
    """Raise when an opening's place along its wall puts it past an end of it."""
    if opening.along_m is None:
        return
    span = spans_m[1] if opening.side in ("left", "right") else spans_m[0]
    half = opening.width_m * opening.count / 2
    if opening.along_m < half - 1e-9 or opening.along_m > span - half + 1e-9:
        raise DomainError(
            f"opening “{opening.name}” place along the wall",
            opening.along_m,
            f"m lies past the wall; enter {half:.3f} to {max(span - half, half):.3f} m",
        )


def equivalent_diameter_m(area_m2: float) -> float:
    """Return the diameter of a hole with an area [m]."""
    return sqrt(4 * area_m2 / pi)


HIGH_FROM = 0.6
"""An opening in the upper two fifths of a wall counts as high; common practice, no source."""


def is_high(opening: Opening, height_m: float) -> bool:
    """Return whether an opening leads in high up: lid, lid gap, or the upper part of a wall."""
    if opening.side == "lid" or opening.shape == "lid gap":
        return True
    return opening.side != "floor" and opening.bottom_m + opening.lift_m >= HIGH_FROM * height_m
