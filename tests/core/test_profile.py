"""Vapour inside a face: the tight string of EN ISO 13788."""

from __future__ import annotations

import math
import unittest

import numpy as np

from calveth.catalogue.shipped import demo_project
from calveth.core.assess.readings import LID_MIDDLE
from calveth.core.assess.result import assess_months
from calveth.core.case import estimated_case
from calveth.core.climate.air import vapour_pressure_pa
from calveth.core.hive.design import Face
from calveth.core.materials import Layer
from calveth.core.moisture.profile import Profile, _tight_string, face_profile
from tests.core.builders import TABLE, layer

DELTA = 2.0e-10


def profile(
    stack: tuple[Layer, ...],
    inside: tuple[float, float] = (20.0, 0.5),
    outside: tuple[float, float] = (0.0, 0.8),
) -> Profile:
    return face_profile(
        stack,
        TABLE,
        "horizontal",
        inside_degc=inside[0],
        inside_pa=float(vapour_pressure_pa(*inside)),
        outside_degc=outside[0],
        outside_pa=float(vapour_pressure_pa(*outside)),
    )


class DryFaces(unittest.TestCase):
    def test_temperatures_by_hand(self) -> None:
        # EN ISO 6946: falls in proportion to the resistances 0.13 | 0.1462 | 0.04.
        p = profile((layer("softwood", 19),))
        whole = 0.13 + 0.019 / 0.13 + 0.04
        self.assertAlmostEqual(float(p.temperature_degc[0]), 20 - 20 * 0.13 / whole)
        self.assertAlmostEqual(float(p.temperature_degc[-1]), 20 * 0.04 / whole)

    def test_a_dry_face_has_a_straight_pressure(self) -> None:
        p = profile((layer("softwood", 19),), (20.0, 0.3), (5.0, 0.5))
        ends = p.vapour_pressure_pa[[0, -1]]
        straight = np.interp(p.vapour_depth_m, p.vapour_depth_m[[0, -1]], ends)
        np.testing.assert_allclose(p.vapour_pressure_pa, straight)
        self.assertEqual(float(p.condensing_g_m2_day.sum()), 0.0)

    def test_depths(self) -> None:
        stack = (layer("plywood", 9), layer("xps", 50), layer("softwood", 12))
        p = profile(stack)
        self.assertAlmostEqual(float(p.depth_m[-1]), 0.071)
        self.assertAlmostEqual(float(p.vapour_depth_m[-1]), 0.009 * 200 + 0.05 * 150 + 0.012 * 50)
        self.assertEqual(int(p.layer[0]), 2)
        self.assertEqual(int(p.layer[-2]), 0)


class RoundWalls(unittest.TestCase):
    def test_trunk_by_hand(self) -> None:
        # Fourier for a hollow cylinder: T falls with ln(r); films 0.13 inside, 0.04 outside.
        p = face_profile(
            (layer("tree-trunk", 150),),
            TABLE,
            "horizontal",
            inside_degc=5.0,
            inside_pa=700.0,
            outside_degc=-5.0,
            outside_pa=350.0,
            inner_radius_m=0.1,
        )
        lam = TABLE["tree-trunk"].conductivity_w_mk
        whole = 0.13 + 0.1 * math.log(2.5) / lam + 0.04 / 2.5
        for depth, t in zip(p.depth_m, p.temperature_degc, strict=True):
            with self.subTest(depth=depth):
                so_far = 0.13 + 0.1 * math.log(1 + depth / 0.1) / lam
                self.assertAlmostEqual(float(t), 5 - 10 * so_far / whole, places=9)
        mu = TABLE["tree-trunk"].vapour_resistance_factor
        self.assertAlmostEqual(float(p.vapour_depth_m[-1]), 0.1 * math.log(2.5) * mu, places=9)

    def test_a_wide_ring_is_a_plate(self) -> None:
        plate = profile((layer("softwood", 19),))
        ring = face_profile(
            (layer("softwood", 19),),
            TABLE,
            "horizontal",
            inside_degc=20.0,
            inside_pa=float(vapour_pressure_pa(20.0, 0.5)),
            outside_degc=0.0,
            outside_pa=float(vapour_pressure_pa(0.0, 0.8)),
            inner_radius_m=1e4,
        )
        np.testing.assert_allclose(ring.temperature_degc, plate.temperature_degc, atol=1e-4)


class WetFaces(unittest.TestCase):
    """Cork inside, plywood outside: the classic mistake, water behind the tight outer board."""

    def setUp(self) -> None:
        self.stack = (layer("plywood", 12), layer("cork", 60))
        self.p = profile(self.stack, (15.0, 0.8), (-5.0, 0.9))

    def test_water_gathers_at_the_interface(self) -> None:
        wet = np.flatnonzero(self.p.condensing_g_m2_day > 0)
        self.assertIn(0.060, self.p.depth_m[wet].round(9))

    def test_rate_by_hand(self) -> None:
        # EN ISO 13788, formula for one plane: g = δ0·((pi - pc)/sd,i - (pc - pe)/sd,e).
        p = self.p
        at = int(np.flatnonzero(np.isclose(p.depth_m, 0.060))[0])
        pc = float(p.saturation_pa[at])
        pi, pe = float(p.vapour_pressure_pa[0]), float(p.vapour_pressure_pa[-1])
        sd_i, sd_e = 0.06 * 10, 0.012 * 200
        by_hand = DELTA * ((pi - pc) / sd_i - (pc - pe) / sd_e) * 8.64e7
        # Other nodes in the cork may take a share; together they are what enters less what leaves.
        enters = DELTA * (p.vapour_pressure_pa[0] - p.vapour_pressure_pa[1]) / p.vapour_depth_m[1]
        leaves = DELTA * (pc - pe) / sd_e
        self.assertAlmostEqual(
            float(p.condensing_g_m2_day.sum()), float(enters - leaves) * 8.64e7, places=6
        )
        self.assertLess(abs(float(p.condensing_g_m2_day[at]) / by_hand - 1), 0.35)

    def test_pressure_stays_below_saturation(self) -> None:
        self.assertTrue(np.all(self.p.vapour_pressure_pa <= self.p.saturation_pa + 1e-9))

    def test_turned_round_it_stays_dry(self) -> None:
        p = profile(self.stack[::-1], (15.0, 0.8), (-5.0, 0.9))
        self.assertEqual(float(p.condensing_g_m2_day.sum()), 0.0)

    def test_tight_inside_dry_inside(self) -> None:
        covered = (*self.stack, layer("foil", 0.1))
        p = profile(covered, (15.0, 0.8), (-5.0, 0.9))
        self.assertEqual(float(p.condensing_g_m2_day.sum()), 0.0)

    def test_water_on_the_surface_does_not_enter(self) -> None:
        p = profile((layer("softwood", 19),), (10.0, 1.0), (-10.0, 0.9))
        self.assertAlmostEqual(float(p.vapour_pressure_pa[0]), float(p.saturation_pa[0]))


class TightString(unittest.TestCase):
    def test_lower_hull_against_brute_force(self) -> None:
        source = np.random.default_rng(4)
        for _ in range(50):
            x = np.sort(source.uniform(0, 10, 12))
            y = source.uniform(0, 5, 12)
            got = _tight_string(x, y)
            # The greatest convex curve below the points: at each x the lowest chord over it.
            for k in range(12):
                chords = [
                    y[a] + (y[b] - y[a]) * (x[k] - x[a]) / (x[b] - x[a])
                    for a in range(k + 1)
                    for b in range(k, 12)
                    if a != b
                ]
                self.assertAlmostEqual(float(got[k]), min([float(y[k]), *map(float, chords)]))


class OneShell(unittest.TestCase):
    def test_a_dry_surface_is_as_warm_in_the_profile_as_in_the_balance(self) -> None:
        """Both read the layers of the same network, as moist as their winter makes them."""
        project, seen = demo_project(), 0
        for design in project.designs:
            months = assess_months(estimated_case(project, design)).months
            faces: tuple[tuple[Face, int], ...] = (("lid", LID_MIDDLE), ("walls", 3), ("floor", 5))
            for face, surface in faces:
                for month in (0, 6):
                    if months.condensing_g_day[surface, month] > 0:
                        continue
                    seen += 1
                    profile = months.profile(face, month)
                    self.assertAlmostEqual(
                        float(profile.temperature_degc[0]),
                        float(months.balance.surface_degc[surface, month]),
                        places=6,
                        msg=f"{design.id} {face} {month}",
                    )
        self.assertGreater(seen, 15)


if __name__ == "__main__":
    unittest.main()
