"""``calveth places``: the invented places that ship, one for each climate."""

from __future__ import annotations

import argparse

from calveth.catalogue.library import named, shipped_places
from calveth.cli.files import Commands, add_format, print_csv, print_json
from calveth.core.calendar import MONTH_NAMES
from calveth.core.climate.place import coldest_month
from calveth.store.converter import to_document


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("places", help="the invented places that ship, by climate")
    p.add_argument("place", nargs="?", help="the months of the place with this id or name")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print all places, or the months of one."""
    if args.place:
        chosen = named("place", args.place, shipped_places())
        rows = [
            {"month": name, **to_document(month)}
            for name, month in zip(MONTH_NAMES, chosen.place.months, strict=True)
        ]
        if args.format == "json":
            print_json(to_document(chosen))
        elif args.format == "csv":
            print_csv(rows)
        else:
            print(f"{chosen.place.name}: {chosen.climate}. {chosen.hint}")
            for row in rows:
                print(
                    f"{row['month']:<10} {row['temperature_degc']:6.1f} °C  "
                    f"{100 * row['relative_humidity']:3.0f} %  {row['wind_m_s']:4.1f} m/s  "
                    f"{row['rain_mm']:4.0f} mm"
                )
        return 0
    rows = [
        {
            "id": s.id,
            "climate": s.climate,
            "place": s.place.name,
            "latitude_deg": s.place.latitude_deg,
            "altitude_m": s.place.altitude_m,
            "coldest_month": MONTH_NAMES[coldest_month(s.place)],
            "coldest_month_degc": s.place.months[coldest_month(s.place)].temperature_degc,
            "warmest_month_degc": max(m.temperature_degc for m in s.place.months),
            "rain_mm": sum(m.rain_mm for m in s.place.months),
        }
        for s in shipped_places()
    ]
    if args.format == "json":
        print_json(rows)
    elif args.format == "csv":
        print_csv(rows)
    else:
        for row in rows:
            print(
                f"{row['id']:<14} {row['climate']:<38} {row['latitude_deg']:6.1f}° "
                f"{row['altitude_m']:5.0f} m  {row['coldest_month_degc']:6.1f} to "
                f"{row['warmest_month_degc']:4.1f} °C  {row['rain_mm']:5.0f} mm"
            )
    return 0
