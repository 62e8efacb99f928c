"""What a balance is asked for and what it answers; the physics itself stands in `kernel`."""

from __future__ import annotations

from dataclasses import dataclass, fields, is_dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from calveth.core.airflow.flows import Flows
from calveth.core.colony.colony import HoneyLedger

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Outside:
    """N conditions outside the hive, arrays [N]; the air pressure is one number [Pa].

    ``co2_mass_fraction`` is that of the air round the hive: more than outdoors in a winter room.
    """

    temperature_degc: FloatArray
    vapour_pressure_pa: FloatArray
    wind_m_s: FloatArray
    pressure_pa: float
    co2_mass_fraction: FloatArray

    def take(self, index: NDArray[np.int_]) -> Outside:
        """Return the conditions at ``index``."""
        return Outside(
            temperature_degc=self.temperature_degc[index],
            vapour_pressure_pa=self.vapour_pressure_pa[index],
            wind_m_s=self.wind_m_s[index],
            pressure_pa=self.pressure_pa,
            co2_mass_fraction=self.co2_mass_fraction[index],
        )


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Balance:
    """Everything that happens in a state, and what is left over (zero when it is the solution).

    Zone arrays are [3, N] (base, nest, crown), surface arrays [7, N], openings [O, N]. Water that
    settles on combs and in the air is ``comb_kg_s`` [3, N]; ``condensing_w`` [N] is the heat all
    condensation sets free; ``fanning_m3_s`` and ``cooling_kg_s`` [N] are what bees fan and
    evaporate of water they carried in, ``nectar_kg_s`` [N] what they dry out of nectar.
    """

    temperature_degc: FloatArray
    vapour_pressure_pa: FloatArray
    co2_mass_fraction: FloatArray
    floor_pressure_pa: FloatArray
    metabolic_w: FloatArray
    ledger: HoneyLedger
    flows: Flows
    surface_degc: FloatArray
    condensing_kg_s: FloatArray
    comb_kg_s: FloatArray
    fanning_m3_s: FloatArray
    cooling_kg_s: FloatArray
    nectar_kg_s: FloatArray
    condensing_w: FloatArray
    shell_w: FloatArray
    air_w: FloatArray
    vapour_carried_kg_s: FloatArray
    vapour_diffused_kg_s: FloatArray
    residual: FloatArray

    def take(self, index: NDArray[np.int_]) -> Balance:
        """Return the conditions at ``index``; every array has its conditions last."""

        def cut(owner: Any) -> Any:
            return type(owner)(
                **{
                    field.name: cut(value) if is_dataclass(value) else value[..., index]
                    for field in fields(owner)
                    for value in [getattr(owner, field.name)]
                }
            )

        part: Balance = cut(self)
        return part

    @property
    def state(self) -> FloatArray:
        """The ten unknowns [10, N], a good start for a similar hive."""
        return np.concatenate(
            [
                self.temperature_degc,
                self.vapour_pressure_pa,
                self.co2_mass_fraction,
                self.floor_pressure_pa[None, :],
            ]
        )
