"""What logs tell: known factors come back, explanations rank, and silence where logs are blind.

Logs are made of the program's own year with other factors (the stand-in for a real hive), with an
offset and a wander of each probe; a real hive fits worse.
"""

from __future__ import annotations

import json
import sys
import unittest
from dataclasses import replace
from datetime import datetime, timedelta
from functools import cache
from typing import ClassVar
from unittest import mock

import numpy as np

from calveth.core.case import HiveCase, estimated_case
from calveth.core.diary import calibrate as calibrate_module
from calveth.core.diary.calibrate import (
    FACTORS,
    FIELDS,
    PRIOR,
    Calibration,
    at_point,
    calibrate,
    factors_of,
)
from calveth.core.diary.channels import channels, predicted, predicted_hours
from calveth.core.diary.explain import changed_cases, explain, shows, tell_apart
from calveth.core.diary.hive_season import hive_season, seasons_of
from calveth.core.diary.misfit import Seen, misfit, residuals, seen_of
from calveth.core.diary.season import utc_hours
from calveth.core.diary.series import Series
from calveth.core.diary.take_in import take_in
from calveth.core.diary.years import bees_by_seams, year_key
from calveth.core.edits_diary import refuse_change, set_diary, take_over
from calveth.core.errors import CalvethError, DomainError
from calveth.core.parameters import LIKELY, Parameters, draws
from calveth.core.project import Project
from calveth.core.records.blob import Blob
from calveth.core.records.diary import Diary
from calveth.core.records.log import Chunk, Log
from calveth.core.records.quantity import Quantity, Where
from calveth.core.year.result import YearRun
from calveth.core.year.run import run_year
from calveth.store.diary_records import calibration_record
from calveth.texts.why import calibration_sentences, explained_sentences
from tests.cases import LONG
from tests.diary.cases import KEPT, WINTER

SEASON = 2025
TRUTH = replace(LIKELY, leakage_factor=2.7, bees_factor=1.15, shell_factor=1.05)
PROBES: tuple[tuple[Where, Quantity, float, float], ...] = (
    ("under the lid", "temperature", 0.2, 0.4),
    ("under the lid", "humidity", 0.02, 0.02),
    ("under the lid", "co2", 0.04, 0.1),
    ("scale", "weight", 0.0, 0.02),
)


UNKNOWN = tuple(range(12))
"""Which of the drawn truths the test of false reasons runs; `study` runs more."""


def log_of(at: Where, quantity: Quantity, hive: str = "hive-1") -> Log:
    """Return a log of a place, its samples no matter."""
    chunk = Chunk(month=12 * 55, count=1, packed=Blob(b""))
    return Log(
        id="x",
        name="x",
        hive=hive,
        at=at,
        quantity=quantity,
        file="",
        sha256="",
        zone="UTC",
        chunks=(chunk,),
    )


def logged(run: YearRun, seed: int, probes: tuple = PROBES, hive: str = "hive-1") -> Diary:  # type: ignore[type-arg]
    """Return the small diary with a winter of a year's hours as probes would write them."""
    place = run.case.place
    hours = utc_hours(place, SEASON)
    days = np.r_[305 * 24 : 365 * 24, 0 : 75 * 24]
    days = days[np.argsort(hours[days])]
    random = np.random.default_rng(seed)
    diary = KEPT.diary
    for at, quantity, offset, wander in probes:
        values = predicted_hours(run, log_of(at, quantity, hive))[days]
        hold = np.exp(-1 / 36.0)
        noise = np.zeros(days.size)
        kicks = wander * np.sqrt(1 - hold**2) * random.standard_normal(days.size)
        for k in range(1, days.size):
            noise[k] = hold * noise[k - 1] + kicks[k]
        noise = noise + offset * random.standard_normal()
        values = values * np.exp(noise) if quantity == "co2" else values + noise
        if quantity == "humidity":
            values = np.clip(values, 0, 1)
        if quantity == "weight":
            values = values + 40.0 - values[0]
        made = Series(quantity=quantity, minutes=60 * hours[days], values=values)
        diary = take_in(diary, made, hive=hive, at=at, name=f"{at} {quantity}")
    return diary


@cache
def case_of(design: str, parameters: Parameters = LIKELY) -> HiveCase:
    """Return a hive with its shell estimated: the truth and the guess are of one shell."""
    case = estimated_case(KEPT, KEPT.design(design))
    return replace(case, parameters=parameters)


@cache
def year_of(design: str, parameters: Parameters = LIKELY) -> YearRun:
    """Return a year, run once."""
    return run_year(case_of(design, parameters))


def seen_in(diary: Diary, design: str, hive: str = "hive-1") -> Seen:
    """Return what a diary has seen of a hive."""
    bare = replace(diary, inspections=())
    return seen_of(bare, hive, KEPT.place, SEASON, year_of(design))


@cache
def told(design: str, seed: int, probes: tuple = PROBES, hive: str = "hive-1") -> Calibration:  # type: ignore[type-arg]
    """Return what a winter of logs of the truth tells."""
    diary = logged(year_of(design, TRUTH), seed, probes, hive)
    # From all starts once; they lead to one valley here, and take their time.
    starts = (0.0, -0.7, 0.7) if LONG and seed == 1 and probes == PROBES else (0.7,)
    with mock.patch.object(calibrate_module, "_STARTS", starts):
        return calibrate(case_of(design), seen_in(diary, design, hive))


class Recovery(unittest.TestCase):
    SEEDS: ClassVar = (1, 2) if LONG else (1,)

    def test_boards_with_co2_tell_the_leakage(self) -> None:
        """A trial narrowed ln leakage from 0.86 to 0.16 with CO2, the truth inside 4 of 4."""
        inside = 0
        for seed in self.SEEDS:
            found = told("plain-boards", seed)
            leak = found.of("leakage")
            self.assertLess(leak.narrowed, 0.4)
            self.assertTrue(leak.tells, leak)
            inside += leak.low <= TRUTH.leakage_factor <= leak.high
            self.assertLess(found.misfit_after, found.misfit_before)
        # 90 % intervals: one of two may miss, hardly both.
        self.assertGreaterEqual(inside, 1)

    def test_bees_and_layers_lie_in_their_intervals(self) -> None:
        hits = [
            f.low <= truth <= f.high
            for seed in self.SEEDS
            for name, truth in (("bees", 1.15), ("shell", 1.05), ("mixing", 1.0))
            for f in [told("plain-boards", seed).of(name)]  # type: ignore[arg-type]
        ]
        self.assertGreaterEqual(sum(hits), len(hits) - 1)

    def test_a_thermometer_under_the_lid_alone_is_blind_to_leaks_and_says_so(self) -> None:
        found = told("plain-boards", 1, PROBES[:1])
        self.assertFalse(found.of("leakage").tells)
        text = " ".join(calibration_sentences(found))
        self.assertIn("cannot tell what joints let through", text)
        self.assertIn("CO2", text)

    def test_too_few_nights_are_refused(self) -> None:
        empty = seen_in(KEPT.diary, "plain-boards")
        self.assertTrue(empty.is_empty)
        with self.assertRaisesRegex(DomainError, "nights of logs"):
            calibrate(case_of("plain-boards"), empty)


class Channels(unittest.TestCase):
    def test_nights_and_losses_are_those_of_the_hours(self) -> None:
        run = year_of("plain-boards")
        quiet = tuple((at, q, 0.0, 0.0) for at, q, _, _ in PROBES)
        found = {
            c.log.quantity: c for c in channels(logged(run, 1, quiet), "hive-1", KEPT.place, SEASON)
        }
        self.assertEqual(set(found), {"temperature", "humidity", "co2", "weight"})
        for channel in found.values():
            known = np.isfinite(channel.seen)
            self.assertGreater(int(known.sum()), 130)
            left = channel.seen[known] - predicted(run, channel.log)[known]
            self.assertLess(float(np.abs(left).max()), 3e-3, channel.log.quantity)

    def test_a_step_of_the_keeper_is_no_loss(self) -> None:
        run = year_of("plain-boards")
        diary = logged(run, 1, (("scale", "weight", 0.0, 0.0),))
        log = diary.logs[0]
        from calveth.core.diary.season import trusted

        series = trusted(log)
        values = series.values.copy()
        values[30 * 24 + 10 :] += 4.0
        fed = take_in(
            KEPT.diary,
            replace(series, values=values),
            hive="hive-1",
            at="scale",
            name="scale weight",
        )
        seen = channels(fed, "hive-1", KEPT.place, SEASON)[0].seen
        calm = channels(diary, "hive-1", KEPT.place, SEASON)[0].seen
        self.assertEqual(int(np.isfinite(calm).sum() - np.isfinite(seen).sum()), 1)
        self.assertLess(float(np.nanmax(np.abs(seen))), 0.3)

    def test_an_offset_costs_by_its_width_and_nothing_where_it_is_free(self) -> None:
        run = year_of("plain-boards")
        diary = logged(run, 1, (("under the lid", "temperature", 0.0, 0.0),))
        seen = seen_in(diary, "plain-boards")
        off = replace(seen.channels[0], seen=seen.channels[0].seen + 3.0)
        moved = replace(seen, channels=(off,))
        free = residuals(moved, run, free=off.log.id)
        bound = residuals(moved, run)
        self.assertLess(float(free @ free), 1e-3)
        # With many nights the offset goes to what was seen: (3.0/0.3)² of its prior.
        self.assertLess(float(bound @ bound), 100.0)
        self.assertGreater(float(bound @ bound), 90.0)


class Explanations(unittest.TestCase):
    def test_the_change_that_was_made_ranks_first(self) -> None:
        """Three of the changes, each made the truth: the program names it, or one like it."""
        case = case_of("plain-boards")
        reasons = ("leaks more", "fewer bees", "entrance blocked")
        for why in reasons if LONG else reasons[:1]:
            truth = run_year([c for w, _, c in changed_cases(case) if w == why][-1])
            diary = logged(truth, 2)
            found = explain(
                case,
                lambda r, d=diary: seen_of(  # type: ignore[misc]
                    replace(d, inspections=()), "hive-1", KEPT.place, SEASON, r
                ),
            )
            with self.subTest(why=why):
                self.assertIn(why, [e.why for e in found.ranked[:2]])
                self.assertGreater(found.gain, 3.0)
                if why != "fewer bees":  # which a colder core of the cluster looks like
                    self.assertTrue(found.named, (why, found.ranked[:3], found.alike))
                self.assertGreater(len(explained_sentences(found)), 0)

    def test_without_a_difference_no_reason_is_named(self) -> None:
        diary = logged(year_of("plain-boards"), 3)
        found = explain(
            case_of("plain-boards"),
            lambda r: seen_of(replace(diary, inspections=()), "hive-1", KEPT.place, SEASON, r),
        )
        self.assertEqual(found.ranked[0].why, "as worked out")
        self.assertIn("near what was expected", explained_sentences(found)[0])

    def test_no_reason_is_named_where_only_the_unknown_differs(self) -> None:
        """Truths with leaks, bees, layers and wind as taken, and all else drawn in its range.

        A reason is named where it explains more than eight hives built alike do: one in nine of
        such truths is beyond all eight. Of these twelve it is one, the ninth.
        """
        named = 0
        for k, drawn in enumerate(draws(len(UNKNOWN), 77)):
            if k not in (UNKNOWN if LONG else (3,)):
                continue
            truth = replace(
                drawn, leakage_factor=1.0, bees_factor=1.0, shell_factor=1.0, wind_factor=1.0
            )
            diary = logged(run_year(case_of("plain-boards", truth)), 50 + k)
            found = explain(
                case_of("plain-boards"),
                lambda r, d=diary: seen_of(  # type: ignore[misc]
                    replace(d, inspections=()), "hive-1", KEPT.place, SEASON, r
                ),
            )
            named += found.named
        self.assertLessEqual(named, 1 if LONG else 0)

    def test_one_wet_corner_that_nothing_explains_is_told_with_its_place(self) -> None:
        corner = replace(WINTER, lid=("wet", *("dry",) * 8), floor="not looked", stores_kg=None)
        hive = replace(corner, hive="hive-2")
        diary = replace(KEPT.diary, inspections=(hive,))
        found = explain(
            case_of("composite"), lambda r: seen_of(diary, "hive-2", KEPT.place, SEASON, r)
        )
        self.assertFalse(found.named)
        self.assertEqual([(p.place, p.cell, p.wet) for p in found.unexplained], [("lid", 0, True)])
        said = explained_sentences(found)
        self.assertIn(
            "None of what was tried explains that the lid at the front left was wet", said[0]
        )
        self.assertIn("rain", said[1])
        self.assertNotIn("near what was expected", " ".join(said))

    def test_seams_scale_the_bees_of_the_hive_that_was_looked_into(self) -> None:
        """Six seams of deep combs, 0.2 kg each, beside what the curve has in January."""
        deep = 1.9 * 0.448 * 0.232
        curve = KEPT.colony.mass_kg[0]
        counted = replace(WINTER, seams=6.0)
        project = replace(KEPT, diary=replace(KEPT.diary, inspections=(counted,)))
        times = bees_by_seams(project, "hive-1", SEASON)
        self.assertAlmostEqual(times, 6 * deep / curve, delta=0.026)
        self.assertEqual(bees_by_seams(project, "hive-1", SEASON - 1), 1.0)
        self.assertEqual(bees_by_seams(KEPT, "hive-1", SEASON), 1.0)
        season = hive_season(project, "hive-1")
        self.assertAlmostEqual(season.case().parameters.bees_factor, times)
        key = year_key(project, counted, frozenset())
        self.assertEqual(key[3], times)

    def test_wet_lids_alone_count(self) -> None:
        run = year_of("composite")
        # The hour of the first weeks of the year in which the boards are wettest.
        film = year_of("plain-boards").column("lid_middle_kg")[: 59 * 24]
        when = datetime(2026, 1, 1) + timedelta(hours=int(film.argmax()))
        soaked = replace(
            WINTER,
            at=when.isoformat(timespec="minutes"),
            lid=("wet",) * 9,
            floor="not looked",
            stores_kg=None,
        )
        diary = replace(KEPT.diary, inspections=(soaked,))
        seen = seen_of(diary, "hive-1", KEPT.place, SEASON, run)
        self.assertEqual(len(seen.inspections), 1)
        # Water above and round the cluster where a lid is dry all winter: twice 2·ln(9) by hand.
        self.assertAlmostEqual(misfit(seen, run), 4.0 * np.log(9.0), places=6)
        self.assertAlmostEqual(misfit(seen, year_of("plain-boards")), 0.0, places=6)

    def test_two_explanations_are_told_apart_by_what_they_differ_in(self) -> None:
        run = year_of("plain-boards")
        shut = next(
            c for w, _, c in changed_cases(case_of("plain-boards")) if w == "entrance blocked"
        )
        diary = logged(run_year(shut), 4)
        found = explain(
            case_of("plain-boards"),
            lambda r: seen_of(replace(diary, inspections=()), "hive-1", KEPT.place, SEASON, r),
        )
        best = found.difference
        self.assertIsNotNone(best)
        assert best is not None
        self.assertEqual(best, tell_apart(found.ranked))
        # Breath that cannot leave shows in its CO2 before all.
        self.assertEqual((best.one, best.test), ("entrance blocked", "co2"))
        self.assertGreater(abs(best.says[0] - best.says[1]), 0.0)
        self.assertGreater(shows(run)["honey"], 0.5)


class TakenOver(unittest.TestCase):
    def project(self) -> Project:
        """Return the small diary with a winter of logs of the truth."""
        return set_diary(KEPT, logged(year_of("plain-boards", TRUTH), 1))

    def test_factors_move_the_likely_figures_and_every_draw(self) -> None:
        project = take_over(self.project(), "plain-boards", {"leakage": 2.0, "bees": 1.1}, "a note")
        design = project.design("plain-boards")
        case = estimated_case(project, design)
        self.assertEqual(case.parameters, replace(LIKELY, leakage_factor=2.0, bees_factor=1.1))
        drawn = case.drawn(replace(LIKELY, leakage_factor=1.5))
        self.assertEqual(drawn.parameters.leakage_factor, 3.0)
        # What was built is not changed by it, and it can be taken over on top of itself.
        refuse_change(project, KEPT.design("plain-boards"), design)
        again = take_over(project, "plain-boards", {"leakage": 0.5}, "b")
        self.assertEqual(again.design("plain-boards").factors.leakage, 1.0)  # type: ignore[union-attr]
        with self.assertRaisesRegex(DomainError, "factor on leakage"):
            take_over(project, "plain-boards", {"leakage": 9.0}, "c")

    def test_a_hive_in_its_season(self) -> None:
        project = self.project()
        self.assertEqual(seasons_of(project, "hive-1"), [SEASON])
        season = hive_season(project, "hive-1")
        self.assertEqual((season.season, season.design), (SEASON, "plain-boards"))
        with self.assertRaisesRegex(DomainError, "nothing"):
            hive_season(project, "hive-2")
        with self.assertRaisesRegex(DomainError, "is empty"):
            hive_season(project, "hive-1", 1999)
        found = season.explained()
        record = calibration_record(season, found, told("plain-boards", 1))
        self.assertEqual(len(json.loads(json.dumps(record))["explanations"]), len(found.ranked))

    def test_only_what_the_log_tells_is_taken_over(self) -> None:
        found = told("plain-boards", 1)
        self.assertIn("leakage", factors_of(found))
        self.assertEqual(set(factors_of(found)), {f.factor for f in found.factors if f.tells})

    def test_a_point_stays_within_what_is_possible(self) -> None:
        far = at_point(LIKELY, (5.0, -5.0, 5.0, 5.0))
        self.assertLess(far.leakage_factor, 6.0)
        self.assertGreater(far.bees_factor, 0.2)


def study(count: int) -> None:
    """Print how many 90 % intervals hold on fresh truths with all that nobody knows drawn too.

    ``python -m tests.diary.test_calibrate --study 12``: some twenty seconds each.
    """
    inside, told_wrong, sensor_readings, of = 0, 0, 0, 0
    for k, drawn in enumerate(draws(count, 4242)):
        r = np.random.default_rng(900 + k)
        fields = {FIELDS[f]: float(np.exp(0.7 * PRIOR[f] * r.standard_normal())) for f in FACTORS}
        truth = replace(drawn, **{n: v * getattr(LIKELY, n) for n, v in fields.items()})
        try:
            diary = logged(run_year(case_of("plain-boards", truth)), 300 + k)
        except CalvethError:
            continue
        found = calibrate(case_of("plain-boards"), seen_in(diary, "plain-boards"))
        for each in found.factors:
            right = each.low <= fields[FIELDS[each.factor]] <= each.high
            of, inside = of + 1, inside + right
            sensor_readings += each.tells
            told_wrong += each.tells and not right
        print(
            f"{k + 1}: {inside} of {of} inside; told {sensor_readings}, of them wrong {told_wrong}",
            flush=True,
        )


if __name__ == "__main__":
    if sys.argv[1:2] == ["--study"]:
        study(int(sys.argv[2]))
    else:
        unittest.main()
