"""Any question asked twice has one answer, bit for bit: nothing that is remembered is changed."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from dataclasses import dataclass, fields, is_dataclass, replace
from types import MappingProxyType
from typing import Any

import numpy as np

from calveth.catalogue.shipped import demo_project
from calveth.core.advice.findings import findings
from calveth.core.assess.nights import assess_nights
from calveth.core.assess.result import assess_months
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import HiveCase
from calveth.core.climate.place import Place
from calveth.core.conduction.hive import hive_conduction
from calveth.core.conduction.joints import joints_of
from calveth.core.heat.seasons import summer_materials, winter_materials
from calveth.core.hive.design import Design, Window
from calveth.core.hive.forms import BOTH, BarTrough, Beyond, StackedBoxes
from calveth.core.hive.joinery import Joinery
from calveth.core.hive.opening import Opening
from calveth.core.remembered import locked
from calveth.core.solids.build import build_solids
from calveth.core.solids.cost import material_cost_eur
from calveth.core.solids.quantities import face_areas
from calveth.core.workshop.plan import listed
from calveth.core.year.figures import year_figures
from calveth.core.year.run import run_year
from tests.cases import LONG, hive_case
from tests.core.builders import TABLE, box, layer, slot, steady_place

WINDOW = Window(
    bottom_m=0.05, width_m=0.2, height_m=0.12, stack=(layer("softwood", 19), layer("glass", 4))
)
SCREEN = Opening(
    id="screen",
    name="screen",
    shape="screen",
    side="floor",
    bottom_m=0.0,
    width_m=0.3,
    height_m=0.3,
    mesh_share=0.5,
)


def hives() -> dict[str, Design]:
    """Return hives that between them have every option set."""
    demo = demo_project()
    beyond: tuple[Beyond, ...] = ("empty room", BOTH, "second colony")
    parted = {
        f"window, {kind}": box(
            layer("softwood", 12),
            layer("xps", 40),
            layer("softwood", 12),
            window=WINDOW,
            openings=(slot(), SCREEN),
            has_tray=True,
            tilt_deg=3.0,
            form=StackedBoxes(
                frame_count=12,
                box_count=2,
                rack_m=0.05,
                frames_in_use=6,
                beyond=kind,
                feed_room_m=0.04,
            ),
            joinery=Joinery(
                corner="posts",
                window_frame="timber through",
                entrance="solid block",
                fixing="timber spacers",
                stand="legs",
                lid="telescoping rim",
            ),
        )
        for kind in beyond
    }
    glazed = {
        name: replace(demo.design(name), window=WINDOW) for name in ("quilt", "cover", "aircrete")
    }
    trough = box(layer("softwood", 25), window=WINDOW, form=BarTrough(bar_count=20))
    return {**parted, **glazed, "trough": trough}


def content(value: object) -> Any:
    """Return a value as plain tuples and bytes, so that equal means bit for bit."""
    if isinstance(value, np.ndarray):
        return value.tobytes()
    if isinstance(value, dict | MappingProxyType):
        return tuple((content(k), content(v)) for k, v in value.items())
    if isinstance(value, list | tuple):
        return tuple(content(v) for v in value)
    if is_dataclass(value) and not isinstance(value, type):
        return tuple(content(getattr(value, f.name)) for f in fields(value) if f.compare)
    # Numbers by their digits: what is not a number equals itself here.
    return repr(value)


def questions(case: HiveCase) -> dict[str, Callable[[], object]]:
    """Return what may be asked of a hive; each asks it anew."""
    hive = build_solids(case.design)
    table = case.materials

    def months() -> object:
        found = assess_months(case)
        nights = assess_nights(found)
        return (
            found.conductance_w_k,
            found.winter_honey_kg,
            found.honey_kg_month,
            found.months.balance.temperature_degc,
            nights.wet_nights,
            [f.message for f in findings(found, 0)],
        )

    return {
        "months": months,
        "year": lambda: year_figures(run_year(case)),
        "areas": lambda: face_areas(hive),
        "cost": lambda: material_cost_eur(case.design, TABLE),
        "joints": lambda: joints_of(case.design, table, 1.0),
        "pieces": lambda: [(r.piece, r.count) for r in listed(case.design, table)[0]],
    }


class AskedAgain(unittest.TestCase):
    def test_every_question_of_every_hive(self) -> None:
        demo = demo_project()
        asked = hives()
        self.assertGreaterEqual(len(asked), 7)
        # A quarter of them; all in a long run.
        for name, design in list(asked.items())[:: 1 if LONG else 4]:
            case = hive_case(design, demo.place, demo.colony, TABLE)
            first = {key: content(ask()) for key, ask in questions(case).items()}
            for round_ in range(2):
                for key, ask in reversed(questions(case).items()):
                    self.assertEqual(content(ask()), first[key], (name, key, round_))

    def test_areas_that_are_remembered_cannot_be_changed(self) -> None:
        areas = face_areas(build_solids(box(window=WINDOW)))
        with self.assertRaises(TypeError):
            areas["walls"] = areas["lid"]  # type: ignore[index]


class WarmEverywhere(unittest.TestCase):
    """Where no month is cool the shell has one conductance, whoever asks."""

    def place(self) -> Place:
        return steady_place(24.0, 0.8)

    def test_the_coldest_month_has_the_materials_of_a_warm_one(self) -> None:
        design, table = demo_project().design("timber"), TABLE
        self.assertEqual(
            winter_materials(table, self.place()), summer_materials(table, self.place())
        )
        case, because = solved_case(
            hive_case(design, self.place(), demo_project().colony, table), spots=False
        )
        self.assertEqual(because, "")
        conducted = hive_conduction(design, winter_materials(table, self.place()))
        self.assertAlmostEqual(
            assess_months(case).conductance_w_k, conducted.conductance_w_k, places=9
        )


class Locked(unittest.TestCase):
    def test_arrays_in_an_answer_cannot_be_written_to(self) -> None:
        @dataclass(frozen=True)
        class Answer:
            values: Any
            more: tuple[Any, ...]

        made = locked(Answer(np.ones(3), (np.ones(2), 1.0)))
        for array in (made.values, made.more[0], locked(np.ones(2))):
            with self.assertRaises(ValueError):
                array[0] = 7.0
        for wrong in ([1], {1: 2}, {1}):
            with self.assertRaises(TypeError):
                locked(Answer(np.ones(1), (wrong,)))


if __name__ == "__main__":
    unittest.main()
