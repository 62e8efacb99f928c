"""Rain that bare thirsty faces drink through an hour and dry from, and what it makes them conduct.

The first four places are the sides in the order of `WALL_SIDES`, the fifth is the lid.
"""

from __future__ import annotations

from math import exp

from calveth.core import constants as c
from calveth.core.compiled import compiled, folded
from calveth.core.nest.kernel_arrays import PE, WIND, FloatArray
from calveth.core.nest.kernel_parts import saturation_pa
from calveth.core.year.chains import HOUR_S
from calveth.core.year.kernel_arrays import (
    LID_RAIN,
    RAIN_CONDUCTS,
    RAIN_DRINK,
    RAIN_DRY,
    RAIN_FROM,
    RAIN_MM,
    RAIN_MOST,
    RAIN_ON,
    RAIN_TO,
    SNOW_LID,
    WALL_RAIN,
    Held,
    Shell,
)

ON_LID = 4
"""Where the lid stands among the faces that drink."""
_WATER_J = c.LATENT_HEAT_WATER.value
_BETA_W = c.EVAPORATION_BY_CONVECTION.value
_MOST_GROWN = c.RAIN_MOST_GROWN.value


@folded
def rain_on_faces(
    shell: Shell,
    held: Held,
    hour: FloatArray,
    wall_degc: float,
    lid_degc: float,
    exposed: FloatArray,
    drying_w_m2: FloatArray,
) -> None:
    """Let bare thirsty faces drink the rain of an hour and dry in its air.

    On sides driving rain 2/9·v·r^(8/9)·cos (EN ISO 15927-3), ``exposed`` [4] being the cosine; on
    a lid what falls, unless snow lies there. What dries takes its heat from the face
    (`outer_air_degc`), ``drying_w_m2`` [5].
    """
    drying_w_m2[:] = 0.0
    rain = hour[RAIN_MM]
    if shell.rain[WALL_RAIN, RAIN_ON] > 0.0:
        driven = 2.0 / 9.0 * hour[WIND] * rain ** (8.0 / 9.0) if rain > 0.0 else 0.0
        for side in range(4):
            drying_w_m2[side] = drink_and_dry(
                shell, held, WALL_RAIN, side, driven * exposed[side], wall_degc, hour
            )
    if shell.rain[LID_RAIN, RAIN_ON] > 0.0 and hour[SNOW_LID] <= 0.0:
        drying_w_m2[ON_LID] = drink_and_dry(shell, held, LID_RAIN, ON_LID, rain, lid_degc, hour)


@compiled
def drink_and_dry(
    shell: Shell, held: Held, row: int, face: int, offered: float, degc: float, hour: FloatArray
) -> float:
    """Move the rain in a face of a temperature through an hour; return the heat drying takes."""
    of = shell.rain
    drier = max(saturation_pa(degc) - hour[PE], 0.0)
    able = _BETA_W * (4.0 + 4.0 * hour[WIND]) * drier * HOUR_S * of[row, RAIN_DRY]
    water = held.rain[face] + min(offered, of[row, RAIN_DRINK])
    dried = min(water, able)
    held.rain[face] = min(water - dried, of[row, RAIN_MOST])
    heat: float = dried * _WATER_J / HOUR_S
    return heat


@compiled
def wet_conducts(shell: Shell, held: Held, row: int) -> float:
    """Return λ of a thirsty outer layer as wet as rain has made it over λ dry, mean of the sides.

    exp(f·u) with the water u it holds (EN ISO 10456), no more than e^1.5, as in the months.
    """
    each = shell.rain[row, RAIN_CONDUCTS]
    # Not of the mean water: λ grows faster than in proportion, the wet side counts for more.
    if row == LID_RAIN:
        return exp(min(each * held.rain[ON_LID], _MOST_GROWN))
    grown = 0.0
    for side in range(4):
        grown += 0.25 * exp(min(each * held.rain[side], _MOST_GROWN))
    return grown


@compiled
def stands_for(shell: Shell, held: Held) -> bool:
    """Return whether the faces are as wet as the walls of ``shell`` are taken to be."""
    for row in range(2):
        if shell.rain[row, RAIN_ON] > 0.0:
            grown = wet_conducts(shell, held, row)
            if grown < shell.rain[row, RAIN_FROM] or grown > shell.rain[row, RAIN_TO]:
                return False
    return True
