"""A design through the months, and what is said of it."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from calveth.catalogue.shipped import demo_project
from calveth.core.advice.findings import findings
from calveth.core.assess.nights import NightAssessment, assess_nights
from calveth.core.assess.readings import LID_MIDDLE, LID_RIM, crown_verdict
from calveth.core.assess.result import MonthlyAssessment, assess_condition, assess_months
from calveth.core.calendar import month_of_day
from calveth.core.climate.place import days_without_forage, has_forage
from calveth.core.compare.table import compare_row
from calveth.core.errors import DomainError
from calveth.texts.findings import finding_text
from calveth.texts.summary import summary_sentences
from tests.cases import hive_case
from tests.core.builders import TABLE, box, layer, slot, steady_place

PROJECT = demo_project()
_CACHE: dict[str, tuple[MonthlyAssessment, NightAssessment]] = {}


def year(design_id: str) -> tuple[MonthlyAssessment, NightAssessment]:
    """Return the assessments of a demo design, worked out once for all tests."""
    if design_id not in _CACHE:
        monthly = assess_months(
            hive_case(PROJECT.design(design_id), PROJECT.place, PROJECT.colony, TABLE)
        )
        _CACHE[design_id] = monthly, assess_nights(monthly)
    return _CACHE[design_id]


class Winter(unittest.TestCase):
    def test_days_without_forage(self) -> None:
        # Demo: last week 39 ends on day 273 (30 September), first week 15 starts on day 99.
        days = days_without_forage(PROJECT.place)
        self.assertEqual(days[8], 0.0)
        self.assertEqual(days[9:], (31.0, 30.0, 31.0))
        self.assertEqual(days[:3], (31.0, 28.0, 31.0))
        self.assertEqual(days[3], 8.0)
        self.assertEqual(sum(days), 190.0)

    def test_southern_winter_does_not_turn_the_year(self) -> None:
        place = replace(PROJECT.place, last_forage_week=16, first_forage_week=36)
        days = days_without_forage(place)
        self.assertEqual(sum(days), 35 * 7 - 16 * 7)
        self.assertEqual(days[0], 0.0)
        self.assertEqual(days[6], 31.0)

    def test_no_winter_at_all(self) -> None:
        place = replace(PROJECT.place, last_forage_week=20, first_forage_week=21)
        self.assertEqual(sum(days_without_forage(place)), 0.0)

    def test_months_of_days(self) -> None:
        self.assertEqual([month_of_day(d) for d in (0, 30, 31, 58, 59, 364)], [0, 0, 1, 1, 2, 11])
        with self.assertRaises(DomainError):
            month_of_day(365)

    def test_honey_is_the_sum_of_its_days(self) -> None:
        monthly, _ = year("timber")
        per_day = monthly.honey_kg_month / np.array(
            [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]
        )
        by_hand = float(np.sum(per_day * np.array(days_without_forage(PROJECT.place))))
        self.assertAlmostEqual(monthly.winter_honey_kg, by_hand)

    def test_range_holds_the_likely_value(self) -> None:
        for design in PROJECT.designs:
            with self.subTest(design=design.id):
                monthly, nights = year(design.id)
                low, high = nights.winter_honey_range_kg
                self.assertLess(low, monthly.winter_honey_kg)
                self.assertGreater(high, monthly.winter_honey_kg)


class CommonPractice(unittest.TestCase):
    """What beekeepers find; common practice, no source, beside each."""

    def test_plain_boards_are_wet_and_a_thick_lid_keeps_the_crown_dry(self) -> None:
        # 19 mm boards: wet on walls in a wet cool winter; a thick lid keeps the crown dry.
        plain, _ = year("plain-boards")
        self.assertGreater(float(plain.months.condensing_g_day[3, 0]), 1.0)
        self.assertEqual(crown_verdict(plain.months, 0), "wet")
        design = PROJECT.design("plain-boards")
        thick = replace(
            design, shell=replace(design.shell, lid=(layer("softwood", 19), layer("xps", 50)))
        )
        lidded = assess_months(hive_case(thick, PROJECT.place, PROJECT.colony, TABLE))
        self.assertEqual(float(lidded.months.condensing_g_day[LID_MIDDLE, 0]), 0.0)
        self.assertGreater(float(lidded.months.condensing_g_day[3, 0]), 1.0)

    def test_the_rim_is_wet_before_the_middle(self) -> None:
        for design in PROJECT.designs:
            with self.subTest(design=design.id):
                monthly, nights = year(design.id)
                for at in (monthly.months, nights.nights, nights.cold_nights):
                    margin = at.margin_k
                    self.assertTrue(np.all(margin[LID_RIM] <= margin[LID_MIDDLE] + 1e-9))

    def test_insulated_hives_burn_less(self) -> None:
        honey = {d.id: year(d.id)[0].winter_honey_kg for d in PROJECT.designs}
        self.assertLess(honey["composite"], honey["timber"])
        self.assertLess(honey["timber"], honey["plain-boards"])

    def test_winter_use_is_of_the_order_people_heft(self) -> None:
        # 5 to 15 kg from October to April in a cold climate.
        for design in PROJECT.designs:
            with self.subTest(design=design.id):
                self.assertTrue(5 < year(design.id)[0].winter_honey_kg < 15)

    def test_co2_of_winter_hives(self) -> None:
        # A few tenths to a few percent are measured in small-entrance winter hives.
        for design in PROJECT.designs:
            with self.subTest(design=design.id):
                share = float(year(design.id)[0].months.co2_volume_share[1, 0])
                self.assertTrue(0.001 < share < 0.06)

    def test_aircrete_is_heavy_and_polystyrene_light(self) -> None:
        rows = {d.id: compare_row(*year(d.id), 0).weight_kg for d in PROJECT.designs}
        self.assertGreater(rows["aircrete"], 3 * rows["timber"])
        self.assertLess(rows["polystyrene"], rows["timber"] / 3)


class Nights(unittest.TestCase):
    def test_nights_are_colder_and_wetter(self) -> None:
        monthly, nights = year("aircrete")
        for warm, cold in ((monthly.months, nights.nights), (nights.nights, nights.cold_nights)):
            self.assertTrue(np.all(cold.outside.temperature_degc < warm.outside.temperature_degc))
            # In summer warmth makes bees busier; without forage they heat.
            rest = [k for k in range(12) if not has_forage(PROJECT.place, k)]
            heat = cold.balance.metabolic_w - warm.balance.metabolic_w
            self.assertTrue(np.all(heat[rest] >= -1e-9))

    def test_never_more_than_the_winter_has(self) -> None:
        for design in PROJECT.designs:
            with self.subTest(design=design.id):
                wet = year(design.id)[1].wet_nights
                self.assertTrue(np.all(wet >= 0))
                self.assertTrue(np.all(wet <= np.array(days_without_forage(PROJECT.place)) + 1e-9))

    def test_even_weather_is_all_or_nothing(self) -> None:
        place = replace(steady_place(-2.0, swing=0.0), day_to_day_spread_k=0.0)
        monthly = assess_months(hive_case(box(openings=(slot(),)), place, PROJECT.colony, TABLE))
        wet = assess_nights(monthly).wet_nights
        days = np.array(days_without_forage(place))
        self.assertTrue(np.all((wet == 0) | (wet == days)))


class OneCondition(unittest.TestCase):
    def test_a_month_is_its_mean_condition(self) -> None:
        monthly, _ = year("timber")
        month = PROJECT.place.months[1]
        one = assess_condition(
            hive_case(PROJECT.design("timber"), PROJECT.place, PROJECT.colony, TABLE),
            month=1,
            outside_degc=month.temperature_degc,
            relative_humidity=month.relative_humidity,
            wind_m_s=month.wind_m_s,
        )
        np.testing.assert_allclose(
            one.balance.state[:, 0], monthly.months.balance.state[:, 1], rtol=1e-4, atol=1e-4
        )

    def test_refusals(self) -> None:
        for field, value in (
            ("outside_degc", -80.0),
            ("relative_humidity", 0.0),
            ("relative_humidity", 85.0),
            ("wind_m_s", float("nan")),
        ):
            with self.subTest(field=field, value=value), self.assertRaises(DomainError):
                assess_condition(
                    hive_case(PROJECT.design("timber"), PROJECT.place, PROJECT.colony, TABLE),
                    month=0,
                    outside_degc=value if field == "outside_degc" else 0.0,
                    relative_humidity=value if field == "relative_humidity" else 0.8,
                    wind_m_s=value if field == "wind_m_s" else 1.0,
                )


class Words(unittest.TestCase):
    def test_compare_names_who_stays_dry_and_the_honey(self) -> None:
        rows = [compare_row(*year(d.id), 0) for d in PROJECT.designs]
        said = " ".join(summary_sentences(rows, 0))
        self.assertIn("In January it stays dry under the whole lid in Composite sandwich", said)
        self.assertIn("it drips: Heavy timber box", said)
        self.assertIn("kg", said)
        self.assertNotIn("Hollow tree", said)

    def test_nobody_dry_is_said_too(self) -> None:
        rows = [compare_row(*year("timber"), 0)]
        self.assertIn("no lid stays dry all the way to its rim", summary_sentences(rows, 0)[0])

    def test_findings_speak_of_what_the_figures_say(self) -> None:
        for design in PROJECT.designs:
            monthly, _ = year(design.id)
            for month in range(12):
                with self.subTest(design=design.id, month=month):
                    said = findings(monthly, month)
                    verdict = crown_verdict(monthly.months, month)
                    tone = {"dry": "good", "wet ring": "note", "wet": "bad"}[verdict]
                    # A little water that no finger feels is dry, but it is said.
                    tone = "note" if said[0].message.id == "lid hardly damp" else tone
                    self.assertEqual(said[0].tone, tone)
                    self.assertTrue(verdict == "dry" or said[0].message.id != "lid hardly damp")
                    self.assertTrue(all(finding_text(f).endswith((".", ")")) for f in said))

    def test_in_forage_months_the_limit_is_said(self) -> None:
        monthly, _ = year("timber")
        self.assertEqual(len(findings(monthly, 0)), 5)
        self.assertIn("bees fan", finding_text(findings(monthly, 6)[-1]))
        rows = [compare_row(*year("timber"), 6)]
        self.assertIn("bees fan", summary_sentences(rows, 6, forage=True)[-1])
        self.assertEqual(
            [has_forage(PROJECT.place, m) for m in (0, 3, 6, 8, 9)],
            [False, True, True, True, False],
        )

    def test_short_stores_are_named(self) -> None:
        hungry = replace(PROJECT.colony, stores_kg=3.0)
        monthly = assess_months(hive_case(PROJECT.design("timber"), PROJECT.place, hungry, TABLE))
        last = findings(monthly, 0)[-2]
        self.assertEqual(last.tone, "bad")
        self.assertIn("do not last", finding_text(last))


class Places(unittest.TestCase):
    def test_refusals_name_the_field(self) -> None:
        place = PROJECT.place
        for field, value, part in (
            ("latitude_deg", 95.0, "latitude"),
            ("longitude_deg", -200.0, "longitude"),
            ("altitude_m", float("nan"), "altitude"),
            ("first_forage_week", 0, "first forage week"),
            ("terrain", "moon", "terrain"),
            ("shelter", "cave", "shelter"),
            ("months", place.months[:11], "a year has 12"),
            ("name", " ", "place name"),
        ):
            with self.subTest(field=field), self.assertRaises(DomainError) as caught:
                changed: dict[str, object] = {field: value}
                replace(place, **changed)  # type: ignore[arg-type]
            self.assertIn(part, str(caught.exception))

    def test_months_refuse_absurd_weather(self) -> None:
        good = PROJECT.place.months[0]
        for field, value in (
            ("temperature_degc", 80.0),
            ("daily_swing_k", -1.0),
            ("relative_humidity", 89.0),
            ("wind_m_s", float("inf")),
        ):
            with self.subTest(field=field), self.assertRaises(DomainError):
                replace(good, **{field: value})


if __name__ == "__main__":
    unittest.main()
