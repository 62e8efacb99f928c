"""One wrong value in openings, windows, seasons, rooms and bees: the sentence names the field.

Walls, places and the document itself are in `test_json`.
"""

from __future__ import annotations

import copy
import json
import tempfile
import unittest
from pathlib import Path
from typing import Any

from calveth.catalogue.shipped import demo_project
from calveth.store.errors import FileError
from calveth.store.json_file import read_json, write_json

WALL = ("designs", 1, "shell", "walls", 0)
LOW = ("designs", 1, "openings", 0)

# Where, what is put there, and words the sentence must have.
WRONG: tuple[tuple[tuple[str | int, ...], Any, str], ...] = (
    ((*WALL, "thickness_m"), 0, "thickness"),
    ((*WALL, "thickness_m"), 50, "thickness"),
    ((*WALL, "material"), "", "material"),
    ((*WALL, "mixed_share"), 1.2, "share"),
    ((*WALL, "mixed_share"), 0.2, "second material"),
    ((*WALL, "vents_m2_m"), -1, "vents"),
    ((*WALL, "fitting"), "nailed", "fitting"),
    ((*LOW, "height_m"), 0, "height"),
    ((*LOW, "bottom_m"), 2.0, "low entrance"),
    ((*LOW, "free_share"), 1.5, "share"),
    ((*LOW, "mesh_share"), -0.1, "mesh"),
    ((*LOW, "propolis_share"), 2, "propolis"),
    ((*LOW, "count"), 0, "holes"),
    ((*LOW, "count"), 2.5, "count"),
    ((*LOW, "shape"), "star", "shape"),
    ((*LOW, "side"), "top", "side"),
    ((*LOW, "lift_m"), 9, "lift"),
    ((*LOW, "tunnel_m"), -1, "tunnel"),
    (("designs", 1, "openings", 1, "id"), "low", "low"),
    (("designs", 1, "form", "frame_count"), 0, "frame"),
    (("designs", 1, "form", "frame_height_m"), 0.3, "frame"),
    (("designs", 1, "joints"), "loose", "joints"),
    (("designs", 1, "tilt_deg"), 80, "tilt"),
    (
        ("designs", 1, "window"),
        {
            "bottom_m": 0.1,
            "width_m": 5,
            "height_m": 0.1,
            "stack": [{"material": "softwood", "thickness_m": 0.004}],
        },
        "window",
    ),
    (
        ("designs", 1, "window"),
        {"bottom_m": 0.1, "width_m": 0.1, "height_m": 0.1, "stack": []},
        "pane",
    ),
    (("designs", 1, "seasons"), {"periods": [{"from_day": 400, "setting": {}}]}, "first day"),
    (
        ("designs", 1, "seasons"),
        {"periods": [{"from_day": 1, "setting": {"open_shares": [["low", 7]]}}]},
        "share",
    ),
    (("designs", 1, "id"), "polystyrene", "polystyrene"),
    (("place", "latitude_deg"), True, "latitude"),
    (("place", "altitude_m"), 20000, "altitude"),
    (("place", "months", 3, "temperature_degc"), 300, "temperature"),
    (("place", "months", 3, "rain_mm"), -1, "rain"),
    (("place", "first_snow_week"), 60, "snow"),
    (("place", "side_shelter"), ["open"], "shelter"),
    (("place", "room"), {"first_month": 13}, "month"),
    (("place", "room"), {"hives": 0}, "hives"),
    (("colony", "mass_kg"), [1.0] * 11, "mass"),
    (("colony", "stores_kg"), -1, "stores"),
    (("materials", 0, "vapour_resistance_factor"), None, "vapour"),
    (("materials", 0, "certainty"), "sure", "certainty"),
    (("school",), "night school", "school"),
    (("years_of_use",), 0, "years"),
    (("honey_price_eur_kg",), "8 €", "honey"),
)


class OneWrongValue(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.path = Path(folder.name) / "p.json"
        write_json(self.path, demo_project())
        self.good = json.loads(self.path.read_text(encoding="utf-8"))

    def test_each_is_named(self) -> None:
        for where, value, word in WRONG:
            document = copy.deepcopy(self.good)
            at: Any = document["project"]
            for step in where[:-1]:
                at = at[step]
            at[where[-1]] = value
            self.path.write_text(json.dumps(document), encoding="utf-8")
            with self.subTest(where=where, value=value), self.assertRaises(FileError) as caught:
                read_json(self.path)
            if hasattr(caught, "exception"):
                with self.subTest(where=where, value=value):
                    said = str(caught.exception)
                    self.assertIn(word, said)
                    self.assertNotIn("Traceback", said)
                    self.assertEqual(len(said.splitlines()), 1)

    def test_the_good_one_is_read(self) -> None:
        self.assertEqual(read_json(self.path), demo_project())


if __name__ == "__main__":
    unittest.main()
