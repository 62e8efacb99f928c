"""The hive as a whole: make-up, form and its sizes, tilt, tray and window."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from PySide6.QtWidgets import QCheckBox, QGridLayout, QVBoxLayout

from calveth.app.areas.design_panel import DesignPanel
from calveth.app.areas.form_fields import FormPage
from calveth.app.document import Document
from calveth.app.view_state import ViewState
from calveth.app.widgets.choice import Choice
from calveth.app.widgets.labels import html_label, label, rule
from calveth.app.widgets.quantity import QuantityField
from calveth.app.widgets.spin import CountBox
from calveth.catalogue.library import (
    make_design,
    materials_of,
    named,
    shipped_frames,
    shipped_make_ups,
)
from calveth.catalogue.shipped import shipped_materials
from calveth.core.edits import change_design, put_design, set_window
from calveth.core.hive.design import Window
from calveth.core.hive.forms import cavity_height_m, side_spans_m
from calveth.core.hive.opening import WALL_SIDES
from calveth.core.materials import Layer
from calveth.core.project import Project
from calveth.texts.clearances import clearances_html

_WINDOWS: dict[str, tuple[str, tuple[tuple[str, float], ...]]] = {
    "": ("no window", ()),
    "one": ("one acrylic pane", (("acrylic", 0.004),)),
    "two": ("two acrylic panes", (("acrylic", 0.003), ("air-gap", 0.01), ("acrylic", 0.003))),
    "glass": ("one glass pane", (("glass", 0.004),)),
    "covered": (
        "one pane, foam cover",
        (("plywood", 0.006), ("xps", 0.02), ("acrylic", 0.004)),
    ),
    "two covered": (
        "two panes, foam cover",
        (
            ("plywood", 0.006),
            ("xps", 0.02),
            ("acrylic", 0.003),
            ("air-gap", 0.01),
            ("acrylic", 0.003),
        ),
    ),
}


class HivePanel(DesignPanel):
    """Edits the form of one design."""

    def __init__(self, document: Document, view: ViewState) -> None:
        super().__init__(document, view)
        self.make_up = Choice(
            "start from a make-up",
            [("", "start from a make-up …"), *((m.id, m.name) for m in shipped_make_ups())],
            self._start_from,
            narrow=20,
        )
        self.cavity = Choice(
            "cavity by its frames",
            [("", "choose frames …"), *((f.id, f.name) for f in shipped_frames())],
            self._choose_cavity,
            narrow=20,
        )
        # Made when a design of their form is first shown: the window is up sooner.
        self.pages: dict[type, FormPage] = {}
        self.tray = QCheckBox("tray under the screen")
        self.tray.setAccessibleName("tray under the screen")
        self.tray.clicked.connect(lambda on: self._edit("tray", has_tray=on))
        self.window_kind = Choice(
            "window", [(k, v[0]) for k, v in _WINDOWS.items()], self._choose_window, narrow=14
        )
        self.window_side = Choice(
            "wall of the window", [(s, f"in the {s}") for s in WALL_SIDES], self._window_side
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(self.make_up)
        column.addWidget(self.cavity)
        self._forms = QVBoxLayout()
        column.addLayout(self._forms)
        column.addLayout(self._lie_grid())
        column.addWidget(rule())
        column.addLayout(self._window_grid())
        column.addWidget(rule())
        self.fits = html_label("clearances")
        column.addWidget(self.fits)
        column.addWidget(self.problem)
        column.addStretch()

    def _lie_grid(self) -> QGridLayout:
        """Return how the hive stands and what lies under it."""
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(3)
        self.tilt = QuantityField(
            "tilt forward", "angle", self._view, lambda v: self._edit("tilt", tilt_deg=v)
        )
        grid.addWidget(label("tilt forward", "muted"), 0, 0)
        grid.addWidget(self.tilt, 1, 0)
        self.tilt.refused.connect(self._refused)
        grid.addWidget(self.tray, 1, 1, 1, 2)
        return grid

    def _window_grid(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        grid.addWidget(self.window_kind, 0, 0, 1, 2)
        grid.addWidget(self.window_side, 0, 2)
        self.window_fields: dict[str, QuantityField] = {}
        for at, (name, field, heading) in enumerate(
            (
                ("window width", "width_m", "wide"),
                ("window height", "height_m", "high"),
                ("window above floor", "bottom_m", "above floor"),
            )
        ):
            widget = QuantityField(name, "length", self._view, self._window_setter(field))
            widget.refused.connect(self._refused)
            self.window_fields[field] = widget
            grid.addWidget(label(heading, "muted"), 1, at)
            grid.addWidget(widget, 2, at)
        return grid

    def _page(self, kind: type) -> FormPage:
        if kind not in self.pages:
            self.pages[kind] = FormPage(kind, self._view, self._put_form, self._refused)
            self._forms.addWidget(self.pages[kind])
        return self.pages[kind]

    def count(self, field: str) -> CountBox:
        """Return the box of a count of the form shown, such as ``frame_count``."""
        box = self.pages[type(self._design().form)].widgets[field]
        assert isinstance(box, CountBox)
        return box

    def quantity(self, field: str) -> QuantityField:
        """Return the field of a size of the form shown."""
        quantity = self.pages[type(self._design().form)].widgets[field]
        assert isinstance(quantity, QuantityField)
        return quantity

    def show_design(self, design_id: str) -> None:
        """Show a design."""
        super().show_design(design_id)
        design = self._design()
        form = design.form
        shown = self._page(type(form))
        for page in self.pages.values():
            page.setVisible(page is shown)
        shown.show_form(form)
        self.tray.setChecked(design.has_tray)
        self.tray.setEnabled(any(o.shape == "screen" for o in design.openings))
        self.tilt.set_value(design.tilt_deg)
        self.fits.setText(
            clearances_html(design, self._view.units, self._document.project.material_table())
        )
        self.make_up.setCurrentIndex(0)
        self.cavity.setCurrentIndex(0)
        window = design.window
        self.window_kind.show_id(_kind_of(window))
        self.window_kind.setEnabled(form.of_boards)
        for name, field in self.window_fields.items():
            field.setEnabled(window is not None)
            if window is not None:
                field.set_value(getattr(window, name))
        self.window_side.setEnabled(window is not None)
        if window is not None:
            self.window_side.show_id(window.side)

    def _put_form(self, field: str, value: Any) -> None:
        """Change a field of the form; a size that is refused is the field's own to say."""
        changed: dict[str, Any] = {field: value}
        if field == "frames_in_use" and value == 0:
            changed["beyond"] = "empty room"
        design = self._design()

        def change(project: Project) -> Project:
            form = replace(design.form, **changed)
            return change_design(project, design.id, lambda d: replace(d, form=form))

        merge = f"{design.id}/{field}"
        if isinstance(value, float | tuple):
            self._document.edit(field, change, merge)
        else:
            self._try("frames and boxes", change, merge)

    def _start_from(self, key: str) -> None:
        """Give the design the shell, joints and openings of a make-up; it keeps its cavity."""
        if not key:
            return
        design = self._design()
        make_up = named("make-up", key, shipped_make_ups())

        def change(project: Project) -> Project:
            frames = replace(shipped_frames()[0], form=design.form)
            made = make_design(make_up, frames, design.id, design.name)
            made = replace(made, note=make_up.note, benchmark=design.benchmark)
            return put_design(project, made, materials_of(made))

        self._try(f"make-up {make_up.name}", change)

    def _choose_cavity(self, key: str) -> None:
        if not key:
            return
        frames = named("frames", key, shipped_frames())
        design = self._design()

        def change(project: Project) -> Project:
            height, spans = cavity_height_m(frames.form), side_spans_m(frames.form)
            openings = tuple(
                replace(
                    o,
                    bottom_m=round(min(o.bottom_m, max(0.0, height - o.height_m - 0.002)), 4),
                    width_m=o.width_m if o.round else min(o.width_m, round(0.95 * spans[0], 4)),
                )
                if not o.level and o.shape != "lid gap"
                else o
                for o in design.openings
            )
            made = replace(design, form=frames.form, openings=openings, window=None)
            return put_design(project, made)

        self._try(f"cavity {frames.name}", change)

    def _choose_window(self, key: str) -> None:
        design = self._design()
        layers = _WINDOWS[key][1]
        table = {m.id: m for m in shipped_materials()}
        new = tuple(table[material] for material, _ in layers)
        stack = tuple(Layer(material=m, thickness_m=t) for m, t in layers)
        window = None
        if stack and design.window is not None:
            window = replace(design.window, stack=stack)
        elif stack:
            width, height = side_spans_m(design.form)[0], cavity_height_m(design.form)
            window = Window(
                bottom_m=round(0.3 * height, 3),
                width_m=round(0.6 * width, 3),
                height_m=round(0.35 * height, 3),
                stack=stack,
            )
        self._try("window", lambda p: set_window(p, design.id, window, new))

    def _window_setter(self, field: str) -> Callable[[float], None]:
        def put(value: float) -> None:
            window = self._design().window
            if window is None:
                return
            changed: dict[str, Any] = {field: value}
            design = self._design_id
            self._document.edit(
                f"window {field}",
                lambda p: set_window(p, design, replace(window, **changed)),
                merge=f"{design}/window/{field}",
            )

        return put

    def _window_side(self, side: str) -> None:
        window = self._design().window
        if window is not None:
            design = self._design_id
            moved: dict[str, Any] = {"side": side}
            self._try("window", lambda p: set_window(p, design, replace(window, **moved)))


def _kind_of(window: Window | None) -> str:
    """Return the kind of window whose materials it has; the nearest by name when it is edited."""
    if window is None:
        return ""
    materials = tuple(layer.material for layer in window.stack)
    for key, (_, layers) in _WINDOWS.items():
        if layers and tuple(m for m, _ in layers) == materials:
            return key
    return "one"
