"""The season plan: what it makes of the hive, month by month."""

from __future__ import annotations

import unittest
from dataclasses import replace

from calveth.catalogue.library import shipped_places
from calveth.catalogue.shipped import demo_project
from calveth.core.assess.result import assess_many, assess_months
from calveth.core.climate.place import days_with_snow, days_without_forage
from calveth.core.constants_tables import TRAY_LEAK
from calveth.core.edits import set_month_setting, set_seasons
from calveth.core.errors import DomainError
from calveth.core.hive.by_month import (
    in_month,
    kept_layers,
    month_designs,
    setting_of,
)
from calveth.core.hive.opening import Opening
from calveth.core.hive.plans import starting_plan
from calveth.core.hive.season_plan import (
    AS_BUILT,
    Period,
    SeasonPlan,
    Setting,
    monthly_plan,
)
from calveth.core.materials import Layer
from calveth.core.school import SCHOOLS
from tests.cases import hive_case
from tests.core.builders import TABLE, box, hole, layer, slot, steady_place
from tests.core.test_colony import COLONY

QUILTED = box(
    layer("softwood", 25),
    lid=(
        layer("softwood", 19),
        Layer(material="shavings", thickness_m=0.05, fitting="quilt"),
        Layer(material="canvas", thickness_m=0.001, fitting="quilt"),
    ),
    openings=(slot(), hole(0.45)),
)


def plan(**by_month: Setting) -> SeasonPlan:
    return monthly_plan(tuple(by_month.get(f"m{k}", Setting()) for k in range(12)))


class OfAMonth(unittest.TestCase):
    def test_layers_that_are_off_are_gone(self) -> None:
        design = replace(QUILTED, seasons=plan(m6=Setting(quilt=False)))
        self.assertEqual(len(in_month(design, 6).shell.lid), 1)
        self.assertEqual(len(in_month(design, 0).shell.lid), 3)
        self.assertEqual(kept_layers(design, 6, "lid"), (0,))
        self.assertEqual(kept_layers(design, 0, "lid"), (0, 1, 2))

    def test_a_face_never_loses_its_last_layer(self) -> None:
        only = box(lid=(Layer(material="shavings", thickness_m=0.05, fitting="quilt"),))
        design = replace(only, seasons=plan(m0=Setting(quilt=False)))
        self.assertEqual(len(in_month(design, 0).shell.lid), 1)

    def test_sliders(self) -> None:
        setting = Setting(open_shares=(("low", 0.3),))
        design = replace(QUILTED, seasons=plan(m1=setting))
        shares = [o.free_share for o in in_month(design, 1).openings]
        self.assertEqual(shares, [0.3, 1.0])
        self.assertEqual(setting.with_share("low", 0.5).share("low", 1.0), 0.5)
        self.assertEqual(setting.share("high", 0.8), 0.8)

    def test_a_tray_leaves_a_little(self) -> None:
        screen = Opening(
            id="s",
            name="screen",
            shape="screen",
            side="floor",
            bottom_m=0.0,
            width_m=0.3,
            height_m=0.4,
        )
        design = box(openings=(slot(), screen), has_tray=True, seasons=plan(m0=Setting(tray=False)))
        self.assertEqual(in_month(design, 0).openings[1].free_share, 1.0)
        self.assertEqual(in_month(design, 1).openings[1].free_share, TRAY_LEAK.value)
        without = replace(design, has_tray=False)
        self.assertEqual(in_month(without, 1).openings[1].free_share, 1.0)

    def test_months_set_alike_share_one_hive(self) -> None:
        design = replace(QUILTED, seasons=plan(m6=Setting(quilt=False)))
        months = month_designs(design)
        self.assertIs(months[0], months[11])
        self.assertEqual(len({id(m) for m in months}), 2)
        self.assertEqual(month_designs(QUILTED), (QUILTED,) * 12)
        self.assertEqual(setting_of(QUILTED, 3), Setting())

    def test_refusals(self) -> None:
        with self.assertRaises(DomainError) as caught:
            Setting(open_shares=(("low", 1.5),))
        self.assertIn("open share", str(caught.exception))
        with self.assertRaisesRegex(DomainError, "first day of two settings"):
            SeasonPlan(
                periods=(
                    Period(from_day=9, setting=AS_BUILT),
                    Period(from_day=9, setting=Setting(quilt=False)),
                )
            )
        with self.assertRaisesRegex(DomainError, "first day of a setting"):
            Period(from_day=366, setting=AS_BUILT)
        project = demo_project()
        with self.assertRaises(DomainError):
            set_month_setting(project, "timber", 12, lambda s: s)


class Assessed(unittest.TestCase):
    def test_each_month_is_that_of_its_own_hive(self) -> None:
        design = replace(QUILTED, seasons=plan(m6=Setting(quilt=False)))
        place = steady_place(temperature=2.0)
        planned = assess_months(hive_case(design, place, COLONY, TABLE))
        with_quilt = assess_months(hive_case(QUILTED, place, COLONY, TABLE))
        bare = assess_months(hive_case(in_month(design, 6), place, COLONY, TABLE))
        for month, same in ((0, with_quilt), (6, bare)):
            for zone in range(3):
                self.assertAlmostEqual(
                    float(planned.months.balance.temperature_degc[zone, month]),
                    float(same.months.balance.temperature_degc[zone, month]),
                    places=4,
                )
        self.assertEqual(len(planned.model_in(6).design.shell.lid), 1)
        self.assertLess(
            float(planned.months.balance.surface_degc[0, 6]),
            float(with_quilt.months.balance.surface_degc[0, 6]),
        )

    def test_many_at_once_are_each_as_alone(self) -> None:
        place = demo_project().place
        designs = [box(layer("softwood", mm)) for mm in (15, 30, 60)] + [QUILTED]
        together = assess_many([hive_case(d, place, COLONY, TABLE) for d in designs])
        for design, year in zip(designs, together, strict=True):
            alone = assess_months(hive_case(design, place, COLONY, TABLE))
            self.assertAlmostEqual(year.winter_honey_kg, alone.winter_honey_kg, places=4)
            self.assertIs(year.design, design)

    def test_a_batch_longer_than_one(self) -> None:
        designs = [box(layer("softwood", 15 + k)) for k in range(45)]
        years = assess_many([hive_case(d, demo_project().place, COLONY, TABLE) for d in designs])
        honey = [y.winter_honey_kg for y in years]
        self.assertEqual(honey, sorted(honey, reverse=True))


class StartingPlans(unittest.TestCase):
    def test_each_school_everywhere(self) -> None:
        for shipped in shipped_places():
            for school in SCHOOLS:
                with self.subTest(place=shipped.id, school=school):
                    made = starting_plan(QUILTED, shipped.place, school)
                    self.assertTrue(made)
                    replace(QUILTED, seasons=made)

    def test_what_the_schools_do_with_the_upper_hole(self) -> None:
        place = demo_project().place
        for school, high, low in (
            ("sealed warm top", 0.0, 0.3),
            ("upper entrance", 1.0, 0.3),
            ("high cross-flow", 1.0, 0.0),
        ):
            january = starting_plan(QUILTED, place, school).in_month(0)  # type: ignore[arg-type]
            with self.subTest(school=school):
                self.assertEqual(january.share("high", 9), high)
                self.assertEqual(january.share("low", 9), low)
                self.assertTrue(january.quilt)
        july = starting_plan(QUILTED, place, "sealed warm top").in_month(6)
        self.assertEqual((july.share("high", 9), july.quilt, july.cover), (1.0, False, False))

    def test_winter_is_in_july_in_the_south(self) -> None:
        south = next(s for s in shipped_places() if s.place.latitude_deg < -40).place
        made = starting_plan(QUILTED, south, "sealed warm top")
        self.assertEqual(
            (made.in_month(6).share("low", 9), made.in_month(0).share("low", 9)), (0.3, 1.0)
        )

    def test_by_edit_and_back(self) -> None:
        project = demo_project()
        made = starting_plan(project.design("timber"), project.place, "upper entrance")
        after = set_seasons(project, "timber", made)
        self.assertEqual(after.design("timber").seasons, made)
        own = project.design("timber").seasons
        self.assertEqual(set_seasons(after, "timber", own), project)


class Snow(unittest.TestCase):
    def test_weeks_over_the_turn_of_the_year(self) -> None:
        place = replace(steady_place(), first_snow_week=50, last_snow_week=2)
        days = days_with_snow(place)
        # Weeks 50 to 52 and the day after, then weeks 1 and 2: 22 days of December, 14 of January.
        self.assertEqual((days[11], days[0], sum(days)), (22.0, 14.0, 36.0))
        self.assertEqual(sum(days_with_snow(steady_place())), 0)

    def test_one_week_needs_the_other(self) -> None:
        with self.assertRaises(DomainError) as caught:
            replace(steady_place(), first_snow_week=50)
        self.assertIn("snow weeks", str(caught.exception))

    def test_winters_of_all_places_are_shorter_than_the_year(self) -> None:
        for shipped in shipped_places():
            with self.subTest(place=shipped.id):
                self.assertLess(sum(days_without_forage(shipped.place)), 300)


if __name__ == "__main__":
    unittest.main()
