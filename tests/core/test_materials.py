"""Every shipped material row by row, never as a sum: a sum held a misprint in place elsewhere."""

from __future__ import annotations

import dataclasses
import unittest

from calveth.catalogue.shipped import shipped_materials
from calveth.core.errors import DomainError
from calveth.core.materials import Layer

# Plausible ranges by group: conductivity W/(m·K), density kg/m³, specific heat J/(kg·K), μ.
# Limits are those of EN ISO 10456 tables for the class, widened to the trade's products.
CLASSES = {
    "wood": ((0.09, 0.25), (300, 950), (1400, 2100), (20, 300)),
    "wood board": ((0.12, 0.20), (400, 900), (1400, 1800), (10, 300)),
    "foam": ((0.020, 0.042), (10, 130), (1200, 1500), (20, 200000)),
    "plant and wool": ((0.033, 0.10), (15, 400), (1000, 2200), (1, 12)),
    "mineral": ((0.07, 2.5), (300, 2700), (700, 1600), (4, 160)),
    "glass and plastic": ((0.03, 1.2), (100, 2700), (700, 2000), (1000, 10000000)),
    "metal": ((15, 250), (2500, 8000), (350, 950), (100000, 10000000)),
    "sheet": ((0.03, 0.3), (20, 1300), (1000, 1800), (2, 200000)),
    "film": ((0.1, 0.3), (1000, 1400), (1000, 1800), (1, 10000)),
    "air": ((0.02, 0.03), (1, 1.4), (1000, 1010), (1, 1)),
}


class ShippedMaterials(unittest.TestCase):
    def test_each_row_is_plausible_for_its_class(self) -> None:
        for m in shipped_materials():
            ranges = CLASSES[m.group]
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
            "cement-board": (0.23, 1200, 1500, 50),
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
                if m.group == "mineral" and m.hatch in ("pores", "stone", "brick"):
                    dusty = any("silica dust" in c for c in m.cautions)
                    self.assertTrue(dusty or m.id == "clay-render")
                if m.group == "foam":
                    self.assertTrue(any("flame" in c for c in m.cautions))
                    self.assertTrue(not m.bee_safe_bare or m.id == "eps-dense")
                if m.group == "film" and "paint" in m.id:
                    self.assertTrue(any("cured" in c for c in m.cautions))

    def test_the_issue_list_is_there_and_more_than_sixty(self) -> None:
        table = {m.id: m for m in shipped_materials()}
        self.assertGreaterEqual(len(table), 60)
        for wanted in (
            "softwood",
            "light-softwood",
            "larch",
            "hardwood",
            "plywood",
            "eps",
            "xps",
            "urethane",
            "bubble-foil",
            "cork",
            "wood-fibre",
            "straw",
            "reed",
            "sheep-wool",
            "shavings",
            "aircrete-light",
            "aircrete",
            "aircrete-dense",
            "cast-600",
            "cast-1000",
            "cast-1400",
            "brick",
            "roof-tile",
            "acrylic",
            "polycarbonate",
            "glass",
            "steel",
            "galvanised",
            "foil",
            "wool-felt",
            "canvas",
            "paint-white",
            "oil",
            "wax",
            "propolis",
            "foil-film",
            "bitumen",
        ):
            with self.subTest(material=wanted):
                self.assertIn(wanted, table)

    def test_each_row_is_whole(self) -> None:
        for m in shipped_materials():
            with self.subTest(material=m.id):
                self.assertGreater(len(m.source), 8)
                self.assertEqual(list(m.stock_m), sorted(m.stock_m))
                self.assertLessEqual(m.mu_wet, m.vapour_resistance_factor)
                self.assertGreaterEqual(m.moisture_80, m.moisture_50)
                if m.kind == "solid" and m.group not in ("sheet",):
                    self.assertTrue(m.stock_m)
                if m.group == "metal":
                    self.assertLessEqual(m.emissivity, 0.95)
                else:
                    bright = m.emissivity < 0.5
                    self.assertEqual(bright, "foil" in m.id, "only foil is bright")

    def test_dense_mineral_conducts_more(self) -> None:
        # EN 1745: conductivity rises with density within a family.
        for family in (
            ("aircrete-light", "aircrete", "aircrete-dense"),
            ("cast-600", "cast-1000", "cast-1400"),
        ):
            rows = [m for m in shipped_materials() if m.id in family]
            rows.sort(key=lambda m: m.density_kg_m3)
            lambdas = [m.conductivity_w_mk for m in rows]
            self.assertEqual(lambdas, sorted(lambdas))

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
