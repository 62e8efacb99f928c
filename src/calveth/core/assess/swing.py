"""How much of the day's swing reaches the nest, and its hottest hour; an estimate for summer."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from calveth.core import constants as c
from calveth.core.assess.result import MonthlyAssessment
from calveth.core.assess.weather import surroundings
from calveth.core.heat.periodic import face_matrix, transmittance_and_admittance
from calveth.core.heat.shell import DIRECTIONS
from calveth.core.hive.design import FACES
from calveth.core.hive.zones import NEST


@dataclass(frozen=True, slots=True, kw_only=True)
class DaySwing:
    """The nest on a mean day of the hottest month, without sun on the walls.

    ``outside_k`` and ``nest_k`` are from the coldest to the hottest hour [K]; ``hottest_degc`` is
    the hottest hour of the nest air with the bees' own heat, were they not to cool it.
    """

    month: int
    outside_k: float
    nest_k: float
    hottest_degc: float


def day_swing(monthly: MonthlyAssessment) -> DaySwing:
    """Return the swing of the nest air on a mean day of the hottest month.

    θi/θe = (ΣA·Y12 + Hv)/(ΣA·Y11 + Hv + Gc): walls by EN ISO 13786 matrices, air by its heat
    flow, the bees by the conductance of their cluster. Combs and honey are left out, so the true
    swing is smaller.
    """
    months = surroundings(monthly.place)
    hottest = int(np.argmax([m.temperature_degc for m in months]))
    model = monthly.model_in(hottest)
    through, stored = 0j, 0j
    for face in FACES:
        area = model.faces[face].area.inner_m2
        matrix = face_matrix(model.design.shell.stack(face), model.materials, DIRECTIONS[face])
        y12, y11 = transmittance_and_admittance(matrix)
        through += area * y12
        stored += area * y11
    balance = monthly.months.balance
    air = balance.flows
    moved = float(air.opening_in[:, hottest].sum() + air.joint_in[:, hottest].sum())
    heat_w_k = moved * c.AIR_HEAT_CAPACITY.value
    cluster = float(monthly.months.bees.cluster_conductance_w_k[hottest])
    ratio = abs((through + heat_w_k) / (stored + heat_w_k + cluster))
    swing = months[hottest].daily_swing_k
    nest = ratio * swing
    return DaySwing(
        month=hottest,
        outside_k=swing,
        nest_k=nest,
        hottest_degc=float(balance.temperature_degc[NEST, hottest]) + nest / 2,
    )
