"""Single pieces as they are marked out: outline, holes, grain and sizes."""

from __future__ import annotations

from collections.abc import Callable

from calveth.core.materials import Material
from calveth.core.workshop.piece import Cutout, Row
from calveth.drawing.shapes import Dim, Drawing, Ellipse, Line, Mark, Polygon, Style, Text
from calveth.drawing.solid_views import FILL

Label = Callable[[float], str]
"""Writes a length as it is marked out."""


def flat_piece(row: Row, material: Material, label: Label) -> Drawing:
    """Return a piece flat on the bench, its length to the right, with its dimensions."""
    piece = row.piece
    long, wide = piece.length_m, piece.width_m
    size = max(long, wide)
    high = min(max(0.035 * size, 0.006), 0.03)
    points = piece.outline or ((0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide))
    marks: list[Mark] = [
        Polygon(points=points, style=Style(fill=FILL[material.hatch], line="ink", line_px=1.2))
    ]
    for cutout in piece.cutouts:
        marks += _cutout(cutout, label, high)
    marks += [
        Dim(a=(0.0, 0.0), b=(long, 0.0), off_m=-2.2 * high, text=label(long), high_m=high),
        Dim(a=(0.0, 0.0), b=(0.0, wide), off_m=2.2 * high, text=label(wide), high_m=high),
    ]
    if piece.has_grain:
        y = wide * 0.12
        style = Style(line="muted", line_px=0.8)
        marks.append(Line(points=((0.4 * long, y), (0.6 * long, y)), style=style))
    sizes = " x ".join(label(s) for s in (long, wide, piece.thickness_m))
    title = f"no. {row.number}: {sizes}"
    return Drawing(title=title, marks=tuple(marks), rows=((0, row.number),))


def _cutout(cutout: Cutout, label: Label, high: float) -> list[Mark]:
    """Return a hole or recess with where its middle is."""
    u, v = cutout.u_m, cutout.v_m
    half_u, half_v = cutout.wide_m / 2, cutout.high_m / 2
    style = Style(
        fill="sheet", line="accent", line_px=1.2, dash="solid" if cutout.deep_m is None else "dash"
    )
    shape: Mark
    if cutout.round:
        shape = Ellipse(y0=u - half_u, y1=u + half_u, z0=v - half_v, z1=v + half_v, style=style)
        size = f"ø {label(cutout.wide_m)}"
    else:
        shape = Polygon(
            points=(
                (u - half_u, v - half_v),
                (u + half_u, v - half_v),
                (u + half_u, v + half_v),
                (u - half_u, v + half_v),
            ),
            style=style,
        )
        size = f"{label(cutout.wide_m)} x {label(cutout.high_m)}"
    text = f"{size} at {label(u)} / {label(v)}"
    above = v + half_v + 1.2 * high
    return [shape, Text(at=(u, above), text=text, high_m=0.8 * high, color="accent")]
