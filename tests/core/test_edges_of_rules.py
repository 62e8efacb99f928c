"""Edges of rules where a slip of one would be seen by nobody: each was a slip that lived once."""

from __future__ import annotations

import os
import tempfile
import unittest
from dataclasses import replace
from datetime import date
from pathlib import Path
from unittest import mock

import numpy as np

from calveth.catalogue.examples import workshop_project
from calveth.catalogue.shipped import demo_project
from calveth.core.constants_building import MOULD_BOARD
from calveth.core.constants_year import BROOD_HARMED
from calveth.core.diary import due
from calveth.core.diary.due import RESERVE_KG, due_acts
from calveth.core.diary.expected import survival
from calveth.core.hive.joinery import Joinery
from calveth.core.hive.season_plan import NO_PLAN
from calveth.core.nest.network import hive_model
from calveth.core.nest.stores import QUILT, water_stores
from calveth.core.parameters import RANGES, draws
from calveth.core.records.diary import Diary
from calveth.core.solids.build import build_solids
from calveth.core.solids.shapes import Cuboid
from calveth.core.workshop.casting import mould_of
from calveth.core.workshop.lifting import judge, recommended_kg
from calveth.core.workshop.pieces import pieces_of
from calveth.core.workshop.standing import Standing, standing
from calveth.core.workshop.weights import lifts_of
from calveth.core.year.draws import YearBands
from calveth.core.year.figures import NAMES, year_figures
from calveth.core.year.questions import Helped
from calveth.store.atomic_write import atomic_write
from calveth.store.errors import FileError
from calveth.store.log_csv import read_log
from tests.cases import hive_case
from tests.core.builders import TABLE, box
from tests.diary.cases import BOARDS, DIARY
from tests.year.cases import PROJECT, case_of, year_of

DEMO = demo_project()


def bands_of(values: np.ndarray, count: int) -> YearBands:
    """Return bands with the same values of every figure."""
    case = case_of("composite")
    table = np.repeat(values.reshape(-1, 1), len(NAMES), axis=1)
    return YearBands(
        case=case,
        likely=year_figures(year_of("composite")),
        values=table,
        parameters=draws(count, 3),
    )


class Days(unittest.TestCase):
    def test_the_first_of_march_of_a_leap_year(self) -> None:
        """Day 60 of 365 is 1 March: the 61st of a leap year; 28 February stays."""
        self.assertEqual(due._leap_safe(2028, 60), 61)
        self.assertEqual(due._leap_safe(2028, 59), 59)
        self.assertEqual(due._leap_safe(2027, 60), 60)

    def test_feed_is_due_below_the_reserve_and_not_above(self) -> None:
        for kg, feeds in ((0.97 * RESERVE_KG, True), (1.03 * RESERVE_KG, False)):
            with mock.patch.object(due, "expected_stores_kg", return_value=kg):
                acts = due_acts(
                    DIARY,
                    PROJECT.place,
                    17.0,
                    {d.id: NO_PLAN for d in PROJECT.designs},
                    {"hive-1": year_of("plain-boards")},
                    date(2025, 11, 1),
                )
            self.assertTrue(any(a.kind == "heft" for a in acts))
            self.assertEqual(any(a.kind == "feed" for a in acts), feeds, kg)

    def test_a_winter_is_gone_into_on_the_first_of_november(self) -> None:
        lost = replace(BOARDS, until="2025-11-15", fate="lost")
        found = survival(Diary(hives=(lost,)), date(2026, 6, 1))
        self.assertEqual([(s.winters, s.alive) for s in found], [(1, 0)])
        early = replace(BOARDS, until="2025-10-31", fate="lost")
        self.assertEqual(survival(Diary(hives=(early,)), date(2026, 6, 1)), [])


class Workshop(unittest.TestCase):
    def stand(self, **changed: object) -> Standing:
        design = DEMO.design("timber")
        found = standing(design, build_solids(design), TABLE, DEMO.colony, DEMO.place, "full")
        return replace(found, **changed)  # type: ignore[arg-type]

    def test_a_hive_stands_when_stack_and_lid_do(self) -> None:
        sure = tuple(replace(j, tips=2.0, slides=2.0) for j in self.stand().joints)
        weak = tuple(replace(j, tips=0.5, slides=2.0) for j in self.stand().joints)
        for joints, lid_n, stands in (
            (sure, 90.0, True),
            (sure, 40.0, False),
            (weak, 90.0, False),
            (weak, 40.0, False),
        ):
            found = self.stand(joints=joints, lid_n=lid_n, lid_up_n=50.0)
            self.assertEqual(found.stands, stands)

    def test_the_reach_is_to_the_middle_of_the_part(self) -> None:
        """20 cm to the near side and half of its depth: 43.4 cm for 46.7 cm of box."""
        design = DEMO.design("timber")
        design = replace(design, details=replace(design.details, grips="none"))
        lift = lifts_of(design, build_solids(design), TABLE, DEMO.colony)[1]
        by_hand = recommended_kg(
            20 + 100 * lift.deep_m / 2, max(100 * lift.grip_m, 25.0), 40.0, 0.0, "poor"
        )
        self.assertAlmostEqual(judge(lift, design).limit_kg, by_hand, places=9)
        self.assertAlmostEqual(
            by_hand,
            23
            * 25
            / (20 + 50 * lift.deep_m)
            * 0.9
            * (1 - 0.003 * abs(max(100 * lift.grip_m, 25.0) - 75))
            * (0.82 + 4.5 / 40),
            places=6,
        )

    def test_hands_hold_a_box_at_its_middle_above_the_ground(self) -> None:
        """On legs of 25 cm under a floor of 19 mm the lowest box of 244 mm begins 20 mm up."""
        design = box(joinery=Joinery(stand="legs", leg_high_m=0.25))
        lifts = {
            x.part.label: x for x in lifts_of(design, build_solids(design), TABLE, DEMO.colony)
        }
        self.assertAlmostEqual(lifts["box 1"].grip_m, 0.25 + 0.019 + 0.020 + 0.122, delta=0.0005)

    def test_the_core_of_a_mould_goes_into_its_walls(self) -> None:
        """Its short boards stand between the long ones: two thicknesses less than the room."""
        cast = workshop_project().design("cast")
        pieces = pieces_of(cast, build_solids(cast), TABLE)
        group = [p for p in pieces if p.bought_as == "cast" and p.face == "walls"]
        shapes = [p.shape for p in group if isinstance(p.shape, Cuboid)]
        room = min(
            max(s.x1 for s in shapes) - min(s.x0 for s in shapes),
            max(s.y1 for s in shapes) - min(s.y0 for s in shapes),
        ) - 2 * min(min(s.x1 - s.x0, s.y1 - s.y0) for s in shapes)
        core = next(b for b in mould_of(group) if b.where == "core, short")
        self.assertAlmostEqual(core.length_m + 2 * MOULD_BOARD.value, room, places=9)


class Figures(unittest.TestCase):
    def test_hours_too_warm_for_brood_are_those_with_brood(self) -> None:
        run = year_of("plain-boards")
        nest, brood = run.column("nest_degc").copy(), run.bees.core_degc > 30.0
        self.assertTrue(brood.any() and (~brood).any())
        limit = BROOD_HARMED.value
        with mock.patch.object(
            type(run),
            "column",
            lambda r, n: np.full(8760, limit + 1.0) if n == "nest_degc" else _column(r, n),
        ):
            self.assertEqual(year_figures(run).harmful_hours, float(brood.sum()))
        self.assertEqual(year_figures(run).harmful_hours, float(((nest > limit) & brood).sum()))

    def test_as_wet_as_before_is_not_drier(self) -> None:
        same = bands_of(np.full(8, 20.0), 8)
        less = bands_of(np.array([10.0, 20, 20, 20, 20, 20, 20, 20]), 8)
        helped = Helped(remedy=mock.Mock(), before=same, after=same)
        self.assertEqual(helped.drier_of_ten, 0.0)
        self.assertAlmostEqual(replace(helped, after=less).drier_of_ten, 10 / 8)

    def test_chance_alone_names_no_input(self) -> None:
        """Of twenty-odd inputs some lie beyond one standard error by chance; none is named."""
        random = np.random.default_rng(5)
        bands = bands_of(random.standard_normal(48), 48)
        self.assertEqual(bands.comes_from("winter_honey_kg"), [])
        driver = next(iter(RANGES))
        told = bands_of(np.array([getattr(p, driver) for p in draws(48, 3)]), 48)
        self.assertEqual(told.comes_from("winter_honey_kg")[0][0], driver)

    def test_the_quilt_is_looked_at_in_its_middle(self) -> None:
        design = DEMO.design("quilt")
        model = hive_model(hive_case(design, DEMO.place, DEMO.colony, TABLE))
        k = max(
            (
                n
                for n, y in enumerate(design.shell.lid)
                if y.fitting == "quilt" and TABLE[y.material].kind == "solid"
            ),
            key=lambda n: design.shell.lid[n].thickness_m,
        )
        heat = model.faces["lid"]
        layers = heat.layers_m2k_w
        inner = heat.film_m2k_w + sum(layers[k + 1 :]) + layers[k] / 2
        whole = heat.film_m2k_w + sum(layers) + float(heat.outer_film_m2k_w())
        self.assertAlmostEqual(water_stores(model).inner_share[QUILT], inner / whole, places=12)


class Files(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def test_the_rights_of_the_old_file_stay(self) -> None:
        path = self.folder / "mine.txt"
        path.write_text("old", encoding="utf-8")
        path.chmod(0o640)
        mask = os.umask(0)
        try:
            with atomic_write(path) as part:
                part.write_text("new", encoding="utf-8")
        finally:
            os.umask(mask)
        self.assertEqual(path.stat().st_mode & 0o777, 0o640)

    def test_two_probes_in_one_column_from_three_rows_in_ten_on(self) -> None:
        def log(double: int) -> str:
            rows = [f"2026-02-03 {k // 60:02d}:{k % 60:02d},20" for k in range(100)]
            return "time,a °C\n" + "\n".join(rows + rows[:double]) + "\n"

        for double, refused in ((20, False), (60, True)):
            path = self.folder / f"{double}.csv"
            path.write_text(log(double), encoding="utf-8")
            if refused:
                with self.assertRaisesRegex(FileError, "two probes in turn"):
                    read_log(path, "UTC")
            else:
                self.assertEqual(read_log(path, "UTC").columns[0].series.values.size, 100)


def _column(run: object, name: str) -> np.ndarray:
    from calveth.core.year import columns as cl

    found: np.ndarray = run.series[:, cl.SERIES.index(name)]  # type: ignore[attr-defined]
    return found


if __name__ == "__main__":
    unittest.main()
