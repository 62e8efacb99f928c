"""Names that follow the make, and the numbers of copies."""

from __future__ import annotations

import unittest
from dataclasses import replace

from calveth.catalogue.library import new_project, shipped_frames, shipped_make_ups, shipped_places
from calveth.catalogue.naming import follow_make, make_name, numbered
from calveth.catalogue.shipped import shipped_materials
from calveth.core.edits import (
    add_layer,
    duplicate_design,
    next_name,
    rename_design,
    set_layer_thickness,
)

HEAVY = next(m for m in shipped_make_ups() if m.name.startswith("Heavy box"))
PROJECT = new_project("mine", shipped_places()[0], shipped_frames()[0], HEAVY)
KEY = PROJECT.designs[0].id


class Names(unittest.TestCase):
    def test_a_thicker_wall_is_another_name(self) -> None:
        thicker = set_layer_thickness(PROJECT, KEY, "walls", 0, 0.038)
        named = follow_make(PROJECT, thicker).design(KEY)
        self.assertTrue(named.name.startswith("38 mm "), named.name)
        self.assertNotIn("32", named.name.split(",")[0])
        self.assertEqual(named.note, "")
        # It follows further, and comes home with the make it was shipped with.
        first = replace(thicker, designs=(named, *thicker.designs[1:]))
        on = follow_make(first, set_layer_thickness(first, KEY, "walls", 0, 0.045))
        self.assertTrue(on.design(KEY).name.startswith("45 mm "))
        home = follow_make(on, set_layer_thickness(on, KEY, "walls", 0, 0.032))
        self.assertEqual(home.design(KEY).name, HEAVY.name)

    def test_a_name_somebody_gave_stays(self) -> None:
        mine = rename_design(PROJECT, KEY, "Grandfather's, 32 mm boards")
        edited = set_layer_thickness(mine, KEY, "walls", 0, 0.038)
        self.assertEqual(follow_make(mine, edited).design(KEY).name, "Grandfather's, 32 mm boards")

    def test_a_copy_keeps_its_number(self) -> None:
        copied, key = duplicate_design(PROJECT, KEY)
        self.assertEqual(copied.design(key).name, f"{HEAVY.name} 2")
        edited = set_layer_thickness(copied, key, "walls", 0, 0.038)
        named = follow_make(copied, edited).design(key).name
        self.assertTrue(named.startswith("38 mm ") and named.endswith(" 2"), named)
        again, third = duplicate_design(copied, key)
        self.assertEqual(again.design(third).name, f"{HEAVY.name} 3")

    def test_every_shipped_make_has_a_name_of_its_own_length(self) -> None:
        table = {m.id: m for m in shipped_materials()}
        for make in shipped_make_ups():
            with self.subTest(make=make.name):
                name = make_name(make.shell, table)
                self.assertIn("mm ", name)
                self.assertLess(len(name), 90)

    def test_a_lid_that_differs_is_named(self) -> None:
        foam = next(m for m in shipped_materials() if m.id == "xps")
        layered = add_layer(PROJECT, KEY, "lid", 0, foam, 0.06)
        name = follow_make(PROJECT, layered).design(KEY).name
        self.assertTrue(name.endswith("extruded polystyrene lid"), name)

    def test_numbers(self) -> None:
        self.assertEqual(numbered("Box 2"), ("Box", "2"))
        self.assertEqual(numbered("Box"), ("Box", ""))
        self.assertEqual(numbered("2"), ("2", ""))
        self.assertEqual(next_name("Box 9", {"Box 9"}), "Box 10")
        self.assertEqual(next_name("Box 10", {"Box 9", "Box 10"}), "Box 11")
        self.assertEqual(next_name("Box 1950", {"Box 1950"}), "Box 1950 2")


if __name__ == "__main__":
    unittest.main()
