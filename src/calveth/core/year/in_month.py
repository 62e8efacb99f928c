"""An hour in the place of a month: what shows a month shows the hour."""

from __future__ import annotations

from dataclasses import fields, is_dataclass, replace
from typing import Any

import numpy as np

from calveth.core.assess.readings import NestReadings
from calveth.core.assess.result import MonthlyAssessment


def with_hour(monthly: MonthlyAssessment, month: int, hour: NestReadings) -> MonthlyAssessment:
    """Return the months of a hive with one of them (0 to 11) taken by an hour of its year.

    The months stand for the rest of the figures; drawing, lenses and findings of that month are
    those of the hour.
    """
    months = monthly.months
    owner = months.owner.copy()
    owner[month] = len(months.models)
    outside = replace(
        months.outside,
        **{
            f.name: _put(getattr(months.outside, f.name), getattr(hour.outside, f.name), month)
            for f in fields(months.outside)
            if f.name != "pressure_pa"
        },
    )
    return replace(
        monthly,
        months=NestReadings(
            (*months.models, hour.models[0]),
            owner,
            outside,
            _put(months.bees, hour.bees, month),
            _put(months.balance, hour.balance, month),
        ),
    )


def _put(months: Any, hour: Any, month: int) -> Any:
    """Return arrays [..., 12] with an hour's [..., 1] at a month, through all they are part of.

    Joints are counted by side where the wind turns: their sum stands in the first.
    """
    if is_dataclass(months):
        kind: Any = type(months)
        return kind(
            **{
                f.name: _put(getattr(months, f.name), getattr(hour, f.name), month)
                for f in fields(months)
            }
        )
    shown = np.array(months, dtype=float)
    if shown.ndim > 1 and shown.shape[:-1] != hour.shape[:-1]:
        shown[..., month] = 0.0
        shown[0, month] = hour[..., 0].sum()
    else:
        shown[..., month] = hour[..., 0]
    return shown
