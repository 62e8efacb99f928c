"""Writes the table of constants into docs/nomenclature.md, between its two marks.

``.venv/bin/python tools/constants_page.py``; a test holds the page against the code.
"""

from __future__ import annotations

from pathlib import Path

from calveth.core import (
    constants,
    constants_bees,
    constants_building,
    constants_lifting,
    constants_tables,
    constants_year,
    parameters,
)
from calveth.core.constant import Constant, Table

PAGE = Path(__file__).resolve().parent.parent / "docs" / "nomenclature.md"
BEGIN, END = "<!-- constants: begin -->", "<!-- constants: end -->"


def all_constants() -> dict[str, Constant]:
    """Return every constant of the core by name."""
    return {
        name: item
        for module in (
            constants,
            constants_bees,
            constants_building,
            constants_lifting,
            constants_tables,
            constants_year,
            parameters,
        )
        for name, item in vars(module).items()
        if isinstance(item, Constant)
    }


def table() -> str:
    """Return the constants as a Markdown table."""
    lines = ["| constant | value | range | unit | how sure | source |", "| - | - | - | - | - | - |"]
    for name, item in all_constants().items():
        span = "" if item.low is None else f"{item.low:.4g} to {item.high:.4g}"
        lines.append(
            f"| `{name}` | {item.value:.6g} | {span} | {item.unit} | {item.certainty} | "
            f"{item.source} |"
        )
    lines += ["", "| table | values | times less or more | unit | how sure | source |"]
    lines.append("| - | - | - | - | - | - |")
    for name, item in vars(constants_tables).items():
        if isinstance(item, Table):
            values = ", ".join(f"{word} {value:.4g}" for word, value in item.values.items())
            span = "" if item.times == 1.0 else f"{item.times:g}"
            lines.append(
                f"| `{name}` | {values} | {span} | {item.unit} | {item.certainty} | {item.source} |"
            )
    return "\n".join(lines)


def page(text: str) -> str:
    """Return the page with today's table in it."""
    head, rest = text.split(BEGIN)
    tail = rest.split(END)[1]
    return f"{head}{BEGIN}\n{table()}\n{END}{tail}"


if __name__ == "__main__":
    PAGE.write_text(page(PAGE.read_text(encoding="utf-8")), encoding="utf-8")
