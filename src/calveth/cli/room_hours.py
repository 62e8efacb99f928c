"""``calveth room-hours``: a winter room forward, from fans and hives to warmth, damp and CO2."""

from __future__ import annotations

import argparse

import numpy as np

from calveth.cli.files import Commands, add_format, finite, print_csv, print_json, read_project
from calveth.cli.year import cases_of
from calveth.core.assess.room_hours import RoomHours, RoomPlan, room_hours
from calveth.core.calendar import MONTH_NAMES
from calveth.core.climate.days import MONTH_OF_HOUR
from calveth.core.climate.place import WinterRoom
from calveth.core.constants_bees import THIRSTY_ROOM
from calveth.core.errors import DomainError

_MONTHS = "11,12,1,2,3"
# An air bees in a dark room begin to move in; common practice, no source [°C].
_RESTLESS_DEGC = 9.0
# What a person should not work in for long: 0.5 % over a shift (occupational limit in many lands).
_MUCH_CO2 = 0.01


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("room-hours", help="a winter room hour by hour: warmth, damp and CO2")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--design", help="id or name of the design that stands in it; the first without")
    p.add_argument("--hives", default="", metavar="N", help="hives in the room")
    p.add_argument("--volume", default="60", metavar="M3", help="air in the room, m³")
    p.add_argument("--loss", default="30", metavar="W/K", help="heat its walls and roof lose, W/K")
    p.add_argument("--fan-least", default="20", metavar="M3/H", help="fans throttled, m³/h")
    p.add_argument("--fan-most", default="600", metavar="M3/H", help="fans at full speed, m³/h")
    p.add_argument("--heating", default="0", metavar="W", help="most a heater gives, W")
    p.add_argument("--keep", default="5", metavar="DEGC", help="warmth fans aim at, °C")
    p.add_argument("--months", default=_MONTHS, help="months in the room, 1 to 12, by commas")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print the months of the room, or every hour as CSV."""
    project = read_project(args.file)
    case = cases_of(project, args.design)[0]
    room = case.place.room or WinterRoom()
    plan = RoomPlan(
        hives=_hives(args.hives) if args.hives else room.hives,
        volume_m3=finite("--volume", args.volume),
        loss_w_k=finite("--loss", args.loss),
        least_m3_h=finite("--fan-least", args.fan_least),
        most_m3_h=finite("--fan-most", args.fan_most),
        heating_w=finite("--heating", args.heating),
        keep_degc=finite("--keep", args.keep),
    )
    hours = room_hours(case, plan, _months(args.months))
    if args.format == "csv":
        print_csv(_by_hour(hours))
    elif args.format == "json":
        print_json(_by_month(hours))
    else:
        _print(case.design.name, plan, hours)
    return 0


def _hives(text: str) -> int:
    count = finite("--hives", text)
    if count != int(count):
        raise DomainError("--hives", text, "cannot be; type a whole number of hives")
    return int(count)


def _months(text: str) -> tuple[int, ...]:
    numbers = [finite("--months", part) for part in text.split(",")]
    if any(n != int(n) or not 1 <= n <= 12 for n in numbers):
        raise DomainError("--months", text, "cannot be; type numbers from 1 to 12, as 11,12,1,2")
    return tuple(sorted({int(n) - 1 for n in numbers}))


def _by_hour(hours: RoomHours) -> list[dict[str, object]]:
    return [
        {
            "hour": int(hour),
            "degc": round(float(hours.degc[n]), 2),
            "humidity": round(float(hours.humidity[n]), 4),
            "co2": round(float(hours.co2[n]), 6),
            "exchange_m3_h": round(float(hours.exchange_m3_h[n]), 1),
            "heating_w": round(float(hours.heating_w[n]), 1),
            "settles_kg": round(float(hours.settles_kg[n]), 4),
        }
        for n, hour in enumerate(hours.hours)
    ]


def _by_month(hours: RoomHours) -> list[dict[str, object]]:
    """Return means and ends of each month in the order of the winter."""
    month = MONTH_OF_HOUR[hours.hours]
    rows: list[dict[str, object]] = []
    for k in dict.fromkeys(int(m) for m in month):
        of = month == k
        rows.append(
            {
                "month": k + 1,
                "degc_mean": round(float(hours.degc[of].mean()), 2),
                "degc_least": round(float(hours.degc[of].min()), 2),
                "degc_most": round(float(hours.degc[of].max()), 2),
                "humidity_mean": round(float(hours.humidity[of].mean()), 4),
                "co2_most": round(float(hours.co2[of].max()), 6),
                "exchange_m3_h_mean": round(float(hours.exchange_m3_h[of].mean()), 1),
                "heating_kwh": round(float(hours.heating_w[of].sum()) / 1000, 1),
                "settles_kg": round(float(hours.settles_kg[of].sum()), 2),
                "restless_hours": int((hours.degc[of] > _RESTLESS_DEGC).sum()),
                "thirsty_hours": int((hours.humidity[of] < THIRSTY_ROOM.value).sum()),
            }
        )
    return rows


def _print(name: str, plan: RoomPlan, hours: RoomHours) -> None:
    print(f"{plan.hives} hives, {name}, in {plan.volume_m3:g} m³; aimed at {plan.keep_degc:g} °C\n")
    print("month       °C mean, least to most  humid  CO2 most  m³/h  heat kWh  walls sweat kg")
    for row in _by_month(hours):
        name = MONTH_NAMES[int(str(row["month"])) - 1]
        span = f"{row['degc_mean']:.1f}, {row['degc_least']:.1f} to {row['degc_most']:.1f}"
        air = (
            f"{row['humidity_mean']:>5.0%}{row['co2_most']:>10.2%}{row['exchange_m3_h_mean']:>6.0f}"
        )
        print(f"{name:<12}{span:<22}{air}{row['heating_kwh']:>10.0f}{row['settles_kg']:>16.1f}")
    print()
    warm = int((hours.degc > _RESTLESS_DEGC).sum())
    dry = int((hours.humidity < THIRSTY_ROOM.value).sum())
    print(
        f"Warmer than {_RESTLESS_DEGC:g} °C, where bees grow restless, on {warm} hours: more air, "
        "colder air or less light then."
        if warm
        else f"Never warmer than {_RESTLESS_DEGC:g} °C."
    )
    print(
        f"Drier than {THIRSTY_ROOM.value:.0%} on {dry} hours: nothing settles in the hives then, "
        "so give water to drink."
        if dry
        else "Never so dry that bees need water to drink."
    )
    if float(np.max(hours.co2)) > _MUCH_CO2:
        print("CO2 over 1 %: air the room before anyone works in it.")
