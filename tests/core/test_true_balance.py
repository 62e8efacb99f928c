"""The balance at its edges: no jumps, two states, bad air told, ledgers that close, bands."""

from __future__ import annotations

import unittest
from dataclasses import replace
from math import log
from unittest import mock

import numpy as np

from calveth.catalogue.shipped import demo_project
from calveth.core import constants as c
from calveth.core.advice.dossier import make_dossier
from calveth.core.advice.findings import findings
from calveth.core.assess import bands as bands_module
from calveth.core.assess.bands import DRAWS, SEED, VERDICTS, bands, burns_less, dry_of_ten
from calveth.core.assess.nights import assess_nights
from calveth.core.assess.readings import VISIBLE_G_DAY, NestReadings
from calveth.core.assess.result import (
    MonthlyAssessment,
    assess_condition,
    assess_each,
    assess_many,
    assess_months,
)
from calveth.core.assess.snowed_in import when_snowed_in
from calveth.core.assess.wet_nights import wet_nights
from calveth.core.assess.winter_room import room_months
from calveth.core.case import estimated_case
from calveth.core.climate.place import WinterRoom
from calveth.core.compare.table import compare_row
from calveth.core.hive.design import Design
from calveth.core.nest.steady import NotBalancedError
from calveth.core.parameters import LIKELY, draws
from calveth.texts.findings import finding_text
from tests.cases import hive_case
from tests.core.builders import TABLE, box, hole, layer, slot, steady_place
from tests.core.test_colony import COLONY

PROJECT = demo_project()


def at(design: Design, humidity: float, degc: float) -> NestReadings:
    """A hive of the demo's place in January at an outside condition."""
    case = hive_case(design, PROJECT.place, COLONY, TABLE)
    return assess_condition(
        case, month=0, outside_degc=degc, relative_humidity=humidity, wind_m_s=3.0
    )


class NoJumps(unittest.TestCase):
    def exchange_l_h(self, facing_deg: np.ndarray) -> np.ndarray:
        """Fresh air of a low slot and a hole high in the back, open to 4 m/s, turned round."""
        back = replace(hole(0.45, 0.0226), id="b", side="back", name="back")
        place = replace(
            steady_place(wind=4.0),
            terrain="open water or plain",
            shelter="open",
            wind_from_deg=180.0,
        )
        design = box(layer("eps", 40), openings=(slot(), back))
        cases = [
            hive_case(design, replace(place, facing_deg=float(d)), COLONY, TABLE)
            for d in facing_deg
        ]
        return np.array([3.6e6 * float(m.months.exchange_m3_s[0]) for m in assess_many(cases)])

    def test_a_hive_turned_by_a_degree(self) -> None:
        """Review of the physics: 685 to 2473 L/h for one degree by a step of Cp at 60°."""
        whole = self.exchange_l_h(np.arange(0.0, 360.0, 2.0))
        self.assertGreater(float(whole.max()), 3 * float(whole.min()))
        steps = np.abs(np.diff(whole))
        k = int(np.argmax(steps))
        # Where both openings feel the same wind it is steep as a root is, but no jump: a step a
        # tenth as long is less than half as high.
        near = self.exchange_l_h(np.linspace(2.0 * k, 2.0 * k + 2.0, 11))
        self.assertLess(float(np.abs(np.diff(near)).max()), 0.5 * float(steps[k]))
        self.assertLess(float(steps[k]), 0.25 * float(whole.max()))

    def test_march_and_april_have_no_kink(self) -> None:
        """Fanning grows with the square of the brood: no month leaps to another rule."""
        colony = replace(PROJECT.colony, activity_kg_day=(0.0,) * 12)
        air = []
        for brood in np.linspace(0.40, 0.60, 9):
            busy = replace(colony, brood_share=(float(brood),) * 12)
            case = replace(estimated_case(PROJECT, PROJECT.designs[0]), colony=busy)
            air.append(3.6e6 * float(assess_months(case).months.exchange_m3_s[2]))
        steps = np.diff(air)
        self.assertTrue(np.all(steps > 0))
        self.assertLess(float(steps.max()), 3 * float(steps.min()))


class Outside(unittest.TestCase):
    def test_dry_and_damp_air_outside_differ_inside(self) -> None:
        """Review: 30 and 100 % outside gave the same. Wet walls hold the air, not the grams."""
        for key in ("polystyrene", "composite", "plain-boards"):
            for degc in (-5.0, 5.0):
                dry, damp = (at(PROJECT.design(key), h, degc) for h in (0.3, 1.0))
                with self.subTest(design=key, degc=degc):
                    self.assertGreater(
                        float(damp.dew_point_degc[1, 0]), float(dry.dew_point_degc[1, 0]) + 0.05
                    )
                    self.assertGreater(
                        float(damp.condensing_g_day.sum()),
                        1.1 * float(dry.condensing_g_day.sum()),
                    )
        airy = PROJECT.design("composite")
        dry, damp = (at(airy, h, 5.0) for h in (0.3, 1.0))
        self.assertLess(float(dry.relative_humidity[1, 0]), 0.55)
        self.assertGreater(float(damp.relative_humidity[1, 0]), 0.85)

    def test_air_is_never_over_saturation(self) -> None:
        """Review: 108 % at -30 °C. Fog forms as fast as it must."""
        for degc in (-40.0, -30.0, -10.0):
            m = at(PROJECT.design("plain-boards"), 0.9, degc)
            self.assertLess(float(m.relative_humidity.max()), 1.001)

    def test_hardly_any_air_through_hardly_any_hole(self) -> None:
        """Fanning through 1 cm² in July: half of it times 2 m/s, 360 L/h, and not 1293."""
        tiny = box(layer("eps", 40), joints="filled", openings=(slot(width=0.01, height=0.01),))
        case = hive_case(tiny, PROJECT.place, COLONY, TABLE)
        july = assess_condition(
            case, month=6, outside_degc=18.0, relative_humidity=0.7, wind_m_s=0.0
        )
        self.assertLess(float(july.balance.fanning_m3_s[0]), 1e-4 * 1.001)
        self.assertLess(3.6e6 * float(july.exchange_m3_s[0]), 440.0)


class Breath(unittest.TestCase):
    def test_two_states_are_found_from_both_sides_and_told(self) -> None:
        found = 0
        for cm in (1.0, 1.5, 2.0, 2.5, 3.0):
            design = box(
                layer("eps", 40),
                joints="filled",
                openings=(slot(width=0.04), hole(0.40, cm / 100)),
            )
            case = hive_case(design, steady_place(wind=1.0), COLONY, TABLE)
            monthly = assess_months(case)
            other = assess_nights(monthly).other_co2
            own = monthly.months.co2_volume_share[1]
            two = np.isfinite(other)
            found += int(two.sum())
            # From fresh air it comes to rest in the fresher of the two.
            self.assertTrue(np.all(other[two] > own[two]))
        self.assertGreater(found, 0)

    def test_foam_and_wood_let_no_breath_through_and_blocks_do(self) -> None:
        from calveth.core.nest.network import hive_model

        sealed = [
            float(
                hive_model(
                    hive_case(
                        box(layer(m, 60), joints="filled", openings=(slot(),)),
                        PROJECT.place,
                        COLONY,
                        TABLE,
                    )
                ).terms.zone_breath_m3_s.sum()
            )
            for m in ("eps", "softwood", "aircrete")
        ]
        # What is left of foam and wood is the still air in the slot; the same for both.
        self.assertAlmostEqual(sealed[0], sealed[1], delta=0.2 * sealed[0])
        self.assertGreater(sealed[2], 20 * sealed[0])

    def test_hours_under_snow_by_hand(self) -> None:
        """V/G·(x - x0) for a jar that nothing leaves: 44.01 g of CO2 are 22.4 L at 0 °C."""
        tight = box(layer("urethane-foil", 60), joints="filled", openings=(slot(),))
        place = replace(PROJECT.place, first_snow_week=50, last_snow_week=8)
        monthly = assess_months(hive_case(tight, place, COLONY, TABLE))
        snowed_in = when_snowed_in(monthly, [0])[0]
        litres = monthly.model.litres
        grams_s = 1000 * float(monthly.months.balance.ledger.co2_kg_s[0])
        breath_l_h = 3600 * grams_s / 44.01 * 22.414
        begin = 100 * float(monthly.months.co2_volume_share[1, 0])
        assert snowed_in.hours_bad is not None
        by_hand = litres * (8.0 - begin) / 100 / breath_l_h
        if snowed_in.readings is not None:
            # A little still leaves: 1 - x/x_end of the breath stays.
            end = 100 * float(snowed_in.readings.co2_volume_share[1, 0])
            by_hand = litres * end / 100 / breath_l_h * log((end - begin) / (end - 8.0))
        self.assertAlmostEqual(snowed_in.hours_bad / by_hand, 1.0, delta=0.12)

    def test_hours_under_snow_where_a_little_still_leaves(self) -> None:
        """dx/dt = G/V·(1 - x/x_end): ln((x_end - x0)/(x_end - 8)) times V·x_end/G."""
        place = replace(PROJECT.place, first_snow_week=50, last_snow_week=8)
        found = 0
        for mm in (10.0, 13.0, 16.0, 19.0, 22.0):
            design = box(
                layer("eps", 60), joints="filled", openings=(slot(), hole(0.45, mm / 1000))
            )
            monthly = assess_months(hive_case(design, place, COLONY, TABLE))
            snowed_in = when_snowed_in(monthly, [0])[0]
            if snowed_in.readings is None or snowed_in.hours_bad is None:
                continue
            end = 100 * float(snowed_in.readings.co2_volume_share[1, 0])
            begin = 100 * float(monthly.months.co2_volume_share[1, 0])
            litres_h = (
                3600 / 0.04401 * 0.022414 * 1000 * float(monthly.months.balance.ledger.co2_kg_s[0])
            )
            by_hand = monthly.model.litres * end / 100 / litres_h
            by_hand *= log((end - begin) / (end - 8.0))
            self.assertAlmostEqual(snowed_in.hours_bad / by_hand, 1.0, delta=0.12)
            found += 1
        self.assertGreater(found, 0)

    def test_bad_air_is_bad_and_no_note(self) -> None:
        tight = box(layer("eps", 60), joints="filled", openings=(slot(width=0.02),))
        place = replace(PROJECT.place, first_snow_week=50, last_snow_week=8)
        whole = make_dossier(hive_case(tight, place, COLONY, TABLE), catalogue=TABLE, finer=0.5)
        said = findings(whole.monthly, 0, whole.follow_up.depth(0))
        snow = [f for f in said if "snow closes" in finding_text(f)]
        self.assertEqual([f.tone for f in snow], ["danger"])
        self.assertIn("hours", finding_text(snow[0]))


class Seen(unittest.TestCase):
    def test_a_surface_is_seen_wet_from_two_grams_a_day(self) -> None:
        for design in PROJECT.designs:
            m = assess_months(estimated_case(PROJECT, design)).months
            grams, margin = m.condensing_g_day, m.seen_margin_k
            exists = m.model.terms.surface_area_m2[:, 0] > 1e-6
            np.testing.assert_array_equal(grams[exists] >= VISIBLE_G_DAY, margin[exists] <= 0.0)

    def test_nights_below_the_turn_are_wet(self) -> None:
        """Margin +1 K on the mean night at 0 °C, -1 K at -4 °C: wet below -2 °C, half a spread."""
        place = replace(PROJECT.place, day_to_day_spread_k=4.0)
        months = np.array([0])

        degc = np.array([[0.0], [-4.0]])
        margin = np.stack([np.full((7, 1), 1.0), np.full((7, 1), -1.0)])
        share = 0.30854  # of the normal distribution below -0.5 (any table)
        wet = wet_nights(place, months, degc, margin)
        np.testing.assert_allclose(wet[:, 0], 31 * share, rtol=1e-4)
        # Turned round, as in a hive that is wet when it is mild.
        wet = wet_nights(place, months, degc, -margin)
        np.testing.assert_allclose(wet[:, 0], 31 * (1 - share), rtol=1e-4)

    def test_the_rim_is_wet_when_the_middle_is(self) -> None:
        place = replace(PROJECT.place, day_to_day_spread_k=4.0)
        margins = np.full((2, 7, 1), 5.0)
        margins[:, 0] = -1.0
        wet = wet_nights(place, np.array([0]), np.zeros((2, 1)), margins)
        self.assertEqual(float(wet[1, 0]), float(wet[0, 0]))
        self.assertEqual(float(wet[1, 0]), 31.0)


class Ledgers(unittest.TestCase):
    def test_every_hive_of_the_demo_closes_in_every_month(self) -> None:
        for design in PROJECT.designs:
            m = assess_months(estimated_case(PROJECT, design)).months
            for month in range(12):
                water, heat = m.water_ledger_g_day(month), m.heat_ledger_w(month)
                gone = sum(v for k, v in water.items() if k != "released")
                self.assertAlmostEqual(gone / water["released"], 1.0, places=6)
                come = heat["warms the nest"] + heat["set free by condensation"]
                left = heat["through the shell"] + heat["with the air"]
                self.assertAlmostEqual(left / come, 1.0, places=6)

    def test_the_room_gets_all_the_water_of_its_hives(self) -> None:
        """Review: 40 hives gave the room a quarter of what they release."""
        place = replace(PROJECT.place, room=WinterRoom(hives=40))
        monthly = assess_months(hive_case(box(), place, COLONY, TABLE))
        rooms = room_months(monthly)
        self.assertTrue(rooms)
        for month, air in rooms:
            released = monthly.months.water_ledger_g_day(month)["released"]
            self.assertAlmostEqual(1000 * air.water_kg_day / (40 * released), 1.0, places=6)

    def test_honey_in_the_hive_and_flown_off_are_all_of_it(self) -> None:
        monthly = assess_months(estimated_case(PROJECT, PROJECT.design("timber")))
        july = float(monthly.months.balance.ledger.honey_kg_s[6]) * 86400
        flown = (1 - c.ACTIVITY_SHARE.value) * PROJECT.colony.activity_kg_day[6]
        self.assertAlmostEqual(float(monthly.honey_kg_month[6]), 31 * (july + flown), places=9)
        inside = c.ACTIVITY_SHARE.value * PROJECT.colony.activity_kg_day[6]
        self.assertGreater(july, inside)


class HowSure(unittest.TestCase):
    def test_draws_are_paired_and_shares_are_whole(self) -> None:
        one, two = (
            bands(estimated_case(PROJECT, PROJECT.design(k))) for k in ("composite", "plain-boards")
        )
        assert one is not None and two is not None
        self.assertEqual(one.answered, DRAWS)
        np.testing.assert_allclose(one.crown.sum(axis=0), 1.0)
        self.assertEqual(burns_less(one, two), 1.0)
        self.assertEqual(burns_less(two, one), 0.0)
        again = bands(estimated_case(PROJECT, PROJECT.design("composite")))
        assert again is not None
        np.testing.assert_array_equal(one.winter_honey_kg, again.winter_honey_kg)

    def test_a_band_holds_the_likely_figure(self) -> None:
        for design in PROJECT.designs:
            monthly = assess_months(estimated_case(PROJECT, design))
            found = bands(monthly.case)
            assert found is not None
            with self.subTest(design=design.id):
                low, high = found.winter_honey_range_kg
                self.assertTrue(low < monthly.winter_honey_kg < high)
                self.assertGreater(high, 1.15 * low)
                row = compare_row(monthly, None, 0)
                for likely, band in (
                    (row.air_l_h, found.air_l_h),
                    (row.co2_share, found.co2_share),
                    (row.water_elsewhere_g_day, found.elsewhere_g_day),
                ):
                    self.assertTrue(0.98 * band[0, 0] < likely < 1.02 * band[1, 0])
                self.assertLessEqual(found.lid_g_day[0, 0], row.water_on_lid_g_day + 0.05)

    def test_a_band_is_what_eight_of_ten_draws_hold(self) -> None:
        found = bands(estimated_case(PROJECT, PROJECT.design("timber")))
        assert found is not None
        low, high = found.winter_honey_range_kg
        below, above = (found.winter_honey_kg < low).sum(), (found.winter_honey_kg > high).sum()
        # A tenth of 32 draws at each end: three or four.
        self.assertIn(int(below), (3, 4))
        self.assertIn(int(above), (3, 4))
        case = estimated_case(PROJECT, PROJECT.design("timber"))
        drawn = [replace(case, parameters=p) for p in draws(DRAWS, SEED)]
        air = [
            3.6e6 * float(m.months.exchange_m3_s[0])
            for m in assess_each(drawn)
            if isinstance(m, MonthlyAssessment)
        ]
        self.assertAlmostEqual(
            float(np.quantile(air, 0.1, method="weibull")), float(found.air_l_h[0, 0])
        )
        self.assertAlmostEqual(
            float(np.quantile(air, 0.9, method="weibull")), float(found.air_l_h[1, 0])
        )

    def test_wet_nights_of_draws_are_those_of_the_nights(self) -> None:
        """With every draw at the likely values the band is the figure itself."""
        for key in ("timber", "quilt"):
            monthly = assess_months(estimated_case(PROJECT, PROJECT.design(key)))
            nights = assess_nights(monthly)
            with mock.patch.object(bands_module, "draws", lambda n, _: (LIKELY,) * n):
                found = bands(monthly.case)
            assert found is not None
            for band, figure in (
                (found.middle_wet_nights, nights.crown_wet_nights),
                (found.rim_wet_nights, nights.rim_wet_nights),
            ):
                np.testing.assert_allclose(band, figure, rtol=1e-9, atol=1e-9)

    def test_draws_in_which_bees_suffocate_agree_with_no_verdict(self) -> None:
        case = estimated_case(PROJECT, PROJECT.design("composite"))
        whole = assess_each([case])[0]
        lost = NotBalancedError("design “x”: the bees would suffocate; open an entrance")
        each = [whole] * 16 + [lost] * 16
        with mock.patch.object(bands_module, "_drawn", lambda _: each):
            found, dry = bands(case), dry_of_ten(case)
        assert found is not None
        self.assertEqual((found.answered, dry), (16, 5))
        self.assertFalse(found.sureness(0).can_be_told)

    def test_walls_that_are_said_to_be_dry_hold_no_air_damp(self) -> None:
        for key, held in (("composite", False), ("timber", True)):
            monthly = assess_months(estimated_case(PROJECT, PROJECT.design(key)))
            said = [finding_text(f) for f in findings(monthly, 0)]
            humid = [text for text in said if "A logger beside" in text]
            self.assertEqual(len(humid), 1)
            self.assertEqual("wet walls hold it" in humid[0], held)
            self.assertEqual(any("Walls and floor are dry" in text for text in said), not held)
            july = [finding_text(f) for f in findings(monthly, 6)]
            self.assertFalse(any("A logger beside" in text for text in july))

    def test_a_verdict_says_how_sure_it_is(self) -> None:
        dry = bands(estimated_case(PROJECT, PROJECT.design("composite")))
        near = bands(estimated_case(PROJECT, PROJECT.design("timber")))
        assert dry is not None and near is not None
        sure, unsure = dry.sureness(0), near.sureness(0)
        self.assertEqual((sure.verdict, sure.sure, sure.can_be_told), ("dry", True, True))
        self.assertEqual(unsure.verdict, "wet")
        self.assertFalse(unsure.sure)
        share = float(near.crown[VERDICTS.index("wet"), 0])
        self.assertEqual(unsure.of_ten, round(10 * share))


if __name__ == "__main__":
    unittest.main()
