"""What the diary gives out: acts that are due, for any calendar; a sheet for the apiary."""

from __future__ import annotations

from datetime import date

from calveth.app.commands.context import Context
from calveth.core.diary.due import Due, due_acts
from calveth.core.diary.years import hive_key
from calveth.store.atomic_write import atomic_write, try_to_write
from calveth.store.calendar_file import write_calendar
from calveth.texts.diary import due_sentence
from calveth.texts.diary_sheet import sheet_html


def _acts(c: Context) -> list[Due] | None:
    """Return what is due in the year to come; None while the years are worked out."""
    project = c.document.project
    years = {h.id: c.years.get(hive_key(h)) for h in project.diary.hives}
    if any(years[h.id] is None and not c.years.trouble(hive_key(h)) for h in project.diary.hives):
        c.frame.say("The years of the hives are being worked out; ask again in a moment.")
        return None
    runs = {key: year.run for key, year in years.items() if year is not None}
    return due_acts(
        project.diary,
        project.place,
        project.colony.stores_kg,
        {d.id: d.seasons for d in project.designs},
        runs,
        date.today(),
    )


def export_due(c: Context) -> None:
    """Write what is due in the year to come as a calendar file."""
    project = c.document.project
    acts = _acts(c)
    if acts is None:
        return
    if not acts:
        c.frame.say("Nothing is due: no hive stands; set one up in the diary first.")
        return
    path = c.prompts.export_path(c.parent, f"{project.name}.ics", "Calendar", ".ics")
    if path is None or not c.attempt(lambda: try_to_write(path)):
        return
    due_lines = [
        (act, due_sentence(act, project.design(act.hive.design), c.view.units)) for act in acts
    ]
    if c.attempt(lambda: write_calendar(path, due_lines)):
        c.frame.say(f"wrote {path.name}: {len(due_lines)} acts")


def print_sheet(c: Context) -> None:
    """Print a sheet with a lid map for every hive that stands, to fill in by hand."""
    project, today = c.document.project, date.today()
    hives = [h for h in project.diary.hives if h.stands_on(today)]
    if not hives:
        c.frame.say("No hive stands; set one up in the diary first.")
        return
    acts = _acts(c)
    if acts is None:
        return
    path = c.prompts.export_path(c.parent, f"{project.name} inspection.pdf", "PDF", ".pdf")
    if path is None or not c.attempt(lambda: try_to_write(path)):
        return
    hefts: dict[str, str] = {}
    for act in acts:
        if act.kind == "heft" and act.expected_kg is not None:
            kg = c.view.units.write(max(act.expected_kg, 0.0), "mass", 1)
            hefts.setdefault(act.hive.id, f"({kg} expected on {act.day.isoformat()})")

    def write() -> None:
        from calveth.app.report.pdf import paint_chapters

        with atomic_write(path) as part:
            page = sheet_html(hives, hefts)
            for _ in paint_chapters(part, "Inspection", project.name, [(page, {})]):
                pass

    if c.attempt(write):
        c.frame.say(f"wrote {path.name}")


def empty_hive_tests(c: Context) -> None:
    """Show the tests of an empty hive, and read what they wrote."""
    from calveth.app.dialogs.empty_hive_dialog import EmptyHiveDialog

    monthly = c.results.monthly(c.view.design_id)

    def worked_out(kind: str) -> str:
        if kind != "heater" or monthly is None:
            return ""
        name, loss = monthly.case.design.name, monthly.conductance_w_k
        return f"Worked out for “{name}”: {loss:.2f} W/K through the shell, without the air."

    c.prompts.show_dialog(
        EmptyHiveDialog(lambda: c.prompts.log_path(c.parent), worked_out, c.parent)
    )
