"""The questions keepers ask of a year: what a centimetre brings, how wide to open, where else.

Each is answered by the same years as everything else, hives paired draw by draw.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from calveth.core.advice.remedies import Remedy
from calveth.core.case import HiveCase
from calveth.core.climate.place import Place
from calveth.core.colony.curves import Strength, curves_for
from calveth.core.compare.sweep import with_thickness
from calveth.core.ends import ends_of
from calveth.core.errors import DomainError
from calveth.core.hive.design import FACES, Design, Face
from calveth.core.hive.plans import by_rules
from calveth.core.solids.cost import material_cost_eur
from calveth.core.year.draws import YearBands, year_bands
from calveth.core.year.result import is_winter

# The hole a feed table vents with, and how far under the lid its lower edge is [m].
_VENT_M, _VENT_UNDER_M = 0.02, 0.03
# A thinner layer is a coat, not a board to ask a centimetre more of [m].
_A_BOARD_M = 0.004

FloatArray = NDArray[np.float64]

CENTIMETRE_M = 0.01


@dataclass(frozen=True, slots=True, kw_only=True)
class Centimetre:
    """What one more centimetre of a layer brings.

    Attributes
    ----------
    face, layer : Face, int
        Which layer, 0 outermost.
    saved_kg : float
        Winter honey it saves, as likely [kg].
    saved_range_kg : tuple of 2 float
        The same in the draws, hive beside hive [kg].
    rim_nights_fewer : float
        Wet winter nights fewer on the rim of the lid.
    cost_eur : float
        What it costs [€].
    pays : bool
        Whether the honey of the years of use is worth more than it costs.
    surely : bool
        Whether that holds at both ends of the range.
    """

    face: Face
    layer: int
    saved_kg: float
    saved_range_kg: tuple[float, float]
    rim_nights_fewer: float
    cost_eur: float
    pays: bool
    surely: bool


def one_more_centimetre(
    case: HiveCase,
    *,
    honey_price_eur_kg: float,
    years_of_use: float,
    draws: int = 12,
    report: Callable[[float], None] = lambda _: None,
) -> list[Centimetre]:
    """Return what a centimetre more of every solid layer brings, the most first.

    Films and gaps are left out: they are not thickened. A shell that is solved lends its edges to
    the thicker one (`shells.SolvedShells`).
    """
    table = case.materials
    layers = [
        (face, k)
        for face in FACES
        for k, layer in enumerate(case.design.shell.stack(face))
        if table[layer.material].kind == "solid" and layer.thickness_m >= _A_BOARD_M
    ]
    thicker: list[tuple[Face, int, Design]] = []
    for face, k in layers:
        now = case.design.shell.stack(face)[k].thickness_m
        try:
            thicker.append((face, k, with_thickness(case.design, face, k, now + CENTIMETRE_M)))
        except DomainError:
            continue  # as thick as a layer may be
    designs = [d for _, _, d in thicker]
    before, *after = year_bands([case, *(case.of(d) for d in designs)], draws, report)
    cost = material_cost_eur(case.design, table)
    rows = []
    for (face, k, design), bands in zip(thicker, after, strict=True):
        saved = before.likely.winter_honey_kg - bands.likely.winter_honey_kg
        each = before.of("winter_honey_kg") - bands.of("winter_honey_kg")
        low, high = _range(each, saved)
        more = material_cost_eur(design, table) - cost
        worth = honey_price_eur_kg * years_of_use
        rows.append(
            Centimetre(
                face=face,
                layer=k,
                saved_kg=saved,
                saved_range_kg=(low, high),
                rim_nights_fewer=before.likely.rim_wet_nights - bands.likely.rim_wet_nights,
                cost_eur=more,
                pays=saved * worth > more,
                # Sure is what both ends of the range agree on, be it yes or no.
                surely=(low * worth > more) == (high * worth > more),
            )
        )
    return sorted(rows, key=lambda c: -c.saved_kg)


def _range(values: FloatArray, likely: float) -> tuple[float, float]:
    if values.size == 0:
        return likely, likely
    low, high = (float(v) for v in ends_of(values))
    return min(low, likely), max(high, likely)


@dataclass(frozen=True, slots=True, kw_only=True)
class Helped:
    """A remedy tried on the year: the hive before and with it, draw beside draw."""

    remedy: Remedy
    before: YearBands
    after: YearBands

    @property
    def wet_nights_more(self) -> float:
        """Wet winter nights more with it, lid and rim together; less is negative."""
        was, now = self.before.likely, self.after.likely
        return (now.lid_wet_nights + now.rim_wet_nights) - (was.lid_wet_nights + was.rim_wet_nights)

    @property
    def drier_of_ten(self) -> float:
        """In how many of ten draws the lid and its rim are wet on fewer winter nights with it."""
        was = self.before.of("lid_wet_nights") + self.before.of("rim_wet_nights")
        now = self.after.of("lid_wet_nights") + self.after.of("rim_wet_nights")
        return 10.0 * float((now < was).mean()) if was.size else 0.0


def what_helped(
    case: HiveCase,
    remedies: Sequence[Remedy],
    *,
    draws: int = 8,
    report: Callable[[float], None] = lambda _: None,
) -> list[Helped]:
    """Return what remedies found for the months do through the year."""
    cases = [
        replace(case.of(r.design), materials={**case.materials, **{m.id: m for m in r.materials}})
        for r in remedies
    ]
    if not cases:
        return []
    before, *after = year_bands([case, *cases], draws, report)
    return [
        Helped(remedy=r, before=before, after=bands)
        for r, bands in zip(remedies, after, strict=True)
    ]


def travel(
    cases: Sequence[HiveCase],
    places: Sequence[Place],
    *,
    strength: Strength = "normal",
    draws: int = 0,
    report: Callable[[float], None] = lambda _: None,
) -> list[list[YearBands]]:
    """Return the years of hives in places: a row for each hive.

    The bees are those of the place (`curves_for`) of one strength: a colony of another climate
    would breed at the wrong time. Acts of a plan that follow a rule go with the place.
    """
    grid = [_moved(case, place, strength) for case in cases for place in places]
    flat = year_bands(grid, draws, report)
    n = len(places)
    return [flat[k * n : (k + 1) * n] for k in range(len(cases))]


def _moved(case: HiveCase, place: Place, strength: Strength) -> HiveCase:
    """Return a hive at another place, with bees of that place and its plan by the rules there."""
    design = replace(case.design, seasons=by_rules(case.design.seasons, place))
    return replace(case, design=design, place=place, colony=curves_for(place, strength))


@dataclass(frozen=True, slots=True, kw_only=True)
class FeedCell:
    """Honey to leave: a place, a hive shut or vented above, and a colony.

    ``likely_kg``, ``low_kg`` and ``high_kg`` are burnt from the last to the first forage week;
    ``days`` is how long that is. Leave the high end.
    """

    place: str
    days: int
    hive: str
    vented: bool
    strength: Strength
    likely_kg: float
    low_kg: float
    high_kg: float


def vented_twin(design: Design) -> Design:
    """Return a hive with a round hole of 20 mm under its lid, which stays open all year."""
    from calveth.core.hive.forms import cavity_height_m
    from calveth.core.hive.opening import Opening

    height = cavity_height_m(design.form)
    hole = Opening(
        id="feed-table-vent",
        name="Hole under the lid",
        shape="hole",
        bottom_m=round(height - _VENT_UNDER_M, 4),
        width_m=_VENT_M,
        height_m=_VENT_M,
    )
    return replace(design, openings=(*design.openings, hole))


def feed_table(
    cases: Sequence[HiveCase],
    places: Sequence[Place],
    strengths: Sequence[Strength] = ("weak", "normal", "strong"),
    *,
    draws: int = 8,
    report: Callable[[float], None] = lambda _: None,
) -> list[FeedCell]:
    """Return the honey to leave by place, hive, vented or not, and colony."""
    jobs = [
        (place, case, vented, strength)
        for place in places
        for case in cases
        for vented in (False, True)
        for strength in strengths
    ]
    made = [
        _moved(case.of(vented_twin(case.design) if vented else case.design), place, strength)
        for place, case, vented, strength in jobs
    ]
    cells = []
    for (place, case, vented, strength), bands in zip(
        jobs, year_bands(made, draws, report), strict=True
    ):
        low, high = bands.band("winter_honey_kg")
        cells.append(
            FeedCell(
                place=place.name,
                days=int(is_winter(place).sum()),
                hive=case.design.name,
                vented=vented,
                strength=strength,
                likely_kg=bands.likely.winter_honey_kg,
                low_kg=low,
                high_kg=high,
            )
        )
    return cells
