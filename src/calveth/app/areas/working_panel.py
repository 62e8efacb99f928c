"""A page that works something out beside the interface: a button that stops, progress, a line."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QProgressBar, QPushButton, QWidget

from calveth.app.jobs import Jobs
from calveth.app.widgets.labels import label

Work = Callable[[Callable[[float], None]], object]


class WorkingPanel(QWidget):
    """Base of the pages of Compare that take hives through years.

    ``_of`` is what the answer that is shown was asked of; a page begins anew when that is another.
    """

    def __init__(self, jobs: Jobs, what: str) -> None:
        super().__init__()
        self._jobs = jobs
        self._of: tuple[object, ...] = ()
        self._working = False
        # Asked for while something else was at work.
        self._waits = False
        self.button = QPushButton()
        self.button.clicked.connect(self._press)
        self.progress = QProgressBar()
        self.progress.setAccessibleName(f"how far {what}")
        self.progress.setMaximumWidth(120)
        self.progress.hide()
        self.state = label(role="muted", wrap=True)
        jobs.progress.connect(self._progress)
        jobs.refused.connect(lambda *_: self.stopped())
        jobs.rested.connect(self._rested)

    def begin(self) -> None:
        """Start the work unless its answer is shown."""
        raise NotImplementedError

    def _tell(self, *_: object) -> None:
        """Say what is shown, or under way."""
        raise NotImplementedError

    def _start(self, work: Work, done: Callable[[object], object]) -> None:
        """Do ``work`` in the background, then ``done`` with its answer."""
        self._working = True
        self.progress.setValue(0)
        self.progress.show()
        report = self._jobs.reporter()

        def finished(answer: object) -> None:
            self._working = False
            self.progress.hide()
            done(answer)

        self._jobs.run(lambda: work(report), finished, self.stopped)
        self._tell()

    def _press(self) -> None:
        """Stop what is under way, or begin anew."""
        if self._working:
            self._jobs.cancel()
            self.stopped()
            return
        self._of = ()
        self.begin()

    def stopped(self) -> None:
        """Take note that the work was called off: what is shown is of nothing, and may be begun."""
        if self._working:
            self._working = False
            self._of = ()
            self.progress.hide()
            self._tell()

    def _rested(self) -> None:
        """Begin what was put off while something else was at work."""
        if self._waits and self.isVisible() and not self._working:
            self._waits = False
            self.begin()

    def _progress(self, share: float) -> None:
        if self._working:
            self.progress.setValue(round(100 * share))
