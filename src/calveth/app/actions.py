"""The menus as data: text, what it does, its key."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMainWindow, QMenu

from calveth.app.cutaway.view import LENS_TEXT, LENSES


@dataclass(frozen=True, slots=True)
class Act:
    """An entry: the name of the window's method, its text and key; an empty text is a line."""

    method: str = ""
    text: str = ""
    key: str = ""
    argument: object = None


LINE = Act()
MENUS: tuple[tuple[str, tuple[Act, ...]], ...] = (
    ("&File", (
        Act("new", "&New …", "Ctrl+N"),
        Act("open_demo", "New from the &demo", ""),
        Act("open", "&Open …", "Ctrl+O"),
        Act("recent", "Open &recent"),
        Act("open_working_copy", "Work without a na&me …"),
        Act("save", "&Save", "Ctrl+S"),
        Act("save_as", "Save &as …", "Ctrl+Shift+S"),
        LINE,
        Act("import_weather", "Import &weather …", "Ctrl+I"),
        Act("edit_materials", "Ma&terials …", "Ctrl+T"),
        LINE,
        Act("export_report", "Printed re&port (PDF) …", "Ctrl+P"),
        Act("export_drawing", "Export drawin&g (SVG, PNG) …", "Ctrl+G"),
        Act("export_tables", "Export tables (&XLSX, CSV) …", "Ctrl+E"),
        Act("export_json", "Export &JSON …"),
        LINE,
        Act("stop", "Stop what is being worked o&ut", "Esc"),
        Act("close", "&Quit", "Ctrl+Q"),
    )),
    ("&Edit", (
        Act("undo", "&Undo", "Ctrl+Z"),
        Act("redo", "&Redo", "Ctrl+Shift+Z"),
        LINE,
        Act("duplicate", "&Duplicate hive", "Ctrl+D"),
        Act("add_design", "&Add a hive …", "Ctrl+Shift+N"),
        Act("rename", "Re&name hive …", "F2"),
        Act("delete", "De&lete hive", "Ctrl+Del"),
    )),
    ("&View", (
        Act("go_to", "&Place", "Ctrl+1", "place"),
        Act("go_to", "&Shell", "Ctrl+2", "shell"),
        Act("go_to", "S&easons", "Ctrl+3", "seasons"),
        Act("go_to", "&Compare", "Ctrl+4", "compare"),
        LINE,
        *(Act("look_through", f"&{LENS_TEXT[lens]}", f"Alt+{n}", lens)
          for n, lens in enumerate(LENSES, start=1)),
        LINE,
        Act("step_month", "Month &before", "Ctrl+Left", -1),
        Act("step_month", "Month &after", "Ctrl+Right", 1),
        Act("step_design", "Hive a&bove", "Ctrl+Up", -1),
        Act("step_design", "Hive belo&w", "Ctrl+Down", 1),
        LINE,
        Act("show_working", "How a &figure comes about …", "F4"),
        Act("solve_shell", "Shell solved in &3-D …", "F3"),
        Act("switch_units", "&Inch, °F, lb, R-value", "Ctrl+U"),
        Act("switch_look", "&Dark", "Ctrl+L"),
    )),
    ("&Help", (
        Act("show_help", "A short &guide", "F1", "guide"),
        Act("show_help", "&Key to the marks", "Shift+F1", "key"),
        Act("show_help", "&Words", "", "words"),
        Act("show_help", "&File formats", "", "formats"),
        LINE,
        Act("show_log", "&Log …"),
        Act("show_about", "&About Calveth …"),
    )),
)  # fmt: skip


def build_menus(window: QMainWindow) -> dict[str, QAction]:
    """Fill the window's menu bar; return the actions by method name (and argument)."""
    actions: dict[str, QAction] = {}
    for title, acts in MENUS:
        menu = window.menuBar().addMenu(title)
        for act in acts:
            if not act.text:
                menu.addSeparator()
            elif act.method == "recent":
                submenu: QMenu = menu.addMenu(act.text)
                actions["recent"] = submenu.menuAction()
            else:
                actions[_name(act)] = _action(window, menu, act)
    return actions


def _name(act: Act) -> str:
    return act.method if act.argument is None else f"{act.method} {act.argument}"


def _action(window: QMainWindow, menu: QMenu, act: Act) -> QAction:
    method: Callable[..., object] = getattr(window, act.method)
    action = QAction(act.text, window)
    if act.key:
        action.setShortcut(QKeySequence(act.key))
    if act.argument is None:
        action.triggered.connect(lambda *_: method())
    else:
        action.triggered.connect(lambda *_: method(act.argument))
    menu.addAction(action)
    return action
