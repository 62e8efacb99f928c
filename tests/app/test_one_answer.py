"""One project, one answer: the same figures whichever way they are asked for.

Source: the rule of the project that a figure depends on the project alone; checked to the digits
records show (three to four decimals).
"""

from __future__ import annotations

import contextlib
import io
import json
from dataclasses import replace
from types import UnionType
from typing import Any, get_args

import numpy as np

from calveth.app.commands.design import take_remedy
from calveth.app.main_window import MainWindow
from calveth.catalogue.library import make_design, shipped_frames, shipped_make_ups
from calveth.catalogue.shipped import shipped_materials
from calveth.cli.main import main
from calveth.core.advice.dossier import make_dossier
from calveth.core.advice.opening_size import goal_value, resized, size_for_target
from calveth.core.assess.nights import assess_nights
from calveth.core.assess.solved_shells import solved_case
from calveth.core.case import estimated_case
from calveth.core.colony.curves import curves_for
from calveth.core.compare.sweep import sweep
from calveth.core.edits import set_layer_thickness, set_opening
from calveth.core.errors import DomainError
from calveth.core.hive.design import Design
from calveth.core.hive.forms import Form, LittleBoxes, StackedBoxes
from calveth.core.hive.zones import NEST
from calveth.core.project import Project
from calveth.store.records import design_record
from calveth.store.report_tables import report_tables
from tests.app.base import REMEMBERING, WindowTest, what_helps_too
from tests.cases import LONG
from tests.core.test_decide import PROJECT


def of_every_form() -> dict[str, Project]:
    """Return a project of one hive for every form there is."""
    make_up = {m.id: m for m in shipped_make_ups()}["sandwich"]
    made: dict[str, Design] = {}
    for frames in shipped_frames():
        with contextlib.suppress(DomainError):
            design = make_design(make_up, frames)
            made.setdefault(type(design.form).__name__, design)
    return {
        name: Project(
            name=name,
            place=PROJECT.place,
            materials=shipped_materials(),
            designs=(design,),
            colony=curves_for(
                PROJECT.place,
                "small stingless bees" if isinstance(design.form, LittleBoxes) else "normal",
            ),
        )
        for name, design in made.items()
    }


class OneAnswer(WindowTest):
    # The finest grid of the solver is one of the ways that are asked.
    coarse = False

    def record(self, window: MainWindow) -> dict[str, Any]:
        """Return the figures the window shows, as they are written."""
        self.settle(window)
        project, results = window.document.project, window.results
        design_id = project.designs[0].id
        monthly, nights = results.monthly(design_id), results.nights(design_id)
        assert monthly is not None and nights is not None
        self.assertFalse(results.provisional(design_id))
        found: dict[str, Any] = json.loads(
            json.dumps(design_record(monthly, nights, dict(project.material_table())))
        )
        return found

    def call(self, *arguments: str) -> Any:
        """Return what a command prints as JSON."""
        out = io.StringIO()
        with contextlib.redirect_stdout(out):
            self.assertEqual(main(list(arguments)), 0)
        return json.loads(out.getvalue())

    def test_every_form_is_asked(self) -> None:
        def kinds(form: object) -> set[str]:
            if isinstance(form, UnionType):
                return set().union(*(kinds(part) for part in get_args(form)))
            return {form.__name__}  # type: ignore[attr-defined]

        self.assertEqual(set(of_every_form()), kinds(Form))

    def test_every_way_on_every_form(self) -> None:
        forms = list(of_every_form().items())
        for name, project in forms if LONG else forms[::4]:
            with self.subTest(form=name):
                self.one_form(project)
            self._close_all()

    def one_form(self, project: Project) -> None:
        """Ask for a wall of 40 mm in every way and compare."""
        design = replace(project.designs[0], name="mine")  # a name of its own stays
        project = replace(project, designs=(design, *project.designs[1:]))
        layer = max(range(len(design.shell.walls)), key=lambda k: design.shell.walls[k].thickness_m)

        def thick(window: MainWindow, mm: float, merge: str = "") -> None:
            window.document.edit(
                "t",
                lambda p: set_layer_thickness(p, design.id, "walls", layer, mm / 1000),
                merge=merge,
            )

        wanted = set_layer_thickness(project, design.id, "walls", layer, 0.04)
        # Without memory of other windows: a node that remembered would hide what it is to show.
        plain = tuple(n for n in REMEMBERING if n.name != "remedies")
        typed = self.window(project, nodes=plain)
        thick(typed, 40)
        whole = make_dossier(estimated_case(wanted, wanted.designs[0]))
        expected = json.loads(
            json.dumps(
                design_record(whole.monthly, whole.follow_up.nights, dict(wanted.material_table()))
            )
        )
        self.assertEqual(self.record(typed), expected, "typed")
        for mm in (44, 57):
            thick(typed, mm, merge="drag")
            self.app.processEvents()
        thick(typed, 40, merge="drag")
        self.assertEqual(self.record(typed), expected, "dragged")
        thick(typed, 60)
        self.settle(typed)
        typed.document.undo_stack.undo()
        self.assertEqual(self.record(typed), expected, "undone")
        path = self.folder / f"{project.name}.calveth"
        typed.document.save_as(path)
        other = self.window(project, nodes=plain)
        other.run("open", path)
        self.assertEqual(self.record(other), expected, "reopened")
        printed = self.call("assess", str(path), "--format", "json")
        self.assertEqual(printed["designs"][0], expected, "command line")
        row = self.call("compare", str(path), "--format", "json")["designs"][0]
        self.assertEqual(row["winter_honey_kg"], expected["winter_honey_kg"], "compare")
        if isinstance(design.form, StackedBoxes | LittleBoxes):  # it solves a finer grid besides
            solved = self.call("conduct", str(path), "--design", design.id, "--format", "json")
            shell_w_k = expected["shell_conductance_w_k"]
            self.assertAlmostEqual(solved["conductance_w_k"], shell_w_k, delta=1.1e-4, msg="F3")
        tables = report_tables(wanted, (whole,), 0)
        self.assertEqual(tables["designs"][0]["winter_honey_kg"], row["winter_honey_kg"], "report")
        point = sweep(
            estimated_case(wanted, wanted.designs[0]),
            "walls",
            layer,
            [0.04],
            honey_price_eur_kg=8.0,
            years_of_use=10.0,
            solve=True,
        )[0]
        honey, shell = expected["winter_honey_kg"], expected["shell_conductance_w_k"]
        rim = row["rim_dew_margin_k"]
        self.assertAlmostEqual(point.winter_honey_kg, honey, delta=0.0051, msg="sweep")
        self.assertAlmostEqual(point.conductance_w_k, shell, delta=5.1e-5, msg="sweep")
        self.assertAlmostEqual(point.rim_margin_k, rim, delta=0.0051, msg="sweep")

    def test_a_size_that_is_taken_gives_what_it_promised(self) -> None:
        design = PROJECT.design("composite")
        window = self.window(replace(PROJECT, designs=(design,)))
        window.choose(design.id)
        self.settle(window)
        case = solved_case(estimated_case(PROJECT, design))[0]
        opening = next(o for o in design.openings if o.open_share > 0)
        now = window.results.monthly(design.id)
        assert now is not None
        target = 1.05 * 3.6e6 * float(now.months.exchange_m3_s[0])
        answer = size_for_target(case, opening.id, "fresh air", target, 0)
        assert answer.size_m is not None
        size = answer.size_m
        window.document.edit("s", lambda p: set_opening(p, design.id, resized(opening, size)))
        self.settle(window)
        after = window.results.monthly(design.id)
        assert after is not None
        self.assertAlmostEqual(
            goal_value(after.months.take(np.array([0])), "fresh air") / answer.reached,
            1.0,
            places=8,
        )

    def test_a_remedy_that_is_taken_gives_what_it_promised(self) -> None:
        timber = replace(PROJECT, designs=(PROJECT.design("timber"),))
        window = self.window(timber, nodes=what_helps_too())
        tried = window.results.remedies("timber")
        before = window.results.monthly("timber")
        assert tried and before is not None
        for remedy in tried[:3]:
            with self.subTest(remedy=remedy.done.id):
                window.choose("timber")
                take_remedy(window.context, remedy)
                self.settle(window)
                made = window.results.monthly(window.view.design_id)
                assert made is not None
                self.assertAlmostEqual(
                    made.winter_honey_kg - before.winter_honey_kg, remedy.honey_kg, places=6
                )
                self.assertAlmostEqual(
                    float(made.months.co2_volume_share[NEST, made.coldest_month]),
                    remedy.co2_share,
                    places=9,
                )
                self.assertEqual(assess_nights(made).nights.margin_k.shape, (7, 12))
                window.document.undo_stack.undo()
