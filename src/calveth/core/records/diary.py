"""Hives that stand, inspections of them, and the acts that were done: values of a project."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date, datetime
from typing import Literal, get_args

from calveth.core.errors import (
    DomainError,
    require_between,
    require_choice,
    require_note,
    require_text,
)
from calveth.core.records.blob import Blob
from calveth.core.records.log import Log

Mark = Literal["not looked", "dry", "damp", "wet", "ice", "mould", "propolis"]
MARKS: tuple[Mark, ...] = get_args(Mark)
NOT_LOOKED: Mark = "not looked"
WET_MARKS: tuple[Mark, ...] = ("wet", "ice")
SIGNS_OF_WET: tuple[Mark, ...] = ("damp", "wet", "ice", "mould")
"""What a keeper finds where water is or was: mould grows where it was damp for weeks."""
Fate = Literal["stands", "lost", "moved", "joined", "split"]
Brood = Literal["not looked", "none", "some", "plenty"]
Entrance = Literal["not looked", "nobody", "few", "many", "fanning", "hanging out", "water"]
Weighed = Literal["scale", "hand"]
LID_CELLS = 9
"""Cells of the lid map: three rows of three from the front, each from the left."""
MOST_PHOTOS_BYTES = 50_000_000
MOST_PHOTO_BYTES = 15_000_000
"""What all photographs of a project, and one of them, may have."""
_FIRST_YEAR, _LAST_YEAR = 1990, 2100
WALL_CELLS = 12
"""Cells of the walls: front, right, back, left, each from above in thirds."""


def day_of(text: str, field: str) -> date:
    """Return a date written as 2026-02-03.

    Raises
    ------
    DomainError
        For a date that does not exist.
    """
    try:
        return date.fromisoformat(text)
    except (ValueError, TypeError):
        raise DomainError(field, text, "is no date; write it as 2026-02-03") from None


def moment_of(text: str, field: str) -> datetime:
    """Return a local date and hour written as 2026-02-03T14:30.

    Raises
    ------
    DomainError
        For a moment that does not exist.
    """
    try:
        moment = datetime.fromisoformat(text)
    except (ValueError, TypeError):
        raise DomainError(field, text, "is no date and hour; write 2026-02-03T14:30") from None
    if moment.tzinfo is not None:
        raise DomainError(field, text, "has a time zone; write the clock of the place")
    if not _FIRST_YEAR <= moment.year <= _LAST_YEAR:
        raise DomainError(field, text, f"is not between {_FIRST_YEAR} and {_LAST_YEAR}; correct it")
    return moment


@dataclass(frozen=True, slots=True, kw_only=True)
class StandingHive:
    """A hive that was built from a version of a design.

    Attributes
    ----------
    id, name : str
        Name or number of its own.
    design : str
        Id of the version it was built from.
    since, until : str
        First and last day it stands as it does, as 2026-02-03; ``until`` empty while it stands.
    fate : Fate
        What became of it.
    colony : str
        The colony in it, by a name or number of its own; empty without one.
    note : str
    facing_deg : float or None
        Bearing its front looks to [°]; None as the place has it.
    """

    id: str
    name: str
    design: str
    since: str
    until: str = ""
    fate: Fate = "stands"
    colony: str = ""
    note: str = ""
    facing_deg: float | None = None

    def __post_init__(self) -> None:
        if self.facing_deg is not None:
            require_between(f"facing of {self.name}", self.facing_deg, 0, 360, "°")
        require_text("id of a hive", self.id)
        require_text("name of a hive", self.name)
        require_note("note of a hive", self.note)
        require_choice("fate of a hive", self.fate, get_args(Fate))
        first = day_of(self.since, f"day {self.name} was set up")
        if self.until and day_of(self.until, f"last day of {self.name}") < first:
            raise DomainError(
                f"last day of {self.name}", self.until, f"is before it was set up, {self.since}"
            )
        if (self.fate == "stands") != (not self.until):
            raise DomainError(
                f"fate of {self.name}",
                self.fate,
                "needs a last day unless it stands; give the day, or none",
            )

    def stands_on(self, day: date) -> bool:
        """Return whether it stands on a day."""
        last = date.fromisoformat(self.until) if self.until else date.max
        return date.fromisoformat(self.since) <= day <= last


@dataclass(frozen=True, slots=True, kw_only=True)
class Inspection:
    """What was seen of a hive at an hour; what was not looked at stays so.

    Attributes
    ----------
    hive : str
        Id of the hive.
    at : str
        Local date and hour, as 2026-02-03T14:30.
    lid : tuple of 9 Mark
        From the front, each row from the left (`LID_CELLS`).
    walls : tuple of 12 Mark
        Front, right, back, left, each from above (`WALL_CELLS`).
    floor, window : Mark
    stores_kg : float or None
        Honey in the hive [kg], with ``stores_sure_kg`` to either side, by ``stores_by``.
    seams : float or None
        Seams of bees between the combs.
    brood, entrance
        As in `Brood` and `Entrance`.
    alive : bool or None
    fed_kg : float
        Food given [kg of sugar].
    changed, text : str
        What was opened, closed, put on; anything else.
    photos : tuple of Blob
        JPEG, scaled down as it was taken in.
    """

    id: str
    hive: str
    at: str
    lid: tuple[Mark, ...] = (NOT_LOOKED,) * LID_CELLS
    walls: tuple[Mark, ...] = (NOT_LOOKED,) * WALL_CELLS
    floor: Mark = "not looked"
    window: Mark = "not looked"
    stores_kg: float | None = None
    stores_sure_kg: float = 2.0
    stores_by: Weighed = "hand"
    seams: float | None = None
    brood: Brood = "not looked"
    entrance: Entrance = "not looked"
    alive: bool | None = None
    fed_kg: float = 0.0
    changed: str = ""
    text: str = ""
    photos: tuple[Blob, ...] = ()

    def __post_init__(self) -> None:
        for photo in self.photos:
            if photo.data[:2] != b"\xff\xd8":
                raise DomainError("photograph", repr(photo), "is no JPEG; take another picture")
            if len(photo.data) > MOST_PHOTO_BYTES:
                raise DomainError(
                    "photograph",
                    f"{len(photo.data) / 1e6:.0f} MB",
                    f"is more than {MOST_PHOTO_BYTES / 1e6:.0f}; make it smaller",
                )
        moment_of(self.at, "hour of the inspection")
        for name, marks, count in (
            ("lid map", self.lid, LID_CELLS),
            ("walls", self.walls, WALL_CELLS),
            ("floor", (self.floor,), 1),
            ("window", (self.window,), 1),
        ):
            if len(marks) != count:
                raise DomainError(name, len(marks), f"marks given; it has {count} cells")
            for mark in marks:
                require_choice(name, mark, MARKS)
        if self.stores_kg is not None:
            require_between("stores", self.stores_kg, 0, 150, "kg")
        require_between("how sure the stores are", self.stores_sure_kg, 0, 50, "kg")
        require_choice("stores weighed by", self.stores_by, get_args(Weighed))
        if self.seams is not None:
            require_between("seams of bees", self.seams, 0, 60)
        require_choice("brood", self.brood, get_args(Brood))
        require_choice("entrance", self.entrance, get_args(Entrance))
        require_between("food given", self.fed_kg, 0, 50, "kg")
        require_note("what was changed", self.changed)
        require_note("text of the inspection", self.text)

    @property
    def looked_at_lid(self) -> bool:
        """Whether any cell of the lid was looked at."""
        return any(mark != "not looked" for mark in self.lid)

    @property
    def when(self) -> datetime:
        """The local hour of it."""
        return datetime.fromisoformat(self.at)


@dataclass(frozen=True, slots=True, kw_only=True)
class Diary:
    """All that is recorded; hives and inspections by their ids, ``done`` acts by their keys.

    Inspections are kept in the order of their hours.
    """

    hives: tuple[StandingHive, ...] = ()
    inspections: tuple[Inspection, ...] = ()
    done: tuple[str, ...] = ()
    logs: tuple[Log, ...] = ()

    def __post_init__(self) -> None:
        for what, ids in (
            ("hives of the diary", [h.id for h in self.hives]),
            ("inspections", [i.id for i in self.inspections]),
            ("logs", [g.id for g in self.logs]),
        ):
            twice = sorted(i for i, times in Counter(ids).items() if times > 1)
            if twice:
                raise DomainError(what, ", ".join(twice), "is used as an id twice")
        known = {h.id: h for h in self.hives}
        for inspection in self.inspections:
            hive = known.get(inspection.hive)
            if hive is None:
                raise DomainError("inspection", inspection.hive, "is of a hive that is not there")
            if not hive.stands_on(inspection.when.date()):
                raise DomainError(
                    f"inspection of {hive.name}",
                    inspection.at,
                    f"is not while it stands, from {hive.since} to {hive.until or 'today'}; "
                    "correct one of the days",
                )
        for log in self.logs:
            if log.hive and log.hive not in known:
                raise DomainError(f"log {log.name}", log.hive, "is of a hive that is not there")
        size = sum(len(p.data) for i in self.inspections for p in i.photos)
        if size > MOST_PHOTOS_BYTES:
            raise DomainError(
                "photographs",
                f"{size / 1e6:.0f} MB",
                f"are more than the {MOST_PHOTOS_BYTES / 1e6:.0f} a project keeps; take some out",
            )
        _refuse_colony_twice(self.hives)
        ordered = tuple(sorted(self.inspections, key=lambda i: (i.at, i.id)))
        object.__setattr__(self, "inspections", ordered)

    def has_hive(self, hive_id: str) -> bool:
        """Return whether a hive stands in the diary."""
        return any(h.id == hive_id for h in self.hives)

    def hive(self, hive_id: str) -> StandingHive:
        """Return a hive by its id."""
        for hive in self.hives:
            if hive.id == hive_id:
                return hive
        raise DomainError("hive of the diary", hive_id, "is not there; choose one that stands")

    def of_hive(self, hive_id: str) -> tuple[Inspection, ...]:
        """Return the inspections of a hive in the order of their hours."""
        return tuple(i for i in self.inspections if i.hive == hive_id)

    def with_hive(self, hive: StandingHive) -> Diary:
        """Return the diary with a hive added, or put in the place of the one with its id."""
        if any(h.id == hive.id for h in self.hives):
            return replace(self, hives=tuple(hive if h.id == hive.id else h for h in self.hives))
        return replace(self, hives=(*self.hives, hive))

    def with_inspection(self, inspection: Inspection) -> Diary:
        """Return the diary with an inspection added or replaced."""
        return self.with_inspections((inspection,))

    def with_inspections(self, inspections: Iterable[Inspection]) -> Diary:
        """Return the diary with inspections added or replaced, all at once."""
        new = {i.id: i for i in inspections}
        rest = tuple(i for i in self.inspections if i.id not in new)
        return replace(self, inspections=(*rest, *new.values()))

    def without_inspection(self, inspection_id: str) -> Diary:
        """Return the diary without an inspection."""
        rest = tuple(i for i in self.inspections if i.id != inspection_id)
        return replace(self, inspections=rest)

    def without_hive(self, hive_id: str) -> Diary:
        """Return the diary without a hive; one with entries stays.

        Raises
        ------
        DomainError
            When it has inspections or logs.
        """
        if self.of_hive(hive_id) or self.logs_of(hive_id):
            raise DomainError(
                "hive of the diary",
                self.hive(hive_id).name,
                "has inspections or logs; give it a last day instead",
            )
        return replace(self, hives=tuple(h for h in self.hives if h.id != hive_id))

    def logs_of(self, hive_id: str) -> tuple[Log, ...]:
        """Return the logs of a hive; without a hive those of the place."""
        return tuple(g for g in self.logs if g.hive == hive_id)

    def with_log(self, log: Log) -> Diary:
        """Return the diary with a log added, or put in the place of the one with its id."""
        if any(g.id == log.id for g in self.logs):
            return replace(self, logs=tuple(log if g.id == log.id else g for g in self.logs))
        return replace(self, logs=(*self.logs, log))

    def without_log(self, log_id: str) -> Diary:
        """Return the diary without a log."""
        return replace(self, logs=tuple(g for g in self.logs if g.id != log_id))

    def blobs(self) -> dict[str, Blob]:
        """Return all bytes that are kept with it, by their digests."""
        blobs = {c.packed.digest: c.packed for g in self.logs for c in g.chunks}
        return blobs | {p.digest: p for i in self.inspections for p in i.photos}

    def with_done(self, key: str, done: bool) -> Diary:
        """Return the diary with an act ticked or not."""
        rest = tuple(k for k in self.done if k != key)
        return replace(self, done=(*rest, key) if done else rest)

    def entries_of(self, design_id: str) -> int:
        """Return how many inspections hives built from a design have."""
        of = {h.id for h in self.hives if h.design == design_id}
        return sum(i.hive in of for i in self.inspections)


def _refuse_colony_twice(hives: tuple[StandingHive, ...]) -> None:
    for k, one in enumerate(hives):
        for two in hives[k + 1 :]:
            if not one.colony or one.colony != two.colony:
                continue
            begins = max(one.since, two.since)
            ends = min(one.until or "9999", two.until or "9999")
            # On the day it moves it may be in both.
            if begins < ends:
                raise DomainError(
                    "colony",
                    one.colony,
                    f"would be in {one.name} and in {two.name} at once; give one of them a last "
                    "day, or the colony another name",
                )


def refuse_future(inspections: Iterable[Inspection], today: date) -> None:
    """Raise for an inspection of a day that has not come yet, anywhere on earth.

    Raises
    ------
    DomainError
        It names the hour.
    """
    for look in inspections:
        if (look.when.date() - today).days > 1:
            raise DomainError(
                "hour of the inspection", look.at, "has not come yet; write when it was looked into"
            )


NO_DIARY = Diary()


def next_id(taken: set[str], stem: str) -> str:
    """Return an id that is not taken: a stem with the next number."""
    number = 1
    while f"{stem}-{number}" in taken:
        number += 1
    return f"{stem}-{number}"
