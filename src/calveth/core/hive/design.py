"""A design: form, shell, joints and openings, as the beekeeper says them."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal, get_args

from calveth.core.errors import (
    DomainError,
    require_between,
    require_choice,
    require_note,
    require_text,
)
from calveth.core.hive.details import Details
from calveth.core.hive.factors import Factors
from calveth.core.hive.forms import Form, cavity_height_m, side_spans_m
from calveth.core.hive.joinery import Joinery
from calveth.core.hive.opening import (
    WALL_SIDES,
    Opening,
    WallSide,
    check_opening,
    wall_span_m,
)
from calveth.core.hive.season_plan import NO_PLAN, SeasonPlan
from calveth.core.materials import Layer

LidShape = Literal["sloped", "pitched", "domed"]
Face = Literal["walls", "lid", "floor"]
FACES: tuple[Face, ...] = get_args(Face)
Tightness = Literal["filled", "propolised", "planed", "re-opened", "dry-laid"]


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
    forward; ``lid_slope_deg`` is the slope of the lid and its ceiling at the edge and
    ``lid_shape`` what it makes of it; ``joinery`` says how the parts meet and ``joints`` how
    tight; ``details`` are small things of the build; ``seasons`` is the plan of the year, without
    periods for a hive that stays as it is; ``factors`` are what logs of it have told, taken over by
    the keeper; ``of`` is the id of the version it was copied from.
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
    lid_shape: LidShape = "sloped"
    joinery: Joinery = field(default_factory=Joinery)
    details: Details = field(default_factory=Details)
    seasons: SeasonPlan = NO_PLAN
    benchmark: bool = False
    note: str = ""
    factors: Factors | None = None
    of: str = ""

    def __post_init__(self) -> None:
        require_text("design id", self.id)
        require_text("design name", self.name)
        require_note("note of the design", self.note)
        require_choice("joints", self.joints, get_args(Tightness))
        require_between("tilt", self.tilt_deg, 0, 15, "°")
        require_between("slope of the lid", self.lid_slope_deg, 0, 60, "°")
        require_choice("shape of the lid", self.lid_shape, get_args(LidShape))
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
        keys = [key for stack in stacks for layer in stack for key in layer.materials]
        keys += [self.joinery.timber] if self.joinery.timber else []
        return tuple(dict.fromkeys(keys))


def _check_window(window: Window, spans: tuple[float, float], height: float) -> None:
    span = wall_span_m(window.side, spans)
    if window.width_m > span or window.bottom_m + window.height_m > height + 1e-9:
        raise DomainError(
            "window", window.width_m, f"m does not fit the wall of {span:.3f} by {height:.3f} m"
        )
