"""The window's acts on hives: copies, remedies, targets, sweeps and workings."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import partial
from itertools import count
from typing import TYPE_CHECKING

from calveth.catalogue.library import materials_of
from calveth.core.assess.model import winter_materials
from calveth.core.assess.remedies import Remedy
from calveth.core.assess.shells import conduction_key
from calveth.core.assess.solve import NotBalancedError
from calveth.core.calendar import MONTH_NAMES
from calveth.core.case import estimated_case
from calveth.core.edits import (
    add_design,
    duplicate_design,
    new_design_id,
    remove_design,
    rename_design,
    set_opening,
    set_seasons,
)
from calveth.core.hive.by_month import in_month
from calveth.core.hive.design import Face
from calveth.core.hive.season_plan import SeasonPlan
from calveth.core.project import Project

if TYPE_CHECKING:
    from calveth.app.main_window import MainWindow


class HiveActs:
    """Mixed into the window; acts on the chosen design."""

    def duplicate(self: MainWindow) -> None:  # type: ignore[misc]
        """Copy the chosen design and go on with the copy."""
        made: list[str] = []

        def change(project: Project) -> Project:
            project, new_id = duplicate_design(project, self.view.design_id)
            made.append(new_id)
            return project

        if self.attempt(lambda: self.document.edit("duplicate design", change)):
            self.choose(made[-1])

    def add_design(self: MainWindow) -> None:  # type: ignore[misc]
        """Add a design from the library and go on with it."""
        from calveth.app.dialogs.make_up_dialog import MakeUpDialog

        dialog = MakeUpDialog(self)
        self.prompts.show_dialog(dialog)
        design = dialog.design
        if design is None:
            return
        named = replace(design, id=new_design_id(self.document.project, design.id))
        if self.attempt(
            lambda: self.document.edit(
                f"add {named.name}", lambda p: add_design(p, named, materials_of(named))
            )
        ):
            self.choose(named.id)

    def take_remedy(self: MainWindow, remedy: Remedy) -> None:  # type: ignore[misc]
        """Make a remedy a new version of the chosen design and go on with it."""
        project = self.document.project
        before = project.design(self.view.design_id)
        new_id = new_design_id(project, before.id)
        taken = {d.name for d in project.designs}
        root = re.sub(r"( \d+)+$", "", before.name)
        name = next(n for k in count(2) if (n := f"{root} {k}") not in taken)
        version = replace(
            remedy.design, id=new_id, name=name, note=remedy.text,
            benchmark=False,
        )  # fmt: skip
        if self.attempt(
            lambda: self.document.edit(
                f"take: {remedy.text}", lambda p: add_design(p, version, remedy.materials)
            )
        ):
            self.choose(new_id)
            self.say(f"made “{version.name}”: {remedy.text}")

    def take_plan(  # type: ignore[misc]
        self: MainWindow, school: str, plan: SeasonPlan
    ) -> None:
        """Take a season plan; what it would make worse is said before."""
        design_id = self.view.design_id
        monthly = self.results.monthly(design_id)

        def take(worse: object) -> None:
            self.say("")
            if worse and not self.prompts.confirm(
                self, "Season plan", f"With the plan “{school}” " + "; ".join(worse) + ".",  # type: ignore[arg-type]
                "Take it all the same",
            ):  # fmt: skip
                return
            self.attempt(
                lambda: self.document.edit(
                    f"plan of {school}", lambda p: set_seasons(p, design_id, plan)
                )
            )

        def look() -> object:
            from calveth.core.assess.plan_effect import what_gets_worse

            assert monthly is not None
            try:
                return what_gets_worse(monthly, plan)
            except NotBalancedError as error:
                return (str(error),)

        if monthly is None:
            take(())
            return
        self.say("looking at what the plan does …")
        self.jobs.run(look, take)

    def rename(self: MainWindow) -> None:  # type: ignore[misc]
        """Give the chosen design another name."""
        design_id = self.view.design_id
        name = self.prompts.name(self, self.document.project.design(design_id).name)
        if name is not None:
            self.attempt(
                lambda: self.document.edit("rename", lambda p: rename_design(p, design_id, name))
            )

    def delete(self: MainWindow) -> None:  # type: ignore[misc]
        """Remove the chosen design."""
        gone = self.view.design_id
        ids = [d.id for d in self.document.project.designs]
        if len(ids) == 1:
            self.say("designs: the last one cannot be deleted; duplicate it first")
            return
        at = ids.index(gone)
        self.choose(ids[at + 1] if at + 1 < len(ids) else ids[at - 1])
        self.attempt(lambda: self.document.edit("delete design", lambda p: remove_design(p, gone)))

    def sweep_layer(self: MainWindow, face: Face, layer: int) -> None:  # type: ignore[misc]
        """Show what each centimetre of a layer brings."""
        self.go_to("compare")
        self.compare.sweep.ask(face, layer)
        self.compare.show_view("sweep")

    def find_size(self: MainWindow, opening_id: str) -> None:  # type: ignore[misc]
        """Ask which size of an opening meets a target."""
        from calveth.app.dialogs.target_dialog import TargetDialog
        from calveth.core.assess.shells import solved_case
        from calveth.core.assess.target import Goal, TargetAnswer, resized, size_for_target

        project, month = self.document.project, self.view.month
        design = project.design(self.view.design_id)
        opening = next(o for o in design.openings if o.id == opening_id)
        case = estimated_case(project, design)

        def find(goal: Goal, target: float) -> TargetAnswer:
            return size_for_target(solved_case(case)[0], opening_id, goal, target, month)

        def take(size_m: float) -> None:
            changed = resized(opening, size_m)
            self.attempt(
                lambda: self.document.edit(
                    f"size of {opening.name}", lambda p: set_opening(p, design.id, changed)
                )
            )

        self.prompts.show_dialog(
            TargetDialog(opening, MONTH_NAMES[month], self.view.units, self.jobs, find, take, self)
        )

    def show_working(self: MainWindow) -> None:  # type: ignore[misc]
        """Show the working of the winter honey, from where the others can be asked in Compare."""
        self.show_working_of(self.view.design_id, "winter honey")

    def show_working_of(self: MainWindow, design_id: str, figure: str) -> None:  # type: ignore[misc]
        """Show how a figure of a design comes about."""
        from calveth.app.dialogs.working_dialog import WorkingDialog
        from calveth.core.assess.working import Asked, working

        monthly = self.results.monthly(design_id)
        if monthly is None:
            self.say("it is still being worked out")
            return
        asked = Asked(
            monthly=monthly,
            nights=self.results.nights(design_id),
            month=self.view.month,
            materials=self.document.project.material_table(),
            units=self.view.units,
        )
        self.prompts.show_dialog(WorkingDialog(asked, figure, working, self))

    def solve_shell(self: MainWindow) -> None:  # type: ignore[misc]
        """Solve the shell of the chosen hive in three dimensions and show what it tells."""
        whole = self.document.project.design(self.view.design_id)
        design = conduction_key(in_month(whole, self.view.month))
        place = self.document.project.place
        table = winter_materials(self.document.project.material_table(), place)

        def work() -> object:
            # The solver's library takes half a second to load; nothing else waits for it.
            from calveth.core.conduction.hive import FINER_CHECK, hive_conduction
            from calveth.core.conduction.joints import joints_of

            solved = hive_conduction(design, table)
            finer = hive_conduction(design, table, FINER_CHECK)
            change = finer.conductance_w_k / solved.conductance_w_k - 1
            return solved, joints_of(design, table, solved.conductance_w_k), change

        self.say("solving the shell … Esc stops it")
        self.jobs.run(work, partial(self.show_solved, whole.id))

    def show_solved(self: MainWindow, design_id: str, found: object) -> None:  # type: ignore[misc]
        """Show a solved shell."""
        from calveth.app.dialogs.conduction_dialog import ConductionDialog

        monthly = self.results.monthly(design_id)
        if monthly is None or not isinstance(found, tuple):
            self.say("it is still being worked out")
            return
        self.say("")
        self.prompts.show_dialog(
            ConductionDialog(
                found[0], found[1], found[2], monthly, self.view.month, self.view.units, self
            )
        )
