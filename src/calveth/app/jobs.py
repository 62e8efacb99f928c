"""One piece of slow work at a time, off the interface thread, that can be called off."""

from __future__ import annotations

import contextlib
import logging
from collections.abc import Callable, Iterator
from concurrent.futures import Executor, ThreadPoolExecutor

from PySide6.QtCore import QObject, Qt, QTimer, Signal

from calveth.core.checkpoint import unless
from calveth.core.errors import CalvethError, CancelledError

log = logging.getLogger(__name__)


class Jobs(QObject):
    """Runs work in a thread and hands its answer over in the interface thread.

    A new job or `cancel` makes the answer of the one before unwanted; it is dropped when it comes,
    and whoever asked for it is told. Each job ends in one of three: done, refused, called off.

    Signals
    -------
    refused(sentence)
        The work ended in an error.
    progress(share)
        How far the work is, 0 to 1; for work that tells.
    rested()
        Nothing is at work any more: what waited its turn may begin.
    """

    refused = Signal(str)
    progress = Signal(float)
    rested = Signal()
    _finished = Signal(int, object)

    def __init__(self, executor: Executor | None = None) -> None:
        super().__init__()
        self._own = executor is None
        self._executor = executor or ThreadPoolExecutor(1, thread_name_prefix="job")
        self._number = 0
        self._done: Callable[[object], None] | None = None
        self._gone: Callable[[], object] | None = None
        self._finished.connect(self._take, Qt.ConnectionType.QueuedConnection)

    def idle(self) -> bool:
        """Return whether no answer is waited for."""
        return self._done is None

    def reporter(self) -> Callable[[float], None]:
        """Return what the next job may tell its progress to; it stops a job that is unwanted."""
        number = self._number + 1

        def report(share: float) -> None:
            if number != self._number:
                raise CancelledError("called off")
            self.progress.emit(share)

        return report

    def run(
        self,
        work: Callable[[], object],
        done: Callable[[object], None],
        gone: Callable[[], object] | None = None,
    ) -> None:
        """Begin ``work``; ``done`` gets its answer, or ``gone`` is told that it was called off."""
        self._number += 1
        self._tell_gone()
        number, self._done, self._gone = self._number, done, gone

        def act() -> None:
            try:
                with unless(lambda: number != self._number):
                    answer = work()
            except CalvethError as error:
                answer = error
            except Exception as error:
                log.exception("job")
                answer = error
            with contextlib.suppress(RuntimeError):  # the window may be gone
                self._finished.emit(number, answer)

        self._executor.submit(act)

    def steps(self, steps: Iterator[object], done: Callable[[], object]) -> None:
        """Do work that belongs to the interface thread a step at a time, so that nothing waits.

        ``done`` is called after the last one; called off, what was begun is put away.
        """
        self._number += 1
        self._tell_gone()
        number = self._number
        self._done = lambda _: None

        def step() -> None:
            if number != self._number:
                steps.close()  # type: ignore[attr-defined]
                return
            try:
                next(steps)
            except StopIteration:
                self._done = None
                done()
                self._rest()
            except CalvethError as error:
                self._done = None
                self.refused.emit(str(error))
                self._rest()
            else:
                QTimer.singleShot(0, self, step)

        step()

    def cancel(self) -> bool:
        """Call the work off; return whether there was any."""
        was_busy = not self.idle()
        self._number += 1
        self._done = None
        self._tell_gone()
        return was_busy

    def _tell_gone(self) -> None:
        """Tell whoever waits for an answer that it will not come."""
        gone, self._gone = self._gone, None
        if gone is not None:
            gone()

    def _rest(self) -> None:
        if self.idle():
            self.rested.emit()

    def close(self) -> None:
        """Call everything off and end the thread."""
        self.cancel()
        if self._own:
            self._executor.shutdown(wait=False, cancel_futures=True)

    def _take(self, number: int, answer: object) -> None:
        if number != self._number or self._done is None:
            return
        done, self._done, self._gone = self._done, None, None
        self.progress.emit(1.0)
        if isinstance(answer, CalvethError):
            self.refused.emit(str(answer))
        elif isinstance(answer, Exception):
            self.refused.emit(f"something went wrong ({answer}); the log says more")
        else:
            done(answer)
        self._rest()
