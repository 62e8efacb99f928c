"""The coupled balance: it closes, another solver finds the same, and its limits are known."""

from __future__ import annotations

import json
import os
import random
import subprocess
import sys
import unittest
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from calveth.catalogue.shipped import demo_project
from calveth.core import constants as c
from calveth.core.assess.readings import NestReadings
from calveth.core.climate.air import saturation_pressure_pa, vapour_pressure_pa
from calveth.core.colony.colony import ColonyState, colony_at
from calveth.core.hive.design import Design, Shell
from calveth.core.hive.forms import HollowTree, StackedBoxes
from calveth.core.hive.opening import Opening
from calveth.core.materials import Layer
from calveth.core.nest.balance import Balance, Outside
from calveth.core.nest.network import HiveModel, hive_model
from calveth.core.nest.steady import NotBalancedError, solve
from tests.cases import hive_case
from tests.core.builders import TABLE, box, hole, layer, slot, steady_place

PROJECT = demo_project()


def outside(temperature: float, humidity: float = 0.85, wind: float = 0.3) -> Outside:
    t = np.array([temperature])
    return Outside(
        temperature_degc=t,
        vapour_pressure_pa=vapour_pressure_pa(t, humidity),
        wind_m_s=np.array([wind]),
        pressure_pa=96000.0,
        co2_mass_fraction=np.full(1, c.CO2_OUTSIDE_MASS_FRACTION.value),
    )


def january() -> ColonyState:
    return colony_at(PROJECT.colony, np.array([0]))


def model(design: Design) -> HiveModel:
    return hive_model(hive_case(design, PROJECT.place, PROJECT.colony, TABLE))


def readings(design: Design, out: Outside) -> NestReadings:
    m = model(design)
    return NestReadings(
        (m,),
        np.zeros(out.temperature_degc.size, dtype=int),
        out,
        january(),
        solve(m.terms, january(), out),
    )


class Ledgers(unittest.TestCase):
    """Every gram and every joule is on one ledger, and the ledger closes."""

    def setUp(self) -> None:
        self.cases = [
            readings(design, outside(t, rh))
            for design in PROJECT.designs
            for t, rh in ((-15.0, 0.9), (-4.0, 0.89), (6.0, 0.5), (18.0, 0.75))
        ]

    def test_water(self) -> None:
        for case in self.cases:
            with self.subTest(design=case.model.design.id, t=case.outside.temperature_degc[0]):
                ledger = case.water_ledger_g_day(0)
                gone = sum(v for k, v in ledger.items() if k != "released")
                self.assertAlmostEqual(gone, ledger["released"], places=4)

    def test_heat(self) -> None:
        for case in self.cases:
            with self.subTest(design=case.model.design.id, t=case.outside.temperature_degc[0]):
                w = case.heat_ledger_w(0)
                self.assertAlmostEqual(
                    w["warms the nest"] + w["set free by condensation"],
                    w["through the shell"] + w["with the air"],
                    places=5,
                )
                self.assertAlmostEqual(
                    w["metabolic"], w["leaves as vapour"] + w["warms the nest"], places=9
                )

    def test_air_and_breath(self) -> None:
        for case in self.cases:
            with self.subTest(design=case.model.design.id, t=case.outside.temperature_degc[0]):
                flow = case.balance.flows
                into = flow.opening_in.sum() + flow.joint_in.sum()
                out = flow.opening_out.sum() + flow.joint_out.sum()
                self.assertAlmostEqual(into / out, 1.0, places=6)
                self.assertLess(float(np.max(np.abs(case.balance.residual[6:9]))), 1e-12)


class Plain(unittest.TestCase):
    """The same lines as plain Python, in a process of its own, and another solver on them."""

    plain: dict[str, dict[str, Any]]

    @classmethod
    def setUpClass(cls) -> None:
        env = {**os.environ, "NUMBA_DISABLE_JIT": "1"}
        made = subprocess.run(
            [sys.executable, "-m", "tests.core.plain_balance"],
            capture_output=True,
            encoding="utf-8",
            env=env,
            check=True,
            cwd=Path(__file__).parents[2],
        )
        cls.plain = json.loads(made.stdout)

    def test_compiled_and_plain_say_the_same(self) -> None:
        for key, states in self.plain["states"].items():
            m, out, bees = model(PROJECT.design(key)), outside(-4.0), january()
            ours = solve(m.terms, bees, out).state[:, 0]
            with self.subTest(design=key):
                np.testing.assert_allclose(ours, states, rtol=1e-9, atol=1e-12)

    def test_scipy_finds_the_same_state(self) -> None:
        """Powell's or Levenberg's and Marquardt's method from another start, same balances."""
        for key, state in self.plain["scipy"].items():
            with self.subTest(design=key):
                found = self.plain["states"][key][:9]
                np.testing.assert_allclose(state, found, rtol=1e-5, atol=1e-5)

    def test_slopes_are_those_of_finite_steps(self) -> None:
        """The slopes in closed form leave out little: Newton's method with them closes fast."""
        for key, off in self.plain["slopes"].items():
            with self.subTest(design=key):
                self.assertLess(off, 0.05)
        self.assertGreater(len(self.plain["slopes"]), len(self.plain["base"]))
        for key, (base, nest) in self.plain["base"].items():
            with self.subTest(base=key):
                self.assertTrue(26.0 < base < nest, (base, nest))


class Limits(unittest.TestCase):
    def test_hardly_any_bees_hardly_any_warmth(self) -> None:
        few = replace(PROJECT.colony, mass_kg=(0.02,) * 12)
        m, out = model(box(layer("softwood", 19), openings=(slot(),))), outside(-5.0, 0.7)
        b = solve(m.terms, colony_at(few, np.array([0])), out)
        self.assertLess(float(np.max(np.abs(b.temperature_degc + 5.0))), 0.4)
        # With so little breath the room is hardly moister than the air outside.
        self.assertLess(float(np.max(b.vapour_pressure_pa / out.vapour_pressure_pa)), 1.35)

    def test_one_zone_by_hand(self) -> None:
        """With the mixing of the zones made strong the nest obeys Q = (L + V)·ΔT by hand."""
        m, out, bees = model(PROJECT.design("polystyrene")), outside(-4.0, 0.3), january()
        strong = np.array([500.0])
        terms = replace(m.terms, mixing_base_w_k=strong, mixing_crown_w_k=strong)
        b = solve(terms, bees, out)
        t = float(b.temperature_degc[1, 0])
        self.assertLess(float(np.ptp(b.temperature_degc)), 0.05)
        from calveth.core.heat.slab import outer_film_m2k_w

        whole = float(
            m.terms.zone_whole_w_k(outer_film_m2k_w(out.wind_m_s, out.temperature_degc)).sum()
        )
        air = float(b.flows.opening_in.sum() + b.flows.joint_in.sum()) * 1006
        dry = float(b.ledger.dry_heat_w[0]) + float(b.condensing_w[0])
        # Condensation at a surface warms the wall rather than the room: allow for its part.
        spare = float(b.condensing_w[0]) / (whole + air)
        self.assertLess(abs(t + 4.0 - dry / (whole + air)), 0.02 + spare)

    def test_dry_outside_keeps_a_vented_hive_dry(self) -> None:
        design = box(
            layer("eps", 60), openings=(slot(0.3, 0.02), hole(0.45, 0.04)), joints="dry-laid"
        )
        case = readings(design, outside(5.0, 0.3))
        self.assertEqual(float(case.condensing_g_day.sum()), 0.0)
        self.assertTrue(np.all(case.margin_k > 0))

    def test_no_air_is_said_in_words(self) -> None:
        design = box(
            layer("urethane-foil", 50),
            openings=(replace(slot(), free_share=0.0),),
            joints="propolised",
            name="Sealed",
        )
        tight = replace(design, form=HollowTree())
        with self.assertRaises(NotBalancedError) as caught:
            solve(model(tight).terms, january(), outside(5.0), names=["Sealed"])
        self.assertIn("open an entrance", str(caught.exception))
        self.assertIn("Sealed", str(caught.exception))


class Directions(unittest.TestCase):
    def nest(self, design: Design, t: float = -4.0) -> float:
        return float(readings(design, outside(t)).balance.temperature_degc[1, 0])

    def test_insulation_warms_the_nest(self) -> None:
        self.assertGreater(self.nest(box(layer("eps", 60))), self.nest(box(layer("eps", 20))) + 1)

    def test_a_hole_in_the_top_cools_the_nest_and_dries_the_crown(self) -> None:
        sealed = box(layer("eps", 50), openings=(slot(),), joints="propolised")
        vented = replace(sealed, openings=(slot(), hole(0.45, 0.025)))
        a, b = (readings(d, outside(-4.0)) for d in (sealed, vented))
        self.assertLess(b.balance.temperature_degc[1, 0], a.balance.temperature_degc[1, 0])
        self.assertLess(b.relative_humidity[2, 0], a.relative_humidity[2, 0])
        self.assertLess(b.co2_volume_share[1, 0], a.co2_volume_share[1, 0])

    def test_warm_on_top(self) -> None:
        for design in PROJECT.designs:
            with self.subTest(design=design.id):
                t = readings(design, outside(-4.0)).balance.temperature_degc[:, 0]
                self.assertTrue(t[2] > t[1] > t[0] > -4.0)

    def test_colder_outside_more_honey(self) -> None:
        heat = [
            float(readings(PROJECT.design("timber"), outside(t)).balance.metabolic_w[0])
            for t in (-15.0, -5.0, 5.0)
        ]
        self.assertTrue(heat[0] > heat[1] > heat[2])

    def test_wet_surfaces_are_warmed_by_their_own_water(self) -> None:
        case = readings(PROJECT.design("plain-boards"), outside(-4.0))
        b, m = case.balance, case.model
        k = 3
        rse = 1 / (4 + 4 * 0.3 + 0.9 * 4 * 5.670374e-8 * 269.15**3)
        r = float(m.terms.surface_layers_m2k_w[k, 0])
        film = float(m.terms.surface_film_m2k_w[k, 0])
        dry = b.temperature_degc[1, 0] - film / (film + r + rse) * (b.temperature_degc[1, 0] + 4.0)
        self.assertGreater(float(b.surface_degc[k, 0]), float(dry) + 0.05)
        # Never warmer than the dew point while it is wet.
        self.assertLess(float(case.margin_k[k, 0]), 0.0)

    def test_surface_never_above_saturation_when_dry(self) -> None:
        case = readings(PROJECT.design("composite"), outside(-4.0))
        zone = np.array([2, 2, 2, 1, 0, 0, 1])
        dry = case.condensing_g_day[:, 0] == 0
        p = case.balance.vapour_pressure_pa[zone, 0]
        saturation = saturation_pressure_pa(case.balance.surface_degc[:, 0])
        self.assertTrue(np.all(p[dry] <= saturation[dry] + 1e-6))


class AnyHive(unittest.TestCase):
    """Made-up hives of all sorts: a state, or a sentence that says why there is none."""

    def random_design(self, source: random.Random) -> Design:
        solids = [m.id for m in TABLE.values() if m.kind == "solid"]

        def stack() -> tuple[Layer, ...]:
            return tuple(
                layer(source.choice(solids), source.choice((1, 9, 19, 50, 100, 200)))
                for _ in range(source.randint(1, 3))
            )

        form: StackedBoxes | HollowTree = StackedBoxes(
            frame_count=source.randint(3, 14), box_count=source.randint(1, 4)
        )
        if source.random() < 0.2:
            form = HollowTree(inner_diameter_m=0.2, cavity_height_m=source.choice((0.8, 1.5)))
        openings: list[Opening] = [
            hole(source.uniform(0.0, 0.2), source.choice((0.005, 0.0127, 0.025)), f"hole {k}")
            for k in range(source.randint(1, 3))
        ]
        return box(
            form=form,
            openings=tuple(openings),
            joints=source.choice(("propolised", "planed", "re-opened", "dry-laid")),
            shell=Shell(walls=stack(), lid=stack(), floor=stack()),
        )

    def test_forty_of_them(self) -> None:
        source = random.Random(20)
        answered = 0
        for number in range(40):
            design = self.random_design(source)
            out = outside(source.uniform(-30, 30), source.uniform(0.3, 1.0), source.uniform(0, 5))
            with self.subTest(number=number):
                try:
                    b: Balance = solve(model(design).terms, january(), out)
                except NotBalancedError as error:
                    self.assertIn("suffocate", str(error))
                    continue
                answered += 1
                self.assertTrue(np.all(np.isfinite(b.state)))
                released = float(b.ledger.water_kg_s[0])
                gone = float(
                    b.vapour_carried_kg_s[0]
                    + b.vapour_diffused_kg_s[0]
                    + b.condensing_kg_s.sum()
                    + b.comb_kg_s.sum()
                )
                self.assertAlmostEqual(gone / released, 1.0, places=2)
        self.assertGreater(answered, 32)

    def test_breath_that_holds_itself_back(self) -> None:
        """A tall tight cavity in calm air: CO2 weighs the warm air down until it tips over.

        Newton's method alone is caught at such places; the hive has to be followed through time.
        """
        tree = box(
            form=HollowTree(inner_diameter_m=0.2, cavity_height_m=1.2),
            openings=(slot(0.1, 0.008), hole(0.548, 0.008)),
            joints="propolised",
            shell=Shell(
                walls=(layer("eps", 100),), lid=(layer("eps", 100),), floor=(layer("eps", 100),)
            ),
        )
        for t in np.arange(-20.0, 20.0, 2.5):
            with self.subTest(t=t):
                case = readings(tree, outside(float(t), 0.8, 0.0))
                ledger = case.water_ledger_g_day(0)
                gone = sum(v for k, v in ledger.items() if k != "released")
                self.assertAlmostEqual(gone / ledger["released"], 1.0, places=2)
                self.assertLess(float(case.co2_volume_share.max()), 0.2)

    def test_many_conditions_at_once_are_each_their_own(self) -> None:
        design, place = PROJECT.design("timber"), steady_place()
        m = hive_model(hive_case(design, place, PROJECT.colony, TABLE))
        temperatures = np.array([-20.0, -4.0, 3.0, 15.0])
        out = Outside(
            temperature_degc=temperatures,
            vapour_pressure_pa=vapour_pressure_pa(temperatures, 0.8),
            wind_m_s=np.full(4, 0.5),
            pressure_pa=96000.0,
            co2_mass_fraction=np.full(4, c.CO2_OUTSIDE_MASS_FRACTION.value),
        )
        bees = colony_at(PROJECT.colony, np.zeros(4, dtype=int))
        together = solve(m.terms, bees, out).state
        for k in range(4):
            at = np.array([k])
            alone = solve(m.terms, bees.take(at), out.take(at)).state
            np.testing.assert_allclose(together[:, [k]], alone, rtol=1e-4, atol=1e-4)


if __name__ == "__main__":
    unittest.main()
