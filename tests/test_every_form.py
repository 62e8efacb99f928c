"""Every form of hive goes through the whole program: file, solids, balance, section, plan, list."""

import tempfile
import unittest
from dataclasses import fields
from pathlib import Path
from typing import get_args

import numpy as np

from calveth.app.areas.form_fields import FIELDS
from calveth.catalogue.library import (
    make_design,
    materials_of,
    shipped_frames,
    shipped_make_ups,
    workshop_of,
)
from calveth.catalogue.shipped import demo_project
from calveth.core.assess.result import assess_months
from calveth.core.case import estimated_case
from calveth.core.edits import add_design
from calveth.core.hive.design import FACES
from calveth.core.hive.forms import FORMS, Form
from calveth.core.project import Project
from calveth.core.solids.build import build_solids
from calveth.core.solids.clearances import clearances
from calveth.core.solids.quantities import face_areas
from calveth.core.solids.section import section_of
from calveth.core.workshop.plan import build_plan
from calveth.drawing.section import section_shapes
from calveth.drawing.solid_views import View, exploded, hive_view
from calveth.store.json_file import read_json, write_json
from calveth.texts.clearances import clearances_html
from calveth.texts.units import METRIC


def _with(kind: type[Form]) -> Project:
    """Return the demo with a hive of a form, ``one``."""
    frames = next(f for f in shipped_frames() if type(f.form) is kind)
    design = make_design(shipped_make_ups()[0], frames, "one", "one")
    return add_design(demo_project(), design, materials_of(design))


class EveryForm(unittest.TestCase):
    def test_each_has_a_name_of_its_own_and_fields_to_type_in(self) -> None:
        self.assertEqual(len({form.kind for form in FORMS}), len(FORMS))
        self.assertEqual(set(FIELDS), set(FORMS))
        for form in FORMS:
            with self.subTest(form=form.kind):
                known = {f.name for f in fields(form)}
                self.assertLessEqual({field for _, field, _, _ in FIELDS[form]}, known)

    def test_each_is_saved_and_read(self) -> None:
        for kind in FORMS:
            with self.subTest(form=kind.kind), tempfile.TemporaryDirectory() as folder:
                project = _with(kind)
                path = Path(folder) / "p.json"
                write_json(path, project)
                self.assertEqual(read_json(path).design("one"), project.design("one"))

    def test_each_has_solids_that_hold_its_room(self) -> None:
        for kind in FORMS:
            with self.subTest(form=kind.kind):
                form = _with(kind).design("one").form
                hive = build_solids(_with(kind).design("one"))
                self.assertTrue(hive.solids)
                areas = face_areas(hive)
                self.assertTrue(all(areas[face].inner_m2 > 0 for face in FACES))
                # A box that is upright holds what its sizes say; others are checked by their form.
                wide, long = form.spans_m
                self.assertAlmostEqual(form.section[-1][1], form.height_m)
                self.assertLessEqual(max(w for w, _ in form.section), long + 1e-12)
                self.assertLessEqual(form.colony_width_m, wide + 1e-12)
                combs = form.combs(0.0, form.comb_count)
                self.assertEqual(len(combs), form.comb_count * form.box_count)
                for comb in combs:
                    self.assertGreaterEqual(min(comb.x0, comb.y0, comb.z0), 0.0)
                    self.assertLessEqual(comb.x1, wide + 1e-9)
                    self.assertLessEqual(comb.y1, long + 1e-9)
                    self.assertLessEqual(comb.z1, form.height_m + 1e-9)

    def test_each_has_a_balance(self) -> None:
        for kind in FORMS:
            with self.subTest(form=kind.kind):
                months = assess_months(estimated_case(_with(kind), _with(kind).design("one")))
                self.assertTrue(np.isfinite(months.months.balance.temperature_degc).all())
                self.assertGreater(months.conductance_w_k, 0.05)

    def test_each_is_drawn_and_planned(self) -> None:
        for kind in FORMS:
            with self.subTest(form=kind.kind):
                project = _with(kind)
                design, table = project.design("one"), dict(project.material_table())
                plan = build_plan(
                    design, table, project.colony, project.place, workshop_of(project)
                )
                self.assertEqual(plan.problems, ())
                # A trunk is hollowed, anything else is cut.
                self.assertEqual(bool(plan.rows), design.form.of_boards)
                self.assertTrue(plan.bulk)
                self.assertEqual(bool(clearances(design)), kind.of_boards)
                hive = build_solids(design)
                for view in get_args(View):
                    self.assertTrue(hive_view(hive, table, view, plan.rows).marks)
                self.assertTrue(exploded(hive, table, plan.rows).marks)
                self.assertTrue(section_shapes(design, section_of(design), table))
                self.assertIn("<", clearances_html(design, METRIC, table))


if __name__ == "__main__":
    unittest.main()
