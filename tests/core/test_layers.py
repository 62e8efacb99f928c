"""Mixed layers, ventilated gaps, moist and cold materials, wood by its species."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

import numpy as np

from calveth.catalogue.shipped import shipped_materials
from calveth.core.assess.result import year_models
from calveth.core.errors import DomainError
from calveth.core.heat.seasons import summer_materials, winter_materials
from calveth.core.heat.shell import shell_heat, whole_conductance_w_k, window_heat
from calveth.core.heat.slab import plane_layers, vapour_layers_m
from calveth.core.hive.design import Window
from calveth.core.materials import (
    Layer,
    materials_at,
    wood_conductivity_w_mk,
    wood_of_species,
)
from calveth.core.nest.network import hive_model
from calveth.core.solids.build import build_solids
from calveth.core.solids.quantities import part_weights_kg
from tests.cases import hive_case
from tests.core.builders import TABLE, box, layer, steady_place
from tests.core.test_colony import COLONY


class Mixed(unittest.TestCase):
    """EN ISO 6946:2017, 6.7.2: mean of upper and lower bound."""

    stack = (
        layer("softwood", 12),
        Layer(material="xps", thickness_m=0.05, mixed_with="softwood", mixed_share=0.1),
        layer("softwood", 12),
    )

    def test_a_studded_wall_by_hand(self) -> None:
        # Films 0.13 and 0.04, boards 2 × 0.012/0.13, foam 0.05/0.034, stud 0.05/0.13.
        boards, foam, stud = 0.024 / 0.13, 0.05 / 0.034, 0.05 / 0.13
        films = 0.17
        upper = 1 / (0.9 / (films + boards + foam) + 0.1 / (films + boards + stud))
        lower = films + boards + 1 / (0.9 / foam + 0.1 / stud)
        got = plane_layers(self.stack, TABLE, "horizontal").resistances_m2k_w
        self.assertAlmostEqual(films + sum(got), (upper + lower) / 2, places=9)
        self.assertAlmostEqual(got[0], 0.012 / 0.13, places=9)
        self.assertLess(lower, (upper + lower) / 2)

    def test_two_mixed_layers_take_every_combination(self) -> None:
        second = Layer(material="cork", thickness_m=0.03, mixed_with="softwood", mixed_share=0.2)
        stack = (self.stack[1], second)
        r = {"f": 0.05 / 0.034, "s": 0.05 / 0.13, "c": 0.03 / 0.045, "w": 0.03 / 0.13}
        films = 0.17
        shares = ((0.9, "f"), (0.1, "s")), ((0.8, "c"), (0.2, "w"))
        upper = 1 / sum(a * b / (films + r[x] + r[y]) for a, x in shares[0] for b, y in shares[1])
        lower = films + 1 / (0.9 / r["f"] + 0.1 / r["s"]) + 1 / (0.8 / r["c"] + 0.2 / r["w"])
        got = films + sum(plane_layers(stack, TABLE, "horizontal").resistances_m2k_w)
        self.assertAlmostEqual(got, (upper + lower) / 2, places=9)

    def test_no_share_is_no_mixture(self) -> None:
        plain = tuple(replace(y, mixed_with="", mixed_share=0.0) for y in self.stack)
        studded = sum(plane_layers(self.stack, TABLE, "horizontal").resistances_m2k_w)
        self.assertLess(studded, sum(plane_layers(plain, TABLE, "horizontal").resistances_m2k_w))

    def test_a_share_needs_a_material(self) -> None:
        with self.assertRaises(DomainError) as caught:
            Layer(material="xps", thickness_m=0.05, mixed_share=0.1)
        self.assertIn("second material", str(caught.exception))

    def test_studs_weigh(self) -> None:
        # 10 % of 500 kg/m³ instead of 35 kg/m³ in the middle layer (densities of the table).
        studded, plain = box(*self.stack), box(*(replace(y, mixed_share=0.0) for y in self.stack))
        weights = [sum(part_weights_kg(build_solids(d), TABLE).values()) for d in (studded, plain)]
        volume = sum(s.shape.volume_m3 for s in build_solids(plain).solids if s.layer == 1)
        self.assertAlmostEqual(weights[0] - weights[1], volume * 0.1 * (500 - 35), delta=0.05)

    def test_vapour_goes_through_both(self) -> None:
        layers = plane_layers(self.stack, TABLE, "horizontal")
        got = vapour_layers_m(self.stack, TABLE, layers)[1]
        by_hand = 1 / (0.9 / (0.05 * 150) + 0.1 / (0.05 * 50))
        self.assertAlmostEqual(got, by_hand)


class Ventilated(unittest.TestCase):
    """EN ISO 6946:2017, 6.9: closed up to 500 mm²/m, well ventilated from 1500 mm²/m."""

    def wall(self, vents_mm2: float) -> tuple[Layer, ...]:
        gap = Layer(material="air-gap", thickness_m=0.02, vents_m2_m=vents_mm2 * 1e-6)
        return (layer("softwood", 19), gap, layer("softwood", 25))

    def total(self, vents_mm2: float) -> float:
        layers = plane_layers(self.wall(vents_mm2), TABLE, "horizontal")
        return 0.13 + sum(layers.resistances_m2k_w) + float(layers.outer_film_m2k_w(0.04))

    def test_closed_well_and_half(self) -> None:
        closed = self.total(0)
        self.assertAlmostEqual(self.total(500), closed)
        # Well ventilated: only the inner board counts, with Rsi on both sides.
        well = 0.13 + 0.025 / 0.13 + 0.13
        self.assertAlmostEqual(self.total(1500), well, places=9)
        self.assertAlmostEqual(self.total(4000), well, places=9)
        self.assertAlmostEqual(self.total(1000), (closed + well) / 2, places=9)

    def test_it_holds_in_the_whole_hive(self) -> None:
        loss = []
        for vents in (0.0, 2000.0):
            design = box(*self.wall(vents))
            loss.append(
                float(whole_conductance_w_k(shell_heat(design, build_solids(design), TABLE)))
            )
        self.assertGreater(loss[1], 1.1 * loss[0])

    def test_an_open_gap_lets_vapour_out(self) -> None:
        layers = plane_layers(self.wall(800), TABLE, "horizontal")
        sd = vapour_layers_m(self.wall(800), TABLE, layers)
        self.assertLess(sd[0] + sd[1], 1e-5)
        self.assertAlmostEqual(sd[2], 0.025 * 50)


class Moist(unittest.TestCase):
    def test_conversion_of_the_standard(self) -> None:
        # EN ISO 10456, 7: λ2 = λ1·exp(fu·(u2 - u1)); aircrete fu 4, u 0.026 and 0.045.
        m = TABLE["aircrete"]
        self.assertAlmostEqual(m.moisture_content(0.5), 0.026)
        self.assertAlmostEqual(m.moisture_content(0.8), 0.045)
        got = m.conductivity_at(10.0, 0.045)
        self.assertAlmostEqual(got, 0.13 * math.exp(4 * 0.019), places=9)

    def test_temperature(self) -> None:
        eps = TABLE["eps"]
        ratio = eps.conductivity_at(0.0, 0.0) / eps.conductivity_at(10.0, 0.0)
        self.assertAlmostEqual(ratio, math.exp(-0.0036 * 10))

    def test_a_table_of_them(self) -> None:
        moist = materials_at(TABLE, 3.0, 0.8)
        self.assertGreater(moist["aircrete"].conductivity_w_mk, 0.13)
        self.assertLess(moist["xps"].conductivity_w_mk, 0.034)
        self.assertGreater(moist["softwood"].conductivity_w_mk, 0.14)
        self.assertIs(moist["steel"], TABLE["steel"])

    def test_pores_are_not_filled_by_air(self) -> None:
        m = TABLE["aircrete"]
        self.assertEqual(m.moisture_content(1.0), m.moisture_content(0.95))
        self.assertGreaterEqual(TABLE["wood-fibre"].moisture_content(0.0), 0.0)


class Wood(unittest.TestCase):
    def test_the_handbook(self) -> None:
        # USDA Wood Handbook, eq. 4-7: G 0.36, M 12 gives 0.106 W/(m·K).
        self.assertAlmostEqual(wood_conductivity_w_mk(0.36, 12), 0.106, places=3)
        # Table 4-7 of the handbook, 12 %: Douglas-fir coast G 0.51: 0.14; red oak G 0.65 0.18
        # (from memory, two digits).
        for gravity, expected in ((0.51, 0.14), (0.65, 0.18)):
            self.assertAlmostEqual(wood_conductivity_w_mk(gravity, 12), expected, delta=0.006)

    def test_woods_of_the_catalogue_follow_the_handbook(self) -> None:
        # λ by eq. 4-7 at the moisture wood has at 50 % and at 80 % humidity (9 and 16 %).
        found = 0
        for wood in TABLE.values():
            if wood.group != "wood" or "specific gravity " not in wood.source:
                continue
            gravity = float(wood.source.split("specific gravity ")[1].split(";")[0])
            dry, damp = (wood_conductivity_w_mk(gravity, m) for m in (9.0, 16.0))
            self.assertAlmostEqual(wood.conductivity_w_mk, dry, places=4)
            self.assertAlmostEqual(wood.conductivity_at(10.0, 0.16) / damp, 1.0, delta=0.01)
            found += 1
        self.assertGreater(found, 5)

    def test_walls_stand_as_in_summer_only_in_warm_months(self) -> None:
        place = steady_place()
        mild = replace(place.months[0], temperature_degc=18.0, relative_humidity=0.6)
        both = replace(place, months=(*place.months[:6], mild, *place.months[7:]))
        winter, summer = winter_materials(TABLE, both), summer_materials(TABLE, both)
        # EN ISO 10456, 7: wood at 60 % has 11.3 % of water, at 80 % 16 %.
        ratio = summer["softwood"].conductivity_w_mk / winter["softwood"].conductivity_w_mk
        self.assertAlmostEqual(ratio, math.exp(1.4 * (0.09 + 0.07 / 3 - 0.16)), places=9)
        models, owner = year_models(hive_case(box(), both, COLONY, TABLE))
        self.assertEqual([int(k) for k in owner], [0] * 6 + [1] + [0] * 5)
        self.assertLess(models[1].conductance_w_k, models[0].conductance_w_k)
        whole = hive_model(hive_case(box(), both, COLONY, TABLE), warm=True)
        self.assertAlmostEqual(models[1].conductance_w_k, whole.conductance_w_k, places=12)
        np.testing.assert_allclose(
            models[1].terms.path_inner_k_w, whole.terms.path_inner_k_w, rtol=1e-12
        )
        # A place without a warm month has one state only.
        self.assertEqual(len(year_models(hive_case(box(), place, COLONY, TABLE))[0]), 1)

    def test_wetter_wood_conducts_more(self) -> None:
        self.assertGreater(wood_conductivity_w_mk(0.5, 20), wood_conductivity_w_mk(0.5, 5))

    def test_outside_of_the_equation_is_refused(self) -> None:
        for gravity, moisture in ((0.2, 12), (1.5, 12), (0.5, 40), (0.5, -1), (math.nan, 12)):
            with self.subTest(g=gravity, m=moisture), self.assertRaises(DomainError):
                wood_conductivity_w_mk(gravity, moisture)

    def test_a_species_becomes_a_material(self) -> None:
        wood = wood_of_species("mine", "Mine", 0.45, 12, TABLE["softwood"])
        self.assertEqual(wood.density_kg_m3, 504)
        self.assertEqual(wood.vapour_resistance_factor, 50)
        self.assertIn("eq. 4-7", wood.source)


class Films(unittest.TestCase):
    def test_a_coat_counts_by_its_sd_whatever_its_thickness(self) -> None:
        for size in (0.0002, 0.001):
            stack = (Layer(material="gloss-paint", thickness_m=size), layer("softwood", 19))
            layers = plane_layers(stack, TABLE, "horizontal")
            self.assertAlmostEqual(vapour_layers_m(stack, TABLE, layers)[0], 3.0)
            self.assertLess(layers.resistances_m2k_w[0], 0.006)

    def test_bright_foil_doubles_a_gap(self) -> None:
        gap = layer("air-gap", 25)
        dull = plane_layers((layer("softwood", 19), gap, layer("softwood", 19)), TABLE, "up")
        film = Layer(material="foil-film", thickness_m=0.0002)
        stack = (layer("softwood", 19), gap, film, layer("softwood", 19))
        bright = plane_layers(stack, TABLE, "up")
        # EN ISO 6946, annex D, by hand: heat up, 25 mm: ha 1.95, hr0 5.15, ε 0.05 and 0.9.
        hr = 4 * 5.670374e-8 * 283.15**3 / (1 / 0.05 + 1 / 0.9 - 1)
        self.assertAlmostEqual(bright.resistances_m2k_w[1], 1 / (1.95 + hr), places=6)
        self.assertGreater(bright.resistances_m2k_w[1], 2 * dull.resistances_m2k_w[1])

    def test_a_new_layer_begins_with_a_useful_size(self) -> None:
        for m in shipped_materials():
            with self.subTest(material=m.id):
                self.assertTrue(0.0001 <= m.new_layer_m <= 0.25)


class Windows(unittest.TestCase):
    def test_panes_by_hand_and_taken_from_the_wall(self) -> None:
        pane = (layer("acrylic", 4),)
        window = Window(bottom_m=0.1, width_m=0.25, height_m=0.2, stack=pane)
        plain, glazed = box(layer("xps", 50)), box(layer("xps", 50), window=window)
        heat = window_heat(glazed, TABLE)
        assert heat is not None
        self.assertAlmostEqual(float(heat.whole_w_k()), 0.05 / (0.13 + 0.004 / 0.2 + 0.04))
        before, after = (
            shell_heat(d, build_solids(d), TABLE)["walls"].area.inner_m2 for d in (plain, glazed)
        )
        self.assertAlmostEqual(before - after, 0.05)
        weights = part_weights_kg(build_solids(glazed), TABLE)
        # It is lifted with the box it sits in, which has lost its wall there.
        bare = part_weights_kg(build_solids(plain), TABLE)
        foam = 0.05 * 0.05 * TABLE["xps"].density_kg_m3
        part = next(k for k in weights if k.startswith("box"))
        self.assertAlmostEqual(weights[part] - bare[part], 0.05 * 0.004 * 1050 - foam, places=6)

    def test_a_second_pane_helps(self) -> None:
        loss = []
        double = (layer("acrylic", 3), layer("air-gap", 10), layer("acrylic", 3))
        for stack in ((layer("acrylic", 4),), double):
            window = Window(bottom_m=0.1, width_m=0.25, height_m=0.2, stack=stack)
            heat = window_heat(box(window=window), TABLE)
            assert heat is not None
            loss.append(float(heat.whole_w_k()))
        self.assertLess(loss[1], 0.6 * loss[0])

    def test_refusals(self) -> None:
        pane = (layer("acrylic", 4),)
        for width, height, part in (
            (2.0, 0.2, "window"),
            (0.2, 2.0, "window"),
            (0.0, 0.2, "width"),
        ):
            with self.subTest(width=width), self.assertRaises(DomainError) as caught:
                box(window=Window(bottom_m=0.1, width_m=width, height_m=height, stack=pane))
            self.assertIn(part, str(caught.exception))
        with self.assertRaises(DomainError):
            Window(bottom_m=0.1, width_m=0.2, height_m=0.2, stack=())


if __name__ == "__main__":
    unittest.main()
