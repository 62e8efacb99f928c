"""What is worked on the edges of a piece, and what a corner joint adds to its length."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import atan2, degrees

from calveth.core import constants_building as cb
from calveth.core.constants_building import FINGER_PROUD, FRAME_REST_HIGH, FRAME_REST_WIDE
from calveth.core.hive.design import Design
from calveth.core.materials import Material
from calveth.core.message import Message, Value, message
from calveth.core.solids.parts import Solid
from calveth.core.solids.shapes import Cuboid, SectionMap
from calveth.core.workshop.planes import Plane

# A mitre is told from a square cut from here on [°].
_SQUARE_DEG = 0.05
# A thinner lid holds no groove; common practice, no source [m].
_GROOVED_M = 0.008
_LEAST_THICK_M = 1e-4

_BODY = ("box", "trough", "eke", "floor", "cover", "lid")
_HALF_MM = 0.0005


@dataclass(frozen=True, slots=True)
class Corner:
    """What a corner joint makes of a wall board: metres it adds at an end, and the work.

    ``ends`` says which ends lie at a corner, the left one first: what an entrance block or a post
    parts has one or none.
    """

    end_m: float = 0.0
    work: tuple[Message, ...] = ()
    ends: tuple[bool, bool] = (True, True)

    @property
    def adds_m(self) -> float:
        """What it adds to the length [m]."""
        return self.end_m * sum(self.ends)

    @property
    def before_m(self) -> float:
        """What it adds at the left end, from where places along the board are measured [m]."""
        return self.end_m * self.ends[0]


def corner_joint(
    design: Design,
    solid: Solid,
    material: Material,
    place: str,
    ends: tuple[bool, bool] = (True, True),
) -> Corner:
    """Return what the corner joint of a design asks of a board of a wall.

    ``ends`` says which of the board's ends lie at a corner. Only the outermost and the innermost
    timber of a wall is joined; foam and what lies between butt. In the solids front and back run
    through and sides stand between.
    """
    timber = material.group in ("wood", "wood board")
    joined = solid.face == "walls" and solid.role in _BODY and timber and place != "middle"
    if not joined or not any(ends):
        return Corner()
    at = "both ends" if all(ends) else "the left end" if ends[0] else "the right end"
    where = Value(at, "name")
    box = solid.shape
    assert isinstance(box, Cuboid)
    long = solid.side in ("front", "back")
    thick = box.y1 - box.y0 if long else box.x1 - box.x0
    high = box.z1 - box.z0
    kind = design.joinery.corner_cut
    if kind == "rebate":
        deep = rebate_depth_m(thick)
        work = message(
            "corner rebate", ends=where, deep=_mm(thick if long else deep), wide=_mm(deep)
        )
        return Corner(0.0, (work,), ends) if long else Corner(deep, (), ends)
    if kind == "finger":
        proud = FINGER_PROUD.value
        count, width = fingers(high, thick)
        work = message(
            "fingers",
            count=Value(float(count), "number", 0),
            wide=_mm(width),
            first=Value("starts" if long else "follows", "name"),
            ends=where,
        )
        return Corner(proud if long else thick + proud, (work,), ends)
    if kind == "mitre":
        return Corner(0.0 if long else thick, (message("mitred ends", ends=where),), ends)
    return Corner()


def rebate_depth_m(thickness_m: float) -> float:
    """Return how deep a corner rebate goes: 0.6 of the board, to half a millimetre [m].

    Between a half and two thirds of it; common practice.
    """
    return round(0.6 * thickness_m / _HALF_MM) * _HALF_MM


def fingers(high_m: float, thick_m: float) -> tuple[int, float]:
    """Return number (odd) and width [m] of the fingers of a corner, about as wide as it is thick.

    >>> fingers(0.244, 0.019)
    (13, 0.018769230769230767)
    """
    count = max(3, round(high_m / max(thick_m, _LEAST_THICK_M)))
    count += 1 - count % 2
    return count, high_m / count


def bevels(bend: SectionMap | None, box: Cuboid, plane: Plane) -> tuple[Message, ...]:
    """Return the bevels of the edges of a board whose plane the bend leans [°].

    Each is the angle the edge is off square: a half of the turn between neighbours on a mitre.
    """
    if bend is None or plane.w != "y":
        return ()
    front = (box.y0 + box.y1) / 2 < bend.middle_m
    inner = box.y1 if front else box.y0
    outer = box.y0 if front else box.y1
    notes = []
    edges = (("lower edge bevel", box.z0, box.z1), ("upper edge bevel", box.z1, box.z0))
    for name, z, other in edges:
        ys, zs = bend.place([inner, inner, outer], [z, other, z])
        along = (float(ys[1] - ys[0]), float(zs[1] - zs[0]))
        across = (float(ys[2] - ys[0]), float(zs[2] - zs[0]))
        square = degrees(
            atan2(
                abs(along[0] * across[0] + along[1] * across[1]),
                abs(along[0] * across[1] - along[1] * across[0]),
            )
        )
        if square > _SQUARE_DEG:
            notes.append(message(name, angle=Value(square, "angle", 1)))
    return tuple(notes)


def frame_rest(design: Design, solid: Solid, place: str, thickness_m: float) -> tuple[Message, ...]:
    """Return the rebate frames hang in, for front and back of a box, or that of their strip.

    A strip lies in the wall: on its inside it would stand in the bee space beside the frames, and
    the lugs, which reach past the inner face, would not go in at all. A board thinner than the
    rebate is cut lower, and the rest of the rebate goes into the layer behind it.
    """
    if not hangs_frames(design, solid, place):
        return ()
    wide, deep = FRAME_REST_WIDE.value, FRAME_REST_HIGH.value
    if rests_in_rebate(design, thickness_m):
        return (message("frame rebate", deep=_mm(deep), wide=_mm(wide)),)
    if not strip_in_wall(design):
        return ()
    deep += cb.STRIP_HIGH.value
    if thickness_m < wide + 1e-9:
        return (message("strip cut lower", deep=_mm(deep), wide=_mm(wide - thickness_m)),)
    return (message("strip rebate", deep=_mm(deep), wide=_mm(wide)),)


def strip_in_wall(design: Design) -> bool:
    """Return whether the walls are thick enough for a strip to lie in them."""
    return design.shell.thickness_m("walls") >= cb.THICK_ENOUGH.value - 1e-9


def hangs_frames(design: Design, solid: Solid, place: str) -> bool:
    """Return whether frames hang on a board: the inner one of front or back of a box."""
    return (
        design.form.has_frames
        and solid.role == "box"
        and solid.side in ("front", "back")
        and place in ("whole", "inner")
    )


def rests_in_rebate(design: Design, thickness_m: float) -> bool:
    """Return whether a wall is thick enough for the rebate that is asked for."""
    return design.joinery.frame_rest == "rebate" and thickness_m >= cb.THICK_ENOUGH.value - 1e-9


def detail_work(
    design: Design, solid: Solid, place: str, material: Material, thickness_m: float
) -> tuple[Message, ...]:
    """Return what the details of a design ask of a piece."""
    details, notes = design.details, []
    outside, inside = place in ("whole", "outer"), place in ("whole", "inner")
    wall = solid.face == "walls" and solid.role in ("box", "trough", "eke", "cover")
    timber = material.group in ("wood", "wood board")
    holds = wall and outside and solid.side in ("front", "back") and solid.role == "box"
    if details.grips == "cut-outs" and holds and thickness_m >= cb.THICK_ENOUGH.value - 1e-9:
        wide, high, deep = cb.GRIP_WIDE.value, cb.GRIP_HIGH.value, cb.GRIP_DEEP.value
        notes.append(message("grip", wide=_mm(wide), high=_mm(high), deep=_mm(deep)))
    if details.tool_bevel and wall and outside and timber and not _one_box(design):
        notes.append(message("tool bevel", deep=_mm(cb.TOOL_BEVEL.value)))
    if details.rough_inside and wall and inside and timber:
        notes.append(message("left rough inside"))
    if details.tight_faces and wall and timber and not _one_box(design):
        notes.append(message("planed faces"))
    lid = solid.face == "lid" and outside and solid.side is None
    if details.drip_edge and lid and thickness_m >= _GROOVED_M:
        notes.append(
            message("drip groove", deep=_mm(cb.DRIP_GROOVE.value), wide=_mm(cb.DRIP_GROOVE.value))
        )
    if details.strap_groove and lid and thickness_m >= _GROOVED_M:
        notes.append(
            message("strap groove", wide=_mm(cb.STRAP_WIDE.value), deep=_mm(cb.STRAP_DEEP.value))
        )
    if details.sealed_ends and material.has_grain and (wall or lid) and outside:
        notes.append(message("end grain sealed"))
    return tuple(notes)


def _one_box(design: Design) -> bool:
    return design.form.box_count == 1


def places_of(stack_groups: Sequence[bool]) -> list[str]:
    """Return the place of every layer of a face, given which of them are boards."""
    boards = [k for k, board in enumerate(stack_groups) if board]
    if len(boards) <= 1:
        return ["whole"] * len(stack_groups)
    return [
        "outer" if k == boards[0] else "inner" if k == boards[-1] else "middle"
        for k in range(len(stack_groups))
    ]


def _mm(value_m: float) -> Value:
    return Value(value_m, "length", 1, 3)
