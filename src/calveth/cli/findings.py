"""``calveth findings``: what the hives say, what the schools say, and what helps."""

from __future__ import annotations

import argparse
from typing import Any

from calveth.catalogue.shipped import shipped_materials
from calveth.cli.files import (
    Commands,
    add_format,
    find_design,
    month_index,
    print_csv,
    print_json,
    read_project,
)
from calveth.cli.progress import part
from calveth.core.advice.dossier import Dossier, make_dossier
from calveth.core.advice.findings import findings
from calveth.core.case import estimated_case
from calveth.store.records import remedy_record, verdict_record
from calveth.texts.findings import in_words


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("findings", help="what each hive says in a month, and what helps")
    p.add_argument("file", help="a .calveth or .json project")
    p.add_argument("--design", help="only the design with this id or name")
    p.add_argument("--month", metavar="M", help="1 to 12 (default the coldest)")
    add_format(p, ("text", "json", "csv"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print findings, verdicts and remedies."""
    project = read_project(args.file)
    month = month_index(args.month, project.place)
    chosen = [find_design(project, args.design)] if args.design else project.designs
    catalogue = {m.id: m for m in shipped_materials()}
    wholes = [
        make_dossier(
            estimated_case(project, d),
            catalogue=catalogue,
            report=part(k / len(chosen), (k + 1) / len(chosen)),
        )
        for k, d in enumerate(chosen)
    ]
    records = [_record(assessment, month) for assessment in wholes]
    if args.format == "json":
        print_json(records)
    elif args.format == "csv":
        print_csv([{"design": r["design"], **f} for r in records for f in r["findings"]])
    else:
        for record in records:
            _print(record)
    return 0


def _record(assessment: Dossier, month: int) -> dict[str, Any]:
    monthly = assessment.monthly
    sentences = [in_words(f) for f in findings(monthly, month, assessment.follow_up.depth(month))]
    return {
        "design": monthly.design.id,
        "name": monthly.design.name,
        "findings": [
            {"tone": f.tone, "text": f.text, "cause": f.cause, "helps": f.helps} for f in sentences
        ],
        "schools": [verdict_record(v) for v in assessment.follow_up.verdicts],
        "remedies": [remedy_record(r) for r in assessment.remedies],
    }


def _print(record: dict[str, Any]) -> None:
    print(f"\n{record['name']}")
    for finding in record["findings"]:
        print(f"  {finding['tone']:<5} {finding['text']}")
        if finding["cause"]:
            print(f"        because {finding['cause']}")
        if finding["helps"]:
            print(f"        helps: {finding['helps']}")
    for school in record["schools"]:
        failed = "; ".join(c["name"] for c in school["criteria"] if not c["passed"])
        print(f"  {school['school']:<24} {school['said']}{': not met: ' if failed else ''}{failed}")
    for remedy in record["remedies"]:
        print(f"  tried: {remedy['text']}: {remedy['effect']}")
