"""Tests of an empty hive that do tell: a heater of known watts, and CO2 that is let go.

Nobody is stung and nothing is guessed: both are of the hive without bees, closed as it stands.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from calveth.core.constants_bees import PROBE_OFF_K
from calveth.core.errors import DomainError

# Two standard deviations to either side hold 95 of 100.
_NINETY_FIVE = 1.96
# Hours that hang together more than this would leave nothing to judge by.
_MOST_HOLD = 0.95
_TWO_DAYS_H = 48

FloatArray = NDArray[np.float64]

LEAST_HOURS, DROPPED_HOURS = 24, 12
LEAST_KELVIN, GOOD_HOURS = 5.0, 72
"""A result needs a day and 5 K; ISO 9869-1 asks for three days (from memory)."""
_STEADY_SHARE = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class HeaterResult:
    """What a heater test tells.

    Attributes
    ----------
    loss_w_k, low_w_k, high_w_k : float
        Heat loss of the hive with its 95 % interval [W/K].
    average_w_k : float
        Mean watts over mean kelvin: what the average method would say, for comparison [W/K].
    hours : int
        Hours it rests on.
    steady : bool
        Whether the result a day before the end was within 5 %, as ISO 9869-1 asks.
    """

    loss_w_k: float
    low_w_k: float
    high_w_k: float
    average_w_k: float
    hours: int
    steady: bool


def heater_test(
    inside_degc: FloatArray, outside_degc: FloatArray, power_w: FloatArray
) -> HeaterResult:
    """Return the heat loss of a heated, empty hive from its hours [N].

    P = H·ΔT + C·dTi/dt + C'·dTe/dt by least squares over all hours but the first twelve; nights
    alone would be wrong by a quarter, as heat still comes out of the shell. The interval respects
    that hours follow each other, and that each probe may read off by `PROBE_OFF_K` for good.

    Raises
    ------
    DomainError
        When it is too short, too little warmer inside, or probes are swapped.
    """
    if not inside_degc.size == outside_degc.size == power_w.size:
        raise DomainError("heater test", inside_degc.size, "hours; all three need as many")
    ti, te, p = (np.asarray(v, float)[DROPPED_HOURS:] for v in (inside_degc, outside_degc, power_w))
    if ti.size < LEAST_HOURS:
        raise DomainError(
            "heater test",
            inside_degc.size,
            f"hours are too few; heat for {GOOD_HOURS} hours, in shade or in a shed",
        )
    warmer = float(np.nanmean(ti - te))
    if warmer < 0.0 and float(np.nanmean(p)) > 0.0:
        raise DomainError(
            "heater test",
            round(warmer, 1),
            "K warmer inside with the heater on; the probes inside and outside are swapped",
        )
    if warmer < LEAST_KELVIN:
        raise DomainError(
            "heater test",
            round(warmer, 1),
            f"K warmer inside is too little difference; use watts for {LEAST_KELVIN:.0f} K or more",
        )
    loss, sigma = _regression(ti, te, p)
    early, _ = _regression(ti[:-24], te[:-24], p[:-24]) if ti.size > _TWO_DAYS_H else (loss, 0.0)
    # Both probes may be off for good; no regression of their hours can see it.
    sigma = float(np.hypot(sigma, loss * 2**0.5 * PROBE_OFF_K.value / warmer))
    return HeaterResult(
        loss_w_k=loss,
        low_w_k=loss - _NINETY_FIVE * sigma,
        high_w_k=loss + _NINETY_FIVE * sigma,
        average_w_k=float(np.nanmean(p)) / warmer,
        hours=int(np.isfinite(p).sum()),
        steady=ti.size > _TWO_DAYS_H and abs(early / loss - 1.0) < _STEADY_SHARE,
    )


def _regression(ti: FloatArray, te: FloatArray, p: FloatArray) -> tuple[float, float]:
    """Return H [W/K] and its standard error, for residuals with a first-order memory."""
    rows = np.column_stack([ti - te, np.gradient(ti), np.gradient(te)])
    known = np.isfinite(rows).all(axis=1) & np.isfinite(p)
    rows, watts = rows[known], p[known]
    answer, *_ = np.linalg.lstsq(rows, watts, rcond=None)
    left = watts - rows @ answer
    spread = float(left @ left) / max(watts.size - 3, 1)
    hold = 0.0
    if np.ptp(left) > 1e-12:
        hold = float(np.clip(np.corrcoef(left[:-1], left[1:])[0, 1], 0.0, _MOST_HOLD))
    inflated = spread * (1.0 + hold) / (1.0 - hold)
    variance = inflated * np.linalg.pinv(rows.T @ rows)[0, 0]
    return float(answer[0]), float(np.sqrt(max(variance, 0.0)))


@dataclass(frozen=True, slots=True, kw_only=True)
class DecayResult:
    """How fast CO2 leaves: air changes [1/h] with their 95 % interval."""

    changes_1_h: float
    low_1_h: float
    high_1_h: float
    readings: int


def co2_decay(hours: FloatArray, co2_ppm: FloatArray, outside_ppm: float = 420.0) -> DecayResult:
    """Return the air changes of a hive CO2 was let into, from readings [N] at hours [N].

    ln((C - Ce)/(C0 - Ce)) = -n·t by least squares (ISO 12569, concentration decay, from memory).

    Raises
    ------
    DomainError
        When readings are too few, or not above the air outside.
    """
    if hours.size < 3 or hours.size != co2_ppm.size:
        raise DomainError("CO2 decay", hours.size, "readings are too few; take ten in two hours")
    above = co2_ppm - outside_ppm
    if (above <= 0.0).any():
        raise DomainError(
            "CO2 decay",
            round(float(co2_ppm.min())),
            f"ppm is not above the {outside_ppm:.0f} ppm outside; stop reading before",
        )
    from scipy.stats import linregress, t

    fit = linregress(hours, np.log(above))
    wide = float(t.ppf(0.975, hours.size - 2)) * float(fit.stderr)
    rate = -float(fit.slope)
    return DecayResult(
        changes_1_h=rate, low_1_h=rate - wide, high_1_h=rate + wide, readings=int(hours.size)
    )
