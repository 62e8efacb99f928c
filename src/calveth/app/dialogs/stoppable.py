"""A dialog whose work beside the window is called off before the dialog closes."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import SignalInstance
from PySide6.QtWidgets import QDialog, QWidget

from calveth.app.jobs import Jobs


class StoppableDialog(QDialog):
    """Base of dialogs that work something out with the jobs of the window."""

    def __init__(self, jobs: Jobs, parent: QWidget | None) -> None:
        super().__init__(parent)
        self._jobs = jobs
        self._heard: list[tuple[SignalInstance, Callable[..., object]]] = []

    def hear(self, signal: SignalInstance, slot: Callable[..., object]) -> None:
        """Connect a signal of the jobs, which outlive the dialog, until it closes."""
        signal.connect(slot)
        self._heard.append((signal, slot))

    def done(self, result: int) -> None:
        for signal, slot in self._heard:
            signal.disconnect(slot)
        self._heard.clear()
        super().done(result)

    def _refused(self, sentence: str) -> None:
        """Say why there is no answer."""
        raise NotImplementedError

    def reject(self) -> None:
        """Close, or first call the work off."""
        if not self._jobs.idle():
            self._jobs.cancel()
            self._refused("stopped")
            return
        super().reject()
