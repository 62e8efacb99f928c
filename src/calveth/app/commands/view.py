"""What only looks: which area, which hive, which lens, which month, which look."""

from __future__ import annotations

from PySide6.QtWidgets import QApplication

from calveth.app.commands.context import Context
from calveth.app.theme import theme
from calveth.core.calendar import HOURS_IN_YEAR
from calveth.core.year.figures import special_hour
from calveth.texts.units import INCH, METRIC


def go_to(c: Context, area: str) -> None:
    """Show an area."""
    c.frame.go_to(area)


def look_through(c: Context, lens: str) -> None:
    """Look through another lens."""
    c.view.set_lens(lens)  # type: ignore[arg-type]


def step_month(c: Context, step: int) -> None:
    """Go a month on or back."""
    c.view.set_month((c.view.month + step) % 12)


def step_hours(c: Context, step: int) -> None:
    """Go on or back by hours of the year."""
    c.view.set_hour((c.view.hour + step) % HOURS_IN_YEAR)


def whole_month(c: Context) -> None:
    """Look at the whole month again, not at one hour of it."""
    c.view.set_month(c.view.month)


def jump(c: Context, what: str) -> None:
    """Go to the coldest, wettest or hottest hour of the year of the hive."""
    target, results = c.view.design_id, c.results

    def go() -> bool:
        """Go there if the year is known, or has another hive been chosen meanwhile."""
        run = results.year(target)
        if run is not None and c.view.design_id == target:
            c.view.set_hour(special_hour(run, what))
        return run is not None or c.view.design_id != target

    def later(_: str) -> None:
        if go():
            results.updated.disconnect(later)
            results.look_at(("year",), needed=False, who="jump")

    if not go():
        c.frame.say("The hours of the year are worked out first …")
        results.updated.connect(later)
        results.look_at(("year",), needed=True, who="jump")


def step_design(c: Context, step: int) -> None:
    """Go to the next design on the bench or the one before."""
    ids = c.frame.order()
    c.frame.choose(ids[(ids.index(c.view.design_id) + step) % len(ids)])


def switch_units(c: Context) -> None:
    """Change between metric and inch units."""
    inch = c.view.units is METRIC
    c.preferences.change(inch=inch)
    c.view.set_units(INCH if inch else METRIC)


def switch_look(c: Context) -> None:
    """Change between light and dark."""
    dark = not c.preferences.value.dark
    c.preferences.change(dark=dark)
    app = QApplication.instance()
    if isinstance(app, QApplication):
        theme.choose(app, dark=dark)
    c.frame.repaint_all()


def undo(c: Context) -> None:
    """Take the last edit back."""
    c.document.undo_stack.undo()


def redo(c: Context) -> None:
    """Make an undone edit again."""
    c.document.undo_stack.redo()


def stop(c: Context) -> None:
    """Call slow work off."""
    c.frame.stop()


def close(c: Context) -> None:
    """End the window; what is not in a file is asked about first."""
    c.frame.close()
