"""Lines, words and dimensions as SVG elements."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from math import atan2, cos, degrees, pi, sin
from xml.etree import ElementTree as Xml

from calveth.drawing.shapes import Dim, Line, Point, Text, dim_line

_SVG = "http://www.w3.org/2000/svg"
_LINE_MM = 0.18
At = Callable[[float, float], Point]
_ANCHOR = {"middle": "middle", "left": "start", "right": "end"}


def _element(parent: Xml.Element, name: str, attributes: Mapping[str, str]) -> Xml.Element:
    return Xml.SubElement(parent, f"{{{_SVG}}}{name}", dict(attributes))


def add_mark(
    root: Xml.Element, mark: Line | Text | Dim, at: At, mm: float, palette: Mapping[str, str]
) -> None:
    """Add a line, word or dimension; ``at`` places a point, ``mm`` are page mm per metre."""
    if isinstance(mark, Line):
        points = " ".join(f"{x:.3f},{y:.3f}" for x, y in (at(*p) for p in mark.points))
        look = {
            "points": points,
            "fill": "none",
            "stroke": palette[mark.style.line or "ink"],
            "stroke-width": f"{mark.style.line_px * _LINE_MM:.3f}",
        }
        if mark.style.dash != "solid":
            look["stroke-dasharray"] = "2 1.2"
        _element(root, "polyline", look)
    elif isinstance(mark, Text):
        _text(root, mark, at, mm, palette)
    else:
        _dim(root, mark, at, mm, palette)


def _text(root: Xml.Element, text: Text, at: At, mm: float, palette: Mapping[str, str]) -> None:
    x, y = at(*text.at)
    size = text.high_m * mm
    look = {
        "x": f"{x:.3f}",
        "y": f"{y + 0.36 * size:.3f}",
        "font-size": f"{size:.3f}",
        "font-family": "sans-serif",
        "fill": palette[text.color],
        "text-anchor": _ANCHOR[text.anchor],
    }
    if text.bold:
        look["font-weight"] = "bold"
    if text.upright:
        look["transform"] = f"rotate(-90 {x:.3f} {y:.3f})"
    _element(root, "text", look).text = text.text


def _dim(root: Xml.Element, dim: Dim, at: At, mm: float, palette: Mapping[str, str]) -> None:
    """Add a dimension: its line with slanted ticks, the lines that lead to it, its text."""
    ink = {"stroke": palette["ink"], "stroke-width": f"{0.7 * _LINE_MM:.3f}"}
    ends = [at(*p) for p in dim_line(dim)]
    for (x0, y0), (x1, y1) in (
        (at(*dim.a), ends[0]),
        (at(*dim.b), ends[1]),
        (ends[0], ends[1]),
    ):
        _element(
            root,
            "line",
            {"x1": f"{x0:.3f}", "y1": f"{y0:.3f}", "x2": f"{x1:.3f}", "y2": f"{y1:.3f}", **ink},
        )
    (x0, y0), (x1, y1) = ends
    angle = atan2(y1 - y0, x1 - x0)
    tick = 0.35 * dim.high_m * mm
    for x, y in ends:
        dx, dy = tick * cos(angle - pi / 4), tick * sin(angle - pi / 4)
        _element(
            root,
            "line",
            {
                "x1": f"{x - dx:.3f}",
                "y1": f"{y - dy:.3f}",
                "x2": f"{x + dx:.3f}",
                "y2": f"{y + dy:.3f}",
                **ink,
            },
        )
    turn = degrees(angle)
    if turn > 90 or turn < -90 - 1e-6:
        turn += 180
    size = dim.high_m * mm
    x, y = (x0 + x1) / 2, (y0 + y1) / 2
    _element(
        root,
        "text",
        {
            "x": f"{x:.3f}",
            "y": f"{y - 0.3 * size:.3f}",
            "font-size": f"{size:.3f}",
            "font-family": "sans-serif",
            "fill": palette["ink"],
            "text-anchor": "middle",
            "transform": f"rotate({turn:.2f} {x:.3f} {y:.3f})",
        },
    ).text = dim.text
