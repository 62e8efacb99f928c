"""The year of the bees follows the forage weeks; the apiary stays as it is.

Source: common practice, no source; what is checked is the arithmetic of the calendar.
"""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from calveth.catalogue.library import shipped_places
from calveth.catalogue.shipped import demo_project
from calveth.core.colony.moved import moved_with_forage
from calveth.core.edits import set_weather
from calveth.store.weather import snow_weeks

DEMO = demo_project()
COLONY, HERE = DEMO.colony, DEMO.place
# Four weeks later out and four weeks earlier in.
SHORT = replace(
    HERE,
    first_forage_week=HERE.first_forage_week + 4,
    last_forage_week=HERE.last_forage_week - 4,
)


def middle_of(values: tuple[float, ...]) -> float:
    """Return the middle of a yearly curve, in months of a circle."""
    angle = np.exp(2j * np.pi * (np.arange(12) + 0.5) / 12)
    return float(np.angle((np.array(values) * angle).sum()) / (2 * np.pi) * 12 % 12)


class Moved(unittest.TestCase):
    def test_the_same_weeks_change_nothing(self) -> None:
        self.assertIs(moved_with_forage(COLONY, HERE, HERE), COLONY)

    def test_a_shorter_season_is_a_shorter_brood(self) -> None:
        moved = moved_with_forage(COLONY, HERE, SHORT)
        self.assertLess(sum(moved.brood_share), sum(COLONY.brood_share))
        self.assertLess(sum(moved.activity_kg_day), sum(COLONY.activity_kg_day))
        self.assertAlmostEqual(max(moved.mass_kg), max(COLONY.mass_kg), delta=0.25)
        self.assertEqual(moved.stores_kg, COLONY.stores_kg)
        longer = moved_with_forage(COLONY, SHORT, HERE)
        self.assertGreater(sum(longer.brood_share), sum(COLONY.brood_share))

    def test_the_other_half_of_the_world_is_half_a_year_off(self) -> None:
        south = replace(
            HERE,
            first_forage_week=HERE.first_forage_week + 26,
            last_forage_week=HERE.last_forage_week - 26,
        )
        moved = moved_with_forage(COLONY, HERE, south)
        off = (middle_of(moved.brood_share) - middle_of(COLONY.brood_share)) % 12
        self.assertAlmostEqual(off, 6.0, delta=0.15)
        back = moved_with_forage(moved, south, HERE)
        np.testing.assert_allclose(back.mass_kg, COLONY.mass_kg, atol=0.12)

    def test_between_all_shipped_places_it_is_a_colony(self) -> None:
        for before in (p.place for p in shipped_places()):
            for after in (p.place for p in shipped_places()):
                with self.subTest(before=before.name, after=after.name):
                    moved = moved_with_forage(COLONY, before, after)
                    self.assertLessEqual(max(moved.mass_kg), max(COLONY.mass_kg) + 1e-9)
                    self.assertGreaterEqual(min(moved.mass_kg), min(COLONY.mass_kg) - 1e-9)

    def test_the_apiary_stays_as_it_is(self) -> None:
        ours = replace(HERE, shelter="sheltered", facing_deg=77.0, terrain="farmland")
        project = replace(DEMO, place=ours)
        there = replace(SHORT, name="elsewhere", shelter="normal", facing_deg=135.0)
        moved = set_weather(project, there, move_bees=True)
        self.assertEqual(moved.place.name, "elsewhere")
        kept = (moved.place.shelter, moved.place.facing_deg, moved.place.terrain)
        self.assertEqual(kept, ("sheltered", 77.0, "farmland"))
        self.assertEqual(moved.colony, moved_with_forage(COLONY, ours, there))
        self.assertNotEqual(moved.colony, COLONY)
        self.assertEqual(set_weather(project, there, move_bees=False).colony, COLONY)

    def test_snow_is_guessed_from_frost(self) -> None:
        wave = -np.cos(2 * np.pi * (np.arange(12) + 0.5) / 12)
        first, last = snow_weeks(list(5 + 10 * wave))
        # Below nought where the cosine is over a half: two months to each side of the new year.
        self.assertAlmostEqual(first, 52 - 52 / 6, delta=1.0)
        self.assertAlmostEqual(last, 52 / 6, delta=1.0)
        self.assertEqual(snow_weeks(list(15 + 10 * wave)), (0, 0))
        self.assertEqual(snow_weeks(list(-15 + 10 * wave)), (1, 52))


if __name__ == "__main__":
    unittest.main()
