"""Typed quantities and unit conversion."""

from __future__ import annotations

import unittest

from calveth.core.errors import DomainError
from calveth.core.units import grams_per_day, litres_per_hour
from calveth.texts.units import parse_quantity, to_unit


class TypedQuantities(unittest.TestCase):
    def test_what_people_type(self) -> None:
        # Conversion factors are exact by definition (international inch, avoirdupois pound).
        rows = (
            ("19", "length", "mm", 0.019),
            ("19 mm", "length", "mm", 0.019),
            ("19mm", "length", "mm", 0.019),
            ("1,9 cm", "length", "mm", 0.019),
            ("1.9cm", "length", "mm", 0.019),
            ("3/4 in", "length", "mm", 0.01905),
            ("3/4", "length", "in", 0.01905),
            ("1 1/2 in", "length", "mm", 0.0381),
            ('2"', "length", "mm", 0.0508),
            ("0.5 ft", "length", "mm", 0.1524),
            (".5 in", "length", "mm", 0.0127),
            ("0,035 m", "length", "mm", 0.035),
            ("-5", "temperature", "°C", -5.0),
            ("−5 °C", "temperature", "°C", -5.0),
            ("23 °F", "temperature", "°C", -5.0),
            ("32f", "temperature", "°C", 0.0),
            ("45", "fraction", "%", 0.45),
            ("45 %", "fraction", "%", 0.45),
            ("2 lb", "mass", "kg", 0.90718474),
            ("36 km/h", "speed", "m/s", 10.0),
            ("10 mph", "speed", "m/s", 4.4704),
        )
        for text, quantity, unit, expected in rows:
            with self.subTest(text=text):
                self.assertAlmostEqual(parse_quantity(text, quantity, unit), expected, places=12)

    def test_a_comma_is_never_a_thousand_separator(self) -> None:
        self.assertAlmostEqual(parse_quantity("0,035", "length", "m"), 0.035)

    def test_refusals_name_the_field_and_the_remedy(self) -> None:
        rows = (
            ("thick", "is not a number"),
            ("", "is not a number"),
            ("12 lb", "use one of"),
            ("1/0", "divides by zero"),
            ("nan", "is not a number"),
            ("1e5", "use one of"),
            ("--3", "is not a number"),
            ("3 4", "is not a number"),
        )
        for text, part in rows:
            with self.subTest(text=text), self.assertRaises(DomainError) as caught:
                parse_quantity(text, "length", "mm", "lid layer 1 thickness")
            self.assertIn("lid layer 1 thickness", str(caught.exception))
            self.assertIn(part, str(caught.exception))

    def test_there_and_back(self) -> None:
        for quantity, unit, value in (
            ("length", "in", 0.019),
            ("temperature", "°F", -12.5),
            ("mass", "lb", 18.0),
            ("speed", "km/h", 3.3),
        ):
            with self.subTest(unit=unit):
                there = to_unit(value, quantity, unit)
                back = parse_quantity(f"{there:.12f} {unit}", quantity, unit)
                self.assertAlmostEqual(back, value, places=9)

    def test_flows(self) -> None:
        self.assertAlmostEqual(litres_per_hour(1 / 3600), 1000.0)
        self.assertAlmostEqual(grams_per_day(1 / 86400), 1000.0)


if __name__ == "__main__":
    unittest.main()
