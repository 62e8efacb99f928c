"""A build plan as drawings in files: SVG, DXF, STL, 3MF."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial
from pathlib import Path

from calveth.core.materials import Material
from calveth.core.solids.section import section_of
from calveth.core.workshop.cutouts import ways_of
from calveth.core.workshop.plan import BuildPlan
from calveth.drawing.colors import PRINT
from calveth.drawing.cuts import cut_drawing, front_cut, plan_cut
from calveth.drawing.dxf import write_dxf
from calveth.drawing.flat import flat_piece
from calveth.drawing.layouts import boards_drawing, course_drawing, sheet_drawing, stack_drawing
from calveth.drawing.meshes import meshes_of, write_3mf, write_stl
from calveth.drawing.placed import in_rows
from calveth.drawing.section import section_shapes
from calveth.drawing.shapes import Drawing
from calveth.drawing.solid_views import FILL, VIEWS, exploded, hive_view
from calveth.drawing.svg import section_svg
from calveth.store.json_file import write_text
from calveth.texts.build import saw_size
from calveth.texts.build_words import GAP
from calveth.texts.units import METRIC, UnitSystem

_SVG_SCALE, _SVG_WIDE_M, _GAP_M = 10.0, 3.4, 0.18


def write(
    path: Path, plan: BuildPlan, materials: Mapping[str, Material], units: UnitSystem
) -> list[str]:
    """Write a plan by the ending of the name; return the names of the files.

    Raises
    ------
    FileError
        When one cannot be written.
    """
    ending = path.suffix.lower()
    if ending == ".stl":
        return write_stl(path, meshes_of(plan.pieces, plan.hive))
    if ending == ".3mf":
        write_3mf(path, meshes_of(plan.pieces, plan.hive), plan.design.name)
    elif ending == ".dxf":
        # Dimensions measure in millimetres whatever the words of the screen are.
        write_dxf(
            path,
            [*piece_drawings(plan, materials, METRIC), *layout_drawings(plan, materials, METRIC)],
        )
    else:
        drawings = [
            *hive_drawings(plan, materials, units),
            *layout_drawings(plan, materials, units),
            *piece_drawings(plan, materials, units),
        ]
        marks = in_rows(drawings, _SVG_WIDE_M, _GAP_M)
        write_text(path, section_svg(marks, PRINT, title=plan.design.name, scale=_SVG_SCALE))
    return [str(path)]


def hive_drawings(
    plan: BuildPlan, materials: Mapping[str, Material], units: UnitSystem, chosen: int = 0
) -> list[Drawing]:
    """Return front, side, both cuts with their sizes, the parts drawn apart, and the stack."""
    label = partial(saw_size, units=units)
    views = [
        hive_view(
            plan.hive,
            materials,
            view,
            plan.rows,
            ways=ways_of(plan.design),
            label=label,
            chosen=chosen,
        )
        for view in VIEWS[:2]
    ]
    cuts = [cut_drawing(cut(plan.design, materials), label) for cut in (front_cut, plan_cut)]
    return [
        *views,
        *cuts,
        exploded(plan.hive, materials, plan.rows, chosen=chosen),
        stack_of(plan, materials, units),
    ]


def stack_of(plan: BuildPlan, materials: Mapping[str, Material], units: UnitSystem) -> Drawing:
    """Return the hive cut open from the side with the gaps of its stack."""
    section = section_of(plan.design)
    shapes = section_shapes(plan.design, section, materials)
    return stack_drawing(plan, section, shapes, partial(saw_size, units=units), GAP)


def layout_drawings(
    plan: BuildPlan, materials: Mapping[str, Material], units: UnitSystem, chosen: int = 0
) -> list[Drawing]:
    """Return boards, sheets and courses as they are cut."""
    label = partial(saw_size, units=units)

    def fill(key: str) -> str:
        return FILL[materials[key].hatch]

    boards = [
        boards_drawing(x, materials[x.material].name, fill(x.material), label, chosen)
        for x in plan.boards
    ]
    sheets = [
        sheet_drawing(
            layout, k, materials[layout.material].name, fill(layout.material), label, chosen
        )
        for layout in plan.sheets
        for k in range(len(layout.plan.sheets))
    ]
    return [*boards, *sheets, *(course_drawing(w, fill(w.material), label) for w in plan.walls)]


def piece_drawings(
    plan: BuildPlan, materials: Mapping[str, Material], units: UnitSystem
) -> list[Drawing]:
    """Return every row of the list flat on the bench."""
    label = partial(saw_size, units=units)
    return [flat_piece(row, materials[row.piece.material], label) for row in plan.rows]
