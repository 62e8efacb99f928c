"""``calveth log``: what is in a logger's CSV and what is wrong with it; tests of an empty hive."""

from __future__ import annotations

import argparse
from pathlib import Path

import numpy as np

from calveth.cli.files import Commands, add_format, print_json
from calveth.cli.log_import import export_logs, import_log, units_of
from calveth.core.diary.series import find_faults
from calveth.core.diary.stand_in import stand_in
from calveth.core.errors import DomainError
from calveth.store.atomic_write import atomic_write
from calveth.store.empty_hive_log import column_named, decay_of, heater_of
from calveth.store.log_csv import LogFile, LogLayout, read_log
from calveth.texts.logs import (
    HEATER_CAUTION,
    decay_sentence,
    fault_sentence,
    heater_sentence,
    moment,
    series_sentence,
)

_WHAT = ("check", "import", "export", "heater", "decay", "stand-in")


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser(
        "log", help="check or import a logger's CSV, or read a test of an empty hive"
    )
    p.add_argument("what", choices=_WHAT, help="what to do")
    p.add_argument("file", help="a CSV file; with stand-in and export the one to write")
    p.add_argument("--zone", default="UTC", help="time zone of the clock, as Europe/Berlin")
    p.add_argument("--order", choices=("day first", "month first"), help="order of the date")
    p.add_argument("--into", metavar="PROJECT", help="with import and export, the project file")
    p.add_argument("--hive", help="with import and export, id or name of the hive")
    p.add_argument(
        "--take",
        action="append",
        default=[],
        metavar="HEADER=WHERE",
        help="with import, a column and where its probe is, as “lid °C=under the lid”",
    )
    p.add_argument(
        "--unit",
        action="append",
        default=[],
        metavar="HEADER=UNIT",
        help="what a column is that may be two things, as “Temp=temperature °C”",
    )
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
    if args.what == "export":
        return export_logs(args)
    if args.what == "stand-in":
        return _write_stand_in(path, args)
    layout = LogLayout(units=units_of(args.unit))
    log = read_log(path, args.zone, args.order, layout=layout)
    if args.what == "check":
        return _check(log, args)
    if args.what == "heater":
        heater = heater_of(log, args.outside)
        sentence = heater_sentence(heater)
        if args.format == "json":
            print_json(
                {
                    "loss_w_k": heater.loss_w_k,
                    "low_w_k": heater.low_w_k,
                    "high_w_k": heater.high_w_k,
                    "hours": heater.hours,
                    "steady": heater.steady,
                }
            )
        else:
            print(f"{sentence}\n{HEATER_CAUTION}")
        return 0
    decay = decay_of(log)
    if args.format == "json":
        print_json(
            {
                "changes_1_h": decay.changes_1_h,
                "low_1_h": decay.low_1_h,
                "high_1_h": decay.high_1_h,
                "readings": decay.readings,
            }
        )
    else:
        print(decay_sentence(decay))
    return 0


def _check(log: LogFile, args: argparse.Namespace) -> int:
    outside = None if args.outside is None else column_named(log, args.outside, "--outside")
    records, lines = [], list(log.notes)
    for column in log.columns:
        beside = outside if column.series is not outside else None
        faults = find_faults(column.series, beside)
        lines.append(series_sentence(column.name, column.series))
        lines += [f"   {fault_sentence(f, column.series)}" for f in faults] or ["   no fault found"]
        records.append(
            {
                "column": column.name,
                "quantity": column.series.quantity,
                "samples": int(column.series.values.size),
                "faults": [
                    {
                        "kind": f.kind,
                        "begins_utc": moment(f.begins_min),
                        "ends_utc": moment(f.ends_min),
                        "size": round(f.size, 3),
                    }
                    for f in faults
                ],
            }
        )
    lines += [
        f"{name}: may be {' or '.join(f'{m.quantity} {m.unit}' for m in meanings)}; say --unit"
        for name, meanings in log.asked
    ]
    if args.format == "json":
        print_json({"notes": list(log.notes), "columns": records})
    else:
        print("\n".join(lines))
    return 0


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
    scale = np.interp(made.inside.minutes, made.scale.minutes, made.scale.values)
    with atomic_write(path) as part, part.open("w", encoding="utf-8", newline="\n") as out:
        out.write("time;hive °C;outside °C;scale kg\n")
        rows = zip(made.inside.minutes, made.inside.values, outside, scale, strict=True)
        for minute, a, b, kg in rows:
            text = f"{moment(int(minute))};{a:.4f};{b:.4f};{kg:.2f}\n"
            out.write(text.replace(".", ","))
    print(f"wrote {path}: {made.inside.values.size} samples")
    return 0
