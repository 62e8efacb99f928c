"""``calveth verify``: every published check, expected and computed."""

from __future__ import annotations

import argparse

from calveth.cli.files import Commands, add_format, print_json


def add_parser(commands: Commands) -> None:
    """Add the sub-command."""
    p = commands.add_parser("verify", help="hold the model against published values")
    add_format(p, ("text", "json"))
    p.set_defaults(run=run)


def run(args: argparse.Namespace) -> int:
    """Print the checks; return 1 when one fails."""
    from calveth.core.published import published_checks

    checks = published_checks()
    failed = [check for check in checks if not check.passed]
    if args.format == "json":
        print_json(
            {
                "passed": len(checks) - len(failed),
                "failed": len(failed),
                "checks": [
                    {
                        "name": check.name,
                        "unit": check.unit,
                        "expected": check.expected,
                        "computed": check.computed,
                        "deviation": check.deviation,
                        "tolerance": check.tolerance,
                        "passed": check.passed,
                        "source": check.source,
                    }
                    for check in checks
                ],
            }
        )
    else:
        for check in checks:
            print(
                f"{'ok  ' if check.passed else 'FAIL'} {check.name:<46} expected "
                f"{check.expected:.5g}, computed {check.computed:.5g} {check.unit} "
                f"(deviation {check.deviation:+.2g}, allowed {check.tolerance:.2g}) "
                f"· {check.source}"
            )
        print(f"{len(checks) - len(failed)} of {len(checks)} published checks hold")
    return 1 if failed else 0
