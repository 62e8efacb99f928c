"""What is asked of the year beside the areas: how much honey to leave."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from calveth.app.commands.context import Context
from calveth.catalogue.library import shipped_places
from calveth.core.case import estimated_case
from calveth.core.year.questions import FeedCell, feed_table
from calveth.store.atomic_write import atomic_write, try_to_write
from calveth.store.tables import write_csv
from calveth.store.year_records import feed_record
from calveth.texts.feed import feed_html


def winter_feed(c: Context) -> None:
    """Work out how much honey to leave for the chosen hive, here or in every climate."""
    from calveth.app.dialogs.feed_dialog import FeedDialog

    project = c.document.project
    design = project.design(c.view.design_id)
    monthly = c.results.monthly(design.id)
    case = monthly.case if monthly is not None else estimated_case(project, design)

    def work(where: str, draws: int, report: Callable[[float], None]) -> list[FeedCell]:
        places = [project.place]
        if where == "all":
            places += [s.place for s in shipped_places() if s.place.name != project.place.name]
        return feed_table([case], places, draws=draws, report=report)

    def save(cells: list[FeedCell], ending: str) -> Path | None:
        kind = "PDF" if ending == ".pdf" else "CSV"
        path = c.prompts.export_path(c.parent, f"winter feed{ending}", kind, ending)
        if path is None or not c.attempt(lambda: try_to_write(path)):
            return None
        write = _write_pdf if ending == ".pdf" else _write_csv
        return path if c.attempt(lambda: write(path, cells, c)) else None

    c.prompts.show_dialog(FeedDialog(design.name, c.view.units, c.jobs, work, save, c.parent))


def _write_csv(path: Path, cells: list[FeedCell], _: Context) -> None:
    write_csv(path, [feed_record(cell) for cell in cells])


def _write_pdf(path: Path, cells: list[FeedCell], c: Context) -> None:
    from calveth.app.report.pdf import paint_chapters

    page = feed_html(cells, c.view.units)
    with atomic_write(path) as part:
        for _ in paint_chapters(part, "Winter feed", "Calveth: winter feed", [(page, {})]):
            pass
