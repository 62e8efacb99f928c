"""Where long answers are kept from one run of the program to the next.

The core writes nothing. Whoever runs it may hand in a keeper (`keep_with`): what was worked
out once for the same question and code is then read. Figures are kept bit by bit.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from hashlib import blake2b
from pathlib import Path
from typing import Protocol, TypeVar

_T = TypeVar("_T")
_CORE = Path(__file__).parent


class Keeper(Protocol):
    """Keeps answers by a key of letters and digits; neither method raises."""

    def get(self, key: str, kind: type[_T]) -> _T | None:
        """Return the answer of a kind that is kept under a key, None when there is none."""

    def put(self, key: str, answer: object) -> None:
        """Keep an answer."""


_keepers: list[Keeper] = []


def keep_with(keeper: Keeper | None) -> None:
    """Return nothing; keep what is solved from now on with ``keeper``, or nothing with None."""
    _keepers[:] = [] if keeper is None else [keeper]


@lru_cache(maxsize=1)
def code_digest() -> bytes:
    """Return a digest of the core's code: an answer of other code is another answer."""
    content = blake2b(digest_size=16)
    for path in sorted(_CORE.rglob("*.py")):
        content.update(path.read_bytes())
    return content.digest()


def kept(kind: type[_T], asked: tuple[object, ...], solve: Callable[[], _T]) -> _T:
    """Return the answer kept for what was ``asked``, or solve it and keep it.

    ``asked`` are frozen values whose repr says all that the answer depends on. An error is not
    kept.
    """
    if not _keepers:
        return solve()
    content = blake2b(code_digest(), digest_size=16)
    content.update(f"{kind.__name__}{asked!r}".encode())
    key = content.hexdigest()
    kept_answer = _keepers[0].get(key, kind)
    if kept_answer is not None:
        return kept_answer
    answer = solve()
    _keepers[0].put(key, answer)
    return answer
