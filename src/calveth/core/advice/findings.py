"""What is to be said of a hive in a month: what was found, its cause and what helps, as messages.

The words stand in `texts.findings`.
"""

from __future__ import annotations

from calveth.core.advice.finding import Depth, Finding, month_value
from calveth.core.advice.findings_air import air_finding, damp_air, snowed_in_findings, two_ways
from calveth.core.assess.bands import tenths
from calveth.core.assess.damp import DampYear
from calveth.core.assess.readings import LID_MIDDLE, LID_RIM, VISIBLE_G_DAY, crown_verdict
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.solved_shells import conduction_in
from calveth.core.climate.place import days_without_forage, has_forage
from calveth.core.constants import DRAUGHT_SPEED, RSE, RSI_EDGE
from calveth.core.hive.design import FACES
from calveth.core.hive.zones import CROWN
from calveth.core.message import Message, Value, message
from calveth.core.nest.network import SURFACES, WINDOW
from calveth.core.solids.parts import inner_part

# Hotter air than this no fanning brings down to the 36 °C of a brood nest; estimate [°C].
_HOT_DEGC = 45.0
# A rim is said to be above dew point from so much on; less is written as nought [K].
_LEAST_SPARE_K = 0.05
# A rim left this much warmer (temperature factor) than solved is told.
_WARMER = 0.01
# A hive that leans so much lets water run out; common practice, no source [°].
_LEANS_DEG = 1.0
# Shares of what a quilt holds at which it drips, and up to which it is at ease; estimates.
QUILT_DRIPS, _QUILT_EASY = 0.95, 0.6
# Rain that makes walls conduct less than this many times as well is not told.
_RAIN_TOLD = 1.05
# A rim this much colder (temperature factor) than its faces is called a bridge.
_BRIDGE = 0.04


def findings(
    assessed: MonthlyAssessment,
    month: int,
    depth: Depth | None = None,
) -> list[Finding]:
    """Return the findings of a design in a month (0 to 11), the crown first.

    Then walls, air, stores, and what the year shows when it is known.
    """
    judged = [
        _crown(assessed, month, depth),
        *_sureness(assessed, month, depth),
        _below(assessed, month),
        air_finding(assessed, month),
        *two_ways(month, depth),
        _stores(assessed, depth),
    ]
    judged += _window(assessed, month)
    judged += _draught(assessed, month)
    judged += _hot(assessed, month) + _rim_limit(assessed) + _bare(assessed)
    if depth is not None:
        judged += _depth(month, depth)
    judged += damp_air(assessed, month)
    if has_forage(assessed.place, month):
        judged.append(Finding(message=message("bees fan"), tone="note"))
    return judged


def _hot(assessed: MonthlyAssessment, month: int) -> list[Finding]:
    """Return a finding for air so hot that the bees could not live in it."""
    hottest = float(assessed.months.balance.temperature_degc[:, month].max())
    if hottest < _HOT_DEGC:
        return []
    return [
        Finding(
            message=message(
                "air hot", month=month_value(month), air=Value(hottest, "temperature", 0, 0)
            ),
            tone="bad",
            cause=message("heat finds no way out"),
            helps=message("larger openings or less insulation"),
        )
    ]


def _rim_limit(assessed: MonthlyAssessment) -> list[Finding]:
    """Return a finding where the balance cannot make the rim as cold as it was solved."""
    warmer = assessed.model.correction.rim_warmer
    if warmer < _WARMER:
        return []
    metal = any(assessed.materials[key].group == "metal" for key in assessed.design.material_ids)
    return [
        Finding(
            message=message("rim colder than told", share=Value(warmer, "share", 0)),
            tone="note",
            cause=message("metal leads heat away" if metal else "joint leads heat away"),
            helps=message("keep metal from the rim" if metal else "a warmer edge"),
        )
    ]


def _bare(assessed: MonthlyAssessment) -> list[Finding]:
    """Return what faces the bees that they chew or must not reach."""
    judged = []
    for face in FACES:
        layers = [
            y
            for y in assessed.model.design.shell.stack(face)
            if assessed.materials[y.material].kind != "air gap"
        ]
        inner = assessed.materials[layers[-1].material] if layers else None
        if inner is not None and not inner.bee_safe_bare:
            judged.append(
                Finding(
                    message=message(
                        "bare to the bees",
                        face=Value(face, "surface"),
                        material=Value(inner.name, "name"),
                    ),
                    tone="bad",
                    surface=face,
                    helps=message("a board or cloth towards the bees"),
                )
            )
    return judged


def _coldest_face(assessed: MonthlyAssessment) -> Message:
    faces = assessed.model.faces
    worst = max(faces, key=lambda face: float(faces[face].middle_w_m2k()))
    u = float(faces[worst].middle_w_m2k())
    name = "walls let most heat through" if worst == "walls" else "face lets most heat through"
    return message(name, face=Value(worst, "surface"), u=Value(u, "transmittance"))


def _why_the_rim(assessed: MonthlyAssessment, month: int) -> Message:
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
    return message(
        "inner board bridges the rim" if bridge else "two cold faces meet",
        factor=Value(spot.factor, "number"),
        plain=Value(plain, "number"),
    )


def _crown(assessed: MonthlyAssessment, month: int, depth: Depth | None) -> Finding:
    m = assessed.months
    verdict = crown_verdict(m, month)
    if verdict == "dry":
        spare = float(min(m.margin_k[LID_MIDDLE, month], m.margin_k[LID_RIM, month]))
        if spare < _LEAST_SPARE_K:
            return Finding(
                message=message(
                    "lid hardly damp",
                    month=month_value(month),
                    below=Value(max(-spare, 0.0), "temperature difference"),
                ),
                tone="note",
                surface="lid rim",
                cause=_why_the_rim(assessed, month),
                helps=message("a warmer edge"),
            )
        return Finding(
            message=message(
                "lid dry", month=month_value(month), spare=Value(spare, "temperature difference")
            ),
            tone="good",
            surface="lid rim",
        )
    at = LID_MIDDLE if verdict == "wet" else LID_RIM
    degc = float(m.balance.surface_degc[at, month])
    there = {
        "month": month_value(month),
        "surface": Value(degc, "temperature"),
        "dew": Value(float(m.dew_point_degc[CROWN, month]), "temperature"),
        "water": Value(float(m.condensing_g_day[at, month]), "water"),
    }
    if verdict == "wet ring":
        return Finding(
            message=message("wet ring", **there),
            tone="note",
            surface="lid rim",
            cause=_why_the_rim(assessed, month),
            helps=message("a warmer edge"),
        )
    drips = depth is None or depth.damp.ceiling == "drips"
    fate = "lid freezes" if degc < 0 else "lid drips" if drips else "lid runs"
    return Finding(
        message=message(fate, **there),
        tone="bad",
        surface="lid middle",
        cause=_coldest_face(assessed),
        helps=message("a thicker lid, a quilt or air"),
    )


def _sureness(assessed: MonthlyAssessment, month: int, depth: Depth | None) -> list[Finding]:
    """Return how sure the verdict under the lid is, where it is not sure."""
    if depth is None or depth.nights.bands is None:
        return []
    sure = depth.nights.bands.sureness(month)
    likely = crown_verdict(assessed.months, month)
    if sure.sure and sure.verdict == likely:
        return []
    tens = {
        f"of_ten_{k}": Value(float(count), "number", 0)
        for k, count in enumerate(tenths(depth.nights.bands.crown[:, month]))
    }
    return [
        Finding(
            message=message("lid in so many of ten" if sure.can_be_told else "lid untold", **tens),
            tone="note",
            surface="lid rim",
            cause=message("not known exactly"),
        )
    ]


def _below(assessed: MonthlyAssessment, month: int) -> Finding:
    water = assessed.months.condensing_g_day[:, month]
    wet = [k for k in range(2, WINDOW) if water[k] >= VISIBLE_G_DAY]
    if not wet:
        return Finding(message=message("walls and floor dry"), tone="good", surface="middle wall")
    leans = assessed.design.tilt_deg >= _LEANS_DEG
    return Finding(
        message=message(
            "water below runs out" if leans else "water below",
            surfaces=Value(tuple(SURFACES[k] for k in wet), "surfaces"),
            water=Value(float(water[wet].sum()), "water", 0, 1),
        ),
        tone="note",
        surface=SURFACES[wet[0]],
        cause=message("walls below are coldest"),
        helps=message("some leave it to drink"),
    )


def _stores(assessed: MonthlyAssessment, depth: Depth | None) -> Finding:
    if not any(days_without_forage(assessed.place)):
        return Finding(message=message("no week without forage"), tone="note")
    need = Value(assessed.winter_honey_kg, "mass")
    held = Value(assessed.colony.stores_kg, "mass", 0, 0)
    if not assessed.stores_last:
        return Finding(
            message=message("stores do not last", need=need, held=held),
            tone="bad",
            helps=message("feed or insulate"),
        )
    most = assessed.winter_honey_kg if depth is None else depth.nights.winter_honey_range_kg[1]
    if most > assessed.colony.stores_kg:
        high = Value(most, "mass")
        return Finding(
            message=message("stores short", need=need, held=held, high=high), tone="note"
        )
    return Finding(message=message("stores last", need=need, held=held), tone="good")


def _window(assessed: MonthlyAssessment, month: int) -> list[Finding]:
    if assessed.design.window is None:
        return []
    m = assessed.months
    grams = float(m.condensing_g_day[WINDOW, month])
    if grams < VISIBLE_G_DAY:
        return []
    degc = float(m.balance.surface_degc[WINDOW, month])
    return [
        Finding(
            message=message(
                "window frost" if degc < 0 else "window wet",
                surface=Value(degc, "temperature"),
                water=Value(grams, "water"),
            ),
            tone="note",
            surface="window",
            cause=message("glass is thin"),
            helps=message("a second pane or a cover"),
        )
    ]


def _draught(assessed: MonthlyAssessment, month: int) -> list[Finding]:
    """Return a draught at the comb; in months of forage bees fan more than any draught."""
    if has_forage(assessed.place, month):
        return []
    air = max(
        assessed.months.openings(month), key=lambda opening: opening.draught_m_s, default=None
    )
    if air is None or air.draught_m_s < DRAUGHT_SPEED.value:
        return []
    name = next(o.name for o in assessed.design.openings if o.id == air.opening)
    return [
        Finding(
            message=message(
                "draught", opening=Value(name, "name"), speed=Value(air.draught_m_s, "speed", 2, 2)
            ),
            tone="note",
            cause=message("wind and warm air draw"),
            helps=message(
                "a smaller opening or a turn"
                if _has_rack(assessed)
                else "a rack, a smaller opening or a turn"
            ),
        )
    ]


def _has_rack(assessed: MonthlyAssessment) -> bool:
    form = assessed.design.form
    return form.rack_m > 0


def _depth(month: int, depth: Depth) -> list[Finding]:
    judged = snowed_in_findings(month, depth.snowed_in) + _inside(depth.damp)
    quilt = depth.damp.quilt
    if quilt is not None:
        full = quilt.fullest
        wet = full > QUILT_DRIPS
        judged.append(
            Finding(
                message=message(
                    "quilt drips",
                    share=Value(full, "share"),
                    over=Value(float(quilt.dripped_kg.sum()), "mass", 1),
                )
                if wet
                else message("quilt fills", share=Value(full, "share")),
                tone="bad" if wet else "good" if full < _QUILT_EASY else "note",
                helps=message("more vents or a deeper quilt") if wet else None,
            )
        )
    mould = tuple(SURFACES[k] for k in range(len(SURFACES)) if depth.damp.mould[k, month])
    if mould:
        judged.append(
            Finding(
                message=message(
                    "mould", month=month_value(month), surfaces=Value(mould, "surfaces")
                ),
                tone="note",
                cause=message("80 % at the surface"),
                helps=message("warmer surfaces or more air"),
            )
        )
    rain = depth.damp.rain
    if rain is not None and rain.conductivity_factor.max() > _RAIN_TOLD:
        worst = float(rain.conductivity_factor.max())
        judged.append(
            Finding(
                message=message("rain wets walls", more=Value(worst - 1, "share")),
                tone="note",
                cause=message("nothing keeps rain off"),
                helps=message("paint or render"),
            )
        )
    return judged


def _inside(damp: DampYear) -> list[Finding]:
    judged = []
    for face, year in damp.inside.items():
        if year.first_month < 0:
            continue
        stays = year.residue_g_m2 > 0
        judged.append(
            Finding(
                message=message(
                    "water stays inside" if stays else "water inside dries",
                    face=Value(face, "surface"),
                    first=month_value(year.first_month),
                    most=Value(year.most_g_m2, "water per area", 0, 1),
                    worst=month_value(year.worst_month),
                ),
                tone="bad" if stays else "note",
                surface=face,
                cause=message("vapour gets in faster than out"),
                helps=message("tighter inside or more open outside"),
            )
        )
    return judged
