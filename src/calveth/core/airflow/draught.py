"""How much of the air of an opening is felt at the comb; an estimate."""

from __future__ import annotations

from calveth.core import constants as c
from calveth.core.constants_tables import TREE_GAP_M
from calveth.core.hive.design import Design
from calveth.core.hive.forms import StackedBoxes, cavity_height_m
from calveth.core.hive.opening import Opening, equivalent_diameter_m

# The narrowest way past frames that is reckoned with [m].
_NARROWEST_M = 0.005

# Air that turns from an entrance up into the combs has spread by this much on the way; estimate.


def comb_distance_m(design: Design, opening: Opening) -> float:
    """Return how far the nearest comb is from where an opening comes into the room [m].

    Through the floor and from low entrances it is the space under the frames, slatted rack
    included; through a wall beside the combs it is the clearance at the ends or sides of the
    frames; under the lid the bee space above them.

    Parameters
    ----------
    design : Design
        The hive.
    opening : Opening
        What the air goes through.
    """
    form = design.form
    if not isinstance(form, StackedBoxes):
        return TREE_GAP_M.value
    if opening.side == "lid" or opening.shape == "lid gap":
        return max(form.box_height_m - form.frame_height_m, _NARROWEST_M)
    height = 0.0 if opening.side == "floor" else opening.bottom_m + opening.lift_m
    if height < form.frames_from_m:
        return max(
            form.frames_from_m - height - opening.height_m * (not opening.level), _NARROWEST_M
        )
    beside = form.end_clearance_m if opening.side in ("front", "back") else form.side_clearance_m
    return max(min(beside, cavity_height_m(form)), _NARROWEST_M)


def draught_at_comb_m_s(
    design: Design, opening: Opening, inflow_m3_s: float, area_m2: float, slats_share: float
) -> float:
    """Return the speed of the entering air at the nearest comb [m/s].

    A free jet keeps its speed for six diameters and then falls as 6·D/x; a slatted rack lets
    ``slats_share`` of it through.

    Parameters
    ----------
    design : Design
        The hive.
    opening : Opening
        What the air goes through.
    inflow_m3_s : float
        Air that comes in through the opening [m³/s].
    area_m2 : float
        Free area of the opening [m²].
    slats_share : float
        Share of the speed a slatted rack lets through [-].
    """
    if area_m2 <= 0:
        return 0.0
    speed = inflow_m3_s / area_m2
    diameter = equivalent_diameter_m(area_m2 / opening.count)
    if not opening.round:
        diameter = min(diameter, 2 * opening.hydraulic_diameter_m)
    distance = comb_distance_m(design, opening)
    share = min(1.0, c.JET_DECAY.value * diameter / distance)
    form = design.form
    below = opening.level or opening.bottom_m < form.frames_from_m
    if form.rack_m > 0 and below:
        share *= slats_share
    return speed * share
