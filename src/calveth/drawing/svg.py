"""Neutral shapes as SVG true to scale: a millimetre of the page is so many of the hive.

Plain elements and patterns of SVG 1.1 (W3C), which every drawing program opens; a layer of wood
is hatched, so that a print without colour can be read.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from xml.etree import ElementTree as Xml

from calveth.core.materials import Hatch
from calveth.drawing.shapes import Dim, Ellipse, Line, Mark, Polygon, Style, Text, frame_of
from calveth.drawing.svg_marks import add_mark

_SVG = "http://www.w3.org/2000/svg"
_MARGIN_MM = 12.0
# A pixel of the screen's lines on paper [mm].
_PX_MM = 0.18
_DASHES = {"solid": "", "dash": "2 1.2", "dash dot": "3 1 0.6 1"}
# Ground colour and the lines of a tile of 4 mm: (x1, y1, x2, y2) each.
_PATTERNS: dict[Hatch, tuple[str, tuple[tuple[float, float, float, float], ...]]] = {
    "grain": ("wood", ((0, 1, 4, 1.2), (0, 2.6, 4, 2.4), (0, 3.6, 4, 3.7))),
    "beads": ("foam", ((0.5, 0.5, 0.6, 0.5), (2.5, 2.5, 2.6, 2.5))),
    "foam": ("foam", ((1, 1, 1.1, 1), (3, 3, 3.1, 3))),
    "pores": ("stone", ((1, 1, 1.3, 1), (3, 2, 3.3, 2), (2, 3.4, 2.3, 3.4))),
    "stone": ("stone", ((0, 4, 4, 0),)),
    "shavings": ("wood", ((0.4, 0.6, 1.6, 1.4), (2.2, 3.2, 3.4, 2.4))),
    "foil": ("stone", ((0, 2, 4, 2),)),
    "air": ("sheet", ()),
    "plain": ("fill", ()),
    "glass": ("sheet", ((0.6, 3.4, 1.8, 2.2), (2.2, 1.8, 3.4, 0.6))),
    "cork": ("wood", ((1, 1, 1.5, 1.5), (3, 3, 3.5, 2.5))),
    "straw": ("wood", ((0, 0.8, 4, 1.6), (0, 3, 4, 2.4))),
    "brick": ("stone", ((0, 2, 4, 2), (2, 0, 2, 2))),
}
_TILE_MM = 4.0


def section_svg(
    shapes: Sequence[Mark], palette: Mapping[str, str], *, title: str, scale: float = 5.0
) -> str:
    """Return shapes as an SVG document at a scale of 1 to ``scale``; text for a file.

    ``palette`` gives ``#rrggbb`` for every colour the shapes name, and ``ink`` for hatches.
    """
    y0, y1, z0, z1 = frame_of(tuple(shapes))
    mm = 1000.0 / scale
    wide, high = (y1 - y0) * mm + 2 * _MARGIN_MM, (z1 - z0) * mm + 2 * _MARGIN_MM
    Xml.register_namespace("", _SVG)
    root = Xml.Element(
        f"{{{_SVG}}}svg",
        width=f"{wide:.2f}mm",
        height=f"{high:.2f}mm",
        viewBox=f"0 0 {wide:.2f} {high:.2f}",
    )
    _add(root, "title").text = f"{title}, 1:{scale:g}"
    _add_patterns(_add(root, "defs"), shapes, palette)

    def at(y: float, z: float) -> tuple[float, float]:
        return _MARGIN_MM + (y - y0) * mm, high - _MARGIN_MM - (z - z0) * mm

    for shape in shapes:
        if isinstance(shape, Line | Text | Dim):
            add_mark(root, shape, at, mm, palette)
            continue
        if shape.style.dots is not None:
            continue  # a texture of the screen
        if isinstance(shape, Ellipse):
            (left, low), (right, top) = at(shape.y0, shape.z0), at(shape.y1, shape.z1)
            middle = {"cx": f"{(left + right) / 2:.3f}", "cy": f"{(low + top) / 2:.3f}"}
            radii = {"rx": f"{(right - left) / 2:.3f}", "ry": f"{(low - top) / 2:.3f}"}
            _add(root, "ellipse", **middle, **radii, **_look(shape.style, palette))
        else:
            _add_polygon(root, shape, [at(*p) for p in shape.points], palette)
    _add_scale(root, title, scale, (wide, high), palette["ink"])
    return Xml.tostring(root, encoding="unicode", xml_declaration=True) + "\n"


def _add(parent: Xml.Element, name: str, **attributes: str) -> Xml.Element:
    given = {key.replace("_", "-"): value for key, value in attributes.items()}
    return Xml.SubElement(parent, f"{{{_SVG}}}{name}", given)


def _add_polygon(
    root: Xml.Element, shape: Polygon, points: list[tuple[float, float]], palette: Mapping[str, str]
) -> None:
    """Add a polygon: ground and pattern apart, for tiles with a ground of their own show seams."""
    where = " ".join(f"{x:.3f},{y:.3f}" for x, y in points)
    look = _look(shape.style, palette)
    if shape.style.hatch is not None:
        _add(root, "polygon", points=where, fill=palette[_PATTERNS[shape.style.hatch][0]])
    if not shape.open_ends:
        _add(root, "polygon", points=where, **look)
        return
    # A way through a wall: its edges run along it, its ends are open.
    edge = {k: v for k, v in look.items() if k.startswith("stroke")}
    ground = {k: v for k, v in look.items() if k not in edge}
    _add(root, "polygon", points=where, **ground)
    xs, ys = [x for x, _ in points], [y for _, y in points]
    for y in (min(ys), max(ys)):
        ends = {"x1": f"{min(xs):.3f}", "x2": f"{max(xs):.3f}", "y1": f"{y:.3f}", "y2": f"{y:.3f}"}
        _add(root, "line", **ends, **edge)


def _add_scale(
    root: Xml.Element, title: str, scale: float, size: tuple[float, float], ink: str
) -> None:
    """Add a bar of 100 mm of the hive to hold a ruler against, and what is drawn."""
    low = size[1] - 0.35 * _MARGIN_MM
    bar = {"x1": f"{_MARGIN_MM:g}", "x2": f"{_MARGIN_MM + 100 / scale:g}"}
    _add(root, "line", **bar, y1=f"{low:g}", y2=f"{low:g}", stroke=ink, stroke_width="0.5")
    words = {"x": f"{_MARGIN_MM + 100 / scale + 2:g}", "y": f"{low + 1:g}", "font_size": "3.2"}
    caption = _add(root, "text", **words, fill=ink, font_family="sans-serif")
    caption.text = f"100 mm · {title}, 1:{scale:g}"


def _look(style: Style, palette: Mapping[str, str]) -> dict[str, str]:
    """Return the attributes of a style."""
    style_of = {"fill": "none"}
    if style.hatch is not None:
        style_of["fill"] = f"url(#{_pattern_id(style)})"
    elif style.fill:
        style_of |= {"fill": palette[style.fill], "fill_opacity": f"{style.fill_alpha / 255:.3f}"}
    if style.line:
        style_of |= {
            "stroke": palette[style.line],
            "stroke_opacity": f"{style.line_alpha / 255:.3f}",
            "stroke_width": f"{style.line_px * _PX_MM:.3f}",
        }
        if _DASHES[style.dash]:
            style_of["stroke_dasharray"] = _DASHES[style.dash]
    return style_of


def _pattern_id(style: Style) -> str:
    return f"{style.hatch}{'-upright' if style.upright else ''}"


def _add_patterns(defs: Xml.Element, shapes: Sequence[Mark], palette: Mapping[str, str]) -> None:
    """Add the patterns the shapes ask for, each once."""
    styles = {
        _pattern_id(s.style): s.style
        for s in shapes
        if isinstance(s, Polygon) and s.style.hatch is not None
    }
    for name, style in sorted(styles.items()):
        assert style.hatch is not None
        _, lines = _PATTERNS[style.hatch]
        size = f"{_TILE_MM:g}"
        pattern = Xml.SubElement(
            defs,
            f"{{{_SVG}}}pattern",
            {"id": name, "width": size, "height": size, "patternUnits": "userSpaceOnUse"},
        )
        for line in lines:
            # Turned by hand: not every program turns a pattern.
            x1, y1, x2, y2 = (line[k] for k in ((1, 0, 3, 2) if style.upright else range(4)))
            _add(
                pattern,
                "line",
                x1=f"{x1:g}",
                y1=f"{y1:g}",
                x2=f"{x2:g}",
                y2=f"{y2:g}",
                stroke=palette["ink"],
                stroke_width="0.12",
                stroke_opacity="0.6",
                stroke_linecap="round",
            )
