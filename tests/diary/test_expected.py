"""Expected against seen, and what is due: by hand where a hand can count."""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime

import icalendar
import numpy as np

from calveth.core.calendar import FIRST_DAYS
from calveth.core.climate.place import winter_days
from calveth.core.diary.due import RESERVE_KG, Due, due_acts
from calveth.core.diary.expected import (
    MIDDLE_CELL,
    agreement,
    expected_at,
    expected_stores_kg,
    hour_of_year,
    share_interval,
    stores_before,
    survival,
    winter_begins,
)
from calveth.core.hive.plans import starting_plan
from calveth.core.records.diary import Diary, Inspection, Mark
from calveth.core.year.columns import S_FILM
from calveth.core.year.figures import honey_by_day
from calveth.store.calendar_file import calendar_bytes
from calveth.texts.diary import (
    agreement_sentence,
    beside_sentences,
    due_sentence,
    survival_sentence,
)
from tests.diary.cases import AUTUMN, BOARDS, DIARY, KEPT, WARM, WINTER
from tests.year.cases import PROJECT, year_of


class Expectations(unittest.TestCase):
    def test_hours_of_a_year_without_a_leap_day(self) -> None:
        self.assertEqual(hour_of_year(datetime(2026, 1, 1, 0)), 0)
        self.assertEqual(hour_of_year(datetime(2026, 12, 31, 23)), 8759)
        self.assertEqual(
            hour_of_year(datetime(2028, 2, 29, 5)), hour_of_year(datetime(2028, 2, 28, 5))
        )
        self.assertEqual(hour_of_year(datetime(2028, 3, 1, 0)) // 24, FIRST_DAYS[2])

    def test_marks_are_the_films_of_the_hour(self) -> None:
        run = year_of("plain-boards")
        for hour in (200, 3000, 7000, 8500):
            day, clock = divmod(hour, 24)
            month = int(np.searchsorted(FIRST_DAYS, day, side="right")) - 1
            when = datetime(2026, month + 1, day - FIRST_DAYS[month] + 1, clock)
            found = expected_at(run, when)
            film = run.series[hour, S_FILM : S_FILM + 7] / np.maximum(run.areas_m2, 1e-9)
            for cell, surface in ((MIDDLE_CELL, 0), (0, 1), (8, 1)):
                wet = found.lid[cell] in ("wet", "ice")
                self.assertEqual(wet, bool(film[surface] >= 1e-3), (hour, cell))
            self.assertEqual(found.nest_degc, float(run.column("nest_degc")[hour]))

    def test_stores_run_down_by_what_is_burnt(self) -> None:
        run = year_of("plain-boards")
        day = honey_by_day(run)
        left = expected_stores_kg(run, datetime(2026, 1, 1, 9), 10.0, datetime(2026, 1, 11, 9))
        self.assertAlmostEqual(left, 10.0 - float(day[:10].sum()))
        over = expected_stores_kg(run, datetime(2025, 12, 31, 9), 10.0, datetime(2026, 1, 2, 9))
        self.assertAlmostEqual(over, 10.0 - float(day[364] + day[0]))
        self.assertEqual(
            expected_stores_kg(run, datetime(2026, 1, 2), 10.0, datetime(2026, 1, 1)), 10.0
        )

    def test_stores_follow_only_from_the_same_winter(self) -> None:
        place = PROJECT.place
        begins = winter_begins(place, datetime(2026, 1, 4, 13))
        self.assertEqual(begins.year, 2025)
        self.assertEqual((begins.date() - date(2025, 1, 1)).days, winter_days(place)[0])
        self.assertEqual(stores_before(DIARY, place, WINTER), AUTUMN)
        next_autumn = replace(WINTER, id="x", at="2026-11-20T10:00")
        self.assertIsNone(stores_before(DIARY.with_inspection(next_autumn), place, next_autumn))

    def test_agreement_is_counted_plainly(self) -> None:
        run = year_of("plain-boards")
        expected = expected_at(run, WINTER.when)
        dry: tuple[Mark, ...] = ("dry",) * 9
        seen_dry = replace(WINTER, id="d", lid=dry)
        sure_dry = replace(expected, lid=dry, was_wet=(False, False))
        found = agreement(
            [
                (WINTER, sure_dry),
                (seen_dry, sure_dry),
                (AUTUMN, sure_dry),
                (seen_dry, replace(sure_dry, lid=("wet",) * 9)),
            ]
        )
        self.assertEqual(
            (found.wet_and_wet, found.wet_but_dry, found.dry_but_wet, found.dry_and_dry),
            (0, 1, 1, 1),
        )
        self.assertEqual((found.count, found.agreed), (3, 1))
        mouldy = replace(WINTER, id="m", lid=("mould",) * 9)
        self.assertEqual(agreement([(mouldy, sure_dry)]).dry_but_wet, 1)
        damp = replace(WINTER, id="n", lid=("damp",) * 9)
        self.assertEqual(agreement([(damp, sure_dry)]).dry_but_wet, 1)
        grew = replace(sure_dry, was_wet=(True, True))
        self.assertEqual(agreement([(mouldy, grew)]).agreed, 1)
        self.assertEqual(agreement([(damp, grew)]).agreed, 0)
        one = replace(WINTER, id="o", lid=("wet", *dry[1:]))
        self.assertEqual(agreement([(one, sure_dry)]).dry_but_wet, 1)
        self.assertIn("1 of 3 lids", agreement_sentence(found))
        self.assertIn("No lid", agreement_sentence(agreement([])))

    def test_small_numbers_are_exact_intervals(self) -> None:
        """Clopper and Pearson 1934: 7 of 8 is 47 to 99.7 %, 0 of 4 is 0 to 60 % (any table)."""
        low, high = share_interval(7, 8)
        self.assertAlmostEqual(low, 0.4735, delta=5e-4)
        self.assertAlmostEqual(high, 0.9968, delta=5e-4)
        self.assertAlmostEqual(share_interval(0, 4)[1], 0.6024, delta=5e-4)
        self.assertEqual(share_interval(0, 0), (0.0, 1.0))

    def test_winters_are_counted_by_design(self) -> None:
        lost = replace(BOARDS, until="2026-02-10", fate="lost")
        spring = Inspection(id="s", hive="hive-2", at="2026-04-20T12:00", alive=True)
        found = survival(Diary(hives=(lost, WARM), inspections=(spring,)), date(2026, 6, 1))
        self.assertEqual(
            [(s.design, s.winters, s.alive) for s in found],
            [("composite", 1, 1), ("plain-boards", 1, 0)],
        )
        self.assertEqual(survival(Diary(hives=(WARM,)), date(2026, 2, 1)), [])
        # Nobody looked after the winters that followed: they say nothing.
        later = survival(Diary(hives=(WARM,), inspections=(spring,)), date(2028, 6, 1))
        self.assertEqual((later[0].winters, later[0].alive), (1, 1))
        again = replace(spring, id="t", at="2027-05-01T12:00", alive=None, brood="some")
        later = survival(Diary(hives=(WARM,), inspections=(spring, again)), date(2028, 6, 1))
        self.assertEqual((later[0].winters, later[0].alive), (2, 2))
        dead = replace(spring, id="u", at="2028-03-01T12:00", alive=False)
        later = survival(Diary(hives=(WARM,), inspections=(spring, again, dead)), date(2030, 6, 1))
        self.assertEqual((later[0].winters, later[0].alive), (3, 2))
        only = survival(Diary(hives=(WARM,), inspections=(dead,)), date(2030, 6, 1))
        self.assertEqual((only[0].winters, only[0].alive), (1, 0))
        self.assertIn("0 of 1", survival_sentence(found[1], "Boards"))

    def test_what_stands_beside_is_told_once_for_each_thing(self) -> None:
        expected = expected_at(year_of("plain-boards"), WINTER.when)
        told = "\n".join(beside_sentences(WINTER, expected, 13.5))
        self.assertIn("of 9 places", told)
        self.assertIn("as expected", told)
        self.assertIn("less than expected", "\n".join(beside_sentences(WINTER, expected, 16.0)))
        self.assertNotIn("Stores", "\n".join(beside_sentences(WINTER, expected, None)))


class DueActs(unittest.TestCase):
    def acts(self, diary: Diary = DIARY, stores_kg: float = 18.0, **plans: object) -> list[Due]:
        seasons = {d.id: d.seasons for d in PROJECT.designs} | plans
        return due_acts(
            diary,
            PROJECT.place,
            stores_kg,
            seasons,  # type: ignore[arg-type]
            {"hive-1": year_of("plain-boards")},
            date(2025, 10, 1),
        )

    def test_hefts_in_winter_against_what_was_hefted(self) -> None:
        hefts = [a for a in self.acts() if a.kind == "heft" and a.hive == BOARDS]
        self.assertEqual(
            [a.day.isoformat() for a in hefts], ["2025-12-15", "2026-02-01", "2026-03-15"]
        )
        run = year_of("plain-boards")
        from_autumn = expected_stores_kg(run, AUTUMN.when, 17.0, datetime(2025, 12, 15, 12))
        self.assertAlmostEqual(hefts[0].expected_kg or 0.0, from_autumn)
        from_winter = expected_stores_kg(run, WINTER.when, 13.0, datetime(2026, 2, 1, 12))
        self.assertAlmostEqual(hefts[1].expected_kg or 0.0, from_winter)
        unknown = [a for a in self.acts() if a.kind == "heft" and a.hive == WARM]
        self.assertIsNone(unknown[0].expected_kg)
        self.assertEqual(due_sentence(unknown[0], PROJECT.design("composite")), "heft")

    def test_a_hungry_hive_is_to_be_fed(self) -> None:
        hungry = DIARY.with_inspection(replace(WINTER, stores_kg=4.5))
        fed = [a for a in self.acts(hungry) if a.kind == "feed"]
        self.assertTrue(fed)
        self.assertLess(fed[0].expected_kg or 0.0, RESERVE_KG)
        self.assertIn("feed", due_sentence(fed[0], PROJECT.design("plain-boards")))

    def test_a_wet_lid_is_looked_at_again_until_it_was(self) -> None:
        again = [a for a in self.acts() if a.kind == "look again"]
        self.assertEqual([a.day.isoformat() for a in again], ["2026-01-25"])
        looked = DIARY.with_inspection(
            replace(WINTER, id="look-3", at="2026-01-20T12:00", lid=("dry",) * 9)
        )
        self.assertEqual([a for a in self.acts(looked) if a.kind == "look again"], [])

    def test_acts_of_the_plan_on_their_days_also_in_a_leap_year(self) -> None:
        plan = starting_plan(PROJECT.design("composite"), PROJECT.place, "sealed warm top")
        acts = [a for a in self.acts(composite=plan) if a.kind == "plan" and a.hive == WARM]
        self.assertEqual(len(acts), len(plan.periods))
        for act in acts:
            self.assertTrue(due_sentence(act, PROJECT.design("composite")))
        leap = due_acts(
            Diary(hives=(WARM,)), PROJECT.place, 18.0, {"composite": plan}, {}, date(2028, 1, 1)
        )
        days = [a.day for a in leap if a.kind == "plan"]
        usual = [a.day for a in acts if a.day.year == 2026 and a.day.month > 3]
        self.assertIn((usual[0].month, usual[0].day), [(d.month, d.day) for d in days])

    def test_a_hive_that_is_gone_has_nothing_due(self) -> None:
        gone = replace(WARM, until="2025-11-01", fate="lost")
        self.assertEqual(
            [a for a in self.acts(Diary(hives=(gone,))) if a.day > date(2025, 11, 1)], []
        )

    def test_the_calendar_is_read_by_another_program(self) -> None:
        """RFC 5545, read back by the icalendar package."""
        acts = self.acts()
        told = [(a, due_sentence(a, KEPT.design(a.hive.design))) for a in acts]
        text = calendar_bytes(told, datetime(2026, 1, 1, tzinfo=UTC))
        events = icalendar.Calendar.from_ical(text).walk("VEVENT")
        self.assertEqual(len(events), len(acts))
        self.assertEqual({e.decoded("dtstart") for e in events}, {a.day for a in acts})
        self.assertEqual(len({str(e["uid"]) for e in events}), len(acts))
        self.assertIn("Lake 1: heft", " ".join(str(e["summary"]) for e in events))


if __name__ == "__main__":
    unittest.main()
