"""Sentences that are true: tenths that sum to ten, what faces the bees, cautions, snow."""

from __future__ import annotations

import unittest

import numpy as np

from calveth.catalogue.library import workshop_of
from calveth.catalogue.shipped import demo_project, shipped_materials
from calveth.core.advice.findings import findings
from calveth.core.assess.bands import tenths
from calveth.core.assess.result import assess_months
from calveth.core.assess.snowed_in import SnowedIn, snow_air, under_snow
from calveth.core.case import estimated_case
from calveth.core.edits import add_material, set_layer_material
from calveth.core.workshop.plan import build_plan
from calveth.core.workshop.steps import FIBRE, FOAM

PROJECT = demo_project()
LIST = {m.id: m for m in shipped_materials()}


class Tenths(unittest.TestCase):
    def test_they_sum_to_ten_and_are_near(self) -> None:
        random = np.random.default_rng(1)
        for _ in range(300):
            shares = random.dirichlet((0.5, 0.5, 0.5))
            made = tenths(shares)
            self.assertEqual(sum(made), 10)
            self.assertLess(float(np.abs(np.array(made) - 10 * shares).max()), 1.0)
        self.assertEqual(tenths(np.array([0.68, 0.16, 0.16])), [7, 2, 1])


class Snow(unittest.TestCase):
    def snowed_in(self, month: int, **changed: object) -> SnowedIn:
        known: dict[str, object] = {
            "month": month,
            "days": 20.0,
            "readings": object(),
            "shut": ("low",),
            "left": (),
        }
        return SnowedIn(**{**known, **changed})  # type: ignore[arg-type]

    def test_each_kind_of_month(self) -> None:
        self.assertEqual(snow_air(self.snowed_in(0, days=0.0)), "no snow")
        self.assertEqual(snow_air(self.snowed_in(0, shut=())), "exit")
        self.assertEqual(snow_air(self.snowed_in(0, left=("high",))), "exit")
        self.assertEqual(snow_air(self.snowed_in(0)), "no exit")
        self.assertEqual(snow_air(self.snowed_in(0, hours_bad=9.0, left=("high",))), "bad")
        self.assertEqual(snow_air(self.snowed_in(0, hours_bad=3.0, readings=None)), "suffocates")

    def test_the_worst_month_counts_and_the_soonest_hour(self) -> None:
        year = (
            self.snowed_in(0, hours_bad=3.0, readings=None),
            self.snowed_in(1, hours_bad=9.0),
            self.snowed_in(11, left=("high",)),
        )
        found = under_snow(year)
        self.assertEqual((found.air, found.months, found.hours), ("suffocates", (0, 1), 3.0))
        self.assertTrue(found.danger)
        mild = under_snow(year[2:])
        self.assertEqual((mild.air, mild.months, mild.hours), ("exit", (), None))
        self.assertFalse(mild.danger)
        self.assertEqual(under_snow(()).air, "no snow")


class Bare(unittest.TestCase):
    def said(self, material: str) -> set[str]:
        project = set_layer_material(PROJECT, "timber", "lid", 0, LIST[material])
        monthly = assess_months(estimated_case(project, project.design("timber")))
        return {f.message.id for f in findings(monthly, 0)}

    def test_what_bees_chew_is_said_where_they_meet_it(self) -> None:
        for material, chewed in (("wood-fibre", True), ("hemp", True), ("softwood", False)):
            with self.subTest(material=material):
                self.assertEqual("bare to the bees" in self.said(material), chewed)

    def test_fibre_has_its_own_caution_and_foam_the_one_of_foam(self) -> None:
        for material, own, other in (("wood-fibre", FIBRE, FOAM), ("xps", FOAM, FIBRE)):
            project = add_material(PROJECT, LIST[material])
            project = set_layer_material(project, "composite", "lid", 1, LIST[material])
            project = set_layer_material(project, "composite", "walls", 1, LIST[material])
            project = set_layer_material(project, "composite", "floor", 1, LIST[material])
            design = project.design("composite")
            plan = build_plan(
                design,
                project.material_table(),
                project.colony,
                project.place,
                workshop_of(project),
            )
            cautions = {c for step in plan.steps for c in step.cautions}
            with self.subTest(material=material):
                self.assertIn(own, cautions)
                self.assertNotIn(other, cautions)


if __name__ == "__main__":
    unittest.main()
