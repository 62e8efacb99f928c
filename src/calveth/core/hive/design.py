"""A design: form, shell, joints and openings, as the beekeeper says them."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi
from typing import Literal, get_args

from calveth.core.errors import DomainError, require_between, require_choice, require_text
from calveth.core.materials import Layer

Face = Literal["walls", "lid", "floor"]
FACES: tuple[Face, ...] = get_args(Face)
Side = Literal["front", "right", "back", "left"]
Tightness = Literal["propolised", "planed", "re-opened", "dry-laid"]


@dataclass(frozen=True, slots=True, kw_only=True)
class StackedBoxes:
    """Boxes with hanging frames, one on top of the other.

    The inner size follows from the frames: width = count · pitch + 2 · side clearance,
    length = frame length + 2 · end clearance, height = boxes · box height + bottom space.
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
        if self.frame_height_m >= self.box_height_m:
            raise DomainError(
                "frame height",
                self.frame_height_m,
                f"does not fit a box {self.box_height_m:g} m high; leave 6 to 9 mm bee space",
            )


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
class Opening:
    """One hole or slot through a wall.

    Attributes
    ----------
    bottom_m : float
        Height of its lower edge above the floor [m].
    width_m, height_m : float
        Of a slot [m]; a hole has both equal to its diameter.
    free_share : float
        Share left open by mesh, slider or propolis, 0 (shut) to 1 [-].
    """

    id: str
    name: str
    shape: Literal["slot", "hole"]
    side: Side = "front"
    bottom_m: float
    width_m: float
    height_m: float
    free_share: float = 1.0

    def __post_init__(self) -> None:
        require_text("opening id", self.id)
        require_text("opening name", self.name)
        where = f"opening “{self.name}”"
        require_choice(f"{where} shape", self.shape, ("slot", "hole"))
        require_choice(f"{where} side", self.side, get_args(Side))
        require_between(f"{where} height above floor", self.bottom_m, 0, 4, "m")
        require_between(f"{where} width", self.width_m, 0.001, 2, "m")
        require_between(f"{where} height", self.height_m, 0.001, 1, "m")
        require_between(f"{where} open share", self.free_share, 0, 1)
        if self.shape == "hole" and abs(self.width_m - self.height_m) > 1e-9:
            raise DomainError(
                f"{where} height", self.height_m, "differs from the width; a hole is round"
            )

    @property
    def gross_area_m2(self) -> float:
        """Area as sawn or drilled [m²]."""
        box = self.width_m * self.height_m
        return box * pi / 4 if self.shape == "hole" else box

    @property
    def area_m2(self) -> float:
        """Free area left by mesh, slider and propolis [m²]."""
        return self.gross_area_m2 * self.free_share


@dataclass(frozen=True, slots=True, kw_only=True)
class Design:
    """One hive as it would be built."""

    id: str
    name: str
    form: Form
    shell: Shell
    openings: tuple[Opening, ...]
    joints: Tightness = "planed"
    benchmark: bool = False
    note: str = ""

    def __post_init__(self) -> None:
        require_text("design id", self.id)
        require_text("design name", self.name)
        require_choice("joints", self.joints, get_args(Tightness))
        ids = [opening.id for opening in self.openings]
        if len(set(ids)) != len(ids):
            raise DomainError("openings", ", ".join(ids), "use one id twice; give each its own")
        height, spans = cavity_height_m(self.form), side_spans_m(self.form)
        for opening in self.openings:
            top = opening.bottom_m + opening.height_m
            where = f"opening “{opening.name}”"
            if top > height + 1e-9:
                raise DomainError(
                    where, top, f"m at its top edge is above the wall of {height:.3f} m; lower it"
                )
            span = spans[0] if opening.side in ("front", "back") else spans[1]
            if opening.width_m > span:
                raise DomainError(
                    where, opening.width_m, f"m is wider than the wall of {span:.3f} m; narrow it"
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
    return form.box_count * form.box_height_m + form.bottom_space_m
