"""What the diary gives out: the acts that are due, for any calendar."""

from __future__ import annotations

from datetime import date

from calveth.app.commands.context import Context
from calveth.core.diary.due import due_acts
from calveth.store.atomic_write import try_to_write
from calveth.store.calendar_file import write_calendar
from calveth.texts.diary import due_sentence


def export_due(c: Context) -> None:
    """Write what is due in the year to come as a calendar file."""
    project = c.document.project
    runs = {d.id: run for d in project.designs if (run := c.results.year(d.id)) is not None}
    acts = due_acts(
        project.diary, project.place, project.colony.stores_kg,
        {d.id: d.seasons for d in project.designs}, runs, date.today(),
    )  # fmt: skip
    if not acts:
        c.frame.say("Nothing is due: no hive stands; set one up in the diary first.")
        return
    path = c.prompts.export_path(c.parent, f"{project.name}.ics", "Calendar", ".ics")
    if path is None or not c.attempt(lambda: try_to_write(path)):
        return
    told = [(act, due_sentence(act, project.design(act.hive.design), c.view.units)) for act in acts]
    if c.attempt(lambda: write_calendar(path, told)):
        c.frame.say(f"wrote {path.name}: {len(told)} acts")
