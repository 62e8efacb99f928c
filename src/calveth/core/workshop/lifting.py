"""Guidance for lifting: two published limits, and what would help.

Guidance for work, entered from memory of the standards; half-full boxes, single frames or a second
person are the remedy, and local rules decide.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from calveth.core import constants_lifting as cl
from calveth.core.colony.colony import Colony
from calveth.core.errors import CalvethError, require_between
from calveth.core.hive.design import Design
from calveth.core.hive.forms import StackedBoxes
from calveth.core.materials import Material
from calveth.core.message import Message, Value, message
from calveth.core.solids.build import build_solids
from calveth.core.solids.shapes import volume_m3
from calveth.core.workshop.weights import Lift, full_comb_kg, is_trough, lifts_of

# From the ankles to the load: a body's half depth, NIOSH equation of 1991 [cm].
_BODY_CM, _LOWEST_GRIP_CM = 20.0, 25.0
# A box that is lower by this is another box [m].
_LOWER_M = 0.01

Coupling = Literal["good", "fair", "poor"]
Verdict = Literal["fine", "hard", "too heavy"]
_HARD = 3.0
# A box is set down about knee-high away from where it stood; our estimate [cm].
_TRAVEL_CM = 40.0
# Boxes the trade knows as medium and shallow [m], and a narrower one; common practice.
_MEDIUM_M, _SHALLOW_M = 0.168, 0.092
_FEWER_FRAMES = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class LiftVerdict:
    """A lift held against the guidelines.

    ``limit_kg`` is the recommended weight for one person at this reach and height, ``index`` the
    full weight over it, None where nobody may lift it so; ``two_kg`` what two persons may lift by
    ISO 11228-1. What ``stays`` in its place is worked comb by comb and judged empty, as it is
    carried there.
    """

    lift: Lift
    limit_kg: float
    index: float | None
    verdict: Verdict
    two_kg: float
    stays: bool = False

    @property
    def needs_two(self) -> bool:
        """Whether two persons may lift it full where one may not."""
        return self.lift.full_kg > cl.LIFT_MEN.value and self.lift.full_kg <= self.two_kg


def recommended_kg(
    reach_cm: float, height_cm: float, travel_cm: float, turn_deg: float, coupling: Coupling
) -> float:
    """Return the recommended weight limit of the revised NIOSH equation [kg].

    RWL = 23·(25/H)·(1 − 0.003·|V − 75|)·(0.82 + 4.5/D)·(1 − 0.0032·A)·FM·CM with one lift in five
    minutes or less (FM = 1); Waters et al. 1993, from memory. A reach above 63 cm, hands above
    175 cm or a turn above 135° allow nothing.

    >>> round(recommended_kg(25, 75, 25, 0, "good"), 1)
    23.0
    """
    for name, value in (
        ("reach", reach_cm),
        ("height of the hands", height_cm),
        ("travel", travel_cm),
        ("turn", turn_deg),
    ):
        require_between(name, value, 0, 1000)
    if reach_cm > 63 or height_cm > 175 or turn_deg > 135 or travel_cm > 175:
        return 0.0
    reach = 25 / max(reach_cm, 25.0)
    height = 1 - 0.003 * abs(height_cm - 75)
    travel = 1.0 if travel_cm <= 25 else 0.82 + 4.5 / travel_cm
    turn = 1 - 0.0032 * turn_deg
    grip = {"good": 1.0, "fair": 1.0 if height_cm >= 75 else 0.95, "poor": 0.9}[coupling]
    return cl.LIFT_CONSTANT.value * reach * height * travel * turn * grip


def judge(lift: Lift, design: Design) -> LiftVerdict:
    """Return a lift held against the guidelines, full, by one person and by two."""
    grips = design.details.grips
    coupling: Coupling = {"none": "poor", "cut-outs": "fair", "cleats": "good"}[grips]  # type: ignore[assignment]
    reach = _BODY_CM + 100 * lift.deep_m / 2
    limit = recommended_kg(
        reach, max(100 * lift.grip_m, _LOWEST_GRIP_CM), _TRAVEL_CM, 0.0, coupling
    )
    stays = _stays(lift) and (is_trough(design) or not can_be_lifted(design))
    kilos = lift.empty_kg if stays else lift.full_kg
    index = kilos / limit if limit > 0 else None
    two = cl.TWO_PERSONS.value * 2 * cl.LIFT_MEN.value
    verdict: Verdict = "too heavy"
    if index is not None:
        verdict = "fine" if index <= 1 else "hard" if index <= _HARD else "too heavy"
    return LiftVerdict(
        lift=lift, limit_kg=limit, index=index, verdict=verdict, two_kg=two, stays=stays
    )


def single_comb_kg(design: Design) -> float | None:
    """Return the weight of one full comb [kg]; None where there are no movable ones."""
    form = design.form
    if isinstance(form, StackedBoxes):
        return full_comb_kg(
            form.frame_length_m, form.frame_height_m, form.frame_thickness_m, cl.COMB_FILL.value
        )
    if form.has_bars:
        hive = build_solids(design)
        honey = cl.HONEY_DENSITY.value * cl.COMB_FILL.value
        return honey * volume_m3(hive.frames[0], hive.bend) + cl.TOP_BAR.value
    return None


def what_helps(
    design: Design, materials: Mapping[str, Material], colony: Colony
) -> tuple[Message, ...]:
    """Return remedies for the heaviest full lift, each with the weight it makes of it."""
    hive = build_solids(design)
    lifts = [x for x in lifts_of(design, hive, materials, colony) if x.part.role != "legs"]
    judged = [judge(x, design) for x in lifts]
    heavy = [j for j in judged if j.verdict != "fine" and not j.stays]
    if not heavy:
        return ()
    messages = []
    boxes = [j.lift for j in heavy if j.lift.part.role == "box"]
    form = design.form
    if boxes and isinstance(form, StackedBoxes):
        for changed, name in _lighter(form):
            try:
                other = replace(design, form=changed, openings=(), window=None)
                new = lifts_of(other, build_solids(other), materials, colony)
            except CalvethError:
                continue
            kg = max(x.full_kg for x in new if x.part.role == "box")
            messages.append(message(name, kg=Value(kg, "mass", 0)))
    comb = single_comb_kg(design)
    if comb is not None and boxes:
        messages.append(message("combs one by one", kg=Value(comb, "mass", 1)))
    lids = [j.lift for j in heavy if j.lift.part.role in ("lid", "cover lid", "cover", "quilt")]
    for lift in lids[:1]:
        messages.append(message("divided lid", kg=Value(lift.full_kg / 2, "mass", 0)))
    return tuple(messages)


def _stays(lift: Lift) -> bool:
    """Return whether a part is set up once and stays."""
    return lift.part.role in ("box", "trough", "floor", "trunk")


def _lighter(form: StackedBoxes) -> list[tuple[StackedBoxes, str]]:
    """Return shallower boxes and fewer frames that would be lighter."""
    spare = form.box_height_m - form.frame_height_m
    lighter_ways = []
    for height, name in ((_MEDIUM_M, "medium boxes"), (_SHALLOW_M, "shallow boxes")):
        if form.box_height_m > height + _LOWER_M:
            lighter_ways.append(
                (replace(form, box_height_m=height, frame_height_m=height - spare), name)
            )
    if form.frame_count > _FEWER_FRAMES and form.frames_in_use == 0:
        lighter_ways.append((replace(form, frame_count=_FEWER_FRAMES), "eight frames"))
    return lighter_ways


def can_be_lifted(design: Design) -> bool:
    """Return whether a hive comes apart into what a person lifts; a trunk does not."""
    return design.form.of_boards
