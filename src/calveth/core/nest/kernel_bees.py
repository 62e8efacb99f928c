"""What bees do about the warmth and the breath of their nest, as compiled arithmetic."""

from __future__ import annotations

from math import exp, sqrt

from calveth.core import constants as c
from calveth.core import constants_year as y
from calveth.core.airflow.kernel import PART_AREA, PART_ZONE, open_area_m2
from calveth.core.compiled import compiled, folded
from calveth.core.nest.kernel_arrays import (
    ACTIVE,
    BEE_COOL,
    BEE_COOL_P,
    BEE_COOL_T,
    BEE_FAN,
    BEE_FAN_C,
    BEE_FAN_P,
    BEE_FAN_T,
    BEE_HEAT,
    BEE_HEAT_BASE,
    BEE_HEAT_P,
    BEE_HEAT_T,
    BEE_NECTAR,
    BEE_NECTAR_P,
    BEE_NECTAR_T,
    BEE_SPREAD,
    BEE_SPREAD_T,
    BROOD,
    BROOD_NEED,
    BROOD_SHARE,
    BROODLESS_AIRS,
    CLUSTER,
    COOL_MOST,
    CORE,
    DAMP_BY,
    FAN_COST,
    FAN_MOST,
    FAN_SPEED,
    FANNING,
    HOT_K,
    LEAVES_K,
    LIKED,
    MANTLE,
    MASS,
    NECTAR,
    REST,
    REST_LOG_Q10,
    WAITING,
    C,
    FloatArray,
    Hive,
    P,
    T,
    Work,
)
from calveth.core.nest.kernel_parts import (
    ramp,
    ramp_growth,
    saturation_pa,
    saturation_slope_pa_k,
)

_LEFT_FROM, _LEFT_ALL = c.CLUSTER_LEFT_FROM.value, c.CLUSTER_LEFT_ALL.value
_LOOSE_ALL = c.CLUSTER_LOOSE_ALL.value
_HOT_FROM, _HOT_ALL = c.FANNING_HOT_FROM.value, c.FANNING_HOT_ALL.value
_FOUL_FROM, _FOUL_ALL = c.FANNING_FOUL_FROM.value, c.FANNING_FOUL_ALL.value
_DAMP_FROM, _DAMP_ALL = c.FANNING_DAMP_FROM.value, c.FANNING_DAMP_ALL.value
_COOL_FROM, _COOL_ALL = c.COOLING_FROM.value, c.COOLING_ALL.value
_REST_AT, _SPENT = c.REST_HEAT_AT.value, c.REST_HEAT_UP_TO.value
_INSIDE = c.CLUSTER_INSIDE.value
_BROOD_DEGC = c.CORE_TEMPERATURE_BROOD.value
_COMB_WARMTH = y.NECTAR_WARMTH.value
_OUT_FROM, _OUT_ALL = c.BEARD_FROM.value, c.BEARD_ALL.value
_OUT_MOST = c.BEARD_MOST.value
_UPTAKE, _AIR_KG_M3 = y.NECTAR_UPTAKE.value, y.AIR_DENSITY.value
_DRIES, _STOPS = y.NECTAR_DRIES.value, y.NECTAR_STOPS.value
_NECTAR_MOST = y.NECTAR_MOST.value
_MOLAR = c.CO2_OVER_AIR_MOLAR_MASS.value


@compiled
def course(value: float, begin: float, end: float) -> tuple[float, float]:
    """Return how far along from ``begin`` to ``end`` a value is, 0 to 1 smoothly; its growth."""
    span = end - begin
    return ramp((value - begin) / span), ramp_growth((value - begin) / span) / span


@folded
def heat_at_rest(hive: Hive, degc: float) -> tuple[float, float]:
    """Return what bees of a warmth give at rest over what they give at 15 °C; its growth [1/K]."""
    # The heat of bees grows with warmth until they are spent.
    tired = min(max(degc - _SPENT + 2.0, 0.0), 4.0)
    felt = min(degc, _SPENT + 2.0) - tired * tired / 8.0
    log_q10 = hive.scalars[REST_LOG_Q10]
    more = exp(log_q10 * (felt - _REST_AT) / 10.0)
    return more, more * log_q10 / 10.0 * (1.0 - tired / 4.0)


@folded
def heat_of_bees(hive: Hive, lane: FloatArray, degc: float, base: float, bees: FloatArray) -> None:
    """Put the heat bees give in a nest and over a base of a temperature [°C] into ``bees`` [W].

    Clustered they lose what their mantle lets through, and the more of the combs is brood the more
    a kelvin costs them: the surface they keep warm is several times that of a cluster. They never
    give less than bees at rest do at the warmth of their own bodies: those on brood at its warmth;
    those of a cluster between mantle and core; idle ones, who leave it the warmer the nest is, at
    that of the air, and when the nest is warmer than they like, of the cooler combs below (Q10;
    Heran 1952, Southwick 1985, Watmough and Camazine 1995, all from memory). Need
    falls with the warmth of the nest and rest hardly grows where there is brood, so that insulation
    does not make bees burn more.
    """
    scalars = hive.scalars
    core, g0 = lane[CORE], lane[CLUSTER]
    later = scalars[LEAVES_K]
    loose, loose_t = course(degc, _LEFT_FROM + later, _LOOSE_ALL + later)
    below = core - degc
    more = g0 * (1.0 + scalars[BROOD_NEED] * lane[BROOD])
    need, need_t = more * below, -more
    # The base counts only where it is cooler than the nest and warmer than they like.
    place, place_t, place_base = degc, 1.0, 0.0
    liked = scalars[LIKED]
    if degc > liked:
        cooler = max(liked, base)
        if cooler < degc:
            place, place_t, place_base = cooler, 0.0, 1.0 if base > liked else 0.0
    body = scalars[MANTLE] + _INSIDE * (core - scalars[MANTLE])
    idle = body + loose * (place - body)
    idle_t, idle_base = loose_t * (place - body) + loose * place_t, loose * place_base
    easy, easy_k = heat_at_rest(hive, idle)
    # Not the core, which is a mean of warm brood and cool cluster: brood is kept at its own warmth.
    busy, busy_k = heat_at_rest(hive, max(_BROOD_DEGC, degc))
    busy_t = busy_k if degc > _BROOD_DEGC else 0.0
    share = scalars[BROOD_SHARE] * lane[BROOD]
    rest = lane[REST] * (easy + share * (busy - easy))
    rest_t = lane[REST] * ((1.0 - share) * easy_k * idle_t + share * busy_t)
    rest_base = lane[REST] * (1.0 - share) * easy_k * idle_base
    # In heat bees hang out before the hive; what they burn there warms nobody.
    out, out_t = course(degc, _OUT_FROM + scalars[HOT_K], _OUT_ALL + scalars[HOT_K])
    home, home_t = 1.0 - _OUT_MOST * out, -_OUT_MOST * out_t
    bees[BEE_HEAT], bees[BEE_HEAT_T], bees[BEE_HEAT_BASE] = need, need_t, 0.0
    if rest * home > need:
        bees[BEE_HEAT] = rest * home
        bees[BEE_HEAT_T], bees[BEE_HEAT_BASE] = rest_t * home + rest * home_t, rest_base * home


@folded
def ask_bees(hive: Hive, lane: FloatArray, x: FloatArray, bees: FloatArray) -> None:
    """Put what the bees do in a nest of a temperature, damp and CO2 into ``bees`` [16].

    They keep their core warm or rest (`heat_of_bees`); brood and work come to it. Cold, their
    breath rises from the cluster in a plume; warm, they are all over the combs. They fan for
    brood, and as much as they can when it is hot, or, while they can leave the cluster, when CO2
    rises or brood gets damp; without brood they air the nest some kelvins earlier. No more is
    fanned than the openings let through; they evaporate water when fanning does not do. To dry
    nectar they fan the air that takes up the water of what is brought. Limits and courses are
    estimates with ranges (`constants`).
    """
    degc, vapour, co2 = x[T + 1], x[P + 1], x[C + 1]
    brood = lane[BROOD]
    later, borne = hive.scalars[LEAVES_K], hive.scalars[HOT_K]
    able, able_t = course(degc, _LEFT_FROM + later, _LEFT_ALL + later)
    heat_of_bees(hive, lane, degc, x[T], bees)
    most = hive.scalars[FAN_MOST] * lane[MASS]
    earlier = hive.scalars[BROODLESS_AIRS] * (1.0 - brood) - borne
    hot, hot_t = course(degc, _HOT_FROM - earlier, _HOT_ALL - earlier)
    volume = co2 / (co2 + _MOLAR * (1.0 - co2))
    volume_c = _MOLAR / (co2 + _MOLAR * (1.0 - co2)) ** 2
    foul, foul_c = course(volume, _FOUL_FROM, _FOUL_ALL)
    at_brood = saturation_pa(_BROOD_DEGC)
    damper = hive.scalars[DAMP_BY]
    damp, damp_p = course(vapour / at_brood, _DAMP_FROM + damper, _DAMP_ALL + damper)
    damp, damp_p = brood * damp, brood * damp_p / at_brood
    fresh = lane[NECTAR] / (_UPTAKE * _AIR_KG_M3)
    # Whatever moves them, no more than all of them fan.
    calm = (1.0 - hot) * (1.0 - foul) * (1.0 - damp)
    asked = fresh + most * (1.0 - calm)
    wish = lane[FANNING] + able * asked
    wish_t = able_t * asked + most * able * hot_t * (1.0 - foul) * (1.0 - damp)
    wish_c = most * able * (1.0 - hot) * (1.0 - damp) * foul_c * volume_c
    wish_p = most * able * (1.0 - hot) * (1.0 - foul) * damp_p
    # Half of the openings is way out.
    limit = 0.5 * open_area_m2(hive.parts) * hive.scalars[FAN_SPEED]
    over = (wish / limit) ** 4
    # Roots are a tenth of the work of a power.
    root = sqrt(sqrt(1.0 + over))
    fan = wish / root
    less = 1.0 / (root * (1.0 + over))
    bees[BEE_FAN], bees[BEE_FAN_T] = fan, less * wish_t
    bees[BEE_FAN_C], bees[BEE_FAN_P] = less * wish_c, less * wish_p
    bees[BEE_SPREAD], bees[BEE_SPREAD_T] = able, able_t
    cooling = hive.scalars[COOL_MOST] * lane[MASS]
    add_cooling(cooling, degc, vapour, borne, bees)
    most_dried = _NECTAR_MOST * lane[MASS]
    there = min(lane[NECTAR] + lane[WAITING], most_dried)
    dry_nectar(most_dried, there, able, able_t, degc, vapour, bees)
    cost = hive.scalars[FAN_COST]
    # What drying takes it takes from the air; bees answer the cold it leaves as any other.
    bees[BEE_HEAT] += lane[ACTIVE] + cost * fan
    bees[BEE_HEAT_T] += cost * less * wish_t
    bees[BEE_HEAT_P] = cost * less * wish_p


@folded
def add_cooling(most: float, degc: float, vapour: float, borne: float, bees: FloatArray) -> None:
    """Put the water that bees evaporate in heat into ``bees``.

    ``most`` [kg/s] is in air half dry, ``borne`` [K] how much more warmth they bear before. The
    drier the air the more goes into it, and nothing into saturated air.
    """
    saturation = saturation_pa(degc)
    dry = max(2.0 * (1.0 - vapour / saturation), 0.0)
    slope = saturation_slope_pa_k(degc, saturation)
    dry_t = 2.0 * vapour * slope / saturation**2 if dry > 0.0 else 0.0
    share, share_t = course(degc, _COOL_FROM + borne, _COOL_ALL + borne)
    wish = most * share
    bees[BEE_COOL] = wish * dry
    bees[BEE_COOL_T] = most * share_t * dry + wish * dry_t
    bees[BEE_COOL_P] = -2.0 * wish / saturation if dry > 0.0 else 0.0


@folded
def dry_nectar(
    most: float,
    nectar: float,
    able: float,
    able_t: float,
    degc: float,
    vapour: float,
    bees: FloatArray,
) -> None:
    """Add the water of nectar that dries to what bees evaporate, ``nectar`` [kg/s] being there.

    They dry as much as they can: ``most`` [kg/s] when all of them are ``able``, not clustered, and
    the air is drier than `NECTAR_DRIES`; nothing in air damper than `NECTAR_STOPS`. The rest is
    left wet. It dries at the warmth of the combs it hangs in, between air and brood.
    """
    bees[BEE_NECTAR], bees[BEE_NECTAR_T], bees[BEE_NECTAR_P] = 0.0, 0.0, 0.0
    if nectar > 0.0:
        warmer = _COMB_WARMTH * max(_BROOD_DEGC - degc, 0.0)
        comb, comb_t = degc + warmer, 1.0 - _COMB_WARMTH if warmer > 0.0 else 1.0
        saturation = saturation_pa(comb)
        humidity = vapour / saturation
        eager, eager_h = course(humidity, _STOPS, _DRIES)
        over = (most * able * eager / nectar) ** 8
        root = sqrt(sqrt(sqrt(1.0 + over)))
        less = most / (root * (1.0 + over))
        by_humidity = less * able * eager_h
        falls = humidity * saturation_slope_pa_k(comb, saturation) / saturation * comb_t
        bees[BEE_NECTAR] = most * able * eager / root
        bees[BEE_NECTAR_T] = less * able_t * eager - by_humidity * falls
        bees[BEE_NECTAR_P] = by_humidity / saturation
    bees[BEE_COOL] += bees[BEE_NECTAR]
    bees[BEE_COOL_T] += bees[BEE_NECTAR_T]
    bees[BEE_COOL_P] += bees[BEE_NECTAR_P]


@folded
def add_by_fan(
    hive: Hive, density: float, outside: float, factor: float, row: int, work: Work
) -> None:
    """Add how the gains of one kind grow with the temperature and CO2 of the nest, by fanning.

    Of the quantity in ``work.scratch[3]``; ``density`` is that of the outside air.
    """
    jacobian = work.jacobian
    bees = work.bees
    q = work.scratch
    parts = hive.parts
    by_t, by_p, by_c = bees[BEE_FAN_T], bees[BEE_FAN_P], bees[BEE_FAN_C]
    open_m2 = open_area_m2(parts)
    for k in range(parts.shape[0]):
        z = int(parts[k, PART_ZONE])
        gain = factor * density * parts[k, PART_AREA] / open_m2 * (outside - q[3, z])
        jacobian[row + z, T + 1] += gain * by_t
        jacobian[row + z, P + 1] += gain * by_p
        jacobian[row + z, C + 1] += gain * by_c
    step = factor * density * (q[3, 0] - q[3, 1])
    jacobian[row + 1, T + 1] += step * by_t
    jacobian[row + 1, P + 1] += step * by_p
    jacobian[row + 1, C + 1] += step * by_c
    jacobian[row, T + 1] -= step * by_t
    jacobian[row, P + 1] -= step * by_p
    jacobian[row, C + 1] -= step * by_c
