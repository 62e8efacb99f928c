"""Pieces and layouts as DXF, in millimetres, with layers and dimensions that measure.

Layers: SHEET what is cut from, CUT outlines and saw cuts, DRILL holes and recesses, TEXT words, DIM
dimensions, GRAIN the grain's direction. Written by ezdxf as DXF R2010, which says its units.
"""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import Any

from calveth.drawing.placed import in_rows
from calveth.drawing.shapes import Dim, Drawing, Ellipse, Line, Mark, Polygon, Text
from calveth.store.atomic_write import atomic_write

LAYERS = {"SHEET": 8, "CUT": 7, "DRILL": 1, "TEXT": 3, "DIM": 4, "GRAIN": 6}
"""Name and colour index of every layer."""
_MM = 1000.0
_GAP_M, _WIDE_M = 0.18, 4.0


def write_dxf(path: Path, drawings: Sequence[Drawing]) -> None:
    """Write drawings beside and under each other into one DXF file.

    Raises
    ------
    FileError
        When it cannot be written.
    """
    import ezdxf  # half a second: only when a file is written

    document = ezdxf.new("R2010", setup=True, units=4)
    document.header["$MEASUREMENT"] = 1
    for name, color in LAYERS.items():
        document.layers.add(name, color=color)
    space = document.modelspace()
    for mark in in_rows(drawings, _WIDE_M, _GAP_M):
        _add(space, mark)
    with atomic_write(path) as part:
        document.saveas(part)


def _add(space: Any, mark: Mark) -> None:
    if isinstance(mark, Polygon):
        layer = "SHEET" if mark.style.fill in ("sheet", "ground") else "CUT"
        if mark.style.line == "accent":
            layer = "DRILL"
        space.add_lwpolyline([_mm(p) for p in mark.points], close=True, dxfattribs={"layer": layer})
    elif isinstance(mark, Ellipse):
        middle = _mm(((mark.y0 + mark.y1) / 2, (mark.z0 + mark.z1) / 2))
        space.add_circle(middle, _MM * (mark.y1 - mark.y0) / 2, dxfattribs={"layer": "DRILL"})
    elif isinstance(mark, Line):
        layer = "GRAIN" if mark.style.line == "muted" else "CUT"
        space.add_lwpolyline([_mm(p) for p in mark.points], dxfattribs={"layer": layer})
    elif isinstance(mark, Text):
        from ezdxf.enums import TextEntityAlignment as Align

        align = {
            "middle": Align.MIDDLE_CENTER,
            "left": Align.MIDDLE_LEFT,
            "right": Align.MIDDLE_RIGHT,
        }[mark.anchor]
        text = space.add_text(
            mark.text,
            height=_MM * mark.high_m * 0.7,
            rotation=90 if mark.upright else 0,
            dxfattribs={"layer": "TEXT"},
        )
        text.set_placement(_mm(mark.at), align=align)
    else:
        _dimension(space, mark)


def _dimension(space: Any, dim: Dim) -> None:
    """Add a dimension that measures: no text of ours, the program shows what it measures."""
    high = _MM * dim.high_m
    space.add_aligned_dim(
        p1=_mm(dim.a),
        p2=_mm(dim.b),
        distance=_MM * dim.off_m,
        override={
            "dimtxt": 0.8 * high,
            "dimasz": 0.5 * high,
            "dimexe": 0.3 * high,
            "dimexo": 0.3 * high,
            "dimgap": 0.2 * high,
            "dimlfac": 1.0,
            "dimdec": 1,
            "dimzin": 8,
        },
        dxfattribs={"layer": "DIM"},
    ).render()


def _mm(point: tuple[float, float]) -> tuple[float, float]:
    return _MM * point[0], _MM * point[1]
