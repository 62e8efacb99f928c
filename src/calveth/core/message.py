"""What the core has to say: an id and the quantities it speaks of; `texts` has the words."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Kind = Literal[
    "temperature",
    "temperature difference",
    "water",
    "water per area",
    "flow",
    "mass",
    "speed",
    "share",
    "month",
    "name",
    "names",
    "surface",
    "surfaces",
    "number",
    "transmittance",
    "length",
    "angle",
    "area",
    "volume",
    "money",
]
"""What a value is: how it is written depends on it and on the reader's units."""


@dataclass(frozen=True, slots=True)
class Value:
    """A value of a message in SI (°C for temperatures), a month (0 to 11), an id or a name.

    ``digits`` are those behind the point where the usual ones of its kind are not fit, and
    ``inch_digits`` the same for inch units.
    """

    value: float | str | tuple[str, ...]
    kind: Kind
    digits: int | None = None
    inch_digits: int | None = None


@dataclass(frozen=True, slots=True)
class Message:
    """Something said: its id and what it speaks of, by name."""

    id: str
    values: tuple[tuple[str, Value], ...] = ()


def message(name: str, **values: Value) -> Message:
    """Return a message.

    >>> message("walls dry").id
    'walls dry'
    """
    return Message(name, tuple(values.items()))
