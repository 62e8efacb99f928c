"""What conduction is solved for: bodies of one conductivity each, and the air spaces they touch."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from calveth.core.hive.solids import Cuboid

Side = Literal["up", "horizontal", "down"]
"""Where heat goes when it leaves an air space through a surface: up into a ceiling, ..."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Body:
    """A block of one material.

    ``part`` is what a person calls it; bodies of one name are reported together. A body covers
    what stands before it in the list.
    """

    part: str
    shape: Cuboid
    conductivity_w_mk: float


@dataclass(frozen=True, slots=True, kw_only=True)
class AirSpace:
    """A space of one air temperature with the film resistance [m²·K/W] of its surfaces.

    A film of zero is a surface held at the temperature of the space. Spaces cover bodies and
    spaces that stand before them; see `ConductionModel`.
    """

    name: str
    shape: Cuboid
    film_m2k_w: Mapping[Side, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class ConductionModel:
    """Bodies between air spaces. What nothing covers, and the rim of it all, lets no heat through.

    Order of cover: ``outside`` first, bodies on it, ``inside`` spaces on them.
    """

    outside: tuple[AirSpace, ...]
    bodies: tuple[Body, ...]
    inside: tuple[AirSpace, ...]

    @property
    def spaces(self) -> tuple[AirSpace, ...]:
        """All air spaces, those outside first."""
        return (*self.outside, *self.inside)
