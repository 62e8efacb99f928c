"""A design through the year: the answers a beekeeper asks for.

In two steps, so that a screen can answer while the hand still moves: `assess_months` (twelve
conditions) and `nights.assess_nights` (nights, the coldest night, and the bands of the figures).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core.assess.readings import NestReadings
from calveth.core.assess.weather import (
    mean_degc,
    outside_at,
)
from calveth.core.calendar import DAYS_IN_MONTH
from calveth.core.case import HiveCase
from calveth.core.climate.air import station_pressure_pa, vapour_pressure_pa, wind_at_hive_m_s
from calveth.core.climate.place import Place, coldest_month, days_without_forage, warm_months
from calveth.core.colony.colony import Colony, colony_at
from calveth.core.constants import CO2_OUTSIDE_MASS_FRACTION
from calveth.core.errors import require_between
from calveth.core.heat.shell import mass_to_conductance_kg_k_w
from calveth.core.hive.by_month import in_month, month_designs
from calveth.core.hive.design import Design
from calveth.core.materials import Material
from calveth.core.nest.balance import Outside
from calveth.core.nest.network import HiveModel, hive_model, stack_terms
from calveth.core.nest.steady import NotBalancedError, no_answer, solve, solve_lanes

FloatArray = NDArray[np.float64]

_ALL_MONTHS = np.arange(12)
# Designs balanced in one batch: larger ones no longer gain and leave the processor's cache.
_BATCH = 40


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class MonthlyAssessment:
    """A design at a place in the mean conditions of its twelve months.

    Attributes
    ----------
    conductance_w_k : float
        Whole shell with edges and table films [W/K].
    mass_to_conductance_kg_k_w : float
        Bees of the coldest month over the conductance [kg·K/W].
    case : HiveCase
        What was asked.
    winter_honey_kg : float
        Honey burnt from the last to the first forage week [kg].
    honey_kg_month : array [12]
        Honey burnt in each month [kg].
    coldest_month : int
        Index 0 to 11.
    """

    case: HiveCase
    model: HiveModel
    conductance_w_k: float
    mass_to_conductance_kg_k_w: float
    months: NestReadings
    winter_honey_kg: float
    honey_kg_month: FloatArray
    coldest_month: int

    @property
    def design(self) -> Design:
        """The hive."""
        return self.case.design

    @property
    def place(self) -> Place:
        """Where it stands."""
        return self.case.place

    @property
    def colony(self) -> Colony:
        """Its bees."""
        return self.case.colony

    @property
    def materials(self) -> Mapping[str, Material]:
        """The materials by id."""
        return self.case.materials

    @property
    def solved(self) -> bool:
        """Whether the shell of the coldest month is solved, not estimated."""
        return self.model.correction.solved

    def model_in(self, month: int) -> HiveModel:
        """Return the hive as its season plan sets it in a month (0 to 11)."""
        return self.months.model_at(month)

    @property
    def stores_last(self) -> bool:
        """Whether the stores outlast the winter."""
        return self.winter_honey_kg <= self.colony.stores_kg


def assess_months(case: HiveCase) -> MonthlyAssessment:
    """Return a hive in the mean conditions of the months, each as its season plan sets it.

    Raises
    ------
    NotBalancedError
        When no steady state is found.
    """
    return assess_many([case])[0]


def assess_many(cases: Sequence[HiveCase]) -> list[MonthlyAssessment]:
    """Return many hives in the mean conditions of the months; see `assess_each`.

    Raises
    ------
    NotBalancedError
        When no steady state is found for one of them.
    """
    assessments = []
    for answer in assess_each(cases):
        if isinstance(answer, NotBalancedError):
            raise answer
        assessments.append(answer)
    return assessments


def assess_each(cases: Sequence[HiveCase]) -> list[MonthlyAssessment | NotBalancedError]:
    """Return many hives, or draws of one, each with its months or with why it has none.

    Hives of one structure (openings and boxes alike in number) at one place are balanced together
    in one batch, which costs far less than one after the other. Every hive begins from the same
    state whatever stands beside it, so that its figures do not depend on its neighbours.
    """
    each = [year_models(case) for case in cases]
    groups: dict[object, list[int]] = {}
    for number, (case, (models, _)) in enumerate(zip(cases, each, strict=True)):
        key = (models[0].paths.structure, case.place, case.colony)
        groups.setdefault(key, []).append(number)
    results: dict[int, MonthlyAssessment | NotBalancedError] = {}
    for members in groups.values():
        for first in range(0, len(members), _BATCH):
            part = members[first : first + _BATCH]
            answers = _batch([each[k] for k in part], cases[part[0]])
            for k, months in zip(part, answers, strict=True):
                if isinstance(months, NotBalancedError):
                    results[k] = months
                else:
                    results[k] = _monthly(cases[k], months)
    return [results[k] for k in range(len(cases))]


def _batch(
    each: Sequence[tuple[list[HiveModel], NDArray[np.int_]]],
    case: HiveCase,
) -> list[NestReadings | NotBalancedError]:
    """Return the months of hives of one structure at the place of ``case``, balanced together."""
    place, colony = case.place, case.colony
    models = [m for own, _ in each for m in own]
    first = np.cumsum([0, *(len(own) for own, _ in each)])
    owner = np.concatenate([first[n] + own for n, (_, own) in enumerate(each)])
    month = np.tile(_ALL_MONTHS, len(each))
    outside = outside_at(place, month, mean_degc(place)[month])
    bees = colony_at(colony, month)
    terms = stack_terms([m.terms for m in models], owner)
    balance, status = solve_lanes(terms, bees, outside)
    answers: list[NestReadings | NotBalancedError] = []
    for n, (own, own_owner) in enumerate(each):
        index = np.arange(12 * n, 12 * n + 12)
        # The worst of its months speaks for the hive.
        bad = sorted((str(status[k]) != "suffocates", k) for k in index if status[k] != "ok")
        if bad:
            k = bad[0][1]
            degc = float(outside.temperature_degc[k])
            answers.append(no_answer(str(status[k]), own[0].design.name, degc))
            continue
        parts_of = (outside, bees, balance)
        if len(each) > 1:
            parts_of = (outside.take(index), bees.take(index), balance.take(index))
        answers.append(NestReadings(tuple(own), own_owner, *parts_of))
    return answers


def year_models(case: HiveCase) -> tuple[list[HiveModel], NDArray[np.int_]]:
    """Return the different hives a season plan makes of a design, and which one each month has.

    A hive in the warm months, whose walls are dry and warm, is another than in the others.
    """
    months = list(zip(month_designs(case.design), warm_months(case.place), strict=True))
    # Months set alike share one value: they are told apart by identity, which costs nothing.
    at: dict[tuple[int, bool], int] = {}
    built: dict[int, HiveModel] = {}
    models: list[HiveModel] = []
    owner = []
    for design, warm in months:
        key = (id(design), warm)
        if key not in at:
            at[key] = len(models)
            models.append(hive_model(case.of(design), warm=warm, beside=built.get(id(design))))
            built[id(design)] = models[-1]
        owner.append(at[key])
    return models, np.array(owner)


def _monthly(case: HiveCase, months: NestReadings) -> MonthlyAssessment:
    place, colony = case.place, case.colony
    coldest = coldest_month(place)
    model = months.model_at(coldest)
    conductance = model.conductance_w_k
    p = case.parameters
    outside = (1 - p.activity_share) * p.bees_factor * np.array(colony.activity_kg_day)
    rate = months.balance.ledger.honey_kg_s * 86400 + outside
    return MonthlyAssessment(
        case=case,
        model=model,
        conductance_w_k=conductance,
        mass_to_conductance_kg_k_w=mass_to_conductance_kg_k_w(colony.mass_kg[coldest], conductance),
        months=months,
        winter_honey_kg=float((rate * np.array(days_without_forage(place))).sum()),
        honey_kg_month=rate * np.array(DAYS_IN_MONTH),
        coldest_month=coldest,
    )


def assess_condition(
    case: HiveCase,
    *,
    month: int,
    outside_degc: float,
    relative_humidity: float,
    wind_m_s: float,
) -> NestReadings:
    """Return the hive at one outside condition with the bees of a month (0 to 11).

    ``wind_m_s`` is the wind of the weather station at 10 m; shelter and height are taken off.
    """
    require_between("outside temperature", outside_degc, -45, 50, "°C")
    require_between("outside relative humidity", relative_humidity, 0.01, 1, "share")
    require_between("wind", wind_m_s, 0, 40, "m/s")
    one = np.array([outside_degc], dtype=float)
    outside = Outside(
        temperature_degc=one,
        vapour_pressure_pa=vapour_pressure_pa(one, relative_humidity),
        wind_m_s=np.array([wind_at_hive_m_s(wind_m_s, case.place)]),
        pressure_pa=station_pressure_pa(case.place.altitude_m),
        co2_mass_fraction=np.full(1, CO2_OUTSIDE_MASS_FRACTION.value),
    )
    bees = colony_at(case.colony, np.array([month]))
    model = hive_model(case.of(in_month(case.design, month)), warm=warm_months(case.place)[month])
    balance = solve(model.terms, bees, outside, names=[case.design.name])
    return NestReadings((model,), np.zeros(1, dtype=int), outside, bees, balance)
