"""The flows of a hive as values; what works them out loads the compiler's library."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Flows:
    """Mass flows of dry and moist air alike [kg/s].

    ``opening_in`` and ``opening_out`` are [O, N], by parts of openings; ``joint_in`` and
    ``joint_out`` [J, N].
    """

    opening_in: FloatArray
    opening_out: FloatArray
    joint_in: FloatArray
    joint_out: FloatArray
