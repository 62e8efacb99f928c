"""Answers that are worked out once and handed out often; nobody can change them.

A list, a dict or an array that is remembered and then changed by whoever asked falsifies every
later answer. So what is remembered is locked: arrays are read-only, and anything else that can be
changed is refused where it is made.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import fields, is_dataclass
from functools import lru_cache, wraps
from typing import TYPE_CHECKING, Any, TypeVar

import numpy as np

if TYPE_CHECKING:
    from functools import _lru_cache_wrapper

_T = TypeVar("_T")


def remembered(most: int) -> Callable[[Callable[..., _T]], _lru_cache_wrapper[_T]]:
    """Return a decorator that remembers a function's last answers, ``most`` of them, locked.

    Parameters
    ----------
    most : int
        How many answers are remembered; the longest unasked is forgotten first.

    Raises
    ------
    TypeError
        When the function is called and answers with a list, a set or a dict.
    """

    def decorate(function: Callable[..., _T]) -> _lru_cache_wrapper[_T]:
        @lru_cache(maxsize=most)
        @wraps(function)
        def work(*args: Any, **named: Any) -> _T:
            return locked(function(*args, **named))

        return work

    return decorate


def locked(answer: _T) -> _T:
    """Return an answer with all arrays in it read-only.

    Raises
    ------
    TypeError
        For a list, a set or a dict in it: a tuple, a frozenset or a mapping proxy does instead.
    """
    if isinstance(answer, np.ndarray):
        answer.setflags(write=False)
    elif isinstance(answer, list | set | dict):
        raise TypeError(f"a {type(answer).__name__} that is remembered could be changed")
    elif isinstance(answer, tuple):
        for one in answer:
            locked(one)
    elif isinstance(answer, Mapping):
        for one in answer.values():
            locked(one)
    elif is_dataclass(answer):
        for field in fields(answer):
            locked(getattr(answer, field.name))
    return answer
