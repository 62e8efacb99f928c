"""Layouts true to scale: boards, sheets with their numbered cuts, courses of blocks, the stack."""

from __future__ import annotations

from calveth.core.hive.opening import WallSide
from calveth.core.solids.section import Rect, Section
from calveth.core.workshop.block_walls import BlockWall
from calveth.core.workshop.boards import BoardLayout, Length
from calveth.core.workshop.courses import Course
from calveth.core.workshop.plan import BuildPlan
from calveth.core.workshop.sheet_layouts import SheetLayout
from calveth.drawing.flat import Label
from calveth.drawing.shapes import Dim, Drawing, Line, Mark, Polygon, Style, Text
from calveth.texts.build import to_buy_text

_CUT = Style(line="accent", line_px=1.0)
_REST = Style(fill="ground", line="muted", line_px=0.8, dash="dash")


def _box(x0: float, y0: float, x1: float, y1: float, style: Style) -> Polygon:
    return Polygon(points=((x0, y0), (x1, y0), (x1, y1), (x0, y1)), style=style)


def sheet_drawing(
    layout: SheetLayout, index: int, name: str, fill: str, label: Label, chosen: int = 0
) -> Drawing:
    """Return one sheet: its pieces by number, the cuts in their order, the largest rest."""
    sheet, item = layout.plan.sheets[index], layout.item
    high = 0.03 * item.length_m
    marks: list[Mark] = [
        _box(0.0, 0.0, item.length_m, item.width_m, Style(fill="sheet", line="ink", line_px=1.2))
    ]
    rows: list[tuple[int, int]] = []
    for rest in sheet.rests:
        marks.append(
            _box(rest.x_m, rest.y_m, rest.x_m + rest.wide_m, rest.y_m + rest.high_m, _REST)
        )
    for placed in sheet.placed:
        number = layout.rows[placed.blank]
        style = Style(fill="chosen" if number == chosen else fill, line="ink", line_px=0.9)
        x1, y1 = placed.x_m + placed.wide_m, placed.y_m + placed.high_m
        marks.append(_box(placed.x_m, placed.y_m, x1, y1, style))
        rows.append((len(marks) - 1, number))
        middle = ((placed.x_m + x1) / 2, (placed.y_m + y1) / 2)
        small = min(high, 0.45 * placed.high_m, 0.3 * placed.wide_m)
        marks.append(Text(at=middle, text=str(number), high_m=small, bold=True))
        size = f"{label(placed.wide_m)} x {label(placed.high_m)}"
        fits = 0.62 * small * 0.55 * len(size) < placed.wide_m and placed.high_m > 2.8 * small
        if fits:
            under = (middle[0], middle[1] - 1.1 * small)
            marks.append(Text(at=under, text=size, high_m=0.62 * small, color="muted"))
    if sheet.rests:
        rest = max(sheet.rests, key=lambda r: r.wide_m * r.high_m)
        text = f"left {label(rest.wide_m)} x {label(rest.high_m)}"
        small = min(0.7 * high, rest.wide_m / len(text) / 0.55, 0.5 * rest.high_m)
        at = (rest.x_m + rest.wide_m / 2, rest.y_m + rest.high_m / 2)
        marks.append(Text(at=at, text=text, high_m=small, color="muted"))
    for number, cut in enumerate(sheet.cuts, start=1):
        along = cut.way == "along"
        end = (cut.x_m + cut.long_m, cut.y_m) if along else (cut.x_m, cut.y_m + cut.long_m)
        marks.append(Line(points=((cut.x_m, cut.y_m), end), style=_CUT))
        # The number stands where the saw goes in.
        at = (cut.x_m + 0.5 * high, cut.y_m) if along else (cut.x_m, cut.y_m + 0.5 * high)
        marks.append(Text(at=at, text=str(number), high_m=0.5 * high, color="accent", bold=True))
    marks += [
        Dim(
            a=(0.0, 0.0),
            b=(item.length_m, 0.0),
            off_m=-1.4 * high,
            text=label(item.length_m),
            high_m=0.7 * high,
        ),
        Dim(
            a=(0.0, 0.0),
            b=(0.0, item.width_m),
            off_m=1.4 * high,
            text=label(item.width_m),
            high_m=0.7 * high,
        ),
    ]
    thick = label(layout.thickness_m)
    whose = "yours, " if layout.own else ""
    title = f"{name} {thick}, {item.name}: {whose}no. {index + 1} of {len(layout.plan.sheets)}"
    return Drawing(title=title, marks=tuple(marks), rows=tuple(rows))


def boards_drawing(
    layout: BoardLayout, name: str, fill: str, label: Label, chosen: int = 0
) -> Drawing:
    """Return the boards of one width under each other, with the pieces cut of each by number."""
    marks: list[Mark] = []
    rows: list[tuple[int, int]] = []
    wide = layout.width_m
    longest = max(b.item.length_m for b in layout.boards)
    # Figures of thin bars stand over them: none of a size to read fits in.
    thin = wide < 0.025 * longest
    high = 0.018 * longest if thin else min(0.03 * longest, 0.42 * wide)
    step = wide + 1.5 * high
    for number, board in enumerate(layout.boards):
        y = -number * step
        marks.append(_box(0.0, y, board.item.length_m, y + wide, _REST))
        x = 0.010
        for length in board.lengths:
            narrow = len(length.strips) > 1
            each = wide / len(length.strips) if narrow else wide
            for k, strip in enumerate(length.strips):
                tall = min(strip.width_m, each) if narrow else wide
                y0 = y + k * each
                style = Style(
                    fill="chosen" if strip.row == chosen else fill, line="ink", line_px=0.9
                )
                marks.append(_box(x, y0, x + strip.length_m, y0 + tall, style))
                rows.append((len(marks) - 1, strip.row))
                if not narrow and not thin:
                    text = f"{strip.row}: {label(strip.length_m)}"
                    small = min(high, 0.7 * tall, strip.length_m / (0.6 * len(text)))
                    at = (x + strip.length_m / 2, y0 + tall / 2)
                    marks.append(Text(at=at, text=text, high_m=small))
            if narrow or thin:
                marks.append(_bundle(length, (x, y + wide), high, label))
            x += length.length_m + 0.003
        whose = "yours, " if board.own else ""
        text = f"{whose}{label(board.item.length_m)}, left {label(board.left_m)}"
        marks.append(
            Text(
                at=(board.item.length_m + 0.5 * high, y + wide / 2),
                text=text,
                high_m=0.75 * high,
                color="muted",
                anchor="left",
            )
        )
    own = sum(board.own for board in layout.boards)
    count = to_buy_text(own, len(layout.boards) - own)
    title = f"{name}, {label(layout.thickness_m)} x {label(wide)}: {count}"
    return Drawing(title=title, marks=tuple(marks), rows=tuple(rows))


def _bundle(length: Length, at: tuple[float, float], high: float, label: Label) -> Text:
    """Return what narrow strips side by side are, over them: there is no room in them."""
    numbers = ", ".join(str(s.row) for s in reversed(length.strips))
    text = f"{numbers}: {label(length.length_m)}"
    small = min(0.8 * high, length.length_m / (0.56 * len(text)))
    return Text(at=(at[0] + length.length_m / 2, at[1] + 0.6 * high), text=text, high_m=small)


def course_drawing(wall: BlockWall, fill: str, label: Label) -> Drawing:
    """Return a wall of blocks: front and side in elevation, the first two courses in plan."""
    marks: list[Mark] = []
    wide, deep = wall.outer_m
    high = 0.035 * max(wide, deep, wall.height_m)
    if wall.flat:
        for course in wall.courses:
            for block in course.runs[0].blocks:
                marks += _block(
                    block.start_m, course.z_m, block.length_m, course.height_m, fill, label, high
                )
        title = f"{wall.part.label}: blocks laid flat"
        return Drawing(title=title, marks=tuple(marks))
    at = 0.0
    for side, span in (("front", wide), ("left", deep)):
        for course in wall.courses:
            marks += _elevation(course, side, span, at, wall, fill, label, high)  # type: ignore[arg-type]
        marks.append(
            Text(at=(at + span / 2, -1.6 * high), text=side, high_m=0.8 * high, color="muted")
        )
        at += span + 5 * high
    for number, course in enumerate(wall.courses[:2], start=1):
        marks += _plan(course, at, wall, fill, label, high)
        text = f"course {number} from above"
        marks.append(
            Text(at=(at + wide / 2, -1.6 * high), text=text, high_m=0.8 * high, color="muted")
        )
        at += wide + 5 * high
    title = f"{wall.part.label}: {len(wall.courses)} courses, {wall.blocks} blocks"
    return Drawing(title=title, marks=tuple(marks))


def _block(
    x: float,
    y: float,
    long: float,
    tall: float,
    fill: str,
    label: Label,
    high: float,
    text: str = "",
) -> list[Mark]:
    words = text or label(long)
    small = min(0.8 * high, 0.6 * tall, long / (0.6 * len(words)))
    return [
        _box(x, y, x + long, y + tall, Style(fill=fill, line="ink", line_px=0.9)),
        Text(at=(x + long / 2, y + tall / 2), text=words, high_m=small),
    ]


def _elevation(
    course: Course,
    side: WallSide,
    span: float,
    at: float,
    wall: BlockWall,
    fill: str,
    label: Label,
    high: float,
) -> list[Mark]:
    """Return one side of a course; the ends of the blocks of the walls beside it show too."""
    run = next(r for r in course.runs if r.side == side)
    marks: list[Mark] = []
    if run.start_m > 0:
        thick = run.start_m - wall.joint_m
        for x in (at, at + span - thick):
            marks += _block(x, course.z_m, thick, course.height_m, fill, label, high, " ")
    for block in run.blocks:
        marks += _block(
            at + block.start_m, course.z_m, block.length_m, course.height_m, fill, label, high
        )
    marks.append(
        Text(
            at=(at - 0.6 * high, course.z_m + course.height_m / 2),
            text=label(course.height_m),
            high_m=0.7 * high,
            color="muted",
            anchor="right",
        )
    )
    return marks


def _plan(
    course: Course, at: float, wall: BlockWall, fill: str, label: Label, high: float
) -> list[Mark]:
    """Return a course from above, front below."""
    wide, deep = wall.outer_m
    starts = [r.start_m for r in course.runs if r.start_m > 0]
    thick = starts[0] - wall.joint_m if starts else 0.1
    marks: list[Mark] = []
    for run in course.runs:
        for block in run.blocks:
            a, long = block.start_m, block.length_m
            if run.side in ("front", "back"):
                y = 0.0 if run.side == "front" else deep - thick
                marks += _block(at + a, y, long, thick, fill, label, high)
            else:
                x = 0.0 if run.side == "left" else wide - thick
                marks.append(
                    _box(
                        at + x,
                        a,
                        at + x + thick,
                        a + long,
                        Style(fill=fill, line="ink", line_px=0.9),
                    )
                )
                small = min(0.8 * high, 0.6 * thick, long / 3)
                marks.append(
                    Text(
                        at=(at + x + thick / 2, a + long / 2),
                        text=label(long),
                        high_m=small,
                        upright=True,
                    )
                )
    return marks


def stack_drawing(
    plan: BuildPlan,
    section: Section,
    shapes: tuple[Mark, ...],
    label: Label,
    gap_name: dict[str, str],
) -> Drawing:
    """Return the side section with every gap of the stack measured beside it."""
    frame: Rect = section.frame()
    tall = frame.z1 - frame.z0
    high = 0.03 * tall
    marks: list[Mark] = list(shapes)
    x = frame.y1 + 3 * high
    for gap in plan.stack.gaps:
        z = (gap.z0_m + gap.z1_m) / 2
        bad = gap.verdict in ("glued", "built up")
        color = "heat" if bad else "ink"
        inside = section.cavity.y1
        style = Style(line=color, line_px=0.8)
        marks.append(Line(points=((inside, gap.z0_m), (x, gap.z0_m)), style=style))
        marks.append(Line(points=((inside, gap.z1_m), (x, gap.z1_m)), style=style))
        word = {
            "right": "bee space",
            "glued": "bees glue it",
            "built up": "bees build into it",
            "note": "",
        }[gap.verdict]
        text = f"{label(gap.gap_m)} {gap_name[gap.kind]}" + (f": {word}" if word else "")
        marks.append(
            Text(at=(x + 0.6 * high, z), text=text, high_m=high, color=color, anchor="left")
        )
    return Drawing(title="stack, cut open from the side", marks=tuple(marks))
