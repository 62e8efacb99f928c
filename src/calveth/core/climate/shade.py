"""What stands round the hive between it and the sky: hills and houses, and trees by month."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from calveth.core.errors import DomainError, require_between

FloatArray = NDArray[np.float64]

DIRECTIONS = 16
"""Directions of the compass in which the height of things is told, north first, clockwise."""
STEP_DEG = 360.0 / DIRECTIONS
LEAVES: tuple[float, ...] = (0.6, 0.6, 0.55, 0.4, 0.25, 0.2, 0.2, 0.2, 0.25, 0.35, 0.5, 0.6)
"""Share of the sun that comes through leaf-shedding trees, January first, north of the equator;
estimates: bare crowns let through 0.5 to 0.7, crowns in leaf 0.1 to 0.3."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Shade:
    """The horizon of a hive.

    Attributes
    ----------
    hills_deg : tuple of 16 float
        How high hills, houses and walls stand in each direction, north first, clockwise [°].
    trees_deg : tuple of 16 float
        How high the tops of trees stand [°]; nothing where they are lower than the hills.
    through : tuple of 12 float
        Share of the sun that comes through the trees in each month, January first [-].
    """

    hills_deg: tuple[float, ...] = (0.0,) * DIRECTIONS
    trees_deg: tuple[float, ...] = (0.0,) * DIRECTIONS
    through: tuple[float, ...] = LEAVES

    def __post_init__(self) -> None:
        for name, values, count, high in (
            ("height of hills", self.hills_deg, DIRECTIONS, 85.0),
            ("height of trees", self.trees_deg, DIRECTIONS, 85.0),
            ("sun through the trees", self.through, 12, 1.0),
        ):
            if len(values) != count:
                raise DomainError(name, len(values), f"values given; {count} are needed")
            unit = "share" if high == 1.0 else "°"
            for number, value in enumerate(values, start=1):
                require_between(f"{name} {number}", value, 0, high, unit)

    @property
    def is_open(self) -> bool:
        """Whether nothing stands anywhere."""
        return not any((*self.hills_deg, *self.trees_deg))

    def with_height(self, direction: int, height_deg: float, *, trees: bool) -> Shade:
        """Return the shade with another height in one direction, 0 to 15."""
        if not 0 <= direction < DIRECTIONS:
            raise DomainError("direction", direction, "does not exist; use 0 to 15, north first")
        field = "trees_deg" if trees else "hills_deg"
        values = list(getattr(self, field))
        values[direction] = height_deg
        changed: dict[str, tuple[float, ...]] = {field: tuple(values)}
        return replace(self, **changed)


OPEN = Shade()
"""Open land all round."""


def leaves_of(latitude_deg: float) -> tuple[float, ...]:
    """Return the share of the sun that comes through leaf-shedding trees [12], by hemisphere."""
    return LEAVES if latitude_deg >= 0 else LEAVES[6:] + LEAVES[:6]


def height_deg(heights: tuple[float, ...], azimuth_deg: FloatArray) -> FloatArray:
    """Return how high things stand at bearings [N], on straight lines between the 16 [°]."""
    at = np.arange(DIRECTIONS) * STEP_DEG
    result: FloatArray = np.interp(azimuth_deg, at, np.array(heights), period=360.0)
    return result


def beam_share(
    shade: Shade, zenith_deg: FloatArray, azimuth_deg: FloatArray, month: NDArray[np.int_]
) -> FloatArray:
    """Return the share of the direct sun that reaches the hive in each hour [N], by month [N]."""
    high = 90.0 - zenith_deg
    through = np.array(shade.through)[month]
    behind_trees = high < height_deg(shade.trees_deg, azimuth_deg)
    share = np.where(behind_trees, through, 1.0)
    return np.where(high < height_deg(shade.hills_deg, azimuth_deg), 0.0, share)


_FINE = np.arange(0.0, 360.0, 2.0)


def sky_share(shade: Shade, through: float, side_deg: float | None = None) -> float:
    """Return the share of the sky a level face sees, or a wall of bearing ``side_deg`` [-].

    Of what it would see over open land, by the projected solid angle: over a horizon h a level
    face sees the mean of cos²h; a wall the mean of 1 - (2h + sin 2h)/π over the half circle before
    it, weighted with the cosine of the bearing. ``through`` of the sky comes through trees.
    """
    hills = np.radians(height_deg(shade.hills_deg, _FINE))
    trees = np.maximum(np.radians(height_deg(shade.trees_deg, _FINE)), hills)

    def seen(h: FloatArray) -> FloatArray:
        if side_deg is None:
            return np.cos(h) ** 2
        return 1.0 - (2.0 * h + np.sin(2.0 * h)) / np.pi

    weight = np.ones_like(hills)
    if side_deg is not None:
        weight = np.maximum(np.cos(np.radians(_FINE - side_deg)), 0.0)
    share = seen(trees) + through * (seen(hills) - seen(trees))
    return float((weight * share).sum() / weight.sum())
