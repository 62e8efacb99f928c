"""Each school's verdict on a design, with every criterion in sight."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from calveth.core import constants as c
from calveth.core.advice.findings import QUILT_DRIPS
from calveth.core.assess.bands import VERDICTS
from calveth.core.assess.damp import DampYear
from calveth.core.assess.nights import NightAssessment
from calveth.core.assess.readings import LID_MIDDLE, LID_RIM, VISIBLE_G_DAY
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.snowed_in import closed_by_ice
from calveth.core.assess.swing import day_swing
from calveth.core.calendar import DAYS_IN_MONTH
from calveth.core.climate.place import days_without_forage
from calveth.core.constants_bees import THIRSTY_ROOM
from calveth.core.hive.design import Design
from calveth.core.hive.forms import cavity_height_m, side_spans_m
from calveth.core.hive.opening import OpeningPart, is_high, opening_parts
from calveth.core.hive.zones import NEST
from calveth.core.materials import Material
from calveth.core.school import SCHOOLS, School
from calveth.core.solids.openings_cut import colony_openings

Sense = Literal["at least", "at most", "yes"]

# Limits of the schools; common practice without a printed source unless said.
_PASSAGE_M = 0.006  # a bee gets through
_MOST_AIR_SHARE = 0.35
_MOST_SWING_K = 6.0
_ROOM_CO2 = 0.06  # little ventilated winter rooms come to so much; common practice
_HOTTEST_DEGC = 36.0  # brood nest 33 to 36 °C, reported by many
_DRY_ROOM, _DAMP_ROOM = 0.15, 0.60


@dataclass(frozen=True, slots=True, kw_only=True)
class Criterion:
    """One thing a school looks at: the figure, its limit, and whether it is met.

    ``id`` names it (`texts.criteria` has the words); ``quantity`` how value and limit are written
    (``g a day``, ``K``, ``share``, ``kg``, ``m/s``, ``°C``); criteria of the sense ``yes`` have a
    value of 1 or 0. ``of_ten`` is in how many of ten draws of what is uncertain it is met, None
    where no draw was asked.
    """

    id: str
    value: float
    sense: Sense
    limit: float
    quantity: str
    passed: bool
    of_ten: int | None = None

    @property
    def built(self) -> bool:
        """Whether it is about how the hive is built, and not about what comes of it."""
        return self.id in _BUILT

    @property
    def missed(self) -> float:
        """0 where it is met and 1 where it is not; between where draws disagree."""
        return 1.0 - (float(self.passed) if self.of_ten is None else self.of_ten / 10)


_BUILT = ("vented", "absorbs", "exit", "tight above", "two sides high", "none low")


@dataclass(frozen=True, slots=True, kw_only=True)
class SchoolVerdict:
    """What a school says of a design; one that does not apply (no winter room) says nothing."""

    school: School
    criteria: tuple[Criterion, ...]
    applies: bool = True

    @property
    def passed(self) -> bool:
        """Whether it applies and every criterion is met."""
        return self.applies and all(criterion.passed for criterion in self.criteria)

    @property
    def has(self) -> tuple[Criterion, ...]:
        """What it wants a hive to have: how it is built."""
        return tuple(criterion for criterion in self.criteria if criterion.built)

    @property
    def achieves(self) -> tuple[Criterion, ...]:
        """What it wants a hive to come to."""
        return tuple(criterion for criterion in self.criteria if not criterion.built)

    @property
    def missed(self) -> float:
        """How many criteria are missed; those draws disagree on count by the share that miss."""
        return sum(criterion.missed for criterion in self.criteria)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Evidence:
    """Everything the schools look at."""

    monthly: MonthlyAssessment
    nights: NightAssessment
    damp: DampYear

    @property
    def materials(self) -> Mapping[str, Material]:
        """The materials by id."""
        return self.monthly.materials


def winter_months(monthly: MonthlyAssessment) -> list[int]:
    """Return the months (0 to 11) that are mostly without forage; the coldest if there is none."""
    days = days_without_forage(monthly.place)
    covered = [k for k in range(12) if days[k] >= DAYS_IN_MONTH[k] / 2]
    return covered or [monthly.coldest_month]


def school_verdict(school: School, evidence: Evidence) -> SchoolVerdict:
    """Return a school's verdict on a design."""
    criteria = {
        "breathing top": _breathing,
        "sealed warm top": _sealed,
        "upper entrance": _upper,
        "high cross-flow": _cross_flow,
        "winter room": _room,
        "mass before insulation": _mass,
    }[school](evidence)
    applies = school != "winter room" or evidence.monthly.place.room is not None
    return SchoolVerdict(school=school, criteria=tuple(criteria), applies=applies)


def all_verdicts(evidence: Evidence) -> tuple[SchoolVerdict, ...]:
    """Return the verdict of every school, in their order."""
    return tuple(school_verdict(school, evidence) for school in SCHOOLS)


def _most(id_: str, value: float, limit: float, quantity: str) -> Criterion:
    return Criterion(
        id=id_,
        value=value,
        sense="at most",
        limit=limit,
        quantity=quantity,
        passed=bool(value <= limit),
    )


def _least(id_: str, value: float, limit: float, quantity: str) -> Criterion:
    return Criterion(
        id=id_,
        value=value,
        sense="at least",
        limit=limit,
        quantity=quantity,
        passed=bool(value >= limit),
    )


def _yes(id_: str, is_so: bool) -> Criterion:
    return Criterion(
        id=id_, value=float(is_so), sense="yes", limit=1.0, quantity="yes", passed=bool(is_so)
    )


def _lid_water(e: Evidence) -> Criterion:
    months = winter_months(e.monthly)
    grams = e.monthly.months.lid_g_day[months]
    of_ten = None
    if e.nights.bands is not None:
        dry = e.nights.bands.crown[VERDICTS.index("dry"), months]
        of_ten = round(10 * float(dry.min()))
    criterion = _most("lid water", float(grams.max()), VISIBLE_G_DAY, "g a day")
    return replace(criterion, of_ten=of_ten)


def _lid_margin(e: Evidence) -> Criterion:
    months = winter_months(e.monthly)
    margin = e.nights.cold_nights.margin_k[[LID_MIDDLE, LID_RIM]][:, months]
    return _least("lid margin", float(margin.min()), 0.0, "K")


def _stores(e: Evidence) -> Criterion:
    high = e.nights.winter_honey_range_kg[1]
    return _most("stores", high, e.monthly.colony.stores_kg, "kg")


def open_parts(design: Design) -> list[OpeningPart]:
    """Return the parts of openings a hive has open, with area."""
    spans, height = side_spans_m(design.form), cavity_height_m(design.form)
    return [
        part
        for opening in colony_openings(design)
        for part in opening_parts(opening, spans, height)
        if part.area_m2 > 0
    ]


def _winter_parts(e: Evidence) -> list[list[tuple[OpeningPart, bool]]]:
    parts = []
    for month in winter_months(e.monthly):
        design = e.monthly.model_in(month).design
        height = cavity_height_m(design.form)
        parts.append([(p, is_high(p.opening, height)) for p in open_parts(design)])
    return parts


def _exit(e: Evidence) -> Criterion:
    """Every winter month has an opening above the snow a bee gets through."""
    every = all(
        any(
            not closed_by_ice(part.opening)
            and min(part.opening.width_m, part.opening.height_m) >= _PASSAGE_M
            and part.opening.mesh_share == 1.0
            for part, _ in parts
        )
        for parts in _winter_parts(e)
    )
    return _yes("exit", every)


def _breathing(e: Evidence) -> list[Criterion]:
    vented = all(any(high for _, high in parts) for parts in _winter_parts(e))
    quilt = e.damp.quilt
    criteria = [
        _yes("vented", vented),
        _lid_water(e),
    ]
    if quilt is None:
        criteria.append(_yes("absorbs", _absorbs(e)))
    else:
        criteria.append(_most("quilt", quilt.fullest, QUILT_DRIPS, "share"))
    return criteria


def _absorbs(e: Evidence) -> bool:
    """Return whether the inner face of the lid takes up water."""
    lid = e.monthly.model_in(e.monthly.coldest_month).design.shell.lid
    return e.materials[lid[-1].material].buffer_value_g_m2 >= 1.0


def _sealed(e: Evidence) -> list[Criterion]:
    tight = not any(high for parts in _winter_parts(e) for _, high in parts)
    return [
        _yes("tight above", tight),
        _lid_margin(e),
        _lid_water(e),
        _stores(e),
    ]


def _upper(e: Evidence) -> list[Criterion]:
    coldest = e.monthly.coldest_month
    ledger = e.monthly.months.heat_ledger_w(coldest)
    share = ledger["with the air"] / max(ledger["with the air"] + ledger["through the shell"], 1e-9)
    return [
        _exit(e),
        _lid_water(e),
        _most("air share", share, _MOST_AIR_SHARE, "share"),
    ]


def _cross_flow(e: Evidence) -> list[Criterion]:
    parts = _winter_parts(e)
    sides = all(len({p.side for p, high in month if high}) >= 2 for month in parts)
    low = any(not high for month in parts for _, high in month)
    coldest = e.monthly.coldest_month
    draught = max((a.draught_m_s for a in e.monthly.months.openings(coldest)), default=0.0)
    return [
        _yes("two sides high", sides),
        _yes("none low", not low),
        _lid_water(e),
        _most("draught", draught, c.DRAUGHT_SPEED.value, "m/s"),
    ]


def _room(e: Evidence) -> list[Criterion]:
    room = e.monthly.place.room
    if room is None:
        return []
    months = [k for k in range(12) if room.holds(k)]
    co2 = e.monthly.months.co2_volume_share[NEST, months].max()
    water = e.monthly.months.condensing_g_day[:, months].sum(axis=0)
    lid = e.monthly.months.condensing_g_day[[LID_MIDDLE, LID_RIM]][:, months].max()
    drink = float(np.max(water)) > VISIBLE_G_DAY or room.relative_humidity >= THIRSTY_ROOM.value
    return [
        _least("room humidity", room.relative_humidity, _DRY_ROOM, "share"),
        _most("room mould", room.relative_humidity, _DAMP_ROOM, "share"),
        _most("room CO2", float(co2), _ROOM_CO2, "share"),
        _most("room lid water", float(lid), VISIBLE_G_DAY, "g a day"),
        _yes("drink", drink),
    ]


def _mass(e: Evidence) -> list[Criterion]:
    swing = day_swing(e.monthly)
    return [
        _most("swing", swing.nest_k, _MOST_SWING_K, "K"),
        _most("hottest hour", swing.hottest_degc, _HOTTEST_DEGC, "°C"),
    ]
