"""Numbers by a word: how tight joints are, how rough land is, what shelter keeps off."""

from __future__ import annotations

from types import MappingProxyType

from calveth.core.constant import Constant, Table

CRACK_M3_S_M = Table(
    values=MappingProxyType(
        {
            "filled": 1.0e-7,
            "propolised": 1.0e-6,
            "planed": 1.0e-5,
            "re-opened": 4.0e-5,
            "dry-laid": 1.0e-4,
        }
    ),
    unit="m³/(s·m·Pa^0.65)",
    source="leakage of a metre of joint at 1 Pa; beside it weather-stripped to poor windows have "
    "0.3e-4 to 3e-4 (order of magnitude of EN 12207 classes, from memory)",
    certainty="estimate",
    times=3.0,
)
LEAK_FACTOR = Table(
    values=MappingProxyType(
        {
            "board on the rim": 1.0,
            "insulation meets": 1.0,
            "insulation past the rim": 0.5,
            "telescoping rim": 0.5,
            "rebate": 0.6,
            "walls on the board": 1.0,
            "walls past the floor": 0.6,
        }
    ),
    unit="-",
    source="leakage of a joint against boards laid flat",
    certainty="estimate",
    times=2.0,
)
BLOCK_LEAK = Table(
    values=MappingProxyType({"none": 0.0, "dry-laid": 1.0, "mortar": 0.02, "thin glue": 0.02}),
    unit="-",
    source="leakage of a metre of block joint against a dry-laid joint of boards",
    certainty="estimate",
    times=3.0,
)
ROUGHNESS_M = Table(
    values=MappingProxyType(
        {
            "open water or plain": 0.01,
            "farmland": 0.05,
            "village or orchard": 0.3,
            "forest": 1.0,
        }
    ),
    unit="m",
    source="roughness length z0, EN 1991-1-4, table 4.1, terrain categories I to IV",
    certainty="published",
)
SHELTER_FACTOR = Table(
    values=MappingProxyType({"open": 1.0, "normal": 0.7, "sheltered": 0.4}),
    unit="-",
    source="share of the free wind that reaches a hive behind hedges or walls",
    certainty="estimate",
    times=1.4,
)
WINDWARD_CP = Table(
    values=MappingProxyType({"open": 0.50, "normal": 0.25, "sheltered": 0.05}),
    unit="-",
    source="wind pressure coefficient of low walls in the wind, EN 16798-7, annex B, from memory",
    certainty="published",
)
LEEWARD_CP = Table(
    values=MappingProxyType({"open": -0.70, "normal": -0.50, "sheltered": -0.30}),
    unit="-",
    source="the same out of the wind",
    certainty="published",
)
TRAY_LEAK = Constant(
    value=0.05,
    unit="-",
    source="share of a screen that a tray under it leaves open",
    certainty="estimate",
    low=0.02,
    high=0.1,
)
TREE_GAP_M = Constant(
    value=0.1,
    unit="m",
    source="from an opening to the nearest comb where bees build as they like",
    certainty="estimate",
    low=0.03,
    high=0.2,
)
