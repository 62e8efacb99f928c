"""The stack, what changes between versions, the steps and the whole plan."""

from __future__ import annotations

import unittest
from dataclasses import replace

from calveth.catalogue.examples import workshop_project
from calveth.catalogue.library import workshop_of
from calveth.catalogue.shipped import demo_project
from calveth.core.edits import set_layer_thickness
from calveth.core.hive.design import Design
from calveth.core.hive.forms import StackedBoxes
from calveth.core.hive.joinery import Joinery
from calveth.core.workshop.changes import changes_between
from calveth.core.workshop.plan import BuildPlan, build_plan
from calveth.core.workshop.stock import Workshop
from calveth.texts.build import build_message
from calveth.texts.build_html import steps_html, to_get_html, weights_html
from calveth.texts.build_pages import change_lines
from calveth.texts.build_words import WORDS
from calveth.texts.units import INCH, METRIC
from tests.core.builders import TABLE, box, layer

DEMO = demo_project()


def plan(design: Design, workshop: Workshop | None = None) -> BuildPlan:
    """Return the plan of a design at the demo's place."""
    return build_plan(design, TABLE, DEMO.colony, DEMO.place, workshop or workshop_of(DEMO))


class Stack(unittest.TestCase):
    def test_bee_space_at_every_level(self) -> None:
        """Bee space 6 to 9 mm; common practice, no source."""
        form = StackedBoxes(frame_count=10, box_count=3, frame_height_m=0.236, box_height_m=0.244)
        gaps = plan(box(layer("plywood", 19), openings=(), form=form)).stack.gaps
        kinds = ["under frames", "between boxes", "between boxes", "above frames"]
        self.assertEqual([g.kind for g in gaps], kinds)
        for gap in gaps[1:]:
            self.assertAlmostEqual(gap.gap_m, 0.008)
            self.assertEqual(gap.verdict, "right")
            self.assertTrue(gap.stays)
        glued = replace(form, frame_height_m=0.240)
        found = plan(box(openings=(), form=glued)).stack.gaps
        self.assertEqual({g.verdict for g in found[1:]}, {"glued"})

    def test_solid_wood_moves_with_the_season(self) -> None:
        """244 mm move 244·0.0025·6 = 3.7 mm (USDA Wood Handbook, from memory); sheets do not."""
        form = StackedBoxes(frame_count=10, frame_height_m=0.236)
        wood = plan(box(openings=(), form=form)).stack.gaps[-1]
        spread = wood.high_m - wood.low_m
        self.assertAlmostEqual(spread, 0.244 * 0.0025 * 6 + 4 * 0.0005, places=9)
        self.assertFalse(wood.stays)

    def test_a_lid_that_no_longer_closes(self) -> None:
        says = {
            overlap: {
                m.id
                for m in plan(
                    box(openings=(), joinery=Joinery(lid="telescoping rim", overlap_m=overlap))
                ).stack.says
            }
            for overlap in (0.008, 0.05)
        }
        self.assertIn("lid too short", says[0.008])
        self.assertIn("lid closes", says[0.05])

    def test_room_to_feed_is_no_fault(self) -> None:
        form = StackedBoxes(frame_count=10, feed_room_m=0.06)
        gaps = plan(box(openings=(), form=form)).stack.gaps
        self.assertEqual((gaps[-1].kind, gaps[-1].verdict), ("feed room", "note"))


class Versions(unittest.TestCase):
    def test_nothing_changes(self) -> None:
        pieces = plan(DEMO.design("timber")).pieces
        changes = changes_between(pieces, pieces)
        self.assertTrue(changes.nothing)
        self.assertEqual(changes.kept, len(pieces))
        lines = change_lines("a", "b", changes, METRIC, TABLE)
        self.assertIn("Nothing is to be cut.", lines[-1])

    def test_a_thicker_lid_is_a_new_lid(self) -> None:
        thick = set_layer_thickness(DEMO, "timber", "lid", 0, 0.038).design("timber")
        changes = changes_between(plan(DEMO.design("timber")).pieces, plan(thick).pieces)
        self.assertEqual([r.piece.part.role for r in changes.new], ["lid"])
        self.assertEqual([r.piece.part.role for r in changes.over], ["lid"])
        self.assertFalse(changes.recut)

    def test_shallower_boxes_are_cut_down(self) -> None:
        old = box(openings=(), form=StackedBoxes(frame_count=10))
        new = replace(
            old, form=StackedBoxes(frame_count=10, box_height_m=0.168, frame_height_m=0.156)
        )
        changes = changes_between(plan(old).pieces, plan(new).pieces)
        self.assertEqual(len(changes.recut), 4)
        for recut in changes.recut:
            self.assertAlmostEqual(recut.new.width_m, 0.168)
            self.assertGreaterEqual(recut.old.width_m, recut.new.width_m)
        self.assertFalse(changes.new)
        self.assertIn("cut down", "\n".join(change_lines("a", "b", changes, INCH, TABLE)))

    def test_a_piece_with_a_hole_is_not_cut_down_to_one_without(self) -> None:
        old = DEMO.design("timber")
        new = replace(old, openings=())
        changes = changes_between(plan(old).pieces, plan(new).pieces)
        self.assertFalse(changes.recut)
        self.assertTrue(all(r.piece.cutouts for r in changes.over))


class Plans(unittest.TestCase):
    def test_the_five_of_the_workshop(self) -> None:
        project = workshop_project()
        table = project.material_table()
        for design in project.designs:
            made = build_plan(design, table, project.colony, project.place, workshop_of(project))
            with self.subTest(design=design.id):
                self.assertEqual(made.problems, ())
                self.assertTrue(made.priced)
                self.assertGreaterEqual(made.bought, made.used)
                self.assertEqual([r.number for r in made.rows], list(range(1, len(made.rows) + 1)))
                self.assertTrue(made.steps)
                for units in (METRIC, INCH):
                    for html in (
                        to_get_html(made, table, units, "€"),
                        weights_html(made, units),
                        steps_html(made, units),
                    ):
                        self.assertNotIn("{", html)
                        self.assertGreater(len(html), 80)

    def test_every_row_is_cut_from_something(self) -> None:
        for design in DEMO.designs:
            made = plan(design)
            placed = {
                s.row for x in made.boards for b in x.boards for y in b.lengths for s in y.strips
            }
            placed |= {n for x in made.sheets for n in x.rows} | set(made.ordered)
            built = {r.number for r in made.rows if r.piece.bought_as in ("block", "cast")}
            self.assertEqual(placed | built, {r.number for r in made.rows}, design.id)

    def test_cautions_stand_beside_the_acts(self) -> None:
        trough = plan(workshop_project().design("trough"))
        saw = next(s for s in trough.steps if s.act.id == "saw blocks")
        self.assertIn("Silica dust", saw.cautions[0])
        foam = plan(DEMO.design("composite"))
        self.assertIn("flame", next(s for s in foam.steps if s.act.id == "cut foam").cautions[0])

    def test_everything_the_core_says_has_words(self) -> None:
        found = set()
        for project in (DEMO, workshop_project()):
            for design in project.designs:
                made = plan(design)
                found |= {m.id for r in made.rows for m in r.piece.work}
                found |= {s.act.id for s in made.steps} | {m.id for m in made.stack.says}
                found |= {m.id for m in made.helps}
                for message in (*made.helps, *made.stack.says):
                    self.assertNotIn("{", build_message(message, INCH))
        self.assertLessEqual(found, set(WORDS))

    def test_problems_are_sentences_and_the_rest_stands(self) -> None:
        made = plan(DEMO.design("composite"), Workshop())
        self.assertIn("is not in the stock list; add", made.problems[0])
        self.assertEqual(len(made.rows), len(plan(DEMO.design("composite")).rows))
        self.assertTrue(made.lifts)
        soft = replace(DEMO.design("polystyrene"), joinery=Joinery(stand="legs"))
        self.assertIn("carries nothing; choose a timber", " ".join(plan(soft).problems))

    def test_stock_without_a_price(self) -> None:
        free = replace(TABLE["softwood"], price_eur_m3=0.0)
        made = build_plan(
            DEMO.design("timber"),
            {**TABLE, "softwood": free},
            DEMO.colony,
            DEMO.place,
            workshop_of(DEMO),
        )
        self.assertFalse(made.priced)
        self.assertTrue(made.boards)
        self.assertIn("no price", to_get_html(made, TABLE, METRIC, "€"))

    def test_a_dense_material_weighs(self) -> None:
        """The weight of a row is that of its finished volume, openings cut out."""
        made = plan(DEMO.design("timber"))
        kilos = sum(p.left_m3 for p in made.pieces if not p.added) * 500
        self.assertAlmostEqual(kilos, sum(v.lift.empty_kg for v in made.lifts), places=6)
