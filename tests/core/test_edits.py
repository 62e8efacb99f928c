"""Edits are pure: they change what they name and nothing else."""

from __future__ import annotations

import unittest
from collections.abc import Callable
from dataclasses import replace
from typing import get_args

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from calveth.catalogue.shipped import demo_project, shipped_materials
from calveth.core import edits
from calveth.core.errors import DomainError
from calveth.core.hive.design import FACES, Design, Tightness, Window
from calveth.core.hive.forms import StackedBoxes
from calveth.core.hive.plans import starting_plan
from calveth.core.project import Project
from calveth.core.school import SCHOOLS
from tests.core.builders import hole, layer

PROJECT = demo_project()
CORK = next(m for m in shipped_materials() if m.id == "cork")
CANVAS = next(m for m in shipped_materials() if m.id == "hemp")


def _boxes(project: Project, design_id: str, **counts: int) -> Project:
    """Return a project whose hive has other counts of frames or boxes."""

    def change(design: Design) -> Design:
        if not isinstance(design.form, StackedBoxes):  # a form without such counts stays as it is
            return design
        return replace(design, form=replace(design.form, **counts))  # type: ignore[arg-type]

    return edits.change_design(project, design_id, change)


class Layers(unittest.TestCase):
    def test_thickness(self) -> None:
        after = edits.set_layer_thickness(PROJECT, "composite", "walls", 1, 0.06)
        self.assertEqual(after.design("composite").shell.walls[1].thickness_m, 0.06)
        self.assertEqual(after.design("composite").shell.lid, PROJECT.design("composite").shell.lid)
        self.assertEqual(PROJECT, demo_project())
        for other in ("polystyrene", "timber", "hollow-tree"):
            self.assertIs(after.design(other), PROJECT.design(other))

    def test_refused_thickness_names_face_and_layer(self) -> None:
        for value in (-0.01, 0.0, 5.0, float("nan")):
            with self.subTest(value=value), self.assertRaises(DomainError) as caught:
                edits.set_layer_thickness(PROJECT, "timber", "lid", 0, value)
            self.assertIn("lid layer 1 thickness", str(caught.exception))

    def test_material_joins_the_project(self) -> None:
        self.assertNotIn("hemp", PROJECT.material_table())
        after = edits.set_layer_material(PROJECT, "timber", "lid", 0, CANVAS)
        self.assertEqual(after.design("timber").shell.lid[0].material, "hemp")
        self.assertIn("hemp", after.material_table())

    def test_a_material_of_the_project_is_not_replaced(self) -> None:
        own = replace(CORK, conductivity_w_mk=0.05)
        project = replace(
            PROJECT, materials=tuple(own if m.id == "cork" else m for m in PROJECT.materials)
        )
        after = edits.set_layer_material(project, "timber", "lid", 0, CORK)
        self.assertEqual(after.material_table()["cork"].conductivity_w_mk, 0.05)

    def test_add_and_remove(self) -> None:
        more = edits.add_layer(PROJECT, "timber", "walls", 1, CORK, 0.04)
        self.assertEqual(
            [x.material for x in more.design("timber").shell.walls], ["softwood", "cork"]
        )
        back = edits.remove_layer(more, "timber", "walls", 1)
        self.assertEqual(back.design("timber"), PROJECT.design("timber"))

    def test_the_last_layer_stays(self) -> None:
        with self.assertRaises(DomainError) as caught:
            edits.remove_layer(PROJECT, "timber", "walls", 0)
        self.assertIn("last one", str(caught.exception))

    def test_no_such_layer_or_design(self) -> None:
        with self.assertRaises(DomainError):
            edits.remove_layer(PROJECT, "composite", "walls", 7)
        with self.assertRaises(DomainError) as caught:
            edits.set_layer_thickness(PROJECT, "nothing", "walls", 0, 0.02)
        self.assertIn("polystyrene", str(caught.exception))


class OpeningsAndBoxes(unittest.TestCase):
    def test_opening_added_changed_removed(self) -> None:
        more = edits.set_opening(PROJECT, "polystyrene", hole(0.4))
        self.assertEqual(len(more.design("polystyrene").openings), 2)
        wider = edits.set_opening(more, "polystyrene", hole(0.4, 0.025))
        self.assertEqual(wider.design("polystyrene").openings[1].width_m, 0.025)
        back = edits.remove_opening(wider, "polystyrene", "high")
        self.assertEqual(back, PROJECT)

    def test_boxes(self) -> None:
        after = _boxes(PROJECT, "timber", frame_count=8)
        form = after.design("timber").form
        assert isinstance(form, StackedBoxes)
        self.assertEqual((form.frame_count, form.box_count), (8, 2))

    def test_a_lower_hive_does_not_lose_its_upper_hole_unsaid(self) -> None:
        with self.assertRaises(DomainError) as caught:
            _boxes(PROJECT, "timber", box_count=1)
        self.assertIn("upper hole", str(caught.exception))

    def test_joints_and_name(self) -> None:
        after = edits.set_joints(PROJECT, "timber", "dry-laid")
        self.assertEqual(after.design("timber").joints, "dry-laid")
        self.assertEqual(edits.rename_design(PROJECT, "timber", "Oak").design("timber").name, "Oak")
        with self.assertRaises(DomainError):
            edits.rename_design(PROJECT, "timber", "")


class Designs(unittest.TestCase):
    def test_duplicate(self) -> None:
        after, new = edits.duplicate_design(PROJECT, "timber")
        self.assertEqual(new, "timber-2")
        self.assertEqual([d.id for d in after.designs][:3], ["polystyrene", "timber", "timber-2"])
        again, third = edits.duplicate_design(after, "timber")
        self.assertEqual(third, "timber-3")
        self.assertEqual(len(again.designs), 10)

    def test_a_copied_benchmark_is_a_candidate(self) -> None:
        after, new = edits.duplicate_design(PROJECT, "plain-boards")
        self.assertFalse(after.design(new).benchmark)

    def test_the_last_design_stays(self) -> None:
        project: Project = PROJECT
        for design in PROJECT.designs[1:]:
            project = edits.remove_design(project, design.id)
        with self.assertRaises(DomainError):
            edits.remove_design(project, PROJECT.designs[0].id)


class Projects(unittest.TestCase):
    def test_unknown_material_is_named(self) -> None:
        fewer = tuple(m for m in PROJECT.materials if m.id != "xps")
        with self.assertRaises(DomainError) as caught:
            replace(PROJECT, materials=fewer)
        self.assertIn("xps", str(caught.exception))
        self.assertIn("layer", str(caught.exception))

    def test_ids_twice(self) -> None:
        with self.assertRaises(DomainError):
            replace(PROJECT, designs=(*PROJECT.designs, PROJECT.designs[0]))

    def test_months_and_colony(self) -> None:
        month = replace(PROJECT.place.months[2], temperature_degc=5.0)
        after = edits.set_month(PROJECT, 2, month)
        self.assertEqual(after.place.months[2], month)
        self.assertEqual(after.place.months[3:], PROJECT.place.months[3:])
        colony = replace(PROJECT.colony, stores_kg=25.0)
        self.assertEqual(edits.set_colony(PROJECT, colony).colony.stores_kg, 25.0)


EDITS: tuple[Callable[[Project, str, float], Project], ...] = (
    lambda p, d, x: edits.set_layer_thickness(p, d, FACES[int(x * 3) % 3], 0, x),
    lambda p, d, x: edits.add_layer(p, d, FACES[int(x * 7) % 3], 0, CORK, x),
    lambda p, d, x: edits.remove_layer(p, d, FACES[int(x * 5) % 3], int(x * 2)),
    lambda p, d, x: _boxes(p, d, frame_count=int(x * 50)),
    lambda p, d, x: edits.set_opening(p, d, hole(x, 0.02)),
    lambda p, d, x: edits.duplicate_design(p, d)[0],
    lambda p, d, x: edits.remove_design(p, d),
    lambda p, d, x: edits.move_layer(p, d, FACES[int(x * 4) % 3], 0, 1),
    lambda p, d, x: edits.set_joints(p, d, get_args(Tightness)[int(x * 9) % 5]),
    lambda p, d, x: edits.rename_design(p, d, "x" * int(x * 90)),
    lambda p, d, x: edits.set_seasons(
        p, d, starting_plan(p.design(d), p.place, SCHOOLS[int(x * 9) % len(SCHOOLS)])
    ),
    lambda p, d, x: edits.set_window(
        p, d, Window(bottom_m=x / 4, width_m=x, height_m=0.1, stack=(layer("cork", 20),)), [CORK]
    ),
    lambda p, d, x: edits.set_school(p, SCHOOLS[int(x * 9) % len(SCHOOLS)]),
    lambda p, d, x: edits.set_month(
        p, int(x * 12), replace(p.place.months[0], temperature_degc=100 * x)
    ),
    lambda p, d, x: edits.put_material(p, replace(CORK, conductivity_w_mk=x / 3)),
    lambda p, d, x: edits.remove_material(p, p.materials[int(x * 20)].id),
)


ANY_EDITS = st.lists(
    st.tuples(
        st.integers(0, len(EDITS) - 1),
        st.integers(0, 5),
        st.one_of(st.floats(-0.1, 1.2), st.just(float("nan"))),
    ),
    max_size=12,
)
"""Which edit, of which design, with what number."""


class AnySequence(unittest.TestCase):
    @settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.too_slow])
    @given(ANY_EDITS)
    def test_an_edit_is_done_or_refused_and_the_project_stays_whole(
        self, steps: list[tuple[int, int, float]]
    ) -> None:
        project = PROJECT
        for which, design, x in steps:
            before = project
            ids = [d.id for d in project.designs]
            try:
                project = EDITS[which](project, ids[design % len(ids)], x)
            except (DomainError, ValueError, OverflowError, IndexError):
                self.assertEqual(project, before)
        known = project.material_table()
        for d in project.designs:
            for face in FACES:
                self.assertTrue(all(layer.material in known for layer in d.shell.stack(face)))
        self.assertEqual(PROJECT, demo_project())


if __name__ == "__main__":
    unittest.main()
