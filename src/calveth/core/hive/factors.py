"""What logs have told of a hive that was built: factors on what is otherwise taken."""

from __future__ import annotations

from dataclasses import dataclass

from calveth.core.errors import require_between, require_note


@dataclass(frozen=True, slots=True, kw_only=True)
class Factors:
    """Factors taken over from a calibration; one where the log told nothing.

    Attributes
    ----------
    leakage, bees, mixing, shell : float
        On the leakage of the joints, the mass of the bees, the exchange between nest and crown
        and the conductance of the layers [-].
    note : str
        From which log they are, and how sure.
    """

    leakage: float = 1.0
    bees: float = 1.0
    mixing: float = 1.0
    shell: float = 1.0
    note: str = ""

    def __post_init__(self) -> None:
        for name, value, low, high in (
            ("leakage", self.leakage, 0.1, 8.0),
            ("bees", self.bees, 0.4, 2.0),
            ("mixing", self.mixing, 0.1, 5.0),
            ("shell", self.shell, 0.7, 1.4),
        ):
            require_between(f"factor on {name}", value, low, high)
        require_note("note of the factors", self.note)
