"""Plans by date: what a day of a place is like, the acts of a proposed plan, and acts moved."""

from __future__ import annotations

import unittest
from dataclasses import replace

from calveth.catalogue.library import shipped_places
from calveth.catalogue.shipped import demo_project
from calveth.core.calendar import first_day_of_week, month_of_day
from calveth.core.edits import move_act, set_seasons
from calveth.core.errors import DomainError
from calveth.core.hive.plans import season_days, starting_plan
from calveth.core.hive.season_plan import Period, SeasonPlan, Setting
from calveth.texts.year import act_words, plan_acts, plan_sentences

PROJECT = demo_project()
QUILT = PROJECT.design("quilt")


class Days(unittest.TestCase):
    def test_winter_runs_from_the_last_to_the_first_forage_week(self) -> None:
        days = season_days(PROJECT.place)
        self.assertTrue(bool(days.winter[0]))
        first = first_day_of_week(PROJECT.place.first_forage_week)
        self.assertTrue(bool(days.winter[first - 1]))
        self.assertFalse(bool(days.winter[first]))

    def test_frost_comes_before_cool_nights_end_and_never_in_the_tropics(self) -> None:
        days = season_days(PROJECT.place)
        self.assertFalse(bool(days.frosty[200]))
        self.assertTrue(bool(days.frosty[15]))
        self.assertLess(int(days.warm.sum()), 200)
        tropics = next(s.place for s in shipped_places() if s.id == "tamoru")
        there = season_days(tropics)
        self.assertFalse(bool((there.frosty | there.cool).any()))
        self.assertTrue(bool(there.warm.all()))

    def test_the_south_has_its_winter_in_july(self) -> None:
        south = next(s.place for s in shipped_places() if s.place.latitude_deg < -40)
        days = season_days(south)
        self.assertGreater(int(days.cool[170:240].sum()), int(days.cool[:60].sum()))


class Acts(unittest.TestCase):
    def test_each_act_falls_on_the_first_day_of_a_week(self) -> None:
        for shipped in shipped_places():
            made = starting_plan(QUILT, shipped.place, "breathing top")
            for period in made.periods:
                with self.subTest(place=shipped.id, day=period.from_day):
                    self.assertEqual((period.from_day - 1) % 7, 0)

    def test_the_entrance_is_half_wide_between_forage_and_mild_nights(self) -> None:
        made = starting_plan(QUILT, PROJECT.place, "breathing top")
        days = season_days(PROJECT.place)
        for day in range(0, 364, 7):
            share = made.on(day).share("low", 9.0)
            cold = bool(days.frosty[day] or days.cool[day])
            wanted = 0.3 if days.winter[day] else 0.6 if cold else 1.0
            self.assertEqual(share, wanted)

    def test_acts_are_said_with_their_dates(self) -> None:
        made = starting_plan(QUILT, PROJECT.place, "breathing top")
        settings = tuple((p.from_day - 1, p.setting) for p in made.periods)
        acts = dict(plan_acts(QUILT, settings))
        self.assertIn("quilt off", " ".join(acts.values()))
        autumn = [d for d, words in acts.items() if "quilt on" in words]
        self.assertIn(month_of_day(autumn[0]), (8, 9))
        self.assertTrue(plan_sentences(QUILT, settings)[0].endswith("."))
        shut = act_words(QUILT, Setting(), Setting(open_shares=(("low", 0.0),)))
        self.assertIn("shut", shut)

    def test_an_act_moves_and_two_on_a_day_are_refused(self) -> None:
        plan = SeasonPlan(
            periods=(
                Period(from_day=100, setting=Setting(quilt=False)),
                Period(from_day=270, setting=Setting()),
            )
        )
        project = set_seasons(PROJECT, "quilt", plan)
        moved = move_act(project, "quilt", 100, 120).design("quilt").seasons
        self.assertEqual([p.from_day for p in moved.periods], [120, 270])
        self.assertFalse(moved.on(125).quilt)
        self.assertTrue(moved.on(110).quilt)
        with self.assertRaisesRegex(DomainError, "choose a day beside"):
            move_act(project, "quilt", 100, 270)
        with self.assertRaisesRegex(DomainError, "has none"):
            move_act(project, "quilt", 101, 120)
        self.assertEqual(move_act(project, "quilt", 100, 100), project)
        self.assertEqual(replace(QUILT, seasons=plan), project.design("quilt"))
