"""Bee space, frames that fit, the stack-up under the lid and the fit of a divider.

Bee space is common practice (6 to 9 mm; less is glued, more is built up). How much wood moves is
from the USDA Wood Handbook, from memory.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import floor
from typing import Literal

from calveth.core.constants import (
    BEE_SPACE_HIGH,
    BEE_SPACE_LOW,
    LEAST_OVERLAP,
    QUEEN_PASSES,
    WOOD_MOISTURE_SWING,
    WOOD_SHRINKAGE,
)
from calveth.core.hive.design import Design
from calveth.core.hive.faults import covered_openings
from calveth.core.hive.forms import BarTrough, LittleBoxes, StackedBoxes

Verdict = Literal["right", "glued", "built up", "note"]
PITCHES_M = (0.032, 0.033, 0.035, 0.038)
"""Pitches frames are asked for: 32 mm for small cells, 35 mm, 38 mm for wide spacing [m]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Clearance:
    """A gap in the hive [m] and what bees make of it, or a remark on the fit."""

    name: str
    gap_m: float | None
    verdict: Verdict
    text: str = ""


def bee_space(name: str, gap_m: float) -> Clearance:
    """Return a gap with what bees make of it: glue below, comb above bee space."""
    if gap_m < BEE_SPACE_LOW.value - 1e-9:
        return Clearance(name=name, gap_m=gap_m, verdict="glued", text="bees glue it")
    if gap_m > BEE_SPACE_HIGH.value + 1e-9:
        return Clearance(name=name, gap_m=gap_m, verdict="built up", text="bees build into it")
    return Clearance(name=name, gap_m=gap_m, verdict="right", text="bee space")


def clearances(design: Design) -> list[Clearance]:
    """Return the gaps and fits of a design; none for a hollow tree."""
    form = design.form
    found: list[Clearance] = []
    if isinstance(form, StackedBoxes):
        found += _of_frames(form)
    elif isinstance(form, BarTrough):
        found.append(bee_space("comb to the sloped wall", form.comb_clearance_m))
    elif isinstance(form, LittleBoxes):
        found.append(
            Clearance(
                name="gap at the back of the plates", gap_m=form.plate_gap_m, verdict="note",
                text="10 to 15 mm let small bees through (common practice)",
            )
        )  # fmt: skip
    if isinstance(form, StackedBoxes | BarTrough) and form.frames_in_use:
        found.append(_divider(form))
    found += _stack_up(design)
    return found


def _of_frames(form: StackedBoxes) -> list[Clearance]:
    beside = form.side_clearance_m + (form.frame_pitch_m - form.frame_thickness_m) / 2
    found = [
        bee_space("frame ends to the wall", form.end_clearance_m),
        Clearance(
            name="outer frame to the wall", gap_m=beside, verdict="note",
            text="side of a comb to the wall; 6 to 20 mm in use",
        ),
        bee_space("above the frames", form.box_height_m - form.frame_height_m),
    ]  # fmt: skip
    if form.rack_m == 0 and form.bottom_space_m > 0:
        found.append(
            Clearance(
                name="under the frames", gap_m=form.bottom_space_m, verdict="note",
                text="6 to 20 mm; more wants a slatted rack",
            )
        )  # fmt: skip
    return found


def frames_that_fit(form: StackedBoxes, pitch_m: float) -> int:
    """Return how many frames of a pitch hang in the box with bee space at both sides."""
    width = form.spans_m[0]
    return max(0, floor((width - 2 * _side(form)) / pitch_m + 1e-9))


def _side(form: StackedBoxes) -> float:
    """Return what a side needs beyond half the pitch [m]: bee space, less the gap of two frames."""
    return max(0.0, BEE_SPACE_LOW.value - (form.frame_pitch_m - form.frame_thickness_m) / 2)


def _divider(form: StackedBoxes | BarTrough) -> Clearance:
    """Return how much play a divider may have when its boards dry."""
    wide = max(form.height_m, 0.05)
    shrinks = wide * WOOD_SHRINKAGE.value * WOOD_MOISTURE_SWING.value
    passes = QUEEN_PASSES.value
    text = f"no gap round it may reach {1000 * passes:.1f} mm, a queen passes"
    if shrinks >= passes:
        text += f"; a board as high shrinks {1000 * shrinks:.1f} mm when it dries: let it slide"
    return Clearance(name="divider or follower board", gap_m=shrinks, verdict="note", text=text)


def _stack_up(design: Design) -> list[Clearance]:
    """Return whether the lid still closes after a shim, and what its rim covers."""
    if design.joinery.lid not in ("insulation past the rim", "telescoping rim"):
        return []
    spare = design.joinery.overlap_m - LEAST_OVERLAP.value
    found = [
        Clearance(
            name="shim or rim that can be put in", gap_m=max(spare, 0.0), verdict="note",
            text=f"under boxes in a fixed sleeve; more, and the lid no longer comes "
            f"{1000 * LEAST_OVERLAP.value:.0f} mm down",
        )
    ]  # fmt: skip
    found += [
        Clearance(
            name=name, gap_m=None, verdict="glued",
            text="the rim of the lid comes down over it: cut the rim out, or move it",
        )
        for name in covered_openings(design)
    ]  # fmt: skip
    return found
