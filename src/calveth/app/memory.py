"""Memory that is let go goes back to the system: without it a window grows for as long as it runs.

The C library keeps a heap for each thread and learns from large arrays that come and go to put
them there as well; between small things that stay they leave holes nobody else can use. 3 000
random acts held 1.0 to 1.5 GB so and 0.8 GB with these limits (docs/architecture.md).
"""

from __future__ import annotations

import ctypes
import sys

# From malloc.h of the GNU C library.
_TRIM_THRESHOLD, _MMAP_THRESHOLD, _ARENA_MAX = -1, -3, -8
# Arrays from this size on are mapped one by one and given back when they are let go [bytes].
_LARGE = 1 << 20
_SPARE = 8 << 20
_HEAPS = 2


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
