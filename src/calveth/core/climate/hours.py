"""A year of weather by the hour, as a file brought it: kept with the place, whole."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from types import MappingProxyType

import numpy as np
from numpy.typing import ArrayLike, NDArray

from calveth.core.calendar import HOURS_IN_YEAR
from calveth.core.errors import DomainError

HourArray = NDArray[np.float32]

_DIGEST_LENGTH = 32

COLUMNS: Mapping[str, tuple[float, float]] = MappingProxyType(
    {
        "temperature_degc": (-70.0, 60.0),
        "dew_point_degc": (-90.0, 50.0),
        "relative_humidity": (0.0, 1.1),
        "wind_m_s": (0.0, 60.0),
        "wind_from_deg": (0.0, 360.0),
        "rain_mm": (0.0, 300.0),
        "global_sun_w_m2": (0.0, 1500.0),
        "diffuse_sun_w_m2": (0.0, 1200.0),
        "sky_w_m2": (50.0, 700.0),
        "cloud": (0.0, 1.0),
    }
)
"""What may be in an hourly year, with its unit in the name and its plausible range.

``sky_w_m2`` is the long-wave radiation of the sky on level ground, ``cloud`` the share of it that
is covered.
"""


class HourlyWeather:
    """An immutable year of 8760 hours, by column of `COLUMNS`; NaN where an hour is missing.

    Two are equal when they hold the same numbers; only a digest of them is compared.

    Raises
    ------
    DomainError
        When a column is unknown, is of another length or out of its range.
    """

    __slots__ = ("_columns", "digest")
    digest: str

    def __init__(self, columns: Mapping[str, ArrayLike]) -> None:
        kept: dict[str, HourArray] = {}
        for name in sorted(columns):
            if name not in COLUMNS:
                raise DomainError("hours", name, f"is not known; use {', '.join(COLUMNS)}")
            values = np.array(columns[name], dtype=np.float32)
            if values.shape != (HOURS_IN_YEAR,):
                raise DomainError(f"hours of {name}", values.size, "are given; a year has 8760")
            low, high = COLUMNS[name]
            if np.any((values < low) | (values > high)):
                raise DomainError(f"hours of {name}", "a value", f"is outside {low:g} to {high:g}")
            values.setflags(write=False)
            kept[name] = values
        self._columns = MappingProxyType(kept)
        digest = hashlib.sha256()
        for name, values in kept.items():
            digest.update(name.encode() + values.astype("<f4").tobytes())
        # Files name the hours by it: another length would be other hours.
        self.digest = digest.hexdigest()[:_DIGEST_LENGTH]

    @property
    def columns(self) -> Mapping[str, HourArray]:
        """The arrays [8760] by name, read-only."""
        return self._columns

    def __eq__(self, other: object) -> bool:
        return isinstance(other, HourlyWeather) and other.digest == self.digest

    def __hash__(self) -> int:
        return hash(self.digest)

    def __repr__(self) -> str:
        return f"HourlyWeather({', '.join(self._columns)}; {self.digest})"
