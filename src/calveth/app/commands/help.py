"""Help: pages to read, where the log is, what this is."""

from __future__ import annotations

from platformdirs import user_log_path

from calveth import __version__
from calveth.app.commands.context import Context

_ABOUT = (
    f"Calveth {__version__}\n\nHeat, damp and air of an insulated bee hive, worked out before it "
    "is built.\n\nFigures on bees are for planning, never a reason to skip an inspection. Local "
    "law and the local bee inspector decide on bees, siting and disease; local codes on building."
)


def show_help(c: Context, page: str, keys: str) -> None:
    """Show a page of the help; ``keys`` is the page of what can be done, as Markdown."""
    from calveth.app.dialogs.help_dialog import HelpDialog

    c.prompts.show_dialog(HelpDialog(page, keys, c.parent))


def show_log(c: Context) -> None:
    """Say where the log is."""
    c.prompts.tell(c.parent, "Log", f"The log is kept in\n{user_log_path('calveth')}")


def show_about(c: Context) -> None:
    """Say what this is."""
    c.prompts.tell(c.parent, "About Calveth", _ABOUT)
