"""The arrays of a year: the shell as it is set for a while, what a hive holds, hours in and out."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from calveth.core.compiled import making
from calveth.core.nest.kernel_arrays import LANE_COLUMNS, NINE, FloatArray
from calveth.core.year.chains import CELLS

SKY_W, SECTOR, RAIN_MM, SUN_LID = range(LANE_COLUMNS, LANE_COLUMNS + 4)
SUN_SIDE = SUN_LID + 1
SNOW_M, GROUND_DEGC, SKY_SIDE_W = SUN_SIDE + 4, SUN_SIDE + 5, SUN_SIDE + 6
SNOW_FALLS, SNOW_LID, SNOW_MELTS = SUN_SIDE + 7, SUN_SIDE + 8, SUN_SIDE + 9
HOUR_COLUMNS = SUN_SIDE + 10
"""Columns of an hour: those of a condition, and loss to the sky of a black lid [W/m²], where
the wind comes from (row of ``Shell.strip_cp``), rain [mm], sun on the lid and on the sides in the
order of `WALL_SIDES` [W/m²], snow on level ground [m], temperature of the ground [°C],
loss to the sky of the mean black side [W/m²], snow that falls [kg/m²]; and, put in as the hour
comes, how deep snow lies on the lid [m] and whether it melts from below."""

WALL_AREA, WALL_SCALE, WALL_RATIO, WALL_SHARE, WALL_ABSORBS, WALL_EMITS, WALL_FACE = range(7)
WALL_THIRSTY, WALL_DRINKS, WALL_PORES, WALL_DRIES, WALL_CLING, WALL_FLAT = range(7, 13)
WALL_COLUMNS = 13
WOOD_CELLS = 4
"""Columns of a surface's wall: area [m²]; area over which its heat flows with edges, over that
[-]; outer over inner area; share of the outer film that counts; absorptance and emissivity of its
outside; face; share of the board inside that is bare, its water absorption [kg/(m²·√h)] and the
liquid its pores hold [kg], and how readily it dries while they are full [kg/(s·Pa)]; what clings
before it drips [kg]; whether water drips from it (1), runs down or on to the next surface (0) or
stands on it (-1). A board has 4 cells for what it binds."""
LID, SIDES, FLOOR = 0.0, 1.0, 2.0

COMB_HEAT, COMB_FOLLOWS, COMB_SORB, COMB_WATER, COMB_CLING = range(5)
COMB_COLUMNS = 5
"""Columns of the contents of a zone: heat capacity [J/K] and how far it comes in an hour to the
temperature of its air [-]; exchange
[kg/(s·Pa)] and capacity [kg] for bound water; what clings [kg]."""

QUILT_KG, QUILT_PASS, QUILT_VENTS, QUILT_WASH, QUILT_ON, QUILT_INNER = range(6)
FLOOR_DRAINS, AIR_M3, ON_SLAB, SNOW_MOST, STEEPER = range(6, 11)
ICE_SHARE, ICE_CLOSES = 11, 12
EXTRA_COLUMNS = 13
"""What else a hive has: of its quilt the capacity [kg], the conductance up to it and on through
what covers it [kg/(s·Pa)], free vents [m²], how near to saturation they wash it, and where it lies
between inside and outside; whether the floor drains; air [m³]; whether the floor lies on the
ground; the deepest snow its lid keeps [m]; how much steeper the isotherm of boards is above 80 %;
the share of vapour too much that freezes in a low opening, and the ice that closes all [kg]."""

WALL_RAIN, LID_RAIN = range(2)
RAIN_ON, RAIN_MOST, RAIN_DRINK, RAIN_DRY, RAIN_CONDUCTS, RAIN_FROM, RAIN_TO = range(7)
RAIN_COLUMNS = 7
"""Rows and columns of the faces that drink rain: whether the outermost layer is bare and thirsty,
capacity [kg/m²], what it drinks in an hour [kg/m²] and its drying; ln of what a kilogram of rain on
a square metre makes its λ grow by, and from what growth to what these walls stand for it."""


class Shell(NamedTuple):
    """A hive as it is set for a while: its walls as modes (`chains.Chains`) and its stores.

    ``walls`` [7, 13], ``combs`` [3, 5], ``extra`` [13], ``rain`` [2, 7]; ``wood_kg`` [7, 4] is
    what the cells of a board would bind from dry to saturated at the slope below 80 % [kg],
    ``wood_pass`` [7, 4] the conductance from the air into the first and on from one to the next
    [kg/(s·Pa)]; ``strip_cp`` [17, S] and
    ``joint_cp`` [17, J] by where the wind comes from, the last row for the place's own wind.
    ``strip_open`` [S, 2] and ``part_open`` [O, 2] are free areas [m²] and the depth of snow that
    comes before them [m].
    """

    walls: FloatArray
    decay: FloatArray
    gain: FloatArray
    inner: FloatArray
    outer: FloatArray
    inner_by: FloatArray
    outer_by: FloatArray
    to_cells: FloatArray
    to_modes: FloatArray
    capacity: FloatArray
    film: FloatArray
    outer_film: FloatArray
    combs: FloatArray
    extra: FloatArray
    strip_cp: FloatArray
    joint_cp: FloatArray
    strip_open: FloatArray
    part_open: FloatArray
    rain: FloatArray
    wood_kg: FloatArray
    wood_pass: FloatArray


class Held(NamedTuple):
    """What a hive holds from hour to hour.

    Attributes
    ----------
    x : array [10]
        Temperatures, vapour pressures, CO2 of the zones, and the floor pressure.
    dry, settled : array [7, 5]
        Modes of the walls: of the heat of both airs, and of the heat of what settled.
    film_kg, ice : array [7]
        Water on the surfaces, and how much of it is ice [-].
    surface_degc, melting : array [7]
        Temperature of the surfaces, and heat that melting takes from them [W/m²].
    bound : array [7, 4]
        Water the cells of the boards bind, over `Shell.wood_kg` [-].
    drunk_kg : array [7]
        Liquid in the pores of the boards.
    comb_degc, comb_bound, comb_kg : array [3]
        Temperature, humidity and water of the combs.
    carry : array [9]
        What the balances of the hour before were open by; the next hour takes it in.
    quilt : array [1], rain : array [5]
        Water in the quilt [kg] and in the outer layer of the sides and of the lid [kg/m²].
    sides : array [4, 5], side_kg : array [4]
        Modes of the upper wall on each side, less those of the mean of the four; the water on it.
    nectar : array [1]
        Water of nectar that waits to be dried [kg].
    snow : array [2]
        Snow on the lid [kg/m²], and whether it melts from below (1).
    iced : array [2]
        Ice at the low openings [kg], and the share of them the air paths have closed for it [-].
    """

    x: FloatArray
    dry: FloatArray
    settled: FloatArray
    film_kg: FloatArray
    ice: FloatArray
    surface_degc: FloatArray
    melting: FloatArray
    bound: FloatArray
    drunk_kg: FloatArray
    comb_degc: FloatArray
    comb_bound: FloatArray
    comb_kg: FloatArray
    carry: FloatArray
    quilt: FloatArray
    rain: FloatArray
    sides: FloatArray
    side_kg: FloatArray
    nectar: FloatArray
    snow: FloatArray
    iced: FloatArray


@making
def new_held() -> Held:
    """Return the store of an empty hive."""
    return Held(
        np.zeros(10),
        np.zeros((7, CELLS)),
        np.zeros((7, CELLS)),
        np.zeros(7),
        np.zeros(7),
        np.zeros(7),
        np.zeros(7),
        np.full((7, WOOD_CELLS), 0.7),
        np.zeros(7),
        np.zeros(3),
        np.full(3, 0.7),
        np.zeros(3),
        np.zeros(NINE),
        np.zeros(1),
        np.zeros(5),
        np.zeros((4, CELLS)),
        np.zeros(4),
        np.zeros(1),
        np.zeros(2),
        np.zeros(2),
    )
