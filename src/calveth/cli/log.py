"""``calveth log``: what is in a logger's CSV and what is wrong with it; tests of an empty hive."""

from __future__ import annotations

import argparse
from pathlib import Path

import numpy as np

from calveth.cli.files import Commands, add_format, print_json
from calveth.cli.log_import import import_log
from calveth.core.diary.empty_hive import co2_decay, heater_test
from calveth.core.diary.series import Series, find_faults, hourly
from calveth.core.diary.stand_in import stand_in
from calveth.core.errors import DomainError
from calveth.store.atomic_write import atomic_write
from calveth.store.log_csv import LogFile, read_log
from calveth.texts.logs import (
    HEATER_CAUTION,
    decay_sentence,
    fault_sentence,
    heater_sentence,
    moment,
    series_sentence,
)

_WHAT = ("check", "import", "heater", "decay", "stand-in")


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser(
        "log", help="check or import a logger's CSV, or read a test of an empty hive"
    )
    p.add_argument("what", choices=_WHAT, help="what to do")
    p.add_argument("file", help="a CSV file; with stand-in the one to write")
    p.add_argument("--zone", default="UTC", help="time zone of the clock, as Europe/Berlin")
    p.add_argument("--order", choices=("day first", "month first"), help="order of the date")
    p.add_argument("--into", metavar="PROJECT", help="with import, the project file")
    p.add_argument("--hive", help="with import, id or name of the hive of the diary")
    p.add_argument(
        "--take", action="append", default=[], metavar="HEADER=WHERE",
        help="with import, a column and where its probe is, as “lid °C=under the lid”",
    )  # fmt: skip
    p.add_argument("--outside", metavar="COLUMN", help="header of the probe outside")
    p.add_argument("--faults", default="", help="faults of the stand-in, by commas")
    p.add_argument("--seed", default="1", help="seed of the stand-in")
    add_format(p, ("text", "json"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Do what was asked."""
    path = Path(args.file)
    if args.what == "import":
        return import_log(args)
    if args.what == "stand-in":
        return _write_stand_in(path, args)
    log = read_log(path, args.zone, args.order)
    if args.what == "check":
        return _check(log, args)
    if args.what == "heater":
        inside, outside, power = _three(log, args.outside)
        first = int(inside.minutes[0]) // 60 + 1
        hours = int(inside.minutes[-1]) // 60 - first
        found = heater_test(*(hourly(s, first, max(hours, 0)) for s in (inside, outside, power)))
        said = heater_sentence(found)
        if args.format == "json":
            print_json({"loss_w_k": found.loss_w_k, "low_w_k": found.low_w_k,
                        "high_w_k": found.high_w_k, "hours": found.hours,
                        "steady": found.steady})  # fmt: skip
        else:
            print(f"{said}\n{HEATER_CAUTION}")
        return 0
    co2 = next((c.series for c in log.columns if c.series.quantity == "co2"), None)
    if co2 is None:
        raise DomainError("CO2", "no", "column of ppm is in the file; name its unit in the header")
    decay = co2_decay((co2.minutes - co2.minutes[0]) / 60.0, 1e6 * co2.values)
    if args.format == "json":
        print_json({"changes_1_h": decay.changes_1_h, "low_1_h": decay.low_1_h,
                    "high_1_h": decay.high_1_h, "readings": decay.readings})  # fmt: skip
    else:
        print(decay_sentence(decay))
    return 0


def _check(log: LogFile, args: argparse.Namespace) -> int:
    outside = _outside(log, args.outside)
    records, lines = [], list(log.notes)
    for column in log.columns:
        beside = outside if column.series is not outside else None
        faults = find_faults(column.series, beside)
        lines.append(series_sentence(column.name, column.series))
        lines += [f"   {fault_sentence(f, column.series)}" for f in faults] or ["   no fault found"]
        records.append({
            "column": column.name, "quantity": column.series.quantity,
            "samples": int(column.series.values.size),
            "faults": [{"kind": f.kind, "begins_utc": moment(f.begins_min),
                        "ends_utc": moment(f.ends_min), "size": round(f.size, 3)} for f in faults],
        })  # fmt: skip
    if args.format == "json":
        print_json({"notes": list(log.notes), "columns": records})
    else:
        print("\n".join(lines))
    return 0


def _outside(log: LogFile, name: str | None) -> Series | None:
    if name is None:
        return None
    found = next((c.series for c in log.columns if c.name == name), None)
    if found is None:
        known = ", ".join(c.name for c in log.columns)
        raise DomainError("--outside", name, f"is no column of the file; it has {known}")
    return found


def _three(log: LogFile, outside: str | None) -> tuple[Series, Series, Series]:
    """Return the probes inside and outside and the watts of a heater test."""
    out = _outside(log, outside)
    warm = [c.series for c in log.columns
            if c.series.quantity == "temperature" and c.series is not out]  # fmt: skip
    power = [c.series for c in log.columns if c.series.quantity == "power"]
    if out is None or not warm or not power:
        raise DomainError(
            "heater test", "columns",
            "are missing: it needs °C inside, °C outside (--outside HEADER) and W",
        )  # fmt: skip
    return warm[0], out, power[0]


def _write_stand_in(path: Path, args: argparse.Namespace) -> int:
    known = ("gap", "spike", "stuck", "unit", "clock", "drift")
    faults = [f.strip() for f in args.faults.split(",") if f.strip()]
    for fault in faults:
        if fault not in known:
            raise DomainError("--faults", fault, f"is none; choose of {', '.join(known)}")
    if not args.seed.isdigit():
        raise DomainError("--seed", args.seed, "is no whole number; use 1, 2, ...")
    made = stand_in(45, int(args.seed), faults)
    outside = np.interp(made.inside.minutes, made.outside.minutes, made.outside.values)
    with atomic_write(path) as part, part.open("w", encoding="utf-8", newline="\n") as out:
        out.write("time;hive °C;outside °C\n")
        for minute, a, b in zip(made.inside.minutes, made.inside.values, outside, strict=True):
            text = f"{moment(int(minute))};{a:.4f};{b:.4f}\n"
            out.write(text.replace(".", ","))
    print(f"wrote {path}: {made.inside.values.size} samples")
    return 0
