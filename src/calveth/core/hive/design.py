"""A design: form, shell, joints and openings, as the beekeeper says them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from calveth.core.errors import DomainError, require_between, require_choice, require_text
from calveth.core.hive.opening import (
    WALL_SIDES,
    Opening,
    WallSide,
    check_opening,
    wall_span_m,
)
from calveth.core.hive.seasons import MonthSetting
from calveth.core.materials import Layer

Face = Literal["walls", "lid", "floor"]
FACES: tuple[Face, ...] = get_args(Face)
Tightness = Literal["filled", "propolised", "planed", "re-opened", "dry-laid"]


@dataclass(frozen=True, slots=True, kw_only=True)
class StackedBoxes:
    """Boxes with hanging frames, one on top of the other.

    The inner size follows from the frames: width = count · pitch + 2 · side clearance,
    length = frame length + 2 · end clearance, height = boxes · box height + bottom space + slatted
    rack.
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

    def __post_init__(self) -> None:
        require_between("frame count", self.frame_count, 1, 40)
        require_between("box count", self.box_count, 1, 8)
        for field, value in (("frame count", self.frame_count), ("box count", self.box_count)):
            if value != int(value):
                raise DomainError(field, value, "must be a whole number")
        require_between("frame pitch", self.frame_pitch_m, 0.025, 0.060, "m")
        require_between("frame length", self.frame_length_m, 0.05, 1.5, "m")
        require_between("frame height", self.frame_height_m, 0.03, 0.8, "m")
        require_between("frame thickness", self.frame_thickness_m, 0.01, self.frame_pitch_m, "m")
        require_between("box height", self.box_height_m, 0.04, 0.9, "m")
        require_between("side clearance", self.side_clearance_m, 0, 0.1, "m")
        require_between("end clearance", self.end_clearance_m, 0.002, 0.1, "m")
        require_between("bottom space", self.bottom_space_m, 0, 0.3, "m")
        require_between("slatted rack", self.rack_m, 0, 0.2, "m")
        if self.frame_height_m >= self.box_height_m:
            raise DomainError(
                "frame height",
                self.frame_height_m,
                f"does not fit a box {self.box_height_m:g} m high; leave 6 to 9 mm bee space",
            )

    @property
    def frames_from_m(self) -> float:
        """Height of the lower edge of the lowest box's room above the floor [m]."""
        return self.bottom_space_m + self.rack_m


@dataclass(frozen=True, slots=True, kw_only=True)
class HollowTree:
    """An upright hollow trunk, the benchmark everybody talks about."""

    inner_diameter_m: float = 0.20
    cavity_height_m: float = 1.2

    def __post_init__(self) -> None:
        require_between("inner diameter", self.inner_diameter_m, 0.05, 1.0, "m")
        require_between("cavity height", self.cavity_height_m, 0.1, 4.0, "m")


Form = StackedBoxes | HollowTree


@dataclass(frozen=True, slots=True, kw_only=True)
class Shell:
    """Layers of every face, each listed from the outside in."""

    walls: tuple[Layer, ...]
    lid: tuple[Layer, ...]
    floor: tuple[Layer, ...]

    def __post_init__(self) -> None:
        for face in FACES:
            if not self.stack(face):
                raise DomainError(face, "no layer", "is given; every face needs at least one layer")

    def stack(self, face: Face) -> tuple[Layer, ...]:
        """Return the layers of a face from the outside in."""
        layers: tuple[Layer, ...] = getattr(self, face)
        return layers

    def thickness_m(self, face: Face) -> float:
        """Return the whole thickness of a face [m]."""
        return sum(layer.thickness_m for layer in self.stack(face))


@dataclass(frozen=True, slots=True, kw_only=True)
class Window:
    """A window in a wall: its layers from the outside in, a cover board first if it has one."""

    side: WallSide = "back"
    bottom_m: float
    width_m: float
    height_m: float
    stack: tuple[Layer, ...]

    def __post_init__(self) -> None:
        require_choice("window side", self.side, WALL_SIDES)
        require_between("window height above floor", self.bottom_m, 0, 4, "m")
        require_between("window width", self.width_m, 0.01, 2, "m")
        require_between("window height", self.height_m, 0.01, 2, "m")
        if not self.stack:
            raise DomainError("window", "no pane", "is given; choose at least one pane")

    @property
    def area_m2(self) -> float:
        """Area of the glass [m²]."""
        return self.width_m * self.height_m


@dataclass(frozen=True, slots=True, kw_only=True)
class Design:
    """One hive as it would be built.

    ``has_tray`` says that a tray can be pushed under the screen; ``tilt_deg`` leans the hive
    forward; ``lid_slope_deg`` is the slope of the ceiling; ``seasons`` is the plan of the year,
    empty for a hive that stays as it is.
    """

    id: str
    name: str
    form: Form
    shell: Shell
    openings: tuple[Opening, ...]
    joints: Tightness = "planed"
    window: Window | None = None
    has_tray: bool = False
    tilt_deg: float = 0.0
    lid_slope_deg: float = 0.0
    seasons: tuple[MonthSetting, ...] = ()
    benchmark: bool = False
    note: str = ""

    def __post_init__(self) -> None:
        require_text("design id", self.id)
        require_text("design name", self.name)
        require_choice("joints", self.joints, get_args(Tightness))
        require_between("tilt", self.tilt_deg, 0, 15, "°")
        require_between("slope of the lid", self.lid_slope_deg, 0, 60, "°")
        if self.seasons and len(self.seasons) != 12:
            raise DomainError("season plan", len(self.seasons), "months given; a year has 12")
        ids = [opening.id for opening in self.openings]
        if len(set(ids)) != len(ids):
            raise DomainError("openings", ", ".join(ids), "use one id twice; give each its own")
        height, spans = cavity_height_m(self.form), side_spans_m(self.form)
        for opening in self.openings:
            check_opening(opening, spans, height)
        if self.window is not None:
            _check_window(self.window, spans, height)

    @property
    def material_ids(self) -> tuple[str, ...]:
        """Ids of every material in the design, each once, in the order they are met."""
        stacks = [self.shell.stack(face) for face in FACES]
        if self.window is not None:
            stacks.append(self.window.stack)
        return tuple(
            dict.fromkeys(key for stack in stacks for layer in stack for key in layer.materials)
        )


def _check_window(window: Window, spans: tuple[float, float], height: float) -> None:
    span = wall_span_m(window.side, spans)
    if window.width_m > span or window.bottom_m + window.height_m > height + 1e-9:
        raise DomainError(
            "window", window.width_m, f"m does not fit the wall of {span:.3f} by {height:.3f} m"
        )


def side_spans_m(form: Form) -> tuple[float, float]:
    """Return the inner width (front and back) and length (left and right) of the cavity [m]."""
    if isinstance(form, HollowTree):
        return form.inner_diameter_m, form.inner_diameter_m
    return (
        form.frame_count * form.frame_pitch_m + 2 * form.side_clearance_m,
        form.frame_length_m + 2 * form.end_clearance_m,
    )


def cavity_height_m(form: Form) -> float:
    """Return the inner height from floor to lid [m]."""
    if isinstance(form, HollowTree):
        return form.cavity_height_m
    return form.box_count * form.box_height_m + form.frames_from_m
