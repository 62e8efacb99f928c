"""What the material of a hive costs; a rough estimate that leaves out work, waste and fittings."""

from __future__ import annotations

from collections.abc import Mapping

from calveth.core.hive.design import Design
from calveth.core.materials import Material
from calveth.core.solids.build import HiveSolids, build_solids
from calveth.core.solids.quantities import face_areas
from calveth.core.solids.shapes import volume_m3


def material_cost_eur(
    design: Design, materials: Mapping[str, Material], hive: HiveSolids | None = None
) -> float:
    """Return the cost of the material in all pieces [€], openings not deducted."""
    hive = hive or build_solids(design)
    areas = face_areas(hive)
    total = 0.0
    for solid in hive.pieces:
        material = materials[solid.material]
        if material.kind == "film":
            continue
        volume = volume_m3(solid.shape, hive.bend)
        price = material.price_eur_m3
        if solid.second_share > 0:
            price += solid.second_share * (materials[solid.second].price_eur_m3 - price)
        total += volume * price
    for face, area in areas.items():
        for layer in design.shell.stack(face):
            if materials[layer.material].kind == "film":
                total += area.inner_m2 * materials[layer.material].price_eur_m3
    return total
