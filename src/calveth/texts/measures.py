"""The measures of Compare and of the report: what each is called, and how it is written."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from calveth.core.assess.bands import Bands, FloatArray, burns_less
from calveth.core.assess.snowed_in import UnderSnow
from calveth.core.compare.table import CompareRow
from calveth.texts.units import UnitSystem


@dataclass(frozen=True, slots=True)
class Measure:
    """One row: its name, how a value is written, which end is better (0: neither).

    ``figure`` names its working, empty where there is none; ``keys`` the figures it shows
    (`core.compare.figures`).
    """

    name: str
    figure: str
    write: Callable[[CompareRow, UnitSystem], str]
    rank: Callable[[CompareRow], float | None]
    better: int
    hint: str
    apart: float = 0.0
    share: float = 0.0
    tells_crown: bool = False
    tells_snow: bool = False
    keys: tuple[str, ...] = ()

    def differ(self, one: CompareRow, two: CompareRow) -> bool:
        """Return whether two hives differ beyond what the figures are good for.

        By ``apart`` in the row's own unit, or by a ``share`` of it. Of two hives one burns less
        honey when it does in nine of ten draws, the same draws for both.
        """
        a, b = self.rank(one), self.rank(two)
        if a is None or b is None:
            return False
        if self.figure != "winter honey":
            return abs(a - b) > max(self.apart, self.share * max(abs(a), abs(b)))
        if one.bands is None or two.bands is None:
            return False
        return not _EVEN < burns_less(one.bands, two.bands) < 1 - _EVEN


# One of two hives that burns less in more than nine of ten draws burns less.
_EVEN = 0.1


def _crown(row: CompareRow, _: UnitSystem) -> str:
    """Return what is found under the lid, and in how many of ten draws where it is not sure."""
    if row.sure is None:
        return row.crown
    if not row.sure.can_be_told:
        return "cannot be told"
    return row.sure.verdict if row.sure.sure else f"{row.sure.verdict}\nin {row.sure.of_ten} of 10"


_SNOW = {
    "no snow": "no snow",
    "exit": "exit stays open",
    "no exit": "no exit,\nair lasts",
    "bad": "air bad after\n{hours} hours",
    "suffocates": "suffocates,\nbad after {hours} h",
}


def snow_words(snow: UnderSnow | None) -> str:
    """Return in a few words what becomes of bees and air when snow closes the low entrances."""
    if snow is None:
        return "…"
    hours = snow.hours or 0.0
    return _SNOW[snow.air].format(hours=f"{hours:.0f}" if hours >= 2 else f"{hours:.1f}")


def _range(row: CompareRow, u: UnitSystem) -> str:
    likely = u.write(row.winter_honey_kg, "mass")
    if row.winter_honey_range_kg is None:
        return f"{likely}\n…"
    low, high = row.winter_honey_range_kg
    return f"{likely}\n{u.number(low, 'mass')} to {u.number(high, 'mass')}"


def _nights(row: CompareRow, _: UnitSystem) -> str:
    if row.crown_wet_nights is None or row.rim_wet_nights is None:
        return "… / …"
    likely = f"{row.crown_wet_nights:.0f} / {row.rim_wet_nights:.0f}"
    if row.bands is None:
        return likely
    low, high = (f"{v:.0f}" for v in row.bands.rim_wet_nights)
    return f"{likely}\nrim {low if low == high else f'{low} to {high}'}"


def _with_range(
    likely: Callable[[CompareRow, UnitSystem], str],
    band: Callable[[Bands], FloatArray],
    quantity: str,
    digits: int | None = None,
) -> Callable[[CompareRow, UnitSystem], str]:
    """Return a writer of a figure with its range in a second line."""

    def write(row: CompareRow, u: UnitSystem) -> str:
        if row.bands is None:
            return likely(row, u)
        some = digits if u.name == "metric" else None
        low, high = (u.number(float(v), quantity, some) for v in band(row.bands)[:, row.month])
        return f"{likely(row, u)}\n{low if low == high else f'{low} to {high}'}"

    return write


def _all_nights(row: CompareRow) -> float | None:
    if row.crown_wet_nights is None or row.rim_wet_nights is None:
        return None
    return row.crown_wet_nights + row.rim_wet_nights


def _margin(value: float | None, u: UnitSystem) -> str:
    if value is None:
        return "…"
    sign = "+" if value >= 0 else ""
    return f"{sign}{u.margin(value)} {u.unit('temperature difference')}"


MEASURES = (
    Measure(
        "under the lid",
        "",
        _crown,
        lambda _: None,
        0,
        "What is found under the lid: dry, a wet ring along the edge, or wet above the bees.",
        tells_crown=True,
    ),
    Measure(
        "exit and air\nunder snow",
        "",
        lambda r, _: snow_words(r.snow),
        lambda _: None,
        0,
        "When snow closes the low entrances: whether an exit stays, and whether the bees "
        "still get air. A triangle with a stroke: danger to their life.",
        tells_snow=True,
    ),
    Measure(
        "winter honey\nlikely, range",
        "winter honey",
        _range,
        lambda r: r.winter_honey_kg,
        -1,
        "Burnt from the last to the first forage week; the range holds eight of ten hives "
        "built alike, as wood, bees and joints are not known exactly.",
        share=0.03,
        keys=("winter_honey_kg",),
    ),
    Measure(
        "lid middle above dew",
        "lid middle above dew",
        lambda r, u: _margin(r.crown_margin_k, u),
        lambda r: r.crown_margin_k,
        1,
        "Surface minus dew point of the air under the lid.",
        apart=0.2,
        keys=("crown_dew_margin_k",),
    ),
    Measure(
        "lid rim above dew",
        "lid rim above dew",
        lambda r, u: _margin(r.rim_margin_k, u),
        lambda r: r.rim_margin_k,
        1,
        "At the edge, where the wet ring starts.",
        apart=0.2,
        keys=("rim_dew_margin_k",),
    ),
    Measure(
        "lid, coldest night",
        "",
        lambda r, u: _margin(r.coldest_night_margin_k, u),
        lambda r: r.coldest_night_margin_k,
        1,
        "The colder of middle and rim in the coldest night to be expected.",
        apart=0.2,
        keys=("coldest_night_dew_margin_k",),
    ),
    Measure(
        "water on the lid",
        "",
        _with_range(
            lambda r, u: u.write(r.water_on_lid_g_day, "water") + " a day",
            lambda b: b.lid_g_day,
            "water",
        ),
        lambda r: r.water_on_lid_g_day,
        -1,
        "Condensing on middle and rim.",
        apart=0.5,
        share=0.1,
        keys=("water_on_lid_g_day",),
    ),
    Measure(
        "water lower down",
        "",
        _with_range(
            lambda r, u: (
                u.write(r.water_elsewhere_g_day, "water", 0 if u.name == "metric" else 1) + " a day"
            ),
            lambda b: b.elsewhere_g_day,
            "water",
            0,
        ),
        lambda r: r.water_elsewhere_g_day,
        0,
        "On walls, floor and combs: some leave it for the bees to drink, others want none.",
        keys=("water_elsewhere_g_day",),
    ),
    Measure(
        "wet nights\nmiddle / rim, range",
        "wet nights",
        _nights,
        _all_nights,
        -1,
        "Winter nights on which water is seen at middle and rim of the lid.",
        apart=10.0,
        keys=("crown_wet_nights", "rim_wet_nights"),
    ),
    Measure(
        "heat loss",
        "heat loss",
        lambda r, _: f"{r.conductance_w_k:.2f} W/K",
        lambda r: r.conductance_w_k,
        -1,
        "Whole shell with its joints, solved in three dimensions; "
        "estimated while it changes. Plain 19 mm boards lose about 4.",
        share=0.03,
        keys=("shell_conductance_w_k",),
    ),
    Measure(
        "bees per heat loss",
        "bees per heat loss",
        lambda r, _: f"{r.mass_to_conductance_kg_k_w:.2f} kg·K/W",
        lambda r: r.mass_to_conductance_kg_k_w,
        1,
        "Kilograms of bees for each W/K; board hives have under 0.8.",
        share=0.03,
        keys=("mass_to_conductance_kg_k_w",),
    ),
    Measure(
        "fresh air",
        "fresh air",
        _with_range(lambda r, u: u.write(r.air_l_h, "flow"), lambda b: b.air_l_h, "flow"),
        lambda r: r.air_l_h,
        0,
        "Outside air through openings and joints.",
        keys=("outside_air_l_h",),
    ),
    Measure(
        "draught at the comb",
        "",
        lambda r, u: u.write(r.draught_m_s, "speed", 2),
        lambda r: r.draught_m_s,
        -1,
        "The strongest of all openings (estimate); under 0.1 nobody feels it.",
        apart=0.05,
        keys=("draught_at_comb_m_s",),
    ),
    Measure(
        "CO2 beside the bees",
        "CO2 in the nest",
        _with_range(lambda r, _: f"{r.co2_share:.1%}", lambda b: b.co2_share, "fraction", 1),
        lambda r: r.co2_share,
        0,
        "By volume; 0.3 to 4 % is usual in winter, over 8 % is bad.",
        keys=("co2_volume_share",),
    ),
    Measure(
        "empty / heaviest part",
        "weight",
        lambda r, u: (
            f"{u.number(r.weight_kg, 'mass', 0)} / {u.write(r.heaviest_part_kg, 'mass', 0)}"
        ),
        lambda r: r.heaviest_part_kg,
        0,
        "Without bees, combs and honey.",
        keys=("empty_weight_kg", "heaviest_part_kg"),
    ),
    Measure(
        "material",
        "material",
        lambda r, u: u.write(r.cost_eur, "money"),
        lambda r: r.cost_eur,
        -1,
        "Rough price of the material; edit it in your materials.",
        share=0.1,
        keys=("material_cost_eur",),
    ),
)
