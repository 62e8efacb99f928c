"""Whether a hive stands: where it balances, what tips it, wind, lid, joints, strap and anchors.

Wind after EN 1991-1-4 with the base wind of the place, terrain and shelter; equilibrium after
EN 1990 (EQU). Formulas are entered from memory of the standards and checked by their printed
values; local codes decide.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import atan, degrees, hypot, log, radians, tan

from calveth.core import constants_lifting as cl
from calveth.core.climate.air import shelter_factor
from calveth.core.climate.place import Place, Terrain
from calveth.core.colony.colony import Colony
from calveth.core.constants import GRAVITY
from calveth.core.errors import DomainError, require_between
from calveth.core.hive.design import Design
from calveth.core.materials import Material
from calveth.core.solids.parts import HiveSolids, PartId
from calveth.core.solids.shapes import Cuboid, bounds
from calveth.core.workshop.weights import Mass, State, balance_m, footprint_m, masses_of

# What nothing pushes over is safe so many times [-].
_SAFE = 99.0

# Roughness length and least height [m] by terrain: EN 1991-1-4, table 4.1 (from memory); open
# water and plain is category I.
_Z0: dict[Terrain, tuple[float, float]] = {
    "open water or plain": (0.01, 1.0),
    "farmland": (0.05, 2.0),
    "village or orchard": (0.3, 5.0),
    "forest": (1.0, 10.0),
}
_Z0_II = 0.05
_INSIDE = ("follower board", "divider")


@dataclass(frozen=True, slots=True, kw_only=True)
class JointSafety:
    """A joint of the stack under wind: what lies above it, and how safe it is.

    ``ratio`` is weight over wind with both safety factors, for tipping or sliding, the smaller;
    1 or more stands.
    """

    above: PartId
    height_m: float
    kg: float
    tips: float
    slides: float

    @property
    def ratio(self) -> float:
        """The smaller of both."""
        return min(self.tips, self.slides)


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """How a hive stands in a state.

    Attributes
    ----------
    kg : float
        All of it [kg].
    balance_m : tuple of 3 float
        Where it balances, from the floor's inner corner [m].
    height_m : float
        Of the balance above the ground [m].
    foot : tuple of (x, y)
        Corners of what stands on the ground [m].
    angle_deg : float
        It tips when it is leaned so far over its weakest edge [°].
    push_n : float
        Push at the top that tips it [N].
    gust_pa, wind_n : float
        Pressure of the gust at the hive [Pa], and its force [N].
    lid_up_n, lid_n : float
        What the gust lifts the lid with, and what the lid weighs, each with its safety [N].
    joints : tuple of JointSafety
        From the ground up; the first is the foot of it all.
    anchor_n : float
        Pull of one of two ground anchors beside the hive so that it stands [N], 0 when it does.
    """

    state: State
    kg: float
    balance_m: tuple[float, float, float]
    height_m: float
    foot: tuple[tuple[float, float], ...]
    angle_deg: float
    push_n: float
    gust_pa: float
    wind_n: float
    lid_up_n: float
    lid_n: float
    joints: tuple[JointSafety, ...]
    anchor_n: float

    @property
    def ratio(self) -> float:
        """The least ratio of weight to wind in the stack; 1 or more stands."""
        return min(j.ratio for j in self.joints)

    @property
    def lid_stays(self) -> bool:
        """Whether the lid is heavy enough for the gust."""
        return self.lid_n >= self.lid_up_n

    @property
    def stands(self) -> bool:
        """Whether stack and lid stand without a strap."""
        return self.ratio >= 1.0 and self.lid_stays


def gust_pressure_pa(base_wind_m_s: float, terrain: Terrain, height_m: float) -> float:
    """Return the peak velocity pressure [Pa], EN 1991-1-4, 4.3 to 4.5.

    kr = 0.19·(z0/0.05)^0.07, cr = kr·ln(z/z0), Iv = 1/ln(z/z0), qp = (1 + 7·Iv)·½·ρ·(cr·vb)², at
    z or at the least height of the terrain.

    Parameters
    ----------
    base_wind_m_s : float
        Ten minutes mean of the storm of 50 years, 10 m over open land [m/s].
    terrain : str
        What the land round is like (`Terrain`).
    height_m : float
        Above the ground [m].

    >>> round(gust_pressure_pa(25.0, "farmland", 10.0))
    919
    """
    require_between("storm wind", base_wind_m_s, 10, 60, "m/s")
    z0, least = _Z0[terrain]
    z = max(height_m, least)
    roughness = 0.19 * (z0 / _Z0_II) ** 0.07 * log(z / z0)
    turbulence = 1 / log(z / z0)
    mean = roughness * base_wind_m_s
    pressure: float = (1 + 7 * turbulence) * 0.5 * cl.GUST_AIR_DENSITY.value * mean**2
    return pressure


def force_coefficient(height_m: float, depth_m: float) -> float:
    """Return k·(cpe,D − cpe,E) of a block by h/d, EN 1991-1-4, table 7.1 and 7.2.2 (3).

    >>> [round(force_coefficient(h, 1.0), 3) for h in (0.25, 1.0, 5.0)]
    [0.85, 1.105, 1.5]
    """
    slender = min(max(height_m / depth_m, 0.25), 5.0)

    def between(low: tuple[float, float], high: tuple[float, float]) -> float:
        share = (slender - low[0]) / (high[0] - low[0])
        return low[1] + share * (high[1] - low[1])

    if slender <= 1:
        front, back = between((0.25, 0.7), (1.0, 0.8)), between((0.25, -0.3), (1.0, -0.5))
        return 0.85 * (front - back)
    back = between((1.0, -0.5), (5.0, -0.7))
    return between((1.0, 0.85), (5.0, 1.0)) * (0.8 - back)


def standing(
    design: Design,
    hive: HiveSolids,
    materials: Mapping[str, Material],
    colony: Colony,
    place: Place,
    state: State,
) -> Standing:
    """Return how a hive stands in a state.

    Raises
    ------
    DomainError
        When its feet have no area, or it balances outside of them: it falls by itself.
    """
    masses = masses_of(design, hive, materials, colony, state)
    foot = footprint_m(hive)
    ground = min(bounds(s.shape, hive.bend).z0 for s in hive.pieces)
    top = max(bounds(s.shape, hive.bend).z1 for s in hive.pieces)
    at = balance_m(masses)
    height = at[2] - ground
    # What a leaning hive weighs on is nearer to the edge it leans over.
    arm = _arm_m(foot, _leaned(at, height, design.tilt_deg))
    if arm <= 0:
        raise DomainError(
            "stand",
            f"{1000 * height:.0f} mm",
            "up it balances outside its feet and falls by itself; widen the spread of the stand "
            "or tilt the hive less",
        )
    kilos = sum(m.kg for m in masses)
    gust = gust_pressure_pa(place.storm_wind_m_s, place.terrain, top - ground)
    gust *= shelter_factor(place) ** 2
    joints = _joints(hive, masses, foot, ground, gust)
    body = [bounds(s.shape, hive.bend) for s in hive.solids if s.face is not None]
    lids = [s for s in hive.solids if s.face == "lid"]
    outer = max((bounds(s.shape, hive.bend) for s in lids), key=lambda b: b.x1 - b.x0)
    area = (outer.x1 - outer.x0) * (outer.y1 - outer.y0)
    lid_parts = {s.lifted_with for s in lids}
    lid_kg = sum(m.kg for m in masses if m.part in lid_parts)
    wind, moment = _wind(body, gust, ground)
    # EN 1990, state EQU: what tips counts more and what holds counts less than it is.
    missing = cl.WIND_SAFETY.value * moment - cl.WEIGHT_SAFETY.value * kilos * _G * arm
    wide = min(
        max(x for x, _ in foot) - min(x for x, _ in foot),
        max(y for _, y in foot) - min(y for _, y in foot),
    )
    return Standing(
        state=state,
        kg=kilos,
        balance_m=at,
        height_m=height,
        foot=foot,
        angle_deg=degrees(atan(arm / height)),
        push_n=kilos * _G * arm / (top - ground),
        gust_pa=gust,
        wind_n=wind,
        joints=joints,
        anchor_n=max(missing, 0.0) / wide,
        lid_up_n=cl.WIND_SAFETY.value * -cl.UPLIFT.value * gust * area,
        lid_n=cl.WEIGHT_SAFETY.value * lid_kg * _G,
    )


_G = GRAVITY.value


def _leaned(at: tuple[float, float, float], height: float, tilt_deg: float) -> tuple[float, float]:
    """Return the foot of the balance of a hive that is tilted forward [m]."""
    return at[0], at[1] - height * tan(radians(tilt_deg))


def _arm_m(foot: tuple[tuple[float, float], ...], at: tuple[float, float]) -> float:
    """Return how far a point is inside the hull of the feet [m]; negative outside."""
    arms = []
    for (x0, y0), (x1, y1) in zip(foot, [*foot[1:], foot[0]], strict=True):
        length = hypot(x1 - x0, y1 - y0)
        if length < 1e-9:
            return 0.0
        arms.append(((x1 - x0) * (at[1] - y0) - (y1 - y0) * (at[0] - x0)) / length)
    return min(arms)


def _wind(body: list[Cuboid], gust: float, ground: float) -> tuple[float, float]:
    """Return the force on the broader side [N] and its moment about the ground [N·m]."""
    x0, x1 = min(b.x0 for b in body), max(b.x1 for b in body)
    y0, y1 = min(b.y0 for b in body), max(b.y1 for b in body)
    z0, z1 = min(b.z0 for b in body), max(b.z1 for b in body)
    worst = (0.0, 0.0)
    for wide, deep in ((x1 - x0, y1 - y0), (y1 - y0, x1 - x0)):
        force = force_coefficient(z1 - z0, deep) * gust * wide * (z1 - z0)
        moment = force * ((z0 + z1) / 2 - ground)
        worst = max(worst, (force, moment), key=lambda pair: pair[1] / deep)
    return worst


def _joints(
    hive: HiveSolids,
    masses: tuple[Mass, ...],
    foot: tuple[tuple[float, float], ...],
    ground: float,
    gust: float,
) -> tuple[JointSafety, ...]:
    """Return every joint of the stack with what is above it."""
    parts: dict[PartId, tuple[float, float]] = {}
    shapes: dict[PartId, list[Cuboid]] = {}
    for solid in hive.pieces:
        box, part = bounds(solid.shape, hive.bend), solid.lifted_with
        z0, z1 = parts.get(part, (box.z0, box.z1))
        parts[part] = (min(z0, box.z0), max(z1, box.z1))
        shapes.setdefault(part, []).append(box)
    order = sorted(parts, key=lambda p: parts[p])
    over = [parts[p] for p in parts if p.role == "cover"]
    safeties = []
    for k, part in enumerate(order):
        above = order[k:]
        bottom = ground if k == 0 else parts[part][0]
        boxes = [b for p in above if p.role != "legs" for b in shapes[p]]
        # Inside of a cover no wind comes to a joint.
        covered = part.role in ("box", "eke") and any(parts[part][0] < high for _, high in over)
        if not boxes or covered or part.role in _INSIDE:
            continue
        load = [m for m in masses if m.part in above]
        kilos = sum(m.kg for m in load)
        if kilos <= 0:
            continue
        at = balance_m(tuple(load))
        base = foot if k == 0 else _hull(shapes[part])
        force, moment = _wind(boxes, gust, bottom)
        weight = cl.WEIGHT_SAFETY.value * kilos * _G
        pushed = cl.WIND_SAFETY.value * force
        arm = max(_arm_m(base, (at[0], at[1])), 0.0)
        safeties.append(
            JointSafety(
                above=part,
                height_m=bottom - ground,
                kg=kilos,
                tips=weight * arm / (cl.WIND_SAFETY.value * moment) if moment > 0 else _SAFE,
                slides=cl.FRICTION.value * weight / pushed if pushed > 0 else _SAFE,
            )
        )
    return tuple(safeties)


def _hull(boxes: list[Cuboid]) -> tuple[tuple[float, float], ...]:
    x0, x1 = min(b.x0 for b in boxes), max(b.x1 for b in boxes)
    y0, y1 = min(b.y0 for b in boxes), max(b.y1 for b in boxes)
    return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
