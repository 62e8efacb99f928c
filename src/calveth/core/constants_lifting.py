"""Constants of weight, lifting, wind and standing. `constants` lists them with all the others."""

from __future__ import annotations

from calveth.core.constant import Constant

HONEY_DENSITY = Constant(
    value=1420.0,
    unit="kg/m³",
    source="honey of 17 % water, general reference; from memory",
    certainty="published",
)
FRAME_EMPTY = Constant(
    value=0.35,
    unit="kg",
    source="wood and wax of a deep frame",
    certainty="estimate",
    low=0.25,
    high=0.5,
)
FRAME_AREA = Constant(
    value=0.448 * 0.232,
    unit="m²",
    source="of the frame FRAME_EMPTY is of; others by their area",
    certainty="common practice",
)
COMB_FILL = Constant(
    value=0.80,
    unit="-",
    source="share of a full comb's space that is honey; deep frame 2.7 kg "
    "where the trade has 2.5 to 3.5",
    certainty="estimate",
    low=0.60,
    high=0.95,
)
COMB_SIDE = Constant(
    value=0.035,
    unit="m",
    source="what the ends of a frame take of its length",
    certainty="common practice",
)
COMB_BAR = Constant(
    value=0.030,
    unit="m",
    source="what the bars of a frame take of its height",
    certainty="common practice",
)
NEST_FILL = Constant(
    value=0.5,
    unit="-",
    source="share of a stingless bees' box that is pots and brood, 1.3 kg/L",
    certainty="estimate",
    low=0.3,
    high=0.7,
)
NEST_DENSITY = Constant(
    value=1300.0,
    unit="kg/m³",
    source="pots of honey and pollen",
    certainty="estimate",
    low=1100.0,
    high=1400.0,
)
FEBRUARY_LEFT = Constant(
    value=0.5,
    unit="-",
    source="share of the winter stores left in mid-February",
    certainty="estimate",
    low=0.3,
    high=0.7,
)
LIFT_CONSTANT = Constant(
    value=23.0,
    unit="kg",
    source="revised NIOSH lifting equation, Waters et al. 1993; from memory",
    certainty="published",
)
LIFT_MEN = Constant(
    value=25.0,
    unit="kg",
    source="ISO 11228-1, reference mass, men of 20 to 45; from memory",
    certainty="published",
)
LIFT_WOMEN = Constant(
    value=20.0,
    unit="kg",
    source="ISO 11228-1, reference mass, women of 20 to 45, and men younger or older; from memory",
    certainty="published",
)
LIFT_OLDER_WOMEN = Constant(
    value=15.0,
    unit="kg",
    source="ISO 11228-1, women younger or older; from memory",
    certainty="published",
)
TWO_PERSONS = Constant(
    value=2 / 3,
    unit="-",
    source="ISO/TR 12295: two persons lift so much of the sum of both; from memory",
    certainty="published",
)
GUST_AIR_DENSITY = Constant(
    value=1.25, unit="kg/m³", source="EN 1991-1-4, 4.5; from memory", certainty="published"
)
UPLIFT = Constant(
    value=-1.2,
    unit="-",
    source="EN 1991-1-4, table 7.2, zone H, cpe,1; from memory",
    certainty="published",
)
WIND_SAFETY = Constant(
    value=1.5,
    unit="-",
    source="EN 1990, EQU, unfavourable action; from memory",
    certainty="published",
)
WEIGHT_SAFETY = Constant(
    value=0.9,
    unit="-",
    source="EN 1990, EQU, favourable weight; from memory",
    certainty="published",
)
FRICTION = Constant(
    value=0.3,
    unit="-",
    source="wood on wood, wet, or on foam",
    certainty="estimate",
    low=0.2,
    high=0.5,
)
PUSH_SHEEP = Constant(
    value=300.0,
    unit="N",
    source="a sheep that leans or rubs",
    certainty="estimate",
    low=200.0,
    high=400.0,
)
PUSH_CATTLE = Constant(
    value=1000.0,
    unit="N",
    source="cattle that rub, and more",
    certainty="estimate",
    low=600.0,
    high=2000.0,
)
PUSH_BADGER = Constant(
    value=150.0,
    unit="N",
    source="a badger that pushes",
    certainty="estimate",
    low=100.0,
    high=250.0,
)
TOP_BAR = Constant(
    value=0.2,
    unit="kg",
    source="top bar of a trough with the wax of its comb",
    certainty="estimate",
    low=0.1,
    high=0.3,
)
