"""Constants of the trade: how a hive is built. `constants` lists them with all the others."""

from __future__ import annotations

from calveth.core.constant import Constant

COMB_PITCH = Constant(
    value=0.035,
    unit="m",
    source="10 frames fit where 11 fit at 32 mm",
    certainty="common practice",
)
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
FRAME_REST_WIDE = Constant(
    value=0.010,
    unit="m",
    source="rebate frames hang in, and the strip that lies in one",
    certainty="common practice",
)
FRAME_REST_HIGH = Constant(
    value=0.016,
    unit="m",
    source="depth of the rebate frames hang in",
    certainty="common practice",
)
BAR_REST = Constant(
    value=0.020,
    unit="m",
    source="what a top bar lies on the wall with at each end",
    certainty="common practice",
)
BAR_HIGH = Constant(
    value=0.020,
    unit="m",
    source="thickness of a top bar",
    certainty="common practice",
)
FINGER_PROUD = Constant(
    value=0.0005,
    unit="m",
    source="fingers are cut so much too long and planed flush",
    certainty="common practice",
)
PANE_PLAY = Constant(
    value=0.002,
    unit="m",
    source="a pane is ordered so much smaller each way",
    certainty="common practice",
)
JOINTING = Constant(
    value=0.004,
    unit="m",
    source="what planing both edges takes off a board before it is glued",
    certainty="estimate",
    low=0.002,
    high=0.008,
)
LEAST_STRIP = Constant(
    value=0.040,
    unit="m",
    source="narrower strips are not glued into a panel",
    certainty="common practice",
)
FILL_SETTLES = Constant(
    value=1.10,
    unit="-",
    source="loose fill is bought with so much more: it settles",
    certainty="estimate",
    low=1.05,
    high=1.3,
)
COAT_LITRES = Constant(
    value=0.1,
    unit="L/m²",
    source="paint or oil of one coat on planed wood",
    certainty="estimate",
    low=0.07,
    high=0.15,
)
COATS = Constant(value=2.0, unit="-", source="coats of paint or oil", certainty="common practice")
SCREW_PITCH = Constant(
    value=0.08,
    unit="m",
    source="screws along a corner or the edge of a plate",
    certainty="common practice",
)
BLOCK_LENGTH = Constant(
    value=0.600, unit="m", source="aircrete block 600 x 215 x 100 mm", certainty="common practice"
)
BLOCK_HEIGHT = Constant(
    value=0.215, unit="m", source="aircrete block 600 x 215 x 100 mm", certainty="common practice"
)
LEAST_RIP = Constant(
    value=0.050, unit="m", source="a lower course breaks", certainty="common practice"
)
LEAST_BLOCK = Constant(
    value=0.100,
    unit="m",
    source="a shorter piece of block is not laid",
    certainty="common practice",
)
BOND_SHARE = Constant(
    value=0.4,
    unit="-",
    source="overlap of joints over the height of the course, 40 mm or more: EN 1996-1-1, 8.1.4; "
    "from memory",
    certainty="published",
)
LEAST_BOND = Constant(
    value=0.040, unit="m", source="EN 1996-1-1, 8.1.4; from memory", certainty="published"
)
GLUE_JOINT = Constant(
    value=0.002,
    unit="m",
    source="thin bed between blocks, 1 to 3 mm: EN 1996-1-1; from memory",
    certainty="published",
    low=0.001,
    high=0.003,
)
MORTAR_JOINT = Constant(
    value=0.010,
    unit="m",
    source="joint of general mortar",
    certainty="common practice",
)
GLUE_DENSITY = Constant(
    value=1400.0,
    unit="kg/m³",
    source="thin-bed mortar, dry powder for a litre of joint",
    certainty="estimate",
    low=1200.0,
    high=1600.0,
)
BLOCK_TOLERANCE = Constant(
    value=0.0015,
    unit="m",
    source="length and height of aircrete blocks, EN 771-4 class for thin joints; from memory",
    certainty="published",
    low=0.001,
    high=0.003,
)
BLOCK_SHIFT = Constant(
    value=0.002,
    unit="m",
    source="dry-laid blocks shift when the hive is worked at",
    certainty="estimate",
    low=0.0,
    high=0.005,
)
CEMENT_WATER = Constant(
    value=0.20,
    unit="kg/kg",
    source="water cement binds when it has set; general reference, from memory",
    certainty="published",
    low=0.18,
    high=0.25,
)
WATER_CEMENT = Constant(
    value=0.50,
    unit="kg/kg",
    source="water to cement of a mix that can be tamped",
    certainty="estimate",
    low=0.4,
    high=0.65,
)
CEMENT_DENSITY = Constant(
    value=3100.0,
    unit="kg/m³",
    source="grains of cement; general reference, from memory",
    certainty="published",
)
SAND_DENSITY = Constant(
    value=2650.0,
    unit="kg/m³",
    source="grains of quartz sand; general reference, from memory",
    certainty="published",
)
LIGHT_GRAIN = Constant(
    value=350.0,
    unit="kg/m³",
    source="grains of expanded glass; perlite is lighter",
    certainty="estimate",
    low=200.0,
    high=500.0,
)
CEMENT_LOOSE = Constant(
    value=1200.0,
    unit="kg/m³",
    source="cement as it is shovelled",
    certainty="estimate",
    low=1000.0,
    high=1400.0,
)
SAND_LOOSE = Constant(
    value=1500.0,
    unit="kg/m³",
    source="damp sand as it is shovelled",
    certainty="estimate",
    low=1300.0,
    high=1700.0,
)
LIGHT_LOOSE = Constant(
    value=190.0,
    unit="kg/m³",
    source="expanded glass as it is poured",
    certainty="estimate",
    low=100.0,
    high=250.0,
)
MIX_SPARE = Constant(
    value=1.10,
    unit="-",
    source="so much more is mixed than fills the mould",
    certainty="common practice",
)
AIR_IN_MIX = Constant(
    value=0.05,
    unit="m³/m³",
    source="air that stays in a light mix",
    certainty="estimate",
    low=0.02,
    high=0.10,
)
MOULD_BOARD = Constant(
    value=0.018, unit="m", source="plywood of a mould", certainty="common practice"
)
SAME_THICKNESS = Constant(
    value=0.0005,
    unit="m",
    source="boards and sheets so near a thickness are used as they are",
    certainty="common practice",
)
MOST_LAYERS = 4
"""So many boards are glued flat on each other at most; common practice, no source."""
CLEAT_LONG = Constant(
    value=0.30,
    unit="m",
    source="cleat to lift a box by, where it fits",
    certainty="common practice",
)
CLEAT_HIGH = Constant(
    value=0.035, unit="m", source="cleat to lift a box by", certainty="common practice"
)
CLEAT_DEEP = Constant(
    value=0.022,
    unit="m",
    source="cleat to lift a box by; fingers go behind it",
    certainty="common practice",
)
LID_FRAME_WIDE = Constant(
    value=0.070,
    unit="m",
    source="timber round the top course of blocks: two rows of plugs",
    certainty="common practice",
)
LID_FRAME_THICK = Constant(
    value=0.022,
    unit="m",
    source="timber round the top course of blocks",
    certainty="common practice",
)
STUD_WIDE = Constant(
    value=0.045,
    unit="m",
    source="stud whose share of a layer is known and not its place",
    certainty="common practice",
)
GRIP_WIDE = Constant(
    value=0.090, unit="m", source="hand hold, four fingers", certainty="common practice"
)
GRIP_HIGH = Constant(value=0.020, unit="m", source="hand hold", certainty="common practice")
GRIP_DEEP = Constant(
    value=0.010, unit="m", source="hand hold; the wall stays whole", certainty="common practice"
)
TOOL_BEVEL = Constant(
    value=0.003, unit="m", source="bevel a hive tool goes under", certainty="common practice"
)
DRIP_GROOVE = Constant(
    value=0.004,
    unit="m",
    source="groove a drop does not cross, as wide as deep",
    certainty="common practice",
)
STRAP_WIDE = Constant(
    value=0.030, unit="m", source="groove for a strap of 25 mm", certainty="common practice"
)
STRAP_DEEP = Constant(
    value=0.003,
    unit="m",
    source="groove that keeps a strap in its place",
    certainty="common practice",
)
THICK_ENOUGH = Constant(
    value=0.016,
    unit="m",
    source="walls that still carry beside a rebate or hand hold of 10 mm",
    certainty="common practice",
)
SHIM = Constant(
    value=0.010, unit="m", source="shim that is laid between boxes", certainty="common practice"
)
GLUE_COST = Constant(
    value=0.04,
    unit="-",
    source="a glued joint counts like so much more board: our estimate",
    certainty="estimate",
    low=0.0,
    high=0.1,
)
LAYER_WASTE = Constant(
    value=1.5,
    unit="-",
    source="layers glued on each other are planed off no further than from "
    "so many times the thickness: our choice",
    certainty="estimate",
    low=1.2,
    high=2.0,
)
LEAST_RAIL = Constant(
    value=0.002,
    unit="m",
    source="the thinnest rail frames hang on: a strip of metal",
    certainty="common practice",
)
FOLLOWER_PLAY = Constant(
    value=0.003,
    unit="m",
    source="a follower board is so much shorter than its room, to slide",
    certainty="common practice",
)
STRIP_HIGH = Constant(
    value=0.020, unit="m", source="strip frames hang on", certainty="common practice"
)
GLUE_SPARE = Constant(
    value=1.10,
    unit="-",
    source="so much more glue or filler is bought than fills the joints",
    certainty="common practice",
)
FRESH_OVER_DRY = Constant(
    value=1.2,
    unit="-",
    source="fresh mass over dry mass of a cast whose mix is not known",
    certainty="estimate",
    low=1.05,
    high=1.4,
)
