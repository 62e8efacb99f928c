"""Yearly curves of a colony by strength and climate; estimates to start from and edit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants_bees as cb
from calveth.core.calendar import DAYS_IN_MONTH
from calveth.core.climate.place import Place, days_without_forage
from calveth.core.colony.colony import Colony

Strength = Literal[
    "nucleus", "weak", "normal", "strong", "small stingless bees", "larger stingless bees"
]
STRENGTHS: tuple[Strength, ...] = get_args(Strength)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Kind:
    """Winter and peak mass [kg], stores [kg], honey for brood and flight at the peak [kg/day].

    ``nectar_kg_day`` is the water of nectar on a day of the main flow [kg/day].
    """

    winter_kg: float
    peak_kg: float
    stores_kg: float
    activity_kg_day: float
    nectar_kg_day: float
    core_rest_degc: float = 21.0
    core_brood_degc: float = 34.5
    rest_heat_w_kg: float = 1.75


# Common practice, no source: 1.0 to 2.5 kg of bees in winter, 3 to 6 kg at the peak. Stingless
# bees: a colony of 3 litres has some thousand bees of a few milligrams; estimate.
_KINDS: dict[Strength, _Kind] = {
    "nucleus": _Kind(
        winter_kg=0.6, peak_kg=1.4, stores_kg=9.0, activity_kg_day=0.05, nectar_kg_day=0.15
    ),
    "weak": _Kind(
        winter_kg=1.0, peak_kg=2.6, stores_kg=14.0, activity_kg_day=0.08, nectar_kg_day=0.25
    ),
    "normal": _Kind(
        winter_kg=1.5, peak_kg=3.6, stores_kg=18.0, activity_kg_day=0.12, nectar_kg_day=0.4
    ),
    "strong": _Kind(
        winter_kg=2.4, peak_kg=5.5, stores_kg=24.0, activity_kg_day=0.18, nectar_kg_day=0.7
    ),
    "small stingless bees": _Kind(
        winter_kg=0.03,
        peak_kg=0.05,
        stores_kg=0.5,
        activity_kg_day=0.002,
        nectar_kg_day=0.003,
        core_rest_degc=24.0,
        core_brood_degc=29.0,
        rest_heat_w_kg=3.0,
    ),
    "larger stingless bees": _Kind(
        winter_kg=0.15,
        peak_kg=0.25,
        stores_kg=2.0,
        activity_kg_day=0.008,
        nectar_kg_day=0.012,
        core_rest_degc=25.0,
        core_brood_degc=30.0,
        rest_heat_w_kg=2.5,
    ),
}


def curves_for(place: Place, strength: Strength) -> Colony:
    """Return a colony of a strength with curves that follow the warmth of the place.

    Brood begins at a monthly mean of about 2 °C and is full from 14 °C; the bees follow it by a
    month, as it takes three weeks to raise them and they live for six. Both hemispheres, for
    only the months' own temperatures are looked at. Nectar comes while brood grows, as far as a
    month has forage; a main flow of 0.4 kg of water a day leaves some 0.2 kg of honey. An estimate
    to start from.
    """
    kind = _KINDS[strength]
    warm = np.array([m.temperature_degc for m in place.months])
    # Bees begin before the warmth: half of the next month counts.
    ahead = 0.5 * (warm + np.roll(warm, -1))
    brood = np.clip((ahead - 2.0) / 12.0, 0.0, 1.0)
    # In late summer brood falls although it is still warm.
    falling = np.roll(warm, 1) > warm
    brood = np.where(falling & (brood > 0), brood * cb.LATE_BROOD.value, brood)
    grown = 0.5 * np.roll(brood, 1) + 0.5 * np.roll(brood, 2)
    span = max(float(grown.max() - grown.min()), 1e-9)
    share = (grown - grown.min()) / span if grown.max() > 0.05 else np.zeros(12)
    flow = np.where(falling, 0.0, brood**2) * _forage_shares(place)
    mass = kind.winter_kg + (kind.peak_kg - kind.winter_kg) * share
    return Colony(
        mass_kg=tuple(round(float(v), 3) for v in mass),
        brood_share=tuple(round(float(v), 2) for v in brood),
        stores_kg=kind.stores_kg,
        activity_kg_day=tuple(round(float(kind.activity_kg_day * v), 4) for v in brood),
        nectar_kg_day=tuple(round(float(kind.nectar_kg_day * v), 3) for v in flow),
        core_rest_degc=kind.core_rest_degc,
        core_brood_degc=kind.core_brood_degc,
        rest_heat_w_kg=kind.rest_heat_w_kg,
    )


def _forage_shares(place: Place) -> NDArray[np.float64]:
    """Return the share of each month that brings forage [12] [-]."""
    without = np.array(days_without_forage(place))
    shares: NDArray[np.float64] = 1.0 - without / np.array(DAYS_IN_MONTH)
    return shares
