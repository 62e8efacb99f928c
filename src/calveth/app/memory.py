"""Memory that is let go goes back to the system, and what is of the window is let go by its thread.

Without the first a window grows for as long as it runs: the C library keeps a heap for each thread
and learns from large arrays that come and go to put them there as well; between small things that
stay they leave holes nobody else can use. 3 000 random acts held 1.0 to 1.5 GB so, and 0.8 to 0.9
with these limits.
"""

from __future__ import annotations

import ctypes
import gc
import sys

from PySide6.QtCore import QObject, QTimer

# From malloc.h of the GNU C library.
_TRIM_THRESHOLD, _MMAP_THRESHOLD, _ARENA_MAX = -1, -3, -8
# Arrays from this size on are mapped one by one and given back when they are let go [bytes].
_LARGE = 1 << 20
_SPARE = 8 << 20
_HEAPS = 2

# How often the window's thread looks whether there is garbage [ms], and the oldest generation is
# walked through only after this many of the middle one: it takes a tenth of a second.
_LOOK_MS, _SELDOM = 400, 40


class Collector(QObject):
    """Collects garbage in the thread of the window alone, for as long as it lives.

    Python collects in whichever thread makes the next object. Widgets that hang in a circle would
    be taken down by a worker so, which Qt does not survive.
    """

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._was_on = gc.isenabled()
        gc.disable()
        self._timer = QTimer(self)
        self._timer.timeout.connect(self.collect)
        self._timer.start(_LOOK_MS)

    def collect(self) -> None:
        """Collect the generations that are due."""
        young, middle, old = gc.get_count()
        if young > gc.get_threshold()[0]:
            gc.collect(0)
        if middle > gc.get_threshold()[1]:
            gc.collect(1)
        if old > _SELDOM:
            gc.collect()

    def stop(self) -> None:
        """Leave collecting to Python again."""
        self._timer.stop()
        if self._was_on:
            gc.enable()


def give_back_memory() -> bool:
    """Set the limits of the C library's allocator; return whether it took them.

    Only the GNU C library knows them; elsewhere nothing is done.
    """
    if not sys.platform.startswith("linux"):
        return False
    mallopt = getattr(ctypes.CDLL(None), "mallopt", None)
    if mallopt is None:
        return False
    limits = ((_MMAP_THRESHOLD, _LARGE), (_TRIM_THRESHOLD, _SPARE), (_ARENA_MAX, _HEAPS))
    taken = [mallopt(name, value) for name, value in limits]  # one refused does not stop the next
    return all(taken)
