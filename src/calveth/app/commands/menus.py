"""The one list of what can be done: menus, keys, the page of keys and tests read it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from calveth.app.commands import design, diary, file, help, logs, view, year
from calveth.app.commands import workshop as build
from calveth.app.commands.context import Context
from calveth.app.cutaway.view import LENS_TEXT, LENSES, Lens


def _always(_: Context) -> bool:
    return True


@dataclass(frozen=True, slots=True, kw_only=True)
class Command:
    """Something that can be done.

    Attributes
    ----------
    id : str
        Its name in code and tests; never shown.
    title : str
        What the menu says, with & before the letter that chooses it.
    run : callable
        What it does; takes the context, then further arguments of its own.
    help : str
        One sentence on what it does.
    key : str
        Its shortcut, empty for none.
    enabled : callable
        Whether it can be done now.
    checked : callable or None
        For a switch: whether it is on.
    """

    id: str
    title: str
    run: Callable[..., object]
    help: str
    key: str = ""
    enabled: Callable[[Context], bool] = _always
    checked: Callable[[Context], bool] | None = None

    @property
    def plain_title(self) -> str:
        """The title without the mark of its letter."""
        return self.title.replace("&", "")


LINE = None
RECENT = "recent"
"""Where the menu of recent files stands."""


def _c(
    name: str, title: str, run: Callable[..., object], key: str = "", help_: str = "", **more: Any
) -> Command:
    tip = help_ or (run.__doc__ or "").partition("\n")[0]
    return Command(id=name, title=title, run=run, help=tip, key=key, **more)


def _with(run: Callable[..., object], argument: object) -> Callable[..., object]:
    return lambda c: run(c, argument)


def _help(page: str) -> Callable[..., object]:
    return lambda c: help.show_help(c, page, keys_page())


_LENS_TITLES: dict[Lens, str] = {
    "make-up": "&Layers",
    "warmth": "&Warmth",
    "wet": "We&t",
    "air": "Ai&r",
    "sun": "Su&n",
    "weight": "Wei&ght",
}


def _lens(number: int, lens: Lens) -> Command:
    return _c(
        f"lens {lens}",
        _LENS_TITLES[lens],
        _with(view.look_through, lens),
        f"Alt+{number}",
        f"Look at {LENS_TEXT[lens].lower()}.",
    )


Entry = Command | str | None
MENUS: tuple[tuple[str, tuple[Entry, ...]], ...] = (
    (
        "&File",
        (
            _c("new", "&New …", file.new, "Ctrl+N"),
            _c("open_demo", "New from the &demo", file.open_demo),
            _c("open_workshop", "New from the wo&rkshop examples", file.open_workshop),
            _c("open_apiary", "New from the ap&iary", file.open_apiary),
            _c("open", "&Open …", file.open, "Ctrl+O"),
            RECENT,
            _c("open_working_copy", "Work without a na&me …", file.open_working_copy),
            _c("save", "&Save", file.save, "Ctrl+S"),
            _c("save_as", "Save &as …", file.save_as, "Ctrl+Shift+S"),
            LINE,
            _c("import_weather", "Import &weather …", file.import_weather, "Ctrl+I"),
            _c("edit_materials", "Ma&terials …", file.edit_materials, "Ctrl+T"),
            _c("edit_stock", "Stoc&k list …", build.edit_stock),
            LINE,
            _c("export_report", "Printed re&port (PDF) …", file.export_report, "Ctrl+P"),
            _c(
                "export_report_with_tables",
                "Report with every ta&ble (PDF) …",
                file.export_report_with_tables,
            ),
            _c("export_drawing", "Export drawin&g (SVG, PNG) …", file.export_drawing, "Ctrl+G"),
            _c("export_section", "Section to s&cale (SVG, 1:5) …", file.export_section),
            _c(
                "export_build", "Works&hop sheets (PDF, DXF, 3MF …) …", build.export_build, "Ctrl+B"
            ),
            _c("export_tables", "Export tables (&XLSX, CSV) …", file.export_tables, "Ctrl+E"),
            _c("export_json", "Export &JSON …", file.export_json),
            LINE,
            _c("stop", "Stop what is being worked o&ut", view.stop, "Esc"),
            _c("close", "&Quit", view.close, "Ctrl+Q"),
        ),
    ),
    (
        "&Edit",
        (
            _c(
                "undo",
                "&Undo",
                view.undo,
                "Ctrl+Z",
                enabled=lambda c: c.document.undo_stack.canUndo(),
            ),
            _c(
                "redo",
                "&Redo",
                view.redo,
                "Ctrl+Shift+Z",
                enabled=lambda c: c.document.undo_stack.canRedo(),
            ),
            LINE,
            _c("duplicate", "&Duplicate hive", design.duplicate, "Ctrl+D"),
            _c("add_design", "&Add a hive …", design.add_design, "Ctrl+Shift+N"),
            _c("draw_shade", "&Trees and hills …", design.draw_shade),
            _c("propose_designs", "&Propose designs …", design.propose_designs, "Ctrl+R"),
            _c("rename", "Re&name hive …", design.rename, "F2"),
            _c("delete", "De&lete hive", design.delete, "Ctrl+Del"),
        ),
    ),
    (
        "&View",
        (
            _c(
                "place",
                "&Place",
                _with(view.go_to, "place"),
                "Ctrl+1",
                "Where the hives stand: weather, shelter, forage, bees.",
            ),
            _c(
                "shell",
                "&Shell",
                _with(view.go_to, "shell"),
                "Ctrl+2",
                "One hive: layers, openings, and what it does.",
            ),
            _c(
                "seasons",
                "S&easons",
                _with(view.go_to, "seasons"),
                "Ctrl+3",
                "What is opened, closed, put on and taken off, month by month.",
            ),
            _c(
                "compare",
                "&Compare",
                _with(view.go_to, "compare"),
                "Ctrl+4",
                "All hives side by side.",
            ),
            _c(
                "build",
                "B&uild",
                _with(view.go_to, "build"),
                "Ctrl+5",
                "One hive to the saw: cut list, layouts, weights, steps.",
            ),
            _c(
                "diary",
                "Diar&y",
                _with(view.go_to, "diary"),
                "Ctrl+6",
                "Hives that stand: what is due, what was seen, what was expected.",
            ),
            LINE,
            *(_lens(number, lens) for number, lens in enumerate(LENSES, start=1)),
            LINE,
            _c(
                "month_before",
                "Month &before",
                _with(view.step_month, -1),
                "Ctrl+Left",
                "Go to the month before.",
            ),
            _c(
                "month_after",
                "Month &after",
                _with(view.step_month, 1),
                "Ctrl+Right",
                "Go to the month after.",
            ),
            _c(
                "hive_above",
                "Hive ab&ove",
                _with(view.step_design, -1),
                "Ctrl+Up",
                "Go to the hive above in the list.",
            ),
            _c(
                "hive_below",
                "&Hive below",
                _with(view.step_design, 1),
                "Ctrl+Down",
                "Go to the hive below in the list.",
            ),
            LINE,
            _c("show_working", "How a &figure comes about …", design.show_working, "F4"),
            _c("solve_shell", "Shell solved in &3-D …", design.solve_shell, "F3"),
            _c(
                "switch_units",
                "&Inch, °F, lb, R-value",
                view.switch_units,
                "Ctrl+U",
                checked=lambda c: c.preferences.value.inch,
            ),
            _c(
                "switch_look",
                "&Dark",
                view.switch_look,
                "Ctrl+L",
                checked=lambda c: c.preferences.value.dark,
            ),
        ),
    ),
    (
        "H&ours",
        (
            _c(
                "coldest_hour",
                "&Coldest hour",
                _with(view.jump, "coldest"),
                "Ctrl+Alt+C",
                "Go to the coldest hour of the year.",
            ),
            _c(
                "wettest_hour",
                "&Wettest hour",
                _with(view.jump, "wettest"),
                "Ctrl+Alt+W",
                "Go to the hour with most water under the lid.",
            ),
            _c(
                "hottest_hour",
                "&Hottest hour",
                _with(view.jump, "hottest"),
                "Ctrl+Alt+H",
                "Go to the hour with the warmest air beside the bees.",
            ),
            LINE,
            _c(
                "day_before",
                "Day &before",
                _with(view.step_hours, -24),
                "Alt+Left",
                "Go to the day before in the hours of the year.",
            ),
            _c(
                "day_after",
                "Day &after",
                _with(view.step_hours, 24),
                "Alt+Right",
                "Go to the day after in the hours of the year.",
            ),
            _c(
                "hour_before",
                "Hour b&efore",
                _with(view.step_hours, -1),
                "Alt+Shift+Left",
                "Go to the hour before.",
            ),
            _c(
                "hour_after",
                "Hour a&fter",
                _with(view.step_hours, 1),
                "Alt+Shift+Right",
                "Go to the hour after.",
            ),
            LINE,
            _c("whole_month", "Whole &month again", view.whole_month, "Ctrl+M"),
            LINE,
            _c("export_due", "What is &due (iCalendar) …", diary.export_due),
            _c("print_sheet", "Sheet for the a&piary (PDF) …", diary.print_sheet),
            _c("empty_hive", "&Test of an empty hive …", diary.empty_hive_tests),
            _c(
                "read_log",
                "Read a &log …",
                _with(logs.read_a_log, ""),
                "",
                "Read the file of a probe or a scale into the diary.",
            ),
            _c("forget_factors", "Forget what logs told of this hi&ve", logs.forget_factors),
            _c("winter_feed", "W&inter feed …", year.winter_feed, "Ctrl+W"),
        ),
    ),
    (
        "&Help",
        (
            _c(
                "guide",
                "A short &guide",
                _help("guide"),
                "F1",
                "From a place to the hive you will build, in seven steps.",
            ),
            _c(
                "key",
                "&Key to the marks",
                _help("key"),
                "Shift+F1",
                "What the marks in the drawing mean.",
            ),
            _c(
                "keys",
                "K&eys and commands",
                _help("keys"),
                "",
                "What can be done, and by which key.",
            ),
            _c("words", "&Words", _help("words"), "", "What the words mean."),
            _c("formats", "&File formats", _help("formats"), "", "What files hold."),
            LINE,
            _c("show_log", "&Log …", help.show_log),
            _c("show_about", "&About Calveth …", help.show_about),
        ),
    ),
)


def all_commands() -> Iterator[Command]:
    """Yield every command in the order of the menus."""
    for _, entries in MENUS:
        for entry in entries:
            if isinstance(entry, Command):
                yield entry


COMMANDS = {command.id: command for command in all_commands()}


def keys_page() -> str:
    """Return what can be done and by which key, as Markdown; a page of the help."""
    lines = ["# Keys and commands", ""]
    for title, entries in MENUS:
        lines += [f"## {title.replace('&', '')}", "", "| command | key | |", "| --- | --- | --- |"]
        lines += [
            f"| {entry.plain_title.replace(' …', '')} | {entry.key} | {entry.help} |"
            for entry in entries
            if isinstance(entry, Command)
        ]
        lines.append("")
    return "\n".join(lines)
