"""How the parts of a hive meet: the choices, and what a beekeeper calls them.

Names and alternatives are common practice. Leak factors say how a joint compares with boards that
are laid flat on each other; they are estimates.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from calveth.core.errors import require_between, require_choice

LidJoint = Literal[
    "board on the rim", "insulation meets", "insulation past the rim", "telescoping rim", "rebate"
]
FloorJoint = Literal["walls on the board", "insulation meets", "walls past the floor", "rebate"]
CornerJoint = Literal["insulation meets", "posts"]
WindowFrame = Literal["none", "timber through", "timber inside"]
EntranceWay = Literal["bare", "solid block", "thin sleeve"]
BlockJoint = Literal["none", "dry-laid", "mortar", "thin glue"]
Fixing = Literal["none", "timber spacers", "steel screws"]
Stand = Literal["open", "legs", "slab"]
CornerCut = Literal["butt", "rebate", "finger", "mitre"]
FrameRest = Literal["rebate", "strip"]

BLOCK_JOINT_SHARE: dict[BlockJoint, float] = {
    "none": 0.0,
    "dry-laid": 0.0,
    "mortar": 1 - (600 * 215) / (610 * 225),
    "thin glue": 1 - (600 * 215) / (602 * 217),
}
"""Share of a wall of 600 x 215 mm blocks that is joint, 10 mm of mortar or 2 mm of glue [-]."""
BLOCK_LEAST_M = 0.04
"""A wall layer as thick may be of blocks; thinner ones are boards and renders [m]."""
BLOCK_JOINT_M_M2 = 1 / 0.215 + 1 / 0.6
"""Length of joint a square metre of 600 x 215 mm blocks has [m/m²]; geometry."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Joinery:
    """How lid, floor, corners, window and entrance meet the walls.

    Attributes
    ----------
    lid : LidJoint
        ``board on the rim``: every lid layer lies on top of the wall; ``insulation meets``: the
        inner boards of wall and lid end at the insulation; ``insulation past the rim``: all
        outside of the inner board comes down outside the wall; ``telescoping rim``: only the
        outermost board does; ``rebate``: the inner board sits in the inner half of the wall.
    floor : FloorJoint
        The same below; ``walls past the floor``: all outside of the inner board goes down.
    overlap_m : float
        How far a lid comes down outside the wall, or walls past the floor [m].
    corner : CornerJoint
        ``posts`` of the inner board's timber stand in the insulation at the corners.
    window_frame : WindowFrame
        Timber round the pane through the whole wall, or in its inner half.
    entrance : EntranceWay
        What lines the way through the wall: nothing, a solid timber block, a thin timber sleeve.
    block_m : float
        Timber round the hole in a solid block [m].
    blocks : BlockJoint
        What is between the blocks of a wall of blocks.
    fixing : Fixing
        What holds the outer layers: two upright timber battens in each wall, or screws.
    stand : Stand
        ``open`` air below, four timber ``legs``, or a ``slab`` under the whole floor.
    leg_high_m : float
        Height of the stand with its bearers and rails [m].
    leg_spread_m : float
        How far the stand goes past the body on each side [m].
    corner_cut : CornerCut
        How the boards of the walls meet at the corners: it changes their lengths, not the heat.
    frame_rest : FrameRest
        What frames hang on: a rebate in the wall, or a strip on it.
    timber : str
        Material of posts, blocks, frames, battens and legs; empty is that of the inner board.
    """

    lid: LidJoint = "board on the rim"
    floor: FloorJoint = "walls on the board"
    overlap_m: float = 0.05
    corner: CornerJoint = "insulation meets"
    window_frame: WindowFrame = "none"
    entrance: EntranceWay = "bare"
    block_m: float = 0.03
    blocks: BlockJoint = "none"
    fixing: Fixing = "none"
    stand: Stand = "open"
    leg_high_m: float = 0.25
    leg_spread_m: float = 0.05
    corner_cut: CornerCut = "butt"
    frame_rest: FrameRest = "rebate"
    timber: str = ""

    def __post_init__(self) -> None:
        for name, value, kind in (
            ("joint of lid and walls", self.lid, LidJoint),
            ("joint of floor and walls", self.floor, FloorJoint),
            ("corner", self.corner, CornerJoint),
            ("window frame", self.window_frame, WindowFrame),
            ("entrance", self.entrance, EntranceWay),
            ("block joint", self.blocks, BlockJoint),
            ("fixing", self.fixing, Fixing),
            ("stand", self.stand, Stand),
            ("corner joint", self.corner_cut, CornerCut),
            ("frame rest", self.frame_rest, FrameRest),
        ):
            require_choice(name, value, get_args(kind))
        require_between("overlap of the lid", self.overlap_m, 0.005, 0.4, "m")
        require_between("timber round the entrance", self.block_m, 0.005, 0.2, "m")
        require_between("height of the stand", self.leg_high_m, 0.05, 1.2, "m")
        require_between("spread of the stand", self.leg_spread_m, 0.0, 0.5, "m")
