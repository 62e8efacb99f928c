"""The diary in words: marks, what is due, what was expected beside what was seen."""

from __future__ import annotations

from calveth.core.diary.due import Due
from calveth.core.diary.expected import Agreement, Expected, Survival, lid_as_expected
from calveth.core.hive.design import Design
from calveth.core.records.diary import Inspection, Mark, StandingHive
from calveth.texts.units import METRIC, UnitSystem
from calveth.texts.year import act_words

MARK_TEXT: dict[Mark, str] = {
    "not looked": "not looked at",
    "dry": "dry",
    "damp": "damp to the hand",
    "wet": "wet",
    "ice": "ice",
    "mould": "mould",
    "propolis": "sealed with propolis",
}
STINGS = "Open on a mild day, veil and gloves on; a lid that is lifted has a hand under it."
"""The caution beside an inspection."""


def due_sentence(act: Due, design: Design, units: UnitSystem = METRIC) -> str:
    """Return what is to be done, without its date and hive."""
    if act.kind == "plan" and act.before is not None and act.setting is not None:
        return act_words(design, act.before, act.setting) or "nothing changes on this hive"
    kg = act.expected_kg
    if act.kind == "heft":
        if kg is None:
            return "heft"
        return f"heft: {units.write(max(kg, 0.0), 'mass', 1)} of honey expected, less means feed"
    if act.kind == "feed":
        assert kg is not None
        left = units.write(max(kg, 0.0), "mass", 1)
        return f"feed: only {left} would be left"
    return "look under the lid again: it was wet"


def agreement_sentence(agreement: Agreement) -> str:
    """Return how the lids that were looked at agree with what was expected."""
    if not agreement.count:
        return "No lid was looked at yet."
    text = f"{agreement.agreed} of {agreement.count} lids were as expected"
    surprises = []
    if agreement.dry_but_wet:
        surprises.append(f"{agreement.dry_but_wet} wet where dry was expected")
    if agreement.wet_but_dry:
        surprises.append(f"{agreement.wet_but_dry} dry where wet was expected")
    return f"{text}{': ' if surprises else ''}{', '.join(surprises)}."


def survival_sentence(survival: Survival, name: str) -> str:
    """Return how many winters hives of a design came through, with the interval of so few."""
    low, high = survival.interval
    return (
        f"{name}: {survival.alive} of {survival.winters} winters that were looked after survived; "
        f"{100 * low:.0f} to {100 * high:.0f} % is what so few can say."
    )


def beside_sentences(
    seen: Inspection,
    expected: Expected,
    stores_kg: float | None,
    units: UnitSystem = METRIC,
    stores_band_kg: tuple[float, float] | None = None,
) -> list[str]:
    """Return what was expected beside what was seen, a line for each thing that was looked at.

    ``stores_band_kg`` is where the stores of 8 of 10 hives built alike would be.
    """
    sentences = [
        f"Expected outside {units.write(expected.outside_degc, 'temperature', 1)}, beside the bees "
        f"{units.write(expected.nest_degc, 'temperature', 1)}, CO2 {100 * expected.co2:.1f} %."
    ]
    if seen.looked_at_lid:
        agree = [agrees for _, agrees in lid_as_expected(seen, expected)]
        sentences.append(f"Lid: {sum(agree)} of {len(agree)} places as expected.")
    if seen.floor != "not looked":
        sentences.append(f"Floor: {MARK_TEXT[seen.floor]}, expected {MARK_TEXT[expected.floor]}.")
    if seen.stores_kg is not None and stores_kg is not None:
        had, give = (units.write(v, "mass", 1) for v in (seen.stores_kg, seen.stores_sure_kg))
        least, most = stores_band_kg or (stores_kg, stores_kg)
        sure = seen.stores_sure_kg
        verdict = (
            "as expected"
            if least - sure <= seen.stores_kg <= most + sure
            else ("less than expected" if seen.stores_kg < stores_kg else "more than expected")
        )
        left = units.write(max(stores_kg, 0.0), "mass", 1)
        if stores_band_kg is not None:
            ends = [units.number(max(v, 0.0), "mass", 1) for v in stores_band_kg]
            left += f" ({ends[0]} to {ends[1]})"
        sentences.append(f"Stores: {had} ± {give}, expected {left}: {verdict}.")
    return sentences


def hive_line(hive: StandingHive, design: Design) -> str:
    """Return a hive in a line: its design, since when, what became of it."""
    end = f", {hive.fate} {hive.until}" if hive.until else ""
    colony = f", colony {hive.colony}" if hive.colony else ""
    return f"{design.name}, since {hive.since}{end}{colony}"
