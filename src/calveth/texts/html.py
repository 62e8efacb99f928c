"""Tables and shades of the HTML Qt's own pages take."""

from __future__ import annotations

from collections.abc import Sequence

MUTED = "#59616a"
"""Of words beside the point, on the white of a page."""


def table(rows: Sequence[Sequence[str]], *, words: Sequence[int] = (0,), wide: bool = True) -> str:
    """Return rows as an HTML table; the first row is the head, columns of ``words`` left."""
    lines = []
    for number, row in enumerate(rows):
        tag = "td" if number else "th"
        cells = "".join(
            f"<{tag} align='{'left' if k in words else 'right'}'>{cell}</{tag}>"
            for k, cell in enumerate(row)
        )
        lines.append(f"<tr>{cells}</tr>")
    width = "width='100%'" if wide else ""
    return f"<table cellpadding='3' cellspacing='0' {width}>{''.join(lines)}</table>"
