"""What is read off a year: figures, ranges, pairs, and common practice with its measured size."""

from __future__ import annotations

import csv
import unittest
from dataclasses import fields, replace
from pathlib import Path

import numpy as np
from scipy.stats import spearmanr

from calveth.catalogue.library import shipped_places
from calveth.catalogue.shipped import shipped_materials
from calveth.core.case import HiveCase, estimated_case
from calveth.core.climate.place import WinterRoom
from calveth.core.colony.curves import curves_for
from calveth.core.errors import CancelledError, DomainError
from calveth.core.hive.design import Design
from calveth.core.materials import Layer
from calveth.core.nest.steady import NotBalancedError
from calveth.core.parameters import LIKELY, RANGES, Parameters
from calveth.core.year.draws import YearBands, less_in, year_bands
from calveth.core.year.figures import (
    NAMES,
    YearFigures,
    honey_by_day,
    larder_course,
    margin_k,
    nectar_need,
    year_figures,
)
from calveth.core.year.questions import (
    feed_table,
    one_more_centimetre,
    travel,
    vented_twin,
    what_helped,
)
from calveth.core.year.result import is_winter
from calveth.core.year.run import run_year
from calveth.core.year.sweeps import OPEN_SHARES, entrance_of, swept_cases, swept_years
from calveth.texts.year import (
    INPUTS,
    WORDS,
    centimetre_sentences,
    day_words,
    dry_sentences,
    helped_sentences,
    hot_sentence,
    hour_words,
    larder_sentence,
    nectar_sentence,
    plan_sentences,
    source_sentence,
    width_sentences,
    write,
    write_band,
)
from tests.year.cases import PROJECT, case_of, year_of

DRAWS = 10


def setUpModule() -> None:
    global BANDS  # noqa: PLW0603
    keys = ("polystyrene", "composite", "plain-boards")
    BANDS = dict(zip(keys, year_bands([case_of(k) for k in keys], DRAWS), strict=True))


BANDS: dict[str, YearBands] = {}


class Figures(unittest.TestCase):
    def test_honey_is_what_the_heat_of_the_bees_takes(self) -> None:
        """12.7 MJ a kilogram, and what brood and flight burn outside on top."""
        run = year_of("composite")
        inside = float(run.column("heat_w").sum()) * 3600 / 12.7e6
        p = LIKELY
        outside = (1 - p.activity_share) * float(run.bees.activity_w.sum()) * 3600 / 12.7e6
        found = year_figures(run)
        self.assertAlmostEqual(found.year_honey_kg, inside + outside, places=6)
        self.assertAlmostEqual(found.year_honey_kg, float(honey_by_day(run).sum()), places=9)

    def test_the_year_burns_what_the_months_say_but_for_sun_and_hours(self) -> None:
        """The steady months are a sound instant answer: within 8 % of the honey of the winter."""
        from calveth.core.assess.result import assess_months

        for key in ("polystyrene", "composite", "timber", "plain-boards"):
            with self.subTest(key=key):
                months = assess_months(case_of(key)).winter_honey_kg
                hours = year_figures(year_of(key)).winter_honey_kg
                self.assertLess(abs(hours / months - 1), 0.08)

    def test_the_larder_runs_down_to_its_reserve_and_is_empty_when_it_is(self) -> None:
        run = year_of("composite")
        days, left = larder_course(run)
        self.assertEqual(days.size, int(is_winter(PROJECT.place).sum()))
        self.assertTrue(bool((np.diff(left) < 0).all()))
        found = year_figures(run)
        self.assertAlmostEqual(found.reserve_kg, float(left[-1]))
        self.assertAlmostEqual(18.0 - found.winter_honey_kg, found.reserve_kg, places=6)
        self.assertTrue(np.isnan(found.empty_day))
        poor = replace(run.case, colony=replace(run.case.colony, stores_kg=5.0))
        hungry = year_figures(replace(run, case=poor))
        gone = int(np.flatnonzero(days == int(hungry.empty_day))[0])
        burnt = honey_by_day(run)[days]
        self.assertGreater(float(burnt[: gone + 1].sum()), 5.0)
        self.assertLessEqual(float(burnt[:gone].sum()), 5.0)

    def test_drying_a_kilogram_of_water_takes_air_and_heat(self) -> None:
        """By hand: 1 kg/day at 12 g/kg is 0.96 g/s of air, 0.8 L/s; 2.45 MJ/kg are 28 W."""
        run = year_of("composite")
        need = nectar_need(run)
        self.assertAlmostEqual(1000 * need.air_m3_s, 0.80, delta=0.01)
        self.assertAlmostEqual(need.heat_w, 28.4, delta=0.3)
        self.assertGreater(float(run.fan_limit_m3_s.min()), 1e-4)
        more = nectar_need(run, 20.0)
        self.assertGreaterEqual(more.bound_days, need.bound_days)
        self.assertGreater(more.bound_days, 30)
        self.assertIn("28 W", nectar_sentence(run))

    def test_wet_is_where_the_surface_is_below_the_dew_point(self) -> None:
        run = year_of("plain-boards")
        margin, film = margin_k(run)[0], run.column("lid_middle_kg")
        grows = np.diff(film) > 1e-6
        # A board that has bound all it can gives to its film too, a little above the dew point.
        self.assertLess(float(np.quantile(margin[1:][grows], 0.99)), 0.6)
        # Under snow the lid is warmer; boards are soaked either way, foam is not.
        foam = year_of("polystyrene")
        bare = replace(foam.case.place, first_snow_week=0, last_snow_week=0)
        without = year_figures(run_year(replace(foam.case, place=bare))).lid_wet_nights
        self.assertGreater(without, 100)
        self.assertLess(year_figures(foam).lid_wet_nights, 0.8 * without)

    def test_a_place_without_a_winter_has_no_winter_figures(self) -> None:
        place = next(s.place for s in shipped_places() if s.id == "tamoru")
        case = replace(case_of("composite"), place=place, colony=curves_for(place, "normal"))
        found = year_figures(run_year(case))
        self.assertLess(found.winter_honey_kg, 0.5)
        self.assertEqual(found.rim_wet_nights, 0)

    def test_each_figure_and_each_input_has_its_words(self) -> None:
        self.assertEqual(tuple(WORDS), NAMES)
        self.assertEqual(set(NAMES), {f.name for f in fields(YearFigures)})
        self.assertEqual(set(INPUTS), {f.name for f in fields(Parameters)})


class Ranges(unittest.TestCase):
    def test_draws_do_not_depend_on_company_order_or_threads(self) -> None:
        alone = year_bands([case_of("composite")], 4, threads=1)[0]
        beside = year_bands([case_of("plain-boards"), case_of("composite")], 4, threads=2)[1]
        self.assertEqual(alone.values.tobytes(), beside.values.tobytes())
        for name in NAMES:
            one, two = (getattr(b.likely, name) for b in (alone, beside))
            self.assertTrue(one == two or (np.isnan(one) and np.isnan(two)), name)

    def test_a_band_holds_its_likely_figure_and_eight_of_ten_draws(self) -> None:
        row = BANDS["polystyrene"]
        low, high = row.band("winter_honey_kg")
        self.assertLessEqual(low, row.likely.winter_honey_kg)
        self.assertGreaterEqual(high, row.likely.winter_honey_kg)
        inside = np.mean((row.of("winter_honey_kg") >= low) & (row.of("winter_honey_kg") <= high))
        self.assertGreaterEqual(float(inside), 0.75)
        self.assertGreater(high - low, 0.5)
        none = year_bands([case_of("composite")], 0)[0]
        self.assertEqual(none.band("winter_honey_kg"), (none.likely.winter_honey_kg,) * 2)
        self.assertEqual(none.comes_from("winter_honey_kg"), [])

    def test_what_a_band_comes_from_is_the_rank_correlation_of_scipy(self) -> None:
        """On many made figures that follow one input and noise."""
        made = year_bands([case_of("composite")], 0)[0]
        from calveth.core.parameters import draws

        given = draws(60, 3)
        values = np.zeros((60, len(NAMES)))
        noise = np.random.default_rng(1).normal(0, 0.05, 60)
        values[:, 0] = [p.bees_factor for p in given] + noise
        row = replace(made, values=values, parameters=given)
        (name, size), *rest = row.comes_from("winter_honey_kg")
        self.assertEqual(name, "bees_factor")
        wanted = spearmanr([p.bees_factor for p in given], values[:, 0]).statistic
        self.assertAlmostEqual(size, float(wanted))
        self.assertTrue(all(abs(v) < abs(size) for _, v in rest))
        self.assertIn("the mass of your bees", source_sentence(row, "winter_honey_kg"))

    def test_refusals_and_calling_off(self) -> None:
        for count in (-1, 5000):
            with self.assertRaisesRegex(DomainError, "draws"):
                year_bands([case_of("composite")], count)

        def stop(_: float) -> None:
            raise CancelledError("called off")

        with self.assertRaises(CancelledError):
            year_bands([case_of("composite")], 2, stop)


class Practice(unittest.TestCase):
    """Common practice, no source, with the size the program finds beside it."""

    def test_insulated_and_sealed_burns_less_than_boards(self) -> None:
        share = less_in(BANDS["composite"], BANDS["plain-boards"], "winter_honey_kg")
        self.assertEqual(share, 1.0)
        ratio = BANDS["composite"].likely.winter_honey_kg / (
            BANDS["plain-boards"].likely.winter_honey_kg
        )
        self.assertTrue(0.75 < ratio < 0.92, ratio)  # found: a sixth less

    def test_boards_drip_above_the_cluster_and_a_sandwich_does_not(self) -> None:
        self.assertGreater(BANDS["plain-boards"].band("lid_wet_nights")[0], 100)
        self.assertEqual(BANDS["composite"].band("lid_wet_nights"), (0.0, 0.0))

    def test_a_hole_above_costs_boards_little_and_dries_them_some(self) -> None:
        case = case_of("plain-boards")
        vented = year_bands([case.of(vented_twin(case.design))], 0)[0].likely
        shut = BANDS["plain-boards"].likely
        self.assertLess(vented.winter_honey_kg, 1.02 * shut.winter_honey_kg)
        self.assertLess(vented.dripped_kg, shut.dripped_kg)
        self.assertLess(vented.most_co2, shut.most_co2)

    def test_a_darker_lid_is_never_cooler_by_day(self) -> None:
        light = year_of("plain-boards", sun_factor=RANGES["sun_factor"][0])
        dark = year_of("plain-boards", sun_factor=RANGES["sun_factor"][1])
        warmer = dark.column("outer_lid_degc") - light.column("outer_lid_degc")
        # The dark one is bare sooner: while snow lies on the other it is the colder of the two.
        snow = light.column("snow_on_lid_kg_m2") + dark.column("snow_on_lid_kg_m2")
        warmer = warmer[snow == 0.0]
        # Nectar that waited dries in other hours, some of them at night.
        self.assertGreater(float(warmer.min()), -0.5)
        self.assertGreater(float(warmer.max()), 5.0)
        self.assertGreater(
            year_figures(dark).hottest_lid_degc, year_figures(light).hottest_lid_degc + 1.0
        )

    def test_more_fanning_never_warms_while_it_is_cooler_outside(self) -> None:
        weak, strong = (
            year_of(
                "composite",
                fanning_most_m3_s_kg=v,
                fanning_speed_m_s=RANGES["fanning_speed_m_s"][1],
            )
            for v in RANGES["fanning_most_m3_s_kg"]
        )
        nest = weak.column("nest_degc")
        hot = (nest > 35.0) & (weak.weather.temperature_degc < nest - 2)
        more = strong.column("nest_degc")[hot] - nest[hot]
        self.assertGreater(int(hot.sum()), 10)
        self.assertLess(float(np.quantile(more, 0.99)), 0.2)

    def test_a_thin_dark_metal_lid_overheats_first(self) -> None:
        case = case_of("plain-boards")
        catalogue = {m.id: m for m in shipped_materials()}
        metal = Layer(material="steel", thickness_m=0.001)
        dark = Layer(material="paint-dark", thickness_m=0.0002)
        shell = replace(case.design.shell, lid=(dark, metal))
        design: Design = replace(case.design, shell=shell)
        table = {**case.materials, **{k: catalogue[k] for k in ("steel", "paint-dark")}}
        hot = year_figures(run_year(replace(case, design=design, materials=table)))
        wood = BANDS["plain-boards"].likely
        self.assertGreater(hot.hottest_lid_degc, wood.hottest_lid_degc + 5.0)
        self.assertGreater(hot.hottest_nest_degc, wood.hottest_nest_degc)

    def test_blocks_swing_less_than_boards_through_a_tropical_day(self) -> None:
        place = next(s.place for s in shipped_places() if s.id == "tamoru")
        swing = []
        for key in ("aircrete", "plain-boards"):
            case = replace(case_of(key), place=place, colony=curves_for(place, "normal"))
            lid = run_year(case).column("upper_wall_degc").reshape(365, 24)
            swing.append(float((lid.max(axis=1) - lid.min(axis=1)).mean()))
        self.assertLess(swing[0], 0.7 * swing[1])

    def test_a_dry_winter_room_leaves_less_to_drink(self) -> None:
        """Below 15 % at 5 °C practitioners find nothing to drink: hardly any new water settles.

        In January and the first half of February, before there is much brood.
        """
        settled = []
        for humid in (0.10, 0.8):
            room = WinterRoom(temperature_degc=5.0, relative_humidity=humid)
            case = case_of("plain-boards")
            run = run_year(replace(case, place=replace(case.place, room=room)))
            settled.append(float(run.column("drained_kg")[14 * 24 : 45 * 24].sum()))
        # What drains is what the boards of the floor neither drink nor hold.
        self.assertLess(settled[0], 0.02)
        self.assertGreater(settled[1], 0.08)


class Questions(unittest.TestCase):
    def test_a_centimetre_of_the_insulation_brings_most_and_is_what_two_years_say(self) -> None:
        case = case_of("composite")
        found = one_more_centimetre(case, honey_price_eur_kg=8.0, years_of_use=10.0, draws=2)
        self.assertEqual([c.saved_kg for c in found], sorted(c.saved_kg for c in found)[::-1])
        best = found[0]
        layer = case.design.shell.stack(best.face)[best.layer]
        table = case.materials
        self.assertLess(table[layer.material].conductivity_w_mk, 0.06)
        self.assertGreater(best.saved_kg, 0.0)
        stack = list(case.design.shell.stack(best.face))
        stack[best.layer] = replace(layer, thickness_m=layer.thickness_m + 0.01)
        thicker = replace(
            case.design, shell=replace(case.design.shell, **{best.face: tuple(stack)})
        )
        before, after = (year_figures(run_year(c)) for c in (case, case.of(thicker)))
        self.assertAlmostEqual(
            before.winter_honey_kg - after.winter_honey_kg, best.saved_kg, places=9
        )
        self.assertEqual(best.pays, best.saved_kg * 80.0 > best.cost_eur)
        words = centimetre_sentences(case.design, dict(table), found)
        self.assertLessEqual(len(words), len(found))
        self.assertIn("pay", words[0])
        self.assertIn("save less than 0.01 kg", words[-1])

    def test_a_wider_entrance_lets_more_air_in(self) -> None:
        found = swept_years(swept_cases(case_of("plain-boards"), "opening"))[
            :: len(OPEN_SHARES) - 1
        ]
        self.assertGreater(found[0].bands.likely.most_co2, found[1].bands.likely.most_co2)
        self.assertIn("10 % open", width_sentences(found)[0])
        bare = replace(case_of("composite").design, openings=())
        self.assertEqual(entrance_of(bare), "")
        with self.assertRaisesRegex(DomainError, "entrance"):
            swept_cases(case_of("composite").of(bare), "opening")

    def test_a_remedy_of_the_months_helps_through_the_year(self) -> None:
        from calveth.core.advice.remedies import remedies
        from calveth.core.assess.result import assess_months

        case = case_of("plain-boards")
        catalogue = {m.id: m for m in shipped_materials()}
        tried = remedies(assess_months(case), catalogue)[:1]
        (helped,) = what_helped(case, tried, draws=4)
        self.assertLess(helped.after.likely.lid_wet_nights, helped.before.likely.lid_wet_nights)
        self.assertGreaterEqual(helped.drier_of_ten, 7)
        (said,) = helped_sentences([helped])
        self.assertIn("Wet above the cluster", said)
        self.assertNotIn("Through the year it", said)
        worse = replace(helped, before=helped.after, after=helped.before)
        self.assertIn("wetter with it", helped_sentences([worse])[0])
        self.assertEqual(what_helped(case, []), [])

    def test_the_feed_table_in_the_docs_is_that_of_the_code(self) -> None:
        """One place of it, as likely; the rest is made by the same command."""
        from calveth.core.assess.solved_shells import solved_case

        path = Path(__file__).resolve().parents[2] / "docs" / "winter-feed-table.csv"
        with path.open(encoding="utf-8", newline="") as file:
            rows = [r for r in csv.DictReader(file) if r["place"].startswith("Skerrel")]
        self.assertEqual(len(rows), 18)
        place = next(s.place for s in shipped_places() if s.id == "skerrel")
        case = solved_case(case_of("composite"), spots=False)[0]
        for cell in feed_table([case], [place], ("weak", "strong"), draws=0):
            top = "vented" if cell.vented else "sealed"
            (told,) = (
                r
                for r in rows
                if (r["hive"], r["top"], r["colony"]) == (cell.hive, top, cell.strength)
            )
            self.assertAlmostEqual(float(told["honey_kg"]), cell.likely_kg, delta=0.02)
            self.assertGreaterEqual(float(told["honey_kg_high"]), float(told["honey_kg"]))

    def test_travel_and_feed_table_are_the_same_years(self) -> None:
        places = [s.place for s in shipped_places() if s.id in ("skerrel", "norrvatn")]
        case = case_of("composite")
        (row,) = travel([case], places)
        cold = next(c for c in row if c.case.place.name.startswith("Norrvatn"))
        mild = next(c for c in row if c.case.place.name.startswith("Skerrel"))
        self.assertGreater(cold.likely.winter_honey_kg, mild.likely.winter_honey_kg)
        cells = feed_table([case], [cold.case.place], ("normal",), draws=2)
        self.assertEqual([c.vented for c in cells], [False, True])
        self.assertEqual(cells[0].likely_kg, cold.likely.winter_honey_kg)
        self.assertLessEqual(cells[0].low_kg, cells[0].likely_kg)
        self.assertGreaterEqual(cells[1].likely_kg, cells[0].likely_kg)


class Travel(unittest.TestCase):
    def test_acts_of_a_plan_go_along(self) -> None:
        """In the south the quilt lies through July: left with its dates it lay off all winter."""
        south = next(s.place for s in shipped_places() if s.id == "whare-downs")
        case = estimated_case(PROJECT, PROJECT.design("quilt"))
        there = travel([case], [south])[0][0]
        plan = there.case.design.seasons
        self.assertTrue(plan.on(195).quilt)
        self.assertFalse(plan.on(15).quilt)
        left = replace(there.case, design=case.design)
        wet = year_figures(run_year(left)).lid_wet_nights
        self.assertLess(there.likely.lid_wet_nights, 0.2 * wet)


class Words(unittest.TestCase):
    def test_what_is_said_follows_the_figures(self) -> None:
        composite, boards = BANDS["composite"], BANDS["plain-boards"]
        dry, wet = dry_sentences([composite, boards])
        self.assertIn("stays dry above the cluster all winter", dry)
        self.assertIn("gets wet above the cluster", wet)
        days = round(boards.likely.snow_days)
        self.assertGreater(days, 20)
        self.assertIn(f"On {days} of its winter days snow lies on the lid", wet)
        unsure = replace(composite, values=composite.values.copy())
        unsure.values[:, NAMES.index("lid_wet_nights")] = np.linspace(0, 90, DRAWS)
        self.assertIn("cannot be told", dry_sentences([unsure])[0])
        self.assertIn("Leave ", larder_sentence(boards))
        self.assertIn(
            write("hottest_nest_degc", boards.likely.hottest_nest_degc), hot_sentence(boards)
        )
        poor: HiveCase = replace(boards.case, colony=replace(boards.case.colony, stores_kg=3.0))
        hungry = replace(boards, case=poor, likely=replace(boards.likely, empty_day=20.0))
        self.assertIn("empty on 21 January", larder_sentence(hungry))

    def test_dates_and_bands_are_written(self) -> None:
        self.assertEqual(day_words(364), "31 December")
        self.assertEqual(hour_words(24 * 59), "1 March, 0:00")
        self.assertEqual(write("empty_day", float("nan")), "never")
        self.assertEqual(write("winter_co2", float("nan")), "no winter here")
        self.assertRegex(
            write_band(BANDS["composite"], "winter_honey_kg"),
            r"^\d+\.\d kg \(\d+\.\d to \d+\.\d\)$",
        )

    def test_the_acts_of_a_plan_are_dated(self) -> None:
        design = PROJECT.design("quilt")
        settings = tuple((p.from_day - 1, p.setting) for p in design.seasons.periods)
        said = plan_sentences(design, settings)
        self.assertTrue(said)
        plain = PROJECT.design("composite")
        self.assertEqual(plan_sentences(plain, ()), ["No plan: the hive stays the same all year."])


class NoAnswer(unittest.TestCase):
    def test_bees_that_would_suffocate_are_said_and_harm_no_other(self) -> None:
        case = case_of("plain-boards")
        shut = case.of(
            replace(
                case.design,
                joints="filled",
                openings=tuple(replace(o, free_share=0.0) for o in case.design.openings),
            )
        )
        with self.assertRaisesRegex(NotBalancedError, "suffocate"):
            run_year(shut)
        bad, good = year_bands([shut, case], 1)
        self.assertIn("suffocate", bad.trouble)
        self.assertTrue(np.isnan(bad.likely.winter_honey_kg))
        self.assertEqual(good.trouble, "")
        said = dry_sentences([bad, good])
        self.assertIn("suffocate", said[0])
        self.assertIn("gets wet", said[1])
        self.assertIn("No year", larder_sentence(bad))
        self.assertIn("No year", hot_sentence(bad))
        self.assertEqual(write_band(bad, "winter_honey_kg"), "no answer")
        self.assertEqual(less_in(bad, good, "winter_honey_kg"), 0.5)


if __name__ == "__main__":
    unittest.main()
