"""Bees and honey: the chemistry closes, the estimates keep their sense."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from calveth.catalogue.shipped import demo_project
from calveth.core import constants as c
from calveth.core.airflow.kernel import PART_AREA
from calveth.core.case import estimated_case
from calveth.core.climate.air import saturation_pressure_pa
from calveth.core.colony.colony import Colony, cluster_radius_m, colony_at, honey_ledger
from calveth.core.constants import all_constants
from calveth.core.errors import DomainError
from calveth.core.nest import kernel_arrays
from calveth.core.nest.balance import FloatArray, Outside
from calveth.core.nest.kernel_arrays import (
    BEE_COLUMNS,
    BEE_COOL,
    BEE_COOL_P,
    BEE_COOL_T,
    BEE_FAN,
    BEE_FAN_C,
    BEE_FAN_P,
    BEE_FAN_T,
    BEE_HEAT,
    BEE_HEAT_BASE,
    BEE_HEAT_P,
    BEE_HEAT_T,
    BEE_NECTAR,
    BEE_NECTAR_P,
    BEE_NECTAR_T,
    Hive,
)
from calveth.core.nest.kernel_bees import ask_bees
from calveth.core.nest.lanes import packed
from calveth.core.nest.network import hive_model
from calveth.core.parameters import LIKELY

COLONY = demo_project().colony
PROJECT = demo_project()


def any_lane(colony: Colony, month: int, area_m2: float = 1e-3) -> tuple[Hive, FloatArray]:
    """Return a hive with one opening of an area, and the bees of a month in it."""
    case = replace(estimated_case(PROJECT, PROJECT.designs[0]), colony=colony, parameters=LIKELY)
    model = hive_model(case)
    bees = colony_at(colony, np.array([month]))
    out = Outside(
        temperature_degc=np.array([20.0]),
        vapour_pressure_pa=np.array([1200.0]),
        wind_m_s=np.zeros(1),
        pressure_pa=101325.0,
        co2_mass_fraction=np.full(1, c.CO2_OUTSIDE_MASS_FRACTION.value),
    )
    hives, _, lanes = packed(model.terms, bees, out)
    one = {n: v if n == "path_share" else v[0] for n, v in hives._asdict().items()}
    parts = one["parts"].copy()
    parts[:, PART_AREA] = area_m2 / len(parts)
    return Hive(**{**one, "parts": parts}), lanes[0]


class Honey(unittest.TestCase):
    def setUp(self) -> None:
        self.one_kg = honey_ledger(np.array([12.7e6]))  # a kilogram a second, in watts

    def test_a_kilogram(self) -> None:
        # 304 kcal/100 g and 17 % water, USDA FoodData Central; C6H12O6 + 6 O2.
        self.assertAlmostEqual(float(self.one_kg.honey_kg_s[0]), 1.0)
        self.assertAlmostEqual(float(self.one_kg.water_kg_s[0]), 0.67, places=2)
        self.assertAlmostEqual(float(self.one_kg.co2_kg_s[0]), 1.22, places=2)
        self.assertAlmostEqual(304 * 4184 * 10 / 12.7e6, 1.0, places=2)

    def test_carbon_closes(self) -> None:
        carbon_in = 0.83 * 6 * 12.011 / 180.156
        carbon_out = float(self.one_kg.co2_kg_s[0]) * 12.011 / 44.009
        self.assertAlmostEqual(carbon_in, carbon_out, places=3)

    def test_hydrogen_closes(self) -> None:
        hydrogen_in = 0.83 * 12 * 1.008 / 180.156 + 0.17 * 2 * 1.008 / 18.015
        hydrogen_out = float(self.one_kg.water_kg_s[0]) * 2 * 1.008 / 18.015
        self.assertAlmostEqual(hydrogen_in, hydrogen_out, places=3)

    def test_mass_closes(self) -> None:
        taken = 1.0 + float(self.one_kg.oxygen_kg_s[0])
        given = float(self.one_kg.water_kg_s[0] + self.one_kg.co2_kg_s[0])
        self.assertAlmostEqual(taken, given, places=3)

    def test_part_of_the_heat_leaves_as_vapour(self) -> None:
        whole = float(self.one_kg.latent_w[0] + self.one_kg.dry_heat_w[0])
        self.assertAlmostEqual(whole, 12.7e6)
        self.assertAlmostEqual(float(self.one_kg.latent_w[0]), 0.668 * 2.45e6, delta=1e4)


class Cluster(unittest.TestCase):
    def heat_w(self, nest_degc: float, month: int = 0) -> float:
        """The heat of the bees in a nest held at a temperature, as the balance has it."""
        hive, lane = any_lane(COLONY, month)
        state = np.array([nest_degc] * 3 + [600.0] * 3 + [0.005] * 3 + [0.0])
        bees = np.zeros(BEE_COLUMNS)
        ask_bees(hive, lane, state, bees)
        return float(bees[BEE_HEAT])

    def test_colder_nest_more_heat(self) -> None:
        heat = [self.heat_w(t) for t in (-10.0, 0.0, 10.0)]
        self.assertTrue(np.all(np.diff(heat) < 0))

    def given_w(self, colony: Colony, month: int, degc: float, base: float | None = None) -> float:
        """The heat of the bees less what fanning costs, in a nest that is dry and has fresh air.

        The base is as warm as the nest where nothing else is said.
        """
        hive, lane = any_lane(colony, month)
        below = degc if base is None else base
        state = np.array([below, degc, degc] + [600.0] * 3 + [0.0005] * 3 + [0.0])
        bees = np.zeros(BEE_COLUMNS)
        ask_bees(hive, lane, state, bees)
        return float(bees[BEE_HEAT]) - c.FANNING_COST.value * float(bees[BEE_FAN])

    def test_bees_at_rest_give_heat_by_the_warmth_of_their_bodies(self) -> None:
        """A cluster with a mantle of 12 and a core of 21 °C: 12 + 0.6·9 = 17.4 °C whatever the air.

        1.75 W/kg at 15 °C and twice as much every 10 K (rule of physiology). At 21 °C half of them
        have left the cluster for the combs: 19.2 °C; at 32 °C all, and they sit where it is 26 °C,
        or as cool as it is in the base. By hand.
        """
        cold = replace(COLONY, brood_share=(0.0,) * 12, cluster_conductance_w_k_kg23=0.05)
        kg = COLONY.mass_kg[0]
        for degc, base, body in (
            (8.0, 5.0, 17.4),
            (21.0, 15.0, 19.2),
            (32.0, 20.0, 26.0),
            (32.0, 29.0, 29.0),
            (32.0, 34.0, 32.0),
        ):
            with self.subTest(degc=degc, base=base):
                expected = 1.75 * kg * 2 ** ((body - 15.0) / 10.0)
                self.assertAlmostEqual(self.given_w(cold, 0, degc, base), expected, places=9)

    def test_over_brood_a_kelvin_costs_more(self) -> None:
        """With full brood g0·m^(2/3)·(1 + 3)·(34.5 - air), by hand; with half a core of 27.75 °C.

        1 + 1.5 times is half.
        """
        full = replace(COLONY, brood_share=(1.0,) * 12, rest_heat_w_kg=0.2)
        g0 = 0.27 * COLONY.mass_kg[0] ** (2 / 3)
        for degc in (5.0, 21.0, 32.0):
            with self.subTest(degc=degc):
                expected = g0 * 4.0 * (34.5 - degc)
                self.assertAlmostEqual(self.given_w(full, 0, degc), expected, places=9)
        half = replace(full, brood_share=(0.5,) * 12)
        self.assertAlmostEqual(self.given_w(half, 0, 21.0), g0 * 2.5 * 6.75, places=9)

    def test_a_warmer_nest_never_asks_for_more(self) -> None:
        """What keeps brood warm falls with every kelvin of the nest; with rest it rises by 5 %.

        A nest that asks for more the warmer it is tips from one state to another where it does so
        faster than the hive loses heat, and burns more the better it is insulated.
        """
        degc = np.arange(5.0, 34.5, 0.5)
        for brood in (0.2, 0.5, 0.8, 1.0):
            keeping = replace(COLONY, brood_share=(brood,) * 12, rest_heat_w_kg=0.2)
            cool = degc[degc < 18.0 + 13.5 * brood]
            heat = np.array([self.given_w(keeping, 5, t) for t in cool])
            self.assertTrue(np.all(np.diff(heat) < 0.0), brood)
        full = replace(COLONY, brood_share=(1.0,) * 12)
        heat = np.array([self.given_w(full, 5, t, 20.0) for t in degc])
        self.assertLess(float((heat / np.minimum.accumulate(heat)).max()), 1.05)

    def test_bees_on_brood_rest_at_its_warmth(self) -> None:
        """Full brood in a nest of 32 °C: seven tenths at 34.5 °C, the others at 26 °C, by hand."""
        full = replace(COLONY, brood_share=(1.0,) * 12, cluster_conductance_w_k_kg23=0.05)
        at_15 = 1.75 * COLONY.mass_kg[0]
        expected = at_15 * (0.7 * 2**1.95 + 0.3 * 2**1.1)
        self.assertAlmostEqual(self.given_w(full, 0, 32.0, 20.0), expected, places=9)

    def test_with_half_the_brood_half_as_many_sit_at_its_warmth(self) -> None:
        """Brood is kept at 34.5 °C however little of it there is; 0.35 of the bees, by hand."""
        half = replace(COLONY, brood_share=(0.5,) * 12, cluster_conductance_w_k_kg23=0.05)
        expected = 1.75 * COLONY.mass_kg[0] * (0.35 * 2**1.95 + 0.65 * 2**1.1)
        self.assertAlmostEqual(self.given_w(half, 0, 32.0, 20.0), expected, places=9)

    def test_bees_that_hang_out_warm_nobody(self) -> None:
        """At 38.5 °C half of them have left; the others sit at the 30 °C of the base, by hand."""
        broodless = replace(COLONY, brood_share=(0.0,) * 12)
        expected = 0.5 * 1.75 * COLONY.mass_kg[0] * 2**1.5
        self.assertAlmostEqual(self.given_w(broodless, 0, 38.5, 30.0), expected, places=9)

    def test_fanning_for_damp_grows_as_by_finite_steps(self) -> None:
        """With its heat, half way between dry and damp at the brood."""
        hive, lane = any_lane(COLONY, 6, area_m2=0.02)
        pascal = 0.45 * float(saturation_pressure_pa(34.5))
        out = []
        for step in (0.0, 1e-3):
            state = np.array([30.0] * 3 + [pascal + step] * 3 + [0.0005] * 3 + [0.0])
            bees = np.zeros(BEE_COLUMNS)
            ask_bees(hive, lane, state, bees)
            out.append(bees)
        for value, by_p in ((BEE_FAN, BEE_FAN_P), (BEE_HEAT, BEE_HEAT_P)):
            by_step = float(out[1][value] - out[0][value]) / 1e-3
            self.assertGreater(by_step, 0.0)
            self.assertAlmostEqual(float(out[0][by_p]) / by_step, 1.0, places=4)

    def test_heat_grows_with_the_base_as_by_finite_steps(self) -> None:
        """Where idle bees sit as warm as the base is, and where they do not."""
        hive, lane = any_lane(replace(COLONY, brood_share=(0.3,) * 12), 6)
        for base, grows in ((29.0, True), (20.0, False)):
            out = []
            for step in (0.0, 1e-5):
                state = np.array([base + step, 33.0, 33.0] + [900.0] * 3 + [0.005] * 3 + [0.0])
                bees = np.zeros(BEE_COLUMNS)
                ask_bees(hive, lane, state, bees)
                out.append(bees)
            by_step = (out[1][BEE_HEAT] - out[0][BEE_HEAT]) / 1e-5
            self.assertEqual(by_step > 0.01, grows)
            self.assertAlmostEqual(float(out[0][BEE_HEAT_BASE]), float(by_step), places=4)

    def test_at_the_frost_a_cluster_gives_what_was_measured(self) -> None:
        """4 to 6 W a kilogram near 0 °C (Southwick 1985, from memory) with the air of its nest."""
        for kg in (1.0, 1.5, 2.0):
            colony = replace(COLONY, mass_kg=(kg,) * 12, brood_share=(0.0,) * 12)
            self.assertTrue(4.0 < self.given_w(colony, 0, 0.0) / kg < 6.0, kg)

    def test_broodless_bees_air_the_nest_earlier(self) -> None:
        """Half of what they can at 35 °C with full brood, at 26 °C without: 9 K earlier."""
        fans = []
        for brood, degc in ((1.0, 35.0), (0.0, 26.0), (0.5, 30.5)):
            colony = replace(
                COLONY, brood_share=(brood,) * 12, nectar_kg_day=(0.0,) * 12, mass_kg=(2.0,) * 12
            )
            hive, lane = any_lane(colony, 6, area_m2=0.2)
            lane[kernel_arrays.FANNING] = 0.0
            state = np.array([degc] * 3 + [600.0] * 3 + [0.0005] * 3 + [0.0])
            bees = np.zeros(BEE_COLUMNS)
            ask_bees(hive, lane, state, bees)
            fans.append(float(bees[BEE_FAN]))
        np.testing.assert_allclose(fans, [0.5 * 1e-3 * 2.0] * 3, rtol=1e-3)

    def test_damp_at_the_brood_is_fanned_away(self) -> None:
        """Nothing at 35 % of saturation at 34.5 °C, all they can at 55 %, half in the middle."""
        saturation = float(saturation_pressure_pa(34.5))
        for brood in (1.0, 0.4, 0.0):
            colony = replace(
                COLONY, brood_share=(brood,) * 12, nectar_kg_day=(0.0,) * 12, mass_kg=(2.0,) * 12
            )
            for humidity, share in ((0.35, 0.0), (0.45, 0.5), (0.55, 1.0)):
                hive, lane = any_lane(colony, 6, area_m2=0.2)
                lane[kernel_arrays.FANNING] = 0.0
                state = np.array([19.0] * 3 + [humidity * saturation] * 3 + [0.0005] * 3 + [0.0])
                bees = np.zeros(BEE_COLUMNS)
                ask_bees(hive, lane, state, bees)
                with self.subTest(brood=brood, humidity=humidity):
                    self.assertAlmostEqual(float(bees[BEE_FAN]) / 2e-3, brood * share, delta=2e-3)

    def test_no_water_goes_into_saturated_air(self) -> None:
        hive, lane = any_lane(replace(COLONY, nectar_kg_day=(0.0,) * 12), 6)
        out = []
        for humidity in (0.0, 0.5, 1.0):
            pa = humidity * float(saturation_pressure_pa(38.0))
            state, bees = (
                np.array([38.0] * 3 + [pa] * 3 + [0.005] * 3 + [0.0]),
                np.zeros(BEE_COLUMNS),
            )
            ask_bees(hive, lane, state, bees)
            out.append(float(bees[BEE_COOL]))
        most = 8e-6 * COLONY.mass_kg[6]
        np.testing.assert_allclose(out, [2 * most, most, 0.0], atol=1e-12)

    def test_nectar_dries_below_four_fifths_and_takes_its_heat_from_the_air(self) -> None:
        """Half a kilogram of water a day: all of it at 75 %, none at 93 %; between less.

        Of the humidity at the combs, 0.6 of the way from 30 to 34.5 °C. At 91 % bees that dry 1.5
        kg a day each kilogram at most can dry 3/144 - 2/1728 of it, the smooth course a twelfth
        along. They give nothing for it: what dries cools the air, and that they answer.
        """
        flow = replace(COLONY, nectar_kg_day=(0.5,) * 12)
        dried, heat = [], []
        for colony in (flow, replace(COLONY, nectar_kg_day=(0.0,) * 12)):
            hive, lane = any_lane(colony, 6)
            for degc, humidity in ((30.0, 0.75), (30.0, 0.91), (30.0, 0.93), (38.0, 0.75)):
                comb = degc + 0.6 * max(34.5 - degc, 0.0)
                pa = humidity * float(saturation_pressure_pa(comb))
                state, bees = (
                    np.array([degc] * 3 + [pa] * 3 + [0.0005] * 3 + [0.0]),
                    np.zeros(BEE_COLUMNS),
                )
                ask_bees(hive, lane, state, bees)
                dried.append(86400 * float(bees[BEE_NECTAR]))
                heat.append(float(bees[BEE_HEAT]) - c.FANNING_COST.value * float(bees[BEE_FAN]))
        can = 1.5 * COLONY.mass_kg[6] * (3 / 144 - 2 / 1728)
        some = can / (1 + (can / 0.5) ** 8) ** 0.125
        np.testing.assert_allclose(dried[:4], [0.5, some, 0.0, 0.5], atol=1e-4)
        self.assertLess(some, 0.2)
        self.assertEqual(dried[4:], [0.0] * 4)
        more = np.array(heat[:4]) - heat[4:]
        np.testing.assert_allclose(more, 0.0, atol=1e-9)

    def test_what_drying_grows_by_is_that_of_finite_steps(self) -> None:
        """Water, heat and fanning by temperature and vapour pressure; much and little nectar."""
        for kg_day, degc, humidity in ((0.5, 30.0, 0.85), (6.0, 28.0, 0.9), (0.3, 34.8, 0.9)):
            hive, lane = any_lane(replace(COLONY, nectar_kg_day=(kg_day,) * 12), 6, area_m2=4e-3)
            pa = humidity * float(saturation_pressure_pa(degc))

            def bees_at(
                t: float, p: float, hive: Hive = hive, lane: FloatArray = lane
            ) -> FloatArray:
                state, found = (
                    np.array([t] * 3 + [p] * 3 + [0.0005] * 3 + [0.0]),
                    np.zeros(BEE_COLUMNS),
                )
                ask_bees(hive, lane, state, found)
                return found

            at = bees_at(degc, pa)
            by_t = (bees_at(degc + 1e-4, pa) - bees_at(degc - 1e-4, pa)) / 2e-4
            by_p = (bees_at(degc, pa + 0.01) - bees_at(degc, pa - 0.01)) / 0.02
            for value, slope, steps in (
                (BEE_NECTAR, BEE_NECTAR_T, by_t),
                (BEE_NECTAR, BEE_NECTAR_P, by_p),
                (BEE_HEAT, BEE_HEAT_T, by_t),
                (BEE_HEAT, BEE_HEAT_P, by_p),
                (BEE_COOL, BEE_COOL_T, by_t),
                (BEE_FAN, BEE_FAN_T, by_t),
                (BEE_FAN, BEE_FAN_P, by_p),
            ):
                with self.subTest(kg_day=kg_day, value=value, slope=slope):
                    self.assertNotEqual(float(at[value]), 0.0)
                    near = 1e-5 * abs(float(steps[value])) + 1e-12
                    self.assertAlmostEqual(float(at[slope]), float(steps[value]), delta=near)

    def test_bees_in_the_cluster_dry_no_nectar(self) -> None:
        hive, lane = any_lane(replace(COLONY, nectar_kg_day=(0.5,) * 12), 6)
        state, bees = (
            np.array([8.0] * 3 + [500.0] * 3 + [0.0005] * 3 + [0.0]),
            np.zeros(BEE_COLUMNS),
        )
        ask_bees(hive, lane, state, bees)
        self.assertEqual(float(bees[BEE_NECTAR]), 0.0)

    def test_fanning_is_no_faster_than_the_opening_lets_through(self) -> None:
        """Through 1 cm² no more than half its area times 2 m/s, however hot it is."""
        for cm2, most in ((1.0, 1e-4), (20.0, 2e-3)):
            hive, lane = any_lane(COLONY, 6, area_m2=1e-4 * cm2)
            state = np.array([38.0] * 3 + [2000.0] * 3 + [0.005] * 3 + [0.0])
            bees = np.zeros(BEE_COLUMNS)
            ask_bees(hive, lane, state, bees)
            self.assertLessEqual(float(bees[BEE_FAN]), 1.0001 * most)
            self.assertGreater(float(bees[BEE_FAN]), 0.8 * most)

    def test_growth_of_what_bees_do_is_that_of_finite_steps(self) -> None:
        hive, lane = any_lane(COLONY, 6)
        for degc, co2 in ((12.0, 0.03), (16.0, 0.04), (34.9, 0.005), (36.0, 0.02), (42.5, 0.01)):
            out = []
            for dt, dc, dp in ((0, 0, 0), (1e-5, 0, 0), (0, 1e-7, 0), (0, 0, 1e-3)):
                state = np.array([degc + dt] * 3 + [900.0 + dp] * 3 + [co2 + dc] * 3 + [0.0])
                bees = np.zeros(BEE_COLUMNS)
                ask_bees(hive, lane, state, bees)
                out.append(bees)
            for value, by_t in (
                (BEE_HEAT, BEE_HEAT_T),
                (BEE_FAN, BEE_FAN_T),
                (BEE_COOL, BEE_COOL_T),
            ):
                step = (out[1][value] - out[0][value]) / 1e-5
                self.assertAlmostEqual(out[0][by_t], step, delta=1e-3 * abs(step) + 1e-9)
            step = (out[3][BEE_COOL] - out[0][BEE_COOL]) / 1e-3
            self.assertAlmostEqual(out[0][BEE_COOL_P], step, delta=1e-3 * abs(step) + 1e-13)
            step = (out[2][BEE_FAN] - out[0][BEE_FAN]) / 1e-7
            self.assertAlmostEqual(out[0][BEE_FAN_C], step, delta=1e-3 * abs(step) + 1e-7)

    def test_brood_is_kept_warm(self) -> None:
        bees = colony_at(COLONY, np.arange(12))
        self.assertAlmostEqual(float(bees.core_degc[0]), 21.0)
        self.assertAlmostEqual(float(bees.core_degc[5]), 34.5)

    def test_by_surface_not_by_mass(self) -> None:
        # Twice the bees lose 2^(2/3) times the heat.
        big = replace(COLONY, mass_kg=tuple(2 * m for m in COLONY.mass_kg))
        month = np.array([0])
        ratio = (
            colony_at(big, month).cluster_conductance_w_k
            / colony_at(COLONY, month).cluster_conductance_w_k
        )
        self.assertAlmostEqual(float(ratio[0]), 2 ** (2 / 3))

    def test_size_for_drawing(self) -> None:
        # 2 kg at 0.25 kg/L are 8 L: a ball of 25 cm.
        self.assertAlmostEqual(2 * cluster_radius_m(2.0), 0.248, places=3)

    def test_refusals(self) -> None:
        cases: tuple[tuple[dict[str, object], str], ...] = (
            ({"mass_kg": (1.0,) * 11}, "a year has 12"),
            ({"mass_kg": (1.0,) * 11 + (-1.0,)}, "month 12"),
            ({"brood_share": (1.2,) + (0.0,) * 11}, "month 1"),
            ({"stores_kg": float("nan")}, "stores"),
            ({"rest_heat_w_kg": 0.0}, "rest heat"),
        )
        for change, part in cases:
            with self.subTest(change=change), self.assertRaises(DomainError) as caught:
                replace(COLONY, **change)  # type: ignore[arg-type]
            self.assertIn(part, str(caught.exception))


class Constants(unittest.TestCase):
    def test_each_has_source_and_certainty(self) -> None:
        for name, constant in all_constants().items():
            with self.subTest(name=name):
                self.assertTrue(constant.unit)
                self.assertGreater(len(constant.source), 5)

    def test_estimates_have_a_range_around_them(self) -> None:
        for name, constant in all_constants().items():
            if constant.certainty != "estimate":
                continue
            with self.subTest(name=name):
                assert constant.low is not None and constant.high is not None
                self.assertLess(constant.low, constant.value)
                self.assertGreater(constant.high, constant.value)


if __name__ == "__main__":
    unittest.main()
