"""Constants of the year by the hour; see `constants` for the form. Estimates carry a range."""

from __future__ import annotations

from calveth.core.constant import Constant

AIR_DENSITY = Constant(
    value=1.2,
    unit="kg/m³",
    source="of air at 20 °C, ISO 2533; for what air holds and what is "
    "fanned, where a few percent do not count",
    certainty="published",
)
HEAVY_RAIN = Constant(
    value=0.5,
    unit="mm/h",
    source="rain in which bees stay at home; common practice, no source",
    certainty="common practice",
    low=0.1,
    high=1.0,
)
WET_ALL_OVER = Constant(
    value=0.010,
    unit="kg/m²",
    source="film from which a surface is wet all over; thinner ones "
    "stand as drops on a share of it",
    certainty="estimate",
    low=0.003,
    high=0.03,
)
CLING_LID = Constant(
    value=0.070,
    unit="kg/m²",
    source="drops a level ceiling holds before they fall",
    certainty="estimate",
    low=0.03,
    high=0.15,
)
CLING_WALL = Constant(
    value=0.040,
    unit="kg/m²",
    source="film an upright wall holds before it runs down",
    certainty="estimate",
    low=0.02,
    high=0.10,
)
CLING_FLOOR = Constant(
    value=0.500,
    unit="kg/m²",
    source="water a level floor holds before it runs out at the front",
    certainty="estimate",
    low=0.2,
    high=1.5,
)
CLING_COMB = Constant(
    value=0.040,
    unit="kg/m²",
    source="film combs hold; as a wall",
    certainty="estimate",
    low=0.02,
    high=0.10,
)
SKY_OF_WALL = Constant(
    value=0.5,
    unit="-",
    source="share of the sky an upright wall looks at over open land: (1 + cos 90°)/2",
    certainty="published",
)
COMB_HEAT = Constant(
    value=15e3,
    unit="J/(K·m²)",
    source="heat capacity of combs, half full, a face: honey 2.5 kJ/(kg·K), wax and wood",
    certainty="estimate",
    low=5e3,
    high=30e3,
)
COMB_SORPTION = Constant(
    value=0.015,
    unit="kg/m²",
    source="water combs bind from dry to saturated air, a face (0.15 g/m² for a percent)",
    certainty="estimate",
    low=0.002,
    high=0.03,
)
ISOTHERM_STEEPER = Constant(
    value=2.6,
    unit="-",
    source="how much steeper the isotherm of wood is from 80 % to saturation than from 50 to 80 %: "
    "9, 16 and 28 % of its weight (Wood Handbook 2010, table 4-2; the last is fibre saturation)",
    certainty="estimate",
    low=1.5,
    high=4.5,
)
THIRSTY_INSIDE = Constant(
    value=0.5,
    unit="-",
    source="share of a board inside that still drinks: bees seal the rest with propolis and wax; "
    "common practice, no source",
    certainty="estimate",
    low=0.1,
    high=0.9,
)
BOARD_DEEPEST = Constant(
    value=0.05,
    unit="m",
    source="depth of a thick board or block that takes part in a year: √(D·t) of half a year is "
    "0.02 m in softwood and 0.09 m in aircrete",
    certainty="estimate",
    low=0.02,
    high=0.1,
)
FLOOR_OF_BOARDS = Constant(
    value=0.150,
    unit="kg/m²",
    source="water a level floor of boards holds before it runs out through the joints",
    certainty="estimate",
    low=0.05,
    high=0.5,
)
FLIGHT_FROM = Constant(
    value=12.0,
    unit="°C",
    source="bees forage from some 10 to 14 °C on, by day; common practice, no source",
    certainty="common practice",
    low=10.0,
    high=14.0,
)
FORAGERS = Constant(
    value=0.30,
    unit="-",
    source="share of the bees that is out on a flying day; a third are "
    "foragers, common practice, no source",
    certainty="common practice",
    low=0.15,
    high=0.4,
)
FROST_FREE_NIGHT = Constant(
    value=5.0,
    unit="°C",
    source="nights from which keepers take narrowed entrances wide; common practice, no source",
    certainty="common practice",
    low=3.0,
    high=8.0,
)
NECTAR_UPTAKE = Constant(
    value=0.012,
    unit="kg/kg",
    source="water a kilogram of fanned air takes up from spread nectar: "
    "air of 20 °C and 60 % leaves the nest at 34 °C and 60 %",
    certainty="estimate",
    low=0.008,
    high=0.016,
)
NECTAR_MOST = Constant(
    value=1.5 / 86400.0,
    unit="kg/(s·kg)",
    source="water a kilogram of bees dries at most: 1.5 kg a day; what more is brought waits",
    certainty="estimate",
    low=0.7 / 86400.0,
    high=3.0 / 86400.0,
)
WATER_HEAT_CAPACITY = Constant(
    value=4186.0,
    unit="J/(kg·K)",
    source="of water at 15 °C, any table",
    certainty="published",
)
NECTAR_ROOM = Constant(
    value=3.0,
    unit="kg/kg",
    source="water of nectar that may wait in the combs for a kilogram of "
    "bees to dry it; with more there is no room, and no more is brought",
    certainty="estimate",
    low=1.0,
    high=6.0,
)
NECTAR_WARMTH = Constant(
    value=0.6,
    unit="-",
    source="how far combs with open nectar are from the air of the nest towards the brood's warmth",
    certainty="estimate",
    low=0.3,
    high=0.8,
)
NECTAR_DRIES = Constant(
    value=0.8,
    unit="-",
    source="humidity of the nest air up to which bees dry nectar as fast as "
    "they can; half ripe nectar is in balance with 75 to 90 %",
    certainty="estimate",
    low=0.7,
    high=0.85,
)
NECTAR_STOPS = Constant(
    value=0.92,
    unit="-",
    source="humidity of the nest air in which nectar dries no more: 55 to 60 "
    "parts of sugar in a hundred are in balance with 90 to 93 % (from memory)",
    certainty="estimate",
    low=0.88,
    high=0.97,
)
ALBEDO = Constant(
    value=0.2,
    unit="-",
    source="of grass and soil, ISO 52010-1:2017, 6.4.4.1 (from memory)",
    certainty="published",
)
SUN_OF_SWING = Constant(
    value=0.16,
    unit="K^-0.5",
    source="H = 0.16·√ΔT·H0 inland, Hargreaves and Samani 1982 (0.19 by the coast)",
    certainty="published",
    low=0.13,
    high=0.20,
)
DAYS_HOLD = Constant(
    value=0.75,
    unit="-",
    source="how a day's temperature follows the one before (lag-1 "
    "correlation); 0.6 to 0.8 in eight typical years looked at",
    certainty="estimate",
    low=0.6,
    high=0.8,
)
CLEAR_DAYS_HOLD = Constant(
    value=0.45,
    unit="-",
    source="how a day's clearness follows the one before",
    certainty="estimate",
    low=0.3,
    high=0.6,
)
CLEAR_AND_COLD = Constant(
    value=0.45,
    unit="-",
    source="correlation of clear days with cold ones in winter and with warm ones in summer",
    certainty="estimate",
    low=0.2,
    high=0.6,
)
SPREAD_OF_SEASONS = Constant(
    value=0.4,
    unit="-",
    source="how much wider days scatter in the coldest month than in the mean of the year, and "
    "narrower in the warmest, where the months lie 16 K apart and more; 0.15 to 0.5 in seven "
    "typical years looked at",
    certainty="estimate",
    low=0.2,
    high=0.55,
)
SEASONS_APART = Constant(
    value=16.0,
    unit="K",
    source="between coldest and warmest month, from which on seasons differ in full",
    certainty="estimate",
    low=10.0,
    high=25.0,
)
DAMP_OF_DAYS = Constant(
    value=0.16,
    unit="-",
    source="scatter of the logarithm of a day's vapour pressure beside what follows its warmth: "
    "dry nights and fog; 0.10 and 0.22 in the two typical years shipped with pvlib",
    certainty="estimate",
    low=0.1,
    high=0.22,
)
DAMP_OF_HOURS = Constant(
    value=0.04,
    unit="-",
    source="how much more vapour than in the mean of its day the air has late in the afternoon, "
    "and less before sunrise, when dew has taken it; 0.02 to 0.05 in the two typical years shipped "
    "with pvlib",
    certainty="estimate",
    low=0.02,
    high=0.06,
)
DAMP_DAYS_HOLD = Constant(
    value=0.6,
    unit="-",
    source="how the damp of a day follows the one before",
    certainty="estimate",
    low=0.4,
    high=0.8,
)
CLEAR_BY_AIR_MASS = Constant(
    value=0.09,
    unit="-",
    source="how much less of the sun comes through with each air mass more, exp(-0.09·(m - 1)): "
    "0.76 of it at noon, 0.5 at 12° of height, from memory of clear-sky tables",
    certainty="estimate",
    low=0.06,
    high=0.13,
)
WARMEST_HOUR = Constant(
    value=14.5,
    unit="h",
    source="solar time of the warmest hour; common practice",
    certainty="common practice",
    low=14.0,
    high=15.5,
)
TRACE_OF_WATER = Constant(
    value=1e-8,
    unit="kg",
    source="water on a surface or on combs too little to dry or to see: a "
    "millionth of a film that is seen; own choice",
    certainty="estimate",
    low=1e-10,
    high=1e-6,
)
SEEN_FILM = Constant(
    value=0.001,
    unit="kg/m²",
    source="film that is seen and felt as wet; a breath on glass is a tenth of it",
    certainty="estimate",
    low=0.0003,
    high=0.003,
)
BROOD_HARMED = Constant(
    value=36.0,
    unit="°C",
    source="brood nest warmer than this harms brood; common practice",
    certainty="common practice",
    low=35.5,
    high=37.0,
)
BEARDING = Constant(
    value=36.2,
    unit="°C",
    source="nest air in which it is seen that bees hang out: some twelve of a hundred do "
    "(`BEARD_FROM`)",
    certainty="estimate",
    low=35.5,
    high=38.0,
)
SNOW_FALLS_BELOW = Constant(
    value=1.0,
    unit="°C",
    source="air below which rain falls as snow; common practice",
    certainty="common practice",
    low=0.0,
    high=2.0,
)
SNOW_DENSITY = Constant(
    value=250.0,
    unit="kg/m³",
    source="of snow that has lain some days; fresh 100, old 400",
    certainty="estimate",
    low=120.0,
    high=400.0,
)
SNOW_MELT = Constant(
    value=4.0,
    unit="mm/(K·day)",
    source="water a day gives for each degree above 0 °C; degree-day "
    "factors of open land are 2 to 6",
    certainty="estimate",
    low=2.0,
    high=6.0,
)
SNOW_CONDUCTIVITY = Constant(
    value=0.088,
    unit="W/(m·K)",
    source="0.138 - 1.01·ρ + 3.233·ρ² at 0.25 g/cm³, Sturm et al. "
    "1997, J. Glaciology 43 (from memory)",
    certainty="published",
    low=0.04,
    high=0.25,
)
SNOW_ABSORBS = Constant(
    value=0.3,
    unit="-",
    source="sun that snow of some days takes in; fresh 0.1, wet and old 0.5",
    certainty="estimate",
    low=0.1,
    high=0.5,
)
SNOW_EMITS = Constant(
    value=0.97,
    unit="-",
    source="emissivity of snow, near that of a black body (from memory)",
    certainty="published",
    low=0.95,
    high=0.99,
)
SNOW_ON_LID = Constant(
    value=0.20,
    unit="m",
    source="snow a lid keeps at most; wind and the slope take the rest",
    certainty="estimate",
    low=0.05,
    high=0.4,
)
SNOW_CONTACT = Constant(
    value=0.02,
    unit="m²·K/W",
    source="between a lid's face and the snow that melts on it: a film of water and wet snow",
    certainty="estimate",
    low=0.005,
    high=0.05,
)
SNOW_SLIDES_FROM = Constant(
    value=20.0,
    unit="°",
    source="slope of a lid from which snow slides; common practice, no source",
    certainty="common practice",
)
SNOW_ON_SLOPE = Constant(
    value=0.3,
    unit="-",
    source="share of the snow a level lid keeps that stays on a sloped one",
    certainty="estimate",
    low=0.1,
    high=0.6,
)
SNOW_SHUTS = Constant(
    value=0.3,
    unit="-",
    source="share of an entrance's width that air still finds when snow lies "
    "over it: the warm air of the hive melts a chimney",
    certainty="estimate",
    low=0.05,
    high=0.7,
)
GROUND_FOLLOWS = Constant(
    value=10.0,
    unit="day",
    source="how long ground under a slab of half a metre takes to follow "
    "the air; common practice, no source",
    certainty="estimate",
    low=3.0,
    high=30.0,
)
MOST_SUN_THROUGH = Constant(
    value=0.78,
    unit="-",
    source="share of the sun outside the air that reaches level ground in the clearest hour; "
    "from memory",
    certainty="estimate",
    low=0.7,
    high=0.82,
)
VAPOUR_BY_WARMTH = Constant(
    value=0.07,
    unit="1/K",
    source="d ln psat/dT at 0 to 15 °C is 0.06 to 0.08: by how much warmer days bring more vapour",
    certainty="published",
)
DAMPEST_HOUR = Constant(
    value=17.0,
    unit="h",
    source="of the day, when air from the ground has risen longest; from memory",
    certainty="estimate",
    low=14.0,
    high=20.0,
)
WINDIEST_HOUR = Constant(
    value=14.0,
    unit="h",
    source="of the day, when the air is stirred from the ground up; from memory",
    certainty="estimate",
    low=12.0,
    high=16.0,
)
WIND_OF_HOURS = Constant(
    value=0.25,
    unit="-",
    source="how much windier than its mean a day is at its windiest hour; from memory",
    certainty="estimate",
    low=0.1,
    high=0.4,
)
WINDY_DAYS_HOLD = Constant(
    value=0.4,
    unit="-",
    source="correlation of the wind of a day with that of the day before; from memory",
    certainty="estimate",
    low=0.3,
    high=0.6,
)
WINDY_HOURS_HOLD = Constant(
    value=0.8,
    unit="-",
    source="correlation of the wind of an hour with that of the hour before; from memory",
    certainty="estimate",
    low=0.7,
    high=0.9,
)
CLOUD_EMITS = Constant(
    value=0.8,
    unit="-",
    source="share of what a clear sky lacks of a black one that full cloud gives; from memory",
    certainty="estimate",
    low=0.7,
    high=0.95,
)
CLEAR_DAY_THROUGH = Constant(
    value=0.75,
    unit="-",
    source="share of the sun outside the air that a cloudless day lets through; from memory",
    certainty="estimate",
    low=0.7,
    high=0.8,
)
GREY_DAY_THROUGH = Constant(
    value=0.25,
    unit="-",
    source="share of the sun outside the air that an overcast day lets through; from memory",
    certainty="estimate",
    low=0.1,
    high=0.35,
)
ICE_AT_MOUTH = Constant(
    value=0.10,
    unit="-",
    source="share of the vapour too much in air that leaves through a frozen low opening which "
    "grows as rime in it, and of water that drains over a frozen sill; long frosts narrow low "
    "entrances, common practice, no source",
    certainty="estimate",
    low=0.0,
    high=0.3,
)
ICE_PLUG = Constant(
    value=0.02,
    unit="m",
    source="length of the way through a wall that rime closes: near its outer mouth",
    certainty="estimate",
    low=0.005,
    high=0.04,
)
ICE_DENSITY = Constant(
    value=500.0,
    unit="kg/m³",
    source="of rime, between hoar frost (100) and clear ice (917); from memory",
    certainty="estimate",
    low=200.0,
    high=917.0,
)
WIND_SHAPE = Constant(
    value=1.7,
    unit="-",
    source="shape of the Weibull distribution of hourly winds: 1.5 to 2.2 over land; 7 of 100 "
    "hours are calmer than a quarter of the mean (Troen and Petersen 1989, from memory)",
    certainty="estimate",
    low=1.5,
    high=2.2,
)
