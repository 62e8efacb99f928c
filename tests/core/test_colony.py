"""Bees and honey: the chemistry closes, the estimates keep their sense."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from calveth.catalogue.shipped import demo_project
from calveth.core.colony.colony import cluster_radius_m, colony_at, honey_ledger
from calveth.core.constants import all_constants
from calveth.core.errors import DomainError

COLONY = demo_project().colony


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
    def test_colder_nest_more_heat(self) -> None:
        bees = colony_at(COLONY, np.zeros(3, dtype=int))
        heat = bees.metabolic_heat_w(np.array([-10.0, 0.0, 10.0]))
        self.assertTrue(np.all(np.diff(heat) < 0))

    def test_never_below_rest(self) -> None:
        bees = colony_at(COLONY, np.array([0]))
        self.assertAlmostEqual(
            float(bees.metabolic_heat_w(np.array([30.0]))[0]), 1.75 * COLONY.mass_kg[0]
        )

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
