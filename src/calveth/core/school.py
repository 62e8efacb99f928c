"""The schools of wintering, by id; what each does and judges by stands in `texts.schools`."""

from __future__ import annotations

from typing import Literal, get_args

School = Literal[
    "breathing top",
    "sealed warm top",
    "upper entrance",
    "high cross-flow",
    "winter room",
    "mass before insulation",
]
SCHOOLS: tuple[School, ...] = get_args(School)
