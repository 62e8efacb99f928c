"""Air through openings: closed forms, an independent root finder, and its directions."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

import numpy as np
from scipy.integrate import quad
from scipy.optimize import brentq

from calveth.catalogue.shipped import demo_project
from calveth.core import constants as c
from calveth.core.airflow.flow import (
    balanced_pressure_pa,
    flows,
    path_arrays,
)
from calveth.core.airflow.flows import Flows
from calveth.core.airflow.kernel import (
    THROUGH_COLUMNS,
    balanced_pa,
    head_pa,
    joint_m3_s,
    one_way,
    pass_air,
    shifted_pa,
)
from calveth.core.airflow.paths import AirPaths, air_paths, tunnel_friction_pa_s_m
from calveth.core.case import estimated_case
from calveth.core.climate.air import wind_at_hive_m_s, wind_pressure_coefficient
from calveth.core.hive.zones import zone_at
from calveth.core.nest.kernel_parts import latent_j_kg, outer_film_m2k_w, transfer_kg_s_m2_pa
from calveth.core.nest.network import hive_model
from calveth.core.parameters import LIKELY
from calveth.core.published import closed_form_paths
from calveth.core.solids.build import build_solids
from tests.core.builders import box, hole, slot, steady_place

G, CD = 9.80665, 0.6
CALM = np.zeros(1)
PROJECT = demo_project()


def _net_kg_s(flow: Flows) -> float:
    """Return air in minus air out over all paths [kg/s]."""
    came = flow.opening_in.sum() + flow.joint_in.sum()
    return float(came - flow.opening_out.sum() - flow.joint_out.sum())


def solve(paths: AirPaths, rho_out: float, rho_in: float, wind: float = 0.0) -> Flows:
    outside, inside = np.array([rho_out]), np.full((3, 1), rho_in)
    v = np.array([wind])
    return flows(paths, balanced_pressure_pa(paths, outside, inside, v), outside, inside, v)


class LastStep(unittest.TestCase):
    def test_flows_moved_along_their_slopes_are_those_of_the_pressure(self) -> None:
        """To a millionth, and as much air leaves as enters, to the last digits.

        From pressures off by up to a fiftieth of the wind, of which the search takes the last bit
        along the slopes; a joint just where its air turns is a few ten thousandths off.
        """
        case = estimated_case(PROJECT, PROJECT.design("composite"))
        strips, _, joints, tops = (a[0] for a in path_arrays(hive_model(case).paths, 1))
        rho, lighter = np.array([1.21, 1.19, 1.18]), 1.25 - np.array([1.21, 1.19, 1.18])
        rows = strips.shape[0] + joints.shape[0]
        for start in np.linspace(-0.02, 0.06, 9):
            through, again = np.zeros((rows, THROUGH_COLUMNS)), np.zeros((rows, THROUGH_COLUMNS))
            args = (strips, joints, tops, 1.25, rho, lighter, 0.4, 0.05)
            dp0 = balanced_pa(float(start), *args, through)
            pass_air(dp0, *args, again)
            flows, exact = through[:, :2], again[:, :2]
            most = float(exact.max())
            self.assertLess(float(np.abs(flows - exact).max()), 1e-5 * most)
            into, out = flows.sum(axis=0)
            self.assertLess(abs(float(into - out)), 1e-13 * float(into))

    def test_the_wind_is_followed_along_the_slopes(self) -> None:
        """The second time the search begins where a little more wind has moved the pressure."""
        case = estimated_case(PROJECT, PROJECT.design("composite"))
        strips, _, joints, tops = (a[0] for a in path_arrays(hive_model(case).paths, 1))
        rho = np.array([1.21, 1.19, 1.18])
        through = np.zeros((strips.shape[0] + joints.shape[0], THROUGH_COLUMNS))
        args = (strips, joints, tops, 1.25, rho, 1.25 - rho)
        before = balanced_pa(0.0, *args, 0.4, 0.05, through)
        moved = shifted_pa(strips, joints, 0.404, through)
        after = balanced_pa(before, *args, 0.404, 0.05, through)
        self.assertAlmostEqual(moved / (after - before), 1.0, delta=0.05)


class ClosedForms(unittest.TestCase):
    def test_two_small_openings(self) -> None:
        # Orifices in series: m = Cd·A·√(2·g·H·Δρ/(1/ρo + 1/ρi)).
        for height, rho_in in ((0.3, 1.20), (0.5, 1.25), (1.2, 1.28)):
            with self.subTest(height=height, rho_in=rho_in):
                paths = closed_form_paths([(0.0, 0.001, 0.2), (height, 0.001, 0.2)])
                got = float(solve(paths, 1.30, rho_in).opening_in.sum())
                expected = (
                    CD
                    * 2e-4
                    * math.sqrt(2 * G * height * (1.30 - rho_in) / (1 / 1.30 + 1 / rho_in))
                )
                self.assertAlmostEqual(got / expected, 1.0, places=4)

    def test_unequal_openings(self) -> None:
        # Mass balance by hand: Δp1·ρo·A1² = Δp2·ρi·A2².
        a1, a2, h = 3e-4, 1e-4, 0.5
        paths = closed_form_paths([(0.0, 0.001, 0.3), (h, 0.001, 0.1)])
        got = float(solve(paths, 1.30, 1.25).opening_in.sum())
        stack = G * h * 0.05
        dp1 = stack / (1 + 1.30 * a1**2 / (1.25 * a2**2))
        expected = CD * a1 * math.sqrt(2 * dp1 * 1.30)
        self.assertAlmostEqual(got / expected, 1.0, places=4)

    def test_one_tall_opening(self) -> None:
        # Brown and Solvason 1962, unequal densities: neutral height h/(1 + (ρo/ρi)^(1/3)).
        for tall in (0.0127, 0.1, 0.3):
            with self.subTest(tall=tall):
                paths = closed_form_paths([(0.05, tall, 0.1)])
                flow = solve(paths, 1.30, 1.24)
                below = tall / (1 + (1.30 / 1.24) ** (1 / 3))
                expected = 2 / 3 * CD * 0.1 * 1.30 * math.sqrt(2 * G * 0.06 / 1.30) * below**1.5
                self.assertAlmostEqual(float(flow.opening_in[0, 0]) / expected, 1.0, places=6)
                self.assertAlmostEqual(_net_kg_s(flow), 0.0, places=10)

    def test_short_formula_for_one_opening(self) -> None:
        # (Cd/3)·A·√(g·H·ΔT/T), any ventilation handbook; for small differences.
        paths = closed_form_paths([(0.0, 0.1, 0.1)])
        rho_out, rho_in = 1.29, 1.28
        got = float(solve(paths, rho_out, rho_in).opening_in.sum()) / 1.285
        expected = CD / 3 * 0.01 * math.sqrt(G * 0.1 * 0.01 / 1.285)
        self.assertAlmostEqual(got / expected, 1.0, places=2)

    def test_friction_integral_against_quadrature(self) -> None:
        # Numerical integration of u(z) from (1/Cd²)·½ρu² + B·u = Δp(z) over the strip.
        friction, rho = 0.4, 1.3
        paths = replace(closed_form_paths([(0.0, 0.02, 0.1)]), strip_friction=np.array([friction]))
        outside, inside = np.array([rho]), np.full((3, 1), 1.25)
        dp0 = np.array([0.006])
        got = flows(paths, dp0, outside, inside, CALM)

        def speed(z: float, density: float) -> float:
            dp = dp0[0] - 0.05 * G * z
            a = 0.5 * density / CD**2
            size = abs(dp)
            return math.copysign(2 * size / (friction + math.sqrt(friction**2 + 4 * a * size)), dp)

        neutral = dp0[0] / (0.05 * G)
        into = quad(lambda z: speed(z, rho), 0, neutral)[0] * 0.1 * rho
        out = -quad(lambda z: speed(z, 1.25), neutral, 0.02)[0] * 0.1 * 1.25
        self.assertAlmostEqual(float(got.opening_in[0, 0]) / into, 1.0, places=7)
        self.assertAlmostEqual(float(got.opening_out[0, 0]) / out, 1.0, places=7)

    def test_tunnel_friction(self) -> None:
        # Hagen and Poiseuille for a pipe: Δp = 32·μ·L·u/D²; 8 mm hole, 50 mm wall.
        opening = hole(0.1, 0.008)
        expected = 32 * c.AIR_VISCOSITY.value * 0.05 / 0.008**2
        self.assertAlmostEqual(tunnel_friction_pa_s_m(opening, 0.05), expected)
        # Two wide plates: Δp = 12·μ·L·u/h² (exact; any book on viscous flow).
        wide = slot(width=1.0, height=0.005)
        self.assertAlmostEqual(
            tunnel_friction_pa_s_m(wide, 0.05) / (12 * c.AIR_VISCOSITY.value * 0.05 / 0.005**2),
            1.0,
            delta=0.01,
        )

    def test_joint_law(self) -> None:
        # C·Δp^0.65 (EN 16798-7) at 1 and 4 Pa; continuous where it turns linear.
        one, four = (joint_m3_s(p, 2e-5, 1e-3)[0] for p in (1.0, 4.0))
        self.assertAlmostEqual(float(one), 2e-5)
        self.assertAlmostEqual(float(four), 2e-5 * 4**0.65)
        below, above = (joint_m3_s(p, 1.0, 1e-3)[0] for p in (0.999999e-3, 1.000001e-3))
        self.assertAlmostEqual(float(below), float(above), places=7)


class AgainstAnotherRootFinder(unittest.TestCase):
    def test_three_openings_and_joints(self) -> None:
        """Brent's method on a balance written out here, strip by strip."""
        design = box(
            openings=(slot(), hole(0.2, 0.025, "middle"), hole(0.45, 0.0127, "high")),
            joints="planed",
        )
        place = steady_place()
        paths = air_paths(design, build_solids(design), place, LIKELY)
        rho_out, rho_zone = 1.31, (1.30, 1.285, 1.28)
        low, high = paths.zone_tops_m[:, 0]
        bottom, top = paths.strip_bottom_m[:, 0], paths.strip_top_m[:, 0]

        def drop(z: float, dp0: float) -> float:
            parts = (min(z, low), min(max(z, low), high) - low, max(z, high) - high)
            column = sum(p * (rho_out - rho) for p, rho in zip(parts, rho_zone, strict=True))
            return float(dp0 - G * column)

        def net(dp0: float) -> float:
            total = 0.0
            for k in range(bottom.size):
                z0, z1 = bottom[k], top[k]
                d0, d1 = drop(z0, dp0), drop(z1, dp0)
                b = paths.strip_friction[k, 0]
                rho_in = rho_zone[paths.part_zone[paths.strip_part[k]]]

                def flow(s: float, d0=d0, d1=d1, b=b, rho_in=rho_in) -> float:  # type: ignore[no-untyped-def]
                    dp = d0 + s * (d1 - d0)
                    rho = rho_out if dp > 0 else rho_in
                    a, size = 0.5 * rho / CD**2, abs(dp)
                    u = 2 * size / (b + math.sqrt(b * b + 4 * a * size))
                    return rho * math.copysign(u, dp)

                nodes, weights = np.polynomial.legendre.leggauss(60)
                mean = 0.5 * sum(
                    w * flow(0.5 * (x + 1)) for x, w in zip(nodes, weights, strict=True)
                )
                total += mean * paths.strip_area_m2[k, 0]
            for k in range(paths.joint_height_m.size):
                dp = drop(paths.joint_height_m[k, 0], dp0)
                rho = rho_out if dp > 0 else rho_zone[paths.joint_zone[k]]
                size = abs(dp)
                q = size**0.65 if size >= 0.05 else size * 0.05**-0.35
                total += math.copysign(q, dp) * paths.joint_coefficient[k, 0] * rho
            return total

        expected = brentq(net, -1.0, 1.0, xtol=1e-14)
        got = balanced_pressure_pa(paths, np.array([rho_out]), np.array(rho_zone)[:, None], CALM)
        self.assertAlmostEqual(float(got[0]), expected, places=7)


class OfAHive(unittest.TestCase):
    def test_in_low_and_out_high_when_it_is_warm_inside(self) -> None:
        design = box(openings=(slot(), hole(0.45)))
        paths = air_paths(design, build_solids(design), steady_place(), LIKELY)
        flow = solve(paths, 1.30, 1.25)
        self.assertGreater(flow.opening_in[0, 0], 5 * flow.opening_out[0, 0])
        self.assertGreater(flow.opening_out[1, 0], 5 * flow.opening_in[1, 0])

    def test_and_turned_round_when_it_is_colder_inside(self) -> None:
        design = box(openings=(slot(), hole(0.45)))
        paths = air_paths(design, build_solids(design), steady_place(), LIKELY)
        flow = solve(paths, 1.25, 1.30)
        self.assertGreater(flow.opening_out[0, 0], flow.opening_in[0, 0])

    def test_strips_of_a_hole_keep_its_area(self) -> None:
        design = box(openings=(hole(0.2, 0.025),))
        paths = air_paths(design, build_solids(design), steady_place(), LIKELY)
        area = float(np.sum(paths.strip_area_m2))
        # 25 mm round hole: 4.91 cm² (geometry).
        self.assertAlmostEqual(area * 1e4, 4.9087, places=3)

    def test_a_shut_opening_lets_nothing_through(self) -> None:
        shut = replace(slot(), free_share=0.0)
        design = box(openings=(shut, hole(0.45)))
        paths = air_paths(design, build_solids(design), steady_place(), LIKELY)
        self.assertEqual(paths.part_ids, ("low", "high"))
        flow = solve(paths, 1.30, 1.25)
        self.assertEqual(float(flow.opening_in[0, 0] + flow.opening_out[0, 0]), 0.0)
        self.assertGreater(float(flow.opening_in[1, 0]), 0.0)

    def test_gusts_pump_a_lone_opening(self) -> None:
        # Warren and Parkins 1984: 0.025·A·v on top of what buoyancy does.
        design = box(openings=(slot(),), joints="propolised")
        paths = air_paths(design, build_solids(design), steady_place(), LIKELY)
        calm = float(solve(paths, 1.30, 1.2999).opening_in.sum())
        windy = float(solve(paths, 1.30, 1.2999, wind=2.0).opening_in.sum())
        self.assertGreaterEqual(windy - calm, 0.9 * 0.025 * 0.1 * 0.0127 * 2.0 * 1.30)

    def test_openings_on_two_sides_let_the_wind_through(self) -> None:
        place = replace(steady_place(), facing_deg=270.0, wind_from_deg=270.0)
        back = replace(hole(0.2, 0.03, "back"), side="back")
        design = box(openings=(slot(bottom=0.2), back), joints="propolised")
        paths = air_paths(design, build_solids(design), place, LIKELY)
        flow = solve(paths, 1.30, 1.2999, wind=3.0)
        self.assertGreater(flow.opening_in[0, 0], flow.opening_out[0, 0])
        self.assertGreater(flow.opening_out[1, 0], flow.opening_in[1, 0])

    def test_zones(self) -> None:
        self.assertEqual([zone_at(z, (0.1, 0.4)) for z in (0.0, 0.1, 0.39, 0.4)], [0, 1, 1, 2])

    def test_pressure_follows_each_zone(self) -> None:
        tops, lighter = np.array([0.1, 0.4]), np.array([0.1, 0.2, 0.3])
        drop = [head_pa(z, 1.0, tops, lighter) for z in (0.0, 0.1, 0.5)]
        by_hand = [1.0, 1 - G * 0.1 * 0.1, 1 - G * (0.1 * 0.1 + 0.3 * 0.2 + 0.1 * 0.3)]
        np.testing.assert_allclose(drop, by_hand, atol=1e-12)


class LevelHoles(unittest.TestCase):
    def exchanged(self, low_m: float, lid: float, rho_in: float) -> tuple[float, float, float]:
        """Air let in by a level hole, what goes through it one way, and what it would exchange."""
        both = closed_form_paths([(0.0, 0.01, low_m), (0.5, 1e-6, 1.0)])
        paths = replace(both, part_lid_exchange=np.array([[0.0], [lid]]))
        out, rho = np.array([1.30]), np.full((3, 1), rho_in)
        got = flows(paths, balanced_pressure_pa(paths, out, rho, CALM), out, rho, CALM)
        into, gone = float(got.opening_in[1, 0]), float(got.opening_out[1, 0])
        still = abs(lid) * math.sqrt(G * abs(1.30 - rho_in) / 1.30) * 1.30
        return into, abs(gone - into), still

    def test_what_goes_through_washes_the_exchange_away(self) -> None:
        # exp(-0.5·m/m_exchange), estimate; all of it where nothing goes through (Epstein 1988).
        into, through, still = self.exchanged(1e-9, 1e-3, 1.25)
        self.assertAlmostEqual(into / still, 1.0, delta=1e-4)
        into, through, still = self.exchanged(0.1, 1e-6, 1.25)
        self.assertGreater(through, 0.1 * still)
        self.assertAlmostEqual(into / still, math.exp(-0.5 * through / still), delta=1e-3)

    def test_under_a_mesh_floor_the_inside_must_be_the_denser(self) -> None:
        for rho_in, exchanges in ((1.25, False), (1.35, True)):
            into, through, still = self.exchanged(1e-9, -1e-3, rho_in)
            self.assertLess(through, 1e-6)
            self.assertAlmostEqual(into / still, 1.0 if exchanges else 0.0, delta=1e-3)


class Wind(unittest.TestCase):
    def test_the_hive_gets_less_than_the_mast(self) -> None:
        place = steady_place()
        for terrain in ("open water or plain", "farmland", "village or orchard", "forest"):
            with self.subTest(terrain=terrain):
                there = replace(place, terrain=terrain)
                self.assertTrue(0 < wind_at_hive_m_s(5.0, there) < 5.0)

    def test_log_profile_by_hand(self) -> None:
        # EN 1991-1-4: v(z)/v(10) = ln(z/z0)/ln(10/z0), z0 = 0.05 m, z = 0.6 m; open shelter.
        place = replace(steady_place(), terrain="farmland", shelter="open")
        expected = 4.0 * math.log(0.6 / 0.05) / math.log(10 / 0.05)
        self.assertAlmostEqual(wind_at_hive_m_s(4.0, place), expected)

    def test_pressure_by_side(self) -> None:
        place = replace(steady_place(), facing_deg=270.0, wind_from_deg=270.0, shelter="open")
        # EN 16798-7, annex B: 0.5 in the wind, -0.7 where it sucks most, which no wall passes.
        self.assertAlmostEqual(wind_pressure_coefficient("front", place), 0.5)
        turned = replace(place, facing_deg=0.0)
        self.assertAlmostEqual(wind_pressure_coefficient("left", turned), 0.5)
        every = [
            wind_pressure_coefficient("front", replace(place, facing_deg=float(d)))
            for d in range(360)
        ]
        self.assertAlmostEqual(min(every), -0.7, places=3)
        # Left and right alike, and the back less sucked than the side (Swami and Chandra 1987).
        self.assertAlmostEqual(
            wind_pressure_coefficient("left", place), wind_pressure_coefficient("right", place)
        )
        self.assertGreater(
            wind_pressure_coefficient("back", place), wind_pressure_coefficient("left", place)
        )

    def test_turning_by_a_degree_changes_no_pressure_by_a_jump(self) -> None:
        for shelter in ("open", "normal", "sheltered"):
            place = replace(steady_place(), wind_from_deg=250.0, shelter=shelter)
            for side in ("front", "right", "back", "left"):
                cp = [
                    wind_pressure_coefficient(side, replace(place, facing_deg=float(d)))
                    for d in range(361)
                ]
                self.assertLess(float(np.abs(np.diff(cp)).max()), 0.025)
                self.assertAlmostEqual(cp[0], cp[360])


class Pieces(unittest.TestCase):
    def test_frost_gives_the_heat_of_ice_and_dew_that_of_water(self) -> None:
        # 2.50 MJ/kg of water at 0 °C and 2.45 at 20 °C; 2.834 of ice (any steam table).
        self.assertAlmostEqual(latent_j_kg(10.0), 2.45e6, delta=0.05e6)
        self.assertAlmostEqual(latent_j_kg(-10.0), 2.834e6, delta=0.01e6)
        self.assertTrue(latent_j_kg(10.0) < latent_j_kg(0.0) < latent_j_kg(-10.0))

    def test_vapour_goes_with_heat_by_lewis(self) -> None:
        # β = hc/(ρ·cp·Le^(2/3)·Rv·T), Le 0.87 (Incropera et al.); 1.247 kg/m³ at 10 °C.
        by_hand = 5.0 / (1.247 * 1006 * 0.87 ** (2 / 3) * 461.5 * 283.15)
        self.assertAlmostEqual(transfer_kg_s_m2_pa(5.0, 10.0, 101325.0) / by_hand, 1.0, delta=0.003)

    def test_the_outer_film_of_a_wind(self) -> None:
        # EN ISO 6946, annex C: 1/(4 + 4·v + hr), hr 4.6 of a dull surface at 0 °C.
        self.assertAlmostEqual(1 / outer_film_m2k_w(4.0, 0.0), 20.0 + 4.16, delta=0.1)


class Slopes(unittest.TestCase):
    def test_closed_forms_are_those_of_a_finite_step(self) -> None:
        """Strips that let in, that let out, that do both, and level ones; joints on both laws."""
        step = 1e-7
        for low, high in ((0.2, 0.05), (-0.05, -0.3), (0.08, -0.06), (0.1, 0.1), (-0.1, -0.1)):
            for sign in (1.0, -1.0):
                with self.subTest(low=low, high=high, sign=sign):
                    ends = (sign * low, sign * high)
                    more, less = (
                        one_way(ends[0] + s, ends[1] + s, 1.29, 3.0)[0] for s in (step, -step)
                    )
                    got = one_way(*ends, 1.29, 3.0)[1]
                    self.assertAlmostEqual(got, (more - less) / (2 * step), delta=1e-4 * got)
        for pressure in (2e-4, 0.01, 0.4):
            there = (
                joint_m3_s(pressure + step, 1e-4, 1e-3)[0]
                - joint_m3_s(pressure - step, 1e-4, 1e-3)[0]
            )
            got = joint_m3_s(-pressure, 1e-4, 1e-3)[1]
            self.assertAlmostEqual(got / (there / (2 * step)), 1.0, delta=1e-4)


if __name__ == "__main__":
    unittest.main()
