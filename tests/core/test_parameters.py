"""Uncertain figures: one set a lane, paired draws, and lanes that do not harm each other."""

from __future__ import annotations

import unittest
from dataclasses import fields, replace
from unittest import mock

import numpy as np
from scipy import stats

from calveth.catalogue.shipped import demo_project
from calveth.core.assess.damp import DampYear, damp_year
from calveth.core.assess.result import MonthlyAssessment, assess_each, assess_months
from calveth.core.case import estimated_case
from calveth.core.errors import DomainError
from calveth.core.hive.design import Shell
from calveth.core.hive.season_plan import NO_PLAN
from calveth.core.nest import lanes, steady
from calveth.core.nest.kernel_solve import NO_REST
from calveth.core.nest.lanes import balance_lanes
from calveth.core.nest.steady import NotBalancedError
from calveth.core.parameters import LIKELY, RANGES, Parameters, draws
from tests.core.builders import TABLE, hole

PROJECT = demo_project()
CASE = replace(estimated_case(PROJECT, PROJECT.design("timber")), materials=TABLE)


class Draws(unittest.TestCase):
    def test_every_parameter_has_a_range_round_its_likely_value(self) -> None:
        self.assertEqual(set(RANGES), {f.name for f in fields(Parameters)})
        for name, (low, high) in RANGES.items():
            with self.subTest(name=name):
                self.assertLess(low, getattr(LIKELY, name))
                self.assertGreater(high, getattr(LIKELY, name))

    def test_draws_are_paired_and_fill_their_triangles(self) -> None:
        """Against the triangular distribution of SciPy; 400 stratified draws lie close to it."""
        made = draws(400, seed=7)
        self.assertEqual(made, draws(400, seed=7))
        self.assertNotEqual(made, draws(400, seed=8))
        low, high = RANGES["plume_share"]
        values = [p.plume_share for p in made]
        share = (LIKELY.plume_share - low) / (high - low)
        wanted = stats.triang(share, loc=low, scale=high - low)
        self.assertLess(stats.kstest(values, wanted.cdf).statistic, 0.01)
        leaks = np.log([p.leakage_factor for p in made])
        self.assertAlmostEqual(float(leaks.mean()), 0.0, delta=0.02)

    def test_refusals(self) -> None:
        with self.assertRaisesRegex(DomainError, "plume_share"):
            replace(LIKELY, plume_share=9.0)
        with self.assertRaisesRegex(DomainError, "draws"):
            draws(0, 1)


class Lanes(unittest.TestCase):
    def test_each_parameter_moves_the_balance_the_way_it_must(self) -> None:
        likely = assess_months(CASE)
        m = likely.months.balance

        def january(**changed: float) -> MonthlyAssessment:
            parameters = replace(LIKELY, **changed)
            return assess_months(replace(CASE, parameters=parameters))

        crown = float(m.vapour_pressure_pa[2, 0])
        more = january(plume_share=RANGES["plume_share"][1]).months.balance
        self.assertGreater(float(more.vapour_pressure_pa[2, 0]), crown)
        air = float(likely.months.exchange_m3_s[0])
        for name in ("leakage_factor", "wind_factor", "gust_factor"):
            with self.subTest(name=name):
                got = january(**{name: RANGES[name][1]})
                self.assertGreater(float(got.months.exchange_m3_s[0]), air)
        for name in ("cluster_factor", "core_offset_k", "shell_factor"):
            with self.subTest(name=name):
                got = january(**{name: RANGES[name][1]})
                self.assertGreater(got.winter_honey_kg, likely.winter_honey_kg)
        leaky = january(shell_factor=RANGES["shell_factor"][1])
        lid = leaky.months.balance.surface_degc[0, 0] - leaky.months.balance.temperature_degc[2, 0]
        was = m.surface_degc[0, 0] - m.temperature_degc[2, 0]
        self.assertLess(float(lid), float(was))
        level = january(mixing_nest_crown_w_k=RANGES["mixing_nest_crown_w_k"][1]).months.balance
        apart = abs(m.temperature_degc[2, 0] - m.temperature_degc[1, 0])
        self.assertLess(abs(level.temperature_degc[2, 0] - level.temperature_degc[1, 0]), apart)

    def test_water_in_quilt_and_wall_and_the_rack_follow_their_parameters(self) -> None:
        def damp(key: str, **changed: float) -> DampYear:
            case = replace(estimated_case(PROJECT, PROJECT.design(key)), materials=TABLE)
            parameters = replace(LIKELY, **changed)
            return damp_year(assess_months(replace(case, parameters=parameters)))

        quilt, wall = damp("quilt").quilt, damp("aircrete").rain
        assert quilt is not None and wall is not None
        deep = damp("quilt", quilt_capacity_kg_kg=RANGES["quilt_capacity_kg_kg"][1]).quilt
        still = damp("quilt", quilt_wash=0.0).quilt
        assert deep is not None and still is not None
        self.assertAlmostEqual(deep.capacity_kg / quilt.capacity_kg, 1.0 / 0.6)
        self.assertGreater(float(quilt.dried_kg.sum()), 0.0)
        self.assertEqual(float(still.dried_kg.sum()), 0.0)
        full = damp("aircrete", rain_fill=RANGES["rain_fill"][0]).rain
        dry = damp("aircrete", rain_drying=RANGES["rain_drying"][1]).rain
        assert full is not None and dry is not None
        self.assertLess(float(full.held_kg_m2.max()), float(wall.held_kg_m2.max()))
        self.assertLess(float(dry.held_kg_m2.sum()), float(wall.held_kg_m2.sum()))
        racked = replace(CASE.design.form, rack_m=0.05)  # type: ignore[arg-type]
        draughts = []
        for share in RANGES["slats_share"]:
            case = replace(
                CASE,
                design=replace(CASE.design, form=racked),
                parameters=replace(LIKELY, slats_share=share),
            )
            draughts.append(assess_months(case).months.openings(0)[0].draught_m_s)
        self.assertAlmostEqual(draughts[1] / draughts[0], 0.7 / 0.3)

    def test_who_sees_little_water_sees_a_smaller_margin(self) -> None:
        """Of the visible grams the margin is short by as much more vapour, and by nothing else."""
        few, many = (
            assess_months(replace(CASE, parameters=replace(LIKELY, visible_g_day=g))).months
            for g in (1.0, 4.0)
        )
        np.testing.assert_array_equal(few.margin_k, many.margin_k)
        there = few.model.terms.surface_area_m2[:, 0] > 0  # it has no window
        self.assertTrue(np.all(few.seen_margin_k[there] > few.margin_k[there]))
        self.assertTrue(np.all(many.seen_margin_k[there] > few.seen_margin_k[there]))

    def test_a_draw_in_a_batch_is_the_draw_alone(self) -> None:
        made = [replace(CASE, parameters=p) for p in draws(6, seed=3)]
        together = assess_each(made)
        for case, answer in zip(made, together, strict=True):
            assert isinstance(answer, MonthlyAssessment)
            alone = assess_months(case)
            self.assertAlmostEqual(answer.winter_honey_kg, alone.winter_honey_kg, places=6)
        honey = [a.winter_honey_kg for a in together if isinstance(a, MonthlyAssessment)]
        self.assertGreater(max(honey) - min(honey), 0.3)

    def test_air_that_comes_to_no_rest_is_told_of_its_lane(self) -> None:
        terms = assess_months(CASE).model.terms
        one = assess_months(CASE).months
        at = np.array([0, 6])

        def restless(*_: object) -> object:
            balance, status = balance_lanes(terms, one.bees.take(at), one.outside.take(at))
            status[1] = NO_REST
            return balance, status

        with mock.patch.object(lanes, "balance_lanes", restless):
            _, status = steady.solve_lanes(terms, one.bees.take(at), one.outside.take(at))
            self.assertEqual(status.tolist(), ["ok", "no rest"])
            with self.assertRaisesRegex(NotBalancedError, "“x”: its air comes to no rest"):
                steady.solve(terms, one.bees.take(at), one.outside.take(at), names=["x"])

    def test_a_hive_without_an_answer_harms_no_other(self) -> None:
        foil = tuple(replace(y, material="urethane-foil") for y in CASE.design.shell.walls)
        shut = replace(
            CASE.design,
            id="shut",
            name="shut",
            joints="filled",
            shell=Shell(walls=foil, lid=foil, floor=foil),
            openings=tuple(replace(o, free_share=0.0) for o in CASE.design.openings),
            seasons=NO_PLAN,
        )
        holes = replace(CASE.design, openings=(*CASE.design.openings, hole(0.4, name="third")))
        answers = assess_each([CASE, CASE.of(shut), CASE.of(holes), CASE])
        self.assertIs(type(answers[1]), NotBalancedError)
        self.assertIn("shut", str(answers[1]))
        for answer in (answers[0], answers[2], answers[3]):
            self.assertIsInstance(answer, MonthlyAssessment)
        one, two = answers[0], assess_months(CASE)
        assert isinstance(one, MonthlyAssessment)
        self.assertAlmostEqual(one.winter_honey_kg, two.winter_honey_kg, places=6)


if __name__ == "__main__":
    unittest.main()
