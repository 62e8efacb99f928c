"""More rules worked out by hand: what a changed sign or operator was found to show nowhere else."""

from __future__ import annotations

import os
import tempfile
import time
import unittest
from dataclasses import replace
from math import pi, sqrt
from pathlib import Path

from calveth.core.airflow.draught import comb_distance_m, draught_at_comb_m_s
from calveth.core.assess.result import assess_months
from calveth.core.assess.solved_shells import correction_of
from calveth.core.conduction.hive import hive_conduction
from calveth.core.heat.periodic import (
    face_matrix,
    transmittance_and_admittance,
)
from calveth.core.heat.shell import DIRECTIONS
from calveth.core.hive.design import FACES
from calveth.core.hive.forms import StackedBoxes
from calveth.core.solids.build import build_solids
from calveth.core.solids.openings_cut import part_at
from calveth.core.solids.quantities import follower_board
from calveth.store.atomic_write import atomic_write
from calveth.texts.derivation import Asked, working
from tests.cases import hive_case
from tests.core.builders import TABLE, box, hole, layer, steady_place
from tests.core.test_colony import COLONY


class Air(unittest.TestCase):
    def test_a_jet_is_as_fast_as_its_flow_through_its_hole_and_then_fades(self) -> None:
        """Speed is flow over area; beyond six diameters it falls as 6·D/x (as in docs/method)."""
        opening, design = hole(0.2), box(openings=(hole(0.2),))
        area = pi * opening.width_m**2 / 4
        diameter, distance = sqrt(4 * area / pi), comb_distance_m(design, opening)
        fades = min(1.0, 6.0 * diameter / distance)
        found = draught_at_comb_m_s(design, opening, 0.5 * area, area, 0.5)
        self.assertAlmostEqual(found, 0.5 * fades, places=9)

    def test_breathed_out_is_what_the_honey_gives(self) -> None:
        """1 kg of honey (83 % sugar) burns to 1.22 kg of CO2 (C6H12O6 + 6 O2)."""
        monthly = assess_months(hive_case(box(), steady_place(), COLONY, TABLE))
        said = working(
            "CO2 in the nest", Asked(monthly=monthly, nights=None, month=0, materials=TABLE)
        )
        grams = float(monthly.honey_kg_month[0]) / 31 * 1000 * 0.83 * 6 * 44.01 / 180.16
        self.assertAlmostEqual(float(said.inputs[0].value.split()[0]), grams, delta=0.6)


class Shape(unittest.TestCase):
    def test_parts_are_called_what_they_are(self) -> None:
        one = StackedBoxes(frame_count=10)
        two = replace(one, box_count=2)
        self.assertEqual(part_at(0.1, one).label, "box 1")
        self.assertEqual(part_at(two.levels_m[0] + 0.01, two).label, "box 2")

    def test_a_follower_board_is_as_large_as_the_room_is_wide_and_high(self) -> None:
        form = StackedBoxes(frame_count=20, frames_in_use=8)
        hive = build_solids(box(form=form, openings=()))
        board, room = follower_board(hive), hive.shell
        width, height = room.y1 - room.y0, room.z1 - room.z0
        self.assertAlmostEqual(board.area_m2, width * height, places=9)
        self.assertAlmostEqual(board.top_m, width, places=9)

    def test_zones_of_a_plain_hive_need_no_factor_of_their_own(self) -> None:
        """Three faces and three solved zones: the factors of the faces alone give the zones."""
        design = box(layer("eps", 40), lid=(layer("eps", 40),), openings=())
        found = correction_of(design, TABLE, hive_conduction(design, TABLE, 0.5))
        for zone in found.zones:
            self.assertAlmostEqual(zone, 1.0, places=9)


class Slow(unittest.TestCase):
    def test_the_day_and_the_balance_see_the_same_layers(self) -> None:
        """With a long period the matrices of the swing give the conductance of the network."""
        model = assess_months(hive_case(box(layer("eps", 40)), steady_place(), COLONY, TABLE)).model
        for face in FACES:
            heat = model.faces[face]
            layers = model.design.shell.stack(face)
            matrix = face_matrix(layers, model.materials, DIRECTIONS[face], 1e9)
            steady = float(1 / abs(matrix[0, 1]))
            films = heat.film_m2k_w + float(heat.outer_film_m2k_w())
            self.assertAlmostEqual(1 / steady, sum(heat.layers_m2k_w) + films, places=6)

    def test_a_swing_that_is_slow_enough_goes_through_as_steady_heat(self) -> None:
        """EN ISO 13786, 3: with a long period the decrement factor tends to one."""
        matrix = face_matrix((layer("softwood", 25), layer("eps", 40)), TABLE, "horizontal", 1e9)
        steady = float(1 / abs(matrix[0, 1]))
        through, in_and_out = transmittance_and_admittance(matrix)
        self.assertAlmostEqual(abs(through), steady, places=6)
        self.assertAlmostEqual(abs(in_and_out), steady, delta=0.01 * steady)


class Files(unittest.TestCase):
    def test_only_parts_of_our_own_are_cleared_away(self) -> None:
        """A hidden file of the user that begins alike stays, and so does a part of another file."""
        with tempfile.TemporaryDirectory() as folder:
            target = Path(folder) / "hives.json"
            names = (".hives.notes", ".other.x.calveth-part", ".hives.x.calveth-part")
            for name in names:
                old = Path(folder) / name
                old.write_text("old", encoding="utf-8")
                os.utime(old, (time.time() - 7200,) * 2)
            with atomic_write(target) as part:
                part.write_text("new", encoding="utf-8")
            left = {p.name for p in Path(folder).iterdir()}
            self.assertEqual(left, {"hives.json", *names[:2]})


if __name__ == "__main__":
    unittest.main()
