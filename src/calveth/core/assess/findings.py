"""What the hive says in a month: sentences a beekeeper would say, with cause and what helps."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from calveth.core.airflow.paths import CROWN, NEST
from calveth.core.assess.damp import DampYear
from calveth.core.assess.iced import Iced
from calveth.core.assess.model import SURFACES, WINDOW
from calveth.core.assess.moments import LID_MIDDLE, LID_RIM, VISIBLE_G_DAY, crown_verdict
from calveth.core.assess.result import MonthlyAssessment, NightAssessment
from calveth.core.assess.shells import conduction_in
from calveth.core.calendar import MONTH_NAMES
from calveth.core.climate.place import has_forage
from calveth.core.constants import RSE, RSI_EDGE
from calveth.core.hive.parts import inner_part
from calveth.core.units import METRIC, UnitSystem, litres_per_hour

Tone = Literal["good", "note", "bad"]

FANNING = "In a month of forage bees fan; the air they move is an estimate, and nectar is left out."

# Above this share of CO2 beekeepers call the air thick; common practice, no source.
_THICK_AIR = 0.04
BAD_AIR = 0.08
"""Share of CO2 by volume from which air is bad for bees [-]; estimate, 0.05 to 0.10."""
# Hotter air than this no fanning brings down to the 36 °C of a brood nest; estimate [°C].
_HOT_DEGC = 45.0
# A rim left this much warmer (temperature factor) than solved is told.
_WARMER = 0.01
# Air faster than this at the comb is felt as a draught; common practice, no source.
_DRAUGHT_M_S = 0.2


# A rim this much colder (temperature factor) than its faces is called a bridge.
_BRIDGE = 0.04


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """One sentence, how it sounds, the surface it speaks of, its cause and what helps."""

    text: str
    tone: Tone
    surface: str = ""
    cause: str = ""
    helps: str = ""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Depth:
    """What is worked out after the months: nights, damp through the year, ice."""

    nights: NightAssessment
    damp: DampYear
    iced: Iced | None


def findings(
    assessed: MonthlyAssessment,
    month: int,
    units: UnitSystem = METRIC,
    depth: Depth | None = None,
) -> list[Finding]:
    """Return the findings of a design in a month (0 to 11): crown, walls, air, stores, and what
    the year shows when it is known.
    """
    said = [
        _crown(assessed, month, units, depth),
        _below(assessed, month, units),
        _air(assessed, month, units),
        _stores(assessed, units, depth),
    ]
    said += _window(assessed, month, units)
    said += _draught(assessed, month, units)
    said += _hot(assessed, month, units) + _rim_limit(assessed)
    if depth is not None:
        said += _depth(month, units, depth)
    if has_forage(assessed.place, month):
        said.append(Finding(text=FANNING, tone="note"))
    return said


def _hot(assessed: MonthlyAssessment, month: int, units: UnitSystem) -> list[Finding]:
    """Return a finding for air so hot that the bees could not live in it."""
    hottest = float(assessed.months.balance.temperature_degc[:, month].max())
    if hottest < _HOT_DEGC:
        return []
    return [
        Finding(
            text=f"In {MONTH_NAMES[month]} the air inside comes to "
            f"{units.write(hottest, 'temperature', 0)}: combs sink and bees leave.",
            tone="bad",
            cause="the heat of the bees finds no way out",
            helps="larger openings, fewer bees in so small a room, or less insulation",
        )
    ]


def _rim_limit(assessed: MonthlyAssessment) -> list[Finding]:
    """Return a finding where the balance cannot make the rim as cold as it was solved."""
    warmer = assessed.model.correction.rim_warmer
    if warmer < _WARMER:
        return []
    return [
        Finding(
            text="The rim of the lid is colder than told here, by about "
            f"{warmer:.0%} of the difference between inside and outside.",
            tone="note",
            cause="metal leads its heat away faster than air brings it",
            helps="keep metal from the rim",
        )
    ]


def _coldest_face(assessed: MonthlyAssessment) -> str:
    faces = assessed.model.faces
    worst = max(faces, key=lambda face: float(faces[face].middle_w_m2k()))
    u = float(faces[worst].middle_w_m2k())
    verb = "let" if worst == "walls" else "lets"
    return f"the {worst} {verb} most heat through, U {u:.2f} W/(m²·K)"


def _why_the_rim(assessed: MonthlyAssessment, month: int) -> str:
    """Return why the rim is cold: the joint, the edge itself, or a face that is thin anyway."""
    solved = conduction_in(assessed.case.shells, assessed.design, month)
    spot = solved.coldest.get("lid rim") if solved is not None else None
    if spot is None:
        return _coldest_face(assessed)
    faces, rsi = assessed.model.faces, RSI_EDGE.value
    plain = min(
        1 - rsi / (rsi + sum(faces[face].layers_m2k_w) + RSE.value) for face in ("lid", "walls")
    )
    if plain - spot.factor < _BRIDGE:
        return _coldest_face(assessed)
    design = assessed.design
    layers = max(inner_part(design.shell.stack(face))[0] for face in ("lid", "walls"))
    bridge = design.joinery.lid in ("board on the rim", "telescoping rim") and layers > 0
    why = (
        "the inner board of the lid lies on the rim and leads the heat out"
        if bridge
        else "two cold faces meet there"
    )
    return f"{why}: factor {spot.factor:.2f}, {plain:.2f} as if the joint were not there"


def _crown(
    assessed: MonthlyAssessment, month: int, units: UnitSystem, depth: Depth | None
) -> Finding:
    m = assessed.months
    verdict = crown_verdict(m, month)
    name = MONTH_NAMES[month]
    if verdict == "dry":
        spare = float(min(m.margin_k[LID_MIDDLE, month], m.margin_k[LID_RIM, month]))
        return Finding(
            text=(
                f"Dry under the lid in {name}: even the rim is "
                f"{units.write(spare, 'temperature difference')} above dew point."
            ),
            tone="good",
            surface="lid rim",
        )
    at = LID_MIDDLE if verdict == "wet" else LID_RIM
    degc = float(m.balance.surface_degc[at, month])
    there = units.write(degc, "temperature")
    dew = units.write(float(m.dew_point_degc[CROWN, month]), "temperature")
    grams = units.write(float(m.condensing_g_day[at, month]), "water")
    if verdict == "wet ring":
        return Finding(
            text=(
                f"Wet ring in {name}: the rim of the lid is at {there}, dew point {dew}, about "
                f"{grams} of water a day. The middle stays dry."
            ),
            tone="note",
            surface="lid rim",
            cause=_why_the_rim(assessed, month),
            helps="a warmer edge: carry the insulation over the rim, thicken the worse of the two",
        )
    fate = "drips on it" if depth is None or depth.damp.ceiling == "drips" else "runs to the rim"
    if degc < 0:
        fate = "freezes there and drips in the thaw"
    return Finding(
        text=(
            f"Wet above the cluster in {name}: the lid is at {there}, dew point {dew}, about "
            f"{grams} a day {fate}. Thicken the lid first."
        ),
        tone="bad",
        surface="lid middle",
        cause=_coldest_face(assessed),
        helps="a thicker lid, a quilt, or more air above",
    )


def _below(assessed: MonthlyAssessment, month: int, units: UnitSystem) -> Finding:
    water = assessed.months.condensing_g_day[:, month]
    wet = [k for k in range(2, WINDOW) if water[k] >= VISIBLE_G_DAY]
    if not wet:
        return Finding(text="Walls and floor are dry.", tone="good", surface="middle wall")
    names = " and ".join(
        [", ".join(SURFACES[k] for k in wet[:-1]), SURFACES[wet[-1]]] if len(wet) > 1
        else [SURFACES[wet[0]]]
    )  # fmt: skip
    grams = units.write(float(water[wet].sum()), "water", 0 if units.name == "metric" else 1)
    tilt = assessed.design.tilt_deg
    away = (
        "It runs down and out, the hive leans forward."
        if tilt >= 1.0
        else "Tilt the hive a little forward so that it runs out."
    )
    return Finding(
        text=f"Water gathers on {names}: {grams} a day. {away}",
        tone="note",
        surface=SURFACES[wet[0]],
        cause="the walls below the cluster are the coldest place the damp air meets",
        helps="some leave it for the bees to drink; thicker walls make it less",
    )


def _air(assessed: MonthlyAssessment, month: int, units: UnitSystem) -> Finding:
    m = assessed.months
    flow = units.write(litres_per_hour(float(m.exchange_m3_s[month])), "flow")
    co2 = float(m.co2_volume_share[NEST, month])
    thick = co2 > _THICK_AIR
    return Finding(
        text=(
            f"Air: {flow.replace('L/h', 'L an hour')}, {m.air_changes_per_hour[month]:.1f} "
            f"changes; CO2 about {co2:.1%}"
            + (", thick: open the entrance a little." if thick else ".")
        ),
        tone="note" if thick else "good",
        helps="a wider entrance, or a small hole above" if thick else "",
    )


def _stores(assessed: MonthlyAssessment, units: UnitSystem, depth: Depth | None) -> Finding:
    need = units.write(assessed.winter_honey_kg, "mass")
    held = units.write(assessed.colony.stores_kg, "mass", 0)
    if not assessed.stores_last:
        return Finding(
            text=f"Stores of {held} do not last: about {need} are burnt (estimate).",
            tone="bad",
            helps="feed in autumn, or insulate",
        )
    if depth is not None and depth.nights.winter_honey_range_kg[1] > assessed.colony.stores_kg:
        high = units.write(depth.nights.winter_honey_range_kg[1], "mass")
        return Finding(
            text=(
                f"Winter honey about {need} of {held} held, but busy bees would burn {high} "
                "(estimate): heft the hive in late winter."
            ),
            tone="note",
        )
    return Finding(text=f"Winter honey about {need} of {held} held (estimate).", tone="good")


def _window(assessed: MonthlyAssessment, month: int, units: UnitSystem) -> list[Finding]:
    if assessed.design.window is None:
        return []
    m = assessed.months
    grams = float(m.condensing_g_day[WINDOW, month])
    if grams < VISIBLE_G_DAY:
        return []
    said = (
        "Frost on the window" if m.balance.surface_degc[WINDOW, month] < 0 else "The window is wet"
    )
    degc = units.write(float(m.balance.surface_degc[WINDOW, month]), "temperature")
    return [
        Finding(
            text=f"{said}: {degc}, {units.write(grams, 'water')} a day.",
            tone="note",
            surface="window",
            cause="glass is thin",
            helps="a second pane, or a cover board over it",
        )
    ]


def _draught(assessed: MonthlyAssessment, month: int, units: UnitSystem) -> list[Finding]:
    air = max(
        assessed.months.openings(month), key=lambda opening: opening.draught_m_s, default=None
    )
    if air is None or air.draught_m_s < _DRAUGHT_M_S:
        return []
    name = next(o.name for o in assessed.design.openings if o.id == air.opening)
    return [
        Finding(
            text=(
                f"Draught at the comb from the {name}: about "
                f"{units.write(air.draught_m_s, 'speed', 2)} (estimate)."
            ),
            tone="note",
            cause="wind and warm air draw through it, and the combs hang close",
            helps="a slatted rack, a smaller opening, or a turn away from the wind",
        )
    ]


def _depth(month: int, units: UnitSystem, depth: Depth) -> list[Finding]:
    found = _iced(month, depth.iced) + _inside(units, depth.damp)
    quilt = depth.damp.quilt
    if quilt is not None:
        full = quilt.fullest
        wet = full > 0.95
        found.append(
            Finding(
                text=f"The quilt fills to {full:.0%} of what it holds"
                + (": it drips." if wet else "."),
                tone="bad" if wet else "good" if full < 0.6 else "note",
                helps="more vents above the shavings, or a deeper quilt" if wet else "",
            )
        )
    mould = [SURFACES[k] for k in range(len(SURFACES)) if depth.damp.mould[k, month]]
    if mould:
        where = ", ".join(mould)
        found.append(
            Finding(
                text=f"Mould may grow in {MONTH_NAMES[month]}: over 80 % humidity at {where}.",
                tone="note",
                cause="EN ISO 13788: a monthly mean of more than 80 % at the surface",
                helps="warmer surfaces or more air; combs are kept clean by the bees on them",
            )
        )
    rain = depth.damp.rain
    if rain is not None and rain.conductivity_factor.max() > 1.05:
        worst = float(rain.conductivity_factor.max())
        found.append(
            Finding(
                text=f"Bare walls drink rain: they let up to {worst - 1:.0%} more heat through, "
                "and chill as they dry (estimate).",
                tone="note",
                cause="nothing keeps driving rain off the blocks",
                helps="paint, render or an outer board",
            )
        )
    return found


def _iced(month: int, iced: Iced | None) -> list[Finding]:
    if iced is None or iced.days == 0 or iced.month != month:
        return []
    if not iced.shut:
        return []
    name, shut = MONTH_NAMES[month], " and ".join(iced.shut)
    if iced.moments is None:
        return [
            Finding(
                text=f"When snow closes the {shut} in {name} the bees suffocate.",
                tone="bad",
                helps="a small hole high up, or keep the entrance free",
            )
        ]
    co2 = float(iced.moments.co2_volume_share[NEST, 0])
    exit_left = bool(iced.left)
    return [
        Finding(
            text=(
                f"Snow may close the {shut} for {iced.days:.0f} days of {name}: CO2 then about "
                f"{co2:.1%}, " + ("an exit stays above." if exit_left else "no exit is left.")
            ),
            tone=_air_tone(co2, exit_left=exit_left),
            helps="" if exit_left else "a small hole high up, or keep the entrance free",
        )
    ]


def _air_tone(co2: float, *, exit_left: bool) -> Tone:
    if co2 >= BAD_AIR:
        return "bad"
    return "good" if exit_left and co2 < _THICK_AIR else "note"


def _inside(units: UnitSystem, damp: DampYear) -> list[Finding]:
    found = []
    for face, year in damp.inside.items():
        if year.first_month < 0:
            continue
        most = units.write(year.most_g_m2, "water", 0 if units.name == "metric" else 1)
        stays = year.residue_g_m2 > 0
        found.append(
            Finding(
                text=(
                    f"Inside the {face} water gathers from {MONTH_NAMES[year.first_month]}, "
                    f"{most}/m² by {MONTH_NAMES[year.worst_month]}; "
                    + ("not all of it dries by autumn." if stays else "it dries in summer.")
                ),
                tone="bad" if stays else "note",
                surface=face,
                cause="vapour gets in faster from the warm side than it gets out on the cold side",
                helps="a tighter layer inside, or a more open one outside",
            )
        )
    return found
