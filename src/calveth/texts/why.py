"""Why a hive differs, and what its logs tell: in words a keeper uses, with what is not known."""

from __future__ import annotations

from collections.abc import Sequence

from calveth.core.diary.calibrate import MODEL_ERROR, Calibration, Factor, FactorEstimate
from calveth.core.diary.explain import (
    NOT_ENOUGH,
    Difference,
    Explained,
    Explanation,
    Test,
    Why,
)
from calveth.core.diary.misfit import Unexpected
from calveth.texts.units import METRIC, UnitSystem

WHY_TEXT: dict[Why, str] = {
    "as worked out": "it is as worked out",
    "leaks more": "lid and joints leak more than taken",
    "leaks less": "bees have sealed lid and joints",
    "rim bridge": "a board touches the rim past the insulation",
    "wet insulation": "the insulation is wet or thinner",
    "fewer bees": "there are fewer bees than taken",
    "more bees": "there are more bees than taken",
    "entrance blocked": "the entrance is blocked",
    "windier": "it stands windier than taken",
    "sheltered": "it stands more sheltered than taken",
    "wetter air": "the air of the place is wetter than taken",
    "probe off": "the probe reads off",
}
LOOK_TEXT: dict[Why, str] = {
    "leaks more": "look along the lid with a light inside, or with smoke from outside",
    "rim bridge": "feel for a cold line under the lid along the rim",
    "wet insulation": "weigh the lid, and press a dry cloth to the insulation",
    "fewer bees": "count the seams of bees on a mild day",
    "more bees": "count the seams of bees on a mild day",
    "entrance blocked": "clear the entrance of dead bees with a bent wire",
    "probe off": "put the probe into ice water: it must show 0 °C",
}
"""What to look at first; with a veil on, where the hive is opened."""
TESTS: dict[Test, tuple[str, str, str]] = {
    "lid": ("a thermometer under the lid", "temperature", "under the lid"),
    "nest": ("a thermometer beside the bees", "temperature", "beside the bees"),
    "floor": ("a thermometer on the floor", "temperature", "on the floor"),
    "humidity": ("a hygrometer under the lid", "share", "humidity"),
    "co2": ("a CO2 reading under the lid", "share", "CO2"),
    "honey": ("hefting twice, four weeks apart,", "mass", "honey, 4 weeks"),
    "wet nights": ("looking under the lid now and then", "nights", "wet nights"),
}
"""The looks in words, the kind of their figure, and the head of their column."""
_FACTOR: dict[Factor, str] = {
    "leakage": "what joints let through",
    "bees": "the bees",
    "mixing": "the mixing under the lid",
    "shell": "what the layers conduct",
}
_BLIND: dict[Factor, str] = {
    "leakage": "A reading of CO2, or a test of the empty hive with smoke or CO2, would.",
    "bees": "Counting seams, or a scale, would.",
    "mixing": "A second probe among the bees would.",
    "shell": "A heater test of the empty hive would.",
}
_LID_CELLS = (
    "front left",
    "front",
    "front right",
    "left",
    "middle",
    "right",
    "back left",
    "back",
    "back right",
)
"""Cells of the lid map, as they are looked at from above with the entrance before one."""
_NOT_TRIED = (
    "Not tried: rain that gets in, a hive that leans, a crack or a gap just there. Look there."
)


def explained_sentences(explained: Explained, units: UnitSystem = METRIC) -> list[str]:
    """Return what explains best, what comes next, and what would tell them apart.

    A reason is named when it explains enough, and in most hives built alike; what none explains is
    told with its place.
    """
    best = explained.ranked[0]
    if not explained.named:
        others = [e for e in explained.ranked if e.why != "as worked out"][:1]
        left = [f"Not ruled out: {WHY_TEXT[e.why]}." for e in others]
        if explained.unexplained:
            return [
                f"None of what was tried explains that {places_words(explained.unexplained)}.",
                _NOT_TRIED,
                *left,
            ]
        if explained.gain >= NOT_ENOUGH:
            return [
                "What was seen is not just what was expected, but no reason explains it in most "
                "hives built alike.",
                *left,
            ]
        first = "What was seen is near what was expected; no other reason explains it better."
        return [first, *left]
    sentences = [f"Most likely {why_words(best)}."]
    if explained.unexplained:
        sentences.append(
            f"It does not explain that {places_words(explained.unexplained)}. {_NOT_TRIED}"
        )
    if best.why in LOOK_TEXT:
        sentences.append(f"To see it: {LOOK_TEXT[best.why]}.")
    second = explained.ranked[1]
    if second.cost - best.cost < NOT_ENOUGH and second.why != "as worked out":
        sentences.append(f"About as likely: {why_words(second)}.")
    if explained.difference is not None:
        sentences.append(difference_sentence(explained.difference, units))
    return sentences


def places_words(places: Sequence[Unexpected]) -> str:
    """Return which places were not as expected, each once: wet where dry was expected, or dry."""
    places_said = []
    for wet in (True, False):
        names = dict.fromkeys(
            "the floor" if p.place == "floor" else f"the lid at the {_LID_CELLS[p.cell]}"
            for p in places
            if p.wet == wet
        )
        if names:
            listed = " and ".join(filter(None, [", ".join(list(names)[:-1]), list(names)[-1]]))
            state = "wet or mouldy where dry" if wet else "dry where wet"
            places_said.append(
                f"{listed} {'was' if len(names) == 1 else 'were'} {state} was expected"
            )
    return ", and ".join(places_said)


def why_words(each: Explanation) -> str:
    """Return an explanation with its size, where it has one."""
    times = f" ({each.times:g} times)" if each.times != 1.0 else ""
    return f"{WHY_TEXT[each.why]}{times}"


def difference_sentence(difference: Difference, units: UnitSystem = METRIC) -> str:
    """Return which look tells two explanations apart, and what each would show."""
    words = TESTS[difference.test][0]
    one, two = (look_figure(difference.test, v, units) for v in difference.says)
    return (
        f"Told apart by {words} in the cold weeks: {one} if {WHY_TEXT[difference.one]}, "
        f"{two} if {WHY_TEXT[difference.two]}."
    )


def look_figure(test: Test, value: float, units: UnitSystem) -> str:
    """Return what a look would find, with its unit."""
    kind = TESTS[test][1]
    if kind == "share":
        return f"{100 * value:.1f} %" if test == "co2" else f"{100 * value:.0f} %"
    if kind == "nights":
        return f"{value:.0f} nights"
    if kind == "mass":
        return f"{units.write(value, 'mass', 1)} less"
    return units.write(value, "temperature", 1)


def calibration_sentences(calibrations: Calibration) -> list[str]:
    """Return what the logs tell of each factor, and of which they tell nothing."""
    sentences = [factor_sentence(f, calibrations) for f in calibrations.factors]
    sentences.append(
        f"The ranges hold a hive that differs from the model in more than these four, as far as "
        f"that is known: {MODEL_ERROR:g} times as wide as its logs alone would make them."
    )
    sentences.append("Factors are taken over by hand alone; figures then say “calibrated”.")
    return sentences


def factor_sentence(factor: FactorEstimate, calibration: Calibration) -> str:
    """Return what a log tells of a factor; only where it narrows what was known before."""
    what = _FACTOR[factor.factor]
    band = f"{factor.low:.2f} to {factor.high:.2f}"
    if factor.tells:
        logged = ", ".join(calibration.quantities).replace("co2", "CO2")
        return (
            f"{what.capitalize()}: {factor.value:.2f} times what was taken ({band}; "
            f"{calibration.nights} nights: {logged})."
        )
    if factor.confirms:
        return f"{what.capitalize()}: near what was taken ({band})."
    return f"The log cannot tell {what} ({band} fit as well). {_BLIND[factor.factor]}"
