"""Compiles the balance beside the window where nothing that was compiled fits this Python.

Until it is done the same lines run as plain Python, to the same figures and much slower; the
window says so, can be used, and takes the compiled lines up when they are there.
"""

from __future__ import annotations

import logging
import sys
from collections.abc import Sequence

from PySide6.QtCore import QObject, QProcess, Signal

from calveth.core import compiled

log = logging.getLogger(__name__)

COMMAND = (sys.executable, "-m", "calveth.core.make_compiled")
SAYS = "first start: compiling, some two minutes; figures are slow until then"
DONE = "compiled; figures come at full speed now"
FAILED = "could not be compiled; figures stay slow, the log says more"


class FirstCompile(QObject):
    """The process that compiles.

    Signals
    -------
    ended(sentence)
        It is done, or failed: what is to be said.
    """

    ended = Signal(str)

    def __init__(self, command: Sequence[str] = COMMAND, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._process = QProcess(self)
        self._process.finished.connect(self._finished)
        self._process.errorOccurred.connect(lambda _: self._finished(-1))
        self._command = tuple(command)

    def start(self) -> None:
        """Begin."""
        self._process.start(self._command[0], list(self._command[1:]))

    def _finished(self, code: int, *_: object) -> None:
        if code == 0:
            compiled.take_up()
            self.ended.emit(DONE)
            return
        errors = bytes(self._process.readAllStandardError().data()).decode(errors="replace")
        log.error("compiling ended with %s: %s", code, errors[-2000:])
        self.ended.emit(FAILED)

    def stop(self) -> None:
        """Let it go when the window goes; what it wrote is taken up the next time."""
        self._process.blockSignals(True)
        self._process.kill()
        self._process.waitForFinished(2000)


def must_compile() -> bool:
    """Return whether nothing compiled is there; if so the balance runs as plain Python for now.

    To be asked before anything that is compiled is imported.
    """
    if compiled.is_kept():
        return False
    compiled.stay_plain()
    return True
