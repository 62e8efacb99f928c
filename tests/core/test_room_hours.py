"""A winter room forward: held against steady balances by hand and against the room backward."""

from __future__ import annotations

import unittest
from dataclasses import replace
from unittest import mock

import numpy as np

from calveth.catalogue.shipped import demo_project
from calveth.core.assess import room_hours as module
from calveth.core.assess.room_hours import RoomHours, RoomPlan, given_off, room_hours
from calveth.core.case import estimated_case
from calveth.core.climate.air import humidity_ratio, vapour_pressure_pa
from calveth.core.errors import DomainError
from tests.year.cases import still_weather

PROJECT = demo_project()
CASE = estimated_case(PROJECT, PROJECT.design("plain-boards"))
PLAN = RoomPlan(hives=40, volume_m3=60.0, loss_w_k=8.0, least_m3_h=30.0, most_m3_h=600.0)
PRESSURE = 101325.0
# Of air as the program counts it.
RHO_CP = 1.2 * 1006.0 / 3600.0


def still(plan: RoomPlan, degc: float, humidity: float = 0.8) -> RoomHours:
    """Return January in a weather that stands still."""
    pascal = float(vapour_pressure_pa(np.array(degc), humidity))
    weather = still_weather(degc, pascal, 0.0)
    with mock.patch.object(module, "year_weather", lambda place: weather):
        return room_hours(CASE, plan, (0,))


class Steady(unittest.TestCase):
    def test_fans_keep_five_degrees_where_they_can(self) -> None:
        hours = still(PLAN, -3.0)
        self.assertAlmostEqual(float(hours.degc[-1]), 5.0, delta=0.02)
        hive = given_off(CASE, 0)
        warmth = 40 * float(np.interp(5.0, module._ASKED_DEGC, hive.heat_w))
        by_hand = (warmth / 8.0 - 8.0) / RHO_CP
        self.assertAlmostEqual(float(hours.exchange_m3_h[-1]), by_hand, delta=0.02 * by_hand)

    def test_water_and_co2_are_those_of_steady_balances(self) -> None:
        hours = still(PLAN, -3.0)
        hive, degc = given_off(CASE, 0), float(hours.degc[-1])
        air = float(hours.exchange_m3_h[-1]) * 1.2 / 3600.0
        outside = float(humidity_ratio(vapour_pressure_pa(np.array([-3.0]), 0.8), PRESSURE)[0])
        x = outside + 40 * float(np.interp(degc, module._ASKED_DEGC, hive.water_kg_s)) / air
        full = float(humidity_ratio(vapour_pressure_pa(np.array([degc]), 1.0), PRESSURE)[0])
        self.assertAlmostEqual(float(hours.humidity[-1]), min(x / full, 1.0), delta=0.03)
        rise = 40 * float(np.interp(degc, module._ASKED_DEGC, hive.co2_kg_s)) / air
        by_volume = 425e-6 + rise * 28.97 / 44.01
        self.assertAlmostEqual(float(hours.co2[-1]) / by_volume, 1.0, delta=0.02)

    def test_a_heater_helps_where_throttled_fans_are_not_enough(self) -> None:
        cold = replace(PLAN, loss_w_k=60.0)
        without = still(cold, -15.0)
        self.assertLess(float(without.degc[-1]), 4.0)
        self.assertEqual(float(without.exchange_m3_h[-1]), 30.0)
        heated = still(replace(cold, heating_w=5000.0), -15.0)
        self.assertAlmostEqual(float(heated.degc[-1]), 5.0, delta=0.05)
        hive = given_off(CASE, 0)
        warmth = 40 * float(np.interp(5.0, module._ASKED_DEGC, hive.heat_w))
        self.assertAlmostEqual(
            float(heated.heating_w[-1]), 20.0 * (60.0 + 30.0 * RHO_CP) - warmth, delta=10.0
        )

    def test_where_outside_is_warmer_fans_run_and_cannot_cool(self) -> None:
        hours = still(PLAN, 9.0)
        self.assertEqual(float(hours.exchange_m3_h[-1]), 600.0)
        self.assertGreater(float(hours.degc[-1]), 9.0)

    def test_a_tight_room_sweats_and_says_how_much(self) -> None:
        tight = replace(PLAN, least_m3_h=0.5, most_m3_h=0.5, loss_w_k=200.0)
        hours = still(tight, 2.0, 0.95)
        self.assertAlmostEqual(float(hours.humidity[-1]), 1.0)
        hive, degc = given_off(CASE, 0), float(hours.degc[-1])
        water = 40 * float(np.interp(degc, module._ASKED_DEGC, hive.water_kg_s)) * 3600.0
        self.assertAlmostEqual(float(hours.settles_kg[-1]), water, delta=0.02 * water)


class Winter(unittest.TestCase):
    def test_hours_go_over_the_turn_of_the_year(self) -> None:
        hours = room_hours(CASE, PLAN, (0, 10, 11))
        self.assertEqual(hours.hours.size, 24 * (31 + 30 + 31))
        self.assertEqual(int(hours.hours[0]), 304 * 24)
        self.assertTrue(np.isfinite(hours.degc).all())

    def test_more_air_is_drier_and_fresher(self) -> None:
        little = room_hours(CASE, replace(PLAN, least_m3_h=50.0, most_m3_h=50.0), (0,))
        much = room_hours(CASE, replace(PLAN, least_m3_h=300.0, most_m3_h=300.0), (0,))
        self.assertLess(float(much.co2.mean()), 0.5 * float(little.co2.mean()))
        self.assertLess(float(much.degc.mean()), float(little.degc.mean()))

    def test_refusals(self) -> None:
        with self.assertRaisesRegex(DomainError, "months in the room"):
            room_hours(CASE, PLAN, ())
        with self.assertRaisesRegex(DomainError, "under the least"):
            replace(PLAN, most_m3_h=10.0)


if __name__ == "__main__":
    unittest.main()
