"""What a probe or a scale wrote, as it is kept with a project: whose, where, and its samples."""

from __future__ import annotations

from dataclasses import dataclass
from typing import get_args

from calveth.core.errors import (
    DomainError,
    require_between,
    require_choice,
    require_note,
    require_text,
)
from calveth.core.records.blob import Blob
from calveth.core.records.quantity import WHERE, Quantity, Where, quantities_at

FIRST_MONTH, LAST_MONTH = 240, 1571
"""Months since January 1970 a log may be of: 1990 to 2100."""
MOST_SAMPLES = 31 * 24 * 60
"""Samples of a month at most: one a minute."""
MOST_PACKED_BYTES = 9 * MOST_SAMPLES


@dataclass(frozen=True, slots=True, kw_only=True)
class Chunk:
    """Samples of a month (counted from January 1970), packed as `diary.samples` does."""

    month: int
    count: int
    packed: Blob

    def __post_init__(self) -> None:
        # What is read from a file says itself how much it holds: no more than a month can.
        require_between("month of a log", self.month, FIRST_MONTH, LAST_MONTH)
        require_between("samples of a month", self.count, 1, MOST_SAMPLES)
        if len(self.packed.data) > MOST_PACKED_BYTES:
            raise DomainError(
                "samples of a month",
                f"{len(self.packed.data)} bytes",
                "are more than a month has; read the log's file again",
            )


@dataclass(frozen=True, slots=True, kw_only=True)
class Log:
    """The samples of one column of a logger's file.

    Attributes
    ----------
    id, name : str
        The name is the header of the column.
    hive : str
        Id of the hive; empty for a probe of the place.
    at : Where
    quantity : Quantity
    file, sha256, zone : str
        The file read last, the digest of its bytes, and the time zone of its clock.
    chunks : tuple of Chunk
        In the order of time.
    """

    id: str
    name: str
    hive: str
    at: Where
    quantity: Quantity
    file: str
    sha256: str
    zone: str
    chunks: tuple[Chunk, ...]

    def __post_init__(self) -> None:
        require_text("id of a log", self.id)
        require_note("name of a log", self.name)
        require_note("file of a log", self.file)
        require_choice("place of a probe", self.at, WHERE)
        require_choice("quantity of a log", self.quantity, get_args(Quantity))
        if self.quantity not in quantities_at(self.at):
            raise DomainError(
                f"log {self.name}",
                f"{self.quantity} {self.at}",
                f"does not fit; {self.at} goes with {', '.join(quantities_at(self.at))}",
            )
        if (self.at == "outside") != (not self.hive):
            raise DomainError(
                f"log {self.name}",
                self.hive or "no hive",
                "does not fit; a probe outside has no hive, any other has one",
            )
        if not self.chunks:
            raise DomainError(f"log {self.name}", "no", "samples are in it; read another column")
        months = [c.month for c in self.chunks]
        if months != sorted(set(months)):
            raise DomainError(f"log {self.name}", "months", "are not in the order of time")

    @property
    def samples(self) -> int:
        """How many samples it has."""
        return sum(c.count for c in self.chunks)
