"""Designs to propose from: what ships round a cavity, in thicknesses, joints and openings."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace

from calveth.catalogue.library import Frames, make_design, shipped_make_ups
from calveth.catalogue.shipped import shipped_materials
from calveth.core.case import HiveCase
from calveth.core.compare.sweep import insulation_of, with_thickness
from calveth.core.errors import CalvethError
from calveth.core.hive.design import FACES, Design
from calveth.core.hive.forms import cavity_height_m
from calveth.core.hive.opening import is_high
from calveth.core.materials import Material
from calveth.core.year.questions import vented_twin

SIZES_M = (0.02, 0.03, 0.04, 0.05, 0.06, 0.08)
"""Thicknesses tried for what insulates best in walls and lid."""


def candidates(case: HiveCase) -> list[HiveCase]:
    """Return the constructions that fit the cavity of a design, with its place and bees.

    Each as it ships and in `SIZES_M`; with its joints as they ship and filled; with its openings
    as they ship, and with another above or none.
    """
    catalogue = {m.id: m for m in shipped_materials()}
    frames = Frames(id="own", name="own", note="", form=case.design.form)
    table = {**catalogue, **case.materials}
    designs: dict[object, Design] = {}
    for make_up in shipped_make_ups():
        try:
            plain = make_design(make_up, frames)
        except CalvethError:
            continue
        for design in (plain, *_thicknesses(plain, table)):
            for variant in _variants(design):
                key = (variant.shell, variant.openings, variant.joints)
                designs.setdefault(key, variant)
    return [replace(case, design=d, materials=table) for d in designs.values()]


def _thicknesses(plain: Design, table: Mapping[str, Material]) -> Iterator[Design]:
    """Give a design with what insulates best in each face in `SIZES_M`; none where nothing does."""
    for size in SIZES_M:
        design = plain
        for face in FACES:
            stack = design.shell.stack(face)
            if table[stack[insulation_of(stack, table)].material].conductivity_w_mk < 0.06:
                design = with_thickness(design, face, insulation_of(stack, table), size)
        if design is not plain:
            millimetres = f"{1000 * size:.0f}"
            yield replace(
                design, name=f"{plain.name}, {millimetres} mm", id=f"{plain.id}-{millimetres}"
            )


def _variants(design: Design) -> Iterator[Design]:
    """Give a design with joints and openings as they are and otherwise, named by what differs."""
    for made in _breathing(design):
        yield made
        if made.joints != "filled":
            yield replace(
                made, joints="filled", name=f"{made.name}, joints filled", id=f"{made.id}-filled"
            )


def _breathing(design: Design) -> Iterator[Design]:
    """Give a design as it breathes, with a hole under the lid, and with nothing open above."""
    yield design
    if not design.form.of_boards:
        return
    height = cavity_height_m(design.form)
    low = tuple(o for o in design.openings if not is_high(o, height))
    if len(low) == len(design.openings):
        with_hole = vented_twin(design)
        yield replace(with_hole, name=f"{design.name}, hole under the lid", id=f"{design.id}-hole")
    elif low:
        yield replace(
            design, openings=low, name=f"{design.name}, closed above", id=f"{design.id}-closed"
        )
