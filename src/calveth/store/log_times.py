"""Times of a logger's rows: one cell or two, any common order, AM and PM, offsets, seconds."""

from __future__ import annotations

import re
from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from typing import Literal, get_args

import numpy as np
from numpy.typing import NDArray

DateOrder = Literal["day first", "month first"]
DATE_ORDERS: tuple[DateOrder, ...] = get_args(DateOrder)

_DATE = (
    r"(?:(?P<y>\d{4})[-./](?P<m>\d{1,2})[-./](?P<d>\d{1,2})|"
    r"(?P<a>\d{1,2})(?P<sep>[-./])(?P<b>\d{1,2})[-./](?P<y2>\d{4}|\d{2}))"
)
_CLOCK = (
    r"(?P<h>\d{1,2}):(?P<min>\d{2})(?::\d{2}(?:[.,]\d+)?)?\s*(?P<half>[AaPp]\.?[Mm]\.?)?"
    r"\s*(?P<off>Z|UTC|[+-]\d{2}:?\d{2})?"
)
WHOLE = re.compile(rf"^{_DATE}(?:[T ,]\s*|\s+){_CLOCK}$")
DATE_ALONE = re.compile(rf"^{_DATE}$")
CLOCK_ALONE = re.compile(rf"^{_CLOCK}$")
_PLAIN = re.compile(r"^\d{4}-\d\d-\d\d[ T]\d\d:\d\d(?::\d\d)?$")
_EPOCH = datetime(1970, 1, 1)


def is_time(text: str) -> bool:
    """Return whether a cell holds a date with its time."""
    return bool(WHOLE.match(text))


def order_seen(texts: Sequence[str]) -> DateOrder | Literal["year first"] | None:
    """Return the order of the dates of some times, as far as they show it; None where they do not.

    A dot parts days and months where the day comes first.
    """
    biggest_a = biggest_b = 0
    dot = slashes = False
    for text in texts:
        match = WHOLE.match(text) or DATE_ALONE.match(text)
        if match is None or match["y"]:
            continue
        slashes = True
        dot = dot or match["sep"] == "."
        biggest_a, biggest_b = max(biggest_a, int(match["a"])), max(biggest_b, int(match["b"]))
    if not slashes:
        return "year first"
    if dot or biggest_a > 12:
        return "day first"
    return "month first" if biggest_b > 12 else None


def local_minutes(
    texts: Sequence[str], order: DateOrder | None
) -> tuple[NDArray[np.int64], NDArray[np.bool_], int]:
    """Return minutes since 1970 of times [n], which of them had an offset of their own [n].

    Those with one are in UTC. The third is the index of the first that is no time, -1 for none; the
    arrays end there.
    """
    if texts and all(map(_PLAIN.match, (texts[0], texts[len(texts) // 2], texts[-1]))):
        try:
            stamps = np.array([t[:16].replace(" ", "T") for t in texts], dtype="datetime64[m]")
        except ValueError:
            pass
        else:
            if all(map(_PLAIN.match, texts)):
                return stamps.astype(np.int64), np.zeros(len(texts), dtype=bool), -1
    minutes = np.zeros(len(texts), dtype=np.int64)
    own = np.zeros(len(texts), dtype=bool)
    known: dict[str, int] = {}
    for k, text in enumerate(texts):
        match = WHOLE.match(text)
        made = None if match is None else _minute(match, order, known)
        if made is None:
            return minutes[:k], own[:k], k
        minutes[k], own[k] = made
    return minutes, own, -1


def _minute(
    match: re.Match[str], order: DateOrder | None, days: dict[str, int]
) -> tuple[int, bool] | None:
    date = match.group(0)[: match.start("h")]
    if date not in days:
        if match["y"]:
            year, month, day = int(match["y"]), int(match["m"]), int(match["d"])
        else:
            # 3/4 is two days: which comes first was found from the whole file.
            one, two = int(match["a"]), int(match["b"])
            day, month = (one, two) if order == "day first" else (two, one)
            year = int(match["y2"]) + (2000 if len(match["y2"]) == 2 else 0)
        try:
            days[date] = (datetime(year, month, day) - _EPOCH).days
        except ValueError:
            return None
    hour, minute = int(match["h"]), int(match["min"])
    half = (match["half"] or "")[:1].lower()
    if minute > 59 or hour > 23 or (half and not 1 <= hour <= 12):
        return None
    if half:
        # 12 am is midnight and 12 pm is noon.
        hour = hour % 12 + (12 if half == "p" else 0)
    total = days[date] * 1440 + 60 * hour + minute
    offset = match["off"]
    if not offset:
        return total, False
    if offset in ("Z", "UTC"):
        return total, True
    sign = -1 if offset[0] == "-" else 1
    digits = offset[1:].replace(":", "")
    return total - sign * (60 * int(digits[:2]) + int(digits[2:])), True


def hour_offsets(hour: int, clock: object) -> tuple[float, float, bool]:
    """Return the offsets of an hour since 1970 on a clock, before and after it is put back [min].

    The third says whether the clock skips it.
    """
    when = _EPOCH + timedelta(hours=hour)
    offsets = [
        when.replace(tzinfo=clock, fold=f).utcoffset()  # type: ignore[arg-type]
        for f in (0, 1)
    ]
    early, late = (o.total_seconds() / 60 if o else 0.0 for o in offsets)
    back = (
        (when - timedelta(minutes=early))
        .replace(tzinfo=UTC)
        .astimezone(
            clock  # type: ignore[arg-type]
        )
    )
    return early, late, back.replace(tzinfo=None) != when
