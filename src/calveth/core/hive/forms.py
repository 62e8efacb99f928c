"""The forms a hive can have, each by the sizes a beekeeper names.

Axes as in `solids`: x across the frames, y along them from front to back, z up.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from math import atan2, degrees, hypot
from typing import Literal, get_args

from calveth.core.errors import DomainError, require_between, require_choice

Beyond = Literal["empty room", "empty room on both sides", "second colony"]
BOTH: Beyond = "empty room on both sides"
"""The nest stands in the middle between two follower boards."""


@dataclass(frozen=True, slots=True, kw_only=True)
class StackedBoxes:
    """Boxes with hanging frames, one on top of the other, or one long box.

    The inner size follows from the frames: width = count · pitch + 2 · side clearance,
    length = frame length + 2 · end clearance, height = boxes · box height + bottom space + slatted
    rack + feed room, which is an empty rim over the boxes for a feeder or a patty. With
    ``frames_in_use`` a follower board or divider stands behind so many frames and ``beyond`` says
    what is behind it.
    """

    frame_count: int
    frame_pitch_m: float = 0.035
    frame_length_m: float = 0.448
    frame_height_m: float = 0.232
    frame_thickness_m: float = 0.025
    box_height_m: float = 0.244
    box_count: int = 1
    side_clearance_m: float = 0.012
    end_clearance_m: float = 0.0095
    bottom_space_m: float = 0.020
    rack_m: float = 0.0
    frames_in_use: int = 0
    beyond: Beyond = "empty room"
    feed_room_m: float = 0.0

    def __post_init__(self) -> None:
        require_between("frame count", self.frame_count, 1, 40)
        require_between("box count", self.box_count, 1, 8)
        for field, value in (("frame count", self.frame_count), ("box count", self.box_count)):
            _whole(field, value)
        require_between("frame pitch", self.frame_pitch_m, 0.025, 0.060, "m")
        require_between("frame length", self.frame_length_m, 0.05, 1.5, "m")
        require_between("frame height", self.frame_height_m, 0.03, 0.8, "m")
        require_between("frame thickness", self.frame_thickness_m, 0.01, self.frame_pitch_m, "m")
        require_between("box height", self.box_height_m, 0.04, 0.9, "m")
        require_between("side clearance", self.side_clearance_m, 0, 0.1, "m")
        require_between("end clearance", self.end_clearance_m, 0.002, 0.1, "m")
        require_between("bottom space", self.bottom_space_m, 0, 0.3, "m")
        require_between("slatted rack", self.rack_m, 0, 0.2, "m")
        require_between("room above the bars", self.feed_room_m, 0, 0.3, "m")
        if self.frame_height_m >= self.box_height_m:
            raise DomainError(
                "frame height",
                self.frame_height_m,
                f"does not fit a box {self.box_height_m:g} m high; leave 6 to 9 mm bee space",
            )
        _check_use(self.frames_in_use, self.frame_count, self.beyond)

    @property
    def frames_from_m(self) -> float:
        """Height of the lower edge of the lowest box's room above the floor [m]."""
        return self.bottom_space_m + self.rack_m

    @property
    def spans_m(self) -> tuple[float, float]:
        """Inner width and length of the shell [m]."""
        return (
            self.frame_count * self.frame_pitch_m + 2 * self.side_clearance_m,
            self.frame_length_m + 2 * self.end_clearance_m,
        )

    @property
    def height_m(self) -> float:
        """Inner height from floor to lid [m]."""
        return self.box_count * self.box_height_m + self.frames_from_m + self.feed_room_m

    @property
    def levels_m(self) -> tuple[float, ...]:
        """Heights of the joints between boxes, and under the rim that makes room to feed [m]."""
        last = self.box_count + (1 if self.feed_room_m > 0 else 0)
        return tuple(self.frames_from_m + box * self.box_height_m for box in range(1, last))

    @property
    def colony_width_m(self) -> float:
        """Width of the room the colony has [m]."""
        if self.frames_in_use == 0:
            return self.spans_m[0]
        return 2 * self.side_clearance_m + self.frames_in_use * self.frame_pitch_m


@dataclass(frozen=True, slots=True, kw_only=True)
class BarTrough:
    """A trough under top bars, its sides sloped or many-sided.

    ``section`` gives the inner width at heights above the floor, [width, height] from the floor
    (height 0) to the underside of the bars: two pairs make sloped sides, four an octagon.
    """

    bar_count: int
    bar_width_m: float = 0.035
    section: tuple[tuple[float, float], ...] = ((0.21, 0.0), (0.44, 0.29))
    comb_clearance_m: float = 0.008
    frames_in_use: int = 0
    beyond: Beyond = "empty room"

    def __post_init__(self) -> None:
        require_between("number of bars", self.bar_count, 1, 80)
        _whole("number of bars", self.bar_count)
        require_between("bar width", self.bar_width_m, 0.02, 0.06, "m")
        require_between("clearance of the comb", self.comb_clearance_m, 0.003, 0.05, "m")
        if not 2 <= len(self.section) <= 8:
            raise DomainError("section", len(self.section), "heights given; give 2 to 8")
        last = -1.0
        for width, height in self.section:
            require_between("width of the section", width, 0.05, 1.5, "m")
            require_between("height of the section", height, 0.0, 1.5, "m")
            if height < last + 0.01:
                raise DomainError(
                    "height of the section", height, "must be 10 mm or more above the one below"
                )
            last = height
        if self.section[0][1] != 0.0:
            raise DomainError("height of the section", self.section[0][1], "must begin at 0")
        _check_use(self.frames_in_use, self.bar_count, self.beyond)

    @property
    def frames_from_m(self) -> float:
        """Height of the room of the combs above the floor [m]."""
        return 0.02

    @property
    def spans_m(self) -> tuple[float, float]:
        """Inner length of the trough across the bars, and its greatest width along them [m]."""
        return self.bar_count * self.bar_width_m, max(width for width, _ in self.section)

    @property
    def height_m(self) -> float:
        """Inner height from floor to bars [m]."""
        return self.section[-1][1]

    @property
    def levels_m(self) -> tuple[float, ...]:
        """Heights of joints in the walls: a trough has none [m]."""
        return ()

    @property
    def colony_width_m(self) -> float:
        """Length of the trough the colony has [m]."""
        return (self.frames_in_use or self.bar_count) * self.bar_width_m


@dataclass(frozen=True, slots=True, kw_only=True)
class LittleBoxes:
    """A small stack for stingless bees: boxes without frames, plates with a gap between them.

    ``plate_gap_m`` is the way the bees have at the back of each plate; ``nest_bars`` are two bars
    in the foot of each upper box, which carry the nest when the stack is taken apart.
    """

    inner_width_m: float = 0.105
    inner_length_m: float = 0.105
    box_height_m: float = 0.09
    box_count: int = 3
    plate_m: float = 0.005
    plate_gap_m: float = 0.012
    nest_bars: bool = False

    def __post_init__(self) -> None:
        require_between("inner width", self.inner_width_m, 0.04, 0.6, "m")
        require_between("inner length", self.inner_length_m, 0.04, 0.6, "m")
        require_between("box height", self.box_height_m, 0.03, 0.4, "m")
        require_between("box count", self.box_count, 1, 8)
        _whole("box count", self.box_count)
        require_between("divider plate", self.plate_m, 0.001, 0.03, "m")
        require_between("gap at the plate", self.plate_gap_m, 0.002, self.inner_length_m, "m")

    @property
    def frames_from_m(self) -> float:
        """Height of the lowest box above the floor [m]."""
        return 0.0

    @property
    def spans_m(self) -> tuple[float, float]:
        """Inner width and length [m]."""
        return self.inner_width_m, self.inner_length_m

    @property
    def height_m(self) -> float:
        """Inner height; plates lie within the height of the boxes [m]."""
        return self.box_count * self.box_height_m

    @property
    def levels_m(self) -> tuple[float, ...]:
        """Heights of the joints between boxes [m]."""
        return tuple(box * self.box_height_m for box in range(1, self.box_count))

    @property
    def colony_width_m(self) -> float:
        """Width of the room [m]."""
        return self.inner_width_m


@dataclass(frozen=True, slots=True, kw_only=True)
class HollowTree:
    """An upright hollow trunk, the benchmark everybody talks about."""

    inner_diameter_m: float = 0.20
    cavity_height_m: float = 1.2

    def __post_init__(self) -> None:
        require_between("inner diameter", self.inner_diameter_m, 0.05, 1.0, "m")
        require_between("cavity height", self.cavity_height_m, 0.1, 4.0, "m")

    @property
    def spans_m(self) -> tuple[float, float]:
        """Diameter, twice [m]."""
        return self.inner_diameter_m, self.inner_diameter_m

    @property
    def height_m(self) -> float:
        """Height of the hollow [m]."""
        return self.cavity_height_m

    @property
    def levels_m(self) -> tuple[float, ...]:
        """Heights of joints: a trunk has none [m]."""
        return ()

    @property
    def colony_width_m(self) -> float:
        """Width of the room [m]."""
        return self.inner_diameter_m


BoxForm = StackedBoxes | BarTrough | LittleBoxes
"""Forms built of boards, described as a box that may be bent."""
Form = BoxForm | HollowTree


def side_spans_m(form: Form) -> tuple[float, float]:
    """Return the inner width (front and back) and length (left and right) of the shell [m]."""
    return form.spans_m


def side_slants(form: Form) -> tuple[tuple[float, float], ...]:
    """Return how front and back stand: tilt [°] of each board from below, and its share [-].

    90° is upright; a trough that is wider above overhangs, its outside looks down a little.
    """
    if not isinstance(form, BarTrough):
        return ((90.0, 1.0),)
    boards = []
    for (low, z0), (high, z1) in pairwise(form.section):
        out, up = (high - low) / 2, z1 - z0
        boards.append((90.0 + degrees(atan2(out, up)), hypot(out, up)))
    total = sum(long for _, long in boards)
    return tuple((tilt, long / total) for tilt, long in boards)


def cavity_height_m(form: Form) -> float:
    """Return the inner height from floor to lid [m]."""
    return form.height_m


def colony_from_m(form: Form) -> float:
    """Return where the colony's room begins along x [m]: behind a board in front of it, or at 0."""
    if getattr(form, "beyond", "empty room") != BOTH:
        return 0.0
    return (form.spans_m[0] - form.colony_width_m) / 2


def _whole(field: str, value: float) -> None:
    if value != int(value):
        raise DomainError(field, value, "must be a whole number")


def _check_use(in_use: int, count: int, beyond: Beyond) -> None:
    _whole("frames in use", in_use)
    require_choice("behind the follower board", beyond, get_args(Beyond))
    if in_use != 0 and not 1 <= in_use < count:
        raise DomainError(
            "frames in use", in_use, f"must be 1 to {count - 1}, or 0 for all {count}"
        )
    if in_use != 0 and beyond == BOTH and in_use > count - 2:
        raise DomainError(
            "frames in use", in_use, f"leave no room on both sides; give {count - 2} or fewer"
        )
    if in_use == 0 and beyond != "empty room":
        raise DomainError("frames in use", in_use, f"must be given for: {beyond}")
