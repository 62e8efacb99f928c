"""The window's acts of help: pages to read, where the log is, what this is."""

from __future__ import annotations

from typing import TYPE_CHECKING

from platformdirs import user_log_path

from calveth import __version__

if TYPE_CHECKING:
    from calveth.app.main_window import MainWindow

_ABOUT = (
    f"Calveth {__version__}\n\nHeat, damp and air of an insulated bee hive, worked out before it "
    "is built.\n\nFigures on bees are for planning, never a reason to skip an inspection. Local "
    "law and the local bee inspector decide on bees, siting and disease; local codes on building."
)


class HelpActs:
    """Mixed into the window; every method is an entry of the menu Help."""

    def show_help(self: MainWindow, page: str = "guide") -> None:  # type: ignore[misc]
        """Show a page of the help."""
        from calveth.app.dialogs.help_dialog import HelpDialog

        self.prompts.show_dialog(HelpDialog(page, self))

    def show_log(self: MainWindow) -> None:  # type: ignore[misc]
        """Say where the log is."""
        self.prompts.tell(self, "Log", f"The log is kept in\n{user_log_path('calveth')}")

    def show_about(self: MainWindow) -> None:  # type: ignore[misc]
        """Say what this is."""
        self.prompts.tell(self, "About Calveth", _ABOUT)
