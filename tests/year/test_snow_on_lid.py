"""Snow on the lid, an hour at a time and by hand."""

from __future__ import annotations

import unittest
from types import SimpleNamespace
from typing import Any

import numpy as np

from calveth.core.year import kernel_arrays as ka
from calveth.core.year import kernel_snow
from calveth.core.year.kernel_snow import CONDUCTS_W_MK, CONTACT_M2K_W, DENSITY

FUSION_J = 3.335e5
"""Of ice, any handbook [J/kg]."""


def plain(function: Any) -> Any:
    """Return the lines of a compiled function as Python runs them."""
    return getattr(function, "py_func", function)


def outer_film(degc: float) -> float:
    """Return the outer film of EN ISO 6946, annex C, in still air [m²·K/W]."""
    return 1.0 / (4.0 + 0.9 * 4 * 5.670374419e-8 * (degc + 273.15) ** 3)


class OneHour(unittest.TestCase):
    def step(
        self,
        snow: float,
        *,
        falls: float = 0.0,
        outside: float = -5.0,
        face: float = -1.0,
        melts: float = 0.0,
        most: float = 0.2,
        sun: float = 0.0,
        sky: float = 0.0,
    ) -> SimpleNamespace:
        """Return what an hour leaves of the snow on a lid of two surfaces."""
        walls = np.zeros((3, ka.WALL_COLUMNS))
        walls[:, ka.WALL_AREA] = 0.1, 0.05, 0.5
        walls[:, ka.WALL_FACE] = ka.LID, ka.LID, ka.SIDES
        extra, hour = np.zeros(ka.EXTRA_COLUMNS), np.zeros(ka.HOUR_COLUMNS)
        extra[ka.SNOW_MOST] = most
        hour[0], hour[ka.SNOW_FALLS] = outside, falls
        hour[ka.SUN_LID], hour[ka.SKY_W] = sun, sky
        felt = np.zeros((3, 5))
        felt[:, 4] = face, face, 30.0
        held = SimpleNamespace(snow=np.array([snow, melts]))
        shell = SimpleNamespace(walls=walls, extra=extra)
        plain(kernel_snow.keep_snow)(shell, held, hour, felt)
        return held

    def test_what_falls_lies(self) -> None:
        self.assertEqual(float(self.step(1.0, falls=2.0).snow[0]), 3.0)
        self.assertEqual(self.step(0.0).snow.tolist(), [0.0, 0.0])

    def test_it_melts_by_degree_days_from_above(self) -> None:
        """4 mm a day and kelvin: 3 °C for an hour take 0.5 kg/m²."""
        self.assertAlmostEqual(float(self.step(10.0, outside=3.0).snow[0]), 9.5, places=9)
        self.assertEqual(float(self.step(0.2, outside=3.0).snow[0]), 0.0)

    def test_no_more_lies_than_stays(self) -> None:
        self.assertEqual(float(self.step(49.0, falls=9.0).snow[0]), 0.2 * DENSITY)
        self.assertEqual(float(self.step(1.0, falls=9.0, most=0.0).snow[0]), 0.0)

    def test_a_warm_face_begins_to_melt_it_from_below(self) -> None:
        """What a face of 2 °C sends up through 4 cm of snow and the film above it."""
        held = self.step(10.0, face=2.0)
        above = outer_film(-5.0) + 10.0 / DENSITY / CONDUCTS_W_MK
        melts = 2.0 / above * 3600.0 / FUSION_J
        self.assertAlmostEqual(10.0 - float(held.snow[0]), melts, delta=0.01 * melts)
        self.assertEqual(float(held.snow[1]), 1.0)

    def test_a_melting_face_gives_what_the_cold_above_leaves(self) -> None:
        """A face of 1 °C through the contact, less what -5 °C draws up through the snow."""
        held = self.step(10.0, face=1.0, melts=1.0)
        above = outer_film(-5.0) + 10.0 / DENSITY / CONDUCTS_W_MK
        melts = (1.0 / CONTACT_M2K_W - 5.0 / above) * 3600.0 / FUSION_J
        self.assertAlmostEqual(10.0 - float(held.snow[0]), melts, delta=0.01 * melts)

    def test_in_hard_frost_it_melts_no_more(self) -> None:
        held = self.step(10.0, face=0.05, melts=1.0, outside=-25.0)
        self.assertEqual(held.snow.tolist(), [10.0, 0.0])

    def test_sun_warms_its_top_but_never_over_freezing(self) -> None:
        """0.3 of the sun: 100 W/m² warm still air of -5 °C by 3.6 K; 500 to 0 °C and no more."""
        film = outer_film(-5.0)
        for sun, sky, wanted in (
            (100.0, 0.0, -5.0 + 0.3 * 100.0 * film),
            (500.0, 0.0, 0.0),
            (0.0, 50.0, -5.0 - 0.97 * 50.0 * film),
        ):
            hour = np.zeros(ka.HOUR_COLUMNS)
            hour[0], hour[ka.SUN_LID], hour[ka.SKY_W] = -5.0, sun, sky
            got = float(plain(kernel_snow.snow_air_degc)(hour, film))
            self.assertAlmostEqual(got, wanted, places=6)

    def test_it_is_shown_by_its_depth(self) -> None:
        hour = np.zeros(ka.HOUR_COLUMNS)
        plain(kernel_snow.show_snow)(SimpleNamespace(snow=np.array([25.0, 1.0])), hour)
        self.assertAlmostEqual(float(hour[ka.SNOW_LID]), 0.10)
        self.assertEqual(float(hour[ka.SNOW_MELTS]), 1.0)


if __name__ == "__main__":
    unittest.main()
