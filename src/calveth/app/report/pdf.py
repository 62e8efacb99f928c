"""The printed report as one PDF: the answer, a page a hive, tables on demand."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import partial
from pathlib import Path

from PySide6.QtCore import QBuffer, QIODevice, QMarginsF, QRect, QRectF, QSizeF, Qt
from PySide6.QtGui import (
    QPageLayout,
    QPageSize,
    QPainter,
    QPdfWriter,
    QPyTextObject,
    QTextDocument,
    QTextFormat,
)

from calveth.app.cutaway.view import Lens, scene
from calveth.app.report.appendix import comparison_page, sources_page, tables_page
from calveth.app.report.drawing import paint_drawing
from calveth.app.report.pages import RANGES, YEAR, answer_page, hive_page
from calveth.app.report.profiles import PROFILES_SIZE, paint_profiles
from calveth.app.theme.palette import LIGHT
from calveth.app.theme.theme import font, font_family
from calveth.app.widgets.dot_plot import DotPlot
from calveth.app.widgets.year_picture import YearPicture
from calveth.core.advice.dossier import Dossier
from calveth.core.assess.solved_shells import conduction_in
from calveth.core.climate.place import coldest_month
from calveth.core.project import Project
from calveth.core.year.draws import YearBands
from calveth.core.year.run import run_year
from calveth.store.atomic_write import atomic_write
from calveth.texts.units import METRIC, UnitSystem

_STYLE = (
    "* {{ font-family: '{family}'; font-size: 8.5pt; }} h1 {{ font-size: 15pt; }} "
    "h2 {{ font-size: 10.5pt; margin-top: 12px; margin-bottom: 3px; }} "
    "ul {{ margin-top: 2px; margin-bottom: 2px; -qt-list-indent: 0; margin-left: 12px; }} "
    "table {{ margin-bottom: 6px; margin-top: 2px; }} "
    "th {{ font-weight: 600; border-bottom: 1px solid #59616a; }} td {{ font-size: 7.6pt; }} "
    "li {{ margin-bottom: 2px; }} p {{ margin-top: 5px; margin-bottom: 5px; }}"
)
_LENSES: tuple[Lens, ...] = ("make-up", "wet")
_SMALLER = (1.0, 0.9, 0.8, 0.7, 0.62)
"""What the wide pictures of a page are made smaller by until all of it fits on one."""
_DPI = 150


# Size the drawings are painted at; they are scaled into the page [px].
_DRAWING = (620, 440)
_YEAR_WIDE, _RANGES_WIDE = 900, 800
Paint = Callable[[QPainter], None]


@dataclass(frozen=True, slots=True)
class Picture:
    """A drawing of a page: its size [px] and what paints it, in lines, not in dots."""

    width: int
    height: int
    paint: Paint


def write_report(
    path: Path,
    project: Project,
    wholes: Sequence[Dossier],
    *,
    month: int | None = None,
    units: UnitSystem = METRIC,
    years: Sequence[YearBands] = (),
    tables: bool = False,
) -> int:
    """Write the report of assessed designs and return its number of pages.

    ``years`` are those of the designs with their ranges; a design without one has no such section.
    With ``tables`` an appendix has every figure and where it comes from.

    Raises
    ------
    FileError
        When it cannot be written; an old file stays until the new one is whole.
    """
    steps = report_steps(
        path, project, wholes, month=month, units=units, years=years, tables=tables
    )
    return deque(steps, maxlen=1).pop()


def report_steps(
    path: Path,
    project: Project,
    wholes: Sequence[Dossier],
    *,
    month: int | None = None,
    units: UnitSystem = METRIC,
    years: Sequence[YearBands] = (),
    tables: bool = False,
) -> Iterator[int]:
    """Write the report page by page, so that a window can do other things between two of them.

    Yields the number of pages that are painted. The file is there when the steps are at their end;
    left before, nothing is written.

    Raises
    ------
    FileError
        When it cannot be written; an old file stays until the new one is whole.
    """
    at = coldest_month(project.place) if month is None else month
    chapters = _chapters(project, wholes, at, units, years, tables=tables)
    with atomic_write(path) as part:
        yield from paint_chapters(part, f"{project.name}: report", project.name, chapters)


Chapter = tuple[str, dict[str, Picture]]


def paint_chapters(
    path: Path,
    title: str,
    footer: str,
    chapters: Iterable[Chapter],
    plates: Sequence[Callable[[QPainter, QPdfWriter], None]] = (),
) -> Iterator[int]:
    """Paint chapters (text with its pictures), then plates, a page each; yield page numbers.

    A plate paints its own page in dots of the writer.
    """
    # Into memory first: the library would take a name that is no UTF-8 for another.
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(buffer)
    writer.setResolution(_DPI)
    writer.setTitle(title)
    writer.setCreator("Calveth")
    writer.setPageLayout(
        QPageLayout(
            QPageSize(QPageSize.PageSizeId.A4),
            QPageLayout.Orientation.Portrait,
            QMarginsF(15, 14, 15, 14),
            QPageLayout.Unit.Millimeter,
        )
    )
    painter = QPainter(writer)
    try:
        page = 0
        for html, pictures in chapters:
            for number in _chapter(painter, writer, html, pictures, page, footer):
                yield number
                page = number
        for plate in plates:
            if page:
                writer.newPage()
            page += 1
            plate(painter, writer)
            yield page
    finally:
        painter.end()
    path.write_bytes(bytes(buffer.data().data()))


def _chapters(
    project: Project,
    wholes: Sequence[Dossier],
    month: int,
    units: UnitSystem,
    years: Sequence[YearBands],
    *,
    tables: bool,
) -> Iterator[Chapter]:
    """Return the pages of each chapter with their pictures; ``years`` are those of the designs."""
    by_design = {year.case.design.id: year for year in years}
    ranges = {RANGES: ranges_picture(years, units)} if years else {}
    yield answer_page(project, wholes, years, month, units), ranges
    for dossier in wholes:
        year = by_design.get(dossier.monthly.design.id)
        pictures = _sections(project, dossier, month, units)
        if year is not None and not year.trouble:
            pictures[YEAR] = year_picture(year, units)
        yield hive_page(dossier, project, month, units, list(pictures), year), pictures
    if not tables:
        return
    yield comparison_page(project, wholes, month, units), {}
    for dossier in wholes:
        faces = partial(paint_profiles, dossier=dossier, project=project, month=month, units=units)
        pictures = {"profiles": Picture(*PROFILES_SIZE, faces)}
        year = by_design.get(dossier.monthly.design.id)
        yield tables_page(dossier, project, month, units, "profiles", year), pictures
    used = {key for w in wholes for key in w.monthly.design.material_ids}
    yield sources_page(project, [m for m in project.materials if m.id in used]), {}


def _sections(
    project: Project, dossier: Dossier, month: int, units: UnitSystem
) -> dict[str, Picture]:
    """Return the cutaway as it is made and where it gets wet."""
    monthly = dossier.monthly
    pictures: dict[str, Picture] = {}
    for lens in _LENSES:
        shown = scene(
            monthly.design,
            project.material_table(),
            project.colony,
            monthly,
            month,
            lens,
            units=units,
            solved=conduction_in(monthly.case.shells, monthly.design, month),
        )
        pictures[lens] = Picture(
            *_DRAWING, partial(paint_drawing, scene=shown, width=_DRAWING[0], height=_DRAWING[1])
        )
    return pictures


def ranges_picture(years: Sequence[YearBands], units: UnitSystem) -> Picture:
    """Return the hives by their winter honey, each with its range."""
    plot = DotPlot(brief=True)
    plot.show_rows([y for y in years if not y.trouble], "winter_honey_kg", units)
    plot.resize(_RANGES_WIDE, plot.sizeHint().height())
    return Picture(plot.width(), plot.height(), lambda painter: plot.draw(painter, LIGHT))


def year_picture(year: YearBands, units: UnitSystem) -> Picture:
    """Return the year of a hive by day and hour."""
    view = YearPicture(LIGHT)
    view.show_year(run_year(year.case), year, units)
    view.resize(_YEAR_WIDE, view.sizeHint().height())
    return Picture(_YEAR_WIDE, view.sizeHint().height(), lambda painter: view.draw(painter, LIGHT))


class _Drawer(QPyTextObject):
    """Paints the pictures of a page where its text has an image of that name."""

    def __init__(self, pictures: dict[str, Picture], parent: QTextDocument) -> None:
        super().__init__(parent)
        self._pictures = pictures

    def intrinsicSize(self, _: QTextDocument, __: int, format_: QTextFormat) -> QSizeF:
        image = format_.toImageFormat()
        picture = self._pictures[image.name()]
        width = image.width() * _DPI / 96
        return QSizeF(width, width * picture.height / picture.width)

    def drawObject(
        self,
        painter: QPainter,
        rect: QRectF | QRect,
        _: QTextDocument,
        __: int,
        format_: QTextFormat,
    ) -> None:
        picture = self._pictures[format_.toImageFormat().name()]
        painter.save()
        painter.translate(rect.topLeft())
        painter.scale(rect.width() / picture.width, rect.height() / picture.height)
        painter.setClipRect(QRectF(0, 0, picture.width, picture.height))
        picture.paint(painter)
        painter.restore()


def _chapter(
    painter: QPainter,
    writer: QPdfWriter,
    html: str,
    pictures: dict[str, Picture],
    page: int,
    footer: str,
) -> Iterator[int]:
    """Paint a chapter over as many pages as it takes; yield the number of each page."""
    document = QTextDocument()
    document.setDefaultFont(font(12))
    document.setDefaultStyleSheet(_STYLE.format(family=font_family()))
    document.documentLayout().setPaintDevice(writer)
    document.setDocumentMargin(0.0)
    drawer = _Drawer(pictures, document)
    document.documentLayout().registerHandler(QTextFormat.ObjectTypes.ImageObject.value, drawer)
    frame = writer.pageLayout().paintRectPixels(_DPI)
    foot = 26.0
    size = QSizeF(frame.width(), frame.height() - foot)
    wide = any(name in pictures for name in (RANGES, YEAR))
    for share in _SMALLER if wide else (1.0,):
        document.setHtml(_scaled_images(html, frame.width(), share))
        document.setPageSize(size)
        if document.pageCount() == 1:
            break
    else:
        document.setHtml(_scaled_images(html, frame.width(), 1.0))
        document.setPageSize(size)
    for k in range(document.pageCount()):
        if page:
            writer.newPage()
        page += 1
        painter.save()
        painter.translate(0, -k * size.height())
        clip = QRectF(0, k * size.height(), size.width(), size.height())
        document.drawContents(painter, clip)
        painter.restore()
        painter.save()
        # The first picture of the next page reaches into the margin.
        margin = QRectF(0, size.height(), size.width(), float(writer.height()))
        painter.fillRect(margin, Qt.GlobalColor.white)
        small = font(12)
        small.setPixelSize(int(7.5 * _DPI / 72))
        painter.setFont(small)
        painter.drawText(QRectF(0, size.height() + 4, size.width(), foot), f"{footer} · {page}")
        painter.restore()
        yield page


def _scaled_images(html: str, width: float, share: float) -> str:
    """Give drawings their width on the page: two beside each other, or one alone.

    ``share`` is how much of that they have.
    """
    pixel = 96 / _DPI  # the pages count lengths in pixels of a screen
    for px, part in (("330", 0.49), ("500", 0.74), ("640", 0.99)):
        html = html.replace(f"width='{px}'", f"width='{int(width * part * share * pixel)}'")
    return html
