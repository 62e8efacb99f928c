"""What a comparison says, in a beekeeper's words."""

from __future__ import annotations

from collections.abc import Sequence

from calveth.core.assess.readings import CrownVerdict
from calveth.core.calendar import MONTH_NAMES
from calveth.core.compare.table import CompareRow
from calveth.texts.findings import WORDS
from calveth.texts.units import METRIC, UnitSystem


def listed(names: Sequence[str]) -> str:
    """Return names in a row as people say them."""
    return names[0] if len(names) == 1 else ", ".join(names[:-1]) + " and " + names[-1]


def _with_honey(rows: Sequence[CompareRow], what: str, units: UnitSystem) -> str:
    """Return names with their winter honey in brackets, the thriftiest first."""
    thrifty = sorted(rows, key=lambda row: row.winter_honey_kg)
    first, *rest = (f"{row.name} ({units.write(row.winter_honey_kg, 'mass')}" for row in thrifty)
    named = [f"{first}{what})", *(f"{name})" for name in rest)]
    return listed(named)


def summary_sentences(
    rows: Sequence[CompareRow], month: int, *, forage: bool = False, units: UnitSystem = METRIC
) -> list[str]:
    """Return what the comparison says, in a beekeeper's words: the candidates, not the benchmarks.

    Where the crown stays dry, where it turns wet, and in brackets what each costs in honey over
    the winter. With ``forage`` it adds that bees fan in such a month.
    """
    own = [row for row in rows if not row.benchmark] or list(rows)
    name = MONTH_NAMES[month]
    groups: dict[CrownVerdict, list[CompareRow]] = {
        verdict: [row for row in own if row.crown == verdict]
        for verdict in ("dry", "wet ring", "wet")
    }
    openings: dict[CrownVerdict, str] = {
        "dry": f"In {name} it stays dry under the whole lid in ",
        "wet ring": "A wet ring along the rim of the lid, the middle dry: ",
        "wet": "Wet above the cluster, it drips: ",
    }
    sentences = []
    dying = [row.name for row in own if row.snow is not None and row.snow.danger]
    if dying:
        sentences.append(f"Danger under snow, the bees run out of air: {listed(dying)}.")
    if not groups["dry"]:
        sentences.append(f"In {name} no lid stays dry all the way to its rim.")
    what = " of winter honey"
    for verdict, members in groups.items():
        if members:
            sentences.append(openings[verdict] + _with_honey(members, what, units) + ".")
            what = ""
    if forage:
        sentences.append(WORDS["bees fan"])
    return sentences
