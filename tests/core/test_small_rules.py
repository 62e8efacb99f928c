"""Rules a changed sign, index or constant of would show nowhere else; each worked out by hand.

Sources stand beside each check; what has none is common practice or follows from the definition.
"""

from __future__ import annotations

import unittest
from dataclasses import replace
from math import sqrt
from typing import get_args
from unittest import mock

import numpy as np

from calveth.core import constants as c
from calveth.core.advice.opening_size import size_for_target
from calveth.core.advice.remedies import remedies
from calveth.core.advice.schools import Evidence, school_verdict
from calveth.core.airflow.draught import comb_distance_m
from calveth.core.assess import damp as damp_module
from calveth.core.assess.damp import damp_year
from calveth.core.assess.larder import larder_kg
from calveth.core.assess.nights import assess_nights
from calveth.core.assess.result import MonthlyAssessment, assess_months
from calveth.core.assess.snowed_in import closed_by_ice, when_snowed_in
from calveth.core.assess.solved_shells import correction_of, solved_shells
from calveth.core.assess.swing import day_swing
from calveth.core.assess.weather import cold_night_degc, night_degc
from calveth.core.climate.place import MonthClimate, WinterRoom, days_without_forage
from calveth.core.colony.room import room_air
from calveth.core.conduction.hive import hive_conduction
from calveth.core.conduction.joints import joints_of
from calveth.core.hive.design import Shell, Window
from calveth.core.hive.forms import StackedBoxes
from calveth.core.hive.joinery import Joinery
from calveth.core.hive.opening import Opening, Side
from calveth.core.hive.season_plan import Setting, monthly_plan
from calveth.core.materials import Layer
from calveth.core.moisture.quilt import quilt_year
from calveth.core.moisture.rain import rain_year
from calveth.core.solids.clearances import frames_that_fit
from calveth.core.solids.cost import material_cost_eur
from calveth.texts.remedies import what_is_done
from tests.cases import hive_case
from tests.core.builders import TABLE, box, hole, layer, slot, steady_place
from tests.core.test_colony import COLONY


def year(design=None, **place: object) -> MonthlyAssessment:  # type: ignore[no-untyped-def]
    """Return the estimated months of a hive at a steady place with some of it changed."""
    at = replace(steady_place(), **place)  # type: ignore[arg-type]
    return assess_months(hive_case(design or box(), at, COLONY, TABLE))


class Air(unittest.TestCase):
    def test_a_slot_below_the_frames_leaves_the_rest_of_the_space(self) -> None:
        # 40 mm of bottom space, the upper edge of the slot 13 mm above the floor: 27 mm are left.
        form = StackedBoxes(frame_count=10, bottom_space_m=0.04)
        low = slot(height=0.010, bottom=0.003)
        self.assertAlmostEqual(comb_distance_m(box(form=form, openings=(low,)), low), 0.027)

    def test_ice_closes_what_lies_lower_than_150_mm(self) -> None:
        self.assertTrue(closed_by_ice(hole(0.149)))
        self.assertFalse(closed_by_ice(hole(0.151)))
        self.assertFalse(closed_by_ice(replace(hole(0.0), side="lid")))

    def test_a_size_for_a_target_gives_it(self) -> None:
        # Fresh air grows with the size: the answer is the first tenth of a mm that meets it.
        design = box(openings=(slot(), hole(0.4)))
        found = size_for_target(
            hive_case(design, steady_place(wind=2.0), COLONY, TABLE), "high", "fresh air", 200.0, 0
        )
        assert found.size_m is not None
        self.assertIsNone(found.jumps_from)
        self.assertAlmostEqual(found.reached, 201.0, delta=1.0)
        wide = replace(design.openings[1], width_m=found.size_m, height_m=found.size_m)
        again = assess_months(
            hive_case(
                replace(design, openings=(design.openings[0], wide)),
                steady_place(wind=2.0),
                COLONY,
                TABLE,
            ),
        )
        self.assertAlmostEqual(
            3.6e6 * float(again.months.exchange_m3_s[0]), found.reached, places=6
        )

    def test_where_the_air_tips_a_size_says_that_it_jumps(self) -> None:
        # Between 21 and 22 mm this hive begins to breathe through its high hole: 84 to 151 L/h.
        case = hive_case(box(openings=(slot(), hole(0.4))), steady_place(wind=2.0), COLONY, TABLE)
        found = size_for_target(case, "high", "fresh air", 120.0, 0)
        assert found.size_m is not None and found.jumps_from is not None
        self.assertTrue(0.0211 <= found.size_m <= 0.022)
        self.assertTrue(80.0 < found.jumps_from < 90.0)
        self.assertTrue(120.0 < found.reached < 155.0)


class Weather(unittest.TestCase):
    def test_one_night_in_ten_is_colder_than_a_cold_night(self) -> None:
        # The normal distribution has a tenth below −1.2816 of its spread (any table of it).
        place = replace(steady_place(swing=6.0), day_to_day_spread_k=4.0)
        cold = night_degc(place) - cold_night_degc(place)
        self.assertAlmostEqual(float(cold[0]), 4.0 * 1.2816, places=4)

    def test_the_larder_begins_in_the_month_the_last_forage_week_ends_in(self) -> None:
        # Week 39 ends on day 273, the last of September: no forage from October on.
        place = {"last_forage_week": 39, "first_forage_week": 10}
        found = larder_kg(year(**place))
        self.assertEqual(next(iter(found)), 9)
        # Week 22 ends on day 154, the third of June, in its first days.
        # The day after week 22 is 4 June, after week 25 the 25th, after week 26 2 July.
        for week, month in ((22, 5), (23, 5), (25, 5), (26, 6), (35, 8), (48, 11)):
            larder = larder_kg(year(last_forage_week=week, first_forage_week=10))
            self.assertEqual(next(iter(larder)), month, week)
        months = year(**place)
        days = days_without_forage(months.place)
        used = float(months.honey_kg_month[9]) * days[9] / 31
        self.assertAlmostEqual(found[9], COLONY.stores_kg - used, places=9)


class Damp(unittest.TestCase):
    def quilted(self) -> MonthlyAssessment:
        lid = (
            layer("softwood", 19),
            Layer(material="air-gap", thickness_m=0.02, vents_m2_m=0.001, fitting="quilt"),
            Layer(material="shavings", thickness_m=0.05, fitting="quilt"),
        )
        return year(box(layer("softwood", 25), lid=lid))

    def test_a_quilt_year_begins_eight_months_after_the_coldest(self) -> None:
        # In late summer it is dry: from there the water of a winter is counted.
        with mock.patch.object(damp_module, "quilt_year", wraps=quilt_year) as asked:
            monthly = self.quilted()
            damp_year(monthly)
        self.assertEqual(asked.call_args.kwargs["first_month"], (monthly.coldest_month + 8) % 12)

    def test_rain_reaches_the_windward_share_of_four_walls(self) -> None:
        monthly = year(box(layer("aircrete", 100)), facing_deg=0.0, wind_from_deg=0.0)
        with mock.patch.object(damp_module, "rain_year", wraps=rain_year) as asked:
            damp_year(monthly)
        # Wind straight on the front: one wall of four.
        self.assertAlmostEqual(asked.call_args.args[4], 0.25)

    def test_the_day_swings_more_where_more_air_goes_through(self) -> None:
        # Heat that comes with air and heat that comes through walls both swing the nest.
        place = {
            "months": (
                MonthClimate(
                    temperature_degc=25, daily_swing_k=12, relative_humidity=0.5, wind_m_s=4.0
                ),
            )
            * 12
        }
        tight = year(box(layer("eps", 60), openings=(slot(width=0.02),)), **place)
        open_ = year(box(layer("eps", 60), openings=(slot(width=0.3, height=0.02),)), **place)
        less, more = (day_swing(y).nest_k for y in (tight, open_))
        self.assertGreater(more, 1.05 * less)
        self.assertLess(more, 12.0)


class Judged(unittest.TestCase):
    def test_a_draught_of_more_than_twenty_centimetres_a_second_fails_cross_flow(self) -> None:
        # Common practice, no source: the limit stands in the words of the school.
        monthly = year(box(openings=(hole(0.4), replace(hole(0.4), id="b", side="back"))))
        evidence = Evidence(
            monthly=monthly,
            nights=assess_nights(monthly),
            damp=damp_year(monthly),
        )
        verdict = school_verdict("high cross-flow", evidence)
        draught = next(k for k in verdict.criteria if k.quantity == "m/s")
        self.assertEqual((draught.limit, draught.sense), (0.2, "at most"))
        self.assertEqual(draught.passed, draught.value <= 0.2)

    def test_a_winter_room_says_nothing_of_a_hive_outdoors(self) -> None:
        monthly = year()
        evidence = Evidence(
            monthly=monthly,
            nights=assess_nights(monthly),
            damp=damp_year(monthly),
        )
        verdict = school_verdict("winter room", evidence)
        self.assertFalse(verdict.applies or verdict.passed or verdict.criteria)

    def test_a_remedy_that_dries_the_lid_counts_the_months_it_dries(self) -> None:
        monthly = year(box(layer("eps", 40), lid=(layer("softwood", 19),)))
        found = remedies(monthly, TABLE)
        thick = next(r for r in found if "lid" in what_is_done(r))
        self.assertGreaterEqual(thick.wet_months_less, 0)
        self.assertTrue(all(r.wet_months_less >= 0 or r.honey_kg < -0.1 for r in found))
        self.assertGreater(max(r.wet_months_less for r in found), 0)

    def test_a_face_of_gaps_alone_has_no_remedy_and_no_error(self) -> None:
        lid = (Layer(material="air-gap", thickness_m=0.02),)
        found = remedies(year(box(layer("softwood", 25), lid=lid)), TABLE)
        self.assertFalse(any("into the lid" in what_is_done(r) for r in found))

    def test_without_snow_nothing_is_iced(self) -> None:
        monthly = year(first_snow_week=0, last_snow_week=0)
        self.assertEqual(when_snowed_in(monthly, []), ())


class SolvedFactors(unittest.TestCase):
    def test_a_rim_is_left_as_cold_as_it_was_solved(self) -> None:
        # The layers behind the rim and the films of the lid give its mean: f = Rb/(Rsi + Rb).
        design = box(layer("eps", 60), form=StackedBoxes(frame_count=5))
        solved = hive_conduction(design, TABLE, 0.6)
        k = correction_of(design, TABLE, solved)
        r = 0.06 / TABLE["eps"].conductivity_w_mk
        behind = k.rim * r + c.RSE.value
        factor = behind / (c.RSI_UP.value + behind)
        assert solved.rim_factor is not None
        self.assertAlmostEqual(factor, solved.rim_factor, places=6)
        self.assertLess(solved.coldest["lid rim"].factor, solved.rim_factor)
        self.assertAlmostEqual(k.rim_warmer, 0.0, places=12)

    def test_zones_lose_what_was_solved_beside_metal_too(self) -> None:
        # A floor of zinc, and a lid far better than the walls: no factor on a face says that.
        for design in (
            box(layer("eps", 40), floor=(layer("zinc", 1),), form=StackedBoxes(frame_count=5)),
            box(layer("softwood", 10), lid=(layer("eps", 200),), form=StackedBoxes(frame_count=5)),
        ):
            shells = solved_shells(design, steady_place(), TABLE, finer=0.5)
            found = shells.conduction(design)
            assert found is not None
            months = assess_months(hive_case(design, steady_place(), COLONY, TABLE, shells))
            self.assertAlmostEqual(months.conductance_w_k, found.conductance_w_k, places=6)
            zones = months.model.terms.zone_whole_w_k(np.array([c.RSE.value]))[:, 0]
            np.testing.assert_allclose(zones, found.zone_w_k, rtol=1e-9)

    def test_the_edge_of_a_window_is_what_the_pane_alone_does_not_lose(self) -> None:
        # A pane of the wall's own make-up in the wall changes nothing: its edge costs nothing.
        wall = (layer("softwood", 25),)
        design = box(
            *wall,
            openings=(),
            window=Window(
                side="back",
                bottom_m=0.1,
                width_m=0.15,
                height_m=0.15,
                stack=wall,
            ),
        )
        solved = hive_conduction(design, TABLE, 0.5)
        edge = next(
            j
            for j in joints_of(design, TABLE, solved.conductance_w_k).joints
            if j.name == "edge of the window"
        )
        self.assertAlmostEqual(edge.psi, 0.0, delta=0.004)

    def test_battens_are_two_in_each_of_four_walls(self) -> None:
        design = box(
            layer("softwood", 12),
            layer("eps", 40),
            layer("softwood", 12),
            joinery=Joinery(fixing="timber spacers"),
            openings=(),
        )
        solved = hive_conduction(design, TABLE, 0.5)
        joints = joints_of(design, TABLE, solved.conductance_w_k).joints
        battens = next(j for j in joints if j.name == "battens")
        self.assertAlmostEqual(battens.length_m, 8 * design.form.height_m, places=9)
        self.assertGreater(battens.psi, 0)

    def test_openings_of_every_wall_have_a_way(self) -> None:
        for side in get_args(Side):
            o = Opening(
                id="o", name="o", shape="hole", side=side, bottom_m=0.1, width_m=0.03, height_m=0.03
            )
            design = box(layer("eps", 40), openings=(o,), form=StackedBoxes(frame_count=5))
            solved = hive_conduction(design, TABLE, 0.4)
            ways = [
                j
                for j in joints_of(design, TABLE, solved.conductance_w_k).joints
                if j.name.startswith("way")
            ]
            with self.subTest(side=side):
                self.assertEqual(len(ways), 1)
                # A hole of 7 cm² through 40 mm of foam: little, and the same in all walls.
                self.assertLess(abs(ways[0].psi), 0.02)


class Built(unittest.TestCase):
    def test_the_second_material_of_a_layer_is_paid_by_its_share(self) -> None:
        plain = box(layer("softwood", 20), openings=())
        mixed = replace(
            plain,
            shell=Shell(
                walls=(replace(layer("softwood", 20), mixed_with="oak", mixed_share=0.5),),
                lid=plain.shell.lid,
                floor=plain.shell.floor,
            ),
        )
        cheap, dear = TABLE["softwood"].price_eur_m3, TABLE["oak"].price_eur_m3
        walls_m3 = sum(
            (s.shape.x1 - s.shape.x0) * (s.shape.y1 - s.shape.y0) * (s.shape.z1 - s.shape.z0)
            for s in __import__("calveth.core.solids.build", fromlist=["build_solids"])
            .build_solids(plain)
            .solids
            if s.face == "walls"
        )
        more = material_cost_eur(mixed, TABLE) - material_cost_eur(plain, TABLE)
        self.assertAlmostEqual(more, walls_m3 * 0.5 * (dear - cheap), places=6)

    def test_frames_that_fit_leave_bee_space_on_both_sides(self) -> None:
        # 10 frames of 35 mm with 25 mm bars: 5 mm beside each; 6 mm bee space wants 1 mm more a
        # side. 374 mm less 2 mm hold 10 at 35 mm; at 32 mm 11.
        form = StackedBoxes(frame_count=10)
        self.assertEqual(frames_that_fit(form, 0.035), 10)
        self.assertEqual(frames_that_fit(form, 0.032), 11)
        # Just too narrow once the second side is counted.
        narrow = replace(form, side_clearance_m=0.0007)
        self.assertEqual(frames_that_fit(narrow, 0.035), 9)

    def test_the_heat_of_the_hives_is_taken_off_the_heating_of_a_room(self) -> None:
        cold = MonthClimate(
            temperature_degc=-5, daily_swing_k=6, relative_humidity=0.85, wind_m_s=2
        )
        few, warm = (
            room_air(WinterRoom(hives=100), cold, 0.0, water_kg_s=1e-7, co2_kg_s=3e-7, heat_w=w)
            for w in (0.0, 5.0)
        )
        self.assertAlmostEqual(few.heating_w - warm.heating_w, 500.0, places=6)

    def test_a_plan_without_snow_weeks_is_valid_in_every_month(self) -> None:
        design = box(seasons=monthly_plan((Setting(),) * 12))
        self.assertEqual(
            len(assess_months(hive_case(design, steady_place(), COLONY, TABLE)).months.owner), 12
        )

    def test_a_square_of_a_round_hole_has_its_area(self) -> None:
        from calveth.core.solids.build import build_solids

        cut = build_solids(box(openings=(hole(0.2, 0.03),))).holes[0].shape
        self.assertAlmostEqual(cut.x1 - cut.x0, 0.03 * sqrt(np.pi) / 2, places=9)


if __name__ == "__main__":
    unittest.main()
