"""A published value beside the computed one."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Check:
    """One published value; ``tolerance`` is absolute, in ``unit``."""

    name: str
    unit: str
    expected: float
    computed: float
    tolerance: float
    source: str

    @property
    def deviation(self) -> float:
        """Computed minus expected."""
        return self.computed - self.expected

    @property
    def passed(self) -> bool:
        """Whether the deviation is within the tolerance; NaN never is."""
        return bool(abs(self.deviation) <= self.tolerance)
