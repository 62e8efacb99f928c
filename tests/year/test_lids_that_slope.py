"""Lids that slope shed water to rim and wall by the hour, and leaning sides have their own sun.

Source: common practice (from about 10° water runs instead of dripping); the sun of a tilted face is
pvlib's, a general reference library.
"""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import cast

import numpy as np
import pandas as pd
import pvlib

from calveth.catalogue.library import new_project, shipped_frames, shipped_make_ups, shipped_places
from calveth.core.case import estimated_case
from calveth.core.climate.air import SIDES, saturation_pressure_over_water_pa
from calveth.core.climate.year import sun_on_slants, year_weather
from calveth.core.constants import (
    GAS_CONSTANT_VAPOUR,
    LATENT_HEAT_ICE,
    LATENT_HEAT_WATER,
    QUILT_VENT_HEIGHT,
)
from calveth.core.hive.design import LidShape
from calveth.core.hive.forms import BarTrough
from calveth.core.moisture.quilt import vent_flow_m3_s
from calveth.core.nest.kernel_arrays import PE, TE, WIND
from calveth.core.nest.kernel_parts import UPPER_WALL
from calveth.core.year import kernel_arrays as ka
from calveth.core.year.kernel_arrays import new_held
from calveth.core.year.kernel_rain import rain_on_faces
from calveth.core.year.kernel_water import (
    freeze_and_melt,
    keep_quilt,
    run_off_sides,
    run_on,
)
from calveth.core.year.run import on_leaning_sides, run_year
from calveth.core.year.through import Replay
from tests.year.cases import PROJECT, case_of, year_of

FRONT = SIDES.index("front")


class Slopes(unittest.TestCase):
    def test_no_drop_falls_from_a_lid_that_slopes(self) -> None:
        flat = year_of("timber")
        case = case_of("timber")
        shapes: tuple[tuple[LidShape, float], ...] = (("sloped", 15.0), ("domed", 45.0))
        for shape, slope in shapes:
            with self.subTest(shape=shape):
                sloped = run_year(
                    case.of(replace(case.design, lid_slope_deg=slope, lid_shape=shape))
                )
                self.assertGreater(float(flat.column("dripped_kg").sum()), 0.02)
                self.assertEqual(float(sloped.column("dripped_kg").sum()), 0.0)

    def test_a_slight_tilt_still_drips(self) -> None:
        case = case_of("timber")
        tilted = run_year(case.of(replace(case.design, lid_slope_deg=3.0, lid_shape="sloped")))
        self.assertGreater(float(tilted.column("dripped_kg").sum()), 0.02)


class RunOn(unittest.TestCase):
    def test_what_comes_from_the_lid_is_on_all_sides_alike_and_its_ice_stays(self) -> None:
        held = new_held()
        held.film_kg[2], held.ice[2] = 0.02, 0.5
        held.side_kg[:] = (0.02, 0.0, 0.0, 0.0)
        run_on(held, 2, 0.04)
        np.testing.assert_allclose(held.side_kg, (0.03, 0.01, 0.01, 0.01))
        self.assertAlmostEqual(float(held.film_kg[2]), float(held.side_kg.sum()))
        self.assertAlmostEqual(float(held.ice[2] * held.film_kg[2]), 0.01)
        run_on(held, 1, 0.03)
        np.testing.assert_allclose(held.side_kg.sum(), 0.06)


class RunOff(unittest.TestCase):
    def test_each_side_holds_a_quarter_of_what_clings_and_its_ice(self) -> None:
        """By hand: 80 g cling to the wall, 20 g to a side; nine tenths are ice in the second."""
        shell = cast(Replay, year_of("timber").replay).starts[0][2].shells[0]
        walls = shell.walls.copy()
        walls[UPPER_WALL, ka.WALL_CLING] = 0.08
        for ice, off in ((0.0, 0.03), (0.9, 0.005)):
            held = new_held()
            held.side_kg[:] = (0.05, 0.01, 0.02, 0.0)
            held.film_kg[UPPER_WALL], held.ice[UPPER_WALL] = 0.08, ice
            with self.subTest(ice=ice):
                self.assertAlmostEqual(run_off_sides(shell._replace(walls=walls), held), off)
                np.testing.assert_allclose(held.side_kg, (0.05 - off, 0.01, 0.02, 0.0))


class DrivingRain(unittest.TestCase):
    def test_a_side_drinks_what_the_standard_drives_against_it(self) -> None:
        """EN ISO 15927-3: 2/9·v·r^(8/9)·cos; nothing dries, all is drunk, the lid what falls."""
        shell = cast(Replay, year_of("timber").replay).starts[0][2].shells[0]
        thirsty = shell.rain.copy()
        thirsty[:, ka.RAIN_ON], thirsty[:, ka.RAIN_DRINK] = 1.0, 1e6
        thirsty[:, ka.RAIN_MOST], thirsty[:, ka.RAIN_DRY] = 1e6, 0.0
        hour, held, heat = np.zeros(64), new_held(), np.zeros(5)
        hour[ka.RAIN_MM], hour[WIND], hour[PE] = 4.0, 3.0, 900.0
        cosines = np.array([1.0, 0.5, 0.0, 0.25])
        rain_on_faces(shell._replace(rain=thirsty), held, hour, 8.0, 8.0, cosines, heat)
        driven = 2 / 9 * 3.0 * 4.0 ** (8 / 9)
        np.testing.assert_allclose(held.rain[:5], [*(driven * cosines), 4.0])
        hour[ka.SNOW_LID] = 0.1
        rain_on_faces(shell._replace(rain=thirsty), held, hour, 8.0, 8.0, cosines, heat)
        np.testing.assert_allclose(held.rain[4], 4.0)  # under snow it drinks nothing


class Frost(unittest.TestCase):
    def test_half_of_the_heat_that_would_bring_it_to_nought_is_turned_over(self) -> None:
        """By hand: half of h·|T|·A for an hour, over the heat of ice; of 0.5 kg, 0.4 of it ice."""
        start = cast(Replay, year_of("timber").replay).starts[0]
        shell, held, k = start[2].shells[0], new_held(), 0
        area = float(shell.walls[k, ka.WALL_AREA])
        melt_j = LATENT_HEAT_ICE.value - LATENT_HEAT_WATER.value
        for degc in (-3.0, 2.0):
            held.film_kg[k], held.ice[k], held.surface_degc[k] = 0.5, 0.4, degc
            freeze_and_melt(shell, held, k, 0.0, 0.0)
            turned = 0.5 * float(shell.film[k]) * degc * area * 3600.0 / melt_j
            self.assertLess(abs(turned), 0.2)
            with self.subTest(degc=degc):
                self.assertAlmostEqual(float(held.ice[k]), 0.4 - turned / 0.5, places=9)
                flow = turned * melt_j / (area * 3600.0)
                self.assertAlmostEqual(float(held.melting[k]), flow, places=9)


class Quilts(unittest.TestCase):
    def test_its_vents_carry_off_what_the_months_say(self) -> None:
        """A quilt wet through, no vapour from below: what leaves is flow times the drier air."""
        start = cast(Replay, year_of("quilt").replay).starts[0]
        shell, held = start[2].shells[0], new_held()
        extra = shell.extra.copy()
        extra[ka.QUILT_ON], extra[ka.QUILT_KG], extra[ka.QUILT_VENTS] = 1.0, 50.0, 0.002
        extra[ka.QUILT_PASS], extra[ka.QUILT_WASH], extra[ka.QUILT_INNER] = 0.0, 1.0, 0.4
        held.quilt[0], held.x[2] = 20.0, 12.0
        hour = np.zeros(64)
        hour[TE], hour[PE], hour[WIND] = 2.0, 500.0, 1.5
        ledger, row = np.zeros(64), np.zeros(64)
        keep_quilt(shell._replace(extra=extra), held, hour, ledger, row)
        degc = 12.0 - 10.0 * 0.4
        flow = float(
            vent_flow_m3_s(0.002, QUILT_VENT_HEIGHT.value, np.array([degc - 2.0]), np.array([1.5]))[
                0
            ]
        )
        drier = float(saturation_pressure_over_water_pa(degc)) - 500.0
        wanted = flow * drier / (GAS_CONSTANT_VAPOUR.value * (degc + 273.15)) * 3600.0
        self.assertAlmostEqual((20.0 - float(held.quilt[0])) / wanted, 1.0, places=3)


class Slants(unittest.TestCase):
    def setUp(self) -> None:
        self.place = replace(PROJECT.place, facing_deg=180.0)
        self.weather = year_weather(self.place)

    def test_an_upright_side_is_what_the_weather_says(self) -> None:
        one = sun_on_slants(self.weather, self.place, FRONT, ((90.0, 1.0),))
        np.testing.assert_allclose(one, self.weather.sun_side_w_m2[FRONT], atol=1e-9)

    def test_front_and_back_of_a_trough_lean_and_its_ends_stand(self) -> None:
        frames = next(f for f in shipped_frames() if isinstance(f.form, BarTrough))
        project = new_project("t", shipped_places()[0], frames, shipped_make_ups()[0])
        case = estimated_case(project, project.designs[0])
        weather = year_weather(case.place)
        leaning = on_leaning_sides(weather, case)
        for side, name in enumerate(SIDES):
            same = bool(np.all(leaning.sun_side_w_m2[side] == weather.sun_side_w_m2[side]))
            with self.subTest(side=name):
                self.assertEqual(same, name not in ("front", "back"))

    def test_parts_of_a_side_count_by_their_share(self) -> None:
        up = sun_on_slants(self.weather, self.place, FRONT, ((90.0, 1.0),))
        lean = sun_on_slants(self.weather, self.place, FRONT, ((60.0, 1.0),))
        both = sun_on_slants(self.weather, self.place, FRONT, ((90.0, 0.25), (60.0, 0.75)))
        np.testing.assert_allclose(both, 0.25 * up + 0.75 * lean, atol=1e-9)

    def test_the_direct_sun_follows_the_angle_pvlib_gives(self) -> None:
        """Noon in June, Hay and Davies 1980 as pvlib has it, for faces leaning back and over."""
        hour = 24 * 171 + 12
        angles = {}
        for tilt in (60.0, 90.0, 110.0):
            sun = sun_on_slants(self.weather, self.place, FRONT, ((tilt, 1.0),))
            angles[tilt] = float(sun[hour])
        self.assertGreater(angles[60.0], angles[90.0])
        self.assertGreater(angles[90.0], angles[110.0])
        at = pvlib.solarposition.get_solarposition(
            pd.DatetimeIndex(["2025-06-21T12:30"], tz="Etc/GMT-1"),
            self.place.latitude_deg,
            self.place.longitude_deg,
        )
        zenith, azimuth = float(at["apparent_zenith"].iloc[0]), float(at["azimuth"].iloc[0])
        level = float(self.weather.global_sun_w_m2[hour])
        scattered = float(self.weather.diffuse_sun_w_m2[hour])
        for tilt, found in angles.items():
            wanted = pvlib.irradiance.get_total_irradiance(
                tilt,
                180.0,
                zenith,
                azimuth,
                (level - scattered) / np.cos(np.radians(zenith)),
                level,
                scattered,
                pvlib.irradiance.get_extra_radiation(172),
                albedo=0.2,
                model="haydavies",
            )["poa_global"]
            with self.subTest(tilt=tilt):
                self.assertAlmostEqual(found / float(wanted), 1.0, delta=0.05)


if __name__ == "__main__":
    unittest.main()
