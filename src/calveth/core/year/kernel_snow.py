"""Snow on the lid, hour by hour: it falls, melts from above and from below, and slides."""

from __future__ import annotations

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.compiled import folded
from calveth.core.nest.kernel_arrays import TE, WIND, FloatArray
from calveth.core.nest.kernel_parts import outer_film_m2k_w
from calveth.core.year.chains import HOUR_S
from calveth.core.year.kernel_arrays import (
    LID,
    SKY_W,
    SNOW_FALLS,
    SNOW_LID,
    SNOW_MELTS,
    SNOW_MOST,
    SUN_LID,
    WALL_AREA,
    WALL_FACE,
    Held,
    Shell,
)

DENSITY = y.SNOW_DENSITY.value
CONDUCTS_W_MK = y.SNOW_CONDUCTIVITY.value
ABSORBS, EMITS = y.SNOW_ABSORBS.value, y.SNOW_EMITS.value
CONTACT_M2K_W = y.SNOW_CONTACT.value
_MELTS_KG_S_K = y.SNOW_MELT.value / 86400.0
_FUSION_J = c.LATENT_HEAT_FUSION.value


@folded
def snow_air_degc(hour: FloatArray, outer: float) -> float:
    """Return the temperature of the outer air snow feels [°C]: with sun and sky, never above 0."""
    gain = ABSORBS * hour[SUN_LID] - EMITS * hour[SKY_W]
    degc: float = min(hour[TE] + gain * outer, 0.0)
    return degc


@folded
def keep_snow(shell: Shell, held: Held, hour: FloatArray, felt: FloatArray) -> None:
    """Move the snow on the lid through an hour; ``felt`` has the outer faces of the walls.

    From above it melts by degree-days. From below by the heat its face gives above what goes on
    up through the snow: where that face would be warmer than 0 °C, the next hour has it at 0 °C
    and the heat that comes there melts. What is more than stays on this lid is blown or slides off.
    """
    snow = held.snow[0]
    falls = hour[SNOW_FALLS]
    if snow <= 0.0 and falls <= 0.0:
        held.snow[1] = 0.0
        return
    depth = snow / DENSITY
    outer = outer_film_m2k_w(hour[WIND], hour[TE])
    above = outer + depth / CONDUCTS_W_MK
    # What the cold above draws through the snow; the rest of what comes from below melts it.
    up_w = -snow_air_degc(hour, outer) / above
    area, degc = 0.0, 0.0
    for k in range(shell.walls.shape[0]):
        if shell.walls[k, WALL_FACE] == LID and shell.walls[k, WALL_AREA] > 0.0:
            area += shell.walls[k, WALL_AREA]
            degc += shell.walls[k, WALL_AREA] * felt[k, 4]
    degc = degc / area if area > 0.0 else 0.0
    below_w = 0.0
    if snow > 0.0:
        if held.snow[1] > 0.0:
            below_w = max(degc / CONTACT_M2K_W - up_w, 0.0)
        else:
            below_w = max(degc, 0.0) / above
    melts = below_w / _FUSION_J * HOUR_S + _MELTS_KG_S_K * max(hour[TE], 0.0) * HOUR_S
    held.snow[0] = min(max(snow + falls - melts, 0.0), shell.extra[SNOW_MOST] * DENSITY)
    held.snow[1] = 1.0 if below_w > 0.0 and held.snow[0] > 0.0 else 0.0


@folded
def show_snow(held: Held, hour: FloatArray) -> None:
    """Put how deep snow lies on the lid [m] and whether it melts from below into an hour."""
    hour[SNOW_LID], hour[SNOW_MELTS] = held.snow[0] / DENSITY, held.snow[1]
