"""Water inside a face over the year, EN ISO 13788:2012, clause 6.

The standard's printed example is not at hand; the method is checked against hand calculations
with its formulas and against an optimiser that knows nothing of tight strings.
"""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np
from scipy.optimize import linprog

from calveth.core.climate.air import saturation_pressure_pa
from calveth.core.moisture.inside import Climate12, inside_year
from calveth.core.moisture.profile import face_nodes, gathering_g_m2_day, vapour_string
from tests.core.builders import TABLE, layer

DELTA = 2.0e-10
DAY = 86400.0


def climate(inside: float, rh_in: float, outside: list[float], rh_out: float) -> Climate12:
    te = np.array(outside)
    return Climate12(
        inside_degc=np.full(12, inside),
        inside_pa=rh_in * saturation_pressure_pa(np.full(12, inside)),
        outside_degc=te,
        outside_pa=rh_out * saturation_pressure_pa(te),
        outer_film_m2k_w=np.full(12, 0.04),
    )


COLD_YEAR: list[float] = [-5, -3, 2, 8, 13, 17, 19, 18, 14, 8, 3, -2]
# A flat roof as it was built: felt outside, foam, no vapour barrier.
ROOF = (layer("roofing-felt", 2), layer("xps", 50), layer("softwood", 19))


class ByHand(unittest.TestCase):
    def test_one_plane_under_the_felt(self) -> None:
        year = inside_year(ROOF, TABLE, "up", climate(15, 0.6, COLD_YEAR, 0.8))
        # January: all the water is stopped under the felt (sd 100 m). Resistances 0.10, boards
        # 0.019/0.13, foam 0.05/0.034, felt 0.002/0.23, 0.04; clause 6: g = δ0·Δp/sd.
        r_in = 0.10 + 0.019 / 0.13 + 0.05 / 0.034
        whole = r_in + 0.002 / 0.23 + 0.04
        t = 15 - 20 * r_in / whole
        p_in, p_out = 0.6 * saturation_pressure_pa(15.0), 0.8 * saturation_pressure_pa(-5.0)
        p_sat = float(saturation_pressure_pa(t))
        sd_in, sd_out = 0.05 * 150 + 0.019 * 50, 0.002 * 50000
        rate = DELTA * ((float(p_in) - p_sat) / sd_in - (p_sat - float(p_out)) / sd_out)
        self.assertAlmostEqual(float(year.gathered_g_m2[0]), rate * DAY * 31 * 1000, delta=1.0)

    def test_an_open_outside_dries(self) -> None:
        open_roof = (layer("softwood", 12), layer("wood-fibre", 60), layer("softwood", 12))
        warm = climate(5, 0.9, COLD_YEAR, 0.7)
        inside = np.maximum(5.0, warm.outside_degc + 2.0)
        humid = replace(
            warm,
            inside_degc=inside,
            inside_pa=np.where(inside > 6, 0.6, 0.9) * saturation_pressure_pa(inside),
        )
        year = inside_year(open_roof, TABLE, "up", humid)
        self.assertGreater(year.most_g_m2, 0)
        self.assertEqual(year.residue_g_m2, 0.0)
        self.assertIn(year.worst_month, (0, 1, 2))
        # What came has gone: the months add up to nothing.
        self.assertAlmostEqual(float(year.gathered_g_m2.sum()), 0.0, delta=1e-6)

    def test_a_dry_face_stays_dry(self) -> None:
        year = inside_year(
            (layer("softwood", 19),), TABLE, "horizontal", climate(10, 0.4, COLD_YEAR, 0.7)
        )
        self.assertEqual((year.first_month, year.worst_month, year.most_g_m2), (-1, -1, 0.0))

    def test_a_month_is_cut_where_a_plane_dries_out(self) -> None:
        """With little water the end of drying falls into a month; nothing goes below zero."""
        year = inside_year(
            (layer("softwood", 12), layer("cork", 40), layer("softwood", 12)),
            TABLE,
            "up",
            climate(8, 0.8, COLD_YEAR, 0.75),
        )
        self.assertGreaterEqual(float(year.held_g_m2.min()), 0.0)
        for k in range(12):
            before = year.held_g_m2[(k - 1) % 12].sum()
            if k != year.first_month:
                change = float(year.held_g_m2[k].sum() - before)
                self.assertAlmostEqual(change, float(year.gathered_g_m2[k]), places=6)

    def test_southern_winter_starts_the_count_in_its_autumn(self) -> None:
        south = COLD_YEAR[6:] + COLD_YEAR[:6]
        north = inside_year(ROOF, TABLE, "up", climate(15, 0.6, COLD_YEAR, 0.8))
        turned = inside_year(ROOF, TABLE, "up", climate(15, 0.6, south, 0.8))
        self.assertEqual((turned.first_month - north.first_month) % 12, 6)


class SeveralPlanes(unittest.TestCase):
    """Greatest convex pressure below saturation: an optimiser finds the same without strings."""

    def optimum(self, x: np.ndarray, ceiling: np.ndarray, fixed: list[int]) -> np.ndarray:
        """Maximise Σp subject to p ≤ saturation and no water taken where none is held."""
        n = x.size
        rows, right = [], []
        for i in range(1, n - 1):
            if i in fixed:
                continue
            row = np.zeros(n)
            # Flow in minus flow out must not be negative: (p[i-1]-p[i])/a - (p[i]-p[i+1])/b ≥ 0.
            a, b = x[i] - x[i - 1], x[i + 1] - x[i]
            row[i - 1], row[i], row[i + 1] = -1 / a, 1 / a + 1 / b, -1 / b
            rows.append(row)
            right.append(0.0)
        bounds = [
            (ceiling[i], ceiling[i]) if i in (0, n - 1, *fixed) else (None, ceiling[i])
            for i in range(n)
        ]
        limits = {"A_ub": np.array(rows), "b_ub": right} if rows else {}
        found = linprog(-np.ones(n), bounds=bounds, **limits)
        self.assertTrue(found.success)
        result: np.ndarray = found.x
        return result

    def test_many_faces(self) -> None:
        source = np.random.default_rng(7)
        for _ in range(40):
            n = int(source.integers(4, 12))
            x = np.concatenate([[0.0], np.cumsum(source.uniform(0.05, 2.0, n - 1))])
            t = np.linspace(source.uniform(2, 20), source.uniform(-15, 1), n)
            saturation = saturation_pressure_pa(np.sort(t + source.normal(0, 1.5, n))[::-1])
            inside = float(source.uniform(0.5, 1.1) * saturation[0])
            outside = float(source.uniform(0.5, 1.0) * saturation[-1])
            held = sorted({int(k) for k in source.integers(1, n - 1, 2)})
            for wet in ([], held):
                mask = np.isin(np.arange(n), wet)
                got = vapour_string(x, saturation, inside, outside, mask if wet else None)
                ceiling = saturation.copy()
                ceiling[0], ceiling[-1] = min(inside, saturation[0]), min(outside, saturation[-1])
                np.testing.assert_allclose(got, self.optimum(x, ceiling, wet), rtol=1e-6)
                free = ~mask
                free[0] = free[-1] = False
                self.assertTrue(np.all(gathering_g_m2_day(x, got)[free] >= -1e-9))

    def test_two_planes_at_once(self) -> None:
        """A tight board in the middle and one outside: water stops before both."""
        stack = (
            layer("plywood", 9),
            layer("wood-fibre", 40),
            layer("plywood", 9),
            layer("wood-fibre", 40),
            layer("softwood", 9.5),
        )
        year = inside_year(stack, TABLE, "up", climate(18, 0.8, [-12.0] * 12, 0.8))
        wet = year.held_g_m2[-1] > 1.0
        planes = np.flatnonzero(np.diff(wet.astype(int)) == 1).size
        self.assertGreaterEqual(planes, 2)
        self.assertEqual(year.first_month, 0)


class Nodes(unittest.TestCase):
    def test_round_walls_are_wider_outside(self) -> None:
        stack = (layer("tree-trunk", 150),)
        plane, ring = (face_nodes(stack, TABLE, "horizontal", radius) for radius in (None, 0.1))
        # Fourier for a hollow cylinder: r1·ln(r2/r1)/λ per inner area.
        by_hand = 0.1 * np.log(0.25 / 0.1) / 0.15
        self.assertAlmostEqual(
            float(ring.thermal_m2k_w[-1] - ring.thermal_m2k_w[0]), by_hand, places=6
        )
        self.assertLess(float(ring.vapour_depth_m[-1]), float(plane.vapour_depth_m[-1]))


if __name__ == "__main__":
    unittest.main()
