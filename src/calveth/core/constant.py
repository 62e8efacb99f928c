"""A number with its pedigree."""

from __future__ import annotations

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
