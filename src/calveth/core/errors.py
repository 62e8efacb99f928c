"""What goes wrong, in words a beekeeper can act on."""

from __future__ import annotations

import math
from collections.abc import Sequence


class CalvethError(Exception):
    """Base of every error whose text may be shown to the user as it stands."""


class DomainError(CalvethError, ValueError):
    """A value the model refuses, with the field it stands in and the remedy.

    Attributes
    ----------
    field : str
        Path of the field in the user's words or in the file, e.g. ``walls layer 2 thickness``.
    value : object
        What was given.
    reason : str
        Why it is refused and what would be accepted.
    """

    def __init__(self, field: str, value: object, reason: str) -> None:
        self.field = field
        self.value = value
        self.reason = reason
        shown = f"{value:g}" if isinstance(value, float) else str(value)
        super().__init__(f"{field}: {shown} {reason}")


def require_between(field: str, value: float, low: float, high: float, unit: str = "") -> None:
    """Raise `DomainError` unless ``low <= value <= high``; NaN and infinity never pass."""
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise DomainError(field, value, "is not a number")
    if not math.isfinite(value):
        raise DomainError(field, value, "is not a number that can be built")
    if not low <= value <= high:
        tail = f" {unit}" if unit else ""
        raise DomainError(
            field, value, f"is outside {low:g} to {high:g}{tail}; enter a value in that range"
        )


def require_text(field: str, value: str, longest: int = 200) -> None:
    """Raise `DomainError` unless ``value`` is a printable name of 1 to ``longest`` characters."""
    if not isinstance(value, str) or not value.strip():
        raise DomainError(field, repr(value), "is empty; enter a name")
    if len(value) > longest:
        raise DomainError(field, value[:20] + "…", f"is longer than {longest} characters")
    if any(ord(character) < 32 for character in value):
        raise DomainError(field, repr(value), "holds control characters; type the name again")


def require_choice(field: str, value: str, choices: Sequence[str]) -> None:
    """Raise `DomainError` unless ``value`` is one of ``choices``."""
    if value not in choices:
        raise DomainError(field, value, "is not known; choose one of " + ", ".join(choices))


class CancelledError(CalvethError):
    """Work was called off; what it had begun is of no use to anybody."""
