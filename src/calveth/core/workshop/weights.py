"""What every part weighs, empty, in February and full, and where it balances with its load.

Frames, combs, honey and bees count: half of a hive's weight is none of the material. Loads are
estimates; the range of a full part comes from how full combs are.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

from calveth.core import constants_lifting as cl
from calveth.core.colony.colony import Colony
from calveth.core.hive.design import Design
from calveth.core.hive.forms import LittleBoxes
from calveth.core.materials import Material
from calveth.core.remembered import remembered
from calveth.core.solids.openings_cut import part_at
from calveth.core.solids.parts import HiveSolids, PartId
from calveth.core.solids.quantities import solid_weights_kg
from calveth.core.solids.shapes import Cuboid, Ring, bounds, centre_m, volume_m3

# A height in the lowest box of any hive [m].
_LOW_M = 0.1

State = Literal["empty", "february", "full"]
STATES: tuple[State, ...] = ("empty", "february", "full")
_FEBRUARY, _HIGH_SUMMER = 1, 6
_BARS_MOVED = ("slatted rack",)


@dataclass(frozen=True, slots=True, kw_only=True)
class Mass:
    """A mass [kg] with its middle [m] and the part it is lifted with."""

    part: PartId
    kg: float
    at_m: tuple[float, float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Lift:
    """What a person lifts in one go.

    Attributes
    ----------
    part : PartId
        The part.
    empty_kg, february_kg, full_kg : float
        [kg].
    full_low_kg, full_high_kg : float
        The range of the full one, from how full combs are [kg].
    deep_m : float
        Its shorter side across, which is held away from the body [m].
    grip_m : float
        Height of the hands above the ground [m].
    bottom_m, top_m : float
        From where to where it reaches, above the floor's inner face [m].
    """

    part: PartId
    empty_kg: float
    february_kg: float
    full_kg: float
    full_low_kg: float
    full_high_kg: float
    deep_m: float
    grip_m: float
    bottom_m: float
    top_m: float

    def kg(self, state: State) -> float:
        """Return the weight in a state [kg]."""
        return {"empty": self.empty_kg, "february": self.february_kg, "full": self.full_kg}[state]


def full_comb_kg(length_m: float, height_m: float, thickness_m: float, fill: float) -> float:
    """Return the weight of a full framed comb [kg]: wood and wax by its area, and honey.

    >>> round(full_comb_kg(0.448, 0.232, 0.025, 0.8), 2)
    2.72
    """
    return empty_frame_kg(length_m, height_m) + honey_in_frame_kg(
        length_m, height_m, thickness_m, fill
    )


def empty_frame_kg(length_m: float, height_m: float) -> float:
    """Return the weight of an empty frame with its comb [kg].

    Parameters
    ----------
    length_m : float
        Of the frame [m].
    height_m : float
        Of the frame [m].
    """
    return cl.FRAME_EMPTY.value * length_m * height_m / cl.FRAME_AREA.value


def honey_in_frame_kg(length_m: float, height_m: float, thickness_m: float, fill: float) -> float:
    """Return the honey of a full comb in a frame [kg].

    Parameters
    ----------
    length_m : float
        Of the frame [m].
    height_m : float
        Of the frame [m].
    thickness_m : float
        Of the comb [m].
    fill : float
        Share of the comb that is honey [-].
    """
    long = max(length_m - cl.COMB_SIDE.value, 0.0)
    high = max(height_m - cl.COMB_BAR.value, 0.0)
    return cl.HONEY_DENSITY.value * fill * thickness_m * long * high


@remembered(16)
def _empty_masses(hive: HiveSolids, table: frozenset[tuple[str, Material]]) -> tuple[Mass, ...]:
    """Return what the hive itself weighs; the same in every state, so it is worked out once."""
    materials = dict(table)
    masses = [
        Mass(part=solid.lifted_with, kg=kg, at_m=centre_m(solid.shape, hive.bend))
        for solid, kg in solid_weights_kg(hive, materials)
    ]
    for cut in hive.cuts:
        hole = next((h for h in hive.holes if h.opening == cut.opening), None)
        kg = cut.volume_m3 * materials[cut.material].density_kg_m3
        at = hole.shape.centre_m if hole is not None else hive.shell.centre_m
        masses.append(Mass(part=cut.part, kg=-kg, at_m=at))
    return tuple(masses)


def masses_of(
    design: Design,
    hive: HiveSolids,
    materials: Mapping[str, Material],
    colony: Colony,
    state: State,
    fill: float = cl.COMB_FILL.value,
) -> tuple[Mass, ...]:
    """Return all that weighs: pieces with their openings cut out, and the load in a state."""
    used = frozenset((key, materials[key]) for key in design.material_ids)
    masses = list(_empty_masses(hive, used))
    if state == "empty":
        return tuple(masses)
    return (*masses, *_load(design, hive, colony, state, fill))


def _load(
    design: Design, hive: HiveSolids, colony: Colony, state: State, fill: float
) -> list[Mass]:
    """Return frames, honey and bees."""
    form = design.form
    bees = colony.mass_kg[_FEBRUARY if state == "february" else _HIGH_SUMMER]
    if isinstance(form, LittleBoxes):
        return _nest(form, state)
    if not hive.frames:
        return _in_cavity(design, hive, colony, bees, state)
    capacity, frames = [], []
    combs = (*hive.frames, *hive.neighbours)
    for comb in combs:
        wide, high = comb.y1 - comb.y0, comb.z1 - comb.z0
        if form.has_frames:
            honey = honey_in_frame_kg(wide, high, comb.x1 - comb.x0, fill)
            frame = empty_frame_kg(wide, high)
        else:
            honey = cl.HONEY_DENSITY.value * fill * volume_m3(comb, hive.bend)
            frame = empty_frame_kg(wide, high)
        capacity.append(honey)
        frames.append(frame)
    total = sum(capacity)
    # A second colony is taken to be like the first.
    colonies = 2 if hive.neighbours else 1
    left = colonies * colony.stores_kg * cl.FEBRUARY_LEFT.value
    stores = total if state == "full" else min(total, left)
    share = stores / total if total > 0 else 0.0
    return [
        Mass(
            part=part_at((comb.z0 + comb.z1) / 2, form),
            at_m=centre_m(comb, hive.bend),
            kg=frame + honey * share + colonies * bees / len(combs),
        )
        for comb, honey, frame in zip(combs, capacity, frames, strict=True)
    ]


def _nest(form: LittleBoxes, state: State) -> list[Mass]:
    """Return the pots and brood of little boxes, half of it left in February."""
    share = 1.0 if state == "full" else cl.FEBRUARY_LEFT.value
    litres = form.inner_width_m * form.inner_length_m * form.box_height_m
    kg = cl.NEST_FILL.value * cl.NEST_DENSITY.value * litres * share
    return [
        Mass(
            part=PartId(role="box", number=k + 1),
            kg=kg,
            at_m=(form.inner_width_m / 2, form.inner_length_m / 2, (k + 0.5) * form.box_height_m),
        )
        for k in range(form.box_count)
    ]


def _in_cavity(
    design: Design, hive: HiveSolids, colony: Colony, bees: float, state: State
) -> list[Mass]:
    """Return the stores of a hollow without frames, in its middle."""
    left = 1.0 if state == "full" else cl.FEBRUARY_LEFT.value
    return [
        Mass(
            part=part_at(_LOW_M, design.form),
            kg=bees + colony.stores_kg * left,
            at_m=centre_m(hive.cavity, hive.bend),
        )
    ]


def balance_m(masses: tuple[Mass, ...]) -> tuple[float, float, float]:
    """Return where masses balance [m]."""
    total = sum(m.kg for m in masses)
    x, y, z = (sum(m.kg * m.at_m[k] for m in masses) / total for k in range(3))
    return x, y, z


def lifts_of(
    design: Design, hive: HiveSolids, materials: Mapping[str, Material], colony: Colony
) -> tuple[Lift, ...]:
    """Return everything a person lifts, from the ground up."""
    by_state = {s: _by_part(masses_of(design, hive, materials, colony, s)) for s in STATES}
    ends = [
        _by_part(masses_of(design, hive, materials, colony, "full", fill))
        for fill in (cl.COMB_FILL.low or 0.0, cl.COMB_FILL.high or 1.0)
    ]
    boxes = _bounds_by_part(hive)
    ground = min(b.z0 for b in boxes.values())
    lifts = []
    for part, box in boxes.items():
        full = by_state["full"].get(part, 0.0)
        lifts.append(
            Lift(
                part=part,
                empty_kg=by_state["empty"].get(part, 0.0),
                february_kg=by_state["february"].get(part, 0.0),
                full_kg=full,
                full_low_kg=min(ends[0].get(part, 0.0), full),
                full_high_kg=max(ends[1].get(part, 0.0), full),
                deep_m=min(box.x1 - box.x0, box.y1 - box.y0),
                grip_m=(box.z0 + box.z1) / 2 - ground,
                bottom_m=box.z0,
                top_m=box.z1,
            )
        )
    return tuple(sorted(lifts, key=lambda lift: (lift.bottom_m, lift.top_m)))


def _by_part(masses: tuple[Mass, ...]) -> dict[PartId, float]:
    kg_by_part: dict[PartId, float] = {}
    for mass in masses:
        kg_by_part[mass.part] = kg_by_part.get(mass.part, 0.0) + mass.kg
    return kg_by_part


def _bounds_by_part(hive: HiveSolids) -> dict[PartId, Cuboid]:
    """Return the block round every part [m]."""
    by_part: dict[PartId, Cuboid] = {}
    for solid in hive.pieces:
        box, part = bounds(solid.shape, hive.bend), solid.lifted_with
        if part in by_part:
            box = _round_both(by_part[part], box)
        by_part[part] = box
    return by_part


def _round_both(a: Cuboid, b: Cuboid) -> Cuboid:
    return Cuboid(
        x0=min(a.x0, b.x0),
        x1=max(a.x1, b.x1),
        y0=min(a.y0, b.y0),
        y1=max(a.y1, b.y1),
        z0=min(a.z0, b.z0),
        z1=max(a.z1, b.z1),
    )


def footprint_m(hive: HiveSolids) -> tuple[tuple[float, float], ...]:
    """Return the corners [x, y] of what stands on the ground: rails of the stand, else the floor.

    A trunk stands on a square in its circle.
    """
    feet = [s.shape for s in hive.inset if s.role == "legs" and isinstance(s.shape, Cuboid)]
    if feet:
        low = min(f.z0 for f in feet)
        boxes = [f for f in feet if f.z0 < low + 1e-6]
    else:
        floors = [s.shape for s in hive.solids if s.face == "floor"]
        rings = [s for s in floors if isinstance(s, Ring)]
        if rings:
            r, one = rings[0].outer_radius_m, rings[0]
            return ((one.x - r, one.y), (one.x, one.y - r), (one.x + r, one.y), (one.x, one.y + r))
        blocks = [bounds(s, hive.bend) for s in floors]
        low = min(b.z0 for b in blocks)
        boxes = [b for b in blocks if b.z0 < low + 1e-6]
    x0, x1 = min(b.x0 for b in boxes), max(b.x1 for b in boxes)
    y0, y1 = min(b.y0 for b in boxes), max(b.y1 for b in boxes)
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))


LONG_HIVE_FRAMES = 14
"""One box of so many frames or more is worked comb by comb and stays; common practice [-]."""


def is_trough(design: Design) -> bool:
    """Return whether a hive is opened comb by comb and never lifted with its bees."""
    form = design.form
    long = form.has_frames and form.box_count == 1 and form.comb_count >= LONG_HIVE_FRAMES
    return form.has_bars or long
