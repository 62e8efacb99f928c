"""The hours of a year: one physics with the months, ledgers that close, memory by hand."""

from __future__ import annotations

import subprocess
import sys
import unittest
from dataclasses import replace
from math import exp
from typing import ClassVar

import numpy as np
import psychrolib

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.climate.place import warm_months
from calveth.core.colony.colony import colony_at
from calveth.core.heat.periodic import (
    layer_matrix,
    resistance_matrix,
    transmittance_and_admittance,
)
from calveth.core.hive.season_plan import Period, SeasonPlan, Setting
from calveth.core.nest import kernel_parts as kp
from calveth.core.parameters import LIKELY
from calveth.core.year import columns as cl
from calveth.core.year.chains import CELLS, chains
from calveth.core.year.kernel_wood import taken_up
from calveth.core.year.result import YearRun
from calveth.core.year.run import run_year
from tests.year.cases import PROJECT, case_of, months_of, still_weather, year_of

psychrolib.SetUnitSystem(psychrolib.SI)


def open_shares(run: YearRun) -> tuple[float, float, float]:
    """Return by how much heat, water and CO2 ledgers of a year are open, of what goes through."""
    book = run.ledger
    heat = book[cl.L_HEAT_BEES] + book[cl.L_HEAT_SETTLED] + book[cl.L_HEAT_BOUND]
    heat += book[cl.L_HEAT_SET] - book[cl.L_HEAT_MELT] - book[cl.L_HEAT_AIR] - book[cl.L_HEAT_OUT]
    water = book[cl.L_WATER_BEES] + book[cl.L_WATER_SET] - book[cl.L_WATER_AIR]
    water -= book[cl.L_WATER_SHELL] + book[cl.L_WATER_DRAINED] + book[cl.L_WATER_QUILT_OUT]
    carbon = book[cl.L_CO2_BEES] - book[cl.L_CO2_OUT]
    more = run.held_change
    return (
        abs(heat - more[0]) / book[cl.L_HEAT_BEES],
        abs(water - more[1]) / book[cl.L_WATER_BEES],
        abs(carbon - more[2]) / book[cl.L_CO2_BEES],
    )


class OnePhysics(unittest.TestCase):
    def test_weather_that_stands_still_gives_the_month(self) -> None:
        """Half a year of one month's weather ends in that month's steady state.

        All hives in four months, without ice in the entrance, which a month knows nothing of.
        Within 0.15 K, 1.5 % of vapour and 2 % of CO2; where nectar waits 0.25 K and 3 %: what is
        left is water that drips from the lid and dries from the floor. The quilt, whose months do
        not send back what drips from it, within 0.35 K and 3 %.
        """
        warm = warm_months(PROJECT.place)
        for design in PROJECT.designs:
            key = design.id
            for month in (0, 3, 6, 9):
                with self.subTest(key=key, month=month):
                    steady = months_of(key)
                    case = replace(case_of(key), parameters=replace(LIKELY, ice_at_mouth=0.0))
                    out, b = steady.outside, steady.balance
                    run = run_year(
                        case,
                        still_weather(
                            float(out.temperature_degc[month]),
                            float(out.vapour_pressure_pa[month]),
                            float(out.wind_m_s[month]),
                        ),
                        colony_at(case.colony, np.full(8760, month)),
                    )
                    # An hour late in a half of the year whose walls are as warm as the month's.
                    at = 180 * 24 if warm[5] == warm[month] else 8759
                    got = run.series[at]
                    off = np.abs(got[cl.S_T : cl.S_T + 3] - b.temperature_degc[:, month])
                    flow = case.colony.nectar_kg_day[month] > 0.0
                    apart = 0.35 if key == "quilt" else (0.25 if flow else 0.15)
                    self.assertLess(float(off.max()), apart)
                    vapour = got[cl.S_P : cl.S_P + 3] / b.vapour_pressure_pa[:, month]
                    self.assertLess(
                        float(np.abs(vapour - 1).max()), 0.03 if key == "quilt" else 0.015
                    )
                    share = got[cl.S_CO2] / steady.co2_volume_share[1, month]
                    self.assertLess(abs(float(share) - 1), 0.03 if flow else 0.02)
                    self.assertEqual(run.unsettled_hours, 0)

    def test_ledgers_close_and_every_hour_settles(self) -> None:
        for key in ("polystyrene", "timber", "composite", "quilt", "aircrete", "hollow-tree"):
            with self.subTest(key=key):
                run = year_of(key)
                heat, water, carbon = open_shares(run)
                self.assertLess(heat, 1e-8)
                self.assertLess(water, 1e-8)
                self.assertLess(carbon, 1e-8)
                self.assertEqual(run.unsettled_hours, 0)
                self.assertTrue(np.isfinite(run.series).all())

    def test_a_change_of_the_setting_keeps_the_books(self) -> None:
        """The quilt comes off in spring: what goes with it is written down, the rest stays."""
        case = case_of("quilt")
        plan = SeasonPlan(
            periods=(
                Period(from_day=110, setting=Setting(quilt=False)),
                Period(from_day=265, setting=Setting(quilt=True)),
            )
        )
        run = run_year(case.of(replace(case.design, seasons=plan)))
        for share in open_shares(run):
            self.assertLess(share, 1e-8)
        quilt = run.column("quilt_kg")
        self.assertEqual(float(quilt[120 * 24 : 260 * 24].max()), 0.0)
        self.assertGreater(float(quilt[300 * 24 :].max()), 0.01)
        # The air does not jump when it is taken off: the walls keep their temperature.
        nest = run.column("nest_degc")
        self.assertLess(abs(float(nest[109 * 24] - nest[109 * 24 - 1])), 3.0)

    def test_hours_are_the_same_uncompiled_and_whatever_ran_before(self) -> None:
        """Hours of one hive, by plain Python and compiled; and a year twice, bit by bit."""
        code = (
            "from tests.year.cases import case_of, year_of\n"
            "from calveth.core.year.run import run_year\n"
            "import calveth.core.year.through as t\n"
            "t._WIND_UP_H = 24\n"
            "from calveth.core.year import kernel_year as ky\n"
            "whole = ky.run_hours\n"
            "def short(*a):\n"
            "    whole(*a[:4], a[4], min(a[5], a[4] + 6), *a[6:])\n"
            "    return a[5]\n"
            "ky.run_hours = short\n"
            "run = run_year(case_of('composite'))\n"
            "print(repr(run.series[181 * 24 + 5].tolist()))\n"
        )
        answers = []
        for plain in ("0", "1"):
            done = subprocess.run(
                [sys.executable, "-c", code],
                capture_output=True,
                text=True,
                check=True,
                encoding="utf-8",
                env={**__import__("os").environ, "NUMBA_DISABLE_JIT": plain},
            )
            answers.append(np.array(eval(done.stdout, {"nan": np.nan})))
        # The compiler joins a product and a sum in one rounding.
        np.testing.assert_allclose(answers[0], answers[1], rtol=1e-6, atol=1e-6)
        one, two = run_year(case_of("hollow-tree")), run_year(case_of("hollow-tree"))
        self.assertEqual(one.series.tobytes(), two.series.tobytes())


class WallsRemember(unittest.TestCase):
    WALLS: ClassVar = {
        "boards": ([(0.032, 0.13, 500, 1600)], 0.01),
        "foam": ([(0.04, 0.035, 20, 1450)], 0.01),
        "blocks": ([(0.1, 0.12, 500, 1000)], 0.02),
        "sandwich": (
            [(0.012, 0.13, 500, 1600), (0.05, 0.035, 20, 1450), (0.012, 0.13, 500, 1600)],
            0.025,
        ),
    }

    def test_a_wall_under_a_daily_sine_is_that_of_iso_13786(self) -> None:
        """Y11 and Y12 of EN ISO 13786:2017 against the chain driven by hour means of a sine."""
        for name, (layers, allowed) in self.WALLS.items():
            for driven, zone in ((0, "inside"), (1, "outside")):
                with self.subTest(wall=name, driven=zone):
                    exact = resistance_matrix(0.13)
                    for d, lam, rho, heat in layers:
                        exact = layer_matrix(d, lam, rho, heat) @ exact
                    y12, y11 = transmittance_and_admittance(resistance_matrix(0.04) @ exact)
                    got = self._driven([(d / k, d * r * h) for d, k, r, h in layers], driven)
                    wanted = y11 if driven == 0 else y12
                    self.assertAlmostEqual(abs(got) / abs(wanted), 1.0, delta=allowed)
                    lag = (np.angle(got / wanted) * 24 / (2 * np.pi) + 30) % 12 - 6
                    self.assertLess(abs(float(lag)), 0.15)  # hours

    def test_what_five_cells_leave_out_of_thick_walls_is_as_the_method_says(self) -> None:
        """Y12 too small by 9 % in 300 mm of clay, 16 % in 300 mm of aircrete (docs/method.md)."""
        for layer, missing in (((0.3, 0.7, 1600, 1000), 0.09), ((0.3, 0.12, 500, 1000), 0.16)):
            with self.subTest(layer=layer):
                d, lam, rho, heat = layer
                exact = layer_matrix(d, lam, rho, heat) @ resistance_matrix(0.13)
                y12, _ = transmittance_and_admittance(resistance_matrix(0.04) @ exact)
                got = self._driven([(d / lam, d * rho * heat)], 1)
                self.assertAlmostEqual(1 - abs(got) / abs(y12), missing, delta=0.02)

    @staticmethod
    def _driven(layers: list[tuple[float, float]], which: int) -> complex:
        wall = chains([layers], np.array([1 / 0.13]), np.array([25.0]))
        modes, flows = np.zeros(CELLS), []
        for hour in range(24 * 16):
            given = np.zeros(4)
            given[which] = np.sin(2 * np.pi * (hour + 0.5) / 24) * np.sinc(1 / 24)
            surface = wall.inner[0] @ modes + wall.inner_by[0] @ given
            flows.append(wall.film[0] * (given[0] - surface))
            modes = wall.decay[0] * modes + wall.gain[0] @ given
        last = np.array(flows[-24:])
        turn = np.exp(-2j * np.pi * (np.arange(24) + 0.5) / 24)
        return complex(2j * np.mean(last * turn) / np.sinc(1 / 24))

    def test_a_settled_wall_lets_through_what_its_resistances_say(self) -> None:
        wall = chains([[(0.5, 3e4), (1.2, 0.0), (0.3, 9e4)]], np.array([8.0]), np.array([20.0]))
        given, modes = np.array([20.0, -5.0, 3.0, 0.0]), np.zeros(CELLS)
        for _ in range(4000):
            modes = wall.decay[0] * modes + wall.gain[0] @ given
        surface = float(wall.inner[0] @ modes + wall.inner_by[0] @ given)
        behind = 1 / (0.5 + 1.2 + 0.3 + 1 / 20.0)
        self.assertAlmostEqual(surface, (8.0 * 20.0 - 5.0 * behind + 3.0) / (8.0 + behind), 6)

    def test_its_cells_give_up_what_they_hold(self) -> None:
        """What comes in through both films in an hour is what the cells hold more."""
        wall = chains([[(0.4, 2e4), (0.8, 5e3)]], np.array([7.7]), np.array([25.0]))
        modes = np.array([300.0, -20.0, 10.0, 5.0, 1.0])
        given = np.array([18.0, 2.0, 4.0, 6.0])
        after = wall.decay[0] * modes + wall.gain[0] @ given
        held = float((wall.capacity[0] * (wall.to_cells[0] @ (after - modes))).sum())
        inner = float(wall.inner[0] @ modes + wall.inner_by[0] @ given)
        outer = float(wall.outer[0] @ modes + wall.outer_by[0] @ given)
        flow = 7.7 * (18.0 - inner) + 4.0 + 25.0 * (2.0 - outer) + 6.0
        self.assertAlmostEqual(held / 3600.0, flow, 9)


class Water(unittest.TestCase):
    @staticmethod
    def _settle(law: list[float], degc: float, pascal: float) -> np.ndarray:
        surface, at = np.zeros((1, kp.SURFACE_COLUMNS)), np.zeros((1, kp.AT_COLUMNS))
        surface[0, kp.SURFACE_AREA], surface[0, kp.SURFACE_FILM] = 1.0, 0.2
        surface[0, kp.SURFACE_CONVECTION] = 5.0
        kp.settle_on(surface, np.array([law]), 0, degc, pascal, 101325.0, at)
        row: np.ndarray = at[0]
        return row

    def test_a_wet_surface_with_nothing_behind_it_has_the_wet_bulb_temperature(self) -> None:
        """Against psychrolib (ASHRAE 2017); a film of air alone, Lewis factor included."""
        for degc, humid in ((20.0, 0.3), (30.0, 0.6), (10.0, 0.8)):
            with self.subTest(degc=degc, humid=humid):
                vapour = humid * kp.saturation_pa(degc)
                at = self._settle([1.0, 0.0, 0.2, 1e3, 1.0, 0.0], degc, vapour)
                bulb = psychrolib.GetTWetBulbFromRelHum(degc, humid, 101325.0)
                self.assertAlmostEqual(float(at[kp.AT_DEGC]), bulb, delta=0.5)
                self.assertLess(float(at[kp.AT_KG_S]), 0.0)

    def test_a_film_dries_as_fast_as_by_hand_and_no_faster_than_there_is(self) -> None:
        """β·(psat - p) at a surface held at 15 °C in air of 800 Pa; then a store for half of it."""
        law = [0.0, 15.0, 0.0, 1.0, 1.0, 0.0]
        rate = -float(self._settle(law, 15.0, 800.0)[kp.AT_KG_S])
        kelvin = 15.0 + 273.15
        rho_cp = 101325.0 / (c.GAS_CONSTANT_DRY_AIR.value * kelvin) * c.AIR_HEAT_CAPACITY.value
        beta = 5.0 / (rho_cp * c.LEWIS_FACTOR.value * c.GAS_CONSTANT_VAPOUR.value * kelvin)
        self.assertAlmostEqual(rate, beta * (1704.3 - 800.0), delta=2e-3 * rate)
        little = self._settle([0.0, 15.0, 0.0, rate / 2, 1.0, 0.0], 15.0, 800.0)
        self.assertLess(-float(little[kp.AT_KG_S]), rate / 2)
        self.assertGreater(-float(little[kp.AT_KG_S]), 0.48 * rate)
        dry = self._settle([0.0, 15.0, 0.0, 0.0, 0.0, 0.0], 15.0, 800.0)
        self.assertEqual(float(dry[kp.AT_KG_S]), 0.0)

    def test_frost_takes_the_heat_of_ice_along(self) -> None:
        law = [0.0, -5.0, 0.0, 1.0, 1.0, 1.0]
        ice = self._settle(law, -5.0, 200.0)
        water = self._settle([*law[:5], 0.0], -5.0, 200.0)
        self.assertEqual(float(ice[kp.AT_LATENT_J]), c.LATENT_HEAT_ICE.value)
        self.assertEqual(float(water[kp.AT_LATENT_J]), c.LATENT_HEAT_WATER.value)

    def test_a_board_takes_up_what_an_exponential_says(self) -> None:
        mean = taken_up(2e-8, 0.05, 1000.0)
        rate = 2e-8 * 1000.0 * 3600.0 / 0.05
        self.assertAlmostEqual(mean * 3600.0 * 1000.0, 0.05 * (1 - exp(-rate)))

    def test_frost_forms_melts_and_what_a_surface_does_not_hold_drips(self) -> None:
        run = year_of("plain-boards")
        ice, drip = run.column("ice_kg"), run.column("dripped_kg")
        self.assertGreater(float(ice.max()), 0.1)
        summer = slice(150 * 24, 240 * 24)
        self.assertEqual(float(ice[summer].max()), 0.0)
        self.assertGreater(float(drip.sum()), 0.3)
        most = 0.070 * run.areas_m2[0]
        self.assertLess(float(run.column("lid_middle_kg").max()), 1.001 * most + float(ice.max()))

    def test_a_trace_of_water_stays_and_does_not_dwindle_for_ever(self) -> None:
        """What dries dwindles by shares: without a least film half of the hours would dry nothing.

        A film over the trace leaves no less than a ten thousandth of it; below it stays.
        """
        run = year_of("polystyrene")
        film = run.series[:, cl.S_FILM : cl.S_FILM + 6]
        here = film[film > 0.0]
        self.assertGreater(float(here.min()), 1e-4 * y.TRACE_OF_WATER.value)
        before, after = film[:-1].ravel(), film[1:].ravel()
        trace = (before > 0.0) & (before < y.TRACE_OF_WATER.value)
        self.assertGreater(int(trace.sum()), 200)
        # The year is wound up before 1 July: there its two ends meet.
        self.assertLessEqual(int((after[trace] < before[trace]).sum()), 6)


if __name__ == "__main__":
    unittest.main()
