"""Bee space, frames that fit, the stack-up under the lid and the fit of a divider.

Bee space is common practice (6 to 9 mm; less is glued, more is built up). How much wood moves is
from the USDA Wood Handbook, from memory.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import floor
from typing import Literal, assert_never

from calveth.core.constants import (
    BEE_SPACE_HIGH,
    BEE_SPACE_LOW,
    LEAST_OVERLAP,
    QUEEN_PASSES,
    WOOD_MOISTURE_SWING,
    WOOD_SHRINKAGE,
)
from calveth.core.hive.design import Design
from calveth.core.hive.forms import (
    BarTrough,
    HiveForm,
    HollowTree,
    LittleBoxes,
    StackedBoxes,
    is_divided,
)
from calveth.core.message import Message, Value, message
from calveth.core.solids.faults import covered_openings

_LEAST_DIVIDER_M = 0.05

Verdict = Literal["right", "glued", "built up", "note"]
PITCHES_M = (0.032, 0.033, 0.035, 0.038)
"""Pitches frames are asked for: 32 mm for small cells, 35 mm, 38 mm for wide spacing [m]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Clearance:
    """A gap in the hive [m] and what bees make of it, or a remark on the fit.

    ``id`` names the gap; a rim that comes down over an opening has the opening's name besides.
    """

    id: str
    gap_m: float | None
    verdict: Verdict
    message: Message
    opening: str = ""


def bee_space(id_: str, gap_m: float) -> Clearance:
    """Return a gap with what bees make of it: glue below, comb above bee space."""
    if gap_m < BEE_SPACE_LOW.value - 1e-9:
        return Clearance(id=id_, gap_m=gap_m, verdict="glued", message=message("glue"))
    if gap_m > BEE_SPACE_HIGH.value + 1e-9:
        return Clearance(id=id_, gap_m=gap_m, verdict="built up", message=message("comb"))
    return Clearance(id=id_, gap_m=gap_m, verdict="right", message=message("bee space"))


def clearances(design: Design) -> list[Clearance]:
    """Return the gaps and fits of a design; none for a hollow tree."""
    form = design.form
    gaps: list[Clearance] = []
    match form:
        case StackedBoxes():
            gaps += _of_frames(form)
        case BarTrough():
            gaps.append(bee_space("comb to slope", form.comb_clearance_m))
        case LittleBoxes():
            gaps.append(
                Clearance(
                    id="behind plates",
                    gap_m=form.plate_gap_m,
                    verdict="note",
                    message=message("small bees pass"),
                )
            )
        case HollowTree():
            pass
        case _:
            assert_never(form)
    if is_divided(form):
        gaps.append(_divider(form))
    gaps += _stack_up(design)
    return gaps


def _of_frames(form: StackedBoxes) -> list[Clearance]:
    beside = form.side_clearance_m + (form.frame_pitch_m - form.frame_thickness_m) / 2
    gaps = [
        bee_space("frame ends", form.end_clearance_m),
        Clearance(
            id="outer frame",
            gap_m=beside,
            verdict="note",
            message=message("beside comb"),
        ),
        bee_space("above frames", form.box_height_m - form.frame_height_m),
    ]
    if form.rack_m == 0 and form.bottom_space_m > 0:
        gaps.append(
            Clearance(
                id="under frames",
                gap_m=form.bottom_space_m,
                verdict="note",
                message=message("below comb"),
            )
        )
    return gaps


def frames_that_fit(form: StackedBoxes, pitch_m: float) -> int:
    """Return how many frames of a pitch hang in the box with bee space at both sides."""
    width = form.spans_m[0]
    return max(0, floor((width - 2 * _side(form)) / pitch_m + 1e-9))


def _side(form: StackedBoxes) -> float:
    """Return what a side needs beyond half the pitch [m]: bee space, less the gap of two frames."""
    return max(0.0, BEE_SPACE_LOW.value - (form.frame_pitch_m - form.frame_thickness_m) / 2)


def _divider(form: HiveForm) -> Clearance:
    """Return how much play a divider may have when its boards dry."""
    wide = max(form.height_m, _LEAST_DIVIDER_M)
    shrinks = wide * WOOD_SHRINKAGE.value * WOOD_MOISTURE_SWING.value
    passes = QUEEN_PASSES.value
    queen = Value(passes, "length", 1, 2)
    note = message("queen passes", queen=queen)
    if shrinks >= passes:
        note = message("let it slide", queen=queen, shrinks=Value(shrinks, "length", 1, 2))
    return Clearance(id="divider", gap_m=shrinks, verdict="note", message=note)


def _stack_up(design: Design) -> list[Clearance]:
    """Return whether the lid still closes after a shim, and what its rim covers."""
    if design.joinery.lid not in ("insulation past the rim", "telescoping rim"):
        return []
    spare = design.joinery.overlap_m - LEAST_OVERLAP.value
    gaps = [
        Clearance(
            id="shim",
            gap_m=max(spare, 0.0),
            verdict="note",
            message=message("under boxes", down=Value(LEAST_OVERLAP.value, "length", 0, 2)),
        )
    ]
    gaps += [
        Clearance(
            id="rim",
            gap_m=None,
            verdict="glued",
            message=message("rim over it"),
            opening=name,
        )
        for name in covered_openings(design)
    ]
    return gaps
