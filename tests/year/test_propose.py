"""Designs from limits: what is searched, the front, and what is said when nothing keeps to them."""

from __future__ import annotations

import unittest
from dataclasses import replace
from unittest import mock

from calveth.catalogue.candidates import SIZES_M, candidates
from calveth.core.errors import DomainError
from calveth.core.hive.forms import cavity_height_m
from calveth.core.hive.opening import is_high
from calveth.core.solids.build import build_solids
from calveth.core.solids.cost import material_cost_eur
from calveth.core.workshop.stock import StockItem, materials_in_stock
from calveth.core.workshop.weights import lifts_of
from calveth.core.year import propose as propose_module
from calveth.core.year.propose import Limits, propose
from calveth.texts.proposals import search_sentence
from tests.year.cases import PROJECT, case_of


class Propose(unittest.TestCase):
    def setUp(self) -> None:
        self.cases = [case_of(k) for k in ("polystyrene", "composite", "plain-boards", "timber")]

    def test_the_front_keeps_to_its_limits_and_nothing_in_it_is_worse_in_all(self) -> None:
        found = propose(self.cases, Limits(lift_kg=45.0, dry_of_ten=9), draws=4)
        self.assertEqual((found.tried, found.nearest), (4, ""))
        self.assertTrue(found.front)
        for p in found.front:
            case = p.bands.case
            hive = build_solids(case.design)
            lifts = lifts_of(case.design, hive, case.materials, case.colony)
            self.assertAlmostEqual(p.lift_kg, max(lift.full_kg for lift in lifts))
            self.assertLessEqual(p.lift_kg, 45.0)
            self.assertAlmostEqual(p.cost_eur, material_cost_eur(case.design, case.materials))
            self.assertGreaterEqual(p.dry_of_ten, 9)
            for q in found.front:
                worse = all(a >= b for a, b in zip(p.measures, q.measures, strict=True))
                self.assertFalse(worse and p.dry_of_ten <= q.dry_of_ten and p is not q)
        names = [p.bands.case.design.id for p in found.front]
        self.assertIn("composite", names)
        self.assertNotIn("plain-boards", names)

    def test_what_misses_least_is_named(self) -> None:
        none = propose(self.cases, Limits(lift_kg=5.0))
        self.assertEqual((none.within, none.front), (0, ()))
        self.assertIn("heaviest lift", none.missed)
        wood = propose(self.cases, Limits(materials=frozenset({"paper"})))
        self.assertIn("needs", wood.missed)
        wet = propose([case_of("plain-boards")], Limits(dry_of_ten=10), draws=2)
        self.assertEqual(wet.front, ())
        self.assertIn("of 10 built alike", wet.missed)

    def test_the_months_sieve_what_goes_through_the_year(self) -> None:
        """Of twelve, six go through the year: with what is best in all twelve among them."""
        cases = [*self.cases, *candidates(case_of("timber"))[:8]]
        whole = propose(cases, Limits(dry_of_ten=0), draws=2)
        self.assertEqual((whole.tried, whole.through_year), (12, whole.within))
        with mock.patch.object(propose_module, "_MOST_THROUGH_THE_YEAR", 6):
            sieved = propose(cases, Limits(dry_of_ten=0), draws=2)
        self.assertEqual(sieved.through_year, 6)
        self.assertIn("the best 6 of them by the months", search_sentence(sieved))
        honey = [min(p.measures[0] for p in found.front) for found in (whole, sieved)]
        self.assertLess(honey[1], honey[0] + 0.15)
        for measure in (1, 2):
            least = [min(p.measures[measure] for p in found.front) for found in (whole, sieved)]
            self.assertEqual(least[1], least[0])

    def test_behind_the_best_by_the_months_comes_the_next(self) -> None:
        """Three hives, each worse than the one before in everything; two go through the year."""
        cases = [case_of(k) for k in ("plain-boards", "timber", "composite")]
        order = {"composite": 1, "timber": 2, "plain-boards": 3}

        def coarse(w: propose_module._Weighed, _: object) -> tuple[int, ...]:
            return (order[w.case.design.id],) * 5

        with (
            mock.patch.object(propose_module, "_MOST_THROUGH_THE_YEAR", 2),
            mock.patch.object(propose_module, "_coarse", coarse),
        ):
            found = propose(cases, Limits(dry_of_ten=0), draws=2)
        self.assertEqual((found.within, found.through_year), (3, 2))
        self.assertNotIn("plain-boards", [p.bands.case.design.id for p in found.front])

    def test_air_is_at_hand_everywhere_and_a_stock_list_names_materials(self) -> None:
        case = case_of("quilt")
        solid = {k for k in case.design.material_ids if case.materials[k].kind != "air gap"}
        self.assertLess(len(solid), len(case.design.material_ids))
        found = propose([case], Limits(materials=frozenset(solid), dry_of_ten=0), draws=2)
        self.assertEqual(found.within, 1)
        wood = StockItem(name="boards", kind="board", fits="wood", length_m=3.0, width_m=0.2)
        workshop = replace(PROJECT.workshop, items=(wood,))
        ids = materials_in_stock(workshop, case.materials.values())
        self.assertIn("softwood", ids)
        self.assertTrue(all(case.materials[k].group == "wood" for k in ids))

    def test_limits_that_mean_nothing_are_refused(self) -> None:
        for limits in ({"lift_kg": -1.0}, {"cost_eur": -5.0}, {"outer_m": 0.0}, {"dry_of_ten": 11}):
            with self.subTest(limits=limits), self.assertRaises(DomainError):
                Limits(**limits)

    def test_candidates_are_what_ships_round_the_same_cavity_in_several_sizes(self) -> None:
        found = candidates(case_of("timber"))
        self.assertGreater(len(found), 40)
        ids = [c.design.id for c in found]
        self.assertEqual(len(ids), len(set(ids)))
        form = PROJECT.design("timber").form
        self.assertEqual({type(c.design.form) for c in found}, {type(form)})
        own = {c.design.id: c.design for c in found}
        for word in ("-hole", "-closed", "-filled", "-hole-filled"):
            self.assertTrue(any(key.endswith(word) for key in own), word)
        joints = {key: design.joints for key, design in own.items()}
        self.assertTrue(all(joints[k] == "filled" for k in own if k.endswith("-filled")))
        self.assertGreater(sum(j != "filled" for j in joints.values()), 100)
        height = cavity_height_m(form)
        for key, design in own.items():
            high = any(is_high(o, height) for o in design.openings)
            if "-hole" in key or "-closed" in key:
                self.assertEqual(high, "-hole" in key, key)
        sizes = {y.thickness_m for c in found for y in c.design.shell.walls}
        self.assertLessEqual(set(SIZES_M), sizes)
