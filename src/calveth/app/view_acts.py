"""The window's acts that only look: which area, which hive, which lens, which month, which look."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QApplication, QWidget

from calveth.app.theme import theme
from calveth.core.units import INCH, METRIC

if TYPE_CHECKING:
    from calveth.app.main_window import MainWindow

AREAS = ("place", "shell", "seasons", "compare")


class ViewActs:
    """Mixed into the window; nothing here changes the project."""

    def go_to(self: MainWindow, area: str) -> None:  # type: ignore[misc]
        """Show an area."""
        getattr(self, area)
        self.pages.setCurrentIndex(AREAS.index(area))
        self.area_buttons[area].setChecked(True)
        self.ribbon.set_compact(area != "shell")
        # Beside the drawing the year stands under it, so that the right column is as tall as it
        # can be; elsewhere it runs under all of the area.
        if area == "shell":
            self.shell.hold(self.ribbon)
        else:
            self._right.addWidget(self.ribbon)

    def choose(self: MainWindow, design_id: str) -> None:  # type: ignore[misc]
        """Work on another design."""
        self.results.choose(design_id)
        self.view.set_design(design_id)
        self.bench.set_current(design_id)
        self._show_year()

    def look_through(self: MainWindow, lens: str) -> None:  # type: ignore[misc]
        """Look through another lens."""
        self.view.set_lens(lens)  # type: ignore[arg-type]

    def step_month(self: MainWindow, step: int) -> None:  # type: ignore[misc]
        """Go a month on or back."""
        self.view.set_month((self.view.month + step) % 12)

    def step_design(self: MainWindow, step: int) -> None:  # type: ignore[misc]
        """Go to the next design on the bench or the one before."""
        ids = self.bench.order()
        self.choose(ids[(ids.index(self.view.design_id) + step) % len(ids)])

    def switch_units(self: MainWindow) -> None:  # type: ignore[misc]
        """Change between metric and inch units."""
        inch = self.view.units is METRIC
        self._like(inch=inch)
        self.actions_by_name["switch_units"].setChecked(inch)
        self.view.set_units(INCH if inch else METRIC)

    def switch_look(self: MainWindow) -> None:  # type: ignore[misc]
        """Change between light and dark."""
        dark = not self.likes.dark
        self._like(dark=dark)
        self.actions_by_name["switch_look"].setChecked(dark)
        app = QApplication.instance()
        if isinstance(app, QApplication):
            theme.choose(app, dark=dark)
        self.ribbon.repaint_all()
        for widget in self.findChildren(QWidget):
            widget.update()
