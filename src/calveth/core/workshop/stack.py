"""The stack seen from the side: every gap between frames, boxes and lid, and what tolerances do.

Bee space is common practice (6 to 9 mm). Tools are exact to their tolerance; boards move with the
season across their grain, so that a box of boards is higher in a wet autumn than in a dry spring.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, assert_never

from calveth.core import constants as c
from calveth.core import constants_building as cb
from calveth.core.hive.design import Design
from calveth.core.hive.forms import (
    BOTH,
    BarTrough,
    HollowTree,
    LittleBoxes,
    StackedBoxes,
    is_divided,
)
from calveth.core.materials import Material
from calveth.core.message import Message, Value, message
from calveth.core.solids.clearances import PITCHES_M, Verdict, bee_space, frames_that_fit
from calveth.core.solids.openings_cut import colony_openings
from calveth.core.workshop.block_walls import BlockWall
from calveth.core.workshop.stock import Workshop

# Less is not worth a word [m].
_TOLD_M = 0.0005
# What is thinner is a film or a coat and does not move a box [m].
_BOARD_M = 0.003

GapKind = Literal["under frames", "between boxes", "above frames", "feed room", "plate gap"]


@dataclass(frozen=True, slots=True, kw_only=True)
class StackGap:
    """A gap of the stack: from where to where [m], and what bees make of it.

    ``low_m`` and ``high_m`` are how narrow and wide it gets by tools and season.
    """

    kind: GapKind
    number: int
    z0_m: float
    z1_m: float
    low_m: float
    high_m: float
    verdict: Verdict

    @property
    def gap_m(self) -> float:
        """Height of the gap as designed [m]."""
        return self.z1_m - self.z0_m

    @property
    def stays(self) -> bool:
        """Whether it is bee space in every season and for every cut."""
        return (
            self.low_m >= c.BEE_SPACE_LOW.value - 1e-9
            and self.high_m <= c.BEE_SPACE_HIGH.value + 1e-9
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class StackUp:
    """All gaps from the floor up, and remarks on shims, frames, lid and divider."""

    gaps: tuple[StackGap, ...]
    says: tuple[Message, ...]


def stack_up(
    design: Design,
    materials: Mapping[str, Material],
    workshop: Workshop,
    walls: Sequence[BlockWall],
) -> StackUp:
    """Return the stack of a design."""
    form = design.form
    gaps: list[StackGap] = []
    moves = _moves_m(design, materials)
    spread = 2 * workshop.tolerance_m
    match form:
        case StackedBoxes():
            gaps = _of_boxes(form, spread, moves)
        case LittleBoxes():
            gaps = [
                StackGap(
                    kind="plate gap",
                    number=k + 1,
                    z0_m=z - form.plate_m,
                    z1_m=z,
                    low_m=form.plate_m,
                    high_m=form.plate_m,
                    verdict="note",
                )
                for k, z in enumerate(form.levels_m)
            ]
        case BarTrough() | HollowTree():
            pass  # nothing is stacked
        case _:
            assert_never(form)
    says = [*_says_of_frames(form), *_says_of_lid(design), *_says_of_divider(design, walls)]
    says += _says_of_rooms(design)
    if moves > _TOLD_M:
        says.append(message("walls move", moves=Value(moves, "length", 1, 2)))
    return StackUp(gaps=tuple(gaps), says=tuple(says))


def _moves_m(design: Design, materials: Mapping[str, Material]) -> float:
    """Return how much the height of a box of solid wood changes over the year [m]."""
    inner = [materials[y.material] for y in design.shell.walls if y.thickness_m >= _BOARD_M]
    if not inner or not inner[-1].has_grain:
        return 0.0
    form = design.form
    return form.lifted_high_m * c.WOOD_SHRINKAGE.value * c.WOOD_MOISTURE_SWING.value


def _of_boxes(form: StackedBoxes, spread: float, moves: float) -> list[StackGap]:
    gap = form.box_height_m - form.frame_height_m
    gaps = []
    if form.frames_from_m > 0:
        z = form.frames_from_m
        verdict = bee_space("under frames", form.bottom_space_m).verdict
        # More room over the floor than bee space is left on purpose; common practice.
        roomy = z > c.BEE_SPACE_HIGH.value + cb.SAME_THICKNESS.value
        gaps.append(
            StackGap(
                kind="under frames",
                number=0,
                z0_m=0.0,
                z1_m=z,
                low_m=z - spread,
                high_m=z + spread,
                verdict="note" if form.rack_m or roomy else verdict,
            )
        )
    for box in range(form.box_count):
        top = form.frames_from_m + box * form.box_height_m + form.frame_height_m
        last = box == form.box_count - 1
        room = gap + (form.feed_room_m if last else 0.0)
        kind: GapKind = "between boxes"
        if last:
            kind = "feed room" if form.feed_room_m > 0 else "above frames"
        verdict = "note" if kind == "feed room" else bee_space("above frames", room).verdict
        gaps.append(
            StackGap(
                kind=kind,
                number=box + 1,
                z0_m=top,
                z1_m=top + room,
                low_m=room - spread - moves / 2,
                high_m=room + spread + moves / 2,
                verdict=verdict,
            )
        )
    return gaps


def _says_of_frames(form: object) -> list[Message]:
    if not isinstance(form, StackedBoxes):
        return []
    deeper = form.box_height_m - form.frame_height_m - c.BEE_SPACE_LOW.value
    notes = [
        message("deeper frames", deeper=Value(max(deeper, 0.0), "length", 1, 2))
        if deeper > _TOLD_M
        else message("no deeper frames")
    ]
    if form.box_count > 1:
        gap = form.box_height_m - form.frame_height_m + cb.SHIM.value
        notes.append(
            message(
                "shim between", shim=Value(cb.SHIM.value, "length"), gap=Value(gap, "length", 1, 2)
            )
        )
    fits = ", ".join(
        f"{frames_that_fit(form, pitch)} at {1000 * pitch:.0f} mm" for pitch in PITCHES_M
    )
    notes.append(message("frames that fit", fits=Value(fits, "name")))
    return notes


def _says_of_lid(design: Design) -> list[Message]:
    """Return whether a lid with a rim still closes after what is put under it."""
    if design.joinery.lid not in ("insulation past the rim", "telescoping rim"):
        return []
    spare = design.joinery.overlap_m - c.LEAST_OVERLAP.value
    if spare < 0:
        return [message("lid too short", least=Value(c.LEAST_OVERLAP.value, "length"))]
    return [message("lid closes", spare=Value(spare, "length"))]


def _says_of_rooms(design: Design) -> list[Message]:
    """Return what is said of the room behind a board: no entrance of its own, a way to look."""
    form = design.form
    if not is_divided(form):
        return []
    if form.beyond == "second colony":
        shut = len(colony_openings(design)) == len(design.openings)
        return [message("neighbour shut in")] if shut else []
    free = form.spans_m[0] - form.colony_width_m
    deep = free / 2 if form.beyond == BOTH else free
    return [message("observation gap", deep=Value(deep, "length"))]


def _says_of_divider(design: Design, walls: Sequence[BlockWall]) -> list[Message]:
    """Return whether a divider keeps a queen back along all of its edge."""
    form = design.form
    if not is_divided(form):
        return []
    upright = [w for w in walls if not w.flat]
    if not upright:
        return []
    play = 2 * cb.BLOCK_TOLERANCE.value
    if upright[0].joint_m == 0:
        play += cb.BLOCK_SHIFT.value
    passes = c.QUEEN_PASSES.value
    name = "divider in blocks" if play < passes else "queen may pass"
    return [message(name, play=Value(play, "length", 1, 2), queen=Value(passes, "length", 1, 2))]
