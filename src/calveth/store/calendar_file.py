"""What is due as an iCalendar file (RFC 5545), which every calendar program reads."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from pathlib import Path

from calveth.core.diary.due import Due
from calveth.store.atomic_write import atomic_write


def calendar_bytes(acts: Sequence[tuple[Due, str]], made: datetime | None = None) -> bytes:
    """Return acts with their words as whole-day entries of a calendar."""
    from icalendar import Calendar, Event

    stamp = made or datetime.now(UTC)
    calendar = Calendar()
    calendar.add("prodid", "-//Calveth//diary//EN")
    calendar.add("version", "2.0")
    for act, words in acts:
        event = Event()
        event.add("uid", f"{act.key.replace('/', '-')}@calveth")
        event.add("dtstamp", stamp)
        event.add("dtstart", act.day)
        event.add("dtend", act.day + timedelta(days=1))
        event.add("summary", f"{act.hive.name}: {words}")
        calendar.add_component(event)
    data: bytes = calendar.to_ical()
    return data


def write_calendar(path: Path, acts: Sequence[tuple[Due, str]]) -> None:
    """Write acts as a calendar file in one move.

    Raises
    ------
    FileError
        When it cannot be written.
    """
    with atomic_write(path) as part:
        part.write_bytes(calendar_bytes(acts))
