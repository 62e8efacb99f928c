"""Small things of a hive that change its pieces and its weight of work, not its heat."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from calveth.core.errors import require_choice

Grips = Literal["none", "cut-outs", "cleats"]
Strap = Literal["none", "round hive and stand", "to ground anchors"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Details:
    """What every form may have; common practice, no source.

    Attributes
    ----------
    grips : Grips
        Hand holds cut into front and back of every box, or cleats screwed on.
    strap : Strap
        A strap makes one body of stack and stand; anchors hold the body to the ground.
    tool_bevel : bool
        The upper outer edge of every box is bevelled for the hive tool.
    tight_faces : bool
        Faces that meet are planed until they show no light.
    rough_inside : bool
        The inside is left rough, so that bees coat it with propolis.
    drip_edge : bool
        A groove under the edge of the lid, so that rain drips off.
    strap_groove : bool
        A groove across the lid that keeps the strap in place.
    hinge : bool
        The lid is hinged to the back and stays open by itself.
    grease_cups : bool
        Feet stand in cups of grease against ants.
    sealed_ends : bool
        End grain is sealed.
    sheet_grain : bool
        The face grain of sheets of wood is to run along, so that they are not turned when cut.
    """

    grips: Grips = "none"
    strap: Strap = "none"
    tool_bevel: bool = False
    tight_faces: bool = False
    rough_inside: bool = False
    drip_edge: bool = False
    strap_groove: bool = False
    hinge: bool = False
    grease_cups: bool = False
    sealed_ends: bool = True
    sheet_grain: bool = False

    def __post_init__(self) -> None:
        require_choice("grips", self.grips, get_args(Grips))
        require_choice("strap", self.strap, get_args(Strap))
