"""Published checks of the air paths, the wind, the wood and the bees the balance is made of."""

from __future__ import annotations

from dataclasses import replace
from math import log

import numpy as np

from calveth.core import constants as c
from calveth.core.airflow.kernel import joint_m3_s
from calveth.core.airflow.paths import tunnel_friction_pa_s_m
from calveth.core.check import Check
from calveth.core.climate.air import rain_share, wind_pressure_coefficient
from calveth.core.climate.place import MonthClimate, Place
from calveth.core.conduction.exact import sheet_through_foam_w_k
from calveth.core.hive.opening import Opening
from calveth.core.materials import wood_conductivity_w_mk


def balance_checks() -> list[Check]:
    """Return the checks, computed now."""
    return [check for group in (_slots, _wind, _cracks, _wood, _metal) for check in group()]


def _slots() -> list[Check]:
    source = "Shah and London 1978, table of rectangular ducts (from memory)"
    made = []
    for share, expected in ((1.0, 56.91), (0.5, 62.19), (0.25, 72.93), (0.125, 82.34)):
        slot = Opening(
            id="s", name="slot", shape="slot", bottom_m=0.1, width_m=0.008 / share, height_m=0.008
        )
        friction = tunnel_friction_pa_s_m(slot, 0.05)
        flows = 2 * friction * slot.hydraulic_diameter_m**2 / (c.AIR_VISCOSITY.value * 0.05)
        made.append(
            Check(
                name=f"f·Re of a slot, height {share:g} of its width",
                unit="-",
                expected=expected,
                computed=flows,
                tolerance=0.1,
                source=source,
            )
        )
    return made


def _wind() -> list[Check]:
    month = MonthClimate(
        temperature_degc=5.0, daily_swing_k=6.0, relative_humidity=0.8, wind_m_s=4.0
    )
    place = Place(
        name="check",
        latitude_deg=45.0,
        longitude_deg=0.0,
        altitude_m=0.0,
        months=(month,) * 12,
        wind_from_deg=180.0,
        shelter="open",
        last_forage_week=40,
        first_forage_week=14,
        source="a check",
    )
    turned = [replace(place, facing_deg=float(d)) for d in range(360)]
    cp = np.array([wind_pressure_coefficient("front", p) for p in turned])
    return [
        Check(
            name="Cp of a low wall in the wind",
            unit="-",
            expected=0.5,
            computed=cp[180],
            tolerance=1e-9,
            source="EN 16798-7, annex B, open (from memory)",
        ),
        Check(
            name="Cp where it is sucked most",
            unit="-",
            expected=-0.7,
            computed=cp.min(),
            tolerance=1e-3,
            source="EN 16798-7, annex B, open (from memory)",
        ),
        Check(
            name="largest change of Cp for one degree",
            unit="-",
            expected=0.0,
            computed=float(np.abs(np.diff(cp)).max()),
            tolerance=0.025,
            source="no wind jumps",
        ),
        Check(
            name="driving rain on a wall 60° off the wind",
            unit="-",
            expected=0.5,
            computed=rain_share("front", turned[120]),
            tolerance=1e-9,
            source="EN ISO 15927-3, 4.1: the cosine",
        ),
    ]


def _cracks() -> list[Check]:
    laminar = c.CRACK_LAMINAR.value
    far = joint_m3_s(0.1 * laminar, 1.0, laminar)[0] / joint_m3_s(0.2 * laminar, 1.0, laminar)[0]
    four = joint_m3_s(4.0, 1.0, laminar)[0]
    return [
        Check(
            name="a crack at half of little pressure",
            unit="-",
            expected=0.5,
            computed=far,
            tolerance=1e-9,
            source="Hagen and Poiseuille: laminar flow grows with the pressure",
        ),
        Check(
            name="exponent of a crack at 4 Pa",
            unit="-",
            expected=0.65,
            computed=log(four) / log(4.0),
            tolerance=1e-9,
            source="EN 16798-7, C·Δp^0.65",
        ),
    ]


def _wood() -> list[Check]:
    """Wood by its moisture: fu = 1.4 against the handbook; a test holds the shipped woods to it."""
    dry, damp = (wood_conductivity_w_mk(0.45, m) for m in (9.0, 16.0))
    return [
        Check(
            name="λ of wood, 16 against 9 % moisture",
            unit="-",
            expected=damp / dry,
            computed=float(np.exp(1.4 * 0.07)),
            tolerance=0.012,
            source="USDA Wood Handbook (FPL-GTR-282), eq. 4-7",
        ),
    ]


def _metal() -> list[Check]:
    limit, usual = (sheet_through_foam_w_k(fine=fine) for fine in (True, False))
    return [
        Check(
            name="extra heat of a steel sheet through foam",
            unit="W/K",
            expected=limit,
            computed=usual,
            tolerance=0.02 * limit,
            source="the same section with cells of 0.05 mm",
        ),
    ]
