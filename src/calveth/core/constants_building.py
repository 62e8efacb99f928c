"""Constants of the trade: how a hive is built. `constants` lists them with all the others."""

from __future__ import annotations

from calveth.core.constant import Constant

COMB_PITCH = Constant(
    value=0.035, unit="m", source="10 frames fit where 11 fit at 32 mm",
    certainty="common practice",
)  # fmt: skip
ALONG_GRAIN = Constant(
    value=2.2,
    unit="-",
    source="Wood Handbook (USDA FPL-GTR-190), chapter 4: wood conducts 1.5 to 2.8 times as well "
    "along the grain as across it; from memory",
    certainty="published",
    low=1.5,
    high=2.8,
)
FASTENER_FACTOR = Constant(
    value=0.8,
    unit="-",
    source="EN ISO 6946:2017, annex F.3: α of fasteners that go right through the insulation",
    certainty="published",
)
SCREW_AREA_SHARE = Constant(
    value=16 * 3.14159 * 0.00175**2,
    unit="-",
    source="16 screws a square metre (every 250 mm), 3.5 mm at the core",
    certainty="common practice",
)
SCREW_CONDUCTIVITY = Constant(
    value=50.0, unit="W/(m·K)", source="EN ISO 10456, steel", certainty="published"
)
RIM_WIDTH = Constant(
    value=0.03,
    unit="m",
    source="strip along the lid's edge that a beekeeper sees as the wet ring",
    certainty="common practice",
)
BEE_SPACE_LOW = Constant(
    value=0.006, unit="m", source="bee space, least", certainty="common practice"
)
BEE_SPACE_HIGH = Constant(
    value=0.0095,
    unit="m",
    source="bee space is 6 to 9 mm; 3/8 in (9.5 mm) is built as such",
    certainty="common practice",
)
QUEEN_PASSES = Constant(
    value=0.0042,
    unit="m",
    source="slots of queen excluders are 4.1 to 4.3 mm wide; a gap as wide lets some queens by",
    certainty="common practice",
)
LEAST_OVERLAP = Constant(
    value=0.015,
    unit="m",
    source="least a lid's rim should come down to shed rain and stay on",
    certainty="estimate",
    low=0.01,
    high=0.025,
)
WOOD_SHRINKAGE = Constant(
    value=0.0025,
    unit="1/%",
    source="softwood across the grain, flat-sawn: about 7.5 % from 30 % moisture to none, USDA "
    "Wood Handbook, chapter 4; from memory",
    certainty="published",
    low=0.0013,
    high=0.003,
)
WOOD_MOISTURE_SWING = Constant(
    value=6.0,
    unit="%",
    source="moisture of hive boards between a wet spring and a dry summer",
    certainty="estimate",
    low=4.0,
    high=10.0,
)
