"""What can be done with hives: copies, remedies, targets, sweeps and workings."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from itertools import count

from PySide6.QtWidgets import QDialog

from calveth.app.commands.context import Context
from calveth.catalogue.library import materials_of
from calveth.core import edits
from calveth.core.advice.remedies import Remedy
from calveth.core.assess.solved_shells import conduction_key
from calveth.core.calendar import MONTH_NAMES
from calveth.core.case import estimated_case
from calveth.core.edits import (
    add_design as add_design_to,
)
from calveth.core.edits import (
    duplicate_design,
    new_design_id,
    remove_design,
    rename_design,
    set_opening,
    set_place,
    set_seasons,
)
from calveth.core.heat.seasons import winter_materials
from calveth.core.hive.by_month import in_month
from calveth.core.hive.season_plan import SeasonPlan
from calveth.core.nest.steady import NotBalancedError
from calveth.core.project import Project
from calveth.texts.findings import message_text
from calveth.texts.remedies import what_is_done


def duplicate(c: Context) -> None:
    """Copy the chosen design and go on with the copy."""
    made: list[str] = []

    def change(project: Project) -> Project:
        project, new_id = duplicate_design(project, c.view.design_id)
        made.append(new_id)
        return project

    if c.attempt(lambda: c.document.edit("duplicate design", change)):
        c.frame.choose(made[-1])


def add_design(c: Context) -> None:
    """Add a design from the library and go on with it."""
    from calveth.app.dialogs.make_up_dialog import MakeUpDialog

    dialog = MakeUpDialog(c.parent)
    c.prompts.show_dialog(dialog)
    design = dialog.design
    if design is None:
        return
    named = replace(design, id=new_design_id(c.document.project, design.id))
    if c.attempt(
        lambda: c.document.edit(
            f"add {named.name}", lambda p: edits.add_design(p, named, materials_of(named))
        )
    ):
        c.frame.choose(named.id)


def take_remedy(c: Context, remedy: Remedy) -> None:
    """Make a remedy a new version of the chosen design and go on with it."""
    project = c.document.project
    before = project.design(c.view.design_id)
    new_id = new_design_id(project, before.id)
    done = what_is_done(remedy, c.view.units)
    taken = {d.name for d in project.designs}
    root = re.sub(r"( \d+)+$", "", before.name)
    name = next(n for k in count(2) if (n := f"{root} {k}") not in taken)
    version = replace(
        remedy.design,
        id=new_id,
        name=name,
        note=done,
        benchmark=False,
    )
    if c.attempt(
        lambda: c.document.edit(
            f"take: {done}", lambda p: edits.add_design(p, version, remedy.materials)
        )
    ):
        c.frame.choose(new_id)
        c.frame.say(f"made “{version.name}”: {done}")


def take_plan(c: Context, school: str, plan: SeasonPlan) -> None:
    """Take a season plan; what it would make worse is said before."""
    design_id = c.view.design_id
    monthly = c.results.monthly(design_id)

    def take(worse: object) -> None:
        assert isinstance(worse, tuple)
        c.frame.say("")
        if worse and not c.prompts.confirm(
            c.parent,
            "Season plan",
            f"With the plan “{school}” " + "; ".join(worse) + ".",
            "Take it all the same",
        ):
            return
        c.attempt(
            lambda: c.document.edit(f"plan of {school}", lambda p: set_seasons(p, design_id, plan))
        )

    def look() -> tuple[str, ...]:
        from calveth.core.advice.plan_effect import what_gets_worse

        assert monthly is not None
        try:
            return tuple(message_text(worse) for worse in what_gets_worse(monthly, plan))
        except NotBalancedError as error:
            return (str(error),)

    if monthly is None:
        take(())
        return
    c.frame.say("looking at what the plan does …")
    c.jobs.run(look, take)


def rename(c: Context) -> None:
    """Give the chosen design another name."""
    design_id = c.view.design_id
    name = c.prompts.name(c.parent, c.document.project.design(design_id).name)
    if name is not None:
        c.attempt(lambda: c.document.edit("rename", lambda p: rename_design(p, design_id, name)))


def delete(c: Context) -> None:
    """Remove the chosen design."""
    gone = c.view.design_id
    ids = [d.id for d in c.document.project.designs]
    if len(ids) == 1:
        c.frame.say("designs: the last one cannot be deleted; duplicate it first")
        return
    at = ids.index(gone)
    c.frame.choose(ids[at + 1] if at + 1 < len(ids) else ids[at - 1])
    c.attempt(lambda: c.document.edit("delete design", lambda p: remove_design(p, gone)))


def find_size(c: Context, opening_id: str) -> None:
    """Ask which size of an opening meets a target."""
    from calveth.app.dialogs.opening_size_dialog import OpeningSizeDialog
    from calveth.core.advice.opening_size import Goal, TargetAnswer, resized, size_for_target
    from calveth.core.assess.solved_shells import solved_case

    project, month = c.document.project, c.view.month
    design = project.design(c.view.design_id)
    opening = next(o for o in design.openings if o.id == opening_id)
    case = estimated_case(project, design)

    def find(goal: Goal, target: float) -> TargetAnswer:
        return size_for_target(solved_case(case)[0], opening_id, goal, target, month)

    def take(size_m: float) -> None:
        changed = resized(opening, size_m)
        c.attempt(
            lambda: c.document.edit(
                f"size of {opening.name}", lambda p: set_opening(p, design.id, changed)
            )
        )

    c.prompts.show_dialog(
        OpeningSizeDialog(opening, MONTH_NAMES[month], c.view.units, c.jobs, find, take, c.parent)
    )


def next_version(c: Context, design_id: str, reason: str) -> None:
    """Copy a design that was built into its next version, with the reason, and go on with it."""
    made: list[str] = []

    def change(project: Project) -> Project:
        project, new_id = duplicate_design(project, design_id)
        old = project.design(design_id)
        made.append(new_id)
        return edits.change_design(
            project,
            new_id,
            lambda d: replace(d, note=f"from {old.name}: {reason}", of=design_id),
        )

    if c.attempt(lambda: c.document.edit("next version", change)):
        c.frame.choose(made[-1])
        c.frame.go_to("shell")


def draw_shade(c: Context) -> None:
    """Draw what stands round the hives: hills and houses, trees and their leaves."""
    from calveth.app.dialogs.shade_dialog import ShadeDialog

    dialog = ShadeDialog(c.document.project.place, c.parent)
    c.prompts.show_dialog(dialog)
    if dialog.result() != QDialog.DialogCode.Accepted:
        return
    shade = dialog.shade
    c.document.attempt("trees and hills", lambda p: set_place(p, replace(p.place, shade=shade)))


def propose_designs(c: Context) -> None:
    """Ask for limits, search constructions round the cavity of the chosen design, take some."""
    from calveth.app.dialogs.propose_dialog import ProposeDialog
    from calveth.catalogue.candidates import candidates
    from calveth.catalogue.library import workshop_of
    from calveth.catalogue.shipped import shipped_materials
    from calveth.core.workshop.stock import materials_in_stock
    from calveth.core.year.propose import Limits, Proposal, Search, propose

    project = c.document.project
    design = project.design(c.view.design_id)
    case = estimated_case(project, design)

    def find(limits: Limits, report: Callable[[float], None]) -> Search:
        return propose(candidates(case), limits, report=report)

    def take(proposal: Proposal) -> None:
        new = proposal.bands.case.design
        known = c.document.project
        made = replace(new, id=new_design_id(known, new.id), note="proposed from limits")
        table = proposal.bands.case.materials
        materials = tuple(table[key] for key in made.material_ids)
        c.attempt(
            lambda: c.document.edit(
                f"take {made.name}", lambda p: add_design_to(p, made, materials)
            )
        )

    at_hand = {
        "those of the designs here": frozenset(k for d in project.designs for k in d.material_ids),
        "those of the stock list": materials_in_stock(workshop_of(project), shipped_materials()),
    }
    c.prompts.show_dialog(
        ProposeDialog(design.name, c.view.units, c.jobs, find, take, at_hand, c.parent)
    )


def show_working(c: Context) -> None:
    """Show the working of the winter honey, from where the others can be asked in Compare."""
    show_working_of(c, c.view.design_id, "winter honey")


def show_working_of(c: Context, design_id: str, figure: str) -> None:
    """Show how a figure of a design comes about."""
    from calveth.app.dialogs.working_dialog import WorkingDialog
    from calveth.texts.derivation import Asked, working

    monthly = c.results.monthly(design_id)
    if monthly is None:
        c.frame.say("it is still being worked out")
        return
    asked = Asked(
        monthly=monthly,
        nights=c.results.nights(design_id),
        month=c.view.month,
        materials=c.document.project.material_table(),
        units=c.view.units,
    )
    c.prompts.show_dialog(WorkingDialog(asked, figure, working, c.parent))


def solve_shell(c: Context) -> None:
    """Solve the shell of the chosen hive in three dimensions and show what it tells."""
    whole_sum = c.document.project.design(c.view.design_id)
    design = conduction_key(in_month(whole_sum, c.view.month))
    place = c.document.project.place
    table = winter_materials(c.document.project.material_table(), place)

    def work() -> object:
        # The solver's library takes half a second to load; nothing else waits for it.
        from calveth.core.conduction.hive import grid_change, hive_conduction
        from calveth.core.conduction.joints import joints_of

        solved = hive_conduction(design, table)
        change = grid_change(design, table, solved)
        return solved, joints_of(design, table, solved.conductance_w_k), change

    c.frame.say("solving the shell … Esc stops it")
    c.jobs.run(work, partial(show_solved, c, whole_sum.id))


def show_solved(c: Context, design_id: str, solved: object) -> None:
    """Show a solved shell."""
    from calveth.app.dialogs.conduction_dialog import ConductionDialog

    monthly = c.results.monthly(design_id)
    if monthly is None or not isinstance(solved, tuple):
        c.frame.say("it is still being worked out")
        return
    c.frame.say("")
    c.prompts.show_dialog(
        ConductionDialog(
            solved[0], solved[1], solved[2], monthly, c.view.month, c.view.units, c.parent
        )
    )
