"""Ice at the low openings, hour by hour, and what it leaves open of them.

Air that leaves the base below 0 °C carries more vapour than cold air can hold; a share of the
excess grows as rime on the rim of the opening, and as much of what drains from the floor freezes.
Air that leaves warmer than 0 °C, and any thaw, melts it. An opening high up is washed by the warm
air of the crown and stays free, as practice has it.
"""

from __future__ import annotations

from calveth.core import constants as c
from calveth.core.compiled import folded
from calveth.core.nest.kernel_arrays import TE, FloatArray, P, T, Work
from calveth.core.nest.kernel_parts import kg_kg, saturation_pa
from calveth.core.year.chains import HOUR_S
from calveth.core.year.columns import S_DRAIN
from calveth.core.year.kernel_arrays import ICE_CLOSES, ICE_SHARE, Held, Shell

_FUSION_J = c.LATENT_HEAT_FUSION.value
_CP = c.AIR_HEAT_CAPACITY.value


@folded
def keep_ice(
    shell: Shell, held: Held, hour: FloatArray, work: Work, pressure: float, row: FloatArray
) -> None:
    """Let ice grow and melt at the low openings through an hour; ``row`` has what drained."""
    closes = shell.extra[ICE_CLOSES]
    if closes <= 0.0 or (held.iced[0] <= 0.0 and hour[TE] >= 0.0):
        held.iced[0] = 0.0
        return
    base, outside = held.x[T], hour[TE]
    out_kg = work.zone_flows[0, 1] * HOUR_S
    # The rim is between the air that leaves and the air outside.
    rim = 0.5 * (base + outside)
    if rim < 0.0:
        excess = kg_kg(held.x[P], pressure) - kg_kg(saturation_pa(rim), pressure)
        grown = shell.extra[ICE_SHARE] * max(excess, 0.0) * out_kg
        grown += shell.extra[ICE_SHARE] * row[S_DRAIN]
        held.iced[0] = min(held.iced[0] + grown, closes)
    else:
        # A full plug is gone after 24 hours of 1 °C or one of 24; an estimate.
        melts = _CP * out_kg * max(base, 0.0) / _FUSION_J + closes * max(outside, 0.0) / 24.0
        held.iced[0] = max(held.iced[0] - melts, 0.0)
