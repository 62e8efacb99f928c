"""Every estimate the balance, the year or the climate reads is drawn, or it is said why not."""

from __future__ import annotations

import re
import unittest
from pathlib import Path
from types import ModuleType

import calveth.core
from calveth.core import constants, constants_bees, constants_year
from calveth.core.constant import Constant

CORE = Path(calveth.core.__file__).parent
ROOMS = ("nest", "year", "climate", "airflow", "moisture", "colony", "assess", "heat")
MODULES: tuple[ModuleType, ...] = (constants, constants_bees, constants_year)

ONE_OFFSET = "moves with the first of its course, which is drawn"
CHANCE = "of made-up weather: its chance is drawn, and a file takes its place"
READING = "where something is called wet, hot, bad or closed: a way of telling, not a law"
FACTOR = "a factor that is drawn stands before it"
SHELL = "part of the shell: its doubt is drawn as a whole, as a factor on what it conducts"
SUMMER_BEES = "moves with what else bees bear in heat, which is drawn as one offset"
NECTAR = (
    "of the flow: how much nectar comes is the keeper's own figure, and tenfold less sure than this"
)
SNOW = "of snow: how deep it lies on the lid is drawn, from bare to deep"
TURNED_OFF = "a bound that keeps the law finite; no shipped hive comes near it"
START = "where a keeper's own curve starts from; he sets it, and the mass of bees is drawn"
NOT_DRAWN = {
    "CLUSTER_LEFT_ALL": ONE_OFFSET,
    "CLUSTER_LOOSE_ALL": ONE_OFFSET,
    "FANNING_HOT_ALL": ONE_OFFSET,
    "FANNING_DAMP_ALL": ONE_OFFSET,
    "BEARD_FROM": SUMMER_BEES,
    "BEARD_ALL": SUMMER_BEES,
    "BEARD_MOST": SUMMER_BEES,
    "COOLING_FROM": SUMMER_BEES,
    "COOLING_ALL": SUMMER_BEES,
    "CLUSTER_INSIDE": "its doubt is in the heat of bees at rest and in the mantle, both drawn",
    "FANNING_FOUL_FROM": "how much air they fan is drawn; where they begin moves CO2 only",
    "FANNING_FOUL_ALL": "how much air they fan is drawn; where they begin moves CO2 only",
    "REST_HEAT_UP_TO": TURNED_OFF,
    "CORE_TEMPERATURE_BROOD": "34.5 °C within half a kelvin in any hive; the core is drawn",
    "CLUSTER_DENSITY": "draws the size of the cluster in the picture",
    "LATE_BROOD": START,
    "FLIGHT_FROM": START,
    "FORAGERS": START,
    "HEAVY_RAIN": START,
    "CO2_BAD": READING,
    "SEEN_FILM": READING,
    "BROOD_HARMED": READING,
    "BEARDING": READING,
    "WARM_MONTH": READING,
    "COOL_AIR": SHELL,
    "CORNER_SHAPE_FACTOR": SHELL,
    "WINTER_HUMIDITY": SHELL,
    "SUMMER_INSIDE": SHELL,
    "GROUND_FOLLOWS": "of hives on a slab only, and there within what the shell's factor spans",
    "LID_FADE": "of holes in the lid only, whose gusts are drawn",
    "QUILT_VENT_HEIGHT": "how well air washes a quilt is drawn",
    "RAIN_MOST_GROWN": TURNED_OFF,
    "WET_ALL_OVER": "the films along the walls, which dry the same water, are drawn",
    "CLING_WALL": FACTOR,
    "CLING_FLOOR": FACTOR,
    "CLING_COMB": FACTOR,
    "FLOOR_OF_BOARDS": FACTOR,
    "COMB_SORPTION": FACTOR,
    "BOARD_DEEPEST": FACTOR,
    "ICE_PLUG": FACTOR,
    "ICE_DENSITY": FACTOR,
    "NECTAR_UPTAKE": NECTAR,
    "NECTAR_MOST": NECTAR,
    "NECTAR_ROOM": NECTAR,
    "NECTAR_WARMTH": NECTAR,
    "NECTAR_DRIES": NECTAR,
    "NECTAR_STOPS": NECTAR,
    "SNOW_FALLS_BELOW": SNOW,
    "SNOW_DENSITY": SNOW,
    "SNOW_MELT": SNOW,
    "SNOW_CONDUCTIVITY": SNOW,
    "SNOW_ABSORBS": SNOW,
    "SNOW_EMITS": SNOW,
    "SNOW_CONTACT": SNOW,
    "SNOW_ON_SLOPE": SNOW,
    "SNOW_SHUTS": "leakage, which is what is left under snow, is drawn over a factor of nine",
    "TRACE_OF_WATER": TURNED_OFF,
    "SUN_OF_SWING": CHANCE,
    "DAYS_HOLD": CHANCE,
    "CLEAR_DAYS_HOLD": CHANCE,
    "CLEAR_AND_COLD": CHANCE,
    "SPREAD_OF_SEASONS": CHANCE,
    "SEASONS_APART": CHANCE,
    "DAMP_OF_DAYS": CHANCE,
    "DAMP_OF_HOURS": CHANCE,
    "DAMP_DAYS_HOLD": CHANCE,
    "CLEAR_BY_AIR_MASS": CHANCE,
    "WARMEST_HOUR": CHANCE,
    "MOST_SUN_THROUGH": CHANCE,
    "DAMPEST_HOUR": CHANCE,
    "WINDIEST_HOUR": CHANCE,
    "WIND_OF_HOURS": CHANCE,
    "WINDY_DAYS_HOLD": CHANCE,
    "WINDY_HOURS_HOLD": CHANCE,
    "WIND_SHAPE": CHANCE,
    "CLOUD_EMITS": CHANCE,
    "CLEAR_DAY_THROUGH": CHANCE,
    "GREY_DAY_THROUGH": CHANCE,
}


def estimates() -> dict[str, Constant]:
    """Return every constant with a range that a room of the balance reads, by its name."""
    text = "\n".join(
        path.read_text(encoding="utf-8") for room in ROOMS for path in (CORE / room).rglob("*.py")
    )
    words = set(re.findall(r"\b[A-Z][A-Z0-9_]+\b", text))
    return {
        name: item
        for module in MODULES
        for name, item in vars(module).items()
        if isinstance(item, Constant) and item.low is not None and name in words
    }


class Drawn(unittest.TestCase):
    def test_what_is_estimated_is_drawn_or_says_why_not(self) -> None:
        drawn = set(re.findall(r"\b[A-Z][A-Z0-9_]+\b", (CORE / "parameters.py").read_text("utf-8")))
        found = estimates()
        self.assertGreater(len(found), 80)
        self.assertEqual(sorted(set(found) - drawn - set(NOT_DRAWN)), [])

    def test_no_excuse_stands_for_what_is_drawn_or_gone(self) -> None:
        drawn = set(re.findall(r"\b[A-Z][A-Z0-9_]+\b", (CORE / "parameters.py").read_text("utf-8")))
        found = estimates()
        for name in NOT_DRAWN:
            with self.subTest(name=name):
                self.assertIn(name, found)
                self.assertNotIn(name, drawn)


if __name__ == "__main__":
    unittest.main()
