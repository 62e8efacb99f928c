"""The forms a hive can have, each by the sizes a beekeeper names.

Axes as in `solids`: x across the frames, y along them from front to back, z up.

What the rest of the program asks of a form is written down in `HiveForm`, and every form answers
all of it: mypy names what a new form leaves out. Only what is peculiar to one form (how far frames
hang from the walls, the plates of little boxes) is asked of that form by name, in a ``match`` that
ends in `assert_never`. `tests.core.test_every_form` takes each form through the whole program.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from math import atan2, degrees, hypot
from typing import ClassVar, Literal, Protocol, get_args

from calveth.core.errors import DomainError, require_between, require_choice

# Bees end their combs this far above a floor; common practice, no source [m].
_UNDER_COMBS_M = 0.02

Beyond = Literal["empty room", "empty room on both sides", "second colony"]
BOTH: Beyond = "empty room on both sides"
"""The nest stands in the middle between two follower boards."""

_COMB_M = 0.025
"""Thickness of a comb that hangs free from a bar [m]; common practice."""


@dataclass(frozen=True, slots=True, kw_only=True)
class CombPlace:
    """Where a comb hangs in the box a form is described as, in metres."""

    x0: float
    x1: float
    y0: float
    y1: float
    z0: float
    z1: float


class HiveForm(Protocol):
    """What every form of hive can be asked.

    ``kind`` is what it is called in a file; ``of_boards`` whether it is made of boards that meet at
    corners and come apart, as a trunk is not; ``has_frames`` whether frames hang in its boxes, and
    ``has_bars`` whether combs hang from bars in one trough.
    """

    kind: ClassVar[str]
    of_boards: ClassVar[bool]
    has_frames: ClassVar[bool]
    has_bars: ClassVar[bool]

    @property
    def box_count(self) -> int:
        """Boxes one over the other; a trough or a trunk is one."""

    @property
    def lifted_high_m(self) -> float:
        """Height of what is lifted in one piece [m]."""

    @property
    def frames_in_use(self) -> int:
        """Combs before the follower board; 0 for all of them, or none there."""

    @property
    def beyond(self) -> Beyond:
        """What is behind the follower board."""

    @property
    def comb_count(self) -> int:
        """Combs that hang side by side; 0 where bees build as they like."""

    @property
    def comb_pitch_m(self) -> float:
        """From comb to comb [m]; 0 where none hang."""

    @property
    def beside_combs_m(self) -> float:
        """What outer combs have beyond half a pitch at each side [m]."""

    @property
    def rack_m(self) -> float:
        """Height of a slatted rack [m]."""

    @property
    def feed_room_m(self) -> float:
        """Height of the room over the combs to feed in [m]."""

    @property
    def frames_from_m(self) -> float:
        """Height of the combs' room above the floor [m]."""

    @property
    def section(self) -> tuple[tuple[float, float], ...]:
        """Inner width along the combs at heights above the floor [m]."""

    @property
    def spans_m(self) -> tuple[float, float]:
        """Inner width across the combs and length along them [m]."""

    @property
    def height_m(self) -> float:
        """Inner height from floor to lid [m]."""

    @property
    def levels_m(self) -> tuple[float, ...]:
        """Heights of the joints between boxes [m]."""

    @property
    def colony_width_m(self) -> float:
        """Width of the room the colony has [m]."""

    def combs(self, begin_m: float, count: int) -> tuple[CombPlace, ...]:
        """Return so many combs of each box from a place across them on."""


class _OneRoom:
    """Answers of a form without follower board, rack or room to feed."""

    __slots__ = ()

    @property
    def frames_in_use(self) -> int:
        """No board that combs stand before."""
        return 0

    @property
    def beyond(self) -> Beyond:
        """Nothing behind a board."""
        return "empty room"

    @property
    def comb_count(self) -> int:
        """Bees build as they like."""
        return 0

    @property
    def comb_pitch_m(self) -> float:
        """No combs that hang side by side [m]."""
        return 0.0

    @property
    def beside_combs_m(self) -> float:
        """No combs that hang side by side [m]."""
        return 0.0

    @property
    def rack_m(self) -> float:
        """No rack [m]."""
        return 0.0

    @property
    def feed_room_m(self) -> float:
        """No room to feed in [m]."""
        return 0.0

    @property
    def frames_from_m(self) -> float:
        """Combs may begin at the floor [m]."""
        return 0.0

    def combs(self, begin_m: float, count: int) -> tuple[CombPlace, ...]:  # noqa: ARG002
        """Return none: where bees build as they like nobody knows."""
        return ()


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

    kind: ClassVar[str] = "stacked boxes"
    of_boards: ClassVar[bool] = True
    has_frames: ClassVar[bool] = True
    has_bars: ClassVar[bool] = False

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
    def lifted_high_m(self) -> float:
        """Height of a box [m]."""
        return self.box_height_m

    @property
    def comb_count(self) -> int:
        """Frames of a box."""
        return self.frame_count

    @property
    def comb_pitch_m(self) -> float:
        """From frame to frame [m]."""
        return self.frame_pitch_m

    @property
    def beside_combs_m(self) -> float:
        """Clearance at the sides of the frames [m]."""
        return self.side_clearance_m

    @property
    def section(self) -> tuple[tuple[float, float], ...]:
        """As wide below as above [m]."""
        return (self.spans_m[1], 0.0), (self.spans_m[1], self.height_m)

    def combs(self, begin_m: float, count: int) -> tuple[CombPlace, ...]:
        """Return so many frames of each box from a place on."""
        length = self.spans_m[1]
        half = self.frame_thickness_m / 2
        return tuple(
            CombPlace(
                x0=x - half,
                x1=x + half,
                y0=self.end_clearance_m,
                y1=length - self.end_clearance_m,
                z0=self.frames_from_m + box * self.box_height_m,
                z1=self.frames_from_m + box * self.box_height_m + self.frame_height_m,
            )
            for box in range(self.box_count)
            for x in (
                begin_m + self.side_clearance_m + (i + 0.5) * self.frame_pitch_m
                for i in range(count)
            )
        )

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

    kind: ClassVar[str] = "trough under bars"
    of_boards: ClassVar[bool] = True
    has_frames: ClassVar[bool] = False
    has_bars: ClassVar[bool] = True

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
    def box_count(self) -> int:
        """One trough."""
        return 1

    @property
    def lifted_high_m(self) -> float:
        """Height of the trough [m]."""
        return self.height_m

    @property
    def comb_count(self) -> int:
        """Bars, each with a comb."""
        return self.bar_count

    @property
    def comb_pitch_m(self) -> float:
        """Width of a bar [m]."""
        return self.bar_width_m

    @property
    def beside_combs_m(self) -> float:
        """Bars lie close, to the ends of the trough [m]."""
        return 0.0

    @property
    def rack_m(self) -> float:
        """No rack [m]."""
        return 0.0

    @property
    def feed_room_m(self) -> float:
        """No room over the bars [m]."""
        return 0.0

    def combs(self, begin_m: float, count: int) -> tuple[CombPlace, ...]:
        """Return so many combs from a place on."""
        near, (_, length) = self.comb_clearance_m, self.spans_m
        return tuple(
            CombPlace(
                x0=begin_m + (i + 0.5) * self.bar_width_m - _COMB_M / 2,
                x1=begin_m + (i + 0.5) * self.bar_width_m + _COMB_M / 2,
                y0=near,
                y1=length - near,
                z0=self.frames_from_m,
                z1=self.height_m,
            )
            for i in range(count)
        )

    @property
    def frames_from_m(self) -> float:
        """Height of the room of the combs above the floor [m]."""
        return _UNDER_COMBS_M

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
class LittleBoxes(_OneRoom):
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

    kind: ClassVar[str] = "little boxes"
    of_boards: ClassVar[bool] = True
    has_frames: ClassVar[bool] = False
    has_bars: ClassVar[bool] = False

    def __post_init__(self) -> None:
        require_between("inner width", self.inner_width_m, 0.04, 0.6, "m")
        require_between("inner length", self.inner_length_m, 0.04, 0.6, "m")
        require_between("box height", self.box_height_m, 0.03, 0.4, "m")
        require_between("box count", self.box_count, 1, 8)
        _whole("box count", self.box_count)
        require_between("divider plate", self.plate_m, 0.001, 0.03, "m")
        require_between("gap at the plate", self.plate_gap_m, 0.002, self.inner_length_m, "m")

    @property
    def lifted_high_m(self) -> float:
        """Height of a box [m]."""
        return self.box_height_m

    @property
    def section(self) -> tuple[tuple[float, float], ...]:
        """As wide below as above [m]."""
        return (self.inner_length_m, 0.0), (self.inner_length_m, self.height_m)

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
class HollowTree(_OneRoom):
    """An upright hollow trunk, the benchmark everybody talks about."""

    inner_diameter_m: float = 0.20
    cavity_height_m: float = 1.2

    kind: ClassVar[str] = "hollow tree"
    of_boards: ClassVar[bool] = False
    has_frames: ClassVar[bool] = False
    has_bars: ClassVar[bool] = False

    def __post_init__(self) -> None:
        require_between("inner diameter", self.inner_diameter_m, 0.05, 1.0, "m")
        require_between("cavity height", self.cavity_height_m, 0.1, 4.0, "m")

    @property
    def box_count(self) -> int:
        """One trunk."""
        return 1

    @property
    def lifted_high_m(self) -> float:
        """Height of the trunk's hollow [m]."""
        return self.cavity_height_m

    @property
    def section(self) -> tuple[tuple[float, float], ...]:
        """As wide below as above [m]."""
        return (self.inner_diameter_m, 0.0), (self.inner_diameter_m, self.cavity_height_m)

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
FORMS: tuple[type[Form], ...] = get_args(Form)
"""Every form; the order is the one they are offered in."""


def is_divided(form: HiveForm) -> bool:
    """Return whether a follower board or divider stands in a hive."""
    return form.frames_in_use > 0


def has_neighbour(form: HiveForm) -> bool:
    """Return whether a second colony lives behind the divider."""
    return form.beyond == "second colony"


def side_spans_m(form: HiveForm) -> tuple[float, float]:
    """Return the inner width (front and back) and length (left and right) of the shell [m]."""
    return form.spans_m


def side_slants(form: HiveForm) -> tuple[tuple[float, float], ...]:
    """Return how front and back stand: tilt [°] of each board from below, and its share [-].

    90° is upright; a trough that is wider above overhangs, its outside looks down a little.
    """
    boards = []
    for (low, z0), (high, z1) in pairwise(form.section):
        out, up = (high - low) / 2, z1 - z0
        boards.append((90.0 + degrees(atan2(out, up)), hypot(out, up)))
    total = sum(long for _, long in boards)
    return tuple((tilt, long / total) for tilt, long in boards)


def cavity_height_m(form: HiveForm) -> float:
    """Return the inner height from floor to lid [m]."""
    return form.height_m


def colony_from_m(form: HiveForm) -> float:
    """Return where the colony's room begins along x [m]: behind a board in front of it, or at 0."""
    if form.beyond != BOTH:
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
