"""What conduction is solved for: bodies of one conductivity each, and the air spaces they touch."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

from calveth.core.hive.design import Face
from calveth.core.solids.parts import PartRole
from calveth.core.solids.shapes import Cuboid, SectionMap

WEDGE_RAD = 0.02
"""Round hives that are bent are solved as a wedge of this angle: flat to 1e-4 [rad]."""
Side = Literal["up", "horizontal", "down"]
"""Where heat goes when it leaves an air space through a surface: up into a ceiling, ..."""


BodyRole = PartRole | Literal["layer", "opening air"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Body:
    """A block of one material.

    ``part`` is what a person calls it; bodies of one name are reported together. ``role`` is what
    it is for: a fitting, a ``layer`` of a ``face``, or ``opening air``, the way of an
    ``opening``. A body covers what stands before it in the list. Along ``grain`` (``x``, ``y`` or
    ``z``) it conducts ``along_grain`` times as well. Beside the edges of ``soft`` bodies the grid
    may be coarser.
    """

    part: str
    shape: Cuboid
    conductivity_w_mk: float
    role: BodyRole = "layer"
    opening: str = ""
    face: Face | None = None
    layer: int | None = None
    grain: str = ""
    along_grain: float = 1.0
    soft: bool = False

    def along(self, axis: str) -> float:
        """Return the conductivity along an axis [W/(m·K)]."""
        return self.conductivity_w_mk * (self.along_grain if axis == self.grain else 1.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class AirSpace:
    """A space of one air temperature with the film resistance [m²·K/W] of its surfaces.

    A film of zero is a surface held at the temperature of the space. Spaces cover bodies and
    spaces that stand before them; see `ConductionModel`. ``soft`` as in `Body`;
    ``outdoors`` marks a space among those inside that is open to the outside air.
    """

    name: str
    shape: Cuboid
    film_m2k_w: Mapping[Side, float]
    soft: bool = False
    outdoors: bool = False

    def __post_init__(self) -> None:
        object.__setattr__(self, "film_m2k_w", MappingProxyType(dict(self.film_m2k_w)))


@dataclass(frozen=True, slots=True, kw_only=True)
class ConductionModel:
    """Bodies between air spaces. What nothing covers, and the rim of it all, lets no heat through.

    Order of cover: ``outside`` first, bodies on it, ``inside`` spaces on them. Shapes are those of
    a box: ``bend`` says where its points lie, or with ``round`` x is the radius and y the angle
    [rad] round an upright axis; with both, the whole angle stands for a thin wedge.
    """

    outside: tuple[AirSpace, ...]
    bodies: tuple[Body, ...]
    inside: tuple[AirSpace, ...]
    bend: SectionMap | None = None
    round: bool = False

    @property
    def spaces(self) -> tuple[AirSpace, ...]:
        """All air spaces, those outside first."""
        return (*self.outside, *self.inside)
