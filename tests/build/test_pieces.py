"""The cut list: pieces fill the volume of the solids; joints, bevels, holes by hand."""

from __future__ import annotations

import math
import random
import unittest
from dataclasses import replace
from itertools import combinations, pairwise, product

from calveth.catalogue.examples import workshop_project
from calveth.catalogue.library import make_design, shipped_frames, shipped_make_ups
from calveth.catalogue.shipped import demo_project
from calveth.core.errors import CalvethError
from calveth.core.hive.design import Design, Window
from calveth.core.hive.details import Details
from calveth.core.hive.forms import BarTrough, HollowTree, StackedBoxes
from calveth.core.hive.joinery import Joinery
from calveth.core.solids.build import build_solids
from calveth.core.solids.faults import refuse_faults
from calveth.core.solids.outlines import signed_area
from calveth.core.solids.quantities import overlap_m3
from calveth.core.solids.shapes import Cuboid, volume_m3
from calveth.core.workshop.edge_work import fingers, rebate_depth_m
from calveth.core.workshop.piece import Piece, rows_of
from calveth.core.workshop.pieces import CUT, pieces_of
from calveth.core.workshop.plan import listed
from tests.cases import LONG
from tests.core.builders import TABLE, box, hole, layer, slot
from tests.random_hives import random_design


def cut(design: Design) -> tuple[Piece, ...]:
    """Return the pieces of a design without those the solids do not have."""
    return pieces_of(design, build_solids(design), TABLE)


def solids_m3(design: Design) -> float:
    """Return the volume of all solids that are sawn, what stands in them deducted once."""
    hive = build_solids(design)
    total = 0.0
    for solid in hive.pieces:
        if TABLE[solid.material].bought_as not in CUT or not isinstance(solid.shape, Cuboid):
            continue
        total += volume_m3(solid.shape, hive.bend)
        if solid.face is not None:
            total -= sum(overlap_m3(solid.shape, o.shape, hive.bend) for o in hive.inset)
    return total


def left_m3(design: Design) -> float:
    """Return the volume of all that is sawn, openings cut out."""
    if isinstance(design.form, HollowTree):
        return 0.0
    cuts = build_solids(design).cuts
    return solids_m3(design) - sum(c.volume_m3 for c in cuts if TABLE[c.material].bought_as in CUT)


def of(pieces: tuple[Piece, ...], **wanted: object) -> list[Piece]:
    """Return the pieces with some values."""
    return [p for p in pieces if all(getattr(p, k) == v for k, v in wanted.items())]


def bevels(piece: Piece) -> list[float]:
    """Return the bevels of a piece [°]."""
    found = []
    for message in piece.work:
        value = dict(message.values).get("angle")
        if value is not None and isinstance(value.value, float):
            found.append(value.value)
    return found


class Volumes(unittest.TestCase):
    def test_every_form_in_every_make_up(self) -> None:
        """Volume of pieces = volume of solids, before joints and openings; and after openings."""
        tried = outlines = 0
        pairs = list(product(shipped_make_ups(), shipped_frames()))
        for make_up, frames in pairs[:: 1 if LONG else 11]:
            try:
                design = make_design(make_up, frames)
            except CalvethError:
                continue
            joinery = replace(
                design.joinery,
                corner="posts",
                fixing="timber spacers",
                stand="legs",
                timber="softwood",
            )
            lined = replace(
                joinery, entrance="solid block", corner="insulation meets", fixing="none"
            )
            for choice in (design.joinery, joinery, lined):
                built = replace(design, joinery=choice)
                pieces, said = cut(built), f"{make_up.id} {frames.id}"
                left = sum(p.left_m3 for p in pieces)
                # Battens may stand in the way of an opening; nobody bends a trunk's wall.
                if choice is not joinery and make_up.id != "tree":
                    # Openings in leaning boards are counted level in the weights.
                    near = 1e-9 if build_solids(built).bend is None else 2e-5
                    self.assertAlmostEqual(left, left_m3(built), delta=near, msg=said)
                if choice is not lined:
                    whole = sum(p.solid_m3 for p in pieces)
                    self.assertAlmostEqual(whole, solids_m3(built), places=9, msg=said)
                for piece in pieces:
                    if piece.outline:  # what is sawn, drawn and printed is the solid
                        sawn = abs(signed_area(piece.outline)) * piece.thickness_m
                        self.assertAlmostEqual(sawn, piece.net_m3, places=9, msg=said)
                        outlines += 1
                tried += 1
        self.assertGreater(tried, 300 if LONG else 25)
        self.assertGreater(outlines, 100 if LONG else 10)

    def test_random_hives(self) -> None:
        r = random.Random(12)
        tried = 0
        for _ in range(60):
            design = random_design(r)
            # A block with a hole in it is tried above, by what is left of it; a window as large
            # as its wall parts the boards, and its hole with them.
            design = replace(design, joinery=replace(design.joinery, entrance="bare"), window=None)
            hive = build_solids(design)
            try:
                refuse_faults(design, hive)
            except CalvethError:
                continue
            # Posts and battens are sawn to fit where a window's frame stands: counted twice here.
            if any(overlap_m3(a.shape, b.shape) for a, b in combinations(hive.inset, 2)):
                continue
            whole = solids_m3(design)
            tried += 1
            self.assertAlmostEqual(sum(p.solid_m3 for p in cut(design)), whole, delta=3e-6 * whole)
        self.assertGreater(tried, 20)

    def test_sizes_give_the_volume(self) -> None:
        """Length x width x thickness is the net volume where nothing is bent."""
        for design in demo_project().designs:
            for piece in cut(design):
                sizes = piece.net_length_m * piece.net_width_m * piece.thickness_m
                self.assertAlmostEqual(sizes, piece.net_m3, places=12)

    def test_finished_volume_is_solids_and_allowances(self) -> None:
        """A side joined by rebates is so much longer, and nothing else is."""
        design = box(openings=(), joinery=Joinery(corner_cut="rebate"))
        plain = cut(replace(design, joinery=Joinery()))
        joined = cut(design)
        adds = sum((p.length_m - p.net_length_m) * p.width_m * p.thickness_m for p in joined)
        sides = [p for p in joined if p.side in ("left", "right") and p.face == "walls"]
        deep = rebate_depth_m(0.019)
        self.assertAlmostEqual(adds, sum(2 * deep * p.net_width_m * 0.019 for p in sides))
        self.assertAlmostEqual(
            sum(p.length_m * p.width_m * p.thickness_m for p in joined) - adds,
            sum(p.net_m3 for p in plain),
        )

    def test_a_bent_board_is_its_sizes_less_its_bevels(self) -> None:
        """Triangles of half the thickness times what the bevels take, by hand."""
        design = make_design(
            next(m for m in shipped_make_ups() if m.id == "heavy"),
            next(f for f in shipped_frames() if f.id == "sloped"),
        )
        board = of(cut(design), face="walls", side="front")[0]
        lean = math.atan((0.44 - 0.21) / 2 / 0.29)
        # The ends are level: outside it is as long as inside, moved; the cut is a parallelogram.
        self.assertAlmostEqual(board.net_width_m, math.hypot(0.115, 0.29), places=9)
        self.assertAlmostEqual(math.degrees(lean), 21.63, places=2)
        self.assertAlmostEqual(
            board.net_m3, board.net_length_m * board.net_width_m * board.thickness_m, places=9
        )
        for angle in bevels(board):
            self.assertAlmostEqual(angle, math.degrees(lean), places=6)
        end = of(cut(design), face="walls", side="left")[0]
        self.assertEqual(len(end.outline), 4)
        self.assertAlmostEqual(end.net_m3, (0.44 + 0.21) / 2 * 0.29 * 0.032, places=9)

    def test_a_regular_octagon_is_bevelled_by_half_its_turn(self) -> None:
        """45° between neighbours: 22.5° on the mitre (geometry)."""
        a = 0.2
        h = a * (1 + math.sqrt(2))
        knots = ((a, 0.0), (h, a / math.sqrt(2)), (h, a + a / math.sqrt(2)), (a, h))
        design = box(openings=(), form=BarTrough(bar_count=10, section=knots))
        fronts = of(cut(design), face="walls", side="front")
        self.assertEqual(len(fronts), 3)
        middle = fronts[1]
        self.assertEqual([round(v, 6) for v in bevels(middle)], [22.5, 22.5])
        # The outer face is longer by the bevels: a + 2·t·tan 22.5°.
        wide = a + 2 * 0.019 * math.tan(math.radians(22.5))
        self.assertAlmostEqual(middle.net_width_m, wide, places=9)


class Corners(unittest.TestCase):
    """Lengths by corner joint: outer 522 x 615 of 12 mm boards (build-diary 1.1)."""

    def sides(self, kind: str) -> tuple[float, float]:
        design = replace(demo_project().design("composite"), openings=())
        joined = replace(design, joinery=replace(design.joinery, corner_cut=kind))  # type: ignore[arg-type]
        found = [p for p in cut(joined) if p.role == "box" and p.place == "outer"]
        front = next(p.length_m for p in found if p.side == "front")
        return front, next(p.length_m for p in found if p.side == "left")

    def test_lengths(self) -> None:
        self.assertEqual(rebate_depth_m(0.012), 0.007)
        for kind, front, side in (
            ("butt", 0.522, 0.591),
            ("rebate", 0.522, 0.591 + 2 * 0.007),
            ("finger", 0.523, 0.616),
            ("mitre", 0.522, 0.615),
        ):
            with self.subTest(kind=kind):
                found = self.sides(kind)
                self.assertAlmostEqual(found[0], front, places=9)
                self.assertAlmostEqual(found[1], side, places=9)

    def test_foam_between_boards_butts(self) -> None:
        design = demo_project().design("composite")
        joined = replace(design, joinery=replace(design.joinery, corner_cut="finger"))
        for piece in of(cut(joined), material="xps"):
            self.assertEqual(piece.length_m, piece.net_length_m)

    def test_fingers_are_odd_and_as_wide_as_the_board_is_thick(self) -> None:
        for high in (0.092, 0.168, 0.244, 0.406):
            for thick in (0.009, 0.019, 0.032):
                count, width = fingers(high, thick)
                self.assertEqual(count % 2, 1)
                self.assertAlmostEqual(count * width, high)
                self.assertLess(abs(width / thick - 1), 0.6)


class Holes(unittest.TestCase):
    def test_a_round_hole_stays_round(self) -> None:
        design = box(openings=(hole(0.1, 0.025),))
        found = [c for p in cut(design) for c in p.cutouts]
        self.assertEqual(len(found), 1)
        one = found[0]
        self.assertTrue(one.round)
        self.assertAlmostEqual(one.wide_m, 0.025)
        # In box 1, whose lower edge lies 20 mm up, at the middle of the front of 412 mm.
        self.assertAlmostEqual(one.u_m, 0.206)
        self.assertAlmostEqual(one.v_m, 0.1 + 0.0125 - 0.02)
        front = next(p for p in cut(design) if p.cutouts)
        self.assertAlmostEqual(front.hole_m3, math.pi / 4 * 0.025**2 * 0.019, places=12)

    def test_a_row_is_spread_and_stays_in_the_wall(self) -> None:
        row = replace(hole(0.05, 0.016, "row"), shape="row of holes", count=6)
        found = [c.u_m for p in cut(box(openings=(row,))) for c in p.cutouts]
        steps = {round(b - a, 9) for a, b in pairwise(found)}
        self.assertEqual(steps, {0.032})
        tight = replace(row, count=20, width_m=0.018, height_m=0.018)
        spread = [c.u_m for p in cut(box(openings=(tight,))) for c in p.cutouts]
        self.assertEqual(len(spread), 20)
        self.assertGreaterEqual(min(spread) - 0.019, 0.009 - 1e-9)

    def test_a_solid_block_is_one_piece_with_a_hole(self) -> None:
        design = box(
            layer("softwood", 12),
            layer("xps", 50),
            layer("softwood", 12),
            openings=(hole(0.1, 0.025),),
            joinery=Joinery(entrance="solid block"),
        )
        blocks = [p for p in cut(design) if p.role == "entrance block"]
        self.assertEqual(len(blocks), 1)
        self.assertEqual([c.round for c in blocks[0].cutouts], [True])
        foam = next(p for p in cut(design) if p.material == "xps" and p.cutouts)
        self.assertEqual([c.what for c in foam.cutouts], ["set in"])

    def test_posts_part_the_insulation(self) -> None:
        design = box(
            layer("softwood", 12),
            layer("xps", 50),
            layer("softwood", 12),
            openings=(),
            joinery=Joinery(corner="posts", timber="softwood"),
        )
        fronts = of(cut(design), material="xps", side="front", role="box")
        # Between posts of 50 mm: the outer length of the foam less both.
        self.assertEqual({round(p.length_m, 9) for p in fronts}, {0.374 + 2 * 0.062 - 0.1})
        posts = [p for p in cut(design) if p.role == "corner posts"]
        self.assertEqual({p.part.role for p in posts}, {"box", "floor"})

    def test_a_pane_is_smaller_than_its_hole(self) -> None:
        pane = Window(bottom_m=0.1, width_m=0.2, height_m=0.1, stack=(layer("acrylic", 4),))
        found = [p for p in cut(box(openings=(), window=pane)) if p.role == "window"]
        self.assertAlmostEqual(found[0].length_m, 0.198)
        self.assertAlmostEqual(found[0].width_m, 0.098)
        holes = [c for p in cut(box(openings=(), window=pane)) for c in p.cutouts]
        self.assertIn("window", {c.what for c in holes})


class Rows(unittest.TestCase):
    def test_equal_boxes_are_one_row(self) -> None:
        rows = rows_of(cut(replace(demo_project().design("timber"), openings=())))
        boxes = [r for r in rows if r.piece.part.role == "box"]
        self.assertEqual(sorted(r.count for r in boxes), [4, 4])
        self.assertEqual({len(r.parts) for r in boxes}, {2})

    def test_frames_hang_in_a_rebate_or_on_strips(self) -> None:
        thick, _ = listed(box(openings=()), TABLE)
        self.assertTrue(any(m.id == "frame rebate" for r in thick for m in r.piece.work))
        self.assertFalse([r for r in thick if r.piece.role == "frame strip"])
        thin, _ = listed(box(layer("plywood", 12), openings=()), TABLE)
        strips = [r for r in thin if r.piece.role == "frame strip"]
        self.assertEqual([r.count for r in strips], [4])
        self.assertAlmostEqual(strips[0].piece.length_m, 0.374)
        asked, _ = listed(box(openings=(), joinery=Joinery(frame_rest="strip")), TABLE)
        self.assertTrue([r for r in asked if r.piece.role == "frame strip"])

    def test_details_become_work_and_fixings(self) -> None:
        details = Details(
            grips="cut-outs",
            tool_bevel=True,
            drip_edge=True,
            hinge=True,
            grease_cups=True,
            strap="to ground anchors",
            rough_inside=True,
            strap_groove=True,
            tight_faces=True,
        )
        joinery = Joinery(stand="legs")
        rows, bulk = listed(box(openings=(slot(),), details=details, joinery=joinery), TABLE)
        work = {m.id for r in rows for m in r.piece.work}
        self.assertLessEqual(
            {
                "grip",
                "tool bevel",
                "drip groove",
                "left rough inside",
                "strap groove",
                "planed faces",
                "end grain sealed",
            },
            work,
        )
        bought = {b.what for b in bulk}
        self.assertLessEqual({"hinges", "stay", "grease cups", "strap", "anchors", "bolts"}, bought)

    def test_cleats_and_bars(self) -> None:
        rows, _ = listed(box(openings=(), details=Details(grips="cleats")), TABLE)
        self.assertEqual([r.count for r in rows if r.piece.role == "cleat"], [4])
        rows, _ = listed(workshop_project().design("trapezoid"), TABLE)
        bars = next(r for r in rows if r.piece.role == "top bar")
        self.assertEqual(bars.count, 28)
        self.assertAlmostEqual(bars.piece.length_m, 0.44 + 0.04)

    def test_what_is_not_cut(self) -> None:
        _, bulk = listed(demo_project().design("quilt"), TABLE)
        fill = next(b for b in bulk if b.what == "fill")
        # 50 mm of shavings inside 19 mm sides, a tenth more: they settle.
        inside = (0.424 - 0.038) * (0.517 - 0.038) * 0.05
        self.assertAlmostEqual(fill.amount, 1100 * inside, places=6)
        _, tree = listed(demo_project().design("hollow-tree"), TABLE)
        self.assertEqual([b.what for b in tree], ["trunk"])
        painted = box(
            layer("paint-white", 0.2),
            layer("softwood", 19),
            openings=(),
            lid=(layer("softwood", 19),),
        )
        _, coats = listed(painted, TABLE)
        outer = 2 * (0.412 + 0.505) * (0.508 + 0.038 + 0.0002 * 0)
        coat = next(b for b in coats if b.what == "coat")
        self.assertAlmostEqual(coat.amount, outer * 0.2, delta=0.03)

    def test_frames_are_counted(self) -> None:
        """10 frames fit where 11 fit at 32 mm (common practice); two boxes hold twenty."""
        _, bulk = listed(box(openings=(), form=StackedBoxes(frame_count=10, box_count=2)), TABLE)
        self.assertEqual(next(b.amount for b in bulk if b.what == "frames"), 20.0)
