"""What is at hand is cut first: boards, sheets and blocks, never more of them than there are.

Common practice, no source: a workshop uses up what stands in the shed before it buys.
"""

from __future__ import annotations

import unittest
from collections import Counter
from dataclasses import replace
from pathlib import Path
from random import Random
from tempfile import TemporaryDirectory

from calveth.catalogue.library import workshop_of
from calveth.catalogue.shipped import demo_project
from calveth.core.advice.own_offers import own_offers
from calveth.core.case import estimated_case
from calveth.core.errors import DomainError
from calveth.core.workshop.own_boards import OwnBar, cut_own, least_bought
from calveth.core.workshop.plan import BuildPlan, build_plan
from calveth.core.workshop.stock import StockItem, Workshop
from calveth.store.errors import FileError
from calveth.store.stock_file import read_stock, stock_rows
from calveth.store.tables import write_csv
from calveth.texts.build_html import to_get_html
from calveth.texts.build_pages import board_lines
from calveth.texts.own_offers import offer_text
from calveth.texts.units import METRIC

PROJECT = demo_project()
TABLE = PROJECT.material_table()
SHIPPED = workshop_of(PROJECT)
PLANK = StockItem(
    name="mine",
    kind="board",
    fits="softwood",
    length_m=2.4,
    width_m=0.15,
    thickness_m=0.032,
    have=3,
)


def plan_with(design_id: str, *own: StockItem, shop: Workshop = SHIPPED) -> BuildPlan:
    """Return the plan of a design of the demo with more in the stock list."""
    workshop = replace(shop, items=(*own, *shop.items))
    return build_plan(PROJECT.design(design_id), TABLE, PROJECT.colony, PROJECT.place, workshop)


def boards(plan: BuildPlan) -> list[tuple[bool, str]]:
    """Return every board of a plan: whether it is at hand, and its name."""
    return [(b.own, b.item.name) for x in plan.boards for b in x.boards]


def strips(plan: BuildPlan) -> Counter[int]:
    """Return how many strips are cut of each row."""
    return Counter(
        s.row for x in plan.boards for b in x.boards for c in b.lengths for s in c.strips
    )


class Bars(unittest.TestCase):
    def test_what_is_there_is_filled_and_the_rest_is_left(self) -> None:
        """By hand: of 2 m, 1 m with 3 mm cuts and 10 mm trims come 4 x 490 mm; 2 are left."""
        cut = cut_own([0.49] * 6, [OwnBar(2.0, 1), OwnBar(0.4, 5)], 0.003, 0.01)
        self.assertEqual([len(bar.pieces) for bar in cut.bars], [4])
        self.assertAlmostEqual(cut.bars[0].left_m, 1.983 - 4 * 0.493, places=4)
        self.assertEqual(len(cut.rest), 2)
        self.assertEqual(cut_own([0.49], [OwnBar(2.0, 0)], 0.003, 0.01).rest, (0,))

    def test_the_shortest_that_does_is_opened(self) -> None:
        cut = cut_own([0.9], [OwnBar(4.0, 1), OwnBar(1.0, 2)], 0.003, 0.01)
        self.assertEqual([bar.stock for bar in cut.bars], [1])

    def test_no_way_needs_fewer_than_the_bound(self) -> None:
        lengths = [0.5] * 10
        own = [OwnBar(1.1, 2)]
        cut = cut_own(lengths, own, 0.003, 0.01)
        self.assertEqual(len(cut.rest), 6)
        self.assertEqual(least_bought(lengths, own, 2.1, 0.003, 0.01), 2)
        self.assertEqual(least_bought(lengths, [OwnBar(1.1, 9)], 2.1, 0.003, 0.01), 0)


class Boards(unittest.TestCase):
    def test_own_boards_go_first_and_cost_nothing(self) -> None:
        bare = plan_with("timber")
        plan = plan_with("timber", PLANK)
        self.assertEqual(sum(own for own, _ in boards(plan)), 3)
        self.assertLess(plan.bought, bare.bought)
        self.assertLess(plan.used, plan.bought + 1e-9)
        self.assertEqual(strips(plan).keys(), strips(bare).keys())
        text = "\n".join(board_lines(plan, TABLE, METRIC))
        self.assertIn("3 of your own, 1 to buy", text)
        self.assertIn("1. yours, 2400", text)
        html = to_get_html(plan, TABLE, METRIC, "€")
        self.assertIn("have", html)
        self.assertNotIn(">have<", to_get_html(bare, TABLE, METRIC, "€"))

    def test_what_cannot_be_bought_again_is_not(self) -> None:
        plan = plan_with("timber", replace(PLANK, more=False))
        named = [own for own, name in boards(plan) if name == "mine"]
        self.assertTrue(named and all(named))
        self.assertEqual(plan.problems, ())
        enough = plan_with("timber", replace(PLANK, more=False, have=40))
        self.assertTrue(all(own for own, name in boards(enough) if name == "mine"))
        self.assertLess(enough.bought, plan.bought)

    def test_with_nothing_for_sale_it_is_said_what_does_not_reach(self) -> None:
        few = replace(PLANK, more=False, have=1)
        alone = replace(SHIPPED, items=(few,))
        plan = build_plan(PROJECT.design("timber"), TABLE, PROJECT.colony, PROJECT.place, alone)
        self.assertIn("do not reach for all pieces", " ".join(plan.problems))
        many = replace(few, have=40)
        shed = replace(SHIPPED, items=(many, replace(many, thickness_m=0.025)))
        plan = build_plan(PROJECT.design("timber"), TABLE, PROJECT.colony, PROJECT.place, shed)
        self.assertEqual((plan.problems, plan.bought > 0), ((), False))

    def test_a_thickness_that_runs_out_is_bought_in_the_next(self) -> None:
        """One board of 24.5 mm would do for 25 mm pieces, and does not reach for all of them."""
        few = replace(PLANK, thickness_m=0.0245, have=1, more=False)
        plan = plan_with("quilt", few)
        self.assertEqual(plan.problems, ())
        self.assertNotIn("mine", {name for _, name in boards(plan)})
        self.assertIn(0.025, {x.thickness_m for x in plan.boards})

    def test_random_stock_cuts_every_strip_once_and_never_more_than_there_is(self) -> None:
        source = Random(5)
        ids = ("timber", "quilt", "cover", "composite", "plain-boards", "polystyrene")
        bare = {i: plan_with(i) for i in ids}
        for _ in range(60):
            own = [
                StockItem(
                    name=f"own {k}",
                    kind=source.choice(("board", "board", "sheet")),
                    fits=source.choice(("wood", "softwood", "xps", "eps-dense")),
                    length_m=source.choice((0.4, 0.7, 1.2, 2.4)),
                    width_m=source.choice((0.06, 0.1, 0.15, 0.3, 0.6)),
                    thickness_m=source.choice((0.0, 0.012, 0.019, 0.025, 0.032, 0.04, 0.05)),
                    have=source.randint(1, 8),
                    more=source.random() < 0.3,
                )
                for k in range(source.randint(1, 4))
            ]
            which = source.choice(ids)
            plan = plan_with(which, *own)
            with self.subTest(which=which, own=own):
                self.assertEqual(plan.problems, bare[which].problems)
                counts = {n: r.count for n, r in enumerate(plan.rows, 1)}
                for row, count in strips(plan).items():
                    panel = plan.panels[row]
                    self.assertEqual(count, counts[row] * panel.strips * panel.layers)
                blanks = Counter(n for x in plan.sheets for n in x.rows)
                for row, count in blanks.items():
                    self.assertGreaterEqual(count, counts[row])
                cut_rows = strips(plan).keys() | blanks.keys()
                was = {n for x in bare[which].sheets for n in x.rows} | strips(bare[which]).keys()
                self.assertEqual(cut_rows, was)
                taken = Counter(b.item for x in plan.boards for b in x.boards if b.own)
                for sheet in plan.sheets:
                    taken[sheet.item] += len(sheet.plan.sheets) if sheet.own else 0
                for item, count in taken.items():
                    self.assertLessEqual(count, item.have)
                bought = [b.item for x in plan.boards for b in x.boards if not b.own]
                bought += [x.item for x in plan.sheets if not x.own]
                self.assertTrue(all(item.more for item in bought))
                for x in plan.boards:
                    for b in x.boards:
                        long = sum(c.length_m + 0.003 for c in b.lengths) - 0.003
                        self.assertLessEqual(long, b.item.length_m - 0.02 + 1e-3)
                        for c in b.lengths:
                            wide = sum(s.width_m for s in c.strips) + 0.003 * (len(c.strips) - 1)
                            self.assertLessEqual(wide, b.item.width_m + 1e-9)


class SheetsAndBlocks(unittest.TestCase):
    def test_an_offcut_of_foam_is_used(self) -> None:
        bare = plan_with("polystyrene")
        cut = StockItem(
            name="offcut",
            kind="sheet",
            fits="eps-dense",
            length_m=1.0,
            width_m=0.6,
            thickness_m=0.04,
            have=1,
            more=False,
        )
        plan = plan_with("polystyrene", cut)
        self.assertEqual([len(x.plan.sheets) for x in plan.sheets if x.own], [1])
        self.assertLessEqual(plan.bought, bare.bought)
        many = plan_with("polystyrene", replace(cut, have=30))
        self.assertTrue(all(x.own for x in many.sheets if x.thickness_m == 0.04))
        self.assertLess(many.bought, bare.bought)

    def test_blocks_at_hand_are_counted_once_over_all_walls(self) -> None:
        bare = plan_with("aircrete")
        needed = sum(w.blocks for w in bare.walls)
        own = replace(bare.walls[0].block, have=needed - 1)
        shop = replace(
            SHIPPED, items=tuple(own if i == bare.walls[0].block else i for i in SHIPPED.items)
        )
        plan = plan_with("aircrete", shop=shop)
        self.assertEqual(sum(w.own for w in plan.walls), needed - 1)
        block = (bare.bought - plan.bought) / (needed - 1)
        self.assertGreater(block, 0.1)
        few = replace(own, have=2, more=False, name="odd")
        with_few = plan_with("aircrete", few)
        self.assertNotIn("odd", {w.block.name for w in with_few.walls})
        alone = plan_with("aircrete", shop=replace(SHIPPED, items=(few,)))
        self.assertIn("do not reach for the wall", " ".join(alone.problems))


class Offers(unittest.TestCase):
    def test_another_thickness_is_offered_as_a_change(self) -> None:
        case = estimated_case(PROJECT, PROJECT.design("timber"))
        own = replace(PLANK, thickness_m=0.025)
        offers = own_offers(case, replace(SHIPPED, items=(own, *SHIPPED.items)))
        walls = next(o for o in offers if o.face == "walls")
        self.assertEqual(walls.design.shell.walls[0].thickness_m, 0.025)
        assert walls.honey_kg is not None
        self.assertGreater(walls.honey_kg, 0.0)  # thinner wood keeps less warmth
        self.assertLess(walls.weight_kg, 0.0)
        self.assertRegex(
            offer_text(walls, METRIC),
            r"Your 25 mm boards: walls 25 mm instead of 32 mm: (needs .* more|as much) honey, "
            r".* lighter",
        )
        self.assertNotIn("floor", {o.face for o in offers})  # it has 25 mm already

    def test_nothing_is_offered_where_it_fits_or_is_far_off(self) -> None:
        case = estimated_case(PROJECT, PROJECT.design("timber"))
        for own in (PLANK, replace(PLANK, thickness_m=0.1), replace(PLANK, fits="eps-dense")):
            shop = replace(SHIPPED, items=(own,))
            faces = {o.face for o in own_offers(case, shop)}
            self.assertNotIn("walls", faces)
        self.assertEqual(own_offers(case, SHIPPED), ())


class List(unittest.TestCase):
    def test_refusals(self) -> None:
        for have in (-1, 10_000, 1.5):
            with self.subTest(have=have), self.assertRaisesRegex(DomainError, "“mine” have"):
                replace(PLANK, have=have)  # type: ignore[arg-type]

    def test_csv_keeps_what_is_at_hand_and_old_lists_are_read(self) -> None:
        with TemporaryDirectory() as folder:
            path = Path(folder) / "stock.csv"
            items = (PLANK, replace(PLANK, have=0, more=False, price=3.5))
            write_csv(path, stock_rows(Workshop(items=items)))
            self.assertEqual(read_stock(path), items)
            old = "name,kind,fits,length_m,width_m\nb,board,wood,2.0,0.1\n"
            path.write_text(old, encoding="utf-8")
            self.assertEqual((read_stock(path)[0].have, read_stock(path)[0].more), (0, True))
            for cell, words in (
                ("1.5,yes", "whole number"),
                ("x,yes", "not a number"),
                ("1,perhaps", "neither yes nor no"),
            ):
                text = f"name,kind,fits,length_m,width_m,have,more\nb,board,wood,2,0.1,{cell}\n"
                path.write_text(text, encoding="utf-8")
                with self.subTest(cell=cell), self.assertRaisesRegex(FileError, words):
                    read_stock(path)
