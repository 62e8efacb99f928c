"""Mould, quilts, rain, and what water does; schools and swings that follow from them."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from calveth.catalogue.library import (
    make_design,
    named,
    shipped_frames,
    shipped_make_ups,
    shipped_places,
)
from calveth.catalogue.shipped import demo_project
from calveth.core.advice.schools import Evidence, all_verdicts, school_verdict
from calveth.core.assess.damp import damp_year, through_lid_kg_s
from calveth.core.assess.nights import assess_nights
from calveth.core.assess.readings import LID_MIDDLE, LID_RIM
from calveth.core.assess.result import assess_months
from calveth.core.assess.snowed_in import closed_by_ice, when_snowed_in
from calveth.core.assess.swing import day_swing
from calveth.core.assess.weather import surroundings
from calveth.core.climate.place import WinterRoom
from calveth.core.colony.curves import curves_for
from calveth.core.hive.design import Design
from calveth.core.hive.forms import StackedBoxes
from calveth.core.hive.season_plan import Setting, monthly_plan
from calveth.core.materials import Layer
from calveth.core.moisture.quilt import QuiltYear, quilt_year, vent_flow_m3_s
from calveth.core.moisture.rain import drinks_rain, rain_year
from calveth.core.moisture.surface import ceiling_fate, floor_fate, mould_risk
from calveth.core.school import SCHOOLS
from calveth.texts.criteria import said_of
from tests.cases import hive_case
from tests.core.builders import TABLE, box, hole, layer, slot
from tests.core.test_colony import COLONY

PROJECT = demo_project()


def evidence(design: Design, place=PROJECT.place, colony=COLONY) -> Evidence:  # type: ignore[no-untyped-def]
    monthly = assess_months(hive_case(design, place, colony, TABLE))
    return Evidence(
        monthly=monthly,
        nights=assess_nights(monthly),
        damp=damp_year(monthly),
    )


class Fates(unittest.TestCase):
    def test_slope_and_tilt(self) -> None:
        # Common practice: from about 10° water runs instead of dripping; a tilt drains the floor.
        self.assertEqual(ceiling_fate(0, 2), "drips")
        self.assertEqual(ceiling_fate(12, 0), "runs to the rim")
        self.assertEqual(floor_fate(0, screened=False), "pools")
        self.assertEqual(floor_fate(2, screened=False), "drains forward")
        self.assertEqual(floor_fate(0, screened=True), "drains forward")

    def test_mould_criterion(self) -> None:
        # EN ISO 13788:2012, 5.3: 80 % at the surface.
        self.assertTrue(mould_risk(0.81, 5.0))
        self.assertFalse(mould_risk(0.79, 5.0))
        self.assertFalse(mould_risk(0.95, -2.0))


class Quilts(unittest.TestCase):
    def year(self, vent_m3_s: float, capacity: float = 1.0, onward: float = 0.0) -> QuiltYear:
        return quilt_year(
            taken_kg_s=np.full(12, 5e-8),
            capacity_kg=capacity,
            vent_m3_s=np.full(12, vent_m3_s),
            onward_kg_s_pa=onward,
            quilt_degc=np.zeros(12),
            outside_pa=np.full(12, 400.0),
            on=np.array([k < 6 for k in range(12)]),
            first_month=0,
            wash=0.5,
        )

    def test_uptake_by_hand(self) -> None:
        # 5e-8 kg/s, 4.3 g a day, through January.
        year = self.year(0.0)
        expected = 5e-8 * 31 * 86400
        self.assertAlmostEqual(float(year.taken_kg[0]), expected, places=6)
        self.assertAlmostEqual(float(year.held_kg[0]), expected, places=6)

    def test_water_is_on_one_ledger(self) -> None:
        year = self.year(2e-6)
        held = np.diff(np.concatenate([[0.0], year.held_kg[:6]]))
        np.testing.assert_allclose(held, year.taken_kg[:6] - year.dried_kg[:6], atol=1e-12)
        soaked = self.year(0.0, capacity=0.3)
        held = np.diff(np.concatenate([[0.0], soaked.held_kg[:6]]))
        kept = soaked.taken_kg - soaked.dried_kg - soaked.dripped_kg
        np.testing.assert_allclose(held, kept[:6], atol=1e-12)
        self.assertGreater(float(soaked.dripped_kg.sum()), 0.3)

    def test_without_vents_it_dries_by_diffusion(self) -> None:
        # 1e-10 kg/(s·Pa) times what saturation at 0 °C (611 Pa) is above 400 Pa.
        year = self.year(0.0, onward=1e-10)
        self.assertAlmostEqual(
            float(year.dried_kg[0]), 1e-10 * (610.5 - 400) * 31 * 86400, places=6
        )

    def test_it_takes_what_the_hive_sends_up(self) -> None:
        monthly = assess_months(hive_case(PROJECT.design("quilt"), PROJECT.place, COLONY, TABLE))
        quilt = damp_year(monthly).quilt
        assert quilt is not None
        january = monthly.months
        lid = float(january.condensing_g_day[[LID_MIDDLE, LID_RIM], 0].sum()) / 8.64e7
        through = float(through_lid_kg_s(monthly)[0])
        self.assertAlmostEqual(float(quilt.taken_kg[0]), (lid + through) * 31 * 86400, places=9)
        # The lid's part of what leaves through the shell, and less than all of it.
        self.assertTrue(0 < through < float(january.balance.vapour_diffused_kg_s[0]))

    def test_vents_dry_it_and_it_never_holds_more_than_it_can(self) -> None:
        soaked, airy = self.year(0.0, capacity=0.3), self.year(1e-4)
        self.assertAlmostEqual(soaked.fullest, 1.0)
        self.assertLess(airy.fullest, 0.05)
        self.assertEqual(float(soaked.held_kg[7]), 0.0)

    def test_vents_breathe_with_warmth_and_wind(self) -> None:
        calm, warm, windy = (
            float(vent_flow_m3_s(1e-3, 0.02, np.array([t]), np.array([v]))[0])
            for t, v in ((0.0, 0.0), (5.0, 0.0), (0.0, 2.0))
        )
        self.assertEqual(calm, 0.0)
        # (Cd/3)·A·√(g·H·ΔT/T) and 0.025·A·v (Warren and Parkins 1984).
        self.assertAlmostEqual(warm, 1e-3 * 0.2 * (9.80665 * 0.02 * 5 / 278) ** 0.5)
        self.assertAlmostEqual(windy, 1e-3 * 0.025 * 2)

    def test_a_quilt_in_the_hive(self) -> None:
        demo = PROJECT.design("quilt")
        year = damp_year(assess_months(hive_case(demo, PROJECT.place, COLONY, TABLE)))
        assert year.quilt is not None
        # 50 mm over 0.374 × 0.467 m at 60 kg/m³ holds 0.6 of its weight (estimate).
        self.assertAlmostEqual(year.quilt.capacity_kg, 0.374 * 0.467 * 0.05 * 60 * 0.6, places=6)
        self.assertEqual(float(year.quilt.held_kg[6]), 0.0)
        self.assertIsNone(damp_year(evidence(box()).monthly).quilt)


class Rain(unittest.TestCase):
    months = PROJECT.place.months

    def test_painted_against_bare(self) -> None:
        bare = damp_year(
            assess_months(hive_case(PROJECT.design("aircrete"), PROJECT.place, COLONY, TABLE))
        )
        design = PROJECT.design("aircrete")
        paint = Layer(material="paint-white", thickness_m=0.0002)
        walls = (paint, *design.shell.walls)
        painted = replace(design, shell=replace(design.shell, walls=walls))
        dry = damp_year(assess_months(hive_case(painted, PROJECT.place, COLONY, TABLE)))
        assert bare.rain is not None
        self.assertGreater(float(bare.rain.conductivity_factor.max()), 1.05)
        self.assertGreater(float(bare.rain.evaporating_w_m2.max()), 0.0)
        self.assertIsNone(dry.rain)
        self.assertTrue(dry.painted)
        self.assertFalse(damp_year(evidence(box()).monthly).painted)

    def test_who_drinks(self) -> None:
        # EN 998-1: above 0.4 to 1 kg/(m²·√h) a facade takes up water.
        self.assertTrue(drinks_rain(TABLE["aircrete"]))
        self.assertTrue(drinks_rain(TABLE["brick"]))
        for key in ("softwood", "xps", "steel", "paint-white"):
            self.assertFalse(drinks_rain(TABLE[key]))

    def test_no_wind_no_driving_rain(self) -> None:
        calm = rain_year(
            TABLE["aircrete"], 0.1, self.months, np.zeros(12), 0.25, fill=0.12, drying=0.3
        )
        self.assertEqual(float(calm.held_kg_m2.max()), 0.0)
        self.assertEqual(float(calm.conductivity_factor.max()), 1.0)

    def test_more_wind_more_water_up_to_full(self) -> None:
        held = [
            float(
                rain_year(
                    TABLE["aircrete"], 0.1, self.months, np.full(12, v), 0.5, fill=0.12, drying=0.3
                ).held_kg_m2.max()
            )
            for v in (0.1, 0.2, 2.0, 4.0)
        ]
        self.assertLess(held[0], held[1])
        self.assertAlmostEqual(held[2], held[3], places=6)


class Schools(unittest.TestCase):
    def test_every_school_judges_every_design_with_criteria_in_sight(self) -> None:
        for design in (PROJECT.design("composite"), PROJECT.design("hollow-tree")):
            verdicts = all_verdicts(evidence(design))
            self.assertEqual([v.school for v in verdicts], list(SCHOOLS))
            for verdict in verdicts:
                with self.subTest(school=verdict.school):
                    # Outdoors only the winter room has nothing to judge, and it says so.
                    self.assertEqual(verdict.applies, verdict.school != "winter room")
                    self.assertEqual(bool(verdict.criteria), verdict.applies)
                    every = all(c.passed for c in verdict.criteria)
                    self.assertEqual(verdict.passed, verdict.applies and every)
                    self.assertEqual(
                        sorted(c.id for c in (*verdict.has, *verdict.achieves)),
                        sorted(c.id for c in verdict.criteria),
                    )
                    # What a hive has is seen on it; what it achieves is a figure of the balance.
                    self.assertTrue(all(c.sense == "yes" for c in verdict.has))
                    self.assertTrue(all(c.of_ten is None for c in verdict.has))
                    for c in verdict.criteria:
                        met = {
                            "at least": c.value >= c.limit,
                            "at most": c.value <= c.limit,
                            "yes": c.value == 1.0,
                        }[c.sense]
                        self.assertEqual(c.passed, met)

    def test_one_hive_passes_for_one_and_fails_for_another(self) -> None:
        found = {v.school: v.passed for v in all_verdicts(evidence(PROJECT.design("composite")))}
        self.assertTrue(found["upper entrance"])
        self.assertFalse(found["sealed warm top"])

    def test_the_sealed_top_wants_the_hole_shut(self) -> None:
        warm = box(
            layer("urethane-foil", 80),
            layer("softwood", 12),
            openings=(slot(width=0.3), hole(0.45)),
            joints="planed",
        )
        mild = replace(
            PROJECT.place,
            months=tuple(
                replace(m, temperature_degc=8.0, relative_humidity=0.6)
                for m in PROJECT.place.months
            ),
        )
        for share, met in ((1.0, False), (0.0, True)):
            design = replace(
                warm, seasons=monthly_plan((Setting(open_shares=(("high", share),)),) * 12)
            )
            verdict = school_verdict("sealed warm top", evidence(design, mild))
            self.assertEqual(next(c.passed for c in verdict.criteria if c.id == "tight above"), met)

    def test_what_a_hive_has_is_told_apart_from_what_it_achieves(self) -> None:
        # Bare boards under a sealed top: built as the school asks, and wet.
        boards = box(layer("softwood", 19), lid=(layer("softwood", 19),), openings=(slot(),))
        verdict = school_verdict("sealed warm top", evidence(boards))
        self.assertEqual([c.passed for c in verdict.has], [True])
        self.assertIn("built so, achieves", said_of(verdict))
        water = next(c for c in verdict.criteria if c.id == "lid water")
        assert water.of_ten is not None
        self.assertLess(water.of_ten, 5)
        self.assertAlmostEqual(water.missed, 1 - 0.1 * water.of_ten)
        vented = school_verdict("sealed warm top", evidence(box(openings=(slot(), hole(0.45)))))
        self.assertEqual(said_of(vented), "not this way")

    def test_an_exit_above_the_snow(self) -> None:
        low_only, both = box(), box(openings=(slot(), hole(0.45)))
        found = []
        for design in (low_only, both):
            verdict = school_verdict("upper entrance", evidence(design))
            found.append(next(c.passed for c in verdict.criteria if c.id == "exit"))
        self.assertEqual(found, [False, True])

    def test_a_winter_room(self) -> None:
        # Common practice: 4 to 6 °C and 35 to 40 %; far too dry below about 15 %.
        good = replace(PROJECT.place, room=WinterRoom())
        dry = replace(PROJECT.place, room=WinterRoom(relative_humidity=0.10))
        design = box(openings=(slot(width=0.3), hole(0.45, 0.03)))
        for place, fails in ((good, []), (dry, ["room humidity", "drink"])):
            verdict = school_verdict("winter room", evidence(design, place))
            self.assertEqual([c.id for c in verdict.criteria if not c.passed], fails)
        self.assertEqual(surroundings(good)[0].temperature_degc, 5.0)
        self.assertEqual(surroundings(good)[6], PROJECT.place.months[6])
        outdoors = school_verdict("winter room", evidence(design))
        self.assertFalse(outdoors.passed)

    def test_nights_in_a_room_are_its_days(self) -> None:
        place = replace(PROJECT.place, room=WinterRoom())
        nights = assess_nights(
            assess_months(hive_case(box(openings=(slot(),)), place, COLONY, TABLE))
        )
        self.assertEqual(float(nights.nights.outside.temperature_degc[0]), 5.0)
        self.assertEqual(float(nights.coldest_night.outside.temperature_degc[0]), 5.0)


class Mass(unittest.TestCase):
    def test_thick_timber_evens_out_the_day_more_than_foam_of_the_same_loss(self) -> None:
        place = named("place", "umvara", shipped_places()).place
        colony = curves_for(place, "small stingless bees")
        form = named("frames", "stingless", shipped_frames()).form
        swings = []
        for stack in ((layer("hardwood", 50),), (layer("xps", 9.5),)):
            design = box(*stack, form=form, openings=(hole(0.02, 0.008),), joints="propolised")
            year = assess_months(hive_case(design, place, colony, TABLE))
            swings.append(day_swing(year))
        self.assertLess(swings[0].nest_k, 0.95 * swings[1].nest_k)
        for swing in swings:
            self.assertLess(swing.nest_k, swing.outside_k)
            self.assertEqual(
                swing.month, int(np.argmax([m.temperature_degc for m in place.months]))
            )


class CommonPractice(unittest.TestCase):
    """Rows of the trade that must come out (common practice, no source)."""

    def test_thin_boards_are_wet_on_the_walls_in_a_wet_cool_winter(self) -> None:
        place = named("place", "skerrel", shipped_places()).place
        year = assess_months(
            hive_case(PROJECT.design("plain-boards"), place, curves_for(place, "normal"), TABLE)
        )
        self.assertGreater(float(year.months.condensing_g_day[2:5, 0].sum()), 1.0)

    def test_a_thick_lid_keeps_the_crown_dry(self) -> None:
        thin = box(layer("softwood", 25), openings=(slot(), hole(0.45)))
        thick = replace(
            thin,
            shell=replace(
                thin.shell, lid=(layer("softwood", 19), layer("xps", 80), layer("plywood", 9))
            ),
        )
        margins = [
            float(
                assess_months(hive_case(d, PROJECT.place, COLONY, TABLE)).months.margin_k[
                    LID_MIDDLE, 0
                ]
            )
            for d in (thin, thick)
        ]
        self.assertGreater(margins[1], margins[0] + 0.5)
        self.assertGreater(margins[1], 0.5)

    def test_ring_wet_middle_dry_under_a_thick_lid_on_thin_walls(self) -> None:
        design = box(
            layer("softwood", 19),
            lid=(layer("softwood", 19), layer("xps", 80), layer("plywood", 9)),
        )
        m = assess_months(hive_case(design, PROJECT.place, COLONY, TABLE)).months
        self.assertLess(float(m.margin_k[LID_RIM, 0]), 0)
        self.assertGreater(float(m.margin_k[LID_MIDDLE, 0]), 0)

    def test_litres_weights_and_frames_of_the_trade(self) -> None:
        # Stingless box 105 × 105 × 90 mm: 1 litre each; ten frames where eleven fit at 32 mm.
        stingless = make_design(
            shipped_make_ups()[-1], named("frames", "stingless", shipped_frames())
        )
        year = assess_months(
            hive_case(
                stingless, PROJECT.place, curves_for(PROJECT.place, "small stingless bees"), TABLE
            )
        )
        self.assertAlmostEqual(year.model.litres / 3, 1.0, delta=0.03)
        wide = StackedBoxes(frame_count=10, frame_pitch_m=0.035)
        narrow = StackedBoxes(frame_count=11, frame_pitch_m=0.032)
        width = [f.frame_count * f.frame_pitch_m for f in (wide, narrow)]
        self.assertAlmostEqual(width[0], width[1], delta=0.003)

    def test_ice_on_the_low_entrance(self) -> None:
        place = replace(PROJECT.place, first_snow_week=50, last_snow_week=8)
        low, both = box(joints="filled"), box(openings=(slot(), hole(0.45)), joints="filled")
        for design, left in ((low, ()), (both, ("high",))):
            year = assess_months(hive_case(design, place, COLONY, TABLE))
            january = when_snowed_in(year, [0])[0]
            self.assertEqual(january.left, left)
            self.assertEqual(january.shut, ("low entrance",))
            open_co2 = float(year.months.co2_volume_share[1, 0])
            if january.readings is not None:
                self.assertGreater(float(january.readings.co2_volume_share[1, 0]), open_co2)
        self.assertTrue(closed_by_ice(slot()))
        self.assertFalse(closed_by_ice(hole(0.45)))

    def test_a_sealed_iced_hive_suffocates_in_words_not_in_a_crash(self) -> None:
        tight = box(
            layer("urethane-foil", 60), joints="filled", openings=(slot(height=0.006, width=0.03),)
        )
        year = assess_months(hive_case(tight, PROJECT.place, COLONY, TABLE))
        snowed_in = when_snowed_in(year, [0, 1])
        self.assertTrue(
            all(i.readings is None or i.readings.co2_volume_share.max() > 0.05 for i in snowed_in)
        )


if __name__ == "__main__":
    unittest.main()
