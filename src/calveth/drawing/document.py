"""A section as a file, written in one move."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

from calveth.core.hive.design import Design
from calveth.core.materials import Material
from calveth.core.solids.section import section_of
from calveth.drawing.colors import PRINT
from calveth.drawing.section import section_shapes
from calveth.drawing.svg import section_svg
from calveth.store.json_file import write_text


def write_section(
    path: Path, design: Design, materials: Mapping[str, Material], scale: float
) -> None:
    """Write a hive cut open as SVG, 1 to ``scale``; what is printed is light.

    Raises
    ------
    FileError
        When the folder cannot be written.
    """
    shapes = section_shapes(design, section_of(design), materials)
    write_text(path, section_svg(shapes, PRINT, title=design.name, scale=scale))
