"""The air network of one hive at one condition, as compiled scalar arithmetic.

Δp(z) = Δp0 - ∫(ρe - ρi)·g·dz + Cp·½·ρe·v²   (outside minus inside, positive pushes air in)

Openings: (1/Cd²)·½ρ·u² + f·Re·μL/(2D²)·u = Δp, integrated in closed form over the height of every
strip, so that one opening breathes both ways. Joints: C·Δp^0.65, laminar at little pressure. The
rows of a strip, a part and a joint are named by the column numbers below.
"""

from __future__ import annotations

from math import exp, log, sqrt

import numpy as np
from numpy.typing import NDArray

from calveth.core import constants as c
from calveth.core.compiled import compiled, folded

FloatArray = NDArray[np.float64]

STRIP_PART, STRIP_ZONE, STRIP_BOTTOM, STRIP_TOP, STRIP_AREA, STRIP_FRICTION, STRIP_CP = range(7)
STRIP_COLUMNS = 7
PART_ZONE, PART_AREA, PART_LID = range(3)
PART_COLUMNS = 3
JOINT_ZONE, JOINT_HEIGHT, JOINT_COEFFICIENT, JOINT_CP = range(4)
JOINT_COLUMNS = 4

_G = c.GRAVITY.value
_CD = c.DISCHARGE_COEFFICIENT.value
_N = c.CRACK_EXPONENT.value
# A pressure slope below this is a level pressure; the integral would divide zero by zero [Pa].
_LEVEL_PA = 1e-9
_MOST_STEPS = 80
# Of the air that moves: what is left after the last step is about its square.
_NEAR = 1e-3
THROUGH_IN, THROUGH_OUT, THROUGH_IN_PA, THROUGH_OUT_PA, THROUGH_PUSH = range(5)
THROUGH_COLUMNS = 5
"""Columns of what goes through a path: in and out [kg/s], how they grow with Δp0 [kg/(s·Pa)], and
how the wind presses on it [Pa]."""
_LID_FADE = c.LID_FADE.value


@folded
def head_pa(z: float, dp0: float, tops: FloatArray, lighter: FloatArray) -> float:
    """Return outside minus inside pressure at a height, without wind [Pa].

    ``tops`` [2] are the tops of base and nest, ``lighter`` [3] outside less inside density.

    Parameters
    ----------
    z : float
        Height above the floor [m].
    dp0 : float
        Outside less inside pressure at the floor [Pa].
    tops : array [2]
        Heights of the tops of base and nest [m].
    lighter : array [3]
        Outside less inside density of base, nest and crown [kg/m³].
    """
    low, high = tops[0], tops[1]
    # Written out: the least of two is a call where it is compiled, and this is asked most.
    weight: float = (z if z < low else low) * lighter[0]
    if z > low:
        weight += ((z if z < high else high) - low) * lighter[1]
    if z > high:
        weight += (z - high) * lighter[2]
    return dp0 - _G * weight


@compiled
def speed_and_integral(pressure: float, a: float, friction: float) -> tuple[float, float]:
    """Return the mean speed u in an opening [m/s] at a pressure p, and ∫0^p u dp [Pa·m/s].

    A·u² + B·u = p with A = ½ρ/Cd² and the friction B: u = 2p/(B + s), s = √(B² + 4Ap). Substituting
    d = s - B = 2A·u the integral is (B·d²/2 + d³/3)/(4A²), which does not cancel for small p.
    Nought below a pressure of nought.

    Parameters
    ----------
    pressure : float
        Across the opening or crack [Pa].
    a : float
        ½ρ/Cd² of the opening [kg/m³].
    friction : float
        B, pressure per speed in its tunnel [Pa·s/m].
    """
    if pressure <= 0.0:
        return 0.0, 0.0
    u = 2.0 * pressure / (friction + sqrt(friction * friction + 4.0 * a * pressure) + 1e-300)
    return u, u * u * (0.5 * friction + 2.0 / 3.0 * a * u)


@compiled
def one_way(low: float, high: float, density: float, friction: float) -> tuple[float, float]:
    """Return flow per area [kg/(s·m²)] of the air a pressure from ``low`` to ``high`` pushes.

    Only where it is above nought; and by how much it grows with that pressure. The integral of u
    over a strip grows by u at its ends; a level strip by du/dp = 1/√(B² + 4Ap).

    Parameters
    ----------
    low : float
        Pressure at one end of the strip [Pa].
    high : float
        Pressure at the other end [Pa].
    density : float
        Of the air that comes [kg/m³].
    friction : float
        B, pressure per speed in its tunnel [Pa·s/m].
    """
    if low <= 0.0 and high <= 0.0:
        return 0.0, 0.0
    rise = high - low
    a = 0.5 * density / (_CD * _CD)
    if abs(rise) < _LEVEL_PA:
        middle = 0.5 * (low + high)
        if middle <= 0.0:
            return 0.0, 0.0
        slope = 1.0 / sqrt(friction * friction + 4.0 * a * middle + 1e-24)
        speed, _ = speed_and_integral(middle, a, friction)
        return density * speed, density * slope
    fast, most = speed_and_integral(high, a, friction)
    slow, least = speed_and_integral(low, a, friction)
    by_rise = density / rise
    return by_rise * (most - least), by_rise * (fast - slow)


@compiled
def joint_m3_s(pressure: float, coefficient: float, laminar: float) -> tuple[float, float]:
    """Return C·|Δp|^0.65 [m³/s] and its growth with Δp [m³/(s·Pa)].

    Below the pressure ``laminar`` a crack is a narrow slit in laminar flow: linear from there on.

    Parameters
    ----------
    pressure : float
        Across the opening or crack [Pa].
    coefficient : float
        C, flow at 1 Pa [m³/(s·Pa^0.65)].
    laminar : float
        Pressure below which the flow is linear [Pa].
    """
    size = abs(pressure)
    if size < laminar:
        slope = coefficient * laminar ** (_N - 1.0)
        return slope * size, slope
    flow = coefficient * exp(_N * log(size))
    return flow, _N * flow / size


@compiled
def pass_air(
    dp0: float,
    strips: FloatArray,
    joints: FloatArray,
    tops: FloatArray,
    rho_out: float,
    rho: FloatArray,
    lighter: FloatArray,
    dynamic: float,
    laminar: float,
    through: FloatArray,
) -> tuple[float, float, float]:
    """Put what goes through every strip and joint at a floor pressure into ``through`` [S + J, 5].

    The strips first. Return net inflow, its growth and the air that comes in.
    """
    net, growth, into = 0.0, 0.0, 1e-12
    first = strips.shape[0]
    for k in range(first):
        for column in range(THROUGH_PUSH):
            through[k, column] = 0.0
        area = strips[k, STRIP_AREA]
        if area <= 0.0:
            continue
        wind = strips[k, STRIP_CP] * dynamic
        low = head_pa(strips[k, STRIP_BOTTOM], dp0, tops, lighter) + wind
        high = head_pa(strips[k, STRIP_TOP], dp0, tops, lighter) + wind
        friction = strips[k, STRIP_FRICTION]
        flow_in, slope_in = one_way(low, high, rho_out, friction)
        flow_out, slope_out = one_way(-high, -low, rho[int(strips[k, STRIP_ZONE])], friction)
        through[k, THROUGH_IN], through[k, THROUGH_OUT] = area * flow_in, area * flow_out
        through[k, THROUGH_IN_PA], through[k, THROUGH_OUT_PA] = area * slope_in, -area * slope_out
        through[k, THROUGH_PUSH] = wind
        net += area * (flow_in - flow_out)
        growth += area * (slope_in + slope_out)
        into += area * flow_in
    for j in range(joints.shape[0]):
        wind = joints[j, JOINT_CP] * dynamic
        pressure = head_pa(joints[j, JOINT_HEIGHT], dp0, tops, lighter) + wind
        flow, slope = joint_m3_s(pressure, joints[j, JOINT_COEFFICIENT], laminar)
        way = 0 if pressure > 0.0 else 1
        sign = 1.0 - 2.0 * way
        density = rho_out if way == 0 else rho[int(joints[j, JOINT_ZONE])]
        k = first + j
        through[k, way], through[k, 1 - way] = density * flow, 0.0
        through[k, THROUGH_IN_PA + way], through[k, THROUGH_OUT_PA - way] = (
            sign * density * slope,
            0.0,
        )
        through[k, THROUGH_PUSH] = wind
        net += sign * density * flow
        growth += density * slope
        into += through[k, THROUGH_IN]
    return net, growth, into


@folded
def shifted_pa(
    strips: FloatArray, joints: FloatArray, dynamic: float, through: FloatArray
) -> float:
    """Return how far the wind has moved Δp0 since ``through`` was worked out, along its slopes."""
    moved, stiff = 0.0, 1e-300
    first = strips.shape[0]
    for k in range(through.shape[0]):
        cp = strips[k, STRIP_CP] if k < first else joints[k - first, JOINT_CP]
        slope = through[k, THROUGH_IN_PA] - through[k, THROUGH_OUT_PA]
        moved -= slope * (cp * dynamic - through[k, THROUGH_PUSH])
        stiff += slope
    return moved / stiff


@compiled
def bracket_pa(
    strips: FloatArray, joints: FloatArray, tops: FloatArray, lighter: FloatArray, dynamic: float
) -> tuple[float, float]:
    """Return the Δp0 at which no path lets air in any more, and at which none lets any out."""
    low, high = 1e30, -1e30
    for k in range(strips.shape[0]):
        if strips[k, STRIP_AREA] <= 0.0:
            continue
        wind = strips[k, STRIP_CP] * dynamic
        bottom = head_pa(strips[k, STRIP_BOTTOM], 0.0, tops, lighter) + wind
        top = head_pa(strips[k, STRIP_TOP], 0.0, tops, lighter) + wind
        low = min(low, -max(bottom, top))
        high = max(high, -min(bottom, top))
    for k in range(joints.shape[0]):
        if joints[k, JOINT_COEFFICIENT] <= 0.0:
            continue
        head = head_pa(joints[k, JOINT_HEIGHT], 0.0, tops, lighter)
        head += joints[k, JOINT_CP] * dynamic
        low = min(low, -head)
        high = max(high, -head)
    return low, high


@compiled
def balanced_pa(
    start: float,
    strips: FloatArray,
    joints: FloatArray,
    tops: FloatArray,
    rho_out: float,
    rho: FloatArray,
    lighter: FloatArray,
    dynamic: float,
    laminar: float,
    through: FloatArray,
) -> float:
    """Return the floor pressure difference Δp0 [Pa] at which as much air enters as leaves.

    The net inflow grows with Δp0, so there is exactly one, inside the heads of the paths; Newton's
    method finds it, the middle of the bracket where it leaves it and every eighth time. Near
    enough, the flows in ``through`` are moved along their slopes by the last step: what is left
    goes with its square. A hive without any path keeps nought.
    """
    # Moved on by what the wind has changed since the last answer: mostly that is near enough.
    x = start + shifted_pa(strips, joints, dynamic, through)
    net, growth, into = pass_air(
        x, strips, joints, tops, rho_out, rho, lighter, dynamic, laminar, through
    )
    if growth > 0.0:
        if abs(net) <= _NEAR * into:
            return x + moved_along(through, -net / growth)
        x -= net / growth
    low, high = bracket_pa(strips, joints, tops, lighter, dynamic)
    if low > high:
        return 0.0
    x = min(max(x, low), high)
    for step in range(_MOST_STEPS):
        net, growth, into = pass_air(
            x, strips, joints, tops, rho_out, rho, lighter, dynamic, laminar, through
        )
        if abs(net) <= _NEAR * into and growth > 0.0:
            return x + moved_along(through, -net / growth)
        if net == 0.0 or high - low < 1e-15:
            break
        if net < 0.0:
            low = x
        else:
            high = x
        x = x - net / max(growth, 1e-300)
        # Newton hunts between two slopes of a joint that turns: halving ends it.
        if not low < x < high or step % 8 == 7:
            x = 0.5 * (low + high)
    return x


@folded
def moved_along(through: FloatArray, step: float) -> float:
    """Move flows along their slopes by a small step of the floor pressure; return it [Pa]."""
    for k in range(through.shape[0]):
        through[k, THROUGH_IN] += through[k, THROUGH_IN_PA] * step
        through[k, THROUGH_OUT] += through[k, THROUGH_OUT_PA] * step
    return step


@compiled
def fill_flows(
    strips: FloatArray,
    parts: FloatArray,
    joints: FloatArray,
    tops: FloatArray,
    rho_out: float,
    rho: FloatArray,
    wind: float,
    gust_share: float,
    fanning: float,
    through: FloatArray,
    part_flows: FloatArray,
    joint_flows: FloatArray,
    zone_flows: FloatArray,
    growth: FloatArray,
) -> None:
    """Put the flows in ``through`` where they belong [kg/s].

    ``part_flows`` [O, 2] and ``joint_flows`` [J, 2] in and out, ``zone_flows`` [3, 2] by zone,
    ``growth`` [3, 2, 4] of those with Δp0 and with the densities of base, nest and crown.
    """
    part_flows[:] = 0.0
    zone_flows[:] = 0.0
    growth[:] = 0.0
    first = strips.shape[0]
    for k in range(first):
        if strips[k, STRIP_AREA] <= 0.0:
            continue
        middle = 0.5 * (strips[k, STRIP_BOTTOM] + strips[k, STRIP_TOP])
        zone, part = int(strips[k, STRIP_ZONE]), int(strips[k, STRIP_PART])
        for way in range(2):
            flow = through[k, way]
            if flow != 0.0:
                part_flows[part, way] += flow
                zone_flows[zone, way] += flow
                add_growth(growth, zone, way, through[k, THROUGH_IN_PA + way], middle, tops)
    for j in range(joints.shape[0]):
        height, zone = joints[j, JOINT_HEIGHT], int(joints[j, JOINT_ZONE])
        k = first + j
        for way in range(2):
            flow = through[k, way]
            joint_flows[j, way] = flow
            if flow != 0.0:
                zone_flows[zone, way] += flow
                add_growth(growth, zone, way, through[k, THROUGH_IN_PA + way], height, tops)
    add_pumping(parts, rho_out, rho, wind, gust_share, fanning, part_flows, zone_flows)


@folded
def add_growth(
    growth: FloatArray, zone: int, way: int, slope: float, height: float, tops: FloatArray
) -> None:
    """Add what a path's flow grows by with Δp0 and, by its head, with the zones' densities."""
    low, high = tops[0], tops[1]
    growth[zone, way, 0] += slope
    growth[zone, way, 1] += slope * _G * (height if height < low else low)
    if height > low:
        growth[zone, way, 2] += slope * _G * ((height if height < high else high) - low)
    if height > high:
        growth[zone, way, 3] += slope * _G * (height - high)


@folded
def add_pumping(
    parts: FloatArray,
    rho_out: float,
    rho: FloatArray,
    wind: float,
    gust_share: float,
    fanning: float,
    part_flows: FloatArray,
    zone_flows: FloatArray,
) -> None:
    """Add what gusts, fanning bees and heavy air over light air in a level hole exchange.

    As much in as out: it shifts no pressure. Gusts pump even where the mean flow stands still
    (Warren and Parkins 1984); through a level hole Q = 0.055·√(g·Δρ/ρ)·D^2.5 (Epstein 1988), less
    the more air goes through it one way, which washes the exchange away (estimate).
    """
    open_m2 = open_area_m2(parts)
    for k in range(parts.shape[0]):
        area, zone = parts[k, PART_AREA], int(parts[k, PART_ZONE])
        pumped = (gust_share * area * wind + area / open_m2 * fanning) * rho_out
        if parts[k, PART_LID] != 0.0:
            # Over the lid the outside air is above, under a floor of mesh the inside air.
            over = rho_out - rho[zone] if parts[k, PART_LID] > 0.0 else rho[zone] - rho_out
            if over > 0.0:
                still = abs(parts[k, PART_LID]) * sqrt(_G * over / rho_out) * rho_out
                through = abs(part_flows[k, 0] - part_flows[k, 1])
                pumped += still * exp(-_LID_FADE * through / still)
        for way in range(2):
            part_flows[k, way] += pumped
            zone_flows[zone, way] += pumped


@compiled
def open_area_m2(parts: FloatArray) -> float:
    """Return the free area of all openings, a little above nought [m²]."""
    area = 1e-12
    for k in range(parts.shape[0]):
        area += parts[k, PART_AREA]
    return area
