"""Runs all tests and closes with one plain line that counts them."""

from __future__ import annotations

import sys
import unittest
from pathlib import Path


def main(arguments: list[str]) -> int:
    """Run the named modules, or everything under tests/."""
    if arguments == ["--prepare"]:
        return 0
    root = Path(__file__).parent
    loader = unittest.TestLoader()
    if arguments:
        suite = loader.loadTestsFromNames(arguments)
    else:
        suite = loader.discover(str(root), top_level_dir=str(root.parent))
    result = unittest.TextTestRunner(verbosity=1, buffer=True).run(suite)
    failed = len(result.failures) + len(result.errors) + len(result.unexpectedSuccesses)
    passed = result.testsRun - failed - len(result.skipped)
    print(f"{passed} passed, {failed} failed, {len(result.skipped)} skipped")
    return 1 if failed or not result.testsRun else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
