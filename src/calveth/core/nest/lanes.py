"""Hives and conditions as the arrays the compiled balance takes, and its answers as a `Balance`."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from calveth.core.airflow.flow import path_arrays, rows
from calveth.core.airflow.flows import Flows
from calveth.core.colony.colony import ColonyState, honey_ledger
from calveth.core.constants_year import NECTAR_MOST
from calveth.core.hive.zones import FRACTIONS
from calveth.core.nest import kernel_arrays as k
from calveth.core.nest import kernel_parts as kp
from calveth.core.nest import kernel_solve as ks
from calveth.core.nest.balance import Balance, Outside
from calveth.core.nest.network import SURFACE_ZONE, SURFACES, ZONE_OF_PATH, NestNetwork

FloatArray = NDArray[np.float64]

FRESH, LADEN = 0.01, 0.12
"""CO2 by mass a search for a state begins with: air as after a door was opened, and foul air."""


def balance_lanes(
    terms: NestNetwork, bees: ColonyState, out: Outside, start_co2: float = FRESH
) -> tuple[Balance, NDArray[np.int_]]:
    """Return the steady balance of N lanes and the status of each [N] (`kernel_solve.CLOSED`, ...).

    ``terms`` is one hive at N conditions, or N hives at one each; ``start_co2`` is `FRESH` or
    `LADEN`.
    """
    hives, owner, lanes = packed(terms, bees, out, start_co2)
    answers = _answers(owner.size, terms)
    ks.solve_all(hives, owner, lanes, answers)
    return balance_of(answers), answers.status


def packed(
    terms: NestNetwork, bees: ColonyState, out: Outside, start_co2: float = FRESH
) -> tuple[k.Hive, NDArray[np.int_], FloatArray]:
    """Return the arrays of the hives, which hive each lane has, and the lanes [N, 15]."""
    n, hives = out.temperature_degc.size, terms.volume_m3.size
    owner = np.arange(n) if hives == n and n > 1 else np.zeros(n, dtype=np.int64)
    lanes = np.empty((n, k.LANE_COLUMNS))
    wind = out.wind_m_s * terms.wind_factor
    lanes[:, k.TE], lanes[:, k.PE] = out.temperature_degc, out.vapour_pressure_pa
    lanes[:, k.WIND], lanes[:, k.PRESSURE] = wind, out.pressure_pa
    lanes[:, k.CORE] = bees.core_degc + terms.core_offset_k
    more = terms.bees_factor
    lanes[:, k.CLUSTER] = bees.cluster_conductance_w_k * terms.cluster_factor * more ** (2 / 3)
    lanes[:, k.REST] = bees.rest_heat_w * terms.rest_factor * more
    lanes[:, k.FANNING] = bees.fanning_m3_s * terms.fanning_factor * more
    lanes[:, k.ACTIVE] = bees.activity_w * terms.activity_share * more
    lanes[:, k.MASS], lanes[:, k.START_CO2] = bees.mass_kg * more, start_co2
    lanes[:, k.CO2_OUT] = out.co2_mass_fraction
    # No more than so many bees can dry.
    most = NECTAR_MOST.value * lanes[:, k.MASS]
    lanes[:, k.NECTAR] = np.minimum(bees.nectar_kg_s * more, most)
    lanes[:, k.WAITING], lanes[:, k.BROOD] = 0.0, bees.brood_share
    return hive_arrays(terms, hives), owner, lanes


def hive_arrays(terms: NestNetwork, hives: int) -> k.Hive:
    """Return strips, parts, joints, tops, surfaces, paths, zones, shares and scalars."""
    strips, parts, joints, tops = path_arrays(terms.paths, hives)
    surfaces = rows(
        SURFACE_ZONE,
        terms.surface_area_m2,
        terms.surface_film_m2k_w,
        terms.surface_layers_m2k_w,
        terms.surface_ratio,
        terms.surface_outer_share,
        terms.surface_convection_w_m2k,
        hives=hives,
    )
    paths = rows(terms.path_inner_k_w, terms.path_outer_m2, terms.path_outer_share, hives=hives)
    volumes = np.array(FRACTIONS)[:, None] * terms.volume_m3[None, :]
    zones = rows(
        terms.zone_factor,
        terms.zone_vapour_kg_s_pa,
        terms.zone_breath_m3_s,
        terms.comb_area_m2,
        volumes,
        hives=hives,
    )
    scalars = np.empty((hives, k.HIVE_SCALARS))
    scalars[:, k.PLUME], scalars[:, k.MIX_BASE] = terms.plume_share, terms.mixing_base_w_k
    scalars[:, k.MIX_CROWN], scalars[:, k.GUST] = terms.mixing_crown_w_k, terms.paths.gust_share[0]
    scalars[:, k.LAMINAR] = terms.paths.laminar_pa[0]
    scalars[:, k.FAN_MOST], scalars[:, k.FAN_SPEED] = terms.fanning_most, terms.fanning_speed
    scalars[:, k.COOL_MOST] = terms.cooling_most
    scalars[:, k.BROOD_NEED], scalars[:, k.MANTLE] = terms.brood_need, terms.mantle_degc
    scalars[:, k.REST_LOG_Q10] = np.log(terms.rest_q10)
    scalars[:, k.BROODLESS_AIRS], scalars[:, k.LIKED] = terms.broodless_airs_k, terms.liked_degc
    scalars[:, k.FAN_COST] = terms.fanning_cost_w_m3_s
    scalars[:, k.LEAVES_K], scalars[:, k.BROOD_SHARE] = terms.cluster_leaves_k, terms.brood_bees
    scalars[:, k.HOT_K], scalars[:, k.DAMP_BY] = terms.heat_borne_k, terms.damp_borne
    return k.Hive(strips, parts, joints, tops, surfaces, paths, zones, ZONE_OF_PATH, scalars)


def _answers(n: int, terms: NestNetwork) -> ks.Answers:
    parts, joints = terms.paths.part_zone.size, terms.paths.joint_zone.size
    return ks.Answers(
        state=np.zeros((n, 10)),
        status=np.zeros(n, dtype=np.int64),
        part_flows=np.zeros((n, parts, 2)),
        joint_flows=np.zeros((n, joints, 2)),
        at=np.zeros((n, len(SURFACES), kp.AT_COLUMNS)),
        shell_w=np.zeros((n, 3)),
        comb_kg_s=np.zeros((n, 3)),
        sums=np.zeros((n, k.SUM_COLUMNS)),
        residual=np.zeros((n, k.NINE)),
    )


def balance_of(a: ks.Answers) -> Balance:
    """Return answers with their conditions last."""
    state, at = a.state.T, a.at
    metabolic = a.sums[:, k.METABOLIC_W]
    t = state[k.T : k.P]
    return Balance(
        temperature_degc=t,
        vapour_pressure_pa=state[k.P : k.C],
        co2_mass_fraction=state[k.C : k.DP0],
        floor_pressure_pa=state[k.DP0],
        metabolic_w=metabolic,
        ledger=honey_ledger(metabolic),
        flows=Flows(
            opening_in=a.part_flows[:, :, 0].T,
            opening_out=a.part_flows[:, :, 1].T,
            joint_in=a.joint_flows[:, :, 0].T,
            joint_out=a.joint_flows[:, :, 1].T,
        ),
        surface_degc=at[:, :, kp.AT_DEGC].T,
        condensing_kg_s=at[:, :, kp.AT_KG_S].T,
        comb_kg_s=a.comb_kg_s.T,
        fanning_m3_s=a.sums[:, k.FAN_M3_S],
        cooling_kg_s=a.sums[:, k.COOL_KG_S] - a.sums[:, k.NECTAR_KG_S],
        nectar_kg_s=a.sums[:, k.NECTAR_KG_S],
        condensing_w=a.sums[:, k.CONDENSING_W],
        shell_w=a.shell_w.T,
        air_w=a.sums[:, k.AIR_W],
        vapour_carried_kg_s=a.sums[:, k.CARRIED_KG_S],
        vapour_diffused_kg_s=a.sums[:, k.DIFFUSED_KG_S],
        residual=a.residual.T,
    )
