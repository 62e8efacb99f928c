"""Shapes in metres with named colours: no widget, no pixel, no palette of the moment.

The plane is that of a section: y to the right, z up. A writer is handed a palette and a scale.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from math import hypot
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


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """A line through points [m]."""

    points: tuple[Point, ...]
    style: Style = field(default_factory=lambda: Style(line="ink"))


@dataclass(frozen=True, slots=True, kw_only=True)
class Text:
    """A word at a point [m]; ``high_m`` is its height in the drawing, so that it scales with it.

    ``anchor`` is where the point lies: in the middle, or at the left or right end of the word.
    """

    at: Point
    text: str
    high_m: float
    color: str = "ink"
    anchor: Literal["middle", "left", "right"] = "middle"
    upright: bool = False
    bold: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Dim:
    """A dimension between two points, its line ``off_m`` to the left of the way from a to b [m].

    The text is what a person reads; in files that know dimensions the length is measured.
    """

    a: Point
    b: Point
    off_m: float
    text: str
    high_m: float = 0.012


Shape = Polygon | Ellipse
Mark = Polygon | Ellipse | Line | Text | Dim
"""All that a drawing of a workshop holds."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Drawing:
    """A drawing in metres of the thing: its marks in the order they are drawn.

    ``rows`` names, for some polygons (by their place in ``marks``), the row of the cut list they
    show, so that a click finds it.
    """

    title: str
    marks: tuple[Mark, ...]
    rows: tuple[tuple[int, int], ...] = ()

    @property
    def frame(self) -> tuple[float, float, float, float]:
        """The rectangle round it, words and dimensions counted roughly [m]."""
        return frame_of(self.marks)


def frame_of(marks: tuple[Mark, ...]) -> tuple[float, float, float, float]:
    """Return least and largest y, least and largest z of marks [m]."""
    points: list[Point] = []
    for mark in marks:
        if isinstance(mark, Polygon | Line):
            points += mark.points
        elif isinstance(mark, Ellipse):
            points += [(mark.y0, mark.z0), (mark.y1, mark.z1)]
        elif isinstance(mark, Text):
            points += _round_text(mark)
        else:
            points += [*dim_line(mark), mark.a, mark.b]
            for y, z in dim_line(mark):
                points += [(y - mark.high_m, z - mark.high_m), (y + mark.high_m, z + mark.high_m)]
    ys, zs = [p[0] for p in points], [p[1] for p in points]
    return min(ys), max(ys), min(zs), max(zs)


def with_letters(marks: tuple[Mark, ...], least_m: float) -> tuple[Mark, ...]:
    """Return marks whose letters are at least so high [m]."""
    return tuple(
        replace(mark, high_m=least_m)
        if isinstance(mark, Text | Dim) and mark.high_m < least_m
        else mark
        for mark in marks
    )


def _round_text(text: Text) -> list[Point]:
    wide, high = 0.55 * text.high_m * len(text.text), text.high_m
    y, z = text.at
    if text.upright:
        return [(y - high, z - wide / 2), (y + high, z + wide / 2)]
    left = {"middle": y - wide / 2, "left": y, "right": y - wide}[text.anchor]
    return [(left, z - high), (left + wide, z + high)]


def dim_line(dim: Dim) -> tuple[Point, Point]:
    """Return the ends of the line of a dimension [m]."""
    (ay, az), (by, bz) = dim.a, dim.b
    length = hypot(by - ay, bz - az) or 1.0
    ny, nz = -(bz - az) / length * dim.off_m, (by - ay) / length * dim.off_m
    return (ay + ny, az + nz), (by + ny, bz + nz)
