"""Designs to propose from: every construction that ships round a cavity, in several thicknesses."""

from __future__ import annotations

from dataclasses import replace

from calveth.catalogue.library import Frames, make_design, shipped_make_ups
from calveth.catalogue.shipped import shipped_materials
from calveth.core.case import HiveCase
from calveth.core.compare.sweep import insulation_of, with_thickness
from calveth.core.errors import CalvethError
from calveth.core.hive.design import FACES, Design

SIZES_M = (0.02, 0.03, 0.04, 0.05, 0.06, 0.08)
"""Thicknesses tried for what insulates best in walls and lid."""


def candidates(case: HiveCase) -> list[HiveCase]:
    """Return the constructions that fit the cavity of a design, with its place and bees."""
    catalogue = {m.id: m for m in shipped_materials()}
    frames = Frames(id="own", name="own", note="", form=case.design.form)
    table = {**catalogue, **case.materials}
    found: dict[object, Design] = {}
    for make_up in shipped_make_ups():
        try:
            plain = make_design(make_up, frames)
        except CalvethError:
            continue
        found.setdefault((plain.shell, plain.openings), plain)
        for size in SIZES_M:
            design = plain
            for face in FACES:
                stack = design.shell.stack(face)
                if table[stack[insulation_of(stack, table)].material].conductivity_w_mk < 0.06:
                    design = with_thickness(design, face, insulation_of(stack, table), size)
            if design is plain:
                continue
            name = f"{make_up.name}, {1000 * size:.0f} mm"
            key = f"{make_up.id}-{1000 * size:.0f}"
            found.setdefault(
                (design.shell, design.openings), replace(design, name=name, id=key)
            )  # fmt: skip
    return [replace(case, design=d, materials=table) for d in found.values()]
