"""Calling long work off: whoever starts it says when, the loops inside ask.

The inner loops of the core lie many calls deep; a callback handed through each of them would say
nothing there. A context variable carries it instead, one for each thread of work.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from calveth.core.errors import CancelledError

_ask: ContextVar[Callable[[], bool] | None] = ContextVar("unwanted", default=None)


@contextmanager
def unless(unwanted: Callable[[], bool]) -> Iterator[None]:
    """Return a block that `checkpoint` ends as soon as ``unwanted`` returns True."""
    token = _ask.set(unwanted)
    try:
        yield
    finally:
        _ask.reset(token)


def checkpoint() -> None:
    """Raise when nobody wants the work any more; called by loops that may take long.

    Raises
    ------
    CancelledError
        When it was called off.
    """
    unwanted = _ask.get()
    if unwanted is not None and unwanted():
        raise CancelledError("called off")
