"""What a command is given: the project, its results, what is looked at, and whom to ask."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Protocol

from PySide6.QtWidgets import QWidget

from calveth.app.document import Document
from calveth.app.jobs import Jobs
from calveth.app.preferences import KeptPreferences
from calveth.app.prompts import Prompts
from calveth.app.results import Results
from calveth.app.season_years import SeasonYears
from calveth.app.view_state import ViewState
from calveth.core.errors import CalvethError
from calveth.core.hive.design import Face
from calveth.texts.units import sentence_of


class Frame(Protocol):
    """What commands ask of the window around the areas."""

    def say(self, sentence: str) -> None:
        """Show a sentence."""

    def refuse(self, sentence: str) -> None:
        """Show why something was not done until the next act; nothing for an empty sentence."""

    def adopt(self, other: Document) -> None:
        """Show the project of a document in place of the one before."""

    def choose(self, design_id: str) -> None:
        """Work on another design."""

    def go_to(self, area: str) -> None:
        """Show an area."""

    def order(self) -> list[str]:
        """Return the ids of the designs as they are listed."""

    def ask_sweep(self, face: Face, layer: int) -> None:
        """Show what each centimetre of a layer brings."""

    def stop(self) -> None:
        """Call slow work off."""

    def close(self) -> bool:
        """End the window."""

    def repaint_all(self) -> None:
        """Draw everything anew, in the colours there are now."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Context:
    """Everything commands work with; one for the life of a window.

    Attributes
    ----------
    parent : QWidget
        The window dialogs belong to.
    frame : Frame
        The window, as far as commands need it.
    """

    document: Document
    results: Results
    years: SeasonYears
    view: ViewState
    jobs: Jobs
    log_jobs: Jobs
    prompts: Prompts
    preferences: KeptPreferences
    parent: QWidget
    frame: Frame

    def attempt(self, act: Callable[[], object]) -> bool:
        """Do something; a refusal becomes a sentence. Return whether it was done."""
        try:
            act()
        except CalvethError as error:
            self.frame.refuse(sentence_of(error, self.view.units))
            return False
        self.frame.refuse("")
        # What an edit could not write is said by the document itself, and must stay.
        self.frame.say(self.document.write_problem)
        return True
