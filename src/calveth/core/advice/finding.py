"""A finding: what was found, how it sounds, where, why, and what helps."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from calveth.core.assess.damp import DampYear
from calveth.core.assess.nights import NightAssessment
from calveth.core.assess.snowed_in import SnowedIn
from calveth.core.hive.design import FACES, Face
from calveth.core.message import Message, Value
from calveth.core.nest.network import SURFACE_FACE, SURFACES

Tone = Literal["good", "note", "bad", "danger"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """What was found, how it sounds, where, why, and what helps.

    Attributes
    ----------
    said : Message
        What was found; its id is the id of the finding.
    tone : str
        ``good``, ``note``, ``bad``, or ``danger`` to the life of the bees.
    surface : str
        The surface (`SURFACES`) or face it speaks of, empty for none.
    cause, helps : Message or None
        Why it is so, and what makes it better.
    """

    message: Message
    tone: Tone
    surface: str = ""
    cause: Message | None = None
    helps: Message | None = None

    @property
    def face(self) -> Face | None:
        """The face it speaks of, None for none."""
        if self.surface in SURFACES:
            return SURFACE_FACE[SURFACES.index(self.surface)]
        return next((face for face in FACES if face == self.surface), None)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Depth:
    """What is worked out after the months: nights, damp through the year, ice."""

    nights: NightAssessment
    damp: DampYear
    snowed_in: SnowedIn | None


def month_value(month: int) -> Value:
    """Return a month (0 to 11) as the value of a message."""
    return Value(month, "month")
