"""The measures designs are compared by, and the sentence that sums them up."""

from __future__ import annotations

from dataclasses import dataclass

from calveth.core.assess.bands import Bands, Sureness
from calveth.core.assess.nights import NightAssessment
from calveth.core.assess.readings import LID_MIDDLE, LID_RIM, CrownVerdict, crown_verdict
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.snowed_in import UnderSnow
from calveth.core.climate.place import days_without_forage
from calveth.core.hive.zones import CROWN, NEST
from calveth.core.solids.cost import material_cost_eur
from calveth.core.solids.quantities import part_weights_kg
from calveth.core.units import litres_per_hour


@dataclass(frozen=True, slots=True, kw_only=True)
class CompareRow:
    """One design in one month; nights, the honey range and snow may still be missing."""

    design_id: str
    name: str
    benchmark: bool
    calibrated: bool
    conductance_w_k: float
    mass_to_conductance_kg_k_w: float
    crown: CrownVerdict
    crown_margin_k: float
    rim_margin_k: float
    crown_humidity: float
    nest_degc: float
    water_on_lid_g_day: float
    water_elsewhere_g_day: float
    air_l_h: float
    co2_share: float
    month_honey_kg: float
    winter_honey_kg: float
    winter_honey_range_kg: tuple[float, float] | None
    bands: Bands | None
    sure: Sureness | None
    year_honey_kg: float
    winter_nights: float
    crown_wet_nights: float | None
    rim_wet_nights: float | None
    litres: float
    weight_kg: float
    heaviest_part_kg: float
    cost_eur: float
    draught_m_s: float
    month: int
    coldest_night_margin_k: float | None
    snow: UnderSnow | None


def compare_row(
    monthly: MonthlyAssessment,
    nights: NightAssessment | None,
    month: int,
    snow: UnderSnow | None = None,
) -> CompareRow:
    """Return the measures of an assessed design in a month (0 to 11)."""
    m, materials = monthly.months, monthly.materials
    weights = part_weights_kg(monthly.model.hive, materials)
    return CompareRow(
        design_id=monthly.design.id,
        name=monthly.design.name,
        benchmark=monthly.design.benchmark,
        calibrated=monthly.design.factors is not None,
        conductance_w_k=monthly.conductance_w_k,
        mass_to_conductance_kg_k_w=monthly.mass_to_conductance_kg_k_w,
        crown=crown_verdict(m, month),
        crown_margin_k=float(m.margin_k[LID_MIDDLE, month]),
        rim_margin_k=float(m.margin_k[LID_RIM, month]),
        crown_humidity=float(m.relative_humidity[CROWN, month]),
        nest_degc=float(m.balance.temperature_degc[NEST, month]),
        water_on_lid_g_day=float(m.lid_g_day[month]),
        water_elsewhere_g_day=float(m.elsewhere_g_day[month]),
        air_l_h=litres_per_hour(float(m.exchange_m3_s[month])),
        co2_share=float(m.co2_volume_share[NEST, month]),
        month_honey_kg=float(monthly.honey_kg_month[month]),
        winter_honey_kg=monthly.winter_honey_kg,
        winter_honey_range_kg=nights.winter_honey_range_kg if nights else None,
        bands=nights.bands if nights else None,
        sure=nights.bands.sureness(month) if nights and nights.bands else None,
        year_honey_kg=float(monthly.honey_kg_month.sum()),
        winter_nights=float(sum(days_without_forage(monthly.place))),
        crown_wet_nights=nights.crown_wet_nights if nights else None,
        rim_wet_nights=nights.rim_wet_nights if nights else None,
        litres=monthly.model.litres,
        weight_kg=sum(weights.values()),
        heaviest_part_kg=max(weights.values()),
        cost_eur=material_cost_eur(monthly.design, materials, monthly.model.hive),
        draught_m_s=max((air.draught_m_s for air in m.openings(month)), default=0.0),
        month=month,
        coldest_night_margin_k=None
        if nights is None
        else float(nights.coldest_night.margin_k[[LID_MIDDLE, LID_RIM], 0].min()),
        snow=snow,
    )
