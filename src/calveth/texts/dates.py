"""Dates as people write them, read into the one way they are kept."""

from __future__ import annotations

import re
from datetime import date, datetime, time

from calveth.core.calendar import MONTH_NAMES
from calveth.core.errors import DomainError

_MONTHS = {name[:3].lower(): k for k, name in enumerate(MONTH_NAMES, start=1)}
_TIME = re.compile(
    r"[T ,]+(?:at )?(?P<h>\d{1,2}):(?P<m>\d{2})(?::\d{2})?\s*(?P<half>[ap]\.?m\.?)?$"
    r"|[T ,]+(?:at )?(?P<h12>\d{1,2})\s*(?P<half12>[ap]\.?m\.?)$",
    re.IGNORECASE,
)
_YEAR_FIRST = re.compile(r"^(\d{4})[-./ ](\d{1,2})[-./ ](\d{1,2})$")
_YEAR_LAST = re.compile(r"^(\d{1,2})([-./ ])\s*(\d{1,2})[-./ ]\s*(\d{4}|\d{2})$")
_DAY_WORD = re.compile(r"^(\d{1,2})(?:st|nd|rd|th)?\.?\s*(?:of )?([A-Za-z]{3,})\.?,?\s*(\d{4})$")
_WORD_DAY = re.compile(r"^([A-Za-z]{3,})\.?\s*(\d{1,2})(?:st|nd|rd|th)?,?\s*(\d{4})$")
_EXAMPLE = "write it as 2026-02-03, or 3 February 2026"


def read_date(text: str, field: str) -> date:
    """Return the date somebody typed: 2026-02-03, 3.2.2026, 3 Feb 2026, February 3 2026.

    >>> read_date("3. Feb 2026", "day"), read_date("2026/2/3", "day")
    (datetime.date(2026, 2, 3), datetime.date(2026, 2, 3))

    Raises
    ------
    DomainError
        For what is no date, or could be two.
    """
    tidy = " ".join(text.split())
    match = _YEAR_FIRST.match(tidy)
    if match:
        return _made(int(match[1]), int(match[2]), int(match[3]), text, field)
    for pattern, day, word in ((_DAY_WORD, 1, 2), (_WORD_DAY, 2, 1)):
        match = pattern.match(tidy)
        if match:
            month = _MONTHS.get(match[word][:3].lower(), 0)
            return _made(int(match[3]), month, int(match[day]), text, field)
    match = _YEAR_LAST.match(tidy)
    if not match:
        raise DomainError(field, text or "nothing", f"is no date; {_EXAMPLE}")
    one, two, year = int(match[1]), int(match[3]), int(match[4])
    year += 2000 if len(match[4]) == 2 else 0
    # With points the day comes first wherever dates are written so.
    if match[2] == "." or one > 12:
        return _made(year, two, one, text, field)
    if two > 12:
        return _made(year, one, two, text, field)
    if one != two:
        raise DomainError(
            field,
            text,
            f"may be {one} {MONTH_NAMES[two - 1]} or {two} {MONTH_NAMES[one - 1]}; {_EXAMPLE}",
        )
    return _made(year, one, two, text, field)


def read_moment(text: str, field: str) -> datetime:
    """Return the date and hour somebody typed; without an hour it is noon.

    >>> read_moment("3 Feb 2026 2:30 pm", "hour")
    datetime.datetime(2026, 2, 3, 14, 30)

    Raises
    ------
    DomainError
        For what is no date or no hour of a day.
    """
    tidy = " ".join(text.split())
    match = _TIME.search(tidy)
    if match is None:
        return datetime.combine(read_date(tidy, field), time(12))
    hour = int(match["h"] or match["h12"])
    minute = int(match["m"] or 0)
    half = (match["half"] or match["half12"] or "").replace(".", "").lower()
    if half and not 1 <= hour <= 12:
        raise DomainError(field, text, "is no hour of a day; write 14:30 or 2:30 pm")
    if half:
        hour = hour % 12 + (12 if half == "pm" else 0)
    if hour > 23 or minute > 59:
        raise DomainError(field, text, "is no hour of a day; write 14:30 or 2:30 pm")
    return datetime.combine(read_date(tidy[: match.start()], field), time(hour, minute))


def _made(year: int, month: int, day: int, text: str, field: str) -> date:
    try:
        return date(year, month, day)
    except ValueError:
        raise DomainError(field, text, f"is no day of the calendar; {_EXAMPLE}") from None
