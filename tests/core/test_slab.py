"""Films, air gaps and layers of EN ISO 6946; wood by the handbook formula."""

from __future__ import annotations

import unittest

import numpy as np

from calveth.catalogue.shipped import shipped_materials
from calveth.core.errors import DomainError
from calveth.core.heat.slab import (
    Direction,
    air_gap_resistance_m2k_w,
    cylinder_resistance_m2k_w,
    outer_film_m2k_w,
    plane_layers,
    radiative_coefficient_w_m2k,
    transmittance_w_m2k,
)
from calveth.core.materials import Layer

TABLE = {m.id: m for m in shipped_materials()}
# The table of dull gaps is held row by row in calveth.core.published.
DIRECTIONS: tuple[Direction, ...] = ("up", "horizontal", "down")


class AirGaps(unittest.TestCase):
    def test_low_emissivity(self) -> None:
        # EN ISO 6946 annex D by hand: 25 mm, wall, one side foil 0.05, other 0.9, at 10 °C:
        # hr = 5.148/(1/0.05 + 1/0.9 - 1) = 0.2560; ha = 1.25; R = 1/1.506 = 0.664.
        got = air_gap_resistance_m2k_w(0.025, "horizontal", 0.05, 0.9)
        self.assertAlmostEqual(got, 0.664, places=3)

    def test_foil_helps_most_downwards(self) -> None:
        gain = {
            d: air_gap_resistance_m2k_w(0.05, d, 0.1) / air_gap_resistance_m2k_w(0.05, d)
            for d in DIRECTIONS
        }
        self.assertGreater(gain["down"], gain["horizontal"])
        self.assertGreater(gain["horizontal"], gain["up"])
        self.assertGreater(gain["up"], 1)

    def test_a_gap_looks_at_its_neighbours(self) -> None:
        board = Layer(material="softwood", thickness_m=0.019)
        gap = Layer(material="air-gap", thickness_m=0.025)
        foil = Layer(material="foil", thickness_m=0.0001)
        plain = plane_layers((board, gap, board), TABLE, "horizontal").resistances_m2k_w[1]
        shiny = plane_layers((board, gap, foil), TABLE, "horizontal").resistances_m2k_w[1]
        self.assertAlmostEqual(plain, air_gap_resistance_m2k_w(0.025, "horizontal"))
        self.assertAlmostEqual(shiny, air_gap_resistance_m2k_w(0.025, "horizontal", 0.9, 0.1))

    def test_a_room_is_not_a_gap(self) -> None:
        with self.assertRaises(DomainError) as caught:
            air_gap_resistance_m2k_w(0.31, "up")
        self.assertIn("make it thinner", str(caught.exception))


class Films(unittest.TestCase):
    def test_radiative_coefficient(self) -> None:
        # EN ISO 6946, annex C, table of hr0: −10, 0, 10, 20, 30 °C (from memory).
        for t, expected in ((-10, 4.1), (0, 4.6), (10, 5.1), (20, 5.7), (30, 6.3)):
            with self.subTest(t=t):
                got = float(radiative_coefficient_w_m2k(float(t)))
                self.assertLess(abs(got - expected), 0.06)

    def test_outer_film_by_wind(self) -> None:
        # EN ISO 6946, annex C, table of Rse by wind (from memory): 1, 2, 3, 4, 5, 7, 10 m/s.
        for v, expected in (
            (1, 0.08),
            (2, 0.06),
            (3, 0.05),
            (4, 0.04),
            (5, 0.04),
            (7, 0.03),
            (10, 0.02),
        ):
            with self.subTest(v=v):
                self.assertLess(abs(float(outer_film_m2k_w(float(v), 10.0)) - expected), 0.0055)

    def test_wind_only_lowers_it(self) -> None:
        self.assertTrue(np.all(np.diff(outer_film_m2k_w(np.linspace(0, 20, 50), 0.0)) < 0))


class Layers(unittest.TestCase):
    def test_sandwich_by_hand(self) -> None:
        # EN ISO 6946, 6.5 by hand: 12 mm wood 0.13, 40 mm foam 0.034, 12 mm wood 0.13.
        stack = (
            Layer(material="softwood", thickness_m=0.012),
            Layer(material="xps", thickness_m=0.040),
            Layer(material="softwood", thickness_m=0.012),
        )
        resistances = plane_layers(stack, TABLE, "horizontal").resistances_m2k_w
        self.assertAlmostEqual(sum(resistances), 2 * 0.0923077 + 1.1764706, places=6)
        u = transmittance_w_m2k(resistances, "horizontal")
        self.assertAlmostEqual(u, 1 / (0.13 + 1.3610860 + 0.04), places=6)

    def test_plain_board(self) -> None:
        # 19 mm softwood, wall: 1/(0.13 + 0.1462 + 0.04) = 3.163 W/(m²·K).
        stack = (Layer(material="softwood", thickness_m=0.019),)
        layers = plane_layers(stack, TABLE, "horizontal")
        u = transmittance_w_m2k(layers.resistances_m2k_w, "horizontal")
        self.assertAlmostEqual(u, 3.163, places=3)

    def test_wood_handbook(self) -> None:
        # USDA Wood Handbook, eq. 4-7: λ = G·(0.1941 + 0.004064·M) + 0.01864; G 0.36; 0.106 at
        # 12 %, and in the catalogue at the 9 % wood has at 50 % humidity.
        expected = 0.36 * (0.1941 + 0.004064 * 9) + 0.01864
        self.assertAlmostEqual(expected, 0.1017, places=4)
        self.assertAlmostEqual(TABLE["light-softwood"].conductivity_w_mk, expected, places=3)

    def test_thin_cylinder_is_a_plate(self) -> None:
        got = cylinder_resistance_m2k_w(10.0, 10.001, 0.13)
        self.assertAlmostEqual(got, 0.001 / 0.13, places=6)


if __name__ == "__main__":
    unittest.main()
