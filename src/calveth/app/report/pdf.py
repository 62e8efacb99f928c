"""The printed report: cutaways, profiles, tables, sources, ranges and cautions as one PDF."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PySide6.QtCore import QMarginsF, QRectF, QSizeF, QUrl
from PySide6.QtGui import (
    QImage,
    QPageLayout,
    QPageSize,
    QPainter,
    QPdfWriter,
    QTextDocument,
)

from calveth.app.cutaway.view import Lens, scene
from calveth.app.report.drawing import drawing_image
from calveth.app.report.pages import design_page, first_page, sources_page
from calveth.app.report.profiles import profile_image
from calveth.app.theme.theme import font, font_family
from calveth.core.assess.shells import conduction_in
from calveth.core.assess.whole import WholeAssessment
from calveth.core.climate.place import coldest_month
from calveth.core.project import Project
from calveth.core.units import METRIC, UnitSystem
from calveth.store.atomic_write import atomic_write

_STYLE = (
    "* {{ font-family: '{family}'; font-size: 8.5pt; }} h1 {{ font-size: 15pt; }} "
    "h2 {{ font-size: 10.5pt; margin-top: 16px; margin-bottom: 3px; }} "
    "table {{ margin-bottom: 6px; margin-top: 2px; }} "
    "th {{ font-weight: 600; border-bottom: 1px solid #59616a; }} td {{ font-size: 7.6pt; }} "
    "li {{ margin-bottom: 2px; }} p {{ margin-top: 5px; margin-bottom: 5px; }}"
)
_LENSES: tuple[Lens, ...] = ("make-up", "warmth", "wet", "air")
_DPI = 150


def write_report(
    path: Path,
    project: Project,
    wholes: Sequence[WholeAssessment],
    *,
    month: int | None = None,
    units: UnitSystem = METRIC,
    report: Callable[[float], None] = lambda _: None,
) -> int:
    """Write the report of assessed designs and return its number of pages.

    Raises
    ------
    FileError
        When it cannot be written; an old file stays until the new one is whole.
    """
    at = coldest_month(project.place) if month is None else month
    with atomic_write(path) as part:
        pages = _paint(part, project, wholes, at, units, report)
    return pages


def _paint(
    path: Path,
    project: Project,
    wholes: Sequence[WholeAssessment],
    month: int,
    units: UnitSystem,
    report: Callable[[float], None],
) -> int:
    writer = QPdfWriter(str(path))
    writer.setResolution(_DPI)
    writer.setTitle(f"{project.name}: report")
    writer.setCreator("Calveth")
    writer.setPageLayout(
        QPageLayout(
            QPageSize(QPageSize.PageSizeId.A4), QPageLayout.Orientation.Portrait,
            QMarginsF(15, 14, 15, 14), QPageLayout.Unit.Millimeter,
        )
    )  # fmt: skip
    painter = QPainter(writer)
    used = {key for w in wholes for key in w.monthly.design.material_ids}
    chapters: list[tuple[str, dict[str, QImage]]] = [
        (first_page(project, wholes, month, units), {})
    ]
    for number, whole in enumerate(wholes):
        pictures = _pictures(project, whole, month, units)
        chapters.append((design_page(whole, project, month, units, list(pictures)), pictures))
        report((number + 1) / (len(wholes) + 1))
    materials = [m for m in project.materials if m.id in used]
    chapters.append((sources_page(project, materials), {}))
    count = 0
    for number, (html, pictures) in enumerate(chapters):
        if number:
            writer.newPage()
        count = _chapter(painter, writer, html, pictures, count, project.name)
    painter.end()
    report(1.0)
    return count


def _pictures(
    project: Project, whole: WholeAssessment, month: int, units: UnitSystem
) -> dict[str, QImage]:
    """Return the cutaway through every lens, and the profiles through the faces."""
    monthly = whole.monthly
    pictures = {}
    for lens in _LENSES:
        picture = scene(
            monthly.design, project.material_table(), project.colony, monthly, month, lens,
            units=units, solved=conduction_in(monthly.shells, monthly.design, month),
        )  # fmt: skip
        pictures[f"{lens}.png"] = drawing_image(picture, 2.4, width=620, height=440)
    pictures["profiles.png"] = profile_image(whole, project, month, units)
    return pictures


def _chapter(
    painter: QPainter,
    writer: QPdfWriter,
    html: str,
    pictures: dict[str, QImage],
    page: int,
    footer: str,
) -> int:
    """Paint a chapter over as many pages as it takes; return the number of the last page."""
    document = QTextDocument()
    document.setDefaultFont(font(12))
    document.setDefaultStyleSheet(_STYLE.format(family=font_family()))
    document.documentLayout().setPaintDevice(writer)
    document.setDocumentMargin(0.0)
    for name, image in pictures.items():
        kind = QTextDocument.ResourceType.ImageResource.value
        document.addResource(kind, QUrl(name), image)
    frame = writer.pageLayout().paintRectPixels(_DPI)
    foot = 26.0
    size = QSizeF(frame.width(), frame.height() - foot)
    document.setHtml(_scaled_images(html, frame.width()))
    document.setPageSize(size)
    for k in range(document.pageCount()):
        if k:
            writer.newPage()
        page += 1
        painter.save()
        painter.translate(0, -k * size.height())
        clip = QRectF(0, k * size.height(), size.width(), size.height())
        document.drawContents(painter, clip)
        painter.restore()
        painter.save()
        small = font(12)
        small.setPixelSize(int(7.5 * _DPI / 72))
        painter.setFont(small)
        painter.drawText(QRectF(0, size.height() + 4, size.width(), foot), f"{footer} · {page}")
        painter.restore()
    return page


def _scaled_images(html: str, width: float) -> str:
    """Give the drawings half the width of the page each, the profiles three quarters."""
    pixel = 96 / _DPI  # the pages count lengths in pixels of a screen
    html = html.replace("width='330'", f"width='{int(width * 0.49 * pixel)}'")
    return html.replace("width='500'", f"width='{int(width * 0.74 * pixel)}'")
