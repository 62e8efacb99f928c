"""What goes wrong, in words a beekeeper can act on."""

from __future__ import annotations

import math
import unicodedata
from collections.abc import Sequence

_LONGEST_SENTENCE = 320
_LONGEST_VALUE = 60


def plain(text: str, longest: int = _LONGEST_SENTENCE) -> str:
    """Return a text as one printable line that is not longer than a line is read.

    Control characters, line ends, halves of character pairs and marks that turn the direction of
    reading become spaces: what comes out of a file must not steer a terminal.
    """
    shown = "".join(c if printable(c) else " " for c in text[:2000])
    shown = " ".join(shown.split())
    return shown if len(shown) <= longest else shown[: longest - 1].rstrip() + "…"


def printable(character: str) -> bool:
    """Return whether a character may stand in a line of text."""
    if unicodedata.category(character) in ("Cc", "Cs", "Zl", "Zp"):
        return False
    return not ("\u202a" <= character <= "\u202e" or "\u2066" <= character <= "\u2069")


class CalvethError(Exception):
    """Base of every error whose text may be shown to the user as it stands: one plain line."""

    def __init__(self, sentence: str = "") -> None:
        super().__init__(plain(sentence))


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
        shown = f"{value:g}" if isinstance(value, float) else plain(str(value), _LONGEST_VALUE)
        super().__init__(f"{plain(field, 120)}: {shown} {reason}")


class RangeError(DomainError):
    """A number out of its range; a screen may say it in the unit of its field.

    Attributes
    ----------
    low, high : float
        What would be accepted.
    unit : str
        Of all three; ``share`` for a fraction that a screen may show in per cent.
    """

    def __init__(self, field: str, value: float, low: float, high: float, unit: str) -> None:
        self.low, self.high, self.unit = low, high, unit
        tail = "" if unit in ("", "share") else f" {unit}"
        super().__init__(
            field, value, f"is outside {low:g} to {high:g}{tail}; enter a value in that range"
        )


def of_field(error: DomainError, field: str) -> DomainError:
    """Return an error with the name of the field as the user knows it."""
    if isinstance(error, RangeError) and isinstance(error.value, float | int):
        return RangeError(field, error.value, error.low, error.high, error.unit)
    return DomainError(field, error.value, error.reason)


def require_between(field: str, value: float, low: float, high: float, unit: str = "") -> None:
    """Raise `DomainError` unless ``low <= value <= high``; NaN and infinity never pass."""
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise DomainError(field, value, "is not a number")
    if isinstance(value, int) and abs(value) > 1e15:
        raise DomainError(field, "a number of many digits", "is too large; enter a usual one")
    if not math.isfinite(value):
        raise DomainError(field, value, "is not a number that can be built")
    if not low <= value <= high:
        raise RangeError(field, value, low, high, unit)


def require_text(field: str, value: str, longest: int = 200) -> None:
    """Raise `DomainError` unless ``value`` is a printable name of 1 to ``longest`` characters."""
    if not isinstance(value, str) or not value.strip():
        raise DomainError(field, repr(value), "is empty; enter a name")
    if len(value) > longest:
        raise DomainError(field, value[:20] + "…", f"is longer than {longest} characters")
    if not all(map(printable, value)):
        raise DomainError(field, value, "holds characters that cannot be shown; type it again")


def require_note(field: str, value: str, longest: int = 4000) -> None:
    """Raise `DomainError` unless ``value`` is a text that can be shown; it may be empty."""
    if not isinstance(value, str):
        raise DomainError(field, repr(value), "is not a text")
    if len(value) > longest:
        raise DomainError(field, value[:20] + "…", f"is longer than {longest} characters")
    if not all(printable(c) or c in "\n\t" for c in value):
        raise DomainError(field, value, "holds characters that cannot be shown; type it again")


def require_choice(field: str, value: str, choices: Sequence[str]) -> None:
    """Raise `DomainError` unless ``value`` is one of ``choices``."""
    if value not in choices:
        raise DomainError(field, value, "is not known; choose one of " + ", ".join(choices))


class CancelledError(CalvethError):
    """Work was called off; what it had begun is of no use to anybody."""
