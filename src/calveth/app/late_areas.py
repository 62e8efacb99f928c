"""The areas behind the first one, made when they are first gone to: the window is up sooner."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import Executor
from functools import partial
from typing import Protocol

from PySide6.QtWidgets import QWidget

from calveth.app.areas.shell_area import ShellArea
from calveth.app.commands import design as hives
from calveth.app.commands.context import Context
from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.results import Results
from calveth.app.season_years import SeasonYears
from calveth.app.view_state import ViewState


class Window(Protocol):
    """What an area is given of the window it stands in."""

    document: Document
    results: Results
    view: ViewState
    jobs: Jobs
    context: Context
    executor: Executor | None
    years: SeasonYears
    shell: ShellArea

    def run(self, command: str, *arguments: object) -> object:
        """Do what a command does, by its id."""

    def say(self, sentence: str) -> None:
        """Show a sentence in the status bar."""

    def refuse(self, sentence: str) -> None:
        """Show why something was not done."""

    def choose(self, design_id: str) -> None:
        """Work on another design."""


def _place(w: Window) -> QWidget:
    from calveth.app.areas.place_area import PlaceArea

    area = PlaceArea(w.document, w.results, w.view, w.executor)
    area.import_wanted.connect(lambda *_: w.run("import_weather"))
    area.shade_wanted.connect(lambda *_: w.run("draw_shade"))
    return area


def _seasons(w: Window) -> QWidget:
    from calveth.app.areas.seasons_area import SeasonsArea

    area = SeasonsArea(w.document, w.results, w.view, w.jobs)
    area.plan_wanted.connect(partial(hives.take_plan, w.context))
    area.refused.connect(w.refuse)
    return area


def _compare(w: Window) -> QWidget:
    from calveth.app.areas.compare_area import CompareArea

    area = CompareArea(w.document, w.results, w.view, w.jobs)
    area.working_wanted.connect(partial(hives.show_working_of, w.context))
    return area


def _build(w: Window) -> QWidget:
    from calveth.app.areas.build_area import BuildArea

    area = BuildArea(w.document, w.view, w.executor)
    area.write_wanted.connect(lambda e: w.run("export_build", e))
    area.stock_wanted.connect(lambda *_: w.run("edit_stock"))
    return area


def _diary(w: Window) -> QWidget:
    from calveth.app.areas.diary_area import DiaryArea
    from calveth.app.commands import logs, photos

    area = DiaryArea(w.document, w.results, w.view, w.jobs, w.years)
    area.form.photos.add_wanted.connect(lambda: photos.add_photo(w.context, area.inspection))
    area.logs.read_wanted.connect(lambda: logs.read_a_log(w.context, area.logs.hive))
    area.logs.drop_wanted.connect(partial(logs.drop_log, w.context))
    area.why.taken_over.connect(partial(logs.keep_factors, w.context))
    area.calendar_wanted.connect(lambda *_: w.run("export_due"))
    area.version_wanted.connect(partial(_next_version, w))
    area.design_wanted.connect(w.choose)
    area.refused.connect(w.refuse)
    return area


def _next_version(w: Window, design_id: str, reason: str, month: int) -> None:
    """Copy a design and show what helps in the month something was found."""
    hives.next_version(w.context, design_id, reason)
    w.view.set_month(month)
    w.shell.show_tab("says")


MAKE: dict[str, Callable[[Window], QWidget]] = {
    "place": _place,
    "seasons": _seasons,
    "compare": _compare,
    "build": _build,
    "diary": _diary,
}
"""How each area is made."""
