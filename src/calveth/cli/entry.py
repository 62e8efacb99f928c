"""The installed command: Ctrl-C while the program is still being loaded ends in a sentence too."""

from __future__ import annotations

import sys


def main() -> int:
    """Load the command line and run it."""
    try:
        from calveth.cli.main import STOPPED
        from calveth.cli.main import main as run
    except KeyboardInterrupt:
        print("\ncalveth: stopped", file=sys.stderr)
        return 130
    try:
        return run()
    except KeyboardInterrupt:
        return STOPPED


if __name__ == "__main__":
    sys.exit(main())
