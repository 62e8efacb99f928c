"""A bar on a terminal while a command works: shown after two seconds, gone before it answers."""

from __future__ import annotations

import contextlib
import io
import sys
import threading
from collections.abc import Callable, Iterator
from typing import TextIO

AFTER_S = 2.0
"""A command that answers within this shows nothing [s]."""
_EVERY_S = 0.25
_KNOWN = "{desc}{percentage:3.0f} % |{bar:30}| {elapsed}, about {remaining} more"
_UNKNOWN = "{desc}{elapsed}"


class _Line:
    """What the bar shows, drawn by a thread of its own: the work itself never waits for it."""

    def __init__(self, what: str, stream: TextIO, after_s: float) -> None:
        self.share: float | None = None
        self._what, self._stream, self._after_s = what, stream, after_s
        self._done = threading.Event()
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._thread.start()

    def _run(self) -> None:
        if self._done.wait(self._after_s):
            return
        # Its import takes longer than most commands.
        from tqdm import tqdm

        with tqdm(
            total=100,
            desc=self._what,
            file=self._stream,
            leave=False,
            ncols=80,
            bar_format=_UNKNOWN,
        ) as bar:
            bar.start_t -= self._after_s
            while True:
                share = self.share
                bar.bar_format = _UNKNOWN if share is None else _KNOWN
                if share:
                    bar.n = round(100 * min(share, 1.0))
                bar.refresh()
                if self._done.wait(_EVERY_S):
                    return

    def stop(self) -> None:
        """Take the bar off the terminal; again is no harm."""
        self._done.set()
        self._thread.join()


class _First(io.TextIOBase):
    """Standard output that takes the bar away before the first word of the answer."""

    def __init__(self, stream: TextIO, begin: Callable[[], None]) -> None:
        self._to, self._begin = stream, begin

    def write(self, text: str) -> int:
        self._begin()
        return self._to.write(text)

    def flush(self) -> None:
        self._to.flush()

    def fileno(self) -> int:
        return self._to.fileno()

    def isatty(self) -> bool:
        return self._to.isatty()

    @property
    def encoding(self) -> str:  # type: ignore[override]
        return self._to.encoding


_lines: list[_Line] = []


def report(share: float) -> None:
    """Tell how much of the work of this command is done, 0 to 1."""
    for line in _lines:
        line.share = share


def part(begin: float, end: float) -> Callable[[float], None]:
    """Return what tells how much of a part of the work is done, which goes from share to share."""
    return lambda share: report(begin + (end - begin) * share)


@contextlib.contextmanager
def progress(command: str, after_s: float = AFTER_S) -> Iterator[None]:
    """Show on a terminal that a command works, how long, and how far where it tells `report`."""
    stream = sys.stderr
    if not stream.isatty():
        yield
        return
    line = _Line(f"calveth {command}: ", stream, after_s)
    _lines.append(line)
    try:
        if sys.stdout.isatty():
            with contextlib.redirect_stdout(_First(sys.stdout, line.stop)):
                yield
        else:
            yield
    finally:
        _lines.remove(line)
        line.stop()
