"""The figures of a hive beside others, one row each: name, unit, digits, where it comes from.

Window, command line, report and files all read this table; what a figure is called on a screen
stands in `texts.measures`, whose rows name these.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from calveth.core.assess.bands import Bands, FloatArray
from calveth.core.compare.table import CompareRow


@dataclass(frozen=True, slots=True)
class Figure:
    """A figure of `CompareRow`, as it is written to a file.

    Attributes
    ----------
    name, unit : str
        Of its key; ends of its range have ``low`` and ``high`` between the two.
    digits : int
        Decimals.
    of : callable
        The figure of a row; None until it is worked out.
    ends : callable or None
        Its range by month [2, 12], or of the year [2]; None for a figure without one.
    """

    name: str
    unit: str
    digits: int
    of: Callable[[CompareRow], float | None]
    ends: Callable[[Bands], FloatArray] | None = None

    @property
    def key(self) -> str:
        """What it is called in files."""
        return f"{self.name}_{self.unit}" if self.unit else self.name

    def range_keys(self) -> tuple[str, str]:
        """Return what the ends of its range are called in files."""
        unit = f"_{self.unit}" if self.unit else ""
        return f"{self.name}_low{unit}", f"{self.name}_high{unit}"

    def range_of(self, row: CompareRow) -> tuple[float, float] | None:
        """Return the ends of its range in the row's month, None until they are worked out."""
        if self.ends is None or row.bands is None:
            return None
        ends = self.ends(row.bands)
        low, high = ends[:, row.month] if ends.ndim == 2 else ends
        return float(low), float(high)


FIGURES = (
    Figure("crown_dew_margin", "k", 2, lambda r: r.crown_margin_k),
    Figure("rim_dew_margin", "k", 2, lambda r: r.rim_margin_k),
    Figure("coldest_night_dew_margin", "k", 2, lambda r: r.coldest_night_margin_k),
    Figure("crown_relative_humidity", "", 3, lambda r: r.crown_humidity),
    Figure("nest_degc", "", 2, lambda r: r.nest_degc),
    Figure("water_on_lid", "g_day", 2, lambda r: r.water_on_lid_g_day, lambda b: b.lid_g_day),
    Figure(
        "water_elsewhere",
        "g_day",
        2,
        lambda r: r.water_elsewhere_g_day,
        lambda b: b.elsewhere_g_day,
    ),
    Figure("outside_air", "l_h", 1, lambda r: r.air_l_h, lambda b: b.air_l_h),
    Figure("co2_volume_share", "", 4, lambda r: r.co2_share, lambda b: b.co2_share),
    Figure("month_honey", "kg", 3, lambda r: r.month_honey_kg),
    Figure(
        "winter_honey",
        "kg",
        2,
        lambda r: r.winter_honey_kg,
        lambda b: np.array(b.winter_honey_range_kg),
    ),
    Figure("crown_wet_nights", "", 1, lambda r: r.crown_wet_nights, lambda b: b.middle_wet_nights),
    Figure("rim_wet_nights", "", 1, lambda r: r.rim_wet_nights, lambda b: b.rim_wet_nights),
    Figure("shell_conductance", "w_k", 3, lambda r: r.conductance_w_k),
    Figure("mass_to_conductance", "kg_k_w", 3, lambda r: r.mass_to_conductance_kg_k_w),
    Figure("cavity", "l", 1, lambda r: r.litres),
    Figure("empty_weight", "kg", 2, lambda r: r.weight_kg),
    Figure("heaviest_part", "kg", 2, lambda r: r.heaviest_part_kg),
    Figure("material_cost", "eur", 2, lambda r: r.cost_eur),
    Figure("draught_at_comb", "m_s", 3, lambda r: r.draught_m_s),
)
FIGURE = {figure.key: figure for figure in FIGURES}
"""The figures by their keys."""
