"""The joints of a hive as a table."""

from __future__ import annotations

from html import escape
from typing import TYPE_CHECKING

from calveth.texts.html import table
from calveth.texts.units import UnitSystem

if TYPE_CHECKING:
    from calveth.core.conduction.joints import JointSum


def rest_name(joints: JointSum) -> str:
    """Return what is left of a hive's loss besides faces and joints."""
    return "corners, and through the board" if joints.behind_a_board else "corners, the rest"


def joints_html(joints: JointSum, units: UnitSystem, muted: str) -> str:
    """Return the joints as a table: ψ, what each adds, and how cold it makes its place."""
    rows = [["joint", "how", "long", "ψ", "adds", "coldest factor", "as if not there"]]
    for joint in joints.joints:
        point = joint.length_m == 0
        rows.append(
            [
                escape(joint.name),
                escape(joint.choice),
                "" if point else units.write(joint.length_m, "length"),
                "" if point else f"{joint.psi:+.3f} W/(m·K)",
                f"{joint.whole_w_k:+.3f} W/K",
                "" if joint.factor is None else f"{joint.factor:.2f}",
                "" if joint.plain_factor is None else f"{joint.plain_factor:.2f}",
            ]
        )
    return (
        f"{table(rows, words=(0, 1))}<p style='color:{muted}'>Faces alone "
        f"{joints.faces_w_k:.3f} W/K, joints {sum(j.whole_w_k for j in joints.joints):+.3f}, "
        f"{rest_name(joints)} {joints.rest_w_k:+.3f}. ψ with lengths measured "
        "inside, EN ISO 10211.</p>"
    )
