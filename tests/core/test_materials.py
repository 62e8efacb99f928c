"""Every shipped material row by row, never as a sum: a sum held a misprint in place elsewhere."""

from __future__ import annotations

import dataclasses
import unittest

from calveth.catalogue.shipped import shipped_materials
from calveth.core.errors import DomainError
from calveth.core.materials import Layer

# Plausible ranges by drawn class: conductivity W/(m·K), density kg/m³, specific heat J/(kg·K),
# μ. Limits are those of EN ISO 10456 tables for the class, widened to the trade's products.
CLASSES = {
    "grain": ((0.09, 0.25), (300, 900), (1400, 2100), (20, 300)),
    "beads": ((0.030, 0.042), (10, 130), (1200, 1500), (20, 150)),
    "foam": ((0.020, 0.042), (20, 60), (1200, 1500), (50, 200000)),
    "pores": ((0.07, 0.30), (300, 1000), (800, 1100), (4, 15)),
    "shavings": ((0.035, 0.09), (20, 250), (1300, 2200), (1, 12)),
    "stone": ((0.15, 2.5), (1000, 2600), (700, 1600), (5, 150)),
    "foil": ((15, 250), (2500, 8000), (380, 950), (100000, 10000000)),
    "air": ((0.02, 0.03), (1, 1.4), (1000, 1010), (1, 1)),
    "plain": ((0.03, 1.2), (100, 2600), (700, 1700), (1, 1000000)),
}


class ShippedMaterials(unittest.TestCase):
    def test_each_row_is_plausible_for_its_class(self) -> None:
        for m in shipped_materials():
            ranges = CLASSES[m.hatch]
            for name, (low, high) in zip(
                (
                    "conductivity_w_mk",
                    "density_kg_m3",
                    "specific_heat_j_kgk",
                    "vapour_resistance_factor",
                ),
                ranges,
                strict=True,
            ):
                with self.subTest(material=m.id, field=name):
                    self.assertGreaterEqual(getattr(m, name), low)
                    self.assertLessEqual(getattr(m, name), high)

    def test_values_of_the_standard(self) -> None:
        # EN ISO 10456:2007, table 3 (from memory): λ, ρ, c, dry μ.
        rows = {
            "softwood": (0.13, 500, 1600, 50),
            "hardwood": (0.18, 700, 1600, 200),
            "plywood": (0.13, 500, 1600, 200),
            "cement-board": (0.23, 1200, 1500, 30),
            "foil": (160, 2800, 880, 1000000),
        }
        table = {m.id: m for m in shipped_materials()}
        for key, expected in rows.items():
            m = table[key]
            with self.subTest(material=key):
                self.assertEqual(
                    (
                        m.conductivity_w_mk,
                        m.density_kg_m3,
                        m.specific_heat_j_kgk,
                        m.vapour_resistance_factor,
                    ),
                    expected,
                )

    def test_every_row_says_where_it_comes_from(self) -> None:
        for m in shipped_materials():
            with self.subTest(material=m.id):
                self.assertGreater(len(m.source), 10)

    def test_cautions_stand_where_they_belong(self) -> None:
        for m in shipped_materials():
            with self.subTest(material=m.id):
                if m.hatch in ("pores", "stone"):
                    self.assertTrue(any("silica dust" in c for c in m.cautions))
                if m.hatch in ("foam", "beads"):
                    self.assertTrue(any("flame" in c for c in m.cautions))
                if m.hatch == "foam":
                    self.assertFalse(m.bee_safe_bare)

    def test_ids_are_unique(self) -> None:
        ids = [m.id for m in shipped_materials()]
        self.assertEqual(len(ids), len(set(ids)))


class Refusals(unittest.TestCase):
    def setUp(self) -> None:
        self.good = shipped_materials()[0]

    def test_absurd_values_are_refused_by_name(self) -> None:
        cases: tuple[tuple[str, object, str], ...] = (
            ("conductivity_w_mk", 0.0, "conductivity"),
            ("conductivity_w_mk", -1.0, "conductivity"),
            ("conductivity_w_mk", float("nan"), "conductivity"),
            ("density_kg_m3", 1e6, "density"),
            ("specific_heat_j_kgk", float("inf"), "specific heat"),
            ("vapour_resistance_factor", 0.5, "vapour resistance"),
            ("emissivity", 1.5, "emissivity"),
            ("name", "", "name"),
            ("hatch", "tartan", "hatch"),
            ("kind", "liquid", "kind"),
        )
        for field, value, part in cases:
            with self.subTest(field=field, value=value), self.assertRaises(DomainError) as caught:
                changed: dict[str, object] = {field: value}
                dataclasses.replace(self.good, **changed)  # type: ignore[arg-type]
            self.assertIn(part, str(caught.exception))

    def test_layer_thickness(self) -> None:
        for value in (0.0, -0.02, float("nan"), 1.5, True):
            with self.subTest(value=value), self.assertRaises(DomainError):
                Layer(material="softwood", thickness_m=value)

    def test_materials_are_frozen(self) -> None:
        with self.assertRaises(dataclasses.FrozenInstanceError):
            self.good.name = "other"  # type: ignore[misc]


if __name__ == "__main__":
    unittest.main()
