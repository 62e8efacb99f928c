"""What to get, weights and steps of a build as small pages; everything is escaped."""

from __future__ import annotations

from collections.abc import Mapping
from html import escape

from calveth.core.materials import Material
from calveth.core.workshop.plan import BuildPlan
from calveth.texts.build import (
    build_message,
    bulk_text,
    lift_text,
    money,
    parts_text,
    saw_size,
    standing_text,
)
from calveth.texts.build_pages import above_text, cast_lines, course_lines
from calveth.texts.html import table
from calveth.texts.units import UnitSystem


def to_get_html(
    plan: BuildPlan,
    materials: Mapping[str, Material],
    units: UnitSystem,
    currency: str,
    years: float = 10.0,
) -> str:
    """Return the shopping list: boards, sheets, blocks, all else, and what it costs."""
    rows = [["what", "have", "buy", ""]]
    for board in plan.boards:
        counts: dict[str, tuple[int, int]] = {}
        for one in board.boards:
            size = " x ".join(
                saw_size(s, units) for s in (board.thickness_m, board.width_m, one.item.length_m)
            )
            own, bought = counts.get(size, (0, 0))
            counts[size] = (own + one.own, bought + (not one.own))
        name = materials[board.material].name
        rows += [
            [escape(f"{name} {size}"), _some(own), _some(bought), f"waste {board.waste:.0%}"]
            for size, (own, bought) in counts.items()
        ]
    for sheet in plan.sheets:
        number = len(sheet.plan.sheets)
        name = f"{materials[sheet.material].name} {saw_size(sheet.thickness_m, units)}"
        rows.append(
            [
                escape(f"{name}, {sheet.item.name}"),
                *((_some(number), "") if sheet.own else ("", _some(number))),
                escape(f"waste {sheet.waste:.0%}, {above_text(sheet.plan.above, 'sheet')}"),
            ]
        )
    for wall in plan.walls:
        text = f"{wall.block.name}, {materials[wall.material].name}: {parts_text((wall.part,))}"
        rows.append([escape(text), _some(wall.own), _some(wall.blocks - wall.own), ""])
    if not any(row[1] for row in rows[1:]):
        rows = [[row[0], *row[2:]] for row in rows]  # nothing is at hand
    html = table(rows, words=(0, len(rows[0]) - 1)) if len(rows) > 1 else ""
    html += "".join(f"<p>{escape(bulk_text(b, units, materials))}</p>" for b in plan.bulk)
    for line in (*course_lines(plan, materials, units), *cast_lines(plan, materials, units)):
        html += f"<p>{escape(line)}</p>"
    saved = plan.bought - plan.used
    html += (
        f"<p><b>Bought {escape(money(plan.bought, currency))}</b>, of it used "
        f"{escape(money(plan.used, currency))}; {escape(money(max(saved, 0), currency))} are "
        f"offcuts and rests. Over {years:.0f} years of use that is "
        f"{escape(money(plan.bought / years, currency))} a year. Work is left out, prices are "
        "yours or rough ones by volume.</p>"
    )
    if not plan.priced:
        html += "<p>! Some sizes have no price: type it in the stock list.</p>"
    for caution in dict.fromkeys(c for r in plan.rows for c in r.piece.cautions):
        html += f"<p>! {escape(caution)}</p>"
    return html


def _some(count: int) -> str:
    return str(count) if count else ""


def weights_html(plan: BuildPlan, units: UnitSystem) -> str:
    """Return what each lift weighs, what helps, whether it stands, and the gaps of the stack."""
    rows = [["part", "empty", "Feb", "full"]]
    for v in plan.lifts:
        kilos = [
            units.write(v.lift.kg(s), "mass", 0 if v.lift.kg(s) >= 10 else 1)
            for s in ("empty", "february", "full")
        ]
        mark = {"fine": "", "hard": "! ", "too heavy": "!! "}[v.verdict]
        rows.append([mark + escape(v.lift.part.label), *kilos])
    html = "<p><b>Lifts</b></p>" + table(rows, words=(0,))
    heavy = [v for v in plan.lifts if v.verdict != "fine"]
    for v in heavy:
        html += f"<p>{escape(v.lift.part.label)}: {escape(lift_text(v, units))}</p>"
    if plan.helps:
        html += (
            f"<p>What helps: {escape('; '.join(build_message(m, units) for m in plan.helps))}.</p>"
        )
    html += (
        "<p>Revised lifting equation of NIOSH, ISO 11228-1 and ISO/TR 12295, from memory: "
        "guidance for work, local rules decide.</p>"
    )
    if plan.standing:
        html += "<p><b>Standing</b></p>"
    for s in plan.standing:
        html += f"<p>{escape(standing_text(s, plan.design.details.strap))}</p>"
    if plan.standing:
        s = plan.standing[1]
        height = units.write(s.height_m, "length")
        html += (
            f"<p>In February it balances {height} above the ground. Gust {s.gust_pa:.0f} Pa "
            "(EN 1991-1-4, from memory) by the storm wind, terrain and shelter of the place; a "
            "sheep pushes with 200 to 400 N, a badger with 100 to 250 N, cattle with more than "
            "600 N (estimates).</p>"
        )
    if plan.stack.says:
        html += "<p><b>Stack</b></p>"
    html += "".join(f"<p>{escape(build_message(m, units))}</p>" for m in plan.stack.says)
    return html


def steps_html(plan: BuildPlan, units: UnitSystem) -> str:
    """Return the steps, each with its rows and cautions."""
    html = ""
    for number, step in enumerate(plan.steps, start=1):
        names = f" <i>no. {', '.join(map(str, step.rows))}</i>" if step.rows else ""
        html += f"<p><b>{number}.</b> {escape(build_message(step.act, units))}{names}</p>"
        html += "".join(f"<p><b>! {escape(c)}</b></p>" for c in step.cautions)
    return html
