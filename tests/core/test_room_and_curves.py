"""The winter room, the yearly curves of colonies, and a slab under a daily sine."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from calveth.catalogue.library import shipped_places
from calveth.catalogue.shipped import demo_project
from calveth.core.assess.result import assess_months
from calveth.core.assess.winter_room import room_months
from calveth.core.calendar import DAYS_IN_MONTH
from calveth.core.climate.place import MonthClimate, WinterRoom, days_without_forage
from calveth.core.climate.sun import winter_noon_height_deg
from calveth.core.colony.curves import STRENGTHS, curves_for
from calveth.core.colony.room import room_air
from calveth.core.errors import DomainError
from calveth.core.heat.periodic import (
    face_matrix,
    layer_matrix,
    transmittance_and_admittance,
)
from tests.cases import hive_case
from tests.core.builders import TABLE, box, layer
from tests.core.test_colony import COLONY

PLACE = demo_project().place
WINTER = MonthClimate(temperature_degc=-5.0, daily_swing_k=6, relative_humidity=0.85, wind_m_s=2)


class Room(unittest.TestCase):
    def air(self, room: WinterRoom, outside: MonthClimate = WINTER):  # type: ignore[no-untyped-def]
        # A hive that burns 20 g a day: 13.4 g of water, 24.4 g of CO2, 2.5 W.
        return room_air(
            room, outside, 0.0, water_kg_s=13.4e-3 / 86400, co2_kg_s=24.4e-3 / 86400, heat_w=2.5
        )

    def test_co2_by_hand(self) -> None:
        air = self.air(WinterRoom(hives=100, target_co2=0.005))
        # 2.44 kg CO2 a day against a rise of 0.5 % less 425 ppm by volume, 1.519 by mass.
        rise = (0.005 - 425e-6) * 44.01 / 28.97
        per_hour = 2.44 / 24 / rise / 1.268
        self.assertAlmostEqual(air.for_co2_m3_h, per_hour, delta=0.03 * per_hour)
        self.assertAlmostEqual(air.co2_kg_day, 2.44)

    def test_humidity_by_psychrolib(self) -> None:
        import psychrolib

        psychrolib.SetUnitSystem(psychrolib.SI)
        room = WinterRoom(hives=100, temperature_degc=5.0, relative_humidity=0.6)
        air = self.air(room)
        w_room = psychrolib.GetHumRatioFromRelHum(5.0, 0.6, 101325)
        w_out = psychrolib.GetHumRatioFromRelHum(-5.0, 0.85, 101325)
        volume = psychrolib.GetMoistAirVolume(5.0, w_room, 101325)
        expected = 1.34 / 24 / (w_room - w_out) * volume
        assert air.for_humidity_m3_h is not None
        self.assertAlmostEqual(air.for_humidity_m3_h / expected, 1.0, delta=0.02)

    def test_outside_too_damp(self) -> None:
        warm = replace(WINTER, temperature_degc=8.0, relative_humidity=0.9)
        air = self.air(WinterRoom(relative_humidity=0.4), warm)
        self.assertIsNone(air.for_humidity_m3_h)
        self.assertGreater(air.humidity_at_co2_exchange, 0.4)

    def test_hives_add_up(self) -> None:
        one, many = (self.air(WinterRoom(hives=n)).for_co2_m3_h for n in (1, 250))
        self.assertAlmostEqual(many / one, 250.0, places=6)

    def test_months_over_the_turn_of_the_year(self) -> None:
        room = WinterRoom(first_month=11, last_month=3)
        self.assertEqual([k for k in range(12) if room.holds(k)], [0, 1, 2, 10, 11])
        south = WinterRoom(first_month=5, last_month=8)
        self.assertEqual([k for k in range(12) if south.holds(k)], [4, 5, 6, 7])

    def test_of_a_design(self) -> None:
        place = replace(PLACE, room=WinterRoom(hives=40))
        found = room_months(assess_months(hive_case(box(), place, COLONY, TABLE)))
        self.assertEqual([month for month, _ in found], [0, 1, 2, 10, 11])
        self.assertTrue(all(air.for_co2_m3_h > 0 for _, air in found))
        self.assertEqual(room_months(assess_months(hive_case(box(), PLACE, COLONY, TABLE))), [])

    def test_refusals(self) -> None:
        good = WinterRoom()
        for field, value, part in (
            ("first_month", 13, "first month"),
            ("temperature_degc", 80.0, "room temperature"),
            ("relative_humidity", 0.0, "humidity"),
            ("hives", 0, "hives"),
            ("target_co2", 0.9, "CO2"),
        ):
            with self.subTest(field=field), self.assertRaises(DomainError) as caught:
                replace(good, **{field: value})  # type: ignore[arg-type]
            self.assertIn(part, str(caught.exception))


class Curves(unittest.TestCase):
    def test_nectar_comes_with_forage_while_brood_grows(self) -> None:
        """At the demo's place much as the demo's own colony has it: 0.3, 0.4, 0.3 kg of water."""
        for shipped in shipped_places():
            colony = curves_for(shipped.place, "normal")
            for month, without in enumerate(days_without_forage(shipped.place)):
                if without >= DAYS_IN_MONTH[month]:
                    self.assertEqual(colony.nectar_kg_day[month], 0.0)
            self.assertLessEqual(max(colony.nectar_kg_day), 0.4)
        demo = demo_project()
        own = curves_for(demo.place, "normal").nectar_kg_day
        self.assertAlmostEqual(sum(own), sum(demo.colony.nectar_kg_day), delta=0.4)
        self.assertGreater(min(own[5:7]), 0.25)
        self.assertGreater(max(curves_for(demo.place, "strong").nectar_kg_day), 1.5 * max(own))

    def test_everywhere_and_every_strength(self) -> None:
        for shipped in shipped_places():
            peaks = []
            for strength in STRENGTHS:
                colony = curves_for(shipped.place, strength)
                with self.subTest(place=shipped.id, strength=strength):
                    self.assertEqual(len(colony.mass_kg), 12)
                    self.assertTrue(all(0 <= b <= 1 for b in colony.brood_share))
                    self.assertLess(min(colony.mass_kg), max(colony.mass_kg) + 1e-9)
                peaks.append(max(colony.mass_kg))
            self.assertEqual(peaks[:4], sorted(peaks[:4]))

    def test_brood_rests_in_the_cold_of_either_hemisphere(self) -> None:
        places = {s.id: s.place for s in shipped_places()}
        north = curves_for(places["dorn-plain"], "normal").brood_share
        self.assertEqual(north[0], 0.0)
        self.assertGreater(north[5], 0.9)
        south = curves_for(places["whare-downs"], "normal").brood_share
        self.assertLess(south[6], south[0])

    def test_stingless_bees_have_their_own_numbers(self) -> None:
        place = next(s.place for s in shipped_places() if s.id == "tamoru")
        small, honey = curves_for(place, "small stingless bees"), curves_for(place, "normal")
        self.assertLess(max(small.mass_kg), 0.1)
        self.assertLess(small.core_brood_degc, honey.core_brood_degc)


class Places(unittest.TestCase):
    def test_ten_climates_and_both_hemispheres(self) -> None:
        places = [s.place for s in shipped_places()]
        self.assertGreaterEqual(len(places), 10)
        self.assertTrue(any(p.latitude_deg < 0 for p in places))
        self.assertEqual(len({s.climate for s in shipped_places()}), len(places))
        for place in places:
            with self.subTest(place=place.name):
                self.assertIn("invented", place.name)
                warm = [m.temperature_degc for m in place.months]
                hottest = warm.index(max(warm))
                if place.latitude_deg > 20:
                    self.assertIn(hottest, (5, 6, 7))
                if place.latitude_deg < -20:
                    self.assertIn(hottest, (11, 0, 1))

    def test_the_noon_sun_of_midwinter(self) -> None:
        # 90° less latitude less 23.44° (astronomy): pvlib agrees at the solstice.
        import pandas as pd
        from pvlib import solarposition

        times = pd.date_range("2026-12-21", periods=24 * 60, freq="min", tz="UTC")
        for latitude in (0.0, 47.2, 60.0):
            sun = solarposition.get_solarposition(times, latitude, 0.0)
            self.assertAlmostEqual(
                float(sun["elevation"].max()), winter_noon_height_deg(latitude), delta=0.1
            )
        self.assertLess(winter_noon_height_deg(70.0), 0.0)


class DailySine(unittest.TestCase):
    """EN ISO 13786:2017."""

    def test_slow_heat_is_steady_heat(self) -> None:
        stack = (layer("softwood", 32), layer("xps", 40), layer("plywood", 9))
        matrix = face_matrix(stack, TABLE, "horizontal", period_s=1e10)
        through, inside = transmittance_and_admittance(matrix)
        u = 1 / (0.13 + 0.032 / 0.13 + 0.04 / 0.034 + 0.009 / 0.13 + 0.04)
        self.assertAlmostEqual(abs(through), u, places=6)
        self.assertAlmostEqual(abs(inside), u, places=6)

    def test_a_layer_keeps_energy(self) -> None:
        # The determinant of every transfer matrix is one.
        matrix = layer_matrix(0.2, 0.6, 1600, 1000)
        self.assertAlmostEqual(complex(np.linalg.det(matrix)), 1.0 + 0j, places=9)

    def test_against_an_independent_time_march(self) -> None:
        """A brick of 200 mm between fixed surface temperatures, stepped through days."""
        d, lam, rho, cp, n = 0.2, 0.77, 1800.0, 1000.0, 80
        dx, dt = d / n, 60.0
        t = np.zeros(n + 1)
        a = lam / (rho * cp) * dt / dx**2
        main = np.diag(np.full(n - 1, 1 + 2 * a))
        step = np.linalg.inv(main - np.diag(np.full(n - 2, a), 1) - np.diag(np.full(n - 2, a), -1))
        flux, times = [], np.arange(0, 8 * 86400, dt)
        for time in times:
            t[-1] = np.sin(2 * np.pi * time / 86400)
            right = t[1:-1].copy()
            right[-1] += a * t[-1]
            t[1:-1] = step @ right
            flux.append(lam * (t[1] - t[0]) / dx)
        last = slice(-1440, None)
        wave = np.exp(-2j * np.pi * times[last] / 86400)
        got = 2 * np.mean(np.array(flux)[last] * wave) * 1j
        matrix = layer_matrix(d, lam, rho, cp)
        expected = -1 / matrix[0, 1]
        self.assertAlmostEqual(abs(got), abs(complex(expected)), delta=0.02)

    def test_heavy_walls_delay_and_damp(self) -> None:
        wall = (layer("brick", 200),)
        u = 1 / (0.13 + 0.2 / 0.77 + 0.04)
        matrix = face_matrix(wall, TABLE, "horizontal")
        y12 = -1 / matrix[0, 1]
        decrement = abs(y12) / u
        lag = float(np.angle(-matrix[0, 1]) % (2 * np.pi)) / (2 * np.pi) * 24.0
        # Brick of 200 mm: decrement about 0.5, lag about 6 h (from memory of handbook tables).
        self.assertTrue(0.35 < decrement < 0.65)
        self.assertTrue(4.5 < lag < 7.5)


if __name__ == "__main__":
    unittest.main()
