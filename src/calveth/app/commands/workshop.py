"""Commands of the workshop: the stock list, and the plan as files."""

from __future__ import annotations

from calveth.app.commands.context import Context
from calveth.catalogue.library import workshop_of
from calveth.core.workshop.plan import BuildPlan, build_plan
from calveth.store.atomic_write import try_to_write

_KINDS = {
    ".pdf": "Workshop sheets",
    ".svg": "Drawings",
    ".dxf": "Drawings",
    ".3mf": "Solids",
    ".stl": "Solids",
    ".xlsx": "Tables",
    ".ods": "Tables",
    ".csv": "Cut list",
}


def edit_stock(c: Context) -> None:
    """Edit the boards, sheets and blocks there are, with prices and kerf."""
    from calveth.app.dialogs.stock_dialog import StockDialog

    c.prompts.show_dialog(
        StockDialog(
            c.document,
            c.view,
            lambda: c.prompts.stock_path(c.parent),
            lambda: c.prompts.export_path(c.parent, "stock.csv", "Stock list", ".csv"),
            c.parent,
        )
    )


def export_build(c: Context, ending: str = "") -> None:
    """Write the build of the chosen hive as sheets, drawings, solids or tables."""
    project, units = c.document.project, c.view.units
    design = project.design(c.view.design_id)
    endings = ending or " ".join(_KINDS)
    kind = _KINDS[ending] if ending else "Build"
    name = f"{design.name}{endings.partition(' ')[0]}"
    path = c.prompts.export_path(c.parent, name, kind, endings)
    if path is None or not c.attempt(lambda: try_to_write(path)):
        return
    workshop = workshop_of(project)

    def done(answer: object) -> None:
        from calveth.app.report.workshop_files import write_plan

        assert isinstance(answer, BuildPlan)
        written: list[str] = []
        if c.attempt(lambda: written.extend(write_plan(path, answer, project, units))):
            c.frame.say(f"wrote {', '.join(written)}")

    c.frame.say(f"working out {path.name} … Esc stops it")
    c.jobs.run(
        lambda: build_plan(
            design, project.material_table(), project.colony, project.place, workshop
        ),
        done,
    )
