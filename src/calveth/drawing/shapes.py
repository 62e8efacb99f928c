"""Shapes in metres with named colours: no widget, no pixel, no palette of the moment.

The plane is that of a section: y to the right, z up. A writer is handed a palette and a scale.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from calveth.core.materials import Hatch

Dash = Literal["solid", "dash", "dash dot"]
Point = tuple[float, float]
"""y and z [m]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Dots:
    """A ground of staggered dots: cells of a comb, bees of a cluster; step and size in pixels."""

    color: str
    alpha: int
    step_px: float
    size_px: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Style:
    """How a shape looks; colours are names of the palette, an empty one draws nothing.

    Attributes
    ----------
    fill, fill_alpha : str, int
        Plain ground.
    hatch, upright : Hatch or None, bool
        Pattern of a material, and whether it stands along a wall.
    dots : Dots or None
        A ground of dots over the fill.
    line, line_alpha, line_px, dash
        The outline.
    thins : bool
        Whether the outline is drawn finer where the shape is too thin to hold it.
    """

    fill: str = ""
    fill_alpha: int = 255
    hatch: Hatch | None = None
    upright: bool = False
    dots: Dots | None = None
    line: str = ""
    line_alpha: int = 255
    line_px: float = 1.0
    dash: Dash = "solid"
    thins: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Polygon:
    """A closed outline.

    ``origin`` is where its pattern begins. ``least_px`` is the least height it is drawn with, for
    a slot that would vanish; ``open_ends`` leaves its left and right side undrawn, as of a way
    that goes through a wall.
    """

    points: tuple[Point, ...]
    style: Style
    origin: Point = (0.0, 0.0)
    least_px: float = 0.0
    open_ends: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Ellipse:
    """An ellipse in a rectangle [m]."""

    y0: float
    y1: float
    z0: float
    z1: float
    style: Style = field(default_factory=Style)


Shape = Polygon | Ellipse


def bounds(shapes: tuple[Shape, ...]) -> tuple[float, float, float, float]:
    """Return the rectangle round shapes: least and largest y, least and largest z [m]."""
    points: list[Point] = []
    for shape in shapes:
        if isinstance(shape, Ellipse):
            points += [(shape.y0, shape.z0), (shape.y1, shape.z1)]
        else:
            points += shape.points
    ys, zs = [p[0] for p in points], [p[1] for p in points]
    return min(ys), max(ys), min(zs), max(zs)
