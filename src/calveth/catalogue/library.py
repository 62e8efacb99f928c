"""What a new hive is begun from: places, frames and make-ups."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import cache
from typing import TypeVar

from calveth.catalogue.shipped import demo_project, read_data, shipped_materials
from calveth.core.climate.place import Place
from calveth.core.colony.curves import Strength, curves_for
from calveth.core.errors import DomainError
from calveth.core.hive.design import Design, Shell, Tightness
from calveth.core.hive.forms import (
    Form,
    StackedBoxes,
    cavity_height_m,
    has_neighbour,
    is_divided,
    side_spans_m,
)
from calveth.core.hive.joinery import Joinery
from calveth.core.hive.opening import Opening
from calveth.core.materials import Material
from calveth.core.project import Project
from calveth.core.school import School
from calveth.core.workshop.stock import Workshop
from calveth.store.converter import from_document


@dataclass(frozen=True, slots=True, kw_only=True)
class ShippedPlace:
    """An invented place that stands for a climate."""

    id: str
    climate: str
    hint: str
    place: Place


@dataclass(frozen=True, slots=True, kw_only=True)
class Frames:
    """A cavity by its frames, named by dimensions."""

    id: str
    name: str
    note: str
    form: Form


@dataclass(frozen=True, slots=True, kw_only=True)
class MakeUp:
    """A construction to start from; ``openings`` are kinds of `opening_of_kind`."""

    id: str
    name: str
    note: str
    shell: Shell
    openings: tuple[str, ...]
    joints: Tightness = "planed"
    has_tray: bool = False
    rack_m: float = 0.0
    joinery: Joinery = field(default_factory=Joinery)


@cache
def shipped_places() -> tuple[ShippedPlace, ...]:
    """Return the invented places, one for each climate."""
    return from_document(read_data("places.json"), tuple[ShippedPlace, ...])


@cache
def shipped_frames() -> tuple[Frames, ...]:
    """Return the cavities to start from."""
    return from_document(read_data("frames.json"), tuple[Frames, ...])


@cache
def shipped_make_ups() -> tuple[MakeUp, ...]:
    """Return the make-ups to start from."""
    return from_document(read_data("makeups.json"), tuple[MakeUp, ...])


@dataclass(frozen=True, slots=True, kw_only=True)
class Stock:
    """A stock list to start from, in the sizes of a part of the world."""

    name: str
    workshop: Workshop


@cache
def shipped_stock() -> tuple[Stock, ...]:
    """Return the stock lists to start from: metric sizes, and inch ones with nominal names."""
    return from_document(read_data("stock.json"), tuple[Stock, ...])


def workshop_of(project: Project) -> Workshop:
    """Return what a project cuts from: its own list, the shipped metric one while it has none."""
    workshop = project.workshop
    if workshop.items:
        return workshop
    return replace(workshop, items=shipped_stock()[0].workshop.items)


Row = TypeVar("Row", ShippedPlace, Frames, MakeUp)


def named(what: str, name: str, rows: tuple[Row, ...]) -> Row:
    """Return the row with an id or name.

    Raises
    ------
    DomainError
        When there is none; it names those there are.
    """
    for row in rows:
        if name.casefold() in (row.id, _title(row).casefold()):
            return row
    known = ", ".join(row.id for row in rows)
    raise DomainError(what, name, f"is not known; choose one of {known}")


def _title(row: ShippedPlace | Frames | MakeUp) -> str:
    return row.place.name if isinstance(row, ShippedPlace) else row.name


def opening_of_kind(kind: str, form: Form) -> Opening:
    """Return an opening as the trade makes it, fitted to a cavity; common practice, no source."""
    return _OPENINGS[kind](form)


def _low_slot(form: Form) -> Opening:
    width = min(0.1016, 0.8 * side_spans_m(form)[0])
    return Opening(
        id="low",
        name="low entrance",
        shape="slot",
        bottom_m=0.003,
        width_m=width,
        height_m=min(0.0127, 0.3 * cavity_height_m(form)),
    )


def _neighbours(form: Form) -> Opening:
    """Return an entrance of the second colony: in the front of its own room."""
    span = side_spans_m(form)[0]
    divided = is_divided(form)
    begin = form.colony_width_m if divided else 0.5 * span
    low = _low_slot(form)
    room = max(span - begin, 0.05)
    width = min(low.width_m, 0.6 * room)
    return replace(
        low,
        id="second",
        name="neighbour's entrance",
        width_m=round(width, 4),
        along_m=round(begin + room / 2, 4),
    )


def _hole(opening_id: str, name: str, diameter: float, from_top: float, form: Form) -> Opening:
    bottom = max(0.0, cavity_height_m(form) - from_top - diameter)
    return Opening(
        id=opening_id,
        name=name,
        shape="hole",
        bottom_m=round(bottom, 4),
        width_m=diameter,
        height_m=diameter,
    )


def _rim_vents(form: Form) -> Opening:
    return Opening(
        id="vents",
        name="vents in the rim",
        shape="row of holes",
        side="back",
        count=4,
        bottom_m=round(cavity_height_m(form) - 0.02, 4),
        width_m=0.012,
        height_m=0.012,
        mesh_share=0.6,
    )


def _row(_: Form) -> Opening:
    return Opening(
        id="row",
        name="row of holes",
        shape="row of holes",
        count=6,
        bottom_m=0.02,
        width_m=0.0159,
        height_m=0.0159,
    )


def _lid_gap(_: Form) -> Opening:
    return Opening(
        id="gap",
        name="gap under the lid",
        shape="lid gap",
        side="back",
        bottom_m=0.0,
        width_m=2.0,
        height_m=0.003,
    )


def _screen(form: Form) -> Opening:
    width = form.spans_m[0]
    if has_neighbour(form):
        width = form.colony_width_m  # the neighbour has its own
    length = form.section[0][0]  # a floor between leaning sides is narrower than the trough
    return Opening(
        id="screen",
        name="screened floor",
        shape="screen",
        side="floor",
        bottom_m=0.0,
        width_m=round(0.85 * width, 3),
        height_m=round(0.85 * length, 3),
        mesh_share=0.5,
    )


def _feed_hole(_: Form) -> Opening:
    return Opening(
        id="feed",
        name="feed hole",
        shape="hole",
        side="lid",
        bottom_m=0.0,
        width_m=0.04,
        height_m=0.04,
    )


def _tunnel(form: Form) -> Opening:
    return Opening(
        id="tunnel",
        name="round entrance with a lift",
        shape="hole",
        bottom_m=0.02,
        width_m=0.03,
        height_m=0.03,
        lift_m=round(min(0.15, 0.5 * cavity_height_m(form)), 3),
    )


_OPENINGS: dict[str, Callable[[Form], Opening]] = {
    "low slot": _low_slot,
    "entrance at the back": lambda form: replace(
        _low_slot(form), id="back", name="entrance at the back", side="back", free_share=0.0
    ),
    "neighbour's entrance": _neighbours,
    "upper hole": lambda form: _hole("high", "upper hole", 0.019, 0.05, form),
    "row of holes": _row,
    "vents in the rim": _rim_vents,
    "gap under the lid": _lid_gap,
    "floor screen": _screen,
    "feed hole": _feed_hole,
    "entrance with a lift": _tunnel,
    "bee hole": lambda form: _hole("hole", "bee hole", 0.008, cavity_height_m(form) - 0.03, form),
    "knot hole": lambda form: _hole("knot", "knot hole", 0.04, cavity_height_m(form) - 0.24, form),
}
OPENING_KINDS = tuple(_OPENINGS)
"""Kinds of openings that can be added."""


_DOME_DEG = 45.0
"""Slope of the top of a hollow at its edge: rot leaves it domed; common practice, no source."""


def make_design(make_up: MakeUp, frames: Frames, design_id: str = "", name: str = "") -> Design:
    """Return a design of a make-up around a cavity.

    Raises
    ------
    DomainError
        When an opening does not fit the cavity.
    """
    form = frames.form
    if isinstance(form, StackedBoxes) and make_up.rack_m:
        form = replace(form, rack_m=make_up.rack_m)
    kinds = make_up.openings
    tree = not form.of_boards
    if tree:
        kinds = ("knot hole",)
    return Design(
        id=design_id or make_up.id,
        name=name or make_up.name,
        form=form,
        shell=make_up.shell,
        openings=tuple(opening_of_kind(kind, form) for kind in kinds),
        joints=make_up.joints,
        has_tray=make_up.has_tray,
        joinery=make_up.joinery,
        lid_slope_deg=_DOME_DEG if tree else 0.0,
        lid_shape="domed" if tree else "sloped",
        note=make_up.note,
    )


def materials_of(design: Design) -> tuple[Material, ...]:
    """Return the catalogue's materials a design is made of."""
    table = {m.id: m for m in shipped_materials()}
    return tuple(table[key] for key in design.material_ids)


def new_project(
    name: str,
    place: ShippedPlace,
    frames: Frames,
    make_up: MakeUp,
    strength: Strength = "normal",
    school: School = "sealed warm top",
) -> Project:
    """Return a project with one design of its own and the two benchmarks."""
    design = make_design(make_up, frames)
    benchmarks = tuple(d for d in demo_project().designs if d.benchmark and d.id != design.id)
    designs = (design, *benchmarks)
    used = {m.id: m for d in designs for m in materials_of(d)}
    return Project(
        name=name,
        place=place.place,
        colony=curves_for(place.place, strength),
        materials=tuple(used.values()),
        designs=designs,
        school=school,
    )
