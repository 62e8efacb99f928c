"""Every table of a project, as rows of records: for a workbook or CSV files."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from calveth.core.advice.dossier import Dossier
from calveth.core.advice.findings import findings
from calveth.core.calendar import MONTH_NAMES
from calveth.core.compare.table import compare_row
from calveth.core.project import Project
from calveth.store.converter import to_document
from calveth.store.records import (
    compare_record,
    design_record,
    material_row,
    month_rows,
    verdict_record,
)
from calveth.texts.findings import in_words

Rows = list[dict[str, Any]]


def report_tables(project: Project, wholes: Sequence[Dossier], month: int) -> dict[str, Rows]:
    """Return the tables of a report by name: designs, months, layers, schools, findings, place."""
    materials = dict(project.material_table())
    used = {key for w in wholes for key in w.monthly.design.material_ids}
    return {
        "designs": [
            compare_record(compare_row(w.monthly, w.follow_up.nights, month, w.follow_up.snow))
            for w in wholes
        ],
        "months": [
            row
            for w in wholes
            for row in month_rows(design_record(w.monthly, w.follow_up.nights, materials))
        ],
        "layers": [row for w in wholes for row in _layers(w)],
        "schools": [
            {"design": w.monthly.design.id, "school": v["school"], **criterion}
            for w in wholes
            for v in map(verdict_record, w.follow_up.verdicts)
            for criterion in v["criteria"]
        ],
        "findings": [
            {
                "design": w.monthly.design.id,
                "tone": f.tone,
                "text": f.text,
                "cause": f.cause,
                "helps": f.helps,
            }
            for w in wholes
            for f in map(in_words, findings(w.monthly, month, w.follow_up.depth(month)))
        ],
        "place": [
            {"month": name, **to_document(m)}
            for name, m in zip(MONTH_NAMES, project.place.months, strict=True)
        ],
        "materials": [material_row(m) for m in project.materials if m.id in used],
    }


def _layers(resistance: Dossier) -> Rows:
    model = resistance.monthly.model
    return [
        {
            "design": model.design.id,
            "face": face,
            "layer": number,
            **to_document(layer),
            "resistance_m2k_w": round(heat.layers_m2k_w[number - 1], 4),
        }
        for face, heat in model.faces.items()
        for number, layer in enumerate(model.design.shell.stack(face), start=1)
    ]
