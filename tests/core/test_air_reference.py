"""Psychrometrics against two general reference libraries over the whole range.

psychrolib (ASHRAE Handbook 2017 formulas) and CoolProp (humid-air properties after Herrmann et
al. 2009); −40 to 60 °C, 1 to 100 % RH, 60 to 105 kPa. EN ISO 13788's curve is a two-constant fit;
the tolerances below are its distance from these references, not ours from it.
"""

from __future__ import annotations

import itertools
import unittest
import warnings

import numpy as np
import psychrolib
from CoolProp.HumidAirProp import HAPropsSI

from calveth.core.climate.air import (
    density_kg_m3,
    dew_point_degc,
    humidity_ratio,
    saturation_pressure_over_water_pa,
    saturation_pressure_pa,
    station_pressure_pa,
    vapour_pressure_pa,
)

TEMPERATURES = tuple(float(t) for t in range(-40, 61, 5))
HUMIDITIES = (0.01, 0.05, 0.2, 0.4, 0.6, 0.8, 0.95, 1.0)
PRESSURES = (60e3, 75e3, 90e3, 101325.0, 105e3)


class AgainstPsychrolib(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        psychrolib.SetUnitSystem(psychrolib.SI)

    def test_saturation_pressure(self) -> None:
        for t in TEMPERATURES:
            with self.subTest(t=t):
                expected = psychrolib.GetSatVapPres(t)
                allowed = 0.004 if t >= -10 else 0.02
                self.assertLess(abs(float(saturation_pressure_pa(t)) / expected - 1), allowed)

    def test_dew_point(self) -> None:
        for t, rh in itertools.product(TEMPERATURES, HUMIDITIES):
            with self.subTest(t=t, rh=rh):
                expected = psychrolib.GetTDewPointFromRelHum(t, rh)
                got = float(dew_point_degc(vapour_pressure_pa(t, rh)))
                # Far below the −40 °C of any climate file the ice fit drifts by up to 1 K.
                allowed = 0.2 if expected > -40 else 1.1
                self.assertLess(abs(got - expected), allowed)

    def test_humidity_ratio(self) -> None:
        for t, rh, p in itertools.product(TEMPERATURES, HUMIDITIES, PRESSURES):
            with self.subTest(t=t, rh=rh, p=p):
                expected = psychrolib.GetHumRatioFromVapPres(
                    psychrolib.GetVapPresFromRelHum(t, rh), p
                )
                if expected <= 1.1e-7:  # psychrolib clamps here, silently
                    continue
                pv = np.asarray(psychrolib.GetVapPresFromRelHum(t, rh))
                self.assertLess(abs(float(humidity_ratio(pv, p)) / expected - 1), 1e-3)

    def test_density(self) -> None:
        none = np.asarray(0.0)
        for t, rh, p in itertools.product(TEMPERATURES, HUMIDITIES, PRESSURES):
            with self.subTest(t=t, rh=rh, p=p):
                pv = psychrolib.GetVapPresFromRelHum(t, rh)
                w = psychrolib.GetHumRatioFromVapPres(pv, p)
                expected = psychrolib.GetMoistAirDensity(t, w, p)
                got = float(density_kg_m3(np.asarray(t), np.asarray(pv), none, p))
                self.assertLess(abs(got / expected - 1), 5e-4)

    def test_station_pressure(self) -> None:
        for altitude in (-400.0, 0.0, 500.0, 1500.0, 3000.0, 4800.0):
            with self.subTest(altitude=altitude):
                expected = psychrolib.GetStandardAtmPressure(altitude)
                self.assertAlmostEqual(station_pressure_pa(altitude) / expected, 1.0, places=4)


class AgainstCoolProp(unittest.TestCase):
    def test_dew_point(self) -> None:
        for t, rh, p in itertools.product(TEMPERATURES, HUMIDITIES, (60e3, 101325.0, 105e3)):
            with self.subTest(t=t, rh=rh, p=p):
                expected = HAPropsSI("D", "T", t + 273.15, "P", p, "R", rh) - 273.15
                got = float(dew_point_degc(vapour_pressure_pa(t, rh)))
                allowed = 0.25 if expected > -40 else 1.2
                self.assertLess(abs(got - expected), allowed)

    def test_vapour_pressure_of_real_moist_air(self) -> None:
        # Real moist air holds up to 0.5 % more water than the ideal mixture (enhancement factor).
        for t, rh in itertools.product(TEMPERATURES, (0.2, 0.6, 1.0)):
            with self.subTest(t=t, rh=rh):
                expected = HAPropsSI("P_w", "T", t + 273.15, "P", 101325.0, "R", rh)
                got = float(vapour_pressure_pa(t, rh))
                self.assertLess(abs(got / expected - 1), 0.01 if t >= -10 else 0.025)

    def test_density_of_moist_air(self) -> None:
        none = np.asarray(0.0)
        for t, rh, p in itertools.product(TEMPERATURES[::2], (0.01, 0.5, 1.0), (60e3, 105e3)):
            with self.subTest(t=t, rh=rh, p=p):
                volume = HAPropsSI("Vha", "T", t + 273.15, "P", p, "R", rh)
                pv = HAPropsSI("P_w", "T", t + 273.15, "P", p, "R", rh)
                got = float(density_kg_m3(np.asarray(t), np.asarray(pv), none, p))
                self.assertLess(abs(got * volume - 1), 2.5e-3)


class Directions(unittest.TestCase):
    """Pins the sense of every conversion so that none can silently turn round."""

    def test_dew_point_is_the_inverse_of_saturation(self) -> None:
        t = np.linspace(-60, 60, 241)
        back = dew_point_degc(saturation_pressure_pa(t))
        self.assertLess(float(np.max(np.abs(back - t))), 1e-9)

    def test_humidity_up_dew_point_up(self) -> None:
        dew = dew_point_degc(vapour_pressure_pa(12.0, np.array([0.2, 0.5, 0.9, 1.0])))
        self.assertTrue(np.all(np.diff(dew) > 0))
        self.assertAlmostEqual(float(dew[-1]), 12.0)

    def test_vapour_makes_air_lighter_and_co2_heavier(self) -> None:
        t, zero = np.asarray(10.0), np.asarray(0.0)
        dry = float(density_kg_m3(t, zero, zero, 1e5))
        moist = float(density_kg_m3(t, np.asarray(1000.0), zero, 1e5))
        breath = float(density_kg_m3(t, zero, np.asarray(0.05), 1e5))
        self.assertLess(moist, dry)
        self.assertGreater(breath, dry)

    def test_co2_density_against_coolprop(self) -> None:
        from CoolProp.CoolProp import PropsSI

        got = float(density_kg_m3(np.asarray(5.0), np.asarray(0.0), np.asarray(1.0), 1e5))
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            expected = PropsSI("D", "T", 278.15, "P", 1e5, "CO2")
        self.assertLess(abs(got / expected - 1), 0.01)  # ideal gas against real CO2

    def test_over_ice_lies_below_over_water(self) -> None:
        for t in (-30.0, -10.0, -1.0):
            with self.subTest(t=t):
                self.assertLess(
                    float(saturation_pressure_pa(t)), float(saturation_pressure_over_water_pa(t))
                )

    def test_out_of_range_is_said_not_clipped(self) -> None:
        for t in (-81.0, 101.0, float("nan")):
            with self.subTest(t=t), self.assertRaises(ValueError):
                saturation_pressure_pa(t)
        for p in (0.0, -3.0, float("nan")):
            with self.subTest(p=p), self.assertRaises(ValueError):
                dew_point_degc(p)


if __name__ == "__main__":
    unittest.main()
