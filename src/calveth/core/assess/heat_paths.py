"""Where the heat leaves: watts by part at one condition."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from calveth.core.assess.readings import NestReadings
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.heat.slab import outer_film_m2k_w
from calveth.core.hive.zones import BASE, CROWN, FRACTIONS, NEST

Part = Literal["lid", "walls", "floor", "window", "air"]


@dataclass(frozen=True, slots=True, kw_only=True)
class HeatPath:
    """A part and the heat that leaves through it [W]."""

    part: Part
    watts: float


def heat_paths(assessed: MonthlyAssessment, month: int) -> list[HeatPath]:
    """Return the heat by part in a month (0 to 11), the air last; together they are all of it."""
    return heat_paths_at(assessed.months, month)


def heat_paths_at(readings: NestReadings, i: int) -> list[HeatPath]:
    """Return the heat by part at condition ``i``.

    The shell's heat of crown and base is shared between wall and plate by their conductances.
    """
    model, balance = readings.model_at(i), readings.balance
    rse = outer_film_m2k_w(
        np.array([readings.outside.wind_m_s[i]]), np.array([readings.outside.temperature_degc[i]])
    )
    walls = float(model.faces["walls"].whole_w_k(rse)[0]) * FRACTIONS[BASE]
    paths: dict[Part, float] = {"lid": 0.0, "walls": 0.0, "floor": 0.0}
    shell = balance.shell_w[:, i]
    plates: tuple[tuple[Part, int], ...] = (("lid", CROWN), ("floor", BASE))
    for part, zone in plates:
        plate = float(model.faces[part].whole_w_k(rse)[0])  # type: ignore[index]
        paths[part] = float(shell[zone]) * plate / (plate + walls)
        paths["walls"] += float(shell[zone]) - paths[part]
    nest = float(shell[1])
    if model.window is not None:
        glass = float(model.window.whole_w_k(rse)[0])
        middle = float(model.faces["walls"].whole_w_k(rse)[0]) * FRACTIONS[NEST]
        paths["window"] = nest * glass / (glass + middle)
        nest -= paths["window"]
    paths["walls"] += nest
    paths["air"] = float(balance.air_w[i])
    return [HeatPath(part=part, watts=watts) for part, watts in paths.items()]
