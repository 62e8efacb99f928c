"""What a way of cutting a model into unknowns has to tell the solver."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Protocol

import numpy as np
from numpy.typing import NDArray

from calveth.core.conduction.grid import Grid
from calveth.core.conduction.parts import ConductionModel

if TYPE_CHECKING:
    from scipy.sparse import csr_array

FloatArray = NDArray[np.float64]
IntArray = NDArray[np.int64]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Surfaces:
    """Every piece of surface between a body and an air space, arrays [n].

    ``axis`` is that of its normal in the box (0, 1, 2), ``box_m`` [n, 3] its centre there and
    ``centre_m`` [n, 3] its centre in the hive.
    """

    space: IntArray
    body: IntArray
    axis: IntArray
    area_m2: FloatArray
    box_m: FloatArray
    centre_m: FloatArray


class Scheme(Protocol):
    """Unknowns, equations and what is read off an answer.

    Attributes
    ----------
    model, grid
        What is solved.
    surfaces : Surfaces
        Its wetted faces.
    """

    model: ConductionModel
    grid: Grid
    surfaces: Surfaces

    @property
    def unknowns(self) -> int:
        """How many."""

    def matrix(self) -> csr_array:
        """Return the symmetric positive matrix [unknowns, unknowns] [W/K]."""

    def heat(self) -> FloatArray:
        """Return what each space at 1 brings to each unknown [spaces, unknowns] [W/K]."""

    def surface_share(self, share: FloatArray) -> FloatArray:
        """Return the surfaces' temperatures [.., n] for unknowns' shares [spaces, unknowns]."""

    def surface_heat(self, share: FloatArray) -> FloatArray:
        """Return the heat from air into each surface [spaces, n] for shares [W/K]."""

    def body_energy(self, theta: FloatArray, spaces: FloatArray) -> FloatArray:
        """Return Σ g·Δθ² of every body for unknowns ``theta`` and temperatures of spaces [W/K]."""

    def slice_share(self, share: FloatArray, axis: int, at_m: float) -> FloatArray:
        """Return temperatures at grid points of a plane of the box; NaN off the bodies.

        Of shape [spaces, n, m]: the points of the other two axes, in their order.
        """
