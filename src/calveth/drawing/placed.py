"""Several drawings on one sheet: moved beside and under each other, in metres."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from calveth.drawing.shapes import Dim, Drawing, Ellipse, Line, Mark, Point, Polygon, Text


def moved(mark: Mark, dy: float, dz: float) -> Mark:
    """Return a mark moved to the right and up [m]."""

    def to(p: Point) -> Point:
        return p[0] + dy, p[1] + dz

    if isinstance(mark, Polygon):
        return replace(mark, points=tuple(to(p) for p in mark.points), origin=to(mark.origin))
    if isinstance(mark, Line):
        return replace(mark, points=tuple(to(p) for p in mark.points))
    if isinstance(mark, Ellipse):
        return replace(mark, y0=mark.y0 + dy, y1=mark.y1 + dy, z0=mark.z0 + dz, z1=mark.z1 + dz)
    if isinstance(mark, Text):
        return replace(mark, at=to(mark.at))
    assert isinstance(mark, Dim)
    return replace(mark, a=to(mark.a), b=to(mark.b))


def in_rows(drawings: Sequence[Drawing], wide_m: float, gap_m: float) -> tuple[Mark, ...]:
    """Return drawings in rows no wider than ``wide_m`` where they fit, each with its title."""
    marks: list[Mark] = []
    x = z = deep = 0.0
    for drawing in drawings:
        y0, y1, z0, z1 = drawing.frame
        wide, high = y1 - y0, z1 - z0
        if x > 0 and x + wide > wide_m:
            x, z, deep = 0.0, z - deep - gap_m, 0.0
        title = 0.35 * gap_m
        top = z - 2 * title
        marks += [moved(m, x - y0, top - z1) for m in drawing.marks]
        marks.append(
            Text(at=(x, z - title), text=drawing.title, high_m=title, anchor="left", bold=True)
        )
        x += wide + gap_m
        deep = max(deep, high + 2 * title)
    return tuple(marks)
