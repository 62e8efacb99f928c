"""Assessments as plain records; every key carries its unit."""

from __future__ import annotations

from typing import Any

from calveth.core.advice.remedies import Remedy
from calveth.core.advice.schools import SchoolVerdict
from calveth.core.assess.nights import NightAssessment
from calveth.core.assess.readings import NestReadings, crown_verdict
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.calendar import MONTH_NAMES
from calveth.core.compare.figures import FIGURES
from calveth.core.compare.sweep import SweepPoint
from calveth.core.compare.table import CompareRow
from calveth.core.hive.design import FACES
from calveth.core.hive.zones import BASE, CROWN, NEST
from calveth.core.materials import Material
from calveth.core.moisture.profile import Profile
from calveth.core.nest.network import SURFACES
from calveth.core.solids.quantities import centre_of_gravity_m, outer_size_m, part_weights_kg
from calveth.core.units import litres_per_hour
from calveth.store.converter import to_document
from calveth.texts.criteria import CRITERIA, said_of
from calveth.texts.remedies import effect, what_is_done
from calveth.texts.units import METRIC


def readings_record(m: NestReadings, i: int) -> dict[str, Any]:
    """Return everything about the hive at condition ``i``."""
    b = m.balance
    return {
        "outside_temperature_degc": _r(m.outside.temperature_degc[i]),
        "outside_vapour_pressure_pa": _r(m.outside.vapour_pressure_pa[i], 1),
        "wind_at_hive_m_s": _r(m.outside.wind_m_s[i]),
        "zones": {
            name: {
                "temperature_degc": _r(b.temperature_degc[z, i]),
                "relative_humidity": _r(m.relative_humidity[z, i], 4),
                "dew_point_degc": _r(m.dew_point_degc[z, i]),
                "co2_volume_share": _r(m.co2_volume_share[z, i], 5),
            }
            for name, z in (("base", BASE), ("nest", NEST), ("crown", CROWN))
        },
        "surfaces": {
            name: {
                "temperature_degc": _r(b.surface_degc[k, i]),
                "dew_point_margin_k": _r(m.margin_k[k, i]),
                "condensing_g_day": _r(m.condensing_g_day[k, i], 3),
            }
            for k, name in enumerate(SURFACES)
        },
        "crown": crown_verdict(m, i),
        "openings": [
            {
                "id": air.opening,
                "in_l_h": _r(air.in_l_h, 1),
                "out_l_h": _r(air.out_l_h, 1),
                "speed_m_s": _r(air.speed_m_s, 3),
                "heat_w": _r(air.heat_w, 3),
                "draught_at_comb_m_s": _r(air.draught_m_s, 3),
            }
            for air in m.openings(i)
        ],
        "joints_in_l_h": _r(m.joints_l_h(i), 1),
        "outside_air_l_h": _r(litres_per_hour(float(m.exchange_m3_s[i])), 1),
        "air_changes_1_h": _r(m.air_changes_per_hour[i], 3),
        "honey_g_day": _r(b.ledger.honey_kg_s[i] * 8.64e7, 2),
        "heat_ledger_w": {k: _r(v, 4) for k, v in m.heat_ledger_w(i).items()},
        "water_ledger_g_day": {k: _r(v, 4) for k, v in m.water_ledger_g_day(i).items()},
        "profiles": {face: _profile(m.profile(face, i)) for face in FACES},
    }


def _profile(profile: Profile) -> dict[str, Any]:
    """Return a profile from the inner surface outwards."""
    return {
        "depth_m": [_r(v, 5) for v in profile.depth_m],
        "temperature_degc": [_r(v) for v in profile.temperature_degc],
        "saturation_pressure_pa": [_r(v, 1) for v in profile.saturation_pa],
        "vapour_pressure_pa": [_r(v, 1) for v in profile.vapour_pressure_pa],
        "condensing_g_m2_day": [_r(v, 3) for v in profile.condensing_g_m2_day],
    }


def design_record(
    monthly: MonthlyAssessment, nights: NightAssessment, materials: dict[str, Material]
) -> dict[str, Any]:
    """Return the year of a design."""
    hive = monthly.model.hive
    low, high = nights.winter_honey_range_kg
    width, length, height = outer_size_m(hive)
    return {
        "design": monthly.design.id,
        "name": monthly.design.name,
        "cavity_l": _r(monthly.model.litres, 2),
        "outer_width_m": _r(width, 4),
        "outer_length_m": _r(length, 4),
        "outer_height_m": _r(height, 4),
        "part_weights_kg": {k: _r(v) for k, v in part_weights_kg(hive, materials).items()},
        "centre_of_gravity_m": [_r(v, 3) for v in centre_of_gravity_m(hive, materials)],
        "transmittance_w_m2k": {
            face: _r(float(monthly.model.faces[face].middle_w_m2k()), 4) for face in FACES
        },
        "face_conductance_w_k": {
            face: _r(float(monthly.model.faces[face].whole_w_k()), 4) for face in FACES
        },
        "shell_conductance_w_k": _r(monthly.conductance_w_k, 4),
        "shell_solved": monthly.solved,
        "mass_to_conductance_kg_k_w": _r(monthly.mass_to_conductance_kg_k_w, 3),
        "winter_honey_kg": _r(monthly.winter_honey_kg),
        "winter_honey_low_kg": _r(low),
        "winter_honey_high_kg": _r(high),
        "stores_kg": monthly.colony.stores_kg,
        "crown_wet_nights": _r(nights.crown_wet_nights, 1),
        "rim_wet_nights": _r(nights.rim_wet_nights, 1),
        "cold_night": {
            "month": MONTH_NAMES[monthly.coldest_month],
            **readings_record(nights.cold_nights, monthly.coldest_month),
        },
        "months": [
            {
                "month": MONTH_NAMES[i],
                **readings_record(monthly.months, i),
                "honey_kg": _r(monthly.honey_kg_month[i], 3),
            }
            for i in range(12)
        ],
    }


def month_rows(record: dict[str, Any]) -> list[dict[str, Any]]:
    """Return the months of a design record as flat rows for a table."""
    return [
        {
            "design": record["design"],
            "month": m["month"],
            "outside_degc": m["outside_temperature_degc"],
            "nest_degc": m["zones"]["nest"]["temperature_degc"],
            "crown_degc": m["zones"]["crown"]["temperature_degc"],
            "crown_rh": m["zones"]["crown"]["relative_humidity"],
            "crown_dew_point_degc": m["zones"]["crown"]["dew_point_degc"],
            "lid_middle_degc": m["surfaces"]["lid middle"]["temperature_degc"],
            "lid_rim_degc": m["surfaces"]["lid rim"]["temperature_degc"],
            "middle_wall_degc": m["surfaces"]["middle wall"]["temperature_degc"],
            "floor_degc": m["surfaces"]["floor"]["temperature_degc"],
            "cluster_w": m["heat_ledger_w"]["metabolic"],
            "honey_kg": m["honey_kg"],
            "outside_air_l_h": m["outside_air_l_h"],
            "co2_percent": round(100 * m["zones"]["nest"]["co2_volume_share"], 3),
            "crown": m["crown"],
        }
        for m in record["months"]
    ]


def compare_record(row: CompareRow) -> dict[str, Any]:
    """Return a compare row with unit-bearing keys; ranges are None until they are worked out."""
    record: dict[str, Any] = {
        "design": row.design_id,
        "name": row.name,
        "benchmark": row.benchmark,
        "calibrated": row.calibrated,
        "crown": row.crown,
        "crown_in_so_many_of_ten": None if row.sure is None else row.sure.of_ten,
        "crown_of_most_draws": None if row.sure is None else row.sure.verdict,
    }
    for figure in FIGURES:
        value = figure.of(row)
        record[figure.key] = None if value is None else _r(value, figure.digits)
        if figure.ends is not None:
            ends = figure.range_of(row)
            for key, end in zip(figure.range_keys(), ends or (None, None), strict=True):
                record[key] = None if end is None else _r(end, figure.digits)
    snow = row.snow
    record["under_snow"] = None if snow is None else snow.air
    record["under_snow_bad_after_h"] = (
        None if snow is None or snow.hours is None else _r(snow.hours, 1)
    )
    return record


def sweep_record(point: SweepPoint) -> dict[str, Any]:
    """Return a point of a sweep."""
    return {
        "thickness_m": _r(point.thickness_m, 4),
        "shell_conductance_w_k": _r(point.conductance_w_k, 4),
        "winter_honey_kg": _r(point.winter_honey_kg, 3),
        "lid_margin_k": _r(point.lid_margin_k, 3),
        "rim_margin_k": _r(point.rim_margin_k, 3),
        "crown": point.crown,
        "weight_kg": _r(point.weight_kg),
        "cost_eur": _r(point.cost_eur),
        "honey_saved_kg_per_cm": None if point.saved_kg_cm is None else _r(point.saved_kg_cm, 4),
        "cost_eur_per_cm": None if point.cost_eur_cm is None else _r(point.cost_eur_cm, 3),
        "pays": point.pays,
    }


def verdict_record(verdict: SchoolVerdict) -> dict[str, Any]:
    """Return a school's verdict with its criteria."""
    return {
        "school": verdict.school,
        "applies": verdict.applies,
        "said": said_of(verdict),
        "passed": verdict.passed,
        "criteria": [
            {
                "criterion": c.id,
                "name": CRITERIA[c.id],
                "value": _r(c.value, 3),
                "sense": c.sense,
                "limit": _r(c.limit, 3),
                "unit": c.quantity,
                "asks_for": "how it is built" if c.built else "what comes of it",
                "passed": c.passed,
                "met_in_so_many_of_ten": c.of_ten,
            }
            for c in verdict.criteria
        ],
    }


def remedy_record(remedy: Remedy) -> dict[str, Any]:
    """Return a remedy that was tried."""
    return {
        "text": what_is_done(remedy),
        "effect": effect(remedy, METRIC),
        "crown": remedy.crown,
        "wet_months_less": remedy.wet_months_less,
        "lid_dry_in_so_many_of_ten": remedy.dry_of_ten,
        "honey_kg": _r(remedy.honey_kg, 3),
        "cost_eur": _r(remedy.cost_eur, 2),
        "co2_volume_share": _r(remedy.co2_share, 4),
    }


def material_row(material: Material) -> dict[str, Any]:
    """Return a material as one flat row."""
    row = dict(to_document(material))
    row["cautions"] = " ".join(material.cautions)
    row["stock_m"] = " ".join(f"{size:g}" for size in material.stock_m)
    return row


def _r(value: float, digits: int = 2) -> float:
    return round(float(value), digits)
