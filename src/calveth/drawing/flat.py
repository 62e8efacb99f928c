"""Single pieces as they are marked out: outline, holes, grain and sizes."""

from __future__ import annotations

from collections.abc import Callable, Sequence

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
    high = min(max(0.024 * size, 0.006), 0.03)
    points = piece.outline or ((0.0, 0.0), (long, 0.0), (long, wide), (0.0, wide))
    marks: list[Mark] = [
        Polygon(points=points, style=Style(fill=FILL[material.hatch], line="ink", line_px=1.2))
    ]
    for cutout in piece.cutouts:
        marks += _cutout(cutout, long, label, high)
    marks += _centres(piece.cutouts, long, wide, label, high)
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


def _centres(
    cutouts: Sequence[Cutout], long: float, wide: float, label: Label, high: float
) -> list[Mark]:
    """Return where the middles of holes lie: from hole to hole along, and above the lower edge.

    Each length begins at the middle before it, the first at the left end or the lower edge, as a
    rule is laid; middles that are too near for words are told in the text of the hole.
    """
    if not cutouts:
        return []
    marks: list[Mark] = []
    cross = Style(line="accent", line_px=0.8, dash="dash")
    for cutout in cutouts:
        u, v = cutout.u_m, cutout.v_m
        more = 0.8 * high
        across, up = cutout.wide_m / 2 + more, cutout.high_m / 2 + more
        marks.append(Line(points=((u - across, v), (u + across, v)), style=cross))
        marks.append(Line(points=((u, v - up), (u, v + up)), style=cross))
    least = 2.4 * high
    before = 0.0
    for u in sorted({round(c.u_m, 5) for c in cutouts}):
        if u - before >= least:
            marks.append(
                Dim(a=(before, wide), b=(u, wide), off_m=high, text=label(u - before), high_m=high)
            )
            before = u
    before = 0.0
    for v in sorted({round(c.v_m, 5) for c in cutouts}):
        if v - before >= least:
            marks.append(
                Dim(a=(long, before), b=(long, v), off_m=-high, text=label(v - before), high_m=high)
            )
            before = v
    return marks


def _cutout(cutout: Cutout, long: float, label: Label, high: float) -> list[Mark]:
    """Return a hole or recess, its size and where its middle is."""
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
    right = u + half_u + high
    if right + 0.5 * high * len(text) < long:
        return [
            shape,
            Text(at=(right, v), text=text, high_m=0.8 * high, color="accent", anchor="left"),
        ]
    above = v + half_v + 1.2 * high
    return [shape, Text(at=(u, above), text=text, high_m=0.8 * high, color="accent")]
