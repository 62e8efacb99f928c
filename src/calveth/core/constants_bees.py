"""Constants of honey, breath and bees. `constants` lists them with all the others."""

from __future__ import annotations

from calveth.core.constant import Constant

PROBE_OFF_K = Constant(
    value=0.1,
    unit="K",
    certainty="estimate",
    low=0.05,
    high=0.3,
    source="what a probe compared in ice water is off by for good, one sigma",
)
BEES_OF_SEAM = Constant(
    value=1.9,
    unit="kg/m²",
    certainty="estimate",
    low=1.2,
    high=3.0,
    source="bees in a seam, a gap between two combs as a keeper counts them in winter: 0.2 kg in "
    "one of 45 by 23 cm, by its height and length",
)

HONEY_ENERGY = Constant(
    value=12.7e6,
    unit="J/kg",
    source="304 kcal per 100 g, USDA FoodData Central",
    certainty="published",
)
HONEY_WATER_SHARE = Constant(
    value=0.17, unit="kg/kg", source="capped honey, USDA FoodData Central", certainty="published"
)
SUGAR_TO_WATER = Constant(
    value=0.60,
    unit="kg/kg",
    source="C6H12O6 + 6 O2 = 6 CO2 + 6 H2O: 6·18.015/180.16",
    certainty="published",
)
SUGAR_TO_CO2 = Constant(
    value=1.466, unit="kg/kg", source="same reaction: 6·44.01/180.16", certainty="published"
)
SUGAR_TO_OXYGEN = Constant(
    value=1.066, unit="kg/kg", source="same reaction: 6·31.998/180.16", certainty="published"
)
CLUSTER_CONDUCTANCE = Constant(
    value=0.27,
    unit="W/(K·kg^(2/3))",
    source="fit to published oxygen use of winter clusters, scaled by surface",
    certainty="estimate",
    low=0.2,
    high=0.4,
)
REST_HEAT = Constant(
    value=1.75,
    unit="W/kg",
    source="lowest heat of resting winter bees",
    certainty="estimate",
    low=1.5,
    high=2.0,
)
REST_HEAT_Q10 = Constant(
    value=2.0,
    unit="-",
    source="rest heat of insects doubles with every 10 K of body warmth; common rule of "
    "physiology, from memory; 2.4 in Watmough and Camazine 1995, from memory",
    certainty="estimate",
    low=1.5,
    high=2.5,
)
REST_HEAT_AT = Constant(
    value=15.0,
    unit="°C",
    source="body warmth the rest heat of bees is told at",
    certainty="common practice",
)
MANTLE_TEMPERATURE = Constant(
    value=12.0,
    unit="°C",
    source="bees in the mantle of a winter cluster, whatever the air: 10 to 14 °C, below which "
    "they stiffen; reported by many, from memory (Southwick 1985, Stabentheiner et al. 2003)",
    certainty="estimate",
    low=10.0,
    high=14.0,
)
CLUSTER_INSIDE = Constant(
    value=0.6,
    unit="-",
    source="where between mantle and core the mean bee of a cluster sits, by mass: a ball with a "
    "core of half its radius and a mantle of two bees",
    certainty="estimate",
    low=0.4,
    high=0.75,
)
IDLE_LIKE = Constant(
    value=26.0,
    unit="°C",
    source="warmth above which bees that have nothing to keep warm go to cooler combs, as far as "
    "there are any: 22 to 30 °C is what they choose, from memory (Heran 1952)",
    certainty="estimate",
    low=22.0,
    high=30.0,
)
BROOD_BEES = Constant(
    value=0.7,
    unit="-",
    source="share of the bees that sit on or beside brood when there is full brood",
    certainty="estimate",
    low=0.5,
    high=0.9,
)
BROOD_NEED = Constant(
    value=3.0,
    unit="-",
    source="what a kelvin costs bees that keep full brood beyond what it costs a cluster of them, "
    "as a multiple: the comb they warm is several times its surface",
    certainty="estimate",
    low=1.5,
    high=6.0,
)
BROODLESS_AIRS = Constant(
    value=9.0,
    unit="K",
    source="how much earlier bees without brood fan for the heat than over brood: what they like "
    "is 22 to 30 °C and nothing has to be kept warm",
    certainty="estimate",
    low=4.0,
    high=12.0,
)
REST_HEAT_UP_TO = Constant(
    value=42.0,
    unit="°C",
    source="warmth from which the heat of bees grows no more; from memory",
    certainty="estimate",
    low=40.0,
    high=46.0,
)
ACTIVITY_SHARE = Constant(
    value=0.5,
    unit="-",
    source="share of the honey for brood and flight that is spent in the hive",
    certainty="estimate",
    low=0.3,
    high=0.7,
)
CORE_TEMPERATURE_NO_BROOD = Constant(
    value=21.0,
    unit="°C",
    source="broodless winter clusters",
    certainty="estimate",
    low=18.0,
    high=25.0,
)
CORE_TEMPERATURE_BROOD = Constant(
    value=34.5,
    unit="°C",
    source="brood nest 33 to 36 °C, reported by many",
    certainty="published",
    low=33.0,
    high=36.0,
)
FANNING = Constant(
    value=1.0e-4,
    unit="m³/(s·kg)",
    source="air that bees move for full brood and nectar, per kg of bees; less with less brood",
    certainty="estimate",
    low=0.2e-4,
    high=4.0e-4,
)
FANNING_MOST = Constant(
    value=1.0e-3,
    unit="m³/(s·kg)",
    source="most air bees fan in heat or bad air, per kg of bees",
    certainty="estimate",
    low=0.3e-3,
    high=2.0e-3,
)
FANNING_SPEED = Constant(
    value=2.0,
    unit="m/s",
    source="most speed fanning bees give the air in the half of the entrance it leaves by; up to 3 "
    "m/s are reported before fanning groups (Peters et al. 2019, from memory)",
    certainty="estimate",
    low=1.0,
    high=3.0,
)
FANNING_COST = Constant(
    value=1.0e3,
    unit="W per m³/s",
    source="heat bees spend to fan, beyond their rest: a dozen at an entrance move some 0.9 L/s "
    "(Hazelhoff 1941 in Seeley 1985, from memory), at 0.04 W each as in flight 0.5 W per L/s; "
    "twice that for those who fan inside",
    certainty="estimate",
    low=0.4e3,
    high=5.0e3,
)
CLUSTER_LEFT_FROM = Constant(
    value=10.0,
    unit="°C",
    source="nest air from which bees begin to leave the cluster; beekeepers see no flight below",
    certainty="estimate",
    low=8.0,
    high=12.0,
)
CLUSTER_LEFT_ALL = Constant(
    value=18.0,
    unit="°C",
    source="nest air in which they are all over the combs",
    certainty="estimate",
    low=15.0,
    high=22.0,
)
CLUSTER_LOOSE_ALL = Constant(
    value=32.0,
    unit="°C",
    source="nest air in which all bees that are not on brood have left the cluster for the combs; "
    "below it the fewer the colder, and none at `CLUSTER_LEFT_FROM`",
    certainty="estimate",
    low=26.0,
    high=34.0,
)
FANNING_HOT_FROM = Constant(
    value=34.0,
    unit="°C",
    source="nest air from which bees fan for the heat",
    certainty="estimate",
    low=33.0,
    high=35.0,
)
FANNING_HOT_ALL = Constant(
    value=36.0,
    unit="°C",
    source="nest air in which they fan all they can",
    certainty="estimate",
    low=35.0,
    high=38.0,
)
FANNING_FOUL_FROM = Constant(
    value=0.01,
    unit="-",
    source="CO2 by volume from which bees fan for their breath; from memory",
    certainty="estimate",
    low=0.005,
    high=0.02,
)
FANNING_FOUL_ALL = Constant(
    value=0.04,
    unit="-",
    source="CO2 by volume at which they fan all they can; from memory",
    certainty="estimate",
    low=0.03,
    high=0.06,
)
FANNING_DAMP_FROM = Constant(
    value=0.35,
    unit="-",
    source="humidity at the brood's warmth from which bees fan for the damp",
    certainty="estimate",
    low=0.25,
    high=0.45,
)
FANNING_DAMP_ALL = Constant(
    value=0.55,
    unit="-",
    source="humidity at the brood's warmth in which they fan all they can: eggs and larvae want 40 "
    "to 70 %, from memory (Human et al. 2006)",
    certainty="estimate",
    low=0.5,
    high=0.75,
)
BEARD_FROM = Constant(
    value=35.5,
    unit="°C",
    source="nest air from which bees hang out before the hive; common practice",
    certainty="estimate",
    low=34.5,
    high=36.5,
)
BEARD_ALL = Constant(
    value=38.0,
    unit="°C",
    source="nest air in which as many hang out as ever do",
    certainty="estimate",
    low=36.5,
    high=40.0,
)
BEARD_MOST = Constant(
    value=0.5,
    unit="-",
    source="most of the bees that hang out in heat; the others stay with the brood",
    certainty="estimate",
    low=0.3,
    high=0.7,
)
COOLING_FROM = Constant(
    value=34.5,
    unit="°C",
    source="nest air from which bees spread water",
    certainty="estimate",
    low=34.0,
    high=36.0,
)
COOLING_ALL = Constant(
    value=37.0,
    unit="°C",
    source="nest air in which they spread all they can",
    certainty="estimate",
    low=36.0,
    high=40.0,
)
COOLING_MOST = Constant(
    value=8.0e-6,
    unit="1/s",
    source="most water bees evaporate in heat into air of half humidity, kg a second per kg of "
    "bees; the drier the air the more",
    certainty="estimate",
    low=3.0e-6,
    high=15.0e-6,
)
CO2_BAD = Constant(
    value=0.08,
    unit="-",
    source="CO2 by volume from which bees sink down; from memory",
    certainty="estimate",
    low=0.06,
    high=0.1,
)
CO2_SUFFOCATES = Constant(
    value=0.18,
    unit="-",
    source="CO2 by volume at which the oxygen of the air (20.9 %) is all but used up: one for one",
    certainty="published",
)
PORES_CO2 = Constant(
    value=1.0,
    unit="-",
    source="CO2 through open pores against still air of the thickness that holds vapour as much; "
    "nothing passes foam, wood and films",
    certainty="estimate",
    low=0.5,
    high=1.5,
)
PLUME_SHARE = Constant(
    value=0.5,
    unit="-",
    source="share of the cluster's heat and breath that rises straight to the crown",
    certainty="estimate",
    low=0.3,
    high=0.7,
)
MIXING_NEST_CROWN = Constant(
    value=0.5,
    unit="W/K",
    source="exchange between nest and crown by weak plumes",
    certainty="estimate",
    low=0.2,
    high=1.0,
)
MIXING_NEST_BASE = Constant(
    value=0.25,
    unit="W/K",
    source="exchange between nest and base, held back by stable layering",
    certainty="estimate",
    low=0.1,
    high=0.5,
)
CLUSTER_DENSITY = Constant(
    value=0.25,
    unit="kg/L",
    source="bees in a winter cluster with the combs between them",
    certainty="estimate",
    low=0.18,
    high=0.35,
)
LATE_BROOD = Constant(
    value=0.75,
    unit="-",
    source="brood of late summer, when it is still warm, against that of as warm a spring; "
    "common practice, no source",
    certainty="common practice",
    low=0.6,
    high=0.9,
)
THIRSTY_ROOM = Constant(
    value=0.35,
    unit="-",
    source="humidity of a winter room below which bees find no dew to drink; common practice",
    certainty="common practice",
    low=0.25,
    high=0.5,
)
