"""Boards and sheets: nothing overlaps, kerf and trim are kept, the bound is no lie."""

from __future__ import annotations

import random
import unittest
from dataclasses import replace
from math import ceil

from hypothesis import given, settings
from hypothesis import strategies as st

from calveth.catalogue.library import shipped_stock
from calveth.catalogue.shipped import demo_project
from calveth.core.errors import DomainError
from calveth.core.hive.forms import StackedBoxes
from calveth.core.workshop.bars import Bar, BarPlan, cut_bars
from calveth.core.workshop.boards import board_layouts
from calveth.core.workshop.panels import board_thickness, panel_of
from calveth.core.workshop.plan import build_plan, listed
from calveth.core.workshop.sheets import Blank, CutSheet, Placed, cut_sheets
from calveth.core.workshop.stock import StockItem, Workshop, items_for
from calveth.texts.build import work_text
from calveth.texts.units import METRIC
from tests.core.builders import TABLE, box, layer

DEMO = demo_project()

_QUICK = settings(max_examples=40, deadline=None, derandomize=True)
LENGTHS = st.lists(
    st.sampled_from([0.244, 0.398, 0.467, 0.522, 0.591, 0.615, 1.044, 1.27]),
    min_size=1,
    max_size=40,
)


class Bars(unittest.TestCase):
    def check(
        self, plan: BarPlan, lengths: list[float], stock: list[Bar], kerf: float, trim: float
    ) -> None:
        cut = sorted(i for bar in plan.bars for i in bar.pieces)
        self.assertEqual(cut, list(range(len(lengths))))
        for bar in plan.bars:
            taken = sum(lengths[i] for i in bar.pieces) + kerf * (len(bar.pieces) - 1)
            self.assertLessEqual(taken, stock[bar.stock].length_m - 2 * trim + 1e-3)
        self.assertAlmostEqual(plan.cost, sum(stock[b.stock].price for b in plan.bars))
        self.assertLessEqual(plan.bound, plan.cost + 1e-9)

    @_QUICK
    @given(LENGTHS)
    def test_one_length(self, lengths: list[float]) -> None:
        stock = [Bar(4.0, 1.0)]
        plan = cut_bars(lengths, stock, 0.003, 0.01)
        self.check(plan, lengths, stock, 0.003, 0.01)
        self.assertEqual(plan.above, len(plan.bars) - round(plan.bound))

    @_QUICK
    @given(LENGTHS)
    def test_several_lengths(self, lengths: list[float]) -> None:
        stock = [Bar(2.0, 2.0), Bar(3.0, 3.0), Bar(4.0, 4.0)]
        plan = cut_bars(lengths, stock, 0.003, 0.01)
        self.check(plan, lengths, stock, 0.003, 0.01)
        # Never dearer than the longest bar alone.
        alone = cut_bars(lengths, [Bar(4.0, 4.0)], 0.003, 0.01)
        self.assertLessEqual(plan.cost, alone.cost + 1e-9)

    def test_kerf_is_exact(self) -> None:
        """Three of 1 m and two kerfs need 3.006 m between the trims."""
        self.assertEqual(len(cut_bars([1.0] * 3, [Bar(3.026, 1.0)], 0.003, 0.01).bars), 1)
        self.assertEqual(len(cut_bars([1.0] * 3, [Bar(3.025, 1.0)], 0.003, 0.01).bars), 2)

    def test_a_list_first_fit_does_not_close(self) -> None:
        """6, 6, 5, 5, 5, 5, 4, 4 into bars of 20: first fit takes three, two hold them."""
        lengths = [0.6, 0.6, 0.5, 0.5, 0.5, 0.5, 0.4, 0.4]
        plan = cut_bars(lengths, [Bar(2.0, 1.0)], 0.0, 0.0)
        self.assertEqual((len(plan.bars), plan.above), (2, 0))

    def test_the_program_saves_a_bar(self) -> None:
        """Seeded lists of hive-like lengths: at the bound in nine of ten."""
        r = random.Random(3)
        closed = 0
        for _ in range(20):
            lengths = [
                w
                for w in (round(r.uniform(0.2, 1.3), 3) for _ in range(6))
                for _ in range(r.randint(2, 6))
            ]
            plan = cut_bars(lengths, [Bar(4.0, 1.0)], 0.003, 0.01)
            self.check(plan, lengths, [Bar(4.0, 1.0)], 0.003, 0.01)
            closed += plan.above == 0
        self.assertGreaterEqual(closed, 18)

    def test_the_same_plan_each_time(self) -> None:
        lengths = [0.591, 0.522, 0.467, 0.398] * 8
        stock = [Bar(2.0, 2.1), Bar(4.0, 4.0)]
        self.assertEqual(
            cut_bars(lengths, stock, 0.003, 0.01), cut_bars(lengths, stock, 0.003, 0.01)
        )

    def test_too_long(self) -> None:
        with self.assertRaisesRegex(DomainError, "4500 mm is longer than every board"):
            cut_bars([4.5], [Bar(4.0, 1.0)], 0.003, 0.01)


class Panels(unittest.TestCase):
    """Strips after jointing 4 mm (build-diary 1.1)."""

    def test_by_hand(self) -> None:
        two = panel_of(0.244, [0.19], 0.003)
        self.assertEqual((two.strips, two.strip_m), (2, 0.122))
        five = panel_of(0.438, [0.095], 0.003)
        self.assertEqual(five.strips, 5)
        one = panel_of(0.095, [0.095, 0.145], 0.003)
        self.assertEqual((one.strips, one.board_m, one.lanes), (1, 0.095, 1))
        # Dear wide boards are passed over, cheap ones taken: money decides, not area.
        dear = panel_of(0.095, [0.095, 0.145], 0.003, {0.095: 3.0, 0.145: 1.0})
        self.assertEqual(dear.board_m, 0.145)
        cheap = panel_of(0.244, [0.13, 0.19], 0.003, {0.13: 1.0, 0.19: 1.1})
        self.assertEqual((cheap.board_m, cheap.strips), (0.13, 2))
        # Side by side: four from the narrow board for 1.00, six from the wide one for 1.20.
        side = panel_of(0.02, [0.095, 0.145], 0.003, {0.095: 1.0, 0.145: 1.2})
        self.assertEqual((side.board_m, side.lanes), (0.145, 6))
        flat = panel_of(0.095, [0.095, 0.145], 0.003, {0.095: 1.0, 0.145: 1.0})
        self.assertEqual(flat.board_m, 0.095)
        rim = panel_of(0.02, [0.095, 0.145], 0.003)
        self.assertEqual(rim.lanes, int((rim.board_m + 0.003) / 0.023))

    def test_no_strip_is_narrower_than_40_mm(self) -> None:
        for wide in (0.1, 0.15, 0.2, 0.3, 0.5):
            panel = panel_of(wide, [0.095, 0.145, 0.195], 0.003)
            self.assertGreaterEqual(panel.strip_m, 0.04)
            self.assertAlmostEqual(panel.strips * panel.strip_m, wide)

    def test_every_strip_is_cut_once(self) -> None:
        rows, _ = listed(box(openings=()), TABLE)
        wood = [r for r in rows if r.piece.bought_as == "board"]
        workshop = shipped_stock()[0].workshop
        layouts, panels = board_layouts(wood, TABLE["softwood"], 0.019, workshop)
        counts: dict[int, int] = {}
        for layout in layouts:
            for board in layout.boards:
                room = board.item.length_m - 2 * workshop.trim_m
                taken = sum(x.length_m for x in board.lengths)
                taken += workshop.kerf_m * (len(board.lengths) - 1)
                self.assertLessEqual(taken, room + 1e-3)
                for length in board.lengths:
                    wide = sum(s.width_m for s in length.strips)
                    wide += workshop.kerf_m * (len(length.strips) - 1)
                    self.assertLessEqual(wide, layout.width_m + 1e-9)
                    for strip in length.strips:
                        counts[strip.row] = counts.get(strip.row, 0) + 1
        self.assertEqual(counts, {r.number: r.count * panels[r.number].strips for r in wood})

    def test_no_board_of_the_thickness(self) -> None:
        rows, _ = listed(box(openings=()), TABLE)
        wood = [r for r in rows if r.piece.bought_as == "board"]
        with self.assertRaisesRegex(DomainError, "19 mm thick Softwood board is not in the stock"):
            board_thickness(wood[0].piece, TABLE["softwood"], Workshop())

    def test_narrow_pieces_share_the_boards_that_are_bought(self) -> None:
        rows, _ = listed(box(openings=()), TABLE)
        wide = next(r for r in rows if r.piece.bought_as == "board")
        piece = replace(wide.piece, width_m=0.140, length_m=0.5)
        narrow = replace(piece, width_m=0.020)
        both = [replace(wide, number=1, pieces=(piece,)), replace(wide, number=2, pieces=(narrow,))]
        workshop = shipped_stock()[0].workshop
        layouts, _ = board_layouts(both, TABLE["softwood"], 0.019, workshop)
        self.assertEqual([x.width_m for x in layouts], [0.145])
        self.assertEqual(len(layouts[0].boards), 1)
        self.assertEqual(layouts[0].above, 0)

    def test_a_square_for_posts_makes_no_boards(self) -> None:
        """45 mm thick, 46 wide: from boards of 50, not from the square of 45 x 45 in stock."""
        rows, _ = listed(box(openings=()), TABLE)
        piece = next(r.piece for r in rows if r.piece.bought_as == "board")
        workshop, wood = shipped_stock()[0].workshop, TABLE["softwood"]
        for wide, wanted in ((0.045, (0.045, 1)), (0.046, (0.050, 1)), (0.244, (0.050, 1))):
            some = replace(piece, thickness_m=0.045, width_m=wide)
            self.assertEqual(board_thickness(some, wood, workshop), wanted)

    def test_thick_pieces_are_glued_from_layers(self) -> None:
        """115 mm: three boards of 38 are 114, too thin; three of 50, planed."""
        rows, _ = listed(box(openings=()), TABLE)
        row = next(r for r in rows if r.piece.bought_as == "board")
        piece = replace(row.piece, thickness_m=0.115, width_m=0.1, length_m=0.5)
        workshop, wood = shipped_stock()[0].workshop, TABLE["softwood"]
        self.assertEqual(board_thickness(piece, wood, workshop), (0.050, 3))
        thick = replace(row, pieces=(piece,))
        layouts, panels = board_layouts([thick], wood, 0.050, workshop)
        self.assertEqual(panels[row.number].layers, 3)
        self.assertAlmostEqual(panels[row.number].planed_from_m, 0.150)
        strips = [s for x in layouts for b in x.boards for le in b.lengths for s in le.strips]
        self.assertEqual(len(strips), 3 * panels[row.number].strips)
        self.assertIn("glued up from 3 layers", work_text(thick, METRIC, panels, {}))
        with self.assertRaisesRegex(DomainError, "4500 mm.*longer"):
            board_thickness(replace(piece, length_m=4.5), wood, workshop)

    def test_a_piece_too_long_does_not_hide_the_others(self) -> None:
        form = StackedBoxes(frame_count=10)
        design = box(layer("softwood", 19), openings=(), form=form)
        stock = shipped_stock()[0].workshop
        short = replace(
            stock, items=tuple(replace(i, length_m=min(i.length_m, 0.5)) for i in stock.items)
        )
        made = build_plan(design, TABLE, DEMO.colony, DEMO.place, short)
        laid = {s.row for x in made.boards for b in x.boards for le in b.lengths for s in le.strips}
        self.assertTrue(laid)
        self.assertTrue(any("add longer ones" in said for said in made.problems))
        self.assertLess(len(laid), len(made.rows))


def overlap(a: Placed, b: Placed, gap: float) -> bool:
    """Tell whether two pieces lie nearer than a kerf."""
    apart_x = a.x_m + a.wide_m + gap <= b.x_m + 1e-7 or b.x_m + b.wide_m + gap <= a.x_m + 1e-7
    apart_y = a.y_m + a.high_m + gap <= b.y_m + 1e-7 or b.y_m + b.high_m + gap <= a.y_m + 1e-7
    return not (apart_x or apart_y)


def is_guillotine(pieces: list[Placed]) -> bool:
    """Tell whether pieces can be parted by cuts from edge to edge, again and again."""
    if len(pieces) <= 1:
        return True
    for low, size in (("x_m", "wide_m"), ("y_m", "high_m")):
        for at in sorted({getattr(p, low) + getattr(p, size) for p in pieces}):
            before = [p for p in pieces if getattr(p, low) + getattr(p, size) <= at + 1e-7]
            after = [p for p in pieces if getattr(p, low) >= at - 1e-7]
            if before and after and len(before) + len(after) == len(pieces):
                return is_guillotine(before) and is_guillotine(after)
    return False


BLANKS = st.lists(
    st.builds(
        Blank,
        st.sampled_from([0.2, 0.244, 0.467, 0.522, 0.615]),
        st.sampled_from([0.05, 0.1, 0.244, 0.4, 0.5]),
        st.booleans(),
    ),
    min_size=1,
    max_size=24,
)


class Sheets(unittest.TestCase):
    def check(self, sheet: CutSheet, size: tuple[float, float], kerf: float, trim: float) -> None:
        for k, a in enumerate(sheet.placed):
            self.assertGreaterEqual(min(a.x_m, a.y_m), trim - 1e-9)
            self.assertLessEqual(a.x_m + a.wide_m, size[0] - trim + 1e-9)
            self.assertLessEqual(a.y_m + a.high_m, size[1] - trim + 1e-9)
            for b in sheet.placed[k + 1 :]:
                self.assertFalse(overlap(a, b, kerf))
        self.assertTrue(is_guillotine(list(sheet.placed)))

    @_QUICK
    @given(BLANKS)
    def test_properties(self, blanks: list[Blank]) -> None:
        size = (1.25, 0.6)
        plan = cut_sheets(blanks, size, 0.003, 0.01)
        self.assertGreaterEqual(len(plan.sheets), plan.bound)
        self.assertGreaterEqual(plan.above, 0)
        for sheet in plan.sheets:
            self.check(sheet, size, 0.003, 0.01)
        placed = sorted(p.blank for s in plan.sheets for p in s.placed)
        self.assertEqual(placed, list(range(len(blanks))))
        for sheet in plan.sheets:
            for p in sheet.placed:
                blank = blanks[p.blank]
                sizes = (round(p.wide_m, 6), round(p.high_m, 6))
                straight = (round(blank.length_m, 6), round(blank.width_m, 6))
                self.assertIn(sizes, (straight, straight[::-1]) if blank.turns else (straight,))

    def test_the_bound_is_reached_where_it_can_be_seen(self) -> None:
        """Eight of 290 x 290 fill a sheet of 1.2 x 0.6 with a kerf of 3; nine need two."""
        eight = [Blank(0.29, 0.29, True)] * 8
        self.assertEqual(len(cut_sheets(eight, (1.2, 0.6), 0.003, 0.0).sheets), 1)
        nine = cut_sheets([*eight, eight[0]], (1.2, 0.6), 0.003, 0.0)
        self.assertEqual((len(nine.sheets), nine.bound), (2, 2))

    def test_fixed_grain_is_bound_by_more_than_area(self) -> None:
        """Pieces wider than half a sheet each want one of their own: area alone says three."""
        blanks = [Blank(0.7, 0.35, False)] * 5
        plan = cut_sheets(blanks, (1.25, 0.6), 0.0, 0.0)
        area = ceil(5 * 0.7 * 0.35 / (1.25 * 0.6))
        self.assertEqual((plan.bound, len(plan.sheets), area), (5, 5, 2))

    def test_saw_cuts_come_in_order(self) -> None:
        plan = cut_sheets([Blank(0.5, 0.25, False)] * 4, (1.25, 0.6), 0.003, 0.01)
        cuts = plan.sheets[0].cuts
        self.assertTrue(cuts)
        # The first cut runs from edge to edge of the trimmed sheet.
        whole = 1.23 if cuts[0].way == "along" else 0.58
        self.assertAlmostEqual(cuts[0].long_m, whole, places=6)

    def test_the_same_plan_each_time(self) -> None:
        r = random.Random(1)
        blanks = [Blank(r.uniform(0.1, 0.6), r.uniform(0.05, 0.5), True) for _ in range(20)]
        one, two = (cut_sheets(blanks, (1.25, 0.6), 0.003, 0.01) for _ in range(2))
        self.assertEqual(one, two)

    def test_very_many_are_greedy_and_say_so(self) -> None:
        plan = cut_sheets([Blank(0.1, 0.1, True)] * 420, (1.25, 1.25), 0.003, 0.01)
        self.assertTrue(plan.greedy_only)
        self.assertEqual(sum(len(s.placed) for s in plan.sheets), 420)

    def test_refusals(self) -> None:
        with self.assertRaisesRegex(DomainError, "615 x 522 mm does not fit a sheet of 600 x 1250"):
            cut_sheets([Blank(0.615, 0.522, False)], (0.6, 1.25), 0.003, 0.01)
        with self.assertRaisesRegex(DomainError, "give it a size"):
            cut_sheets([Blank(0.6, 0.0, True)], (1.25, 0.6), 0.003, 0.01)


class Stock(unittest.TestCase):
    def test_refusals(self) -> None:
        item = StockItem(name="b", kind="board", fits="wood", length_m=2.0, width_m=0.145)
        for change, words in (
            ({"kerf_m": 0.011}, "kerf of the saw"),
            ({"kerf_m": -0.001}, "kerf of the saw"),
            ({"trim_m": 0.3}, "trim"),
            ({"currency": "gold"}, "currency"),
            ({"items": (replace(item, length_m=0.06),), "trim_m": 0.05}, "quarter of"),
        ):
            with self.subTest(words=words), self.assertRaisesRegex(DomainError, words):
                Workshop(**({"items": (item,)} | change))
        with self.assertRaisesRegex(DomainError, "“b” width"):
            replace(item, width_m=0.0)

    def test_the_next_thicker_board_is_planed(self) -> None:
        workshop = shipped_stock()[0].workshop
        items = items_for(workshop, "board", "softwood", "wood", 0.020)
        self.assertEqual({i.thickness_m for i in items}, {0.022})
        own = StockItem(
            name="own", kind="board", fits="softwood", length_m=2.5, width_m=0.2, thickness_m=0.02
        )
        mine = replace(workshop, items=(*workshop.items, own))
        self.assertEqual(items_for(mine, "board", "softwood", "wood", 0.020), (own,))

    def test_inch_lists_have_actual_sizes(self) -> None:
        """Nominal 1 x 6 is 3/4 x 5 1/2 in (common practice)."""
        inch = shipped_stock()[1].workshop
        six = next(i for i in inch.items if i.name.startswith("1 x 6"))
        self.assertAlmostEqual(six.thickness_m, 0.01905, places=5)
        self.assertAlmostEqual(six.width_m, 0.1397, places=5)
