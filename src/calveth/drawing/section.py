"""The hive cut open as neutral shapes: legs, room, combs, bees, layers, window, openings."""

from __future__ import annotations

from collections.abc import Mapping

from calveth.core.hive.design import Design, Face
from calveth.core.materials import Material
from calveth.core.solids.section import Piece, Rect, Section
from calveth.drawing.shapes import Dots, Ellipse, Point, Polygon, Shape, Style

_BAR_M = 0.012
_SLAT_M = 0.022


def section_shapes(
    design: Design,
    section: Section,
    materials: Mapping[str, Material],
    *,
    cluster: Rect | None = None,
    chosen: Face | None = None,
) -> tuple[Shape, ...]:
    """Return a cut hive in the order it is drawn; ``cluster`` is where the bees hang."""
    return (
        *_legs(section),
        *_room(section, cluster),
        *_layers(section, materials, chosen),
        *_panes(design, section, materials),
        *_gaps(section),
    )


def outline(section: Section, rect: Rect) -> tuple[Point, ...]:
    """Return the corners of a rectangle of the section where they lie in the hive [m]."""
    if section.bend is not None:
        points = section.bend.outline_m(rect.y0, rect.y1, rect.z0, rect.z1).tolist()
        return tuple((float(y), float(z)) for y, z in points)
    return (
        (rect.y0, rect.z1),
        (rect.y1, rect.z1),
        (rect.y1, rect.z0),
        (rect.y0, rect.z0),
    )


def _polygon(section: Section, rect: Rect, style: Style) -> Polygon:
    points = outline(section, rect)
    corner = (min(y for y, _ in points), max(z for _, z in points))
    return Polygon(points=points, style=style, origin=corner)


def _legs(section: Section) -> list[Shape]:
    style = Style(fill="wood", fill_alpha=120, line="ink", line_alpha=150)
    return [_polygon(section, leg, style) for leg in section.legs]


def _room(section: Section, cluster: Rect | None) -> list[Shape]:
    shapes: list[Shape] = [_polygon(section, section.cavity, Style(fill="sheet"))]
    face = Style(fill="honey", fill_alpha=18, line="honey", line_alpha=120)
    cells = Style(dots=Dots(color="honey", alpha=110, step_px=8.0, size_px=1.0))
    for comb in section.combs:
        high = comb.z1 - comb.z0
        bar = Rect(y0=comb.y0, y1=comb.y1, z0=comb.z1 - min(0.05 * high, _BAR_M), z1=comb.z1)
        shapes += [_polygon(section, comb, face), _polygon(section, comb, cells)]
        shapes.append(_polygon(section, bar, Style(fill="wood")))
    shapes += _rack(section)
    if cluster is not None:
        edge = Style(
            fill="heat", fill_alpha=34, line="heat", line_alpha=200, line_px=1.2, dash="dash"
        )
        bees = Style(dots=Dots(color="heat", alpha=150, step_px=7.0, size_px=1.8))
        points = outline(section, cluster)
        ys, zs = [y for y, _ in points], [z for _, z in points]
        at = (min(ys), max(ys), min(zs), max(zs))
        shapes += [Ellipse(y0=at[0], y1=at[1], z0=at[2], z1=at[3], style=s) for s in (edge, bees)]
    return shapes


def _rack(section: Section) -> list[Shape]:
    """Return the slats of a rack, cut across."""
    rack = section.rack
    if rack is None:
        return []
    style = Style(fill="wood", line="ink", line_alpha=160, line_px=0.8)
    wide, tall = rack.y1 - rack.y0, min(0.012, 0.3 * (rack.z1 - rack.z0))
    count = max(4, int(wide / (2 * _SLAT_M)))
    step = wide / count
    return [
        _polygon(
            section,
            Rect(
                y0=rack.y0 + (k + 0.25) * step,
                y1=rack.y0 + (k + 0.75) * step,
                z0=rack.z1 - tall,
                z1=rack.z1,
            ),
            style,
        )
        for k in range(count)
    ]


def _layers(
    section: Section, materials: Mapping[str, Material], chosen: Face | None
) -> list[Shape]:
    shapes: list[Shape] = []
    for piece in section.pieces:
        style = Style(
            hatch=materials[piece.material].hatch,
            upright=piece.front is not None,
            line="ink",
            line_alpha=220,
            thins=True,
        )
        shapes.append(_polygon(section, piece.rect, style))
    if chosen is not None:
        edge = Style(line="accent", line_px=2.6)
        shapes += [_polygon(section, r, edge) for r in face_outlines(section.pieces, chosen)]
    return shapes


def face_outlines(pieces: tuple[Piece, ...], chosen: Face) -> list[Rect]:
    """Return the outlines of a face: both walls, or one plate [m]."""
    groups: dict[bool | None, list[Rect]] = {}
    for piece in pieces:
        if piece.face == chosen and piece.layer >= 0:
            groups.setdefault(piece.front, []).append(piece.rect)
    return [
        Rect(
            y0=min(r.y0 for r in rects),
            y1=max(r.y1 for r in rects),
            z0=min(r.z0 for r in rects),
            z1=max(r.z1 for r in rects),
        )
        for rects in groups.values()
    ]


def _panes(design: Design, section: Section, materials: Mapping[str, Material]) -> list[Shape]:
    """Return the window: its panes in the cut wall, or its outline on the wall behind."""
    shapes: list[Shape] = []
    window = design.window
    if window is not None and section.panes and not section.panes[0].behind:
        # Before and behind the panes the wall is open.
        room, deep = section.cavity, design.shell.thickness_m("walls")
        y0, y1 = (room.y0 - deep, room.y0) if window.side == "front" else (room.y1, room.y1 + deep)
        bottom = room.z0 + window.bottom_m
        way = Rect(y0=y0, y1=y1, z0=bottom, z1=bottom + window.height_m)
        shapes.append(_polygon(section, way, Style(fill="sheet")))
    for pane in section.panes:
        if pane.behind:
            style = Style(line="ink", dash="dash dot")
        else:
            hatch = materials[pane.material].hatch
            style = Style(hatch=hatch, upright=True, line="ink", line_alpha=200, line_px=0.8)
        shapes.append(_polygon(section, pane.rect, style))
    return shapes


def _gaps(section: Section) -> list[Shape]:
    shapes: list[Shape] = []
    for gap in section.gaps:
        if gap.through:
            shape = _polygon(section, gap.rect, Style(fill="sheet", line="ink"))
            if section.bend is None:
                shape = Polygon(
                    points=shape.points,
                    style=shape.style,
                    origin=shape.origin,
                    least_px=3.0,
                    open_ends=True,
                )
        else:
            points = outline(section, gap.rect)
            low, high = min(y for y, _ in points), max(y for y, _ in points)
            bottom, top = min(z for _, z in points), max(z for _, z in points)
            shape = Polygon(
                points=((low, top), (high, top), (high, bottom), (low, bottom)),
                style=Style(line="ink", dash="dash"),
                least_px=3.0,
            )
        shapes.append(shape)
    return shapes
