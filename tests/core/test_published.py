"""The list behind ``calveth verify``: it holds, and it can fail."""

from __future__ import annotations

import dataclasses
import math
import unittest

from calveth.core.published import Check, published_checks


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

    def test_nan_never_passes(self) -> None:
        check = Check(
            name="x", unit="-", expected=1.0, computed=float("nan"), tolerance=9.9, source="none"
        )
        self.assertFalse(check.passed)

    def test_the_topics_are_all_there(self) -> None:
        names = " ".join(check.name for check in published_checks())
        for topic in ("saturation", "dew point", "air gap", "hollow box", "cylinder",
                      "two openings", "one tall opening", "honey", "carbon"):  # fmt: skip
            with self.subTest(topic=topic):
                self.assertIn(topic, names)


if __name__ == "__main__":
    unittest.main()
