"""What loggers measure: each quantity in one row, with all that is to be known of it.

A new quantity is a row here. What reads, keeps, judges, draws, compares and exports logs looks it
up in this table; `tests.diary.test_quantity` takes every row through all of it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import inf
from types import MappingProxyType
from typing import Literal, get_args

Quantity = Literal["temperature", "humidity", "co2", "weight", "power"]
"""In °C, share, share by volume, kg, W."""
Where = Literal["under the lid", "among the bees", "at the floor", "outside", "scale", "heater"]
"""Where a probe hangs or stands."""
WHERE: tuple[Where, ...] = get_args(Where)
UnitKind = Literal["temperature", "mass"]
"""What a keeper may see in °F or pounds; shares and watts are the same everywhere."""


@dataclass(frozen=True, slots=True, kw_only=True)
class QuantityFacts:
    """All that is to be known of a logged quantity.

    Attributes
    ----------
    title : str
        What a strip of it is called.
    unit, factor : str, float
        The unit it is shown in and how many of it one of its own is.
    kind : str or None
        What the keeper's own units call it; None where the unit never changes.
    digits, file_digits : int
        Decimals on the screen, and in a file (in ``unit``, or ``file_unit`` where it has one).
    file_unit, file_factor : str, float
        As ``unit`` and ``factor``, for a file.
    places : tuple of str
        Where a probe of it may be.
    limits : tuple of float
        What a probe may read; outside of it is no value but a fault, as -127 of a wire that is off.
    kept_step : float
        The step samples are kept in: finer than any probe's.
    coarse_step : float
        What a coarse probe may jump by without being two probes in one column.
    spike : float
        How far a value lies from the middle of its seven neighbours to be a spike; an estimate.
    rests : bool
        Whether hours without any change are no fault.
    saturates_at : float
        From which value on it may stay the same for long.
    scatter, offset : float
        How far a night of a hive lies from the model's, and by how much a probe is off for good:
        one sigma each, in K, share, ln, kg a day; estimates. The scatter holds what a model of
        three zones cannot know (0.5 K in temperatures); a cheap scale drifts by grams a day.
    weather : str or None
        The column of an hourly weather it fills when it is logged outside; None for none.
    units : mapping
        Units loggers write, as whole tokens: factor and offset to the unit it is kept in; the first
        is the usual one.
    asked_unit : str or None
        The other unit it may be in when a header names none.
    words : tuple of str
        What headers call it.
    """

    title: str
    unit: str
    factor: float
    kind: UnitKind | None
    digits: int
    file_unit: str
    file_factor: float
    file_digits: int
    places: tuple[Where, ...]
    limits: tuple[float, float]
    kept_step: float
    coarse_step: float
    spike: float
    rests: bool = False
    saturates_at: float = inf
    scatter: float
    offset: float
    weather: str | None = None
    units: Mapping[str, tuple[float, float]]
    asked_unit: str | None = None
    words: tuple[str, ...]


_FAHRENHEIT = (5 / 9, -160 / 9)
QUANTITIES: Mapping[Quantity, QuantityFacts] = MappingProxyType(
    {
        "temperature": QuantityFacts(
            title="Temperature",
            unit="°C",
            factor=1.0,
            kind="temperature",
            digits=1,
            file_unit="°C",
            file_factor=1.0,
            file_digits=3,
            places=("under the lid", "among the bees", "at the floor", "outside"),
            limits=(-100.0, 200.0),
            kept_step=1e-3,
            coarse_step=0.3,
            spike=8.0,
            scatter=0.7,
            offset=0.3,
            weather="temperature_degc",
            units={
                "°c": (1.0, 0.0),
                "c": (1.0, 0.0),
                "degc": (1.0, 0.0),
                "celsius": (1.0, 0.0),
                "°f": _FAHRENHEIT,
                "f": _FAHRENHEIT,
                "degf": _FAHRENHEIT,
                "fahrenheit": _FAHRENHEIT,
                "k": (1.0, -273.15),
            },
            asked_unit="°f",
            words=("temperature", "temp", "temperatur", "température", "t"),
        ),
        "humidity": QuantityFacts(
            title="Humidity",
            unit="%",
            factor=100.0,
            kind=None,
            digits=0,
            file_unit="%",
            file_factor=100.0,
            file_digits=3,
            places=("under the lid", "among the bees", "at the floor", "outside"),
            limits=(-0.5, 2.0),
            kept_step=1e-5,
            coarse_step=0.02,
            spike=0.25,
            # Air that stays wet through is no fault of the probe.
            saturates_at=0.985,
            scatter=0.05,
            offset=0.03,
            weather="relative_humidity",
            units={
                "%": (0.01, 0.0),
                "%rh": (0.01, 0.0),
                "rh": (0.01, 0.0),
                "percent": (0.01, 0.0),
            },
            words=(
                "humidity",
                "humid",
                "hum",
                "feuchte",
                "luftfeuchte",
                "luftfeuchtigkeit",
                "humidité",
                "moisture",
            ),
        ),
        "co2": QuantityFacts(
            title="CO2",
            unit="%",
            factor=100.0,
            kind=None,
            digits=2,
            file_unit="CO2 ppm",
            file_factor=1e6,
            file_digits=1,
            places=("under the lid", "among the bees", "at the floor"),
            limits=(-0.01, 1.0),
            kept_step=1e-7,
            coarse_step=2e-4,
            spike=0.03,
            scatter=0.15,
            offset=0.05,
            units={"ppm": (1e-6, 0.0), "%": (0.01, 0.0)},
            words=("co2", "co₂"),
        ),
        "weight": QuantityFacts(
            title="Weight",
            unit="kg",
            factor=1.0,
            kind="mass",
            digits=1,
            file_unit="kg",
            file_factor=1.0,
            file_digits=3,
            places=("scale",),
            limits=(-100.0, 2000.0),
            kept_step=1e-3,
            coarse_step=0.1,
            spike=5.0,
            scatter=0.05,
            offset=0.012,
            units={
                "kg": (1.0, 0.0),
                "kgs": (1.0, 0.0),
                "g": (0.001, 0.0),
                "lb": (0.45359237, 0.0),
                "lbs": (0.45359237, 0.0),
                "oz": (0.028349523, 0.0),
            },
            asked_unit="lb",
            words=("weight", "scale", "gewicht", "waage", "poids", "mass"),
        ),
        "power": QuantityFacts(
            title="Heater",
            unit="W",
            factor=1.0,
            kind=None,
            digits=0,
            file_unit="W",
            file_factor=1.0,
            file_digits=2,
            places=("heater",),
            limits=(-1.0, 5000.0),
            kept_step=1e-2,
            # A heater is switched on and off, and left.
            coarse_step=1e9,
            spike=1e9,
            rests=True,
            scatter=1.0,
            offset=1.0,
            units={
                "w": (1.0, 0.0),
                "mw": (0.001, 0.0),
                "kw": (1000.0, 0.0),
                "watt": (1.0, 0.0),
                "watts": (1.0, 0.0),
            },
            words=("power", "leistung", "heater", "lamp"),
        ),
    }
)
"""The quantities in the order they are shown."""

if tuple(QUANTITIES) != get_args(Quantity):
    # Said at import: a quantity without its row would fail somewhere in the middle of a file.
    raise TypeError(f"QUANTITIES has {tuple(QUANTITIES)}, Quantity {get_args(Quantity)}")


def quantities_at(where: Where) -> tuple[Quantity, ...]:
    """Return what may be measured somewhere."""
    return tuple(q for q, facts in QUANTITIES.items() if where in facts.places)
