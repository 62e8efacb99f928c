"""Designs from limits: what is searched, the front, and what is said when nothing keeps to them."""

from __future__ import annotations

import unittest

from calveth.catalogue.candidates import SIZES_M, candidates
from calveth.core.build.weights import lifts_of
from calveth.core.errors import DomainError
from calveth.core.hive.cost import material_cost_eur
from calveth.core.hive.solids import build_solids
from calveth.core.year.propose import Limits, propose
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
        sizes = {y.thickness_m for c in found for y in c.design.shell.walls}
        self.assertLessEqual(set(SIZES_M), sizes)
