"""Walls that remember: each as a chain of five cells, taken apart into its modes.

Between two hours nothing is stepped: with the air inside, the air outside and the heat that settles
held for an hour, every mode decays exactly, z' = e·z + (1 - e)/λ·B·u. Inner and outer film belong
to the chain, so that every mode decays; what the wind of an hour changes in the outer film enters
as a flow of heat (`kernel_memory`). Means over the hour, not its end, are what the balance needs.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

FloatArray = NDArray[np.float64]

CELLS = 5
"""Cells of a chain.

Of a daily sine (EN ISO 13786) they leave out a hundredth in walls to 50 mm of timber or foam and
100 mm of light blocks; in thick heavy walls the periodic transmittance is too small: by 9 % in
300 mm of clay, 16 % in 300 mm of aircrete, where less than a tenth of the sine comes through. Seven
cells would halve that and make a year a third longer.
"""
HOUR_S = 3600.0
_SLICES = 24
# Least capacity of a cell and resistance between two: of a foil, which stores nothing.
_LEAST_J_M2K, _LEAST_M2K_W = 50.0, 1e-6
# Inputs of a chain in the order of its columns: air inside, air outside, heat that settles on the
# inner surface, and heat brought to the outer one.
INSIDE, OUTSIDE, SETTLING, BROUGHT = range(4)


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Chains:
    """K walls as modes, per area of their inner surface.

    Attributes
    ----------
    decay : array [K, 5]
        What is left of each mode after a step [-].
    gain : array [K, 5, 4]
        What a step of each input (`INSIDE`, ...) brings to the modes.
    inner, outer : array [K, 5]
        How the modes make the mean temperature of inner and outer surface through a step.
    inner_by, outer_by : array [K, 4]
        How the inputs of the step itself make it.
    to_cells, to_modes : array [K, 5, 5]
        Temperatures of the cells from the modes and back.
    capacity : array [K, 5]
        Of the cells, 0 innermost [J/(m²·K)].
    film, outer_film : array [K]
        What the films conduct, inside and (as it is taken on average) outside [W/(m²·K)].
    """

    decay: FloatArray
    gain: FloatArray
    inner: FloatArray
    outer: FloatArray
    inner_by: FloatArray
    outer_by: FloatArray
    to_cells: FloatArray
    to_modes: FloatArray
    capacity: FloatArray
    film: FloatArray
    outer_film: FloatArray


def cells_of(
    layers: Sequence[tuple[float, float]],
) -> tuple[FloatArray, FloatArray]:
    """Return capacities [5] [J/(m²·K)] and resistances [6] [m²·K/W] of a wall cut into cells.

    ``layers`` are resistance and capacity of each layer, innermost first. Cells share √(R·C)
    equally, so that each is as thin for a wave of heat as the others; the whole resistance and
    capacity are kept. Resistances are from the inner surface to the first cell, between cells, and
    to the outer surface.
    """
    r = np.array([x / _SLICES for x, _ in layers for _ in range(_SLICES)])
    c = np.array([x / _SLICES for _, x in layers for _ in range(_SLICES)])
    total = float(r.sum())
    depth = np.cumsum(r) - r / 2
    measure = np.sqrt(r * c) + 1e-9 * (r / max(total, 1e-12) + 1.0 / r.size)
    share = (np.cumsum(measure) - measure / 2) / measure.sum()
    cell = np.minimum((share * CELLS).astype(int), CELLS - 1)
    capacity = np.bincount(cell, weights=c, minlength=CELLS)
    weight = np.bincount(cell, weights=c * depth, minlength=CELLS)
    own = np.bincount(cell, weights=np.ones_like(c), minlength=CELLS)
    middle = np.bincount(cell, weights=depth, minlength=CELLS) / np.maximum(own, 1.0)
    middle = np.where(own > 0, middle, (np.arange(CELLS) + 0.5) / CELLS * total)
    at = np.where(capacity > 1.0, weight / np.maximum(capacity, 1.0), middle)
    at = np.maximum.accumulate(at)
    resistances = np.maximum(np.diff(np.concatenate([[0.0], at, [total]])), _LEAST_M2K_W)
    resistances *= max(total, 6 * _LEAST_M2K_W) / resistances.sum()
    return np.maximum(capacity, _LEAST_J_M2K), resistances


def chains(
    walls: Sequence[Sequence[tuple[float, float]]],
    film_w_m2k: FloatArray,
    outer_w_m2k: FloatArray,
    step_s: float = HOUR_S,
) -> Chains:
    """Return walls as modes; films [K] [W/(m²·K)], layers as `cells_of` takes them."""
    count = len(walls)
    capacity, resistance = np.empty((count, CELLS)), np.empty((count, CELLS + 1))
    for k, layers in enumerate(walls):
        capacity[k], resistance[k] = cells_of(layers)
    # Film and half of the first cell in series; what settles falls on the surface between them.
    first, last = 1 / resistance[:, 0], 1 / resistance[:, -1]
    inner, outer = (
        film_w_m2k * first / (film_w_m2k + first),
        outer_w_m2k * last / (outer_w_m2k + last),
    )
    matrix = np.zeros((count, CELLS, CELLS))
    between = 1 / resistance[:, 1:-1]
    for i in range(CELLS - 1):
        matrix[:, i, i] += between[:, i]
        matrix[:, i + 1, i + 1] += between[:, i]
        matrix[:, i, i + 1] -= between[:, i]
        matrix[:, i + 1, i] -= between[:, i]
    matrix[:, 0, 0] += inner
    matrix[:, -1, -1] += outer
    source = np.zeros((count, CELLS, 4))
    source[:, 0, INSIDE], source[:, 0, SETTLING] = inner, first / (film_w_m2k + first)
    source[:, -1, OUTSIDE], source[:, -1, BROUGHT] = outer, last / (outer_w_m2k + last)
    root = np.sqrt(capacity)
    rate, vectors = np.linalg.eigh(matrix / root[:, :, None] / root[:, None, :])
    to_cells = vectors / root[:, :, None]
    to_modes = np.swapaxes(vectors * root[:, :, None], 1, 2)
    driven = np.einsum("kij,kil->kjl", to_cells, source)
    decay = np.exp(-rate * step_s)
    mean = -np.expm1(-rate * step_s) / (rate * step_s)
    gain = (1 - decay)[:, :, None] / rate[:, :, None] * driven
    held = (1 - mean)[:, :, None] / rate[:, :, None] * driven
    inner_share, outer_share = first / (film_w_m2k + first), last / (outer_w_m2k + last)
    to_inner = inner_share[:, None] * to_cells[:, 0, :]
    to_outer = outer_share[:, None] * to_cells[:, -1, :]
    inner_by = np.einsum("kj,kjl->kl", to_inner, held)
    outer_by = np.einsum("kj,kjl->kl", to_outer, held)
    inner_by[:, INSIDE] += film_w_m2k / (film_w_m2k + first)
    inner_by[:, SETTLING] += 1 / (film_w_m2k + first)
    outer_by[:, OUTSIDE] += outer_w_m2k / (outer_w_m2k + last)
    outer_by[:, BROUGHT] += 1 / (outer_w_m2k + last)
    return Chains(
        decay=decay,
        gain=gain,
        inner=to_inner * mean,
        outer=to_outer * mean,
        inner_by=inner_by,
        outer_by=outer_by,
        to_cells=to_cells,
        to_modes=to_modes,
        capacity=capacity,
        film=film_w_m2k,
        outer_film=outer_w_m2k,
    )
