"""Single months of many designs, balanced together."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from calveth.core.assess.readings import NestReadings
from calveth.core.assess.weather import mean_degc, outside_at
from calveth.core.case import HiveCase
from calveth.core.climate.place import warm_months
from calveth.core.colony.colony import colony_at
from calveth.core.hive.by_month import in_month
from calveth.core.nest.network import HiveModel, hive_model, stack_terms
from calveth.core.nest.steady import solve


def readings_in_month(
    cases: Sequence[HiveCase],
    month: int,
) -> list[NestReadings]:
    """Return hives at one place, each set by its plan, in the mean of one month (0 to 11).

    Raises
    ------
    NotBalancedError
        When no steady state is found for one of them.
    """
    warm = warm_months(cases[0].place)[month] if cases else False
    models = [hive_model(case.of(in_month(case.design, month)), warm=warm) for case in cases]
    groups: dict[object, list[int]] = {}
    for number, model in enumerate(models):
        groups.setdefault(model.paths.structure, []).append(number)
    by_month: dict[int, NestReadings] = {}
    for members in groups.values():
        for k, readings in zip(
            members, _together([models[k] for k in members], cases[0], month), strict=True
        ):
            by_month[k] = readings
    return [by_month[k] for k in range(len(cases))]


def _together(models: Sequence[HiveModel], case: HiveCase, month: int) -> list[NestReadings]:
    place, colony = case.place, case.colony
    n = len(models)
    months = np.full(n, month)
    outside = outside_at(place, months, mean_degc(place)[months])
    bees = colony_at(colony, months)
    owner = np.arange(n)
    balance = solve(
        stack_terms([m.terms for m in models], owner),
        bees,
        outside,
        names=[m.design.name for m in models],
    )
    readings = NestReadings(tuple(models), owner, outside, bees, balance)
    return [readings.take(np.array([k])) for k in range(n)]
