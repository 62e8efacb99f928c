"""The columns of the hours of a year and of its ledger; free of the compiler."""

from __future__ import annotations

SERIES = (
    "base_degc",
    "nest_degc",
    "crown_degc",
    "base_pa",
    "nest_pa",
    "crown_pa",
    "nest_co2",
    "crown_co2",
    "lid_middle_degc",
    "lid_rim_degc",
    "upper_wall_degc",
    "middle_wall_degc",
    "lower_wall_degc",
    "floor_degc",
    "window_degc",
    "lid_middle_kg",
    "lid_rim_kg",
    "upper_wall_kg",
    "middle_wall_kg",
    "lower_wall_kg",
    "floor_kg",
    "window_kg",
    "combs_kg",
    "quilt_kg",
    "rain_kg_m2",
    "heat_w",
    "fanning_m3_s",
    "cooling_kg_s",
    "inflow_kg_s",
    "dripped_kg",
    "drained_kg",
    "ice_kg",
    "shell_w",
    "air_w",
    "outer_lid_degc",
    "open_w",
    "nectar_kg_s",
    "front_wall_k",
    "right_wall_k",
    "back_wall_k",
    "left_wall_k",
    "front_degc",
    "right_degc",
    "back_degc",
    "left_degc",
    "front_kg",
    "right_kg",
    "back_kg",
    "left_kg",
    "nectar_waits_kg",
    "snow_on_lid_kg_m2",
    "entrance_iced",
)
"""What is kept of every hour, in the order of the columns of a series [8760, 52]: by side how much
warmer the upper wall is inside than the mean of the four [K], how warm it is outside [°C] and the
water on it [kg]; last the water of nectar that waits to be dried [kg], the snow on the lid, and
the share of the low openings that ice closes. Water on a surface counts what fills its pores."""
S_T, S_P, S_CO2, S_TS, S_FILM = 0, 3, 6, 8, 15
(
    S_COMBS,
    S_QUILT,
    S_RAIN,
    S_HEAT,
    S_FAN,
    S_COOL,
    S_INFLOW,
    S_DRIP,
    S_DRAIN,
    S_ICE,
    S_SHELL,
    S_AIR,
    S_OUTER,
    S_OPEN,
    S_NECTAR,
    S_SIDE,
) = range(22, 38)
S_OUTSIDE, S_SIDE_KG, S_WAITS, S_SNOW = S_SIDE + 4, S_SIDE + 8, S_SIDE + 12, S_SIDE + 13
S_ICED = S_SNOW + 1

(
    L_HEAT_BEES,
    L_HEAT_AIR,
    L_HEAT_OUT,
    L_HEAT_SETTLED,
    L_HEAT_BOUND,
    L_HEAT_MELT,
    L_HEAT_SET,
    L_WATER_BEES,
    L_WATER_AIR,
    L_WATER_SHELL,
    L_WATER_DRAINED,
    L_WATER_QUILT_UP,
    L_WATER_QUILT_OUT,
    L_WATER_SET,
    L_CO2_BEES,
    L_CO2_OUT,
    L_UNSETTLED,
    L_WORST,
    L_PASSES,
) = range(19)
LEDGER_COLUMNS = 19
"""Sums of a year: heat [J] from the bees (less what their breath and cooling takes), with the air,
out of the shell, of settling and bound water, of melting, and by a change of the setting; water
[kg] from the bees, with the air, into the shell, drained, into and out of the quilt, by a change;
CO2 [kg]; hours that did not settle, the worst of them [W], and passes."""
