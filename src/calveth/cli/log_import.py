"""``calveth log import`` and ``export``: columns of a logger's file in, samples out again."""

from __future__ import annotations

import argparse
import csv
from pathlib import Path

from calveth.cli.edit import edit_project, refuse_json
from calveth.cli.files import output_file, read_project
from calveth.core.errors import DomainError
from calveth.core.project import Project
from calveth.core.records.diary import StandingHive
from calveth.core.records.quantity import WHERE, Quantity, Where
from calveth.store.atomic_write import atomic_write
from calveth.store.log_csv import LogFile, LogLayout, log_rows, read_log
from calveth.store.log_into import digest_of, with_columns

_OF_COURSE: dict[Quantity, Where] = {"weight": "scale", "power": "heater"}


def find_hive(project: Project, name: str) -> StandingHive:
    """Return a hive of the diary by id or name."""
    for hive in project.diary.hives:
        if name in (hive.id, hive.name):
            return hive
    known = ", ".join(h.name for h in project.diary.hives) or "none yet"
    raise DomainError("--hive", name, f"is not in the diary; it has {known}")


def import_log(args: argparse.Namespace) -> int:
    """Read columns into the project and say what was read."""
    if not args.into:
        raise DomainError("--into", "nothing", "is named; give the project file")
    into, path = Path(args.into), Path(args.file)
    refuse_json(into)
    project = read_project(args.into)
    log = read_log(path, args.zone, args.order, layout=LogLayout(units=units_of(args.unit)))
    sha = digest_of(path)
    hive = find_hive(project, args.hive) if args.hive else None
    columns = wanted_columns(log, args.take)
    for name, at in columns:
        if at != "outside" and hive is None:
            raise DomainError("--hive", "none", f"is named, but {name} is {at}; name the hive")

    edit_project(
        into,
        lambda now: with_columns(
            now, log, columns, hive.id if hive else "", file=path.name, sha256=sha, zone=args.zone
        ),
    )
    for name, at in columns:
        series = next(c.series for c in log.columns if c.name == name)
        print(f"{name}: {series.values.size} samples of {series.quantity}, {at}")
    for note in log.notes:
        print(note)
    return 0


def units_of(given: list[str]) -> dict[str, str]:
    """Return which unit columns have, from ``HEADER=temperature °F`` texts."""
    units = {}
    for text in given:
        name, _, unit = text.rpartition("=")
        if not name:
            raise DomainError("--unit", text, "names no column; say HEADER=temperature °C")
        units[name] = unit.strip().lower()
    return units


def _where(text: str) -> Where:
    for at in WHERE:
        if at == text:
            return at
    raise DomainError("--take", text, f"is no place of a probe; use one of {', '.join(WHERE)}")


def export_logs(args: argparse.Namespace) -> int:
    """Write the samples of a hive, and of the probes outside, as a CSV that can be read again."""
    if not args.into or not args.hive:
        raise DomainError("--into and --hive", "nothing", "is named; give the project and the hive")
    project = read_project(args.into)
    hive = find_hive(project, args.hive)
    logs = [*project.diary.logs_of(hive.id), *project.diary.logs_of("")]
    if not logs:
        raise DomainError(f"logs of {hive.name}", "none", "are in the diary; import one first")
    path = output_file(args.file, ".csv")
    rows = log_rows(logs)
    with atomic_write(path) as part, part.open("w", encoding="utf-8", newline="") as out:
        csv.writer(out, lineterminator="\n").writerows(rows)
    print(f"wrote {path}: {len(rows) - 1} rows of {len(logs)} logs, in UTC")
    return 0


def wanted_columns(log: LogFile, given: list[str]) -> list[tuple[str, Where]]:
    """Return the columns to read and where their probes are, from ``HEADER=WHERE`` texts."""
    known, may_be = {c.name: c for c in log.columns}, dict(log.asked)
    columns: list[tuple[str, Where]] = []
    for text in given:
        name, _, at = text.rpartition("=")
        if name in may_be:
            units = " or ".join(f"{m.quantity} {m.unit}" for m in may_be[name])
            raise DomainError("--take", name, f'may be {units}; say which with --unit "{name}=…"')
        if name not in known:
            raise DomainError("--take", name, f"is no column; there are {', '.join(known)}")
        columns.append((name, _where(at)))
    taken = {name for name, _ in columns}
    columns += [
        (c.name, _OF_COURSE[c.series.quantity])
        for c in log.columns
        if c.name not in taken and c.series.quantity in _OF_COURSE
    ]
    if not columns:
        raise DomainError(
            "--take", "nothing", f"is named; say HEADER=WHERE, where one of {', '.join(WHERE)}"
        )
    return columns
