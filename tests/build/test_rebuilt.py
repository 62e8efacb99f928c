"""The hive put together again from its list of pieces: it is the hive, and its frames go in.

Every board is laid where the list says it belongs, as long as it is sawn and with the joint it is
worked to; how boards of a corner meet is worked out here from the words of the joint alone.
"""

from __future__ import annotations

import random
import unittest
from collections.abc import Iterator
from dataclasses import replace
from itertools import combinations, product
from typing import get_args

from calveth.catalogue.examples import workshop_project
from calveth.catalogue.library import make_design, shipped_frames, shipped_make_ups
from calveth.catalogue.shipped import demo_project
from calveth.core.constants import BEE_SPACE_HIGH, BEE_SPACE_LOW
from calveth.core.errors import CalvethError
from calveth.core.hive.design import Design
from calveth.core.hive.forms import StackedBoxes
from calveth.core.hive.joinery import CornerCut, EntranceWay, FrameRest, Joinery
from calveth.core.hive.opening import WALL_SIDES, Opening
from calveth.core.materials import Layer
from calveth.core.solids.build import build_solids
from calveth.core.solids.parts import HiveSolids
from calveth.core.solids.quantities import overlap_m3
from calveth.core.solids.shapes import Cuboid, volume_m3
from calveth.core.workshop.added import added_pieces
from calveth.core.workshop.courses import course_heights_m
from calveth.core.workshop.piece import Piece
from calveth.core.workshop.pieces import merged_blocks, pieces_of
from tests.cases import LONG, tenth
from tests.core.builders import TABLE, box, layer, slot

CUTS: tuple[CornerCut, ...] = ("butt", "rebate")
LININGS: tuple[EntranceWay, ...] = ("solid block", "thin sleeve")


def sawn(design: Design) -> tuple[HiveSolids, tuple[Piece, ...], tuple[Piece, ...]]:
    """Return the solids, the pieces that are sawn of them, and those that are added."""
    hive = build_solids(design)
    pieces = pieces_of(design, hive, TABLE)
    return hive, pieces, added_pieces(design, hive, TABLE, pieces)


def shipped() -> Iterator[Design]:
    """Return every shipped construction round every cavity, with both ways frames are hung."""
    for make_up, frames in product(shipped_make_ups(), shipped_frames()):
        try:
            design = make_design(make_up, frames)
        except CalvethError:
            continue
        for rest in get_args(FrameRest):
            yield replace(design, joinery=replace(design.joinery, frame_rest=rest))


def grown(frame: Cuboid, space_m: float) -> Cuboid:
    """Return the room a frame needs: bee space at both ends."""
    return replace(frame, y0=frame.y0 - space_m, y1=frame.y1 + space_m)


def work(piece: Piece, name: str) -> dict[str, object]:
    """Return the sizes of a joint of a piece, empty where it has none."""
    found = next((m for m in piece.work if m.id == name), None)
    return {} if found is None else {key: value.value for key, value in found.values}


def laid(piece: Piece) -> list[Cuboid]:
    """Return the blocks a board of an upright wall fills, from its sawn sizes and its joint.

    It lies where the corner joint leaves it: what the joint adds sticks out at the joined ends.
    """
    at = piece.shape
    assert isinstance(at, Cuboid)
    long = piece.side in ("front", "back")
    low, high, thin = ("x0", "x1", ("y0", "y1")) if long else ("y0", "y1", ("x0", "x1"))
    joined = work(piece, "corner rebate") or work(piece, "fingers")
    adds = piece.length_m - (getattr(at, high) - getattr(at, low))
    where = joined.get("ends", "both ends")
    left = {"both ends": adds / 2, "the left end": adds, "the right end": 0.0}[str(where)]
    start, stop = getattr(at, low) - left, getattr(at, high) + (adds - left)
    body = replace(at, **{low: start, high: stop})
    rebate = work(piece, "corner rebate")
    if not rebate or not long:
        return [body]
    # The rebate takes the inner side of the board's end.
    wide, deep = float(str(rebate["deep"])), float(str(rebate["wide"]))
    near, far = thin
    inner = far if piece.side == "front" else near
    outer = near if piece.side == "front" else far
    sign = 1.0 if piece.side == "front" else -1.0
    cut_at = getattr(at, inner) - sign * deep
    ends = {"both ends": (True, True), "the left end": (True, False)}.get(
        str(rebate["ends"]), (False, True)
    )
    parts = []
    first = start + wide if ends[0] else start
    last = stop - wide if ends[1] else stop
    parts.append(replace(body, **{low: first, high: last}))
    for there, a, b in ((ends[0], start, first), (ends[1], last, stop)):
        if there:
            values = {low: a, high: b, inner: cut_at, outer: getattr(at, outer)}
            parts.append(replace(body, **values))
    return parts


class FramesGoIn(unittest.TestCase):
    def test_bee_space_is_kept_at_every_frame_of_every_shipped_hive(self) -> None:
        """6 to 9.5 mm at the ends of frames (common practice), whatever they hang on."""
        tried = strips = 0
        for design in shipped():
            if not isinstance(design.form, StackedBoxes):
                continue
            hive, pieces, added = sawn(design)
            strips += sum(p.role == "frame strip" for p in added)
            for frame in hive.frames:
                room = grown(frame, BEE_SPACE_LOW.value - 1e-9)
                for piece in (*pieces, *added):
                    assert isinstance(piece.shape, Cuboid)
                    if piece.role in ("slatted rack", "follower board", "divider"):
                        continue
                    self.assertLessEqual(
                        overlap_m3(room, piece.shape), 1e-12, (design.name, piece.role, piece.part)
                    )
                self.assertLessEqual(frame.y0, BEE_SPACE_HIGH.value + 1e-9)
            tried += 1
        self.assertGreater(tried, 150)
        self.assertGreater(strips, 100)

    def test_a_strip_lies_in_its_wall_and_a_thin_wall_has_a_rail(self) -> None:
        joinery = Joinery(frame_rest="strip")
        _, pieces, added = sawn(box(layer("softwood", 22), joinery=joinery))
        strip = next(p for p in added if p.role == "frame strip" and p.side == "front")
        assert isinstance(strip.shape, Cuboid)
        self.assertAlmostEqual(strip.shape.y0, -0.010)
        self.assertAlmostEqual(strip.shape.y1, 0.0)
        front = next(p for p in pieces if p.role == "box" and p.side == "front")
        self.assertAlmostEqual(float(str(work(front, "strip rebate")["wide"])), 0.010)
        _, _, thin = sawn(box(layer("plywood", 9)))
        rail = next(p for p in thin if p.role == "frame strip" and p.side == "back")
        assert isinstance(rail.shape, Cuboid)
        self.assertAlmostEqual(rail.shape.y1 - rail.shape.y0, 0.0095 - 0.006)
        narrow = StackedBoxes(frame_count=10, end_clearance_m=0.007)
        _, _, none = sawn(box(layer("plywood", 9), form=narrow))
        self.assertFalse([p for p in none if p.role == "frame strip"])

    def test_a_board_thinner_than_the_rest_is_cut_lower(self) -> None:
        thin = box(layer("xps", 40), layer("plywood", 6))
        front = next(
            p for p in sawn(thin)[1] if p.role == "box" and p.place == "inner" and p.side == "front"
        )
        told = work(front, "strip cut lower")
        self.assertAlmostEqual(float(str(told["wide"])), 0.004)
        self.assertAlmostEqual(float(str(told["deep"])), 0.036)

    def test_a_follower_board_slides(self) -> None:
        trough = box(layer("softwood", 30), form=StackedBoxes(frame_count=20, frames_in_use=10))
        board = next(p for p in sawn(trough)[1] if p.role == "follower board")
        self.assertAlmostEqual(board.length_m, board.net_length_m - 0.003)
        self.assertAlmostEqual(board.width_m, board.net_width_m - 0.003)


class Rebuilt(unittest.TestCase):
    def test_boards_and_joints_make_the_walls_without_overlap(self) -> None:
        """Front, back and sides of every upright wall, parted or not, with every corner."""
        tried = 0
        for seed, cut in product(range(12), CUTS):
            r = random.Random(seed)
            walls: tuple[Layer, ...] = (layer("softwood", r.choice([19, 25, 38, 50])),)
            if r.random() < 0.5:
                walls = (layer("softwood", 12), layer("xps", 40), layer("softwood", 19))
            side = r.choice(WALL_SIDES)
            way = replace(slot(), side=side)
            design = box(
                *walls,
                lid=(layer("softwood", 20),),
                openings=(way,),
                form=StackedBoxes(frame_count=r.randint(4, 12), box_count=r.randint(1, 3)),
                joinery=Joinery(
                    corner_cut=cut,
                    entrance=r.choice(["bare", "solid block"]),
                    fixing=r.choice(["none", "timber spacers"]),
                ),
            )
            if design.joinery.fixing != "none":
                # A block in the way of a batten would count twice.
                design = replace(design, joinery=replace(design.joinery, entrance="bare"))
            hive, pieces, _ = sawn(design)
            boards = [p for p in pieces if p.face == "walls" and p.side is not None]
            blocks = [(p, b) for p in boards for b in laid(p)]
            for (p, a), (q, b) in combinations(blocks, 2):
                if p is not q:
                    self.assertLess(overlap_m3(a, b), 1e-10, (seed, cut, p.side, q.side))
            filled = sum(volume_m3(b) for _, b in blocks) - sum(p.inset_m3 for p in boards)
            solid = sum(
                volume_m3(s.shape)
                - sum(overlap_m3(s.shape, i.shape) for i in merged_blocks(design, hive.inset))
                for s in hive.solids
                if s.face == "walls" and isinstance(s.shape, Cuboid)
            )
            self.assertAlmostEqual(filled, solid, places=9, msg=str((seed, cut)))
            tried += 1
        self.assertEqual(tried, 24)

    def test_a_floor_front_parted_by_its_block_is_rebated_at_the_corners(self) -> None:
        hive = workshop_project().designs[0]
        hive = replace(hive, joinery=replace(hive.joinery, corner_cut="rebate"))
        _, pieces, _ = sawn(hive)
        front = [
            p
            for p in pieces
            if p.part.role == "floor" and p.side == "front" and work(p, "corner rebate")
        ]
        ends = {str(work(p, "corner rebate")["ends"]) for p in front}
        self.assertEqual(ends, {"the left end", "the right end"})

    def test_both_boards_of_a_finger_joint_are_as_long_as_the_corner(self) -> None:
        """Outer width and length of the box, half a millimetre proud at each end."""
        _, pieces, _ = sawn(box(layer("softwood", 19), joinery=Joinery(corner_cut="finger")))
        for side, inner in (("front", 10 * 0.035 + 0.024), ("left", 0.467)):
            board = next(p for p in pieces if p.role == "box" and p.side == side)
            self.assertAlmostEqual(board.length_m, inner + 2 * 0.019 + 2 * 0.0005)


class HolesOfBoards(unittest.TestCase):
    def test_measured_from_the_board_that_is_sawn(self) -> None:
        """An entrance in the middle of the left wall is in the middle of its board."""
        way = Opening(
            id="low",
            name="low",
            shape="slot",
            side="left",
            bottom_m=0.003,
            width_m=0.1,
            height_m=0.0127,
        )
        for cut in get_args(CornerCut):
            design = replace(demo_project().design("timber"), openings=(way,))
            design = replace(design, joinery=replace(design.joinery, corner_cut=cut))
            boards = [p for p in sawn(design)[1] if p.side == "left" and p.cutouts]
            self.assertTrue(boards)
            for board in boards:
                self.assertAlmostEqual(board.cutouts[0].u_m, board.length_m / 2, msg=cut)

    def test_blocks_are_cut_in_the_plane_of_their_wall(self) -> None:
        """The way of the bees goes through the wall, and timber is left all round it."""
        tried = 0
        projects = [*demo_project().designs, *workshop_project().designs, *shipped()]
        for design, lining in tenth(list(product(projects, LININGS))):
            lined = replace(design, joinery=replace(design.joinery, entrance=lining))
            try:
                _, pieces, _ = sawn(lined)
            except CalvethError:
                continue
            wall = lined.shell.thickness_m("walls")
            for piece in pieces:
                through = [c for c in piece.cutouts if c.deep_m is None]
                if piece.role != "entrance block" or not through:
                    continue
                self.assertAlmostEqual(piece.thickness_m, wall)
                for hole in through:
                    self.assertLess(hole.wide_m, piece.length_m - 1e-6)
                    self.assertLess(
                        abs(hole.u_m - piece.length_m / 2) + hole.wide_m / 2, piece.length_m / 2
                    )
                    sides = {p.side for p in pieces if p.role == "entrance block"}
                    self.assertNotIn(None, sides)
                tried += 1
        self.assertGreater(tried, 300 if LONG else 25)


class BlockWalls(unittest.TestCase):
    def test_as_high_as_asked(self) -> None:
        """The cases of whole courses a joint too low, and any height between."""
        for block, joint in ((0.215, 0.010), (0.215, 0.002), (0.249, 0.0)):
            for k in range(60, 700):
                courses = course_heights_m(k / 1000, block, joint)
                high = sum(courses) + joint * (len(courses) - 1)
                self.assertAlmostEqual(high, k / 1000, delta=0.0010001, msg=f"{k} {block} {joint}")


if __name__ == "__main__":
    unittest.main()
