"""The list behind ``calveth verify``: it holds, and it can fail."""

from __future__ import annotations

import dataclasses
import math
import unittest

from calveth.catalogue.shipped import shipped_materials
from calveth.core import (
    constants,
    constants_bees,
    constants_building,
    constants_lifting,
    constants_year,
)
from calveth.core.constant import Constant
from calveth.core.published import Check, published_checks
from calveth.core.published_constants import constant_checks


class PublishedChecks(unittest.TestCase):
    def test_each_holds(self) -> None:
        for check in published_checks():
            with self.subTest(check=check.name):
                self.assertTrue(check.passed, f"{check.computed} against {check.expected}")

    def test_each_names_its_source_and_could_fail(self) -> None:
        for check in published_checks():
            with self.subTest(check=check.name):
                self.assertGreater(len(check.source), 8)
                self.assertGreater(check.tolerance, 0)
                self.assertTrue(math.isfinite(check.tolerance))
                off = dataclasses.replace(check, computed=check.expected + 2 * check.tolerance)
                self.assertFalse(off.passed)

    def test_every_published_constant_moves_a_check(self) -> None:
        """Ten per cent more on any of them and `calveth verify` no longer holds."""
        modules = (constants, constants_bees, constants_building, constants_lifting, constants_year)
        published = {
            (module.__name__, name): value
            for module in modules
            for name, value in vars(module).items()
            if isinstance(value, Constant) and value.certainty == "published"
        }
        self.assertGreater(len(published), 60)
        self.assertTrue(all(check.passed for check in constant_checks()))
        for name, constant in published.items():
            with self.subTest(constant=name):
                was = constant.value
                try:
                    object.__setattr__(constant, "value", 1.1 * was)
                    self.assertFalse(all(check.passed for check in constant_checks()))
                finally:
                    object.__setattr__(constant, "value", was)

    def test_shipped_woods_have_the_factor_that_is_verified(self) -> None:
        woods = [m for m in shipped_materials() if m.group == "wood"]
        self.assertGreater(len(woods), 4)
        for wood in woods:
            self.assertAlmostEqual(wood.moisture_conversion, 1.4, delta=0.3, msg=wood.id)

    def test_nan_never_passes(self) -> None:
        check = Check(
            name="x", unit="-", expected=1.0, computed=float("nan"), tolerance=9.9, source="none"
        )
        self.assertFalse(check.passed)

    def test_the_topics_are_all_there(self) -> None:
        names = " ".join(check.name for check in published_checks())
        for topic in (
            "saturation",
            "dew point",
            "air gap",
            "hollow box",
            "cylinder",
            "two openings",
            "one tall opening",
            "honey",
            "carbon",
        ):
            with self.subTest(topic=topic):
                self.assertIn(topic, names)


if __name__ == "__main__":
    unittest.main()
