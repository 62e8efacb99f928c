"""A number with its pedigree."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

Certainty = Literal["published", "common practice", "estimate"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Constant:
    """A number with its pedigree; ``low`` and ``high`` are the range shown for estimates."""

    value: float
    unit: str
    source: str
    certainty: Certainty
    low: float | None = None
    high: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Table:
    """Numbers by a word of the design or the place, with one pedigree.

    ``times`` is the range of an estimate: as much as so many times less or more; 1 for none.
    """

    values: Mapping[str, float]
    unit: str
    source: str
    certainty: Certainty
    times: float = 1.0

    def __getitem__(self, word: str) -> float:
        """Return the number of a word."""
        return self.values[word]
