"""A second project that ships: five hives that are built in five ways, for the area Build."""

from __future__ import annotations

from dataclasses import replace
from functools import cache

from calveth.catalogue.library import (
    make_design,
    materials_of,
    named,
    opening_of_kind,
    shipped_frames,
    shipped_make_ups,
)
from calveth.catalogue.shipped import demo_project
from calveth.core.hive.design import Design
from calveth.core.hive.details import Details
from calveth.core.hive.forms import LittleBoxes
from calveth.core.project import Project


@cache
def workshop_project() -> Project:
    """Return the workshop: sleeve, aircrete trough, trapezoid, stingless stack, cast hive.

    They stand at the demo's invented place; the plain box stays to compare with.
    """
    demo = demo_project()
    plain = next(d for d in demo.designs if d.id == "plain-boards")
    designs = (_sleeve(), _trough(), _trapezoid(), _stingless(), _cast(), plain)
    used = {m.id: m for d in designs for m in materials_of(d)}
    return replace(
        demo,
        name="Workshop examples",
        materials=tuple(used.values()),
        designs=designs,
        school="sealed warm top",
    )


def _made(make_up: str, frames: str, key: str, name: str) -> Design:
    return make_design(
        named("make-up", make_up, shipped_make_ups()),
        named("frames", frames, shipped_frames()),
        key,
        name,
    )


def _sleeve() -> Design:
    design = _made("sleeve", "deep-10x2", "sleeve", "Box in a sleeve")
    details = Details(grips="cleats", drip_edge=True, strap="to ground anchors", tool_bevel=True)
    joinery = replace(
        design.joinery, stand="legs", corner_cut="rebate", leg_high_m=0.3, entrance="solid block"
    )
    return replace(design, joinery=joinery, details=details)


def _trough() -> Design:
    design = _made("block-trough", "trough-two", "trough", "Aircrete trough, two colonies")
    second = opening_of_kind("neighbour's entrance", design.form)
    return replace(
        design, openings=(*design.openings, second), details=Details(strap="round hive and stand")
    )


def _trapezoid() -> Design:
    design = _made("heavy", "sloped", "trapezoid", "Trapezoid under bars")
    joinery = replace(design.joinery, stand="legs", leg_high_m=0.45, leg_spread_m=0.12)
    details = Details(hinge=True, grease_cups=True, drip_edge=True, strap="round hive and stand")
    return replace(design, joinery=joinery, details=details)


def _stingless() -> Design:
    design = _made("log-box", "stingless", "stingless", "Stingless stack in a closet")
    form = design.form
    assert isinstance(form, LittleBoxes)
    return replace(
        design,
        form=replace(form, nest_bars=True),
        details=Details(tight_faces=True, rough_inside=True, grease_cups=True),
    )


def _cast() -> Design:
    design = _made("cast", "deep-10x2", "cast", "Cast lightweight concrete")
    return replace(design, details=Details(strap="round hive and stand"))
