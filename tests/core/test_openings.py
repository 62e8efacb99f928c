"""Openings of every kind: their areas, their limits, their air."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace
from itertools import product

import numpy as np

from calveth.catalogue.library import (
    OPENING_KINDS,
    make_design,
    opening_of_kind,
    shipped_frames,
    shipped_make_ups,
)
from calveth.core import constants as c
from calveth.core.airflow.draught import comb_distance_m, draught_at_comb_m_s
from calveth.core.airflow.flow import balanced_pressure_pa, flows
from calveth.core.airflow.paths import air_paths, stack_paths
from calveth.core.assess.result import assess_months
from calveth.core.errors import CalvethError, DomainError
from calveth.core.hive.forms import StackedBoxes, cavity_height_m, side_spans_m
from calveth.core.hive.opening import Opening, is_high, opening_area_m2, opening_parts
from calveth.core.hive.zones import CROWN
from calveth.core.parameters import LIKELY
from calveth.core.solids.build import build_solids
from calveth.core.solids.quantities import part_weights_kg
from tests.cases import hive_case
from tests.core.builders import TABLE, box, hole, layer, slot, steady_place
from tests.core.test_colony import COLONY

CALM = np.zeros(1)


def opening(shape: str, **fields: object) -> Opening:
    """Return an opening of a shape with the fields given."""
    usual: dict[str, object] = {
        "id": "x",
        "name": "x",
        "shape": shape,
        "bottom_m": 0.1,
        "width_m": 0.02,
        "height_m": 0.02,
    }
    return Opening(**{**usual, **fields})  # type: ignore[arg-type]


class Areas(unittest.TestCase):
    spans, height = (0.374, 0.467), 0.508

    def area(self, o: Opening, *, gross: bool = False) -> float:
        return opening_area_m2(o, self.spans, self.height, gross=gross)

    def test_each_shape_by_hand(self) -> None:
        rows = (
            (opening("slot", width_m=0.1, height_m=0.012), 0.0012),
            (opening("hole"), math.pi / 4 * 0.02**2),
            (opening("row of holes", count=6), 6 * math.pi / 4 * 0.02**2),
            # Along two long and one short wall, 3 mm high.
            (
                opening("lid gap", side="back", width_m=2.0, height_m=0.003),
                0.003 * (0.374 + 2 * 0.467),
            ),
            (opening("screen", side="floor", width_m=0.3, height_m=0.4, mesh_share=0.5), 0.06),
        )
        for o, expected in rows:
            with self.subTest(shape=o.shape):
                self.assertAlmostEqual(self.area(o), expected, places=9)

    def test_slider_mesh_and_propolis_multiply(self) -> None:
        o = opening("hole", free_share=0.5, mesh_share=0.6, propolis_share=0.25)
        self.assertAlmostEqual(self.area(o), math.pi / 4 * 0.02**2 * 0.5 * 0.6 * 0.75)
        self.assertAlmostEqual(self.area(o, gross=True), math.pi / 4 * 0.02**2)

    def test_a_lid_gap_has_three_sides(self) -> None:
        parts = opening_parts(
            opening("lid gap", side="back", width_m=2.0, height_m=0.003), self.spans, self.height
        )
        self.assertEqual([p.side for p in parts], ["front", "right", "left"])

    def test_high_and_low(self) -> None:
        self.assertTrue(is_high(opening("hole", bottom_m=0.45), 0.5))
        self.assertFalse(is_high(opening("hole", bottom_m=0.05), 0.5))
        self.assertTrue(is_high(opening("hole", bottom_m=0.05, lift_m=0.4), 0.5))
        self.assertTrue(is_high(opening("hole", side="lid"), 0.5))
        self.assertFalse(is_high(opening("screen", side="floor"), 0.5))


class Refusals(unittest.TestCase):
    def test_each_in_the_words_of_its_field(self) -> None:
        rows: tuple[tuple[dict[str, object], str], ...] = (
            ({"shape": "hole", "width_m": 0.0, "height_m": 0.0}, "width"),
            ({"shape": "hole", "height_m": 0.03}, "round"),
            ({"shape": "slot", "free_share": 1.2}, "open share"),
            ({"shape": "slot", "mesh_share": 0.0}, "mesh"),
            ({"shape": "slot", "propolis_share": -0.1}, "propolis"),
            ({"shape": "slot", "count": 3}, "row of holes"),
            ({"shape": "row of holes", "count": 2.5}, "whole number"),
            ({"shape": "screen", "side": "front"}, "screen lies in the floor"),
            ({"shape": "lid gap", "side": "lid"}, "name the closed wall"),
            ({"shape": "slot", "side": "roof"}, "side"),
            ({"shape": "slot", "tunnel_m": math.nan}, "tunnel"),
            ({"shape": "porthole"}, "shape"),
        )
        for fields, part in rows:
            shape = str(fields.pop("shape"))
            with self.subTest(shape=shape, **fields), self.assertRaises(DomainError) as caught:
                opening(shape, **fields)
            self.assertIn(part, str(caught.exception))

    def test_what_does_not_fit_the_face(self) -> None:
        rows = (
            (opening("slot", width_m=0.5), "wider than the wall"),
            (opening("slot", bottom_m=0.5, height_m=0.05), "above the wall"),
            (opening("row of holes", count=30), "wider than the wall"),
            (opening("screen", side="floor", width_m=0.6, height_m=0.6), "larger than the floor"),
            (opening("hole", lift_m=0.5), "lift"),
            (opening("lid gap", side="back", height_m=0.4), "half the wall"),
        )
        for o, part in rows:
            with self.subTest(part=part), self.assertRaises(DomainError) as caught:
                box(openings=(o,))
            self.assertIn(part, str(caught.exception))


class Air(unittest.TestCase):
    def test_a_level_hole_in_the_lid_by_epstein(self) -> None:
        # Epstein 1988: Q = 0.055·√(g·Δρ/ρ)·D^2.5; 40 mm hole, 1.30 outside over 1.25 inside.
        design = box(openings=(opening("hole", side="lid", width_m=0.04, height_m=0.04),))
        paths = air_paths(design, build_solids(design), steady_place(), LIKELY)
        rho = np.array([1.30])
        inside = np.full((3, 1), 1.25)
        sealed = replace(paths, joint_coefficient=np.zeros_like(paths.joint_coefficient))
        dp = balanced_pressure_pa(sealed, rho, inside, CALM)
        flow = flows(sealed, dp, rho, inside, CALM)
        expected = 0.055 * math.sqrt(9.80665 * 0.05 / 1.30) * 0.04**2.5 * 1.30
        self.assertAlmostEqual(float(flow.opening_in[0, 0]) / expected, 1.0, delta=0.02)
        # Heavy air below light air stays where it is.
        light, heavy = np.array([1.25]), np.full((3, 1), 1.30)
        dp = balanced_pressure_pa(sealed, light, heavy, CALM)
        swapped = flows(sealed, dp, light, heavy, CALM)
        self.assertLess(float(swapped.opening_in[0, 0]), 0.05 * expected)

    def test_a_lift_leads_in_high(self) -> None:
        low = opening("hole", bottom_m=0.02, width_m=0.03, height_m=0.03)
        for lift, zone in ((0.0, 0), (0.45, CROWN)):
            design = box(openings=(replace(low, lift_m=lift),))
            paths = air_paths(design, build_solids(design), steady_place(), LIKELY)
            self.assertEqual(int(paths.part_zone[0]), zone)

    def test_a_longer_tunnel_holds_back(self) -> None:
        got = []
        for tunnel in (0.02, 1.0):
            design = box(openings=(slot(), replace(hole(0.45, 0.008), tunnel_m=tunnel)))
            paths = air_paths(design, build_solids(design), steady_place(), LIKELY)
            rho, inside = np.array([1.30]), np.full((3, 1), 1.25)
            dp = balanced_pressure_pa(paths, rho, inside, CALM)
            got.append(float(flows(paths, dp, rho, inside, CALM).opening_out[1, 0]))
        self.assertLess(got[1], 0.9 * got[0])

    def test_wind_goes_through_from_side_to_side(self) -> None:
        # Front into the wind, back in its wake: in through the front, out through the back.
        place = replace(steady_place(wind=6.0), facing_deg=270.0, wind_from_deg=270.0)
        ends = (hole(0.3, 0.02, "front"), replace(hole(0.3, 0.02, "back"), side="back"))
        design = box(openings=ends)
        paths = air_paths(design, build_solids(design), place, LIKELY)
        rho, inside = np.array([1.30]), np.full((3, 1), 1.2999)
        wind = np.array([3.0])
        dp = balanced_pressure_pa(paths, rho, inside, wind)
        flow = flows(paths, dp, rho, inside, wind)
        self.assertGreater(float(flow.opening_in[0, 0]), 3 * float(flow.opening_in[1, 0]))
        self.assertGreater(float(flow.opening_out[1, 0]), 3 * float(flow.opening_out[0, 0]))

    def test_shelter_before_one_side(self) -> None:
        place = replace(steady_place(wind=6.0), facing_deg=270.0, wind_from_deg=270.0)
        hidden = replace(place, side_shelter=("sheltered", "normal", "normal", "normal"))
        cp = [
            float(air_paths(d, build_solids(d), p, LIKELY).strip_cp[0, 0])
            for d in (box(openings=(hole(0.3),)),)
            for p in (place, hidden)
        ]
        self.assertGreater(cp[0], 2 * cp[1])

    def test_hives_side_by_side_balance_as_alone(self) -> None:
        place = steady_place()
        designs = [box(openings=(slot(width=w), hole(0.45, 0.02))) for w in (0.05, 0.1, 0.2)]
        alone = [air_paths(d, build_solids(d), place, LIKELY) for d in designs]
        together = stack_paths(alone, np.arange(3))
        rho, inside = np.full(3, 1.30), np.full((3, 3), 1.26)
        dp = balanced_pressure_pa(together, rho, inside, np.zeros(3))
        for k, paths in enumerate(alone):
            one = balanced_pressure_pa(paths, rho[:1], inside[:, :1], CALM)
            self.assertAlmostEqual(float(dp[k]), float(one[0]), places=9)
        f = flows(together, dp, rho, inside, np.zeros(3))
        net = f.opening_in.sum(axis=0) + f.joint_in.sum(axis=0)
        net = net - f.opening_out.sum(axis=0) - f.joint_out.sum(axis=0)
        self.assertLess(float(np.abs(net).max()), 1e-9)

    def test_a_screen_with_its_tray(self) -> None:
        form = StackedBoxes(frame_count=10, box_count=2)
        screen = opening_of_kind("floor screen", form)
        design = box(openings=(slot(), screen), has_tray=True)
        place = steady_place(temperature=0.0, wind=3.0)
        air = []
        for tray in (True, False):
            from calveth.core.hive.season_plan import Setting, monthly_plan

            set_so = replace(design, seasons=monthly_plan((Setting(tray=tray),) * 12))
            year = assess_months(hive_case(set_so, place, COLONY, TABLE))
            air.append(float(year.months.exchange_m3_s[0]))
        self.assertGreater(air[1], 2 * air[0])


class Draught(unittest.TestCase):
    def test_a_slatted_rack_calms_it(self) -> None:
        # Common practice: frames 2 1/2 to 3 in above the screen instead of close to it.
        close = box(openings=(slot(),))
        far = box(openings=(slot(),), form=StackedBoxes(frame_count=10, box_count=2, rack_m=0.07))
        self.assertGreater(comb_distance_m(far, slot()), 3 * comb_distance_m(close, slot()))
        speeds = [draught_at_comb_m_s(d, slot(), 5e-5, 1.27e-3, 0.5) for d in (close, far)]
        self.assertLessEqual(speeds[1], 0.5 * speeds[0])

    def test_no_area_no_draught(self) -> None:
        self.assertEqual(draught_at_comb_m_s(box(), slot(), 0.0, 0.0, 0.5), 0.0)

    def test_never_faster_than_in_the_hole(self) -> None:
        o = hole(0.4, 0.02)
        area = math.pi / 4 * 0.02**2
        self.assertLessEqual(
            draught_at_comb_m_s(box(openings=(o,)), o, 1e-4, area, 0.5), 1e-4 / area
        )


class Kinds(unittest.TestCase):
    def test_each_kind_fits_each_cavity_or_says_why_not(self) -> None:
        for frames in shipped_frames():
            for kind in OPENING_KINDS:
                with self.subTest(frames=frames.id, kind=kind):
                    made = opening_of_kind(kind, frames.form)
                    try:
                        box(form=frames.form, openings=(made,))
                    except DomainError as error:
                        self.assertIn(made.name, str(error))
                        self.assertIn(frames.id, ("stingless", "nucleus", "tree"))

    def test_sizes_of_the_trade(self) -> None:
        # Common practice: 4 × 1/2 in slot; 13 mm and 8 mm holes of stingless bees are smaller.
        form = shipped_frames()[0].form
        low = opening_of_kind("low slot", form)
        self.assertAlmostEqual(low.width_m, 0.1016)
        self.assertAlmostEqual(low.height_m, 0.0127)
        self.assertAlmostEqual(opening_of_kind("bee hole", form).width_m, 0.008)
        self.assertTrue(is_high(opening_of_kind("upper hole", form), cavity_height_m(form)))
        self.assertLess(opening_of_kind("floor screen", form).width_m, side_spans_m(form)[0])

    def test_heat_goes_with_the_air(self) -> None:
        year = assess_months(
            hive_case(
                box(layer("xps", 50), openings=(slot(), hole(0.45))), steady_place(), COLONY, TABLE
            )
        )
        carried = sum(a.heat_w for a in year.months.openings(0))
        joints = year.months.balance.air_w[0] - carried
        self.assertGreater(carried, 0)
        self.assertGreater(float(joints), -0.1 * carried)
        self.assertLess(float(joints), carried)
        self.assertEqual(c.AIR_HEAT_CAPACITY.value, 1006.0)


class CutsHaveAnOwner(unittest.TestCase):
    def test_what_is_cut_out_is_of_a_part_that_is_there(self) -> None:
        """Every shipped construction round every cavity, a trunk with a cover or sleeve too."""
        tried = 0
        for make_up, frames in product(shipped_make_ups(), shipped_frames()):
            try:
                design = make_design(make_up, frames)
            except CalvethError:
                continue
            weights = part_weights_kg(build_solids(design), TABLE)
            self.assertGreater(min(weights.values()), 0.0, design.name)
            owners = {s.lifted_with for s in build_solids(design).pieces}
            self.assertLessEqual({cut.part for cut in build_solids(design).cuts}, owners)
            tried += 1
        self.assertGreater(tried, 100)


if __name__ == "__main__":
    unittest.main()
